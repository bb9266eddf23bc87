"""Characterisation data (ISO 12642): ink values and the colours they printed."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadMeasurement
from plinto_core.icc.colorants import SHORT, long_name
from plinto_core.icc.parts import MOST_INKS
from plinto_core.inks.rules import INKS, MOST_NAME
from plinto_core.measurement.cgats import CgatsTable, decode, format_cgats, parse_cgats
from plinto_core.words import Said, say

FEWEST_PATCHES = 150
FEWEST = {1: 8, 2: 40, 3: 100, 4: 150, 5: 400, 6: 600, 7: 800, 8: 1000}
"""Different patches below which nothing is built, by the number of channels: several for every overprint
and every pair of inks."""
RGB = ("R", "G", "B")
MOST_PATCHES = 20_000
_SPECTRAL = re.compile(r"^(?:SPECTRAL_?)?(?:NM_?|R_?|SPECTRAL_?)?(\d{3})(?:\.0+)?(?:_?NM)?$")
_DEVICE: list[tuple[str, ...]] = [
    ("CMYK_C", "C", "4CLR_1"),
    ("CMYK_M", "M", "4CLR_2"),
    ("CMYK_Y", "Y", "4CLR_3"),
    ("CMYK_K", "K", "4CLR_4"),
]
_RGB: list[tuple[str, ...]] = [("RGB_R", "R"), ("RGB_G", "G"), ("RGB_B", "B")]
_LAB: list[tuple[str, ...]] = [("LAB_L", "L", "L*"), ("LAB_A", "A", "A*"), ("LAB_B", "B", "B*")]
_CALLED: list[tuple[str, ...]] = [
    ("SAMPLE_LOC", "SAMPLE_LOCATION", "LOCATION", "PATCH_LOC"),
    ("SAMPLE_NAME", "SAMPLE_ID"),
]
_XYZ: list[tuple[str, ...]] = [("XYZ_X", "X"), ("XYZ_Y",), ("XYZ_Z", "Z")]


@dataclass(frozen=True)
class Readings:
    """Every reading in its order. device : (m, channels) values 0..1; xyz : (m, 3); names : what the
    file calls the patches, their places on the sheet, or their numbers."""

    device: Floats
    xyz: Floats
    names: tuple[str, ...]

    @classmethod
    def numbered(cls, device: Floats, xyz: Floats) -> Readings:
        """Readings that have no names."""
        return cls(device, xyz, tuple(str(i + 1) for i in range(len(device))))


@dataclass(frozen=True)
class Characterisation:
    """Averaged patches. device : (n, channels) values 0..1; xyz : (n, 3) under D50, Y = 1; names : of the
    channels, C, M, Y, K for the process inks, R, G, B for a device that takes RGB; read : what was
    averaged."""

    device: Floats
    xyz: Floats
    description: str = ""
    notes: list[Said] = field(default_factory=list)
    names: tuple[str, ...] = INKS
    read: Readings | None = None

    @cached_property
    def readings(self) -> Readings:
        """Every reading; the patches themselves where nothing was averaged."""
        return self.read or Readings.numbered(self.device, self.xyz)

    def without(self, rows: Sequence[int]) -> Characterisation:
        """The same without some readings, counted from 0; raises BadMeasurement where too little is left."""
        kept = np.ones(len(self.readings.device), bool)
        kept[list(rows)] = False
        every = self.readings
        names = tuple(n for n, k in zip(every.names, kept, strict=True) if k)
        left = Readings(every.device[kept], every.xyz[kept], names)
        device, xyz = _average(left.device, left.xyz, [])
        _check(1.0 - device if self.takes_rgb else device, xyz, self.names, [])
        return Characterisation(device, xyz, self.description, self.notes, self.names, left)

    @property
    def inks(self) -> int:
        """Number of channels."""
        return int(self.device.shape[1])

    @property
    def takes_rgb(self) -> bool:
        """Whether the device takes RGB: full values are white then."""
        return self.names == RGB

    @property
    def amounts(self) -> Floats:
        """(n, channels) how much is printed, 0..1: tone values, or what RGB values lack to white."""
        return 1.0 - self.device if self.takes_rgb else self.device

    @property
    def lab(self) -> Floats:
        """(n, 3) Lab under D50, the perfect diffuser being white."""
        return XYZ_to_Lab(self.xyz)

    @property
    def paper(self) -> Floats:
        """(3,) XYZ of the unprinted medium."""
        return np.asarray(self.xyz[int(np.argmin(self.amounts.sum(axis=1)))])


def read_characterisation(path: Path | str) -> Characterisation:
    """Read characterisation data from CGATS text; raises BadMeasurement with the reason."""
    try:
        data = Path(path).read_bytes()
    except OSError as error:
        raise BadMeasurement(say("measurement.file-unreadable", file=Path(path).name)) from error
    return characterisation_from_text(decode(data))


def characterisation_from_text(text: str) -> Characterisation:
    """The first table that holds inks or RGB together with spectra, Lab or XYZ.

    Inks are CMYK_C to CMYK_K, or for other sets 2CLR_1, 2CLR_2 and so on up to 8CLR_8; those are called
    as the keyword INK_NAMES says ("Cyan, Magenta, …").
    """
    tables = parse_cgats(text)
    for table in tables:
        names, fields = _device(table)
        if fields and (spectral_fields(table) or _find(table, _LAB) or _find(table, _XYZ)):
            return _build(table, names, fields)
    found = ", ".join(tables[0].fields[:12])
    raise BadMeasurement(say("measurement.no-colours", fields=found))


def _device(table: CgatsTable) -> tuple[tuple[str, ...], list[str]]:
    """Names of the channels and their fields; no fields where the table holds none."""
    for count in range(MOST_INKS, 0, -1):
        fields = _find(table, [(f"{count}CLR_{i + 1}",) for i in range(count)])
        if fields and count != 4:
            return _named(table, count), fields
    fields = _find(table, _DEVICE)
    return (INKS, fields) if fields else (RGB, _find(table, _RGB))


def _named(table: CgatsTable, count: int) -> tuple[str, ...]:
    plain = tuple(str(i + 1) for i in range(count))
    given = [" ".join(n.split()) for n in table.keywords.get("INK_NAMES", "").split(",")]
    names = tuple(SHORT.get(n.casefold(), n)[:MOST_NAME] for n in given)
    good = len(names) == count and all(names) and len(set(names)) == count
    return names if good and all(n.isprintable() for n in names) else plain


def _find(table: CgatsTable, wanted: list[tuple[str, ...]]) -> list[str]:
    found = []
    for names in wanted:
        match = next((n for n in names if n in table.fields), None)
        if match is None:
            return []
        found.append(match)
    return found


def spectral_fields(table: CgatsTable) -> list[tuple[int, str]]:
    """(wavelength in nm, field) of spectra that cover 400 to 700 nm in 16 bands or more, else none."""
    found = []
    for name in table.fields:
        match = _SPECTRAL.match(name)
        if match and 300 <= int(match.group(1)) <= 850:
            found.append((int(match.group(1)), name))
    found.sort()
    covers = found and found[0][0] <= 400 and found[-1][0] >= 700
    return found if len(found) >= 16 and covers else []


def numbers_of(table: CgatsTable, names: list[str]) -> Floats:
    """(rows, fields) of a table, decimal points or commas; raises BadMeasurement for what is no number."""
    columns = []
    for name in names:
        texts = table.column(name)
        try:
            columns.append([float(t) for t in texts])
        except ValueError:
            try:
                columns.append([float(t.replace(",", ".")) for t in texts])
            except ValueError as error:
                bad = next(t for t in texts if not _is_number(t))
                raise BadMeasurement(
                    say("measurement.not-a-number", field=name, value=bad[:20])
                ) from error
    values = np.array(columns, dtype=np.float64).T
    if not np.isfinite(values).all():
        raise BadMeasurement(say("measurement.not-finite"))
    return values


def _is_number(text: str) -> bool:
    try:
        float(text.replace(",", "."))
    except ValueError:
        return False
    return True


def _build(table: CgatsTable, names: tuple[str, ...], fields: list[str]) -> Characterisation:
    notes: list[Said] = []
    device = numbers_of(table, fields) / 100.0
    said = "CMYK" if names == INKS else "RGB" if names == RGB else "Ink"
    if names == RGB and device.max() > 1.005:
        device = device * 100.0 / 255.0
    if device.shape[0] > MOST_PATCHES:
        raise BadMeasurement(
            say("measurement.patches-many", count=device.shape[0], most=MOST_PATCHES)
        )
    if device.min() < -0.001 or device.max() > 1.005:
        outside = "rgb-out-of-range" if names == RGB else "shares-out-of-range"
        raise BadMeasurement(say(f"measurement.{outside}", channels=said))
    if 0 < device.max() <= 0.0101:
        device = device * 100.0
        notes.append(say("measurement.shares", channels=said))
    xyz = _colours(table, notes)
    notes += table.notes
    read = Readings(np.clip(device, 0.0, 1.0), xyz, _names_of(table))
    device, xyz = _average(read.device, xyz, notes)
    _check(1.0 - device if names == RGB else device, xyz, names, notes)
    title = table.keywords.get("DESCRIPTOR") or table.keywords.get("FILE_DESCRIPTOR", "")
    return Characterisation(device, xyz, title, notes, names, read)


def _names_of(table: CgatsTable) -> tuple[str, ...]:
    """What readings are called: place on the sheet and name, where the file has them, or their numbers."""
    fields = [_find(table, [names]) for names in _CALLED]
    columns = [table.column(found[0]) for found in fields if found]
    numbers = [str(i + 1) for i in range(len(table.rows))]
    rows = zip(*columns, strict=True) if columns else zip(numbers, strict=True)
    return tuple(" ".join(dict.fromkeys(n.strip()[:MOST_NAME] for n in row)) for row in rows)


def _colours(table: CgatsTable, notes: list[Said]) -> Floats:
    spectral, lab, xyz = spectral_fields(table), _find(table, _LAB), _find(table, _XYZ)
    if spectral:
        values = numbers_of(table, [name for _, name in spectral])
        if values.max() > 2.5:
            values = values / 100.0
        notes.append(say("measurement.from-spectra"))
        return reflectance_to_XYZ(values, np.array([nm for nm, _ in spectral], dtype=np.float64))
    from_xyz = None
    if xyz:
        from_xyz = numbers_of(table, xyz)
        if from_xyz.max() > 2.5:
            from_xyz = from_xyz / 100.0
    if lab:
        from_lab = Lab_to_XYZ(numbers_of(table, lab))
        if from_xyz is not None:
            apart = np.abs(XYZ_to_Lab(from_xyz)[:, 0] - XYZ_to_Lab(from_lab)[:, 0])
            if np.percentile(apart, 95) > 1.0:
                notes.append(say("measurement.lab-xyz-disagree"))
        return from_lab
    assert from_xyz is not None
    return from_xyz


def _average(device: Floats, xyz: Floats, notes: list[Said]) -> tuple[Floats, Floats]:
    keys = np.round(device * 10000).astype(np.int64)
    _, first, inverse = np.unique(keys, axis=0, return_index=True, return_inverse=True)
    inverse = inverse.ravel()
    if first.size == device.shape[0]:
        return device, xyz
    notes.append(say("measurement.averaged", count=device.shape[0] - first.size))
    sums = np.zeros((first.size, 3))
    np.add.at(sums, inverse, xyz)
    return device[first], sums / np.bincount(inverse)[:, None]


def _check(device: Floats, xyz: Floats, names: tuple[str, ...], notes: list[Said]) -> None:
    """device : (n, channels) amounts."""
    fewest = FEWEST.get(len(names), FEWEST_PATCHES)
    if device.shape[0] < fewest:
        kind = "a CMYK profile" if names == INKS else f"a profile of {len(names)} channels"
        raise BadMeasurement(
            say("measurement.patches-few", count=device.shape[0], inks=kind, fewest=fewest)
        )
    if device.sum(axis=1).min() > 0.005:
        paper = "255 255 255" if names == RGB else " ".join("0" * len(names))
        raise BadMeasurement(say("measurement.no-paper", paper=paper))
    for i, name in enumerate(names):
        if names == RGB:
            break
        alone = np.delete(device, i, axis=1).max(axis=1, initial=0.0) < 0.005
        if device[alone, i].max(initial=0.0) < 0.5:
            raise BadMeasurement(say("measurement.ink-not-alone", ink=name))
    if xyz.min() < -0.01 or xyz[:, 1].max() > 1.3:
        raise BadMeasurement(say("measurement.impossible-colours"))
    paper = xyz[int(np.argmin(device.sum(axis=1)))]
    if paper[1] < xyz[:, 1].max() - 0.1 or paper[1] < 0.1:
        notes.append(say("measurement.white-not-lightest"))
    if np.abs(paper / paper[1] - D50).max() > 0.25:
        notes.append(say("measurement.medium-coloured"))


def device_fields(names: tuple[str, ...]) -> list[str]:
    """The CGATS fields of channels with these names."""
    if names in (INKS, RGB):
        space = "CMYK" if names == INKS else "RGB"
        return [f"{space}_{n}" for n in names]
    return [f"{len(names)}CLR_{i + 1}" for i in range(len(names))]


def format_characterisation(data: Characterisation, head: dict[str, str] | None = None) -> str:
    """CGATS text of the patches: channels in percent, RGB 0 to 255, with absolute Lab."""
    fields = ["SAMPLE_ID", *device_fields(data.names), "LAB_L", "LAB_A", "LAB_B"]
    full = 255.0 if data.takes_rgb else 100.0
    rows = [
        [str(i + 1), *(f"{v * full:.6g}" for v in d), *(f"{v:.3f}" for v in lab)]
        for i, (d, lab) in enumerate(zip(data.device, data.lab, strict=True))
    ]
    named = (
        {} if data.names in (INKS, RGB) else {"INK_NAMES": ", ".join(map(long_name, data.names))}
    )
    return format_cgats({**(head or {}), **named}, fields, rows)
