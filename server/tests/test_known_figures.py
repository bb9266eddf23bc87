"""Figures under all intents are measured once, and anew as soon as anything that decides them changes."""

from __future__ import annotations

import json
from dataclasses import replace

import pytest

from plinto_core.recipes import parse_recipe
from plinto_core.recipes.pixel_path import PixelPath
from plinto_server.apps.jobs import figures
from plinto_server.apps.jobs.links import path_of
from plinto_server.apps.jobs.models import Destination

LEFT = {"corners": [[0, 0], [50, 0], [50, 100], [0, 100]]}
RULES = {"tac": 280, "black": {"method": "gcr"}}


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


def ask(client, destination: int, what: str, **changes) -> list:
    query = {"changes": json.dumps(changes)} if changes else {}
    answer = client.get(f"/api/destinations/{destination}/{what}", query)
    assert answer.status_code == 200, answer.content
    return answer.json()


@pytest.mark.parametrize("what", ["fit", "intents"])
def test_choosing_an_intent_measures_nothing_again(client, destination, what, monkeypatch) -> None:
    first = ask(client, destination, what)
    monkeypatch.setattr(figures, "delta_e_2000", None)
    monkeypatch.setattr(figures, "fits", None)
    assert ask(client, destination, what) == first
    assert ask(client, destination, what, intent="absolute") == first
    assert (
        ask(client, destination, what, corrections=[{"name": "kept apart", "on": False}]) == first
    )


CHANGES = [
    {"corrections": [{"lightness": -50}]}, {"negative": True}, {"ink_rules": {"tac": 110}},
    {"perceptual": {"kind": "faithful", "colourfulness": -30}},
]  # fmt: skip
IN_A_REGION = {"corrections": [{"lightness": -50, "region": LEFT}]}


@pytest.mark.parametrize(
    ("what", "changes"),
    [("intents", IN_A_REGION), *((w, c) for w in ("fit", "intents") for c in CHANGES)],
)
def test_what_decides_colours_measures_anew(client, destination, what, changes) -> None:
    before = [f["de00_mean"] for f in ask(client, destination, what)]
    assert [f["de00_mean"] for f in ask(client, destination, what, **changes)] != before


def test_bpc_decides_the_figures_of_intents_and_is_one_of_the_advice_s_choices(
    client, destination, monkeypatch
) -> None:
    with_it = ask(client, destination, "intents", bpc=True)
    assert ask(client, destination, "intents", bpc=False) != with_it
    advice = ask(client, destination, "fit", bpc=True)
    assert (len(with_it), len(advice)) == (4, 7)
    monkeypatch.setattr(figures, "fits", None)
    assert ask(client, destination, "fit", bpc=False) == advice


def test_two_conditions_and_two_pictures_have_figures_of_their_own(
    client, job, monkeypatch
) -> None:
    one, other = (d["id"] for d in job["destinations"])
    assert ask(client, one, "fit") != ask(client, other, "fit")
    first = ask(client, one, "intents")
    assert first != ask(client, other, "intents")
    known = Destination.objects.get(pk=one)
    recipe = parse_recipe(known.recipe)
    assert figures.intent_figures(known, recipe) == first
    monkeypatch.setattr(figures, "_intent_figures", lambda *_: [])
    assert figures.intent_figures(known, recipe) == first
    known.job.artwork.sha256 = "of another picture"
    assert figures.intent_figures(known, recipe) == []


def test_the_key_of_a_path_names_its_regions_and_their_black(job) -> None:
    destination = Destination.objects.get(pk=job["destinations"][0]["id"])

    def key(**changes) -> str:
        return path_of(destination, parse_recipe({**destination.recipe, **changes})).key

    def region(**changes) -> str:
        return key(ink_rules=RULES, corrections=[{"region": LEFT, "chroma": 20, **changes}])

    kinds = [
        key(ink_rules=RULES), region(), region(chroma=21), region(black={"method": "none"}),
        region(region={**LEFT, "softness": 5}), key(ink_rules=RULES, bpc=False),
    ]  # fmt: skip
    assert len(set(kinds)) == len(kinds)
    assert region(name="sky") == region()
    assert region(on=False) == key(ink_rules=RULES)
    whole = path_of(destination, parse_recipe(destination.recipe))
    assert PixelPath(replace(whole.route, intent="absolute")).key != whole.key
