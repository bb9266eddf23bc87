"""Names of delivered files by a pattern, safe on every file system."""

from __future__ import annotations

import re
from collections.abc import Mapping

from plinto_core.errors import BadRecipe
from plinto_core.words import say

FIELDS = {
    "artwork": "the artwork's file name without its ending",
    "job": "the job's name",
    "condition": "the condition's short name",
    "intent": "the rendering intent",
    "tac": "the TAC in force, percent",
    "bits": "bits per channel",
    "ppi": "pixels per inch of the result",
    "date": "day of the delivery, year first",
    "number": "counts the deliveries of this destination",
}
_FIELD = re.compile(r"\{([^{}]*)\}")
_UNSAFE = re.compile(r'[\x00-\x1f<>:"/\\|?*\x7f]+')
LONGEST = 120


def file_name(pattern: str, values: Mapping[str, str], suffix: str) -> str:
    """The pattern with its fields filled in; raises BadRecipe for a field that is none."""
    unknown = [f for f in _FIELD.findall(pattern) if f not in FIELDS]
    if unknown or pattern.count("{") != len(_FIELD.findall(pattern)):
        fields = ["{" + f + "}" for f in FIELDS]
        raise BadRecipe(
            say("recipes.file-name-field", field=unknown[0], fields=fields)
            if unknown
            else say("recipes.file-name-brace", fields=fields)
        )
    filled = _FIELD.sub(lambda m: str(values.get(m[1], "")), pattern)
    safe = _UNSAFE.sub("-", filled).strip(" .-") or "delivery"
    return f"{safe[:LONGEST]}.{suffix}"
