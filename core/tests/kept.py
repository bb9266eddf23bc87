"""What was looked at and judged good is kept, and compared: pages as they are drawn, figures.

A wanted change is kept by running the tests with PLINTO_KEEP=1; it is then seen in the difference of
the files, and looked at before it is committed.
"""

from __future__ import annotations

import ast
import ctypes
import dataclasses
import importlib
import json
import math
import os
import pkgutil
from pathlib import Path
from typing import Any

import numpy as np
import pypdfium2
import pytest
from pypdfium2 import raw

_FOLDER = Path(__file__).parent / "kept_figures"
_STEP = 0.06
"""How far anything may lie from where it lay, points: fonts and libraries round differently."""


def as_kept(
    name: str, found: Any, *, rel: float = 1e-4, abs: float = _STEP, folder: Path = _FOLDER
) -> None:
    """Fails where plain data (lists, dictionaries, numbers, text) differ from what is kept."""
    path = folder / f"{name}.json"
    plain = json.loads(json.dumps(found))
    if os.environ.get("PLINTO_KEEP"):
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(_laid_out(plain) + "\n")
    _compare(json.loads(path.read_text()), plain, name, rel, abs)


def rows_as_kept(name: str, found: dict[str, Any], *, abs: float, few: float = 0.1) -> None:
    """Fails where more than a few rows of numbers differ from those that are kept.

    few : share of an entry's rows that may. A colour far out of reach has several prints that are all but
    equally near; which of them a search ends at is decided by the last digits of a machine's arithmetic.
    """
    path = _FOLDER / f"{name}.json"
    if os.environ.get("PLINTO_KEEP"):
        as_kept(name, found, abs=abs)
    kept = json.loads(path.read_text())
    assert list(kept) == list(found), name
    for entry, rows in kept.items():
        before, after = np.asarray(rows, float), np.asarray(found[entry], float)
        assert before.shape == after.shape, f"{name}, {entry}"
        moved = (np.abs(before - after) > abs).reshape(len(before), -1).any(axis=1)
        assert moved.mean() <= few, f"{name}, {entry}: rows {np.flatnonzero(moved).tolist()}"


def _laid_out(found: Any) -> str:
    """One line for each entry, so that a difference can be read."""
    if isinstance(found, dict):
        lines = [f" {json.dumps(key)}: {json.dumps(value)}" for key, value in found.items()]
        return "{\n" + ",\n".join(lines) + "\n}"
    if isinstance(found, list):
        return "[\n" + ",\n".join(f" {json.dumps(value)}" for value in found) + "\n]"
    return json.dumps(found)


def _compare(kept: Any, found: Any, where: str, rel: float, abs: float) -> None:
    if isinstance(kept, dict) and isinstance(found, dict):
        assert list(kept) == list(found), where
        for key in kept:
            _compare(kept[key], found[key], f"{where}, {key}", rel, abs)
    elif isinstance(kept, list) and isinstance(found, list):
        for i, (one, other) in enumerate(zip(kept, found, strict=False)):
            _compare(one, other, f"{where}, {i}", rel, abs)
        assert len(kept) == len(found), f"{where}: {len(found)} entries, {len(kept)} kept"
    elif isinstance(kept, float | int) and not isinstance(kept, bool):
        assert found == pytest.approx(kept, rel=rel, abs=abs), where
    else:
        assert kept == found, where


def public_figures(package: Any) -> dict[str, Any]:
    """Every limit, choice and table of a package that has a name of its own in capitals, where it stands."""
    found: dict[str, Any] = {}
    for each in pkgutil.walk_packages(package.__path__, f"{package.__name__}."):
        if not _LEFT_OUT & set(each.name.split(".")):
            module = importlib.import_module(each.name)
            for node in ast.parse(Path(str(module.__file__)).read_text()).body:
                for name in _named(node):
                    plain = _as_plain(getattr(module, name))
                    if plain is not None:
                        found[f"{each.name}.{name}"] = plain
    return dict(sorted(found.items()))


_LEFT_OUT = {"migrations", "demo", "config", "__main__"}
"""What a machine or its surroundings decide, and what is invented."""


def _named(node: ast.stmt) -> list[str]:
    targets = node.targets if isinstance(node, ast.Assign) else [getattr(node, "target", None)]
    return [
        t.id
        for t in targets
        if isinstance(t, ast.Name) and t.id.isupper() and not t.id.startswith("_")
    ]


def _as_plain(value: Any) -> Any:
    """Numbers, words and tables of them; None for what is none of these."""
    if isinstance(value, str | int | float):
        return value if not isinstance(value, float) or math.isfinite(value) else None
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        value = {f.name: getattr(value, f.name) for f in dataclasses.fields(value)}
    if isinstance(value, dict):
        parts = {str(k): _as_plain(v) for k, v in value.items()}
        return {k: v for k, v in parts.items() if v is not None} or None
    if isinstance(value, tuple | list | set | frozenset):
        whole = sorted(value, key=str) if isinstance(value, set | frozenset) else value
        return [p for v in whole if (p := _as_plain(v)) is not None] or None
    return None


def drawn(data: bytes) -> list[list[Any]]:
    """All that stands on the pages of a PDF, in order: the page, kind, left, bottom, right, top in points;
    text with its size, paths with fill and stroke."""
    found: list[list[Any]] = []
    with pypdfium2.PdfDocument(data) as document:
        for number, page in enumerate(document):
            written = page.get_textpage()
            for part in page.get_objects():
                place = [round(v, 1) for v in part.get_bounds()]
                if part.type == raw.FPDF_PAGEOBJ_TEXT:
                    found.append([number, _words(part, written), *place, round(_size(part), 1)])
                else:
                    kind = {raw.FPDF_PAGEOBJ_PATH: "path", raw.FPDF_PAGEOBJ_IMAGE: "image"}
                    found.append([number, kind.get(part.type, "other"), *place, *_painted(part)])
    return found


def _words(part: Any, written: Any) -> str:
    length = raw.FPDFTextObj_GetText(part, written, None, 0)
    buffer = ctypes.create_string_buffer(length * 2)
    raw.FPDFTextObj_GetText(
        part, written, ctypes.cast(buffer, ctypes.POINTER(ctypes.c_ushort)), length
    )
    return buffer.raw[:length].decode("utf-16-le").rstrip("\0")


def _size(part: Any) -> float:
    size = ctypes.c_float()
    raw.FPDFTextObj_GetFontSize(part, size)
    return size.value


def _painted(part: Any) -> list[Any]:
    """Colours of filling and stroke, the stroke's width and how many dashes."""

    def colour(read: Any) -> list[int]:
        values = [ctypes.c_uint() for _ in range(4)]
        read(part, *values)
        return [v.value for v in values[:3]]

    mode, stroked, width = ctypes.c_int(), ctypes.c_int(), ctypes.c_float()
    if part.type != raw.FPDF_PAGEOBJ_PATH:
        return []
    raw.FPDFPath_GetDrawMode(part, mode, stroked)
    raw.FPDFPageObj_GetStrokeWidth(part, width)
    said: list[Any] = []
    if mode.value:
        said.append(["filled", *colour(raw.FPDFPageObj_GetFillColor)])
    if stroked.value:
        dashes = raw.FPDFPageObj_GetDashCount(part)
        said.append(
            ["stroked", *colour(raw.FPDFPageObj_GetStrokeColor), round(width.value, 2), dashes]
        )
    count = raw.FPDFPath_CountSegments(part)
    if count > 5:
        said.append(_corners(part, count))
    return said


def _corners(part: Any, count: int) -> list[float]:
    """Some points along a path, as it is written."""
    found: list[float] = []
    for i in range(0, count, max(1, count // 12)):
        segment = raw.FPDFPath_GetPathSegment(part, i)
        x, y = ctypes.c_float(), ctypes.c_float()
        raw.FPDFPathSegment_GetPoint(segment, x, y)
        found += [round(x.value, 1), round(y.value, 1)]
    return found
