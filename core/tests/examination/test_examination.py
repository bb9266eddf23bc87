"""Every figure of an examination against profiles whose print is known beforehand."""

from __future__ import annotations

import io
import re

import numpy as np
import pikepdf
import pypdfium2
import pytest
from handmade import cmyk_profile, ink_profile, simple_print, tinting_profile
from reportlab.graphics.shapes import Group, Line, PolyLine, String
from reportlab.lib.units import mm

from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadProfile
from plinto_core.examination.fidelity import picture_trip, printable, round_trip
from plinto_core.examination.findings import judge_neutrals, judge_totals, judge_white
from plinto_core.examination.inside import content_of
from plinto_core.examination.neutrals import _turns, neutrals, runs
from plinto_core.examination.page import _drawn, examination_pdf
from plinto_core.examination.reach import reaches, solid_lab
from plinto_core.examination.report import colour_findings, examine
from plinto_core.examination.tones import ink_tones, printed_tones
from plinto_core.icc.parts import judge_part, parts_of
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.encoding import unit_to_lab
from plinto_core.transform.standard_spaces import standard_profile

SOLIDS = np.array([[0.15, 0.22, 0.5], [0.32, 0.16, 0.2], [0.68, 0.73, 0.07], [0.02, 0.02, 0.017]])


def by_lightness(**inks):
    """A backward function: inks from L* alone, as (L*, tone value) points."""

    def backward(lab):
        columns = []
        for name in "CMYK":
            points = inks.get(name, [(0, 0), (100, 0)])
            columns.append(np.interp(lab[:, 0], *zip(*points, strict=True)))
        return np.stack(columns, axis=1)

    return backward


STRAIGHT_BLACK = [(0, 1.0), (100, 0.0)]


def codes(profile, intent="relative") -> set[str]:
    return {f.code for f in judge_neutrals(neutrals(profile, intent, bpc=False), intent)}


def test_neutrals_print_what_the_functions_say() -> None:
    profile = cmyk_profile(simple_print, by_lightness(K=STRAIGHT_BLACK, M=[(0, 0.1), (100, 0.0)]))
    path = neutrals(profile, "relative", bpc=False)
    # The node of the table next to white lies above L* 100, so that the last steps are clipped there.
    assert np.abs(path.printed[:, 0] - path.asked)[6:].max() < 0.1
    assert np.abs(path.inks[:, 3] - (1 - path.asked / 100)).max() < 0.004
    expected = 20 * 0.1 * (1 - path.asked / 100)
    assert np.abs(path.printed[:, 1] - expected).max() < 0.05
    assert np.abs(path.total - 1.1 * (1 - path.asked / 100)).max() < 0.005
    figures = path.figures()
    assert figures.chroma_max == pytest.approx(2.0, abs=0.05)
    assert figures.worst == 0.0
    assert figures.lightness_back == 0.0
    assert codes(profile) == set()


@pytest.mark.parametrize(("magenta", "found"), [(0.14, set()), (0.2, {"cast"})])
def test_a_cast_is_found_from_three_of_chroma(magenta, found) -> None:
    back = by_lightness(K=STRAIGHT_BLACK, M=[(0, magenta), (60, magenta), (100, 0)])
    assert codes(cmyk_profile(simple_print, back)) == found


def test_black_that_runs_back_is_found_where_and_by_how_much() -> None:
    back = by_lightness(K=[(0, 0.7), (12.5, 0.6), (25, 0.75), (100, 0)])
    findings = judge_neutrals(
        neutrals(cmyk_profile(simple_print, back), "relative", bpc=False), "relative"
    )
    by_code = {f.code: f for f in findings}
    said = by_code["black-back"]
    assert said.values["amount"] == pytest.approx(15, abs=1)
    assert said.values["first"] == pytest.approx(25, abs=2)
    assert said.values["last"] == pytest.approx(12.5, abs=2)
    assert "lightness-back" in by_code
    assert by_code["lightness-back"].values["amount"] == pytest.approx(15, abs=1)


def test_an_ink_against_the_other_two_is_named() -> None:
    falls = [(0, 0.0), (25, 0.4), (100, 0.0)]
    back = by_lightness(K=STRAIGHT_BLACK, C=falls, M=falls, Y=[(0, 0.6), (25, 0.2), (100, 0.0)])
    (said,) = [
        f for f in judge_neutrals(neutrals(cmyk_profile(simple_print, back), "relative", bpc=False), "relative")
        if f.code == "ink-rises"
    ]  # fmt: skip
    assert said.values["ink"] == "Yellow"
    assert "while cyan and magenta fall" in said.sentence
    assert "relative colorimetric" in said.sentence


def test_colours_that_give_way_to_black_and_rise_again_together_are_no_finding() -> None:
    dip = [(0, 0.5), (25, 0.1), (50, 0.4), (100, 0.0)]
    back = by_lightness(K=STRAIGHT_BLACK, C=dip, M=dip, Y=dip)
    assert "ink-again" not in codes(cmyk_profile(simple_print, back))
    alone = by_lightness(K=STRAIGHT_BLACK, C=[(0, 0.5), (25, 0.1), (50, 0.4), (100, 0)])
    assert "ink-again" in codes(cmyk_profile(simple_print, alone))


def test_a_kink_is_found_at_its_lightness() -> None:
    back = by_lightness(K=[(0, 0.9), (9.4, 0.1), (100, 0.0)])
    said = [
        f for f in judge_neutrals(neutrals(cmyk_profile(simple_print, back, back_grid=65), "relative", bpc=False), "relative")
        if f.code == "kink"
    ]  # fmt: skip
    assert said[0].values["ink"] == "Black"
    assert said[0].values["lightness"] == pytest.approx(9.4, abs=2)


def test_totals_are_what_the_nodes_hold() -> None:
    full = by_lightness(
        K=[(0, 0.9), (100, 0)],
        C=[(0, 0.8), (100, 0)],
        M=[(0, 0.7), (100, 0)],
        Y=[(0, 0.6), (100, 0)],
    )
    found = reaches(cmyk_profile(simple_print, full))
    assert {r.intent for r in found} == {"perceptual", "relative", "saturation"}
    assert found[0].tac == pytest.approx(300, abs=0.1)
    assert found[0].black_most == pytest.approx(90, abs=0.1)
    assert judge_totals(found, 300) == []
    assert {f.code for f in judge_totals(found, 280)} == {"total"}
    assert judge_totals(found, 280)[0].values == {"reached": found[0].tac, "asked": 280}


def test_black_start_is_the_lightness_printed_with_the_first_percent() -> None:
    found = reaches(cmyk_profile(simple_print, by_lightness(K=[(0, 0.6), (60, 0), (100, 0)])))
    assert found[0].black_start == pytest.approx(99, abs=0.6)
    none = reaches(cmyk_profile(simple_print, by_lightness()))
    assert none[0].black_start is None
    assert none[0].black_most == 0


@pytest.mark.parametrize("increase", [0.0, 0.18, -0.06])
def test_tone_value_increase_is_the_one_put_in(increase) -> None:
    profile = tinting_profile(lambda t: t + 4 * increase * t * (1 - t), SOLIDS)
    for tones in ink_tones(profile):
        assert tones.increase_50 == pytest.approx(increase * 100, abs=0.15)
        assert tones.printed[0] == 0
        assert tones.printed[-1] == 100
        assert tones.vanishes is None or increase < 0


@pytest.mark.parametrize("lost", [0.03, 0.08])
def test_tints_that_vanish_are_found_to_a_quarter_percent(lost) -> None:
    profile = tinting_profile(lambda t: np.clip((t - lost) / (1 - lost), 0, 1), SOLIDS)
    found = {t.name: t.vanishes for t in ink_tones(profile)}
    for name in "CMK":
        assert lost * 100 <= found[name] <= lost * 100 + 0.6


def test_rgb_and_grey_have_no_tone_curves_but_ends() -> None:
    assert ink_tones(standard_profile("srgb")) == []
    assert set(solid_lab(standard_profile("srgb"))) == {"paper", "R", "G", "B", "black"}
    assert solid_lab(standard_profile("grey"))["black"][0] == 0


def test_paper_that_is_not_white_is_found() -> None:
    warm = cmyk_profile(
        lambda i: simple_print(i) + np.array([0, 0, 3]), by_lightness(K=STRAIGHT_BLACK)
    )
    assert {f.code for f in judge_white(warm)} == {"white-off"}
    tinted = cmyk_profile(simple_print, by_lightness(K=STRAIGHT_BLACK, Y=[(0, 0.02), (101, 0.02)]))
    (said,) = judge_white(tinted)
    assert (said.code, said.values["ink"]) == ("white-inked", "Yellow")
    assert said.values["amount"] == pytest.approx(2, abs=0.1)
    assert judge_white(cmyk_profile(simple_print, by_lightness(K=STRAIGHT_BLACK))) == []


def test_a_built_profile_passes_and_its_round_trip_is_the_builders(coated_build, coated) -> None:
    found = examine(coated)
    assert [f for f in found.findings if f.severity != "note"] == []
    assert found.round_trip.p95 == pytest.approx(coated_build.report.round_trip.p95, abs=0.1)
    assert sum(found.round_trip.histogram) == pytest.approx(1, abs=0.001)
    worst = found.round_trip.worst[0]
    again = delta_e_2000(np.array([worst.asked]), np.array([worst.printed]))[0]
    # Lab of the list is rounded to a tenth.
    assert worst.de00 == pytest.approx(float(again), abs=0.15)
    assert found.round_trip.max == pytest.approx(worst.de00, abs=0.01)
    assert colour_findings(coated, tac=250)[0].code == "total"


def test_tones_that_a_profile_loses_of_a_picture_are_named_by_the_plate() -> None:
    profile = cmyk_profile(simple_print, by_lightness(K=[(0, 1.0), (25, 1.0), (100, 0.0)]))
    ramp = np.stack([np.linspace(0, 100, 101), np.zeros(101), np.zeros(101)], axis=1)
    trip = picture_trip(profile, np.concatenate([ramp, ramp]), (2, 101))
    # Black is solid up to L* 25: a quarter of the ramp's hundred steps prints flat, on no other plate.
    assert trip.tones_lost["K"] == pytest.approx(25, abs=1)
    assert sum(trip.tones_lost.values()) == trip.tones_lost["K"]
    # Tones that run down the picture have no step along a row.
    down = picture_trip(profile, np.repeat(ramp, 2, axis=0), (101, 2))
    assert sum(down.tones_lost.values()) == 0
    assert trip.max == round_trip(profile, ramp).max > 10
    assert len({m.asked for m in trip.worst}) == len(trip.worst) == 12
    assert picture_trip(standard_profile("srgb"), ramp, (1, 101)).tones_lost is None


def test_against_itself_nothing_differs(coated, coated_v4) -> None:
    found = examine(coated_v4, aim=coated).aim
    assert max(found.solids.values()) < 1
    assert set(examine(coated, aim=coated).aim.solids.values()) == {0.0}


@pytest.mark.parametrize("kind", [b"abst", b"link", b"nmcl"])
def test_other_classes_are_described_and_checked_only(kind) -> None:
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = kind
    if kind == b"link":
        data[20:24] = b"RGB "
    from plinto_core.icc import Profile

    found = examine(Profile(bytes(data)))
    assert found.round_trip is None
    assert found.reach == []
    assert found.holds["class"] in ("abstract", "device link", "named colour")


@pytest.mark.parametrize(
    ("values", "expected"),
    [
        ([0, 1, 2, 3], [(0, 3)]),
        ([0, 3, 2.5, 4], [(0, 3)]),
        ([0, 3, 1, 4], [(0, 1), (1, 2), (2, 3)]),
        ([0, 0.5, 0], []),
        ([3, 0, 2], [(0, 1), (1, 2)]),
    ],
)
def test_stretches_of_one_direction(values, expected) -> None:
    assert runs(np.array(values, float), 1.0) == expected


@pytest.mark.parametrize(
    ("degrees", "chroma", "turns"),
    [
        ([0, 60, 0], 2.0, 1), ([0, 60, 0], 0.9, 0), ([0, 60, 120], 2.0, 0), ([0, 20, 0], 2.0, 0),
        ([0, 60, 0, 60], 2.0, 2), ([0, 60], 2.0, 0),
    ],
)  # fmt: skip
def test_a_hue_that_goes_back_is_a_turn(degrees, chroma, turns) -> None:
    hue = np.radians(np.array(degrees, float))
    assert _turns(chroma * np.cos(hue), chroma * np.sin(hue)) == turns


def test_the_report_as_pages_says_the_figures(coated, tmp_path) -> None:
    found = examine(coated, tac=200, aim=coated)
    paths = {r.intent: neutrals(coated, r.intent) for r in found.reach}
    data = examination_pdf(found, paths)
    with pikepdf.open(io.BytesIO(data)) as pdf:
        drawn = b"".join(page.Contents.read_bytes() for page in pdf.pages)
        assert len(pdf.pages) >= 2
    text = b"".join(re.findall(rb"\((.*?)\) Tj", drawn)).decode("latin-1")
    assert f"{found.round_trip.max:.2f} at most" in text
    assert "asked were 200" in text
    assert f"{found.reach[0].tac:.1f}" in text
    assert examination_pdf(found, paths) == data
    hostile = found.model_copy(
        update={"holds": {**found.holds, "description": "<b>&\u4e2d</font>"}}
    )
    assert examination_pdf(hostile, {}).startswith(b"%PDF")


def test_greys_are_drawn_between_their_axes(coated) -> None:
    """What is said of the axes stands outside the drawing of the inks, at the height it speaks of."""
    found = _drawn(neutrals(coated, "relative"))
    strings = [s for s in _inner(found) if isinstance(s, String)]
    lines = [s for s in _inner(found) if isinstance(s, Line)]
    bottom, middle, top = sorted(line.y1 for line in lines)[-3:]
    assert middle - bottom == pytest.approx(top - middle)
    at = {s.text: s for s in strings}
    for said, height in (("0", bottom), ("50", middle), ("100", top)):
        assert at[said].y == pytest.approx(height, abs=3)
        assert at[said].x < lines[0].x1
    left, right = lines[0].x1, lines[0].x2
    for lightness in (100, 75, 50, 25, 0):
        label = at[f"L* {lightness}"]
        assert bottom - 12 < label.y < bottom
        assert label.x == pytest.approx(left + (100 - lightness) / 100 * (right - left))
    for name in "CMYK":
        assert right < at[name].x < found.width
        assert bottom - 3 <= at[name].y <= top
    raised = next(s for s in strings if s.text.startswith("+"))
    assert 6 * mm < raised.y < bottom
    for line in (s for s in _inner(found) if isinstance(s, PolyLine)):
        xs, ys = line.points[::2], line.points[1::2]
        assert min(xs) >= left - 0.01
        assert max(xs) <= right + 0.01
        assert max(ys) <= top + 0.01
        assert min(ys) >= 0


def _inner(group) -> list:
    return [
        part
        for child in group.contents
        for part in (_inner(child) if isinstance(child, Group) else [child])
    ]


def test_six_inks_are_examined_and_printed_for() -> None:
    def forward(inks):
        return np.stack([100 - 80 * inks[:, 3], 50 * inks[:, 4], 50 * inks[:, 5]], axis=1)

    def backward(lab):
        out = np.zeros((len(lab), 6))
        out[:, 3] = (100 - lab[:, 0]) / 80
        out[:, 4], out[:, 5] = lab[:, 1] / 50, lab[:, 2] / 50
        return out

    six = ink_profile(6, forward, backward, grid=3)
    assert six.colour_space == "6CLR"
    found = examine(six)
    assert found.reach[0].tac == pytest.approx(300, abs=1)
    assert len(found.tones) == 6
    assert found.round_trip is not None
    path = neutrals(six, "relative", bpc=False)
    assert np.abs(path.inks[10:150, 3] - (100 - path.asked[10:150]) / 80).max() < 0.01
    assert parts_of(six) == ("source", "destination")
    judge_part(six, "destination")
    with pytest.raises(BadProfile, match="its colours are 6CLR"):
        judge_part(six, "display")


def test_embedded_measurements_are_listed_as_patches(coated, coated_measurements) -> None:
    content = content_of(coated, "targ")
    assert content.kind == "measurements"
    assert len(content.patches) == min(3000, len(coated_measurements.device))
    for i in (0, 57, 300):
        patch = content.patches[i]
        assert patch.lab == pytest.approx(tuple(coated_measurements.lab[i]), abs=0.05)
        assert patch.device == pytest.approx(list(coated_measurements.device[i] * 100), abs=0.1)


def test_tone_values_are_those_of_the_inks_own_stimulus(coated) -> None:
    tints = np.linspace(0, 1, 101)
    for tones, which in zip(ink_tones(coated), (0, 1, 2, 1), strict=True):
        device = np.zeros((101, 4))
        device[:, "CMYK".index(tones.name)] = tints
        value = Lab_to_XYZ(lab_of_device(coated, device))[:, which]
        expected = (value[0] - value) / (value[0] - value[-1]) * 100
        assert np.abs(np.array(tones.printed) - expected).max() < 0.02


def test_an_unnamed_ink_is_read_where_its_solid_takes_most_away() -> None:
    # X, Y, Z: the tint takes most of Y away, the solid of Z.
    xyz = np.array([[90, 90, 90], [80, 60, 70], [60, 50, 10]]) / 100
    asked = np.array([0, 0.5, 1])
    assert printed_tones("Orange", xyz, asked) == pytest.approx([0, 0.25, 1])
    assert printed_tones("C", xyz, asked) == pytest.approx([0, 1 / 3, 1])
    assert printed_tones("Varnish", xyz[:1].repeat(3, axis=0), asked).tolist() == [0, 0.5, 1]


def test_absolute_greys_take_the_paper_along(coated) -> None:
    path = neutrals(coated, "absolute")
    inside = (path.asked > 25) & (path.asked < 85)
    assert np.abs(path.printed[inside, 0] - path.asked[inside]).max() < 0.5
    assert path.chroma[inside].max() < 0.6
    relative = neutrals(coated, "relative", bpc=False)
    assert np.abs(relative.printed[:, 0] - relative.asked)[40:150].max() < 0.5
    assert np.abs(path.inks - relative.inks).max() > 0.02


def test_a_single_node_over_the_total_is_not_missed() -> None:
    node = unit_to_lab(np.array([[7 / 32, 5 / 32, 27 / 32]]), legacy=True)

    def backward(lab):
        out = np.zeros((len(lab), 4))
        out[np.abs(lab - node).max(axis=1) < 1e-6] = 1.0
        return out

    assert reaches(cmyk_profile(simple_print, backward))[0].tac == pytest.approx(400, abs=0.01)


def test_only_colours_within_the_total_are_asked_back() -> None:
    def backward(lab):
        out = np.stack([0 * lab[:, 0], lab[:, 1] / 20, lab[:, 2] / 20, 1 - lab[:, 0] / 100], axis=1)
        out = np.clip(out, 0, 1)
        return out / np.maximum(out.sum(axis=1, keepdims=True), 1)

    press = cmyk_profile(simple_print, backward)
    lab = printable(press)
    used = 1 - lab[:, 0] / 100 + lab[:, 1] / 20 + lab[:, 2] / 20
    assert len(lab) > 500
    assert used.max() <= 1.001


def test_the_gamut_of_a_box_is_its_volume_and_corner() -> None:
    box = cmyk_profile(
        lambda inks: np.stack(
            [100 - 80 * inks[:, 3], (inks[:, 1] - 0.5) * 80, (inks[:, 2] - 0.5) * 60], axis=1
        ),
        lambda lab: np.stack([0 * lab[:, 0]] + [0 * lab[:, 0] + 1] * 3, axis=1),
    )
    figures = examine(box).gamut
    assert figures is not None
    assert figures.volume == pytest.approx(80 * 80 * 60, rel=0.005)
    assert (figures.darkest, figures.lightest) == pytest.approx((20, 100), abs=0.2)
    assert figures.most_chroma == pytest.approx(50, abs=1)


def _words(found) -> str:
    with pypdfium2.PdfDocument(examination_pdf(found, {})) as pdf:
        return " ".join(page.get_textpage().get_text_range() for page in pdf)


def test_the_pages_say_what_black_is_used_and_where_none_is(coated) -> None:
    found = examine(coated)
    row = found.reach[0]
    assert f"{row.tac:.1f} {row.black_start:.1f} {row.black_most:.1f}" in " ".join(
        _words(found).split()
    )
    none = examine(
        ink_profile(
            2,
            lambda inks: simple_print(np.pad(inks, ((0, 0), (0, 2)))),
            lambda lab: np.clip(np.repeat(1 - lab[:, :1] / 100, 2, axis=1), 0, 1),
        )
    )
    assert none.reach[0].black_most is None
    assert f"{none.reach[0].tac:.1f} never none" in " ".join(_words(none).split())


def test_what_the_darkest_is_printed_with_is_in_percent_and_adds_up(coated) -> None:
    for row in reaches(coated):
        assert set(row.inks) == {"C", "M", "Y", "K"}
        assert row.inks["K"] > 50
        assert sum(row.inks.values()) <= row.tac_neutral + 0.5


@pytest.mark.parametrize(("reached", "found"), [(300.4, False), (301, True), (304, True)])
def test_half_a_percent_above_what_was_asked_is_rounding(coated, reached, found) -> None:
    (first, *_) = reaches(coated)
    codes = {f.code for f in judge_totals([first.model_copy(update={"tac": reached})], 300)}
    assert ("total" in codes) is found


def test_a_short_text_is_a_text(coated) -> None:
    assert len(coated.raw("cprt")) < 40
    assert content_of(coated, "cprt").kind == "text"
