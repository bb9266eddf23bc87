"""The questions there are, and which parts each is asked with."""

from __future__ import annotations

from typing import Literal

from plinto_core.fields import Part


class AskedPart(Part):
    """A thing that a question is asked with.

    kind : a profile by the part it plays, a job's picture, a number, or one of some choices; start : of
    numbers and choices.
    """

    key: str
    name: str
    kind: Literal["profile", "picture", "number", "choice"]
    help: str = ""
    start: str = ""
    choices: tuple[str, ...] = ()
    low: float = 0.0
    high: float = 0.0
    unit: str = ""


class Question(Part):
    """asked : as people ask it; help : when one asks it."""

    key: str
    asked: str
    help: str
    parts: tuple[AskedPart, ...]


_INTENT = AskedPart(
    key="intent", name="Intent", kind="choice", start="relative",
    choices=("perceptual", "relative", "saturation", "absolute"),
)  # fmt: skip
_BPC = AskedPart(
    key="bpc", name="Black point compensation", kind="choice", start="on", choices=("on", "off")
)
QUESTIONS: tuple[Question, ...] = (
    Question(
        key="show",
        asked="Can this proofer show that press?",
        help="Before a proofer is bought, set up or trusted with a press.",
        parts=(
            AskedPart(key="press", name="Press", kind="profile", help="What is to be shown."),
            AskedPart(key="proofer", name="Proofer", kind="profile", help="What shows it."),
        ),
    ),
    Question(
        key="suit",
        asked="Which of two profiles suits this picture?",
        help="Where a job may go to one press or another, or two profiles of one press are at hand.",
        parts=(
            AskedPart(key="picture", name="Picture", kind="picture", help="A job's artwork."),
            AskedPart(key="first", name="First", kind="profile"),
            AskedPart(key="second", name="Second", kind="profile"),
        ),
    ),
    Question(
        key="alike",
        asked="Are two devices still alike?",
        help="After maintenance, or for two machines that are to print alike: profiles of both, or of one then and now.",
        parts=(
            AskedPart(key="first", name="First", kind="profile"),
            AskedPart(key="second", name="Second", kind="profile"),
            AskedPart(
                key="mean", name="Alike up to", kind="number", start="1.5", low=0.1, high=20, unit="ΔE00",
                help="Of the mean; twice as much is allowed at 95 %.",
            ),
        ),
    ),
    Question(
        key="tones",
        asked="What does this step do to these tones?",
        help="Where a picture came out flat or muddy between two spaces.",
        parts=(
            AskedPart(key="source", name="From", kind="profile"),
            AskedPart(key="destination", name="Into", kind="profile"),
            _INTENT,
            _BPC,
        ),
    ),
    Question(
        key="total",
        asked="Does this profile reach the total asked?",
        help="When a profile arrives with a total area coverage written on it.",
        parts=(
            AskedPart(key="profile", name="Profile", kind="profile"),
            AskedPart(
                key="asked", name="Total asked", kind="number", start="300", low=50, high=1500, unit="%",
            ),
        ),
    ),
    Question(
        key="greys",
        asked="Are its greys grey?",
        help="The first look at any profile, and the last before it is trusted.",
        parts=(AskedPart(key="profile", name="Profile", kind="profile"), _INTENT, _BPC),
    ),
)  # fmt: skip


def question(key: str) -> Question:
    """A question by its key; raises StopIteration."""
    return next(q for q in QUESTIONS if q.key == key)
