"""Copies of streams: of forms and images that are printed in more than one way, of masks that change."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import pikepdf

MOST_VARIANTS = 16
"""Ways in which one object is printed that have copies of their own: each is walked or converted anew."""


@dataclass(frozen=True)
class Original:
    """A stream as it was before it was rewritten: its data as they are packed, and its entries."""

    data: bytes
    entries: dict[str, Any]

    @staticmethod
    def of(stream: Any) -> Original:
        """Raises what pikepdf does for data that are missing."""
        entries = {key: value for key, value in stream.items() if key != "/Length"}
        return Original(stream.read_raw_bytes(), entries)

    def copy(self, pdf: pikepdf.Pdf) -> Any:
        """An object of its own."""
        made = pikepdf.Stream(pdf, self.data)
        for key, value in self.entries.items():
            made[key] = value
        return made


@dataclass
class Variants:
    """A form by the ways that it is printed. original : None where there is but one for all places."""

    original: Original | None
    made: dict[tuple[object, ...], Any] = field(default_factory=dict)
