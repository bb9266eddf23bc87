"""A page as its press prints it: a copy whose colours went through the destination to a screen.

The renderer draws only RGB of the screen's own space, so it never interprets inks itself.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.document.pdf.opening import open_document
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdfx.output_intent import read_output_intent
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.runs.run import run_policy
from plinto_core.document.walking.walk import DocumentWalk
from plinto_core.errors import BadDocument
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.recipes.route import ColourRoute
from plinto_core.recipes.sources import Resolve
from plinto_core.words import say


def plates_function(
    press: ColourMapper, space: ColourSpace, *, grey_is_ink: bool = True
) -> Callable[[Floats], Floats] | None:
    """(n, channels) numbers that go to the press's plates as they are to (n, inks): bare grey to its black,
    inks by their names, and bare CMYK to the plates of these names where it has others as well; None for
    what has a colour of its own."""
    bare = space.profile is None and space.calibration is None
    black = press.black_ink
    if space.family == "grey" and bare and grey_is_ink and black is not None:

        def grey(values: Floats) -> Floats:
            inks = np.zeros((values.shape[0], len(press.inks)))
            inks[:, black] = 1 - np.clip(values[:, 0], 0, 1)
            return inks

        return grey
    left = space.family == "CMYK" and bare and press.family == "inks"
    if not left and not press.prints(space):
        return None
    return lambda values: press.laid(space, values)


class _Proof(ColourMapper):
    """Inks of the press to the screen; bare grey is the press's black ink where `grey_is_ink`."""

    press: ColourMapper | None = None
    grey_is_ink = True

    def prints(self, space: ColourSpace) -> bool:
        return self.press is not None and self.press.prints(space)

    def function(self, space: ColourSpace, rule: Rule, intent: str) -> Callable[[Floats], Floats]:
        plates = (
            plates_function(self.press, space, grey_is_ink=self.grey_is_ink)
            if self.press is not None
            else None
        )
        if self.press is None or plates is None:
            return super().function(space, rule, intent)
        shown = ColourRoute(self.press.destination, self.destination, intent, rule.bpc)
        return lambda values: shown.inks(plates(values))


def page_as_printed(
    path: Path, number: int, policy: OutputPolicy, resolve: Resolve, *, screen: str = "srgb"
) -> bytes:
    """One page (from 1) under a policy, in the screen's RGB; raises PolicyStop, BadDocument."""
    with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
        single, printed = Path(folder) / "page.pdf", Path(folder) / "printed.pdf"
        intent = one_page(path, number, single)
        run_policy(policy.on_page(number), single, printed, resolve)
        press = intent if policy.own_intent and intent is not None else resolve(policy.destination)
        return _to_screen(printed, press, policy, resolve, screen)


def page_as_meant(
    path: Path, number: int, policy: OutputPolicy, resolve: Resolve, *, screen: str = "srgb"
) -> bytes:
    """One page with its own colours, as the policy understands them, in the screen's RGB."""
    with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
        single = Path(folder) / "page.pdf"
        one_page(path, number, single)
        kinds = ("images", "line art", "vectors", "text", "shadings")
        converts = any(policy.rule_for(kind, "grey", page=number)[1].converts for kind in kinds)
        return _to_screen(
            single, resolve(policy.destination), policy, resolve, screen,
            grey_is_ink=not converts,
        )  # fmt: skip


def one_page(path: Path, number: int, target: Path) -> Profile | None:
    """A document of one page; returns the whole document's output intent."""
    with open_document(path) as pdf, pikepdf.new() as single:
        if not 1 <= number <= len(pdf.pages):
            raise BadDocument(say("document.no-page", number=number))
        single.pages.append(pdf.pages[number - 1])
        single.save(target)
        return read_output_intent(pdf)


def _to_screen(
    path: Path,
    press: Profile,
    policy: OutputPolicy,
    resolve: Resolve,
    screen: str,
    *,
    grey_is_ink: bool = True,
) -> bytes:
    known = {"press": press}

    def find(reference: str) -> Profile:
        return known.get(reference) or resolve(reference)

    sources: dict[str, str] = {str(k): v for k, v in policy.sources.items()}
    if press.colour_space == "CMYK":
        sources["CMYK"] = "press"
    proof = OutputPolicy.model_validate(
        {
            "name": "Press view",
            "destination": screen,
            "sources": sources,
            "embedded": policy.embedded,
            "rules": [{"action": "convert", "intent": "relative", "bpc": False}],
            "output_intent": False,
        }
    )
    with open_document(path) as pdf:
        mapper = _Proof(proof, find(screen), find)
        if is_subtractive(press.colour_space):
            onto = OutputPolicy(name="Press", destination="press", embedded=policy.embedded)
            mapper.press = ColourMapper(onto, press, find)
            mapper.grey_is_ink = grey_is_ink
        walk = DocumentWalk(pdf, Painter(proof, mapper), apply=True)
        for _ in walk.pages():
            pass
        target = path.with_suffix(".screen")
        pdf.save(target)
        return target.read_bytes()
