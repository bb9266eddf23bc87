"""What does this step do to these tones? Does a profile reach the total asked? Are its greys grey?"""

from __future__ import annotations

import numpy as np

from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.examination.findings import CAST, STRONG_CAST, judge_neutrals
from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.reach import reaches
from plinto_core.examination.tones_lost import FLATTENED
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENT_WORDS, is_subtractive
from plinto_core.proofs.strip import MIXES
from plinto_core.questions.answer import (
    Answer,
    FigureRow,
    Figures,
    FurtherView,
    Plot,
    pairs,
    series,
)
from plinto_core.transform.black_point import RELATIVE
from plinto_core.transform.chain import convert, lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.words import say

STEPS = 101
TOTAL_OVER, TOTAL_UNDER = 1.0, 5.0
"""Percent of total ink: above is a rounding of tables, below is ink that was asked for and not used."""


def step_tones(
    source: Profile, destination: Profile, intent: str = "relative", *, bpc: bool = True
) -> Answer:
    """What becomes of greys of even lightness, and of usual mixtures, in one conversion.

    Greys run from the source's own white to its black; both sides media-relative (absolute for the
    absolute intent). A step is lost where less than a quarter of its L* is left.
    """
    view = "absolute" if intent == "absolute" else "relative"
    asked = np.stack([np.linspace(100, 0, STEPS), np.zeros(STEPS), np.zeros(STEPS)], axis=1)
    usual = np.array([lab for _, lab in MIXES])
    device = xyz_to_device(source, Lab_to_XYZ(np.vstack([asked, usual])), RELATIVE)
    before = lab_of_device(source, device, intent=view)
    made = convert(source, destination, device, intent=intent, bpc=bpc)
    after = lab_of_device(destination, made, intent=view)
    grey_in, grey_out = before[:STEPS], after[:STEPS]
    given, left = -np.diff(grey_in[:, 0]), -np.diff(grey_out[:, 0])
    real = given > 0.05
    share = np.where(real, left / np.maximum(given, 1e-9), 1.0)
    lost = real & (share < FLATTENED)
    lost_share = float(given[lost].sum() / max(given[real].sum(), 1e-9))
    span = grey_out[0, 0] - grey_out[-1, 0]
    kept = float(span / max(grey_in[0, 0] - grey_in[-1, 0], 1e-9))
    chroma = np.hypot(*grey_out[:, 1:].T)
    errors = delta_e_2000(before, after)
    said = (
        f"L* {grey_in[0, 0]:.0f} to {grey_in[-1, 0]:.0f} becomes {grey_out[0, 0]:.0f} to "
        f"{grey_out[-1, 0]:.0f}: {kept * 100:.0f} % of the range is left, and "
        f"{lost_share * 100:.0f} % of the steps are lost."
    )
    more = []
    if lost.any():
        at = grey_in[:-1, 0][lost]
        more.append(f"Steps are lost between L* {at.min():.0f} and {at.max():.0f} of the source.")
    steep = share[real]
    if steep.size and steep.max() > 1.5:
        where = grey_in[:-1, 0][real][steep.argmax()]
        more.append(f"At L* {where:.0f} contrast rises to {steep.max():.1f} of what it was.")
    if chroma.max() > CAST:
        more.append(
            f"Greys come out coloured: C* {chroma.max():.1f} at L* {grey_in[chroma.argmax(), 0]:.0f}."
        )
    return Answer(
        question="tones",
        asked="What does this step do to these tones?",
        parts={
            "source": source.description, "destination": destination.description,
            "intent": INTENT_WORDS[intent], "bpc": "on" if bpc else "off",
        },
        verdict="told",
        said=said,
        more=tuple(more),
        figures=Figures(
            columns=("Before", "After"),
            rows=(
                FigureRow(label="Lightest grey", values=(float(grey_in[0, 0]), float(grey_out[0, 0])), unit="L*"),
                FigureRow(label="Darkest grey", values=(float(grey_in[-1, 0]), float(grey_out[-1, 0])), unit="L*"),
                FigureRow(label="Steps lost", values=(None, lost_share * 100), unit="%"),
                FigureRow(label="Greatest chroma of a grey", values=(float(np.hypot(*grey_in[:, 1:].T).max()), float(chroma.max())), unit="C*"),
            ),
        ),
        plot=Plot(
            title="Greys before and after",
            x="L* before",
            y="L* after",
            series=(
                series("as they were", grey_in[:, 0], grey_in[:, 0], "dotted"),
                series("lightness", grey_in[:, 0], grey_out[:, 0]),
                series("chroma of greys", grey_in[:, 0], chroma, "dashed"),
            ),
            reversed=True,
        ),
        colours=pairs(
            [n for n, _ in MIXES], before[STEPS:], after[STEPS:], errors[STEPS:], ("before", "after")
        ),
        done=(
            f"{STEPS} greys of even lightness, and five usual colours, were brought into the source, "
            "relative colorimetric.",
            f"They were converted into the destination, {INTENT_WORDS[intent]}"
            + (", with" if bpc and intent != "absolute" else ", without")
            + " black point compensation.",
            f"Both sides were read off the profiles, forward, {'absolute' if view == 'absolute' else 'relative to their own whites'}.",
            f"A step counts as lost where less than {FLATTENED * 100:.0f} % of its lightness is left.",
        ),
        views=(
            FurtherView(label="The step as a path", page="path", of=("source", "destination"), how={"intent": intent, "bpc": "on" if bpc else "off"}),
            FurtherView(label="Greys through the destination", page="greys", of=("destination",)),
        ),
    )  # fmt: skip


def reaches_total(profile: Profile, asked: float = 300.0) -> Answer:
    """Whether a profile's tables reach the total ink they were made for, percent, and keep it.

    Raises BadInput for devices without inks.
    """
    if not is_subtractive(profile.colour_space):
        raise BadInput(say("questions.device-no-inks"))
    found = reaches(profile)
    most, least = max(r.tac for r in found), min(r.tac for r in found)
    over, under = most - asked, asked - most
    if over > TOTAL_OVER:
        verdict, said = (
            "no",
            f"No: it goes over. Up to {most:.0f} % is used where {asked:.0f} % was asked.",
        )
    elif under > TOTAL_UNDER:
        verdict, said = (
            "in part",
            f"It keeps within {asked:.0f} %, and leaves {under:.0f} % unused: {most:.0f} % is the most.",
        )
    else:
        verdict, said = "yes", f"Yes: up to {most:.0f} % of {asked:.0f} %."
    more = []
    if most - least > TOTAL_UNDER:
        more.append(f"The intents differ: {least:.0f} to {most:.0f} %.")
    darkest = min(found, key=lambda r: r.darkest[0])
    more.append(
        f"The darkest neutral prints at L* {darkest.darkest[0]:.1f}, {INTENT_WORDS[darkest.intent]}."
    )
    lines = []
    for one, style in zip(found, ("line", "dashed", "dotted"), strict=False):
        path = neutrals(profile, one.intent)
        lines.append(series(INTENT_WORDS[one.intent], path.asked, path.total * 100, style))
    return Answer(
        question="total",
        asked="Does this profile reach the total asked?",
        parts={"profile": profile.description, "asked": f"{asked:g}"},
        verdict=verdict,
        said=said,
        more=tuple(more),
        figures=Figures(
            columns=tuple(INTENT_WORDS[r.intent] for r in found),
            rows=(
                FigureRow(label="Most of all colours", values=tuple(r.tac for r in found), unit="%"),
                FigureRow(label="Most of greys", values=tuple(r.tac_neutral for r in found), unit="%"),
                FigureRow(label="Most black", values=tuple(r.black_most for r in found), unit="%"),
                FigureRow(label="Darkest grey", values=tuple(r.darkest[0] for r in found), unit="L*"),
            ),
        ),
        plot=Plot(
            title="Total ink along the greys", x="L* asked", y="total, %", series=tuple(lines),
            level=("asked", asked), reversed=True,
        ),
        done=(
            "Every Lab colour of a close grid was sent through each table that leads to inks, and the "
            "inks were added up.",
            "Greys from white to black were sent with black point compensation.",
            f"More than {TOTAL_OVER:g} % over the total asked counts as over, more than {TOTAL_UNDER:g} % "
            "under it as unused.",
        ),
        views=(
            FurtherView(label="What it prints", page="prints", of=("profile",), how={"tac": f"{asked:g}"}),
            FurtherView(label="Its greys", page="greys", of=("profile",)),
            FurtherView(label="Its body under this total", page="gamuts", of=("profile",), how={"tac": f"{asked:g}"}),
        ),
    )  # fmt: skip


def greys_grey(profile: Profile, intent: str = "relative", *, bpc: bool = True) -> Answer:
    """Whether neutral colours print neutral: C* up to 3 is not seen beside a neutral grey, above 6 it is
    seen by itself."""
    path = neutrals(profile, intent, bpc=bpc)
    figures = path.figures()
    if figures.chroma_max <= CAST and figures.turns <= 1 and figures.lightness_back <= 0.5:
        verdict, said = "yes", (
            f"Yes: C* {figures.chroma_mean:.1f} in the mean and {figures.chroma_max:.1f} at most, at L* "
            f"{figures.worst:.0f}."
        )  # fmt: skip
    elif figures.chroma_max <= STRONG_CAST:
        verdict, said = "in part", (
            f"Nearly: up to C* {figures.chroma_max:.1f}, at L* {figures.worst:.0f}, which is seen beside "
            "a neutral grey."
        )  # fmt: skip
    else:
        verdict, said = "no", (
            f"No: C* {figures.chroma_max:.1f} at L* {figures.worst:.0f} is seen as a colour."
        )  # fmt: skip
    more = [f.sentence for f in judge_neutrals(path, intent)]
    return Answer(
        question="greys",
        asked="Are its greys grey?",
        parts={
            "profile": profile.description, "intent": INTENT_WORDS[intent],
            "bpc": "on" if bpc else "off",
        },
        verdict=verdict,
        said=said,
        more=tuple(more[:8]),
        figures=Figures(
            columns=("",),
            rows=(
                FigureRow(label="Chroma, mean", values=(figures.chroma_mean,), unit="C*", digits=2),
                FigureRow(label="Chroma, greatest", values=(figures.chroma_max,), unit="C*", digits=2),
                FigureRow(label="The hue turns back", values=(float(figures.turns),), unit="times", digits=0),
                FigureRow(label="Lightness goes back by", values=(figures.lightness_back,), unit="L*", digits=2),
            ),
        ),
        plot=Plot(
            title="What greys print as",
            x="L* asked",
            y="a*, b*, C*",
            series=(
                series("a*", path.asked, path.printed[:, 1]),
                series("b*", path.asked, path.printed[:, 2], "dashed"),
                series("C*", path.asked, path.chroma, "dotted"),
            ),
            reversed=True,
        ),
        done=(
            f"Greys of L* 100 to 0 were sent through the table to inks, {INTENT_WORDS[intent]}"
            + (", with" if bpc and intent != "absolute" else ", without")
            + " black point compensation.",
            "What the inks print was read off the profile, forward.",
            f"Up to C* {CAST:g} is not seen beside a neutral grey; above {STRONG_CAST:g} it is seen by "
            "itself.",
        ),
        views=(
            FurtherView(label="Its greys, inks and path", page="greys", of=("profile",)),
            FurtherView(label="What it gives back", page="back", of=("profile",)),
        ),
    )  # fmt: skip
