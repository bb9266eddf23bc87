"""Watched folders: what they do, what came in, and dropping a file from the browser."""

from __future__ import annotations

from typing import Any

from django.db.models import Prefetch, QuerySet
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server import access
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.folders import services
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.policies.models import Policy, PolicyRun
from plinto_server.apps.printers.models import Medium
from plinto_server.apps.work.api import STATES, seconds_left
from plinto_server.removal import UseData, restore, uses
from plinto_server.requests import Own, View, body, patch_of
from plinto_server.revisions import answer, matched
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
    revision = serializers.IntegerField(read_only=True)
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
            "places", "settling", "trouble", "files", "revision",
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
        try:
            found = [services.plain_name(p.name) for p in folder.part("in").iterdir()]
        except OSError:
            # That it cannot be looked into is the folder's trouble, told beside this.
            return []
        return sorted(name for name in found if not name.startswith("."))[:SHOWN]

    @extend_schema_field(FolderFileData(many=True))
    def get_files(self, folder: WatchedFolder) -> list[Any]:
        latest = getattr(folder, "latest")  # noqa: B009  listed() lays it beside the row
        return list(FolderFileData(latest, many=True).data)


class FolderChange(serializers.Serializer):
    name = serializers.CharField(max_length=100)
    policy = Own(queryset=Policy.objects.all(), allow_null=True, default=None)
    medium = Own(
        queryset=Medium.objects.filter(printer__removed=None).select_related(
            "printer", "condition__profile", "policy"
        ),
        allow_null=True,
        default=None,
    )
    active = serializers.BooleanField(default=True)
    repeats = serializers.ChoiceField(["skip", "run"], default="skip")


def listed() -> QuerySet[WatchedFolder]:
    """Folders with all that a list shows of them, in a few queries."""
    rows = WatchedFolder.objects.select_related(
        "owner", "policy", "medium__printer", "medium__policy", "medium__condition__profile"
    )
    latest = Prefetch("files", FolderFile.objects.all()[:SHOWN], to_attr="latest")
    return rows.prefetch_related(latest)


def own_folder(request: Request, pk: int) -> WatchedFolder:
    return access.own(request.user, WatchedFolder, pk, listed())


def shown(request: Request, pk: int, status: int = 200) -> Response:
    folder = own_folder(request, pk)
    return answer(FolderData(folder).data, folder, status)


class FolderList(View):
    @extend_schema(responses=FolderData(many=True), operation_id="folders_list")
    def get(self, request: Request) -> Response:
        """One's watched folders, each with what came last."""
        rows = access.mine(request.user, WatchedFolder, listed())
        return Response(FolderData(rows, many=True).data)

    @extend_schema(request=FolderChange, responses=FolderData, operation_id="folders_create")
    def post(self, request: Request) -> Response:
        """A new watched folder."""
        made = services.create_folder(access.person(request), **body(request, FolderChange))
        return shown(request, made.pk, 201)


class FolderDetail(View):
    @extend_schema(request=FolderChange, responses=FolderData, operation_id="folders_change")
    def patch(self, request: Request, pk: int) -> Response:
        """Change what happens to files that come from now on; If-Match names the revision it is
        changed on."""
        folder = own_folder(request, pk)
        given = body(request, FolderChange, partial=True)
        services.change_folder(folder, given, patch_of(request), matched(request))
        return shown(request, pk)

    @extend_schema(responses={204: None}, operation_id="folders_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Stop watching; the files stay where they are, and the folder can be restored."""
        services.remove_folder(own_folder(request, pk))
        return Response(status=204)


class FolderRestore(View):
    @extend_schema(request=None, responses=FolderData, operation_id="folders_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal: it is watched again."""
        return shown(request, restore(access.person(request), WatchedFolder, pk).pk)


class FolderUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="folders_uses")
    def get(self, request: Request, pk: int) -> Response:
        """What leans on a folder."""
        return Response(
            UseData(uses(own_folder(request, pk), access.person(request)), many=True).data
        )


class FolderDrop(View):
    parser_classes = [MultiPartParser]

    @extend_schema(request=Upload, responses=FolderData, operation_id="folders_drop")
    def post(self, request: Request, pk: int) -> Response:
        """Put a file into the folder, as copying it there would."""
        folder = own_folder(request, pk)
        with uploaded(request) as (path, name):
            services.drop_file(folder, name, path)
        return shown(request, pk, 201)


class Handing(serializers.Serializer):
    delivery = Own(queryset=Run.objects.all(), allow_null=True, default=None)
    result = Own(queryset=PolicyRun.objects.all(), allow_null=True, default=None)


class FolderHand(View):
    @extend_schema(request=Handing, responses=FolderData, operation_id="folders_hand")
    def post(self, request: Request, pk: int) -> Response:
        """Put a finished delivery, or what a policy made of a document, into the folder."""
        folder = own_folder(request, pk)
        named = [v for v in body(request, Handing).values() if v is not None]
        if len(named) != 1:
            raise serializers.ValidationError("Name a delivery or a result for the folder.")
        services.hand_over(folder, named[0])
        return shown(request, pk, 201)
