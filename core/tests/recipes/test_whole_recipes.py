"""Recipes with everything in them: regions, plates, text, turning, films, tables."""

from __future__ import annotations

import zipfile

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.colorimetry import delta_e_2000
from plinto_core.corrections import Place
from plinto_core.errors import BadRecipe
from plinto_core.icc import Profile
from plinto_core.icc.write import write_profile
from plinto_core.imaging import open_picture
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.recipes.route import route_for
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.cube import parse_cube
from plinto_core.transform.standard_spaces import standard_profile

LEFT = {"corners": [[-10, -10], [50, -10], [50, 110], [-10, 110]], "softness": 0}
RULES = {"tac": 280, "black": {"method": "gcr", "strength": 60}}


@pytest.fixture
def resolve(coated):
    return lambda reference: coated if reference == "coated" else standard_profile(reference)


@pytest.fixture
def picture(tmp_path):
    y, x = np.mgrid[0:60, 0:100]
    rgb = np.stack([x / 99, y / 59, 0.5 + 0 * x], axis=-1) * 0.6 + 0.2
    rgb[:4, :10] = 0
    path = tmp_path / "in.tif"
    tifffile.imwrite(
        path, np.round(rgb * 65535).astype(np.uint16), photometric="rgb",
        iccprofile=standard_profile("oprgb").data, resolution=(254, 254),
    )  # fmt: skip
    return path


def run(picture, tmp_path, resolve, name="out.tif", **changes):
    recipe = parse_recipe({"destination": "coated", **changes})
    tables = {"invert": parse_cube(b"LUT_1D_SIZE 2\n1 1 1\n0 0 0\n")}
    report = run_recipe(recipe, picture, tmp_path / name, resolve, find_table=tables.__getitem__)
    return report, tmp_path / name


def read(path) -> np.ndarray:
    with open_picture(path) as picture:
        return picture.read()


def test_a_correction_in_a_region_leaves_the_rest_alone(picture, tmp_path, resolve) -> None:
    plain = read(run(picture, tmp_path, resolve)[1])
    dark = read(
        run(picture, tmp_path, resolve, corrections=[{"lightness": -60, "region": LEFT}])[1]
    )
    assert np.array_equal(plain[:, 51:], dark[:, 51:])
    everywhere = read(run(picture, tmp_path, resolve, corrections=[{"lightness": -60}])[1])
    assert np.array_equal(everywhere[:, :49], dark[:, :49])


def test_black_of_a_region_is_remade_while_the_colour_stays(
    picture, tmp_path, resolve, coated
) -> None:
    region = {"region": LEFT, "black": {"method": "none"}}
    a = read(run(picture, tmp_path, resolve, ink_rules=RULES)[1])
    b = read(run(picture, tmp_path, resolve, ink_rules=RULES, corrections=[region])[1])
    assert b[5:, :49, 3].max() == 0
    assert a[5:, :49, 3].max() > 20_000
    assert np.array_equal(a[:, 51:], b[:, 51:])
    # What three inks can print as well, within the TAC and with none of them full.
    light = (a[5:, :49, 3] < 30_000) & (b[5:, :49, :3].max(axis=2) < 65_000)
    labs = [lab_of_device(coated, p[5:, :49][light] / 65535) for p in (a, b)]
    error = delta_e_2000(*labs)
    assert error.mean() <= 0.3
    assert np.percentile(error, 99) <= 1.0


def test_no_pixel_exceeds_the_tac_whatever_follows(picture, tmp_path, resolve) -> None:
    """In 8 bits, where rounding adds the most."""
    report, path = run(
        picture, tmp_path, resolve, ink_rules={"tac": 200, "black": {"method": "ucr"}},
        plates={"C": {"curve": [[0, 0], [50, 80], [100, 100]]}, "K": {"minimum": 3, "cut": 1}},
        corrections=[
            {"chroma": 60, "lightness": -50, "region": {**LEFT, "softness": 30}},
            {"region": {**LEFT, "corners": [[20, 20], [80, 30], [40, 90]], "softness": 20}, "black": {"method": "maximum"}},
        ],
        delivery={"bits": 8},
    )  # fmt: skip
    inks = read(path).astype(float) / 255
    assert inks.sum(axis=2).max() * 100 <= 200.5
    assert report.tac.max == pytest.approx(inks.sum(axis=2).max() * 100, abs=0.01)


def test_black_text_prints_in_black_alone(picture, tmp_path, resolve) -> None:
    inks = read(
        run(picture, tmp_path, resolve, ink_rules={**RULES, "protect": {"black_text": True}})[1]
    )
    assert (inks[:4, :10] == [0, 0, 0, 65535]).all()
    assert inks[30, 50, :3].min() > 0
    plain = read(run(picture, tmp_path, resolve, ink_rules=RULES)[1])
    assert np.array_equal(plain[4:], inks[4:])


def test_a_house_that_converts_clips_to_its_space(picture, tmp_path, resolve, coated) -> None:
    found = read(run(picture, tmp_path, resolve, arrival="srgb")[1]).reshape(-1, 4) / 65535
    device = read(picture).reshape(-1, 3) / 65535
    srgb = convert(
        standard_profile("oprgb"), standard_profile("srgb"), device, intent="relative", bpc=True
    )
    exact = convert(standard_profile("srgb"), coated, srgb, intent="perceptual", bpc=True)
    error = delta_e_2000(lab_of_device(coated, found), lab_of_device(coated, exact))
    assert error.mean() < 0.15


def test_tables_before_and_after(picture, tmp_path, resolve) -> None:
    same = {"source": "srgb", "destination": "srgb", "intent": "relative"}
    plain = read(run(picture, tmp_path, resolve, **same)[1]).astype(int)
    after = read(run(picture, tmp_path, resolve, **same, after="invert")[1])
    assert np.abs(65535 - plain - after).max() <= 2
    before = read(run(picture, tmp_path, resolve, before="invert")[1])
    negative = tmp_path / "negative.tif"
    tifffile.imwrite(
        negative,
        65535 - read(picture),
        photometric="rgb",
        iccprofile=standard_profile("oprgb").data,
    )
    same = read(run(negative, tmp_path, resolve, "other.tif")[1])
    # Two links with other nodes: alike within what their grids leave, nearly everywhere.
    away = np.abs(before.astype(int) - same)
    assert np.percentile(away, 99) <= 300
    assert away.max() <= 1000
    with pytest.raises(BadRecipe, match="RGB destination"):
        run(picture, tmp_path, resolve, after="invert")


@pytest.mark.parametrize("turn", [90, 180, 270])
def test_turning(picture, tmp_path, resolve, turn) -> None:
    plain = read(run(picture, tmp_path, resolve)[1])
    report, path = run(picture, tmp_path, resolve, delivery={"turn": turn})
    assert np.array_equal(read(path), np.rot90(plain, -turn // 90))
    assert report.size.width == 100


def test_size_and_resolution_of_the_print(picture, tmp_path, resolve) -> None:
    report, path = run(picture, tmp_path, resolve, delivery={"width_mm": 20, "resolution": 100})
    with open_picture(path) as result:
        assert (result.facts.width, result.facts.height) == (79, 47)
        assert result.facts.resolution == pytest.approx((100, 100))
    assert (report.size.width, report.size.height) == (79, 47)


def test_films_of_a_recipe(picture, tmp_path, resolve) -> None:
    delivery = {"films": {"resolution": 508, "ruling": 40}, "mirror": True}
    run(picture, tmp_path, resolve, "films.zip", delivery=delivery)
    with zipfile.ZipFile(tmp_path / "films.zip") as archive:
        assert archive.namelist() == [f"film_{n}.tif" for n in "CMYK"]
    assert not list(tmp_path.glob(".plinto*"))


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"delivery": {"films": {}}, "destination": "srgb"}, "made of inks"),
        ({"delivery": {"films": {}, "format": "JPEG", "bits": 8}}, "TIFF or PDF"),
        ({"plates": {"O": {"minimum": 2}}}, "no plate"),
        ({"ink_rules": None, "corrections": [{"region": LEFT, "black": {}}]}, "needs ink rules"),
        ({"corrections": [{"region": LEFT}] * 7}, "at most 6"),
        ({"arrival": "grey"}, "another kind"),
    ],
)
def test_contradictions_are_refused_and_leave_no_file(
    picture, tmp_path, resolve, changes, words
) -> None:
    with pytest.raises(BadRecipe, match=words):
        run(picture, tmp_path, resolve, "no.tif", **changes)
    assert not (tmp_path / "no.tif").exists()


def test_films_need_a_size(tmp_path, resolve) -> None:
    Image.new("RGB", (20, 20)).save(tmp_path / "a.png")
    with pytest.raises(BadRecipe, match="no size"):
        run(tmp_path / "a.png", tmp_path, resolve, "no.zip", delivery={"films": {}})
    run(
        tmp_path / "a.png",
        tmp_path,
        resolve,
        "yes.zip",
        delivery={"films": {"resolution": 300}, "width_mm": 20},
    )


def test_the_pointer_reads_what_the_delivery_has(picture, tmp_path, resolve, coated) -> None:
    recipe = parse_recipe(
        {"destination": "coated", "ink_rules": RULES, "corrections": [{"lightness": 30, "region": {**LEFT, "softness": 40}}]}
    )  # fmt: skip
    run_recipe(recipe, picture, tmp_path / "a.tif", resolve)
    delivered = read(tmp_path / "a.tif")
    path = PixelPath(route_for(recipe, standard_profile("oprgb"), coated), recipe.corrections)
    device = read(picture) / 65535
    for x, y in ((10, 30), (48, 30), (52, 20), (90, 50)):
        exact = path.exact(lambda r, d: r.inks(d), device[y, x][None], Place((100, 60), x, y))
        a, b = (lab_of_device(coated, v) for v in (exact, delivered[y, x][None] / 65535))
        assert delta_e_2000(a, b)[0] < 0.6
    whole = path.exact(
        lambda r, d: r.inks(d), device.reshape(-1, 3), Place((100, 60)), device.shape[:2]
    ).reshape(60, 100, 4)  # fmt: skip
    one = path.exact(lambda r, d: r.inks(d), device[30, 52][None], Place((100, 60), 52, 30))
    assert whole[30, 52] == pytest.approx(one[0], abs=1e-6)


def linear_profile() -> Profile:
    """sRGB's primaries with numbers in linear light."""
    source = standard_profile("srgb")
    curve = b"curv" + bytes(8)
    tags = {name: source.raw(name) for name in source.directory}
    tags |= dict.fromkeys(("rTRC", "gTRC", "bTRC"), curve)
    return Profile(write_profile(source.header, tags))


def test_linear_light_is_converted_as_exactly_as_it_is_stated(tmp_path, coated) -> None:
    source = linear_profile()
    levels = np.round(np.linspace(0, 1, 4000) ** 3 * 65535).astype(np.uint16)
    tifffile.imwrite(
        tmp_path / "in.tif", np.repeat(levels.reshape(40, 100, 1), 3, axis=2), photometric="rgb",
        iccprofile=source.data, resolution=(254, 254),
    )  # fmt: skip
    recipe = parse_recipe({"destination": "coated", "ink_rules": RULES})
    report = run_recipe(recipe, tmp_path / "in.tif", tmp_path / "out.tif", lambda r: coated)
    inks = tifffile.imread(tmp_path / "out.tif").reshape(-1, 4) / 65535
    route = route_for(recipe, source, coated)
    assert route.input_curve is not None
    exact = route.inks(np.repeat(levels[:, None] / 65535, 3, axis=1))
    error = delta_e_2000(route.print_lab(inks), route.print_lab(exact))
    assert error.mean() <= report.link_error.mean + 0.02
    assert np.percentile(error, 99) <= report.link_error.p99 + 0.05
    assert report.link_error.p99 <= 0.6
    assert report.link_error.grid == 33
    assert 0 < report.seconds < 600
    assert route_for(recipe, standard_profile("srgb"), coated).input_curve is None
