"""Run every kernel once, so that compilation never waits under a user's first click."""

from __future__ import annotations

from functools import partial

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import ForwardTable, separate
from plinto_core.kernels.apply import max_total
from plinto_core.kernels.sample import sample_region
from plinto_core.transform.link import build_link


def _spread(device: Floats, outputs: int) -> Floats:
    return np.repeat(device[:, :1], outputs, axis=1)


def warm_up() -> None:
    """Compile or load every kernel for the types the application uses."""
    delta_e_2000(np.zeros((1, 3)), np.ones((1, 3)))
    for inputs in (1, 3, 4):
        for outputs in (1, 3, 4):
            link = build_link(partial(_spread, outputs=outputs), inputs, size=2)
            for dtype in (np.uint8, np.uint16):
                pixels = np.zeros((4, inputs), dtype)
                for bits in (8, 16):
                    max_total(link.apply(pixels, bits=bits))
                sample_region(np.zeros((4, 4, inputs), dtype), 0.0, 0.0, 4.0, 4.0, 2, 2)
            link.evaluate(np.zeros((1, inputs)))
    lab = np.zeros((2, 2, 2, 2, 3))
    lab[..., 0] = 100 * (1 - np.indices((2, 2, 2, 2)).mean(axis=0))
    separate(ForwardTable(lab), np.array([[50.0, 0, 0]]), InkRules(tac=300))
