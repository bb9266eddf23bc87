"""Reading a proof's strip: by the bench instrument from the file, or from a measured file."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadInput
from plinto_core.imaging.reader import open_picture
from plinto_core.proofs.sheet import StripPlace
from plinto_core.simulator.press import PressModel, RgbPrinter, measure_chart, predicted_lab
from plinto_core.swatches.files import read_swatches
from plinto_core.words import say

APERTURE = 0.5
"""Share of a patch's side that is read, in its middle: an instrument's aperture keeps off the edges."""


def device_of_strip(path: Path, strip: StripPlace) -> Floats:
    """(n, channels) the file's own numbers 0..1 in the middle of every patch of a written proof.

    Raises BadInput where the strip does not lie in the picture.
    """
    half = max(1, round(strip.side * APERTURE / 2))
    places = np.array(strip.centres)
    sums: Floats | None = None
    with open_picture(path) as picture:
        facts = picture.facts
        inside = (places >= half).all() and (places + half <= (facts.width, facts.height)).all()
        if not inside:
            raise BadInput(say("proofs.strip-outside"))
        top = float(2**facts.bits - 1)
        row = 0
        counts = np.zeros(len(places))
        for band in picture.bands():
            if sums is None:
                sums = np.zeros((len(places), band.shape[2]))
            for i, (x, y) in enumerate(places):
                first, last = max(y - half, row), min(y + half, row + band.shape[0])
                if first < last:
                    part = band[first - row : last - row, x - half : x + half]
                    sums[i] += part.reshape(-1, band.shape[2]).sum(axis=0)
                    counts[i] += part.shape[0] * part.shape[1]
            row += band.shape[0]
    assert sums is not None
    return np.asarray(sums / counts[:, None] / top)


def bench_reading(
    device: Floats, printed_on: PressModel | RgbPrinter, *, noise: float = 0.0, seed: int = 1
) -> Floats:
    """(n, 3) absolute Lab (D50) of tone values 0..1 printed on a simulated press and measured.

    noise : of the instrument, relative, 0 for none.
    """
    takes = printed_on.channels
    if device.shape[1] != takes:
        raise BadInput(say("proofs.strip-channels", channels=device.shape[1], takes=takes))
    if noise <= 0:
        return predicted_lab(printed_on, device)
    spectra = measure_chart(printed_on, device, noise=noise, seed=seed)
    return XYZ_to_Lab(reflectance_to_XYZ(spectra))


def reading_of_file(data: bytes, names: Sequence[str], file_name: str = "") -> Floats:
    """(n, 3) Lab of a measured file, in the order of the strip.

    CGATS text, CSV or CxF3 with Lab, XYZ or spectra. Patches are found by their names where all of
    them are named; else as many rows as patches are taken in their order. Raises BadInput.
    """
    lists = [s for s in read_swatches(data, file_name) if s.space == "Lab "]
    if not lists:
        raise BadInput(say("proofs.file-no-colours"))
    found = lists[0]
    by_name = {_plain(n): i for i, n in enumerate(found.names)}
    if len(by_name) == len(found.names) and all(_plain(n) in by_name for n in names):
        return np.asarray(found.values[[by_name[_plain(n)] for n in names]])
    if len(found) != len(names):
        raise BadInput(say("proofs.file-count", colours=len(found), patches=len(names)))
    return np.asarray(found.values)


def _plain(name: str) -> str:
    return " ".join(name.lower().split())
