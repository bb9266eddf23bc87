"""The check before delivery, file names, and the print ticket."""

from __future__ import annotations

import dataclasses
import io
import json

import pikepdf
import pypdfium2
import pytest
from reportlab.lib.colors import CMYKColor, Color

from plinto_core.errors import BadRecipe
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.checks import Circumstances, check_delivery
from plinto_core.recipes.file_names import file_name
from plinto_core.recipes.ticket import _device_colour, print_ticket, ticket_pdf
from plinto_core.transform import lab_of_device

CALM = Circumstances(
    (3000, 2000), (300, 300), "embedded", 4, 280, 320, 5, inks=("C", "M", "Y", "K")
)


def codes(delivery: dict | None = None, *, recipe: dict | None = None, **now) -> list[str]:
    made = parse_recipe(
        {"destination": "x", "delivery": {"bits": 8, **(delivery or {})}, **(recipe or {})}
    )
    return [f.code for f in check_delivery(made, dataclasses.replace(CALM, **now))]


def test_a_plain_delivery_raises_nothing() -> None:
    assert codes() == []


FILMS = {"films": {}}


@pytest.mark.parametrize(
    ("expected", "delivery", "now"),
    [
        ("no-profile", {}, {"source_origin": "house default"}),
        ("question", {}, {"question": "differs"}),
        ("flattened", {}, {"transparency": True}),
        ("pages", {}, {"pages": 3}),
        ("no-size", {}, {"resolution": None}),
        ("low-resolution", {"width_mm": 2000}, {}),
        ("high-resolution", {"width_mm": 50}, {}),
        ("high-resolution enlarged", {"resolution": 600}, {}),
        ("not-mirrored", {}, {"mirrored_medium": True}),
        ("mirrored", {"mirror": True}, {}),
        ("", {"mirror": True}, {"mirrored_medium": True}),
        ("negative negative-profile", {"negative": True}, {}),
        ("tac", {}, {"tac_max": 345}),
        ("gamut", {}, {"out_of_gamut": 40}),
        ("far", {}, {"far": ("blues",)}),
        ("", {}, {"far": ("blues",), "process": "display"}),
        ("", {}, {"out_of_gamut": 25}),
        ("gamut", {}, {"out_of_gamut": 25.1}),
        ("bare", {"embed": False}, {}),
        ("jpeg-cmyk", {"format": "JPEG"}, {}),
        ("tiff-16", {"bits": 16}, {}),
        ("", {"bits": 16}, {"process": "display"}),
        ("", {"bits": 16, **FILMS}, {"process": "screen"}),
        ("", {"embed": False, **FILMS}, {"process": "screen"}),
        ("pdf-16", {"format": "PDF", "bits": 16}, {}),
        ("", {"format": "PDF", "bits": 8}, {}),
        ("", {"format": "PDF", "bits": 16, **FILMS}, {"process": "screen"}),
        ("films", {}, {"process": "screen"}),
        ("size", {"resolution": 300}, {"resolution": None}),
    ],
)
def test_every_surprise_is_named_and_no_other(expected, delivery, now) -> None:
    assert codes(delivery, **now) == expected.split()


def test_stops_come_first() -> None:
    made = parse_recipe({"destination": "x", "delivery": {"films": {}, "embed": False}})
    found = check_delivery(made, dataclasses.replace(CALM, resolution=None))
    assert (found[0].level, found[0].code) == ("stop", "no-size")


def test_names_by_pattern_are_safe() -> None:
    values = {"artwork": "aurora", "condition": "news", "number": "3", "job": "../a:b"}
    assert file_name("{artwork}_{condition}_{number}", values, "tif") == "aurora_news_3.tif"
    assert file_name("{job}", values, "tif") == "a-b.tif"
    assert file_name("...", values, "tif") == "delivery.tif"
    assert len(file_name("x" * 120 + "{artwork}", values, "tif")) <= 124


@pytest.mark.parametrize("pattern", ["{colour}", "{artwork", "a{}", "{artwork}{"])
def test_patterns_with_mistakes_are_refused(pattern) -> None:
    with pytest.raises(BadRecipe, match="pattern"):
        file_name(pattern, {}, "tif")


def test_the_ticket_says_all_and_its_strip_is_in_bare_inks(coated) -> None:
    recipe = parse_recipe(
        {"destination": "x", "ink_rules": {"tac": 280}, "delivery": {"mirror": True, "ticket": {"media": "Satin 110", "passes": 6, "drying_minutes": 20, "note": "left roll"}}}
    )  # fmt: skip
    ticket = print_ticket(recipe, coated, job="Scarf", condition="Satin", file_name="a.tif")
    settings = {name: value for name, value, _ in ticket.settings}
    assert settings["Colour management in the driver"] == "off"
    assert settings["Passes"] == "6"
    assert settings["Drying"] == "20 min"
    darkest = next(p for p in ticket.strip if p.name.startswith("TAC"))
    assert sum(darkest.device.values()) == pytest.approx(280)
    black = next(p for p in ticket.strip if p.name == "K 100")
    assert black.lab == pytest.approx(lab_of_device(coated, [[0, 0, 0, 1]])[0], abs=0.06)
    assert json.loads(json.dumps(ticket.as_data()))["job"] == "Scarf"
    data = ticket_pdf(ticket)
    assert data == ticket_pdf(ticket)
    with pypdfium2.PdfDocument(data) as document:
        text = document[0].get_textpage().get_text_range()
    for words in ("Satin 110", "left roll", "Colour management in the driver", "K 100"):
        assert words in text
    with pikepdf.open(io.BytesIO(data)) as pdf:
        operators = [str(o.operator) for o in pikepdf.parse_content_stream(pdf.pages[0])]
    assert operators.count("k") >= len(ticket.strip)


def test_a_strip_can_be_left_out(coated) -> None:
    recipe = parse_recipe({"destination": "x", "delivery": {"ticket": {"test_strip": False}}})
    assert print_ticket(recipe, coated, job="a", condition="b", file_name="c").strip == ()


def test_what_a_format_cannot_hold_of_other_inks_stops() -> None:
    inks = {"inks": ("Brick", "K"), "channels": 2}
    assert codes({"format": "TIFF"}, **inks) == []
    assert codes({"format": "PDF"}, **inks) == []
    assert "format-inks" in codes({"format": "JPEG"}, **inks)
    assert "format-inks" in codes({"format": "PDF", "embed": False}, **inks)
    assert "format-inks" not in codes({"format": "JPEG"})


def test_a_screen_asks_for_no_print_size_and_has_no_rip() -> None:
    shown = {"process": "display", "channels": 3, "inks": ()}
    assert codes({"bits": 16}, resolution=None, out_of_gamut=60, **shown) == []
    assert set(codes({"bits": 16}, resolution=None, out_of_gamut=60)) == {
        "no-size",
        "gamut",
        "tiff-16",
    }


@pytest.mark.parametrize(
    ("values", "shown"),
    [
        ([0.1, 0.2, 0.3, 0.4], CMYKColor(0.1, 0.2, 0.3, 0.4)),
        ([0.1, 0.2, 0.3], Color(0.1, 0.2, 0.3)),
        ([0.6], Color(0.6, 0.6, 0.6)),
        ([0.5] * 6, CMYKColor(0, 0, 0, 0)),
    ],
)
def test_strips_show_the_numbers_of_one_three_and_four_channels(values, shown) -> None:
    """What a page cannot show stays white; its numbers stand below it."""
    assert _device_colour(values) == shown
