"""What sets policies apart, in words and on documents."""

from __future__ import annotations

from plinto_core.document import parse_policy, template
from plinto_core.document.runs.compare import compare_on_document, compare_policies

STRICT = template("strict-press", "press", tac=300)
CONTENT = "1 0 0 rg 0 0 50 50 re f 0.3 0.3 0.3 rg 60 0 50 50 re f 0.1 0.2 0.3 0 k 120 0 50 50 re f"


def test_equal_policies_do_not_differ() -> None:
    assert compare_policies(STRICT, parse_policy(STRICT.model_dump(mode="json"))) == []


def test_rules_and_settings_are_named_with_both_sides() -> None:
    rules = (
        *STRICT.rules[:2],
        STRICT.rules[2].model_copy(update={"intent": "absolute", "bpc": False}),
    )
    changed = STRICT.model_copy(update={"rules": rules, "tac": 280.0, "name": "Another"})
    found = {d.where: (d.before, d.after) for d in compare_policies(STRICT, changed)}
    assert found["rule 3"] == (
        "everything in RGB: convert, relative, BPC", "everything in RGB: convert, absolute",
    )  # fmt: skip
    assert found["rule 6"] == ("everything in CMYK: leave", "")
    assert found["tac"] == ("300.0", "280.0")
    assert "name" not in found


def test_switches_are_said_in_words() -> None:
    off, on = (
        parse_policy({"destination": "press", "rules": [], "mirror": v}) for v in (False, True)
    )
    assert [(d.where, d.before, d.after) for d in compare_policies(off, on)] == [
        ("mirror", "no", "yes")
    ]


def test_builds_links_and_small_numbers_are_told_apart_in_words() -> None:
    def policy(builds, link=None, low=0):
        rule = {"space": "RGB", "action": "convert", "link": link}
        data = {
            "destination": "press",
            "rules": [rule],
            "builds": builds,
            "resolution": {"low": low},
        }
        return parse_policy(data)

    one = policy({"Sea": {"C": 80, "Y": 20.5}, "Flag": {"M": 90}})
    two = policy({"Sea": {"C": 80, "Y": 30}}, link="f" * 64, low=1)
    found = {d.where: (d.before, d.after) for d in compare_policies(one, two)}
    assert found == {
        "rule 1": ("everything in RGB: convert, relative, BPC",
                   "everything in RGB: convert, by the device link ffffffffffffffff"),
        "build of Sea": ("C 80, Y 20.5", "C 80, Y 30"),
        "build of Flag": ("M 90", ""),
        "resolution low": ("0.0", "1.0"),
    }  # fmt: skip


def test_only_objects_that_come_out_differently_are_counted(tmp_path, paper, resolve) -> None:
    path = paper.save(tmp_path / "in.pdf", CONTENT)
    greys = STRICT.model_copy(update={"greys_to_black": True})
    found = compare_on_document(STRICT, greys, path, resolve)
    assert (found.objects, found.changed) == (3, 1)
    (row,) = found.examples
    assert row.values == (76.5, 76.5, 76.5)
    assert row.after.after[:3] == (0, 0, 0)
    assert row.before.after[0] > 5


def test_stops_are_counted_for_both(tmp_path, paper, resolve) -> None:
    path = paper.save(tmp_path / "in.pdf", CONTENT)
    stopping = parse_policy({"destination": "press", "rules": [{"space": "RGB", "action": "stop"}]})
    found = compare_on_document(STRICT, stopping, path, resolve)
    assert found.stops == (0, 2)
    assert found.changed == 2


def test_a_document_is_tried_to_the_end(tmp_path, paper, resolve) -> None:
    shares: list[float] = []
    path = paper.save(tmp_path / "in.pdf", CONTENT)
    found = compare_on_document(STRICT, STRICT, path, resolve, progress=shares.append)
    assert found.changed == 0
    assert shares == sorted(shares)
    assert shares[-1] == 1
