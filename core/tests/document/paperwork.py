"""Small documents made for one construct each, and what stands in their streams."""

from __future__ import annotations

import zlib
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf


class Paper:
    """One page to put things on."""

    def __init__(self) -> None:
        self.pdf = pikepdf.new()
        self.pdf.add_blank_page(page_size=(200, 100))
        self.page = self.pdf.pages[0]
        self.resources: Any = pikepdf.Dictionary()
        self.page.obj["/Resources"] = self.resources

    def put(self, kind: str, name: str, value: Any) -> None:
        if kind not in self.resources:
            self.resources[kind] = pikepdf.Dictionary()
        self.resources[kind][name] = value

    def save(self, path: Path, content: str) -> Path:
        self.page.Contents = pikepdf.Stream(self.pdf, content.encode("latin-1"))
        self.pdf.save(path, static_id=True)
        return path

    def image(self, pixels: np.ndarray, space: Any, bits: int = 8, **extra: Any) -> Any:
        height, width = pixels.shape[:2]
        made = pikepdf.Stream(
            self.pdf, zlib.compress(pixels.tobytes()), Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image,
            Width=extra.pop("width", width), Height=height, BitsPerComponent=bits, ColorSpace=space,
            Filter=pikepdf.Name.FlateDecode, **extra,
        )  # fmt: skip
        return self.pdf.make_indirect(made)


def values(function: Any, *rows: Any) -> np.ndarray:
    """What a function gives for each row of inputs."""
    return np.asarray(function(np.array(rows, dtype=float).reshape(len(rows), -1)))


def operations(source: Any) -> list[tuple[str, list[Any]]]:
    return [
        (str(o.operator), list(o.operands))
        for o in pikepdf.parse_content_stream(source)
        if not isinstance(o, pikepdf.ContentStreamInlineImage)
    ]


def colours_of(page: Any) -> list[tuple[str, list[Any]]]:
    wanted = {"g", "rg", "k", "cs", "sc", "scn", "G", "RG", "K"}
    return [(o, a) for o, a in operations(page) if o in wanted]
