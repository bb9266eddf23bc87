"""Every construct under a converting policy: nothing left in a foreign space, nothing drawn otherwise
than the conversion itself explains."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest

from corpus import CORPUS
from paperwork import Paper
from plinto_core.document import inventory, parse_policy, run_policy
from plinto_core.document.views.press_view import page_as_meant, page_as_printed
from plinto_core.document.views.render import render_page
from plinto_core.transform import convert
from plinto_core.transform.standard_spaces import standard_profile

POLICY = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
BARE = {"DeviceCMYK", "DeviceGray", "Indexed"}


@pytest.fixture(params=CORPUS)
def document(request, tmp_path):
    paper = Paper()
    return paper.save(tmp_path / "in.pdf", CORPUS[request.param](paper))


def test_nothing_is_left_in_another_space_and_nothing_goes_unhandled(
    document, tmp_path, resolve
) -> None:
    report = run_policy(POLICY, document, tmp_path / "out.pdf", resolve)
    assert report.not_handled == ()
    assert report.objects, "the construct is not found at all"
    after = inventory(tmp_path / "out.pdf")
    assert {o.family for o in after.objects} <= {"CMYK", "grey"}
    assert {o.space for o in after.objects} <= BARE
    assert all(o.profile == "" for o in after.objects)


def test_pages_differ_only_by_the_conversion(document, tmp_path, resolve, coated) -> None:
    """What is drawn after the policy against the source's pixels taken through the profile."""
    meant, _ = render_page(page_as_meant(document, 1, POLICY, resolve), 1, 400)
    printed, _ = render_page(page_as_printed(document, 1, POLICY, resolve), 1, 400)
    assert np.ptp(meant) > 30, "the construct draws nothing"
    unique, back = np.unique(meant.reshape(-1, 3), axis=0, return_inverse=True)
    srgb = standard_profile("srgb")
    inks = convert(srgb, coated, unique / 255, intent="relative", bpc=True)
    shown = convert(coated, srgb, inks, intent="relative", bpc=False)
    expected = (np.clip(shown, 0, 1) * 255)[back.reshape(-1)].reshape(meant.shape)
    difference = np.abs(expected - printed)
    # Edges and fades are blended in inks here and in light there; flat areas agree closely.
    assert np.median(difference) <= 1.5
    assert np.percentile(difference, 90) <= 6
    assert difference.mean() <= 3


def test_rewritten_documents_are_sound(document, tmp_path, resolve) -> None:
    run_policy(POLICY, document, tmp_path / "out.pdf", resolve)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert pdf.check_pdf_syntax() == []
    again = run_policy(POLICY, tmp_path / "out.pdf", tmp_path / "twice.pdf", resolve)
    assert again.not_handled == ()
