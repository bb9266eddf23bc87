"""Conditions: what a profile proposes, and the file they travel in."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import cmyk_profile, simple_print, tinting_profile

from plinto_core.conditions import pack_condition, parse_condition, propose, unpack_condition
from plinto_core.conditions.file import looks_like_condition
from plinto_core.errors import BadInput, BadProfile, BadRecipe
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import standard_profile


def test_a_profile_proposes_what_its_tables_reach(coated, coated_rules) -> None:
    found = propose(coated)
    rules = found.condition.ink_rules
    assert coated_rules.tac - 1 <= rules.tac <= coated_rules.tac
    assert rules.black.limit == pytest.approx(coated_rules.black.limit, abs=1)
    assert found.condition.process == "offset"
    assert set(found.reasons) >= {"process", "tac", "black"}
    assert found.solids["paper"][0] > 90


@pytest.mark.parametrize(
    ("name", "process"),
    [
        ("Corrugated flexo, 40 lpc", "flexo"), ("Silk screen 55T", "screen"), ("Sublimation paper", "transfer"),
        ("Canvas matt", "inkjet"), ("Rotogravure, SC", "gravure"), ("Coldset", "offset"),
    ],
)  # fmt: skip
def test_the_process_follows_the_words_of_the_description(name, process) -> None:
    profile = cmyk_profile(
        simple_print, lambda lab: np.zeros((len(lab), 4)), name=name, back_grid=5
    )
    found = propose(profile)
    assert found.condition.process == process
    assert found.condition.mirror == (process == "transfer")
    assert "description" in found.reasons["process"]


def test_lost_tints_point_to_flexo_and_become_the_least_dot() -> None:
    solids = np.array(
        [[0.15, 0.22, 0.5], [0.32, 0.16, 0.2], [0.68, 0.73, 0.07], [0.02, 0.02, 0.017]]
    )
    profile = tinting_profile(lambda t: np.clip((t - 0.06) / 0.94, 0, 1), solids)
    found = propose(profile)
    assert found.condition.process == "flexo"
    assert 6 <= found.condition.least_dot <= 7


def test_rgb_is_for_devices_that_take_it_and_links_are_refused() -> None:
    assert propose(standard_profile("p3")).condition.process == "display"
    paper = bytearray(standard_profile("p3").data)
    paper[12:16] = b"prtr"
    assert propose(Profile(bytes(paper))).condition.process == "photographic"
    assert propose(standard_profile("grey")).condition.ink_rules.tac == 100
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = b"abst"
    with pytest.raises(BadProfile, match="Choose an output profile"):
        propose(Profile(bytes(data)))


def test_a_file_brings_everything_back(coated) -> None:
    condition = parse_condition(
        {
            "name": "  House\t press ", "medium": "Äquator 90", "process": "screen", "least_dot": 3,
            "supplies": {"inks": {"C": {"film": 1.5, "price": 20}}, "currency": "CHF"}, "notes": "a\nb",
        }
    )  # fmt: skip
    assert condition.name == "House press"
    data = pack_condition(condition, coated.data)
    assert looks_like_condition(data)
    assert unpack_condition(data) == (condition, coated.data)


@pytest.mark.parametrize(
    "change",
    [
        {"name": ""}, {"name": "a\x07b"}, {"name": "x" * 101}, {"least_dot": 21}, {"least_dot": float("nan")},
        {"process": "x"}, {"supplies": {"inks": {"C": {"film": -1, "price": 0}}}}, {"more": 1},
    ],
)  # fmt: skip
def test_conditions_out_of_bounds_are_refused(change) -> None:
    with pytest.raises(BadRecipe, match="The printing condition is not usable"):
        parse_condition({"name": "x", **change})


@pytest.mark.parametrize(
    "data", [b"", b"{", b"[1]", b'{"kind": "x"}', b"\xff" * 50, b"[" * 100_000]
)
def test_other_files_are_no_conditions(data) -> None:
    with pytest.raises(BadInput):
        unpack_condition(data)


def test_a_file_is_text_that_people_can_read(coated) -> None:
    condition = propose(coated).condition.model_copy(update={"name": "Größe 3, gestrichen"})
    data = pack_condition(condition, coated.data)
    assert "Größe 3, gestrichen" in data.decode("utf-8")
    assert data.endswith(b"}\n")
    assert data.count(b"\n") > 5
    assert unpack_condition(data)[0].name == "Größe 3, gestrichen"
