"""What a walk through a document finds: objects with their rule, and what could not be handled."""

from __future__ import annotations

from dataclasses import dataclass, field

from plinto_core.words import Said

Box = tuple[float, float, float, float]
"""left, bottom, right, top in points of the page."""


@dataclass
class Item:
    """One object, or equal colours of one page together (`count`).

    kind : image, vector, text, shading or group; values, after : percent, or Lab; pixels, ppi :
    of images; tac, tac_after : percent; rule : number in the policy, 0 for none; de00 : between the
    colour as the document means it and as it comes out, each relative to its white, of images in the mean
    of a sample; None where it is not known or was not asked for.
    """

    page: int
    kind: str
    family: str
    space: str
    profile: str
    origin: str
    rule: int
    action: str
    values: tuple[float, ...] = ()
    after: tuple[float, ...] = ()
    outcome: str = ""
    spot: tuple[str, ...] = ()
    pixels: tuple[int, int] | None = None
    bits: int = 0
    ppi: float | None = None
    new_ppi: float | None = None
    tac: float | None = None
    tac_after: float | None = None
    de00: float | None = None
    intent: str = ""
    box: Box | None = None
    count: int = 1
    filters: tuple[str, ...] = ()
    notes: list[Said] = field(default_factory=list)

    @property
    def stopped(self) -> bool:
        return self.action == "stop"


@dataclass(frozen=True)
class Unhandled:
    """An object that was left as it is, and why."""

    page: int
    kind: str
    reason: Said


def union(a: Box | None, b: Box | None) -> Box | None:
    """The box around two boxes."""
    if a is None or b is None:
        return a or b
    return min(a[0], b[0]), min(a[1], b[1]), max(a[2], b[2]), max(a[3], b[3])
