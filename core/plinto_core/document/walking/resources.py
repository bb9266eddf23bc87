"""What rewritten content needs among a page's or form's resources, under names of our own."""

from __future__ import annotations

from typing import Any

import pikepdf

from plinto_core.document.pdf.spaces import DEFAULTS, default_of, read_space
from plinto_core.document.rules.painting import Painter

OVERPRINTS = {(op, mode): f"/PlintoOver{int(op)}{mode}" for op in (False, True) for mode in (0, 1)}
"""Names of graphics states by whether fills overprint and by the overprint mode."""


def part(resources: Any, kind: str) -> Any:
    """The dictionary of a kind of resources ("/XObject", …), made where there is none."""
    found = resources.get(kind)
    if found is None:
        found = pikepdf.Dictionary()
        resources[kind] = found
    return found


def add_state(resources: Any, overprint: tuple[bool, int]) -> str:
    """A graphics state that only says whether fills overprint, and in which mode: 1 leaves alone what
    lies below an ink of zero, where the colour is DeviceCMYK. Returns its name."""
    op, mode = overprint
    # A stroke's overprint (OP) would set the fill's as well where it stood alone; op stands alone.
    name = OVERPRINTS[overprint]
    part(resources, "/ExtGState")[name] = pikepdf.Dictionary(op=op, OPM=mode)
    return name


def add_overprint_states(resources: Any, content: bytes) -> None:
    """The graphics states that rewritten content names, for a page that was rewritten elsewhere."""
    for overprint, name in OVERPRINTS.items():
        if name.encode() in content:
            add_state(resources, overprint)


def add_object(resources: Any, thing: Any, what: str) -> str:
    """A form or image that the document did not name, such as an inline one; returns its name."""
    objects = part(resources, "/XObject")
    # Of its own object, which no other has; to count those that are there takes longer with each.
    number = thing.objgen[0]
    while (name := f"/Plinto{what}{number}") in objects:
        if objects[name].objgen == thing.objgen:
            return name
        number += 1
    objects[name] = thing
    return name


def add_pattern_space(resources: Any, target: Any, label: str) -> str:
    """The space of uncoloured patterns painted in `target` (a name or array), called `label`
    ("DeviceCMYK", …); returns its name.

    Named after what it holds: a document that was treated before has one of the same name.
    """
    name = f"/PlintoPattern{label}"
    part(resources, "/ColorSpace")[name] = pikepdf.Array([pikepdf.Name.Pattern, target])
    return name


def keep_meaning(painter: Painter, holder: Any, resources: Any) -> None:
    """Name the space of an image or a shading that has its meaning from a default space which the result
    will not have; of a palette that of its entries."""
    space = holder.get("/ColorSpace")
    base = space[1] if isinstance(space, pikepdf.Array) and len(space) == 4 else space
    given = default_of(base, resources)
    if given is None or read_space(base).family not in painter.lost_defaults:
        return
    if base is space:
        holder["/ColorSpace"] = given
    elif str(space[0]) in ("/Indexed", "/I"):
        holder["/ColorSpace"] = pikepdf.Array([space[0], given, space[2], space[3]])


def add_default_space(resources: Any, family: str, space: Any) -> str:
    """What a default space gave its meaning, under a name that keeps it; returns the name."""
    name = f"/PlintoOwn{family}"
    part(resources, "/ColorSpace")[name] = space
    return name


def add_kept_defaults(resources: Any, content: bytes) -> None:
    """The default spaces that rewritten content names, for a page that was rewritten elsewhere."""
    for family, key in DEFAULTS.items():
        spaces = resources.get("/ColorSpace")
        named = f"/PlintoOwn{family}".encode() in content
        if named and isinstance(spaces, pikepdf.Dictionary) and key in spaces:
            add_default_space(resources, family, spaces[key])


INK_SPACE = "/PlintoInks"


def add_ink_space(resources: Any, target: Any) -> str:
    """The destination's own inks (DeviceN), which no operator names; returns its name."""
    part(resources, "/ColorSpace")[INK_SPACE] = target
    return INK_SPACE
