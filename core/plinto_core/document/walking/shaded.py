"""A shading met in a content stream: listed, and the converted one put in its place."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from plinto_core.document.pdf.items import Item
from plinto_core.document.pdf.shadings import converted_shading, shading_samples, shading_space
from plinto_core.document.rules.painting import HELD, INKS_OF, NOT_TRANSFERRED, shown_values
from plinto_core.document.walking.resources import keep_meaning
from plinto_core.document.walking.using import stop_at
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


def place_shading(content: ContentWalk, holder: Any, key: str) -> None:
    """List a shading and put the converted one in its place, once."""
    walk, painter = content.walk, content.painter
    shading = holder[key]
    if shading.objgen in walk.converted:
        if walk.converted[shading.objgen] != painter.variant:
            walk.note("shading", say("document.two-layers"))
        return
    if walk.apply:
        keep_meaning(painter, shading, content.resources)
    space = shading_space(shading, content.resources)
    decision = painter.decision("shadings", space)
    place, rule = decision.number, decision.rule
    if decision.stops:
        stop_at(content, "shading", space, place)
    if decision.untransferred:
        walk.note("transfer function", NOT_TRANSFERRED)
    samples = shading_samples(shading, space)
    intent = painter.intent(rule, content.state.intent)
    changes = rule.changes
    mapper = painter.mapper
    held = painter.holds(space, "shadings") and painter.over(samples)
    after = samples
    if changes and len(samples):
        after = mapper.continuous(space.colour, samples, rule, intent)
    if held:
        after = mapper.hold(space.colour, samples)
    family = mapper.family if changes else space.colour.family
    origin = painter.origin(space)
    item = Item(
        page=walk.page, kind="shading", family=painter.ruled_as(space), space=space.label,
        profile=painter.profile_name(space), origin=origin, rule=place, action=rule.action,
        values=shown_values(space.colour.family, tuple(samples.mean(axis=0))) if len(samples) else (),
        after=shown_values(family, tuple(after.mean(axis=0))) if len(samples) else (),
        outcome=painter.target_name if changes else space.label, spot=space.colour.names if painter.ruled_as(space) == "spot" else (),
        tac=round(float(samples.sum(axis=1).max()) * 100, 1) if space.colour.family == "CMYK" and len(samples) else None,
        tac_after=round(float(after.sum(axis=1).max()) * 100, 1) if family in INKS_OF and len(samples) else None,
        intent=intent, notes=[HELD] if held else painter.notes(space, "shadings"),
    )  # fmt: skip
    which = shading.objgen if shading.objgen != (0, 0) else id(holder)
    walk.add(item, ("shading", which, key, painter.variant))
    if walk.weighs and len(samples):
        out = after if changes else walk.differences.landed(space, after)
        if out is not None:
            walk.differences.whole([item], space, samples, out)
    if not (changes or held) or not walk.apply:
        return
    made = converted_shading(
        walk.pdf, shading, space.colour,
        (lambda v: mapper.hold(space.colour, v)) if held
        else (lambda v: mapper.continuous(space.colour, v, rule, intent)),
        shading["/ColorSpace"] if held else walk.target,
        4 if held else painter.channels,
    )  # fmt: skip
    made = walk.pdf.make_indirect(made)
    walk.converted[made.objgen] = painter.variant
    holder[key] = made
