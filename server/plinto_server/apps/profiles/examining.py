"""Examination of profiles: the report, neutrals, what is inside, changes in a copy."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import exceptions, serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.errors import BadProfile
from plinto_core.examination.aims import Aim
from plinto_core.examination.fidelity import RoundTrip, round_trip
from plinto_core.examination.inside import TagContent, content_of, tags_of
from plinto_core.examination.neutrals import NeutralFigures, neutrals
from plinto_core.examination.page import examination_pdf
from plinto_core.examination.report import Examination, examine
from plinto_core.icc.parts import judge_part, why_not_examined
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENTS
from plinto_server import access
from plinto_server.apps.profiles.api import ProfileSummary
from plinto_server.apps.profiles.models import KeptAim, StoredProfile
from plinto_server.apps.profiles.services import edit_profile, load_profile
from plinto_server.requests import Own, View, body
from plinto_server.schema import CoreField


@lru_cache(maxsize=128)
def examined(
    sha256: str, tac: float | None, aim: str | None = None, numbers: str | None = None
) -> dict[str, Any]:
    """The report of a profile; it never changes, so that it is made once.

    aim : a profile's SHA-256; numbers : in its place an aim's JSON, so that a changed aim is judged anew.
    """
    against: Profile | Aim | None = load_profile(aim) if aim else None
    if numbers is not None:
        against = Aim.model_validate_json(numbers)
    return examine(load_profile(sha256), tac=tac, aim=against).model_dump(mode="json")


class AskedExamination(serializers.Serializer):
    """tac : the total that was asked for, in percent; aim : a profile to compare with; kept_aim : in its
    place numbers that are kept under a name."""

    tac = serializers.FloatField(min_value=50, max_value=1500, required=False, default=None)
    aim = Own(queryset=StoredProfile.objects.all(), required=False, default=None)
    kept_aim = Own(queryset=KeptAim.objects.all(), required=False, default=None)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        if attrs["aim"] is not None and attrs["kept_aim"] is not None:
            raise serializers.ValidationError("Name either a profile as the aim or a kept aim.")
        return attrs


class AskedNeutrals(serializers.Serializer):
    intent = serializers.ChoiceField(INTENTS, default="relative")
    bpc = serializers.BooleanField(default=True)


class NeutralsData(serializers.Serializer):
    """asked : L*; inks : percent by name, or device values 0..100 for RGB and grey; printed : Lab."""

    asked = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))
    printed = serializers.ListField(child=serializers.ListField(child=serializers.FloatField()))
    total = serializers.ListField(child=serializers.FloatField())
    figures = CoreField(NeutralFigures)


class TagData(serializers.Serializer):
    name = serializers.CharField()
    type = serializers.CharField()
    size = serializers.IntegerField()
    meaning = serializers.CharField()
    required = serializers.BooleanField()  # type: ignore[assignment]
    used = serializers.BooleanField()


class Edit(serializers.Serializer):
    """description : a new one; tags : by name, the id of the profile each is taken from; repair : mend
    what decides no colour."""

    description = serializers.CharField(max_length=200, required=False, default=None)
    tags = serializers.DictField(
        child=serializers.IntegerField(), required=False, default=dict, allow_empty=True
    )
    repair = serializers.BooleanField(required=False, default=False)


class Edited(serializers.Serializer):
    profile = ProfileSummary()
    done = serializers.ListField(child=serializers.CharField())
    round_trip = CoreField(RoundTrip, allow_null=True)


def asked(request: Request, serializer: type[serializers.Serializer]) -> Any:
    """The checked query parameters of a request."""
    given = serializer(data=request.query_params.dict(), context={"request": request})
    given.is_valid(raise_exception=True)
    return given.validated_data


def _examined(request: Request, stored: StoredProfile) -> dict[str, Any]:
    given = asked(request, AskedExamination)
    if (aim := given["aim"]) is not None:
        judge_part(load_profile(aim.sha256), "destination")
        return examined(stored.sha256, given["tac"], aim.sha256)
    kept = given["kept_aim"]
    numbers = None if kept is None else json.dumps(kept.aim)
    return examined(stored.sha256, given["tac"], None, numbers)


class ProfileExamination(View):
    @extend_schema(
        responses=Examination, operation_id="profiles_examination",
        parameters=[AskedExamination],
    )  # fmt: skip
    def get(self, request: Request, pk: int) -> Response:
        """What it prints, how it makes greys, what it gives back, what is wrong with it."""
        return Response(_examined(request, access.own(request.user, StoredProfile, pk)))


class ProfilePages(View):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
        operation_id="profiles_examination_pages", parameters=[AskedExamination],
    )  # fmt: skip
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The same as PDF pages, with the greys of every intent drawn."""
        stored = access.own(request.user, StoredProfile, pk)
        found = Examination.model_validate(_examined(request, stored))
        profile = load_profile(stored.sha256)
        greys = {r.intent: neutrals(profile, r.intent) for r in found.reach}
        response = HttpResponse(examination_pdf(found, greys), content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="examination-{pk}.pdf"'
        return response


class ProfileNeutrals(View):
    @extend_schema(
        responses=NeutralsData, operation_id="profiles_neutrals", parameters=[AskedNeutrals]
    )
    def get(self, request: Request, pk: int) -> Response:
        """L* 100 to 0 through the profile: inks, total, and the print in Lab."""
        stored = access.own(request.user, StoredProfile, pk)
        given = asked(request, AskedNeutrals)
        profile = load_profile(stored.sha256)
        reason = why_not_examined(profile)
        if reason:
            raise BadProfile(f"The profile makes no greys: {reason}.")
        path = neutrals(profile, given["intent"], bpc=given["bpc"])
        data = {
            "asked": [round(float(v), 2) for v in path.asked],
            "inks": {
                n: [round(float(v) * 100, 2) for v in path.inks[:, i]]
                for i, n in enumerate(path.names)
            },
            "printed": [[round(float(v), 2) for v in row] for row in path.printed],
            "total": [round(float(v) * 100, 2) for v in path.total],
            "figures": path.figures().model_dump(),
        }
        return Response(data)


class ProfileTags(View):
    @extend_schema(responses=TagData(many=True), operation_id="profiles_tags")
    def get(self, request: Request, pk: int) -> Response:
        """All tags of a profile with their meaning."""
        stored = access.own(request.user, StoredProfile, pk)
        return Response([t.model_dump() for t in tags_of(load_profile(stored.sha256))])


class ProfileTag(View):
    @extend_schema(
        responses=TagContent, operation_id="profiles_tag",
        parameters=[OpenApiParameter("tag", str, "path", description="four letters")],
    )  # fmt: skip
    def get(self, request: Request, pk: int, tag: str) -> Response:
        """What a tag holds."""
        profile = load_profile(access.own(request.user, StoredProfile, pk).sha256)
        if tag not in profile:
            raise exceptions.NotFound("The profile has no such tag.")
        return Response(content_of(profile, tag).model_dump())


class ProfileCopy(View):
    @extend_schema(request=Edit, responses=Edited, operation_id="profiles_copy")
    def post(self, request: Request, pk: int) -> Response:
        """A changed copy: another description, tags of other profiles, repair of what is safe."""
        stored = access.own(request.user, StoredProfile, pk)
        given = body(request, Edit)
        tags = {n: access.own(request.user, StoredProfile, i) for n, i in given["tags"].items()}
        made, done = edit_profile(
            access.person(request),
            stored,
            description=given["description"],
            tags=tags,
            repair=given["repair"],
        )
        profile = load_profile(made.sha256)
        whole = not why_not_examined(profile)
        trip = round_trip(profile).model_dump(mode="json") if whole else None
        data = Edited({"profile": made, "done": done, "round_trip": trip}).data
        return Response(data, status=201)
