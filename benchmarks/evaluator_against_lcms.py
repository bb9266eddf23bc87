"""Float evaluator against the Little CMS library, every profile, intent and BPC setting.

Usage: python benchmarks/evaluator_against_lcms.py PROFILE_OR_FOLDER…
Prints dE00 (99th percentile, maximum) per route: device to Lab, and device to device seen as Lab.
"""

import sys
from pathlib import Path

import imagecodecs
import numpy as np

from plinto_core.colorimetry import delta_e_2000
from plinto_core.errors import CoreError
from plinto_core.icc import Profile
from plinto_core.icc.spaces import INTENTS
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

FLAGS = imagecodecs.CMS.FLAGS
NO_OPTIMISATION = int(FLAGS.NOOPTIMIZE) | int(FLAGS.NOCACHE)
NAMES = {"RGB ": "rgb", "GRAY": "gray", "CMYK": "cmyk", "Lab ": "lab"}


def library(data, source, destination, intent, bpc, space_in, space_out):
    flags = NO_OPTIMISATION | (int(FLAGS.BLACKPOINTCOMPENSATION) if bpc else 0)
    scaled = data * 100 if space_in == "CMYK" else data
    out = imagecodecs.cms_transform(
        scaled.astype(np.float32)[None]
        if data.shape[1] > 1
        else scaled[:, 0].astype(np.float32)[None],
        source,
        destination,
        colorspace=NAMES[space_in],
        outcolorspace=NAMES[space_out],
        outdtype=np.float32,
        intent=intent,
        flags=flags,
    )
    out = np.asarray(out, np.float64).reshape(data.shape[0], -1)
    return np.clip(out / 100 if space_out == "CMYK" else out, 0, 1) if space_out != "Lab " else out


def samples(channels, rng):
    grid = np.stack(np.meshgrid(*[np.linspace(0, 1, 6)] * channels), -1).reshape(-1, channels)
    return np.vstack(
        [
            grid,
            rng.random((4000, channels)),
            np.repeat(np.linspace(0, 1, 256)[:, None], channels, 1),
        ]
    )


def main(paths):
    files = []
    for p in map(Path, paths):
        files += (
            sorted(x for x in p.rglob("*") if x.suffix.lower() in (".icc", ".icm"))
            if p.is_dir()
            else [p]
        )
    rng = np.random.default_rng(7)
    srgb = standard_profile("srgb")
    print(f"{'profile':44} {'route':10} {'intent':10} bpc    p99    max")
    worst = 0.0
    for path in files:
        try:
            profile = Profile.read(path)
        except CoreError as error:
            print(f"{path.name:44} unreadable: {error}")
            continue
        if profile.colour_space not in NAMES or profile.header.device_class in (
            "link",
            "abst",
            "nmcl",
        ):
            print(f"{path.name:44} skipped: {profile.header.device_class} {profile.colour_space}")
            continue
        for number, intent in enumerate(INTENTS):
            for bpc in (False, True):
                for route in ("from", "to"):
                    source, dest = (profile, srgb) if route == "from" else (srgb, profile)
                    if "Lab " in (source.colour_space, dest.colour_space):
                        continue
                    device = samples(source.channels, rng)
                    try:
                        ours = convert(source, dest, device, intent=intent, bpc=bpc)
                    except CoreError as error:
                        print(f"{path.name:44} {route:10} {intent:10} {bpc!s:5} ours: {error}")
                        continue
                    try:
                        theirs = library(
                            device,
                            source.data,
                            dest.data,
                            number,
                            bpc,
                            source.colour_space,
                            dest.colour_space,
                        )
                    except Exception as error:  # noqa: BLE001 - the library raises its own kind
                        print(f"{path.name:44} {route:10} {intent:10} {bpc!s:5} library: {error}")
                        continue
                    view = "relative"
                    de = delta_e_2000(
                        lab_of_device(dest, ours, intent=view),
                        lab_of_device(dest, theirs, intent=view),
                    )
                    p99, top = np.percentile(de, 99), de.max()
                    worst = max(worst, top)
                    mark = " <-" if p99 > 0.1 or top > 0.5 else ""
                    print(
                        f"{path.name:44} {route:10} {intent:10} {bpc!s:5} {p99:6.3f} {top:6.3f}{mark}"
                    )
    print(f"worst maximum {worst:.3f}")


if __name__ == "__main__":
    main(sys.argv[1:])
