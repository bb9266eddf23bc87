"""A PDF of one picture (ISO 32000): lossless image, profile and output intent where wanted."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from pathlib import Path

import imagecodecs
import numpy as np
import pikepdf

from plinto_core.arrays import Pixels
from plinto_core.icc.profile import Profile
from plinto_core.imaging.pdf_inks import device_n

_SPACES = {1: "DeviceGray", 3: "DeviceRGB", 4: "DeviceCMYK"}


def write_picture_pdf(
    path: Path,
    bands: Iterator[Pixels],
    shape: tuple[int, int, int],
    profile: bytes | None,
    resolution: tuple[float, float] | None,
    inks: tuple[str, ...] = (),
) -> None:
    """One page of the picture's print size; without a resolution 72 pixels make an inch.

    inks : names of channels that are other inks than the four of the process; the profile says then
    how they look, and stands in no output intent, which has no place for such inks (ISO 15930-7, 6.2.2).
    """
    height, width, channels = shape
    squeeze = zlib.compressobj(6)
    packed: list[bytes] = []
    bits = 8
    for band in bands:
        bits = band.dtype.itemsize * 8
        delta = imagecodecs.delta_encode(np.ascontiguousarray(band), axis=1)
        packed.append(squeeze.compress(np.asarray(delta).astype(f">u{bits // 8}").tobytes()))
    packed.append(squeeze.flush())
    x, y = resolution or (72.0, 72.0)
    size = (width / x * 72, height / y * 72)
    with pikepdf.new() as pdf:
        colours: pikepdf.Object
        if inks:
            assert profile is not None
            colours = device_n(pdf, inks, Profile(profile))
        else:
            colours = space = pikepdf.Name(f"/{_SPACES[channels]}")
        if profile is not None and not inks:
            stream = pikepdf.Stream(pdf, profile, N=channels, Alternate=space)
            icc = pdf.make_indirect(stream)
            colours = pikepdf.Array([pikepdf.Name.ICCBased, icc])
            if Profile(profile).header.device_class == "prtr":
                pdf.Root.OutputIntents = _output_intent(Profile(profile).description, icc)
        image = pikepdf.Stream(
            pdf,
            b"".join(packed),
            Type=pikepdf.Name.XObject,
            Subtype=pikepdf.Name.Image,
            Width=width,
            Height=height,
            BitsPerComponent=bits,
            ColorSpace=colours,
            Filter=pikepdf.Name.FlateDecode,
            DecodeParms=pikepdf.Dictionary(
                Predictor=2, Colors=channels, BitsPerComponent=bits, Columns=width
            ),
        )
        pdf.add_blank_page(page_size=size)
        page = pdf.pages[0]
        page.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Picture=image))
        draw = f"q {size[0]:.4f} 0 0 {size[1]:.4f} 0 0 cm /Picture Do Q"
        page.Contents = pikepdf.Stream(pdf, draw.encode())
        pdf.save(path, static_id=True, recompress_flate=False)


def _output_intent(name: str, icc: pikepdf.Object) -> pikepdf.Array:
    """Only output profiles may stand in an output intent (ISO 15930-7, 6.2.2)."""
    intent = pikepdf.Dictionary(
        Type=pikepdf.Name.OutputIntent,
        S=pikepdf.Name.GTS_PDFX,
        OutputConditionIdentifier=pikepdf.String(name),
        Info=pikepdf.String(name),
        DestOutputProfile=icc,
    )
    return pikepdf.Array([intent])
