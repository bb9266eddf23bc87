"""CGATS text as it is really written: any order, tabs, blanks, comments, three kinds of colour."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.spectra import WAVELENGTHS
from plinto_core.errors import BadMeasurement
from plinto_core.measurement import cmyk_chart, format_cgats, parse_cgats
from plinto_core.measurement.cgats import CgatsTable, decode
from plinto_core.measurement.characterisation import characterisation_from_text, spectral_fields
from plinto_core.simulator import CONDITIONS
from plinto_core.simulator.press import predicted_lab

CHART = cmyk_chart()
LAB = predicted_lab(CONDITIONS[0].model, CHART)


def text_of(columns: dict[str, np.ndarray], separator: str = "\t", head: str = "") -> str:
    names = list(columns)
    rows = np.stack([columns[n] for n in names], axis=1)
    body = "\n".join(separator.join(f"{v:.6g}" for v in row) for row in rows)
    return (
        f"CGATS.17\n{head}\nBEGIN_DATA_FORMAT\n{separator.join(names)}\nEND_DATA_FORMAT\n"
        f"BEGIN_DATA\n{body}\nEND_DATA\n"
    )


def device_columns() -> dict[str, np.ndarray]:
    return {f"CMYK_{n}": CHART[:, i] * 100 for i, n in enumerate("CMYK")}


def lab_columns() -> dict[str, np.ndarray]:
    return {f"LAB_{n}": LAB[:, i] for i, n in enumerate("LAB")}


def test_lab_in_any_order_with_blanks() -> None:
    columns = dict(
        reversed({**device_columns(), "SAMPLE_ID": np.arange(len(CHART)), **lab_columns()}.items())
    )
    read = characterisation_from_text(text_of(columns, separator="   "))
    assert read.device.shape == CHART.shape
    order = np.lexsort(read.device.T), np.lexsort(CHART.T)
    assert np.abs(read.lab[order[0]] - LAB[order[1]]).max() < 0.001


def test_xyz_alone_is_enough() -> None:
    xyz = Lab_to_XYZ(LAB) * 100
    columns = {**device_columns(), **{f"XYZ_{n}": xyz[:, i] for i, n in enumerate("XYZ")}}
    assert np.allclose(
        np.sort(characterisation_from_text(text_of(columns)).lab[:, 0]),
        np.sort(LAB[:, 0]),
        atol=0.02,
    )


@pytest.mark.parametrize(
    "name", ["SPECTRAL_NM{}", "SPECTRAL_{}", "NM_{}", "R_{}", "nm{}", "SPECTRAL_NM_{}"]
)
def test_spectra_under_every_usual_name(name) -> None:
    spectra = CONDITIONS[0].model.reflectance(CHART)
    columns = {
        **device_columns(),
        **{name.format(int(w)): spectra[:, i] for i, w in enumerate(WAVELENGTHS)},
    }
    read = characterisation_from_text(text_of(columns))
    assert np.allclose(np.sort(read.lab[:, 0]), np.sort(LAB[:, 0]), atol=0.01)


@pytest.mark.parametrize(
    ("first", "last", "step", "taken"),
    [
        (400, 700, 20, True), (380, 730, 10, True), (410, 730, 10, False), (400, 690, 10, False),
        (400, 700, 30, False), (290, 700, 10, True),
    ],
)  # fmt: skip
def test_spectra_have_to_cover_what_is_seen(first, last, step, taken) -> None:
    """400 to 700 nm in 16 bands; what is called like a wavelength below 300 nm is none."""
    bands = range(first, last + 1, step)
    found = spectral_fields(CgatsTable(fields=["SAMPLE_ID", *(f"NM{w}" for w in bands)]))
    assert [nm for nm, _ in found] == ([w for w in bands if w >= 300] if taken else [])


def test_comments_keywords_and_quotes_are_understood() -> None:
    head = 'DESCRIPTOR "A # in a title"\n# a comment\nKEYWORD "X"\nLGOROWLENGTH 4\n'
    read = characterisation_from_text(text_of({**device_columns(), **lab_columns()}, head=head))
    assert read.description == "A # in a title"


def test_repeated_patches_are_averaged_and_noted() -> None:
    columns = {**device_columns(), **lab_columns()}
    doubled = {
        n: np.concatenate([v, v[:5] + (1.0 if n == "LAB_L" else 0.0)]) for n, v in columns.items()
    }
    read = characterisation_from_text(text_of(doubled))
    assert len(read.device) == len(CHART)
    assert any("5 repeated" in note for note in read.notes)


def test_shares_instead_of_percent_are_noticed() -> None:
    columns = {**{n: v / 100 for n, v in device_columns().items()}, **lab_columns()}
    read = characterisation_from_text(text_of(columns))
    assert read.device.max() == pytest.approx(1)
    assert any("shares" in note for note in read.notes)


def test_decimal_commas_and_other_encodings() -> None:
    text = (
        text_of({**device_columns(), **lab_columns()})
        .replace(".", ",")
        .replace("CGATS,17", "CGATS.17")
    )
    assert len(characterisation_from_text(decode(text.encode("utf-16"))).device) == len(CHART)


def test_second_table_is_found() -> None:
    first = text_of({"SAMPLE_ID": np.arange(3.0), "DENSITY": np.ones(3)})
    read = characterisation_from_text(first + text_of({**device_columns(), **lab_columns()}))
    assert len(read.device) == len(CHART)


def test_written_text_is_read_again() -> None:
    table = parse_cgats(
        format_cgats({"ORIGINATOR": "Plinto"}, ["A", "B"], [["1", "2"], ["3", "4"]])
    )[0]
    assert table.keywords["ORIGINATOR"] == "Plinto"
    assert table.column("B") == ["2", "4"]


GOOD = text_of({**device_columns(), **lab_columns()})


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "no BEGIN_DATA"),
        (GOOD[: len(GOOD) // 2], "END_DATA is missing"),
        (
            GOOD.replace("END_DATA\n", "17\nEND_DATA\n", 1).replace(
                "END_DATA_FORMAT", "END_DATA_FORMAT"
            ),
            "END_DATA|fill rows",
        ),
        (GOOD.replace("CMYK_K", "OTHER"), "No table holds CMYK"),
        (GOOD.replace("LAB_L", "OTHER"), "No table holds CMYK"),
        (
            text_of({n: v[:100] for n, v in {**device_columns(), **lab_columns()}.items()}),
            "at least|alone",
        ),
        (
            text_of({**{n: v * 3 for n, v in device_columns().items()}, **lab_columns()}),
            "outside 0 to 100",
        ),
        (
            text_of({n: v[1:] for n, v in {**device_columns(), **lab_columns()}.items()}),
            "unprinted paper",
        ),
        (GOOD.replace("\n0\t0\t0\t0\t", "\n0\t0\t0\tnan\t", 1), "finite"),
        (GOOD.replace("\n0\t0\t0\t0\t", "\n0\t0\t0\tx\t", 1), "not a number"),
    ],
)
def test_broken_files_are_refused_with_their_reason(text, said) -> None:
    with pytest.raises(BadMeasurement, match=said):
        characterisation_from_text(text)


@pytest.mark.parametrize(("paper", "another", "noted"), [(85.0, 99.0, True), (25.0, 24.0, True), (95.0, 97.0, False)])  # fmt: skip
def test_a_paper_that_is_not_the_lightest_or_hardly_reflects_is_noted(
    paper, another, noted
) -> None:
    bare = CHART.sum(axis=1) == 0
    lightness = np.where(bare, paper, np.minimum(LAB[:, 0], another))
    lightness[np.flatnonzero(~bare)[0]] = another
    grey = {f"LAB_{n}": LAB[:, i] * (paper > 50) for i, n in enumerate("LAB")}
    columns = {**device_columns(), **grey, "LAB_L": lightness}
    codes = [note.code for note in characterisation_from_text(text_of(columns)).notes]
    assert ("measurement.white-not-lightest" in codes) is noted


def test_what_paper_is_in_rgb_is_said_in_rgb() -> None:
    device = np.clip(CHART[:, :3], 0, 0.9)
    rgb = {f"RGB_{n}": device[:, i] * 255 for i, n in enumerate("RGB")}
    with pytest.raises(BadMeasurement, match="255 255 255"):
        characterisation_from_text(text_of({**rgb, **lab_columns()}))


def test_binary_files_are_refused() -> None:
    with pytest.raises(BadMeasurement, match="not text"):
        decode(b"\x00\x01\x02" * 100)


def test_chart_has_no_repeats_and_starts_with_paper() -> None:
    assert len(np.unique(CHART, axis=0)) == len(CHART)
    assert CHART[0].sum() == 0
    assert 900 <= len(CHART) <= 2400


def test_paper_is_the_patch_without_ink() -> None:
    read = characterisation_from_text(GOOD)
    assert np.allclose(XYZ_to_Lab(read.paper), LAB[0], atol=0.001)


def test_four_channels_by_number_are_the_process_inks() -> None:
    columns = {f"4CLR_{i + 1}": CHART[:, i] * 100 for i in range(4)}
    data = characterisation_from_text(text_of(columns | lab_columns()))
    assert data.names == ("C", "M", "Y", "K")
    assert np.allclose(data.device, characterisation_from_text(text_of(device_columns() | lab_columns())).device)  # fmt: skip
