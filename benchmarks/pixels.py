"""Throughput of device links beside the Little CMS library (imagecodecs) and libvips, one run.

Usage: python benchmarks/pixels.py [MEGAPIXELS]
Also converts a 16-bit RGB TIFF of 100 megapixels through the command line and prints its memory.
The profile is built by Plinto from its press simulator. Best and median of five.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry import delta_e_2000
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.link import build_measured_link
from plinto_core.transform.standard_spaces import standard_profile

RUNS = 5


def press() -> Profile:
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(CONDITIONS[0].model, chart))
    rules = parse_ink_rules(CONDITIONS[0].rules)
    return Profile(build_profile(Characterisation(chart, xyz), rules, BuildSettings()).data)


def smooth(rows: int, columns: int) -> np.ndarray:
    x, y = np.linspace(0, 1, columns)[None], np.linspace(0, 1, rows)[:, None]
    out = np.empty((rows, columns, 3), np.uint16)
    for i, (p, q) in enumerate(((3, 5), (7, 2), (4, 6))):
        out[..., i] = ((np.sin(x * p + i) * np.cos(y * q + i) * 0.5 + 0.5) * 65535).astype(
            np.uint16
        )
    return out


def timed(work) -> tuple[float, float]:
    work()
    seconds = []
    for _ in range(RUNS):
        began = time.perf_counter()
        work()
        seconds.append(time.perf_counter() - began)
    return min(seconds), statistics.median(seconds)


def little_cms(picture, source, destination, threads):
    def part(rows):
        return imagecodecs.cms_transform(
            rows,
            source.data,
            destination.data,
            colorspace="rgb",
            outcolorspace="cmyk",
            outdtype=np.uint16,
            intent=0,
        )

    if threads == 1:
        return lambda: part(picture)
    pool = ThreadPoolExecutor(threads)
    return lambda: list(pool.map(part, np.array_split(picture, threads)))


def vips(picture, folder: Path, source, destination):
    try:
        import pyvips
    except (ImportError, OSError) as error:
        print(f"libvips is not at hand: {error}")
        return None
    (folder / "s.icc").write_bytes(source.data)
    (folder / "d.icc").write_bytes(destination.data)
    image = pyvips.Image.new_from_array(picture, interpretation="rgb16")
    work = image.icc_transform(
        str(folder / "d.icc"), input_profile=str(folder / "s.icc"), intent="perceptual", depth=16
    )
    return lambda: work.write_to_memory()


def main(megapixels: float) -> None:
    side = int((megapixels * 1e6) ** 0.5)
    source, destination = standard_profile("srgb"), press()

    def function(device):
        return convert(source, destination, device, intent="perceptual", bpc=False)

    def difference(a, b):
        return delta_e_2000(lab_of_device(destination, a), lab_of_device(destination, b))

    began = time.perf_counter()
    link, error = build_measured_link(function, 3, difference)
    print(
        f"link of {link.size} points built and measured in {time.perf_counter() - began:.2f} s; dE00 {error}"
    )
    rng = np.random.default_rng(0)
    pictures = {
        "random": rng.integers(0, 65536, (side, side, 3)).astype(np.uint16),
        "smooth": smooth(side, side),
    }
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        print(
            f"{os.cpu_count()} processors; megapixels a second, best and median of {RUNS}; 16 bit RGB to CMYK"
        )
        for kind, picture in pictures.items():
            pixels = picture.reshape(-1, 3)
            ways = {
                "Plinto link, all cores, 16 bit": lambda p=pixels: link.apply(p, bits=16),
                "Plinto link, all cores, 8 bit out": lambda p=pixels: link.apply(p, bits=8),
                "Little CMS, optimised, one thread": little_cms(picture, source, destination, 1),
                "Little CMS, optimised, two threads": little_cms(picture, source, destination, 2),
                "libvips": vips(picture, folder, source, destination),
            }
            for label, work in ways.items():
                if work is not None:
                    best, median = timed(work)
                    count = pixels.shape[0] / 1e6
                    print(f"{kind:8} {label:36} {count / best:7.1f} {count / median:7.1f}")
        sample = pictures["random"].reshape(-1, 3)[:100_000]
        exact = function(sample / 65535)
        theirs = (
            np.asarray(little_cms(sample[None], source, destination, 1)()).reshape(-1, 4) / 65535
        )
        for label, result in (
            ("Plinto link", link.apply(sample, bits=16) / 65535),
            ("Little CMS", theirs),
        ):
            e = difference(exact, result)
            print(
                f"error of {label:12} dE00 mean {e.mean():.3f}, 99 % {np.percentile(e, 99):.3f}, max {e.max():.3f}"
            )
        whole_file(folder, destination)


def whole_file(folder: Path, destination: Profile) -> None:
    (folder / "press.icc").write_bytes(destination.data)
    for label, options in (
        ("one plain strip", {}),
        ("deflate strips", {"compression": "zlib", "predictor": True, "rowsperstrip": 64}),
    ):
        tifffile.imwrite(folder / "big.tif", smooth(10_000, 10_000), photometric="rgb", **options)
        # A small process in between: a child's peak memory starts at that of who starts it.
        inner = [sys.executable, "-m", "plinto_cli.main", "convert", "big.tif", "out.tif"]
        inner += ["--to", "press.icc", "--tac", "300"]
        outer = (
            "import resource, subprocess, time; began = time.perf_counter(); "
            f"subprocess.run({inner!r}, check=True); "
            "print(time.perf_counter() - began, resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024)"
        )
        done = subprocess.run(
            [sys.executable, "-c", outer], cwd=folder, check=True, capture_output=True, text=True
        )
        seconds, peak = map(float, done.stdout.split())
        print(f"100 Mpx 16-bit TIFF, {label}: {seconds:.1f} s, peak memory {peak:.0f} MB")


if __name__ == "__main__":
    main(float(sys.argv[1]) if len(sys.argv) > 1 else 9.0)
