"""The colour route of a recipe: source device values to inks, to Lab, to a screen."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadRecipe
from plinto_core.icc.profile import Profile
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import BLACK, ForwardTable, separate
from plinto_core.transform.black_point import ABSOLUTE, RELATIVE
from plinto_core.transform.chain import between, convert, lab_of_device
from plinto_core.transform.gamut_test import gamut_distance
from plinto_core.transform.link import DeviceLink, LinkCache, build_link, build_measured_link
from plinto_core.transform.sides import device_to_xyz

LINKS = LinkCache()
_FORWARD: dict[str, ForwardTable] = {}


def forward_table(profile: Profile) -> ForwardTable:
    """The forward table of a CMYK profile, computed once per profile."""
    if profile.digest not in _FORWARD:
        if len(_FORWARD) > 16:
            _FORWARD.clear()
        _FORWARD[profile.digest] = ForwardTable.of_profile(profile)
    return _FORWARD[profile.digest]


@dataclass(frozen=True)
class ColourRoute:
    """Exact float evaluation of a conversion; `key` identifies it in the link cache."""

    source: Profile
    destination: Profile
    intent: str
    bpc: bool
    rules: InkRules | None = None
    key: str = ""

    def __post_init__(self) -> None:
        if self.rules is not None and self.destination.colour_space != "CMYK":
            raise BadRecipe(
                "Ink rules were given, but the destination is not a CMYK profile.",
                remedy="Leave the ink rules out or choose a CMYK destination.",
            )

    def inks(self, device: Floats) -> Floats:
        """(n, source channels) 0..1 to (n, destination channels) 0..1."""
        device = np.asarray(device, dtype=np.float64)
        inks = convert(self.source, self.destination, device, intent=self.intent, bpc=self.bpc)
        return inks if self.rules is None else self._separate(device, inks, self.rules)

    def _separate(self, device: Floats, inks: Floats, rules: InkRules) -> Floats:
        forward = forward_table(self.destination)
        aims = forward.lab_of(inks)
        result = separate(forward, aims, rules, starts=inks, keep_black=rules.black is None).inks
        pure = self._pure_black(device, rules)
        if pure.any():
            tones, lightness = forward.black_ramp
            black = np.zeros((int(pure.sum()), result.shape[1]))
            if self.source.colour_space == "CMYK":
                black[:, BLACK] = device[pure, BLACK]
            else:
                black[:, BLACK] = np.interp(-aims[pure, 0], -lightness, tones)
            black[:, BLACK] = np.minimum(black[:, BLACK], rules.ink_limits()[BLACK])
            result[pure] = black
        return result

    def _pure_black(self, device: Floats, rules: InkRules) -> np.ndarray:
        space = self.source.colour_space
        if space == "CMYK" and rules.protect.pure_black:
            return np.asarray((device[:, :3] <= 0).all(axis=1) & (device[:, 3] > 0))
        if rules.protect.neutral_to_black and space == "GRAY":
            return np.ones(device.shape[0], dtype=bool)
        if rules.protect.neutral_to_black and space == "RGB ":
            return np.asarray(np.ptp(device, axis=1) == 0)
        return np.zeros(device.shape[0], dtype=bool)

    @cached_property
    def _view(self) -> str:
        return "absolute" if self.intent == "absolute" else "relative"

    def source_lab(self, device: Floats) -> Floats:
        """Lab of source colours: media-relative, or absolute for the absolute intent."""
        return lab_of_device(self.source, device, intent=self._view)

    def print_lab(self, inks: Floats) -> Floats:
        """Lab of the print: media-relative, or absolute for the absolute intent."""
        return lab_of_device(self.destination, inks, intent=self._view)

    def difference(self, inks_a: Floats, inks_b: Floats) -> Floats:
        """dE00 between the prints of two ink mixtures."""
        return delta_e_2000(self.print_lab(inks_a), self.print_lab(inks_b))

    def out_of_gamut(self, device: Floats) -> Floats:
        """dE00 by which each source colour misses the destination's gamut.

        With BPC the source's black is first laid on the destination's, as the conversion does,
        so that deep shadows do not all count as lost; for the absolute intent the medium's white
        counts too.
        """
        xyz = device_to_xyz(self.source, device, RELATIVE)
        way = ABSOLUTE if self.intent == "absolute" else RELATIVE
        scale, offset = between(self.source, self.destination, way, bpc=self.bpc)
        return gamut_distance(self.destination, XYZ_to_Lab(xyz * scale + offset))

    def link(self, *, size: int | None = None) -> DeviceLink:
        """The cached link to inks, at a given grid size for previews."""
        return LINKS.get(
            f"inks:{size}:{self.key}",
            lambda: build_link(self.inks, self.source.channels, size=size),
        )

    def measured_link(self) -> tuple[DeviceLink, dict[str, float]]:
        """The link for deliveries, its grid chosen by measured dE00, and that error."""
        return build_measured_link(self.inks, self.source.channels, self.difference)


def proof_intent(*, paper: bool, black: bool) -> tuple[str, bool]:
    """Intent and BPC from the print to a screen: paper white shown, black ink shown, or neither."""
    if paper:
        return "absolute", False
    return "relative", not black
