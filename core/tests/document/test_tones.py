"""Colours converted together come out, and are told of, as if each had been met by itself."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from corpus import CORPUS
from paperwork import Paper
from plinto_core.document import OutputPolicy, dry_run, parse_policy, run_policy, template
from plinto_core.document.pdf.spaces import RGB
from plinto_core.document.rules import tones
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import (
    Painter,
    shown_rows,
    shown_totals,
    shown_values,
)
from plinto_core.document.rules.tones import Tones
from plinto_core.document.walking import findings, walk

CONVERT = [{"action": "convert"}]
POLICIES: dict[str, dict[str, Any]] = {
    "everything": {"rules": CONVERT},
    "to RGB": {"destination": "srgb", "sources": {"CMYK": "press"}, "rules": CONVERT},
    "to grey": {"destination": "grey", "sources": {"CMYK": "press"}, "rules": CONVERT},
    "black overprints": {"rules": CONVERT, "overprint_black": True, "greys_to_black": True},
    "black alone": {"rules": [{"space": "RGB", "action": "black"}, *CONVERT], "tac": 240},
    "own intent": {"rules": [{"action": "convert", "intent": "own", "fallback": "saturation"}]},
    "checks": {
        "rules": CONVERT,
        "checks": [
            {"what": "hairlines", "limit": 2, "severity": "mend"},
            {"what": "white overprints", "severity": "mend"},
            {"what": "mixed text", "limit": 20, "severity": "warn"},
            {"what": "mixed lines", "limit": 2, "severity": "warn"},
            {"what": "vector total", "limit": 200, "severity": "warn"},
        ],
    },
}
MANY = """
0 g 0 0 9 9 re f 0.1 0.2 0.3 rg 1 0 9 9 re f 0.1 0.2 0.3 rg 2 0 9 9 re B 0.3 0.2 0.1 RG 0 0 m 9 9 l S
q 0.9 0.8 0.7 rg 0 0 1 1 re f Q 3 3 1 1 re f BT /F1 12 Tf 4 5 Td (abc) Tj 1 Tr (d) Tj 2 Tr (e) Tj ET
0 0 0 rg 0 0 5 5 re f 1 1 1 rg 1 1 2 2 re f 0 0 0 RG 0 0 0 rg 0 0 m 1 1 l 5 0 l b 0.5 g 9 9 1 1 re f
/Over gs 0.2 0.9 0.3 rg 4 4 1 1 re f 0 0 0 rg 1 1 1 1 re f 1 1 1 rg 7 7 1 1 re f 0 G 0 0 m 3 3 l S
/Mode gs 0.2 0.9 0.3 rg 4 4 1 1 re f 0 0 0 rg 1 1 1 1 re f 1 1 1 rg 7 7 1 1 re f 1 1 1 RG 0 0 m 3 3 l S
/Under gs 0.2 0.9 0.3 rg 5 5 1 1 re f /Perceptual ri 0.2 0.9 0.3 rg 5 6 1 1 re f 0.2 0.9 0.3 RG
0.1 0.2 rg 1 2 (x) rg 2 -1 0.5 rg 0 0 1 1 re f 0.1 0.9 0.3 0.95 k 0 0 2 2 re f 1 1 1 1 k 0 0 3 3 re f
0.4 w 0.12345 0.99995 0.00004 rg 0 0 1 1 re f /CS0 cs 0.2 0.4 0.6 sc 0 0 1 1 re f /Fm Do 0 0 1 1 re f
"""


def many(paper: Paper) -> str:
    """All ways of setting device colours, between all that changes what is written for them."""
    paper.put("/ExtGState", "/Over", Dictionary(OP=True, op=True, OPM=0))
    paper.put("/ExtGState", "/Mode", Dictionary(OP=True, op=True, OPM=1))
    paper.put("/ExtGState", "/Under", Dictionary(OP=False, op=False, OPM=1))
    paper.put("/ColorSpace", "/CS0", Name.DeviceRGB)
    paper.put(
        "/ColorSpace", "/DefaultGray", Array([Name.CalGray, Dictionary(WhitePoint=[1, 1, 1])])
    )
    form = pikepdf.Stream(
        paper.pdf, b"0 0 4 4 re f 0.6 0.2 0.3 rg 0 0 5 5 re f 0.1 0.2 0.3 rg 0 0 6 6 re f"
    )
    form.Subtype, form.BBox = Name.Form, Array([0, 0, 9, 9])
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(form))
    return MANY


def streams(path) -> list[bytes]:
    """What all streams of a document hold, but for identifiers and dates."""
    with pikepdf.open(path) as pdf:
        return [
            o.read_bytes() for o in pdf.objects
            if isinstance(o, pikepdf.Stream) and o.get("/Type") != Name.Metadata
        ]  # fmt: skip


@pytest.mark.parametrize("rules", POLICIES)
def test_results_and_reports_are_as_of_each_by_itself(
    tmp_path, resolve, paper, monkeypatch, rules
) -> None:
    policy = OutputPolicy.model_validate({"destination": "press", **POLICIES[rules]})
    path = paper.save(tmp_path / "in.pdf", many(paper))
    found = []
    for kept in (walk.FILL, {}):
        monkeypatch.setattr(walk, "FILL", kept)
        report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
        tried = dry_run(policy, path, resolve)
        told = [r.model_dump(exclude={"seconds", "size_after"}) for r in (report, tried)]
        found.append((streams(tmp_path / "out.pdf"), told))
    assert found[0][0] == found[1][0]
    for a, b in zip(found[0][1], found[1][1], strict=True):
        assert a == b
    assert len(found[0][1][0]["objects"]) > 15


@pytest.mark.parametrize("rules", ["everything", "checks"])
def test_objects_that_are_no_longer_listed_are_counted_all_the_same(
    tmp_path, resolve, paper, monkeypatch, rules
) -> None:
    monkeypatch.setattr(findings, "MOST_ITEMS", 3)
    changes = {**POLICIES[rules], "tac": 200}
    policy = OutputPolicy.model_validate({"destination": "press", **changes})
    path = paper.save(tmp_path / "in.pdf", many(paper))
    with pikepdf.open(path, allow_overwriting_input=True) as pdf:
        pdf.pages.append(pdf.pages[0])
        pdf.pages.append(pdf.pages[0])
        pdf.save(path)
    found, tried = [], []
    for kept in (walk.FILL, {}):
        monkeypatch.setattr(walk, "FILL", kept)
        report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
        found.append(report.model_dump(exclude={"seconds", "size_after"}))
        tried.append(dry_run(policy, path, resolve).colour)
    assert found[0] == found[1]
    assert tried[0] == tried[1] is not None
    assert len(found[0]["objects"]) == 3
    assert found[0]["objects_left_out"] > 30
    assert found[0]["over_tac"] > 0
    assert sum(row["count"] for row in found[0]["flow"]) > 60


@pytest.mark.parametrize("construct", CORPUS)
def test_the_corpus_comes_out_as_of_each_by_itself(
    tmp_path, resolve, paper, monkeypatch, construct
) -> None:
    path = paper.save(tmp_path / "in.pdf", CORPUS[construct](paper))
    policy = template("strict-press", "press", tac=280)
    found = []
    for kept in (walk.FILL, {}):
        monkeypatch.setattr(walk, "FILL", kept)
        report = dry_run(policy, path, resolve)
        found.append(report.model_dump(exclude={"seconds"}))
    assert found[0] == found[1]


def test_rows_are_rounded_as_single_values() -> None:
    rng = np.random.default_rng(4)
    values = np.round(rng.random((4000, 4)) * 3 - 1, 4)
    values[:6, 0] = 0.0005, 0.0015, 0.01, 1e15, -1e300, math.inf
    for family in ("RGB", "CMYK", "Lab", "grey"):
        rows = shown_rows(family, values)
        assert rows == [shown_values(family, tuple(v)) for v in values.tolist()]
    wanted = [round(sum(v) * 100, 1) for v in values.tolist()]
    assert shown_totals("CMYK", values) == wanted
    assert shown_totals("RGB", values[:2]) == [None, None]


def test_digits_are_written_as_single_values(resolve) -> None:
    policy = parse_policy({"destination": "press", "rules": CONVERT})
    painter = Painter(policy, ColourMapper(policy, resolve("press"), resolve))
    values = np.array(
        [[0.0, 1.0, 0.5, 0.12345], [-0.1, 1.1, 0.99996, 0.00004], [0.1, 0.25, 0.3, 1e-9]]
    )
    for row, digits in zip(values, painter.digits(values), strict=True):
        assert digits + b" k" == painter.written(tuple(row), stroke=False)[0]


def test_tones_kept_are_bounded_and_stay_with_whom_they_were_given_to(resolve, monkeypatch) -> None:
    monkeypatch.setattr(tones, "MOST_COLOURS", 10)
    policy = parse_policy({"destination": "press", "rules": CONVERT})
    painter = Painter(policy, ColourMapper(policy, resolve("press"), resolve))
    decision = painter.decision("vectors", RGB)
    kept = Tones(painter)
    first = kept.convert(RGB, decision, None, {(v / 20, 0.5, 0.5) for v in range(12)})
    assert len(first) == 12
    black = {(0.0, 0.0, 0.0)}
    second = kept.convert(RGB, decision, None, black)
    assert set(second) == black, "the bound was passed: they begin anew"
    assert kept.convert(RGB, decision, None, black) is second
    assert kept.convert(RGB, decision, "perceptual", black) is second, (
        "the rule's own intent decides"
    )
    assert len(first) == 12
    one = second[(0.0, 0.0, 0.0)]
    assert kept.convert(RGB, decision, None, {*black, (1.0, 1.0, 1.0)})[(0.0, 0.0, 0.0)] is one


def test_the_size_of_text_is_as_it_was_chosen_last(tmp_path, resolve, paper) -> None:
    """Whether the font is the same or not."""
    paper.put("/Font", "/F", Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Courier))
    content = "BT /F 10 Tf 1 0 0 rg (ab) Tj /F 30 Tf 0 1 0 rg (ab) Tj /F 10 Tf 0 0 1 rg (ab) Tj ET"
    path = paper.save(tmp_path / "in.pdf", content)
    policy = parse_policy({"destination": "press", "rules": CONVERT})
    found = run_policy(policy, path, tmp_path / "out.pdf", resolve).objects
    widths = [round(item.box[2] - item.box[0], 6) for item in found if item.box is not None]
    assert widths == [10.0, 30.0, 10.0]
