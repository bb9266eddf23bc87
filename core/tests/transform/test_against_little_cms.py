"""The float evaluator against the Little CMS library without optimisation (docs/methods)."""

from __future__ import annotations

import imagecodecs
import numpy as np
import pytest

from plinto_core.colorimetry import delta_e_2000
from plinto_core.icc.spaces import INTENTS
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.black_point import (
    compensation,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.standard_spaces import standard_profile

FLAGS = imagecodecs.CMS.FLAGS
NAMES = {"RGB ": "rgb", "GRAY": "gray", "CMYK": "cmyk"}


def library(device, source, destination, intent, bpc):
    flags = int(FLAGS.NOOPTIMIZE) | int(FLAGS.NOCACHE)
    flags |= int(FLAGS.BLACKPOINTCOMPENSATION) if bpc else 0
    scaled = device * 100 if source.colour_space == "CMYK" else device
    if source.channels == 1:
        scaled = scaled[:, 0]
    out = imagecodecs.cms_transform(
        scaled.astype(np.float32)[None], source.data, destination.data,
        colorspace=NAMES[source.colour_space], outcolorspace=NAMES[destination.colour_space],
        outdtype=np.float32, intent=intent, flags=flags,
    )  # fmt: skip
    out = np.asarray(out, np.float64).reshape(device.shape[0], -1)
    return np.clip(out / 100 if destination.colour_space == "CMYK" else out, 0, 1)


def samples(channels: int) -> np.ndarray:
    rng = np.random.default_rng(3)
    axes = np.meshgrid(*[np.linspace(0, 1, 5)] * channels)
    return np.vstack([np.stack(axes, -1).reshape(-1, channels), rng.random((1500, channels))])


def left_out(source, destination, number) -> bool:
    """Whether the library leaves a compensation out: all its matrix and half its offset differ from none
    by less than 0.002 together."""
    black = source_black_point(source, number), destination_black_point(destination, number)
    scale, offset = compensation(*black)
    return bool(np.abs(scale - 1).sum() + np.abs(offset).sum() / 2 < 0.002)


@pytest.mark.parametrize("bpc", [False, True])
@pytest.mark.parametrize("number", range(4))
@pytest.mark.parametrize(
    "route", ["romm>v2", "romm>v4", "v2>srgb", "v4>srgb", "grey>v2", "v2>v4", "oprgb>p3"]
)
def test_every_intent_and_bpc(route, number, bpc, coated, coated_v4) -> None:
    ends = {"v2": coated, "v4": coated_v4}
    source, destination = (ends.get(n) or standard_profile(n) for n in route.split(">"))
    device = samples(source.channels)
    there = bpc and not left_out(source, destination, number)
    ours = convert(source, destination, device, intent=INTENTS[number], bpc=there)
    theirs = library(device, source, destination, number, bpc)
    error = delta_e_2000(lab_of_device(destination, ours), lab_of_device(destination, theirs))
    assert np.percentile(error, 99) <= 0.1
    assert error.max() <= 0.5
