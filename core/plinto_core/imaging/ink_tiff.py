"""TIFF pictures of any inks (TIFF 6.0, section 16): the tags that say which ink each channel is."""

from __future__ import annotations

import struct
from pathlib import Path
from typing import Any

import tifffile

from plinto_core.icc.colorants import SHORT, long_name

INK_SET, INK_NAMES, NUMBER_OF_INKS, DOT_RANGE = 332, 333, 334, 336
_EXTRA_SAMPLES, _PHOTOMETRIC, _SEPARATED = 338, 262, 5
_NOT_CMYK = 2


def ink_tags(inks: tuple[str, ...], bits: int) -> list[tuple[int, int, int, Any, bool]]:
    """InkSet (not CMYK), InkNames, NumberOfInks and DotRange, as tifffile takes tags of one's own."""
    names = b"".join(long_name(n).encode("ascii", "replace") + b"\0" for n in inks)
    return [
        (INK_SET, 3, 1, _NOT_CMYK, True),
        (INK_NAMES, 2, len(names), names, True),
        (NUMBER_OF_INKS, 3, 1, len(inks), True),
        (DOT_RANGE, 3, 2, (0, (1 << bits) - 1), True),
    ]


def mark_separated(path: Path) -> None:
    """Make a picture that was written as grey with extra channels one of inks, all of them its own.

    The library that writes takes a separated picture for CMYK, and calls every further ink an extra
    sample; all samples are inks here, so the tag has to go.
    """
    with tifffile.TiffFile(path, mode="r+") as tiff:
        page = tiff.pages[0]
        assert isinstance(page, tifffile.TiffPage)
        page.tags[_PHOTOMETRIC].overwrite(_SEPARATED)
        at = page.offset
        order, big = tiff.byteorder, tiff.is_bigtiff
    if _EXTRA_SAMPLES in page.tags:
        _drop_tag(path, at, _EXTRA_SAMPLES, order, big)


def _drop_tag(path: Path, directory: int, code: int, order: str, big: bool) -> None:
    """Take an entry out of a directory; what follows moves up."""
    count_format, size, end = (order + "Q", 20, 8) if big else (order + "H", 12, 4)
    width = struct.calcsize(count_format)
    with path.open("r+b") as file:
        file.seek(directory)
        (count,) = struct.unpack(count_format, file.read(width))
        body = file.read(count * size + end)
        entries = [body[i * size : (i + 1) * size] for i in range(count)]
        left = [e for e in entries if struct.unpack(order + "H", e[:2])[0] != code]
        file.seek(directory)
        file.write(struct.pack(count_format, len(left)) + b"".join(left) + body[count * size :])


def names_of(page: tifffile.TiffPage) -> tuple[str, ...]:
    """What a picture's inks are called in its InkNames, C, M, Y, K for the process inks; () where it
    names none, or not each of them."""
    given = page.tags.valueof(INK_NAMES)
    if not isinstance(given, (str, bytes)):
        return ()
    text = given.decode("latin-1") if isinstance(given, bytes) else given
    names = tuple(" ".join(n.split()) for n in text.rstrip("\0").split("\0"))
    short = tuple(SHORT.get(n.casefold(), n) for n in names)
    usable = all(short) and len(set(short)) == len(short) == page.samplesperpixel
    return short if usable else ()
