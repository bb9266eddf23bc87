"""Pictures of a region for the screen."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.utils import OpenApiParameter, OpenApiTypes, extend_schema
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.views import APIView

from plinto_server.apps.jobs import rendering, services
from plinto_server.apps.jobs.api.requests import (
    CHANGES,
    STATE,
    box,
    colour,
    flag,
    number,
    own_destination,
    recipe_of,
)
from plinto_server.apps.jobs.links import ProofLook
from plinto_server.apps.profiles.services import load_profile

MAPS = ("", "distance", "tac", "correction")


def _look(request: Request) -> ProofLook:
    chosen = request.query_params.get("map", "")
    if chosen not in MAPS:
        raise exceptions.ValidationError(f"map must be one of {', '.join(MAPS[1:])}.")
    plates = request.query_params.get("plates", "")
    return ProofLook(
        paper=flag(request, "paper", False),
        black=flag(request, "black", True),
        veil=colour(request, "veil"),
        map=str(chosen),
        plates=tuple(plates.split(",")[:16]) if plates else None,
        grey=flag(request, "grey", False),
        display=_display(request),
        screen_veil=colour(request, "screen_veil"),
        break_up=number(request, "break_up", 0, 0, 20),
        correction=int(number(request, "correction", 0, 0, 100)),
    )


def _display(request: Request) -> str:
    """The screen's profile; it must show RGB."""
    reference = request.query_params.get("display") or "srgb"
    if load_profile(reference).colour_space != "RGB ":
        raise exceptions.ValidationError("The display profile must be an RGB profile.")
    return str(reference)


class View(APIView):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="destinations_view",
        parameters=[
            OpenApiParameter("pane", str, enum=["original", "corrected", "proof"]),
            *[OpenApiParameter(n, float) for n in ("x", "y", "w", "h")],
            *[OpenApiParameter(n, int) for n in ("columns", "rows")],
            OpenApiParameter("paper", bool),
            OpenApiParameter("black", bool),
            OpenApiParameter("veil", str),
            OpenApiParameter("screen_veil", str),
            OpenApiParameter("map", str, enum=["distance", "tac", "correction"]),
            OpenApiParameter("correction", int),
            OpenApiParameter("plates", str, description="inks shown, by name, with commas"),
            OpenApiParameter("grey", bool, description="a single plate as greys"),
            OpenApiParameter("break_up", float, description="percent below which dots vanish"),
            OpenApiParameter("display", str, description="the screen's profile by reference"),
            CHANGES,
            STATE,
        ],
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """A region of the artwork or of the press view, a PNG that carries the screen's profile."""
        destination = own_destination(request, pk)
        recipe = recipe_of(request, destination)
        artwork = destination.job.artwork
        area, columns, rows = box(request, artwork.facts)
        pane = request.query_params.get("pane")
        if pane == "original":
            source = services.source_of(artwork, recipe).profile
            png = rendering.render_original(artwork, source, area, columns, rows, _display(request))
        elif pane == "corrected":
            png = rendering.render_corrected(
                destination, recipe, area, columns, rows, _display(request)
            )
        else:
            png = rendering.render_proof(destination, recipe, _look(request), area, columns, rows)
        response = HttpResponse(png, content_type="image/png")
        response["Cache-Control"] = "private, max-age=300"
        return response
