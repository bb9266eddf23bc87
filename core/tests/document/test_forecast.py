"""What a dry run says of the size of the result, beside the result of the real run."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from scipy.ndimage import gaussian_filter

from plinto_core.document import dry_run, run_policy, template
from plinto_core.document.runs.run import inventory

PLACE = "q {w} 0 0 {h} 0 0 cm /Im Do Q 1 0 0 rg 10 10 20 20 re f"


def photograph(height: int, width: int, channels: int = 3) -> np.ndarray:
    """Smooth above, noisy below, as no picture is the same everywhere."""
    rng = np.random.default_rng(4)
    coarse = gaussian_filter(rng.random((height, width, channels)), (12, 12, 0))
    coarse = (coarse - coarse.min()) / np.ptp(coarse) * 230
    noise = rng.normal(0, 1, coarse.shape) * np.linspace(0, 12, height)[:, None, None]
    return np.clip(coarse + noise + 10, 0, 255).astype(np.uint8)


def document(paper, path, pixels, space, *, ppi=300, bits=8, **extra):
    paper.put("/XObject", "/Im", paper.image(pixels, space, bits, **extra))
    height, width = pixels.shape[0], extra.get("width", pixels.shape[1])
    return paper.save(path, PLACE.format(w=width * 72 / ppi, h=height * 72 / ppi))


@pytest.mark.parametrize("kind", ["strict-press", "office-files", "bare-cmyk", "textile-transfer"])
@pytest.mark.parametrize("ppi", [200, 700])
def test_a_photograph_under_each_template(kind, ppi, paper, tmp_path, resolve) -> None:
    source = document(
        paper, tmp_path / "in.pdf", photograph(900, 700), pikepdf.Name.DeviceRGB, ppi=ppi
    )
    policy = template(kind, "press", tac=300)
    said = dry_run(policy, source, resolve)
    done = run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert done.size_forecast is None
    assert said.size_after is None
    assert said.size_forecast == pytest.approx(done.size_after, rel=0.05)
    assert done.size_after == (tmp_path / "out.pdf").stat().st_size


def test_what_is_left_keeps_its_size(paper, tmp_path, resolve) -> None:
    source = document(paper, tmp_path / "in.pdf", photograph(300, 300, 4), pikepdf.Name.DeviceCMYK)
    policy = template("strict-press", "press").model_copy(update={"output_intent": False})
    said = dry_run(policy, source, resolve)
    run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert said.size_forecast == pytest.approx((tmp_path / "out.pdf").stat().st_size, abs=300)
    assert inventory(source).size_forecast is None


def test_an_image_on_three_places_counts_once(paper, tmp_path, resolve) -> None:
    paper.put("/XObject", "/Im", paper.image(photograph(400, 400), pikepdf.Name.DeviceRGB))
    once = PLACE.format(w=96, h=96)
    source = paper.save(tmp_path / "in.pdf", f"{once} {once} {once}")
    policy = template("strict-press", "press")
    said = dry_run(policy, source, resolve)
    run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert said.size_forecast == pytest.approx((tmp_path / "out.pdf").stat().st_size, rel=0.05)


def test_line_art_and_palettes_keep_their_pixels(paper, tmp_path, resolve) -> None:
    rng = np.random.default_rng(2)
    for space, extra in (
        (pikepdf.Name.DeviceGray, {}),
        (
            pikepdf.Array([pikepdf.Name.Indexed, pikepdf.Name.DeviceRGB, 1, pikepdf.String(b"\0\0\0\xff\0\0")]),
            {},
        ),
    ):  # fmt: skip
        pixels = rng.integers(0, 256, (500, 80)).astype(np.uint8)
        source = document(paper, tmp_path / "in.pdf", pixels, space, bits=1, width=640, **extra)
        policy = template("office-files", "press")
        said = dry_run(policy, source, resolve)
        run_policy(policy, source, tmp_path / "out.pdf", resolve)
        assert said.size_forecast == pytest.approx((tmp_path / "out.pdf").stat().st_size, rel=0.02)


def test_an_intent_in_the_document_gives_way(paper, tmp_path, resolve, coated) -> None:
    stream = pikepdf.Stream(paper.pdf, np.random.default_rng(0).bytes(80_000), N=4)
    paper.pdf.Root.OutputIntents = pikepdf.Array(
        [pikepdf.Dictionary(S=pikepdf.Name.GTS_PDFX, DestOutputProfile=paper.pdf.make_indirect(stream))]
    )  # fmt: skip
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f")
    for changes in ({}, {"profile_in": False}, {"output_intent": False}):
        policy = template("strict-press", "press").model_copy(update=changes)
        said = dry_run(policy, source, resolve)
        run_policy(policy, source, tmp_path / "out.pdf", resolve)
        assert said.size_forecast == pytest.approx(
            (tmp_path / "out.pdf").stat().st_size, rel=0.02, abs=500
        )
