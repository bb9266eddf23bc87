"""Which of two profiles suits this picture?"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENT_WORDS
from plinto_core.questions.answer import Answer, FigureRow, Figures, FurtherView, Plot, series
from plinto_core.recipes.fit import Fit, fits
from plinto_core.recipes.route import ColourRoute

ALIKE = 0.05
"""Share of the costs by which two fits may differ and still be taken for alike."""
SHARES = np.linspace(0, 100, 51)


def which_suits(
    device: Floats, shape: tuple[int, ...], source: Profile, first: Profile, second: Profile
) -> Answer:
    """Which of two destinations a picture of (rows * columns, channels) numbers 0..1 suits better.

    Each with the intent that suits the picture best there (fit.py); what is compared is the cost of that
    fit: dE00, lost detail, flattened gradients, lost vividness, drifting greys.
    """
    found: list[Fit] = []
    curves: list[Floats] = []
    for profile in (first, second):
        route = ColourRoute(source, profile, "relative", bpc=True)
        best = next(f for f in fits(route, device, shape) if f.advised)
        way = ColourRoute(source, profile, best.intent, bpc=best.bpc)
        errors = delta_e_2000(way.aim_lab(device), way.print_lab(way.inks(device)))
        found.append(best)
        curves.append(np.percentile(errors, SHARES))
    a, b = found
    names = first.description, second.description
    gap = abs(a.cost - b.cost) / max(a.cost, b.cost, 1e-9)
    if gap <= ALIKE:
        verdict, said = "alike", (
            f"Both alike: {a.de00_mean:.1f} and {b.de00_mean:.1f} ΔE00 in the mean."
        )  # fmt: skip
    else:
        better, worse = (0, 1) if a.cost < b.cost else (1, 0)
        verdict = ("first", "second")[better]
        said = (
            f"{names[better]}: {found[better].de00_mean:.1f} ΔE00 in the mean against "
            f"{found[worse].de00_mean:.1f}."
        )
    more = [
        f"{name}: best by {INTENT_WORDS[f.intent]}{', with BPC' if f.bpc else ''}."
        for name, f in zip(names, found, strict=True)
    ]
    more += _reasons(names, a, b)
    rows = [
        ("ΔE00, mean", (a.de00_mean, b.de00_mean), ""),
        ("ΔE00, 95 %", (a.de00_p95, b.de00_p95), ""),
        ("Out of gamut", (a.out_of_gamut * 100, b.out_of_gamut * 100), "%"),
        ("Detail kept", (a.detail * 100, b.detail * 100), "%"),
        ("Gradients flattened", (a.banding * 100, b.banding * 100), "%"),
        ("Vividness kept", tuple((f.vividness or 1.0) * 100 for f in found), "%"),
        ("Greys drift by", (a.drift, b.drift), "a*b*"),
    ]
    return Answer(
        question="suit",
        asked="Which of two profiles suits this picture?",
        parts={"first": names[0], "second": names[1]},
        verdict=verdict,
        said=said,
        more=tuple(more),
        figures=Figures(
            columns=("First", "Second"),
            rows=tuple(FigureRow(label=n, values=v, unit=u) for n, v, u in rows),
        ),
        plot=Plot(
            title="How far the picture's colours move",
            x="share of the picture, %",
            y="ΔE00",
            series=(series("first", SHARES, curves[0]), series("second", SHARES, curves[1], "dashed")),
        ),
        done=(
            f"The picture was taken at {shape[1]} × {shape[0]} pixels.",
            "Every intent, with and without black point compensation, was measured on it for both "
            "destinations, and the best was taken for each.",
            "The better of the two best has the least cost: ΔE00 in the mean and at 95 %, lost detail, "
            f"flattened gradients, lost vividness, drifting greys. Costs within {ALIKE * 100:.0f} % count as alike.",
        ),
        views=(
            FurtherView(label="The job", page="job", of=("picture",)),
            FurtherView(label="Both bodies with the picture's colours", page="gamuts", of=("first", "second", "picture")),
        ),
    )  # fmt: skip


def _reasons(names: tuple[str, str], a: Fit, b: Fit) -> list[str]:
    told = []
    gap = (a.out_of_gamut - b.out_of_gamut) * 100
    if abs(gap) > 2:
        less = names[0] if gap < 0 else names[1]
        told.append(f"{less} holds another {abs(gap):.0f} % of the picture inside its gamut.")
    detail = (a.detail - b.detail) * 100
    if abs(detail) > 3:
        told.append(
            f"{names[0] if detail > 0 else names[1]} keeps {abs(detail):.0f} % more detail."
        )
    return told
