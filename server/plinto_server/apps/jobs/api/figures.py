"""Figures of a destination: intents, inks, limits, ramps, the pointer."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.errors import BadProfile
from plinto_core.examination.fidelity import PictureTrip
from plinto_core.icc.parts import why_not_examined
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.leaf import Leaf
from plinto_server.apps.jobs import data, figures, ink_figures
from plinto_server.apps.jobs.api.requests import (
    CHANGES,
    LEFT,
    TOP,
    own_destination,
    own_job,
    recipe_of,
)
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.profiles.services import load_profile
from plinto_server.errors import Conflict
from plinto_server.parameters import Number, row_id
from plinto_server.requests import Own, View

HUE = Number("hue", 0, 360, 0, description="CIELAB degrees")
OK_HUE = Number("hue", 0, 360, 0, description="OKLab degrees")
OTHER = row_id("other")


class Intents(View):
    @extend_schema(
        responses=data.IntentFigures(many=True),
        operation_id="destinations_intents",
        parameters=[CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """Figures of all four intents for the picture."""
        destination = own_destination(request, pk)
        return Response(figures.intent_figures(destination, recipe_of(request, destination)))


class FitAdvice(View):
    @extend_schema(
        responses=data.FitData(many=True), operation_id="destinations_fit", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """Every intent with and without BPC measured for the picture; the best one is marked."""
        destination = own_destination(request, pk)
        return Response(figures.fit_advice(destination, recipe_of(request, destination)))


class MostVivid(View):
    @extend_schema(
        responses=data.WayData(many=True),
        operation_id="destinations_most_vivid",
        parameters=[CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """Ways to a more vivid print, the present one first."""
        destination = own_destination(request, pk)
        return Response(figures.most_vivid(destination, recipe_of(request, destination)))


class HueLeaf(View):
    @extend_schema(responses=Leaf, operation_id="destinations_leaf", parameters=[OK_HUE, CHANGES])
    def get(self, request: Request, pk: int) -> Response:
        """Lightness against chroma in one hue: what the artwork's space has, what prints, where colours go."""
        destination = own_destination(request, pk)
        hue = OK_HUE.of(request)
        return Response(figures.hue_leaf(destination, recipe_of(request, destination), hue))


class Inks(View):
    @extend_schema(
        responses=data.InkFigures, operation_id="destinations_inks", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """Highest TAC and where it is; coverage, histograms, ink use, aids."""
        destination = own_destination(request, pk)
        return Response(figures.plate_figures(destination, recipe_of(request, destination)))


class SentUnconverted(View):
    @extend_schema(
        responses=data.UnconvertedData,
        operation_id="destinations_unconverted",
        parameters=[CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """What the artwork's own numbers would print here if nobody converted them."""
        destination = own_destination(request, pk)
        return Response(figures.unconverted(destination, recipe_of(request, destination)))


class AskedProfile(serializers.Serializer):
    profile = Own(queryset=StoredProfile.objects.all())


class PictureRoundTrip(View):
    @extend_schema(responses=PictureTrip, operation_id="jobs_round_trip", parameters=[AskedProfile])
    def get(self, request: Request, pk: int) -> Response:
        """What a profile gives back of the picture's own colours."""
        job = own_job(request, pk)
        asked = AskedProfile(data=request.query_params.dict(), context={"request": request})
        asked.is_valid(raise_exception=True)
        profile = load_profile(asked.validated_data["profile"].sha256)
        reason = why_not_examined(profile)
        if reason:
            raise BadProfile(f"Nothing can come back: {reason}.")
        destination = job.destinations.select_related("job__artwork").order_by("pk").first()
        if destination is None:
            raise Conflict("The job goes to no condition yet.")
        return Response(figures.picture_round_trip(destination, profile).model_dump(mode="json"))


class Neutral(View):
    @extend_schema(
        responses=data.InkRamp, operation_id="destinations_neutral", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """Inks along the grey axis."""
        destination = own_destination(request, pk)
        return Response(ink_figures.neutral_axis(destination, recipe_of(request, destination)))


class HueRamp(View):
    @extend_schema(
        responses=data.InkRamp,
        operation_id="destinations_ramp",
        parameters=[HUE, CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """Inks along one hue, from black through the most chromatic print to white."""
        destination = own_destination(request, pk)
        hue = HUE.of(request)
        return Response(ink_figures.hue_ramp(destination, recipe_of(request, destination), hue))


class Limits(View):
    @extend_schema(
        responses=data.InkLimits, operation_id="destinations_limits", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """The darkest neutral print and the gamut's volume under the ink rules."""
        destination = own_destination(request, pk)
        return Response(ink_figures.ink_limits(destination, recipe_of(request, destination)))


class Against(View):
    @extend_schema(
        responses=data.Comparison,
        operation_id="destinations_against",
        parameters=[OTHER],
    )
    def get(self, request: Request, pk: int) -> Response:
        """How far the prints of two destinations of one's jobs differ."""
        one = own_destination(request, pk)
        other = own_destination(request, int(OTHER.of(request)))
        return Response(
            figures.compare_results(
                one, parse_recipe(one.recipe), other, parse_recipe(other.recipe)
            )
        )


class Pointer(View):
    @extend_schema(
        responses=data.Readout,
        operation_id="destinations_readout",
        parameters=[LEFT, TOP, CHANGES],
    )
    def get(self, request: Request, pk: int) -> Response:
        """All numbers at one pixel."""
        destination = own_destination(request, pk)
        x, y = int(LEFT.of(request)), int(TOP.of(request))
        return Response(figures.readout(destination, recipe_of(request, destination), x, y))
