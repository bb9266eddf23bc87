"""What a received profile proposes for a condition, read from its own tables."""

from __future__ import annotations

import math

from pydantic import BaseModel, ConfigDict

from plinto_core.conditions.model import ConditionTicket, PrintingCondition, Process
from plinto_core.examination.reach import IntentReach, reaches, solid_lab
from plinto_core.examination.tones import InkTones, ink_tones
from plinto_core.icc.check import Problem, check_profile
from plinto_core.icc.parts import judge_part
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.inks.rules import BlackRule, InkRules
from plinto_core.words import Said, say

_WORDS: tuple[tuple[tuple[str, ...], Process], ...] = (
    (("flexo",), "flexo"),
    (("gravure", "rotogravure"), "gravure"),
    (("screen print", "screenprint", "silk", "carousel"), "screen"),
    (("sublimation", "transfer", "calender"), "transfer"),
    (("inkjet", "ink jet", "canvas", "large format", "dtg", "banner"), "inkjet"),
    (("photo paper", "silver halide", "minilab", "photographic"), "photographic"),
    (("offset", "newspaper", "newsprint", "coldset", "heatset", "sheetfed", "coated"), "offset"),
)
_LOST_TINT = 1.5
"""Percent up to which a lost tint is within what plates and tables leave open."""


class Proposal(BaseModel):
    """A condition to start from, why it says what it says, and what was read of the profile."""

    model_config = ConfigDict(frozen=True)

    condition: PrintingCondition
    reasons: dict[str, Said]
    reach: list[IntentReach]
    solids: dict[str, tuple[float, float, float]]
    tones: list[InkTones]
    problems: list[Problem]


def propose(profile: Profile) -> Proposal:
    """A condition from a profile that can be a destination; raises BadProfile, with a remedy, else.

    Process by the words of the description, else by white, total and lost tints; TAC, single limits,
    start and greatest black as the tables of perceptual and relative colorimetric really reach them.
    """
    judge_part(profile, "destination")
    found = reaches(profile)
    solids = solid_lab(profile)
    tones = ink_tones(profile)
    process, why = _process(profile, found, solids, tones)
    reasons = {"process": why}
    lost = max((t.vanishes or 0.0 for t in tones), default=0.0)
    least = lost if lost > _LOST_TINT else 0.0
    if least:
        reasons["least_dot"] = say("conditions.why-dot", lost=lost)
    rules = _rules(profile, found, reasons)
    condition = PrintingCondition(
        name=profile.description[:100].strip() or "Unnamed condition",
        process=process,
        mirror=process == "transfer",
        least_dot=min(round(least, 1), 20.0),
        ink_rules=rules,
        ticket=ConditionTicket(),
    )
    problems = check_profile(profile.data)
    return Proposal(
        condition=condition,
        reasons=reasons,
        reach=found,
        solids=solids,
        tones=tones,
        problems=problems,
    )


def _rules(profile: Profile, found: list[IntentReach], reasons: dict[str, Said]) -> InkRules:
    if not is_subtractive(profile.colour_space):
        return InkRules(tac=profile.channels * 100.0)
    tables = found[:2]
    top = max(tables, key=lambda r: r.tac)
    tac = float(min(max(math.ceil(top.tac - 0.05), 50), 100 * profile.channels))
    reasons["tac"] = say("conditions.why-tac", intent=top.intent, total=top.tac)
    colorimetric = next((r for r in found if r.intent == "relative"), found[0])
    black = None
    if colorimetric.black_most is not None and colorimetric.black_start is not None:
        white, dark = 100.0, colorimetric.darkest[0]
        start = 100 * (white - colorimetric.black_start) / max(white - dark, 1.0)
        black = BlackRule(
            method="gcr",
            start=round(min(max(start, 0), 100)),
            limit=min(round(colorimetric.black_most, 0), 100.0),
        )
        reasons["black"] = say(
            "conditions.why-black",
            start=colorimetric.black_start,
            most=colorimetric.black_most,
        )
    elif colorimetric.black_most is not None:
        reasons["black"] = say("conditions.why-no-black")
    return InkRules(tac=tac, black=black)


def _process(
    profile: Profile,
    found: list[IntentReach],
    solids: dict[str, tuple[float, float, float]],
    tones: list[InkTones],
) -> tuple[Process, Said]:
    said = profile.description.lower()
    for words, process in _WORDS:
        for word in words:
            if word in said:
                return process, say("conditions.why-word", word=word)
    if profile.header.device_class in ("mntr", "spac"):
        return "display", say("conditions.why-screen")
    if profile.colour_space == "RGB ":
        return "photographic", say("conditions.why-rgb")
    lost = max((t.vanishes or 0.0 for t in tones), default=0.0)
    if lost > _LOST_TINT:
        return "flexo", say("conditions.why-tints", lost=lost)
    if profile.colour_space == "GRAY":
        return "offset", say("conditions.why-one-ink")
    white, total = solids["paper"][0], max(r.tac for r in found)
    darkest = min(r.darkest[0] for r in found)
    if total > 340 or (white > 93 and darkest < 8):
        return (
            "inkjet",
            say("conditions.why-inkjet", total=total, darkest=darkest),
        )
    return "offset", say("conditions.why-offset", total=total, white=white)
