"""Colour spaces against what ISO 32000-2, 8.6 says of each, and what contradicts it."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from plinto_core.document.pdf.spaces import calibrated_XYZ, default_of, is_process, read_space
from plinto_core.errors import BadDocument
from plinto_core.transform.standard_spaces import standard_profile


def refused(source, resources=None) -> str:
    with pytest.raises(BadDocument) as error:
        read_space(source, resources)
    return error.value.said.code


def icc(pdf, channels: int = 3, data: bytes | None = None) -> Array:
    data = standard_profile("srgb").data if data is None else data
    return Array([Name.ICCBased, pikepdf.Stream(pdf, data, N=channels)])


TINT = Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=[0, 1, 0, 0], N=1)


def spot(names, label="DeviceN") -> Array:
    return Array([Name("/" + label), names, Name.DeviceCMYK, TINT])


@pytest.mark.parametrize(
    ("name", "family", "channels", "initial"),
    [
        ("/DeviceRGB", "RGB", 3, [0, 0, 0]),
        ("/RGB", "RGB", 3, [0, 0, 0]),
        ("/DeviceCMYK", "CMYK", 4, [0, 0, 0, 1]),
        ("/CMYK", "CMYK", 4, [0, 0, 0, 1]),
        ("/CalCMYK", "CMYK", 4, [0, 0, 0, 1]),
        ("/DeviceGray", "grey", 1, [0]),
        ("/G", "grey", 1, [0]),
    ],
)
def test_device_spaces_by_all_their_names(name, family, channels, initial) -> None:
    for source in (Name(name), Array([Name(name)])):
        space = read_space(source)
        assert (space.family, space.channels, space.initial()) == (family, channels, initial)
        assert space.default_decode(8) == [0, 1] * channels
        assert space.bare_grey == (family == "grey")


def test_palettes_of_lab_lie_in_its_ranges() -> None:
    lab = Array([Name.Lab, Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-50, 70, 10, 90])])
    space = read_space(
        Array([Name.Indexed, lab, 1, pikepdf.String(bytes([0, 0, 0, 255, 51, 255]))])
    )
    assert space.table == pytest.approx(np.array([[0, -50, 10], [100, -26, 90]]))
    assert space.default_decode(4) == [0, 15]
    assert read_space(lab).default_decode(8) == [0, 100, -50, 70, 10, 90]


@pytest.mark.parametrize("kind", [Name.Indexed, Name.I])
def test_an_index_is_held_within_its_palette(kind) -> None:
    data = pikepdf.String(bytes([255, 0, 0, 0, 51, 0, 9]))
    space = read_space(Array([kind, Name.DeviceRGB, 2, data]))
    assert space.plain((-3,)) == space.plain((0,)) == (1, 0, 0)
    assert space.plain((1.9,)) == (0, pytest.approx(0.2), 0)
    # What the data do not reach is nought.
    assert space.plain((2,)) == space.plain((9,)) == (pytest.approx(9 / 255), 0, 0)
    assert (space.family, space.channels, space.colour.channels) == ("RGB", 1, 3)


def test_a_palette_has_256_entries_at_most() -> None:
    space = read_space(
        Array([Name.Indexed, Name.DeviceGray, 4000, pikepdf.String(bytes(range(256)))])
    )
    assert space.table is not None
    assert space.table.shape == (256, 1)
    assert space.plain((4000,)) == (1.0,)


@pytest.mark.parametrize(
    ("source", "code"),
    [
        (Array([Name.Indexed, Name.DeviceRGB, 1]), "document.indexed-incomplete"),
        (Array([Name.Indexed, Name.DeviceRGB, -1, pikepdf.String(b"")]), "document.indexed-incomplete"),
        (Array([Name.Indexed, Name.DeviceRGB, -5, pikepdf.String(b"abc")]), "document.indexed-incomplete"),
        (Array([Name.Separation, Name.Gold, Name.DeviceCMYK]), "document.spot-incomplete"),
        (spot(Array([])), "document.spot-names"),
        (spot(Array([Name(f"/S{i}") for i in range(33)])), "document.spot-names"),
        (Array([Name.CalGray, Dictionary(WhitePoint=[1, 1])]), "document.calibrated-no-white"),
        (Array([Name.CalGray, Dictionary(WhitePoint=[1, 0, 1])]), "document.calibrated-no-white"),
        (Array([Name.CalRGB, Dictionary(WhitePoint=[1, 1, 1], Gamma=[2, 2])]), "document.calibrated-contradicts"),
        (Array([Name.CalRGB, Dictionary(WhitePoint=[1, 1, 1], Matrix=[1, 0, 0])]), "document.calibrated-contradicts"),
        (Array([Name.Lab, Dictionary(Range=[-1, 1, 5])]), "document.space-none"),
        (Array([]), "document.space-none"),
        (Dictionary(), "document.space-none"),
        (Array([Name.Nonsense, 1]), "document.space-unknown"),
        (Name.Nonsense, "document.space-undefined"),
    ],
)  # fmt: skip
def test_what_contradicts_itself_is_refused(source, code) -> None:
    assert refused(source) == code


def test_thirty_two_spot_colours_are_not_too_many() -> None:
    space = read_space(spot(Array([Name(f"/S{i}") for i in range(32)])))
    assert (space.channels, space.initial()) == (32, [1.0] * 32)
    assert space.names[31] == "S31"


def test_spaces_that_name_each_other_have_an_end() -> None:
    deep = Name.DeviceRGB
    for k in range(9):
        deep = Array([Name.Pattern, deep])
        if k < 6:
            assert read_space(deep).channels == 3
    assert refused(deep) == "document.spaces-deep"
    loop = Dictionary(ColorSpace=Dictionary(A=Name.B, B=Name.A))
    assert refused(Name.A, loop) == "document.spaces-deep"


@pytest.mark.parametrize(
    ("names", "plates", "ruled"),
    [
        (["Cyan", "Black"], ("Cyan", "Black"), "CMYK"),
        (["Magenta", "Yellow", "None"], ("Magenta", "Yellow", "None"), "CMYK"),
        (["All"], ("All",), "CMYK"),
        (["Cyan", "Gold"], (), "spot"),
        (["cyan"], (), "spot"),
    ],
)
def test_process_inks_by_name_are_ruled_as_process(names, plates, ruled) -> None:
    space = read_space(spot(Array([Name("/" + n) for n in names])))
    assert (space.plates, space.ruled_as) == (plates, ruled)
    assert all(is_process(n) for n in plates)


def test_a_palette_of_process_inks_is_ruled_as_its_colours() -> None:
    base = spot(Array([Name.Cyan, Name.Black]))
    space = read_space(Array([Name.Indexed, base, 0, pikepdf.String(b"\0\0")]))
    assert (space.plates, space.ruled_as) == (("Cyan", "Black"), "CMYK")


def test_default_spaces_give_device_spaces_their_meaning(pdf) -> None:
    srgb = icc(pdf)
    resources = Dictionary(ColorSpace=Dictionary(DefaultRGB=srgb, DefaultCMYK=srgb))
    assert read_space(Name.DeviceRGB, resources).profile is not None
    assert default_of(Name.DeviceRGB, resources) == srgb
    # Three channels cannot stand for four, and each default is for its own family.
    assert read_space(Name.DeviceCMYK, resources).profile is None
    assert default_of(Name.DeviceCMYK, resources) is None
    assert default_of(Name.DeviceGray, resources) is None
    assert default_of(srgb, resources) is None
    assert default_of(Name.DeviceRGB, None) is None
    own = Dictionary(ColorSpace=Dictionary(DefaultRGB=Name.DeviceRGB))
    assert default_of(Name.DeviceRGB, own) is None
    assert read_space(Name.DeviceRGB, own).label == "DeviceRGB"


def test_an_embedded_profile_of_other_channels_is_said_and_not_used(pdf) -> None:
    for wrong in (icc(pdf, 4), icc(pdf, 4, b"no profile")):
        space = read_space(wrong)
        assert (space.family, space.channels, space.profile) == ("CMYK", 4, None)
        assert space.problem is not None
        assert space.problem.code == "document.embedded-unusable"
    assert refused(icc(pdf, 2)) == "document.icc-space"


def test_keys_tell_spaces_apart(pdf) -> None:
    def lab(*ranges) -> Array:
        return Array([Name.Lab, Dictionary(Range=ranges)])

    def palette(base, data: bytes) -> Array:
        return Array([Name.Indexed, base, 0, pikepdf.String(data)])

    other = Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=[1, 0, 0, 0], N=1)
    sources = [
        Name.DeviceRGB, Name.DeviceCMYK, icc(pdf), lab(-1, 1, -1, 1), lab(-1, 1, -1, 2),
        palette(Name.DeviceRGB, b"abc"), palette(Name.DeviceRGB, b"abd"), palette(Name.DeviceGray, b"a"),
        spot(Array([Name.A])), spot(Array([Name.B])), spot(Name.A, "Separation"),
        Array([Name.Separation, Name.A, Name.DeviceCMYK, other]), Array([Name.Pattern, Name.DeviceRGB]),
        Array([Name.CalGray, Dictionary(Gamma=2)]), Array([Name.CalGray, Dictionary(Gamma=1)]),
        Array([Name.CalRGB, Dictionary(Gamma=[1, 1, 2])]),
    ]  # fmt: skip
    keys = [read_space(s).key for s in sources]
    assert len(set(keys)) == len(keys)


def test_without_a_white_it_is_that_of_the_connection_space() -> None:
    for name, count in ((Name.CalGray, 1), (Name.CalRGB, 3)):
        bare = read_space(Array([name, Dictionary()]))
        said = read_space(Array([name, Dictionary(WhitePoint=[0.9642, 1, 0.8249])]))
        values = np.array([[0.2] * count, [1.0] * count])
        assert calibrated_XYZ(bare, values) == pytest.approx(calibrated_XYZ(said, values))


def test_calibrated_colours_are_linear_light_from_white_to_white() -> None:
    grey = read_space(Array([Name.CalGray, Dictionary(WhitePoint=[0.95, 1, 1.09], Gamma=2)]))
    d50 = np.array([0.9642, 1, 0.8249])
    found = calibrated_XYZ(grey, np.array([[0.5], [1.0], [7.0]]))
    assert found == pytest.approx(np.outer([0.25, 1, 1], d50), abs=1e-4)
    assert not grey.bare_grey
    # BT.709 primaries under D65: white comes to D50, and red where the adapted red of sRGB stands.
    matrix = [0.4124, 0.2126, 0.0193, 0.3576, 0.7152, 0.1192, 0.1805, 0.0722, 0.9505]
    rgb = read_space(
        Array(
            [Name.CalRGB, Dictionary(WhitePoint=[0.9505, 1, 1.089], Gamma=[1, 2, 3], Matrix=matrix)]
        )
    )
    found = calibrated_XYZ(rgb, np.array([[1, 1, 1], [1, 0, 0], [0, 0.5, 0], [0, 0, 0.5]], float))
    assert found[0] == pytest.approx(d50, abs=5e-4)
    assert found[1] == pytest.approx([0.4361, 0.2225, 0.0139], abs=5e-4)
    assert found[2] == pytest.approx(np.array([0.3851, 0.7169, 0.0971]) / 4, abs=5e-4)
    assert found[3] == pytest.approx(np.array([0.1431, 0.0606, 0.7139]) / 8, abs=5e-4)
