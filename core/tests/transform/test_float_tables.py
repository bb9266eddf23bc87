"""Float tables (D2Bx, B2Dx): by functions known beforehand, and against the Little CMS library."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import clutf, cvst, matf, mpet, parf, samf, simple_print, with_tags
from transform.test_against_little_cms import library, samples

from plinto_core.colorimetry import delta_e_2000
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadProfile
from plinto_core.examination.inside import content_of, tags_of
from plinto_core.gamut.of_profile import own_total
from plinto_core.icc import Profile, values
from plinto_core.icc.check import check_profile
from plinto_core.icc.elements import parse_elements
from plinto_core.icc.parts import parts_of
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.elements import run_elements
from plinto_core.transform.sides import device_to_xyz, xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile

LINE = ((), (parf(0, 1, 1, 0, 0),))
LAB_TO_UNIT = matf(np.diag([0.01, 1 / 255, 1 / 255]), np.array([0, 128 / 255, 128 / 255]))


def grid(inputs: int, steps: int, what) -> np.ndarray:
    nodes = np.stack(np.meshgrid(*[np.linspace(0, 1, steps)] * inputs, indexing="ij"), -1)
    return what(nodes.reshape(-1, inputs)).reshape((steps,) * inputs + (-1,))


def forward(way) -> bytes:
    return mpet(4, 3, clutf(grid(4, 5, way)))


def backward(way) -> bytes:
    """Ink from Lab that a matrix brings to 0..1."""
    return mpet(3, 4, LAB_TO_UNIT, clutf(grid(3, 5, way)))


def bolder(inks):
    return simple_print(inks) * [0.9, 1.5, 1.5]


def inked(unit):
    return np.stack([unit[:, 1], unit[:, 2], 0.5 * unit[:, 0], 1 - unit[:, 0]], axis=1)


@pytest.fixture(scope="module")
def floats(coated_v4) -> Profile:
    return with_tags(
        coated_v4,
        {f"D2B{n}": forward(bolder) for n in range(3)} | {f"B2D{n}": backward(inked) for n in range(3)},
    )  # fmt: skip


def curve_of(*parts: bytes, breaks: tuple[float, ...] = ()):
    elements = parse_elements(mpet(1, 1, cvst((breaks, parts))))
    return lambda *x: run_elements(elements, np.array(x)[:, None])[:, 0]


def test_segments_by_formula() -> None:
    # ICC.1:2022, table 72: the three forms, with numbers worked out by hand.
    assert curve_of(parf(0, 2, 3, 1, -4))(1.0) == pytest.approx([12])
    assert curve_of(parf(1, 2, 3, 10, 0, 5))(10.0) == pytest.approx([3 * 3 + 5])
    assert curve_of(parf(2, 3, 2, 2, 1, 7))(1.0) == pytest.approx([3 * 2**3 + 7])
    # A straight line goes on below nought, a power does not.
    assert curve_of(parf(0, 1, 2, -1, 0.5))(0.0) == pytest.approx([-0.5])
    assert curve_of(parf(0, 2, 2, -1, 0.5))(0.0) == pytest.approx([0.5])
    assert curve_of(parf(1, 1, 2, 1, 0, 0.25))(-3.0) == pytest.approx([0.25])


def test_samples_between_formulas() -> None:
    curve = curve_of(parf(0, 1, 0, 0, 0.2), samf(0.6, 0.4), parf(0, 1, 1, 9, 0), breaks=(0.0, 1.0))
    # From the 0.2 that the first segment ends with, over 0.6 in the middle, to 0.4.
    assert curve(-5, 0, 0.25, 0.5, 0.75, 1.0) == pytest.approx([0.2, 0.2, 0.4, 0.6, 0.5, 0.4])
    assert curve(1.001) == pytest.approx([10.001])


def test_steps_follow_one_another_and_a_grid_holds_its_inputs() -> None:
    elements = parse_elements(
        mpet(
            2, 1,
            b"bACS" + bytes(12),
            matf(np.array([[2.0, 0], [0, 1]]), np.array([-0.5, 0.25])),
            clutf(np.array([[[0.0], [10.0]], [[100.0], [110.0]]])),
        )
    )  # fmt: skip
    out = run_elements(elements, np.array([[0.5, 0.25], [2.0, -3.0], [np.nan, np.inf]]))
    assert out[:, 0] == pytest.approx([50 + 5, 100, 2.5])


def test_a_grid_of_three_inputs_and_the_order_of_its_axes() -> None:
    elements = parse_elements(mpet(3, 1, clutf(grid(3, 3, lambda u: u @ [[1.0], [10], [100]]))))
    assert run_elements(elements, np.array([[0.5, 0.25, 0.1]]))[0, 0] == pytest.approx(13)


@pytest.mark.parametrize(
    "data",
    [
        b"mpet", b"mft2" + mpet(3, 3, matf(np.eye(3), np.zeros(3)))[4:], mpet(3, 3), mpet(0, 3, matf(np.eye(3), np.zeros(3))), mpet(3, 4, matf(np.eye(3), np.zeros(3))),
        mpet(4, 3, matf(np.eye(3), np.zeros(3))), mpet(3, 3, matf(np.full((3, 3), np.nan), np.zeros(3))),
        mpet(3, 3, b"calc" + bytes(8)), mpet(3, 3, cvst(LINE, LINE)), mpet(1, 1, cvst(((), (samf(1),)))),
        mpet(1, 1, cvst(((0.5, 0.2), (parf(0, 1, 1, 0, 0),) * 3))), mpet(1, 1, cvst(((), (parf(7, 1),)))),
        mpet(3, 3, matf(np.eye(3), np.zeros(3)))[:-6], mpet(2, 1, clutf(np.zeros((1, 2, 1)))),
        b"mpet" + bytes(4) + b"\0\3\0\3\xff\xff\xff\xff", mpet(1, 1, cvst(((), (parf(0, 1, 1),)))),
        mpet(4, 1, b"clut" + bytes(4) + b"\0\4\0\1" + b"\xff" * 4 + bytes(12)),
    ],
)  # fmt: skip
def test_damaged_ones_are_refused(data: bytes) -> None:
    with pytest.raises(BadProfile):
        parse_elements(data)


def test_a_grid_of_more_numbers_than_any_has_is_refused_unread() -> None:
    huge = mpet(4, 1, b"clut" + bytes(4) + b"\0\4\0\1" + b"\xff" * 4 + bytes(12))
    with pytest.raises(BadProfile) as told:
        parse_elements(huge)
    assert told.value.said.code == "icc.table-numbers"


def test_they_go_before_the_other_tables(floats, coated_v4) -> None:
    inks = samples(4)
    assert np.allclose(lab_of_device(floats, inks), bolder(inks), atol=1e-4)
    assert not np.allclose(lab_of_device(coated_v4, inks), bolder(inks), atol=5)
    lab = np.array([[40.0, 30, -20], [80, -60, 100]])
    unit = lab * [0.01, 1 / 255, 1 / 255] + [0, 128 / 255, 128 / 255]
    assert np.allclose(xyz_to_device(floats, Lab_to_XYZ(lab), 1), inked(unit), atol=1e-5)
    # An intent without one keeps its table.
    bare = with_tags(coated_v4, {"D2B1": forward(bolder)})
    assert np.array_equal(
        lab_of_device(bare, inks, intent="perceptual"),
        lab_of_device(coated_v4, inks, intent="perceptual"),
    )


def test_what_is_absolute_stands_on_the_medium_already(coated_v4) -> None:
    white = np.array([0.85, 0.88, 0.75])
    base = with_tags(coated_v4, {"wtpt": values.pack_xyz(white), "D2B1": forward(bolder)})
    inks = samples(4)[:50]
    shown = bolder(inks)
    # Without a table of its own it follows from the relative one and the medium's white.
    assert np.allclose(
        lab_of_device(base, inks, intent="absolute"),
        XYZ_to_Lab(Lab_to_XYZ(shown) * white / D50),
        atol=1e-3,
    )
    own = with_tags(base, {"D2B3": forward(simple_print), "B2D3": backward(inked)})
    assert np.allclose(lab_of_device(own, inks, intent="absolute"), simple_print(inks), atol=1e-3)
    relative = Lab_to_XYZ(np.array([[50.0, 10, 10]]))
    unit = XYZ_to_Lab(relative * white / D50) * [0.01, 1 / 255, 1 / 255] + [0, 128 / 255, 128 / 255]
    assert np.allclose(xyz_to_device(own, relative, 3), inked(unit), atol=1e-5)


@pytest.mark.parametrize("bpc", [False, True])
@pytest.mark.parametrize("number", range(3))
def test_inks_as_the_library_has_them(number: int, bpc: bool, floats: Profile) -> None:
    intent = ("perceptual", "relative", "saturation")[number]
    srgb = standard_profile("srgb")
    for source, destination in ((srgb, floats), (floats, srgb)):
        device = samples(source.channels)
        ours = convert(source, destination, device, intent=intent, bpc=bpc)
        theirs = library(device, source, destination, number, bpc)
        error = delta_e_2000(lab_of_device(destination, ours), lab_of_device(destination, theirs))
        assert np.percentile(error, 99) <= 0.1
        assert error.max() <= 0.5


def test_curves_and_matrices_as_the_library_has_them() -> None:
    srgb = standard_profile("srgb")
    primaries = np.stack([srgb.xyz(f"{c}XYZ") for c in "rgb"], axis=1)
    tones = cvst(
        ((0.1, 0.6), (parf(0, 1, 0.5, 0, 0), samf(0.1, 0.2, 0.3), parf(0, 2.2, 1, 0, 0))),
        ((0.5,), (parf(2, 0.5, 4, 1, -1, -0.125), parf(1, 1, 0.9, 1, 0.1, 0.6))),
        LINE,
    )
    source = with_tags(srgb, {"D2B1": mpet(3, 3, tones, matf(primaries, np.zeros(3)))})
    device = samples(3)
    ours = convert(source, srgb, device, intent="relative")
    theirs = library(device, source, srgb, 1, False)
    assert np.abs(ours - theirs).max() <= 5e-4
    assert np.abs(ours - device).max() > 0.1


def test_one_that_cannot_be_read_leaves_the_table_beside_it_and_is_told(coated_v4) -> None:
    inks = samples(4)[:50]
    odd = with_tags(coated_v4, {"D2B1": mpet(4, 3, b"calc" + bytes(8))})
    assert np.array_equal(device_to_xyz(odd, inks, 1), device_to_xyz(coated_v4, inks, 1))
    (told,) = [p for p in check_profile(odd.data) if p.tag == "D2B1"]
    assert told.severity == "warning"
    assert told.message.code == "icc.check-float"
    assert "calc" in told.message
    assert "A2B1" in told.message
    assert {t.name for t in tags_of(odd) if t.used} >= {"A2B1", "wtpt"}
    assert "D2B1" not in {t.name for t in tags_of(odd) if t.used}


def test_channels_that_do_not_fit_the_profile(coated_v4) -> None:
    short = with_tags(coated_v4, {"D2B1": mpet(3, 3, matf(np.eye(3), np.zeros(3)))})
    with pytest.raises(BadProfile):
        device_to_xyz(short, samples(4), 1)
    assert [p.severity for p in check_profile(short.data) if p.tag == "D2B1"] == ["error"]


def test_a_profile_of_float_tables_alone_plays_its_parts(floats) -> None:
    alone = {t: floats.raw(t) for t in floats.directory if not t.startswith(("A2B", "B2A"))}
    from plinto_core.icc.write import write_profile

    bare = Profile(write_profile(floats.header, alone))
    assert {"source", "destination"} <= set(parts_of(bare))
    assert own_total(bare) == pytest.approx(own_total(floats))
    # Full cyan and magenta, all black where L* is 0: 1 + 1 + 0 + 1.
    assert own_total(bare) == pytest.approx(3.0)


def test_what_they_hold_is_shown(floats) -> None:
    used = {t.name: t.used for t in tags_of(floats)}
    assert used["D2B1"]
    assert used["B2D0"]
    assert not used["A2B1"]
    content = content_of(floats, "B2D1")
    assert content.kind == "table"
    assert content.grid == [5, 5, 5]
    assert content.text == "1. a matrix of 3 by 3 with offsets\n2. a grid of 5 by 5 by 5"
    assert not content.curves


def test_a_link_and_an_abstract_profile(coated_v4) -> None:
    from dataclasses import replace

    from plinto_core.icc.write import write_profile
    from plinto_core.transform.direct import run_abstract, run_link

    def of(kind: str, space: str, pcs: str, data: bytes) -> Profile:
        header = replace(coated_v4.header, device_class=kind, colour_space=space, pcs=pcs)
        return Profile(write_profile(header, {"desc": values.pack_mluc("x"), "D2B0": data}))

    half = mpet(4, 4, matf(0.5 * np.eye(4), np.zeros(4)))
    assert np.allclose(run_link(of("link", "CMYK", "CMYK", half), samples(4), 1), samples(4) / 2)
    over = mpet(4, 4, matf(2 * np.eye(4), np.zeros(4)))
    assert run_link(of("link", "CMYK", "CMYK", over), samples(4)).max() == 1
    paler = mpet(3, 3, matf(np.diag([1, 0.5, 0.5]), np.array([2.0, 0, 0])))
    lab = np.array([[50.0, 40, -60]])
    assert np.allclose(run_abstract(of("abst", "Lab ", "Lab ", paler), lab), [[52, 20, -30]])


def test_recipes_of_former_methods_pass_them_over(floats, coated_v4) -> None:
    rgb = samples(3)

    def inks(press: Profile, **parts: object):
        recipe = parse_recipe({"destination": "press", "intent": "relative", **parts})
        return route_for(recipe, standard_profile("srgb"), press).inks(rgb)

    assert np.array_equal(inks(floats, version=3), inks(coated_v4, version=3))
    assert np.array_equal(inks(floats, version=3, bpc=True), inks(coated_v4, version=4, bpc=True))
    assert np.allclose(inks(floats), convert(standard_profile("srgb"), floats, rgb, bpc=True))
    assert np.abs(inks(floats) - inks(coated_v4)).max() > 0.2
    assert coated_v4.without_floats() is coated_v4
    back = parse_recipe({"destination": "srgb", "version": 3})
    route = route_for(back, floats, standard_profile("srgb"))
    assert route.source.float_forward(1) is None
