"""Presses of two to seven inks and an RGB device: building, round trip, separation, pixels; one run.

Usage: python benchmarks/inks.py [MEGAPIXELS]
The same profile is used by Plinto and by the Little CMS library (imagecodecs). Profiles are built by
Plinto from its press simulator. Times are the best of three, after a first turn that compiles.
"""

from __future__ import annotations

import resource
import sys
import time
from collections.abc import Callable

import imagecodecs
import numpy as np

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.characterise.verify import inks_within
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.inks.separation import separate
from plinto_core.recipes.route import ColourRoute, forward_table, separates
from plinto_core.simulator import CONDITIONS, FURTHER
from plinto_core.transform import convert
from plinto_core.transform.link import build_link
from plinto_core.transform.standard_spaces import standard_profile

RUNS = 3


def best(work: Callable[[], object]) -> float:
    times = []
    for _ in range(RUNS):
        began = time.perf_counter()
        work()
        times.append(time.perf_counter() - began)
    return min(times)


def main() -> None:
    megapixels = float(sys.argv[1]) if len(sys.argv) > 1 else 4.0
    srgb = standard_profile("srgb")
    pixels = np.random.default_rng(1).integers(0, 256, (int(megapixels * 1e6), 3), dtype=np.uint8)
    small = BuildSettings(size="small")
    build_profile(FURTHER[1].measured(), parse_ink_rules(FURTHER[1].rules), small)
    for simulated in (CONDITIONS[0], *FURTHER):
        rules = parse_ink_rules(simulated.rules)
        measured = simulated.measured()
        wall, used = time.perf_counter(), time.process_time()
        built = build_profile(measured, rules)
        wall, used = time.perf_counter() - wall, time.process_time() - used
        top = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
        report, profile = built.report, Profile(built.data)
        fit, trip = report.forward_fit, report.round_trip
        print(f"{simulated.name}: {len(simulated.channels)} channels, {fit.patches} patches")
        print(f"  build {wall:.1f} s, {used:.1f} s of processors, most memory so far {top:.0f} MB")
        print(f"  unseen patches {fit.mean:.2f} mean, {fit.p99:.2f} at 99 %")
        print(f"  round trip {trip.mean:.2f} mean, {trip.p99:.2f} at 99 %, {trip.max:.2f} greatest")
        if report.greys and separates(profile):
            greys = report.greys
            print(f"  greys: black back {greys.black_back:.2f} %, largest step {greys.step:.2f} %")
            print(f"  highest total {max(report.tac_reached.values()):.1f} of {rules.tac:g} %")
            forward = forward_table(profile)
            print(f"  gamut {forward.body(rules).volume / 1000:.0f} thousand")
            aims = forward.lab_of(inks_within(rules, names=ink_names(profile)))
            found = separate(forward, aims, rules)
            errors = delta_e_2000(forward.lab_of(found.inks), aims)
            seconds = best(lambda f=forward, a=aims, r=rules: separate(f, a, r))
            print(
                f"  separation of {len(aims)} printable colours {seconds:.2f} s, "
                f"{errors.mean():.3f} mean, {np.percentile(errors, 99):.2f} at 99 %"
            )
        link = ColourRoute(srgb, profile, "relative", True).link(size=33)
        own = best(lambda k=link: k.apply(pixels, bits=8))
        print(f"  link of 33 nodes: {megapixels / own:.0f} megapixels a second")
        lcms(srgb, profile, pixels, megapixels, link.apply(pixels[:20000], bits=8))
        if len(simulated.channels) != 3:
            back = build_link(
                lambda d, p=profile: convert(p, srgb, d, intent="relative", bpc=True),
                profile.channels,
            )
            inks = link.apply(pixels, bits=8)
            own = best(lambda k=back, i=inks: k.apply(i, bits=8))
            print(f"  inks to the screen: {megapixels / own:.0f} megapixels a second")


def lcms(
    srgb: Profile, profile: Profile, pixels: np.ndarray, megapixels: float, own: np.ndarray
) -> None:
    """The same conversion by the Little CMS library, where it takes such a profile."""
    space = {4: "cmyk", 3: "rgb"}.get(profile.channels, f"mch{profile.channels}")
    options = {
        "colorspace": "rgb",
        "outcolorspace": space,
        "intent": 1,
        "flags": imagecodecs.CMS.FLAGS.BLACKPOINTCOMPENSATION,
    }

    def run(part: np.ndarray) -> np.ndarray:
        rows = part.reshape(1, -1, 3)
        return np.asarray(imagecodecs.cms_transform(rows, srgb.data, profile.data, **options))

    try:
        theirs = run(pixels[:20000]).reshape(-1, profile.channels)
    except (ValueError, TypeError, RuntimeError, imagecodecs.CmsError) as error:
        print(f"  Little CMS: not through imagecodecs ({str(error)[:60]})")
        return
    apart = np.abs(theirs.astype(int) - own.astype(int)) / 2.55
    seconds = best(lambda: run(pixels))
    print(
        f"  Little CMS: {megapixels / seconds:.0f} megapixels a second; "
        f"inks apart {apart.mean():.2f} % in the mean, {np.percentile(apart, 99):.1f} % at 99 %"
    )


if __name__ == "__main__":
    main()
