"""Who manages colour on the way to a printer, and who mirrors: exactly one, and the one said to.

A file passes Plinto, the printer's driver and its RIP; each of them can convert colours. Two of them
converting spoil the print, none of them leaves it to chance.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from plinto_core.printing.medium import MediumSettings
from plinto_core.words import Said, say

Manager = Literal["plinto", "driver", "rip", "none"]
Station = Literal["absent", "off", "on", "always"]
Level = Literal["fine", "warn", "refuse"]

_NAMES: dict[str, str] = {
    "plinto": "Plinto",
    "driver": "the driver",
    "rip": "the RIP",
    "none": "nobody",
}


_WORKING = ("on", "always")
_TIMES = {2: "twice", 3: "three"}


class ColourDuty(BaseModel):
    """What is declared for a route: who manages colour, and how driver and RIP are set.

    driver, rip : "always" for one that converts and cannot be switched off; driver_profile : the digest of
    the profile that the driver takes for this medium by itself, "" where it is not known; measured_through : the
    condition was measured through the driver as it is set, so that its conversion is part of the
    printer and not a second one.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    manager: Manager = "plinto"
    driver: Station = "off"
    rip: Station = "off"
    driver_profile: str = Field("", pattern="^([0-9a-f]{64})?$")
    measured_through: bool = False

    @property
    def driver_converts(self) -> bool:
        return self.driver in _WORKING


@dataclass(frozen=True)
class SentColours:
    """What Plinto does to a file on this route.

    converts : it takes colours to the inks of `made_for` (a profile's digest); profile_in : the file
    carries a profile; foreign : spaces that are left in it though they are not the printer's inks;
    prints : the digest of the profile that the medium needs.
    """

    converts: bool
    made_for: str
    prints: str
    profile_in: bool
    foreign: tuple[str, ...] = ()


@dataclass(frozen=True)
class Judgement:
    """level : fine, warn or refuse; what is wrong, and what to do."""

    level: Level
    reason: Said

    @property
    def remedy(self) -> str:
        return self.reason.remedy


def judge(duty: ColourDuty, sent: SentColours) -> list[Judgement]:
    """Everything that is wrong with a route, the worst first; one `fine` where nothing is."""
    managers = [
        name
        for name, works in (
            ("plinto", sent.converts),
            ("driver", duty.driver_converts and not duty.measured_through),
            ("rip", duty.rip in _WORKING),
        )
        if works
    ]
    found = _count(duty, sent, managers)
    if duty.measured_through and not duty.driver_converts:
        found.append(Judgement("refuse", say("printing.measured-through-nothing")))
    if not found and duty.manager != "none" and duty.manager not in managers:
        actual = _NAMES[managers[0]] if managers else "nobody"
        found.append(
            Judgement(
                "refuse",
                say("printing.declared-other", declared=_NAMES[duty.manager], actual=actual),
            )
        )
    if not found and duty.manager == "none" and managers:
        found.append(
            Judgement(
                "refuse",
                say("printing.declared-nobody", actual=_NAMES[managers[0]]),
            )
        )
    if sent.converts and sent.made_for != sent.prints:
        found.append(Judgement("refuse", say("printing.other-condition")))
    found += _warnings(duty, sent, managers)
    order = {"refuse": 0, "warn": 1, "fine": 2}
    return sorted(found, key=lambda j: order[j.level]) or [
        Judgement("fine", say("printing.managed-once", manager=_NAMES[duty.manager]))
    ]


def _count(duty: ColourDuty, sent: SentColours, managers: list[str]) -> list[Judgement]:
    if len(managers) > 1:
        names = " and by ".join(_NAMES[m] for m in managers)
        keep = duty.manager if duty.manager in managers else managers[0]
        others = " and in ".join(_NAMES[m] for m in managers if m != keep)
        stuck = [m for m in managers if m != "plinto" and getattr(duty, m) == "always"]
        if stuck:
            said = say("printing.managed-twice-stuck", managers=names, stuck=_NAMES[stuck[0]])
            return [Judgement("refuse", said)]
        wording = "managed-twice" if keep == "plinto" else "managed-twice-outside"
        said = say(f"printing.{wording}", managers=names, others=others, keeper=_NAMES[keep])
        return [Judgement("refuse", said)]
    if not managers and sent.foreign:
        spaces = " and ".join(sent.foreign)
        return [Judgement("refuse", say("printing.managed-never", spaces=spaces))]
    return []


def _warnings(duty: ColourDuty, sent: SentColours, managers: list[str]) -> list[Judgement]:
    found = []
    if managers == ["plinto"] and sent.profile_in and duty.rip == "off":
        found.append(Judgement("warn", say("printing.profile-again")))
    if managers in (["driver"], ["rip"]) and not sent.profile_in:
        found.append(Judgement("warn", say("printing.no-profile", manager=_NAMES[managers[0]])))
    if managers == ["driver"] and duty.driver_profile != sent.prints:
        wording = "driver-profile-other" if duty.driver_profile else "driver-profile-unknown"
        found.append(Judgement("warn", say(f"printing.{wording}")))
    if sent.converts and sent.foreign:
        spaces = " and ".join(sent.foreign)
        found.append(Judgement("warn", say("printing.left-over", spaces=spaces)))
    return found


def refusal(found: list[Judgement]) -> Judgement | None:
    """The first thing that forbids a route."""
    return next((j for j in found if j.level == "refuse"), None)


def judge_mirror(settings: MediumSettings, *, in_file: bool, transfer: bool) -> list[Judgement]:
    """Everything that is wrong with the mirroring on a route, the worst first; empty where nothing is.

    in_file : the file leaves Plinto mirrored; transfer : the printing condition is a transfer print.
    Where the medium's ticket wants a mirrored print, exactly one place may mirror; where it does not,
    none may.
    """
    places = (
        ("the file", in_file),
        ("the driver", settings.mirror_driver),
        ("the machine", settings.mirror_machine),
    )
    mirrors = [name for name, works in places if works]
    found = []
    if settings.mirror and not mirrors:
        found.append(Judgement("refuse", say("printing.mirrored-nowhere")))
    if settings.mirror and len(mirrors) > 1:
        found.append(
            Judgement(
                "refuse",
                say(
                    f"printing.mirrored-{_TIMES[len(mirrors)]}",
                    places=" and by ".join(mirrors),
                    first=mirrors[0],
                ),
            )
        )
    if not settings.mirror and mirrors:
        found.append(
            Judgement(
                "refuse", say("printing.mirrors", count=len(mirrors), places=" and ".join(mirrors))
            )
        )
    if settings.mirror != transfer:
        wording = "transfer-unmirrored" if transfer else "right-reading-mirrored"
        found.append(Judgement("warn", say(f"printing.{wording}")))
    return found


def judge_route(
    duty: ColourDuty, sent: SentColours, settings: MediumSettings, *, in_file: bool, transfer: bool
) -> list[Judgement]:
    """Colour and mirroring of a route judged together, the worst first."""
    found = [*judge(duty, sent), *judge_mirror(settings, in_file=in_file, transfer=transfer)]
    if any(j.level != "fine" for j in found):
        found = [j for j in found if j.level != "fine"]
    order = {"refuse": 0, "warn": 1, "fine": 2}
    return sorted(found, key=lambda j: order[j.level])
