"""One small document for every construct that a policy must treat; each entry draws on a Paper."""

from __future__ import annotations

import base64
import io
from collections.abc import Callable
from typing import Any

import imagecodecs
import numpy as np
from pikepdf import Array, Dictionary, Name, Stream, String
from PIL import Image

from paperwork import Paper
from plinto_core.transform.standard_spaces import standard_profile

PLACE = "q 180 0 0 80 10 10 cm /Im Do Q"
_y, _x = np.mgrid[0:40, 0:80]
RGB = np.round(np.stack([60 + _x * 2, 40 + _y * 4, 220 - _x * 2], axis=-1)).astype(np.uint8)
INKS = np.stack([_x * 3, _y * 5, 200 - _x * 2, _y * 0], axis=-1).astype(np.uint8)


def stream(paper: Paper, data: bytes, **extra: Any) -> Any:
    return paper.pdf.make_indirect(Stream(paper.pdf, data, **extra))


def form(paper: Paper, content: bytes, **extra: Any) -> Any:
    return stream(
        paper, content, Type=Name.XObject, Subtype=Name.Form, BBox=[0, 0, 200, 100], **extra
    )


def packed(
    paper: Paper, data: bytes, filter_name: str, space: Any = Name.DeviceRGB, **extra: Any
) -> str:
    image = stream(
        paper, data, Type=Name.XObject, Subtype=Name.Image, Width=80, Height=40,
        ColorSpace=space, Filter=Name(f"/{filter_name}"), **{"BitsPerComponent": 8, **extra},
    )  # fmt: skip
    paper.put("/XObject", "/Im", image)
    return PLACE


def ramp(a: list[float], b: list[float]) -> Any:
    return Dictionary(FunctionType=2, Domain=[0, 1], C0=a, C1=b, N=1)


def separation(name: str = "Ternholm Red") -> Any:
    return Array(
        [Name.Separation, Name(f"/{name}"), Name.DeviceCMYK, ramp([0] * 4, [0, 0.9, 0.7, 0])]
    )


def icc(paper: Paper, key: str) -> Any:
    profile = standard_profile(key)
    return Array([Name.ICCBased, stream(paper, profile.data, N=profile.channels)])


def operators(paper: Paper) -> str:
    return (
        "0.2 0.5 0.3 rg 10 10 60 80 re f 0.3 0.6 0.1 0.1 k 75 10 60 80 re f 0.4 g 140 10 50 80 re f "
        "0.8 0.3 0.2 RG 0.9 0.1 0.1 0 K 0.6 G 4 w 5 5 m 195 95 l S"
    )


def chosen_spaces(paper: Paper) -> str:
    paper.put("/ColorSpace", "/O", icc(paper, "oprgb"))
    paper.put("/ColorSpace", "/W", Array([Name.CalRGB, Dictionary(WhitePoint=[0.9505, 1, 1.089], Gamma=[2.2] * 3, Matrix=[0.4124, 0.2126, 0.0193, 0.3576, 0.7152, 0.1192, 0.1805, 0.0722, 0.9505])]))  # fmt: skip
    paper.put("/ColorSpace", "/L", Array([Name.Lab, Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-100, 100, -100, 100])]))  # fmt: skip
    return (
        "/O cs 0.3 0.5 0.4 scn 10 10 50 80 re f /W cs 0.5 0.4 0.6 scn 70 10 50 80 re f "
        "/L cs 60 20 10 scn 130 10 50 80 re f"
    )


def nested_forms(paper: Paper) -> str:
    deep = form(paper, b"0.3 0.5 0.3 rg 20 20 60 60 re f")
    paper.put("/XObject", "/Fm", form(paper, b"0.6 0.4 0.3 rg 0 0 150 90 re f /Deep Do", Resources=Dictionary(XObject=Dictionary(Deep=deep))))  # fmt: skip
    return "/Fm Do"


def _cell(paper: Paper, content: bytes, paint: int) -> Any:
    return stream(paper, content, Type=Name.Pattern, PatternType=1, PaintType=paint, TilingType=1, BBox=[0, 0, 20, 20], XStep=20, YStep=20, Resources=Dictionary())  # fmt: skip


def coloured_tiling(paper: Paper) -> str:
    paper.put("/Pattern", "/P", _cell(paper, b"0.3 0.4 0.7 rg 0 0 12 12 re f", 1))
    return "/Pattern cs /P scn 10 10 180 80 re f"


def plain_tiling(paper: Paper) -> str:
    paper.put("/Pattern", "/U", _cell(paper, b"0 0 12 12 re f", 2))
    paper.put("/ColorSpace", "/PU", Array([Name.Pattern, Name.DeviceRGB]))
    return "/PU cs 0.5 0.3 0.4 /U scn 10 10 180 80 re f"


def shading(kind: int, *, as_pattern: bool = False) -> Callable[[Paper], str]:
    def draw(paper: Paper) -> str:
        made: Any = Dictionary(ShadingType=kind, ColorSpace=Name.DeviceRGB, Function=ramp([0.3, 0.4, 0.6], [0.7, 0.6, 0.3]))  # fmt: skip
        if kind == 1:
            program = stream(
                paper, b"{ 0.5 }", FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * 3
            )
            made = Dictionary(ShadingType=1, ColorSpace=Name.DeviceRGB, Function=program, Matrix=[200, 0, 0, 100, 0, 0])  # fmt: skip
        elif kind == 2:
            made["/Coords"], made["/Extend"] = [10, 0, 190, 0], [True, True]
        elif kind == 3:
            made["/Coords"] = [100, 50, 0, 100, 50, 50]
        else:
            return _mesh(paper, kind)
        indirect = paper.pdf.make_indirect(made)
        if not as_pattern:
            paper.put("/Shading", "/Sh", indirect)
            return "q 10 10 180 80 re W n /Sh sh Q"
        paper.put("/Pattern", "/S", Dictionary(PatternType=2, Shading=indirect))
        return "/Pattern cs /S scn 10 10 180 80 re f"

    return draw


def _mesh(paper: Paper, kind: int) -> str:
    colours = [[150, 100, 90], [90, 140, 100], [100, 110, 160], [160, 150, 110]]
    square = [(20, 20), (20, 230), (230, 230), (230, 20)]
    if kind in (4, 5):
        order = [0, 1, 2, 0, 2, 3] if kind == 4 else [0, 3, 1, 2]
        flag = b"\0" if kind == 4 else b""
        data = b"".join(flag + bytes(square[i]) + bytes(colours[i]) for i in order)
    else:
        edge = []
        for i in range(4):
            (ax, ay), (bx, by) = square[i], square[(i + 1) % 4]
            edge += [
                (round(ax + (bx - ax) * t / 3), round(ay + (by - ay) * t / 3)) for t in range(3)
            ]
        inner = [(90, 90), (90, 160), (160, 160), (160, 90)] if kind == 7 else []
        points = b"".join(bytes(p) for p in [*edge, *inner])
        data = b"\0" + points + b"".join(bytes(c) for c in colours)
    extra = {"VerticesPerRow": 2} if kind == 5 else {"BitsPerFlag": 8}
    made = stream(paper, data, ShadingType=kind, ColorSpace=Name.DeviceRGB, BitsPerCoordinate=8, BitsPerComponent=8, Decode=[0, 200, 0, 100, 0, 1, 0, 1, 0, 1], **extra)  # fmt: skip
    paper.put("/Shading", "/Sh", made)
    return "/Sh sh"


def flate(paper: Paper) -> str:
    paper.put("/XObject", "/Im", paper.image(RGB, Name.DeviceRGB))
    return PLACE


def flate_16(paper: Paper) -> str:
    paper.put("/XObject", "/Im", paper.image(RGB.astype(">u2") * 257, Name.DeviceRGB, 16))
    return PLACE


def inks(paper: Paper) -> str:
    paper.put("/XObject", "/Im", paper.image(INKS, Name.DeviceCMYK))
    return PLACE


def jpeg(paper: Paper) -> str:
    buffer = io.BytesIO()
    Image.fromarray(RGB).save(buffer, "JPEG", quality=97, subsampling=0)
    return packed(paper, buffer.getvalue(), "DCTDecode")


def jpeg_2000(paper: Paper) -> str:
    return packed(paper, bytes(imagecodecs.jpeg2k_encode(RGB, level=0)), "JPXDecode")


def lzw(paper: Paper) -> str:
    return packed(paper, bytes(imagecodecs.lzw_encode(RGB.tobytes())), "LZWDecode")


def run_length(paper: Paper) -> str:
    raw = RGB.tobytes()
    runs = (raw[i : i + 128] for i in range(0, len(raw), 128))
    return packed(
        paper, b"".join(bytes([len(r) - 1]) + r for r in runs) + b"\x80", "RunLengthDecode"
    )


def ascii_85(paper: Paper) -> str:
    return packed(paper, base64.a85encode(RGB.tobytes()) + b"~>", "ASCII85Decode")


def fax(paper: Paper) -> str:
    """Every row half black, as group 4 codes it: one horizontal run, then nothing but "as above"."""
    buffer = io.BytesIO()
    pixels = np.zeros((40, 80), bool)
    pixels[:, 40:] = True
    Image.fromarray(pixels).save(buffer, "TIFF", compression="group4")
    with Image.open(buffer) as opened:
        offset, length = opened.tag_v2[273][0], opened.tag_v2[279][0]
        black_is_one = opened.tag_v2[262] == 1
    data = buffer.getvalue()[offset : offset + length]
    parameters = Dictionary(K=-1, Columns=80, Rows=40, BlackIs1=black_is_one)
    return packed(paper, data, "CCITTFaxDecode", Name.DeviceGray, BitsPerComponent=1, DecodeParms=parameters)  # fmt: skip


def inline(paper: Paper) -> str:
    pixels = RGB[::8, ::8].tobytes().hex()
    return f"q 180 0 0 80 10 10 cm BI /W 10 /H 5 /BPC 8 /CS /RGB /F /AHx ID {pixels}> EI Q"


def indexed(paper: Paper) -> str:
    table = np.array([[150, 90, 90], [80, 120, 150], [220, 220, 220], [90, 90, 90]], np.uint8)
    space = Array([Name.Indexed, Name.DeviceRGB, 3, String(table.tobytes())])
    index = ((_x // 20) % 4).astype(np.uint8)[..., None]
    paper.put("/XObject", "/Im", paper.image(index, space))
    return PLACE


def decode(paper: Paper) -> str:
    paper.put("/XObject", "/Im", paper.image(RGB, Name.DeviceRGB, Decode=[1, 0, 0, 1, 0.2, 0.8]))
    return PLACE


def colour_key(paper: Paper) -> str:
    keyed = RGB.copy()
    keyed[:20, :40] = (0, 255, 0)
    paper.put("/XObject", "/Im", paper.image(keyed, Name.DeviceRGB, Mask=[0, 0, 255, 255, 0, 0]))
    return PLACE


def soft_mask(paper: Paper) -> str:
    fade = np.tile(np.linspace(0, 255, 80).astype(np.uint8), (40, 1))[..., None]
    paper.put("/XObject", "/Im", paper.image(RGB, Name.DeviceRGB, SMask=paper.image(fade, Name.DeviceGray)))  # fmt: skip
    return PLACE


def stencil(paper: Paper) -> str:
    mask = stream(paper, bytes([0b11110000] * 8), Type=Name.XObject, Subtype=Name.Image, Width=8, Height=8, BitsPerComponent=1, ImageMask=True)  # fmt: skip
    paper.put("/XObject", "/Im", mask)
    return f"0.5 0.3 0.6 rg {PLACE}"


def spot(paper: Paper) -> str:
    paper.put("/ColorSpace", "/S", separation())
    return "/S cs 1 scn 10 10 80 80 re f 0.4 scn 100 10 80 80 re f"


def device_n(paper: Paper) -> str:
    tint = stream(paper, b"{ 0 exch 0 }", FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * 4)
    paper.put("/ColorSpace", "/N", Array([Name.DeviceN, Array([Name.Cyan, Name("/Ternholm Red")]), Name.DeviceCMYK, tint]))  # fmt: skip
    return "/N cs 0.5 0.3 scn 10 10 180 80 re f"


def group(paper: Paper) -> str:
    paper.put("/XObject", "/Fm", form(paper, b"0.4 0.6 0.5 rg 0 0 120 90 re f", Group=Dictionary(S=Name.Transparency, CS=Name.DeviceRGB)))  # fmt: skip
    return "0.6 0.5 0.4 rg 60 5 120 90 re f /Fm Do"


def default_spaces(paper: Paper) -> str:
    paper.put("/ColorSpace", "/DefaultRGB", icc(paper, "oprgb"))
    return "0.4 0.6 0.5 rg 10 10 180 80 re f"


def glyphs(paper: Paper) -> str:
    glyph = stream(paper, b"10 0 d0 0.3 0.5 0.6 rg 0 0 8 8 re f")
    font = Dictionary(Type=Name.Font, Subtype=Name.Type3, FontBBox=[0, 0, 10, 10], FontMatrix=[0.1, 0, 0, 0.1, 0, 0], CharProcs=Dictionary(a=glyph), Encoding=Dictionary(Differences=[97, Name("/a")]), FirstChar=97, LastChar=97, Widths=[10])  # fmt: skip
    paper.put("/Font", "/T3", paper.pdf.make_indirect(font))
    return "BT /T3 80 Tf 10 10 Td (aa) Tj ET"


def annotation(paper: Paper) -> str:
    look = form(paper, b"0.5 0.4 0.6 rg 0 0 200 100 re f")
    paper.page.obj["/Annots"] = Array([Dictionary(Type=Name.Annot, Subtype=Name.Stamp, Rect=[10, 10, 190, 90], F=4, AP=Dictionary(N=look))])  # fmt: skip
    return ""


def overprint(paper: Paper) -> str:
    paper.put("/ExtGState", "/Over", Dictionary(OP=True, op=True, OPM=1))
    return "/Over gs 0.4 0.5 0.6 rg 10 10 180 80 re f"


def inherited(paper: Paper) -> str:
    resources = paper.page.obj["/Resources"]
    resources["/ColorSpace"] = Dictionary(O=icc(paper, "oprgb"))
    paper.pdf.Root.Pages["/Resources"] = resources
    del paper.page.obj["/Resources"]
    return "/O cs 0.4 0.6 0.5 scn 10 10 180 80 re f"


CORPUS: dict[str, Callable[[Paper], str]] = {
    "operators": operators, "chosen spaces": chosen_spaces, "nested forms": nested_forms,
    "coloured tiling": coloured_tiling, "plain tiling": plain_tiling,
    **{f"shading {k}": shading(k) for k in range(1, 8)},
    "shading pattern": shading(2, as_pattern=True),
    "flate": flate, "flate 16": flate_16, "inks": inks, "jpeg": jpeg, "jpeg 2000": jpeg_2000, "lzw": lzw,
    "run length": run_length, "ascii 85": ascii_85, "fax": fax, "inline": inline, "indexed": indexed,
    "decode": decode, "colour key": colour_key, "soft mask": soft_mask, "stencil": stencil,
    "spot": spot, "device n": device_n, "group": group, "default spaces": default_spaces,
    "glyphs": glyphs, "annotation": annotation, "overprint": overprint, "inherited": inherited,
}  # fmt: skip
