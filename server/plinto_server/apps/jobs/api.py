"""Jobs and destinations: list, make, change, undo; views and figures."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, OpenApiTypes, extend_schema
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_core.recipes import Recipe, parse_recipe
from plinto_server.apps.jobs import data, figures, rendering, services
from plinto_server.apps.jobs.models import Destination, Job

CHANGES = OpenApiParameter("changes", str, description="JSON laid over the recipe, unsaved")


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
    """The destination's recipe with the request's unsaved changes."""
    text = request.query_params.get("changes")
    if not text:
        return parse_recipe(destination.recipe)
    try:
        changes = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise exceptions.ValidationError("The changes are not JSON.") from error
    if not isinstance(changes, dict):
        raise exceptions.ValidationError("The changes must be an object.")
    return services.merged(destination, changes)


class JobList(APIView):
    @extend_schema(responses=data.JobData(many=True), operation_id="jobs_list")
    def get(self, request: Request) -> Response:
        """One's own jobs, newest first."""
        jobs = Job.objects.filter(owner=request.user).select_related("artwork")
        jobs = jobs.prefetch_related("destinations__condition__profile")
        return Response(data.JobData(jobs, many=True).data)

    @extend_schema(request=data.NewJob, responses=data.JobData, operation_id="jobs_create")
    def post(self, request: Request) -> Response:
        """Make a job of an artwork for one or more conditions."""
        given = data.NewJob(data=request.data)
        given.is_valid(raise_exception=True)
        artwork = given.validated_data["artwork"]
        if artwork.owner_id != request.user.pk:
            raise exceptions.NotFound("There is no such artwork.")
        job = services.create_job(request.user, artwork, given.validated_data["conditions"])
        return Response(data.JobData(own_job(request, job.pk)).data, status=201)


class JobDetail(APIView):
    @extend_schema(responses=data.JobData, operation_id="jobs_read")
    def get(self, request: Request, pk: int) -> Response:
        """One job."""
        return Response(data.JobData(own_job(request, pk)).data)

    @extend_schema(responses={204: None}, operation_id="jobs_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Delete a job; its artwork stays."""
        own_job(request, pk).delete()
        return Response(status=204)


class DestinationList(APIView):
    @extend_schema(
        request=data.NewDestination,
        responses=data.DestinationData,
        operation_id="destinations_create",
    )
    def post(self, request: Request, pk: int) -> Response:
        """Add a condition to a job."""
        given = data.NewDestination(data=request.data)
        given.is_valid(raise_exception=True)
        made = services.add_destination(own_job(request, pk), given.validated_data["condition"])
        return Response(data.DestinationData(own_destination(request, made.pk)).data, status=201)


class DestinationDetail(APIView):
    @extend_schema(responses=data.DestinationData, operation_id="destinations_read")
    def get(self, request: Request, pk: int) -> Response:
        """One destination with its recipe."""
        return Response(data.DestinationData(own_destination(request, pk)).data)

    @extend_schema(
        request=data.RecipeChanges,
        responses=data.DestinationData,
        operation_id="destinations_change",
    )
    def patch(self, request: Request, pk: int) -> Response:
        """Change the recipe; the former one can be undone to."""
        given = data.RecipeChanges(data=request.data)
        given.is_valid(raise_exception=True)
        changed = services.change_recipe(own_destination(request, pk), given.validated_data)
        return Response(data.DestinationData(changed).data)


class DestinationStep(APIView):
    @extend_schema(request=None, responses=data.DestinationData, operation_id="destinations_step")
    def post(self, request: Request, pk: int, step: str) -> Response:
        """Undo or redo one change of the recipe."""
        by = -1 if step == "undo" else 1
        return Response(
            data.DestinationData(services.step_history(own_destination(request, pk), by)).data
        )


class RecipeFile(APIView):
    @extend_schema(responses=data.RecipeData, operation_id="destinations_recipe")
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The recipe as a file, to be run on the command line."""
        destination = own_destination(request, pk)
        response = HttpResponse(
            json.dumps(destination.recipe, indent=2), content_type="application/json"
        )
        response["Content-Disposition"] = 'attachment; filename="recipe.json"'
        return response


def _number(request: Request, name: str, default: float, low: float, high: float) -> float:
    try:
        value = float(request.query_params.get(name, default))
    except ValueError as error:
        raise exceptions.ValidationError(f"{name} is not a number.") from error
    if not low <= value <= high:
        raise exceptions.ValidationError(f"{name} must lie between {low:g} and {high:g}.")
    return value


def _box(request: Request, facts: dict[str, Any]) -> tuple[rendering.Box, int, int]:
    big = 1e7
    box = (
        _number(request, "x", 0, -big, big),
        _number(request, "y", 0, -big, big),
        _number(request, "w", facts["width"], 0.5, big),
        _number(request, "h", facts["height"], 0.5, big),
    )
    columns = int(_number(request, "columns", 640, 1, rendering.LARGEST_VIEW))
    rows = int(_number(request, "rows", 480, 1, rendering.LARGEST_VIEW))
    return box, columns, rows


def _flag(request: Request, name: str, default: bool) -> bool:
    return request.query_params.get(name, "1" if default else "0") in ("1", "true")


def _veil(request: Request) -> tuple[int, int, int] | None:
    text = request.query_params.get("veil", "")
    if not text:
        return None
    try:
        red, green, blue = bytes.fromhex(text)
    except ValueError as error:
        raise exceptions.ValidationError("veil must be six hexadecimal digits.") from error
    return red, green, blue


def _map(request: Request) -> str:
    chosen = request.query_params.get("map", "")
    if chosen not in ("", "distance", "tac"):
        raise exceptions.ValidationError("map must be distance or tac.")
    return str(chosen)


def _plates(request: Request) -> tuple[str, ...] | None:
    text = request.query_params.get("plates", "")
    return tuple(text.split(",")[:16]) if text else None


class View(APIView):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="destinations_view",
        parameters=[
            OpenApiParameter("pane", str, enum=["original", "proof"]),
            *[OpenApiParameter(n, float) for n in ("x", "y", "w", "h")],
            *[OpenApiParameter(n, int) for n in ("columns", "rows")],
            OpenApiParameter("paper", bool),
            OpenApiParameter("black", bool),
            OpenApiParameter("veil", str),
            OpenApiParameter("map", str, enum=["distance", "tac"]),
            OpenApiParameter("plates", str, description="inks shown, by name, with commas"),
            OpenApiParameter("grey", bool, description="a single plate as greys"),
            CHANGES,
        ],
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """A region of the original or of the press view, as an sRGB PNG."""
        destination = own_destination(request, pk)
        recipe = recipe_of(request, destination)
        artwork = destination.job.artwork
        box, columns, rows = _box(request, artwork.facts)
        if request.query_params.get("pane") == "original":
            source = services.source_of(artwork, recipe).profile
            png = rendering.render_original(artwork, source, box, columns, rows)
        else:
            look = rendering.ProofLook(
                _flag(request, "paper", False),
                _flag(request, "black", True),
                _veil(request),
                _map(request),
                _plates(request),
                _flag(request, "grey", False),
            )
            png = rendering.render_proof(destination, recipe, look, box, columns, rows)
        response = HttpResponse(png, content_type="image/png")
        response["Cache-Control"] = "private, max-age=300"
        return response


class Figures(APIView):
    @extend_schema(
        responses=data.IntentFigures(many=True),
        operation_id="destinations_intents",
        parameters=[CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """Figures of all four intents for the picture."""
        destination = own_destination(request, pk)
        return Response(figures.intent_figures(destination, recipe_of(request, destination)))


class FitAdvice(APIView):
    @extend_schema(
        responses=data.FitData(many=True), operation_id="destinations_fit", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """Every intent with and without BPC measured for the picture; the best one is marked."""
        destination = own_destination(request, pk)
        return Response(figures.fit_advice(destination, recipe_of(request, destination)))


class Inks(APIView):
    @extend_schema(
        responses=data.InkFigures, operation_id="destinations_inks", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """Highest TAC in the picture, where it is, and mean coverage."""
        destination = own_destination(request, pk)
        return Response(figures.ink_figures(destination, recipe_of(request, destination)))


class Neutral(APIView):
    @extend_schema(
        responses=data.NeutralAxis, operation_id="destinations_neutral", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """Inks along the grey axis."""
        destination = own_destination(request, pk)
        return Response(figures.neutral_axis(destination, recipe_of(request, destination)))


class Pointer(APIView):
    @extend_schema(
        responses=data.Readout,
        operation_id="destinations_readout",
        parameters=[OpenApiParameter("x", int), OpenApiParameter("y", int), CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """All numbers at one pixel."""
        destination = own_destination(request, pk)
        x, y = (int(_number(request, n, 0, -1e7, 1e7)) for n in ("x", "y"))
        return Response(figures.readout(destination, recipe_of(request, destination), x, y))


class Facts(APIView):
    @extend_schema(
        request=None, responses=data.DestinationData, operation_id="destinations_measure"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Measure the deciding facts of the saved recipe and keep them."""
        destination = own_destination(request, pk)
        recipe = destination.recipe
        found = figures.deciding_facts(destination, parse_recipe(recipe))
        fresh = own_destination(request, pk)
        if fresh.recipe == recipe:
            fresh.facts = found
            fresh.save(update_fields=["facts"])
        return Response(data.DestinationData(fresh).data)
