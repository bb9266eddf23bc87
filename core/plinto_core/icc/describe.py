"""Facts of a profile as plain data, for people and for JSON."""

from __future__ import annotations

from typing import Any

import numpy as np

from plinto_core.icc.check import check_profile
from plinto_core.icc.profile import Profile
from plinto_core.icc.reader import signature
from plinto_core.icc.spaces import CLASSES, INTENTS, channel_names


def describe_profile(profile: Profile) -> dict[str, Any]:
    """Class, spaces, version, white, tags, tables and problems of a profile.

    XYZ values have Y = 1; sizes are in bytes.
    """
    header = profile.header
    tables: dict[str, dict[str, Any]] = {}
    for tag in ("A2B0", "A2B1", "A2B2", "B2A0", "B2A1", "B2A2", "gamt"):
        if tag in profile:
            try:
                table = profile.table(tag)
            except Exception as error:  # noqa: BLE001 - a damaged table is reported as such
                tables[tag] = {"error": str(error)}
                continue
            tables[tag] = {
                "type": table.kind,
                "inputs": table.inputs,
                "outputs": table.outputs,
                "grid": list(table.clut.shape[:-1]) if table.clut is not None else [],
            }
    intent = header.rendering_intent
    return {
        "description": profile.description,
        "copyright": profile.text("cprt"),
        "class": CLASSES[header.device_class],
        "colour_space": header.colour_space.strip(),
        "channels": list(channel_names(header.colour_space)),
        "pcs": header.pcs.strip(),
        "version": ".".join(str(v) for v in header.version),
        "size": len(profile.data),
        "created": "{:04d}-{:02d}-{:02d} {:02d}:{:02d}:{:02d}".format(*header.created),
        "rendering_intent": INTENTS[intent] if intent < 4 else str(intent),
        "media_white_xyz": [round(float(v), 4) for v in _white(profile)],
        "kind": "matrix and curves" if profile.is_matrix_shaper and not tables else "tables",
        "tables": tables,
        "tags": {
            tag: {
                "type": signature(profile.data, offset).strip("\0 ") if size >= 4 else "",
                "size": size,
            }
            for tag, (offset, size) in profile.directory.items()
        },
        "sha256": profile.digest,
        "problems": [vars(p) for p in check_profile(profile.data)],
    }


def _white(profile: Profile) -> list[float]:
    try:
        return [float(v) for v in np.asarray(profile.xyz("wtpt"))]
    except Exception:  # noqa: BLE001 - absence is a finding of the check, not an error here
        return [float(v) for v in profile.media_white]
