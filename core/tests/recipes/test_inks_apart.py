"""A grey TIFF for every ink, and inks of any number through a whole recipe."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pytest
import tifffile

from plinto_core.errors import BadRecipe
from plinto_core.icc.colorants import ink_names
from plinto_core.imaging.ink_tiff import names_of
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.transform.standard_spaces import standard_profile


@pytest.fixture
def artwork(tmp_path):
    y, x = np.mgrid[0:60, 0:80]
    data = np.stack([x * 800, y * 1000, 65535 - x * 700], axis=-1).astype(np.uint16)
    path = tmp_path / "artwork.tif"
    profile = standard_profile("oprgb").data
    tifffile.imwrite(path, data, photometric="rgb", iccprofile=profile, resolution=(300, 300))
    return path


def run(destination, artwork, out, **parts):
    known = {"press": destination, "srgb": standard_profile("srgb")}
    data = {"version": 3, "destination": "press", **parts}
    return run_recipe(parse_recipe(data), artwork, out, lambda reference: known[reference])


RULES = {"tac": 240, "limits": {"Orange": 60, "K": 80}, "black": {"method": "gcr", "start": 10}}


def test_seven_inks_in_one_file_within_their_rules(tmp_path, artwork, seven) -> None:
    out = tmp_path / "out.tif"
    report = run(seven, artwork, out, ink_rules=RULES, delivery={"bits": 8})
    with tifffile.TiffFile(out) as file:
        inks = file.asarray()
        assert names_of(file.pages[0]) == ink_names(seven)
    assert report.destination.channels == ink_names(seven)
    assert inks.reshape(-1, 7).sum(axis=1).max() / 2.55 <= 240 + 1e-6
    assert inks[..., 4].max() / 2.55 <= 60.4
    assert inks[..., 3].max() / 2.55 <= 80.4
    assert inks[..., 6].max() > 100
    assert report.greys.black_back <= 2
    assert report.tac.max <= 240
    assert report.de00.mean < 12


@pytest.mark.parametrize("turn", [0, 90])
@pytest.mark.parametrize("press", ["coated", "seven"])
def test_files_of_single_inks_hold_what_the_one_file_holds(
    tmp_path, artwork, request, press, turn
) -> None:
    profile = request.getfixturevalue(press)
    together, apart = tmp_path / "one.tif", tmp_path / "many.zip"
    delivery = {"bits": 8, "turn": turn, "mirror": True}
    run(profile, artwork, together, delivery=delivery)
    run(profile, artwork, apart, delivery={**delivery, "apart": True})
    whole = tifffile.imread(together)
    with zipfile.ZipFile(apart) as archive:
        # Readable by all, and the same bytes whenever it is made.
        assert {e.external_attr >> 16 for e in archive.infolist()} == {0o644}
        assert {e.date_time for e in archive.infolist()} == {(1980, 1, 1, 0, 0, 0)}
        names = archive.namelist()
        plates = [tifffile.imread(io.BytesIO(archive.read(n))) for n in names]
        first = tifffile.TiffFile(io.BytesIO(archive.read(names[0]))).pages[0]
    assert names[:2] == ["1_Cyan.tif", "2_Magenta.tif"]
    assert len(names) == profile.channels
    assert first.photometric == 1
    assert first.iccprofile is None
    assert (255 - np.stack(plates, axis=-1) == whole).all()
    assert not [p for p in tmp_path.iterdir() if p.name.startswith(".plinto")]


def test_what_has_no_inks_has_no_files_of_them(tmp_path, artwork, coated) -> None:
    with pytest.raises(BadRecipe, match="needs inks"):
        run(standard_profile("p3"), artwork, tmp_path / "x.zip", delivery={"apart": True})
    delivery = {"apart": True, "format": "JPEG", "bits": 8}
    with pytest.raises(BadRecipe, match="is a TIFF"):
        run(coated, artwork, tmp_path / "x.zip", delivery=delivery)
    assert not (tmp_path / "x.zip").exists()


def test_a_plate_rule_for_an_ink_of_the_press(tmp_path, artwork, seven) -> None:
    out = tmp_path / "out.tif"
    plates = {"Violet": {"curve": [[0, 0], [100, 50]]}, "Green": {"minimum": 6, "cut": 2}}
    run(seven, artwork, out, delivery={"bits": 8}, plates=plates)
    plain = tmp_path / "plain.tif"
    run(seven, artwork, plain, delivery={"bits": 8})
    changed, before = tifffile.imread(out).astype(int), tifffile.imread(plain).astype(int)
    assert np.abs(changed[..., 6] - before[..., 6] / 2).max() <= 1
    green = changed[..., 5]
    assert green[green > 0].min() >= round(0.06 * 255) - 1
    assert (changed[..., :5] == before[..., :5]).all()
    with pytest.raises(BadRecipe, match="no plate 'Gold'"):
        run(seven, artwork, out, plates={"Gold": {"minimum": 3}})
