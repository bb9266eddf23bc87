from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from plinto_core.corrections import Place, Region, region_weight

SQUARE = ((25.0, 25.0), (75.0, 25.0), (75.0, 75.0), (25.0, 75.0))


def test_a_rectangle_covers_its_pixels() -> None:
    weight = region_weight(Region(corners=SQUARE, softness=0), Place((80, 40)), 40, 80)
    inside = np.zeros((40, 80))
    inside[10:30, 20:60] = 1
    assert np.abs(weight - inside)[1:-1, 1:-1].max() <= 0.51  # the edge itself may be half
    assert weight[20, 40] == 1
    assert weight[5, 5] == 0
    assert weight.mean() == pytest.approx(0.25, abs=0.01)


def test_outside_is_the_rest() -> None:
    inner, outer = (
        region_weight(Region(corners=SQUARE, outside=o), Place((80, 40)), 40, 80)
        for o in (False, True)
    )
    assert inner + outer == pytest.approx(np.ones((40, 80)))


def test_softness_spreads_the_edge_evenly() -> None:
    weight = region_weight(Region(corners=SQUARE, softness=20), Place((100, 100)), 100, 100)
    row = weight[50]
    assert row[25:26].mean() == pytest.approx(0.5, abs=0.06)
    assert (np.diff(row[10:45]) >= 0).all()
    assert 0.02 < row[18] < 0.3


def test_a_view_shows_the_region_where_the_delivery_has_it() -> None:
    region = Region(corners=((10, 20), (90, 35), (60, 95)), softness=8)
    whole = region_weight(region, Place((400, 200)), 200, 400)
    view = region_weight(region, Place((400, 200), 100, 50, 0.5, 0.5), 200, 400)
    assert np.abs(view[::2, ::2][:100, :200] - whole[50:150, 100:300]).max() < 0.12


def test_concave_polygons_follow_the_even_odd_rule() -> None:
    bow = Region(corners=((0, 0), (100, 100), (100, 0), (0, 100)), softness=0)
    weight = region_weight(bow, Place((50, 50)), 50, 50)
    assert weight[25, 5] == 1
    assert weight[25, 45] == 1
    assert weight[5, 25] == 0


@pytest.mark.parametrize("size", [(200, 60), (60, 200)])
def test_softness_is_a_share_of_the_shorter_side(size) -> None:
    """20 % of 60 pixels: from nothing to all within 12, half of it on the edge."""
    width, height = size
    weight = region_weight(Region(corners=SQUARE, softness=20), Place(size), height, width)
    across, down = weight[height // 2], weight[:, width // 2]
    for line in (across, down):
        soft = np.flatnonzero((line > 0.001) & (line < 0.999))
        assert len(soft) == pytest.approx(24, abs=2)


@pytest.mark.parametrize(
    ("corners", "refused"),
    [
        (SQUARE[:2], "corners"), (SQUARE[:3], None), (SQUARE * 50, None), ((*SQUARE * 50, (1.0, 1.0)), "corners"),
        ((*SQUARE, (-100.0, 200.0)), None), ((*SQUARE, (-100.5, 50.0)), "near"), ((*SQUARE, (50.0, 200.5)), "near"),
    ],
)  # fmt: skip
def test_regions_have_3_to_200_corners_near_the_picture(corners, refused) -> None:
    if refused is None:
        assert Region(corners=corners).corners == corners
    else:
        with pytest.raises(ValidationError, match=refused):
            Region(corners=corners)


@pytest.mark.parametrize("softness", [0, 0.5, 1])
def test_the_hardest_edge_is_a_pixel_wide(softness) -> None:
    # 100 x 100 pixels, left edge at 10.25: the centre of the first pixel inside lies a quarter in.
    corners = ((10.25, 0.0), (90.0, 0.0), (90.0, 100.0), (10.25, 100.0))
    weight = region_weight(Region(corners=corners, softness=softness), Place((100, 100)), 100, 100)
    assert weight[50, 9:12] == pytest.approx([0, 0.75**2 * (3 - 2 * 0.75), 1], abs=1e-6)
