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
    size = facts.print_size_mm
    if size is None:
        found.append(
            Finding(
                "note", "no-size", "The file states no print size; set it in the stage Deliver."
            )
        )
    elif facts.resolution is not None and min(facts.resolution) < LOW_PPI:
        found.append(
            Finding(
                "attention",
                "low-resolution",
                f"{min(facts.resolution):.0f} ppi at the stated size of {size[0]:.0f} × {size[1]:.0f} mm; single pixels may show below {LOW_PPI:.0f}.",
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
                f"Channel {', '.join(clipped)} is at the end of its scale on up to {worst * 100:.0f} % of the pixels where the colour is not plain black or white; steps are lost there already.",
            )
        )
    if arrival.eight_bit:
        found.append(
            Finding(
                "note",
                "eight-bit",
                "The file has 16 bits, but its values come from 8; gradients may band.",
            )
        )
    if arrival.transparent > 0:
        found.append(
            Finding(
                "note",
                "transparent",
                f"{arrival.transparent * 100:.1f} % of the picture is transparent to some degree and is laid on the medium's white.",
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
            f"The file calls its inks {', '.join(facts.inks)}, and its profile {', '.join(theirs)}; the profile is followed, channel by channel.",
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
                f"The embedded profile {profile.description!r} is of a printer; the picture was converted for a print already.",
            )
        ]
    if known.get(profile.description) in WIDE and facts.bits == 8:
        return [
            Finding(
                "attention",
                "wide-8-bit",
                f"{profile.description} in 8 bits has coarse steps; gradients may band.",
            )
        ]
    if not profile.is_matrix_shaper:
        return [
            Finding(
                "note",
                "table-profile",
                f"The embedded profile {profile.description!r} works by tables, as cameras and scanners have; it is used as it is.",
            )
        ]
    return []
