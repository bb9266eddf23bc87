"""Large pictures in bands, thousands of small ones, meshes of any layout: the same numbers, no more room."""

from __future__ import annotations

import zlib

import numpy as np
import pikepdf
import pytest

from plinto_core.document.pdf import bounds
from plinto_core.document.pdf.bounds import inflated_steps, read_bounded
from plinto_core.document.pdf.images import image_facts, packed, packed_bands, read_samples
from plinto_core.document.pdf.shadings import converted_shading, shading_samples
from plinto_core.document.pdf.spaces import read_space
from plinto_core.errors import BadDocument
from plinto_core.kernels.apply import CHUNK
from plinto_core.transform.link import DeviceLink

RNG = np.random.default_rng(12)


@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
@pytest.mark.parametrize("channels", [1, 4])
def test_bands_are_packed_as_the_whole(dtype, channels) -> None:
    pixels = RNG.integers(0, np.iinfo(dtype).max + 1, (70, 33, channels)).astype(dtype)
    whole, how = packed(pixels, None)
    parts, again = packed_bands(pixels[i : i + 16] for i in range(0, 70, 16))
    assert how["DecodeParms"] == again["DecodeParms"]
    pdf = pikepdf.new()
    for data in (whole, parts):
        stream = pikepdf.Stream(pdf, data, Filter=how["Filter"], DecodeParms=how["DecodeParms"])
        stored = np.frombuffer(stream.read_bytes(), f">u{pixels.dtype.itemsize}")
        assert (stored.reshape(pixels.shape) == pixels).all()


def test_a_picture_of_several_bands_is_converted_as_one(paper, converted, monkeypatch) -> None:
    rgb = RNG.integers(0, 256, (90, 40, 3)).astype(np.uint8)
    made = []
    for pixels in (1 << 20, 40 * 16):
        monkeypatch.setattr("plinto_core.document.walking.pictures._BAND", pixels)
        # Looked at by samples, so that the look does not convert it already.
        monkeypatch.setattr("plinto_core.document.walking.pictures._SAMPLE", 900)
        paper.put("/XObject", "/Im", paper.image(rgb, pikepdf.Name.DeviceRGB))
        _, pdf = converted(paper, "q 100 0 0 50 0 0 cm /Im Do Q")
        made.append(pdf.pages[0].Resources.XObject.Im.read_bytes())
    assert len(made[0]) == 90 * 40 * 4
    assert made[0] == made[1]


def test_a_picture_that_is_looked_at_whole_is_converted_once(paper, converted, monkeypatch) -> None:
    calls = []
    kept = DeviceLink.apply
    monkeypatch.setattr(
        DeviceLink, "apply", lambda self, pixels, **k: calls.append(1) or kept(self, pixels, **k)
    )
    rgb = RNG.integers(0, 256, (20, 30, 3)).astype(np.uint8)
    paper.put("/XObject", "/Im", paper.image(rgb, pikepdf.Name.DeviceRGB))
    converted(paper, "q 100 0 0 50 0 0 cm /Im Do Q")
    assert len(calls) == 1


def test_hundreds_of_inline_images_have_names_of_their_own(paper, converted) -> None:
    one = b"q 4 0 0 4 %d %d cm BI /W 2 /H 2 /CS /RGB /BPC 8 ID %s EI Q\n"
    colours = [bytes(RNG.integers(97, 122, 12, dtype=np.uint8)) for _ in range(300)]
    content = b"".join(one % (i % 30 * 5, i // 30 * 5, c) for i, c in enumerate(colours))
    report, pdf = converted(paper, content.decode("latin-1"))
    assert report.not_handled == ()
    names = [n for n in pdf.pages[0].Resources.XObject if n.startswith("/PlintoInline")]
    assert len(names) == 300
    drawn = [
        str(i.operands[0])
        for i in pikepdf.parse_content_stream(pdf.pages[0])
        if str(i.operator) == "Do"
    ]
    assert sorted(drawn) == sorted(names)


def test_few_pixels_and_many_get_the_same_inks() -> None:
    for inputs, size in ((3, 9), (4, 5)):
        nodes = RNG.random((size**inputs, 4)).astype(np.float32)
        link = DeviceLink(inputs, 4, size, nodes)
        for dtype, bits in ((np.uint8, 8), (np.uint16, 16)):
            pixels = RNG.integers(0, np.iinfo(dtype).max + 1, (CHUNK + 50, inputs)).astype(dtype)
            many = link.apply(pixels, bits=bits)
            assert (link.apply(pixels[:CHUNK], bits=bits) == many[:CHUNK]).all()
            assert (link.apply(pixels[:7], bits=bits) == many[:7]).all()


def test_the_small_table_is_kept_for_each_depth() -> None:
    link = DeviceLink(3, 6, 3, RNG.random((27, 6)).astype(np.float32))
    pixels = RNG.integers(0, 256, (5, 3)).astype(np.uint8)
    first = [link.apply(pixels, bits=b) for b in (8, 16)]
    again = [link.apply(pixels, bits=b) for b in (8, 16)]
    assert all((a == b).all() for a, b in zip(first, again, strict=True))
    assert np.abs(first[1] / 257.0 - first[0]).max() <= 0.51


def test_deflated_data_come_in_steps(monkeypatch) -> None:
    data = bytes(300_000) + RNG.integers(0, 256, 300_000, dtype=np.uint8).tobytes()
    monkeypatch.setattr(bounds, "_STEP", 10_000)
    steps = list(inflated_steps(zlib.compress(data) + b"what stands behind"))
    assert b"".join(steps) == data
    assert max(map(len, steps)) <= 10_000
    with pytest.raises(zlib.error):
        list(inflated_steps(b"no deflated data"))
    cut = b"".join(inflated_steps(zlib.compress(data)[:-2000]))
    assert data.startswith(cut)
    assert len(data) - 5000 < len(cut) < len(data)


def test_what_unpacks_to_more_than_its_bound_is_refused() -> None:
    pdf = pikepdf.new()
    stream = pikepdf.Stream(pdf, zlib.compress(bytes(2_000_000)), Filter=pikepdf.Name.FlateDecode)
    assert len(read_bounded(stream, 2_000_000, "A mesh")) == 2_000_000
    with pytest.raises(BadDocument):
        read_bounded(stream, 1_999_999, "A mesh")


@pytest.mark.parametrize("damage", ["none", "short", "broken", "predicted"])
def test_large_pictures_are_read_as_small_ones(monkeypatch, damage) -> None:
    rgb = RNG.integers(0, 256, (40, 30, 3)).astype(np.uint8)
    pdf = pikepdf.new()
    data, extra = zlib.compress(rgb.tobytes()), {}
    if damage == "short":
        data = zlib.compress(rgb.tobytes()[:-200])
    if damage == "broken":
        data = data[: len(data) // 2] + b"xxxx" + data[len(data) // 2 :]
    if damage == "predicted":
        data, extra = packed(rgb, None)
        extra = {"DecodeParms": extra["DecodeParms"]}
    image = pikepdf.Stream(
        pdf, data, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=30, Height=40,
        BitsPerComponent=8, ColorSpace=pikepdf.Name.DeviceRGB, Filter=pikepdf.Name.FlateDecode, **extra,
    )  # fmt: skip

    def read():
        try:
            return read_samples(image, image_facts(image, None)).tobytes()
        except BadDocument as error:
            return error.said.code

    small = read()
    monkeypatch.setattr("plinto_core.document.pdf.images._LARGE", 0)
    assert read() == small
    assert (small == rgb.tobytes()) == (damage in ("none", "predicted"))


def bits(value: int, width: int) -> str:
    return format(value, f"0{width}b") if width else ""


@pytest.mark.parametrize("kind", [4, 5, 6, 7])
@pytest.mark.parametrize(
    ("coordinate", "component", "flag"), [(16, 8, 8), (12, 4, 2), (32, 16, 4), (1, 12, 8)]
)
def test_meshes_of_every_layout_keep_their_points_and_change_their_colours(
    kind, coordinate, component, flag, monkeypatch
) -> None:
    monkeypatch.setattr("plinto_core.document.pdf.shadings._AT_ONCE", 7)
    points, corners = {4: (1, 1), 5: (1, 1), 6: (12, 4), 7: (16, 4)}[kind]
    flag = flag if kind != 5 else 0
    rows, wanted = [], []
    for i in range(25):
        edge = int(RNG.integers(0, 4)) if i and kind != 5 else 0
        fewer = kind in (6, 7) and edge > 0
        where = RNG.integers(0, 2**coordinate, (points - 4 * fewer) * 2)
        colour = RNG.integers(0, 2**component, (corners - 2 * fewer, 3))
        wanted.append(colour / (2**component - 1))
        head = bits(edge, flag) + "".join(bits(int(v), coordinate) for v in where)
        row = head + "".join(bits(int(v), component) for v in colour.ravel())
        rows.append(row + "0" * (-len(row) % 8))

    def stream(texts: list[str]) -> bytes:
        return b"".join(int("1" + t, 2).to_bytes(len(t) // 8 + 1, "big")[1:] for t in texts)

    pdf = pikepdf.new()
    mesh = pdf.make_stream(stream(rows) + b"\0")
    mesh.ShadingType, mesh.ColorSpace = kind, pikepdf.Name.DeviceRGB
    mesh.BitsPerCoordinate, mesh.BitsPerComponent = coordinate, component
    mesh.Decode = pikepdf.Array([0, 600, 0, 600, 0, 1, 0, 1, 0, 1])
    if kind == 5:
        mesh.VerticesPerRow = 5
        # A row of a lattice has no flag, and one byte more may be one vertex more.
        mesh.write(stream(rows))
    else:
        mesh.BitsPerFlag = flag
    space = read_space(mesh.ColorSpace)
    assert np.allclose(shading_samples(mesh, space), np.concatenate(wanted))
    made = converted_shading(
        pdf, mesh, space, lambda v: 1 - v[:, [0, 1, 2, 2]], pikepdf.Name.DeviceCMYK, 4
    )
    # Nothing is divided where colours are turned evenly; only what makes no triangle or patch is left out.
    found = shading_samples(made, read_space(made.ColorSpace))
    away = np.abs(found[:, None] - (1 - np.concatenate(wanted)[:, [0, 1, 2, 2]])[None]).max(axis=2)
    assert away.min(axis=1).max() < 1e-4
    assert (away.min(axis=0) < 1e-4).mean() > 0.8
    assert int(made.ShadingType) == (4 if kind in (4, 5) else 7)
    assert int(made.BitsPerComponent) == 16
    assert [float(v) for v in made.Decode] == [0, 600, 0, 600, *[0, 1] * 4]
