"""Pictures of a region for the screen."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import exceptions
from rest_framework.request import Request

from plinto_core.gamut.outside import WAYS
from plinto_server import access
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.jobs import rendering, services
from plinto_server.apps.jobs.api.requests import (
    BOX,
    CHANGES,
    MOMENT,
    box,
    flag,
    own_destination,
    recipe_of,
    veil,
)
from plinto_server.apps.jobs.links import PLAYS, ProofLook
from plinto_server.apps.profiles.services import usable_profile
from plinto_server.parameters import Choice, Number
from plinto_server.requests import View as Described

PANE = Choice("pane", ("original", "corrected", "unconverted", "proof"), "proof")
PLAYS_OF = Choice(
    "plays",
    PLAYS,
    "black",
    description="the print's colours only, its weakest black too, its paper as well",
)
MAP = Choice("map", ("distance", "tac", "correction"))
BREAK_UP = Number("break_up", 0, 20, 0, description="percent below which dots vanish")
CORRECTION = Number("correction", 0, 100, 0, whole=True)


def _look(request: Request) -> ProofLook:
    plates = request.query_params.get("plates", "")
    return ProofLook(
        plays=PLAYS_OF.of(request),
        veil=veil(request, "veil"),
        ways=_ways(request),
        map=MAP.given(request) or "",
        plates=tuple(plates.split(",")[:16]) if plates else None,
        grey=flag(request, "grey", False),
        display=_display(request),
        screen_veil=veil(request, "screen_veil"),
        break_up=BREAK_UP.of(request),
        correction=int(CORRECTION.of(request)),
    )


def _ways(request: Request) -> tuple[str, ...]:
    """Which ways of being out of gamut the veil marks; all of them where nothing is said."""
    given = request.query_params.get("ways", "")
    ways = tuple(w for w in WAYS if w in given.split(",")) if given else WAYS
    if given and set(given.split(",")) - set(WAYS):
        raise exceptions.ValidationError(f"ways must be some of {', '.join(WAYS)}.")
    return ways


def _display(request: Request) -> str:
    """The screen's profile; it must be one of a screen."""
    reference = request.query_params.get("display") or "srgb"
    usable_profile(access.person(request), reference, "display")
    return str(reference)


class View(Described):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="destinations_view",
        parameters=[
            PANE,
            *BOX,
            PLAYS_OF,
            OpenApiParameter("veil", str, description="hatch, or six hexadecimal digits"),
            OpenApiParameter("ways", str, description="vivid, dark, light: what the veil marks"),
            OpenApiParameter("screen_veil", str, description="hatch, or six hexadecimal digits"),
            MAP,
            CORRECTION,
            OpenApiParameter("plates", str, description="inks shown, by name, with commas"),
            OpenApiParameter("grey", bool, description="a single plate as greys"),
            BREAK_UP,
            OpenApiParameter(
                "bar", bool, description="the device's outermost colours in place of the picture"
            ),
            OpenApiParameter(
                "sheet", bool, description="the bare medium, one pixel, in place of the picture"
            ),
            OpenApiParameter("display", str, description="the screen's profile by reference"),
            OpenApiParameter("of", str, description="anything; tells addresses apart for browsers"),
            CHANGES,
            MOMENT,
        ],
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """A region of the artwork or of the press view, a PNG that carries the screen's profile."""
        destination = own_destination(request, pk)
        recipe = recipe_of(request, destination)
        artwork = destination.job.artwork
        part = rendering.Part(*box(request, artwork.facts), bar=flag(request, "bar", False))
        pane = PANE.of(request)
        if flag(request, "sheet", False):
            png = rendering.render_sheet(destination, recipe, _look(request))
        elif pane == "original":
            source = services.source_of(artwork, recipe).profile
            png = rendering.render_original(
                artwork, source, part, _display(request), negative=recipe.negative
            )
        elif pane == "corrected":
            png = rendering.render_corrected(destination, recipe, part, _display(request))
        elif pane == "unconverted":
            png = rendering.render_unconverted(destination, recipe, _look(request), part)
        else:
            png = rendering.render_proof(destination, recipe, _look(request), part)
        response = HttpResponse(png, content_type="image/png")
        response["Cache-Control"] = "private, max-age=300"
        return response


class ArtworkThumbnail(Described):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY}, operation_id="artwork_thumbnail"
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The picture at 360 pixels, as the screen can show it."""
        artwork = access.own(request.user, Artwork, pk)
        response = HttpResponse(rendering.thumbnail(artwork), content_type="image/png")
        response["Cache-Control"] = "private, max-age=3600"
        return response
