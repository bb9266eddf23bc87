"""A printing condition as one file, its profile in it: JSON with the profile in base64."""

from __future__ import annotations

import base64
import binascii
import json
from typing import Any

from plinto_core.conditions.model import PrintingCondition, parse_condition
from plinto_core.errors import BadInput
from plinto_core.icc.profile import MAX_SIZE

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
        raise BadInput("The condition file is larger than 64 MB.")
    try:
        found: Any = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise BadInput("This is not a file of a printing condition.", remedy=_AGAIN) from error
    if not isinstance(found, dict) or found.get("kind") != KIND:
        raise BadInput("This is not a file of a printing condition.", remedy=_AGAIN)
    if found.get("version") != VERSION:
        raise BadInput(
            f"The condition file has the version {found.get('version')!r}, known is {VERSION}.",
            remedy="Use the Plinto that wrote it, or a newer one.",
        )
    unknown = sorted(set(found) - {"kind", "version", "condition", "profile"})
    if unknown:
        raise BadInput(f"The condition file has an unknown part {unknown[0]!r}.", remedy=_AGAIN)
    text = found.get("profile")
    try:
        profile = base64.b64decode(text, validate=True) if isinstance(text, str) else b""
    except (binascii.Error, ValueError) as error:
        raise BadInput("The profile in the condition file is damaged.", remedy=_AGAIN) from error
    if not 0 < len(profile) <= MAX_SIZE:
        raise BadInput("The condition file holds no profile.", remedy=_AGAIN)
    return parse_condition(found.get("condition")), profile
