"""From a picture's pixels to inks (or any other value) where corrections differ by region.

Every combination of overlapping regions has a link of its own; soft edges mix the results of the
combinations they touch. A mixture of values that keep a total keeps it too, so the TAC holds.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from plinto_core.arrays import Floats, Floats32, Pixels
from plinto_core.corrections import Adjustment, Correction, Place, region_weight
from plinto_core.icc.colorants import ink_names
from plinto_core.inks.plates import finish, has_dots
from plinto_core.kernels.dither import dithered
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.link import DeviceLink

LinkOf = Callable[[ColourRoute], DeviceLink]
Indices = np.ndarray
Combination = tuple[int, ...]


@dataclass(frozen=True)
class PixelPath:
    """route : what happens everywhere; corrections : all of the recipe's, in order."""

    route: ColourRoute
    corrections: tuple[Correction, ...] = ()

    @cached_property
    def key(self) -> str:
        """Hash of all that decides a picture's inks."""
        parts = [c.model_dump_json(exclude={"name"}) for c in self.regional]
        return hashlib.sha256("\n".join([self.route.key, *parts]).encode()).hexdigest()

    @property
    def regional(self) -> tuple[Correction, ...]:
        """The corrections that hold in a part of the picture only."""
        return tuple(c for c in self.corrections if c.on and c.region is not None)

    def route_in(self, combination: Combination) -> ColourRoute:
        """The route where exactly these of the regional corrections act."""
        if not combination:
            return self.route
        active = [self.regional[i] for i in combination]
        chosen = tuple(
            c
            for c in self.corrections
            if c.on and (c.region is None or any(c is a for a in active))
        )
        rules = self.route.rules
        for correction in active:
            if correction.black is not None and rules is not None:
                rules = rules.model_copy(update={"black": correction.black})
        adjustment = Adjustment(chosen, self.route.adjustment.vivid, self.route.method)
        return replace(self.route, adjustment=adjustment, rules=rules)

    def combinations(
        self, weights: list[Floats32], count: int
    ) -> Iterator[tuple[Combination, Indices | None, Floats32 | None]]:
        """Combination, the pixels it touches (None for all) and its weight there (None for 1)."""
        pending: list[tuple[Combination, Indices | None, Floats32 | None]] = [((), None, None)]
        for number, weight in enumerate(weights):
            split = []
            for combination, where, share in pending:
                here = weight if where is None else weight[where]
                for inside in (False, True):
                    part = here if inside else 1 - here
                    touched = np.flatnonzero(part > 0)
                    if touched.size == 0:
                        continue
                    everything = touched.size == part.size
                    at = where if everything else touched if where is None else where[touched]
                    local = part if everything else part[touched]
                    before = share if share is None or everything else share[touched]
                    local = local if before is None else before * local
                    full = bool((local >= 1).all())
                    chosen = (*combination, number) if inside else combination
                    split.append((chosen, at, None if full else local))
            pending = split
        yield from pending

    def weights(self, place: Place, rows: int, columns: int) -> list[Floats32]:
        """The weight of every regional correction at (rows * columns) pixels."""
        return [
            region_weight(c.region, place, rows, columns).reshape(-1)
            for c in self.regional
            if c.region is not None
        ]

    def apply(self, link_of: LinkOf, pixels: Pixels, place: Place, *, bits: int) -> Pixels:
        """(rows, columns, channels) pixels through the links to (rows, columns, outputs)."""
        rows, columns, channels = pixels.shape
        flat = pixels.reshape(-1, channels)
        if not self.regional:
            return link_of(self.route).apply(flat, bits=bits).reshape(rows, columns, -1)
        return self._mixed(link_of, flat, place, (rows, columns), bits)

    def inks(
        self, link_of: LinkOf, pixels: Pixels, place: Place, *, bits: int, dither: bool = False
    ) -> Pixels:
        """As `apply` with links to inks, followed by what no link can hold: text and dots.

        dither : 8 bits are made of 16, those between two levels a pattern of both.
        """
        found = self.apply(link_of, pixels, place, bits=16 if dither else bits)
        if self.numbers_stay:
            self._restore(pixels.reshape(-1, pixels.shape[2]), found.reshape(-1, found.shape[2]))
        if dither:
            found = self._dithered(found, place)
        flat = found.reshape(-1, found.shape[2])
        text = self.route.black_text(pixels.reshape(-1, pixels.shape[2]))
        if text is not None and text.any():
            flat[text] = np.floor(self.route.text_ink * np.iinfo(found.dtype).max)
        if has_dots(self.route.plates):
            names = ink_names(self.route.destination)
            finish(flat, names, self.route.plates, self.route.rules)
        return found

    def _dithered(self, wide: Pixels, place: Place) -> Pixels:
        rules = self.route.rules
        limits, total = np.full(wide.shape[2], 255), 255 * wide.shape[2]
        if rules is not None:
            limits = np.floor(
                rules.ink_limits(ink_names(self.route.destination)) * 255 + 1e-6
            ).astype(np.int64)
            total = int(rules.tac * 2.55 + 1e-6)
        row, column = round(place.top / place.step_y), round(place.left / place.step_x)
        return dithered(wide, row, column, limits, total)

    @property
    def numbers_stay(self) -> bool:
        """Whether the artwork's own numbers go to the plates, but for what limits take away."""
        route = self.route
        straight = route.space is route.source and not route.negative and route.before is None
        untouched = not route.adjustment and not self.regional and route.after is None
        curves = any(p.curve for p in route.plates.values())
        return route.keeps_numbers and straight and untouched and not curves

    def _restore(self, pixels: Pixels, found: Pixels) -> None:
        """Give pixels that keep TAC and limits their own numbers back, which a grid only nears."""
        full, top = (int(np.iinfo(p.dtype).max) for p in (pixels, found))
        rules = self.route.rules
        own = pixels
        if full != top:
            wide = pixels.astype(np.uint32)
            own = (wide * 257 if top > full else (wide + 128) // 257).astype(found.dtype)
        if rules is None:
            found[:] = own
            return
        limits = np.floor(rules.model_copy(update={"black": None}).ink_limits() * top)
        kept = (own.sum(axis=1, dtype=np.uint32) <= int(rules.tac / 100 * top)) & (
            own <= limits
        ).all(axis=1)
        found[kept] = own[kept]

    @property
    def has_pixel_steps(self) -> bool:
        """Whether inks() does more than one link can."""
        rules = self.route.rules
        text = rules is not None and rules.protect.black_text
        return bool(self.regional) or text or self.numbers_stay or has_dots(self.route.plates)

    def _mixed(
        self, link_of: LinkOf, flat: Pixels, place: Place, shape: tuple[int, int], bits: int
    ) -> Pixels:
        rows, columns = shape
        out: Pixels | None = None
        mixed: Floats32 | None = None
        for combination, where, share in self.combinations(
            self.weights(place, rows, columns), flat.shape[0]
        ):
            link = link_of(self.route_in(combination))
            found = link.apply(flat if where is None else flat[where], bits=bits)
            if out is None:
                out = np.zeros((flat.shape[0], found.shape[1]), found.dtype)
                mixed = np.zeros(out.shape, np.float32)
            assert mixed is not None
            at = slice(None) if where is None else where
            if share is None:
                out[at] = found
            else:
                mixed[at] += found * share[:, None]
        assert out is not None
        assert mixed is not None
        soft = mixed.any(axis=1)
        # Rounded down: a rounded-up mixture could pass a total that all its parts keep.
        out[soft] = (mixed[soft] + np.float32(1e-3)).astype(out.dtype)
        return out.reshape(rows, columns, -1)

    def exact(
        self,
        function: Callable[[ColourRoute, Floats], Floats],
        device: Floats,
        place: Place,
        shape: tuple[int, int] = (1, 1),
    ) -> Floats:
        """`function` of route and (n, channels) values at the pixels of `place`, mixed by weight.

        shape : rows and columns of the n pixels.
        """
        if not self.regional:
            return function(self.route, device)
        total: Floats | None = None
        for combination, where, share in self.combinations(
            self.weights(place, *shape), device.shape[0]
        ):
            at = slice(None) if where is None else where
            value = np.asarray(function(self.route_in(combination), device[at]), dtype=np.float64)
            if total is None:
                total = np.zeros((device.shape[0], *value.shape[1:]))
            weight = 1.0 if share is None else share.reshape(-1, *[1] * (value.ndim - 1))
            total[at] += value * weight
        assert total is not None
        return total
