"""Building profiles from measurements: start, follow, read the report."""

from __future__ import annotations

from typing import get_args

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.characterise.build import SIZES
from plinto_core.characterise.report import BuildReport
from plinto_core.gamut.look import Perceptual
from plinto_core.gamut.mapping import Kind
from plinto_core.inks.rules import Method
from plinto_server import access
from plinto_server.apps.builds import services
from plinto_server.apps.builds.models import ProfileBuild
from plinto_server.apps.profiles.api import ProfileSummary
from plinto_server.requests import View
from plinto_server.schema import ReportField
from plinto_server.uploads import Upload, given_file


class Asked(serializers.Serializer):
    """tac, black_start, black_limit, strength in percent; black_reach : C*ab; size of the tables and
    version of the format; name of the profile; kind of perceptual, colourfulness and contrast in percent more
    or less, a* and b* that middle greys lean by; use_all : readings that the others contradict as well."""

    tac = serializers.FloatField(min_value=50, max_value=800, default=300)
    black_start = serializers.FloatField(min_value=0, max_value=100, default=20)
    black_limit = serializers.FloatField(min_value=0, max_value=100, default=100)
    strength = serializers.FloatField(min_value=0, max_value=100, default=50)
    black_reach = serializers.FloatField(min_value=1, max_value=200, default=45)
    black_method = serializers.ChoiceField(get_args(Method), default="gcr")
    size = serializers.ChoiceField(list(SIZES), default="medium")
    version = serializers.ChoiceField([2, 4], default=2)
    name = serializers.CharField(max_length=200, default="", allow_blank=True)
    kind = serializers.ChoiceField(get_args(Kind), default="balanced")
    colourfulness = serializers.FloatField(min_value=-50, max_value=50, default=0)
    contrast = serializers.FloatField(min_value=-50, max_value=50, default=0)
    grey_a = serializers.FloatField(min_value=-5, max_value=5, default=0)
    grey_b = serializers.FloatField(min_value=-5, max_value=5, default=0)
    use_all = serializers.BooleanField(default=False)


class BuildData(serializers.ModelSerializer):
    profile = ProfileSummary(allow_null=True)
    report = ReportField(BuildReport)
    state = serializers.ChoiceField(["waiting", "held", "running", "done", "failed", "cancelled"])

    class Meta:
        model = ProfileBuild
        fields = ["id", "file_name", "patches", "state", "progress", "error", "profile", "report"]


class BuildList(View):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=BuildData(many=True), operation_id="builds_list")
    def get(self, request: Request) -> Response:
        """One's latest builds, newest first."""
        rows = access.mine(request.user, ProfileBuild).select_related("profile")[:50]
        return Response(BuildData(rows, many=True).data)

    @extend_schema(
        request=Upload, responses=BuildData, operation_id="builds_start", parameters=[Asked]
    )
    def post(self, request: Request) -> Response:
        """Build an output profile from measurements in CGATS text."""
        asked = Asked(data=request.query_params.dict())
        asked.is_valid(raise_exception=True)
        given = asked.validated_data
        file = given_file(request, largest=services.LARGEST)
        rules = {
            "tac": given["tac"],
            "black": {
                "method": given["black_method"], "strength": given["strength"],
                "start": given["black_start"], "limit": given["black_limit"],
                "reach": given["black_reach"],
            },
        }  # fmt: skip
        work = services.start_build(
            access.person(request), file.read(), file.name or "measurements", rules=rules,
            description=given["name"], settings={
                "size": given["size"], "version": given["version"], "use_all": given["use_all"],
                "perceptual": {k: given[k] for k in Perceptual.model_fields},
            },
        )  # fmt: skip
        return Response(BuildData(work).data, status=201)


class BuildDetail(View):
    @extend_schema(responses=BuildData, operation_id="builds_read")
    def get(self, request: Request, pk: int) -> Response:
        """How far a build is, and its profile and report once it is done."""
        rows = ProfileBuild.objects.select_related("profile")
        return Response(BuildData(access.own(request.user, ProfileBuild, pk, rows)).data)
