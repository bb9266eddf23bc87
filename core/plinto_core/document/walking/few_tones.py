"""Images of one channel and few tones: they keep their pixels."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np
import pikepdf

from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.images import ImageFacts
from plinto_core.document.rules.policy import Rule

if TYPE_CHECKING:
    from plinto_core.document.walking.walk import DocumentWalk


def put_in_palette(
    walk: DocumentWalk, image: Any, facts: ImageFacts, rule: Rule, intent: str
) -> None:
    """An image of one channel and two to sixteen tones keeps its pixels and its depth: what it is
    printed with stands in a palette."""
    space, mapper = facts.space, walk.painter.mapper
    assert space is not None
    tones = 1 << facts.bits
    low, high = numbers(image.get("/Decode", [0, 1]))[:2]
    first, last = space.default_decode(facts.bits)[:2]
    values = (low + np.linspace(0, 1, tones) * (high - low)).clip(first, last)
    made = mapper.continuous(space, values[:, None], rule, intent)
    lookup = np.round(np.clip(made, 0, 1) * 255).astype(np.uint8).tobytes()
    image["/ColorSpace"] = pikepdf.Array(
        [pikepdf.Name.Indexed, walk.target, tones - 1, pikepdf.String(lookup)]
    )
    if "/Decode" in image:
        del image["/Decode"]
