"""Questions answered in one go: what they say, by figures that can be had otherwise."""

from __future__ import annotations

import numpy as np
import pypdfium2
import pytest
from handmade import cmyk_profile, linear_press, simple_print

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadInput
from plinto_core.examination.neutrals import NeutralFigures, Neutrals, neutrals
from plinto_core.examination.reach import reaches
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.questions.answer import Plot, Series
from plinto_core.questions.asked import QUESTIONS, question
from plinto_core.questions.page import _drawn, answer_pdf
from plinto_core.questions.picture import which_suits
from plinto_core.questions.profiles import greys_grey, reaches_total, step_tones
from plinto_core.questions.proofing import can_show, still_alike
from plinto_core.simulator import CONDITIONS, PROOFER, measure_chart
from plinto_core.simulator.materials import substrate
from plinto_core.simulator.press import PressModel
from plinto_core.transform.chain import convert, lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

SRGB = standard_profile("srgb")


def built(model: PressModel, rules, name: str) -> Profile:
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(model, chart))
    settings = BuildSettings(size="small", description=name)
    data = build_profile(Characterisation(chart, xyz), parse_ink_rules(rules), settings).data
    return Profile(data)


@pytest.fixture(scope="module")
def news() -> Profile:
    return built(CONDITIONS[2].model, CONDITIONS[2].rules, "Newsprint")


@pytest.fixture(scope="module")
def proofer() -> Profile:
    return built(PROOFER.model, PROOFER.rules, "Proofer")


def figure(found, label: str):
    return next(r.values for r in found.figures.rows if r.label == label)


def test_a_large_proofer_shows_the_press_and_the_press_does_not_show_it(coated, news, proofer):
    good = can_show(news, proofer)
    assert good.verdict == "yes"
    assert figure(good, "Strip, greatest")[1] < 2
    assert good.parts == {"press": "Newsprint", "proofer": "Proofer"}
    bad = can_show(coated, news)
    assert bad.verdict == "no"
    assert "Out of its reach: Darkest by" in bad.more[0]
    assert "paper is lighter or more coloured" in bad.more[1]
    assert any("another paper" in m for m in bad.more)
    assert bad.colours.pairs[0].de00 == pytest.approx(figure(bad, "Strip, greatest")[1], abs=0.01)
    middling = can_show(proofer, coated)
    assert middling.verdict in ("in part", "no")
    assert "M 100" in middling.more[0]
    # What is missed is drawn from where it was asked to where it is shown.
    assert sum(s.name == "" for s in bad.plot.series) >= 5


def test_a_body_that_is_not_held_is_no_yes(news, proofer, monkeypatch) -> None:
    from plinto_core.questions import proofing

    real = proofing.pair_figures
    part = lambda a, b: real(a, b).model_copy(update={"coverage": 0.95})  # noqa: E731
    monkeypatch.setattr(proofing, "pair_figures", part)
    found = can_show(news, proofer)
    assert found.verdict == "in part"
    assert "95.0 %" in " ".join(found.more)


def test_what_the_proofer_shows_is_its_own_conversion(news, proofer) -> None:
    found = can_show(news, proofer)
    yellow = next((p for p in found.colours.pairs if p.name == "Y 100"), None)
    if yellow is None:
        yellow = found.colours.pairs[0]
    inks = {"Y 100": [0, 0, 1.0, 0]}.get(yellow.name)
    if inks is not None:
        device = convert(news, proofer, np.array([inks]), intent="absolute", bpc=False)
        shown = lab_of_device(proofer, device, intent="absolute")[0]
        assert np.allclose(shown, yellow.second, atol=0.02)
    assert [p.de00 for p in found.colours.pairs] == sorted(
        (p.de00 for p in found.colours.pairs), reverse=True
    )


def test_devices_are_alike_until_one_of_them_moves(news) -> None:
    model = CONDITIONS[2].model
    assert still_alike(news, news).verdict == "yes"
    heavier = PressModel(
        model.substrate, tuple(i.strength(1.25) for i in model.inks), model.gain, model.trap,
        model.surface, model.yule_nielsen,
    )  # fmt: skip
    moved = built(heavier, CONDITIONS[2].rules, "Newsprint, heavier")
    found = still_alike(news, moved)
    assert found.verdict in ("in part", "no")
    assert any("darker" in m for m in found.more)
    assert figure(found, "paper")[0] < 0.3
    assert still_alike(news, moved, mean=20).verdict == "yes"
    # 4 steps an ink are 256 mixtures; 15 of them take more than 300 % of ink.
    assert [row.label for row in found.figures.rows] == [
        "241 mixtures, mean", "95 % below", "greatest", "paper", "solids, greatest", "greys, greatest",
    ]  # fmt: skip
    tones = {s.name: s for s in found.plot.series}
    assert set(tones) == set("CMYK")
    ramp = np.array([[0.5, 0, 0, 0]])
    expected = delta_e_2000(*(lab_of_device(p, ramp, intent="absolute") for p in (news, moved)))[0]
    assert tones["C"].y[10] == pytest.approx(expected, abs=0.01)
    paper = built(
        PressModel(substrate(0.75, warm=0.05), model.inks, model.gain, model.trap, model.surface, 2.2),
        CONDITIONS[2].rules, "Another paper",
    )  # fmt: skip
    assert any("papers differ" in m for m in still_alike(news, paper).more)
    with pytest.raises(BadInput, match="CMYK and RGB"):
        still_alike(news, SRGB)


def test_what_a_step_does_to_greys_is_what_the_chain_does(news) -> None:
    hard = step_tones(SRGB, news, "relative", bpc=False)
    soft = step_tones(SRGB, news, "relative", bpc=True)
    assert figure(hard, "Steps lost")[1] > 20 > figure(soft, "Steps lost")[1]
    assert any("Steps are lost between" in m for m in hard.more)
    grey = next(s for s in soft.plot.series if s.name == "lightness")
    for i in (20, 50, 80):
        lab = lab_of_device(SRGB, np.full((1, 3), _code(grey.x[i])))
        assert lab[0, 0] == pytest.approx(grey.x[i], abs=0.05)
        inks = convert(SRGB, news, np.full((1, 3), _code(grey.x[i])), intent="relative", bpc=True)
        assert lab_of_device(news, inks)[0, 0] == pytest.approx(grey.y[i], abs=0.05)
    none = step_tones(SRGB, SRGB)
    assert figure(none, "Steps lost")[1] == 0
    assert none.colours.pairs[0].de00 < 0.01
    paper = step_tones(SRGB, news, "absolute")
    assert figure(paper, "Lightest grey")[1] < 90
    # Absolute colorimetric has no black point compensation, and says so.
    assert [d for a in (hard, soft, paper) for d in a.done if "black point" in d] == [
        "They were converted into the destination, relative colorimetric, without black point compensation.",
        "They were converted into the destination, relative colorimetric, with black point compensation.",
        "They were converted into the destination, absolute colorimetric, without black point compensation.",
    ]


def _code(lightness: float) -> float:
    """sRGB (0..1) of a grey of this L*."""
    y = ((lightness + 16) / 116) ** 3 if lightness > 8 else lightness / 903.3
    return 12.92 * y if y <= 0.0031308 else 1.055 * y ** (1 / 2.4) - 0.055


@pytest.mark.parametrize(
    ("asked", "verdict"), [(240.0, "yes"), (200.0, "no"), (300.0, "in part"), (239.0, "yes")]
)
def test_a_total_is_reached_kept_or_left_unused(news, asked, verdict) -> None:
    found = reaches_total(news, asked)
    assert found.verdict == verdict
    assert figure(found, "Most of all colours") == tuple(r.tac for r in reaches(news))
    assert found.plot.level == ("asked", asked)
    line = next(s for s in found.plot.series if s.name == "perceptual")
    assert max(line.y) == pytest.approx(neutrals(news, "perceptual").total.max() * 100, abs=0.01)


def test_a_total_is_asked_of_inks_only() -> None:
    with pytest.raises(BadInput, match="no inks"):
        reaches_total(SRGB, 300)


def test_greys_are_judged_by_their_chroma(news, coated) -> None:
    good = greys_grey(coated)
    assert good.verdict == "yes"
    figures = neutrals(coated, "relative").figures()
    assert figure(good, "Chroma, greatest")[0] == figures.chroma_max
    seen = greys_grey(tinted(3.5))
    assert (seen.verdict, greys_grey(tinted(9)).verdict) == ("in part", "no")
    assert any("coloured" in m for m in seen.more)


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({}, "yes"), ({"chroma_max": 3.0}, "yes"), ({"chroma_max": 3.1}, "in part"), ({"chroma_max": 6.0}, "in part"),
        ({"chroma_max": 6.1}, "no"), ({"turns": 1}, "yes"), ({"turns": 2}, "in part"), ({"lightness_back": 0.6}, "in part"),
    ],
)  # fmt: skip
def test_greys_are_neutral_where_they_neither_turn_nor_run_back(
    monkeypatch, changes, verdict
) -> None:
    plain = {
        "chroma_mean": 1.0,
        "chroma_max": 2.0,
        "worst": 40.0,
        "turns": 0,
        "lightness_back": 0.5,
    }
    figures = NeutralFigures.model_validate({**plain, **changes})
    monkeypatch.setattr(Neutrals, "figures", lambda path: figures)
    assert greys_grey(linear_press()).verdict == verdict


def tinted(chroma: float) -> Profile:
    """Greys of black ink with magenta beside it: their a* is 20 times its tone value."""

    def backward(lab):
        inks = np.zeros((len(lab), 4))
        dark = 1 - np.clip(lab[:, 0], 0, 100) / 100
        inks[:, 3], inks[:, 1] = dark, dark * chroma / 20
        return inks

    return cmyk_profile(simple_print, backward)


def test_a_picture_suits_the_larger_press(coated, news, monkeypatch) -> None:
    rng = np.random.default_rng(3)
    vivid = rng.random((40 * 50, 3))
    found = which_suits(vivid, (40, 50), SRGB, news, coated)
    assert found.verdict == "second"
    assert found.said.startswith(coated.description)
    mean = figure(found, "ΔE00, mean")
    assert mean[1] < mean[0]
    assert which_suits(vivid, (40, 50), SRGB, coated, news).verdict == "first"
    assert which_suits(vivid, (40, 50), SRGB, coated, coated).verdict == "alike"
    # The curve of the better one runs lower nearly all along.
    first, second = (np.array(s.y) for s in found.plot.series)
    assert (second[5:] < first[5:]).mean() > 0.9
    # What is nearly alike is alike.
    monkeypatch.setattr("plinto_core.questions.picture.ALIKE", 0.99)
    assert which_suits(vivid, (40, 50), SRGB, coated, news).verdict == "alike"


def test_every_question_names_its_parts_and_every_answer_makes_pages(news, proofer) -> None:
    assert [q.key for q in QUESTIONS] == ["show", "suit", "alike", "tones", "total", "greys"]
    with pytest.raises(StopIteration):
        question("nothing")
    for found in (
        can_show(news, proofer),
        step_tones(SRGB, news),
        reaches_total(news),
        greys_grey(news),
    ):
        keys = {p.key for p in question(found.question).parts}
        assert {k for v in found.views for k in v.of} <= keys
        assert found.done
        pages = pypdfium2.PdfDocument(answer_pdf(found))
        text = "".join(page.get_textpage().get_text_range() for page in pages)
        assert found.asked in text
        assert "What was done" in text
        flat = " ".join(text.split())
        assert found.said.replace("Δ", "d")[:30] in flat


@pytest.mark.parametrize("square", [True, False])
def test_a_figure_on_both_sides_of_zero_stays_on_its_page(square) -> None:
    series = Series(name="solids", x=(-50.0, 0.0, 50.0), y=(-40.0, 10.0, 60.0))
    drawing = _drawn(Plot(title="t", x="a*", y="b*", series=(series,), square=square))
    left, bottom, right, top = drawing.getBounds()
    assert -5 <= left < right <= drawing.width + 5
    assert -5 <= bottom < top <= drawing.height + 5


def test_a_total_is_asked_at_300_where_nobody_says(news) -> None:
    found = reaches_total(news)
    assert found.plot.level == ("asked", 300.0)
    assert found.verdict == reaches_total(news, 300.0).verdict == "in part"
