"""One-bit films for screen printing and flexo: a film per plate with marks and its name."""

from __future__ import annotations

import io
import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path
from typing import Literal

import numpy as np
import pikepdf
import tifffile
from PIL import Image, ImageDraw, ImageFont
from pydantic import BaseModel, ConfigDict, Field

from plinto_core.arrays import Pixels, Progress
from plinto_core.errors import BadRecipe
from plinto_core.imaging.halftone import Shape, am_dots, fm_dots
from plinto_core.kernels.sample import sample_region
from plinto_core.words import say

MARGIN_MM = 12.0
MAX_PIXELS = 1_500_000_000
_ROWS = 512
DEFAULT_ANGLES = {"C": 15.0, "M": 75.0, "Y": 0.0, "K": 45.0}


class FilmRules(BaseModel):
    """How films are exposed.

    resolution : pixels per inch of the film; ruling : lines per inch (AM); angles : degrees by
    plate; dot : size of an FM spot in film pixels; marks : registration marks and names.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    screening: Literal["am", "fm"] = "am"
    resolution: float = Field(1200, ge=72, le=5080)
    ruling: float = Field(65, ge=10, le=300)
    angles: dict[str, float] = Field(default_factory=lambda: dict(DEFAULT_ANGLES))
    shape: Shape = "round"
    dot: int = Field(2, ge=1, le=16)
    marks: bool = True


class FilmSet:
    """The films of one separated picture. `inks` : (height, width, plates) uint8 or uint16."""

    def __init__(
        self,
        inks: Pixels,
        names: tuple[str, ...],
        resolution: tuple[float, float],
        rules: FilmRules,
        title: str,
        *,
        mirror: bool = False,
        negative: bool = False,
    ) -> None:
        self._inks = inks
        self.names = names
        self._rules = rules
        self._title = title
        self._mirror, self._negative = mirror, negative
        self._top = float(np.iinfo(inks.dtype).max)
        height, width = inks.shape[:2]
        self._size = (
            max(1, round(height / resolution[1] * rules.resolution)),
            max(1, round(width / resolution[0] * rules.resolution)),
        )
        self._margin = round(MARGIN_MM / 25.4 * rules.resolution) if rules.marks else 0
        if self.shape[0] * self.shape[1] > MAX_PIXELS:
            raise BadRecipe(say("imaging.film-large", width=self.shape[1], height=self.shape[0]))

    @property
    def shape(self) -> tuple[int, int]:
        """Height and width of a film in pixels, margins included."""
        return self._size[0] + 2 * self._margin, self._size[1] + 2 * self._margin

    def bands(self, plate: int) -> Iterator[np.ndarray]:
        """(rows, width) uint8 bands of a film; 1 is exposed (black)."""
        height, width = self.shape
        marks = self._marks(self.names[plate])
        for start in range(0, height, _ROWS):
            rows = min(_ROWS, height - start)
            band = np.zeros((rows, width), np.uint8)
            first, last = max(start, self._margin), min(start + rows, height - self._margin)
            if first < last:
                dots = self._dots(plate, first - self._margin, last - first)
                band[first - start : last - start, self._margin : self._margin + self._size[1]] = (
                    dots
                )
            for top, left, drawn in marks:
                low, high = max(start, top), min(start + rows, top + drawn.shape[0])
                if low < high:
                    band[low - start : high - start, left : left + drawn.shape[1]] |= drawn[
                        low - top : high - top
                    ]
            if self._negative:
                band = 1 - band
            yield np.ascontiguousarray(band[:, ::-1] if self._mirror else band)

    def _dots(self, plate: int, top: int, rows: int) -> np.ndarray:
        height, width = self._inks.shape[:2]
        high, wide = self._size
        scale = height / high
        low = max(0, int(top * scale) - 2)
        part = np.ascontiguousarray(
            self._inks[low : min(height, int((top + rows) * scale) + 3), :, plate : plate + 1]
        )
        sampled = sample_region(
            part, 0.0, top * scale - low, float(width), rows * scale, wide, rows
        )
        tone = np.asarray(sampled[..., 0], dtype=np.float32) / np.float32(self._top)
        rules = self._rules
        if rules.screening == "fm":
            # Plates take different places of the mask, so that their dots do not coincide.
            return fm_dots(tone, top=top + 17 * plate, left=41 * plate, dot=rules.dot)
        return am_dots(
            tone,
            top=top,
            left=0,
            pitch=rules.resolution / rules.ruling,
            angle=rules.angles.get(self.names[plate], 45.0),
            shape=rules.shape,
        )

    def _marks(self, name: str) -> list[tuple[int, int, np.ndarray]]:
        """Drawn marks with the row and column of their first pixel."""
        if not self._margin:
            return []
        m = self._margin
        height, width = self.shape
        cross = _cross(int(m * 0.7))
        off = (m - cross.shape[0]) // 2
        middle_x, middle_y = (width - cross.shape[1]) // 2, (height - cross.shape[0]) // 2
        found = [
            (off, middle_x, cross),
            (height - m + off, middle_x, cross),
            (middle_y, off, cross),
            (middle_y, width - m + off, cross),
        ]
        text = _text(f"{name}   {self._title}", max(10, int(m * 0.28)), width // 2 - m)
        found.append((height - m + (m - text.shape[0]) // 2, m, text))
        return found


def _cross(side: int) -> np.ndarray:
    """A register mark: a cross in a circle."""
    image = Image.new("L", (side, side), 0)
    draw = ImageDraw.Draw(image)
    line = max(1, side // 40)
    edge = side // 4
    draw.ellipse((edge, edge, side - edge, side - edge), outline=1, width=line)
    draw.line((0, side // 2, side, side // 2), fill=1, width=line)
    draw.line((side // 2, 0, side // 2, side), fill=1, width=line)
    return np.array(image)


def _text(words: str, size: int, room: int) -> np.ndarray:
    """One line of text, cut at `room` pixels."""
    font = ImageFont.load_default(size)
    left, top, right, bottom = (round(v) for v in font.getbbox(words))
    image = Image.new("L", (max(1, min(room, right - left)), max(1, bottom - top)), 0)
    ImageDraw.Draw(image).text((-left, -top), words, fill=255, font=font)
    return np.array(image) // 128


def write_films(
    path: Path, films: FilmSet, rules: FilmRules, kind: str, progress: Progress
) -> None:
    """Write films: kind "TIFF" a ZIP with a TIFF for every plate, "PDF" a page for every plate."""
    if kind == "PDF":
        _write_pdf(path, films, rules, progress)
        return
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as archive:
        for plate, name in enumerate(films.names):
            entry = zipfile.ZipInfo(f"film_{name}.tif", (1980, 1, 1, 0, 0, 0))
            entry.external_attr = 0o644 << 16
            archive.writestr(entry, _tiff(films, plate, rules))
            progress((plate + 1) / len(films.names))


def _packed(films: FilmSet, plate: int) -> np.ndarray:
    return np.concatenate([np.packbits(band, axis=1) for band in films.bands(plate)])


def _tiff(films: FilmSet, plate: int, rules: FilmRules) -> bytes:
    """A one-bit TIFF, white is zero, compressed in strips as they are exposed."""
    buffer = io.BytesIO()
    strips = (zlib.compress(np.packbits(b, axis=1).tobytes(), 6) for b in films.bands(plate))
    with tifffile.TiffWriter(buffer) as tiff:
        tiff.write(
            strips,
            shape=films.shape,
            dtype=bool,
            photometric="miniswhite",
            compression="zlib",
            rowsperstrip=_ROWS,
            resolution=(rules.resolution, rules.resolution),
            resolutionunit="INCH",
            description=f"film {films.names[plate]}",
            metadata=None,
            software=False,
        )
    return buffer.getvalue()


def _write_pdf(path: Path, films: FilmSet, rules: FilmRules, progress: Progress) -> None:
    height, width = films.shape
    size = [width / rules.resolution * 72, height / rules.resolution * 72]
    with pikepdf.new() as pdf:
        with pdf.open_outline() as outline:
            for plate, name in enumerate(films.names):
                image = pikepdf.Stream(
                    pdf,
                    _packed(films, plate).tobytes(),
                    Type=pikepdf.Name.XObject,
                    Subtype=pikepdf.Name.Image,
                    Width=width,
                    Height=height,
                    BitsPerComponent=1,
                    ColorSpace=pikepdf.Name.DeviceGray,
                    Decode=[1, 0],
                )
                pdf.add_blank_page(page_size=(size[0], size[1]))
                page = pdf.pages[-1]
                page.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Film=image))
                draw = f"q {size[0]:.4f} 0 0 {size[1]:.4f} 0 0 cm /Film Do Q"
                page.Contents = pikepdf.Stream(pdf, draw.encode())
                outline.root.append(pikepdf.OutlineItem(f"Plate {name}", plate))
                progress((plate + 1) / len(films.names))
        pdf.save(path, compress_streams=True, static_id=True)
