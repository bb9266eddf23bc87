"""Sets of tolerances: those to start from, and one's own, kept, changed, removed."""

from __future__ import annotations

from django.db import transaction
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.proofs import STARTING_SETS, ProofTolerances, parse_tolerances
from plinto_server import access
from plinto_server.apps.proofs.models import ToleranceSet
from plinto_server.removal import remove, restore
from plinto_server.requests import View, body, patch_of
from plinto_server.revisions import answer, matched, settle
from plinto_server.schema import CoreField


class ToleranceSetData(serializers.ModelSerializer):
    tolerances = CoreField(ProofTolerances, complete=True)

    class Meta:
        model = ToleranceSet
        fields = ["id", "name", "tolerances", "revision", "updated"]


class StartingSet(serializers.Serializer):
    tolerances = CoreField(ProofTolerances)


class TolerancesGiven(serializers.Serializer):
    tolerances = CoreField(ProofTolerances)


class ToleranceList(View):
    @extend_schema(responses=ToleranceSetData(many=True), operation_id="proof_tolerances_list")
    def get(self, request: Request) -> Response:
        """One's own sets."""
        own = access.mine(request.user, ToleranceSet)
        return Response(ToleranceSetData(own, many=True).data)

    @extend_schema(
        request=TolerancesGiven, responses=ToleranceSetData, operation_id="proof_tolerances_create"
    )
    def post(self, request: Request) -> Response:
        """Keep a set of one's own."""
        given = parse_tolerances(body(request, TolerancesGiven)["tolerances"])
        made = ToleranceSet.objects.create(
            owner=access.person(request), name=given.name, tolerances=given.model_dump(mode="json")
        )
        return answer(ToleranceSetData(made).data, made, 201)


class StartingTolerances(View):
    @extend_schema(responses=StartingSet(many=True), operation_id="proof_tolerances_starting")
    def get(self, request: Request) -> Response:
        """Sets to start from, which come with Plinto."""
        return Response([{"tolerances": s.model_dump(mode="json")} for s in STARTING_SETS])


class ToleranceDetail(View):
    @extend_schema(
        request=ProofTolerances, responses=ToleranceSetData, operation_id="proof_tolerances_change"
    )
    @transaction.atomic
    def patch(self, request: Request, pk: int) -> Response:
        """Change some of a set's numbers; If-Match names the revision they were changed on."""
        rows = ToleranceSet.objects.select_for_update()
        kept = access.own(request.user, ToleranceSet, pk, rows)
        patch = patch_of(request)
        before = dict(kept.tolerances)
        settle(kept, before, patch, matched(request))
        changed = parse_tolerances({**before, **patch})
        if kept.stamp(before, changed.model_dump(mode="json"), patch):
            kept.name, kept.tolerances = changed.name, changed.model_dump(mode="json")
            kept.save()
        return answer(ToleranceSetData(kept).data, kept)

    @extend_schema(responses={204: None}, operation_id="proof_tolerances_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a set out of the list; readings keep the numbers they were judged by."""
        remove(access.own(request.user, ToleranceSet, pk))
        return Response(status=204)


class ToleranceRestore(View):
    @extend_schema(
        request=None, responses=ToleranceSetData, operation_id="proof_tolerances_restore"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(ToleranceSetData(restore(access.person(request), ToleranceSet, pk)).data)
