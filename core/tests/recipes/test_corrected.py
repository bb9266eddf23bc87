"""The recipe that writes the corrected artwork: what stays of the artwork, what goes with the press."""

from __future__ import annotations

from plinto_core.recipes import parse_recipe
from plinto_core.recipes.corrected import brought_back, corrected_recipe

LEFT = {"corners": [[0, 0], [50, 0], [50, 100]], "softness": 0}
FULL = {
    "destination": "press", "source": "romm", "arrival": "srgb", "negative": True, "page": 2,
    "extra_channels": "leave out", "numbers": "separate", "intent": "saturation", "bpc": False,
    "vivid": {"strength": 20}, "before": "table",
    "plates": {"K": {"minimum": 5}}, "after": "other",
    "ink_rules": {"tac": 200},
    "corrections": [
        {"lightness": 10, "region": LEFT, "black": {"method": "gcr", "strength": 80}},
        {"chroma": 5, "on": False},
    ],
    "delivery": {"mirror": True, "turn": 90, "format": "PDF", "bits": 8, "width_mm": 40, "films": {}},
}  # fmt: skip


def test_what_is_of_the_artwork_stays_and_the_press_goes() -> None:
    made = corrected_recipe(parse_recipe(FULL), "space")
    data = made.model_dump(mode="json")
    for kept in ("source", "arrival", "negative", "page", "extra_channels", "before"):
        assert data[kept] == FULL[kept]
    assert made.vivid.strength == 20
    assert (made.destination, made.numbers, made.intent, made.bpc) == (
        "space", "keep", "relative", True,
    )  # fmt: skip
    assert (made.ink_rules, made.plates, made.after, made.link) == (None, {}, None, None)
    assert [(c.lightness, c.chroma, c.on, c.black) for c in made.corrections] == [
        (10, 0, True, None),
        (0, 5, False, None),
    ]
    delivery = made.delivery
    assert (delivery.format, delivery.bits, delivery.mirror, delivery.turn) == (
        "TIFF",
        16,
        False,
        0,
    )
    assert (delivery.width_mm, delivery.films, delivery.negative) == (None, None, False)


def test_a_device_link_of_the_press_goes_too() -> None:
    linked = parse_recipe({"destination": "press", "link": "a link"})
    assert corrected_recipe(linked, "space").link is None


def test_corrections_that_are_in_the_picture_are_turned_off_and_kept() -> None:
    changes = brought_back(parse_recipe(FULL))
    assert (changes["vivid"], changes["before"], changes["negative"]) == (None, None, False)
    assert [(c["on"], c["lightness"]) for c in changes["corrections"]] == [(False, 10), (False, 0)]
    again = parse_recipe({**FULL, **changes})
    assert again.ink_rules.tac == 200
    assert again.corrections[0].black is not None
