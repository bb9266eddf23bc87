"""Layers of layered documents, put together byte by byte: names, hidden ones, pixels of one alone."""

from __future__ import annotations

import struct
import zlib

import numpy as np
import pytest
from packbits import packed_row

from plinto_core.errors import BadImage
from plinto_core.imaging.arrival import Arrival
from plinto_core.imaging.composite import CompositePicture
from plinto_core.imaging.reader import open_picture
from plinto_core.recipes.arrivals import arrival_findings

RNG = np.random.default_rng(11)


def plane_bytes(plane: np.ndarray, kind: int) -> bytes:
    body = plane.astype(plane.dtype.newbyteorder(">"))
    if kind == 1:
        rows = [packed_row(r.tobytes()) for r in body]
        packed = b"".join(struct.pack(">H", len(r)) for r in rows) + b"".join(rows)
    elif kind == 2:
        packed = zlib.compress(body.tobytes())
    else:
        packed = body.tobytes()
    return struct.pack(">H", kind) + packed


def tagged(key: bytes, data: bytes) -> bytes:
    data += bytes(-len(data) % 4)
    return b"8BIM" + key + struct.pack(">I", len(data)) + data


def layer(name: str, planes: dict[int, np.ndarray], at=(0, 0), *, kind=0, hidden=False,
          opacity=255, mask=None, section=0) -> tuple[bytes, bytes]:  # fmt: skip
    """Record and channels; planes : by channel number; mask : (plane, (left, top), outside, disabled)."""
    first = next(iter(planes.values())) if planes else np.zeros((0, 0), np.uint8)
    parts = {n: plane_bytes(p, kind) for n, p in planes.items()}
    mask_data = b""
    if mask is not None:
        plane, (left, top), outside, disabled = mask
        parts[-2] = plane_bytes(plane, kind)
        box = (top, left, top + plane.shape[0], left + plane.shape[1])
        mask_data = struct.pack(">iiiiBBxx", *box, outside, 2 * disabled)
    box = (at[1], at[0], at[1] + first.shape[0], at[0] + first.shape[1])
    record = struct.pack(">iiiiH", *box, len(parts))
    record += b"".join(struct.pack(">hI", n, len(p)) for n, p in parts.items())
    record += b"8BIMnorm" + bytes([opacity, 0, 2 if hidden else 0, 0])
    short = bytes([len(name)]) + name.encode()
    extra = struct.pack(">I", len(mask_data)) + mask_data + bytes(4)
    extra += short + bytes(-len(short) % 4)
    if section:
        extra += tagged(b"lsct", struct.pack(">I", section))
    return record + struct.pack(">I", len(extra)) + extra, b"".join(parts.values())


def document(layers, flat: np.ndarray, mode: int, resources: bytes = b"") -> bytes:
    """layers : the lowest first; flat : (channels, height, width), 8 or 16 bits."""
    channels, height, width = flat.shape
    depth = flat.dtype.itemsize * 8
    head = b"8BPS" + struct.pack(">H6xHIIHH", 1, channels, height, width, depth, mode)
    inner = struct.pack(">h", len(layers)) + b"".join(r for r, _ in layers)
    inner += b"".join(c for _, c in layers)
    inner += bytes(len(inner) % 2)
    if depth == 16:
        section = struct.pack(">I", 0) + bytes(4) + tagged(b"Lr16", inner)
    else:
        section = struct.pack(">I", len(inner)) + inner + bytes(4)
    image = struct.pack(">H", 0) + flat.astype(flat.dtype.newbyteorder(">")).tobytes()
    return (
        head + bytes(4) + struct.pack(">I", len(resources)) + resources
        + struct.pack(">I", len(section)) + section + image
    )  # fmt: skip


def opened(tmp_path, data: bytes, page: int = 0):
    (tmp_path / "a.psd").write_bytes(data)
    with open_picture(tmp_path / "a.psd", page=page) as picture:
        picture.read()
    picture = CompositePicture.open(tmp_path / "a.psd", page)
    return picture.facts, np.concatenate(list(picture.raw_bands()))


def planes_of(count: int, height: int, width: int, dtype=np.uint8) -> dict[int, np.ndarray]:
    top = np.iinfo(dtype).max
    return {i: RNG.integers(0, top, (height, width)).astype(dtype) for i in range(count)}


@pytest.mark.parametrize("kind", [0, 1, 2])
@pytest.mark.parametrize(("mode", "count"), [(3, 3), (4, 4), (1, 1)])
@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
def test_each_layer_is_a_page_with_its_own_pixels(tmp_path, kind, mode, count, dtype) -> None:
    """Laid where they lie, cut at the canvas; inks, stored reversed, as inks."""
    top = int(np.iinfo(dtype).max)
    flat = RNG.integers(0, top, (count, 20, 30)).astype(dtype)
    ground = planes_of(count, 20, 30, dtype)
    star = {**planes_of(count, 10, 12, dtype), -1: planes_of(1, 10, 12, dtype)[0]}
    made = document(
        [layer("Ground", ground, kind=kind), layer("Star", star, (24, -4), kind=kind)], flat, mode
    )
    facts, whole = opened(tmp_path, made)
    assert [(x.name, x.hidden) for x in facts.layers] == [("Star", False), ("Ground", False)]
    assert (facts.pages, facts.alpha) == (3, "none")
    stored = np.moveaxis(flat, 0, -1)
    assert np.array_equal(whole, top - stored if mode == 4 else stored)
    facts, found = opened(tmp_path, made, 1)
    assert facts.alpha == "straight"
    assert found.shape == (20, 30, count + 1)
    expected = np.stack([star[i][4:, :6] for i in range(count)], axis=-1)
    assert np.array_equal(found[:6, 24:, :count], top - expected if mode == 4 else expected)
    assert np.array_equal(found[:6, 24:, count], star[-1][4:, :6])
    assert not found[6:, :, count].any()
    assert not found[:, :24, count].any()
    _, below = opened(tmp_path, made, 2)
    assert (below[..., count] == top).all()


def test_hidden_layers_and_those_of_hidden_groups_are_told(tmp_path) -> None:
    flat = np.zeros((3, 8, 8), np.uint8)
    bare = {}
    made = document(
        [
            layer("end", bare, section=3), layer("inner", planes_of(3, 8, 8)),
            layer("Group", bare, section=1, hidden=True),
            layer("proof", planes_of(3, 8, 8), hidden=True), layer("Curves", bare),
            layer("art", planes_of(3, 8, 8)),
        ], flat, 3,
    )  # fmt: skip
    facts, _ = opened(tmp_path, made)
    told = [(x.name, x.hidden) for x in facts.layers]
    assert told == [("art", False), ("proof", True), ("inner", True)]
    (note,) = [f for f in arrival_findings(facts, _nothing_seen(), None) if f.code == "layers"]
    assert "3 layers: art, proof, inner" in note.text
    assert "proof, inner" in str(note.text).split("taken;")[1]
    one = document([layer("only", planes_of(3, 8, 8))], flat, 3)
    facts, _ = opened(tmp_path, one)
    assert not [f for f in arrival_findings(facts, _nothing_seen(), None) if f.code == "layers"]


def _nothing_seen() -> Arrival:
    return Arrival(at_top=(0, 0, 0), at_bottom=(0, 0, 0), transparent=0, eight_bit=False)


def test_masks_and_opacity_count(tmp_path) -> None:
    flat = np.zeros((3, 8, 8), np.uint8)
    mask = np.full((4, 4), 100, np.uint8)
    for outside, disabled, corner, inside in ((255, 0, 128, 50), (0, 0, 0, 50), (0, 1, 128, 128)):
        made = document(
            [layer("m", planes_of(3, 8, 8), opacity=128, mask=(mask, (2, 2), outside, disabled))],
            flat, 3,
        )  # fmt: skip
        _, found = opened(tmp_path, made, 1)
        assert (found[0, 0, 3], found[3, 3, 3]) == (corner, pytest.approx(inside, abs=1))


@pytest.mark.parametrize("kind", [0, 1, 2])
def test_pixels_that_are_not_there_are_refused_not_black(tmp_path, kind) -> None:
    """And a layer that does not exist."""
    flat = np.zeros((3, 8, 8), np.uint8)
    made = document([layer("a", planes_of(3, 8, 8), kind=kind)], flat, 3)
    with pytest.raises(BadImage, match="one layer"):
        opened(tmp_path, made, 2)
    record, channels = layer("a", planes_of(3, 8, 8), kind=kind)
    # The head of the last plane: of packed rows their lengths, of deflated ones the method.
    at = len(channels) - 90 if kind == 1 else channels.rindex(channels[:4])
    wrong = channels[: at + 2] + b"\xff" * 8 + channels[at + 10 :]
    short = document([(record, wrong)], flat, 3)
    if kind:
        with pytest.raises(BadImage):
            opened(tmp_path, short, 1)
    huge = bytearray(record)
    huge[8:16] = struct.pack(">ii", 200_000, 200_000)
    with pytest.raises(BadImage):
        opened(tmp_path, document([(bytes(huge), channels)], flat, 3), 1)
    assert opened(tmp_path, short)[1].shape == (8, 8, 3)
