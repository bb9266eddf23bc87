"""Colours along a path, exactly, beside Little CMS; and paths saved as links: python benchmarks/paths.py

100,000 colours from sRGB through a built press into Lab. Little CMS through imagecodecs, in float without
optimisation, which is exact as well. Then the error and the time of links saved of usual paths.
"""

from __future__ import annotations

import time
from collections.abc import Callable

import imagecodecs
import numpy as np

from plinto_core.characterise import build_profile
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc.profile import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.paths.figures import difference_figures
from plinto_core.paths.follow import follow
from plinto_core.paths.saving import SavingOptions, save_path
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.path import LAB, PathStep, follow_path
from plinto_core.transform.standard_spaces import standard_profile

COUNT = 100_000


def press(number: int) -> Profile:
    """A profile built of an invented press."""
    condition = CONDITIONS[number]
    chart = cmyk_chart()
    measured = Characterisation(chart, reflectance_to_XYZ(measure_chart(condition.model, chart)))
    return Profile(build_profile(measured, parse_ink_rules(condition.rules)).data)


def best(work: Callable[[], object], times: int = 5) -> float:
    """Seconds of the quickest of some runs."""
    found = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        found.append(time.perf_counter() - began)
    return min(found)


def main() -> None:
    srgb, coated, news = standard_profile("srgb"), press(0), press(2)
    rgb = np.random.default_rng(1).random((COUNT, 3))
    steps = [PathStep(srgb), PathStep(coated, "relative", True), PathStep(LAB)]
    flags = int(imagecodecs.CMS.FLAGS.NOOPTIMIZE) | int(imagecodecs.CMS.FLAGS.NOCACHE)
    bpc = int(imagecodecs.CMS.FLAGS.BLACKPOINTCOMPENSATION)
    data = rgb.astype(np.float32)[None]

    def theirs() -> np.ndarray:
        inks = imagecodecs.cms_transform(
            data, srgb.data, coated.data, colorspace="rgb", outcolorspace="cmyk",
            outdtype=np.float32, intent=1, flags=flags | bpc,
        )  # fmt: skip
        return np.asarray(inks)[0] / 100

    follow_path(steps, rgb * 255)
    print(
        f"{COUNT} colours, three steps   Plinto {best(lambda: follow_path(steps, rgb * 255)):.3f} s"
    )
    print(f"  and their colours          Plinto {best(lambda: follow(steps, rgb * 255)):.3f} s")
    print(f"  its first two steps    Little CMS {best(theirs):.3f} s, one thread")
    seen = follow(steps, rgb * 255)
    names = tuple(map(str, range(COUNT)))
    figures = best(lambda: difference_figures("2000", seen.colours(0), seen.colours(2), names))
    print(f"  figures of two steps       Plinto {figures:.3f} s")
    ours = follow_path(steps[:2], rgb * 255)[1] / 100
    both = [follow([PathStep(coated)], v * 100).colours(0) for v in (ours, theirs())]
    apart = delta_e_2000(*both)
    print(f"  apart: mean {apart.mean():.4f}, 99 % {np.percentile(apart, 99):.4f} dE00")
    for name, path, options in (
        ("sRGB to coated, relative", steps[:2], {}),
        ("sRGB to coated, perceptual", [steps[0], PathStep(coated, "perceptual", True)], {}),
        ("coated to newsprint", [PathStep(coated), PathStep(news, "relative", True)], {}),
        ("  black and inks kept, 230 %", [PathStep(coated), PathStep(news, "relative", True)],
         {"keep_inks": True, "keep_black": True, "tac": 230}),
        ("sRGB to newsprint on coated", [steps[0], PathStep(news, "relative", True), PathStep(coated, "absolute")], {}),
        ("baked: sRGB as coated", steps[:2], {"kind": "baked"}),
    ):  # fmt: skip
        began = time.perf_counter()
        _, made = save_path(path, SavingOptions.model_validate(options))
        took = time.perf_counter() - began
        errors = [made.inside, made.everywhere]
        said = "  ".join(
            "no gamut" if e is None else f"{e.mean:.3f} / {e.p99:.2f} / {e.max:.2f}" for e in errors
        )
        print(f"{name:30} {made.grid:3} nodes  {said}  {took:.1f} s")


if __name__ == "__main__":
    main()
