"""Profiles and colour tables: list, upload, download."""

from __future__ import annotations

from django.http import FileResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiTypes, extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_server import store
from plinto_server.apps.profiles.models import ColourTable, StoredProfile
from plinto_server.apps.profiles.services import store_profile, store_table
from plinto_server.uploads import Upload, given_file

LARGEST = 64 << 20


class ProfileSummary(serializers.ModelSerializer):
    class Meta:
        model = StoredProfile
        fields = ["id", "sha256", "description", "colour_space", "device_class", "origin"]


class ProfileList(APIView):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=ProfileSummary(many=True), operation_id="profiles_list")
    def get(self, request: Request) -> Response:
        """Every profile in the store."""
        return Response(ProfileSummary(StoredProfile.objects.all(), many=True).data)

    @extend_schema(request=Upload, responses=ProfileSummary, operation_id="profiles_upload")
    def post(self, request: Request) -> Response:
        """Add an ICC profile."""
        file = given_file(request, largest=LARGEST)
        return Response(ProfileSummary(store_profile(file.read(), "uploaded")).data, status=201)


class ProfileFile(APIView):
    @extend_schema(
        responses={(200, "application/vnd.iccprofile"): OpenApiTypes.BINARY},
        operation_id="profiles_file",
    )
    def get(self, request: Request, pk: int) -> FileResponse:
        """The profile's bytes."""
        stored = get_object_or_404(StoredProfile, pk=pk)
        name = (
            "".join(c if c.isalnum() else "-" for c in stored.description).strip("-") or "profile"
        )
        return FileResponse(
            store.path_of(stored.sha256).open("rb"),
            as_attachment=True,
            filename=f"{name}.icc",
            content_type="application/vnd.iccprofile",
        )


class ColourTableData(serializers.ModelSerializer):
    class Meta:
        model = ColourTable
        fields = ["id", "sha256", "name", "dimensions", "size"]


class ColourTableList(APIView):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=ColourTableData(many=True), operation_id="tables_list")
    def get(self, request: Request) -> Response:
        """Every .cube table in the store."""
        return Response(ColourTableData(ColourTable.objects.all(), many=True).data)

    @extend_schema(request=Upload, responses=ColourTableData, operation_id="tables_upload")
    def post(self, request: Request) -> Response:
        """Add a .cube table."""
        file = given_file(request, largest=LARGEST)
        return Response(ColourTableData(store_table(file.read(), file.name)).data, status=201)
