"""The colour route of a recipe: source device values to inks, to Lab, to a screen."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.corrections.adjust import Adjustment
from plinto_core.errors import BadRecipe
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names
from plinto_core.inks.plates import PlateRule, curve_plates, tac_share
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import BLACK, ForwardTable, separate
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.sources import FindTable, no_tables
from plinto_core.transform.black_point import ABSOLUTE, RELATIVE
from plinto_core.transform.chain import between, convert, intent_number, lab_of_device
from plinto_core.transform.cube import CubeTable
from plinto_core.transform.gamut_test import gamut_distance
from plinto_core.transform.link import DeviceLink, LinkCache, build_link, build_measured_link
from plinto_core.transform.sides import xyz_to_device

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
    """Exact float evaluation of a conversion; `key` identifies it in the link cache.

    working : a space the source's colours are converted into before anything else happens.
    """

    source: Profile
    destination: Profile
    intent: str
    bpc: bool
    rules: InkRules | None = None
    adjustment: Adjustment = field(default_factory=Adjustment)
    plates: dict[str, PlateRule] = field(default_factory=dict)
    before: CubeTable | None = None
    after: CubeTable | None = None
    working: Profile | None = None

    def __post_init__(self) -> None:
        if self.rules is not None and self.destination.colour_space != "CMYK":
            raise BadRecipe(
                "Ink rules were given, but the destination is not a CMYK profile.",
                remedy="Leave the ink rules out or choose a CMYK destination.",
            )
        unknown = [n for n in self.plates if n not in channel_names(self.destination.colour_space)]
        if unknown:
            raise BadRecipe(f"The destination has no plate {unknown[0]!r}.")
        if self.working is not None and self.working.colour_space != self.source.colour_space:
            raise BadRecipe(
                "The working space is of another kind than the artwork.",
                remedy="Choose one of the artwork's own colour space, or none.",
            )
        if self.before is not None and self.source.colour_space != "RGB ":
            raise BadRecipe("A .cube table before the conversion needs an RGB source.")
        if self.after is not None and self.destination.colour_space != "RGB ":
            raise BadRecipe(
                "A .cube table after the conversion needs an RGB destination.",
                remedy="Apply it before the conversion instead.",
            )

    @cached_property
    def key(self) -> str:
        """Hash of all that decides colours."""
        parts = [
            self._source_key,
            self.destination.digest,
            self.intent,
            str(self.bpc),
            self.rules.model_dump_json(exclude={"name"}) if self.rules else "",
            *(f"{name}{rule.model_dump_json()}" for name, rule in sorted(self.plates.items())),
            self.after.digest if self.after else "",
        ]
        return hashlib.sha256("\n".join(parts).encode()).hexdigest()

    @cached_property
    def _source_key(self) -> str:
        table = self.before.digest if self.before else ""
        working = self.working.digest if self.working else ""
        return f"{self.source.digest}:{working}:{table}:{self.adjustment.key()}"

    @cached_property
    def aim_key(self) -> str:
        """Hash of all that decides the corrected artwork's colours."""
        return hashlib.sha256(self._source_key.encode()).hexdigest()

    @property
    def _space(self) -> Profile:
        """The profile of the prepared numbers."""
        return self.working or self.source

    def _prepared(self, device: Floats) -> Floats:
        device = np.asarray(device, dtype=np.float64)
        if self.working is not None:
            device = convert(self.source, self.working, device, intent="relative", bpc=True)
        return device if self.before is None else self.before.apply(device)

    def inks(self, device: Floats) -> Floats:
        """(n, source channels) 0..1 to (n, destination channels) 0..1."""
        prepared = self._prepared(device)
        number = intent_number(self.intent)
        scale, offset = between(self._space, self.destination, number, bpc=self.bpc)
        xyz = self.adjustment.xyz(self._space, prepared, number) * scale + offset
        inks = xyz_to_device(self.destination, xyz, number)
        if self.rules is not None:
            inks = self._separate(prepared, inks, self.rules)
        if self.after is not None:
            inks = self.after.apply(inks)
        if not self.plates:
            return inks
        names = channel_names(self.destination.colour_space)
        return curve_plates(inks, names, self.plates, tac_share(self.rules, len(names)))

    def exact_inks(self, device: Floats) -> Floats:
        """As `inks`, with what no grid can hold: black text in black ink alone."""
        inks = self.inks(device)
        text = self.black_text(device)
        if text is not None and text.any():
            inks[text] = self.text_ink
        return inks

    def black_text(self, device: Floats | Pixels) -> np.ndarray | None:
        """(n,) whether values are the artwork's pure black that prints in black alone, or None."""
        rules = self.rules
        if rules is None or not rules.protect.black_text or self.source.colour_space != "RGB ":
            return None
        return np.asarray((device == 0).all(axis=1))

    @property
    def text_ink(self) -> Floats:
        """(channels,) black alone, as much as its limit allows."""
        assert self.rules is not None
        ink = np.zeros(self.destination.channels)
        ink[BLACK] = self.rules.ink_limits()[BLACK]
        return ink

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
        """Lab of the untouched source: media-relative, or absolute for the absolute intent."""
        return lab_of_device(self.source, device, intent=self._view)

    def aim_lab(self, device: Floats) -> Floats:
        """Lab of the source after all corrections, which is what the print aims at."""
        xyz = self.adjustment.xyz(self._space, self._prepared(device), intent_number(self._view))
        if self._view == "absolute":
            xyz = xyz * (self._space.media_white / D50)
        return XYZ_to_Lab(xyz)

    def print_lab(self, inks: Floats) -> Floats:
        """Lab of the print: media-relative, or absolute for the absolute intent."""
        return lab_of_device(self.destination, inks, intent=self._view)

    def difference(self, inks_a: Floats, inks_b: Floats) -> Floats:
        """dE00 between the prints of two ink mixtures."""
        return delta_e_2000(self.print_lab(inks_a), self.print_lab(inks_b))

    def out_of_gamut(self, device: Floats) -> Floats:
        """dE00 by which each colour, after corrections, misses the destination's gamut.

        With BPC the source's black is first laid on the destination's, as the conversion does,
        so that deep shadows do not all count as lost; for the absolute intent the medium's white
        counts too.
        """
        xyz = self.adjustment.xyz(self._space, self._prepared(device), RELATIVE)
        way = ABSOLUTE if self.intent == "absolute" else RELATIVE
        scale, offset = between(self._space, self.destination, way, bpc=self.bpc)
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


def route_for(
    recipe: Recipe,
    source: Profile,
    destination: Profile,
    find_table: FindTable = no_tables,
    working: Profile | None = None,
) -> ColourRoute:
    """The colour route of a recipe between two profiles, without what holds in regions only."""
    everywhere = tuple(c for c in recipe.corrections if c.on and c.region is None)
    return ColourRoute(
        source=source,
        destination=destination,
        intent=recipe.intent,
        bpc=recipe.bpc,
        rules=recipe.ink_rules,
        adjustment=Adjustment(everywhere, recipe.vivid),
        plates=recipe.plates,
        before=find_table(recipe.before) if recipe.before else None,
        working=working,
        after=find_table(recipe.after) if recipe.after else None,
    )


def proof_intent(*, paper: bool, black: bool) -> tuple[str, bool]:
    """Intent and BPC from the print to a screen: paper white shown, black ink shown, or neither."""
    if paper:
        return "absolute", False
    return "relative", not black
