"""What a content stream paints with: listed under its rule, and refused where the policy stops."""

from __future__ import annotations

from typing import TYPE_CHECKING

from plinto_core.document.pdf.items import Box, Item
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdf.state import Paint
from plinto_core.document.rules.painting import HELD, NOT_TRANSFERRED, shown_values
from plinto_core.document.walking.fitting import fit
from plinto_core.errors import PolicyStop
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk

TOO_FEW = "not as many values as the space has channels"


def use(
    content: ContentWalk,
    paint: Paint,
    kind: str,
    box: Box | None,
    side: str = "fill",
    at: int | None = None,
) -> None:
    """List a painted colour, and stop where the policy says so.

    at : the operator that paints a path, None for anything else.
    """
    if paint.tone is not None:
        watch = content.walk.watch
        if watch is not None and watch.looks:
            watch.painted(content, paint, kind, box, side)
        content.walk.meet(paint, kind, box)
        return
    space = paint.space
    objects, size = "vectors", None
    if content.painter.tells_apart:
        objects, size = content.subject(kind, side)
        # A colour has to be set before the path begins.
        begun = content.laid.began(at) if at is not None else None
        paint = fit(content, paint, objects, size, side, begun)
    if paint.unset and content.state.unset_used is not None:
        content.state.unset_used.add(side)
    if content.walk.watch is not None and content.walk.watch.looks:
        content.walk.watch.painted(content, paint, kind, box, side)
    if space.family == "pattern":
        return
    if len(paint.values) != space.channels:
        raise ValueError(TOO_FEW)
    painter = content.painter
    decision = painter.decision(objects, space, size)
    if decision.stops:
        stop_at(content, kind, space, decision.number)
    if decision.untransferred:
        content.walk.note("transfer function", NOT_TRANSFERRED)
    # As DocumentWalk.meet has it, where nothing is gone through.
    key: tuple[object, ...] = (kind, space.key, paint.values, decision.number)
    if painter.transfer is not None:
        key = (*key, painter.transfer.key)
    if content.walk.again(key, box):
        return
    after = paint.became
    if after is None or painter.tells_apart:
        after = content.result(space, paint.values, objects, size)
    held = None
    if after is None:
        held = content.held(space, paint.values, objects, size)
    shown = held or (after if after is not None else paint.values)
    own = space.colour.family
    family = painter.mapper.family if after is not None else own
    item = Item(
        page=content.walk.page, kind=kind, family=decision.ruled_as, space=space.label,
        profile=decision.profile, origin=decision.origin, rule=decision.number,
        action=decision.rule.action, values=shown_values(own, paint.values),
        after=shown_values(family, shown), outcome=painter.outcome(after, space),
        spot=decision.spots, tac=painter.total(own, paint.values),
        tac_after=painter.total(family, shown),
        intent=painter.intent(decision.rule, paint.intent), box=box,
        notes=[HELD] if held else [*decision.notes],
    )  # fmt: skip
    content.walk.add(item, key)
    if content.walk.weighs:
        content.walk.differences.note(item, space, paint.values, after)


def stop_at(content: ContentWalk, kind: str, space: ColourSpace, number: int) -> None:
    """In a real run the document is refused; a dry run lists it."""
    if not content.walk.apply:
        return
    what = (
        f"spot colour {', '.join(space.colour.names)}"
        if content.painter.ruled_as(space) == "spot"
        else space.ruled_as
    )
    raise PolicyStop(
        say(
            "document.rule-stops-object",
            page=content.walk.page,
            number=number,
            kind=kind,
            what=what,
        )
    )
