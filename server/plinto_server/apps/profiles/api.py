"""Profiles and colour tables: list, upload, download."""

from __future__ import annotations

from typing import Any

from django.http import FileResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.icc import Profile
from plinto_core.icc.parts import PARTS, judge_part
from plinto_core.inks.ink_set import InkSet
from plinto_server import access, store
from plinto_server.apps.profiles.models import ColourTable, StoredProfile
from plinto_server.apps.profiles.services import (
    forget_profile,
    ink_set,
    restore_profile,
    store_profile,
    store_table,
    take_file,
)
from plinto_server.parameters import Choice
from plinto_server.removal import UseData, uses
from plinto_server.requests import View
from plinto_server.schema import CoreField
from plinto_server.uploads import Upload, given_file, uploaded

LARGEST = 64 << 20
PART = Choice("part", PARTS, description="what it is to be used as")


class ProfileFacts(serializers.Serializer):
    """white : Lab of the medium; size : bytes; colours : equal where two profiles print the same;
    gives : the space at a device link's end; empty texts are not stated in the profile."""

    version = serializers.CharField()
    created = serializers.CharField(allow_blank=True)
    maker = serializers.CharField(allow_blank=True)
    size = serializers.IntegerField()
    colours = serializers.CharField()
    gives = serializers.CharField(allow_blank=True, default="")
    examined = serializers.BooleanField()
    white = serializers.ListField(child=serializers.FloatField())


class ProfileSummary(serializers.ModelSerializer):
    parts = serializers.ListField(child=serializers.ChoiceField(PARTS))
    facts = serializers.SerializerMethodField()
    inks = serializers.SerializerMethodField()

    class Meta:
        model = StoredProfile
        fields = [
            "id", "sha256", "description", "colour_space", "device_class", "origin", "parts", "facts",
            "inks",
        ]  # fmt: skip

    @extend_schema_field(CoreField(InkSet, allow_null=True))
    def get_inks(self, stored: StoredProfile) -> dict[str, Any] | None:
        """The inks in the order of the plates; null where the profile's channels are none."""
        found = ink_set(stored.sha256, stored.colour_space, stored.device_class)
        return None if found is None else found.model_dump(mode="json")

    @extend_schema_field(ProfileFacts(allow_null=True))
    def get_facts(self, stored: StoredProfile) -> dict[str, Any] | None:
        return stored.facts or None


class ProfileList(View):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=ProfileSummary(many=True), operation_id="profiles_list")
    def get(self, request: Request) -> Response:
        """Standard profiles, those built here, and one's own."""
        rows = access.mine(request.user, StoredProfile)
        return Response(ProfileSummary(rows, many=True).data)

    @extend_schema(
        request=Upload, responses=ProfileSummary, operation_id="profiles_upload",
        parameters=[PART],
    )  # fmt: skip
    def post(self, request: Request) -> Response:
        """Add an ICC profile; with ?part= it is refused where it cannot play that part."""
        part = PART.given(request)
        data = given_file(request, largest=LARGEST).read()
        if part is not None:
            judge_part(Profile(data), part)
        stored = store_profile(data, "uploaded", holder=access.person(request))
        return Response(ProfileSummary(stored).data, status=201)


class ProfileReceipt(View):
    parser_classes = [MultiPartParser]

    @extend_schema(
        request=Upload, responses=ProfileSummary(many=True), operation_id="profiles_receive"
    )
    def post(self, request: Request) -> Response:
        """Add every profile of a file: an ICC profile, an archive, a picture or a PDF."""
        with uploaded(request) as (path, name):
            found = take_file(path, name, access.person(request))
        return Response(ProfileSummary(found, many=True).data, status=201)


class ProfileDetail(View):
    @extend_schema(responses=ProfileSummary, operation_id="profiles_read")
    def get(self, request: Request, pk: int) -> Response:
        """One profile."""
        return Response(ProfileSummary(access.own(request.user, StoredProfile, pk)).data)

    @extend_schema(responses={204: None}, operation_id="profiles_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a profile out of one's library; refused while a condition has it."""
        forget_profile(request.user, access.own(request.user, StoredProfile, pk))
        return Response(status=204)


class ProfileRestore(View):
    @extend_schema(request=None, responses=ProfileSummary, operation_id="profiles_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo that."""
        return Response(ProfileSummary(restore_profile(access.person(request), pk)).data)


class ProfileUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="profiles_uses")
    def get(self, request: Request, pk: int) -> Response:
        """One's conditions that have a profile."""
        stored = access.own(request.user, StoredProfile, pk)
        return Response(UseData(uses(stored, access.person(request)), many=True).data)


class ProfileFile(View):
    @extend_schema(
        responses={(200, "application/vnd.iccprofile"): OpenApiTypes.BINARY},
        operation_id="profiles_file",
    )
    def get(self, request: Request, pk: int) -> FileResponse:
        """The profile's bytes."""
        stored = access.own(request.user, StoredProfile, pk)
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


class ColourTableFile(View):
    @extend_schema(responses={(200, "text/plain"): OpenApiTypes.BINARY}, operation_id="tables_file")
    def get(self, request: Request, pk: int) -> FileResponse:
        """The .cube text of a table."""
        table = access.own(request.user, ColourTable, pk)
        name = "".join(c if c.isalnum() else "-" for c in table.name).strip("-") or "table"
        return FileResponse(
            store.path_of(table.sha256).open("rb"),
            as_attachment=True,
            filename=f"{name}.cube",
            content_type="text/plain",
        )


class ColourTableList(View):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=ColourTableData(many=True), operation_id="tables_list")
    def get(self, request: Request) -> Response:
        """One's own .cube tables."""
        rows = access.mine(request.user, ColourTable)
        return Response(ColourTableData(rows, many=True).data)

    @extend_schema(request=Upload, responses=ColourTableData, operation_id="tables_upload")
    def post(self, request: Request) -> Response:
        """Add a .cube table."""
        file = given_file(request, largest=LARGEST)
        return Response(
            ColourTableData(
                store_table(file.read(), file.name or "table.cube", access.person(request))
            ).data,
            status=201,
        )
