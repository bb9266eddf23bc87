"""Aims of a print as numbers: paper, solids, overprints, tone value increase, how far they may be missed.

Standards and customers name them; none are shipped. They are typed, or taken from characterisation
data or from another profile.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterable
from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, ValidationError, field_validator

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.examination.reach import solid_lab
from plinto_core.examination.tones import InkTones, ink_tones, printed_tones
from plinto_core.fields import why
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names
from plinto_core.measurement.cgats import decode
from plinto_core.measurement.characterisation import Characterisation, characterisation_from_text
from plinto_core.words import say

MOST_ROWS = 2000
_LONGEST = 40
_AT = tuple(range(10, 100, 10))
"""Tone values at which a profile's increase is taken as an aim, percent."""
_NAMES = {
    **dict.fromkeys(("paper", "white", "substrate", "medium", "media", "unprinted"), "paper"),
    "cyan": "C",
    "magenta": "M",
    "yellow": "Y",
    "black": "K",
    "key": "K",
}
_SEPARATORS = re.compile(r"[;\t]|\s*,\s*|\s+")
_NEAR = 0.002
"""Tone value to which device values of measured patches count as equal."""

Lightness = Annotated[float, Field(ge=0, le=110)]
Opponent = Annotated[float, Field(ge=-200, le=200)]
Lab = tuple[Lightness, Opponent, Opponent]
Tone = tuple[
    Annotated[float, Field(gt=0, lt=100)],
    Annotated[float, Field(ge=-60, le=60)],
]
Named = Annotated[str, Field(min_length=1, max_length=_LONGEST, pattern=r"^[^#\s][^\t\r\n;]*$")]
"""A colour or an ink, as a row can begin with it."""
Distance = Annotated[float, Field(gt=0, le=50)]


class Tolerances(BaseModel):
    """How far an aim may be missed: dE00 of paper, solids, overprints; points of tone value increase.

    None : not judged.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    paper: Distance | None = None
    solids: Distance | None = None
    overprints: Distance | None = None
    tones: Distance | None = None


class Aim(BaseModel):
    """Aims under a name.

    source : where the numbers are from; colours : absolute Lab (D50) by name, "paper", one ink ("C") or
    the inks of an overprint ("MY"); tones : by ink, tone values of the file in percent with the increase
    in points that they print with.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    kind: Literal["aim"] = "aim"
    version: Literal[1] = 1
    name: str = Field(min_length=1, max_length=100)
    source: str = Field("", max_length=300)
    colours: dict[Named, Lab] = Field(default_factory=dict, max_length=MOST_ROWS)
    tones: dict[Named, Annotated[list[Tone], Field(max_length=MOST_ROWS)]] = Field(
        default_factory=dict, max_length=16
    )
    tolerances: Tolerances = Tolerances()

    @field_validator("name", mode="before")
    @classmethod
    def _one_line(cls, name: object) -> object:
        return " ".join(name.split()) if isinstance(name, str) else name


class AimColour(BaseModel):
    """A colour beside its aim. Absolute Lab; holds : None where no tolerance is set."""

    model_config = ConfigDict(frozen=True)

    name: str
    aim: tuple[float, float, float]
    printed: tuple[float, float, float]
    de00: float
    tolerance: float | None
    holds: bool | None


class AimTone(BaseModel):
    """One tone of an ink beside its aim. Percent, increases in points; missed : printed less aim."""

    model_config = ConfigDict(frozen=True)

    ink: str
    at: float
    aim: float
    printed: float
    missed: float
    tolerance: float | None
    holds: bool | None


class AimDifference(BaseModel):
    """A profile against an aim. solids : dE00 by colour; increase_50 : points missed at 50 % by ink;
    holds : whether all that is judged holds, None where nothing is; left : aims that the profile has
    no colour or ink for."""

    model_config = ConfigDict(frozen=True)

    name: str
    source: str = ""
    solids: dict[str, float]
    increase_50: dict[str, float]
    colours: list[AimColour] = []
    tones: list[AimTone] = []
    holds: bool | None = None
    left: list[str] = []


def aim_of_rows(name: str, text: str, source: str = "", tolerances: object = Tolerances()) -> Aim:
    """An aim from rows: a name with L*, a*, b*, or an ink with a tone value and its increase.

    Separated by blanks, commas, semicolons or tabs (decimal commas beside the last two); rows that begin
    with # are passed over. tolerances : Tolerances or their JSON. Raises BadInput with the row at fault.
    """
    colours: dict[str, tuple[float, ...]] = {}
    tones: dict[str, list[tuple[float, ...]]] = {}
    rows = [r.strip() for r in text.splitlines()]
    for number, row in enumerate(rows, 1):
        if not row or row.startswith("#"):
            continue
        words, figures = _cells(row)
        if not words or len(figures) not in (2, 3):
            raise BadInput(say("examination.aim-row", number=number, row=row[:60]))
        key = colour_name(" ".join(words))
        if len(figures) == 2:
            tones.setdefault(key, []).append(tuple(figures))
        elif key in colours:
            raise BadInput(say("examination.aim-row-twice", number=number, key=key))
        else:
            colours[key] = tuple(figures)
    if not colours and not tones:
        raise BadInput(say("examination.aim-empty"))
    return _checked(
        {"name": name, "source": source, "colours": colours, "tones": tones,
         "tolerances": tolerances}
    )  # fmt: skip


def aim_rows(aim: Aim) -> str:
    """The rows of an aim, as `aim_of_rows` reads them."""
    rows = [[n, *lab] for n, lab in aim.colours.items()]
    rows += [[ink, *tone] for ink, tones in aim.tones.items() for tone in tones]
    return "\n".join("\t".join([str(n), *(f"{v:g}" for v in values)]) for n, *values in rows)


def aim_of_profile(profile: Profile) -> Aim:
    """What a profile prints, as an aim: solids, overprints, and the increase every ten percent."""
    tones = {
        t.name: [(float(at), round(_increase(t, at), 2)) for at in _AT] for t in ink_tones(profile)
    }
    name = " ".join(profile.description.split())[:100] or "A profile"
    return Aim.model_construct(
        name=name, source="", colours=solid_lab(profile), tones=tones, tolerances=Tolerances()
    )


def aim_of_data(data: Characterisation, name: str, source: str = "") -> Aim:
    """Paper, solids, overprints and single-ink tones of CMYK characterisation data (ISO 12642).

    The increase is that of one tristimulus value (Murray-Davies), as for profiles. Raises BadInput where
    the data have neither paper nor a solid.
    """
    inks = channel_names("CMYK")
    colours: dict[str, tuple[float, ...]] = {}
    wanted = {"paper": (), **{n: (n,) for n in inks}, "MY": ("M", "Y"), "CY": ("C", "Y"),
              "CM": ("C", "M"), "CMY": ("C", "M", "Y")}  # fmt: skip
    for key, on in wanted.items():
        found = _row(data, np.array([1.0 if n in on else 0.0 for n in inks]))
        if found is not None:
            colours[key] = tuple(round(float(v), 2) for v in data.lab[found])
    tones: dict[str, list[tuple[float, ...]]] = {}
    for i, ink in enumerate(inks):
        alone = np.abs(np.delete(data.device, i, axis=1)).max(axis=1) < _NEAR
        asked, xyz = data.device[alone, i], data.xyz[alone]
        order = np.argsort(asked)
        asked, xyz = asked[order], xyz[order]
        if asked.size < 3 or asked[0] > _NEAR or asked[-1] < 1 - _NEAR:
            continue
        more = (printed_tones(ink, xyz, asked) - asked) * 100
        tones[ink] = [
            (round(float(a) * 100, 2), round(float(m), 2))
            for a, m in zip(asked[1:-1], more[1:-1], strict=True)
        ]
    if not colours:
        raise BadInput(say("examination.aim-no-solids"))
    return _checked({"name": name, "source": source, "colours": colours, "tones": tones})


def read_aim(data: bytes, file_name: str = "") -> Aim:
    """An aim from a file: one that Plinto wrote (JSON), CMYK characterisation data, or rows of text.

    Raises BadInput or BadMeasurement with the reason.
    """
    stem = " ".join(file_name.rsplit("/", 1)[-1].rsplit(".", 1)[0].split())[:100] or "Aim"
    if data.lstrip()[:1] == b"{":
        return parse_aim(data)
    text = decode(data)
    if "BEGIN_DATA_FORMAT" in text:
        measured = characterisation_from_text(text)
        about = " ".join(measured.description.split())[:300]
        return aim_of_data(measured, stem, about)
    return aim_of_rows(stem, text)


def parse_aim(data: bytes | dict[str, object]) -> Aim:
    """An aim from its JSON; raises BadInput."""
    if isinstance(data, bytes):
        try:
            data = json.loads(data)
        except (ValueError, RecursionError) as error:
            raise BadInput(say("examination.aim-no-json")) from error
    if not isinstance(data, dict) or data.get("kind") != "aim":
        raise BadInput(say("examination.aim-other-file"))
    return _checked(data)


def against(profile: Profile, aim: Aim) -> AimDifference:
    """Paper, solids, overprints and tones of a profile beside those of an aim."""
    mine = solid_lab(profile)
    common = [n for n in aim.colours if n in mine]
    errors = delta_e_2000(
        np.array([mine[n] for n in common]).reshape(-1, 3),
        np.array([aim.colours[n] for n in common]).reshape(-1, 3),
    )
    colours = [
        _colour(n, aim.colours[n], mine[n], float(e), aim.tolerances)
        for n, e in zip(common, errors, strict=True)
    ]
    curves = {t.name: t for t in ink_tones(profile)}
    tones = [
        _tone(curves[ink], at, more, aim.tolerances.tones)
        for ink, rows in aim.tones.items()
        if ink in curves
        for at, more in rows
    ]
    judged = [h for h in (*(c.holds for c in colours), *(t.holds for t in tones)) if h is not None]
    return AimDifference(
        name=aim.name,
        source=aim.source,
        solids={c.name: round(c.de00, 1) for c in colours},
        increase_50={
            ink: round(curves[ink].increase_50 - float(np.interp(50, *_points(rows))), 1)
            for ink, rows in aim.tones.items()
            if ink in curves and rows[0][0] <= 50 <= rows[-1][0]
        },
        colours=colours,
        tones=tones,
        holds=all(judged) if judged else None,
        left=[
            *(n for n in aim.colours if n not in mine),
            *(n for n in aim.tones if n not in curves),
        ],
    )


def colour_name(said: str) -> str:
    """The one name of a colour: "paper", an ink's letter, letters of an overprint in the inks' order."""
    plain = " ".join(said.split())[:_LONGEST]
    if plain.lower() in _NAMES:
        return _NAMES[plain.lower()]
    parts = [_NAMES.get(p.strip().lower(), p.strip()) for p in plain.split("+")]
    letters = "".join(parts).upper()
    if letters and set(letters) <= set("CMYK") and len(set(letters)) == len(letters):
        return "".join(sorted(letters, key="CMYK".index))
    return plain


def _colour(
    name: str, aim: tuple[float, ...], printed: tuple[float, ...], error: float, allowed: Tolerances
) -> AimColour:
    over = len(name) > 1 and set(name) <= set("CMYK")
    tolerance = allowed.paper if name == "paper" else allowed.overprints if over else allowed.solids
    return AimColour(
        name=name, aim=(aim[0], aim[1], aim[2]), printed=(printed[0], printed[1], printed[2]),
        de00=round(error, 2), tolerance=tolerance,
        holds=None if tolerance is None else round(error, 2) <= tolerance,
    )  # fmt: skip


def _tone(curve: InkTones, at: float, more: float, tolerance: float | None) -> AimTone:
    printed = _increase(curve, at)
    missed = round(printed - more, 2)
    return AimTone(
        ink=curve.name, at=at, aim=more, printed=round(printed, 2), missed=missed,
        tolerance=tolerance, holds=None if tolerance is None else abs(missed) <= tolerance,
    )  # fmt: skip


def _increase(curve: InkTones, at: float) -> float:
    return float(np.interp(at, curve.asked, curve.printed)) - at


def _points(rows: Iterable[tuple[float, ...]]) -> tuple[Floats, Floats]:
    table = np.array(list(rows))
    return table[:, 0], table[:, 1]


def _row(data: Characterisation, device: Floats) -> int | None:
    found = np.flatnonzero(np.abs(data.device - device).max(axis=1) < _NEAR)
    return int(found[0]) if found.size else None


def _cells(row: str) -> tuple[list[str], list[float]]:
    """The words a row begins with, and the numbers it ends in."""
    if ";" in row or "\t" in row:
        cells = [c.strip() for c in re.split(r"[;\t]", row)]
        cells = [re.sub(r"^(-?\d+),(\d+)$", r"\1.\2", c) for c in cells]
    else:
        cells = _SEPARATORS.split(row)
    cells = [c for c in cells if c]
    figures: list[float] = []
    while cells and len(figures) < 4:
        try:
            figures.insert(0, float(cells[-1]))
        except ValueError:
            break
        cells.pop()
    return cells, figures


def _checked(data: dict[str, object]) -> Aim:
    try:
        aim = Aim.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        way = " ".join(str(p) for p in first["loc"])
        raise BadInput(say("examination.aim-value", place=way[:80], why=why(first))) from error
    tones = {}
    for ink, rows in aim.tones.items():
        if len({at for at, _ in rows}) != len(rows):
            raise BadInput(say("examination.aim-tone-twice", ink=ink[:_LONGEST]))
        tones[ink] = sorted(rows)
    return aim.model_copy(update={"tones": {ink: rows for ink, rows in tones.items() if rows}})
