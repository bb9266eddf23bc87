"""What recipes make of small pictures, as it was judged good: pixels and reports."""

from __future__ import annotations

import dataclasses
import zipfile
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import tifffile
from handmade import ink_profile, linear_press
from kept import as_kept

from plinto_core.icc import Profile
from plinto_core.imaging import open_picture
from plinto_core.recipes import ColourRoute, parse_recipe, run_recipe
from plinto_core.recipes.fit import fits
from plinto_core.recipes.route import route_for
from plinto_core.transform.cube import parse_cube
from plinto_core.transform.standard_spaces import SPACES, standard_profile

CORNER = {"corners": [[-5, -5], [55, -5], [55, 60], [-5, 60]], "softness": 8}
GCR = {"method": "gcr", "strength": 60, "start": 20}
RECIPES: dict[str, dict[str, Any]] = {
    "plain": {},
    "relative": {"intent": "relative", "bpc": False},
    "absolute": {"intent": "absolute"},
    "rules": {"intent": "relative", "ink_rules": {"tac": 220, "black": GCR}},
    "overruled": {"source": "oprgb", "arrival": "romm"},
    "negative": {"negative": True},
    "vivid": {"vivid": {"space": "stretch", "strength": 60}},
    "vivid p3": {"vivid": {"space": "p3", "strength": 40}},
    "lighter": {"corrections": [{"lightness": 35, "chroma": -40}]},
    "region": {"corrections": [{"region": CORNER, "chroma": 50}]},
    "colours": {
        "corrections": [
            {"colours": {"lab": [60, 40, 20], "radius": 30, "softness": 80}, "lightness": 30},
            {"hues": [{"hue": 30, "width": 60, "shift": 25, "chroma": 20, "lightness": -10}]},
            {"on": False, "lightness": 99},
        ]
    },
    "curves": {
        "corrections": [
            {"curves": {"master": [[0, 0.05], [0.5, 0.4], [1, 1]], "channels": {"G": [[0, 0], [0.4, 0.6], [1, 0.9]]}}}
        ]
    },
    "plates": {"plates": {"M": {"curve": [[0, 0], [0.5, 0.4], [1, 0.95]]}}},
    "table before": {"before": "invert"},
    "dots": {"delivery": {"bits": 8}, "plates": {"C": {"minimum": 12, "cut": 4}, "K": {"minimum": 8, "cut": 8}}},
    "mirrored": {"delivery": {"mirror": True, "negative": True, "turn": 90}},
    "eight bits": {"delivery": {"bits": 8, "compression": "lzw", "embed": False}},
    "tiled": {"delivery": {"tiles": True, "compression": "none"}},
    "larger": {"delivery": {"width_mm": 12, "resolution": 150}},
    "JPEG": {"delivery": {"format": "JPEG", "bits": 8, "quality": 80}},
    "PDF": {"delivery": {"format": "PDF", "bits": 8}},
}  # fmt: skip
SEPARATED: dict[str, dict[str, Any]] = {
    "rules": {"intent": "relative", "ink_rules": {"tac": 220, "black": GCR}},
    "ucr": {"ink_rules": {"tac": 180, "black": {"method": "ucr", "strength": 50, "start": 40}}},
    "neutral": {
        "ink_rules": {"tac": 240, "black": {"method": "neutral", "strength": 80, "reach": 12}}
    },
    "most black": {"ink_rules": {"tac": 240, "black": {"method": "maximum", "limit": 80}}},
    "no black": {"ink_rules": {"tac": 210, "black": {"method": "none"}}},
    "former method": {"version": 1, "ink_rules": {"tac": 220, "black": GCR}},
    "second method": {"version": 2, "ink_rules": {"tac": 220, "black": GCR}},
    "third method": {"version": 3, "ink_rules": {"tac": 220, "black": GCR}},
    "inks": {"ink_rules": {"tac": 260, "limits": {"C": 80, "K": 90}, "black": GCR}},
    "protected": {
        "ink_rules": {
            "tac": 250,
            "black": GCR,
            "protect": {"neutral_to_black": True, "black_text": True},
        },
    },
}
"""What is told by the inks of colours alone, without the table a picture goes through."""
TO_RGB: dict[str, dict[str, Any]] = {
    "PNG": {"destination": "srgb", "delivery": {"format": "PNG", "bits": 8}},
    "to opRGB": {"destination": "oprgb", "intent": "relative"},
    "grey": {"destination": "grey"},
    "table after": {"destination": "srgb", "after": "fade"},
}


@pytest.fixture(scope="module")
def press() -> Profile:
    return linear_press("Press")


@pytest.fixture(scope="module")
def three() -> Profile:
    """A press of three inks that take light away evenly."""
    mixed = np.array([[-30.0, -45, -45], [-45, 70, -3], [-15, -4, 85]])
    return ink_profile(
        3, lambda inks: np.array([95.0, 0, 0]) + inks @ mixed,
        lambda lab: np.clip((lab - np.array([95.0, 0, 0])) @ np.linalg.inv(mixed), 0, 1),
        back_grid=17,
    )  # fmt: skip


def pictures(folder: Path) -> dict[str, Path]:
    y, x = np.mgrid[0:32, 0:48]
    rgb = np.stack([x / 47, y / 31, 0.5 + 0.4 * np.sin(x / 9)], axis=-1)
    rgb[:4, :6], rgb[4:8, :6], rgb[8:12, :6], rgb[12:16, :6] = 0, 1, 0.5, (1, 0, 0)
    inks = np.stack([x * 5, y * 8, 200 - x * 4, y * 3], axis=-1).astype(np.uint8)
    inks[:8, :8], inks[8:16, :8] = (0, 0, 0, 255), (0, 0, 0, 100)
    made = {name: folder / f"{name}.tif" for name in ("rgb", "inks", "grey")}
    tifffile.imwrite(
        made["rgb"], np.round(rgb * 65535).astype(np.uint16), photometric="rgb",
        iccprofile=standard_profile("oprgb").data, resolution=(254, 254),
    )  # fmt: skip
    tifffile.imwrite(made["inks"], inks, photometric="separated", resolution=(100, 100))
    tifffile.imwrite(made["grey"], (x * 5).astype(np.uint8), photometric="minisblack")
    return made


def seen(path: Path) -> dict[str, Any]:
    """Size, facts, means and nine pixels, of one."""
    with open_picture(path) as opened:
        data, facts = opened.read(), opened.facts
    pixels = np.asarray(data, float) / np.iinfo(data.dtype).max
    height, width = pixels.shape[:2]
    places = [(height * a // 8, width * b // 8) for a in (1, 4, 7) for b in (1, 4, 7)]
    return {
        "shape": list(pixels.shape),
        "bits": facts.bits,
        "resolution": [round(v, 1) for v in facts.resolution or ()],
        "profile": facts.profile is not None,
        "means": np.round(pixels.mean((0, 1)), 4).tolist(),
        "pixels": [np.round(pixels[y, x], 4).tolist() for y, x in places],
    }


def run(tmp_path, source: Path, press: Profile, wish: dict[str, Any]) -> tuple[Any, Path]:
    recipe = parse_recipe({"destination": "press", **wish})
    target = tmp_path / f"out.{recipe.delivery.format.lower()}"
    tables = {
        "invert": parse_cube(b"LUT_1D_SIZE 2\n1 1 1\n0 0 0\n"),
        "fade": parse_cube(b"LUT_1D_SIZE 2\n0 0 0\n0.8 0.9 1\n"),
    }
    report = run_recipe(
        recipe, source, target,
        lambda name: standard_profile(name) if name in (*SPACES, "grey") else press,
        find_table=tables.__getitem__,
    )  # fmt: skip
    return report, target


def told(report: Any) -> dict[str, Any]:
    said = report.model_dump(mode="json")
    return {k: v for k, v in said.items() if k not in ("seconds", "bytes", "size_bytes")}


@pytest.mark.parametrize("name", [*RECIPES, *TO_RGB])
def test_an_rgb_picture(name, press, tmp_path) -> None:
    wish = RECIPES.get(name) or TO_RGB.get(name, {})
    report, target = run(tmp_path, pictures(tmp_path)["rgb"], press, wish)
    kept = {"report": told(report)}
    if target.suffix != ".pdf":
        kept["picture"] = seen(target)
    as_kept(f"recipes/{name.replace(' ', '-')}", kept, rel=5e-3, abs=0.012)


@pytest.mark.parametrize("source", ["inks", "grey"])
@pytest.mark.parametrize("name", ["plain", "separated", "grey"])
def test_other_pictures(source, name, press, tmp_path) -> None:
    further: dict[str, dict[str, Any]] = {
        "separated": {"numbers": "separate", "ink_rules": {"tac": 240, "black": GCR}},
    }
    wish = RECIPES.get(name) or TO_RGB.get(name) or further.get(name, {})
    if source == "inks":
        wish = {"source": "press", **wish}
    report, target = run(tmp_path, pictures(tmp_path)[source], press, wish)
    kept = {"report": told(report), "picture": seen(target)}
    as_kept(f"recipes/{source}-{name}", kept, rel=5e-3, abs=0.012)


def test_a_press_of_three_inks(three, tmp_path) -> None:
    report, target = run(tmp_path, pictures(tmp_path)["rgb"], three, {"intent": "relative"})
    kept = {"report": told(report), "picture": seen(target)}
    as_kept("recipes/three-inks", kept, rel=5e-3, abs=0.012)


@pytest.mark.parametrize(
    ("name", "rules"),
    [
        ("am", {"resolution": 300, "ruling": 40, "shape": "round"}),
        ("lines", {"resolution": 300, "ruling": 40, "shape": "line", "angles": {"C": 30.0}}),
        ("ellipses", {"resolution": 300, "ruling": 50, "shape": "ellipse", "marks": False}),
        ("fm", {"screening": "fm", "resolution": 200, "dot": 2}),
    ],
)
@pytest.mark.parametrize("mirror", [False, True])
def test_films(name, rules, mirror, press, tmp_path) -> None:
    """How much of each film is dark, by quarters, and one row of its dots."""
    wish = {"delivery": {"films": rules, "mirror": mirror, "negative": mirror}}
    _, target = run(tmp_path, pictures(tmp_path)["rgb"], press, wish)
    kept: dict[str, Any] = {}
    with zipfile.ZipFile(target) as packed:
        for entry in packed.namelist():
            (tmp_path / "film.tif").write_bytes(packed.read(entry))
            dots = np.asarray(tifffile.imread(tmp_path / "film.tif")).astype(bool)
            height, width = dots.shape
            quarters = [
                round(float(dots[a : a + height // 2, b : b + width // 2].mean()), 3)
                for a in (0, height // 2) for b in (0, width // 2)
            ]  # fmt: skip
            row = "".join("#" if v else "." for v in dots[height // 2, :: max(1, width // 90)])
            kept[entry] = [list(dots.shape), quarters, row]
    as_kept(f"recipes/films-{name}{'-mirrored' if mirror else ''}", kept, rel=1e-3, abs=0.004)


def test_inks_apart(press, tmp_path) -> None:
    wish = {"delivery": {"apart": True, "bits": 8}, "ink_rules": {"tac": 240, "black": GCR}}
    _, target = run(tmp_path, pictures(tmp_path)["rgb"], press, wish)
    kept: dict[str, Any] = {}
    with zipfile.ZipFile(target) as packed:
        for entry in packed.namelist():
            (tmp_path / "one.tif").write_bytes(packed.read(entry))
            kept[entry] = seen(tmp_path / "one.tif")
    as_kept("recipes/inks-apart", kept, rel=5e-3, abs=0.012)


def test_fits_of_a_picture(press, three) -> None:
    """All that is measured of every intent, and what it costs."""
    y, x = np.mgrid[0:40, 0:60]
    device = np.stack([x / 59, y / 39, 0.5 + 0.4 * np.sin(x / 9)], axis=-1).reshape(-1, 3)
    soft = 0.5 + (device - 0.5) * 0.2
    for name, colours in (("vivid", device), ("soft", soft)):
        for to in (press, three):
            route = ColourRoute(standard_profile("srgb"), to, "relative", bpc=True)
            found = fits(route, colours, (40, 60))
            kept = [dataclasses.asdict(f) for f in found]
            as_kept(f"recipes/fits-{name}-{to.channels}", kept, rel=5e-3, abs=0.01)
            assert sum(f.advised for f in found) == 1


@pytest.mark.parametrize("name", SEPARATED)
def test_inks_of_colours(name, press) -> None:
    recipe = parse_recipe({"destination": "press", **SEPARATED[name]})
    route = route_for(recipe, standard_profile("srgb"), press)
    steps = np.linspace(0, 1, 7)
    greys = np.repeat(steps[:, None], 3, axis=1)
    vivid = np.array(
        [
            [1, 0, 0],
            [1, 1, 0],
            [0, 1, 0],
            [0, 1, 1],
            [0, 0, 1],
            [1, 0, 1],
            [0.7, 0.4, 0.3],
            [0.2, 0.3, 0.5],
        ],
        float,
    )
    colours = np.concatenate([greys, vivid, vivid * 0.4])
    kept = np.round(route.inks(colours) * 100, 1).tolist()
    as_kept(f"recipes/inks-{name.replace(' ', '-')}", kept, rel=5e-3, abs=0.3)
