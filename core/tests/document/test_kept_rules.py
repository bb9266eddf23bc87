"""What rules make of single colours, of images and of shadings, from every kind of space, on presses made
from formulas; and what must hold of it whatever the press."""

from __future__ import annotations

from typing import Any

import numpy as np
import pikepdf
import pytest
from handmade import ink_profile, linear_inks, linear_press, linear_print
from kept import as_kept
from pikepdf import Array, Dictionary, Name

from plinto_core.document import OutputPolicy
from plinto_core.document.pdf.spaces import ColourSpace, read_space
from plinto_core.document.pdf.transfer import Transfers
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.meaning import difference, lab_of_space
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import Rule
from plinto_core.errors import CoreError
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import SPACES, standard_profile

SIX = ("Cyan", "Magenta", "Yellow", "Black", "channel 5", "channel 6")
RULES: dict[str, dict[str, Any]] = {
    "relative": {}, "no bpc": {"bpc": False}, "absolute": {"intent": "absolute"},
    "perceptual": {"intent": "perceptual"}, "vivid": {"vivid": {"strength": 60}}, "black": {"action": "black"},
}  # fmt: skip
POLICIES: dict[str, dict[str, Any]] = {
    "plain": {},
    "strict": {"tac": 170, "tac_action": "enforce", "greys_to_black": True, "clean": True},
    "loose": {"tac": 150, "tac_action": "report", "pure_black": False, "embedded": False, "sources": {"RGB": "oprgb", "grey": "grey", "CMYK": "other"}},
    "builds": {"builds": {"Ternholm Red": {"M": 90, "Y": 70}, "Varnish": {}}, "tac": 140, "tac_action": "enforce"},
}  # fmt: skip


def six_press() -> Profile:
    """The four inks and two more: one as red as magenta and yellow, one that only darkens."""

    def forward(inks: np.ndarray) -> np.ndarray:
        return linear_print(inks[:, :4]) + inks[:, 4:5] * [-30, 50, 50] + inks[:, 5:6] * [-40, 0, 0]

    def backward(lab: np.ndarray) -> np.ndarray:
        four = linear_inks(lab)
        red = np.minimum(four[:, 1:2], four[:, 2:3]) * 0.5
        return np.concatenate([four[:, :1], four[:, 1:3] - red, four[:, 3:], red, 0 * red], axis=1)

    return ink_profile(6, forward, backward, grid=3, back_grid=9)


OTHER = linear_press("Another press")
PRESSES = {"four": linear_press(), "six": six_press()}


def spot(names: list[str], alternate: Any, ends: list[list[float]]) -> Array:
    """Tints that go straight to their ends, added up."""
    pieces = " ".join(
        "0 " + " ".join(f"{len(names) + k - i} index {end[k]} mul add" for i, end in enumerate(ends))
        for k in range(len(ends[0]))
    )  # fmt: skip
    program = f"{{ {pieces} {len(names) + len(ends[0])} {len(ends[0])} roll {'pop ' * len(names)}}}"
    function = pikepdf.Stream(_PDF, program.encode(), FunctionType=4, Domain=[0, 1] * len(names), Range=[0, 1] * len(ends[0]))  # fmt: skip
    label = Name.Separation if len(names) == 1 else Name.DeviceN
    name = Name(f"/{names[0]}") if len(names) == 1 else Array([Name(f"/{n}") for n in names])
    return Array([label, name, alternate, function])


_PDF = pikepdf.new()


def tagged(profile: Profile) -> Array:
    return Array([Name.ICCBased, pikepdf.Stream(_PDF, profile.data, N=profile.channels)])


WHITE = Dictionary(WhitePoint=[0.9642, 1, 0.8249])
WIDE = Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-100, 100, -100, 100])
SOURCES = {
    "RGB": Name.DeviceRGB, "grey": Name.DeviceGray, "CMYK": Name.DeviceCMYK,
    "Lab": Array([Name.Lab, WIDE]), "CalGray": Array([Name.CalGray, WHITE]), "CalRGB": Array([Name.CalRGB, WHITE]),
    "ICC RGB": tagged(standard_profile("p3")), "ICC grey": tagged(standard_profile("grey")),
    "ICC CMYK": tagged(OTHER), "its own CMYK": tagged(PRESSES["four"]),
    "spot": spot(["Ternholm Red"], Name.DeviceCMYK, [[0, 0.9, 0.8, 0]]),
    "spot by RGB": spot(["Ternholm Red"], Name.DeviceRGB, [[1, 0.2, 0.1]]),
    "plates": spot(["Black", "Cyan"], Name.DeviceCMYK, [[0, 0, 0, 1], [1, 0, 0, 0]]),
    "mixed": spot(["Ternholm Red", "Cyan"], Name.DeviceCMYK, [[0, 0.9, 0.8, 0], [1, 0, 0, 0]]),
}  # fmt: skip
COLOURS = {
    1: [[0], [0.003], [0.25], [0.6], [1]],
    2: [[0, 0], [1, 0], [0, 1], [0.4, 0.7], [1, 1]],
    3: [[0, 0, 0], [1, 1, 1], [0.5, 0.5, 0.5], [1, 0, 0], [0, 1, 1], [0.2, 0.2, 0.9], [0.7, 0.4, 0.3], [0.5, 0.5, 0.51]],
    4: [[0, 0, 0, 0], [0, 0, 0, 1], [0, 0, 0, 0.4], [1, 0, 0, 0], [0.9, 0.8, 0.7, 0.6], [0.2, 0.1, 0.1, 0.05], [1, 1, 1, 1]],
}  # fmt: skip
LAB = [
    [0, 0, 0],
    [100, 0, 0],
    [50, 0, 0],
    [50, 0.3, 0.3],
    [50, 0.5, 0.2],
    [40, 60, 30],
    [80, -40, 60],
]


def found(name: str) -> Profile:
    own = {**PRESSES, "other": OTHER}
    return own[name] if name in own else standard_profile(name)


def mapper_of(press: str, policy: dict[str, Any]) -> ColourMapper:
    own = {"press": PRESSES[press], "other": OTHER}
    made = OutputPolicy.model_validate({"destination": "press", "rules": [{"action": "convert"}], **policy})  # fmt: skip
    return ColourMapper(made, PRESSES[press], lambda name: own[name] if name in own else standard_profile(name))  # fmt: skip


def colours_of(space: ColourSpace) -> np.ndarray:
    return np.array(LAB if space.family == "Lab" else COLOURS[space.channels], float)


def or_refused(act: Any, *given: Any) -> Any:
    try:
        return np.round(act(*given), 4).tolist()
    except CoreError as error:
        return error.said.code


@pytest.mark.parametrize("policy", POLICIES)
@pytest.mark.parametrize("press", PRESSES)
def test_colours(press, policy) -> None:
    mapper = mapper_of(press, POLICIES[policy])
    kept = {}
    for name, source in SOURCES.items():
        space = read_space(source)
        values = colours_of(space)
        for rule_name, entries in RULES.items():
            rule = Rule.model_validate({"action": "convert", **entries})
            kept[f"{name}, {rule_name}"] = [
                or_refused(make, space, values, rule, rule.intent)
                for make in (mapper.together, mapper.continuous)
            ]
        kept[f"{name}, facts"] = [
            mapper.prints(space), mapper.own_plates(space), mapper.keeps(space),
            or_refused(lambda s: float(mapper.same_space(s)), space),
            or_refused(lab_of_space, mapper, space, values),
        ]  # fmt: skip
    as_kept(f"rules/{press}-{policy}", kept, rel=5e-3, abs=0.008)


@pytest.mark.parametrize("name", [n for n in SOURCES if "CMYK" not in n])
def test_images_are_what_single_pixels_are(name) -> None:
    """By grids and tables, at both depths, within half a percent; by a rule that takes all to black too."""
    space = read_space(SOURCES[name])
    mapper = mapper_of("four", {"tac": 200, "tac_action": "enforce", "sources": {"CMYK": "other"}})
    low, high = np.array(space.default_decode(8)).reshape(-1, 2).T
    units = np.random.default_rng(2).integers(0, 256, (300, space.channels))
    for rule in (Rule(action="convert"), Rule(action="black")):
        wanted = mapper.continuous(space, low + units / 255 * (high - low), rule, "relative")
        for top, dtype in ((255, np.uint8), (65535, np.uint16)):
            made = mapper.images(space, (units * (top // 255)).astype(dtype), rule, "relative")
            assert made.dtype == dtype
            assert np.abs(made / top - wanted).mean() < 0.004
            assert np.percentile(np.abs(made / top - wanted), 98) < 0.03
            assert (made / top).sum(axis=1).max() <= 2.03


@pytest.mark.parametrize("press", PRESSES)
def test_what_is_left_keeps_the_tac_and_nothing_else_changes(press) -> None:
    mapper = mapper_of(press, {"tac": 170, "tac_action": "enforce", "sources": {"CMYK": "other"}})
    space = read_space(Name.DeviceCMYK)
    values = np.random.default_rng(3).random((400, 4)) * 0.8
    over = values.sum(axis=1) > 1.7
    held = mapper.hold(space, values)
    assert np.array_equal(held[~over], values[~over])
    assert held.sum(axis=1).max() <= 1.7 + 1e-6
    moved = lab_of_space(mapper, space, values) - lab_of_space(mapper, space, held)
    # Within a gamut of 170 % many mixtures keep their colour; the darkest become lighter.
    assert np.median(np.linalg.norm(moved[over], axis=1)) < 3
    for row, wanted in zip(values[over][:20], held[over][:20], strict=True):
        one = mapper.held_colour(space, tuple(row))
        assert one == pytest.approx(wanted, abs=1.1e-4)
        assert sum(one) <= 1.7
    for dtype in (np.uint8, np.uint16):
        top = np.iinfo(dtype).max
        pixels = np.round(values * top).astype(dtype)
        made = mapper.held_pixels(space, pixels)
        same = pixels.sum(axis=1, dtype=int) <= int(1.7 * top)
        assert np.array_equal(made[same], pixels[same])
        assert np.abs(made / top - mapper.hold(space, pixels / top)).mean() < 0.01
    unheld = mapper_of(press, {"tac": 170, "tac_action": "report"})
    assert unheld.hold(space, values) is values
    assert unheld.held_pixels(space, pixels) is pixels


def test_transfer_functions_are_in_colours_and_in_pixels() -> None:
    """ink = 1 - T(1 - ink); the square of what is lacking darkens every tone but none and full."""
    square = Dictionary(FunctionType=2, Domain=[0, 1], N=2)
    for given in (square, Array([square] * 4)):
        transfer = Transfers().after(Dictionary(TR=given), None)
        assert transfer is not None
        mapper = mapper_of("four", {})
        plain = Rule(action="convert")
        rule = plain.under(transfer, "convert")
        space, values = read_space(Name.DeviceRGB), np.array(COLOURS[3], float)
        before = mapper.together(space, values, plain, "relative")
        after = mapper.together(space, values, rule, "relative")
        assert after == pytest.approx(1 - (1 - before) ** 2, abs=2e-4)
        pixels = np.round(values * 255).astype(np.uint8)
        out = mapper.images(space, pixels, rule, "relative") / 255
        assert out == pytest.approx(1 - (1 - mapper.images(space, pixels, plain, "relative") / 255) ** 2, abs=3e-3)  # fmt: skip
        assert not mapper.inks_of_none(rule)
        assert not mapper.inks_of_none(plain)


def test_a_difference_is_between_what_was_meant_and_what_prints() -> None:
    mapper = mapper_of("four", {})
    space = read_space(SOURCES["its own CMYK"])
    values = np.array([[0, 0, 0, 0], [0.2, 0.5, 0.5, 0.1]], float)
    assert difference(mapper, space, values, values).max() < 1e-6
    assert difference(mapper, space, values, values + np.array([0.2, 0, 0, 0])).min() > 3
    assert mapper.lab((0.0, 0.0, 0.0, 0.0)) == (96, 0, -2)


@pytest.mark.parametrize("press", [*PRESSES, "srgb", "grey"])
def test_what_a_painter_decides_for_each_space(press) -> None:
    """For every kind of space and object: what becomes of it, under which words, and where it comes from."""
    profile = PRESSES[press] if press in PRESSES else standard_profile(press)
    kept = {}
    for policy in (
        {"rules": [{"space": "spot", "action": "keep spot"}, {"space": "CMYK", "action": "leave"}, {"objects": "text", "below": 9, "action": "black"}, {"space": "RGB", "objects": "images", "action": "stop"}, {"action": "convert", "intent": "own", "fallback": "saturation"}], "bare_cmyk": True},
        {"rules": [{"space": "spot", "spot": "Ternholm*", "action": "convert"}, {"space": "grey", "action": "black"}, {"action": "leave"}], "tac": 200, "tac_action": "enforce", "embedded": False, "sources": {"CMYK": "four"}},
    ):  # fmt: skip
        made = OutputPolicy.model_validate({"destination": press, **policy})
        painter = Painter(made, ColourMapper(made, profile, found))  # fmt: skip
        for name, source in SOURCES.items():
            space = read_space(source)
            for objects, size in (("images", None), ("text", 8.0), ("text", 9.0), ("shadings", None)):  # fmt: skip
                decision = painter.decision(objects, space, size)
                kept[f"{len(made.rules)}, {name}, {objects} {size or ''}"] = [
                    decision.number, decision.rule.action, painter.intent(decision.rule, None),
                    painter.intent(decision.rule, "perceptual"), decision.passes, decision.holds,
                    decision.stops, decision.untransferred, painter.changes(space, objects),
                    [str(n) for n in painter.notes(space, objects)],
                ]  # fmt: skip
            kept[f"{len(made.rules)}, {name}"] = [
                painter.ruled_as(space), painter.origin(space), painter.profile_name(space),
                painter.bares(space), painter.holds_tac(space),
            ]  # fmt: skip
        kept[f"{len(made.rules)}"] = [painter.lost_defaults, painter.target_name]
    as_kept(f"rules/painter-{press}", kept)


assert set(SPACES) >= {"srgb", "oprgb", "p3"}
