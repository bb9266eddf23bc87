"""The whole examination of a profile as one typed report."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from plinto_core.errors import BadProfile
from plinto_core.examination.aims import Aim, AimDifference, against, aim_of_profile
from plinto_core.examination.fidelity import RoundTrip, Smoothness, round_trip, smoothness
from plinto_core.examination.findings import (
    Finding,
    judge_neutrals,
    judge_totals,
    judge_white,
)
from plinto_core.examination.gamut import gamut_of_profile
from plinto_core.examination.neutrals import NeutralFigures, Neutrals, neutrals
from plinto_core.examination.reach import IntentReach, reaches, solid_lab
from plinto_core.examination.tones import InkTones, ink_tones
from plinto_core.gamut.views import GamutFigures
from plinto_core.icc.check import Problem, check_profile
from plinto_core.icc.describe import describe_profile
from plinto_core.icc.parts import why_not_examined
from plinto_core.icc.profile import Profile
from plinto_core.words import Said

ROUND_TRIP_95 = 2.0
"""dE00 at 95 % above which printable colours visibly do not come back."""


class FindingSaid(BaseModel):
    """A finding with its sentence."""

    model_config = ConfigDict(frozen=True)

    code: str
    severity: Literal["note", "warning", "error"]
    sentence: Said
    intent: str | None = None


class Examination(BaseModel):
    """What it prints, how it makes greys, what it gives back, what is wrong with it, what it holds.

    Parts that need a way the profile does not have are None or empty.
    """

    model_config = ConfigDict(frozen=True)

    version: Literal[1] = 1
    holds: dict[str, Any]
    reach: list[IntentReach]
    solids: dict[str, tuple[float, float, float]]
    tones: list[InkTones]
    greys: dict[str, NeutralFigures]
    round_trip: RoundTrip | None
    smoothness: Smoothness | None
    gamut: GamutFigures | None = None
    findings: list[FindingSaid]
    aim: AimDifference | None


def examine(
    profile: Profile, *, tac: float | None = None, aim: Profile | Aim | None = None
) -> Examination:
    """Examine a profile.

    tac : the total in percent that was asked for; aim : numbers, or a profile, that paper, solids and TVI
    are compared with. A profile of a class or space without a print (links, abstract, named, input without a way
    back) is only described and checked; any number of inks is examined.
    """
    structure = [_structural(p) for p in check_profile(profile.data)]
    holds = describe_profile(profile)
    if why_not_examined(profile):
        return Examination(
            holds=holds, reach=[], solids={}, tones=[], greys={}, round_trip=None, smoothness=None,
            findings=structure, aim=None,
        )  # fmt: skip
    try:
        reach = reaches(profile)
        paths = {r.intent: neutrals(profile, r.intent) for r in reach}
        trip, smooth = round_trip(profile), smoothness(profile)
        findings = [
            *judge_totals(reach, tac), *judge_white(profile), *_greys(paths), *_trip(trip),
        ]  # fmt: skip
        return Examination(
            holds=holds,
            reach=reach,
            solids=solid_lab(profile),
            tones=ink_tones(profile),
            greys={intent: path.figures() for intent, path in paths.items()},
            round_trip=trip,
            smoothness=smooth,
            gamut=gamut_of_profile(profile),
            findings=[*(_said(f) for f in findings), *structure],
            aim=_against(profile, aim) if aim is not None else None,
        )
    except BadProfile as error:
        broken = FindingSaid(code="structure", severity="error", sentence=error.said)
        return Examination(
            holds=holds, reach=[], solids={}, tones=[], greys={}, round_trip=None, smoothness=None,
            findings=[broken, *structure], aim=None,
        )  # fmt: skip


def colour_findings(profile: Profile, tac: float | None = None) -> list[FindingSaid]:
    """What is wrong with the colours alone, without the round trip; [] where nothing is printed."""
    if why_not_examined(profile):
        return []
    reach = reaches(profile)
    paths = {r.intent: neutrals(profile, r.intent) for r in reach}
    found = [*judge_totals(reach, tac), *judge_white(profile), *_greys(paths)]
    return [_said(f) for f in found]


def _greys(paths: dict[str, Neutrals]) -> list[Finding]:
    return [f for intent, path in paths.items() for f in judge_neutrals(path, intent)]


def _trip(trip: RoundTrip) -> list[Finding]:
    if trip.p95 <= ROUND_TRIP_95:
        return []
    return [Finding(code="round-trip", severity="warning", values={"p95": trip.p95})]


def _said(finding: Finding) -> FindingSaid:
    return FindingSaid(
        code=finding.code,
        severity=finding.severity,
        sentence=finding.sentence,
        intent=finding.intent,
    )


def _structural(problem: Problem) -> FindingSaid:
    severity: Literal["warning", "error"] = "error" if problem.severity == "error" else "warning"
    return FindingSaid(code="structure", severity=severity, sentence=problem.message)


def _against(profile: Profile, aim: Profile | Aim) -> AimDifference:
    return against(profile, aim if isinstance(aim, Aim) else aim_of_profile(aim))
