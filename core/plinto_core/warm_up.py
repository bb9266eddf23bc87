"""Run every kernel once, so that compilation never waits under a user's first click."""

from __future__ import annotations

from functools import partial

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.even_hue import in_its_hue
from plinto_core.corrections import Place, Region, region_weight
from plinto_core.document.pdf.operations import Laid, Operations
from plinto_core.document.pdf.state import IDENTITY
from plinto_core.imaging.halftone import am_dots, fm_dots
from plinto_core.imaging.resample import resampled
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.ink_set import InkSet
from plinto_core.inks.mixing import MixTable
from plinto_core.inks.plates import PlateRule, finish
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import separate
from plinto_core.kernels.apply import max_total, plate_sums
from plinto_core.kernels.dither import dithered
from plinto_core.kernels.sample import sample_region
from plinto_core.transform.link import build_link

NAMES = ("C", "M", "Y", "K")


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
                    inks = link.apply(pixels, bits=bits)
                    max_total(inks)
                    plate_sums(inks)
                    finish(inks, NAMES[:outputs], {"C": PlateRule(minimum=3)}, None)
                list(resampled(iter([pixels.reshape(2, 2, inputs)]), (2, 2), (1, 1)))
                sample_region(np.zeros((4, 4, inputs), dtype), 0.0, 0.0, 4.0, 4.0, 2, 2)
            link.evaluate(np.zeros((1, inputs)))
    dithered(np.zeros((1, 2, 4), np.uint16), 0, 0, np.full(4, 255), 1020)
    lab = np.zeros((2, 2, 2, 2, 3))
    lab[..., 0] = 100 * (1 - np.indices((2, 2, 2, 2)).mean(axis=0))
    forward, grey = ForwardTable(lab), np.array([[50.0, 0, 0]])
    separate(forward, grey, InkRules(tac=300))
    forward.body(InkRules(tac=300)).distance(grey)
    even = np.stack([np.linspace(0, 1, 65)] * 5)
    five = MixTable(
        InkSet.of_ramps((*NAMES, "Orange"), np.zeros((5, 65, 3)) + grey[0]),
        100 - 100 * np.indices((2,) * 5).mean(axis=0)[..., None].repeat(3, axis=-1),
        np.stack([np.interp(np.linspace(0, 1, 257), np.linspace(0, 1, 65), e) for e in even]),
    )
    separate(five, grey, InkRules(tac=300))
    build_link(partial(_spread, outputs=3), 5, size=2).apply(np.zeros((4, 5), np.uint16), bits=8)
    in_its_hue(grey, grey[:, 0], grey[:, 1])
    region_weight(Region(corners=((0, 0), (50, 0), (50, 50))), Place((4, 4)), 2, 2)
    content = Operations.of_bytes(b"0 0 1 1 re f")
    assert content is not None
    Laid(content, IDENTITY)
    tone = np.full((4, 4), 0.5, np.float32)
    am_dots(tone, top=0, left=0, pitch=8.0, angle=45.0, shape="round")
    fm_dots(tone, top=0, left=0, dot=2)
