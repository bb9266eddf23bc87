"""What is said about a picture's colours when it comes in."""

from __future__ import annotations

from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names
from plinto_core.imaging.arrival import Arrival
from plinto_core.imaging.facts import PictureFacts
from plinto_core.recipes.checks import LOW_PPI, Finding
from plinto_core.recipes.sources import extra_channels_sentence
from plinto_core.transform.standard_spaces import SPACES, standard_profile
from plinto_core.words import say

WIDE = ("romm",)


def arrival_findings(
    facts: PictureFacts, arrival: Arrival, profile: Profile | None
) -> list[Finding]:
    """Resolution for the stated size, clipped channels, depth, transparency, unusual profile."""
    found = []
    if facts.extra_channels:
        found.append(
            Finding("stop", "extra-channels", extra_channels_sentence(facts.extra_channels))
        )
    if len(facts.layers) > 1 or any(layer.hidden for layer in facts.layers):
        hidden = [layer.name for layer in facts.layers if layer.hidden]
        said = {"count": len(facts.layers), "names": [layer.name for layer in facts.layers]}
        wording = "recipes.layers-hidden" if hidden else "recipes.layers"
        found.append(Finding("note", "layers", say(wording, **said, hidden=hidden)))
    size = facts.print_size_mm
    if size is None:
        found.append(Finding("note", "no-size", say("recipes.arrival-no-size")))
    elif facts.resolution is not None and min(facts.resolution) < LOW_PPI:
        found.append(
            Finding(
                "attention",
                "low-resolution",
                say(
                    "recipes.arrival-low-resolution",
                    ppi=min(facts.resolution),
                    width=size[0],
                    height=size[1],
                    least=LOW_PPI,
                ),
            )
        )
    names = facts.inks or channel_names(facts.space)
    clipped = arrival.clipped(names)
    if clipped:
        worst = max(max(arrival.at_top), max(arrival.at_bottom))
        found.append(
            Finding(
                "attention",
                "clipped",
                say("recipes.clipped", channels=list(clipped), share=worst * 100),
            )
        )
    if arrival.eight_bit:
        found.append(
            Finding(
                "note",
                "eight-bit",
                say("recipes.eight-bit"),
            )
        )
    if arrival.transparent > 0:
        found.append(
            Finding(
                "note",
                "transparent",
                say("recipes.transparent", share=arrival.transparent * 100),
            )
        )
    return [*found, *_other_order(facts, profile), *_profile(facts, profile)]


def _other_order(facts: PictureFacts, profile: Profile | None) -> list[Finding]:
    """Where a picture calls its inks otherwise than its profile does, one of them may mean another."""
    if profile is None or not facts.inks:
        return []
    theirs = ink_names(profile)
    unnamed = [str(i + 1) for i in range(len(theirs))]
    if facts.inks == theirs or unnamed in (list(theirs), list(facts.inks)):
        return []
    return [
        Finding(
            "attention",
            "ink-names",
            say("recipes.ink-names", inks=list(facts.inks), theirs=list(theirs)),
        )
    ]


def _profile(facts: PictureFacts, profile: Profile | None) -> list[Finding]:
    if profile is None or facts.space != "RGB ":
        return []
    known = {standard_profile(key).description: key for key in SPACES}
    if profile.header.device_class == "prtr":
        return [
            Finding(
                "attention",
                "output-profile",
                say("recipes.output-profile", profile=profile.description),
            )
        ]
    if known.get(profile.description) in WIDE and facts.bits == 8:
        return [
            Finding(
                "attention",
                "wide-8-bit",
                say("recipes.wide-8-bit", profile=profile.description),
            )
        ]
    if not profile.is_matrix_shaper:
        return [
            Finding(
                "note",
                "table-profile",
                say("recipes.table-profile", profile=profile.description),
            )
        ]
    return []
