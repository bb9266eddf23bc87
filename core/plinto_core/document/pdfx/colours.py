"""What ISO 15930 says of colour: output intent, spaces, spot colours, groups, transparency."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import pikepdf

from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.spaces import ColourSpace, is_process, read_space
from plinto_core.document.pdfx.breach import Breach
from plinto_core.document.pdfx.output_intent import read_output_intent
from plinto_core.document.pdfx.uses import Uses
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.document.rules.standards import Edition
from plinto_core.document.walking.walk import DocumentWalk
from plinto_core.errors import CoreError
from plinto_core.icc.profile import Profile
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import Said, say

_CLASSES = {"CMYK": "CMYK", "GRAY": "grey", "RGB ": "RGB"}


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


def colour_breaches(pdf: pikepdf.Pdf, uses: Uses, edition: Edition) -> Iterator[Breach]:
    """Every breach of a standard's colour rules."""
    policy = OutputPolicy(name="Check", destination="srgb")
    painter = _Recorder(policy, ColourMapper(policy, standard_profile("srgb"), standard_profile))
    walk = DocumentWalk(pdf, painter, apply=False)
    for number in walk.pages():
        painter.lay_down(number)
    painter.lay_down(len(pdf.pages))
    yield from _output_intent(pdf, edition)
    intent = read_output_intent(pdf, printing=False)
    for seen in painter.seen.values():
        yield from _space(seen, edition, intent)
    if not edition.modern:
        for page, what in walk.transparent.items():
            yield Breach(say("pdfx.rule-no-transparency"), say("pdfx.there-is", what=what), (page,))
    else:
        yield from _groups(uses, edition, intent)
        yield from _one_tint_a_spot(list(painter.seen.values()))
        yield from _overprints(uses)
    for left in walk.found.unhandled:
        # JBIG2 and JPEG 2000 are judged as compression; what cannot be read is a breach of its own.
        if left.kind != "transfer function" and not _is_compression(left.reason):
            yield Breach(
                say("pdfx.rule-readable"),
                say("pdfx.object-unreadable", kind=left.kind, why=left.reason),
                (left.page,),
            )


def _is_compression(reason: str) -> bool:
    return "JBIG2" in reason


def _output_intent(pdf: pikepdf.Pdf, edition: Edition) -> Iterator[Breach]:
    rule = say("pdfx.rule-intent")
    intents: Any = pdf.Root.get("/OutputIntents")
    entries = list(intents) if isinstance(intents, pikepdf.Array) else []
    mine = [
        e for e in entries
        if isinstance(e, pikepdf.Dictionary) and str(e.get("/S", "")) == "/GTS_PDFX"
    ]  # fmt: skip
    if len(mine) != 1:
        wording = "pdfx.intent-many" if mine else "pdfx.intent-none"
        yield Breach(rule, say(wording, count=len(mine)))
        return
    intent = mine[0]
    if not str(intent.get("/OutputConditionIdentifier", "")):
        yield Breach(rule, say("pdfx.intent-unnamed"))
    if "/DestOutputProfile" not in intent:
        if edition.modern or not str(intent.get("/RegistryName", "")):
            yield Breach(rule, say("pdfx.intent-no-profile"))
        return
    if not str(intent.get("/RegistryName", "")) and not str(intent.get("/Info", "")):
        yield Breach(rule, say("pdfx.intent-unregistered"))
    profile = read_output_intent(pdf, printing=False)
    if profile is None:
        yield Breach(rule, say("pdfx.intent-unreadable"))
        return
    if profile.header.device_class != "prtr":
        yield Breach(rule, say("pdfx.intent-no-output"))
    allowed = ("CMYK", "GRAY", "RGB ") if edition.measured else ("CMYK", "GRAY")
    if profile.colour_space not in allowed:
        yield Breach(rule, say("pdfx.intent-space", space=profile.colour_space.strip()))
    yield from _version(profile, edition, (), "the output intent")


def _version(
    profile: Profile, edition: Edition, pages: tuple[int, ...], whose: str
) -> Iterator[Breach]:
    major = profile.header.version[0]
    if major > edition.icc:
        yield Breach(say("pdfx.rule-profile-version"), say("pdfx.profile-version", whose=whose, version=major, standard=edition.name, known=edition.icc), pages)  # fmt: skip


def _space(seen: _Seen, edition: Edition, intent: Profile | None) -> Iterator[Breach]:
    colour = seen.space.colour
    pages = tuple(seen.pages)
    if colour.family == "spot" and colour.alternate is not None:
        names = ", ".join(colour.names)
        for b in _space(_Seen(colour.alternate, seen.pages), edition, intent):
            yield Breach(b.rule, say("pdfx.of-spot", names=names, why=b.text), pages)
        return
    if not edition.measured and colour.label not in ("DeviceCMYK", "DeviceGray", "DeviceRGB"):
        yield Breach(say("pdfx.rule-inks-only"), _used(colour), pages)  # fmt: skip
        return
    if not edition.measured and colour.label == "DeviceRGB":
        yield Breach(say("pdfx.rule-inks-only"), say("pdfx.rgb-used"), pages)
        return
    if colour.label in ("DeviceRGB", "DeviceCMYK"):
        family = _CLASSES.get(intent.colour_space) if intent else None
        if colour.family != family and not (family is None and not edition.measured):
            wording = "pdfx.bare-colours-other" if family else "pdfx.bare-colours-missing"
            yield Breach(
                say("pdfx.rule-bare-colours"),
                say(wording, space=colour.label, intent=family), pages,
            )  # fmt: skip
        return
    if colour.profile is None:
        return
    if edition.modern and colour.family == "CMYK" and intent is not None and colour.profile.digest == intent.digest:  # fmt: skip
        yield Breach(say("pdfx.rule-no-intent-profile"), say("pdfx.intent-profile-on-objects"), pages)  # fmt: skip
    yield from _version(colour.profile, edition, pages, "objects")


def _groups(uses: Uses, edition: Edition, intent: Profile | None) -> Iterator[Breach]:
    """The spaces that transparency groups and soft masks blend in follow the rules of colours."""
    for used in uses.groups:
        group = used.thing
        if not isinstance(group, pikepdf.Dictionary) or "/CS" not in group:
            continue
        try:
            space = read_space(group["/CS"], used.resources)
        except (CoreError, *UNREADABLE):
            yield Breach(say("pdfx.rule-readable"), say("pdfx.group-unreadable"), tuple(used.pages))  # fmt: skip
            continue
        for b in _space(_Seen(space, used.pages), edition, intent):
            yield Breach(b.rule, say("pdfx.of-group", why=b.text), b.pages)


def _one_tint_a_spot(seen: list[_Seen]) -> Iterator[Breach]:
    """A spot colour looks the same wherever it is used."""
    looks: dict[str, dict[str, dict[int, None]]] = {}
    for one in seen:
        colour = one.space.colour
        if colour.label != "Separation" or colour.alternate is None or is_process(colour.names[0]):
            continue
        look = f"{colour.alternate.key}:{_tint(colour)}"
        looks.setdefault(colour.names[0], {}).setdefault(look, {}).update(one.pages)
    for name, different in looks.items():
        if len(different) > 1:
            pages = tuple(sorted({p for where in different.values() for p in where}))
            yield Breach(say("pdfx.rule-one-look"), say("pdfx.looks", colour=name, count=len(different)), pages)  # fmt: skip


def _tint(colour: ColourSpace) -> str:
    """A spot colour's solid, half and quarter tones in its alternate space, as one key."""
    if colour.tint is None:
        return ""
    values = colour.tint(np.array([[0.0], [0.25], [0.5], [1.0]]))
    return str(np.round(values, 3).tolist())


def _overprints(uses: Uses) -> Iterator[Breach]:
    """Inks of zero cannot be told from inks not meant once a profile gives other numbers."""
    for used in uses.overprinting:
        try:
            space = read_space(used.thing, used.resources).colour
        except (CoreError, *UNREADABLE):
            continue
        if space.label == "ICCBased" and space.family == "CMYK":
            yield Breach(say("pdfx.rule-overprint-icc"), say("pdfx.overprint-mode"), tuple(used.pages))  # fmt: skip


def _used(space: ColourSpace) -> Said:
    if space.profile is None:
        return say("pdfx.space-used", space=space.label)
    return say("pdfx.space-of", space=space.label, profile=space.profile.description)
