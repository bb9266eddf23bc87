"""What a walk has found, summed up."""

from __future__ import annotations

import pytest

from plinto_core.document.pdf.items import Item, Unhandled
from plinto_core.document.walking import findings
from plinto_core.document.walking.findings import Findings
from plinto_core.words import say


def item(page: int = 1, kind: str = "vector", **changes) -> Item:
    return Item(page, kind, "RGB", "DeviceRGB", "", "", 1, "convert", **changes)


def test_objects_are_listed_up_to_a_bound_and_counted_beyond(monkeypatch) -> None:
    monkeypatch.setattr(findings, "MOST_ITEMS", 3)
    found = Findings(None)
    for page in (1, 2, 3):
        found.close_page([item(page), item(page)])
    assert [i.page for i in found.listed] == [1, 1, 2]
    assert found.left_out == 3
    assert sum(row.count for row in found.flow) == 6


def test_what_is_not_handled_is_listed_once_and_up_to_a_bound(monkeypatch) -> None:
    monkeypatch.setattr(findings, "MOST_UNHANDLED", 2)
    found = Findings(None)
    for page in (1, 1, 2, 3):
        found.note(Unhandled(page, "image", say("document.damaged")))
    assert [u.page for u in found.unhandled] == [1, 2]


@pytest.mark.parametrize(("total", "over"), [(300.5, 0), (300.6, 1), (None, 0)])
def test_a_total_is_over_by_more_than_half_a_percent(total, over) -> None:
    found = Findings(300.0)
    found.close_page([item(tac=350.0, tac_after=total), item(tac=20.0, tac_after=10.0)])
    assert found.over_tac == over
    assert (found.tac_before, found.tac_after) == (350.0, total if total else 10.0)


def test_colours_are_summed_up_by_how_many_objects_they_are_of() -> None:
    found = Findings(None)
    found.close_page([item(de00=1.0, count=95), item(de00=9.0, count=5), item(count=7)])
    colour = found.colour
    assert (colour.mean, colour.p95, colour.greatest) == (1.4, 1.0, 9.0)
    assert (colour.objects, colour.unknown, colour.of) == (100, 7, "objects")
    found.close_page([item(de00=9.0, count=1)])
    assert found.colour.p95 == 9.0


def test_images_are_counted_when_their_fate_is_known() -> None:
    found = Findings(None)
    image = item(kind="image")
    found.close_page([image])
    assert found.flow == ()
    found.count(image)
    assert [(row.objects, row.count) for row in found.flow] == [("images", 1)]
