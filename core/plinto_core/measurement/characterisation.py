"""Characterisation data (ISO 12642): ink values and the colours they printed."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadMeasurement
from plinto_core.measurement.cgats import CgatsTable, decode, parse_cgats

FEWEST_PATCHES = 150
MOST_PATCHES = 20_000
_SPECTRAL = re.compile(r"^(?:SPECTRAL_?)?(?:NM_?|R_?|SPECTRAL_?)?(\d{3})(?:\.0+)?(?:_?NM)?$")
_DEVICE: list[tuple[str, ...]] = [
    ("CMYK_C", "C", "4CLR_1"),
    ("CMYK_M", "M", "4CLR_2"),
    ("CMYK_Y", "Y", "4CLR_3"),
    ("CMYK_K", "K", "4CLR_4"),
]
_LAB: list[tuple[str, ...]] = [("LAB_L", "L", "L*"), ("LAB_A", "A", "A*"), ("LAB_B", "B", "B*")]
_XYZ: list[tuple[str, ...]] = [("XYZ_X", "X"), ("XYZ_Y",), ("XYZ_Z", "Z")]


@dataclass(frozen=True)
class Characterisation:
    """Averaged patches. device : (n, 4) tone values 0..1; xyz : (n, 3) under D50, Y = 1."""

    device: Floats
    xyz: Floats
    description: str = ""
    notes: list[str] = field(default_factory=list)

    @property
    def lab(self) -> Floats:
        """(n, 3) Lab under D50, the perfect diffuser being white."""
        return XYZ_to_Lab(self.xyz)

    @property
    def paper(self) -> Floats:
        """(3,) XYZ of the unprinted medium."""
        return np.asarray(self.xyz[int(np.argmin(self.device.sum(axis=1)))])


def read_characterisation(path: Path | str) -> Characterisation:
    """Read CMYK characterisation data from CGATS text; raises BadMeasurement with the reason."""
    try:
        data = Path(path).read_bytes()
    except OSError as error:
        raise BadMeasurement(f"The measurement file {Path(path).name} cannot be read.") from error
    return characterisation_from_text(decode(data))


def characterisation_from_text(text: str) -> Characterisation:
    """The first table that holds CMYK together with spectra, Lab or XYZ."""
    tables = parse_cgats(text)
    for table in tables:
        if _find(table, _DEVICE) and (
            spectral_fields(table) or _find(table, _LAB) or _find(table, _XYZ)
        ):
            return _build(table)
    names = ", ".join(tables[0].fields[:12])
    raise BadMeasurement(
        f"No table holds CMYK values together with spectra, Lab or XYZ (fields: {names}).",
        remedy="Export CMYK_C, CMYK_M, CMYK_Y, CMYK_K with LAB_L, LAB_A, LAB_B or XYZ or spectra.",
    )


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
                    f"The field {name} holds {bad[:20]!r}, which is not a number."
                ) from error
    values = np.array(columns, dtype=np.float64).T
    if not np.isfinite(values).all():
        raise BadMeasurement("The measurements hold values that are not finite numbers.")
    return values


def _is_number(text: str) -> bool:
    try:
        float(text.replace(",", "."))
    except ValueError:
        return False
    return True


def _build(table: CgatsTable) -> Characterisation:
    notes: list[str] = []
    device = numbers_of(table, _find(table, _DEVICE)) / 100.0
    if device.shape[0] > MOST_PATCHES:
        raise BadMeasurement(
            f"The file holds {device.shape[0]} patches; {MOST_PATCHES} are the most."
        )
    if device.min() < -0.001 or device.max() > 1.005:
        raise BadMeasurement("CMYK values lie outside 0 to 100.", remedy="Give them in percent.")
    if 0 < device.max() <= 0.0101:
        device = device * 100.0
        notes.append("CMYK values end at 1 and were taken as shares, not percent.")
    xyz = _colours(table, notes)
    declared = table.keywords.get("NUMBER_OF_SETS", "")
    if declared.isdigit() and int(declared) != device.shape[0]:
        notes.append(f"The file announces {declared} patches and holds {device.shape[0]}.")
    device, xyz = _average(np.clip(device, 0.0, 1.0), xyz, notes)
    _check(device, xyz, notes)
    title = table.keywords.get("DESCRIPTOR") or table.keywords.get("FILE_DESCRIPTOR", "")
    return Characterisation(device, xyz, title, notes)


def _colours(table: CgatsTable, notes: list[str]) -> Floats:
    spectral, lab, xyz = spectral_fields(table), _find(table, _LAB), _find(table, _XYZ)
    if spectral:
        values = numbers_of(table, [name for _, name in spectral])
        if values.max() > 2.5:
            values = values / 100.0
        notes.append("Colours were computed from spectra under D50, 2 degree observer.")
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
                notes.append("Lab and XYZ of the file disagree by more than 1 L*; Lab was used.")
        return from_lab
    assert from_xyz is not None
    return from_xyz


def _average(device: Floats, xyz: Floats, notes: list[str]) -> tuple[Floats, Floats]:
    keys = np.round(device * 10000).astype(np.int64)
    _, first, inverse = np.unique(keys, axis=0, return_index=True, return_inverse=True)
    inverse = inverse.ravel()
    if first.size == device.shape[0]:
        return device, xyz
    notes.append(f"{device.shape[0] - first.size} repeated patches were averaged.")
    sums = np.zeros((first.size, 3))
    np.add.at(sums, inverse, xyz)
    return device[first], sums / np.bincount(inverse)[:, None]


def _check(device: Floats, xyz: Floats, notes: list[str]) -> None:
    if device.shape[0] < FEWEST_PATCHES:
        raise BadMeasurement(
            f"The file holds {device.shape[0]} different patches; a CMYK profile needs at least "
            f"{FEWEST_PATCHES}.",
            remedy="Measure a larger chart.",
        )
    if device.sum(axis=1).min() > 0.005:
        raise BadMeasurement("No patch of unprinted paper (0 0 0 0) is in the file.")
    for i, name in enumerate("CMYK"):
        alone = np.delete(device, i, axis=1).max(axis=1) < 0.005
        if device[alone, i].max(initial=0.0) < 0.5:
            raise BadMeasurement(
                f"The ink {name} is never printed alone at 50 % or more.",
                remedy="Use a chart with ramps of every ink.",
            )
    if xyz.min() < -0.01 or xyz[:, 1].max() > 1.3:
        raise BadMeasurement("The colours lie outside what paper and ink can reflect.")
    paper = xyz[int(np.argmin(device.sum(axis=1)))]
    if paper[1] < xyz[:, 1].max() - 0.1 or paper[1] < 0.1:
        notes.append("The unprinted medium is not the lightest patch by far; check the white.")
    if np.abs(paper / paper[1] - D50).max() > 0.25:
        notes.append("The medium is strongly coloured, or the data are not relative to D50.")
