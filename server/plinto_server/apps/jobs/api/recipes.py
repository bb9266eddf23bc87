"""Recipes: read, change, step back, former states, and as files."""

from __future__ import annotations

import json

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.recipes import Recipe, parse_recipe
from plinto_server.apps.jobs import data, services
from plinto_server.apps.jobs.api.requests import own_destination
from plinto_server.apps.jobs.figures import deciding_facts
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.moments import moments_of
from plinto_server.apps.jobs.packages import recipe_package
from plinto_server.requests import View, patch_of
from plinto_server.revisions import answer, matched


class DestinationDetail(View):
    @extend_schema(responses=data.DestinationData, operation_id="destinations_read")
    def get(self, request: Request, pk: int) -> Response:
        """One destination with its recipe."""
        found = own_destination(request, pk)
        return answer(data.DestinationData(found).data, found)

    @extend_schema(
        request=OpenApiTypes.OBJECT,
        responses=data.DestinationData,
        operation_id="destinations_change",
    )
    def patch(self, request: Request, pk: int) -> Response:
        """Lay changes over the present recipe, object by object (RFC 7396); the former can be undone to.

        If-Match names the revision they were made on: changes of other fields are merged, a change
        of the same field is answered with 409 and both values.
        """
        destination = own_destination(request, pk)
        changed = services.change_recipe(destination, patch_of(request), matched(request))
        return answer(data.DestinationData(changed).data, changed)


class DestinationStep(View):
    @extend_schema(request=None, responses=data.DestinationData, operation_id="destinations_step")
    def post(self, request: Request, pk: int, step: str) -> Response:
        """Undo or redo one change of the recipe."""
        by = -1 if step == "undo" else 1
        found = services.step_history(own_destination(request, pk), by)
        return answer(data.DestinationData(found).data, found)


class Moments(View):
    @extend_schema(responses=data.MomentData(many=True), operation_id="destinations_moments")
    def get(self, request: Request, pk: int) -> Response:
        """Every kept moment of the recipe, in words."""
        return Response(moments_of(own_destination(request, pk)))


class RecipeFile(View):
    @extend_schema(responses=Recipe, operation_id="destinations_recipe")
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The recipe as a file, to be run on the command line."""
        recipe = parse_recipe(own_destination(request, pk).recipe)
        text = json.dumps(recipe.model_dump(mode="json"), indent=2)
        response = HttpResponse(text, content_type="application/json")
        response["Content-Disposition"] = 'attachment; filename="recipe.json"'
        return response


class RecipePackage(View):
    @extend_schema(
        responses={(200, "application/zip"): OpenApiTypes.BINARY},
        operation_id="destinations_package",
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The recipe with the profiles and tables it refers to, as one file."""
        response = HttpResponse(
            recipe_package(own_destination(request, pk)), content_type="application/zip"
        )
        response["Content-Disposition"] = 'attachment; filename="recipe.zip"'
        return response


class Facts(View):
    @extend_schema(
        request=None, responses=data.DestinationData, operation_id="destinations_measure"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Measure the deciding facts of the saved recipe and keep them."""
        destination = own_destination(request, pk)
        recipe = destination.recipe
        found = deciding_facts(destination, parse_recipe(recipe))
        # Only for the recipe that was measured: it may have moved on meanwhile.
        Destination.objects.filter(pk=pk, revision=destination.revision).update(facts=found)
        fresh = own_destination(request, pk)
        return answer(data.DestinationData(fresh).data, fresh)
