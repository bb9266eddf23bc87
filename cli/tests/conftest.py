"""A profile in a file, built once for all tests of the command line, and a small picture."""

from __future__ import annotations

import numpy as np
import pytest
from PIL import Image

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart


@pytest.fixture(scope="session")
def profile_file(tmp_path_factory):
    condition = CONDITIONS[2]
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(condition.model, chart))
    rules = parse_ink_rules(condition.rules)
    result = build_profile(Characterisation(chart, xyz), rules, BuildSettings(size="small"))
    path = tmp_path_factory.mktemp("profile") / "news print.icc"
    path.write_bytes(result.data)
    return path


@pytest.fixture
def picture(tmp_path):
    y, x = np.mgrid[0:30, 0:40]
    data = np.stack([x * 6, y * 8, 255 - x * 6], axis=-1).astype(np.uint8)
    Image.fromarray(data).save(tmp_path / "in.png")
    return tmp_path / "in.png"
