"""Layers (optional content) by name (ISO 32000-2, 8.11)."""

from __future__ import annotations

from typing import Any

import pikepdf

_MOST = 500


def _name(group: Any) -> str | None:
    if not isinstance(group, pikepdf.Dictionary) or str(group.get("/Type", "")) != "/OCG":
        return None
    return str(group.get("/Name", ""))[:200]


def names_of(content: Any) -> tuple[str, ...]:
    """The layers that a value of /OC, or of marked content, names: a group, or the groups of a membership,
    whatever it says of their being visible; () for anything else."""
    if not isinstance(content, pikepdf.Dictionary):
        return ()
    alone = _name(content)
    if alone is not None:
        return (alone,)
    groups: Any = content.get("/OCGs", [])
    if isinstance(groups, pikepdf.Dictionary):
        groups = [groups]
    if not isinstance(groups, pikepdf.Array | list):
        return ()
    found = [_name(group) for group in list(groups)[:_MOST]]
    return tuple(dict.fromkeys(name for name in found if name is not None))


def layers_of(pdf: pikepdf.Pdf) -> tuple[str, ...]:
    """The names of a document's layers, each once, in its order."""
    known: Any = pdf.Root.get("/OCProperties")
    groups: Any = known.get("/OCGs", []) if isinstance(known, pikepdf.Dictionary) else []
    if not isinstance(groups, pikepdf.Array):
        return ()
    found = [_name(group) for group in list(groups)[:_MOST]]
    return tuple(dict.fromkeys(name for name in found if name is not None))
