"""A recipe whose inks a device link makes: to the pixel what the link says, and nothing on top of it."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.colorimetry import Lab_to_XYZ
from plinto_core.errors import BadRecipe
from plinto_core.icc import Profile
from plinto_core.imaging import open_picture
from plinto_core.paths.saving import SavingOptions, save_path
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.retarget import ConditionFacts, retarget
from plinto_core.recipes.route import route_for
from plinto_core.transform.direct import run_link
from plinto_core.transform.path import PathStep
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile


@pytest.fixture(scope="module")
def links(coated):
    wide = standard_profile("oprgb")

    def link(*steps, **options):
        return Profile(save_path(list(steps), SavingOptions(**options))[0])

    return {
        "rgb": link(PathStep(wide), PathStep(coated, "relative", True), tac=150),
        "cmyk": link(PathStep(coated), PathStep(coated, "relative", True), keep_black=True),
        "other": link(PathStep(wide), PathStep(standard_profile("srgb"), "relative", True)),
    }


@pytest.fixture
def resolve(coated, links):
    def find(reference: str):
        known = {"coated": coated, **links}
        return known[reference] if reference in known else standard_profile(reference)

    return find


@pytest.fixture
def picture(tmp_path, gradient):
    path = tmp_path / "in.tif"
    tifffile.imwrite(path, gradient, photometric="rgb", iccprofile=standard_profile("oprgb").data)
    return path


def recipe_of(**changes):
    return parse_recipe({"destination": "coated", **changes})


def test_pixels_are_what_the_link_makes_of_them(
    tmp_path, picture, gradient, links, resolve
) -> None:
    report = run_recipe(recipe_of(link="rgb"), picture, tmp_path / "out.tif", resolve)
    with open_picture(tmp_path / "out.tif") as result:
        inks = result.read().reshape(-1, 4) / 65535
    expected = run_link(links["rgb"], gradient.reshape(-1, 3) / 65535)
    # The delivery's table has its nodes where the link has them: nothing is lost between.
    assert np.abs(inks - expected).max() < 3e-4
    assert report.link == links["rgb"].description
    assert report.tac.max <= 150.1
    plain = run_recipe(recipe_of(), picture, tmp_path / "plain.tif", resolve)
    assert plain.link is None
    assert plain.tac.max > 160


def test_intent_and_compensation_are_in_the_link_already(links, coated, resolve) -> None:
    wide = standard_profile("oprgb")
    device = np.random.default_rng(2).random((200, 3))
    made = []
    for intent, bpc in (("perceptual", True), ("relative", False), ("absolute", False)):
        recipe = recipe_of(link="rgb", intent=intent, bpc=bpc)
        made.append(route_for(recipe, wide, coated, conversion=links["rgb"]).inks(device))
    assert made[0] == pytest.approx(made[1])
    assert made[0] == pytest.approx(made[2])


def test_black_alone_stays_alone_in_a_picture_of_inks(tmp_path, coated, links, resolve) -> None:
    pixels = np.zeros((4, 64, 4), np.uint8)
    pixels[..., 3] = np.linspace(0, 255, 64)
    Image.fromarray(pixels, "CMYK").save(tmp_path / "k.tif", icc_profile=coated.data)
    report = run_recipe(
        recipe_of(link="cmyk", delivery={"bits": 8}),
        tmp_path / "k.tif",
        tmp_path / "o.tif",
        resolve,
    )
    with open_picture(tmp_path / "o.tif") as result:
        out = result.read()
    assert out[..., :3].max() == 0
    assert out[0, -1, 3] == 255
    # The link decides although the numbers are in the destination's own space.
    assert report.numbers == "made anew"


def test_corrections_act_before_the_link(coated, links) -> None:
    wide = standard_profile("oprgb")
    plain = route_for(recipe_of(link="rgb"), wide, coated, conversion=links["rgb"])
    lighter = recipe_of(link="rgb", corrections=[{"lightness": 40}])
    changed = route_for(lighter, wide, coated, conversion=links["rgb"])
    colour = np.array([[0.6, 0.4, 0.4]])
    # What the link makes of the lighter colour: the correction's own Lab, as RGB numbers.
    aim = changed.aim_lab(colour)
    assert aim[0, 0] > plain.aim_lab(colour)[0, 0] + 3
    numbers = xyz_to_device(wide, Lab_to_XYZ(aim), 1)
    assert changed.inks(colour) == pytest.approx(run_link(links["rgb"], numbers), abs=1e-6)
    with pytest.raises(BadRecipe, match="only RGB numbers can be corrected"):
        route_for(
            recipe_of(link="cmyk", corrections=[{"lightness": 40}]), coated, coated,
            conversion=links["cmyk"],
        )  # fmt: skip


@pytest.mark.parametrize(
    ("changes", "word"),
    [
        ({"link": "other"}, "leads from RGB to RGB, and the recipe from RGB to CMYK"),
        ({"link": "cmyk"}, "leads from CMYK to CMYK"),
        ({"link": "coated"}, "no device link"),
    ],
)
def test_links_that_do_not_fit_are_named(tmp_path, picture, resolve, changes, word) -> None:
    with pytest.raises(BadRecipe, match=word):
        run_recipe(recipe_of(**changes), picture, tmp_path / "o.tif", resolve)
    assert not (tmp_path / "o.tif").exists()


def test_a_link_and_ink_rules_exclude_each_other() -> None:
    with pytest.raises(BadRecipe, match="ink rules would make them anew"):
        recipe_of(link="rgb", ink_rules={"tac": 300})


def test_the_key_of_a_route_names_its_link(coated, links) -> None:
    wide = standard_profile("oprgb")
    found = [
        route_for(recipe_of(), wide, coated, conversion=link).key for link in (None, links["rgb"])
    ]
    assert found[0] != found[1]


def test_another_condition_leaves_the_link_behind() -> None:
    facts = [ConditionFacts(name, name, ("C", "M", "Y", "K"), 300) for name in ("coated", "news")]
    found, notes = retarget(recipe_of(link="rgb"), *facts)
    assert found.link is None
    assert any("device link was left out" in n.text for n in notes if n.way == "attention")


def test_the_intent_of_a_link_is_its_own(coated, links) -> None:
    """It has one table, made for relative colorimetric, whatever the recipe asks for."""
    wide = standard_profile("oprgb")
    for asked in ("perceptual", "relative", "saturation"):
        recipe = parse_recipe({"source": "oprgb", "destination": "coated", "intent": asked})
        assert route_for(recipe, wide, coated, conversion=links["rgb"]).used_intent == "relative"
        assert route_for(recipe, wide, coated).used_intent == asked
