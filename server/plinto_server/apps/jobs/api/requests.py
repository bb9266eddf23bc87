"""What the views of jobs share: finding one's own rows, reading a request's parameters."""

from __future__ import annotations

import json
from typing import Any

from drf_spectacular.utils import OpenApiParameter
from rest_framework import exceptions
from rest_framework.request import Request

from plinto_core.recipes import Recipe, parse_recipe
from plinto_server import access
from plinto_server.apps.jobs import rendering, services
from plinto_server.apps.jobs.links import Veil
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.parameters import LARGEST_ID, Number

CHANGES = OpenApiParameter(
    "changes", str, description="JSON of whole parts of a recipe, in place of the saved ones"
)
MOMENT = Number(
    "moment", 0, LARGEST_ID, whole=True, needed=False,
    description="a moment of the recipe in its place",
)  # fmt: skip
_FAR = 1e7
"""Pixels; no picture is as large."""
LEFT, TOP = (Number(n, -_FAR, _FAR, 0, description="pixels of the picture") for n in ("x", "y"))
WIDE, HIGH = (
    Number(n, 0.5, _FAR, needed=False, description="pixels of the picture; all of it by default")
    for n in ("w", "h")
)
COLUMNS = Number("columns", 1, rendering.LARGEST_VIEW, 640, whole=True)
ROWS = Number("rows", 1, rendering.LARGEST_VIEW, 480, whole=True)
BOX = (LEFT, TOP, WIDE, HIGH, COLUMNS, ROWS)


def own_job(request: Request, pk: int) -> Job:
    rows = Job.objects.select_related("artwork", "owner").prefetch_related(
        "destinations__condition__profile"
    )
    return access.own(request.user, Job, pk, rows)


def own_destination(request: Request, pk: int) -> Destination:
    rows = Destination.objects.select_related("job__artwork", "job__owner", "condition__profile")
    return access.own(request.user, Destination, pk, rows.filter(job__removed__isnull=True))


def recipe_of(request: Request, destination: Destination) -> Recipe:
    """The destination's recipe, or a moment of it, with the request's unsaved parts in place."""
    base = moment_of(request, destination)
    text = request.query_params.get("changes")
    if not text:
        return parse_recipe(base)
    try:
        changes = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise exceptions.ValidationError("The changes are not JSON.") from error
    if not isinstance(changes, dict):
        raise exceptions.ValidationError("The changes must be an object.")
    return services.replaced(destination, changes, base)


def moment_of(request: Request, destination: Destination) -> dict[str, Any]:
    """The recipe of the asked-for moment, by default the present one."""
    wanted = MOMENT.given(request)
    if wanted is None:
        return dict(destination.recipe)
    found = destination.moments.filter(number=int(wanted)).first()
    if found is None:
        raise exceptions.NotFound("The recipe has no such moment.")
    return dict(found.recipe)


def box(request: Request, facts: dict[str, Any]) -> tuple[rendering.Box, int, int]:
    """The region that is asked for, and how many pixels it is shown by."""
    area = (
        LEFT.of(request),
        TOP.of(request),
        WIDE.of(request, facts["width"]),
        HIGH.of(request, facts["height"]),
    )
    return area, int(COLUMNS.of(request)), int(ROWS.of(request))


def flag(request: Request, name: str, default: bool) -> bool:
    return request.query_params.get(name, "1" if default else "0") in ("1", "true")


def veil(request: Request, name: str) -> Veil | None:
    """How what is marked is covered: "hatch", or a colour as six hexadecimal digits; None for not."""
    text = request.query_params.get(name, "")
    if not text:
        return None
    if text == "hatch":
        return "hatch"
    try:
        red, green, blue = bytes.fromhex(text)
    except ValueError as error:
        raise exceptions.ValidationError(
            f"{name} must be hatch or six hexadecimal digits."
        ) from error
    return red, green, blue
