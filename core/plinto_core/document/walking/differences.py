"""How far colours move: what the document means beside what comes out, compared a page at a time."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.document.pdf.items import Item
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.meaning import difference
from plinto_core.errors import CoreError

_MOST = 4000
"""Colours of an image or a shading that are compared."""

Values = tuple[float, ...]


class Differences:
    """Gathers a page's colours, so that those of one space are compared together."""

    def __init__(self, mapper: ColourMapper) -> None:
        self._mapper = mapper
        self._noted: dict[str, list[tuple[Item, ColourSpace, Values, Values]]] = {}

    def note(self, item: Item, space: ColourSpace, values: Values, out: Values | None) -> None:
        """An object's colour; out : in the destination, None where the object keeps its own numbers."""
        before = space.plain(values)
        after = out if out is not None else self._as_printed(space, before)
        if after is not None:
            self._noted.setdefault(space.colour.key, []).append((item, space, before, after))

    def _as_printed(self, space: ColourSpace, values: Values) -> Values | None:
        """The destination's values that numbers which stay are printed with, None where that is unknown."""
        found = self.landed(space, np.array([values]))
        return None if found is None else tuple(float(v) for v in found[0])

    def landed(self, space: ColourSpace, values: Floats) -> Floats | None:
        """(n, channels) numbers that stay to (n, destination channels), None where nothing says how
        they print. Grey prints with the black ink."""
        family, mapper = space.colour.family, self._mapper
        if family in ("RGB", "CMYK", "grey") and family == mapper.family:
            return values
        if family == "grey" and mapper.black_ink is not None:
            return self.in_black(values)
        return mapper.laid(space.colour, values) if mapper.prints(space.colour) else None

    def in_black(self, grey: Floats) -> Floats:
        """(n, 1) grey to (n, inks) of black alone."""
        out = np.zeros((len(grey), len(self._mapper.inks)))
        out[:, self._mapper.black_ink] = 1 - np.clip(grey[:, 0], 0, 1)
        return out

    def whole(self, items: list[Item], space: ColourSpace, before: Floats, after: Floats) -> None:
        """The mean of many colours of one image or shading, (n, channels) and (n, destination channels)."""
        step = max(1, len(before) // _MOST)
        try:
            moved = difference(self._mapper, space.colour, before[::step], after[::step])
        except CoreError:
            return
        for item in items:
            item.de00 = round(float(moved.mean()), 2)

    def close(self) -> None:
        """Compare what was noted of a page."""
        for noted in self._noted.values():
            before = np.array([values for _, _, values, _ in noted])
            after = np.array([values for _, _, _, values in noted])
            try:
                moved = difference(self._mapper, noted[0][1].colour, before, after)
            except CoreError:
                # Without a profile a colour has no meaning to depart from.
                continue
            for (item, *_), de in zip(noted, moved, strict=True):
                item.de00 = round(float(de), 2)
        self._noted.clear()
