"""Gamuts beside each other, in one answer that all cuts are drawn from."""

from __future__ import annotations

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.gamut.views import SIGHTS
from plinto_server.apps.gamuts.services import GamutsReport, Where, gamuts, where
from plinto_server.requests import View, number


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
            OpenApiParameter("sight", str, enum=list(SIGHTS)),
            OpenApiParameter("tac", float, description="Percent, in place of the conditions' own."),
        ],
    )
    def get(self, request: Request) -> Response:
        """Figures, outlines at every lightness and hue, coverage of each pair, clouds of pictures and lists."""
        sight = request.query_params.get("sight", "paper")
        if sight not in SIGHTS:
            raise exceptions.ValidationError(f"sight is one of {', '.join(SIGHTS)}.")
        held = request.query_params.get("tac")
        tac = number(request, "tac", 0, 50, 1500) if held is not None else None
        found = gamuts(request.user, request.query_params.getlist("of"), sight, tac)
        return Response(found.model_dump(mode="json"))


class WhereInPicture(View):
    @extend_schema(
        responses=Where,
        operation_id="gamuts_where",
        parameters=[
            OpenApiParameter("job", int, required=True),
            *[OpenApiParameter(n, float, required=True) for n in ("l", "a", "b")],
            OpenApiParameter("radius", float, description="dE00, 6 by default."),
        ],
    )
    def get(self, request: Request) -> Response:
        """Where in a job's picture a colour is, and how much of the picture lies near it."""
        lab = (
            number(request, "l", 50, 0, 100),
            number(request, "a", 0, -200, 200),
            number(request, "b", 0, -200, 200),
        )
        job = int(number(request, "job", 0, 0, 2**31))
        found = where(request.user, job, lab, number(request, "radius", 6, 0.5, 50))
        return Response(found.model_dump(mode="json"))
