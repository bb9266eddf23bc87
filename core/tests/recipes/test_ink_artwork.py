"""Artwork in other inks than four: read, kept for its own press, made over for another."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile
from handmade import ink_profile

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadRecipe, NotSupported
from plinto_core.icc import Profile
from plinto_core.icc.colorants import black_of
from plinto_core.icc.parts import parts_of
from plinto_core.imaging.arrival import Arrival, ArrivalCheck
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.ink_tiff import ink_tags
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.writer import OutputOptions, write_picture
from plinto_core.inks.editing import with_inks
from plinto_core.inks.ink_set import InkRole
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.arrivals import arrival_findings
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

SEVEN = ("C", "M", "Y", "K", "Orange", "Green", "Violet")


def pixels_of(count: int, dtype=np.uint8) -> np.ndarray:
    """(40, 60, count) tones that stay below any total, with black alone in the first row."""
    top = np.iinfo(dtype).max
    unit = np.random.default_rng(7).random((40, 60, count)) * 2.2 / count
    unit[0] = 0
    if count > 3:
        unit[0, :, 3] = np.linspace(0, 1, 60)
    return np.round(unit * top).astype(dtype)


@pytest.fixture
def artwork(tmp_path, seven):
    def write(pixels, profile=seven, inks=SEVEN, name="inks.tif"):
        bits = pixels.dtype.itemsize * 8
        data = None if profile is None else profile.data
        options = OutputOptions("TIFF", bits, profile=data, resolution=(150, 150), inks=inks)
        write_picture(tmp_path / name, iter([pixels]), pixels.shape, options)
        return tmp_path / name

    return write


@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
def test_seven_inks_come_in_as_they_were_written(artwork, dtype, seven) -> None:
    pixels = pixels_of(7, dtype)
    with open_picture(artwork(pixels)) as picture:
        facts = picture.facts
        assert (facts.space, facts.channels, facts.inks) == ("7CLR", 7, SEVEN)
        assert facts.extra_channels == ()
        check = ArrivalCheck(facts)
        assert (np.concatenate(list(picture.checked_bands(check))) == pixels).all()
        # No ink is most of a picture's pixels, and nothing lost.
        assert max(check.result.at_bottom) == 0
        assert {f.code for f in arrival_findings(facts, check.result, seven)} <= {"clipped"}
    assert "source" in parts_of(seven)
    assert black_of(seven) == 3


def test_names_that_differ_from_the_profile_s_are_said(artwork, seven) -> None:
    other = ("C", "M", "Y", "K", "Violet", "Green", "Orange")
    with open_picture(artwork(pixels_of(7), inks=other)) as picture:
        check = ArrivalCheck(picture.facts)
        for _ in picture.checked_bands(check):
            pass
        (found,) = (f for f in arrival_findings(picture.facts, check.result, seven) if f.code == "ink-names")  # fmt: skip
    assert "Violet, Green, Orange" in found.text


@pytest.mark.parametrize(
    ("given", "theirs", "found"),
    [
        (("C", "Brick"), ("C", "Brick"), []), (("Brick", "C"), ("C", "Brick"), ["ink-names"]),
        # Numbers are no names: one of the two says nothing of its inks.
        (("1", "2"), ("C", "Brick"), []), (("C", "Brick"), None, []), (("2", "1"), ("C", "Brick"), ["ink-names"]),
    ],
)  # fmt: skip
def test_only_names_are_compared(given, theirs, found) -> None:
    press = ink_profile(2, lambda d: 100 - 50 * d[:, [0, 1, 0]], lambda lab: lab[:, :2] * 0, grid=2, back_grid=2)  # fmt: skip
    if theirs:
        press = Profile(with_inks(press, theirs, [InkRole(role="colour")] * 2))
    facts = PictureFacts(format="TIFF", width=2, height=2, channels=2, bits=8, inks=given)
    arrival = Arrival((0.0, 0.0), (0.0, 0.0), transparent=0, eight_bit=False)
    codes = [f.code for f in arrival_findings(facts, arrival, press)]
    assert [c for c in codes if c == "ink-names"] == found


def test_its_own_press_gets_its_own_numbers(artwork, tmp_path, seven) -> None:
    pixels = pixels_of(7)
    recipe = parse_recipe({"destination": "press", "delivery": {"format": "TIFF", "bits": 8}})
    report = run_recipe(recipe, artwork(pixels), tmp_path / "out.tif", lambda _: seven)
    assert (tifffile.imread(tmp_path / "out.tif") == pixels).all()
    assert report.de00.mean == 0


def test_another_press_prints_the_same_colours_in_its_own_inks(
    artwork, tmp_path, seven, coated
) -> None:
    pixels = pixels_of(7)
    own = {"press": coated}
    rules = {"tac": 300, "protect": {"pure_black": True}, "black": {"method": "gcr"}}
    recipe = parse_recipe({"destination": "press", "intent": "relative", "ink_rules": rules, "delivery": {"format": "TIFF", "bits": 8}})  # fmt: skip
    source = artwork(pixels)
    run_recipe(recipe, source, tmp_path / "out.tif", lambda r: own.get(r) or standard_profile(r))
    made = tifffile.imread(tmp_path / "out.tif") / 255
    assert made.shape == (40, 60, 4)
    assert made.sum(axis=2).max() <= 3.0 + 4 / 255
    # Black alone stays black alone, tone by tone.
    assert (made[0, :, :3] == 0).all()
    assert made[0, :, 3] == pytest.approx(pixels[0, :, 3] / 255, abs=0.003)
    before = lab_of_device(seven, pixels[1:].reshape(-1, 7) / 255)
    after = lab_of_device(coated, made[1:].reshape(-1, 4))
    quiet = np.hypot(before[:, 1], before[:, 2]) < 25
    assert np.median(delta_e_2000(before, after)[quiet & (before[:, 0] > 45)]) < 1.5


def test_without_a_profile_its_colours_are_not_known(artwork, tmp_path, seven) -> None:
    source = artwork(pixels_of(7), profile=None)
    with open_picture(source) as picture:
        # Their names begin with the four: white or varnish may stand beside them.
        assert picture.facts.space == "CMYK"
        assert picture.facts.extra_channels == ("Orange", "Green", "Violet")
    plain = artwork(pixels_of(5), profile=None, inks=("Sky", "Moss", "Clay", "Ink", "Gold"), name="b.tif")  # fmt: skip
    with open_picture(plain) as picture:
        assert (picture.facts.space, picture.facts.inks[0]) == ("5CLR", "Sky")
    recipe = parse_recipe({"destination": "press", "delivery": {"format": "TIFF", "bits": 8}})
    with pytest.raises(BadRecipe, match="5 inks without a profile"):
        run_recipe(recipe, plain, tmp_path / "o.tif", lambda _: seven)


def test_white_beside_cmyk_of_a_profile_is_no_ink_of_the_artwork(tmp_path, coated) -> None:
    pixels = pixels_of(5)
    tifffile.imwrite(
        tmp_path / "w.tif", pixels, photometric="separated", planarconfig="contig", extrasamples=[0],
        extratags=[*((c, t, n, v, o) for c, t, n, v, o in ink_tags(("C", "M", "Y", "K", "White"), 8)), (34675, 7, len(coated.data), coated.data, True)],
    )  # fmt: skip
    with open_picture(tmp_path / "w.tif") as picture:
        assert (picture.facts.space, picture.facts.extra_channels) == ("CMYK", ("White",))
    recipe = parse_recipe({"destination": "press", "delivery": {"format": "TIFF", "bits": 8}})
    with pytest.raises(BadRecipe, match="White"):
        run_recipe(recipe, tmp_path / "w.tif", tmp_path / "o.tif", lambda _: coated)


def test_white_beside_seven_inks_of_a_profile_is_asked_about(tmp_path, seven) -> None:
    pixels = pixels_of(8)
    names = (*SEVEN, "White")
    tifffile.imwrite(
        tmp_path / "w.tif", pixels, photometric="separated", planarconfig="contig", extrasamples=[0, 0, 0, 0],
        extratags=[*ink_tags(names, 8), (34675, 7, len(seven.data), seven.data, True)],
    )  # fmt: skip
    with open_picture(tmp_path / "w.tif") as picture:
        facts = picture.facts
        assert (facts.space, facts.inks, facts.extra_channels) == ("7CLR", SEVEN, ("White",))
        assert (np.concatenate(list(picture.bands())) == pixels[..., :7]).all()


def test_nine_inks_are_too_many_and_two_are_not(tmp_path, artwork, two_inks) -> None:
    names = tuple(f"Ink {i}" for i in range(9))
    with pytest.raises(NotSupported, match="9 inks"):
        open_picture(artwork(pixels_of(9), profile=None, inks=names, name="nine.tif"))
    pixels = pixels_of(2)
    source = artwork(pixels, profile=two_inks, inks=("Brick", "K"))
    recipe = parse_recipe({"destination": "srgb", "intent": "relative", "bpc": False, "delivery": {"format": "TIFF", "bits": 8}})  # fmt: skip
    run_recipe(recipe, source, tmp_path / "rgb.tif", standard_profile)
    shown = lab_of_device(standard_profile("srgb"), tifffile.imread(tmp_path / "rgb.tif").reshape(-1, 3) / 255)  # fmt: skip
    meant = lab_of_device(two_inks, pixels.reshape(-1, 2) / 255)
    assert np.median(delta_e_2000(shown, meant)) < 0.5
