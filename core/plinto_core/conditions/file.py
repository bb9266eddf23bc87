"""A printing condition as one file, its profile in it: JSON with the profile in base64."""

from __future__ import annotations

import base64
import binascii
import json
from typing import Any

from plinto_core.conditions.model import PrintingCondition, parse_condition
from plinto_core.errors import BadInput
from plinto_core.icc.profile import MAX_SIZE
from plinto_core.words import say

KIND, VERSION = "plinto printing condition", 1
LARGEST = 64 << 20
"""Bytes of a file: the largest profile that the application takes, with its base64 and room for text."""
_AGAIN = "Export the condition again."


def pack_condition(condition: PrintingCondition, profile: bytes) -> bytes:
    """The file's bytes; `profile` are those of its output profile."""
    data = {
        "kind": KIND,
        "version": VERSION,
        "condition": condition.model_dump(mode="json"),
        "profile": base64.b64encode(profile).decode(),
    }
    return (json.dumps(data, indent=1, ensure_ascii=False) + "\n").encode()


def looks_like_condition(data: bytes) -> bool:
    """Whether bytes begin as a condition file does, without reading them whole."""
    return data[:1] == b"{" and KIND.encode() in data[:200]


def unpack_condition(data: bytes) -> tuple[PrintingCondition, bytes]:
    """The condition of a file and its profile's bytes; raises BadInput."""
    if len(data) > LARGEST:
        raise BadInput(say("conditions.file-large"))
    try:
        found: Any = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise BadInput(say("conditions.file-other")) from error
    if not isinstance(found, dict) or found.get("kind") != KIND:
        raise BadInput(say("conditions.file-other"))
    if found.get("version") != VERSION:
        raise BadInput(say("conditions.file-version", version=found.get("version"), known=VERSION))
    unknown = sorted(set(found) - {"kind", "version", "condition", "profile"})
    if unknown:
        raise BadInput(say("conditions.file-part", part=unknown[0]))
    text = found.get("profile")
    try:
        profile = base64.b64decode(text, validate=True) if isinstance(text, str) else b""
    except (binascii.Error, ValueError) as error:
        raise BadInput(say("conditions.file-profile-damaged")) from error
    if not 0 < len(profile) <= MAX_SIZE:
        raise BadInput(say("conditions.file-no-profile"))
    return parse_condition(found.get("condition")), profile
