"""Build an output profile from characterisation data (ICC.1:2022, 8.5 and 9.2).

Four process inks have the spline model and a table of their own. Other ink sets and devices that take
RGB go by the same steps with a table of mixtures (inks/mixing.py): RGB is taken as three amounts, what
each channel lacks to white.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import UTC, date, datetime
from functools import partial

import numpy as np

from plinto_core.arrays import Floats, Progress
from plinto_core.characterise.fitting import ROOM, fit_inks, fit_mapped_inks
from plinto_core.characterise.forward_model import ForwardModel, fit_forward_model
from plinto_core.characterise.misread import misread, without
from plinto_core.characterise.neugebauer import Neugebauer, fit_neugebauer
from plinto_core.characterise.report import BuildReport
from plinto_core.characterise.settings import BuildSettings
from plinto_core.characterise.tables import (
    Grid,
    backward_table,
    forward_table,
    gamut_table,
    roomy_table,
)
from plinto_core.characterise.verify import verify_profile
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadRecipe
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.mapping import LOOKS, MappingLook, clip_colours, fit_lightness, map_colours
from plinto_core.icc import values
from plinto_core.icc.colorants import long_name, pack_clrt
from plinto_core.icc.header import IccHeader
from plinto_core.icc.write import write_profile
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.ink_set import InkSet
from plinto_core.inks.mixing import MixTable
from plinto_core.inks.rules import INKS, InkRules
from plinto_core.inks.separation import separate
from plinto_core.measurement.characterisation import (
    RGB,
    Characterisation,
    format_characterisation,
)
from plinto_core.transform.black_point import PERCEPTUAL_BLACK, compensation
from plinto_core.transform.encoding import lab_to_unit
from plinto_core.transform.link import grid_nodes
from plinto_core.words import say

SIZES: dict[str, tuple[int, int]] = {"small": (9, 25), "medium": (17, 33), "large": (21, 45)}
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
    """An output profile with three intents for 1 to 8 inks or RGB, and a report of its fit and round
    trip."""
    settings = settings or BuildSettings()
    if settings.built is None:
        settings = settings.model_copy(update={"built": datetime.now(UTC).date()})
    size_forward, size_backward = SIZES[settings.size]
    rules = _within_reason(rules, data)
    progress(0.02)
    wrong = misread(data)
    if not settings.use_all:
        data = without(data, wrong)
    progress(0.08)
    model: ForwardModel | Neugebauer
    model = fit_forward_model(data) if data.inks < 5 else fit_neugebauer(data)
    progress(0.2)
    forward: ForwardTable | MixTable
    if data.names == INKS:
        lab = model(grid_nodes(4, size_forward))
        forward = ForwardTable(lab.reshape((size_forward,) * 4 + (3,)))
    else:
        ramps = np.stack([model(np.linspace(0, 1, 65)[:, None] * u) for u in np.eye(data.inks)])
        forward = MixTable.of_function(InkSet.of_ramps(data.names, ramps), model)
    progress(0.45)
    tags = _tables(forward, rules, settings, size_backward, data.takes_rgb, progress)
    tags = {**_head(data, settings, model, forward, rules), **tags}
    header = IccHeader(
        size=0,
        version=(4, 4, 0) if settings.version == 4 else (2, 4, 0),
        device_class="prtr",
        colour_space=_space(data.names),
        pcs="Lab ",
        created=_midnight(settings.built),
        rendering_intent=0,
    )
    bytes_ = write_profile(header, tags)
    progress(0.9)
    report = BuildReport(
        description=settings.description or data.description or "Plinto output profile",
        forward_fit=model.validation,
        notes=tuple(data.notes),
        misread=wrong,
        ink_rules=rules,
        settings=settings,
        **vars(verify_profile(bytes_, rules)),
    )
    progress(1.0)
    return BuildResult(bytes_, report)


def _midnight(day: date | None) -> tuple[int, int, int, int, int, int]:
    assert day is not None
    return day.year, day.month, day.day, 0, 0, 0


def _space(names: tuple[str, ...]) -> str:
    """The colour space signature of a profile with channels of these names."""
    if names in (INKS, RGB):
        return "CMYK" if names == INKS else "RGB "
    return f"{len(names):X}CLR"


def _within_reason(rules: InkRules, data: Characterisation) -> InkRules:
    if data.takes_rgb:
        # The device has its own inks; nothing is known of their totals.
        return InkRules(name=rules.name, tac=1500)
    unknown = [n for n in rules.limits if n not in data.names]
    if unknown:
        raise BadRecipe(say("characterise.ink-unknown", ink=unknown[0], names=list(data.names)))
    if rules.ink_limits(data.names).max() <= 0.0:
        raise BadRecipe(say("characterise.no-ink-left"))
    return rules


def _head(
    data: Characterisation,
    settings: BuildSettings,
    model: ForwardModel | Neugebauer,
    forward: ForwardTable | MixTable,
    rules: InkRules,
) -> dict[str, bytes]:
    title = settings.description or data.description or "Plinto output profile"
    text = values.pack_mluc if settings.version == 4 else values.pack_desc
    copyright_text = values.pack_mluc if settings.version == 4 else values.pack_text
    asked = {"ink_rules": rules, "settings": settings}
    recipe = json.dumps({key: model.model_dump(mode="json") for key, model in asked.items()})
    tags = {
        "desc": text(title),
        "cprt": copyright_text(settings.copyright),
        "wtpt": values.pack_xyz(data.paper),
        "targ": values.pack_text(_target(data, recipe)),
    }
    if _space(data.names).endswith("CLR"):
        solids = np.array([c.solid for c in forward.ink_set.channels])  # type: ignore[union-attr]
        unit = lab_to_unit(solids, legacy=settings.version == 2)
        tags["clrt"] = pack_clrt([long_name(n) for n in data.names], unit)
    if settings.version == 2:
        lightness = forward.darkest(rules)
        black = Lab_to_XYZ(np.array([lightness, 0.0, 0.0]))
        tags["bkpt"] = values.pack_xyz(black)
    return tags


def _target(data: Characterisation, recipe: str) -> str:
    head = {"ORIGINATOR": "Plinto", "PLINTO_BUILD": recipe.replace('"', "'")}
    return format_characterisation(data, head)


def _perceptual_black(lab: Floats, lowest: float) -> Floats:
    """Lab of the medium with its black moved to that of the reference medium (v4)."""
    black = Lab_to_XYZ(np.array([lowest, 0.0, 0.0]))
    scale, offset = compensation(black, PERCEPTUAL_BLACK)
    return XYZ_to_Lab(Lab_to_XYZ(lab) * scale + offset)


def _tables(
    forward: ForwardTable | MixTable,
    rules: InkRules,
    settings: BuildSettings,
    size: int,
    takes_rgb: bool,
    progress: Progress,
) -> dict[str, bytes]:
    grid = Grid(size)
    nodes = grid.nodes
    limits = rules.ink_limits()
    body = forward.body(rules)
    # One or two inks print a line or a sheet of colours: there is no body to map into.
    boundary = GamutBoundary.of_body(body) if _is_body(forward, body) else None
    lowest = forward.darkest(rules) if boundary is None else boundary.lowest
    exact = None if boundary is None else GamutBoundary.of_body(body, rounded=False)
    clipped = nodes if exact is None else clip_colours(nodes, exact)
    relative = separate(forward, clipped, rules)
    progress(0.6)
    a2b1 = _a2b(forward, forward.lab, takes_rgb)
    tags = {"A2B0": a2b1, "A2B1": a2b1, "A2B2": a2b1}
    v4 = settings.version == 4
    if v4:
        perceptual = _perceptual_black(forward.lab.reshape(-1, 3), lowest)
        tags["A2B0"] = tags["A2B2"] = _a2b(
            forward, perceptual.reshape(forward.lab.shape), takes_rgb
        )
    for tag, look in (("B2A0", settings.perceptual.look), ("B2A2", LOOKS["saturation"])):
        aims_of = partial(_mapped, boundary=boundary, lowest=lowest, look=look, v4=v4)
        aims = aims_of(nodes)
        inks = separate(forward, aims, rules).inks
        if isinstance(forward, ForwardTable):
            inks = fit_mapped_inks(forward, rules, grid, inks, aims, aims_of)
            tags[tag] = roomy_table(inks, grid, limits, ROOM)
        else:
            tags[tag] = _b2a(inks, grid, takes_rgb)
        progress(0.7 if tag == "B2A0" else 0.8)
    if isinstance(forward, ForwardTable):
        fitted = fit_inks(forward, rules, grid, relative.inks)
        tags["B2A1"] = roomy_table(fitted, grid, limits, ROOM)
    else:
        tags["B2A1"] = _b2a(relative.inks, grid, takes_rgb)
    tags["gamt"] = gamut_table(delta_e_2000(nodes, forward.lab_of(relative.inks)), grid)
    order = ("A2B0", "B2A0", "A2B1", "B2A1", "A2B2", "B2A2", "gamt")
    return {tag: tags[tag] for tag in order}


def _mapped(
    lab: Floats, *, boundary: GamutBoundary | None, lowest: float, look: MappingLook, v4: bool
) -> Floats:
    """(n, 3) Lab of the source to what is to be printed."""
    source = _from_reference_medium(lab) if v4 else lab
    if boundary is not None:
        return map_colours(source, boundary, look)
    aims = np.array(source)
    aims[:, 0] = fit_lightness(source[:, 0], lowest, look.contrast)
    return aims


def _is_body(forward: ForwardTable | MixTable, body: GamutBody) -> bool:
    return isinstance(forward, ForwardTable) or (forward.inks > 2 and body.holds_centre)


def _a2b(forward: ForwardTable | MixTable, lab: Floats, takes_rgb: bool) -> bytes:
    """lab : as forward.lab, (…, 3)."""
    if isinstance(forward, ForwardTable):
        return forward_table(lab)
    axes = forward.axes
    if takes_rgb:
        lab, axes = lab[::-1, ::-1, ::-1], 1.0 - axes[:, ::-1]
    return forward_table(lab, axes)


def _b2a(inks: Floats, grid: Grid, takes_rgb: bool) -> bytes:
    return backward_table(1.0 - inks if takes_rgb else inks, grid)


def _from_reference_medium(lab: Floats) -> Floats:
    """Lab with the reference medium's black (L* 3.1) moved to L* 0 (v4 perceptual)."""
    scale, offset = compensation(PERCEPTUAL_BLACK, np.zeros(3))
    return XYZ_to_Lab(Lab_to_XYZ(lab) * scale + offset)
