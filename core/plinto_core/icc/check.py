"""What is wrong with a profile: structure, required tags, ranges (ICC.1:2022, clauses 7 to 9)."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

import numpy as np

from plinto_core.errors import BadProfile, CoreError
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.header import D50
from plinto_core.icc.profile import B2D, D2B, Profile
from plinto_core.icc.spaces import CHANNELS
from plinto_core.icc.tables import Table
from plinto_core.words import Said, say

_REQUIRED = ("desc", "cprt", "wtpt")
_TABLES = ("A2B0", "A2B1", "A2B2", "B2A0", "B2A1", "B2A2", "gamt")


@dataclass(frozen=True)
class Problem:
    """One finding. `severity` is "error" (cannot be trusted) or "warning" (against the standard)."""

    severity: str
    tag: str
    message: Said


def check_profile(data: bytes) -> list[Problem]:
    """Every problem found in the bytes of a profile; an empty list means none."""
    try:
        profile = Profile(data)
    except CoreError as error:
        return [Problem("error", "", error.said)]
    found: list[Problem] = []
    found += _check_header(profile)
    found += _check_presence(profile)
    for tag in profile.directory:
        found += _check_tag(profile, tag)
    return found


def _check_header(profile: Profile) -> list[Problem]:
    found = []
    header = profile.header
    if header.size != len(profile.data):
        severity = "error" if header.size > len(profile.data) else "warning"
        text = say("icc.check-size", stated=header.size, held=len(profile.data))
        found.append(Problem(severity, "", text))
    if header.version[0] not in (2, 4):
        found.append(Problem("error", "", say("icc.check-version", version=header.version[0])))
    if not np.allclose(header.illuminant, D50, atol=0.002):
        found.append(Problem("warning", "", say("icc.check-illuminant")))
    if header.rendering_intent > 3:
        found.append(Problem("warning", "", say("icc.check-intent")))
    if any(header.profile_id):
        blank = bytearray(profile.data)
        for start, end in ((44, 48), (64, 68), (84, 100)):
            blank[start:end] = bytes(end - start)
        if hashlib.md5(bytes(blank), usedforsecurity=False).digest() != header.profile_id:
            found.append(Problem("warning", "", say("icc.check-id")))
    return found


def required_tags(profile: Profile) -> list[str]:
    """Tags that the standard asks of a profile of this class and space."""
    kind = profile.header.device_class
    required = list(_REQUIRED)
    if kind == "prtr" and profile.colour_space != "GRAY":
        required += ["A2B0", "A2B1", "A2B2", "B2A0", "B2A1", "B2A2", "gamt"]
    elif kind in ("link", "abst"):
        required = ["desc", "cprt", "A2B0"] + (["pseq"] if kind == "link" else ["wtpt"])
    elif kind == "nmcl":
        required += ["ncl2"]
    elif kind == "spac":
        required += ["A2B0", "B2A0"]
    elif profile.colour_space == "GRAY":
        required += [] if "A2B0" in profile else ["kTRC"]
    elif "A2B0" not in profile:
        required += ["rXYZ", "gXYZ", "bXYZ", "rTRC", "gTRC", "bTRC"]
    return required


def _check_presence(profile: Profile) -> list[Problem]:
    found = []
    for tag in required_tags(profile):
        if tag not in profile:
            vital = tag in ("A2B0", "A2B1", "B2A0", "B2A1", "ncl2", "kTRC", "rXYZ", "rTRC")
            severity = "error" if vital else "warning"
            found.append(Problem(severity, tag, say("icc.check-missing", tag=tag)))
    return found


def _check_tag(profile: Profile, tag: str) -> list[Problem]:
    offset, size = profile.directory[tag]
    found = []
    if offset % 4:
        found.append(Problem("warning", tag, say("icc.check-tag-place")))
    if offset < 132 + 12 * len(profile.directory) or size < 8:
        return [*found, Problem("error", tag, say("icc.check-tag-short"))]
    try:
        if tag in (*D2B, *B2D):
            return [*found, *_check_elements(profile, tag)]
        if tag in _TABLES:
            found += _check_table(profile, tag, profile.table(tag))
        elif tag.endswith("TRC"):
            found += _check_curve(profile, tag)
        elif tag in ("rXYZ", "gXYZ", "bXYZ", "wtpt", "bkpt"):
            white = profile.xyz(tag)
            if tag == "wtpt" and not 0.0 < white[1] <= 1.2:
                found.append(Problem("error", tag, say("icc.check-white", y=white[1])))
    except CoreError as error:
        found.append(Problem("error", tag, error.said))
    return found


def _check_table(profile: Profile, tag: str, table: Table) -> list[Problem]:
    device = profile.channels
    pcs = CHANNELS[profile.header.pcs]
    wanted = {"A": (device, pcs), "B": (pcs, device), "g": (pcs, 1)}[tag[0]]
    found = []
    if (table.inputs, table.outputs) != wanted:
        text = say(
            "icc.check-table-channels", inputs=table.inputs, outputs=table.outputs,
            wanted_in=wanted[0], wanted_out=wanted[1],
        )  # fmt: skip
        found.append(Problem("error", tag, text))
    kinds = {
        "A": ("mft1", "mft2", "mAB"),
        "B": ("mft1", "mft2", "mBA"),
        "g": ("mft1", "mft2", "mBA"),
    }
    if table.kind not in kinds[tag[0]]:
        found.append(Problem("error", tag, say("icc.check-table-type", type=table.kind)))
    if table.clut is not None and float(np.ptp(table.clut)) == 0.0 and tag != "gamt":
        found.append(Problem("error", tag, say("icc.check-table-flat")))
    for curve in (*table.before, *table.after):
        if isinstance(curve, SampledCurve) and _turns(curve):
            found.append(Problem("warning", tag, say("icc.check-curve-turns")))
            break
    return found


def _check_elements(profile: Profile, tag: str) -> list[Problem]:
    """A float table that cannot be read is passed over for the table beside it."""
    intent = int(tag[3])
    beside = profile.forward_tag(intent) if tag in D2B else profile.backward_tag(intent)
    try:
        elements = profile.elements(tag)
    except BadProfile as error:
        return [
            Problem(
                "warning", tag, say("icc.check-float", why=error.said, used=beside or "another")
            )
        ]
    ends = profile.channels, CHANNELS[profile.header.pcs]
    wanted = ends if tag in D2B else ends[::-1]
    if (elements.inputs, elements.outputs) == wanted:
        return []
    text = say(
        "icc.check-table-channels", inputs=elements.inputs, outputs=elements.outputs,
        wanted_in=wanted[0], wanted_out=wanted[1],
    )  # fmt: skip
    return [Problem("error", tag, text)]


def _check_curve(profile: Profile, tag: str) -> list[Problem]:
    curve = profile.curve(tag)
    x = np.linspace(0.0, 1.0, 257)
    steps = np.diff(curve(x))
    if steps.min() < -1e-4 and steps.max() > 1e-4:
        return [Problem("warning", tag, say("icc.check-tone-turns"))]
    return []


def _turns(curve: SampledCurve) -> bool:
    steps = np.diff(curve.table)
    return bool(steps.size and steps.min() < -2e-3 and steps.max() > 2e-3)
