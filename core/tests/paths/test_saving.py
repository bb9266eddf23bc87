"""Paths as tables: what the file gives is what the path gives, black stays black, the total is kept."""

from __future__ import annotations

import imagecodecs
import numpy as np
import pytest
from handmade import cmyk_profile, simple_print

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.icc.check import check_profile
from plinto_core.icc.metadata import parse_dictionary
from plinto_core.paths.follow import follow
from plinto_core.paths.saving import GRIDS, SavingOptions, _size, save_path
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.cube import parse_cube
from plinto_core.transform.direct import run_link
from plinto_core.transform.path import LAB, NumbersStep, PathStep, follow_path
from plinto_core.transform.standard_spaces import standard_profile

SRGB = standard_profile("srgb")
RNG = np.random.default_rng(14)
RGB = RNG.random((3000, 3))
CMYK = RNG.random((3000, 4))


def saved(steps, **options):
    data, report = save_path(steps, SavingOptions(**options))
    return Profile(data), report


@pytest.fixture(scope="module")
def to_press(coated):
    return [PathStep(SRGB), PathStep(coated, "relative", True)]


def test_a_link_is_the_path_within_the_tolerance_that_it_states(to_press, coated) -> None:
    link, report = saved(to_press)
    assert check_profile(link.data) == []
    assert (link.header.device_class, link.colour_space, link.header.pcs) == (
        "link",
        "RGB ",
        "CMYK",
    )
    assert report.grid == 33
    inks = run_link(link, RGB)
    exact = follow_path(to_press, RGB * 255)[1] / 100
    errors = delta_e_2000(lab_of_device(coated, inks), lab_of_device(coated, exact))
    assert errors.mean() <= 0.1
    assert np.percentile(errors, 99) <= 0.5
    # Other colours than those it was measured with: the same within a third.
    assert report.everywhere.mean == pytest.approx(errors.mean(), rel=0.34)
    assert report.everywhere.p99 == pytest.approx(np.percentile(errors, 99), rel=0.34)
    assert report.inside.samples < report.everywhere.samples


def test_the_error_and_the_steps_stand_in_the_file(to_press) -> None:
    link, report = saved(to_press, title="To the coated press")
    assert link.description == "To the coated press"
    said = parse_dictionary(link.raw("meta"))
    assert f"mean {report.inside.mean:.3f}" in said["PlintoError"]
    assert f"99 % {report.inside.p99:.3f}" in said["PlintoError"]
    assert said["PlintoSteps"].startswith("sRGB")
    assert link.raw("pseq")[8:12] == b"\0\0\0\x02"


def test_little_cms_opens_a_link_with_the_same_result(to_press, coated) -> None:
    link, _ = saved(to_press)
    flags = int(imagecodecs.CMS.FLAGS.NOOPTIMIZE) | int(imagecodecs.CMS.FLAGS.NOCACHE)
    theirs = imagecodecs.cms_transform(
        RGB.astype(np.float32)[None], link.data, coated.data, colorspace="rgb",
        outcolorspace="lab", outdtype=np.float32, intent=1, flags=flags,
    )  # fmt: skip
    ours = lab_of_device(coated, run_link(link, RGB))
    assert np.percentile(delta_e_2000(ours, np.asarray(theirs, float)[0]), 99) < 0.05


def test_more_nodes_come_closer(to_press) -> None:
    errors = [saved(to_press, grid=grid)[1].everywhere.mean for grid in (17, 33, 49)]
    assert errors == sorted(errors, reverse=True)
    assert errors[0] > 2 * errors[2]


@pytest.fixture(scope="module")
def between_presses(coated, uncoated_profile):
    return [PathStep(coated), PathStep(uncoated_profile, "relative", True)]


@pytest.fixture(scope="module")
def uncoated_profile():
    def lighter(inks):
        lab = simple_print(inks)
        lab[:, 0] = 20 + 0.8 * lab[:, 0]
        return lab

    def backward(lab):
        k = np.clip((100 - lab[:, 0]) / 80, 0, 1)
        warm = np.clip(lab[:, 1] / 40, 0, 1)
        return np.stack([0.3 * k, 0.3 * k + 0.4 * warm, 0.35 * k, 0.5 * k], axis=1)

    return cmyk_profile(lighter, backward)


def test_black_alone_stays_black_alone_at_every_level(between_presses, uncoated_profile) -> None:
    ramp = np.zeros((256, 4))
    ramp[:, 3] = np.linspace(0, 1, 256)
    plain, _ = saved(between_presses)
    assert run_link(plain, ramp)[200, :3].max() > 0.02
    link, _ = saved(between_presses, keep_black=True)
    out = run_link(link, ramp)
    assert out[:, :3].max() == 0
    assert (out[0, 3], out[-1, 3]) == (0, 1)
    assert (np.diff(out[:, 3]) >= -1e-6).all()
    # Tones are those that print as light as the path's own: neither the number kept, nor anything.
    wanted = lab_of_device(uncoated_profile, run_link(plain, ramp))[:, 0]
    printed = lab_of_device(uncoated_profile, out)[:, 0]
    middle = slice(40, 200)
    assert np.abs(wanted - printed)[middle].max() < 2.5
    # Other inks are as they were.
    assert run_link(link, CMYK) == pytest.approx(run_link(plain, CMYK), abs=0.2)
    one = np.array([[0.4, 0, 0, 0]])
    assert (run_link(link, one)[0, 1:] > 0).any()


def test_every_ink_alone_stays_alone_where_asked(between_presses) -> None:
    link, _ = saved(between_presses, keep_inks=True)
    for ink in range(4):
        ramp = np.zeros((64, 4))
        ramp[:, ink] = np.linspace(0, 1, 64)
        out = run_link(link, ramp)
        assert np.delete(out, ink, axis=1).max() == 0
        assert out[-1, ink] == 1
        assert (np.diff(out[:, ink]) >= -1e-6).all()


@pytest.mark.parametrize("tac", [120.0, 160.0])
def test_the_total_is_kept_between_the_nodes_too(between_presses, tac) -> None:
    free, report = saved(between_presses)
    assert run_link(free, CMYK).sum(axis=1).max() > tac / 100
    link, held = saved(between_presses, tac=tac)
    total = run_link(link, CMYK).sum(axis=1).max()
    assert total <= tac / 100 + 1e-4
    assert held.tac == pytest.approx(tac, abs=0.1)
    assert report.tac > tac
    # Black gives way last.
    full = run_link(link, np.ones((1, 4)))[0]
    before = run_link(free, np.ones((1, 4)))[0]
    assert full[3] == pytest.approx(min(before[3], tac / 100), abs=1e-4)


def test_an_abstract_profile_leads_from_colours_to_colours(coated) -> None:
    steps = [PathStep(LAB), PathStep(coated, "relative", False), PathStep(LAB, "relative", False)]
    made, report = saved(steps, kind="abstract")
    assert check_profile(made.data) == []
    assert (made.header.device_class, report.unit) == ("abst", "dE00")
    lab = RNG.uniform([30, -30, -30], [90, 30, 30], (500, 3))
    direct = follow(steps, lab).lab[2]
    through = follow([PathStep(LAB), PathStep(made)], lab).lab[1]
    assert np.percentile(delta_e_2000(direct, through), 95) < 0.6


def test_a_baked_profile_shows_the_print_with_or_without_its_paper(coated) -> None:
    steps = [PathStep(SRGB), PathStep(coated, "relative", True)]
    for view, lightness in (("paper", 100.0), ("absolute", None)):
        data, _ = save_path(steps, SavingOptions(kind="baked"), view)
        made = Profile(data)
        assert check_profile(data) == []
        white = lab_of_device(made, np.ones((1, 3)))[0]
        paper = lab_of_device(coated, np.zeros((1, 4)), intent="absolute")[0]
        assert white[0] == pytest.approx(paper[0] if lightness is None else 100, abs=0.3)
        shown = lab_of_device(made, RGB)
        assert delta_e_2000(shown, follow(steps, RGB * 255, view).lab[1]).mean() < 0.1


def test_a_cube_table_is_written_and_read(tmp_path) -> None:
    wide = standard_profile("p3")
    data, report = save_path(
        [PathStep(SRGB), PathStep(wide, "relative", False)],
        SavingOptions(kind="cube", title='A "look"'),
    )
    table = parse_cube(data)
    assert table.title == "A 'look'"
    exact = follow_path([PathStep(SRGB), PathStep(wide, "relative", False)], RGB * 255)[1] / 255
    assert np.abs(table.apply(RGB) - exact).max() < 0.01
    assert report.everywhere.mean < 0.05


def test_numbers_without_a_meaning_are_measured_in_percent() -> None:
    step = NumbersStep("Darker", "RGB ", "RGB ", lambda v: v**1.5)
    link, report = saved([step])
    assert (report.unit, report.inside) == ("%", None)
    assert 0 < report.everywhere.max < 1
    assert run_link(link, np.full((1, 3), 0.25))[0] == pytest.approx([0.125] * 3, abs=0.002)


@pytest.mark.parametrize(
    ("ends", "options", "word"),
    [
        (("srgb", "lab"), {"kind": "abstract"}, "both ends of an abstract"), (("lab", "lab"), {}, "abstract profile instead"),
        (("srgb", "press"), {"kind": "cube"}, "RGB to RGB"), (("lab", "press"), {"kind": "baked"}, "Begin the path"),
        (("srgb", "press"), {"keep_black": True}, "from CMYK to CMYK"), (("press", "lab"), {"tac": 200}, "ends in inks"),
        (("srgb", "press"), {"grid": 18}, "17, 25, 33"), (("press", "srgb"), {"grid": 33}, "nodes a side"),
    ],
)  # fmt: skip
def test_what_a_path_cannot_become_is_said(ends, options, word, coated) -> None:
    known = {"srgb": SRGB, "lab": LAB, "press": coated}
    with pytest.raises(BadInput, match=word):
        save_path([PathStep(known[e]) for e in ends], SavingOptions(**options))


def test_what_is_made_is_said_in_a_sentence(between_presses) -> None:
    _, report = saved(between_presses, keep_black=True, tac=200, grid=9)
    assert report.sentence.startswith("A device link: CMYK numbers of")
    assert report.sentence.endswith(
        "black alone stays black alone, no more than 200 % of ink."
    ) or ("black alone stays black alone" in report.sentence and "200 %" in report.sentence)


def test_tables_are_finer_the_fewer_inputs_they_have() -> None:
    assert {n: _size(n, None) for n in GRIDS} == {1: 255, 3: 33, 4: 17, 5: 7, 6: 5}
    for inputs, offered in GRIDS.items():
        assert [_size(inputs, n) for n in offered] == list(offered)
        with pytest.raises(BadInput, match=str(offered[0])):
            _size(inputs, max(offered) + 1)
    with pytest.raises(BadInput, match="7"):
        _size(7, None)


def test_a_total_is_held_in_the_colours_that_print_within_it(coated) -> None:
    """Colours that the press prints with 220 % stay, however much the path gave them."""
    steps = [PathStep(coated, "relative"), PathStep(coated, "relative")]
    link, report = saved(steps, tac=220)
    free, _ = saved(steps)
    inks = CMYK * [1, 1, 1, 0.9]
    before, after = run_link(free, inks), run_link(link, inks)
    assert after.sum(axis=1).max() <= 2.2 + 1e-4
    over = before.sum(axis=1) > 2.3
    error = delta_e_2000(lab_of_device(coated, before[over]), lab_of_device(coated, after[over]))
    # Lowered alike they would be lighter by 4 in the mean.
    assert error.mean() < 1.2
    # And what the total costs is a part of what the link says of itself.
    assert report.everywhere.max >= 0.7 * error.max()
