"""Recipes: read, change, step back, former states, and as files."""

from __future__ import annotations

import json

from django.http import HttpResponse
from drf_spectacular.utils import OpenApiTypes, extend_schema
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_core.recipes import Recipe, parse_recipe
from plinto_server.apps.jobs import data, services
from plinto_server.apps.jobs.api.requests import own_destination
from plinto_server.apps.jobs.figures import deciding_facts
from plinto_server.apps.jobs.history import states_of
from plinto_server.apps.jobs.packages import recipe_package


class DestinationDetail(APIView):
    @extend_schema(responses=data.DestinationData, operation_id="destinations_read")
    def get(self, request: Request, pk: int) -> Response:
        """One destination with its recipe."""
        return Response(data.DestinationData(own_destination(request, pk)).data)

    @extend_schema(
        request=OpenApiTypes.OBJECT,
        responses=data.DestinationData,
        operation_id="destinations_change",
    )
    def patch(self, request: Request, pk: int) -> Response:
        """Lay parts of a recipe over the present one; the former can be undone to."""
        if not isinstance(request.data, dict):
            raise exceptions.ValidationError("The changes must be an object.")
        changed = services.change_recipe(own_destination(request, pk), dict(request.data))
        return Response(data.DestinationData(changed).data)


class DestinationStep(APIView):
    @extend_schema(request=None, responses=data.DestinationData, operation_id="destinations_step")
    def post(self, request: Request, pk: int, step: str) -> Response:
        """Undo or redo one change of the recipe."""
        by = -1 if step == "undo" else 1
        return Response(
            data.DestinationData(services.step_history(own_destination(request, pk), by)).data
        )


class History(APIView):
    @extend_schema(responses=data.StateData(many=True), operation_id="destinations_history")
    def get(self, request: Request, pk: int) -> Response:
        """Every kept state of the recipe, in words."""
        return Response(states_of(own_destination(request, pk)))


class RecipeFile(APIView):
    @extend_schema(responses=Recipe, operation_id="destinations_recipe")
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The recipe as a file, to be run on the command line."""
        recipe = parse_recipe(own_destination(request, pk).recipe)
        text = json.dumps(recipe.model_dump(mode="json"), indent=2)
        response = HttpResponse(text, content_type="application/json")
        response["Content-Disposition"] = 'attachment; filename="recipe.json"'
        return response


class RecipePackage(APIView):
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


class Facts(APIView):
    @extend_schema(
        request=None, responses=data.DestinationData, operation_id="destinations_measure"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Measure the deciding facts of the saved recipe and keep them."""
        destination = own_destination(request, pk)
        recipe = destination.recipe
        found = deciding_facts(destination, parse_recipe(recipe))
        fresh = own_destination(request, pk)
        if fresh.recipe == recipe:
            fresh.facts = found
            fresh.save(update_fields=["facts"])
        return Response(data.DestinationData(fresh).data)
