"""What the views of jobs share: finding one's own rows, reading a request's parameters."""

from __future__ import annotations

import json
from typing import Any

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter
from rest_framework import exceptions
from rest_framework.request import Request

from plinto_core.recipes import Recipe, parse_recipe
from plinto_server.apps.jobs import rendering, services
from plinto_server.apps.jobs.models import Destination, Job

CHANGES = OpenApiParameter("changes", str, description="JSON laid over the recipe, unsaved")
STATE = OpenApiParameter("state", int, description="a former state of the recipe in its place")


def own_job(request: Request, pk: int) -> Job:
    return get_object_or_404(
        Job.objects.select_related("artwork").prefetch_related("destinations__condition__profile"),
        pk=pk,
        owner=request.user,
    )


def own_destination(request: Request, pk: int) -> Destination:
    return get_object_or_404(
        Destination.objects.select_related("job__artwork", "condition__profile"),
        pk=pk,
        job__owner=request.user,
    )


def recipe_of(request: Request, destination: Destination) -> Recipe:
    """The destination's recipe, or a former state of it, with the request's unsaved changes."""
    base = state_of(request, destination)
    text = request.query_params.get("changes")
    if not text:
        return parse_recipe(base)
    try:
        changes = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise exceptions.ValidationError("The changes are not JSON.") from error
    if not isinstance(changes, dict):
        raise exceptions.ValidationError("The changes must be an object.")
    return services.merged(destination, changes, base)


def state_of(request: Request, destination: Destination) -> dict[str, Any]:
    """The recipe of the asked-for state, by default the present one."""
    if "state" not in request.query_params:
        return destination.recipe
    position = int(number(request, "state", 0, 0, services.DEPTH))
    if position >= len(destination.history):
        raise exceptions.NotFound("The recipe has no such state.")
    return dict(destination.history[position])


def number(request: Request, name: str, default: float, low: float, high: float) -> float:
    try:
        value = float(request.query_params.get(name, default))
    except ValueError as error:
        raise exceptions.ValidationError(f"{name} is not a number.") from error
    if not low <= value <= high:
        raise exceptions.ValidationError(f"{name} must lie between {low:g} and {high:g}.")
    return value


def box(request: Request, facts: dict[str, Any]) -> tuple[rendering.Box, int, int]:
    big = 1e7
    area = (
        number(request, "x", 0, -big, big),
        number(request, "y", 0, -big, big),
        number(request, "w", facts["width"], 0.5, big),
        number(request, "h", facts["height"], 0.5, big),
    )
    columns = int(number(request, "columns", 640, 1, rendering.LARGEST_VIEW))
    rows = int(number(request, "rows", 480, 1, rendering.LARGEST_VIEW))
    return area, columns, rows


def flag(request: Request, name: str, default: bool) -> bool:
    return request.query_params.get(name, "1" if default else "0") in ("1", "true")


def colour(request: Request, name: str) -> tuple[int, int, int] | None:
    text = request.query_params.get(name, "")
    if not text:
        return None
    try:
        red, green, blue = bytes.fromhex(text)
    except ValueError as error:
        raise exceptions.ValidationError(f"{name} must be six hexadecimal digits.") from error
    return red, green, blue
