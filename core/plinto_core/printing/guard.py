"""Who manages colour on the way to a printer, and who mirrors: exactly one, and the one said to.

A file passes Plinto, the printer's driver and its RIP; each of them can convert colours. Two of them
converting spoil the print, none of them leaves it to chance.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import BaseModel, ConfigDict

from plinto_core.printing.medium import MediumSettings

Manager = Literal["plinto", "driver", "rip", "none"]
Station = Literal["absent", "off", "on"]
Level = Literal["fine", "warn", "refuse"]

_NAMES: dict[str, str] = {
    "plinto": "Plinto",
    "driver": "the driver",
    "rip": "the RIP",
    "none": "nobody",
}


_TIMES = {2: "twice", 3: "three times"}


class ColourDuty(BaseModel):
    """What is declared for a route: who manages colour, and how driver and RIP are set."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    manager: Manager = "plinto"
    driver: Station = "off"
    rip: Station = "off"


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
    reason: str
    remedy: str = ""


def judge(duty: ColourDuty, sent: SentColours) -> list[Judgement]:
    """Everything that is wrong with a route, the worst first; one `fine` where nothing is."""
    managers = [
        name
        for name, works in (
            ("plinto", sent.converts),
            ("driver", duty.driver == "on"),
            ("rip", duty.rip == "on"),
        )
        if works
    ]
    found = _count(duty, sent, managers)
    if not found and duty.manager != "none" and duty.manager not in managers:
        actual = _NAMES[managers[0]] if managers else "nobody"
        found.append(
            Judgement(
                "refuse",
                f"The route says that {_NAMES[duty.manager]} manages colour, but {actual} does.",
                "Correct the declaration, or the settings it declares.",
            )
        )
    if not found and duty.manager == "none" and managers:
        found.append(
            Judgement(
                "refuse",
                f"The route says that nobody manages colour, but {_NAMES[managers[0]]} does.",
                f"Declare that {_NAMES[managers[0]]} does, or switch it off there.",
            )
        )
    if sent.converts and sent.made_for != sent.prints:
        found.append(
            Judgement(
                "refuse",
                "The colours are made for another printing condition than this medium prints.",
                "Choose a policy for this medium's condition, or the medium of that condition.",
            )
        )
    found += _warnings(duty, sent, managers)
    order = {"refuse": 0, "warn": 1, "fine": 2}
    return sorted(found, key=lambda j: order[j.level]) or [
        Judgement("fine", f"Colour is managed once, by {_NAMES[duty.manager]}.")
    ]


def _count(duty: ColourDuty, sent: SentColours, managers: list[str]) -> list[Judgement]:
    if len(managers) > 1:
        names = " and by ".join(_NAMES[m] for m in managers)
        keep = duty.manager if duty.manager in managers else managers[0]
        others = " and in ".join(_NAMES[m] for m in managers if m != keep)
        where = (
            f"Switch colour management off in {others}."
            if keep == "plinto"
            else f"Choose a policy that leaves colours alone, or let only {_NAMES[keep]} convert."
        )
        return [Judgement("refuse", f"Colour would be managed twice: by {names}.", where)]
    if not managers and sent.foreign:
        spaces = " and ".join(sent.foreign)
        return [
            Judgement(
                "refuse",
                f"Colour would never be managed: {spaces} goes out as it came, and neither driver "
                "nor RIP converts it.",
                "Choose a policy that converts, or switch colour management on in one place.",
            )
        ]
    return []


def _warnings(duty: ColourDuty, sent: SentColours, managers: list[str]) -> list[Judgement]:
    found = []
    if managers == ["plinto"] and sent.profile_in and duty.rip == "off":
        found.append(
            Judgement(
                "warn",
                "The file carries a profile, and a RIP that honours profiles would convert again.",
                "Set the RIP to ignore embedded profiles, or keep the profile out.",
            )
        )
    if managers in (["driver"], ["rip"]) and not sent.profile_in:
        found.append(
            Judgement(
                "warn",
                f"The file carries no profile, so {_NAMES[managers[0]]} guesses what its colours mean.",
                "Keep the profile in.",
            )
        )
    if sent.converts and sent.foreign:
        spaces = " and ".join(sent.foreign)
        found.append(
            Judgement(
                "warn",
                f"The policy leaves {spaces}, which nobody converts.",
                "Add a rule that converts it.",
            )
        )
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
        found.append(
            Judgement(
                "refuse",
                "The ticket wants the print mirrored, but neither file, driver nor machine does it.",
                "Let the policy mirror the file, or switch it on in one place.",
            )
        )
    if settings.mirror and len(mirrors) > 1:
        found.append(
            Judgement(
                "refuse",
                f"The print would be mirrored {_TIMES[len(mirrors)]}: by {' and by '.join(mirrors)}.",
                f"Leave it to {mirrors[0]} alone.",
            )
        )
    if not settings.mirror and mirrors:
        found.append(
            Judgement(
                "refuse",
                f"The ticket wants the print right-reading, but {' and '.join(mirrors)} "
                f"{'mirror' if len(mirrors) > 1 else 'mirrors'} it.",
                "Switch it off there, or set the ticket to mirrored.",
            )
        )
    if settings.mirror != transfer:
        printed = "a transfer print" if transfer else "printed right-reading"
        wanted = "mirrored" if settings.mirror else "not mirrored"
        found.append(
            Judgement(
                "warn",
                f"The condition is {printed}, but the ticket wants the print {wanted}.",
                "Correct the ticket, unless the medium is printed from its back.",
            )
        )
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
