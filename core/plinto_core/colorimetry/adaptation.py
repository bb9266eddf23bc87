"""Linear Bradford adaptation (ICC.1:2022, annex E.3)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.icc.header import D50

BRADFORD = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)


def bradford(white_from: Floats, white_to: Floats = D50) -> Floats:
    """The (3, 3) matrix that takes XYZ under one white to XYZ under another."""
    ratio = (BRADFORD @ np.asarray(white_to)) / (BRADFORD @ np.asarray(white_from))
    return np.asarray(np.linalg.inv(BRADFORD) @ np.diag(ratio) @ BRADFORD)
