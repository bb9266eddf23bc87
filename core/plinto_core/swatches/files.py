"""Lists of swatches as files: CSV, CGATS text, CxF3, and what profiles hold."""

from __future__ import annotations

import csv
import io
import re
from typing import Literal, get_args

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import LCh_to_Lab, XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadInput, BadMeasurement
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import CHANNELS, channel_names, is_subtractive
from plinto_core.icc.values import parse_text
from plinto_core.measurement.cgats import CgatsTable, decode, format_cgats, parse_cgats
from plinto_core.measurement.characterisation import numbers_of, spectral_fields
from plinto_core.swatches.cxf import is_cxf, read_cxf, write_cxf
from plinto_core.swatches.swatches import Swatches, swatches
from plinto_core.transform.direct import colour_names, named_lab
from plinto_core.words import say

Format = Literal["csv", "cgats", "cxf"]
FORMATS: tuple[Format, ...] = get_args(Format)
SUFFIXES: dict[Format, str] = {"csv": ".csv", "cgats": ".txt", "cxf": ".cxf"}
_COLUMNS: dict[str, tuple[tuple[str, ...], ...]] = {
    "Lab ": (("L", "L*", "LAB_L"), ("a", "a*", "LAB_A"), ("b", "b*", "LAB_B")),
    "LCh": (("L", "L*", "LCH_L", "LAB_L"), ("C", "C*", "LCH_C", "LAB_C"), ("H", "H°", "LCH_H", "LAB_H")),
    "CMYK": (("C", "CMYK_C", "CYAN"), ("M", "CMYK_M", "MAGENTA"), ("Y", "CMYK_Y", "YELLOW"), ("K", "CMYK_K", "BLACK")),
    "RGB ": (("R", "RGB_R", "RED"), ("G", "RGB_G", "GREEN"), ("B", "RGB_B", "BLUE")),
    "XYZ ": (("X", "XYZ_X"), ("Y", "XYZ_Y"), ("Z", "XYZ_Z")),
    "GRAY": (("GREY", "GRAY", "K_GREY"),),
}  # fmt: skip
"""By space, for each channel the names that columns of files have; in the order they are looked for."""
_OF_LAB = ("LCh", "XYZ ")
"""What is brought into Lab when it is read."""
_NAMES = ("NAME", "SAMPLE_NAME", "SAMPLE_ID", "SAMPLEID", "ID", "PATCH")
_INK = re.compile(r"^([2-9A-F])CLR_(\d{1,2})$")


def read_swatches(data: bytes, file_name: str = "", wanted: str | None = None) -> list[Swatches]:
    """The lists of a file: one, or two where it holds device values and their measured colours.

    CxF3, CGATS text, CSV with a row of column names, a named colour profile, or the measurements inside
    a profile. wanted : the space that the colours of a CSV are wanted in, where it names several or none.
    Raises BadInput with what is wrong and what to do.
    """
    title = re.sub(r"\.[A-Za-z0-9]{1,5}$", "", file_name.rsplit("/", 1)[-1])
    if data[36:40] == b"acsp":
        return _of_profile(Profile(data))
    if is_cxf(data):
        return [_titled(one, title) for one in read_cxf(data)]
    text = decode(data)
    if re.search(r"^\s*BEGIN_DATA\s*$", text, re.MULTILINE):
        return [_titled(one, title) for one in _of_cgats(text)]
    return [_titled(swatches_of_text(text, wanted), title)]


def _titled(listed: Swatches, title: str) -> Swatches:
    said = listed.title or title
    return Swatches(listed.space, listed.values, listed.names, listed.places, said, listed.notes)


def _of_profile(profile: Profile) -> list[Swatches]:
    if profile.header.device_class == "nmcl":
        names = list(colour_names(profile))
        return [swatches("Lab ", named_lab(profile), names, title=profile.description)]
    if "targ" not in profile:
        raise BadInput(say("swatches.profile-no-list"))
    found = _of_cgats(parse_text(profile.raw("targ")))
    return [_titled(one, profile.description) for one in found]


def _of_cgats(text: str) -> list[Swatches]:
    for table in parse_cgats(text):
        names = _names(table)
        lists = []
        device = _device_of(table)
        if device is not None:
            lists.append((device[0], device[1]))
        colour = _colour_of(table)
        if colour is not None:
            lists.append(("Lab ", colour))
        if lists:
            title = table.keywords.get("DESCRIPTOR", "")
            notes = tuple(table.notes)
            return [swatches(s, v, names, title=title, notes=notes) for s, v in lists]
    raise BadMeasurement(say("swatches.file-no-table"))


def _names(table: CgatsTable) -> list[str] | None:
    at = _name_column(table.fields)
    return None if at is None else [row[at] for row in table.rows]


def _name_column(head: list[str]) -> int | None:
    """Where names stand; Sample Name and sample-name are SAMPLE_NAME."""
    plain = [re.sub(r"[\s_-]+", "_", h.strip().upper()) for h in head]
    return next((plain.index(n) for n in _NAMES if n in plain), None)


def _fields(space: str, known: list[str]) -> list[str] | None:
    """The columns of a space; as they are written first, since b is not B where both stand."""
    upper = {k.upper(): k for k in reversed(known)}
    found = []
    for names in _COLUMNS[space]:
        exact = next((n for n in names if n in known), None)
        found.append(exact or next((upper[n.upper()] for n in names if n.upper() in upper), None))
    return None if None in found else [str(f) for f in found]


def _device_of(table: CgatsTable) -> tuple[str, Floats] | None:
    inks = _inks(table.fields)
    if len(inks) > 4:
        return f"{len(inks):X}CLR", numbers_of(table, inks)
    for space in ("CMYK", "RGB ", "GRAY"):
        names = _fields(space, table.fields)
        if names:
            return space, numbers_of(table, names)
    return None


def _inks(fields: list[str]) -> list[str]:
    """Columns of numbered inks in their order."""
    return [n for _, n in sorted((int(m[2]), m.string) for m in map(_INK.match, fields) if m)]


def _colour_of(table: CgatsTable) -> Floats | None:
    spectral = spectral_fields(table)
    if spectral:
        values = numbers_of(table, [name for _, name in spectral])
        values = values / 100 if values.max() > 2.5 else values
        nm = np.array([n for n, _ in spectral], dtype=np.float64)
        return XYZ_to_Lab(reflectance_to_XYZ(values, nm))
    for space in ("Lab ", "LCh", "XYZ "):
        names = [f"{space.strip().upper()}_{c}" for c in ("XYZ" if space == "XYZ " else "LAB")]
        if space == "LCh":
            names = ["LCH_L", "LCH_C", "LCH_H"]
        if all(n in table.fields for n in names):
            return _lab(space, numbers_of(table, names))
    return None


def _lab(space: str, values: Floats) -> Floats:
    if space == "XYZ ":
        # Y of 1 or of 100 for the perfect diffuser: nothing printed reflects 2.5 times as much.
        return XYZ_to_Lab(values / 100 if values.max() > 2.5 else values)
    return LCh_to_Lab(values) if space == "LCh" else values


def swatches_of_text(text: str, space: str | None = None) -> Swatches:
    """Typed or pasted colours, or CSV: a row a colour, a name where it has one.

    Separated by commas, semicolons, tabs or blanks; decimal commas where semicolons or tabs separate. The
    first row may name the columns; without it `space` says what the numbers are. Raises BadInput.
    """
    rows = [r for r in _split(text) if any(c.strip() for c in r)]
    if not rows:
        raise BadInput(say("swatches.list-empty"))
    plain = [c.strip() for c in rows[0]]
    head = [c.upper() for c in plain]
    # Channels by number are a head; with blanks between, or alone, 1 2 3 is a colour somebody typed.
    numbered = head == [str(i + 1) for i in range(len(head))]
    typed = space in _COLUMNS and (len(rows) == 1 or not any(s in text for s in ";\t,"))
    counted = numbered and not typed and (space or len(head) > 4)
    if any(_number(c) is not None for c in rows[0]) and not counted:
        if space is None:
            raise BadInput(say("swatches.no-column-names"))
        return _unnamed(rows, space)
    found, at = _header(plain, space)
    if len(rows) < 2:
        raise BadInput(say("swatches.list-head-only"))
    name = _name_column(head)
    values = np.array([[_value(row, i, n) for i in at] for n, row in enumerate(rows[1:], 2)])
    names = (
        None if name is None else [_unmarked(r[name]) if name < len(r) else "" for r in rows[1:]]
    )
    places = None
    if {"AT_X", "AT_Y"} <= set(head):
        where = [head.index("AT_X"), head.index("AT_Y")]
        places = np.array([_place(r, where, n) for n, r in enumerate(rows[1:], 2)])
    if found in _OF_LAB:
        found, values = "Lab ", _lab(found, values)
    return swatches(found, values, names, places=places)


def _place(row: list[str], where: list[int], number: int) -> list[float]:
    """Where a row says that its colour lies in the picture; nan where it says nothing."""
    if not any(i < len(row) and row[i].strip() for i in where):
        return [np.nan, np.nan]
    return [_value(row, i, number) for i in where]


def _split(text: str) -> list[list[str]]:
    lines = text.lstrip("\ufeff").splitlines()
    first = next((line for line in lines if line.strip()), "")
    for separator in (";", "\t", ","):
        if separator in first:
            try:
                rows = list(csv.reader(io.StringIO(text.lstrip("\ufeff")), delimiter=separator))
            except csv.Error as error:
                raise BadInput(say("swatches.rows-unreadable")) from error
            if separator == ",":
                return rows
            return [
                [c.replace(",", ".") if _COMMA.match(c.strip()) else c for c in r] for r in rows
            ]
    return [line.split() for line in lines]


_COMMA = re.compile(r"^-?\d+,\d+$")


def _number(text: str) -> float | None:
    try:
        return float(text)
    except ValueError:
        return None


def _header(head: list[str], wanted: str | None) -> tuple[str, list[int]]:
    there = {space: names for space in _COLUMNS if (names := _fields(space, head))}
    # Lab may come as LCh or XYZ: it is brought into Lab.
    takes = (wanted, *(_OF_LAB if wanted == "Lab " else ())) if wanted in _COLUMNS else _COLUMNS
    for space in takes:
        if space in there:
            return space, [head.index(n) for n in there[space]]
    # What an n-colour path gives has its inks' numbers as column names.
    if wanted is not None and head == [str(i + 1) for i in range(CHANNELS.get(wanted, 0))]:
        return wanted, list(range(len(head)))
    if wanted is None and len(head) > 4 and head == [str(i + 1) for i in range(len(head))]:
        return f"{len(head):X}CLR", list(range(len(head)))
    head = [h.upper() for h in head]
    inks = _inks(head)
    if len(inks) > 4:
        return f"{len(inks):X}CLR", [head.index(n) for n in inks]
    for space, names in there.items():
        said = {"columns": ", ".join(names), "found": space.strip()}
        raise BadInput(say("swatches.columns-other", **said, wanted=(wanted or "").strip()))
    raise BadInput(say("swatches.columns-unknown", columns=", ".join(head)[:80]))


def _value(row: list[str], at: int, number: int) -> float:
    value = _number(row[at]) if at < len(row) else None
    if value is None:
        raise BadInput(say("swatches.row-lacks-number", number=number, column=at + 1))
    return value


def _unnamed(rows: list[list[str]], space: str) -> Swatches:
    """Numbers without a header: the last ones of a row are the values, what stands before is its name."""
    count = len(_COLUMNS[space]) if space in _COLUMNS else len(channel_names(space))
    values, names = [], []
    for number, row in enumerate(rows, 1):
        cells = [c.strip() for c in row if c.strip()]
        said = [_number(c) for c in cells[-count:]]
        if len(said) < count or None in said:
            raise BadInput(say("swatches.row-ends", number=number, count=count))
        values.append([v for v in said if v is not None])
        names.append(" ".join(cells[:-count]))
    found = np.array(values)
    if space in ("LCh", "XYZ "):
        return swatches("Lab ", _lab(space, found), names)
    return swatches(space, found, names)


def write_swatches(listed: Swatches, form: Format) -> bytes:
    """A list as a file that `read_swatches` takes again."""
    if form == "cxf":
        return write_cxf(listed)
    rows = [[_said(v) for v in row] for row in listed.values]
    if form == "cgats":
        fields = ["SAMPLE_ID", "SAMPLE_NAME", *_cgats_fields(listed.space)]
        names = [f'"{n.replace(chr(34), chr(39))}"' for n in listed.names]
        table = [[str(i), n, *r] for i, (n, r) in enumerate(zip(names, rows, strict=True), 1)]
        about = listed.title.replace('"', "'") or "Swatches"
        return format_cgats({"ORIGINATOR": "Plinto", "DESCRIPTOR": about}, fields, table).encode()
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    placed = listed.places is not None
    many = is_subtractive(listed.space) and listed.space != "CMYK"
    columns = _cgats_fields(listed.space) if many else listed.columns
    writer.writerow(["Name", *columns, *(("at_x", "at_y") if placed else ())])
    for i, (name, row) in enumerate(zip(listed.names, rows, strict=True)):
        where = [] if listed.places is None else [_placed(v) for v in listed.places[i]]
        writer.writerow([safe_cell(name), *row, *where])
    return out.getvalue().encode()


_FORMULA = ("=", "+", "-", "@")


def safe_cell(name: str) -> str:
    """A name that no spreadsheet takes for a formula; it is read again without its mark."""
    return f"'{name}" if name.startswith(_FORMULA) else name


def _unmarked(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(_FORMULA) else cell


def _placed(value: float) -> str:
    return "" if np.isnan(value) else _said(value)


def _said(value: float) -> str:
    return f"{round(value, 5) + 0.0:.5f}".rstrip("0").rstrip(".")


def _cgats_fields(space: str) -> list[str]:
    if space == "Lab ":
        return ["LAB_L", "LAB_A", "LAB_B"]
    names = channel_names(space)
    if space == "GRAY":
        return ["GRAY"]
    if is_subtractive(space) and space != "CMYK":
        return [f"{len(names):X}CLR_{i}" for i in range(1, len(names) + 1)]
    return [f"{space.strip()}_{n}" for n in names]
