"""The profile codec: what it reads, what it writes, and what it survives."""

from __future__ import annotations

import io
import struct

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import ImageCms

from plinto_core.errors import BadProfile, CoreError
from plinto_core.icc import Profile, check_profile
from plinto_core.icc.curves import ParametricCurve, SampledCurve, parse_curve
from plinto_core.icc.describe import describe_profile
from plinto_core.icc.header import IccHeader
from plinto_core.icc.tables import Table, pack_mab, pack_mft2, parse_mab, parse_mft
from plinto_core.icc.values import pack_desc, pack_mluc, pack_sf32, pack_xyz, parse_sf32, parse_text
from plinto_core.icc.write import write_profile
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.standard_spaces import SPACES, standard_profile

IDENTITY = SampledCurve(np.linspace(0, 1, 2))


def link_header(**changes) -> IccHeader:
    given_ = {
        "size": 0,
        "version": (4, 4, 0),
        "device_class": "prtr",
        "colour_space": "CMYK",
        "pcs": "Lab ",
    }
    return IccHeader(**{**given_, **changes})


def test_header_survives_writing_and_reading() -> None:
    header = link_header(rendering_intent=2, manufacturer="plin", attributes=5)
    read = IccHeader.parse(header.pack() + bytes(8))
    assert read.version == (4, 4, 0)
    assert (read.rendering_intent, read.manufacturer, read.attributes) == (2, "plin", 5)
    assert np.allclose(read.illuminant, [0.9642, 1, 0.8249], atol=1e-4)


@pytest.mark.parametrize("key", [*SPACES, "grey"])
def test_standard_spaces_pass_the_check_and_open_elsewhere(key) -> None:
    profile = standard_profile(key)
    assert check_profile(profile.data) == []
    opened = ImageCms.ImageCmsProfile(io.BytesIO(profile.data))
    assert ImageCms.getProfileDescription(opened).strip() == profile.description


def test_srgb_white_and_primaries_are_the_published_ones() -> None:
    lab = lab_of_device(standard_profile("srgb"), np.array([[1.0, 1, 1], [1, 0, 0], [0, 0, 1]]))
    assert np.allclose(lab[0], [100, 0, 0], atol=0.01)
    assert np.allclose(lab[1], [54.29, 80.81, 69.89], atol=0.1)
    assert np.allclose(lab[2], [29.57, 68.30, -112.03], atol=0.1)


@pytest.mark.parametrize(
    "curve",
    [
        ParametricCurve(0, (2.2,)),
        ParametricCurve(1, (2.0, 0.9, 0.1)),
        ParametricCurve(2, (2.0, 0.8, 0.1, 0.05)),
        ParametricCurve(3, (2.4, 0.9479, 0.0521, 0.0774, 0.0405)),
        ParametricCurve(4, (2.4, 0.9, 0.05, 0.07, 0.04, 0.02, 0.01)),
        SampledCurve(np.linspace(0, 1, 64) ** 1.8),
    ],
)
def test_curves_are_read_as_written_and_invert(curve) -> None:
    read, _ = parse_curve(curve.pack())
    x = np.linspace(0.06, 1, 50)
    assert np.allclose(read(x), curve(x), atol=2e-5)
    assert np.allclose(read.inverse(read(x)), x, atol=2e-4)


def test_falling_and_flat_curves_have_an_inverse() -> None:
    falling = SampledCurve(np.linspace(1, 0, 17))
    assert np.allclose(falling.inverse(np.array([0.25, 0.75])), [0.75, 0.25])
    flat = SampledCurve(np.array([0, 0, 0, 0.5, 1.0]))
    assert flat.inverse(np.array([0.0]))[0] == pytest.approx(0.5)


def random_table(kind: str, inputs: int, outputs: int, grid: int, rng) -> Table:
    shape = (grid,) * inputs + (outputs,)
    return Table(
        kind,
        inputs,
        outputs,
        (IDENTITY,) * inputs,
        rng.random(shape),
        (),
        None,
        (IDENTITY,) * outputs,
    )


@pytest.mark.parametrize(
    ("inputs", "outputs", "grid"), [(1, 3, 9), (3, 4, 5), (4, 3, 4), (6, 3, 3), (8, 3, 2)]
)
def test_lut16_round_trip_for_many_channels(inputs, outputs, grid) -> None:
    table = random_table("mft2", inputs, outputs, grid, np.random.default_rng(1))
    read = parse_mft(pack_mft2(table))
    assert (read.inputs, read.outputs) == (inputs, outputs)
    assert np.abs(read.clut - table.clut).max() < 1e-5


@pytest.mark.parametrize("kind", ["mAB", "mBA"])
def test_lut_a_to_b_round_trip_with_all_elements(kind) -> None:
    inputs, outputs = (4, 3) if kind == "mAB" else (3, 4)
    rng = np.random.default_rng(2)
    base = random_table(kind, inputs, outputs, 4, rng)
    matrix = np.hstack([np.diag([0.9, 0.8, 0.7]), np.array([[0.01], [0.02], [0.03]])])
    table = Table(
        kind, inputs, outputs, base.before, base.clut, (IDENTITY,) * 3, matrix, base.after
    )
    read = parse_mab(pack_mab(table))
    assert np.abs(read.clut - table.clut).max() < 1e-5
    assert np.allclose(read.matrix, matrix, atol=2e-5)
    assert (len(read.before), len(read.middle), len(read.after)) == (inputs, 3, outputs)


def test_texts_in_both_forms() -> None:
    assert parse_text(pack_desc("Coated")) == "Coated"
    assert parse_text(pack_mluc("Gestrichen, weiß")) == "Gestrichen, weiß"


def test_equal_tags_are_stored_once_and_the_id_is_checked() -> None:
    tags = {"desc": pack_mluc("x"), "cprt": pack_mluc("x")}
    data = write_profile(link_header(), tags)
    profile = Profile(data)
    assert profile.directory["desc"] == profile.directory["cprt"]
    changed = bytearray(data)
    changed[-3] ^= 1
    messages = [p.message for p in check_profile(bytes(changed))]
    assert any("profile ID" in m for m in messages)


def test_check_names_missing_tags() -> None:
    problems = check_profile(write_profile(link_header(), {"desc": pack_mluc("x")}))
    assert {"A2B0", "B2A1", "wtpt"} <= {p.tag for p in problems}


def test_facts_of_a_profile(coated) -> None:
    facts = describe_profile(coated)
    assert facts["class"] == "output"
    assert facts["colour_space"] == "CMYK"
    assert facts["tables"]["A2B1"]["grid"] == [17, 17, 17, 17]
    assert facts["problems"] == []


@pytest.mark.parametrize(
    ("number", "said"), [(0, "perceptual"), (1, "relative"), (2, "saturation"), (3, "absolute"), (4, "4"), (70, "70")]
)  # fmt: skip
def test_the_intent_of_a_header_is_named_where_it_is_one(coated, number, said) -> None:
    data = bytearray(coated.data)
    data[64:68] = number.to_bytes(4, "big")
    assert describe_profile(Profile(bytes(data)))["rendering_intent"] == said


@pytest.mark.parametrize("size", [0, 3, 127, 131, 200, 1000, 40_000])
def test_truncated_profiles_are_refused_with_a_sentence(coated, size) -> None:
    with pytest.raises(BadProfile, match=r"\."):
        Profile(coated.data[:size])


def test_a_table_that_claims_too_much_is_refused() -> None:
    table = b"mft2" + bytes(4) + bytes([15, 3, 255, 0]) + bytes(36) + struct.pack(">HH", 2, 2)
    with pytest.raises(BadProfile, match="claims"):
        parse_mft(table)


def exercise(data: bytes) -> None:
    """Whatever a reader does with a profile."""
    check_profile(data)
    profile = Profile(data)
    describe_profile(profile)
    device = np.full((3, profile.channels), 0.4)
    for intent in ("perceptual", "absolute"):
        lab = lab_of_device(profile, device, intent=intent)
        assert lab.shape == (3, 3)
        convert(standard_profile("srgb"), profile, np.full((3, 3), 0.3), intent=intent, bpc=True)


@settings(
    max_examples=150, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(
    changes=st.lists(st.tuples(st.integers(0, 700), st.integers(0, 255)), min_size=1, max_size=12)
)
def test_damaged_profiles_raise_only_the_cores_own_errors(coated_v4, changes) -> None:
    data = bytearray(coated_v4.data)
    for position, value in changes:
        data[position] = value
    with np.errstate(all="ignore"):
        try:
            exercise(bytes(data))
        except CoreError as error:
            assert str(error)


@settings(max_examples=150, deadline=None)
@given(data=st.binary(max_size=600), key=st.sampled_from(["srgb", "grey"]), at=st.integers(0, 560))
def test_noise_in_small_profiles_raises_only_the_cores_own_errors(data, key, at) -> None:
    whole = bytearray(standard_profile(key).data)
    whole[at : at + len(data)] = data
    with np.errstate(all="ignore"):
        try:
            exercise(bytes(whole))
        except CoreError as error:
            assert str(error)


def test_a_directory_of_more_tags_than_any_profile_has_is_refused_before_it_is_read(coated) -> None:
    data = bytearray(coated.data)
    data[128:132] = struct.pack(">I", 201)
    with pytest.raises(BadProfile, match="claims 201 tags"):
        Profile(bytes(data))


@pytest.mark.parametrize(
    ("tag", "y", "wrong"), [("wtpt", 1.5, True), ("wtpt", 0.9, False), ("bkpt", 0.0, False)]
)
def test_only_the_white_of_a_medium_must_reflect_as_media_do(tag, y, wrong) -> None:
    white = [0.96, y, 0.8] if tag == "wtpt" else [0.0, y, 0.0]
    data = write_profile(link_header(), {"desc": pack_mluc("x"), tag: pack_xyz(np.array(white))})
    assert any("media white" in p.message for p in check_profile(data)) is wrong


def test_fixed_point_numbers_come_back_and_other_types_are_refused() -> None:
    numbers = [0.5, -1.25, 1 / 65536, -32768.0, 9.0]
    assert parse_sf32(pack_sf32(np.array(numbers))).tolist() == numbers
    with pytest.raises(BadProfile):
        parse_sf32(pack_xyz(np.ones(3)))


@pytest.mark.parametrize(
    ("kind", "parameters", "below", "above"),
    [
        (0, (2.0,), 0.04, 0.64),
        (1, (2.0, 2.0, -0.5), 0.0, 1.21),
        (2, (2.0, 2.0, -0.5, 0.1), 0.1, 1.31),
        (3, (2.0, 2.0, -0.5, 0.3, 0.6), 0.06, 1.21),
        (4, (2.0, 2.0, -0.5, 0.3, 0.6, 0.2, 0.05), 0.11, 1.41),
    ],
)
def test_parametric_curves_are_those_of_the_standard(kind, parameters, below, above) -> None:
    # ICC.1:2022, 10.18, at 0.2 and 0.8: table 68 by hand.
    found = ParametricCurve(kind, parameters)(np.array([0.2, 0.8]))
    assert found == pytest.approx([below, above])


def test_plain_texts_and_what_is_no_text() -> None:
    assert parse_text(b"text\0\0\0\0Coated\0") == "Coated"
    with pytest.raises(BadProfile):
        parse_text(b"XYZ \0\0\0\0Coated\0")
