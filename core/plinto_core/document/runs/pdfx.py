"""The colour rules of PDF/X-1a:2003 (ISO 15930-4) and PDF/X-4 (ISO 15930-7), checked.

Only what concerns colour: spaces, output intent, transparency, transfer functions. Fonts, boxes,
metadata and the rest of the standards are not looked at, so a document without findings here is not
therefore a PDF/X file. Nothing in a document is marked as conforming.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, Literal

import pikepdf

from plinto_core.document.pdf.opening import open_document
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.reports.report import BrokenRule
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.document.runs.output_intent import read_output_intent
from plinto_core.document.walking.walk import DocumentWalk
from plinto_core.icc.profile import Profile
from plinto_core.transform.standard_spaces import standard_profile

Standard = Literal["PDF/X-1a", "PDF/X-4"]
STANDARDS: tuple[Standard, ...] = ("PDF/X-1a", "PDF/X-4")
_MOST_PAGES_NAMED = 8
_CLASSES = {"CMYK": "CMYK", "GRAY": "grey", "RGB ": "RGB"}


@dataclass(frozen=True)
class Breach:
    """A colour rule that is not kept. rule : in a few words; pages : empty for the whole document."""

    rule: str
    text: str
    pages: tuple[int, ...] = ()


@dataclass
class _Seen:
    space: ColourSpace
    pages: dict[int, None] = field(default_factory=dict)


class _Recorder(Painter):
    """Remembers every space something is painted in, until they are laid down for a page."""

    def __init__(self, policy: OutputPolicy, mapper: ColourMapper) -> None:
        super().__init__(policy, mapper)
        self.seen: dict[str, _Seen] = {}
        self._met: dict[str, ColourSpace] = {}

    def origin(self, space: ColourSpace) -> str:
        self._met[space.key] = space
        return super().origin(space)

    def lay_down(self, page: int) -> None:
        """What was met since the last time stood on this page."""
        for key, space in self._met.items():
            self.seen.setdefault(key, _Seen(space)).pages.setdefault(page)
        self._met.clear()


def check_colours(path: Path, standard: Standard) -> list[Breach]:
    """Every breach of a standard's colour rules in a PDF; raises BadDocument where it is unreadable."""
    policy = OutputPolicy(name="Check", destination="srgb")
    with open_document(path) as pdf:
        painter = _Recorder(
            policy, ColourMapper(policy, standard_profile("srgb"), standard_profile)
        )
        walk = DocumentWalk(pdf, painter, apply=False)
        for number in walk.pages():
            painter.lay_down(number)
        painter.lay_down(len(pdf.pages))
        found = _output_intent(pdf, standard)
        intent = read_output_intent(pdf, printing=False)
        for seen in painter.seen.values():
            found += _space(seen, standard, intent)
        if standard == "PDF/X-1a":
            found += [
                Breach("no transparency", f"There is {what}.", (page,))
                for page, what in walk.transparent.items()
            ]
        found += [
            Breach("no transfer functions", "A transfer function changes tones after all colours.", (u.page,))
            for u in walk.found.unhandled
            if u.kind == "transfer function"
        ]  # fmt: skip
        found += [
            Breach("everything can be read", f"{u.kind}: {u.reason}", (u.page,))
            for u in walk.found.unhandled
            if u.kind != "transfer function"
        ]
    return _together(found)


def _output_intent(pdf: pikepdf.Pdf, standard: Standard) -> list[Breach]:
    rule = "an output intent of PDF/X"
    intents: Any = pdf.Root.get("/OutputIntents")
    entries = list(intents) if isinstance(intents, pikepdf.Array) else []
    mine = [
        e for e in entries
        if isinstance(e, pikepdf.Dictionary) and str(e.get("/S", "")) == "/GTS_PDFX"
    ]  # fmt: skip
    if len(mine) != 1:
        count = "none" if not mine else f"{len(mine)} of them"
        return [Breach(rule, f"Exactly one must name the printing condition; there is {count}.")]
    intent = mine[0]
    found = []
    if not str(intent.get("/OutputConditionIdentifier", "")):
        found.append(Breach(rule, "It does not identify the printing condition."))
    if "/DestOutputProfile" not in intent:
        if standard == "PDF/X-4" or not str(intent.get("/RegistryName", "")):
            found.append(Breach(rule, "It holds no profile of the printing condition."))
        return found
    profile = read_output_intent(pdf, printing=False)
    if profile is None:
        return [*found, Breach(rule, "Its profile cannot be read.")]
    if profile.header.device_class != "prtr":
        found.append(Breach(rule, "Its profile is not that of an output device."))
    allowed = ("CMYK", "GRAY") if standard == "PDF/X-1a" else ("CMYK", "GRAY", "RGB ")
    if profile.colour_space not in allowed:
        found.append(Breach(rule, f"Its profile is for {profile.colour_space.strip()}."))
    return found


def _space(seen: _Seen, standard: Standard, intent: Profile | None) -> list[Breach]:
    colour = seen.space.colour
    pages = tuple(seen.pages)
    if colour.family == "spot" and colour.alternate is not None:
        inner = _space(_Seen(colour.alternate, seen.pages), standard, intent)
        names = ", ".join(colour.names)
        return [
            Breach(b.rule, f"Spot colour {names}: {b.text[0].lower()}{b.text[1:]}", pages)
            for b in inner
        ]
    if standard == "PDF/X-1a":
        if colour.label in ("DeviceCMYK", "DeviceGray"):
            return []
        return [
            Breach(
                "only CMYK, grey and spot colours", f"{colour.label} is used{_of(colour)}.", pages
            )
        ]
    if colour.label in ("DeviceRGB", "DeviceCMYK"):
        family = _CLASSES.get(intent.colour_space) if intent else None
        if colour.family != family:
            return [
                Breach(
                    "bare colours are those of the output intent",
                    f"{colour.label} is used, and the output intent is {'for ' + family if family else 'missing'}.",
                    pages,
                )
            ]
    if (
        colour.family == "CMYK"
        and colour.profile is not None
        and intent is not None
        and colour.profile.digest == intent.digest
    ):
        return [Breach("no profile of the output intent on objects", "CMYK objects carry the output intent's own profile.", pages)]  # fmt: skip
    return []


def _of(space: ColourSpace) -> str:
    return f" ({space.profile.description})" if space.profile is not None else ""


def _together(found: list[Breach]) -> list[Breach]:
    """Equal breaches of several pages as one."""
    pages: dict[tuple[str, str], dict[int, None]] = {}
    for breach in found:
        pages.setdefault((breach.rule, breach.text), {}).update(dict.fromkeys(breach.pages))
    return [Breach(rule, text, tuple(sorted(where))) for (rule, text), where in pages.items()]


def breach_data(breaches: list[Breach]) -> tuple[BrokenRule, ...]:
    """Breaches as a report keeps them, with their pages also in words."""
    return tuple(
        BrokenRule(rule=b.rule, text=b.text, pages=b.pages, where=_where(b)) for b in breaches
    )


def _where(breach: Breach) -> str:
    """The pages of a breach in words."""
    pages = breach.pages
    if not pages:
        return "the document"
    named = ", ".join(str(p) for p in pages[:_MOST_PAGES_NAMED])
    more = f" and {len(pages) - _MOST_PAGES_NAMED} more" if len(pages) > _MOST_PAGES_NAMED else ""
    return f"page{'s' if len(pages) > 1 else ''} {named}{more}"
