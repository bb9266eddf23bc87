"""Halftone tints keep their tone; films carry marks, names and every plate."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pikepdf
import pypdfium2
import pytest
import tifffile
from pydantic import ValidationError

from plinto_core.imaging import films as film_module
from plinto_core.imaging.films import FilmRules, FilmSet, write_films
from plinto_core.imaging.halftone import am_dots, fm_dots, stochastic_mask

TONES = [0.02, 0.1, 0.25, 0.5, 0.75, 0.9, 0.98]


@pytest.mark.parametrize("shape", ["round", "ellipse", "square", "line"])
@pytest.mark.parametrize("angle", [0.0, 15.0, 45.0, 75.0])
@pytest.mark.parametrize("pitch", [1200 / 65, 16.0, 8.0])
@pytest.mark.parametrize("tone", TONES)
def test_am_tints_are_inked_by_their_tone_within_one_percent(shape, angle, pitch, tone) -> None:
    flat = np.full((900, 900), tone, np.float32)
    dots = am_dots(flat, top=0, left=0, pitch=pitch, angle=angle, shape=shape)
    assert dots.mean() == pytest.approx(tone, abs=0.01)


@pytest.mark.parametrize("tone", TONES)
@pytest.mark.parametrize("dot", [1, 3])
def test_fm_tints_are_inked_by_their_tone_within_one_percent(tone, dot) -> None:
    dots = fm_dots(np.full((960, 960), tone, np.float32), top=0, left=0, dot=dot)
    assert dots.mean() == pytest.approx(tone, abs=0.01)


def test_the_stochastic_mask_holds_every_threshold_once_and_has_little_grain() -> None:
    mask = stochastic_mask()
    assert np.unique(mask).size == mask.size
    spectrum = np.abs(np.fft.fft2((mask < 0.2) - 0.2)) ** 2
    frequency = np.hypot(*np.meshgrid(np.fft.fftfreq(64), np.fft.fftfreq(64)))
    low, high = spectrum[(frequency > 0) & (frequency < 0.15)], spectrum[frequency > 0.3]
    assert low.mean() < 0.2 * high.mean()


def test_screens_have_their_ruling_and_angle() -> None:
    dots = am_dots(
        np.full((512, 512), 0.3, np.float32), top=0, left=0, pitch=16, angle=15, shape="round"
    )
    spectrum = np.abs(np.fft.fft2(dots - dots.mean()))
    y, x = np.unravel_index(spectrum[:256].argmax(), (256, 512))
    fx, fy = np.fft.fftfreq(512)[x], np.fft.fftfreq(512)[y]
    assert np.hypot(fx, fy) == pytest.approx(1 / 16, rel=0.03)
    # A square screen repeats every 90 degrees.
    assert -np.degrees(np.arctan2(fy, fx)) % 90 == pytest.approx(15, abs=2)


def films(rules: FilmRules, **options) -> FilmSet:
    inks = np.zeros((60, 90, 4), np.uint8)
    inks[..., 0] = 128
    inks[20:40, 30:60, 3] = 255
    return FilmSet(inks, ("C", "M", "Y", "K"), (100, 100), rules, "Comet bag", **options)


RULES = FilmRules(resolution=400, ruling=50)


@pytest.mark.parametrize("screening", ["am", "fm"])
def test_films_of_several_bands_are_one(screening, monkeypatch) -> None:
    rules = RULES.model_copy(update={"screening": screening})
    whole = [np.concatenate(list(films(rules, mirror=True).bands(i))) for i in (0, 3)]
    for rows in (64, 101):
        monkeypatch.setattr(film_module, "_ROWS", rows)
        made = films(rules, mirror=True)
        for plate, wanted in zip((0, 3), whole, strict=True):
            bands = list(made.bands(plate))
            assert [len(b) for b in bands[:-1]] == [rows] * (len(bands) - 1)
            assert np.concatenate(bands).shape == made.shape
            # Tones between two rows of inks may round to the other side of a threshold.
            assert (np.concatenate(bands) != wanted).mean() < 1e-3


def read_zip(path) -> dict[str, np.ndarray]:
    with zipfile.ZipFile(path) as archive:
        return {n: tifffile.imread(io.BytesIO(archive.read(n))) for n in archive.namelist()}


def test_tiff_films_are_one_bit_at_the_prints_size(tmp_path) -> None:
    made = films(RULES)
    write_films(tmp_path / "films.zip", made, RULES, "TIFF", lambda share: None)
    found = read_zip(tmp_path / "films.zip")
    assert list(found) == [f"film_{n}.tif" for n in "CMYK"]
    with zipfile.ZipFile(tmp_path / "films.zip") as archive:
        page = tifffile.TiffFile(io.BytesIO(archive.read("film_K.tif"))).pages[0]
    assert page.bitspersample == 1
    assert page.tags["XResolution"].value == (400, 1)
    margin = round(12 / 25.4 * 400)
    assert found["film_K.tif"].shape == (240 + 2 * margin, 360 + 2 * margin)
    black = found["film_K.tif"][margin:-margin, margin:-margin]
    assert black[90:150, 130:230].all()
    assert not black[:70].any()
    cyan = found["film_C.tif"][margin:-margin, margin:-margin]
    assert cyan.mean() == pytest.approx(128 / 255, abs=0.01)
    marks = {n: f[-margin:].sum() for n, f in found.items()}
    assert all(marks.values())
    assert marks["film_C.tif"] != marks["film_M.tif"]  # the plate's name differs


def test_stochastic_films_have_spots_instead_of_a_screen() -> None:
    def changes(screening: str) -> int:
        made = films(RULES.model_copy(update={"screening": screening, "dot": 1, "marks": False}))
        film = np.concatenate(list(made.bands(0)))
        return int((film[:, 1:] != film[:, :-1]).sum())

    # A screen of 8 pixels turns twice in 8, spots of one pixel at half of the steps.
    assert changes("fm") > 1.5 * changes("am") > 0


def test_mirror_and_negative_films(tmp_path) -> None:
    plain = np.concatenate(list(films(RULES).bands(3)))
    turned = np.concatenate(list(films(RULES, mirror=True, negative=True).bands(3)))
    assert np.array_equal(turned, 1 - plain[:, ::-1])


def test_pdf_films_have_a_named_page_for_every_plate(tmp_path) -> None:
    shares: list[float] = []
    write_films(tmp_path / "films.pdf", films(RULES), RULES, "PDF", shares.append)
    count = len(films(RULES).names)
    assert shares[-count:] == [(i + 1) / count for i in range(count)]
    with pikepdf.open(tmp_path / "films.pdf") as pdf:
        assert len(pdf.pages) == 4
        with pdf.open_outline() as outline:
            assert [o.title for o in outline.root] == [f"Plate {n}" for n in "CMYK"]
        width = float(pdf.pages[0].mediabox[2])
    assert width == pytest.approx((90 / 100 + 2 * 12 / 25.4) * 72, abs=0.4)
    with pypdfium2.PdfDocument(tmp_path / "films.pdf") as document:
        shown = np.asarray(document[3].render(scale=2).to_numpy())[..., 0]
    middle = shown[shown.shape[0] // 2, shown.shape[1] // 2]
    assert middle < 20  # the solid of the black plate is exposed


def test_films_may_be_read_by_whoever_unpacks_them(tmp_path) -> None:
    write_films(tmp_path / "films.zip", films(RULES), RULES, "TIFF", lambda share: None)
    with zipfile.ZipFile(tmp_path / "films.zip") as archive:
        assert {entry.external_attr >> 16 for entry in archive.infolist()} == {0o644}


@pytest.mark.parametrize("wrong", [{"rulings": 60}, {"angles": {"C": float("nan")}}, {"ruling": 5}])
def test_rules_of_films_that_make_no_sense(wrong) -> None:
    with pytest.raises(ValidationError):
        FilmRules.model_validate(wrong)
    with pytest.raises(ValidationError):
        FilmRules().ruling = 50  # type: ignore[misc]


@pytest.mark.parametrize("angle", [0.0, 15.0, 45.0, 75.0])
def test_angles_run_counter_clockwise_and_lines_of_none_lie_flat(angle) -> None:
    dots = am_dots(
        np.full((400, 400), 0.5, np.float32), top=0, left=0, pitch=20, angle=angle, shape="line"
    )
    # Along a line nothing changes, across it everything does after half a pitch.
    right, up = np.cos(np.radians(angle)), np.sin(np.radians(angle))
    rows, columns = np.mgrid[150:250, 150:250]
    same, other = (
        np.mean(
            dots[rows, columns]
            == dots[np.round(rows + dy).astype(int), np.round(columns + dx).astype(int)]
        )
        for dx, dy in ((60 * right, -60 * up), (10 * up, 10 * right))
    )
    assert same > 0.9
    assert other < 0.1
