"""What is said of every tag of profiles made by hand and of the standard ones."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from handmade import clutf, cvst, linear_press, matf, mpet, parf, with_tags
from kept import as_kept

from plinto_core.errors import BadProfile
from plinto_core.examination.inside import MEANINGS, content_of, tags_of
from plinto_core.examination.neutrals import runs
from plinto_core.icc import Profile, values
from plinto_core.transform.standard_spaces import standard_profile


def everything() -> Profile:
    straight = ((), (parf(0, 1, 1, 0, 0),))
    high = ((), (parf(0, 1, 3, 0, 0),))
    floats = mpet(4, 3, cvst(*[straight] * 4), clutf(np.full((2, 2, 2, 2, 3), 0.5)), matf(np.eye(3), np.zeros(3)), cvst(*[high] * 3))  # fmt: skip
    measured = (
        "CGATS.17\nNUMBER_OF_FIELDS 7\nBEGIN_DATA_FORMAT\nCMYK_C CMYK_M CMYK_Y CMYK_K LAB_L LAB_A LAB_B\n"
        "END_DATA_FORMAT\nNUMBER_OF_SETS 2\nBEGIN_DATA\n0 0 0 0 95 0 -2\n100 0 0 50 40 -20 -30.126\nEND_DATA\n"
    )
    return with_tags(
        linear_press(),
        {
            "D2B1": floats, "targ": values.pack_text(measured), "bkpt": values.pack_xyz(np.array([0.01, 0.012, 0.008])),
            "chad": values.pack_sf32(np.arange(9.0)), "odd1": values.pack_sf32(np.array([1.0, 2])), "priv": b"abcd" + bytes(range(16)),
            "dmnd": values.pack_desc("x" * 30_000), "vued": b"no",
        },
    )  # fmt: skip


def shortened(found: Any) -> Any:
    """Every eighth point of curves, the beginning of texts."""
    plain = found.model_dump(mode="json")
    plain["curves"] = {name: points[::8] for name, points in list(plain["curves"].items())[:8]}
    plain["text"] = [len(plain["text"]), plain["text"][:80]]
    return {k: v for k, v in plain.items() if v}


@pytest.mark.parametrize("name", ["made by hand", "srgb", "grey"])
def test_tags_and_what_they_hold(name) -> None:
    profile = everything() if name == "made by hand" else standard_profile(name)
    kept = {
        tag.name: [tag.model_dump(mode="json"), shortened(content_of(profile, tag.name))]
        for tag in tags_of(profile)
    }
    as_kept(f"examination/tags-{name.replace(' ', '-')}", kept, abs=2e-4)
    with pytest.raises(BadProfile):
        content_of(profile, "none")


def test_meanings() -> None:
    as_kept("examination/meanings", MEANINGS)


def test_runs_of_what_goes_down_again() -> None:
    as_kept("examination/runs", [[list(r) for r in runs(np.array(v, float), least)] for v, least in (
        ([5, 4, 6, 3, 4, 2, 7], 2), ([5, 4, 6, 3, 4, 2, 7], 1), ([0, 1, 2, 3], 3), ([0, 1, 2, 3], 3.1),
        ([-3, -1, -2, 0, -5], 1), ([-3, -1, -2, 0, -5], 2), ([1, 1, 1], 1),
    )], abs=0)  # fmt: skip
