"""What pictures may be, and what formats can hold, at their edges."""

from __future__ import annotations

import itertools
from pathlib import Path

import numpy as np
import pytest

from plinto_core.errors import BadImage, BadRecipe
from plinto_core.imaging.facts import PictureFacts, check_size, plausible_resolution
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.resample import lanczos_weights, resampled
from plinto_core.imaging.writer import _strips, check_format, format_of


@pytest.mark.parametrize(
    ("size", "code"),
    [
        ((0, 5), "no-pixels"),
        ((5, 0), "no-pixels"),
        ((-1, -1), "no-pixels"),
        ((11, 10), "pixels-many"),
        ((10, 11), "pixels-many"),
    ],
)
def test_sizes_that_cannot_be(size, code) -> None:
    with pytest.raises(BadImage) as error:
        check_size(*size, 100)
    assert error.value.said.code == f"imaging.{code}"
    check_size(10, 10, 100)
    check_size(1, 1, 1)


@pytest.mark.parametrize(
    ("x", "y", "meant"),
    [
        (72, 72, True),
        (1, 72, False),
        (72, 1, False),
        (1.01, 1.01, True),
        (100_000, 72, False),
        (72, 100_000, False),
        (99_999, 99_999, True),
        (0, 0, False),
        (300, 72.5, True),
    ],
)
def test_resolutions_that_can_be_meant(x, y, meant) -> None:
    assert plausible_resolution(x, y) == ((float(x), float(y)) if meant else None)


def test_what_follows_from_facts() -> None:
    facts = PictureFacts("TIFF", 300, 200, 3, 8, resolution=(100, 50))
    assert facts.print_size_mm == pytest.approx((76.2, 101.6))
    assert PictureFacts("TIFF", 3, 2, 3, 8).print_size_mm is None
    spaces = [PictureFacts("TIFF", 1, 1, n, 8).space for n in (1, 3, 4)]
    assert spaces == ["GRAY", "RGB ", "CMYK"]
    assert PictureFacts("TIFF", 1, 1, 6, 8, inks=tuple("abcdef")).space == "6CLR"
    assert PictureFacts("TIFF", 1, 1, 12, 8, inks=("x",) * 12).space == "CCLR"


@pytest.mark.parametrize(
    ("name", "wanted"),
    [
        ("a.TIF", "TIFF"),
        ("a.tiff", "TIFF"),
        ("a.jpg", "JPEG"),
        ("a.JPEG", "JPEG"),
        ("a.png", "PNG"),
        ("a.pdf", "PDF"),
    ],
)
def test_formats_by_their_names(name, wanted) -> None:
    assert format_of(Path(name)) == wanted
    with pytest.raises(BadRecipe):
        format_of(Path("a.gif"))


@pytest.mark.parametrize(
    ("output", "bits", "shape", "inks", "code"),
    [
        ("PNG", 8, (9, 9, 4), (), "png-cmyk"), ("PNG", 16, (9, 9, 3), (), None), ("JPEG", 16, (9, 9, 3), (), "jpeg-depth"),
        ("JPEG", 8, (65_500, 9, 3), (), None), ("JPEG", 8, (65_501, 9, 3), (), "jpeg-long"), ("JPEG", 8, (9, 65_501, 3), (), "jpeg-long"),
        ("TIFF", 16, (9, 70_000, 4), (), None), ("JPEG", 8, (9, 9, 4), ("C", "M", "Y", "K"), None),
        ("JPEG", 8, (9, 9, 4), ("C", "M", "Y", "Gold"), "format-inks"), ("PNG", 8, (9, 9, 1), ("Gold",), "format-inks"),
        ("TIFF", 8, (9, 9, 5), ("C", "M", "Y", "K", "Gold"), None), ("PDF", 8, (9, 9, 5), ("C", "M", "Y", "K", "Gold"), None),
    ],
)  # fmt: skip
def test_what_a_format_can_hold(output, bits, shape, inks, code) -> None:
    if code is None:
        check_format(output, bits, shape, inks)
        return
    with pytest.raises(BadRecipe) as error:
        check_format(output, bits, shape, inks)
    assert error.value.said.code == f"imaging.{code}"


@pytest.mark.parametrize("heights", [[10], [3, 3, 4], [1] * 10, [4, 4, 2], [9, 1]])
def test_bands_of_any_height_become_strips_of_four_rows(heights) -> None:
    whole = np.arange(60, dtype=np.uint8).reshape(10, 3, 2)
    edges = np.cumsum([0, *heights])
    strips = list(_strips((whole[a:b] for a, b in itertools.pairwise(edges)), 4))
    assert [len(s) for s in strips] == [4, 4, 2]
    assert np.array_equal(np.concatenate(strips), whole)


@pytest.mark.parametrize(("old", "new"), [(100, 100), (100, 37), (40, 90), (5, 3), (1, 4)])
def test_weights_of_resampling_keep_flat_and_straight(old, new) -> None:
    """Flat pictures stay flat; a slope keeps its middle, wherever the picture has room for all lobes."""
    first, weights = lanczos_weights(old, new)
    assert len(first) == len(weights) == new
    assert weights.sum(axis=1) == pytest.approx(1, abs=1e-5)
    assert first.min() >= 0
    assert (first + weights.shape[1]).max() <= max(old, weights.shape[1])
    if old >= 40:
        at = first[:, None] + np.arange(weights.shape[1])
        places = (weights * at).sum(axis=1)
        centres = (np.arange(new) + 0.5) * old / new - 0.5
        inner = slice(new // 5, -new // 5)
        assert places[inner] == pytest.approx(centres[inner], abs=0.02 * max(1, old / new))


def test_resampled_bands_are_the_same_however_they_are_cut() -> None:
    picture = np.random.default_rng(3).integers(0, 65536, (50, 40, 3)).astype(np.uint16)
    whole = np.concatenate(list(resampled(iter([picture]), (50, 40), (31, 53))))
    cut = np.concatenate(
        list(
            resampled(
                iter([picture[:7], picture[7:8], picture[8:44], picture[44:]]), (50, 40), (31, 53)
            )
        )
    )
    assert whole.shape == (31, 53, 3)
    assert np.array_equal(whole, cut)
    assert abs(float(whole.mean()) - float(picture.mean())) < 300


@pytest.mark.parametrize(
    ("data", "page", "code"),
    [
        (b"%PDF-1.7 and more of it", 0, "is-pdf"), (b"%PDF-", 0, "is-pdf"), (b"", 0, "file-empty"),
        (b"%PD", 0, "format-unknown"), (b"GIF89a", 0, "format-unknown"), (b"\x89PNG\r\n\x1a\n", 1, "one-page"),
    ],
)  # fmt: skip
def test_what_is_no_picture_is_named(tmp_path, data, page, code) -> None:
    (tmp_path / "given").write_bytes(data)
    with pytest.raises(BadImage) as error:
        open_picture(tmp_path / "given", page=page)
    assert error.value.said.code == f"imaging.{code}"
