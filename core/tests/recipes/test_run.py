"""Recipes end to end: the same bytes every time, ink rules kept by every pixel."""

from __future__ import annotations

from types import SimpleNamespace

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.colorimetry import delta_e_2000
from plinto_core.errors import BadProfile, BadRecipe, Cancelled
from plinto_core.imaging import open_picture
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.route import route_for
from plinto_core.recipes.run import _Converter, _Measure
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.link import LinkError
from plinto_core.transform.standard_spaces import standard_profile


@pytest.mark.parametrize("means", [(0.1, 0.3, 0.2), (0.3, 0.2, 0.1), (0.1, 0.2, 0.3)])
def test_the_worst_error_of_all_links_is_reported(means) -> None:
    """Of the whole picture and of each region whose black is made otherwise."""
    errors = [LinkError(grid=17, mean=m, p99=m, max=m) for m in means]
    made = []

    def route(number: int) -> SimpleNamespace:
        def measured_link():
            made.append(number)
            return object(), errors[number]

        return SimpleNamespace(key=str(number), measured_link=measured_link)

    converter = _Converter(parse_recipe({"destination": "srgb"}), None, lambda share: None)
    for number in (0, 1, 2, 1, 0):
        converter.link_of(route(number))
    assert made == [0, 1, 2]
    assert converter.link_error.mean == 0.3


@pytest.fixture
def resolve(coated):
    def find(reference: str):
        return coated if reference == "coated" else standard_profile(reference)

    return find


@pytest.fixture
def picture(tmp_path, gradient):
    path = tmp_path / "in.tif"
    tifffile.imwrite(
        path,
        gradient,
        photometric="rgb",
        iccprofile=standard_profile("oprgb").data,
        resolution=(300, 300),
    )
    return path


def recipe_of(**changes):
    return parse_recipe({"destination": "coated", **changes})


def test_pixels_are_those_of_the_float_path(tmp_path, picture, gradient, coated, resolve) -> None:
    report = run_recipe(recipe_of(), picture, tmp_path / "out.tif", resolve)
    with open_picture(tmp_path / "out.tif") as result:
        inks = result.read().reshape(-1, 4) / 65535
        assert result.facts.profile == coated.data
        assert result.facts.resolution == pytest.approx((300, 300))
    exact = convert(
        standard_profile("oprgb"),
        coated,
        gradient.reshape(-1, 3) / 65535,
        intent="perceptual",
        bpc=True,
    )
    error = delta_e_2000(lab_of_device(coated, inks), lab_of_device(coated, exact))
    assert error.mean() < 0.15
    assert np.percentile(error, 99) < 0.6
    assert (report.source.profile, report.source.origin) == ("opRGB", "embedded")
    assert report.tac.max == pytest.approx(inks.sum(axis=1).max() * 100, abs=0.01)
    x, y = report.tac.at.x, report.tac.at.y
    assert inks.reshape(40, 60, 4)[y, x].sum() == inks.sum(axis=1).max()


def test_same_recipe_same_bytes(tmp_path, picture, resolve) -> None:
    recipe = recipe_of(ink_rules={"tac": 250, "black": {"method": "gcr"}})
    for name in ("a.tif", "b.tif"):
        run_recipe(recipe, picture, tmp_path / name, resolve)
    assert (tmp_path / "a.tif").read_bytes() == (tmp_path / "b.tif").read_bytes()


@pytest.mark.parametrize(("tac", "bits"), [(140, 8), (200, 16), (310, 8)])
@pytest.mark.parametrize("black", [None, {"method": "gcr", "strength": 70}, {"method": "none"}])
def test_no_pixel_exceeds_the_tac(tmp_path, picture, resolve, tac, bits, black) -> None:
    recipe = recipe_of(
        intent="relative", ink_rules={"tac": tac, "black": black}, delivery={"bits": bits}
    )
    report = run_recipe(recipe, picture, tmp_path / "out.tif", resolve)
    inks = tifffile.imread(tmp_path / "out.tif").astype(float) / (65535 if bits == 16 else 255)
    assert inks.sum(axis=-1).max() * 100 <= tac + 0.5
    assert report.tac.max <= tac + 0.5


@pytest.mark.parametrize(("size", "step"), [((400, 400), 1), ((3000, 2000), 5), ((40, 200_000), 6)])
def test_figures_are_of_about_two_hundred_thousand_pixels(size, step) -> None:
    """Whatever the shape of the picture."""
    assert _Measure(size, 8).step == step


def test_mirror_negative_and_bare_numbers(tmp_path, picture, resolve) -> None:
    run_recipe(recipe_of(), picture, tmp_path / "plain.tif", resolve)
    delivery = {"mirror": True, "negative": True, "embed": False}
    run_recipe(recipe_of(delivery=delivery), picture, tmp_path / "film.tif", resolve)
    plain, film = (tifffile.imread(tmp_path / n) for n in ("plain.tif", "film.tif"))
    assert np.array_equal(65535 - plain[:, ::-1], film)
    with open_picture(tmp_path / "film.tif") as result:
        assert result.facts.profile is None


def test_pure_black_of_cmyk_stays_pure_black(tmp_path, resolve) -> None:
    data = np.zeros((16, 256, 4), np.uint8)
    data[..., 3] = np.arange(256)
    tifffile.imwrite(tmp_path / "k.tif", data, photometric="separated")
    recipe = recipe_of(
        source="coated", intent="relative", ink_rules={"tac": 300}, delivery={"bits": 8}
    )
    run_recipe(recipe, tmp_path / "k.tif", tmp_path / "out.tif", resolve)
    assert np.array_equal(tifffile.imread(tmp_path / "out.tif"), data)


def test_rgb_greys_can_go_to_black_alone_with_their_lightness(coated) -> None:
    recipe = recipe_of(ink_rules={"tac": 300, "protect": {"neutral_to_black": True}})
    route = route_for(recipe, standard_profile("srgb"), coated)
    greys = np.repeat(np.linspace(0.4, 1, 9)[:, None], 3, axis=1)
    inks = route.inks(greys)
    assert inks[:, :3].max() == 0
    assert (
        np.abs(
            route.print_lab(inks)[:, 0]
            - lab_of_device(
                coated, convert(route.source, coated, greys, intent="perceptual", bpc=True)
            )[:, 0]
        ).max()
        < 0.5
    )


def test_grey_and_jpeg_pictures_convert(tmp_path, resolve) -> None:
    Image.linear_gradient("L").save(tmp_path / "g.jpg")
    report = run_recipe(
        recipe_of(delivery={"format": "JPEG", "bits": 8}),
        tmp_path / "g.jpg",
        tmp_path / "o.jpg",
        resolve,
    )
    assert report.source.origin == "house default"
    with Image.open(tmp_path / "o.jpg") as image:
        assert image.mode == "CMYK"


def test_a_rgb_destination_is_possible(tmp_path, picture, resolve) -> None:
    recipe = recipe_of(destination="srgb", intent="relative", delivery={"format": "PNG"})
    run_recipe(recipe, picture, tmp_path / "o.png", resolve)
    with open_picture(tmp_path / "o.png") as result:
        assert result.facts.channels == 3
        assert result.facts.bits == 16


def test_what_cannot_work_is_said(tmp_path, picture, resolve) -> None:
    cmyk = tmp_path / "c.tif"
    tifffile.imwrite(cmyk, np.zeros((4, 4, 4), np.uint8), photometric="separated")
    wrong = tmp_path / "w.tif"
    tifffile.imwrite(wrong, np.zeros((4, 4, 3), np.uint8), photometric="rgb", iccprofile=b"x" * 200)
    out = tmp_path / "o.tif"
    with pytest.raises(BadRecipe, match="no defined colours"):
        run_recipe(recipe_of(), cmyk, out, resolve)
    with pytest.raises(BadRecipe, match="for CMYK"):
        run_recipe(recipe_of(source="coated"), picture, out, resolve)
    with pytest.raises(BadProfile, match="embedded profile"):
        run_recipe(recipe_of(), wrong, out, resolve)
    with pytest.raises(BadRecipe, match="no profile of inks"):
        run_recipe(recipe_of(destination="srgb", ink_rules={"tac": 200}), picture, out, resolve)
    with pytest.raises(BadRecipe, match="same file"):
        run_recipe(recipe_of(), picture, picture, resolve)
    assert not out.exists()


def test_cancelling_leaves_nothing(tmp_path, picture, resolve) -> None:
    def stop(share: float) -> None:
        if share > 0.5:
            raise Cancelled

    before = set(tmp_path.iterdir())
    with pytest.raises(Cancelled):
        run_recipe(recipe_of(), picture, tmp_path / "o.tif", resolve, progress=stop)
    assert set(tmp_path.iterdir()) == before


@pytest.mark.parametrize(
    "data", [{}, {"destination": "x", "intent": "nice"}, {"destination": "x", "version": 5}, []]
)
def test_wrong_recipes_are_refused(data) -> None:
    with pytest.raises(BadRecipe, match="recipe"):
        parse_recipe(data)
