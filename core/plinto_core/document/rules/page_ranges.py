"""Pages as people write them for a rule: "1-4, 7, 10-", "odd", "even"."""

from __future__ import annotations

import re
from functools import lru_cache

from plinto_core.words import say

_PART = re.compile(r"(\d{1,6})(?:\s*-\s*(\d{1,6})?)?|odd|even")
_LAST = 1_000_000


@lru_cache(maxsize=256)
def parts_of(text: str) -> tuple[range, ...]:
    """The ranges that a text names, () for all pages; raises ValueError where it is none.

    Numbers count from 1; "10-" leads to the last page.
    """
    found = []
    for part in filter(str.strip, text.split(",")):
        match = _PART.fullmatch(part.strip().lower())
        if match is None:
            raise ValueError(say("document.pages-unread", part=part.strip()[:20]))
        if match[1] is None:
            found.append(range(1 if match[0] == "odd" else 2, _LAST, 2))
            continue
        first = int(match[1])
        open_end = "-" in match[0] and match[2] is None
        last = _LAST if open_end else int(match[2] or first)
        if first < 1 or last < first:
            raise ValueError(say("document.pages-order", part=part.strip()[:20]))
        found.append(range(first, last + 1))
    return tuple(found)


def names_page(text: str, page: int) -> bool:
    """Whether a page, from 1, is among those a text names."""
    parts = parts_of(text)
    return not parts or any(page in part for part in parts)


def tidy(text: str) -> str:
    """The same pages, written one way; raises ValueError where they are none."""
    parts_of(text)
    parts = [" ".join(p.lower().split()) for p in text.split(",") if p.strip()]
    return ", ".join(p.replace(" -", "-").replace("- ", "-") for p in parts)
