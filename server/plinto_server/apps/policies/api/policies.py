"""Output policies: templates, versions, comparisons."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_core.document.compare import compare_policies
from plinto_core.document.policy import OutputPolicy, parse_policy
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.api.requests import number
from plinto_server.apps.policies import services
from plinto_server.apps.policies.api.data import (
    ComparisonData,
    DifferenceData,
    PolicyData,
    TwoPolicies,
    VersionData,
    own_policy,
)
from plinto_server.apps.policies.models import Policy, PolicyComparison


class PolicyList(APIView):
    @extend_schema(responses=PolicyData(many=True), operation_id="policies_list")
    def get(self, request: Request) -> Response:
        """One's own policies, each in its newest version."""
        return Response(PolicyData(Policy.objects.filter(owner=request.user), many=True).data)

    @extend_schema(request=OutputPolicy, responses=PolicyData, operation_id="policies_create")
    def post(self, request: Request) -> Response:
        """Keep a new policy, typed in or from a file."""
        made = services.save_policy(request.user, request.data)
        return Response(PolicyData(made).data, status=201)


class PolicyDetail(APIView):
    @extend_schema(request=OutputPolicy, responses=PolicyData, operation_id="policies_change")
    def put(self, request: Request, pk: int) -> Response:
        """Keep a new version."""
        kept = services.save_policy(request.user, request.data, kept=own_policy(request, pk))
        return Response(PolicyData(kept).data)

    @extend_schema(responses={204: None}, operation_id="policies_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Delete a policy and its versions; runs keep their own copy."""
        own_policy(request, pk).delete()
        return Response(status=204)


class PolicyTemplate(APIView):
    @extend_schema(
        responses=OutputPolicy,
        operation_id="policies_template",
        parameters=[OpenApiParameter("condition", int, required=True)],
    )
    def get(self, request: Request, kind: str) -> Response:
        """A policy for a usual case and a condition; nothing is kept."""
        condition = get_object_or_404(
            PrintingCondition, pk=int(number(request, "condition", 0, 0, 2**31))
        )
        return Response(services.policy_of_template(kind, condition).model_dump(mode="json"))


class PolicyVersions(APIView):
    @extend_schema(responses=VersionData(many=True), operation_id="policies_versions")
    def get(self, request: Request, pk: int) -> Response:
        """Every version of a policy, the newest last."""
        versions = own_policy(request, pk).versions
        rows = [{"number": i, "policy": v} for i, v in enumerate(versions, 1)]
        return Response(VersionData(rows, many=True).data)


class PolicyCompare(APIView):
    @extend_schema(
        request=TwoPolicies, responses=DifferenceData(many=True), operation_id="policies_compare"
    )
    def post(self, request: Request) -> Response:
        """Every rule and setting in which two policies differ."""
        given = TwoPolicies(data=request.data)
        given.is_valid(raise_exception=True)
        both = given.validated_data
        found = compare_policies(parse_policy(both["before"]), parse_policy(both["after"]))
        return Response(DifferenceData([vars(d) for d in found], many=True).data)


class ComparisonList(APIView):
    @extend_schema(
        request=TwoPolicies, responses=ComparisonData, operation_id="policy_comparisons_start"
    )
    def post(self, request: Request) -> Response:
        """Try two policies dry on one's recent documents."""
        given = TwoPolicies(data=request.data)
        given.is_valid(raise_exception=True)
        made = services.start_comparison(request.user, **given.validated_data)
        return Response(ComparisonData(made).data, status=201)


class ComparisonDetail(APIView):
    @extend_schema(responses=ComparisonData, operation_id="policy_comparisons_read")
    def get(self, request: Request, pk: int) -> Response:
        """How far a comparison is, and what it found."""
        found = get_object_or_404(PolicyComparison, pk=pk, owner=request.user)
        return Response(ComparisonData(found).data)
