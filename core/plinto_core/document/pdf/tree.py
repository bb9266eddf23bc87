"""Entries of pages that stand in the nodes above them, and matrices as they are written."""

from __future__ import annotations

import math
from typing import Any

import pikepdf

from plinto_core.document.pdf.state import IDENTITY, Matrix


def inherited(page: pikepdf.Page, key: str) -> Any:
    """A page's entry, its own or that of the nodes above it; None where there is none."""
    node: Any = page.obj
    for _ in range(64):
        if key in node:
            return node[key]
        if "/Parent" not in node:
            return None
        node = node["/Parent"]
    return None


def matrix_of(source: Any) -> Matrix:
    """A matrix of six finite numbers; the identity for anything else."""
    if source is None or len(source) != 6:
        return IDENTITY
    try:
        a, b, c, d, e, f = (float(v) for v in source)
    except (TypeError, ValueError):
        return IDENTITY
    return (a, b, c, d, e, f) if all(math.isfinite(v) for v in (a, b, c, d, e, f)) else IDENTITY
