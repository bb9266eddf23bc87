"""What is found wrong with profiles, and what with their headers, tag by tag and number by number."""

from __future__ import annotations

import struct
from dataclasses import replace

import numpy as np
import pytest
from handmade import (
    STRAIGHT,
    clutf,
    cvst,
    ink_profile,
    linear_press,
    mpet,
    parf,
    simple_print,
    with_tags,
)

from plinto_core.errors import BadProfile
from plinto_core.icc import Profile, check_profile, values
from plinto_core.icc.check import required_tags
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.header import HEADER_SIZE, IccHeader
from plinto_core.icc.tables import Table, pack_mft2
from plinto_core.icc.write import write_profile
from plinto_core.transform.standard_spaces import standard_profile


@pytest.fixture(scope="module")
def press() -> Profile:
    return linear_press()


def found(profile: Profile | bytes) -> set[tuple[str, str, str]]:
    data = profile if isinstance(profile, bytes) else profile.data
    return {
        (p.severity, p.tag, p.message.code.removeprefix("icc.check-")) for p in check_profile(data)
    }


def changed(profile: Profile, at: int, new: bytes) -> bytes:
    return profile.data[:at] + new + profile.data[at + len(new) :]


NO_GAMT = {("warning", "gamt", "missing")}
ID = ("warning", "", "id")
"""What any changed byte is told by; most of these tests are of something else."""


def test_a_press_made_by_hand_lacks_its_gamut_tag_alone(press) -> None:
    assert found(press) == NO_GAMT
    assert found(standard_profile("srgb")) == set()


def test_sizes_that_do_not_fit(press) -> None:
    assert found(press.data + b"\0\0\0\0") - {ID} == NO_GAMT | {("warning", "", "size")}
    short = changed(press, 0, struct.pack(">I", len(press.data) + 4))
    assert found(short) - {ID} == NO_GAMT | {("error", "", "size")}


@pytest.mark.parametrize("version", [1, 3, 5, 7])
def test_versions_that_are_none(press, version) -> None:
    assert ("error", "", "version") in found(changed(press, 8, bytes([version])))
    assert found(changed(press, 8, b"\x04")) - {ID} == NO_GAMT


def test_the_illuminant_is_d50_and_the_intent_one_of_four(press) -> None:
    for away, wrong in ((0.0019, False), (0.004, True)):
        at = 68 + 4
        data = changed(press, at, struct.pack(">i", round((1 + away) * 65536)))
        assert (("warning", "", "illuminant") in found(data)) == wrong
    for intent in range(6):
        data = changed(press, 64, struct.pack(">I", intent))
        assert (("warning", "", "intent") in found(data)) == (intent > 3)


def test_the_id_is_of_all_but_flags_intent_and_itself(press) -> None:
    tags = {name: press.raw(name) for name in press.directory}
    four = Profile(write_profile(replace(press.header, version=(4, 3, 0)), tags))
    wrong = ("warning", "", "id")
    assert wrong not in found(four)
    for at in (44, 64, 67):
        assert wrong not in found(changed(four, at, b"\1"))
    for at in (43, 48, 63, 80, 84, 99, len(four.data) - 1):
        data = changed(four, at, bytes([four.data[at] ^ 1]))
        assert wrong in found(data), at


def test_tags_stand_on_multiples_of_four_behind_the_directory(press) -> None:
    name = b"cprt"
    at = press.data.index(name, 132) + 4
    offset, size = struct.unpack_from(">II", press.data, at)
    odd = changed(press, at, struct.pack(">II", offset + 1, size - 1))
    assert ("warning", "cprt", "tag-place") in found(odd)
    first = 132 + 12 * len(press.directory)
    inside = changed(press, at, struct.pack(">II", first - 4, size))
    assert ("error", "cprt", "tag-short") in found(inside)
    for short, wrong in ((7, True), (8, False)):
        data = changed(press, at, struct.pack(">II", offset, short))
        assert (("error", "cprt", "tag-short") in found(data)) == wrong


@pytest.mark.parametrize(
    ("kind", "space", "more", "wanted"),
    [
        ("prtr", "CMYK", (), {"desc", "cprt", "wtpt", "A2B0", "A2B1", "A2B2", "B2A0", "B2A1", "B2A2", "gamt"}),
        ("prtr", "GRAY", (), {"desc", "cprt", "wtpt", "kTRC"}),
        ("mntr", "GRAY", ("A2B0",), {"desc", "cprt", "wtpt"}),
        ("mntr", "RGB ", (), {"desc", "cprt", "wtpt", "rXYZ", "gXYZ", "bXYZ", "rTRC", "gTRC", "bTRC"}),
        ("mntr", "RGB ", ("A2B0",), {"desc", "cprt", "wtpt"}),
        ("spac", "RGB ", (), {"desc", "cprt", "wtpt", "A2B0", "B2A0"}),
        ("link", "RGB ", (), {"desc", "cprt", "A2B0", "pseq"}),
        ("abst", "Lab ", (), {"desc", "cprt", "A2B0", "wtpt"}),
        ("nmcl", "CMYK", (), {"desc", "cprt", "wtpt", "ncl2"}),
    ],
)  # fmt: skip
def test_required_tags_by_class(press, kind, space, more, wanted) -> None:
    """ICC.1:2022, clause 8."""
    header = IccHeader(0, (2, 4, 0), kind, space, "CMYK" if kind == "link" else "Lab ")
    made = Profile(
        write_profile(header, {"desc": values.pack_desc("d"), **{t: press.raw(t) for t in more}})
    )
    assert set(required_tags(made)) == wanted
    missing = {tag for _, tag, code in found(made) if code == "missing"}
    assert missing == wanted - {"desc", *more}
    vital = {
        tag for severity, tag, code in found(made) if code == "missing" and severity == "error"
    }
    assert vital == missing & {"A2B0", "A2B1", "B2A0", "B2A1", "ncl2", "kTRC", "rXYZ", "rTRC"}


def table(inputs: int, outputs: int, curve: SampledCurve = STRAIGHT, flat: bool = False) -> bytes:
    clut = np.zeros((2,) * inputs + (outputs,))
    if not flat:
        clut[(1,) * inputs] = 1
    before, after = (STRAIGHT,) * inputs, (curve,) * outputs
    return pack_mft2(Table("mft2", inputs, outputs, before, clut, (), None, after))


@pytest.mark.parametrize(
    ("tag", "inputs", "outputs", "fits"),
    [
        ("A2B0", 4, 3, True), ("A2B0", 3, 3, False), ("A2B0", 4, 4, False), ("B2A1", 3, 4, True),
        ("B2A1", 4, 3, False), ("gamt", 3, 1, True), ("gamt", 3, 4, False),
    ],
)  # fmt: skip
def test_tables_have_the_channels_of_their_ends(press, tag, inputs, outputs, fits) -> None:
    wrong = ("error", tag, "table-channels")
    assert (wrong in found(with_tags(press, {tag: table(inputs, outputs)}))) != fits


def test_tables_that_are_flat_or_turn_back(press) -> None:
    assert ("error", "B2A1", "table-flat") in found(
        with_tags(press, {"B2A1": table(3, 4, flat=True)})
    )
    assert ("error", "gamt", "table-flat") not in found(
        with_tags(press, {"gamt": table(3, 1, flat=True)})
    )
    for dip, wrong in ((0.001, False), (0.01, True)):
        curve = SampledCurve(np.array([0, 0.5, 0.5 - dip, 1.0]))
        made = with_tags(press, {"B2A1": table(3, 4, curve)})
        assert (("warning", "B2A1", "curve-turns") in found(made)) == wrong
    falling = with_tags(press, {"B2A1": table(3, 4, SampledCurve(np.array([1.0, 0.5, 0.0])))})
    assert ("warning", "B2A1", "curve-turns") not in found(falling)


def test_tone_curves_that_turn_back() -> None:
    srgb = standard_profile("srgb")

    def curve(*points: int) -> bytes:
        return b"curv" + struct.pack(f">II{len(points)}H", 0, len(points), *points)

    for tag, points, wrong in (
        ("rTRC", (0, 40000, 30000, 65535), True), # Over a third of the curve: 0.0001 for each of 257 points would be 560.
        ("gTRC", (0, 40000, 39600, 65535), False), ("bTRC", (0, 40000, 39300, 65535), True),
        ("gTRC", (0, 40000, 65535), False), ("bTRC", (65535, 30000, 0), False),
    ):  # fmt: skip
        made = with_tags(srgb, {tag: curve(*points)})
        assert (("warning", tag, "tone-turns") in found(made)) == wrong


@pytest.mark.parametrize(
    ("y", "wrong"), [(0.0, True), (0.01, False), (1.2, False), (1.21, True), (-1, True)]
)
def test_the_white_reflects_some_light_and_not_much_more_than_all(press, y, wrong) -> None:
    made = with_tags(press, {"wtpt": values.pack_xyz(np.array([0.9, y, 0.8]))})
    assert (("error", "wtpt", "white") in found(made)) == wrong


def test_float_tables_are_checked_and_passed_over_where_they_cannot_be_read(press) -> None:
    whole = mpet(4, 3, clutf(np.random.default_rng(1).random((2, 2, 2, 2, 3))))
    assert found(with_tags(press, {"D2B1": whole})) == NO_GAMT
    other = mpet(3, 3, clutf(np.random.default_rng(1).random((2, 2, 2, 3))))
    assert ("error", "D2B1", "table-channels") in found(with_tags(press, {"D2B1": other}))
    assert ("error", "B2D1", "table-channels") in found(with_tags(press, {"B2D1": other}))
    curves = cvst(((), (parf(0, 1, 1, 0, 0),)), ((), (parf(0, 1, 1, 0, 0),)))
    damaged = with_tags(press, {"D2B0": mpet(4, 3, curves), "B2D3": b"mpet" + bytes(60)})
    assert ("warning", "D2B0", "float") in found(damaged)
    assert ("warning", "B2D3", "float") in found(damaged)
    why = {
        p.tag: p.message.values["used"]
        for p in check_profile(damaged.data)
        if p.tag in ("D2B0", "B2D3")
    }
    assert why == {"D2B0": "A2B0", "B2D3": "B2A1"}


def test_what_is_no_profile_is_one_error() -> None:
    for data in (b"", bytes(HEADER_SIZE + 3), bytes(4000)):
        (problem,) = check_profile(data)
        assert problem.severity == "error"


@pytest.mark.parametrize(
    ("at", "new", "code"),
    [
        (36, b"abcd", "no-signature"), (12, b"wxyz", "class-unknown"), (16, b"wxyz", "space-unknown"),
        (20, b"CMYK", "pcs-unknown"), (20, b"wxyz", "pcs-unknown"),
    ],
)  # fmt: skip
def test_headers_that_name_what_is_not_known(press, at, new, code) -> None:
    with pytest.raises(BadProfile) as error:
        IccHeader.parse(changed(press, at, new))
    assert error.value.said.code == f"icc.{code}"


def test_a_header_needs_a_count_of_tags_behind_it(press) -> None:
    with pytest.raises(BadProfile) as error:
        IccHeader.parse(press.data[: HEADER_SIZE + 3])
    assert error.value.said.code == "icc.too-short"
    assert IccHeader.parse(press.data[: HEADER_SIZE + 4]).colour_space == "CMYK"


def test_links_end_in_any_space(press) -> None:
    data = bytearray(press.data)
    data[12:16], data[20:24] = b"link", b"CMYK"
    assert IccHeader.parse(bytes(data)).pcs == "CMYK"
    data[20:24] = b"wxyz"
    with pytest.raises(BadProfile) as error:
        IccHeader.parse(bytes(data))
    assert error.value.said.code == "icc.link-space-unknown"


def test_every_entry_of_a_header_comes_back_at_its_place() -> None:
    """ICC.1:2022, table 17."""
    header = IccHeader(
        123456, (4, 3, 1), "mntr", "RGB ", "XYZ ", (2026, 2, 3, 4, 5, 6), "abcd", "efgh", 0x01020304,
        "ijkl", "mnop", 0x0102030405060708, 2, np.array([0.5, 1.0, 0.25]), "qrst", bytes(range(16)),
    )  # fmt: skip
    data = header.pack()
    assert data[:12] == struct.pack(">I", 123456) + b"abcd" + bytes([4, 0x31, 0, 0])
    assert data[12:36] == b"mntrRGB XYZ " + struct.pack(">6H", 2026, 2, 3, 4, 5, 6)
    assert data[36:56] == b"acspefgh" + bytes([1, 2, 3, 4]) + b"ijklmnop"
    assert data[56:68] == bytes(range(1, 9)) + bytes([0, 0, 0, 2])
    assert data[68:84] == bytes.fromhex("000080000001000000004000") + b"qrst"
    assert data[84:] == bytes(range(16)) + bytes(28)
    again = IccHeader.parse(data + bytes(4))
    for name in header.__dataclass_fields__:
        assert np.array_equal(getattr(again, name), getattr(header, name)), name


def mluc(*records: tuple[bytes, str], size: int = 12, count: int | None = None) -> bytes:
    head = b"mluc" + struct.pack(">III", 0, len(records) if count is None else count, size)
    at = 16 + size * len(records)
    rows, texts = b"", b""
    for language, text in records:
        raw = text.encode("utf-16-be")
        rows += (language + struct.pack(">II", len(raw), at + len(texts))).ljust(size, b"\0")
        texts += raw
    return head + rows + texts


def test_english_goes_before_other_languages_and_the_first_before_none() -> None:
    assert (
        values.parse_text(mluc((b"deDE", "Papier"), (b"enUS", "Paper"), (b"enGB", "Card")))
        == "Paper"
    )
    assert values.parse_text(mluc((b"deDE", "Papier\0"), (b"frFR", "Carte"))) == "Papier"
    assert values.parse_text(mluc((b"frFR", "a"), (b"enGB", "b"), size=20)) == "b"
    assert values.parse_text(mluc()) == ""
    for wrong in (mluc(size=11), mluc(count=4097), mluc((b"enGB", "abc"))[:-2]):
        with pytest.raises(BadProfile):
            values.parse_text(wrong)


def named(
    count: int, channels: int, rows: list[bytes], prefix: bytes = b"", suffix: bytes = b""
) -> bytes:
    head = b"ncl2" + struct.pack(">IIII", 0, 0, count, channels)
    return head + prefix.ljust(32, b"\0") + suffix.ljust(32, b"\0") + b"".join(rows)


def test_named_colours_have_names_around_their_own_and_numbers() -> None:
    rows = [
        name.ljust(32, b"\0") + struct.pack(">5H", *numbers)
        for name, numbers in ((b"Red", (1, 2, 3, 4, 5)), (b"Blue", (65535, 7, 8, 9, 10)))
    ]
    kept = values.parse_named(named(2, 2, rows, b"Ternholm \0x", b" C"))
    assert kept.names == ("Ternholm Red C", "Ternholm Blue C")
    assert np.round(kept.pcs * 65535).tolist() == [[1, 2, 3], [65535, 7, 8]]
    assert np.round(kept.device * 65535).tolist() == [[4, 5], [9, 10]]
    with pytest.raises(BadProfile):
        values.parse_named(named(3, 2, rows))
    sixteen = [b"x".ljust(32, b"\0") + bytes(6 + 32)] * 2
    with pytest.raises(BadProfile) as error:
        values.parse_named(named(2, 16, sixteen))
    assert error.value.said.code == "icc.named-claims"
    fifteen = [b"x".ljust(32, b"\0") + bytes(6 + 30)] * 2
    assert values.parse_named(named(2, 15, fifteen)).device.shape == (2, 15)


def test_a_press_of_other_inks_has_tables_for_them() -> None:
    six = ink_profile(6, lambda inks: simple_print(inks[:, :4]), lambda lab: np.zeros((len(lab), 6)) + lab[:, :1] / 200, back_grid=3, grid=2)  # fmt: skip
    assert {p[1:] for p in found(six)} == {("gamt", "missing")}
