"""Policies treat a picture as they treat an image in a document."""

from __future__ import annotations

import tempfile
from dataclasses import replace

import numpy as np
import pytest
import tifffile

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.document import dry_run_on_picture, parse_policy, run_policy_on_picture, template
from plinto_core.document.runs import picture_policy
from plinto_core.document.views.picture_views import (
    picture_as_meant,
    picture_as_printed,
    picture_plates,
)
from plinto_core.errors import BadRecipe, PolicyStop
from plinto_core.transform import convert
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

RGB = np.tile(np.array([[[200, 40, 40]]], np.uint8), (40, 60, 1))
INKS = np.tile(np.array([[[230, 230, 204, 230]]], np.uint8), (40, 60, 1))


@pytest.fixture
def picture(tmp_path):
    def save(pixels: np.ndarray, profile=None, ppi: int = 300):
        path = tmp_path / "in.tif"
        kind = {3: "rgb", 4: "separated"}.get(pixels.shape[2], "minisblack")
        tifffile.imwrite(
            path, pixels if pixels.shape[2] > 1 else pixels[..., 0], photometric=kind,
            iccprofile=profile.data if profile else None, resolution=(ppi, ppi), resolutionunit="INCH",
        )  # fmt: skip
        return path

    return save


def test_rgb_is_converted_by_the_rule_for_images(tmp_path, picture, resolve, coated) -> None:
    policy = template("strict-press", "press")
    report = run_policy_on_picture(policy, picture(RGB), tmp_path / "out.tif", resolve)
    inks = tifffile.imread(tmp_path / "out.tif")[5, 5] / 255
    wanted = convert(
        standard_profile("srgb"),
        coated,
        np.array([[200, 40, 40]]) / 255,
        intent="perceptual",
        bpc=True,
    )[0]
    assert inks == pytest.approx(wanted, abs=0.012)
    assert report.flow[0].rule == 2
    assert report.objects[0].after == pytest.approx(wanted * 100, abs=1.2)


def test_what_is_left_keeps_every_number_and_its_own_profile(tmp_path, picture, resolve) -> None:
    policy = parse_policy({"destination": "press", "rules": [{"action": "leave"}]})
    own = standard_profile("oprgb")
    noise = np.random.default_rng(2).integers(0, 256, (40, 60, 3), np.uint8)
    run_policy_on_picture(policy, picture(noise, own), tmp_path / "out.tif", resolve)
    with tifffile.TiffFile(tmp_path / "out.tif") as made:
        assert np.array_equal(made.asarray(), noise)
        assert made.pages[0].tags["InterColorProfile"].value == own.data


@pytest.mark.parametrize(
    ("action", "profile_in", "found"),
    [("convert", True, "press"), ("convert", False, None), ("leave", True, "own"), ("leave", False, None)],
)  # fmt: skip
def test_a_profile_goes_in_where_the_policy_has_it(
    tmp_path, picture, resolve, coated, action, profile_in, found
) -> None:
    policy = parse_policy(
        {"destination": "press", "rules": [{"action": action}], "profile_in": profile_in}
    )
    own = standard_profile("oprgb")
    run_policy_on_picture(policy, picture(RGB, own), tmp_path / "out.tif", resolve)
    with tifffile.TiffFile(tmp_path / "out.tif") as made:
        tag = made.pages[0].tags.get("InterColorProfile")
        held = tag.value if tag else None
    assert held == {"press": coated.data, "own": own.data, None: None}[found]


def test_inks_that_are_left_still_keep_an_enforced_tac(tmp_path, picture, resolve) -> None:
    policy = template("strict-press", "press", tac=260)
    report = run_policy_on_picture(policy, picture(INKS), tmp_path / "out.tif", resolve)
    total = tifffile.imread(tmp_path / "out.tif").sum(axis=2).max() / 2.55
    assert 200 < total <= 260.5
    assert report.tac.before == pytest.approx(350.6, abs=0.1)
    assert report.tac.after == pytest.approx(total, abs=0.1)
    assert report.tac.rule == 260


def test_grey_goes_to_black_alone(tmp_path, picture, resolve) -> None:
    grey = np.full((40, 60, 1), 102, np.uint8)
    policy = template("strict-press", "press")
    run_policy_on_picture(policy, picture(grey), tmp_path / "out.tif", resolve)
    assert tifffile.imread(tmp_path / "out.tif")[3, 3].tolist() == [0, 0, 0, 153]


def test_black_is_said_only_of_destinations_that_have_one(picture, resolve) -> None:
    rules = {"rules": [{"action": "black"}]}
    outcomes = [
        dry_run_on_picture(parse_policy({"destination": d, **rules}), picture(RGB), resolve)
        .objects[0].outcome
        for d in ("press", "srgb")
    ]  # fmt: skip
    assert outcomes[0] == "black only"
    assert outcomes[1] != "black only"
    plain = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    assert dry_run_on_picture(plain, picture(RGB), resolve).objects[0].outcome != "black only"


def test_a_dry_run_reports_what_the_real_one_does_and_writes_nothing(
    tmp_path, picture, resolve
) -> None:
    policy = template("strict-press", "press", tac=260)
    path = picture(RGB, ppi=600)
    dry = dry_run_on_picture(policy, path, resolve)
    assert [p.name for p in tmp_path.iterdir()] == ["in.tif"]
    real = run_policy_on_picture(policy, path, tmp_path / "out.tif", resolve)
    moved = dry.objects[0].de00
    assert moved > 0
    assert [replace(o, de00=moved) for o in real.objects] == list(dry.objects)
    assert dry.objects[0].new_ppi == 300
    assert tifffile.imread(tmp_path / "out.tif").shape == (20, 30, 4)


def test_stops_are_listed_dry_and_refused_for_real(tmp_path, picture, resolve) -> None:
    policy = parse_policy({"destination": "press", "rules": [{"space": "RGB", "action": "stop"}]})
    assert dry_run_on_picture(policy, picture(RGB), resolve).stops == 1
    with pytest.raises(PolicyStop, match="Rule 1"):
        run_policy_on_picture(policy, picture(RGB), tmp_path / "out.tif", resolve)
    assert not (tmp_path / "out.tif").exists()


def test_the_original_is_never_written_over(picture, resolve) -> None:
    path = picture(RGB)
    with pytest.raises(BadRecipe, match="same file"):
        run_policy_on_picture(template("strict-press", "press"), path, path, resolve)


def test_views_show_a_picture_as_meant_as_printed_and_by_plates(picture, resolve, coated) -> None:
    policy = template("strict-press", "press")
    path = picture((RGB.astype(np.uint16) * 257), ppi=60)
    srgb = standard_profile("srgb")
    meant, size = picture_as_meant(path, policy, resolve, edge=30)
    assert meant.shape == (20, 30, 3)
    assert size == (72, 48)
    assert meant[10, 10] == pytest.approx([200, 40, 40], abs=2)
    inks = convert(srgb, coated, np.array([[200, 40, 40]]) / 255, intent="perceptual", bpc=True)
    plates = picture_plates(path, policy, resolve, edge=30)
    assert plates.ink[10, 10] / 255 == pytest.approx(inks[0], abs=0.012)
    printed, _ = picture_as_printed(path, policy, resolve, edge=30)
    wanted = convert(coated, srgb, inks, intent="relative", bpc=False)[0] * 255
    assert printed[10, 10] == pytest.approx(wanted, abs=2.5)


def test_a_dry_run_says_the_size_and_how_far_colours_move(
    tmp_path, picture, resolve, coated
) -> None:
    rng = np.random.default_rng(4)
    pixels = rng.integers(0, 256, (90, 70, 3), np.uint8)
    policy = template("strict-press", "press")
    source = picture(pixels)
    dry = dry_run_on_picture(policy, source, resolve)
    real = run_policy_on_picture(policy, source, tmp_path / "out.tif", resolve)
    assert dry.size_forecast == real.size_after == (tmp_path / "out.tif").stat().st_size
    assert dry.size_after is None
    assert real.size_forecast is None
    assert real.colour is None
    srgb = standard_profile("srgb")
    inks = tifffile.imread(tmp_path / "out.tif").reshape(-1, 4) / 255
    moved = delta_e_2000(
        lab_of_device(srgb, pixels.reshape(-1, 3) / 255), lab_of_device(coated, inks)
    )
    assert dry.colour.mean == pytest.approx(moved.mean(), abs=0.02)
    assert dry.objects[0].de00 == dry.colour.mean
    assert dry.colour.p95 == pytest.approx(np.percentile(moved, 95), abs=0.05)
    assert dry.colour.greatest == pytest.approx(moved.max(), abs=0.05)
    assert (dry.colour.objects, dry.colour.of) == (6300, "pixels")


def test_the_size_is_that_of_the_format_asked_for(tmp_path, picture, resolve) -> None:
    policy = parse_policy({"destination": "srgb", "rules": [{"action": "convert"}]})
    source = picture(RGB)
    for output, ending in (("PNG", "png"), ("JPEG", "jpg"), ("TIFF", "tif")):
        dry = dry_run_on_picture(policy, source, resolve, output=output)
        run_policy_on_picture(policy, source, tmp_path / f"out.{ending}", resolve)
        assert dry.size_forecast == (tmp_path / f"out.{ending}").stat().st_size


def test_a_dry_run_leaves_no_file_behind(tmp_path, picture, resolve, monkeypatch) -> None:
    monkeypatch.setattr(tempfile, "tempdir", str(tmp_path / "temporary"))
    (tmp_path / "temporary").mkdir()
    source = picture(RGB)
    (tmp_path / "own").mkdir()
    seen: list[str] = []
    written = picture_policy.write_output

    def watched(target, *rest):
        seen.append(target.parent.parent.name)
        written(target, *rest)

    monkeypatch.setattr(picture_policy, "write_output", watched)
    stopping = parse_policy({"destination": "press", "rules": [{"action": "stop"}]})
    assert dry_run_on_picture(stopping, source, resolve).stops == 1
    dry_run_on_picture(stopping, source, resolve, folder=tmp_path / "own")
    assert seen == ["temporary", "own"]
    assert list((tmp_path / "temporary").iterdir()) == list((tmp_path / "own").iterdir()) == []


def test_numbers_that_stay_are_compared_as_they_print(picture, resolve, coated) -> None:
    """The press's own numbers stay what they are, RGB is printed by nobody knows what, grey by the black ink."""
    policy = parse_policy({"destination": "press", "rules": [{"action": "leave"}]})

    def moved(pixels: np.ndarray):
        return dry_run_on_picture(policy, picture(pixels), resolve).colour

    assert moved(INKS).greatest == 0
    assert moved(RGB) is None
    black = np.array([[0, 0, 0, 1 - 64 / 255]])
    grey = lab_of_device(standard_profile("grey"), np.array([[64 / 255]]))
    wanted = float(delta_e_2000(grey, lab_of_device(coated, black))[0])
    assert wanted > 1
    assert moved(np.full((9, 9, 1), 64, np.uint8)).mean == pytest.approx(wanted, abs=0.02)
