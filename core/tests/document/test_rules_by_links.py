"""Rules whose conversion is a device link: text, vectors and pictures print what the link says."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pikepdf
import pytest
from pikepdf import Name
from PIL import Image

from paperwork import Paper, operations
from plinto_core.document import OutputPolicy, run_policy
from plinto_core.document.rules.policy import Rule
from plinto_core.document.runs.picture_policy import run_policy_on_picture
from plinto_core.errors import BadRecipe
from plinto_core.icc import Profile
from plinto_core.imaging import open_picture
from plinto_core.paths.saving import SavingOptions, save_path
from plinto_core.transform.direct import run_link
from plinto_core.transform.path import NumbersStep, PathStep
from plinto_core.transform.standard_spaces import SPACES, standard_profile

SRGB = standard_profile("srgb")


@pytest.fixture(scope="module")
def links(coated) -> dict[str, Profile]:
    """From RGB without any black, so that no usual conversion could be mistaken for it; and from inks."""

    def without_black(rgb):
        return np.concatenate([0.8 * (1 - rgb), np.zeros((len(rgb), 1))], axis=1)

    def lighter(inks):
        return inks * 0.5

    rgb = NumbersStep("No black", "RGB ", "CMYK", without_black, gives=coated)
    inks = NumbersStep("Half", "CMYK", "CMYK", lighter, gives=coated)
    made = {
        "rgb": [rgb],
        "cmyk": [inks],
        "rgb-rgb": [PathStep(SRGB), PathStep(standard_profile("p3"))],
    }
    return {n: Profile(save_path(s, SavingOptions())[0]) for n, s in made.items()}


@pytest.fixture
def find(coated, links):
    def resolve(name: str):
        if name in links:
            return links[name]
        return standard_profile(name) if name in (*SPACES, "grey") else coated

    return resolve


def policy(*rules, **more) -> OutputPolicy:
    return OutputPolicy.model_validate({"destination": "press", "rules": list(rules), **more})


def colours(path: Path, operator: str) -> list[list[float]]:
    with pikepdf.open(path) as pdf:
        return [
            [float(v) for v in values] for o, values in operations(pdf.pages[0]) if o == operator
        ]


def test_vectors_and_pictures_print_what_the_link_says(tmp_path, find, links) -> None:
    paper = Paper()
    pixels = np.random.default_rng(3).integers(0, 256, (8, 8, 3), np.uint8)
    paper.put("/XObject", "/I", paper.image(pixels, pikepdf.Name.DeviceRGB))
    source = paper.save(
        tmp_path / "in.pdf", "0.2 0.4 0.6 rg 0 0 50 50 re f q 60 0 0 60 60 0 cm /I Do Q"
    )
    rule = {"space": "RGB", "action": "convert", "link": "rgb", "intent": "perceptual"}
    run_policy(policy(rule), source, tmp_path / "out.pdf", find)
    (fill,) = colours(tmp_path / "out.pdf", "k")
    assert fill == pytest.approx([0.64, 0.48, 0.32, 0], abs=2e-3)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        image = pdf.pages[0].Resources.XObject["/I"]
        found = np.frombuffer(image.read_bytes(), np.uint8).reshape(8, 8, 4)
    expected = run_link(links["rgb"], pixels.reshape(-1, 3) / 255).reshape(8, 8, 4)
    assert np.abs(found / 255 - expected).max() <= 1 / 255
    assert found[..., 3].max() == 0


def test_inks_of_the_destinations_own_space_go_through_a_link_too(tmp_path, find) -> None:
    source = Paper().save(
        tmp_path / "in.pdf", "0.4 0.2 0.6 0 k 0 0 50 50 re f 0 0 0 1 k 60 0 9 9 re f"
    )
    rule = {"space": "CMYK", "action": "convert", "link": "cmyk"}
    report = run_policy(policy(rule), source, tmp_path / "out.pdf", find)
    fills = colours(tmp_path / "out.pdf", "k")
    assert fills[0] == pytest.approx([0.2, 0.1, 0.3, 0], abs=2e-3)
    # The policy keeps pure black, whatever the link makes of it.
    assert fills[1] == [0, 0, 0, 1]
    assert not any("own space" in note for o in report.objects for note in o.notes)
    plain = {"space": "CMYK", "action": "convert"}
    run_policy(policy(plain), source, tmp_path / "same.pdf", find)
    assert colours(tmp_path / "same.pdf", "k")[0] == pytest.approx([0.4, 0.2, 0.6, 0], abs=1e-4)


def test_calibrated_colours_have_no_numbers_for_a_link(tmp_path, find) -> None:
    """CalRGB says its colours by itself; a link would take its numbers for another profile's."""
    made = []
    for link in ("rgb", None):
        paper = Paper()
        given = pikepdf.Dictionary(WhitePoint=[0.9505, 1, 1.089], Gamma=[2.2, 2.2, 2.2])
        paper.put("/ColorSpace", "/C", pikepdf.Array([Name.CalRGB, given]))
        source = paper.save(tmp_path / "in.pdf", "/C cs 0.2 0.4 0.6 sc 0 0 50 50 re f")
        rule = {"space": "RGB", "action": "convert", "link": link}
        run_policy(policy(rule), source, tmp_path / "out.pdf", find)
        made += colours(tmp_path / "out.pdf", "k")
    # The initial black of the space, and the colour.
    assert made[:2] == made[2:]
    assert made[0][3] > 0.2
    assert made[1][0] > made[1][2] + 0.3


def test_the_total_of_the_policy_stands_above_the_link(tmp_path, find) -> None:
    source = Paper().save(tmp_path / "in.pdf", "0 0 0.1 rg 0 0 50 50 re f")
    rule = {"space": "RGB", "action": "convert", "link": "rgb"}
    run_policy(policy(rule, tac=180, tac_action="enforce"), source, tmp_path / "out.pdf", find)
    assert sum(colours(tmp_path / "out.pdf", "k")[0]) <= 1.801
    run_policy(policy(rule), source, tmp_path / "free.pdf", find)
    assert sum(colours(tmp_path / "free.pdf", "k")[0]) > 2.2


def test_a_picture_under_the_policy_goes_through_the_link(tmp_path, find) -> None:
    Image.fromarray(np.full((4, 4, 3), 51, np.uint8)).save(
        tmp_path / "in.png", icc_profile=SRGB.data
    )
    rule = {"objects": "images", "space": "RGB", "action": "convert", "link": "rgb"}
    run_policy_on_picture(policy(rule), tmp_path / "in.png", tmp_path / "out.tif", find)
    with open_picture(tmp_path / "out.tif") as result:
        assert result.read()[0, 0] / 255 == pytest.approx([0.64, 0.64, 0.64, 0], abs=0.005)


def test_colours_of_two_links_are_kept_apart() -> None:
    keys = {
        Rule.model_validate({"space": "RGB", "action": "convert", "link": link}).key("relative")
        for link in (None, "a", "b")
    }
    assert len(keys) == 3


@pytest.mark.parametrize("link", ["cmyk", "rgb-rgb", "press"])
def test_links_between_other_spaces_are_refused(tmp_path, find, link) -> None:
    source = Paper().save(tmp_path / "in.pdf", "0.2 0.4 0.6 rg 0 0 50 50 re f")
    rule = {"space": "RGB", "action": "convert", "link": link}
    with pytest.raises(BadRecipe, match="no device link from RGB to CMYK"):
        run_policy(policy(rule), source, tmp_path / "out.pdf", find)
    assert not (tmp_path / "out.pdf").exists()


@pytest.mark.parametrize(
    "rule",
    [
        {"space": "all", "action": "convert"}, {"space": "spot", "action": "convert"}, {"space": "Lab", "action": "convert"},
        {"space": "RGB", "action": "leave"}, {"space": "RGB", "action": "convert", "vivid": {"strength": 20}},
    ],
)  # fmt: skip
def test_a_link_needs_a_rule_that_converts_one_space(rule) -> None:
    with pytest.raises(ValueError, match="device link"):
        policy({**rule, "link": "rgb"})


def test_greys_in_black_know_the_black_of_their_own_rule(paper, tmp_path, find) -> None:
    # The link's black is a lighter one: how dark a grey is goes by it, whatever another rule asked before.
    text = {"objects": "text", "space": "RGB", "action": "convert", "link": "rgb"}
    rest = {"space": "RGB", "action": "convert"}
    paper.put("/Font", "/F", pikepdf.Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica))  # fmt: skip
    area, words = "0.4 0.4 0.4 rg 0 0 9 9 re f ", "0.4 0.4 0.4 rg BT /F 9 Tf (a) Tj ET "
    found = []
    for other in (rest, {"space": "RGB", "action": "leave"}):
        source = paper.save(tmp_path / "in.pdf", area + words)
        both = policy(text, other, greys_to_black=True)
        report = run_policy(both, source, tmp_path / "o.pdf", find)
        found.append({o.kind: o.after for o in report.objects})
    assert found[0]["text"] == found[1]["text"] != found[0]["vector"]
    assert found[0]["text"][:3] == found[0]["vector"][:3] == (0, 0, 0)
