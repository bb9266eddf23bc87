"""Gamuts beside each other, in one answer that all cuts are drawn from."""

from __future__ import annotations

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.gamut.views import SIGHTS
from plinto_server.apps.gamuts.services import GamutsReport, Where, gamuts, where
from plinto_server.parameters import Choice, Number, row_id
from plinto_server.requests import View

SIGHT = Choice("sight", SIGHTS, "paper")
TAC = Number("tac", 50, 1500, needed=False, description="Percent, in place of the conditions' own.")
JOB = row_id("job")
LAB = (Number("l", 0, 100), Number("a", -200, 200), Number("b", -200, 200))
RADIUS = Number("radius", 0.5, 50, 6, description="dE00.")


class Gamuts(View):
    @extend_schema(
        responses=GamutsReport,
        operation_id="gamuts_read",
        parameters=[
            OpenApiParameter(
                "of",
                str,
                many=True,
                description="profile:…, condition:…, recipe:…, picture:… or list:…, up to four.",
            ),
            SIGHT,
            TAC,
        ],
    )
    def get(self, request: Request) -> Response:
        """Figures, outlines at every lightness and hue, coverage of each pair, clouds of pictures and lists."""
        of = request.query_params.getlist("of")
        found = gamuts(request.user, of, SIGHT.of(request), TAC.given(request))
        return Response(found.model_dump(mode="json"))


class WhereInPicture(View):
    @extend_schema(
        responses=Where,
        operation_id="gamuts_where",
        parameters=[
            JOB,
            *LAB,
            RADIUS,
        ],
    )
    def get(self, request: Request) -> Response:
        """Where in a job's picture a colour is, and how much of the picture lies near it."""
        lightness, a, b = (part.of(request) for part in LAB)
        job, radius = int(JOB.of(request)), RADIUS.of(request)
        found = where(request.user, job, (lightness, a, b), radius)
        return Response(found.model_dump(mode="json"))
