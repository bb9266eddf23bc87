"""What lists hold at their edges, bars of a device, and marks where a picture ends."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import ink_profile, linear_press, linear_print

from plinto_core.errors import BadInput
from plinto_core.swatches import ready, sampling
from plinto_core.swatches.sampling import Grid, dominant, sample_grid
from plinto_core.swatches.swatches import MOST, bounds, swatches
from plinto_core.transform.standard_spaces import standard_profile


def refused(act, *given) -> str:
    with pytest.raises(BadInput) as error:
        act(*given)
    return error.value.said.code.removeprefix("swatches.")


@pytest.mark.parametrize(
    ("space", "low", "high"),
    [
        ("Lab ", [0, -200, -200], [150, 200, 200]),
        ("RGB ", [0, 0, 0], [255, 255, 255]),
        ("GRAY", [0], [255]),
        ("CMYK", [0] * 4, [100] * 4),
        ("6CLR", [0] * 6, [100] * 6),
    ],
)
def test_values_may_pass_their_limits_by_a_rounding_and_are_held(space, low, high) -> None:
    assert [v.tolist() for v in bounds(space)] == [low, high]
    low, high = np.array(low, float), np.array(high, float)
    kept = swatches(space, np.stack([low - 0.009, high + 0.009]))
    assert kept.values.tolist() == [low.tolist(), high.tolist()]
    assert kept.names == ("1", "2")
    code = "lab-outside" if space == "Lab " else "colour-outside"
    for wrong in (low - 0.02, high + 0.02, np.full(len(low), np.nan)):
        assert refused(swatches, space, np.stack([low, wrong])) == code


def test_the_row_at_fault_is_named() -> None:
    with pytest.raises(BadInput) as error:
        swatches("CMYK", np.array([[0, 0, 0, 0], [0, 0, 0, 100], [0, 101, 0, 0]]))
    assert error.value.said.values["row"] == 3
    assert error.value.said.values["top"] == 100


@pytest.mark.parametrize(
    ("space", "values", "code"),
    [
        ("XYZ ", np.zeros((1, 3)), "space-unknown"),
        ("none", np.zeros((1, 3)), "space-unknown"),
        ("RGB ", np.zeros((1, 4)), "space-values"),
        ("RGB ", np.zeros(3), "space-values"),
        ("RGB ", np.zeros((0, 3)), "list-empty-given"),
        ("GRAY", np.zeros((MOST + 1, 1)), "list-size"),
    ],
)
def test_lists_of_another_form_are_refused(space, values, code) -> None:
    assert refused(swatches, space, values) == code
    assert len(swatches("GRAY", np.zeros((MOST, 1)))) == MOST == 200_000


def test_names_and_titles_are_tidied_and_cut() -> None:
    made = swatches(
        "GRAY", np.zeros((3, 1)), ["  a \n b ", "", "x" * 200], title=" t\tu " + "v" * 300
    )
    assert made.names == ("a b", "2", "x" * 120)
    assert len(made.title) == 200
    assert made.title.startswith("t u vv")


def test_lists_are_told_apart_by_all_they_say() -> None:
    one = swatches("Lab ", np.array([[50.0, 0, 0]]), ["a"])
    others = [
        swatches("Lab ", np.array([[50.0, 0, 0.001]]), ["a"]),
        swatches("Lab ", np.array([[50.0, 0, 0]]), ["b"]),
        swatches("RGB ", np.array([[50.0, 0, 0]]), ["a"]),
    ]
    assert len({one.digest, *(o.digest for o in others)}) == 4
    assert swatches("Lab ", np.array([[50.0, 0, 0]]), ["a"], title="t").digest == one.digest


def test_the_bar_of_an_rgb_device_goes_around_the_hues() -> None:
    bar = ready.device_bar(standard_profile("srgb"), 12)
    assert bar.values[:12].tolist() == [
        [255, 0, 0], [255, 128, 0], [255, 255, 0], [128, 255, 0], [0, 255, 0], [0, 255, 128],
        [0, 255, 255], [0, 128, 255], [0, 0, 255], [128, 0, 255], [255, 0, 255], [255, 0, 128],
    ]  # fmt: skip
    assert bar.values[12:].tolist() == [[255] * 3, [128] * 3, [0] * 3]
    assert bar.names[:2] == ("255 0 0", "255 128 0")
    assert bar.title == "Bar of sRGB"


def test_the_bar_of_a_grey_goes_from_white_to_black_and_that_of_inks_is_their_solids() -> None:
    grey = ready.device_bar(standard_profile("grey"), 6)
    assert grey.values.ravel().tolist() == [255, 204, 153, 102, 51, 0]
    press = linear_press("Press")
    inks = ready.device_bar(press)
    assert inks.title == "Bar of Press"
    assert np.array_equal(inks.values, ready.solids(press).values)


@pytest.mark.parametrize(
    ("pixels", "looked_at"), [(20_000, 20_000), (20_002, 10_001), (60_000, 20_000)]
)
def test_dominant_colours_are_found_in_20000_pixels_at_most(monkeypatch, pixels, looked_at) -> None:
    seen = []

    def found(device, seeds, **how):
        seen.append(len(device))
        return seeds, None

    monkeypatch.setattr(sampling, "kmeans2", found)
    dominant(np.random.default_rng(3).integers(0, 256, (2, pixels // 2, 3), np.uint8), "RGB ", 4)
    assert seen == [looked_at]


@pytest.mark.parametrize(("inks", "found"), [(8, 1 + 8 + 28 + 56 + 1), (9, "solids-many")])
def test_overprints_of_up_to_eight_inks(inks, found) -> None:
    press = ink_profile(inks, lambda d: linear_print(d[:, :4]), lambda lab: np.zeros((len(lab), inks)), grid=2, back_grid=2)  # fmt: skip
    made = len(ready.solids(press).values) if inks <= 8 else refused(ready.solids, press)
    assert made == found


@pytest.mark.parametrize("count", [2, 121])
def test_bars_and_extremes_have_3_to_120_hues(count) -> None:
    srgb = standard_profile("srgb")
    assert refused(ready.device_bar, srgb, count) == "bar-hues"
    assert refused(ready.extremes, srgb, count) == "hues"
    within = min(max(count, 3), 120)
    assert len(ready.device_bar(srgb, within)) == within + 3
    assert len(ready.extremes(srgb, within)) == within + 2


@pytest.mark.parametrize(("steps", "said"), [(1, True), (2, False), (21, False), (22, True)])
def test_charts_have_2_to_21_steps_as_far_as_a_list_goes(steps, said) -> None:
    srgb = standard_profile("srgb")
    if said:
        assert refused(ready.chart, srgb, steps) == "chart-steps"
    else:
        made = ready.chart(srgb, steps)
        assert len(made) == steps**3
        assert made.values[1].tolist() == [0, 0, 255 / (steps - 1)]


def test_a_chart_of_four_inks_in_21_steps_is_still_held() -> None:
    press = linear_press()
    assert len(ready.chart(press, 21)) == 194_481
    assert ready.chart(press, 2).names[-1] == "C100 M100 Y100 K100"


@pytest.mark.parametrize(("count", "said"), [(1, True), (2, False), (1001, False), (1002, True)])
def test_neutrals_are_2_to_1001(count, said) -> None:
    if said:
        assert refused(ready.neutrals, count) == "neutral-steps"
    else:
        lab = ready.neutrals(count).values
        assert (lab[0, 0], lab[-1, 0], len(lab)) == (100, 0, count)


PICTURE = np.zeros((40, 60, 4), np.uint8)
PICTURE[..., 0] = np.arange(60) * 4
PICTURE[..., 1] = np.arange(40)[:, None] * 6
PICTURE[..., 3] = 77


def test_marks_average_their_own_pixels_and_stay_on_the_picture() -> None:
    grid = Grid(0, 0, 60, 40, 3, 2, mark=5)
    found = sample_grid(PICTURE, "RGB ", grid)
    # Middles of the cells: x 10, 30, 50, y 10, 30; a mark of five begins two before.
    assert found.values[:, 0] == pytest.approx([40, 120, 200] * 2)
    assert found.values[:, 1] == pytest.approx([60] * 3 + [180] * 3)
    assert found.names == ("A1", "A2", "A3", "B1", "B2", "B3")
    assert found.places is not None
    assert found.places.tolist() == [[10, 10], [30, 10], [50, 10], [10, 30], [30, 30], [50, 30]]
    edge = sample_grid(PICTURE, "RGB ", Grid(58, 38, 2, 2, 1, 1, mark=9))
    assert edge.values[0] == pytest.approx(
        [np.arange(51, 60).mean() * 4, np.arange(31, 40).mean() * 6, 0]
    )
    corner = sample_grid(PICTURE, "RGB ", Grid(0, 0, 1, 1, 1, 1, mark=9))
    assert corner.values[0] == pytest.approx([16, 24, 0])


def test_sixteen_bits_and_inks_have_their_own_full() -> None:
    deep = PICTURE.astype(np.uint16) * 257
    found = sample_grid(deep, "CMYK", Grid(0, 0, 60, 40, 1, 1, mark=1))
    assert found.values[0] == pytest.approx(np.array([30 * 4, 20 * 6, 0, 77]) / 2.55)


@pytest.mark.parametrize(
    ("grid", "code"),
    [
        (Grid(0, 0, 60, 40, 101, 1), "grid-marks"),
        (Grid(0, 0, 60, 40, 1, 101), "grid-marks"),
        (Grid(0, 0, 60, 40, 0, 1), "grid-marks"),
        (Grid(0, 0, 60, 40, 1, 1, mark=0), "mark-width"),
        (Grid(0, 0, 60, 40, 1, 1, mark=502), "mark-width"),
        (Grid(0, 0, 60, 40, 100, 100, mark=71), "marks-area"),
        (Grid(-0.1, 0, 60, 40, 1, 1), "grid-outside"),
        (Grid(0, -0.1, 60, 40, 1, 1), "grid-outside"),
        (Grid(0, 0, 0, 40, 1, 1), "grid-outside"),
        (Grid(0, 0, 60, 0, 1, 1), "grid-outside"),
        (Grid(0, 0, 60.6, 40, 1, 1), "grid-outside"),
        (Grid(0, 0, 60, 40.6, 1, 1), "grid-outside"),
        (Grid(30, 0, 31, 40, 1, 1), "grid-outside"),
    ],
)
def test_grids_that_cannot_be_are_refused(grid, code) -> None:
    assert refused(sample_grid, PICTURE, "RGB ", grid) == code


def test_a_grid_may_have_a_hundred_marks_each_way_and_rows_go_on_after_z() -> None:
    found = sample_grid(PICTURE, "RGB ", Grid(0, 0, 60.5, 40.5, 100, 100, mark=1))
    assert (found.names[0], found.names[25 * 100], found.names[26 * 100]) == ("A1", "Z1", "AA1")
    assert (found.names[52 * 100], found.names[-1]) == ("BA1", "CV100")
    sample_grid(PICTURE, "RGB ", Grid(0, 0, 60, 40, 1, 1, mark=501))


def test_all_marks_on_an_edge_are_counted_and_twelve_are_named() -> None:
    """Each is named by itself; one whose colours differ by no more than 6 % is not."""
    edges = np.zeros((40, 400, 3), np.uint8)
    edges[20:] = 200
    found = sample_grid(edges, "RGB ", Grid(0, 0, 400, 40, 20, 1, mark=5))
    (note,) = found.notes
    assert note.values["count"] == 20
    assert list(note.values["marks"]) == [f"A{i}" for i in range(1, 13)]
    assert note.values["more"] == " …"
    for step, noted in ((30, 0), (32, 1)):
        # Half and half: the deviation is half the step, 15.3 of 255 being 6 %.
        plain = np.zeros((40, 40, 3), np.uint8)
        plain[20:] = step
        one = sample_grid(plain, "RGB ", Grid(0, 0, 40, 40, 1, 1, mark=4))
        assert len(one.notes) == noted
        assert all(n.values["more"] == "" for n in one.notes)


def test_dominant_colours_are_counted_over_the_whole_picture() -> None:
    flat = np.zeros((100, 300, 3), np.uint16)
    flat[:, :150], flat[:, 150:240], flat[:, 240:] = (65535, 0, 0), (0, 65535, 0), (0, 0, 65535)
    found = dominant(flat, "RGB ", 3)
    assert found.values.tolist() == [[255, 0, 0], [0, 255, 0], [0, 0, 255]]
    assert found.names == ("50.0 % of it", "30.0 % of it", "20.0 % of it")
    assert len(dominant(flat, "RGB ", 64)) == 3
    for count in (1, 65):
        assert refused(dominant, flat, "RGB ", count) == "dominant-count"
    ramp = np.repeat(np.arange(256, dtype=np.uint8), 3).reshape(1, 256, 3)
    assert len(dominant(ramp, "RGB ", 64)) == 64
