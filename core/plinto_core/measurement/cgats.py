"""CGATS text (ANSI CGATS.17, ISO 28178): tables of named fields, in any order, loosely written."""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from plinto_core.errors import BadMeasurement
from plinto_core.words import Said, say

MAX_BYTES = 64 << 20
MAX_FIELDS = 2000
_TOKEN = re.compile(r'"([^"]*)"|\'([^\']*)\'|(\S+)')


@dataclass
class CgatsTable:
    """One data set: keywords, field names in upper case, rows of text."""

    keywords: dict[str, str] = field(default_factory=dict)
    fields: list[str] = field(default_factory=list)
    rows: list[list[str]] = field(default_factory=list)

    def column(self, name: str) -> list[str]:
        at = self.fields.index(name)
        return [row[at] for row in self.rows]

    @property
    def notes(self) -> list[Said]:
        """What a reader should know: that the table has fewer or more rows than it says."""
        declared, count = self.keywords.get("NUMBER_OF_SETS", ""), len(self.rows)
        if not declared.isdecimal() or int(declared[:9]) == count:
            return []
        return [say("measurement.announced", declared=declared[:9], count=count)]


def _tokens(line: str) -> list[str]:
    found = []
    for match in _TOKEN.finditer(line):
        quoted = match.group(1) if match.group(1) is not None else match.group(2)
        if quoted is None and match.group(3).startswith("#"):
            break
        found.append(quoted if quoted is not None else match.group(3))
    return found


def _cells(line: str) -> list[str]:
    """What stands between tabs: names of two words need no quotes there."""
    if line.lstrip().startswith("#"):
        return []
    return [c.strip().strip("\"'") for c in line.strip().split("\t")]


def decode(data: bytes) -> str:
    """Text of a file as UTF-8, UTF-16 with a byte order mark, or Latin-1; its lines end in a line feed."""
    return _decoded(data).replace("\r\n", "\n").replace("\r", "\n")


def _decoded(data: bytes) -> str:
    if len(data) > MAX_BYTES:
        raise BadMeasurement(say("measurement.file-large"))
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", errors="replace")
    if b"\0" in data[:4096]:
        raise BadMeasurement(say("measurement.file-no-text"))
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("latin-1")


def parse_cgats(text: str) -> list[CgatsTable]:
    """Every table of a CGATS text; comments, blank lines, tabs and wrapped rows are understood.

    Where tabs part every row evenly, they alone part it; else blanks do. Raises BadMeasurement where no
    complete table is found.
    """
    if "\t" in text:
        try:
            return _tables(text, by_tabs=True)
        except BadMeasurement:
            pass
    return _tables(text, by_tabs=False)


def _tables(text: str, *, by_tabs: bool) -> list[CgatsTable]:
    tables: list[CgatsTable] = []
    table = CgatsTable()
    mode = "head"
    values: list[str] = []
    for line in text.splitlines():
        tokens = _tokens(line)
        if not tokens:
            continue
        word = tokens[0].upper()
        if by_tabs and mode != "head" and not word.startswith(("END_DATA", "BEGIN_DATA")):
            tokens = _cells(line)
            if mode == "data" and len(tokens) != len(table.fields):
                raise BadMeasurement(say("measurement.file-no-table"))
        if word == "BEGIN_DATA_FORMAT":
            mode, table.fields = "format", []
            tokens = tokens[1:]
        elif word == "BEGIN_DATA":
            mode, values = "data", []
            tokens = tokens[1:]
        if mode == "format":
            for token in tokens:
                if token.upper() == "END_DATA_FORMAT":
                    mode = "head"
                    break
                table.fields.append(token.upper())
            if len(table.fields) > MAX_FIELDS:
                raise BadMeasurement(say("measurement.file-fields"))
        elif mode == "data":
            for token in tokens:
                if token.upper() == "END_DATA":
                    tables.append(_finish(table, values))
                    table = CgatsTable(fields=list(table.fields))
                    mode = "head"
                    break
                values.append(token)
        elif len(tokens) > 1:
            table.keywords[word] = " ".join(tokens[1:])
    if mode == "data":
        raise BadMeasurement(say("measurement.file-short"))
    if not tables:
        raise BadMeasurement(say("measurement.file-no-table"))
    return tables


def _finish(table: CgatsTable, values: list[str]) -> CgatsTable:
    width = len(table.fields)
    if not width:
        raise BadMeasurement(say("measurement.file-no-format"))
    if len(values) % width:
        raise BadMeasurement(say("measurement.file-rows", width=width, values=len(values)))
    table.rows = [values[i : i + width] for i in range(0, len(values), width)]
    return table


def format_cgats(keywords: dict[str, str], fields: list[str], rows: list[list[str]]) -> str:
    """CGATS text of one table, tab separated."""
    head = ["CGATS.17", ""]
    head += [f'{name}\t"{value}"' for name, value in keywords.items()]
    head += [f"NUMBER_OF_FIELDS\t{len(fields)}", "BEGIN_DATA_FORMAT", "\t".join(fields)]
    head += ["END_DATA_FORMAT", f"NUMBER_OF_SETS\t{len(rows)}", "BEGIN_DATA"]
    return "\n".join(head + ["\t".join(row) for row in rows] + ["END_DATA", ""])
