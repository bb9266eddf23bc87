"""Three ways of being out of gamut, and what families of hues lose."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import cmyk_profile

from plinto_core.gamut.outside import gamut_distance, gamut_miss
from plinto_core.recipes.families import FAMILIES, family_losses, family_of, shares_out
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.standard_spaces import standard_profile


def weak_press():
    """Prints L* 25 to 100 and chroma up to 40 in each of a* and b*, everything inside exactly."""

    def forward(inks):
        a, b = (inks[:, 1] - 0.5) * 80, (inks[:, 2] - 0.5) * 80
        return np.stack([100 - 75 * inks[:, 3], a, b], axis=1)

    def backward(lab):
        return np.stack(
            [0 * lab[:, 0], lab[:, 1] / 80 + 0.5, lab[:, 2] / 80 + 0.5, (100 - lab[:, 0]) / 75],
            axis=1,
        )

    return cmyk_profile(forward, backward, back_grid=52)


@pytest.mark.parametrize(
    ("lab", "way"),
    [
        ((50, 60, 0), 0), ((50, -60, 5), 0), ((50, 0, 90), 0), ((10, 0, 0), 1), ((5, 20, 10), 1),
        ((60, 10, -10), None), ((30, 0, 0), None), ((97, 0, 0), None), ((15, 70, 0), 0),
    ],
)  # fmt: skip
def test_the_way_is_what_the_print_changes_most(lab, way) -> None:
    press = weak_press()
    (miss,) = gamut_miss(press, np.array([lab], dtype=float))
    assert miss.sum() == pytest.approx(gamut_distance(press, np.array([lab], float))[0])
    if way is None:
        assert miss.max() < 1.5
    else:
        assert miss.argmax() == way
        assert (miss > 0).sum() == 1


def test_what_is_lighter_than_it_can_print_is_too_light() -> None:
    dull = cmyk_profile(
        lambda inks: np.stack([80 - 60 * inks[:, 3], 0 * inks[:, 0], 0 * inks[:, 0]], axis=1),
        lambda lab: np.stack([0 * lab[:, 0]] * 3 + [(80 - lab[:, 0]) / 60], axis=1),
    )
    (miss,) = gamut_miss(dull, np.array([[95.0, 0, 0]]))
    assert miss.argmax() == 2


def test_black_point_compensation_hides_nothing() -> None:
    press = weak_press()
    black = np.zeros((1, 3))
    for bpc in (True, False):
        route = ColourRoute(standard_profile("srgb"), press, "relative", bpc)
        (miss,) = route.out_of_gamut(black)
        assert miss.argmax() == 1
        assert miss.sum() > 10


@pytest.mark.parametrize(
    ("lab", "family"),
    [
        ((50, 3, 3), "greys"), ((70, 14, 18), "skin"), ((50, 60, 40), "reds and oranges"), ((60, 60, -10), "reds and oranges"),
        ((85, -5, 80), "yellows"), ((60, -60, 40), "greens"), ((50, -30, -30), "blues"), ((30, 30, -70), "blues"),
        ((40, 50, -30), "purples"), ((95, 14, 18), "reds and oranges"), ((20, 14, 18), "reds and oranges"),
    ],
)  # fmt: skip
def test_families_of_hues(lab, family) -> None:
    assert FAMILIES[family_of(np.array([lab], dtype=float))[0]] == family


def test_losses_are_counted_by_family() -> None:
    aim = np.array([[50.0, 60, 0], [50, 40, 0], [60, -50, 30], [40, 0, 0]])
    printed = np.array([[50.0, 30, 0], [50, 40, 0], [60, -50, 30], [40, 0, 0]])
    miss = np.array([[12.0, 0, 0], [0, 0, 0], [0, 0, 0], [0, 3, 0]])
    original = aim * [1, 0.5, 0.5]
    found = {f.family: f for f in family_losses(original, aim, printed, miss)}
    assert set(found) == {"reds and oranges", "greens", "greys"}
    reds = found["reds and oranges"]
    assert (reds.share, reds.out) == (50, 50)
    # Against the artwork as it came, which a widened aim does not change.
    assert (reds.chroma_original, reds.chroma_aim, reds.chroma_printed) == (25, 50, 35)
    assert reds.chroma_kept == 140
    assert found["greens"].chroma_kept == 200
    assert found["greens"].de00_mean == 0
    assert found["greys"].out == 100
    assert sum(f.share for f in found.values()) == 100
    # Interpolated misses with several ways at once count once, as the largest.
    blend = np.array([[3.0, 2.5, 0], [1.2, 1.1, 0], [0, 0, 1.9]])
    assert shares_out(blend) == {
        "out_of_gamut": 66.7,
        "too_vivid": 66.7,
        "too_dark": 0,
        "too_light": 0,
    }
    assert shares_out(miss) == {"out_of_gamut": 50, "too_vivid": 25, "too_dark": 25, "too_light": 0}


@pytest.mark.parametrize(("chroma", "grey"), [(8.0, True), (8.01, False), (0.0, True)])
def test_greys_reach_to_a_chroma_of_eight(chroma, grey) -> None:
    for lab in ([50.0, chroma, 0.0], [50.0, 0.0, -chroma], [80.0, -chroma, 0.0]):
        assert (FAMILIES[family_of(np.array([lab]))[0]] == FAMILIES[0]) == grey


@pytest.mark.parametrize(
    ("press", "family", "far"),
    [
        ("two_inks", "blues", True),
        ("two_inks", "reds and oranges", False),
        ("coated", "blues", False),
    ],
)
def test_what_two_screens_cannot_print_is_told_and_greys_never_are(
    press, family, far, request
) -> None:
    profile = request.getfixturevalue(press)
    route = ColourRoute(standard_profile("srgb"), profile, "relative", True)
    blue, red = np.tile([[0.3, 0.5, 0.9]], (40, 1)), np.tile([[0.75, 0.4, 0.25]], (58, 1))
    green, black = np.tile([[0.2, 0.7, 0.3]], (1, 1)), np.zeros((30, 3))
    device = np.concatenate([blue, red, green, black])
    aim, printed = route.aim_lab(device), route.print_lab(route.inks(device))
    found = {f.family: f for f in family_losses(aim, aim, printed, route.out_of_gamut(device))}
    assert found[family].far == far
    assert not found["greens"].far, "less than 2 % of the picture"
    assert not found["greys"].far
