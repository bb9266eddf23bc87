"""The plates of a page: how much of each ink lies where, spot colours too (ISO 32000-2, 8.6.6).

The renderer knows three channels of light. A copy of the page is made whose colours are three plates
at a time, one minus ink each, so that objects cover and shine through one another plate by plate as
they do on the press. Overprint is not simulated: what lies below a plate's object is knocked out.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.document.pdf.opening import open_document
from plinto_core.document.pdf.spaces import ColourSpace, is_process
from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.runs.run import run_policy
from plinto_core.document.views.press_view import one_page, plates_function
from plinto_core.document.views.render import LARGEST, page_size, render_page
from plinto_core.document.walking.walk import DocumentWalk
from plinto_core.errors import NotSupported
from plinto_core.icc.colorants import ink_names, long_name
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.recipes.sources import Resolve
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import Said, say

MOST_SPOTS = 12
MOST_EDGE = 6000
"""Pixels of the longer edge of a page that is proofed."""


@dataclass(frozen=True)
class PagePlates:
    """names : the press's inks, then spot colours; ink : (height, width, plates) uint8, 255 a full
    tint; size : of the page in points; notes : what the plates do not show."""

    names: tuple[str, ...]
    ink: Pixels
    size: tuple[float, float]
    notes: tuple[Said, ...] = ()

    @property
    def coverage(self) -> dict[str, float]:
        """Mean share of each ink over the page, 0..1."""
        means = self.ink.reshape(-1, len(self.names)).mean(axis=0) / 255
        return {n: round(float(m), 5) for n, m in zip(self.names, means, strict=True)}

    @property
    def total(self) -> Floats:
        """(height, width) total area coverage in percent."""
        return np.asarray(self.ink.sum(axis=2, dtype=np.float64) * (100 / 255))


class _PlateMapper(ColourMapper):
    """Colours as three of the plates; `inner` gives the press's inks for what is not inks yet."""

    def __init__(
        self, policy: OutputPolicy, resolve: Resolve, inner: ColourMapper, plates: tuple[str, ...],
        group: slice, *, named: bool,
    ) -> None:  # fmt: skip
        super().__init__(policy, standard_profile("srgb"), resolve)
        self.inner, self.plates, self.group, self.named = inner, plates, group, named

    def keeps(self, space: ColourSpace) -> bool:
        return False

    def prints(self, space: ColourSpace) -> bool:
        return self.inner.prints(space)

    def function(self, space: ColourSpace, rule: Rule, intent: str) -> Callable[[Floats], Floats]:
        whole = self._all(space, rule, intent)

        def light(values: Floats) -> Floats:
            ink = whole(values)[:, self.group]
            out = np.ones((values.shape[0], 3))
            out[:, : ink.shape[1]] = 1 - np.clip(ink, 0, 1)
            return out

        return light

    def _all(self, space: ColourSpace, rule: Rule, intent: str) -> Callable[[Floats], Floats]:
        """(n, channels) values to (n, plates) inks 0..1."""
        count = len(self.plates)
        if space.family == "spot" and (
            self.named or self.prints(space) or all(map(is_process, space.names))
        ):
            return lambda values: self._named(space.names, values)
        plates = plates_function(self.inner, space)
        inks = self.inner.function(space, rule, intent) if plates is None else plates

        def process(values: Floats) -> Floats:
            out = np.zeros((values.shape[0], count))
            out[:, : len(self.inner.inks)] = inks(values)
            return out

        return process

    def _named(self, names: tuple[str, ...], values: Floats) -> Floats:
        out = np.zeros((values.shape[0], len(self.plates)))
        for i, name in enumerate(names):
            if name == "All":
                out = np.maximum(out, values[:, i : i + 1])
            elif name in self.plates:
                out[:, self.plates.index(name)] = values[:, i]
        return out


def page_plates(
    path: Path, number: int, policy: OutputPolicy, resolve: Resolve, *, edge: int = 800
) -> PagePlates:
    """The plates of a page (from 1) after a policy; raises PolicyStop, BadDocument, NotSupported.

    edge : pixels of the longer edge. Whatever the policy leaves in RGB or Lab is taken to the
    press's inks by the relative colorimetric intent, as a note says.
    """
    with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
        single, printed = Path(folder) / "page.pdf", Path(folder) / "printed.pdf"
        press, report = _printed(path, number, policy, resolve, single, printed)
        return plates_of(printed, 1, press, resolve, edge=edge, left=_left(report))


def page_inks(
    path: Path, number: int, policy: OutputPolicy, resolve: Resolve, *, resolution: float = 300.0
) -> tuple[PagePlates, float, Profile]:
    """The process plates of a page after a policy for a proof, their pixels an inch, and the press.

    Spot colours that the policy leaves are in the process inks by their own stand-in colours: a proofer
    has no plate for them. Pages of more than 6,000 pixels get fewer pixels an inch.
    """
    width, height = page_size(path, number)
    edge = round(max(width, height) / 72 * resolution)
    with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
        single, printed = Path(folder) / "page.pdf", Path(folder) / "printed.pdf"
        press = _printed(path, number, policy, resolve, single, printed)[0]
        plates = plates_of(
            printed, 1, press, resolve, edge=min(edge, MOST_EDGE), spots=False, most=MOST_EDGE
        )
    return plates, plates.ink.shape[1] / plates.size[0] * 72, press


def _printed(
    path: Path, number: int, policy: OutputPolicy, resolve: Resolve, single: Path, printed: Path
) -> tuple[Profile, PolicyReport]:
    intent = one_page(path, number, single)
    press = intent if policy.own_intent and intent is not None else resolve(policy.destination)
    if not is_subtractive(press.colour_space):
        raise NotSupported(say("document.no-plates"))
    return press, run_policy(policy.on_page(number), single, printed, resolve)


def _left(report: PolicyReport) -> tuple[Said, ...]:
    spaces = {
        f.space for f in report.flow if f.outcome in ("DeviceRGB", "Lab", "ICCBased", "CalRGB")
    }
    if not spaces:
        return ()
    return (say("document.spaces-left", spaces=" and ".join(sorted(spaces))),)


def plates_of(
    path: Path, number: int, press: Profile, resolve: Resolve, *, edge: int = 800, left: tuple[Said, ...] = (),
    spots: bool = True, most: int = LARGEST,
) -> PagePlates:  # fmt: skip
    """The plates of a page as it stands in a document made for `press`.

    spots : spot colours have plates of their own, else they are in the process inks; most : pixels of
    the longer edge at most.
    """
    with open_document(path) as pdf:
        nothing = OutputPolicy(name="Spots", destination="srgb")
        finder = ColourMapper(nothing, standard_profile("srgb"), resolve)
        walk = DocumentWalk(pdf, Painter(nothing, finder), apply=False)
        for _ in walk.pages():
            pass
        found = sorted(n for n in walk.found.spots if not is_process(n)) if spots else []
    notes = list(left)
    if len(found) > MOST_SPOTS:
        notes.append(say("document.spots-shown", most=MOST_SPOTS, count=len(found)))
    inks = tuple(long_name(n) for n in ink_names(press))
    found = [n for n in found if n not in inks]
    names = (*inks, *found[:MOST_SPOTS])
    parts, size = [], (0.0, 0.0)
    for start in range(0, len(names), 3):
        group = slice(start, min(start + 3, len(names)))
        copy = _copy(path, press, resolve, names, group, named=spots)
        pixels, size = render_page(copy, number, edge, most=most)
        parts.append(255 - pixels[..., : min(3, len(names) - start)])
    return PagePlates(names, np.concatenate(parts, axis=2), size, tuple(notes))


def _copy(
    path: Path,
    press: Profile,
    resolve: Resolve,
    names: tuple[str, ...],
    group: slice,
    *,
    named: bool,
) -> bytes:
    """The document with three plates in place of its colours."""
    known = {"press": press}

    def find(reference: str) -> Profile:
        return known.get(reference) or resolve(reference)

    rule = {"action": "convert", "intent": "relative", "bpc": True}
    common = {
        "name": "Plates",
        "sources": {"CMYK": "press"} if press.colour_space == "CMYK" else {},
        "rules": [rule],
        "output_intent": False,
    }
    policy = OutputPolicy.model_validate({**common, "destination": "srgb"})
    inks = OutputPolicy.model_validate({**common, "destination": "press"})
    mapper = _PlateMapper(policy, find, ColourMapper(inks, press, find), names, group, named=named)
    with open_document(path) as pdf:
        walk = DocumentWalk(pdf, Painter(policy, mapper), apply=True)
        for _ in walk.pages():
            pass
        with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
            target = Path(folder) / "plates.pdf"
            pdf.save(target)
            return target.read_bytes()


@dataclass(frozen=True)
class TacFigures:
    """highest, mean : percent; over : share of the page above `limit`, 0..1."""

    highest: float
    mean: float
    over: float
    limit: float | None = field(default=None)


def tac_figures(plates: PagePlates, limit: float | None) -> TacFigures:
    """Total area coverage over a page; the rounding of four 8-bit plates (0.8 %) is
    not counted as above the limit."""
    total = plates.total
    over = 0.0 if limit is None else float((total > limit + 0.8).mean())
    return TacFigures(
        round(float(total.max()), 1), round(float(total.mean()), 2), round(over, 5), limit
    )
