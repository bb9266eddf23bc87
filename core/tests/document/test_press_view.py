"""Pages drawn through the press: what the renderer shows is what the profile predicts."""

from __future__ import annotations

import numpy as np
import pikepdf
import pypdfium2
import pytest

from paperwork import Paper
from plinto_core.document import parse_policy, template
from plinto_core.document.views.press_view import page_as_meant, page_as_printed
from plinto_core.errors import BadDocument, PolicyStop
from plinto_core.transform import convert
from plinto_core.transform.standard_spaces import standard_profile


def middle(data: bytes) -> np.ndarray:
    with pypdfium2.PdfDocument(data) as document:
        pixels = document[0].render(scale=1).to_numpy()
    return pixels[pixels.shape[0] // 2, pixels.shape[1] // 2, 2::-1].astype(float)


@pytest.fixture
def leaf(tmp_path):
    def make(content: str):
        paper = Paper()
        return paper.save(tmp_path / "leaf.pdf", f"{content} 0 0 200 100 re f")

    return make


def on_screen(coated, inks) -> np.ndarray:
    rgb = convert(coated, standard_profile("srgb"), np.array([inks]), intent="relative", bpc=False)
    return rgb[0] * 255


def test_inks_are_shown_as_the_profile_prints_them(leaf, resolve, coated) -> None:
    policy = parse_policy({"destination": "press", "rules": [{"action": "leave"}]})
    page = leaf("0.8 0.1 0.6 0.05 k")
    assert middle(page_as_printed(page, 1, policy, resolve)) == pytest.approx(
        on_screen(coated, [0.8, 0.1, 0.6, 0.05]), abs=1.5
    )


def test_bare_grey_is_black_ink(leaf, resolve, coated) -> None:
    policy = template("strict-press", "press")
    shown = middle(page_as_printed(leaf("0.4 g"), 1, policy, resolve))
    assert shown == pytest.approx(on_screen(coated, [0, 0, 0, 0.6]), abs=1.5)


def test_vivid_rgb_is_duller_in_print_than_meant(leaf, resolve) -> None:
    policy = template("bare-cmyk", "press")
    page = leaf("0.1 0.9 0.1 rg")
    meant, printed = (middle(f(page, 1, policy, resolve)) for f in (page_as_meant, page_as_printed))
    assert meant == pytest.approx([25.5, 229.5, 25.5], abs=1.5)
    assert np.ptp(printed) < np.ptp(meant) - 20


def test_a_stop_and_a_missing_page_are_said(tmp_path, leaf, resolve) -> None:
    policy = parse_policy({"destination": "press", "rules": [{"action": "stop"}]})
    with pytest.raises(PolicyStop):
        page_as_printed(leaf("1 0 0 rg"), 1, policy, resolve)
    with pytest.raises(BadDocument, match="no page 2"):
        page_as_meant(leaf("1 0 0 rg"), 2, policy, resolve)
    with pikepdf.open(tmp_path / "leaf.pdf") as pdf:
        assert len(pdf.pages) == 1
