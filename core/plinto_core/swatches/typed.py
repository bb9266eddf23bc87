"""One colour as people type it: Lab or LCh as measured, or numbers of the screen."""

from __future__ import annotations

import re

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry import LCh_to_Lab
from plinto_core.errors import BadInput
from plinto_core.swatches.swatches import Swatches, swatches
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import say

LONGEST = 80
_HEX = re.compile(r"#?([0-9a-f]{6})|#([0-9a-f]{3})", re.IGNORECASE)
_SAID = re.compile(r"\s*(lab|lch|rgb)?\s*[:=]?\s*\(?([^()]*)\)?\s*", re.IGNORECASE)


def typed_colour(text: str) -> tuple[Swatches, bool]:
    """A list of one Lab colour (D50), and whether the paper is its white: "50 -20 -35", "lab(50; -20,5; -35)",
    "lch 50 40 210" as measured; "rgb 0 128 200" and "#0080c8" in sRGB, whose white is the paper's.

    Raises BadInput.
    """
    plain = text.strip().replace("−", "-")
    if len(plain) > LONGEST:
        raise BadInput(say("swatches.colour-untyped"))
    short = _HEX.fullmatch(plain)
    if short:
        digits = short[1] or "".join(d * 2 for d in short[2])
        space, numbers = "rgb", np.array(list(bytes.fromhex(digits)), dtype=np.float64)
    else:
        said = _SAID.fullmatch(plain)
        if said is None:
            raise BadInput(say("swatches.colour-untyped"))
        space, numbers = (said[1] or "lab").lower(), _numbers(said[2])
    values = numbers[None]
    if space == "rgb":
        values = swatches("RGB ", values).values / 255
        return swatches("Lab ", lab_of_device(standard_profile("srgb"), values), [plain]), True
    return swatches("Lab ", LCh_to_Lab(values) if space == "lch" else values, [plain]), False


def _numbers(text: str) -> Floats:
    """Three numbers with semicolons, commas or blanks between them; decimal commas where no comma separates."""
    text = text.strip()
    between = r",\s*" if re.search(r",\s", text) or not re.search(r"\s", text) else r"\s+"
    parts = re.split(";" if ";" in text else between, text)
    try:
        found = np.array([float(p.strip().replace(",", ".")) for p in parts])
    except ValueError as error:
        raise BadInput(say("swatches.colour-untyped")) from error
    if len(found) != 3 or not np.isfinite(found).all():
        raise BadInput(say("swatches.colour-untyped"))
    return found
