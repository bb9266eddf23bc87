"""What a run would stumble on is said before it begins, for the same reasons."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
import tifffile

from plinto_core.errors import CoreError
from plinto_core.icc import Profile
from plinto_core.icc.write import write_profile
from plinto_core.imaging import open_picture
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.retarget import ConditionFacts, retarget
from plinto_core.recipes.route import route_for
from plinto_core.recipes.runnable import prepare
from plinto_core.recipes.sources import no_tables
from plinto_core.transform.standard_spaces import standard_profile

FILMS = {"resolution": 600}


def in_lab(profile: Profile) -> Profile:
    """A profile that says its device is Lab itself."""
    tags = {name: profile.raw(name) for name in profile.directory}
    return Profile(write_profile(replace(profile.header, colour_space="Lab "), tags))


@pytest.mark.parametrize(
    ("parts", "said"),
    [
        ({"page": 3}, "no page 4"),
        ({"source": "grey"}, "source profile"),
        ({"arrival": "grey"}, "another kind"),
        ({"before": "x"}, "not known here"),
        ({"after": "x"}, "not known here"),
        ({"plates": {"X": {"minimum": 3}}}, "no plate"),
        ({"delivery": {"resolution": 300}}, "no resolution"),
        ({"delivery": {"films": FILMS}}, "no resolution"),
        ({"delivery": {"films": FILMS, "format": "PNG", "width_mm": 100}}, "TIFF or PDF"),
        ({"delivery": {"format": "PNG"}}, "PNG"),
        ({"delivery": {"format": "JPEG", "bits": 16}}, "8 bits"),
        ({"destination": "p3", "ink_rules": {"tac": 200}}, "no profile of inks"),
        ({"destination": "lab"}, "3 channels"),
        ({"destination": "p3", "delivery": {"films": FILMS, "width_mm": 9}}, "made of inks"),
    ],
    ids=str,
)
def test_both_say_the_same(tmp_path, coated, parts, said) -> None:
    tifffile.imwrite(
        tmp_path / "in.tif", np.zeros((9, 9, 3), np.uint8), photometric="rgb", resolutionunit="NONE"
    )

    def resolve(reference):
        named = {"coated": coated, "lab": in_lab(coated)}
        return named.get(reference) or standard_profile(reference)

    recipe = parse_recipe({"destination": "coated", **parts})
    with open_picture(tmp_path / "in.tif") as picture, pytest.raises(CoreError) as early:
        prepare(recipe, picture.facts, resolve, no_tables)
    with pytest.raises(CoreError) as late:
        run_recipe(recipe, tmp_path / "in.tif", tmp_path / "out.tif", resolve)
    assert said in early.value.message
    if "page" not in parts:
        assert early.value.message == late.value.message
    assert not (tmp_path / "out.tif").exists()


def test_the_method_of_a_recipe_decides_its_inks_and_its_cache_key(coated) -> None:
    rules = {"tac": 300, "black": {"method": "gcr", "strength": 60}}
    former, present = (
        route_for(
            parse_recipe({"version": v, "destination": "x", "ink_rules": rules}),
            standard_profile("srgb"),
            coated,
        )
        for v in (1, 3)
    )
    former_recipe = parse_recipe({"version": 1, "destination": "x"})
    assert former_recipe.version == 1
    greys = np.linspace(0.1, 0.9, 9)[:, None].repeat(3, axis=1)
    assert former.key != present.key
    assert np.abs(former.inks(greys) - present.inks(greys)).max() > 0.03
    assert parse_recipe({"destination": "x"}).version == 4
    facts = ConditionFacts("Coated", "a", ("C", "M", "Y", "K"), 320)
    assert retarget(former_recipe, facts, facts)[0].version == 4
