"""The colour route of a recipe: source device values to inks, to Lab, to a screen."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.corrections.adjust import Adjustment
from plinto_core.errors import BadRecipe
from plinto_core.gamut.into import map_into
from plinto_core.gamut.look import Perceptual
from plinto_core.gamut.of_profile import Gamut, gamut_of
from plinto_core.gamut.outside import gamut_miss
from plinto_core.icc.colorants import black_of, ink_names
from plinto_core.icc.parts import MOST_INKS
from plinto_core.icc.profile import A2B, Profile
from plinto_core.icc.spaces import INTENTS, is_subtractive
from plinto_core.inks.black import black_alone
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.mixing import MixTable
from plinto_core.inks.plates import PlateRule, curve_plates, tac_share
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import CORRECTED, PRESENT, Method, hold_total, separate
from plinto_core.keeping import Kept
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.sources import FindTable, no_tables
from plinto_core.transform.black_point import (
    ABSOLUTE,
    RELATIVE,
    compensation,
    source_black_point,
)
from plinto_core.transform.chain import between, convert, intent_number, lab_of_device
from plinto_core.transform.cube import CubeTable
from plinto_core.transform.direct import run_link
from plinto_core.transform.link import (
    DeviceLink,
    LinkError,
    build_link,
    build_measured_link,
    link_cache,
)
from plinto_core.transform.sides import device_to_xyz, xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import say

LINKS = link_cache()
CURVED = 0.15
"""How far the lightness of greys runs from straight before a link's nodes follow it; usual RGB spaces
stay below 0.1, linear light comes to 0.3."""
_FORWARD: Kept[tuple[str, str], ForwardTable | MixTable] = Kept(16)


def forward_table(profile: Profile) -> ForwardTable | MixTable:
    """The forward table of a profile of inks, computed once per profile."""
    table = ForwardTable if profile.colour_space == "CMYK" else MixTable
    # The roles of inks decide no colour of the profile's own; float tables passed over leave the same file.
    key = profile.digest, profile.colour_digest
    return _FORWARD.get(key, lambda: table.of_profile(profile))


def separates(profile: Profile) -> bool:
    """Whether inks can be made for a profile by ink rules: 1 to 8 of them, with a way to Lab."""
    return is_subtractive(profile.colour_space) and profile.channels <= MOST_INKS


@dataclass(frozen=True)
class ColourRoute:
    """Exact float evaluation of a conversion; `key` identifies it in the link cache.

    arrival : a space the source's colours are converted into before they are corrected; negative :
    the source's numbers are reversed before that; numbers : whether colours that are in the
    destination's own space already keep their numbers ("keep") or are made anew ("separate");
    method : of the separation; conversion : a device link that makes the destination's numbers, in place
    of intent, BPC and rules; perceptual : how that intent is made here, None for the destination's own table.
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
    arrival: Profile | None = None
    negative: bool = False
    numbers: str = "keep"
    method: Method = PRESENT
    conversion: Profile | None = None
    perceptual: Perceptual | None = None

    def __post_init__(self) -> None:
        if self.rules is not None and not separates(self.destination):
            raise BadRecipe(say("recipes.rules-without-inks"))
        limited = [] if self.rules is None else self.rules.limits
        missing = [n for n in limited if n not in ink_names(self.destination)]
        if missing:
            raise BadRecipe(
                say(
                    "recipes.limit-ink-unknown",
                    ink=missing[0],
                    inks=list(ink_names(self.destination)),
                )
            )
        unknown = [n for n in self.plates if n not in ink_names(self.destination)]
        if unknown:
            raise BadRecipe(say("recipes.plate-unknown", plate=unknown[0]))
        kinds = (self.source.colour_space, "RGB ")
        if self.arrival is not None and self.arrival.colour_space not in kinds:
            raise BadRecipe(say("recipes.arrival-kind"))
        if self.before is not None and self.space.colour_space != "RGB ":
            raise BadRecipe(say("recipes.cube-before"))
        if self.conversion is not None:
            self._judge_link(self.conversion)
        if self.after is not None and self.destination.colour_space != "RGB ":
            raise BadRecipe(say("recipes.cube-after"))

    def _judge_link(self, link: Profile) -> None:
        ends = (link.colour_space, link.header.pcs)
        needed = (self.space.colour_space, self.destination.colour_space)
        if link.header.device_class != "link":
            raise BadRecipe(say("recipes.link-none", profile=link.description))
        if ends != needed:
            said, wanted = (" to ".join(s.strip() for s in pair) for pair in (ends, needed))
            raise BadRecipe(
                say("recipes.link-spaces", profile=link.description, ways=said, wanted=wanted)
            )
        if self.rules is not None:
            raise BadRecipe(say("recipes.link-and-rules"))
        if self.adjustment and self.space.colour_space != "RGB ":
            raise BadRecipe(say("recipes.link-corrections"))

    @cached_property
    def key(self) -> str:
        """Hash of all that decides colours."""
        parts = [
            self._source_key,
            self.destination.digest,
            self.intent,
            str(self.bpc),
            self.numbers if self.same_space else "",
            self.rules.model_dump_json(exclude={"name"}) if self.rules else "",
            *(f"{name}{rule.model_dump_json()}" for name, rule in sorted(self.plates.items())),
            self.after.digest if self.after else "",
            str(self.method),
        ]
        if self.conversion is not None:
            parts.append(self.conversion.digest)
        if self.mapped is not None:
            parts.append(self.mapped.model_dump_json())
        return hashlib.sha256("\n".join(parts).encode()).hexdigest()

    @cached_property
    def _source_key(self) -> str:
        table = self.before.digest if self.before else ""
        arrival = self.arrival.digest if self.arrival else ""
        turned = "negative" if self.negative else ""
        return f"{self.source.digest}:{turned}:{arrival}:{table}:{self.adjustment.key()}"

    @cached_property
    def aim_key(self) -> str:
        """Hash of all that decides the corrected artwork's colours."""
        return hashlib.sha256(self._source_key.encode()).hexdigest()

    @cached_property
    def space(self) -> Profile:
        """The profile of the numbers that corrections act on.

        Grey artwork that a colour table is laid on comes into sRGB for it, unless the recipe names
        another RGB space: the table needs three channels.
        """
        if self.arrival is None and self.before is not None and self.source.colour_space == "GRAY":
            return standard_profile("srgb")
        return self.arrival or self.source

    @cached_property
    def same_space(self) -> bool:
        """Whether the numbers are in the destination's own space already."""
        return self.space.colour_digest == self.destination.colour_digest

    @property
    def keeps_numbers(self) -> bool:
        """Whether numbers go to the destination as they are, but for corrections and limits."""
        return self.same_space and self.numbers == "keep" and self.conversion is None

    @property
    def mapped(self) -> Perceptual | None:
        """How perceptual is made here, None for other intents and where a table or a link makes it."""
        made = self.intent == "perceptual" and self.conversion is None
        return self.perceptual if made else None

    @property
    def used_intent(self) -> str:
        """The intent that decides: of a link without a table for the one asked for, the one it was made for."""
        link = self.conversion
        several = link is not None and any(tag in link for tag in A2B[1:])
        if link is None or (several and A2B[intent_number(self.intent)] in link):
            return self.intent
        return INTENTS[link.header.rendering_intent]

    def _turned(self, device: Floats) -> Floats:
        """The artwork's numbers, a negative's reversed."""
        device = np.asarray(device, dtype=np.float64)
        return 1.0 - device if self.negative else device

    def _prepared(self, device: Floats) -> Floats:
        device = self._turned(device)
        if self.space is not self.source:
            device = convert(self.source, self.space, device, intent="relative", bpc=True)
        return device if self.before is None else self.before.apply(device)

    def inks(self, device: Floats) -> Floats:
        """(n, source channels) 0..1 to (n, destination channels) 0..1."""
        prepared = self._prepared(device)
        if self.keeps_numbers:
            inks = self._kept(prepared)
        else:
            aims = self._within_reach(prepared)
            inks = self._converted(prepared, aims)
            if self.rules is not None:
                inks = self._separate(self._turned(device), inks, self.rules, aims)
        if self.after is not None:
            inks = self.after.apply(inks)
        if not self.plates:
            return inks
        names = ink_names(self.destination)
        return curve_plates(
            inks, names, self.plates, tac_share(self.rules, len(names)), self._black_plate
        )

    @property
    def _black_plate(self) -> int | None:
        """Place of the black plate, which gives way last; None for devices without one."""
        return forward_table(self.destination).black if separates(self.destination) else None

    def _converted(self, prepared: Floats, aims: Floats | None = None) -> Floats:
        """aims : (n, 3) Lab within what prints, None for what the destination's tables make of it."""
        if self.conversion is not None:
            if self.adjustment:
                xyz = self.adjustment.xyz(self.space, prepared, RELATIVE)
                prepared = xyz_to_device(self.space, xyz, RELATIVE)
            return run_link(self.conversion, prepared, intent_number(self.intent))
        if aims is not None:
            return xyz_to_device(self.destination, Lab_to_XYZ(aims), RELATIVE)
        number = intent_number(self.intent)
        scale, offset = between(self.space, self.destination, number, bpc=self.bpc)
        xyz = self.adjustment.xyz(self.space, prepared, number) * scale + offset
        return xyz_to_device(self.destination, xyz, number)

    def _within_reach(self, prepared: Floats) -> Floats | None:
        """(n, 3) Lab within what prints where perceptual is made here, else None."""
        if self.mapped is None:
            return None
        xyz = self.adjustment.xyz(self.space, prepared, RELATIVE)
        if self.bpc:
            scale, offset = compensation(source_black_point(self.space, RELATIVE), np.zeros(3))
            xyz = xyz * scale + offset
        return map_into(self.reach, XYZ_to_Lab(xyz), self.mapped.look)

    @cached_property
    def reach(self) -> Gamut:
        """What prints, media-relative: within the recipe's ink rules, or within the profile's own total."""
        if self.rules is not None and separates(self.destination):
            body = forward_table(self.destination).body(self.rules)
            if body.holds_centre:
                return body
        return gamut_of(self.destination)

    def _kept(self, prepared: Floats) -> Floats:
        """Numbers of the destination's own space: corrected ones by the mixture nearest to what
        they were, all others as they are; the TAC and limits of own ink rules hold."""
        if self.adjustment and not separates(self.destination):
            return self._converted(prepared)
        if not self.adjustment:
            kept = np.clip(prepared, 0, 1)
            if self.rules is None:
                return kept
            return hold_total(forward_table(self.destination), kept, self.rules, method=self.method)
        rules = self.rules or InkRules()
        forward = forward_table(self.destination)
        before, after = (
            XYZ_to_Lab(a.xyz(self.space, prepared, RELATIVE))
            for a in (Adjustment(), self.adjustment)
        )
        aims = forward.lab_of(prepared) + after - before
        bare = rules.model_copy(update={"black": None})
        moved = (np.abs(after - before) > 1e-9).any(axis=1)
        inks = hold_total(forward, np.clip(prepared, 0, 1), bare, method=self.method)
        if moved.any():
            inks[moved] = separate(
                forward,
                aims[moved],
                bare,
                starts=prepared[moved],
                keep_black=True,
                method=self.method,
            ).inks
        return inks

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
        if not separates(self.destination) or forward_table(self.destination).black is None:
            return None
        black = 0.0
        if self.negative:
            black = float(np.iinfo(device.dtype).max) if device.dtype.kind == "u" else 1.0
        return np.asarray((device == black).all(axis=1))

    @property
    def text_ink(self) -> Floats:
        """(channels,) solid black alone."""
        assert self.rules is not None
        ink = np.zeros(self.destination.channels)
        black = forward_table(self.destination).black
        assert black is not None
        ink[black] = self.rules.solid_black
        return ink

    def _separate(
        self, device: Floats, inks: Floats, rules: InkRules, aims: Floats | None
    ) -> Floats:
        """Inks made anew by the rules for (n, 3) Lab aims, or for the colours that `inks` print.

        device : the artwork's numbers; black that they have alone is protected where the rules say.
        """
        forward = forward_table(self.destination)
        if aims is None:
            aims = forward.lab_of(inks)
        result = separate(
            forward, aims, rules, starts=inks, keep_black=rules.black is None, method=self.method
        ).inks
        own = forward.black
        alone = self._protected(device, rules)
        if own is not None and alone.any():
            result[alone] = 0.0
            theirs = black_of(self.source)
            if theirs is not None:
                black = device[alone, theirs]
            else:
                black = black_alone(forward, aims[alone, 0], self._darkest)
            result[alone, own] = np.minimum(black, rules.solid_black)
        return result

    @cached_property
    def _darkest(self) -> float:
        """L* at which the artwork's own black would print."""
        black = np.zeros((1, self.source.channels))
        unturned = 1.0 - black if self.negative else black
        prepared = self._prepared(unturned)
        inks = self._converted(prepared, self._within_reach(prepared))
        return float(forward_table(self.destination).lab_of(inks)[0, 0])

    def _protected(self, device: Floats, rules: InkRules) -> np.ndarray:
        """(n,) whether a colour is to print in black alone."""
        space = self.source.colour_space
        theirs = black_of(self.source)
        if theirs is not None and rules.protect.pure_black:
            alone = (np.delete(device, theirs, axis=1) <= 0).all(axis=1)
            if self.intent == "absolute":
                # The source's paper is a colour to be printed then, and no absence of ink.
                alone &= device[:, theirs] > 0
            return np.asarray(alone)
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
        return lab_of_device(self.source, self._turned(device), intent=self._view)

    def aim_lab(self, device: Floats) -> Floats:
        """Lab of the source after all corrections, which is what the print aims at."""
        xyz = self.adjustment.xyz(self.space, self._prepared(device), intent_number(self._view))
        if self._view == "absolute":
            xyz = xyz * (self.space.media_white / D50)
        return XYZ_to_Lab(xyz)

    def print_lab(self, inks: Floats) -> Floats:
        """Lab of the print: media-relative, or absolute for the absolute intent."""
        return lab_of_device(self.destination, inks, intent=self._view)

    def difference(self, inks_a: Floats, inks_b: Floats) -> Floats:
        """dE00 between the prints of two ink mixtures."""
        return delta_e_2000(self.print_lab(inks_a), self.print_lab(inks_b))

    def out_of_gamut(self, device: Floats) -> Floats:
        """(n, 3) dE00 by which each colour, after corrections, is too vivid, too dark and too light.

        Relative to both media's whites, for the absolute intent as they are, and without black point
        compensation, whatever the recipe says: with it a weak black would hide what is lost.
        """
        xyz = self.adjustment.xyz(self.space, self._prepared(device), RELATIVE)
        way = ABSOLUTE if self.intent == "absolute" else RELATIVE
        scale, offset = between(self.space, self.destination, way, bpc=False)
        return gamut_miss(self.destination, XYZ_to_Lab(xyz * scale + offset))

    def link(self, *, size: int | None = None) -> DeviceLink:
        """The cached link to inks, at a given grid size for previews."""
        return LINKS.get(
            f"inks:{size}:{self.key}",
            lambda: build_link(self.inks, self.source.channels, size=size, curve=self.input_curve),
        )

    def measured_link(self) -> tuple[DeviceLink, LinkError]:
        """The link for deliveries, its grid chosen by measured dE00, and that error."""
        return build_measured_link(
            self.inks,
            self.source.channels,
            self.difference,
            curve=self.input_curve,
            everywhere=self.method > 1,
        )

    @cached_property
    def input_curve(self) -> Floats | None:
        """Where a link's nodes lie along the artwork's numbers, None for evenly: by the lightness of
        its greys where that runs far from straight, as in linear light."""
        if self.method == 1 or self.negative or self.source.colour_space != "RGB ":
            return None
        even = np.linspace(0.0, 1.0, 1025)
        ramp = np.repeat(even[:, None], 3, axis=1)
        lightness = XYZ_to_Lab(device_to_xyz(self.source, ramp, RELATIVE))[:, 0]
        run = np.maximum.accumulate(lightness) - lightness[0]
        if run[-1] < 1.0:
            return None
        curve = 0.9 * run / run[-1] + 0.1 * even
        return curve if np.abs(curve - even).max() > CURVED else None


def route_for(
    recipe: Recipe,
    source: Profile,
    destination: Profile,
    find_table: FindTable = no_tables,
    arrival: Profile | None = None,
    conversion: Profile | None = None,
) -> ColourRoute:
    """The colour route of a recipe between two profiles, without what holds in regions only."""
    everywhere = tuple(c for c in recipe.corrections if c.on and c.region is None)

    def read(profile: Profile) -> Profile:
        return profile if recipe.version > CORRECTED else profile.without_floats()

    return ColourRoute(
        source=read(source),
        destination=read(destination),
        intent=recipe.intent,
        bpc=recipe.bpc,
        perceptual=recipe.perceptual,
        rules=recipe.ink_rules,
        adjustment=Adjustment(everywhere, recipe.vivid, recipe.version),
        plates=recipe.plates,
        before=find_table(recipe.before) if recipe.before else None,
        arrival=read(arrival) if arrival else None,
        negative=recipe.negative,
        numbers=recipe.numbers,
        method=recipe.version,
        after=find_table(recipe.after) if recipe.after else None,
        conversion=read(conversion) if conversion else None,
    )


def proof_intent(plays: str) -> tuple[str, bool]:
    """Intent and BPC from the print to a screen, by what the screen plays.

    "colours" : the print's colours between the screen's own white and black; "black" : the weakness
    of its black too; "paper" : the medium's white as well. Raises BadRecipe for anything else.
    """
    try:
        return {
            "colours": ("relative", True),
            "black": ("relative", False),
            "paper": ("absolute", False),
        }[plays]
    except KeyError:
        raise BadRecipe(say("recipes.screen-unknown", space=plays)) from None
