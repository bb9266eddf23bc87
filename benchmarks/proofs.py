"""Proof prints beside the Little CMS library: python benchmarks/proofs.py

A picture of six megapixels, RGB of a standard space, through a simulated press to the simulated proofer,
absolute colorimetric, with strip and text, written as 16-bit TIFF. Little CMS makes the two conversions
of the same pixels in memory (press perceptual with BPC, then absolute), one thread, 16 bits, and writes
nothing. Peak memory is the process's own, after the kernels are compiled.
"""

from __future__ import annotations

import resource
import tempfile
import time
from pathlib import Path

import imagecodecs
import numpy as np
import tifffile
from paths import press

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.proofs import STARTING_SETS, ProofSettings, judge
from plinto_core.proofs.making import proof_of_picture
from plinto_core.proofs.reading import bench_reading, device_of_strip
from plinto_core.recipes import parse_recipe
from plinto_core.simulator import PROOFER, measure_chart
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile


def main() -> None:
    shown = press(0)
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(PROOFER.model, chart))
    rules, settings = parse_ink_rules(PROOFER.rules), BuildSettings(description="Proofer")
    proofer = Profile(build_profile(Characterisation(chart, xyz), rules, settings).data)
    srgb = standard_profile("srgb")
    y, x = np.mgrid[0:2000, 0:3000]
    rgb = np.stack([x * 21, y * 32, 65535 - x * 21], axis=-1).astype(np.uint16)
    profiles = {"press": shown}
    with tempfile.TemporaryDirectory() as folder:
        source, target = Path(folder) / "in.tif", Path(folder) / "proof.tif"
        tifffile.imwrite(
            source, rgb, photometric="rgb", resolution=(300, 300), iccprofile=srgb.data
        )

        def made():
            began = time.perf_counter()
            report = proof_of_picture(
                parse_recipe({"destination": "press"}), source, target, proofer,
                lambda r: profiles.get(r) or standard_profile(r), ProofSettings(), ("Benchmark",),
            )  # fmt: skip
            return report, time.perf_counter() - began

        made()
        report, seconds = made()
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        began = time.perf_counter()
        device = device_of_strip(target, report.strip)
        reading = time.perf_counter() - began
        found = judge(report.patches, bench_reading(device, PROOFER.model), STARTING_SETS[0])
        pixels = tifffile.imread(target)[47:2047:100, 47:3047:100].reshape(-1, 4) / 65535
    began = time.perf_counter()
    inks = imagecodecs.cms_transform(
        rgb, srgb.data, shown.data, colorspace="rgb", outcolorspace="cmyk", outdtype=np.uint16,
        intent=imagecodecs.CMS.INTENT.PERCEPTUAL, flags=imagecodecs.CMS.FLAGS.BLACKPOINTCOMPENSATION,
    )  # fmt: skip
    out = imagecodecs.cms_transform(
        inks, shown.data, proofer.data, colorspace="cmyk", outcolorspace="cmyk",
        outdtype=np.uint16, intent=imagecodecs.CMS.INTENT.ABSOLUTE_COLORIMETRIC,
    )  # fmt: skip
    other = time.perf_counter() - began
    theirs = out[::100, ::100].reshape(-1, 4) / 65535
    count = min(len(theirs), len(pixels))
    one, two = (lab_of_device(proofer, v[:count], intent="absolute") for v in (pixels, theirs))
    errors = delta_e_2000(one, two)
    print(f"proof of 6 megapixels with strip, written: {seconds:.2f} s, peak {peak:.0f} MB")
    print(f"Little CMS, the two conversions alone: {other:.2f} s")
    print(
        f"the two prints apart: {errors.mean():.2f} mean, {np.percentile(errors, 95):.2f} at 95 %"
    )
    values = {c.key: c.value for c in found.criteria}
    print(
        f"strip read in {reading:.2f} s: mean {values['mean']}, greatest {values['most']}, {found.passes}"
    )


if __name__ == "__main__":
    main()
