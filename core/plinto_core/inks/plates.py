"""What happens to single plates after the separation: a curve, a least dot, a clean cut."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, model_validator

from plinto_core.arrays import Floats, Pixels
from plinto_core.inks.forward import BLACK
from plinto_core.inks.mixing import margin
from plinto_core.inks.rules import InkRules
from plinto_core.kernels.finish import finish_plates
from plinto_core.transform.tone_curve import Points, apply_curve
from plinto_core.words import say


class PlateRule(BaseModel):
    """One plate. Percent.

    curve : tone values through points; minimum : the least dot that prints; cut : tone values
    below it become paper, those from it up to the minimum print the minimum.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    curve: Points | None = None
    minimum: float = Field(0, ge=0, le=20)
    cut: float = Field(0, ge=0, le=20)

    @model_validator(mode="after")
    def _cut_below_minimum(self) -> PlateRule:
        if self.cut > self.minimum:
            raise ValueError(say("inks.cut-above-dot"))
        return self


Plates = dict[str, PlateRule]


def curve_plates(
    inks: Floats, names: tuple[str, ...], plates: Plates, tac: float, black_ink: int | None = BLACK
) -> Floats:
    """(n, inks) tone values 0..1 through the plates' curves, within `tac` (share of one) again.

    Where curves lift the total above the TAC, all inks but black (its place; None for none) give way
    together.
    """
    if not any(p.curve for p in plates.values()):
        return inks
    out = inks.copy()
    for i, name in enumerate(names):
        rule = plates.get(name)
        if rule is not None and rule.curve is not None:
            out[:, i] = apply_curve(rule.curve, out[:, i])
    over = out.sum(axis=1) > tac
    if over.any():
        part = out[over]
        others = np.arange(len(names)) != black_ink
        black = np.zeros(part.shape[0]) if black_ink is None else part[:, black_ink]
        colours = part.sum(axis=1) - black
        share = np.clip((tac - black) / np.maximum(colours, 1e-9), 0.0, 1.0)
        part[:, others] *= share[:, None]
        out[over] = part
    return out


def tac_share(rules: InkRules | None, channels: int) -> float:
    """The TAC as a share of one ink with its margin; all inks full where no rule is set."""
    return float(channels) if rules is None else rules.tac / 100 - margin(channels)


def has_dots(plates: Plates) -> bool:
    """Whether pixels need finish() after the link: dots are cut, which no grid can hold."""
    return any(p.minimum > 0 for p in plates.values())


def finish(pixels: Pixels, names: tuple[str, ...], plates: Plates, rules: InkRules | None) -> None:
    """Least dots in place, (n, inks) uint8 or uint16; a total lifted above the TAC gives way.

    The reduction takes from the plate with the largest tone value that stays above its minimum.
    """
    full = int(np.iinfo(pixels.dtype).max)
    values = np.arange(full + 1) / full * 100.0
    table = np.empty((len(names), full + 1), pixels.dtype)
    least = np.zeros(len(names), np.int64)
    for i, name in enumerate(names):
        rule = plates.get(name) or PlateRule()
        tone = np.where(values < rule.cut, 0.0, np.maximum(values, rule.minimum))
        if rule.cut == 0:
            tone = np.where(values == 0, 0.0, tone)
        table[i] = np.round(tone / 100.0 * full)
        least[i] = round(rule.minimum / 100 * full)
    top = full * len(names) if rules is None else int(rules.tac / 100 * full)
    finish_plates(pixels, table, least, top)
