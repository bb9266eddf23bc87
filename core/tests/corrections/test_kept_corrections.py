"""Where corrections take colours, as it was judged good."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import linear_press
from kept import as_kept

from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.corrections import Adjustment, Correction, Place, Region, Vivid
from plinto_core.corrections.adjust import colour_weight
from plinto_core.corrections.masks import region_weight
from plinto_core.corrections.model import ColourRange
from plinto_core.corrections.shift import shifted
from plinto_core.transform.standard_spaces import standard_profile

COLOURS = np.array(
    [[0, 0, 0], [20, 5, -30], [35, 60, 40], [50, 0, 0], [50, -45, 30], [60, 3, 2], [75, 20, 70],
     [80, -20, -20], [97, 1, -4], [100, 0, 0]], float
)  # fmt: skip
CORRECTIONS = {
    "lighter": {"lightness": 60},
    "darker": {"lightness": -80},
    "grey": {"chroma": -100},
    "doubled": {"chroma": 100},
    "turned": {"hues": [{"hue": 40, "width": 50, "shift": 30}]},
    "turned far": {"hues": [{"hue": 40, "width": 10, "shift": -45}]},
    "band": {"hues": [{"hue": 350, "width": 60, "chroma": 50, "lightness": 30}]},
    "bands": {"hues": [{"hue": 30, "shift": 30, "width": 40}, {"hue": 60, "shift": -40, "width": 30}]},
    "all": {"lightness": 20, "chroma": 30, "hues": [{"hue": 140, "width": 80, "shift": -20, "chroma": -50}]},
}  # fmt: skip


@pytest.mark.parametrize("name", CORRECTIONS)
def test_shifts(name) -> None:
    found = shifted(Correction.model_validate(CORRECTIONS[name]), COLOURS)
    as_kept(f"corrections/{name.replace(' ', '-')}", np.round(found, 3).tolist(), abs=0.004)


RGB = np.random.default_rng(8).random((8, 3))
ADJUSTED = {
    "range": {"corrections": [{"colours": {"lab": [60, 20, 10], "radius": 40, "softness": 120}, "chroma": 80, "curves": {"master": [[0, 0], [50, 70], [100, 100]]}}]},
    "curves": {"corrections": [{"curves": {"master": [[0, 10], [100, 90]], "channels": {"R": [[0, 0], [50, 30], [100, 100]], "B": [[0, 100], [100, 0]]}}}]},
    "in turn": {"corrections": [{"lightness": 40}, {"chroma": -50}]},
    "stretched": {"vivid": {"space": "stretch", "strength": 70}},
    "in romm": {"vivid": {"space": "romm", "strength": 50}},
    "in opRGB": {"vivid": {"space": "oprgb", "strength": 100}},
    "formerly": {"corrections": [{"lightness": 40, "chroma": 30, "hues": [{"hue": 40, "shift": 20}]}], "method": 2},
}  # fmt: skip


def adjustment(name: str) -> Adjustment:
    given = ADJUSTED[name]
    return Adjustment(
        tuple(Correction.model_validate(c) for c in given.get("corrections", ())),
        Vivid.model_validate(given["vivid"]) if "vivid" in given else None,
        given.get("method", 4),
    )


@pytest.mark.parametrize("name", ADJUSTED)
def test_adjusted_colours(name) -> None:
    made = adjustment(name)
    kept = {
        "rgb": np.round(XYZ_to_Lab(made.xyz(standard_profile("srgb"), RGB, 1)), 3).tolist(),
        "inks": np.round(XYZ_to_Lab(made.xyz(linear_press(), np.hstack([RGB * 0.6, RGB[:, :1] * 0.2]), 1)), 3).tolist(),
    }  # fmt: skip
    as_kept(f"corrections/adjusted-{name.replace(' ', '-')}", kept, abs=0.004)


def test_keys_tell_adjustments_apart() -> None:
    keys = {adjustment(name).key() for name in ADJUSTED}
    assert len(keys) == len(ADJUSTED)
    former = adjustment("formerly")
    assert Adjustment(former.corrections, None, 4).key() != former.key()
    assert Adjustment(former.corrections, None, 3).key() == Adjustment(former.corrections).key()
    named = former.corrections[0].model_copy(update={"name": "n", "region": None})
    assert Adjustment((named,), None, 2).key() == former.key()
    assert not Adjustment((), Vivid(strength=0))
    assert Adjustment((), Vivid(strength=1))


def test_a_range_is_full_to_its_radius_and_none_beyond_its_softness() -> None:
    colours = ColourRange(lab=(50, 0, 0), radius=10, softness=50)
    away = np.array([0, 10, 11.25, 12.5, 13.75, 15, 40])
    lab = np.stack([50 + 0 * away, away * 0.6, away * 0.8], axis=1)
    # A smoothstep over five units: 3 s² − 2 s³ at 1, 3/4, 1/2, 1/4, 0.
    assert colour_weight(colours, lab) == pytest.approx([1, 1, 0.84375, 0.5, 0.15625, 0, 0])


@pytest.mark.parametrize("outside", [False, True])
def test_a_region_in_a_view(outside) -> None:
    region = Region(corners=((10, 20), (80, 10), (60, 90)), softness=10, outside=outside)
    place = Place((200, 120), left=8, top=4, step_x=24, step_y=14)
    found = region_weight(region, place, 8, 8)
    as_kept(
        f"corrections/region{'-outside' if outside else ''}",
        np.round(found.astype(float), 3).tolist(),
        abs=0.002,
    )
