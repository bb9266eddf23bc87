"""The star atlas: a PDF with every kind of colour that output policies must treat."""

from __future__ import annotations

import io
import zlib
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
from PIL import Image

from plinto_core.transform.standard_spaces import standard_profile

SIZE = (595, 842)
_TEXT = "/Helvetica"


def star_atlas(path: Path, *, pages: int = 6) -> None:
    """Write the atlas: chart, picture, office, spot, mesh and transparency pages, repeated."""
    with pikepdf.new() as pdf:
        makers = (_chart, _pictures, _office, _spots, _shadings, _transparency)
        for number in range(pages):
            content, resources = makers[number % len(makers)](pdf, number + 1)
            resources["/Font"] = pikepdf.Dictionary(
                F1=pikepdf.Dictionary(
                    Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name(_TEXT)
                )
            )
            pdf.add_blank_page(page_size=SIZE)
            page = pdf.pages[-1]
            page.obj["/Resources"] = resources
            title = f"BT /F1 18 Tf 40 800 Td (Ternholm star atlas, sheet {number + 1}) Tj ET\n"
            page.Contents = pikepdf.Stream(pdf, ("0 g\n" + title + content).encode())
            if makers[number % len(makers)] is _transparency:
                page.obj["/Group"] = pikepdf.Dictionary(
                    S=pikepdf.Name.Transparency, CS=pikepdf.Name.DeviceRGB
                )
        pdf.save(path, static_id=True)


def _icc(pdf: pikepdf.Pdf, key: str) -> Any:
    profile = standard_profile(key)
    stream = pikepdf.Stream(pdf, profile.data, N=profile.channels)
    return pikepdf.Array([pikepdf.Name.ICCBased, pdf.make_indirect(stream)])


def _image(pdf: pikepdf.Pdf, pixels: np.ndarray, space: Any, **extra: Any) -> Any:
    height, width = pixels.shape[:2]
    return pdf.make_indirect(
        pikepdf.Stream(
            pdf,
            zlib.compress(np.ascontiguousarray(pixels).tobytes()),
            Type=pikepdf.Name.XObject,
            Subtype=pikepdf.Name.Image,
            Width=width,
            Height=height,
            BitsPerComponent=8,
            ColorSpace=space,
            Filter=pikepdf.Name.FlateDecode,
            **extra,
        )
    )


def nebula(width: int, height: int, channels: int = 3) -> np.ndarray:
    """(height, width, channels) uint8 of glowing clouds."""
    y, x = np.mgrid[0:height, 0:width]
    u, v = x / width, y / height
    parts = [
        0.5 + 0.5 * np.sin(9 * u + 4 * v),
        0.3 + 0.3 * np.cos(7 * v - 3 * u),
        0.55 + 0.45 * np.sin(5 * u * v + 2),
        0.2 + 0.2 * np.sin(11 * v),
    ]
    whole = np.clip(np.stack(parts[:channels], axis=-1), 0, 1)
    return np.asarray(np.round(whole * 255), dtype=np.uint8)


def _chart(pdf: pikepdf.Pdf, number: int) -> tuple[str, Any]:
    rng = np.random.default_rng(number)
    lines = ["0.5 0.5 0.5 RG 0.5 w"]
    lines += [f"40 {y} m 555 {y} l S" for y in range(120, 780, 60)]
    lines.append("/CS0 CS 0.1 0.2 0.9 SCN 1 w 100 200 m 480 640 l S")
    lines.append("0.05 0.1 0.35 rg 60 140 200 90 re f 1 0 0 rg 300 140 40 40 re f")
    for x, y, r in rng.uniform((60, 260, 1), (540, 760, 4), (60, 3)):
        lines.append(f"0 0 0 1 k {x:.1f} {y:.1f} {r:.1f} {r:.1f} re f")
    lines.append("0.9 0.8 0.7 0.6 k 420 140 60 40 re f")
    lines.append("BT /F1 10 Tf 0 g 60 240 Td (Magnitudes to 6.5) Tj ET")
    spaces = pikepdf.Dictionary(CS0=_icc(pdf, "oprgb"))
    return "\n".join(lines), pikepdf.Dictionary(ColorSpace=spaces)


def _pictures(pdf: pikepdf.Pdf, number: int) -> tuple[str, Any]:
    buffer = io.BytesIO()
    Image.fromarray(nebula(600, 400)).save(buffer, "JPEG", quality=92)
    photograph = pdf.make_indirect(
        pikepdf.Stream(
            pdf,
            buffer.getvalue(),
            Type=pikepdf.Name.XObject,
            Subtype=pikepdf.Name.Image,
            Width=600,
            Height=400,
            BitsPerComponent=8,
            ColorSpace=_icc(pdf, "srgb"),
            Filter=pikepdf.Name.DCTDecode,
        )
    )
    objects = pikepdf.Dictionary(
        Tagged=photograph,
        Untagged=_image(pdf, nebula(300, 200), pikepdf.Name.DeviceRGB),
        Fine=_image(pdf, nebula(900, 600), pikepdf.Name.DeviceRGB),
        Grey=_image(pdf, nebula(200, 150, 1), pikepdf.Name.DeviceGray),
        Inks=_image(pdf, nebula(200, 150, 4), pikepdf.Name.DeviceCMYK),
    )
    places = (("Tagged", 40, 520, 240, 160), ("Untagged", 310, 520, 240, 160), ("Fine", 40, 400, 108, 72), ("Grey", 200, 380, 120, 90), ("Inks", 360, 380, 120, 90))  # fmt: skip
    content = "\n".join(f"q {w} 0 0 {h} {x} {y} cm /{n} Do Q" for n, x, y, w, h in places)
    return content, pikepdf.Dictionary(XObject=objects)


def _office(pdf: pikepdf.Pdf, number: int) -> tuple[str, Any]:
    lines = []
    for i, shade in enumerate((0.0, 0.25, 0.5, 0.75)):
        lines.append(f"{shade} {shade} {shade} rg 60 {650 - 60 * i} 480 40 re f")
    for i, colour in enumerate(("1 0 0", "0 1 0", "0 0 1", "1 1 0")):
        lines.append(f"{colour} rg {60 + 90 * i} 300 70 70 re f")
    lines.append("0.2 0.2 0.2 rg BT /F1 11 Tf 60 260 Td (Visitors by month, all domes) Tj ET")
    return "\n".join(lines), pikepdf.Dictionary()


def _spots(pdf: pikepdf.Pdf, number: int) -> tuple[str, Any]:
    tint = pdf.make_indirect(
        pikepdf.Dictionary(
            FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=[0, 0.9, 0.8, 0.05], N=1
        )
    )
    red = pikepdf.Array(
        [pikepdf.Name.Separation, pikepdf.Name("/Ternholm Red"), pikepdf.Name.DeviceCMYK, tint]
    )
    lab = pikepdf.Array(
        [
            pikepdf.Name.Lab,
            pikepdf.Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-128, 127, -128, 127]),
        ]
    )
    content = "/Spot cs 1 scn 60 600 200 120 re f 0.4 scn 280 600 200 120 re f\n/Lab0 cs 55 60 40 scn 60 440 200 100 re f 70 -30 20 scn 280 440 200 100 re f"
    return content, pikepdf.Dictionary(ColorSpace=pikepdf.Dictionary(Spot=red, Lab0=lab))


def _shadings(pdf: pikepdf.Pdf, number: int) -> tuple[str, Any]:
    def ramp(a: list[float], b: list[float]) -> Any:
        return pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=a, C1=b, N=1)

    axial = pikepdf.Dictionary(
        ShadingType=2,
        ColorSpace=pikepdf.Name.DeviceRGB,
        Coords=[60, 500, 540, 500],
        Function=ramp([0.02, 0.05, 0.3], [0.4, 0.9, 1]),
        Extend=[True, True],
    )
    radial = pikepdf.Dictionary(
        ShadingType=3,
        ColorSpace=pikepdf.Name.DeviceCMYK,
        Coords=[160, 300, 0, 160, 300, 90],
        Function=ramp([0, 0.1, 0.9, 0], [0.9, 0.7, 0.1, 0.3]),
    )
    cell = pikepdf.Stream(
        pdf,
        b"0.9 0.7 0.1 rg 2 2 6 6 re f",
        Type=pikepdf.Name.Pattern,
        PatternType=1,
        PaintType=1,
        TilingType=1,
        BBox=[0, 0, 12, 12],
        XStep=12,
        YStep=12,
        Resources=pikepdf.Dictionary(),
    )
    content = "q 60 480 480 200 re W n /Sh1 sh Q q 60 200 220 200 re W n /Sh2 sh Q\n/Pattern cs /P1 scn 320 200 220 200 re f"
    return content, pikepdf.Dictionary(
        Shading=pikepdf.Dictionary(Sh1=pdf.make_indirect(axial), Sh2=pdf.make_indirect(radial)),
        Pattern=pikepdf.Dictionary(P1=pdf.make_indirect(cell)),
    )


def _transparency(pdf: pikepdf.Pdf, number: int) -> tuple[str, Any]:
    form = pikepdf.Stream(
        pdf,
        b"0.1 0.8 0.5 rg 0 0 200 200 re f 0.9 0.2 0.6 rg 60 60 200 200 re f",
        Type=pikepdf.Name.XObject,
        Subtype=pikepdf.Name.Form,
        BBox=[0, 0, 260, 260],
        Resources=pikepdf.Dictionary(),
        Group=pikepdf.Dictionary(S=pikepdf.Name.Transparency, CS=pikepdf.Name.DeviceRGB),
    )
    content = "0 0.6 0.9 rg 80 380 300 300 re f\nq /Half gs 1 0 0 1 180 280 cm /Fm Do Q"
    return content, pikepdf.Dictionary(
        XObject=pikepdf.Dictionary(Fm=pdf.make_indirect(form)),
        ExtGState=pikepdf.Dictionary(Half=pikepdf.Dictionary(ca=0.5, CA=0.5)),
    )
