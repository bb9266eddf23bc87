"""Spot colours that become the builds a policy names, in vectors, pictures and overprints."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Name

from corpus import separation
from paperwork import Paper, operations
from plinto_core.document import OutputPolicy, run_policy
from plinto_core.document.rules.policy import parse_policy
from plinto_core.errors import BadRecipe, CoreError
from plinto_core.transform.standard_spaces import SPACES, standard_profile

BUILD = {"Ternholm Red": {"M": 80, "Y": 60}}


@pytest.fixture
def find(coated):
    return lambda name: standard_profile(name) if name in (*SPACES, "grey") else coated


def policy(builds=BUILD, **more) -> OutputPolicy:
    rules = [{"space": "spot", "action": "convert"}]
    return parse_policy({"destination": "press", "rules": rules, "builds": builds, **more})


def run(asked, source, target, find) -> list[list[float]]:
    run_policy(asked, source, target, find)
    filled, present = [], []
    with pikepdf.open(target) as pdf:
        for operator, values in operations(pdf.pages[0]):
            if operator in ("k", "scn"):
                present = [float(v) for v in values]
            elif operator == "f":
                filled.append(present)
    return filled


def test_tints_are_shares_of_the_build(tmp_path, find) -> None:
    paper = Paper()
    paper.put("/ColorSpace", "/S", separation())
    paper.put("/ColorSpace", "/T", separation("Other"))
    source = paper.save(
        tmp_path / "in.pdf",
        "/S cs 1 scn 0 0 9 9 re f 0.25 scn 9 0 9 9 re f 0 scn 5 5 9 9 re f /T cs 1 scn 20 0 9 9 re f",
    )
    solid, tint, none, other = run(policy(), source, tmp_path / "a.pdf", find)
    assert solid == pytest.approx([0, 0.8, 0.6, 0])
    assert tint == pytest.approx([0, 0.2, 0.15, 0])
    assert none == [0, 0, 0, 0]
    # A colour without a build goes by its own look, as without any builds.
    *_, plain = run(policy({}), source, tmp_path / "b.pdf", find)
    assert other == plain
    assert plain != pytest.approx(solid, abs=0.02)


def test_several_colorants_add_up_and_keep_the_total(tmp_path, find) -> None:
    def space(*names):
        program = pikepdf.Stream(
            paper.pdf, f"{{ {'pop ' * len(names)} 0 0 0 0.5 }}".encode(), FunctionType=4,
            Domain=[0, 1] * len(names), Range=[0, 1] * 4,
        )  # fmt: skip
        return Array([Name.DeviceN, [Name(f"/{n}") for n in names], Name.DeviceCMYK, program])

    paper = Paper()
    paper.put("/ColorSpace", "/A", space("Ternholm Red", "Blue 2", "Black"))
    paper.put("/ColorSpace", "/B", space("Ternholm Red", "Unknown"))
    source = paper.save(
        tmp_path / "in.pdf", "/A cs 1 0.5 0.3 scn 0 0 9 9 re f /B cs 1 1 scn 9 9 9 9 re f"
    )
    builds = {**BUILD, "Blue 2": {"C": 100, "M": 90}}
    both, unknown = run(policy(builds), source, tmp_path / "a.pdf", find)
    assert both == pytest.approx([0.5, 1, 0.6, 0.3])
    assert unknown[3] > 0
    held, _ = run(policy(builds, tac=180, tac_action="enforce"), source, tmp_path / "b.pdf", find)
    assert sum(held) <= 1.8 + 1e-6


def test_pictures_in_a_spot_colour_take_the_build(tmp_path, find) -> None:
    paper = Paper()
    pixels = np.arange(0, 256, 17, dtype=np.uint8)[None, :, None]
    paper.put("/XObject", "/I", paper.image(pixels, separation()))
    source = paper.save(tmp_path / "in.pdf", "q 60 0 0 60 60 0 cm /I Do Q")
    run_policy(policy(), source, tmp_path / "out.pdf", find)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        image = pdf.pages[0].Resources.XObject["/I"]
        found = np.frombuffer(image.read_bytes(), np.uint8).reshape(-1, 4)
    expected = pixels.reshape(-1, 1) / 255 @ np.array([[0, 0.8, 0.6, 0]]) * 255
    assert np.abs(found - expected).max() <= 0.51


@pytest.mark.parametrize(
    "builds",
    [{"A": {"C": 101}}, {"A": {"C": -1}}, {"": {"C": 1}}, {"A": 5}, {"A": {"C": float("nan")}}, [],
     {"A": {"x" * 41: 5}}],
)  # fmt: skip
def test_builds_that_are_none_are_refused(builds) -> None:
    with pytest.raises(CoreError):
        policy(builds)


def test_a_build_of_other_inks_is_refused_in_words(tmp_path, find) -> None:
    paper = Paper()
    paper.put("/ColorSpace", "/S", separation())
    source = paper.save(tmp_path / "in.pdf", "/S cs 1 scn 0 0 9 9 re f")
    with pytest.raises(BadRecipe, match="'Orange'"):
        run(policy({"Ternholm Red": {"Orange": 50}}), source, tmp_path / "a.pdf", find)
    assert not (tmp_path / "a.pdf").exists()


def test_black_alone_takes_the_lightness_of_the_build(tmp_path, find) -> None:
    paper = Paper()
    paper.put("/ColorSpace", "/S", separation())
    source = paper.save(tmp_path / "in.pdf", "/S cs 1 scn 0 0 9 9 re f")
    rules = [{"space": "spot", "action": "black"}]
    light = run(policy({"Ternholm Red": {"Y": 10}}, rules=rules), source, tmp_path / "a.pdf", find)
    dark = run(policy({"Ternholm Red": {"K": 80}}, rules=rules), source, tmp_path / "b.pdf", find)
    assert light[0][:3] == dark[0][:3] == [0, 0, 0]
    assert light[0][3] < 0.2
    assert dark[0][3] == pytest.approx(0.8, abs=0.03)
    kept = [{"space": "spot", "action": "keep spot"}]
    assert run(policy(BUILD, rules=kept), source, tmp_path / "c.pdf", find) == [[1]]
