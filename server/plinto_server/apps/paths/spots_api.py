"""Builds of spot colours on printing conditions: one condition at a time, or all asked for as a table."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.errors import BadInput
from plinto_core.keeping import Kept
from plinto_core.spots.builds import MOST_INKS, SpotBuild, SpotOptions, spot_builds
from plinto_core.spots.table import aims_of, builds_csv
from plinto_core.swatches.swatches import Swatches
from plinto_core.swatches.typed import typed_colour
from plinto_server import access
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.paths import lists
from plinto_server.apps.paths.followed_api import asked
from plinto_server.apps.paths.models import SwatchList
from plinto_server.apps.profiles.services import load_profile
from plinto_server.requests import Own, View
from plinto_server.schema import CoreField

MOST = 500
"""Colours in one answer: about four seconds of work on a condition of four inks."""
_FOUND: Kept[tuple[str, ...], list[SpotBuild]] = Kept(64)


class AskedBuilds(serializers.Serializer):
    """list : of measured colours, or colour : one as typed, L* a* b*, lch, rgb or hex of sRGB. inks : the most in one build; gain : dE
    that one ink more must bring; least : percent below which a tint is not used, the condition's own
    where it is left out; white : absolute, or relative to the paper."""

    list = Own(queryset=SwatchList.objects.all(), required=False, default=None)
    colour = serializers.CharField(max_length=80, required=False, default="")
    inks = serializers.IntegerField(min_value=1, max_value=MOST_INKS, required=False, default=3)
    gain = serializers.FloatField(min_value=0, max_value=20, required=False, default=0.5)
    least = serializers.FloatField(min_value=0, max_value=50, required=False, default=None)
    white = serializers.ChoiceField(("absolute", "relative"), required=False, default="absolute")


class AskedOfOne(AskedBuilds):
    condition = Own(queryset=PrintingCondition.objects.all())


class AskedOfSeveral(AskedBuilds):
    """conditions : their ids with commas between them."""

    conditions = serializers.CharField(max_length=2000)


class BuildsData(serializers.Serializer):
    """least, tac : percent that the builds keep to; tac is None where the condition's rules name none."""

    condition = serializers.IntegerField()
    least = serializers.FloatField()
    tac = serializers.FloatField(allow_null=True)
    builds = serializers.ListField(child=CoreField(SpotBuild))


class SpotBuilds(View):
    @extend_schema(responses=BuildsData, operation_id="spot_builds", parameters=[AskedOfOne])
    def get(self, request: Request) -> Response:
        """The builds of every colour of a list on one condition, in the list's order."""
        given = asked(request, AskedOfOne)
        condition = given["condition"]
        options = _options(given, condition)
        builds = _builds(_colours(given), condition, options)
        return Response(
            {"condition": condition.pk, "least": options.least, "tac": condition.tac,
             "builds": [b.model_dump(mode="json") for b in builds]}
        )  # fmt: skip


class SpotTable(View):
    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.BINARY}, operation_id="spot_builds_table",
        parameters=[AskedOfSeveral],
    )  # fmt: skip
    def get(self, request: Request) -> HttpResponse:
        """The builds on several conditions as CSV."""
        given = asked(request, AskedOfSeveral)
        colours = _colours(given)
        presses = []
        for pk in _ids(given["conditions"]):
            condition = access.own(request.user, PrintingCondition, pk)
            found = _builds(colours, condition, _options(given, condition))
            presses.append((condition.name, found))
        answer = HttpResponse(builds_csv(presses), content_type="text/csv")
        answer["Content-Disposition"] = 'attachment; filename="spot-builds.csv"'
        return answer


def _colours(given: dict[str, Any]) -> Swatches:
    """The list that is asked of; raises BadInput unless there is just one."""
    if (given["list"] is None) == (not given["colour"]):
        raise BadInput("Name either a list of colours or one colour.")
    if given["list"] is not None:
        if given["list"].count > MOST:
            raise BadInput(
                f"Builds are shown for {MOST} colours at most in one list.",
                remedy="Take a shorter list, or `plinto spots` for a longer one.",
            )
        return lists.load(given["list"])
    return typed_colour(given["colour"])[0]


def _options(given: dict[str, Any], condition: PrintingCondition) -> SpotOptions:
    least = condition.least_dot if given["least"] is None else given["least"]
    return SpotOptions(
        inks=given["inks"], gain=given["gain"], least=least, white=given["white"]
    )  # fmt: skip


def _builds(
    colours: Swatches, condition: PrintingCondition, options: SpotOptions
) -> list[SpotBuild]:
    names, aims = aims_of(colours)
    rules = condition.as_core().ink_rules
    sha = condition.profile.sha256
    key = (colours.digest, sha, rules.model_dump_json(), options.model_dump_json())
    return _FOUND.get(key, lambda: spot_builds(load_profile(sha), rules, names, aims, options))


def _ids(text: str) -> list[int]:
    try:
        return [int(part) for part in text.split(",")][:64]
    except ValueError as error:
        raise BadInput("Conditions are named by numbers with commas between them.") from error
