"""What a delivery does besides the link: resampling, screening, regions; beside libvips.

Usage: python benchmarks/delivery.py
Prints best of three, and the error of the resampling against a float64 reference.
"""

from __future__ import annotations

import os
import resource
import tempfile
import time
from pathlib import Path

import numpy as np
import pyvips
import tifffile
from scipy.ndimage import gaussian_filter

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc import Profile
from plinto_core.imaging.halftone import am_dots, fm_dots
from plinto_core.imaging.resample import lanczos_weights, resampled
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.warm_up import warm_up

HEIGHT, WIDTH = 3000, 4000


def best(work, times: int = 3) -> float:
    spent = []
    for _ in range(times):
        began = time.perf_counter()
        work()
        spent.append(time.perf_counter() - began)
    return min(spent)


def picture() -> np.ndarray:
    rng = np.random.default_rng(1)
    smooth = gaussian_filter(rng.random((HEIGHT // 4, WIDTH // 4, 3)), (3, 3, 0))
    smooth = (smooth - smooth.min()) / np.ptp(smooth)
    return np.round(np.kron(smooth, np.ones((4, 4, 1))) * 65535).astype(np.uint16)


def by_bands(data: np.ndarray, wanted: tuple[int, int]) -> np.ndarray:
    bands = (data[i : i + 256] for i in range(0, data.shape[0], 256))
    return np.concatenate(list(resampled(bands, data.shape[:2], wanted)))


def reference(data: np.ndarray, wanted: tuple[int, int]) -> np.ndarray:
    out = data.astype(np.float64)
    for axis, (old, new) in enumerate(zip(data.shape[:2], wanted, strict=True)):
        first, weights = lanczos_weights(old, new)
        index = first[:, None] + np.arange(weights.shape[1])
        moved = np.moveaxis(out, axis, 0)
        summed = np.einsum("nt,nt...->n...", weights.astype(np.float64), moved[index])
        out = np.moveaxis(summed, 0, axis)
    return np.clip(out, 0, 65535)


def resampling(data: np.ndarray) -> None:
    image = pyvips.Image.new_from_memory(data.tobytes(), WIDTH, HEIGHT, 3, "ushort")
    for share in (0.5, 0.23, 1.5):
        wanted = (round(HEIGHT * share), round(WIDTH * share))
        ours = best(lambda w=wanted: by_bands(data, w))
        theirs = best(lambda s=share: image.resize(s, kernel="lanczos3").write_to_memory())
        print(
            f"resample 12 Mpx 16 bit to {share:4.0%}   Plinto {ours:6.2f} s   libvips {theirs:6.2f} s"
        )
    small = data[:400, :500]
    error = np.abs(by_bands(small, (170, 230)) - reference(small, (170, 230)))
    print(f"resampling against float64: largest error {error.max():.2f} of 65535")


def screening() -> None:
    tone = np.random.default_rng(2).random((4000, 4000)).astype(np.float32)
    am = best(lambda: am_dots(tone, top=0, left=0, pitch=18.5, angle=15, shape="round"))
    fm_dots(tone[:8], top=0, left=0, dot=2)
    fm = best(lambda: fm_dots(tone, top=0, left=0, dot=2))
    print(f"screening, film Mpx/s: AM {16 / am:.0f}, FM {16 / fm:.0f}")


def whole(data: np.ndarray) -> None:
    condition = CONDITIONS[0]
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(condition.model, chart))
    built = build_profile(
        Characterisation(chart, xyz), parse_ink_rules(condition.rules), BuildSettings(size="small")
    )
    press = Profile(built.data)
    region = {"corners": [[10, 10], [80, 20], [70, 90], [20, 80]], "softness": 5}
    cases = {
        "plain": {},
        "ink rules": {"ink_rules": {"tac": 280}},
        "two soft regions": {
            "ink_rules": {"tac": 280},
            "corrections": [{"lightness": 20, "region": region}, {"chroma": 20, "region": {**region, "outside": True}}],
        },
        "least dots, turned": {"plates": {"K": {"minimum": 3}}, "delivery": {"turn": 90}},
        "films 1200 ppi": {"delivery": {"films": {}, "width_mm": 300}},
    }  # fmt: skip
    with tempfile.TemporaryDirectory() as folder:
        source = Path(folder) / "in.tif"
        tifffile.imwrite(source, data, photometric="rgb", compression="zlib", rowsperstrip=64, iccprofile=standard_profile("oprgb").data)  # fmt: skip
        for name, changes in cases.items():
            recipe = parse_recipe({"destination": "press", **changes})
            began = time.perf_counter()
            run_recipe(recipe, source, Path(folder) / "out", lambda reference: press)
            print(f"12 Mpx to CMYK, {name:20} {time.perf_counter() - began:6.1f} s")
    print(
        f"highest memory so far {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB"
    )


def main() -> None:
    warm_up()
    data = picture()
    print(f"{os.cpu_count()} processors")
    resampling(data)
    screening()
    whole(data)


if __name__ == "__main__":
    main()
