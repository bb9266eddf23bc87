"""Sheets of a printer that takes RGB and makes its inks itself: the numbers that arrive at its driver."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np

from plinto_core.document.pdf.opening import is_pdf
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.runs.picture_policy import plan_for
from plinto_core.document.runs.run import run_policy
from plinto_core.document.views.picture_views import small_picture
from plinto_core.document.views.render import render_page
from plinto_core.document.views.separations import PagePlates
from plinto_core.icc.profile import Profile
from plinto_core.imaging.reader import open_picture
from plinto_core.recipes.sources import Resolve

RGB_NAMES = ("R", "G", "B")


@contextmanager
def rgb_sheets(
    path: Path, press: Profile, resolve: Resolve, *, edge: int
) -> Iterator[Callable[[int], PagePlates]]:
    """Gives a page's (height, width, 3) numbers in the printer's RGB, and its size in points, by its number.

    Colours without a profile are the printer's own; all others go to it relative colorimetric, a document's
    once for all its pages.
    """
    policy = OutputPolicy(
        name="To the driver", destination="press", sources={"RGB": "press"}, profile_in=False,
        output_intent=False, rules=(Rule(action="convert"),),
    )  # fmt: skip

    def find(reference: str) -> Profile:
        return press if reference == "press" else resolve(reference)

    if not is_pdf(path):
        yield lambda number: _picture(path, policy, find, edge)
        return
    with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
        made = Path(folder) / "made.pdf"
        run_policy(policy, path, made, find)
        yield lambda number: PagePlates(RGB_NAMES, *render_page(made, number, edge))


def _picture(path: Path, policy: OutputPolicy, find: Resolve, edge: int) -> PagePlates:
    with open_picture(path) as picture:
        plan = plan_for(policy, picture.facts, find)
        small, size = small_picture(picture, edge)
    found = plan.pixels(small, 8)
    return PagePlates(RGB_NAMES, np.ascontiguousarray(found[..., :3]), size)
