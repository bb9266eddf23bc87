"""What pages share, given to each group of them that has rules of its own.

A form, an image, a pattern is changed once, for all pages that use it. Where rules are for some pages
only, one change would be wrong for the others: the largest group keeps what is there, the others get
copies, each group one.
"""

from __future__ import annotations

from collections import defaultdict
from typing import Any

import pikepdf

from plinto_core.document.pdf.tree import inherited
from plinto_core.document.rules.page_ranges import names_page
from plinto_core.document.rules.policy import OutputPolicy

_DEEPEST = 30
"""Nesting of what is copied; what lies deeper is refused when it is walked."""
_COPIED = ("/XObject", "/Pattern", "/Shading", "/ExtGState", "/Font")


def part_pages(pdf: pikepdf.Pdf, policy: OutputPolicy) -> None:
    """Make pages with different rules independent of each other; nothing where all have the same."""
    ranges = list(dict.fromkeys(r.pages for r in policy.rules if r.pages))
    if not ranges:
        return
    groups: dict[tuple[bool, ...], list[pikepdf.Page]] = defaultdict(list)
    for number, page in enumerate(pdf.pages, 1):
        groups[tuple(names_page(r, number) for r in ranges)].append(page)
    for pages in sorted(groups.values(), key=len, reverse=True)[1:]:
        copy = _Copies(pdf)
        for page in pages:
            resources = inherited(page, "/Resources")
            if isinstance(resources, pikepdf.Dictionary):
                page.obj["/Resources"] = copy.resources(resources)
            annotations: Any = page.obj.get("/Annots")
            if isinstance(annotations, pikepdf.Array):
                for annotation in annotations:
                    copy.look(annotation)


class _Copies:
    """Copies of what can be changed, one of each thing."""

    def __init__(self, pdf: pikepdf.Pdf) -> None:
        self._pdf = pdf
        self._made: dict[tuple[int, int], Any] = {}

    def resources(self, given: Any, depth: int = 0) -> Any:
        """A dictionary of resources with copies in it; colour spaces, fonts of outlines and layers stay."""
        made = pikepdf.Dictionary(dict(given.items()))
        if depth > _DEEPEST:
            return made
        for kind in _COPIED:
            group = made.get(kind)
            if not isinstance(group, pikepdf.Dictionary):
                continue
            own = pikepdf.Dictionary()
            for name, thing in group.items():
                own[name] = self._thing(kind, thing, depth + 1)
            made[kind] = own
        return made

    def look(self, annotation: Any) -> None:
        """An annotation's appearances, copied in place."""
        shown = annotation.get("/AP") if isinstance(annotation, pikepdf.Dictionary) else None
        if not isinstance(shown, pikepdf.Dictionary):
            return
        made = pikepdf.Dictionary(dict(shown.items()))
        for key, look in shown.items():
            if isinstance(look, pikepdf.Stream):
                made[key] = self._copy(look, 0)
            elif isinstance(look, pikepdf.Dictionary):
                made[key] = pikepdf.Dictionary(
                    {
                        k: self._copy(v, 0) if isinstance(v, pikepdf.Stream) else v
                        for k, v in look.items()
                    }
                )
        annotation["/AP"] = made

    def _thing(self, kind: str, thing: Any, depth: int) -> Any:
        if kind == "/Font" and str(_entry(thing, "/Subtype")) != "/Type3":
            return thing
        if kind == "/ExtGState" and not isinstance(_entry(thing, "/SMask"), pikepdf.Dictionary):
            return thing
        if isinstance(thing, pikepdf.Stream | pikepdf.Dictionary):
            return self._copy(thing, depth)
        return thing

    def _copy(self, thing: Any, depth: int) -> Any:
        key = thing.objgen
        if key != (0, 0) and key in self._made:
            return self._made[key]
        entries = {k: v for k, v in thing.items() if k != "/Length"}
        if isinstance(thing, pikepdf.Stream):
            made: Any = pikepdf.Stream(self._pdf, thing.read_raw_bytes())
            for name, value in entries.items():
                made[name] = value
        else:
            made = self._pdf.make_indirect(pikepdf.Dictionary(entries))
        if key != (0, 0):
            self._made[key] = made
        if depth > _DEEPEST:
            return made
        if isinstance(entries.get("/Resources"), pikepdf.Dictionary):
            made["/Resources"] = self.resources(entries["/Resources"], depth)
        for name in ("/Shading", "/G"):
            inner = entries.get(name)
            if isinstance(inner, pikepdf.Stream | pikepdf.Dictionary):
                made[name] = self._copy(inner, depth + 1)
        mask = entries.get("/SMask")
        if isinstance(mask, pikepdf.Dictionary) and not isinstance(mask, pikepdf.Stream):
            made["/SMask"] = self._copy(mask, depth + 1)
        glyphs = entries.get("/CharProcs")
        if isinstance(glyphs, pikepdf.Dictionary):
            made["/CharProcs"] = pikepdf.Dictionary(
                {
                    k: self._copy(v, depth + 1) if isinstance(v, pikepdf.Stream) else v
                    for k, v in glyphs.items()
                }
            )
        return made


def _entry(thing: Any, key: str) -> Any:
    return thing.get(key) if isinstance(thing, pikepdf.Dictionary | pikepdf.Stream) else None
