"""Aims kept under a name: typed, received as a file, changed, copied, removed, taken out."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.examination.aims import Aim, Tolerances, aim_of_rows, aim_rows, read_aim
from plinto_server import access
from plinto_server.apps.profiles.models import KeptAim
from plinto_server.removal import remove, restore
from plinto_server.requests import View, body
from plinto_server.revisions import answer, matched, settle
from plinto_server.schema import CoreField
from plinto_server.uploads import Upload, given_file

LARGEST = 16 << 20
MOST_TEXT = 200_000


class KeptAimData(serializers.ModelSerializer):
    """aim : the numbers; rows : the same as text, a row a colour or tone."""

    aim = CoreField(Aim)
    rows = serializers.SerializerMethodField()

    class Meta:
        model = KeptAim
        fields = ["id", "name", "aim", "rows", "revision", "updated"]

    def get_rows(self, row: KeptAim) -> str:
        return aim_rows(Aim.model_validate(row.aim))


class AimGiven(serializers.Serializer):
    """rows : a name with L*, a*, b* a row, or an ink with a tone value and its increase; source : where
    they are from."""

    name = serializers.CharField(max_length=100)
    source = serializers.CharField(  # type: ignore[assignment]
        max_length=300, required=False, default="", allow_blank=True
    )
    rows = serializers.CharField(max_length=MOST_TEXT, trim_whitespace=False)
    tolerances = CoreField(Tolerances, required=False)


def _aim(given: dict[str, Any]) -> Aim:
    allowed = given.get("tolerances", {})
    return aim_of_rows(given["name"], given["rows"], given["source"], allowed)


def _said(aim: Aim) -> dict[str, Any]:
    """What two people can change apart from each other."""
    return {
        "name": aim.name,
        "source": aim.source,
        "rows": aim_rows(aim),
        "tolerances": aim.tolerances.model_dump(),
    }


def _kept(owner: User, aim: Aim) -> KeptAim:
    return KeptAim.objects.create(owner=owner, name=aim.name, aim=aim.model_dump(mode="json"))


class AimList(View):
    @extend_schema(responses=KeptAimData(many=True), operation_id="aims_list")
    def get(self, request: Request) -> Response:
        """One's own aims."""
        return Response(KeptAimData(access.mine(request.user, KeptAim), many=True).data)

    @extend_schema(request=AimGiven, responses=KeptAimData, operation_id="aims_create")
    def post(self, request: Request) -> Response:
        """Keep aims that were typed or pasted."""
        made = _kept(access.person(request), _aim(body(request, AimGiven)))
        return answer(KeptAimData(made).data, made, 201)


class AimReceipt(View):
    parser_classes = [MultiPartParser]

    @extend_schema(
        request={"multipart/form-data": Upload}, responses=KeptAimData, operation_id="aims_receive"
    )
    def post(self, request: Request) -> Response:
        """Keep the aims of a file: one that Plinto wrote, CMYK characterisation data, rows of text."""
        file = given_file(request, largest=LARGEST)
        made = _kept(access.person(request), read_aim(file.read(), file.name or ""))
        return answer(KeptAimData(made).data, made, 201)


class AimDetail(View):
    @extend_schema(responses=KeptAimData, operation_id="aims_show")
    def get(self, request: Request, pk: int) -> Response:
        """One aim."""
        kept = access.own(request.user, KeptAim, pk)
        return answer(KeptAimData(kept).data, kept)

    @extend_schema(request=AimGiven, responses=KeptAimData, operation_id="aims_change")
    @transaction.atomic
    def patch(self, request: Request, pk: int) -> Response:
        """Change parts of an aim; If-Match names the revision they were changed on."""
        kept = access.own(request.user, KeptAim, pk, KeptAim.objects.select_for_update())
        patch = body(request, AimGiven, partial=True)
        before = _said(Aim.model_validate(kept.aim))
        settle(kept, before, patch, matched(request))
        aim = _aim({**before, **patch})
        if kept.stamp(before, _said(aim), patch):
            kept.name, kept.aim = aim.name, aim.model_dump(mode="json")
            kept.save()
        return answer(KeptAimData(kept).data, kept)

    @extend_schema(responses={204: None}, operation_id="aims_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take an aim out of the list; it can be restored."""
        remove(access.own(request.user, KeptAim, pk))
        return Response(status=204)


class AimCopy(View):
    @extend_schema(request=None, responses=KeptAimData, operation_id="aims_copy")
    def post(self, request: Request, pk: int) -> Response:
        """The same numbers under another name."""
        aim = Aim.model_validate(access.own(request.user, KeptAim, pk).aim)
        made = _kept(
            access.person(request), aim.model_copy(update={"name": f"{aim.name[:90]}, copy"})
        )
        return answer(KeptAimData(made).data, made, 201)


class AimRestore(View):
    @extend_schema(request=None, responses=KeptAimData, operation_id="aims_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(KeptAimData(restore(access.person(request), KeptAim, pk)).data)


class AimFile(View):
    @extend_schema(
        responses={(200, "application/json"): OpenApiTypes.BINARY}, operation_id="aims_file"
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """An aim as a file that is received again."""
        aim = Aim.model_validate(access.own(request.user, KeptAim, pk).aim)
        found = HttpResponse(aim.model_dump_json(indent=2), content_type="application/json")
        found["Content-Disposition"] = f'attachment; filename="aim-{pk}.json"'
        return found
