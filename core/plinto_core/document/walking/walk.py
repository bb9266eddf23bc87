"""The walk through a document's pages: every coloured object met once, with its rule.

One walk serves the inventory, the dry run and the real run; only the last one writes.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any, Protocol

import pikepdf

from plinto_core.document.pdf.copies import MOST_VARIANTS, Original, Variants
from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.items import Box, Item, Unhandled, union
from plinto_core.document.pdf.layers import names_of
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.shelf import Shelf
from plinto_core.document.pdf.spaces import RGB, read_space
from plinto_core.document.pdf.state import Paint, State, multiply
from plinto_core.document.pdf.transfer import Transfers
from plinto_core.document.pdf.tree import inherited, matrix_of
from plinto_core.document.rules.painting import FILL, Painter, shown_values
from plinto_core.document.rules.painting import number as number_of
from plinto_core.document.rules.tones import Met, Tone, Tones
from plinto_core.document.walking.ahead import ReadAhead
from plinto_core.document.walking.content import ContentWalk
from plinto_core.document.walking.differences import Differences
from plinto_core.document.walking.findings import Findings
from plinto_core.document.walking.mirror import mirror_page
from plinto_core.document.walking.pictures import Pictures
from plinto_core.document.walking.resources import (
    INK_SPACE,
    add_ink_space,
    add_kept_defaults,
    add_overprint_states,
)
from plinto_core.document.walking.watch import Sighting, Watch
from plinto_core.errors import BadDocument, BadRecipe, CoreError, PolicyStop
from plinto_core.icc.colorants import ink_names
from plinto_core.imaging.pdf_inks import device_n
from plinto_core.words import Said, say

MOST_OPERATORS = 60_000_000
DEEPEST = 14


@dataclass(frozen=True)
class PageFinds:
    """What another process found on a page that shares nothing with others.

    content : the rewritten stream, None where it stays; known : objects by what makes them equal.
    """

    content: bytes | None
    known: list[tuple[tuple[object, ...], Item]]
    notes: list[Unhandled]
    fonts: set[str]
    transparent: Said | None
    operators: int
    sightings: list[Sighting]


class FoundElsewhere(Protocol):
    """Where pages may have been walked already."""

    def page(self, number: int) -> PageFinds | None: ...


class DocumentWalk:
    """Walks pages, forms, patterns, Type 3 glyphs and annotations. `apply` rewrites what changes;
    `weighs` finds out how large it would become, and how far colours move."""

    def __init__(
        self, pdf: pikepdf.Pdf, painter: Painter, *, apply: bool, weighs: bool = False,
        shelf: Shelf | None = None,
    ) -> None:  # fmt: skip
        self.pdf = pdf
        self.shelf = shelf
        """where large streams that were made wait for the document to be saved, None for in memory"""
        checks = painter.policy.checks
        self.watch = Watch(checks) if checks else None
        """None where the policy makes no checks"""
        self.painter = painter
        self.apply = apply
        self.weighs = weighs
        self.differences = Differences(painter.mapper)
        self.tones = (
            None if painter.tells_apart or painter.mapper.family not in FILL else Tones(painter)
        )
        """None where a colour alone does not say what becomes of it, or what is to be written"""
        self.pictures = Pictures(self)
        self._ahead = ReadAhead(self)
        self.items: list[Item] = []
        """of the page at hand"""
        policy = painter.policy
        apart = (policy.tells_text, any(r.objects == "line art" for r in policy.rules))
        self.found = Findings(policy.tac, self.watch, apart)
        self._page_at_hand = 0
        self.operators = 0
        self.transparent: dict[int, Said] = {}
        """pages with transparency, and the first thing that makes it"""
        self.fonts: set[str] = set()
        self.converted: dict[tuple[int, int], tuple[object, ...]] = {}
        """shadings that were put in place by this walk, and under which variant of the rules"""
        self._forms: dict[tuple[int, int], Variants] = {}
        """forms that were walked"""
        self.transfers = Transfers()
        self._mirrored: set[tuple[int, int]] = set()
        self.known: dict[tuple[object, ...], Item | Met] = {}

    @property
    def page(self) -> int:
        """The number of the page at hand, from 1; rules go by it."""
        return self._page_at_hand

    @page.setter
    def page(self, number: int) -> None:
        self._page_at_hand = number
        self.painter.page = number
        self.painter.layers = ()

    @cached_property
    def target(self) -> Any:
        """The destination's space as the document names it: a device's name, or DeviceN of its inks."""
        mapper = self.painter.mapper
        if mapper.family != "inks":
            return pikepdf.Name(f"/{self.painter.target_name}")
        inks = ink_names(mapper.destination)
        return self.pdf.make_indirect(device_n(self.pdf, inks, mapper.destination))

    def pages(self, elsewhere: FoundElsewhere | None = None) -> Iterator[int]:
        """Walk page after page; yields the number of each when it is done."""
        for number, page in enumerate(self.pdf.pages, 1):
            self.page = number
            self._page(page, elsewhere.page(number) if elsewhere is not None else None)
            self.differences.close()
            self.found.close_page(self.items)
            self.begin_page()
            yield number
        self.pictures.finish()

    def begin_page(self) -> None:
        """Forget the objects of the page before."""
        self.items = []
        self.known.clear()

    def _take(self, page: pikepdf.Page, resources: Any, finds: PageFinds) -> None:
        """Make a page's findings one's own."""
        self.count(finds.operators)
        self.fonts |= finds.fonts
        for found in finds.notes:
            self.found.note(found)
        if finds.transparent is not None:
            self.see_through(finds.transparent)
        if self.watch is not None:
            self.watch.take(finds.sightings)
        for key, item in finds.known:
            self.known[key] = item
            self.items.append(item)
        if finds.content is not None and self.apply:
            add_overprint_states(resources, finds.content)
            add_kept_defaults(resources, finds.content)
            if INK_SPACE.encode() in finds.content:
                add_ink_space(resources, self.target)
            self._write(page, finds.content)

    def _write(self, page: pikepdf.Page, data: bytes) -> None:
        packed = zlib.compress(data)
        page.Contents = pikepdf.Stream(self.pdf, packed, Filter=pikepdf.Name.FlateDecode)

    def _page(self, page: pikepdf.Page, finds: PageFinds | None) -> None:
        resources = inherited(page, "/Resources")
        if resources is None:
            resources = pikepdf.Dictionary()
            page.obj["/Resources"] = resources
        elif "/Resources" not in page.obj:
            page.obj["/Resources"] = resources
        if "/Group" in page.obj:
            self._group(page.obj)
        try:
            if finds is not None:
                self._take(page, resources, finds)
            else:
                data = ContentWalk(self, resources, State()).run(page, self._ahead.page(self.page))
                if data is not None and self.apply:
                    self._write(page, data)
        except (CoreError, *UNREADABLE) as error:
            self._refuse_or_note("page", error)
        try:
            annotations: Any = page.obj.get("/Annots", [])
            for annotation in annotations:
                self._annotation(annotation)
        except (CoreError, *UNREADABLE) as error:
            self._refuse_or_note("annotation", error)
        self._group_of_page(page)
        if self.apply and self.painter.policy.mirror:
            mirror_page(self.pdf, page, resources, self._mirrored)

    def _annotation(self, annotation: Any) -> None:
        if isinstance(annotation, pikepdf.Dictionary):
            self.painter.layers = names_of(annotation.get("/OC"))
        try:
            self._looks(annotation)
        finally:
            self.painter.layers = ()

    def _looks(self, annotation: Any) -> None:
        shown: Any = annotation.get("/AP") if isinstance(annotation, pikepdf.Dictionary) else None
        looks: Any = shown.get("/N") if isinstance(shown, pikepdf.Dictionary) else None
        if looks is None and isinstance(annotation, pikepdf.Dictionary):
            self._bare_annotation(annotation)
        elif isinstance(looks, pikepdf.Stream):
            self.form(looks, None, State())
        elif isinstance(looks, pikepdf.Dictionary):
            for look in looks.values():
                if isinstance(look, pikepdf.Stream):
                    self.form(look, None, State())

    def _bare_annotation(self, annotation: Any) -> None:
        """An annotation that viewers draw by its colours: three numbers are RGB, and become inks."""
        for key in ("/C", "/IC"):
            colour = annotation.get(key)
            if not isinstance(colour, pikepdf.Array) or len(colour) != 3:
                continue
            if self.painter.mapper.family != "CMYK":
                continue
            values = tuple(numbers(colour))
            after = ContentWalk(self, pikepdf.Dictionary(), State()).result(RGB, values, "vectors")
            number, rule = self.painter.rule("vectors", RGB)
            self.add(
                Item(
                    self.page, "vector", "RGB", "DeviceRGB", "", self.painter.origin(RGB), number,
                    rule.action, values=shown_values("RGB", values),
                    after=shown_values("CMYK", after) if after else shown_values("RGB", values),
                    outcome=self.painter.target_name if after else "DeviceRGB",
                ),
                ("annotation", key, values),
            )  # fmt: skip
            if after is not None and self.apply:
                annotation[key] = pikepdf.Array([number_of(v) for v in after])

    def form(self, form: Any, parent: Any, state: State, depth: int = 0) -> None:
        """A pattern's cell, a glyph or an annotation's look; each is walked once, for the first place that
        uses it."""
        known = self._forms.get(form.objgen) if form.objgen != (0, 0) else None
        if known is None:
            self._first(form, parent, state, depth)
        elif self.painter.variant not in known.made:
            self.note("form", say("document.two-layers"))

    def placed_form(self, form: Any, parent: Any, state: State, depth: int = 0) -> Any:
        """A form that a stream places; what is to stand in its place. It is walked once, and a copy of it
        once for each other way in which rules have it printed."""
        known = self._forms.get(form.objgen) if form.objgen != (0, 0) else None
        if known is None:
            self._first(form, parent, state, depth)
            return form
        variant = self.painter.variant
        if variant in known.made:
            return known.made[variant]
        if len(known.made) >= MOST_VARIANTS:
            self.note("form", say("document.two-layers"))
            return form
        own = known.original.copy(self.pdf) if known.original is not None else form
        known.made[variant] = own
        self._walk_form(own, parent, state, depth)
        return own

    def _first(self, form: Any, parent: Any, state: State, depth: int) -> None:
        policy = self.painter.policy
        varies = self.apply and (policy.tells_layers or policy.transfer == "apply")
        original = Original.of(form) if varies else None
        self._forms[form.objgen] = Variants(original, {self.painter.variant: form})
        self._walk_form(form, parent, state, depth)

    def _walk_form(self, form: Any, parent: Any, state: State, depth: int) -> None:
        if depth > DEEPEST:
            raise BadDocument(say("document.forms-deep"))
        resources = form.get("/Resources", parent)
        if resources is None:
            resources = pikepdf.Dictionary()
        if "/Group" in form:
            self._group(form)
        matrix = matrix_of(form.get("/Matrix"))
        inner = state.changed(ctm=multiply(matrix, state.ctm))
        try:
            data = ContentWalk(self, resources, inner, depth + 1).run(form)
        except (CoreError, *UNREADABLE) as error:
            self._refuse_or_note("form", error)
            return
        if data is not None and self.apply:
            form.write(zlib.compress(data), filter=pikepdf.Name.FlateDecode)
            if "/Resources" not in form:
                form["/Resources"] = resources

    def _group(self, holder: Any) -> None:
        """The space that a transparency group blends in follows the destination."""
        group = holder["/Group"]
        if not isinstance(group, pikepdf.Dictionary) or str(group.get("/S", "")) != "/Transparency":
            return
        self.see_through(say("document.group"))
        if "/CS" not in group:
            self._name_space(group)
            return
        try:
            space = read_space(group["/CS"], holder.get("/Resources"))
        except (CoreError, *UNREADABLE) as error:
            self._refuse_or_note("transparency group", error)
            return
        chosen = self.painter.policy.group_space
        # What it is mixed in goes through no transfer function.
        through, self.painter.transfer = self.painter.transfer, None
        changed = (
            self.painter.changes(space, "vectors") if chosen == "rules" else chosen == "destination"
        )
        self.painter.transfer = through
        name = self._blend_space
        self.add(
            Item(
                self.page, "group", space.family, space.label, self.painter.profile_name(space), "", 0,
                "convert" if changed else "leave", outcome=name if changed else space.label,
            ),
            ("group", space.key),
        )  # fmt: skip
        if changed and self.apply:
            group["/CS"] = pikepdf.Name(f"/{name}")

    @property
    def _blend_space(self) -> str:
        """What groups blend in: never DeviceN; inks beyond CMYK are kept apart (ISO 32000-2, 11.7.3)."""
        return self.painter.target_name.replace("DeviceN", "DeviceCMYK")

    def _name_space(self, group: Any) -> None:
        """A group that names no space blends in its parent's; the page's own has no parent."""
        if self.painter.policy.group_space != "destination":
            return
        self.add(
            Item(
                self.page, "group", "none", "none", "", "", 0, "convert", outcome=self._blend_space
            ),
            ("group", "none"),
        )
        if self.apply:
            group["/CS"] = pikepdf.Name(f"/{self._blend_space}")

    def _group_of_page(self, page: pikepdf.Page) -> None:
        """A page with transparency blends in the destination's space where the policy says so."""
        wanted = self.painter.policy.group_space == "destination"
        if not wanted or "/Group" in page.obj or self.page not in self.transparent:
            return
        group = pikepdf.Dictionary(Type=pikepdf.Name.Group, S=pikepdf.Name.Transparency)
        self._name_space(group)
        if self.apply:
            page.obj["/Group"] = group

    def add(self, item: Item, key: tuple[object, ...]) -> None:
        """Keep an item; equal ones of a page are counted together."""
        whole = (item.page, *key)
        known = self.known.get(whole)
        if known is None:
            self.known[whole] = item
            self.items.append(item)
            return
        known.count += 1
        known.box = union(known.box, item.box)

    def meet(self, paint: Paint, kind: str, box: Box | None) -> None:
        """Keep or count an object in a colour that was set by a tone."""
        tone: Tone = paint.tone
        key = (self._page_at_hand, kind, paint.space.key, paint.values, tone.shared.rule)
        known = self.known.get(key)
        if known is not None:
            known.count += 1
            known.box = union(known.box, box)
            return
        if self.found.full and not self.weighs:
            met = self.known[key] = Met(tone, kind, box)
            self.found.met.append(met)
            return
        item = self.known[key] = tone.item(self._page_at_hand, kind, box)
        self.items.append(item)
        if self.weighs:
            self.differences.note(item, paint.space, paint.values, tone.became)

    def again(self, key: tuple[object, ...], box: Box | None) -> bool:
        """Count one more of an item this page has already; False where it is the first."""
        known = self.known.get((self.page, *key))
        if known is None:
            return False
        known.count += 1
        known.box = union(known.box, box)
        return True

    def note(self, kind: str, reason: Said) -> None:
        """List something that is left as it is; the same thing once a page."""
        self.found.note(Unhandled(self.page, kind, reason))

    def see_through(self, what: Said) -> None:
        """Note transparency on the page at hand."""
        self.transparent.setdefault(self.page, what)

    def count(self, operators: int) -> None:
        self.operators += operators
        if self.operators > MOST_OPERATORS:
            raise BadDocument(say("document.operators-many"))

    def _refuse_or_note(self, kind: str, error: Exception) -> None:
        if isinstance(error, PolicyStop | BadRecipe):
            raise error
        if isinstance(error, CoreError):
            self.note(kind, error.said)
        else:
            self.note(kind, say("document.damaged"))
