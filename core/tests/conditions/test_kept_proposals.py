"""Conditions proposed from presses made by hand, with the reasons that are given."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import (
    cmyk_profile,
    ink_profile,
    linear_inks,
    linear_press,
    linear_print,
    simple_print,
)
from kept import as_kept

from plinto_core.conditions.proposal import propose
from plinto_core.errors import BadProfile
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import standard_profile


def losing(least: float) -> Profile:
    """A press whose tints below `least` do not print."""

    def printed(inks):
        return linear_print(np.where(inks < least, 0, inks))

    return cmyk_profile(printed, linear_inks, grid=21, back_grid=9, name="Made by hand")


def dark() -> Profile:
    """White paper, deep black: what inkjet on coated media prints."""
    return cmyk_profile(
        lambda inks: np.stack([97 - 93 * inks[:, 3] * 0.99, 40 * inks[:, 1], 40 * inks[:, 2]], axis=1),
        lambda lab: np.stack([0 * lab[:, 0], np.clip(lab[:, 1] / 40, 0, 1), np.clip(lab[:, 2] / 40, 0, 1), np.clip((97 - lab[:, 0]) / 92, 0, 1)], axis=1),
        back_grid=9, name="Made by hand",
    )  # fmt: skip


PROFILES = {
    "linear": linear_press,
    "flexo by name": lambda: linear_press("Flexo film, 2 up"),
    "transfer by name": lambda: linear_press("Sublimation polyester"),
    "lost tints": lambda: losing(0.06),
    "few lost tints": lambda: losing(0.006),
    "many lost tints": lambda: losing(0.28),
    "dark": dark,
    "three inks": lambda: ink_profile(3, lambda v: simple_print(np.hstack([v, v[:, :1] * 0.5])), lambda lab: np.clip(np.stack([1 - lab[:, 0] / 100] * 3, axis=1), 0, 1), back_grid=5),
    "no black": lambda: cmyk_profile(linear_print, lambda lab: linear_inks(lab) * [1, 1, 1, 0], back_grid=9),
    "RGB": lambda: standard_profile("p3"),
    "grey": lambda: standard_profile("grey"),
}  # fmt: skip


@pytest.mark.parametrize("name", PROFILES)
def test_proposals(name) -> None:
    profile = PROFILES[name]()
    try:
        found = propose(profile)
    except BadProfile as error:
        as_kept(f"conditions/{name.replace(' ', '-')}", [error.said.code])
        return
    kept = {
        "condition": found.condition.model_dump(mode="json"),
        "reasons": {k: [v.code, v.values] for k, v in found.reasons.items()},
    }
    as_kept(f"conditions/{name.replace(' ', '-')}", kept, rel=3e-3, abs=0.06)
