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

from plinto_core.errors import BadInput, BadProfile
from plinto_server import store
from plinto_server.apps.profiles.models import ColourTable, StoredProfile
from plinto_server.apps.profiles.services import store_profile, store_table

LARGEST = 64 << 20


class ProfileSummary(serializers.ModelSerializer):
    class Meta:
        model = StoredProfile
        fields = ["id", "sha256", "description", "colour_space", "device_class", "origin"]


class ProfileUpload(serializers.Serializer):
    file = serializers.FileField()


class ProfileList(APIView):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=ProfileSummary(many=True), operation_id="profiles_list")
    def get(self, request: Request) -> Response:
        """Every profile in the store."""
        return Response(ProfileSummary(StoredProfile.objects.all(), many=True).data)

    @extend_schema(request=ProfileUpload, responses=ProfileSummary, operation_id="profiles_upload")
    def post(self, request: Request) -> Response:
        """Add an ICC profile."""
        given = ProfileUpload(data=request.data)
        given.is_valid(raise_exception=True)
        file = given.validated_data["file"]
        if file.size > LARGEST:
            raise BadProfile("The profile is larger than 64 MB.")
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

    @extend_schema(request=ProfileUpload, responses=ColourTableData, operation_id="tables_upload")
    def post(self, request: Request) -> Response:
        """Add a .cube table."""
        given = ProfileUpload(data=request.data)
        given.is_valid(raise_exception=True)
        file = given.validated_data["file"]
        if file.size > LARGEST:
            raise BadInput("The colour table is larger than 64 MB.")
        return Response(ColourTableData(store_table(file.read(), file.name)).data, status=201)
