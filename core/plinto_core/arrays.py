"""Array types used throughout the core."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Floats32 = NDArray[np.float32]
Mask = NDArray[np.bool_]
Pixels = NDArray[Any]
"""Picture samples, (rows, columns, channels), uint8 or uint16."""
Progress = Callable[[float], None]
"""Told the share done, 0..1; raises Cancelled to stop the work."""
