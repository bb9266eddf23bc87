"""All images of a document: seen while the pages are walked, converted once at the end.

An image may stand on many pages at different sizes; it is reduced for the largest of them.
"""

from __future__ import annotations

import math
import zlib
from itertools import chain
from typing import TYPE_CHECKING, Any

import numpy as np
import pikepdf

from plinto_core.arrays import Pixels
from plinto_core.document.pdf.copies import MOST_VARIANTS, Original
from plinto_core.document.pdf.images import (
    KEPT_KEYS,
    as_jpeg,
    decoded,
    image_facts,
    key_mask,
    mask_image,
    own_alpha,
    packed,
    packed_bands,
    palette_indices,
    read_samples,
    reduce,
    stencil_image,
    thinned,
)
from plinto_core.document.pdf.items import Item
from plinto_core.document.pdf.matte import has_matte, take_matte_off, without_matte
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.state import State, box_of
from plinto_core.document.rules.painting import HELD, NOT_TRANSFERRED
from plinto_core.document.rules.policy import ImagesOf, Rule
from plinto_core.document.walking.few_tones import put_in_palette
from plinto_core.document.walking.picture_figures import mean_colour, most_ink
from plinto_core.document.walking.resources import keep_meaning
from plinto_core.document.walking.seen_picture import SeenPicture, is_line_art, kind_of
from plinto_core.errors import CoreError, NotSupported, PolicyStop
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.walk import DocumentWalk

_SAMPLE = 200_000
_BAND = 1 << 20
"""Pixels that are converted and packed at once."""
_CORNERS = [(0.0, 0.0), (1.0, 1.0), (0.0, 1.0), (1.0, 0.0)]


_Way = tuple[int, str]
"""What becomes of an image: the number of its rule, and the rule's key."""
_Made = tuple[Pixels, Any]
_Mask = tuple[str, pikepdf.Stream]
"""Pixels, and the space they are in."""


def _bits(image: Pixels) -> bytes:
    """(height, width) 0 or 1, packed by rows."""
    return zlib.compress(np.packbits(image, axis=1).tobytes(), 9)


class Pictures:
    """Keeps one entry an image object, and one more for each other way that it is printed: what stands on
    layers or under transfer functions with different rules is copied for them."""

    def __init__(self, walk: DocumentWalk) -> None:
        self.walk = walk
        self._seen: dict[tuple[int, int], dict[_Way, SeenPicture]] = {}
        self._loose = 0
        self.growth = 0
        """by how many bytes the images of a dry run would become larger"""

    def seen(self, image: Any, resources: Any, state: State) -> tuple[Any, bool]:
        """Note an image at its place; returns what is to stand there, itself or a copy, and whether its rule
        changes it."""
        key = image.objgen
        if key == (0, 0):
            self._loose += 1
            key = (-self._loose, 0)
        ways = self._seen.get(key, {})
        known = self._known(image, resources, state, ways)
        if known is None:
            return image, False
        self._seen[key] = ways
        if known.facts.masked == "soft":
            self.walk.see_through(say("document.image-soft-mask"))
        item = self._item(known, state)
        if known.items and known.items[0].rule != item.rule:
            self.walk.note("image", say("document.image-two-layers"))
        self.walk.items.append(item)
        known.items.append(item)
        return known.image, self._changes(known)

    def _known(
        self, image: Any, resources: Any, state: State, ways: dict[_Way, SeenPicture]
    ) -> SeenPicture | None:
        """An image as it is printed here, put among the ways that it is; None for a stencil, or for what
        cannot be read."""
        walk, painter = self.walk, self.walk.painter
        first = next(iter(ways.values()), None)
        try:
            facts = first.facts if first is not None else image_facts(image, resources)
        except CoreError as error:
            walk.note("image", error.said)
            return None
        except UNREADABLE:
            walk.note("image", say("document.damaged"))
            return None
        if facts.is_stencil:
            return None
        assert facts.space is not None
        decision = painter.decision(kind_of(facts), facts.space)
        if decision.untransferred:
            walk.note("transfer function", NOT_TRANSFERRED)
        intent = painter.intent(decision.rule, facts.intent or state.intent)
        way = decision.number, decision.key(intent)
        if way in ways or len(ways) >= MOST_VARIANTS:
            return ways.get(way, first)
        own = Original.of(image).copy(walk.pdf) if ways and walk.apply else image
        ways[way] = known = SeenPicture(
            own,
            resources,
            facts,
            decision.rule,
            intent,
            walk.page,
            painter.layers,
            painter.transfer,
        )
        if walk.apply:
            keep_meaning(painter, own, resources)
        return known

    def _item(self, seen: SeenPicture, state: State) -> Item:
        facts, painter = seen.facts, self.walk.painter
        space = facts.space
        assert space is not None
        number, rule = painter.rule(kind_of(facts), space)
        if rule.stops and self.walk.apply:
            raise PolicyStop(
                say(
                    "document.rule-stops-image",
                    page=self.walk.page,
                    number=number,
                    family=space.colour.family,
                )
            )
        a, b, c, d, _, _ = state.ctm
        wide, high = math.hypot(a, b), math.hypot(c, d)
        ppi = min(facts.width / wide, facts.height / high) * 72 if wide > 0 and high > 0 else None
        origin = painter.origin(space)
        item = Item(
            page=self.walk.page, kind="image", family=painter.ruled_as(space), space=space.label,
            profile=painter.profile_name(space), origin=origin, rule=number, action=rule.action,
            outcome=space.label, spot=space.colour.names if painter.ruled_as(space) == "spot" else (), pixels=(facts.width, facts.height), bits=facts.bits,
            ppi=round(ppi, 1) if ppi else None, intent=seen.intent, box=box_of(state.ctm, _CORNERS),
            filters=tuple(f.removeprefix("/") for f in facts.filters),
        )  # fmt: skip
        item.notes += painter.notes(space, kind_of(facts))
        item.notes += self._treatment(seen).resolution.notes(item.ppi)
        return item

    def _changes(self, seen: SeenPicture) -> bool:
        assert seen.facts.space is not None
        if (
            self.walk.painter.changes(seen.facts.space, kind_of(seen.facts))
            or self._share(seen) < 1
        ):
            return True
        return self._held(seen)

    def _held(self, seen: SeenPicture, pixels: Pixels | None = None) -> bool:
        """Whether an image is left, but has pixels over the TAC that are brought within it."""
        space, painter = seen.facts.space, self.walk.painter
        assert space is not None
        if not painter.holds(space, kind_of(seen.facts)):
            return False
        if seen.over is None:
            try:
                seen.over = painter.over(self._inks(seen, pixels))
            except (CoreError, *UNREADABLE):
                # What cannot be read is said when the image's turn comes.
                return False
        return seen.over

    def _inks(self, seen: SeenPicture, pixels: Pixels | None) -> np.ndarray:
        """(1, 4) the inks of the pixel with the most of them, or of the used palette's entries."""
        space = seen.facts.space
        assert space is not None
        if pixels is None:
            samples = read_samples(seen.image, seen.facts)
            if space.table is not None:
                used = np.unique(palette_indices(seen.image, samples, seen.facts))
                return np.asarray(space.table[used])
            pixels = decoded(seen.image, samples, seen.facts)
        flat = pixels.reshape(-1, pixels.shape[2])
        # Piece by piece: the sums of a whole picture take as much room as itself.
        pieces = (flat[at : at + _BAND] for at in range(0, len(flat), _BAND))
        fullest = np.stack([p[int(p.sum(axis=1, dtype=np.uint32).argmax())] for p in pieces])
        most = int(fullest.sum(axis=1, dtype=np.uint32).argmax())
        return np.asarray(fullest[most : most + 1] / float(np.iinfo(flat.dtype).max))

    def _share(self, seen: SeenPicture) -> float:
        """By how much an image is reduced, 1 for not at all."""
        limits = self._treatment(seen).resolution
        if (
            limits.above != "downsample"
            or seen.least_ppi <= limits.high
            or math.isinf(seen.least_ppi)
        ):
            return 1.0
        assert seen.facts.space is not None
        if seen.facts.masked == "colour key":
            return 1.0
        if not is_line_art(seen.facts) and (
            seen.facts.space.label == "Indexed" or seen.facts.bits < 8
        ):
            return 1.0
        return min(1.0, limits.to / seen.least_ppi)

    def finish(self) -> None:
        """Convert, or in a dry run look at, every image once."""
        for seen in [s for ways in self._seen.values() for s in ways.values()]:
            self.walk.page = seen.page
            self.walk.painter.layers, self.walk.painter.transfer = seen.layers, seen.transfer
            try:
                self._finish(seen)
            except CoreError as error:
                self.walk.note("image", error.said)
                for item in seen.items:
                    item.notes.append(say("document.not-handled", why=error.said))
            except (*UNREADABLE, MemoryError) as error:
                self.walk.note("image", say("document.unreadable", kind=type(error).__name__))
            for item in seen.items:
                self.walk.found.count(item)
            self.walk.painter.transfer = None

    def _finish(self, seen: SeenPicture) -> None:
        space = seen.facts.space
        assert space is not None
        share = self._share(seen)
        samples = read_samples(seen.image, seen.facts)
        if space.label == "Indexed":
            if has_matte(seen.image):
                raise NotSupported(say("document.palette-matte"))
            self._palette(seen, samples, share)
            return
        pixels = decoded(seen.image, samples, seen.facts)
        matte = has_matte(seen.image)
        if matte:
            pixels = without_matte(seen.image, pixels, space)
        self._held(seen, pixels)
        done = self._describe(seen, pixels, share)
        if self.walk.weighs:
            self.growth += self._growth(seen, pixels, share)
        if not self.walk.apply or not self._changes(seen):
            return
        line_art = is_line_art(seen.facts)
        if (share == 1 or line_art) and seen.facts.bits < 8 and space.channels == 1 and not matte:
            if self.walk.painter.changes(space, kind_of(seen.facts)) and not self._same_black(seen):
                put_in_palette(self.walk, seen.image, seen.facts, seen.rule, seen.intent)
            if share < 1:
                self._thin_out(seen, samples, share)
            return
        if share == 1 and self._same_black(seen):
            return
        alpha = own_alpha(seen.image)
        mask = None if alpha is None else ("/SMask", mask_image(self.walk.pdf, alpha))
        if seen.facts.masked == "colour key":
            # A key lets pixels print or not, as a stencil does: nothing comes to be transparent.
            mask = "/Mask", stencil_image(self.walk.pdf, key_mask(seen.image, samples))
        if share < 1:
            pixels, done = reduce(pixels, share), None
        self._replace(seen, pixels, mask, done)
        if matte:
            take_matte_off(self.walk.pdf, seen.image)

    def _result(self, seen: SeenPicture, pixels: Pixels) -> _Made:
        """The image's new pixels and the space they are in."""
        painter, space, rule = self.walk.painter, seen.facts.space, seen.rule
        assert space is not None
        flat = pixels.reshape(-1, pixels.shape[2])
        if rule.passes:
            if self._held(seen):
                held = painter.mapper.held_pixels(space, np.ascontiguousarray(flat))
                pixels = held.reshape(pixels.shape)
            return pixels, seen.image["/ColorSpace"]
        if space.bare_grey and self._is_black(rule):
            # One channel says so in a quarter of the room.
            return pixels, pikepdf.Name.DeviceGray
        made = painter.mapper.images(space, np.ascontiguousarray(flat), rule, seen.intent)
        black = painter.mapper.black_ink
        if rule.to_black and black is not None and not painter.mapper.inks_of_none(rule):
            full = np.iinfo(made.dtype).max
            grey = full - made[:, black : black + 1]
            return grey.reshape(*pixels.shape[:2], 1), pikepdf.Name.DeviceGray
        return made.reshape(*pixels.shape[:2], made.shape[1]), self.walk.target

    def _replace(
        self, seen: SeenPicture, pixels: Pixels, mask: _Mask | None, done: _Made | None
    ) -> None:
        """Convert an image, where that is not `done` yet, and write it in the place of the old one."""
        image = seen.image
        height, width = pixels.shape[:2]
        rows = max(16, _BAND // width)
        made = (self._result(seen, pixels[at : at + rows]) for at in range(0, height, rows))
        first, target = next(made) if done is None else done
        bits, quality = first.dtype.itemsize * 8, self._quality(seen)
        bands = chain([first], (band for band, _ in made)) if done is None else iter([first])
        if as_jpeg(height, width, first.shape[2], bits, quality):
            data, how = packed(np.concatenate(list(bands)), quality)
        else:
            # Whole, the result and its packing would take several times the picture's room.
            data, how = packed_bands(bands)
        facts = {
            "/Type": pikepdf.Name.XObject, "/Subtype": pikepdf.Name.Image, "/Width": width,
            "/Height": height, "/BitsPerComponent": bits, "/ColorSpace": target,
        }  # fmt: skip
        if "Decode" in how:
            facts["/Decode"] = how["Decode"]
        kept = {
            key: image[key]
            for key in KEPT_KEYS
            if key in image and not (key == "/Mask" and isinstance(image[key], pikepdf.Array))
        }
        for key in list(image.keys()):
            if key != "/Length":
                del image[key]
        for key, value in (facts | kept).items():
            image[key] = value
        if self.walk.shelf is not None:
            self.walk.shelf.write(image, data, how)
        else:
            image.write(data, filter=how["Filter"], decode_parms=how.get("DecodeParms"))
        if mask is not None:
            image[mask[0]] = self.walk.pdf.make_indirect(mask[1])

    def _growth(self, seen: SeenPicture, pixels: Pixels, share: float) -> int:
        """How many bytes larger an image would become, by what some bands of its rows are packed to."""
        few = seen.facts.bits < 8 and pixels.shape[2] == 1
        if share < 1 and is_line_art(seen.facts):
            return self._thinner(seen, pixels, share)
        if not self._changes(seen) or (share == 1 and (few or self._same_black(seen))):
            return 0
        height, width = pixels.shape[:2]
        rows = max(16, round(_SAMPLE / width))
        starts = {0, max(0, (height - rows) // 2), max(0, height - rows)}
        bands = [pixels[a : a + rows] for a in sorted(starts)] if height > 3 * rows else [pixels]
        large, weight = 0.0, 0
        for band in bands:
            part = reduce(band, share) if share < 1 else band
            made, _ = self._result(seen, np.ascontiguousarray(part))
            large += len(packed(made, self._quality(seen))[0])
            weight += band.shape[0]
        before = len(seen.image.read_raw_bytes())
        return int(round(large / weight * height) - before)

    def _treatment(self, seen: SeenPicture) -> ImagesOf:
        """How images of this kind are reduced and packed."""
        space = seen.facts.space
        grey = space is not None and space.colour.family == "grey"
        kind = "line art" if is_line_art(seen.facts) else "grey" if grey else "colour"
        return self.walk.painter.policy.images_of(kind)

    def _quality(self, seen: SeenPicture) -> int | None:
        """Of JPEG, None where images are packed without loss."""
        compression = self._treatment(seen).compression
        return compression.quality if compression.kind == "jpeg" else None

    def _thin_out(self, seen: SeenPicture, samples: Pixels, share: float) -> None:
        """Line art with fewer pixels: black or white by what covers more of each."""
        bits = thinned(samples, share)
        seen.image["/Width"], seen.image["/Height"] = bits.shape[1], bits.shape[0]
        seen.image.write(_bits(bits), filter=pikepdf.Name.FlateDecode)

    def _thinner(self, seen: SeenPicture, samples: Pixels, share: float) -> int:
        """How many bytes larger it is then."""
        before = len(seen.image.read_raw_bytes())
        return len(_bits(thinned(samples, share))) - before

    def _same_black(self, seen: SeenPicture) -> bool:
        """Whether an image is to become black alone and is it already: bare grey, to the bit."""
        space = seen.facts.space
        assert space is not None
        return space.bare_grey and space.label == "DeviceGray" and self._is_black(seen.rule)

    def _is_black(self, rule: Rule) -> bool:
        """Whether bare grey is already what a rule makes of it: a black ink of the same shares."""
        mapper = self.walk.painter.mapper
        same = rule.to_black and rule.transfer is None
        return same and mapper.black_ink is not None and mapper.solid >= 1

    def _palette(self, seen: SeenPicture, samples: Pixels, share: float) -> None:
        """An indexed image keeps its pixels; its palette is converted."""
        space, rule = seen.facts.space, seen.rule
        assert space is not None
        assert space.table is not None
        used = np.unique(palette_indices(seen.image, samples, seen.facts))
        painter = self.walk.painter
        base = space.colour
        changes = painter.changes(space, kind_of(seen.facts))
        held = not changes and self._held(seen)
        after = space.table
        if changes:
            after = painter.mapper.continuous(base, space.table, rule, seen.intent)
        elif held:
            after = painter.mapper.hold(base, space.table)
        family = painter.mapper.family if changes else base.family
        for item in seen.items:
            item.outcome = painter.target_name if changes else space.label
            item.notes += [HELD] if held else []
            item.tac = most_ink(base.family, space.table[used])
            item.tac_after = most_ink(family, after[used])
        if self.walk.weighs:
            out = after if changes else self.walk.differences.landed(space, after)
            if out is not None:
                self.walk.differences.whole(seen.items, space, space.table[used], out[used])
        if share < 1:
            for item in seen.items:
                item.new_ppi = round(item.ppi * share, 1) if item.ppi else None
            if self.walk.weighs:
                self.growth += self._thinner(seen, samples, share)
            if self.walk.apply:
                self._thin_out(seen, samples, share)
        if not (changes or held) or not self.walk.apply:
            return
        named = self.walk.target if changes else seen.image["/ColorSpace"][1]
        lookup = (
            (np.round if changes else np.floor)(
                np.clip(after, 0, 1) * 255 + (0 if changes else 1e-6)
            )
            .astype(np.uint8)
            .tobytes()
        )
        seen.image["/ColorSpace"] = pikepdf.Array(
            [
                pikepdf.Name.Indexed,
                named,
                space.table.shape[0] - 1,
                pikepdf.String(lookup),
            ]
        )

    def _describe(self, seen: SeenPicture, pixels: Pixels, share: float) -> _Made | None:
        """Mean colour and highest total before and after, on a sample of the pixels; returns the image as
        it is after, where the sample was all of it."""
        space, painter = seen.facts.space, self.walk.painter
        assert space is not None
        step = max(1, round((pixels.shape[0] * pixels.shape[1] / _SAMPLE) ** 0.5))
        part = np.ascontiguousarray(pixels[::step, ::step]).reshape(-1, pixels.shape[2])
        full = float(np.iinfo(part.dtype).max)
        before = part / full
        changes = painter.changes(space, kind_of(seen.facts))
        held = not changes and self._held(seen)
        after = before
        if changes or held:
            result, target = self._result(seen, np.ascontiguousarray(part[:, None, :]))
            after = result.reshape(-1, result.shape[2]) / full
        if changes:
            outcome = (
                "black only"
                if target == pikepdf.Name.DeviceGray and painter.mapper.black_ink is not None
                else painter.target_name
            )
        for item in seen.items:
            item.tac = most_ink(space.family, before)
            item.values = mean_colour(space.family, before)
            if changes:
                item.outcome = outcome
                family = painter.mapper.family
                item.after, item.tac_after = mean_colour(family, after), most_ink(family, after)
                if outcome == "black only":
                    item.after = painter.in_black(round(100 - 100 * float(after.mean()), 1))
                    item.tac_after = round(100 - 100 * float(after.min()), 1)
            elif held:
                item.notes.append(HELD)
                item.after, item.tac_after = mean_colour("CMYK", after), most_ink("CMYK", after)
            else:
                item.after, item.tac_after = item.values, item.tac
            if share < 1 and item.ppi is not None:
                item.new_ppi = round(item.ppi * share, 1)
        if self.walk.weighs:
            differences = self.walk.differences
            low, high = np.array(space.default_decode(8)).reshape(-1, 2).T
            meant = low + before * (high - low)
            out = differences.landed(space, after) if not changes else after
            if changes and outcome == "black only":
                out = differences.in_black(after)
            if out is not None:
                differences.whole(seen.items, space, meant, out)
        if step > 1 or not (changes or held):
            return None
        return result.reshape(*pixels.shape[:2], result.shape[2]), target
