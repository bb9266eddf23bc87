"""How vivid, how true in hue and how well in order sRGB prints through built profiles.

Usage: python benchmarks/vividness.py [--perceptual KIND] [MEASUREMENTS.txt TAC]...
Without files, the charts of the press simulator; with profiles (.icc) in place of a file and its TAC, those.

kept : C* printed of the 24 full hues as a share of the most that prints within 12 degrees of OKLab hue and
25 L*, mean and least. hue : degrees of OKLab hue they turn, mean and most. yellow : C* as a share of the
yellow solid's, and L*. duller : the most C* that any of the 24 loses where its numbers are read as P3, opRGB
or ROMM. blues : degrees of hue that 72 blues turn in OKLab and IPT, and pure blue. turned round : percent of
20,000 short ways of 3 CIELAB units, from random sRGB colours within their hue, whose chroma or lightness
rises by 0.5 or more and falls by 0.3 or more in print: where chroma rises alone, lightness alone, both alike,
and in any ratio of the two.
"""

from __future__ import annotations

import colorsys
import sys
from collections.abc import Iterator

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.characterise import build_profile
from plinto_core.characterise.settings import parse_settings
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.even_hue import XYZ_to_IPT, even_hue, hue_of, in_its_hue, turn
from plinto_core.icc import Profile
from plinto_core.inks.rules import INKS, BlackRule, InkRules, parse_ink_rules
from plinto_core.measurement import read_characterisation
from plinto_core.simulator import CONDITIONS
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.chain import between, intent_number
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile

HUES = np.array([colorsys.hsv_to_rgb(i / 24, 1, 1) for i in range(24)])
WAYS = (("perceptual", True), ("relative", True), ("relative", False), ("saturation", True))
SRGB = standard_profile("srgb")


def chroma(lab: Floats) -> Floats:
    return np.asarray(np.hypot(lab[:, 1], lab[:, 2]))


def profiles(arguments: list[str], kind: str) -> Iterator[tuple[str, Profile]]:
    settings = parse_settings({"perceptual": {"kind": kind}})
    rest = list(arguments)
    while rest:
        path = rest.pop(0)
        name = path.rsplit("/", 1)[-1]
        if path.endswith((".icc", ".icm")):
            yield name, Profile.read(path)
            continue
        rules = InkRules(tac=float(rest.pop(0)), black=BlackRule())
        yield name, Profile(build_profile(read_characterisation(path), rules, settings).data)
    if not arguments:
        for press in CONDITIONS:
            if press.channels == INKS:
                rules = parse_ink_rules(press.rules)
                yield press.name, Profile(build_profile(press.measured(), rules, settings).data)


class Press:
    """What a profile prints, and the most vivid of it."""

    def __init__(self, profile: Profile) -> None:
        self.profile = profile
        nodes = np.concatenate([grid_nodes(4, 13), np.pad(grid_nodes(3, 29), ((0, 0), (0, 1)))])
        white = np.array([[100.0, 0, 0], [0.0, 0, 0], [20.0, 0, 0]])
        used = xyz_to_device(profile, Lab_to_XYZ(white), 1).sum(axis=1).max()
        self.lab = lab_of_device(profile, nodes[nodes.sum(axis=1) <= used])
        self.hue, self.chroma = even_hue(self.lab), chroma(self.lab)

    def most(self, lab: Floats) -> Floats:
        """(n,) most C* that prints near (n, 3) Lab in hue and lightness."""
        near = zip(even_hue(lab), lab[:, 0], strict=True)
        return np.array(
            [
                self.chroma[
                    (np.abs(turn(self.hue - h)) <= 12) & (np.abs(self.lab[:, 0] - light) <= 25)
                ].max(initial=1e-3)
                for h, light in near
            ]
        )

    def printed(self, rgb: Floats, intent: str, bpc: bool, space: str = "srgb") -> Floats:
        inks = convert(standard_profile(space), self.profile, rgb, intent=intent, bpc=bpc)
        return lab_of_device(self.profile, inks)

    def of_lab(self, lab: Floats, intent: str, bpc: bool) -> Floats:
        number = intent_number(intent)
        scale, offset = between(SRGB, self.profile, number, bpc=bpc)
        inks = xyz_to_device(self.profile, Lab_to_XYZ(lab) * scale + offset, number)
        return lab_of_device(self.profile, inks)


def turned_round(press: Press, intent: str, bpc: bool, step: float = 3.0) -> str:
    rng = np.random.default_rng(3)
    lab = lab_of_device(SRGB, rng.random((20_000, 3)))
    lab = lab[chroma(lab) > 5]
    before = press.of_lab(lab, intent, bpc)
    found = []
    for angles in (0.0, 90.0, 45.0, None):
        angle = rng.uniform(0, 90, len(lab)) if angles is None else np.full(len(lab), angles)
        more, lighter = step * np.cos(np.radians(angle)), step * np.sin(np.radians(angle))
        there = in_its_hue(lab, np.minimum(lab[:, 0] + lighter, 100), chroma(lab) + more)
        rgb = xyz_to_device(SRGB, Lab_to_XYZ(there), 1)
        known = np.linalg.norm(lab_of_device(SRGB, rgb) - there, axis=1) < 0.1
        after = press.of_lab(there, intent, bpc)
        duller = (more > 0.5) & (chroma(after) - chroma(before) < -0.3)
        darker = (lighter > 0.5) & (after[:, 0] - before[:, 0] < -0.3)
        found.append(f"{100 * duller[known].mean():.1f}/{100 * darker[known].mean():.1f}")
    return " ".join(found)


def report(name: str, profile: Profile) -> None:
    press = Press(profile)
    source = lab_of_device(SRGB, HUES)
    solid = chroma(lab_of_device(profile, np.array([[0.0, 0, 1, 0]])))[0]
    steps = np.linspace(0, 0.5, 6)
    blues = np.array([[r, g, b] for b in (1.0, 0.7) for r in steps * b for g in steps * b])
    for intent, bpc in WAYS:
        lab = press.printed(HUES, intent, bpc)
        kept, hue = chroma(lab) / press.most(source), np.abs(turn(even_hue(lab) - even_hue(source)))
        wide = [
            float((chroma(lab) - chroma(press.printed(HUES, intent, bpc, s))).max())
            for s in ("p3", "oprgb", "romm")
        ]
        blue = [lab_of_device(SRGB, blues), press.printed(blues, intent, bpc)]
        away = [
            np.abs(turn(of(blue[1]) - of(blue[0])))
            for of in (even_hue, lambda v: hue_of(XYZ_to_IPT(Lab_to_XYZ(v))))
        ]
        deep = convert(standard_profile("romm"), profile, HUES[16:17], intent=intent, bpc=bpc)[0]
        print(
            f"{name[:22]:22} {intent:10} {'BPC' if bpc else '   '} kept {kept.mean():.2f} "
            f"{kept.min():.2f}, hue {hue.mean():.1f} {hue.max():.1f}, yellow "
            f"{chroma(lab)[4] / solid:.2f} L* {lab[4, 0]:.0f}, duller "
            f"{' '.join(f'{w:.1f}' for w in wide)}, ROMM blue {' '.join(f'{v:.0f}' for v in deep * 100)}, "
            f"blues {away[0].mean():.1f}/{away[1].mean():.1f}, pure {away[0][0]:.1f}/{away[1][0]:.1f}, "
            f"turned round {turned_round(press, intent, bpc)}"
        )


def main() -> None:
    arguments, kind = sys.argv[1:], "balanced"
    if arguments[:1] == ["--perceptual"]:
        kind, arguments = arguments[1], arguments[2:]
    for name, profile in profiles(arguments, kind):
        report(name, profile)


if __name__ == "__main__":
    main()
