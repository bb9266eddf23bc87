"""Printing conditions: list, make of a profile, change, copy, retire, replace the profile, exchange."""

from __future__ import annotations

from typing import Any, get_args

from django.db.models import Count, F, Q, QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.conditions import ConditionTicket, Proposal, pack_condition, propose
from plinto_core.conditions import PrintingCondition as ConditionFacts
from plinto_core.inks.consumption import Supplies
from plinto_core.inks.ink_set import InkRole, Role
from plinto_core.inks.rules import InkRules
from plinto_server import access, store
from plinto_server.apps.conditions import services
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.api import ProfileSummary
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.profiles.services import load_profile
from plinto_server.removal import UseData, remove, restore, uses
from plinto_server.requests import Own, View, body, patch_of
from plinto_server.revisions import answer, matched
from plinto_server.schema import CoreField
from plinto_server.uploads import Upload, given_file

LARGEST = 64 << 20


class Condition(serializers.ModelSerializer):
    profile = ProfileSummary()
    ink_rules = CoreField(InkRules, complete=True)
    supplies = CoreField(Supplies, complete=True)
    ticket = CoreField(ConditionTicket, complete=True)
    round_trip = serializers.SerializerMethodField()
    own = serializers.SerializerMethodField()
    jobs = serializers.IntegerField(default=0)
    media = serializers.IntegerField(source="media_count", default=0)
    revision = serializers.IntegerField(read_only=True)

    class Meta:
        model = PrintingCondition
        fields = [
            "id", "key", "name", "printer", "medium", "mirror", "process", "least_dot", "profile",
            "ink_rules", "supplies", "ticket", "notes", "round_trip", "own", "jobs", "media", "revision",
        ]  # fmt: skip

    def get_round_trip(self, condition: PrintingCondition) -> dict[str, float]:
        return dict(condition.profile.report.get("round_trip", {}))

    def get_own(self, condition: PrintingCondition) -> bool:
        """Whether it is one's own, and not one of those that come with Plinto."""
        return condition.owner_id is not None


class NewCondition(serializers.Serializer):
    """A profile and what the form says; the core checks the rest, see the schema of a condition."""

    profile = Own(queryset=StoredProfile.objects.all())
    condition = CoreField(ConditionFacts)


class Replacement(serializers.Serializer):
    """carry : whether recipes and policies made for the former profile take the new one."""

    profile = Own(queryset=StoredProfile.objects.all())
    carry = serializers.BooleanField(default=False)


class InkChange(serializers.Serializer):
    """of : the ink that a light one is a version of; between : the two colours of an extra one."""

    name = serializers.CharField(max_length=40)
    role = serializers.ChoiceField(get_args(Role))
    of = serializers.CharField(max_length=40, required=False, default="", allow_blank=True)
    between = serializers.ListField(
        child=serializers.CharField(max_length=40), required=False, default=None, allow_null=True,
        min_length=2, max_length=2,
    )  # fmt: skip


class InksChange(serializers.Serializer):
    """channels : every ink in the order of the profile; carry : as of another profile."""

    channels = InkChange(many=True)
    carry = serializers.BooleanField(default=False)


class Replaced(serializers.Serializer):
    condition = Condition()
    moved = serializers.IntegerField()


class Difference(serializers.Serializer):
    comparable = serializers.BooleanField()
    solids = serializers.DictField(child=serializers.FloatField(), required=False)
    greys_mean = serializers.FloatField(required=False)
    greys_max = serializers.FloatField(required=False)
    tac = serializers.ListField(child=serializers.FloatField(), required=False)


def listed(user: Any) -> QuerySet[PrintingCondition]:
    """Conditions with what lists show of them, one's own first."""
    jobs = Q(destination__job__owner=user, destination__job__removed=None)
    media = Q(media__printer__owner=user, media__removed=None, media__printer__removed=None)
    rows = PrintingCondition.objects.select_related("profile").annotate(
        jobs=Count("destination", filter=jobs, distinct=True),
        media_count=Count("media", filter=media, distinct=True),
    )
    return rows.order_by(F("owner").desc(nulls_last=True), "id")


def shown(request: Request, pk: int, status: int = 200) -> Response:
    condition = access.own(request.user, PrintingCondition, pk, listed(request.user))
    return answer(Condition(condition).data, condition, status)


class ConditionList(View):
    @extend_schema(responses=Condition(many=True), operation_id="conditions_list")
    def get(self, request: Request) -> Response:
        """One's own printing conditions, then those that come with Plinto."""
        rows = access.mine(request.user, PrintingCondition, listed(request.user))
        return Response(Condition(rows, many=True).data)

    @extend_schema(request=NewCondition, responses=Condition, operation_id="conditions_create")
    def post(self, request: Request) -> Response:
        """A condition of one's own from a profile that can be a destination."""
        given = body(request, NewCondition)
        made = services.create_condition(
            access.person(request), given["profile"], given["condition"]
        )
        return shown(request, made.pk, 201)


class ConditionDetail(View):
    @extend_schema(responses=Condition, operation_id="conditions_read")
    def get(self, request: Request, pk: int) -> Response:
        """One condition."""
        return shown(request, pk)

    @extend_schema(request=ConditionFacts, responses=Condition, operation_id="conditions_change")
    def patch(self, request: Request, pk: int) -> Response:
        """Change parts of one's own condition; If-Match names the revision it is changed on."""
        services.change_condition(access.person(request), pk, patch_of(request), matched(request))
        return shown(request, pk)

    @extend_schema(responses={204: None}, operation_id="conditions_retire")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a condition out of the lists; what uses it goes on, and it can be restored."""
        remove(access.owned(request.user, PrintingCondition, pk))
        return Response(status=204)


class ConditionRestore(View):
    @extend_schema(request=None, responses=Condition, operation_id="conditions_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a retirement."""
        return shown(request, restore(access.person(request), PrintingCondition, pk).pk)


class ConditionCopy(View):
    @extend_schema(request=None, responses=Condition, operation_id="conditions_copy")
    def post(self, request: Request, pk: int) -> Response:
        """A copy of one's own, also of a condition that comes with Plinto."""
        found = access.own(request.user, PrintingCondition, pk)
        return shown(request, services.copy_condition(access.person(request), found).pk, 201)


class ConditionUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="conditions_uses")
    def get(self, request: Request, pk: int) -> Response:
        """One's jobs, policies, media and folders that lean on a condition."""
        found = access.own(request.user, PrintingCondition, pk)
        return Response(UseData(uses(found, access.person(request)), many=True).data)


class ConditionProfile(View):
    @extend_schema(
        request=Replacement, responses=Replaced, operation_id="conditions_replace_profile"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Give one's own condition another profile; with carry, recipes and policies follow."""
        access.owned(request.user, PrintingCondition, pk)
        given = body(request, Replacement)
        moved = services.replace_profile(
            access.person(request),
            pk,
            given["profile"],
            carry=given["carry"],
            match=matched(request),
        )
        condition = access.own(request.user, PrintingCondition, pk, listed(request.user))
        data = Replaced({"condition": condition, "moved": moved}).data
        return answer(data, condition)


class ConditionInks(View):
    @extend_schema(request=InksChange, responses=Replaced, operation_id="conditions_change_inks")
    def post(self, request: Request, pk: int) -> Response:
        """Call the inks of one's own condition otherwise and say what they are for; its profile becomes a
        copy that says so."""
        access.owned(request.user, PrintingCondition, pk)
        given = body(request, InksChange)
        roles = [
            InkRole(role=c["role"], of=c["of"], between=c["between"] and tuple(c["between"]))
            for c in given["channels"]
        ]
        moved = services.change_inks(
            access.person(request),
            pk,
            [c["name"] for c in given["channels"]],
            roles,
            carry=given["carry"],
            match=matched(request),
        )
        condition = access.own(request.user, PrintingCondition, pk, listed(request.user))
        return answer(Replaced({"condition": condition, "moved": moved}).data, condition)


class ConditionDifference(View):
    @extend_schema(responses=Difference, operation_id="conditions_difference")
    def get(self, request: Request, pk: int, profile: int) -> Response:
        """What another profile would change: paper, solids, greys and totals."""
        condition = access.own(request.user, PrintingCondition, pk)
        new = access.own(request.user, StoredProfile, profile)
        return Response(Difference(services.difference(condition.profile, new)).data)


class ConditionFile(View):
    @extend_schema(
        responses={(200, "application/json"): OpenApiTypes.BINARY}, operation_id="conditions_file"
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The condition as a file with its profile in it."""
        found = access.own(request.user, PrintingCondition, pk)
        data = pack_condition(found.as_core(), store.path_of(found.profile.sha256).read_bytes())
        response = HttpResponse(data, content_type="application/json")
        response["Content-Disposition"] = f'attachment; filename="{found.key}.json"'
        return response


class ConditionImport(View):
    parser_classes = [MultiPartParser]

    @extend_schema(request=Upload, responses=Condition, operation_id="conditions_import")
    def post(self, request: Request) -> Response:
        """A condition from such a file."""
        data = given_file(request, largest=LARGEST).read()
        return shown(request, services.read_condition(access.person(request), data).pk, 201)


class ProfileProposal(View):
    @extend_schema(responses=Proposal, operation_id="profiles_proposal")
    def get(self, request: Request, pk: int) -> Response:
        """What a profile proposes for a condition, read from its own tables."""
        stored = access.own(request.user, StoredProfile, pk)
        return Response(propose(load_profile(stored.sha256)).model_dump(mode="json"))
