"""Black that nobody set, and what becomes black alone."""

from __future__ import annotations

import numpy as np
import pytest
from pikepdf import Array, Dictionary, Name

from corpus import separation, stream
from paperwork import colours_of, operations


def test_black_that_nobody_set_becomes_the_black_of_all_others(paper, converted) -> None:
    rules = [{"space": "grey", "action": "black"}, {"action": "convert"}]
    _, pdf = converted(
        paper, "0 0 9 9 re f q 1 0 0 rg 0 0 5 5 re f Q 2 2 3 3 re f 1 w 0 0 m 9 9 l S", rules=rules
    )
    found = colours_of(pdf.pages[0])
    assert found[0][0] == "k"
    assert [float(v) for v in found[0][1]] == [0, 0, 0, 1]
    assert [o for o, _ in found].count("K") == 1
    assert [o for o, _ in found].index("K") == 1


def test_black_that_only_a_form_uses_is_set_on_the_page(paper, converted) -> None:
    paper.put("/XObject", "/Fm", stream(paper, b"0 0 9 9 re f", Type=Name.XObject, Subtype=Name.Form, BBox=[0, 0, 99, 99]))  # fmt: skip
    _, pdf = converted(paper, "/Fm Do", rules=[{"space": "grey", "action": "black"}])
    assert [o for o, _ in colours_of(pdf.pages[0])] == ["k"]
    assert colours_of(pdf.pages[0].Resources.XObject.Fm) == []


def test_nothing_is_set_where_black_is_left(paper, converted) -> None:
    _, pdf = converted(paper, "0 0 9 9 re f", rules=[])
    assert colours_of(pdf.pages[0]) == []


def test_a_spot_image_in_black_has_the_black_of_its_tints(paper, converted) -> None:
    paper.put("/ColorSpace", "/Spot", separation())
    tints = np.array([[0, 64, 128, 255]], np.uint8)
    paper.put("/XObject", "/Im", paper.image(tints, separation()))
    rules = [{"space": "spot", "action": "black"}, {"action": "convert"}]
    areas = " ".join(f"{t / 255:.5f} scn 0 0 9 9 re f" for t in tints[0])
    _, pdf = converted(paper, f"/Spot cs {areas} q 9 0 0 9 0 0 cm /Im Do Q", rules=rules)
    black = [float(v[3]) for o, v in operations(pdf.pages[0]) if o == "k"]
    made = pdf.pages[0].Resources.XObject.Im
    assert Name.DeviceGray == made.ColorSpace
    assert 1 - np.frombuffer(made.read_bytes(), np.uint8) / 255 == pytest.approx(
        np.array(black[-4:]), abs=0.003
    )
    assert black[-1] > 0.3


def test_calibrated_grey_in_black_goes_by_its_lightness(paper, converted) -> None:
    calibrated = Dictionary(WhitePoint=[0.9642, 1, 0.8249], Gamma=1.0)
    paper.put("/ColorSpace", "/Cal", Array([Name.CalGray, calibrated]))
    rules = [{"space": "grey", "action": "black"}, {"action": "convert"}]
    content = "/Cal cs 0.5 sc 0 0 9 9 re f 0.5 g 0 0 9 9 re f"
    _, pdf = converted(paper, content, rules=rules)
    linear, bare = (
        float(v[3]) for o, v in operations(pdf.pages[0]) if o == "k" and v[3] not in (0, 1)
    )
    # Half of the light is L* 76, far lighter than half of black.
    assert bare == 0.5
    assert 0.15 < linear < 0.42
