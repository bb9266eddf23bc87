"""What is wrong with a profile's colours, as codes and values; worded in one place."""

from __future__ import annotations

import itertools
from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.examination.neutrals import Neutrals, runs
from plinto_core.examination.reach import IntentReach
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENT_WORDS, is_subtractive
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.words import Said, say

Severity = Literal["note", "warning", "error"]
CAST, STRONG_CAST = 3.0, 6.0
"""C*ab of a grey that is seen as coloured beside a neutral one, and by itself."""
BACKWARD = 0.02
"""Tone value by which an ink may go back before it is said: five steps of an 8-bit table."""
KINK = 6.0
"""Percent of ink for one L*, by which the slope of an ink may change from one L* to the next."""
TINTED_PAPER = 0.005
WHITE_OFF = 0.5


class Finding(BaseModel):
    """One finding. values : numbers and names that the sentence is made of."""

    model_config = ConfigDict(frozen=True)

    code: str
    severity: Severity
    intent: str | None = None
    values: dict[str, float | str] = {}

    @property
    def sentence(self) -> Said:
        """The finding in words."""
        said = say(f"examination.{self.code}", **self.values)
        if self.intent is None:
            return say("examination.without-intent", finding=said)
        return say("examination.with-intent", finding=said, intent=INTENT_WORDS[self.intent])


def judge_neutrals(path: Neutrals, intent: str) -> list[Finding]:
    """What a path of neutrals shows: casts, inks that run back, kinks."""
    found: list[Finding] = []
    figures = path.figures()
    if figures.chroma_max > CAST:
        severity: Severity = "error" if figures.chroma_max > STRONG_CAST else "warning"
        values: dict[str, float | str] = {"chroma": figures.chroma_max, "lightness": figures.worst}
        found.append(Finding(code="cast", severity=severity, intent=intent, values=values))
    if figures.lightness_back > 0.5:
        values = {"amount": figures.lightness_back}
        found.append(Finding(code="lightness-back", severity="error", intent=intent, values=values))
    if path.subtractive:
        found += _judge_inks(path, intent)
    return found


def _judge_inks(path: Neutrals, intent: str) -> list[Finding]:
    found: list[Finding] = []
    black = path.names.index("K") if "K" in path.names else None
    if black is not None:
        for first, last in runs(path.inks[:, black], BACKWARD):
            change = float(path.inks[last, black] - path.inks[first, black])
            if change < 0:
                values = _stretch(path, first, last, -change * 100)
                found.append(
                    Finding(code="black-back", severity="error", intent=intent, values=values)
                )
    colours = [i for i in range(len(path.names)) if i != black]
    if len(colours) == 3:
        found += _judge_colours(path, colours, intent)
    for i, name in enumerate(path.names):
        found += _kinks(path, i, name, intent)
    if black is not None and float(path.inks[:, black].max()) < 0.01:
        found.append(Finding(code="no-black", severity="note", intent=intent))
    return found


def _judge_colours(path: Neutrals, colours: list[int], intent: str) -> list[Finding]:
    """One of three colours that goes against the other two, or that rises again alone.

    All three falling for black and rising after it is how strong black works, and no finding.
    """
    stretches = {i: runs(path.inks[:, i], BACKWARD) for i in colours}
    turns = sorted({0, len(path.asked) - 1, *(t for s in stretches.values() for r in s for t in r)})
    found: list[Finding] = []
    fallen = dict.fromkeys(colours, False)
    for first, last in itertools.pairwise(turns):
        moved = {i: float(path.inks[last, i] - path.inks[first, i]) for i in colours}
        for i in colours:
            others = [j for j in colours if j != i]
            values = _stretch(path, first, last, abs(moved[i]) * 100)
            values["ink"] = _name(path, i)
            if abs(moved[i]) > _PLAIN and all(
                moved[j] * moved[i] < 0 and abs(moved[j]) > BACKWARD for j in others
            ):
                rises = moved[i] > 0
                values["others"] = " and ".join(_name(path, j).lower() for j in others)
                code = "ink-rises" if rises else "ink-falls"
                found.append(Finding(code=code, severity="error", intent=intent, values=values))
            elif moved[i] > _PLAIN and fallen[i] and all(moved[j] <= BACKWARD for j in others):
                found.append(
                    Finding(code="ink-again", severity="warning", intent=intent, values=values)
                )
            fallen[i] = fallen[i] or moved[i] < -BACKWARD
    return found


_PLAIN = 0.05
"""Tone value by which a colour must go its own way to be named."""


def _name(path: Neutrals, index: int) -> str:
    return _INK_NAMES.get(path.names[index], path.names[index])


_INK_NAMES = {"C": "Cyan", "M": "Magenta", "Y": "Yellow", "K": "Black"}


def _stretch(path: Neutrals, first: int, last: int, amount: float) -> dict[str, float | str]:
    return {
        "amount": round(amount, 1),
        "first": round(float(path.asked[first]), 1),
        "last": round(float(path.asked[last]), 1),
    }


def _kinks(path: Neutrals, i: int, name: str, intent: str) -> list[Finding]:
    """The sharpest change of slope of one ink, where it is sharp; slopes over one L* each."""
    step = abs(float(path.asked[1] - path.asked[0]))
    width = max(1, round(1.0 / step))
    slope = (path.inks[width:, i] - path.inks[:-width, i]) * 100 / (width * step)
    bend = np.abs(slope[width:] - slope[:-width])
    if not bend.size or float(bend.max()) <= KINK:
        return []
    at = int(bend.argmax())
    values: dict[str, float | str] = {
        "ink": _INK_NAMES.get(name, name),
        "lightness": round(float(path.asked[at + width]), 1),
        "amount": round(float(bend[at]), 1),
    }
    return [Finding(code="kink", severity="warning", intent=intent, values=values)]


def judge_totals(found: list[IntentReach], asked: float | None) -> list[Finding]:
    """Totals that the tables reach against each other and against what was asked, in percent."""
    totals = [r.tac for r in found]
    out: list[Finding] = []
    if asked is not None:
        out += [
            Finding(
                code="total", severity="error", intent=r.intent,
                values={"reached": r.tac, "asked": asked},
            )
            for r in found
            if r.tac > asked + 0.5
        ]  # fmt: skip
    if max(totals) - min(totals) > 5:
        values: dict[str, float | str] = {"least": min(totals), "most": max(totals)}
        out.append(Finding(code="totals-differ", severity="note", values=values))
    return out


def judge_white(profile: Profile) -> list[Finding]:
    """Whether bare paper is the white of the PCS, and white is bare paper."""
    inked = is_subtractive(profile.colour_space)
    bare: Floats = np.zeros((1, profile.channels)) if inked else np.ones((1, profile.channels))
    out: list[Finding] = []
    lab = lab_of_device(profile, bare)[0]
    if float(np.linalg.norm(lab - [100.0, 0.0, 0.0])) > WHITE_OFF:
        values: dict[str, float | str] = {
            k: round(float(v), 1) for k, v in zip("lab", lab, strict=True)
        }
        out.append(Finding(code="white-off", severity="warning", values=values))
    if inked:
        inks = xyz_to_device(profile, Lab_to_XYZ(np.array([[100.0, 0.0, 0.0]])), 1)[0]
        most = int(inks.argmax())
        if float(inks[most]) > TINTED_PAPER:
            name = ink_names(profile)[most]
            values = {
                "amount": round(float(inks[most]) * 100, 1),
                "ink": _INK_NAMES.get(name, name),
            }
            out.append(Finding(code="white-inked", severity="warning", values=values))
    return out
