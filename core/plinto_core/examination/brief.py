"""What a list shows of a profile."""

from __future__ import annotations

from typing import Any

import numpy as np

from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.errors import BadProfile
from plinto_core.icc.parts import why_not_examined
from plinto_core.icc.profile import Profile


def brief_facts(profile: Profile) -> dict[str, Any]:
    """Version, date, maker's signature, size in bytes, a hash of all that decides
    its colours, whether it can be examined, Lab of the white, and for
    device links the space they give; "" for what is not stated."""
    header = profile.header
    year, month, day = header.created[:3]
    dated = 1990 <= year <= 2100 and 1 <= month <= 12 and 1 <= day <= 31
    try:
        white = XYZ_to_Lab(profile.media_white)
    except BadProfile:
        white = np.array([100.0, 0.0, 0.0])
    return {
        "version": ".".join(str(v) for v in header.version[:2]),
        "created": f"{year:04d}-{month:02d}-{day:02d}" if dated else "",
        "maker": "".join(c for c in header.manufacturer if 32 < ord(c) < 127),
        "size": len(profile.data),
        "colours": profile.colour_digest,
        "gives": header.pcs.strip() if header.device_class == "link" else "",
        "examined": not why_not_examined(profile),
        "white": [round(float(v), 1) + 0.0 for v in np.nan_to_num(white)],
    }
