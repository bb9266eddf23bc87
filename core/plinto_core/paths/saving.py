"""A path saved as one table: a device link, an abstract profile, a baked profile, a .cube table."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, get_args

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.colorimetry.difference import Differences, delta_e_2000, in_figures
from plinto_core.errors import BadInput
from plinto_core.fields import Part
from plinto_core.gamut.outside import THRESHOLD, gamut_distance
from plinto_core.icc import values as tags
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.header import IccHeader
from plinto_core.icc.metadata import pack_dictionary, pack_sequence
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import CHANNELS, is_subtractive
from plinto_core.icc.tables import Table, pack_mft2, parse_mft
from plinto_core.icc.write import write_profile
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.mixing import MixTable
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import hold_total
from plinto_core.paths.follow import View, follow, reader_of
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.cube import format_cube, parse_cube
from plinto_core.transform.direct import run_abstract, run_link
from plinto_core.transform.encoding import lab_to_unit, unit_to_lab
from plinto_core.transform.link import Function, grid_nodes, probes
from plinto_core.transform.path import NumbersStep, Step, settled
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.table import run_table
from plinto_core.words import say

SavedKind = Literal["link", "abstract", "baked", "cube"]
SAVED_KINDS: tuple[SavedKind, ...] = get_args(SavedKind)
GRIDS: dict[int, tuple[int, ...]] = {
    1: (255,),
    3: (17, 25, 33, 49, 65),
    4: (9, 13, 17, 25),
    5: (7, 9),
    6: (5, 6),
}
"""Nodes a side that can be asked for, by inputs."""
_USUAL = {1: 255, 3: 33, 4: 17, 5: 7, 6: 5}
SUFFIXES: dict[SavedKind, str] = {
    "link": ".icc",
    "abstract": ".icc",
    "baked": ".icc",
    "cube": ".cube",
}
_BLACK = 3
_STRAIGHT = SampledCurve(np.array([0.0, 1.0]))


class SavingOptions(BaseModel):
    """How a path is saved. grid : nodes a side, None for the usual; title : the profile's description;
    keep_black : CMYK with black ink alone stays black alone; keep_inks : and every ink alone stays that
    ink alone; tac : percent that the inks may come to, None for what the path gives."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    kind: SavedKind = "link"
    grid: int | None = None
    title: str = Field("", max_length=200)
    keep_black: bool = False
    keep_inks: bool = False
    tac: float | None = Field(None, ge=50, le=1500)


class SavedReport(Part):
    """What was made, and how far it is from the path, measured on the finished file.

    sentence : what it is; unit : of the differences, dE00 or percent of the numbers where nothing says which
    colours they are; inside : over colours that the last profile prints, None where that is not known;
    everywhere : over all of them; kept and held colours are measured against what they are to be; tac :
    the greatest total in percent, None without inks.
    """

    kind: SavedKind
    sentence: str
    grid: int
    unit: Literal["dE00", "%"]
    inside: Differences | None
    everywhere: Differences
    tac: float | None


def save_path(
    steps: Sequence[Step], options: SavingOptions, view: View = "paper"
) -> tuple[bytes, SavedReport]:
    """The bytes of a file and what it is.

    view : for what is baked, whether the medium's white is shown. Raises BadInput where the ends of the
    path do not make what is asked for.
    """
    walked = settled(steps)
    first, last = walked[0], walked[-1]
    _judge(first, last, options)
    inputs = CHANNELS[first.space_in]
    size = _size(inputs, options.grid)
    make = _Function(walked, options, view)
    nodes = make(grid_nodes(inputs, size))
    probed = _Probed(make)
    if options.kind == "cube":
        grid = nodes.reshape(size, size, size, 3)
        data = format_cube(options.title or "Plinto", grid).encode()
    else:
        error = probed.error(_table_evaluator(nodes, size, make))
        data = _profile(walked, options, make, nodes, size, error)
    return data, _report(walked, options, probed, data, size)


def _judge(first: Step, last: Step, options: SavingOptions) -> None:
    ends = (first.space_in, last.space)
    said = f"This path leads from {ends[0].strip()} to {ends[1].strip()}"
    if first.kind == "nmcl":
        raise BadInput(say("paths.named-no-table"))
    if options.kind == "abstract" and ends != ("Lab ", "Lab "):
        raise BadInput(say("paths.abstract-ends", ends=said))
    if options.kind == "link" and ends == ("Lab ", "Lab "):
        raise BadInput(say("paths.both-ends-lab"))
    if options.kind == "cube" and ends != ("RGB ", "RGB "):
        raise BadInput(say("paths.cube-ends", ends=said))
    if options.kind == "baked" and first.space_in == "Lab ":
        raise BadInput(say("paths.baked-start"))
    four = ends == ("CMYK", "CMYK") and options.kind == "link"
    if (options.keep_black or options.keep_inks) and not four:
        raise BadInput(say("paths.pure-inks"))
    if options.tac is not None and not (options.kind == "link" and is_subtractive(last.space)):
        raise BadInput(say("paths.total-without-inks"))


def _size(inputs: int, wanted: int | None) -> int:
    if inputs not in GRIDS:
        raise BadInput(say("paths.table-channels", channels=inputs))
    if wanted is None:
        return _USUAL[inputs]
    if wanted not in GRIDS[inputs]:
        offered = ", ".join(str(n) for n in GRIDS[inputs])
        raise BadInput(say("paths.table-nodes", channels=inputs, nodes=offered))
    return wanted


class _Function:
    """(n, inputs) encoded 0..1 to (n, outputs) encoded 0..1, with what is kept and held."""

    def __init__(self, steps: list[Step], options: SavingOptions, view: View) -> None:
        self.steps, self.options, self.view = steps, options, view
        self.first, self.last = steps[0], steps[-1]
        self.to_lab = options.kind == "baked" or self.last.space == "Lab "
        self.reader = reader_of(steps, len(steps) - 1)
        self.press: ForwardTable | MixTable | None = None
        if options.tac is not None and self.reader is not None:
            four = self.reader.colour_space == "CMYK"
            self.press = (ForwardTable if four else MixTable).of_profile(self.reader)
        if options.keep_black or options.keep_inks:
            if self.reader is None:
                raise BadInput(say("paths.end-unseen"))
            self._ramps = self._kept_ramps(self.reader)

    def given(self, unit: Floats) -> Floats:
        """People's units of encoded input values."""
        if self.first.space_in == "Lab ":
            return unit_to_lab(unit, legacy=True)
        return unit * (100.0 if is_subtractive(self.first.space_in) else 255.0)

    def chain(self, unit: Floats) -> Floats:
        """Encoded output values of the path alone."""
        found = follow(self.steps, self.given(unit), self.view)
        if self.to_lab:
            lab = (
                found.values[-1]
                if self.last.space == "Lab "
                else found.colours(len(self.steps) - 1)
            )
            return np.asarray(np.clip(lab_to_unit(lab, legacy=True), 0.0, 1.0))
        return found.values[-1] / (100.0 if is_subtractive(self.last.space) else 255.0)

    def __call__(self, unit: Floats, *, held: bool = True) -> Floats:
        """Encoded output values; not `held`, with more ink than the total that is asked for."""
        out = self.chain(unit)
        options = self.options
        if options.keep_black or options.keep_inks:
            inks = range(4) if options.keep_inks else (_BLACK,)
            for ink in inks:
                alone = (np.delete(unit, ink, axis=1) <= 0).all(axis=1)
                out[alone] = 0.0
                out[alone, ink] = np.interp(
                    unit[alone, ink], np.linspace(0, 1, self._ramps.shape[1]), self._ramps[ink]
                )
        return self._within(out) if held else out

    def _within(self, inks: Floats) -> Floats:
        """Inks no more than the total that is asked for, in the colours that they print."""
        tac = self.options.tac
        if tac is None:
            return inks
        if self.press is None:
            return _lowered(inks, tac / 100)
        return hold_total(self.press, np.clip(inks, 0.0, 1.0), InkRules(tac=tac))

    def _kept_ramps(self, reader: Profile) -> Floats:
        """(4, 256) tone values that an ink alone prints at, by lightness nearest to what the path makes
        of it; bare and solid stay bare and solid, and tones never fall."""
        tones = np.linspace(0.0, 1.0, 256)
        ramps = np.empty((4, tones.size))
        for ink in range(4):
            alone = np.zeros((tones.size, 4))
            alone[:, ink] = tones
            wanted = lab_of_device(reader, self.chain(alone))
            own = lab_of_device(reader, alone)
            # Along an ink's own ramp the distance from paper grows steadily, in yellow as well.
            far = np.maximum.accumulate(np.linalg.norm(own - own[0], axis=1))
            aim = np.linalg.norm(wanted - wanted[0], axis=1)
            ramp = np.maximum.accumulate(np.interp(aim, far, tones))
            ramps[ink] = np.clip(ramp, 0.0, 1.0)
            ramps[ink, 0], ramps[ink, -1] = 0.0, 1.0
        return ramps


def _lowered(inks: Floats, tac: float) -> Floats:
    """Inks of a press nobody knows whose total is no more than tac (1 = 100 %), black kept and the others
    lowered alike."""
    total = inks.sum(axis=1)
    over = total > tac
    if not over.any():
        return inks
    out = inks.copy()
    black = out[over, _BLACK : _BLACK + 1] if inks.shape[1] == 4 else np.zeros((int(over.sum()), 1))
    black = np.minimum(black, tac)
    rest = total[over, None] - (inks[over, _BLACK : _BLACK + 1] if inks.shape[1] == 4 else 0.0)
    share = np.clip((tac - black) / np.maximum(rest, 1e-9), 0.0, 1.0)
    out[over] = out[over] * share
    if inks.shape[1] == 4:
        out[over, _BLACK : _BLACK + 1] = black
    return out


Error = tuple[Differences | None, Differences, Literal["dE00", "%"]]
"""Inside the last gamut, everywhere, and the unit."""


class _Probed:
    """What a table is measured at: values, what the function makes of them, and which lie in the gamut."""

    def __init__(self, make: _Function) -> None:
        inputs = CHANNELS[make.first.space_in]
        if inputs in (3, 4):
            self.unit = np.concatenate(list(probes(inputs).values()))
        else:
            self.unit = np.random.default_rng(20).random((4096, inputs))
        # What a total costs in colour is a part of the error.
        self.make, self.wanted = make, make(self.unit, held=False)
        self.inside = _inside(make, self.unit)

    def error(self, table: Function) -> Error:
        """How far a table is from the function."""
        make, found = self.make, table(self.unit)
        if make.to_lab:
            colours = [unit_to_lab(v, legacy=True) for v in (self.wanted, found)]
        elif make.reader is not None:
            colours = [lab_of_device(make.reader, v) for v in (self.wanted, found)]
        else:
            return None, in_figures(np.abs(self.wanted - found).max(axis=1) * 100), "%"
        errors = delta_e_2000(*colours)
        inside = self.inside
        known = inside is not None and inside.any()
        return (in_figures(errors[inside]) if known else None), in_figures(errors), "dE00"


def _inside(make: _Function, unit: Floats) -> np.ndarray | None:
    """Which values stand for colours that the last profile prints, None where that cannot be asked."""
    start = follow(make.steps[:2], make.given(unit)).lab[0]
    if start is None or make.reader is None or make.reader.channels < 3:
        return None
    return np.asarray(gamut_distance(make.reader, start) <= THRESHOLD)


def _table_evaluator(nodes: Floats, size: int, make: _Function) -> Function:
    table = _table(nodes, size, CHANNELS[make.first.space_in])
    space_in = make.first.space_in
    kept = parse_mft(pack_mft2(table))
    return lambda unit: run_table(kept, unit, tetrahedral=space_in != "Lab ")


def _table(nodes: Floats, size: int, inputs: int) -> Table:
    outputs = nodes.shape[1]
    clut = nodes.reshape(*(size,) * inputs, outputs)
    return Table(
        "mft2", inputs, outputs, (_STRAIGHT,) * inputs, clut, (), None, (_STRAIGHT,) * outputs
    )


def _profile(
    steps: list[Step],
    options: SavingOptions,
    make: _Function,
    nodes: Floats,
    size: int,
    error: Error,
) -> bytes:
    first, last = steps[0], steps[-1]
    kind = {"link": "link", "abstract": "abst", "baked": "scnr"}[options.kind]
    inside, everywhere, unit = error
    said = inside or everywhere
    figures = f"mean {said.mean:.3f}, 99 % {said.p99:.3f}, greatest {said.max:.3f} {unit}" + (
        " in gamut" if inside else ""
    )
    header = IccHeader(
        size=0,
        version=(4, 4, 0),
        device_class=kind,
        colour_space=first.space_in,
        pcs="Lab " if make.to_lab else last.space,
        rendering_intent=("perceptual", "relative", "saturation", "absolute").index(last.intent),
    )
    title = options.title or " to ".join(dict.fromkeys(_called(s) for s in steps))
    held = {
        "desc": tags.pack_mluc(title[:200]),
        "cprt": tags.pack_mluc("Made with Plinto from the profiles it names"),
        "A2B0": pack_mft2(_table(nodes, size, CHANNELS[first.space_in])),
        "meta": pack_dictionary(
            {"PlintoSteps": "; ".join(_called(s) for s in steps), "PlintoError": figures}
        ),
    }
    if kind == "link":
        held["pseq"] = pack_sequence([p for p in map(_own, steps) if p is not None])
    else:
        held["wtpt"] = tags.pack_xyz(D50)
    return write_profile(header, held)


def _own(step: Step) -> Profile | None:
    return (step.gives or step.takes) if isinstance(step, NumbersStep) else step.profile


def _called(step: Step) -> str:
    profile = _own(step)
    if isinstance(step, NumbersStep):
        return step.name
    return "Lab" if profile is None else profile.description


def _report(
    steps: list[Step], options: SavingOptions, probed: _Probed, data: bytes, size: int
) -> SavedReport:
    """Figures of the finished file as it is read again."""
    inputs = CHANNELS[steps[0].space_in]
    table = _read_again(options.kind, data)
    inside, everywhere, unit = probed.error(table)
    tac = None
    if not probed.make.to_lab and is_subtractive(steps[-1].space):
        rng = np.random.default_rng(3)
        corners = grid_nodes(inputs, 5 if inputs < 5 else 3)
        reached = table(np.concatenate([rng.random((20_000, inputs)), corners]))
        tac = round(float(reached.sum(axis=1).max()) * 100, 1)
    return SavedReport(
        kind=options.kind,
        sentence=sentence(steps, options),
        grid=size,
        unit=unit,
        inside=inside,
        everywhere=everywhere,
        tac=tac,
    )


def _read_again(kind: SavedKind, data: bytes) -> Function:
    """(n, inputs) encoded to (n, outputs) encoded, through the file itself."""
    if kind == "cube":
        return parse_cube(data).apply
    profile = Profile(data)
    if kind == "abstract":
        return lambda unit: lab_to_unit(
            run_abstract(profile, unit_to_lab(unit, legacy=True)), legacy=True
        )
    if kind == "baked":
        return lambda unit: lab_to_unit(XYZ_to_Lab(device_to_xyz(profile, unit, 0)), legacy=True)

    def through(unit: Floats) -> Floats:
        given = unit_to_lab(unit, legacy=True) if profile.colour_space == "Lab " else unit
        out = run_link(profile, given)
        return lab_to_unit(out, legacy=True) if profile.header.pcs == "Lab " else out

    return through


def sentence(steps: Sequence[Step], options: SavingOptions) -> str:
    """What will be made, in one sentence."""
    first, last = steps[0], steps[-1]
    ends = f"{first.space_in.strip()} numbers of {_called(first)}"
    if options.kind == "abstract":
        return "An abstract profile: colours in, colours out, between any two devices."
    if options.kind == "baked":
        return f"A profile that shows {ends} as this path makes them look, where no soft proof is to be had."
    if options.kind == "cube":
        return f"A .cube table: {ends} to RGB numbers of {_called(last)}."
    more = []
    if options.keep_black:
        more.append("black alone stays black alone")
    if options.keep_inks:
        more.append("every ink alone stays alone")
    if options.tac is not None:
        more.append(f"no more than {options.tac:g} % of ink")
    return f"A device link: {ends} straight to {last.space.strip()} numbers of {_called(last)}" + (
        f"; {', '.join(more)}." if more else "."
    )
