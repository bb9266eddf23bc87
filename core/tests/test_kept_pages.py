"""Pages as they were looked at: every line, word and colour of them where it stood."""

from __future__ import annotations

from handmade import linear_press
from kept import as_kept, drawn

from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.page import examination_pdf
from plinto_core.examination.report import examine
from plinto_core.pages import latin, pages, paragraph, table
from plinto_core.questions.answer import (
    Answer,
    ColourPair,
    Colours,
    FigureRow,
    Figures,
    Plot,
    Series,
)
from plinto_core.questions.page import answer_pdf
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.ticket import PrintTicket, StripPatch, print_ticket, ticket_pdf


def _plot(**changes) -> Plot:
    one = Series(name="first press", x=(0, 20, 60, 100), y=(0, 12.5, 30, 41), ink="C")
    other = Series(name="", x=(0, 50, 100), y=(-8, 4, 22), style="dotted")
    third = Series(name="second", x=(0, 100), y=(3, 38), style="dashed")
    cloud = Series(name="colours", x=(10, 30, 80), y=(5, 20, 8), style="points")
    given = {"title": "Tones", "x": "tone, %", "y": "TVI", "series": (one, other, third, cloud)}
    return Plot.model_validate({**given, **changes})


def _answer(plot: Plot | None, **changes) -> Answer:
    given = {
        "question": "tones",
        "asked": "What does the step do to tones?",
        "parts": {"First": "Press A", "Second": "Press B <2>"},
        "verdict": "told",
        "said": "It makes them ΔE00 2.5 darker.",
        "more": ("More where greys are.",),
        "plot": plot,
        "done": ("Greys were taken.", "They were compared."),
    }
    return Answer.model_validate({**given, **changes})


def test_answers() -> None:
    figures = Figures(
        columns=("A", "B"),
        rows=(
            FigureRow(label="Darkest", values=(12.34, None), unit="L*", digits=1),
            FigureRow(label="Turns", values=(3, 0), digits=0),
        ),
    )
    colours = Colours(
        first="asked",
        second="printed",
        pairs=(
            ColourPair(name="Rosy", first=(60, 50, 20), second=(62, 40, 18), de00=5.25),
            ColourPair(name="Deep", first=(5, 0, 0), second=(20, 1, -1), de00=9.1),
        ),
    )
    whole = answer_pdf(_answer(_plot(), figures=figures, colours=colours))
    as_kept("answer", drawn(whole))
    level = {"level": ("asked", 45.0), "reversed": True}
    as_kept("answer-reversed", drawn(answer_pdf(_answer(_plot(**level)))))
    as_kept("answer-square", drawn(answer_pdf(_answer(_plot(square=True)))))
    empty = _plot(series=())
    as_kept("answer-empty", drawn(answer_pdf(_answer(empty))))


def test_examinations() -> None:
    profile = linear_press()
    aim = linear_press("Aim")
    found = examine(profile, tac=250, aim=aim)
    greys = {intent: neutrals(profile, intent) for intent in ("relative", "perceptual")}
    as_kept("examination", drawn(examination_pdf(found, greys)))
    plain = found.model_dump(mode="json", exclude={"holds"})
    as_kept("examination-figures", plain, rel=2e-3, abs=0.02)


def test_tickets() -> None:
    recipe = parse_recipe(
        {
            "destination": "x", "ink_rules": {"tac": 280},
            "delivery": {
                "mirror": True, "negative": True, "copies": 3,
                "films": {"resolution": 1200, "ruling": 55},
                "ticket": {"media": "Satin 110", "passes": 6, "drying_minutes": 20, "note": "left roll"},
            },
        }
    )  # fmt: skip
    ticket = print_ticket(
        recipe, linear_press(), job="Scarf Δ", condition="Satin × 2", file_name="a.tif"
    )
    as_kept("ticket", drawn(ticket_pdf(ticket)))
    as_kept("ticket-strip", [[p.name, p.device, p.lab] for p in ticket.strip])
    short = PrintTicket(
        job="j", condition="c", file_name="f", settings=(), figures={"Pixels": "3 × 4"},
        strip=(StripPatch("R", {"R": 100.0, "G": 0.0, "B": 0.0}, (50.0, 60.0, 40.0)),
               StripPatch("W", {"W": 40.0}, (50.0, 0.0, 0.0))),
    )  # fmt: skip
    as_kept("ticket-short", drawn(ticket_pdf(short)))


def test_what_all_pages_share() -> None:
    rows = [["Name", "Value"], ["A & B <c>", "ΔE 3"], ["Long " * 30, "中"]]
    made = pages("Title", [paragraph("First"), table(rows)])
    as_kept("page", drawn(made))
    assert latin("ΔE 中") == "dE ?"
