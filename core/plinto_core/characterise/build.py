"""Build an output profile from characterisation data (ICC.1:2022, 8.5 and 9.2)."""

from __future__ import annotations

import json
from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats, Progress
from plinto_core.characterise.forward_model import ForwardModel, fit_forward_model
from plinto_core.characterise.report import BuildReport
from plinto_core.characterise.settings import BuildSettings
from plinto_core.characterise.tables import (
    backward_table,
    forward_table,
    gamut_table,
    pcs_nodes,
)
from plinto_core.characterise.verify import verify_profile
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadRecipe
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.mapping import LOOKS, hold_hue, map_colours
from plinto_core.icc import values
from plinto_core.icc.header import IccHeader
from plinto_core.icc.write import write_profile
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import separate
from plinto_core.measurement.cgats import format_cgats
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.transform.black_point import PERCEPTUAL_BLACK, compensation
from plinto_core.transform.link import grid_nodes

SIZES: dict[str, tuple[int, int]] = {"small": (9, 17), "medium": (17, 33), "large": (21, 45)}
"""Grid points of A2B and B2A tables per input."""


@dataclass(frozen=True)
class BuildResult:
    """The profile's bytes and what was measured of it."""

    data: bytes
    report: BuildReport


def build_profile(
    data: Characterisation,
    rules: InkRules,
    settings: BuildSettings | None = None,
    *,
    progress: Progress = lambda share: None,
) -> BuildResult:
    """A CMYK output profile with three intents, and a report of its fit and round trip."""
    settings = settings or BuildSettings()
    size_forward, size_backward = SIZES[settings.size]
    progress(0.02)
    model = fit_forward_model(data)
    progress(0.2)
    lab = model(grid_nodes(4, size_forward))
    progress(0.45)
    forward = ForwardTable(lab.reshape((size_forward,) * 4 + (3,)))
    rules = _within_reason(rules)
    tags = _tables(forward, rules, settings, size_backward, progress)
    tags = {**_head(data, settings, model, forward, rules), **tags}
    header = IccHeader(
        size=0,
        version=(4, 4, 0) if settings.version == 4 else (2, 4, 0),
        device_class="prtr",
        colour_space="CMYK",
        pcs="Lab ",
        rendering_intent=0,
    )
    bytes_ = write_profile(header, tags)
    progress(0.9)
    report = BuildReport(
        description=settings.description or data.description or "Plinto output profile",
        forward_fit=model.validation,
        notes=tuple(data.notes),
        ink_rules=rules,
        settings=settings,
        **vars(verify_profile(bytes_, rules)),
    )
    progress(1.0)
    return BuildResult(bytes_, report)


def _within_reason(rules: InkRules) -> InkRules:
    limits = rules.ink_limits()
    if limits.max() <= 0.0:
        raise BadRecipe("The ink rules leave no ink to print with.")
    return rules


def _head(
    data: Characterisation,
    settings: BuildSettings,
    model: ForwardModel,
    forward: ForwardTable,
    rules: InkRules,
) -> dict[str, bytes]:
    title = settings.description or data.description or "Plinto output profile"
    text = values.pack_mluc if settings.version == 4 else values.pack_desc
    copyright_text = values.pack_mluc if settings.version == 4 else values.pack_text
    recipe = json.dumps({"ink_rules": rules.model_dump(), "settings": settings.model_dump()})
    tags = {
        "desc": text(title),
        "cprt": copyright_text(settings.copyright),
        "wtpt": values.pack_xyz(data.paper),
        "targ": values.pack_text(_target(data, recipe)),
    }
    if settings.version == 2:
        lightness = forward.darkest(rules)
        black = Lab_to_XYZ(np.array([lightness, 0.0, 0.0]))
        tags["bkpt"] = values.pack_xyz(black)
    return tags


def _target(data: Characterisation, recipe: str) -> str:
    fields = ["SAMPLE_ID", "CMYK_C", "CMYK_M", "CMYK_Y", "CMYK_K", "LAB_L", "LAB_A", "LAB_B"]
    rows = [
        [str(i + 1), *(f"{v * 100:.6g}" for v in d), *(f"{v:.3f}" for v in lab)]
        for i, (d, lab) in enumerate(zip(data.device, data.lab, strict=True))
    ]
    return format_cgats(
        {"ORIGINATOR": "Plinto", "PLINTO_BUILD": recipe.replace('"', "'")}, fields, rows
    )


def _perceptual_black(lab: Floats, lowest: float) -> Floats:
    """Lab of the medium with its black moved to that of the reference medium (v4)."""
    black = Lab_to_XYZ(np.array([lowest, 0.0, 0.0]))
    scale, offset = compensation(black, PERCEPTUAL_BLACK)
    return XYZ_to_Lab(Lab_to_XYZ(lab) * scale + offset)


def _tables(
    forward: ForwardTable,
    rules: InkRules,
    settings: BuildSettings,
    size: int,
    progress: Progress,
) -> dict[str, bytes]:
    nodes, curves = pcs_nodes(size)
    boundary = GamutBoundary.of_body(forward.body(rules))
    relative = separate(forward, hold_hue(nodes, boundary), rules)
    progress(0.6)
    a2b1 = forward_table(forward.lab)
    tags = {"A2B0": a2b1, "A2B1": a2b1, "A2B2": a2b1}
    v4 = settings.version == 4
    if v4:
        perceptual = _perceptual_black(forward.lab.reshape(-1, 3), boundary.lowest)
        tags["A2B0"] = tags["A2B2"] = forward_table(perceptual.reshape(forward.lab.shape))
    for tag, look in (("B2A0", "perceptual"), ("B2A2", "saturation")):
        source = _from_reference_medium(nodes) if v4 else nodes
        aims = map_colours(source, boundary, LOOKS[look])
        tags[tag] = backward_table(separate(forward, aims, rules).inks, size, curves)
        progress(0.7 if tag == "B2A0" else 0.8)
    tags["B2A1"] = backward_table(relative.inks, size, curves)
    tags["gamt"] = gamut_table(relative.missed, size, curves)
    order = ("A2B0", "B2A0", "A2B1", "B2A1", "A2B2", "B2A2", "gamt")
    return {tag: tags[tag] for tag in order}


def _from_reference_medium(lab: Floats) -> Floats:
    """Lab with the reference medium's black (L* 3.1) moved to L* 0 (v4 perceptual)."""
    scale, offset = compensation(PERCEPTUAL_BLACK, np.zeros(3))
    return XYZ_to_Lab(Lab_to_XYZ(lab) * scale + offset)
