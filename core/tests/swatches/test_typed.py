"""One colour, as people type it."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.errors import BadInput
from plinto_core.swatches.typed import typed_colour


@pytest.mark.parametrize(
    ("text", "lab"),
    [
        ("50 -20 -35", (50, -20, -35)),
        (" 50,-20,-35 ", (50, -20, -35)),
        ("50, -20.5, -35", (50, -20.5, -35)),
        ("50 −20,5 −35", (50, -20.5, -35)),
        ("Lab(50; -20,5; -35)", (50, -20.5, -35)),
        ("lab: 50 -20 -35", (50, -20, -35)),
        ("LCH 50 40 90", (50, 0, 40)),
        ("lch 50 40 180", (50, -40, 0)),
    ],
)
def test_measured_colours(text, lab) -> None:
    found, of_paper = typed_colour(text)
    assert found.space == "Lab "
    assert found.values[0] == pytest.approx(lab, abs=1e-9)
    assert not of_paper


@pytest.mark.parametrize(
    "text", ["#f00", "#FF0000", "ff0000", "rgb 255 0 0", "RGB(255, 0, 0)", "rgb=255;0;0"]
)
def test_colours_of_the_screen(text) -> None:
    """sRGB red under D50 is L* 54.29 a* 80.81 b* 69.89 by IEC 61966-2-1 and the Bradford matrix."""
    found, of_paper = typed_colour(text)
    assert found.values[0] == pytest.approx((54.29, 80.81, 69.89), abs=0.05)
    assert of_paper
    assert np.allclose(typed_colour("rgb 255 255 255")[0].values, [[100, 0, 0]], atol=0.02)


@pytest.mark.parametrize(
    "text",
    [
        "", "   ", "red", "#ff00", "#gg0000", "123456789", "50 20", "50 20 30 40", "rgb 256 0 0",
        "rgb -1 0 0", "lab 50 300 0", "nan 0 0", "1e999 0 0", "x" * 5000,
        "cmyk 10 20 30", "50\n20\n30\n40", "50 20 30; 40",
    ],
)  # fmt: skip
def test_what_is_no_colour(text) -> None:
    with pytest.raises(BadInput):
        typed_colour(text)
