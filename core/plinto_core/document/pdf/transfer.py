"""Transfer functions taken out, which would change tones on the way to the plates (ISO 32000-2, 10.5)."""

from __future__ import annotations

from typing import Any

import pikepdf

_PLAIN = ("/Identity", "/Default")


def has_transfer(state: Any) -> bool:
    """Whether a graphics state sets a transfer function that changes something."""
    return any(key in state and str(state[key]) not in _PLAIN for key in ("/TR", "/TR2"))


def remove_transfer(pdf: pikepdf.Pdf) -> int:
    """Take transfer functions out of all graphics states; how many had one. Those of soft masks stay: they
    are part of the mask."""
    count = 0
    for thing in pdf.objects:
        if not isinstance(thing, pikepdf.Dictionary | pikepdf.Stream):
            continue
        resources = thing.get("/Resources")
        states = [thing] if str(thing.get("/Type", "")) == "/ExtGState" else []
        if isinstance(resources, pikepdf.Dictionary):
            group = resources.get("/ExtGState")
            if isinstance(group, pikepdf.Dictionary):
                states += [s for _, s in group.items() if isinstance(s, pikepdf.Dictionary)]
        for state in states:
            count += has_transfer(state)
            for key in ("/TR", "/TR2"):
                if key in state:
                    del state[key]
    return count
