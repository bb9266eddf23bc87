"""Builds of a list on several presses as one table."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from plinto_core.arrays import Floats
from plinto_core.errors import BadInput
from plinto_core.spots.builds import MOST_COLOURS, SpotBuild
from plinto_core.swatches.files import safe_cell
from plinto_core.swatches.swatches import Swatches
from plinto_core.words import say


def aims_of(listed: Swatches) -> tuple[tuple[str, ...], Floats]:
    """Names and (n, 3) Lab of a list that builds can be sought for; raises BadInput."""
    if listed.space != "Lab ":
        raise BadInput(say("spots.list-not-measured", space=listed.space.strip()))
    if len(listed) > MOST_COLOURS:
        raise BadInput(say("spots.list-long", most=MOST_COLOURS))
    return listed.names, listed.values


def builds_csv(presses: Sequence[tuple[str, Sequence[SpotBuild]]]) -> str:
    """A row for every colour on every press: aim, print, inks in percent, miss and its parts."""
    inks = list(dict.fromkeys(n for _, found in presses for b in found for n in b.best.inks))
    # Process inks stand in their usual order, whichever colour used one first.
    inks.sort(key=lambda n: "CMYK".find(n) if n in "CMYK" else 4)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["Colour", "Press", "L*", "a*", "b*", *inks, "Printed L*", "Printed a*", "Printed b*",
         "dE00", "dL*", "dC*", "dH*", "Way"]
    )  # fmt: skip
    for press, found in presses:
        for one in found:
            tones = [one.best.inks.get(n, 0) for n in inks]
            writer.writerow(
                [safe_cell(one.name), safe_cell(press), *one.aim, *tones, *one.best.lab,
                 one.best.de00, one.lightness, one.chroma, one.hue, one.way]
            )  # fmt: skip
    return out.getvalue()
