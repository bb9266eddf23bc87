"""Paths saved as one table, into the library of profiles or the list of colour tables."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.fields import checked
from plinto_core.paths.follow import VIEWS
from plinto_core.paths.model import ColourPath, parse_path
from plinto_core.paths.saving import SavedReport, SavingOptions, save_path
from plinto_server import access
from plinto_server.apps.paths import services
from plinto_server.apps.profiles.services import store_profile, store_table
from plinto_server.requests import View, body
from plinto_server.schema import CoreField


class AskedSaving(serializers.Serializer):
    """view : for what is baked, relative to the medium's white or with it."""

    path = CoreField(ColourPath)
    options = CoreField(SavingOptions)
    view = serializers.ChoiceField(VIEWS, required=False, default="paper")


class Saved(serializers.Serializer):
    """profile, table : the id under which it is kept now, one of the two."""

    report = CoreField(SavedReport)
    name = serializers.CharField()
    profile = serializers.IntegerField(allow_null=True)
    table = serializers.IntegerField(allow_null=True)


class SavedPath(View):
    @extend_schema(request=AskedSaving, responses=Saved, operation_id="colour_paths_save")
    def post(self, request: Request) -> Response:
        """Save a path as a device link, an abstract or baked profile, or a .cube table."""
        user, given = access.person(request), body(request, AskedSaving)
        found = services.find(user, parse_path(given["path"]))
        options = checked(SavingOptions, given["options"], "paths.options-not-usable")
        if not options.title:
            options = options.model_copy(update={"title": " to ".join(found.names)[:200]})
        data, report = save_path(found.steps, options, given["view"])
        made: dict[str, object] = {"report": report.model_dump(mode="json"), "name": options.title}
        if options.kind == "cube":
            made |= {"profile": None, "table": store_table(data, options.title, user).pk}
        else:
            made |= {"profile": store_profile(data, "saved", holder=user).pk, "table": None}
        return Response(made, status=201)
