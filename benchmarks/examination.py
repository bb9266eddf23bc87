"""Time of examining profiles: report, greys of four at once, beside Little CMS on the same greys."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable

import imagecodecs
import numpy as np

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.conditions import propose
from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.report import examine
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.standard_spaces import standard_profile

ROUNDS = 7


def median(work: Callable[[], object]) -> float:
    times = []
    for _ in range(ROUNDS):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return statistics.median(times) * 1000


def built(number: int) -> bytes:
    condition = CONDITIONS[number]
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(condition.model, chart))
    rules = parse_ink_rules(condition.rules)
    return build_profile(Characterisation(chart, xyz), rules, BuildSettings(size="small")).data


def main() -> None:
    files = [built(i) for i in range(4)]
    profiles = [Profile(f) for f in files]
    grey = np.repeat(np.linspace(1, 0, 201)[:, None], 3, axis=1)[None]
    srgb = standard_profile("srgb").data

    def library() -> None:
        for data in files:
            imagecodecs.cms_transform(
                grey,
                srgb,
                data,
                colorspace="rgb",
                outcolorspace="cmyk",
                outdtype="float64",
                intent=1,
            )

    for name, work in (
        ("greys of four profiles", lambda: [neutrals(p, "relative") for p in profiles]),
        ("the whole examination of one", lambda: examine(profiles[0])),
        ("examination, freshly read", lambda: examine(Profile(files[1]))),
        ("what it proposes for a condition", lambda: propose(profiles[2])),
        ("Little CMS, sRGB greys to inks only", library),
    ):
        try:
            print(f"{name:40} {median(work):8.1f} ms", flush=True)
        except Exception as error:  # noqa: BLE001 - the library may lack a format; it is said then
            print(f"{name:40} not measured: {error}", file=sys.stderr)


if __name__ == "__main__":
    main()
