"""The colour space of pictures of any inks in a PDF (ISO 32000-2, 8.6.6.5): DeviceN with NChannel attributes.

Programs that do not have the inks show the picture by its tint transform, which says what the profile
says they print.
"""

from __future__ import annotations

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50
from plinto_core.icc.colorants import long_name
from plinto_core.icc.profile import Profile
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.link import grid_nodes

_NODES = {1: 33, 2: 17, 3: 9, 4: 7, 5: 5, 6: 4, 7: 4, 8: 3}
"""Of the tint transform along every ink, by the number of inks: some ten thousand samples at most."""
_RANGE = (0, 100, -128, 127, -128, 127)
_PROCESS = ("Cyan", "Magenta", "Yellow", "Black")


def device_n(pdf: pikepdf.Pdf, inks: tuple[str, ...], profile: Profile) -> pikepdf.Array:
    """DeviceN of the inks, their look relative to the medium's white through the profile."""
    names = [long_name(n) for n in inks]
    lab = pikepdf.Array(
        [
            pikepdf.Name.Lab,
            pikepdf.Dictionary(
                WhitePoint=[round(float(v), 4) for v in D50], Range=list(_RANGE[2:])
            ),
        ]
    )
    alternate = pdf.make_indirect(lab)
    space = pikepdf.Array(
        [
            pikepdf.Name.DeviceN,
            pikepdf.Array([pikepdf.Name(f"/{n}") for n in names]),
            alternate,
            _tints(pdf, profile, list(range(len(inks)))),
        ]
    )
    spots = pikepdf.Dictionary()
    for place, name in enumerate(names):
        if name not in _PROCESS:
            function = _tints(pdf, profile, [place])
            spots[f"/{name}"] = pikepdf.Array(
                [pikepdf.Name.Separation, pikepdf.Name(f"/{name}"), alternate, function]
            )
    attributes = pikepdf.Dictionary(Subtype=pikepdf.Name.NChannel, Colorants=spots)
    process = [n for n in names if n in _PROCESS]
    if process == list(_PROCESS):
        attributes.Process = pikepdf.Dictionary(
            ColorSpace=pikepdf.Name.DeviceCMYK,
            Components=pikepdf.Array([pikepdf.Name(f"/{n}") for n in process]),
        )
    space.append(attributes)
    return space


def _tints(pdf: pikepdf.Pdf, profile: Profile, places: list[int]) -> pikepdf.Object:
    """A sampled function from tone values of some inks, all others out, to Lab."""
    size = _NODES[len(places)]
    # The first input runs fastest in a sampled function.
    part = grid_nodes(len(places), size)[:, ::-1]
    device = np.zeros((len(part), profile.channels))
    device[:, places] = part
    samples = _encoded(lab_of_device(profile, device))
    return pdf.make_indirect(
        pikepdf.Stream(
            pdf,
            samples.tobytes(),
            FunctionType=0,
            Domain=[0, 1] * len(places),
            Range=list(_RANGE),
            Size=[size] * len(places),
            BitsPerSample=16,
        )
    )


def _encoded(lab: Floats) -> np.ndarray:
    low, high = np.array(_RANGE[::2]), np.array(_RANGE[1::2])
    return np.asarray(np.round(np.clip((lab - low) / (high - low), 0, 1) * 65535).astype(">u2"))
