"""An image that was met on pages, until its turn to be converted comes."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import Any

from plinto_core.document.pdf.images import ImageFacts
from plinto_core.document.pdf.items import Item
from plinto_core.document.pdf.transfer import Transfer
from plinto_core.document.rules.policy import Rule


@dataclass
class SeenPicture:
    """An image object as it is printed in one way, wherever it stands."""

    image: Any
    resources: Any
    facts: ImageFacts
    rule: Rule
    intent: str
    page: int = 0
    layers: tuple[str, ...] = ()
    transfer: Transfer | None = None
    items: list[Item] = field(default_factory=list)
    over: bool | None = None
    """Whether a pixel is over the TAC, None where it was not looked at."""

    @property
    def least_ppi(self) -> float:
        return min((i.ppi for i in self.items if i.ppi), default=math.inf)


def is_line_art(facts: ImageFacts) -> bool:
    return facts.bits == 1 and facts.space is not None and facts.space.channels == 1


def kind_of(facts: ImageFacts) -> str:
    """What rules know an image as: line art is of one bit a pixel."""
    return "line art" if facts.bits == 1 else "images"
