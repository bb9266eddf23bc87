"""Sample points of a job: where they lie, and the colours that are wanted there."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.recipes import ColourRoute
from plinto_core.spots.builds import direction
from plinto_core.swatches.files import read_swatches
from plinto_core.swatches.typed import typed_colour
from plinto_core.transform.chain import lab_of_device
from plinto_server.apps.jobs.models import Job
from plinto_server.errors import Conflict

MOST_POINTS = 20
LARGEST_LIST = 8 << 20


def set_points(job: Job, points: list[dict[str, Any]]) -> Job:
    """Replace the job's sample points; raises Conflict for more than there may be, BadInput for a target
    that is no colour."""
    if len(points) > MOST_POINTS:
        raise Conflict(f"A job has at most {MOST_POINTS} sample points.")
    facts = job.artwork.facts
    for point in points:
        point["x"] = min(max(int(point["x"]), 0), facts["width"] - 1)
        point["y"] = min(max(int(point["y"]), 0), facts["height"] - 1)
        if point.get("target"):
            typed_colour(point["target"])
    job.points = points
    job.save(update_fields=["points"])
    return job


def named(job: Job) -> list[str]:
    """The points' names, numbers for those that have none."""
    return [p["name"] or f"Point {i + 1}" for i, p in enumerate(job.points)]


@transaction.atomic
def take_targets(pk: int, data: bytes, file_name: str) -> Job:
    """Measured colours of a list as targets: by the points' names, or in their order where none of the
    names is a point's and there are as many. Raises BadInput, and then nothing is changed."""
    job = Job.objects.select_related("artwork").get(pk=pk)
    if not job.points:
        raise BadInput("The job has no sample points.", remedy="Place some, then read targets in.")
    listed = next((one for one in read_swatches(data, file_name) if one.space == "Lab "), None)
    if listed is None:
        raise BadInput(
            "The list holds no measured colours.", remedy="Targets are Lab, as an instrument reads."
        )
    known = {n.casefold(): v for n, v in zip(listed.names, listed.values, strict=True)}
    found = [known.get(n.casefold()) for n in named(job)]
    if all(v is None for v in found) and len(listed) == len(job.points):
        found = list(listed.values)
    if all(v is None for v in found):
        raise BadInput(
            f"No colour of the list is named as a point is, and it holds {len(listed)} for"
            f" {len(job.points)} points.",
            remedy=f"Names of the list: {', '.join(listed.names[:5])}.",
        )
    targets = ["" if v is None else " ".join(f"{x:.2f}" for x in v) for v in found]
    points = [
        {**p, "target": t or p.get("target", "")}
        for p, t in zip(job.points, targets, strict=True)
    ]  # fmt: skip
    return set_points(job, points)


def against_target(target: str, route: ColourRoute, inks: Floats) -> dict[str, Any] | None:
    """The print of (1, channels) inks beside a typed colour, both as measured, or with the paper as white
    where the colour is the screen's; None without a target."""
    if not target:
        return None
    wanted, of_paper = typed_colour(target)
    intent = "relative" if of_paper else "absolute"
    printed = lab_of_device(route.destination, inks, intent=intent)
    return {
        "lab": [round(float(v), 2) for v in wanted.values[0]],
        "print_lab": [round(float(v), 2) for v in printed[0]],
        "as_measured": not of_paper,
        "de00": round(float(delta_e_2000(wanted.values, printed)[0]), 2),
        "way": direction(wanted.values[0], printed[0]),
    }
