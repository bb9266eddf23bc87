"""Can this proofer show that press? Are two devices still alike?"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.examination.reach import solid_lab
from plinto_core.gamut.body import THRESHOLD
from plinto_core.gamut.views import body_of, pair_figures
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.proofs.strip import aims, beyond, strip_patches
from plinto_core.questions.answer import (
    Answer,
    FigureRow,
    Figures,
    FurtherView,
    Plot,
    Series,
    pairs,
    series,
)
from plinto_core.transform.chain import convert, lab_of_device
from plinto_core.words import say

WHOLE = 0.98
"""Share of the press's body that a proofer must hold to show all of it: edges count as outside easily."""
SEEN = 4.0
"""dE00 of the strip's worst patch, from which the eye finds it beside the print."""
MIXTURES = 4
"""Steps an ink of the mixtures that two devices are compared by."""


def can_show(press: Profile, proofer: Profile) -> Answer:
    """Whether a proofer's body and profile show what a press prints, its paper included (absolute).

    Judged by the strip of a proof (out of reach from 2 dE00) and by the share of the press's body.
    """
    patches = strip_patches(press)
    wanted = aims(press, patches)
    away = beyond(proofer, wanted)
    device = convert(
        press, proofer, np.array([p.inks for p in patches]), intent="absolute", bpc=False
    )
    shown = lab_of_device(proofer, device, intent="absolute")
    errors = delta_e_2000(wanted, shown)
    bodies = body_of(press, "absolute"), body_of(proofer, "absolute")
    pair = pair_figures(bodies[0], bodies[1]) if bodies[0] and bodies[1] else None
    names = [p.name for p in patches]
    out = [(float(away[i]), names[i]) for i in np.flatnonzero(away > THRESHOLD)]
    covered = pair is None or pair.coverage >= WHOLE
    worst = float(errors.max())
    if not out and covered and worst <= SEEN:
        verdict, said = "yes", (
            f"Yes. {proofer.description} prints every patch of {press.description}'s strip within "
            f"{worst:.1f} ΔE00, {errors.mean():.1f} in the mean."
        )  # fmt: skip
    elif worst <= 2 * SEEN and len(out) <= len(patches) // 4:
        verdict, said = "in part", (
            f"In part. Most colours are shown within {np.percentile(errors, 75):.1f} ΔE00, the worst "
            f"misses by {worst:.1f}."
        )  # fmt: skip
    elif not out:
        verdict, said = "no", (
            f"No. The colours lie within {proofer.description}'s reach, but its profile misses them by up "
            f"to {worst:.1f} ΔE00."
        )  # fmt: skip
    else:
        verdict, said = "no", (
            f"No. {len(out)} of {len(patches)} patches lie beyond {proofer.description}'s reach, the "
            f"worst shown misses by {worst:.1f} ΔE00."
        )  # fmt: skip
    more = []
    if out:
        told = ", ".join(f"{n} by {d:.1f}" for d, n in sorted(out, reverse=True)[:8])
        more.append(f"Out of its reach: {told} ΔE00.")
    paper = names.index("Paper") if "Paper" in names else 0
    if away[paper] > 1.0:
        more.append(
            "The press's paper is lighter or more coloured than the proofer's: proof on another paper."
        )
    if pair is not None:
        more.append(
            f"The proofer holds {pair.coverage * 100:.1f} % of the press's body; its colours miss by "
            f"{pair.de00_mean:.1f} ΔE00 in the mean, {pair.de00_p95:.1f} at 95 %."
        )
    volumes = [round(b.volume) if b else None for b in bodies]
    rows = (
        FigureRow(label="Strip, mean", values=(None, float(errors.mean())), unit="ΔE00"),
        FigureRow(label="Strip, greatest", values=(None, worst), unit="ΔE00"),
        FigureRow(
            label="Paper", values=(float(wanted[paper, 0]), float(shown[paper, 0])), unit="L*"
        ),
        FigureRow(label="Volume", values=(volumes[0], volumes[1]), digits=0),
    )
    return Answer(
        question="show",
        asked="Can this proofer show that press?",
        parts={"press": press.description, "proofer": proofer.description},
        verdict=verdict,
        said=said,
        more=tuple(more),
        figures=Figures(columns=("Press", "Proofer"), rows=rows),
        plot=_hues(press, proofer, wanted, shown, patches),
        colours=pairs(names, wanted, shown, errors, ("press", "shown by the proofer")),
        done=(
            f"The {len(patches)} patches of a proof's strip were taken: paper, solids, overprints, "
            "tones, greys, usual mixtures.",
            "Their absolute colours were read off the press's profile, forward.",
            "The patches were converted from press to proofer, absolute colorimetric, without black "
            "point compensation, and read off the proofer's profile, forward.",
            f"A patch is out of reach where it lies more than {THRESHOLD:g} ΔE00 outside the proofer's "
            "body; the bodies were compared as measured.",
        ),
        views=(
            FurtherView(label="Both bodies", page="gamuts", of=("press", "proofer"), how={"sight": "absolute"}),
            FurtherView(label="The way from press to proofer", page="path", of=("press", "proofer"), how={"intent": "absolute"}),
            FurtherView(label="What the proofer prints", page="prints", of=("proofer",)),
        ),
    )  # fmt: skip


def _hues(
    press: Profile, proofer: Profile, wanted: Floats, shown: Floats, patches: tuple[object, ...]
) -> Plot:
    found: list[Series] = []
    for name, profile, style in (("press", press, "line"), ("proofer", proofer, "dashed")):
        solids = solid_lab(profile)
        edge = ("C", "CM", "M", "MY", "Y", "CY") if "CM" in solids else ("R", "G", "B")
        ring = [k for k in edge if k in solids]
        if ring:
            lab = np.array([solids[k] for k in (*ring, ring[0])])
            found.append(series(f"{name}'s solids", lab[:, 1], lab[:, 2], style))
    found.append(series("asked", wanted[:, 1], wanted[:, 2], "points"))
    away = delta_e_2000(wanted, shown) > THRESHOLD
    if away.any():
        for a, b in zip(wanted[away], shown[away], strict=True):
            found.append(series("", np.array([a[1], b[1]]), np.array([a[2], b[2]]), "dotted"))
    return Plot(
        title="Solids and patches seen from above", x="a*", y="b*", series=tuple(found), square=True
    )


def still_alike(first: Profile, second: Profile, mean: float = 1.5) -> Answer:
    """Whether two devices print the same numbers alike, absolute: the patches of a strip and a grid of
    mixtures through both profiles' measured sides. mean : dE00 up to which they are alike; twice that at
    95 %. Raises BadInput for devices of different inks."""
    if first.colour_space != second.colour_space:
        raise BadInput(
            say(
                "questions.devices-differ",
                one=first.colour_space.strip(),
                other=second.colour_space.strip(),
            )
        )
    patches = strip_patches(first)
    count = first.channels
    steps = MIXTURES if count <= 4 else 3
    grid = np.stack(np.meshgrid(*[np.linspace(0, 1, steps)] * count, indexing="ij"), axis=-1)
    mixed = grid.reshape(-1, count)
    if is_subtractive(first.colour_space):
        mixed = mixed[mixed.sum(axis=1) <= 3.0]
    a, b = (lab_of_device(p, mixed, intent="absolute") for p in (first, second))
    all_errors = delta_e_2000(a, b)
    device = np.array([p.inks for p in patches])
    one, two = (lab_of_device(p, device, intent="absolute") for p in (first, second))
    errors = delta_e_2000(one, two)
    of_mean, of_95 = float(all_errors.mean()), float(np.percentile(all_errors, 95))
    kinds = np.array([p.kind for p in patches])
    paper = float(errors[kinds == "paper"].max())
    if of_mean <= mean and of_95 <= 2 * mean and paper <= mean:
        verdict, said = "yes", f"Yes: {of_mean:.1f} ΔE00 in the mean, {of_95:.1f} at 95 %."
    elif of_mean <= 2 * mean:
        verdict, said = (
            "in part",
            f"Nearly: {of_mean:.1f} ΔE00 in the mean, {of_95:.1f} at 95 %, more than the {mean:g} and {2 * mean:g} allowed.",
        )
    else:
        verdict, said = "no", f"No: {of_mean:.1f} ΔE00 in the mean, {of_95:.1f} at 95 %."
    more = []
    if paper > mean:
        more.append(f"The papers differ by {paper:.1f} ΔE00; all tints differ with them.")
    shift = (b - a).mean(axis=0)
    if abs(shift[0]) > 0.5:
        more.append(
            f"The second prints {'lighter' if shift[0] > 0 else 'darker'} by L* {abs(shift[0]):.1f} in the mean."
        )
    names = ink_names(first)
    tones = np.linspace(0, 1, 21)
    lines = []
    for i, name in enumerate(names):
        ramp = np.zeros((21, count)) if is_subtractive(first.colour_space) else np.ones((21, count))
        ramp[:, i] = tones
        x, y = (lab_of_device(p, ramp, intent="absolute") for p in (first, second))
        lines.append(series(name, tones * 100, delta_e_2000(x, y), ink=name))
    return Answer(
        question="alike",
        asked="Are two devices still alike?",
        parts={"first": first.description, "second": second.description, "mean": f"{mean:g}"},
        verdict=verdict,
        said=said,
        more=tuple(more),
        figures=Figures(
            columns=("ΔE00",),
            rows=(
                FigureRow(label=f"{len(mixed)} mixtures, mean", values=(of_mean,), digits=2),
                FigureRow(label="95 % below", values=(of_95,), digits=2),
                FigureRow(label="greatest", values=(float(all_errors.max()),), digits=2),
                *(
                    FigureRow(label=said, values=(float(errors[kinds == kind].max()),), digits=2)
                    for kind, said in (
                        ("paper", "paper"), ("solid", "solids, greatest"), ("grey", "greys, greatest"),
                    )
                    if (kinds == kind).any()
                ),
            ),
        ),
        plot=Plot(
            title="How far single inks differ", x="tone value, %", y="ΔE00", series=tuple(lines),
            level=("allowed", mean),
        ),
        colours=pairs([p.name for p in patches], one, two, errors, ("first", "second")),
        done=(
            f"The same {len(mixed)} mixtures ({steps} steps an ink"
            + (", 300 % at most)" if is_subtractive(first.colour_space) else ")")
            + " were read off both profiles, forward and absolute, so the papers count.",
            "They were compared in CIEDE2000, mean and 95th percentile.",
            "The patches of a proof's strip were compared one by one, and every ink along its tones.",
        ),
        views=(
            FurtherView(label="Both bodies", page="gamuts", of=("first", "second"), how={"sight": "absolute"}),
            FurtherView(label="The first beside the second", page="prints", of=("first", "second")),
        ),
    )  # fmt: skip
