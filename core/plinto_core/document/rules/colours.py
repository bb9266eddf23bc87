"""From any colour of a document to the destination's values, exact for vectors, by link for images."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from itertools import islice

import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.corrections import Adjustment
from plinto_core.document.pdf.spaces import ColourSpace, calibrated_XYZ
from plinto_core.document.rules.judging import judge_builds, judge_destination
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.errors import BadRecipe, NotSupported
from plinto_core.icc.colorants import ink_names, long_name
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import FAMILY_OF, INTENTS, SIGNATURE_OF, is_subtractive
from plinto_core.inks.black import black_alone
from plinto_core.inks.forward import BLACK
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import hold_total
from plinto_core.recipes.route import ColourRoute, forward_table
from plinto_core.recipes.sources import Resolve
from plinto_core.transform.black_point import compensation, destination_black_point
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.direct import run_link
from plinto_core.transform.link import DeviceLink, build_link, build_measured_link
from plinto_core.transform.sides import xyz_to_device
from plinto_core.words import say

MOST_COLOURS = 20_000
"""Colours kept for the next time they are met."""
_PROCESS = ("Cyan", "Magenta", "Yellow", "Black")
_PRIMARIES = ("Cyan", "Magenta", "Yellow")
"""What red, green and blue are the lack of."""
_STAND_INS = {"RGB": "srgb", "grey": "grey"}
_SIGNATURES = {f: SIGNATURE_OF[f] for f in ("RGB", "CMYK", "grey")}
"""Of the families that carry a profile of their own."""


@dataclass
class ColourMapper:
    """All conversions of one policy; links and colours are kept for the whole document."""

    policy: OutputPolicy
    destination: Profile
    resolve: Resolve
    _links: dict[str, DeviceLink] = field(default_factory=dict)
    _colours: dict[tuple[object, ...], tuple[float, ...]] = field(default_factory=dict)
    _most: int = MOST_COLOURS

    def __post_init__(self) -> None:
        judge_destination(self.destination)

    @cached_property
    def family(self) -> str:
        """What comes out: RGB, grey, CMYK, or "inks" for any other set of inks."""
        return FAMILY_OF.get(self.destination.colour_space, "inks")

    @cached_property
    def inks(self) -> tuple[str, ...]:
        """The destination's inks as colorants of a PDF are named, () for RGB and grey."""
        if not is_subtractive(self.destination.colour_space):
            return ()
        return tuple(long_name(n) for n in ink_names(self.destination))

    @cached_property
    def black_ink(self) -> int | None:
        """The place of black among the inks, None without one."""
        if self.family == "CMYK":
            # Known without the forward table, which many documents never need.
            return BLACK
        return forward_table(self.destination).black if self.inks else None

    def only_black(self, values: tuple[float, ...]) -> bool:
        """Whether destination values are black alone, or nothing at all."""
        place = self.black_ink
        if place is None or (place and values[0]):
            return False
        return not any(values[:place]) and not any(values[place + 1 :])

    def prints(self, space: ColourSpace) -> bool:
        """Whether a Separation or DeviceN names inks of the destination and nothing else."""
        names = space.names if space.family == "spot" else ()
        own = (*self.inks, "All", "None")
        return any(n in self.inks for n in names) and all(n in own for n in names)

    def own_plates(self, space: ColourSpace) -> bool:
        """Whether a space's CMYK are these four inks of a destination that has others as well."""
        if self.family != "inks" or space.family != "CMYK" or not set(_PROCESS) <= set(self.inks):
            return False
        return self.source_of(space)[1] == "destination"

    def keeps(self, space: ColourSpace) -> bool:
        """Whether a space is kept even where a rule converts: marks for all plates, or for none."""
        return space.names in (("All",), ("None",))

    def source_of(self, space: ColourSpace) -> tuple[Profile | None, str]:
        """The profile that gives a space's numbers their colours, and where it comes from."""
        space = space.colour
        if space.calibration is not None or (space.family == "Lab" and space.profile is None):
            return None, "document"
        if space.profile is not None and self.policy.embedded:
            return space.profile, "embedded"
        given = self.policy.sources.get(space.family)  # type: ignore[call-overload]
        if given is None and space.family == "CMYK":
            if not set(_PROCESS) <= set(self.inks):
                raise BadRecipe(say("document.cmyk-no-source"))
            return self.destination, "destination"
        reference = given or _STAND_INS.get(space.family, "srgb")
        profile = self.resolve(reference)
        if profile.colour_space != _SIGNATURES.get(space.family):
            raise BadRecipe(say("document.source-other-space", family=space.family))
        return profile, "policy" if given else "standard"

    def colour(
        self, space: ColourSpace, values: tuple[float, ...], rule: Rule, intent: str,
        known: str | None = None,
    ) -> tuple[float, ...]:  # fmt: skip
        """One colour's values in the destination, 0..1, by a rule; kept for the next time.

        known : the rule's key, where it is at hand.
        """
        key = (space.key, values, known or rule.key(intent))
        found = self._colours.get(key)
        if found is None:
            made = self.together(space, np.array([values], dtype=np.float64), rule, intent)
            found = tuple(made[0].tolist())
            self._make_room()
            self._colours[key] = found
        return found

    def prefetch(
        self, space: ColourSpace, values: list[tuple[float, ...]], rule: Rule, intent: str
    ) -> None:
        """Convert many colours of a space at once; asking for one of them is then quick."""
        self._most = max(self._most, MOST_COLOURS, 2 * len(values))
        self._make_room()
        rule_key = rule.key(intent)
        keys = {v: (space.key, v, rule_key) for v in values}
        wanted = [v for v, key in keys.items() if key not in self._colours]
        if not wanted:
            return
        made = self.together(space, np.array(wanted, dtype=np.float64), rule, intent)
        for value, row in zip(wanted, made.tolist(), strict=True):
            self._colours[keys[value]] = tuple(row)

    def together(self, space: ColourSpace, values: Floats, rule: Rule, intent: str) -> Floats:
        """(n, channels) colours to (n, destination channels) 0..1 by a rule; none of them is kept."""
        whole = self.black if rule.to_black else self.single
        return np.round(self._transferred(whole(space, values, rule, intent), rule), 4)

    def continuous(self, space: ColourSpace, values: Floats, rule: Rule, intent: str) -> Floats:
        """As `together`, of images and shadings, whose neighbouring colours must not jump; not rounded."""
        whole = self.black if rule.to_black else self.convert
        return self._transferred(whole(space, values, rule, intent), rule)

    def _transferred(self, values: Floats, rule: Rule) -> Floats:
        """Destination values as they reach the plates: through the rule's transfer functions, and within
        the TAC after them."""
        if rule.transfer is None:
            return values
        return self._same(self._ink_rules())(rule.transfer.applied(values, self.family, self.inks))

    def inks_of_none(self, rule: Rule) -> bool:
        """Whether what is black alone comes out with other inks, through a rule's transfer functions."""
        return rule.transfer is not None and rule.transfer.inks_of_none(self.inks)

    def _make_room(self) -> None:
        """Forget the older half of the colours where they are too many: what was converted together a
        moment ago is still to be asked for."""
        if len(self._colours) > self._most:
            for key in list(islice(self._colours, len(self._colours) // 2)):
                del self._colours[key]

    def function(self, space: ColourSpace, rule: Rule, intent: str) -> Callable[[Floats], Floats]:
        """(n, channels) values of a space to (n, destination channels) 0..1, exact."""
        # Through transfer functions the TAC is held behind them.
        rules = self._ink_rules() if rule.transfer is None else None
        if self.prints(space) or self.own_plates(space):
            return self._onto_plates(space, rules)
        if space.family == "spot":
            built = self._by_builds(space.names, rules)
            if built is not None:
                return built
            tint, alternate = space.tint, space.alternate
            assert tint is not None
            assert alternate is not None
            inner = self.function(alternate, rule, intent)
            return lambda values: inner(tint(values))
        profile, _ = self.source_of(space)
        if rule.link is not None and profile is not None:
            return self._by_link(profile, rule.link, intent, rules)
        if profile is None:
            return self._from_xyz(space, rule, intent, rules)
        if profile.colour_digest == self.destination.colour_digest:
            return self._same(rules)
        vivid = rule.vivid if space.family == "RGB" else None
        route = ColourRoute(
            profile, self.destination, intent, rule.bpc, rules, Adjustment((), vivid)
        )
        return route.inks

    def _by_link(
        self, profile: Profile, reference: str, intent: str, rules: InkRules | None
    ) -> Callable[[Floats], Floats]:
        """What a rule's device link makes of a profile's numbers; what is over the TAC comes within.

        Raises BadRecipe for a link between other spaces.
        """
        link = self.resolve(reference)
        ends = (link.colour_space, link.header.pcs)
        wanted = (profile.colour_space, self.destination.colour_space)
        if link.header.device_class != "link" or ends != wanted:
            said = " to ".join(space.strip() for space in wanted)
            raise BadRecipe(say("document.rule-link", profile=link.description, ways=said))
        held = self._same(rules)
        number = INTENTS.index(intent)
        return lambda values: held(run_link(link, np.clip(values, 0, 1), number))

    def _by_builds(
        self, names: tuple[str, ...], rules: InkRules | None
    ) -> Callable[[Floats], Floats] | None:
        """Tints of spot colours as shares of the policy's builds, overprinted inks added up; None where
        one of several colorants has no build. Raises BadRecipe for a build of other inks."""
        builds = self.policy.builds
        judge_builds(self.policy, self.destination)
        others = [n for n in names if n not in builds]
        if len(others) == len(names) or any(n not in (*self.inks, "None") for n in others):
            return None
        inks = ink_names(self.destination)
        solids = np.zeros((len(names), len(inks)))
        for row, name in enumerate(names):
            own = {inks[self.inks.index(name)]: 100.0} if name in self.inks else {}
            for ink, percent in builds.get(name, own).items():
                solids[row, inks.index(ink)] = percent / 100
        held = self._same(rules)
        return lambda values: held(values @ solids)

    def laid(self, space: ColourSpace, values: Floats) -> Floats:
        """(n, channels) tints of inks by name, or of the destination's own CMYK, to (n, inks) as they are."""
        names = _PROCESS if space.family == "CMYK" else space.names
        out = np.zeros((len(values), len(self.inks)))
        for i, name in enumerate(names):
            if name in self.inks:
                place = self.inks.index(name)
                out[:, place] = np.maximum(out[:, place], np.clip(values[:, i], 0, 1))
        return out

    def _onto_plates(
        self, space: ColourSpace, rules: InkRules | None
    ) -> Callable[[Floats], Floats]:
        """Tints as `laid`, within the TAC; All and None are kept and never come here."""
        held = self._same(rules)
        return lambda values: held(self.laid(space, values))

    def _same(self, rules: InkRules | None) -> Callable[[Floats], Floats]:
        """Values that are the destination's already; only the TAC may change them."""
        if rules is None:
            return lambda values: np.clip(values, 0, 1)
        forward = forward_table(self.destination)
        return lambda values: hold_total(forward, np.clip(values, 0, 1), rules)

    def same_space(self, space: ColourSpace) -> bool:
        """Whether a space's numbers are the destination's own already."""
        if space.family not in _SIGNATURES:
            return False
        profile, _ = self.source_of(space)
        return profile is not None and profile.colour_digest == self.destination.colour_digest

    def hold(self, space: ColourSpace, values: Floats) -> Floats:
        """(n, 4) inks that a rule leaves, in their own space; what is over the TAC comes within.

        What keeps the TAC is returned to the bit. A mixture over it keeps the colour that it has by
        its own profile, or by the destination's where it has none.
        """
        rules = self._ink_rules()
        if rules is None:
            return values
        profile, _ = self.source_of(space)
        assert profile is not None
        return hold_total(forward_table(profile), values, rules)

    def held_colour(self, space: ColourSpace, values: tuple[float, ...]) -> tuple[float, ...]:
        """One colour as `hold` leaves it; kept for the next time."""
        key = (space.key, values, "hold")
        found = self._colours.get(key)
        if found is None:
            made = self.hold(space, np.array([values], dtype=np.float64))
            # Rounded down, so that a rounded sum does not pass the TAC.
            found = tuple(float(v) for v in np.floor(made[0] * 1e4 + 1e-6) / 1e4)
            self._make_room()
            self._colours[key] = found
        return found

    def held_pixels(self, space: ColourSpace, pixels: Pixels) -> Pixels:
        """(n, 4) uint8 or uint16 pixels that a rule leaves; only those over the TAC change."""
        rules = self._ink_rules()
        if rules is None:
            return pixels
        return self._within(pixels, rules, space.key, lambda unit: self.hold(space, unit))

    def _within(
        self, pixels: Pixels, rules: InkRules, key: str, hold: Callable[[Floats], Floats]
    ) -> Pixels:
        """(n, inks) pixels, those over the TAC as `hold` has them; key : tells what it does from others."""
        top = int(np.iinfo(pixels.dtype).max)
        over = pixels.sum(axis=1, dtype=np.uint32) > int(rules.tac / 100 * top)
        if not over.any():
            return pixels
        chosen = np.ascontiguousarray(pixels[over])
        out = pixels.copy()
        if pixels.shape[1] > 4:
            # A table of so many inks would be coarser than colours are many.
            unique, back = np.unique(chosen, axis=0, return_inverse=True)
            # Rounded down, so that a rounded sum does not pass the TAC.
            held = np.floor(hold(unique / top) * top + 1e-6).astype(pixels.dtype)
            out[over] = held[back.reshape(-1)]
            return out
        key = f"{key}:hold"
        if key not in self._links:
            self._links[key] = build_link(hold, 4)
        out[over] = self._links[key].apply(chosen, bits=pixels.dtype.itemsize * 8)
        return out

    def _ink_rules(self) -> InkRules | None:
        policy = self.policy
        if policy.enforced_tac is None or not self.inks:
            return None
        return InkRules.model_validate(
            {"tac": policy.tac, "protect": {"pure_black": policy.pure_black}}
        )

    def _from_xyz(
        self, space: ColourSpace, rule: Rule, intent: str, rules: InkRules | None
    ) -> Callable[[Floats], Floats]:
        number = INTENTS.index(intent)

        def inks(values: Floats) -> Floats:
            xyz = calibrated_XYZ(space.colour, values)
            if rule.bpc and intent != "absolute":
                scale, offset = compensation(
                    np.zeros(3), destination_black_point(self.destination, number)
                )
                xyz = xyz * scale + offset
            made = xyz_to_device(self.destination, xyz, number)
            return self._same(rules)(made)

        return inks

    def convert(self, space: ColourSpace, values: Floats, rule: Rule, intent: str) -> Floats:
        """(n, channels) to (n, destination channels); CMYK's own pure black stays pure."""
        out = self.function(space, rule, intent)(values)
        if space.family == "CMYK" and self.policy.pure_black and self.black_ink is not None:
            pure = (values[:, :3] <= 1e-6).all(axis=1)
            if intent == "absolute":
                # The source's paper is a colour to be printed then, and no absence of ink.
                pure &= values[:, 3] > 0
            out[pure] = 0.0
            out[pure, self.black_ink] = values[pure, 3]
        return out

    def single(self, space: ColourSpace, values: Floats, rule: Rule, intent: str) -> Floats:
        """Colours of text and vectors: as `convert`, with greys in black and primaries clean.

        Never for images and shadings, whose neighbouring colours would jump.
        """
        out = self.convert(space, values, rule, intent)
        policy = self.policy
        if self.black_ink is not None and policy.greys_to_black and space.family in ("RGB", "Lab"):
            grey = (
                np.ptp(values, axis=1) < 1e-6
                if space.family == "RGB"
                else np.hypot(values[:, 1], values[:, 2]) < 0.5
            )
            if grey.any():
                out[grey] = self._to_black(space, values[grey], out[grey], rule, intent)
        if policy.clean and space.family == "RGB" and set(_PRIMARIES) <= set(self.inks):
            pure = ((values == 0) | (values == 1)).all(axis=1) & (np.ptp(values, axis=1) == 1)
            if policy.enforced_tac is not None:
                pure &= (3 - values.sum(axis=1)) * 100 <= policy.enforced_tac
            out[pure] = 0.0
            for channel, name in enumerate(_PRIMARIES):
                out[pure, self.inks.index(name)] = 1 - values[pure, channel]
        return out

    def _to_black(
        self, space: ColourSpace, values: Floats, inks: Floats, rule: Rule, intent: str
    ) -> Floats:
        """Greys that print as `inks` in black alone; the space's black is solid, its white paper."""
        forward = forward_table(self.destination)
        out = np.zeros_like(inks)
        black = self.black_ink
        assert black is not None
        darkest = self._darkest(space, rule, intent)
        out[:, black] = black_alone(forward, forward.lab_of(inks)[:, 0], darkest)
        if space.family in ("RGB", "grey"):
            out[(values <= 0).all(axis=1), black] = 1.0
            out[(values >= 1).all(axis=1), black] = 0.0
        out[:, black] = np.minimum(out[:, black], self.solid)
        return out

    def _darkest(self, space: ColourSpace, rule: Rule, intent: str) -> float:
        """L* at which a space's own black prints; solid black's for spot colours, whose solids only
        their tint functions know."""
        if space.family == "spot":
            return float(forward_table(self.destination).black_ramp[1][-1])
        key = (space.key, "darkest", rule.key(intent))
        if key not in self._colours:
            own = [[0.0, 0.0, 0.0, 1.0]] if space.family == "CMYK" else [[0.0] * space.channels]
            inks = self.function(space, rule, intent)(np.array(own))
            lab = forward_table(self.destination).lab_of(inks)
            self._colours[key] = (float(lab[0, 0]),)
        return self._colours[key][0]

    @property
    def solid(self) -> float:
        """The most that black alone may be, 0..1: full, unless the TAC itself is lower."""
        rules = self._ink_rules()
        return 1.0 if rules is None else rules.solid_black

    def black(self, space: ColourSpace, values: Floats, rule: Rule, intent: str) -> Floats:
        """(n, channels) to black alone by lightness; the space's own black and white stay exact.

        Inks that are black alone already keep their tone value. Without a black ink, as `convert`.
        """
        black = self.black_ink
        if black is None:
            return self.convert(space, values, rule, intent)
        if space.bare_grey:
            # Its share of black (ISO 32000-2, 10.4.2).
            out = np.zeros((values.shape[0], len(self.inks)))
            out[:, black] = np.minimum(1 - np.clip(values[:, 0], 0, 1), self.solid)
            return out
        inks = self.function(space, rule, intent)(values)
        out = self._to_black(space, values, inks, rule, intent)
        if space.family == "CMYK":
            alone = (values[:, :3] <= 1e-6).all(axis=1)
            out[alone, black] = np.minimum(values[alone, 3], self.solid)
        return out

    def link(self, space: ColourSpace, rule: Rule, intent: str) -> DeviceLink:
        """The measured link for images of a space with one, three or four channels, without the rule's
        transfer functions: those go by tables of their own, as steep as they are."""
        key = f"{space.key}:{rule.key(intent)}"
        if key not in self._links:
            whole = self.black if rule.to_black else self.convert
            low, high = np.array(space.default_decode(8)).reshape(-1, 2).T

            def function(unit: Floats) -> Floats:
                return whole(space, low + unit * (high - low), rule, intent)

            def difference(a: Floats, b: Floats) -> Floats:
                return delta_e_2000(
                    lab_of_device(self.destination, a), lab_of_device(self.destination, b)
                )

            self._links[key], _ = build_measured_link(function, space.channels, difference)
        return self._links[key]

    def images(self, space: ColourSpace, pixels: Pixels, rule: Rule, intent: str) -> Pixels:
        """(n, channels) uint8 or uint16 to (n, destination channels) of the same depth."""
        bits = pixels.dtype.itemsize * 8
        if space.family == "spot":
            if space.channels > 4 and not self.prints(space):
                raise NotSupported(say("document.image-spots"))
            unique, back = np.unique(pixels, axis=0, return_inverse=True)
            if unique.shape[0] <= 300_000:
                top = float(np.iinfo(pixels.dtype).max)
                out = self.continuous(space, unique / top, rule, intent)
                return np.round(out * top).astype(pixels.dtype)[back.reshape(-1)]
        made = self.link(space, rule, intent).apply(pixels, bits=bits)
        return self._transferred_pixels(made, rule)

    def _transferred_pixels(self, pixels: Pixels, rule: Rule) -> Pixels:
        """(n, destination channels) uint8 or uint16 as they reach the plates."""
        if rule.transfer is None:
            return pixels
        top = int(np.iinfo(pixels.dtype).max)
        steps = np.repeat(np.linspace(0, 1, top + 1)[:, None], pixels.shape[1], axis=1)
        made = rule.transfer.applied(steps, self.family, self.inks)
        tables = np.round(made * top).astype(pixels.dtype)
        out = np.take_along_axis(tables, pixels.astype(np.intp), axis=0)
        rules = self._ink_rules()
        return out if rules is None else self._within(out, rules, "transferred", self._same(rules))

    def lab(self, values: tuple[float, ...]) -> tuple[float, ...]:
        """Media-relative Lab of destination values."""
        found = lab_of_device(self.destination, np.array([values]))[0]
        return tuple(round(float(v), 1) for v in found)
