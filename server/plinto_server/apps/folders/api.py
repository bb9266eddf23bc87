"""Watched folders: what they do, what came in, and dropping a file from the browser."""

from __future__ import annotations

from typing import Any

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_server.apps.folders import services
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.policies.models import Policy
from plinto_server.apps.printers.models import Medium
from plinto_server.apps.queue.entries import STATES, seconds_left
from plinto_server.errors import Conflict
from plinto_server.uploads import Upload, uploaded

SHOWN = 100


class FolderFileData(serializers.ModelSerializer):
    state = serializers.ChoiceField(STATES)
    seconds_left = serializers.SerializerMethodField()

    class Meta:
        model = FolderFile
        fields = [
            "id", "name", "size", "state", "progress", "seconds_left", "error", "note", "out_name",
            "result_size", "created", "finished",
        ]  # fmt: skip

    def get_seconds_left(self, row: FolderFile) -> float | None:
        return seconds_left(row)


class FolderData(serializers.ModelSerializer):
    policy_name = serializers.SerializerMethodField()
    medium_name = serializers.SerializerMethodField()
    repeats = serializers.ChoiceField(["skip", "run"])
    places = serializers.SerializerMethodField()
    settling = serializers.SerializerMethodField()
    files = serializers.SerializerMethodField()

    class Meta:
        model = WatchedFolder
        fields = [
            "id", "name", "policy", "policy_name", "medium", "medium_name", "active", "repeats",
            "places", "settling", "files",
        ]  # fmt: skip

    def get_policy_name(self, folder: WatchedFolder) -> str:
        policy = folder.policy or (folder.medium.policy if folder.medium else None)
        return policy.name if policy else ""

    def get_medium_name(self, folder: WatchedFolder) -> str:
        return f"{folder.medium.printer.name}, {folder.medium.name}" if folder.medium else ""

    @extend_schema_field(serializers.DictField(child=serializers.CharField()))
    def get_places(self, folder: WatchedFolder) -> dict[str, str]:
        """Where its parts lie on the server."""
        return {part: str(folder.part(part)) for part in services.PARTS}

    @extend_schema_field(serializers.ListField(child=serializers.CharField()))
    def get_settling(self, folder: WatchedFolder) -> list[str]:
        """Files that lie in it and have not been taken yet."""
        place = folder.part("in")
        if not place.is_dir():
            return []
        return sorted(p.name for p in place.iterdir() if not p.name.startswith("."))[:SHOWN]

    @extend_schema_field(FolderFileData(many=True))
    def get_files(self, folder: WatchedFolder) -> list[Any]:
        return list(FolderFileData(folder.files.all()[:SHOWN], many=True).data)


class FolderChange(serializers.Serializer):
    name = serializers.CharField(max_length=100)
    policy = serializers.PrimaryKeyRelatedField(
        queryset=Policy.objects.all(), allow_null=True, default=None
    )
    medium = serializers.PrimaryKeyRelatedField(
        queryset=Medium.objects.all(), allow_null=True, default=None
    )
    active = serializers.BooleanField(default=True)
    repeats = serializers.ChoiceField(["skip", "run"], default="skip")


def own_folder(request: Request, pk: int) -> WatchedFolder:
    rows = WatchedFolder.objects.select_related("policy", "medium__printer")
    return get_object_or_404(rows, pk=pk, owner=request.user)


def _save(request: Request, folder: WatchedFolder) -> WatchedFolder:
    given = FolderChange(data=request.data)
    given.is_valid(raise_exception=True)
    values = given.validated_data
    policy, medium = values["policy"], values["medium"]
    foreign = (policy and policy.owner_id != request.user.pk) or (
        medium and medium.printer.owner_id != request.user.pk
    )
    if foreign:
        raise serializers.ValidationError("There is no such policy or medium.")
    return services.save_folder(folder, **values)


class FolderList(APIView):
    @extend_schema(responses=FolderData(many=True), operation_id="folders_list")
    def get(self, request: Request) -> Response:
        """One's watched folders, each with what came last."""
        return Response(FolderData(services.owned(request.user), many=True).data)

    @extend_schema(request=FolderChange, responses=FolderData, operation_id="folders_create")
    def post(self, request: Request) -> Response:
        """A new watched folder."""
        made = _save(request, WatchedFolder(owner=request.user))
        return Response(FolderData(made).data, status=201)


class FolderDetail(APIView):
    @extend_schema(request=FolderChange, responses=FolderData, operation_id="folders_change")
    def put(self, request: Request, pk: int) -> Response:
        """Change what happens to files that come from now on."""
        return Response(FolderData(_save(request, own_folder(request, pk))).data)

    @extend_schema(responses={204: None}, operation_id="folders_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Stop watching; the files stay where they are."""
        folder = own_folder(request, pk)
        if folder.files.filter(state__in=["waiting", "held", "running"]).exists():
            raise Conflict("A file of the folder is still worked on.")
        folder.delete()
        return Response(status=204)


class FolderDrop(APIView):
    parser_classes = [MultiPartParser]

    @extend_schema(request=Upload, responses=FolderData, operation_id="folders_drop")
    def post(self, request: Request, pk: int) -> Response:
        """Put a file into the folder, as copying it there would."""
        folder = own_folder(request, pk)
        with uploaded(request) as (path, name):
            services.drop_file(folder, name, path)
        return Response(FolderData(folder).data, status=201)
