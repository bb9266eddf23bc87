"""Output policies: templates, versions, comparisons."""

from __future__ import annotations

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.document.rules.checks import checks_as_data
from plinto_core.document.rules.policy import OutputPolicy, parse_policy
from plinto_core.document.runs.compare import compare_policies
from plinto_server import access
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.policies import services
from plinto_server.apps.policies.api.data import (
    CheckKindData,
    ComparisonData,
    DifferenceData,
    PolicyData,
    TwoPolicies,
    VersionData,
)
from plinto_server.apps.policies.models import Policy, PolicyComparison
from plinto_server.parameters import row_id
from plinto_server.removal import UseData, remove, restore, uses
from plinto_server.requests import View, body, patch_of
from plinto_server.revisions import answer, matched

CONDITION = row_id("condition")


class PolicyList(View):
    @extend_schema(responses=PolicyData(many=True), operation_id="policies_list")
    def get(self, request: Request) -> Response:
        """One's own policies, each in its newest version."""
        return Response(PolicyData(access.mine(request.user, Policy), many=True).data)

    @extend_schema(request=OutputPolicy, responses=PolicyData, operation_id="policies_create")
    def post(self, request: Request) -> Response:
        """Keep a new policy, typed in or from a file."""
        made = services.create_policy(access.person(request), request.data)
        return answer(PolicyData(made).data, made, 201)


class CheckList(View):
    @extend_schema(responses=CheckKindData(many=True), operation_id="policies_checks")
    def get(self, request: Request) -> Response:
        """The preflight checks that a policy can make, with their limits and what may follow."""
        return Response(checks_as_data())


class PolicyDetail(View):
    @extend_schema(
        request=OpenApiTypes.OBJECT, responses=PolicyData, operation_id="policies_change"
    )
    def patch(self, request: Request, pk: int) -> Response:
        """Keep a new version with these parts changed; If-Match names the revision they were
        changed on."""
        kept = services.change_policy(
            access.person(request), pk, patch_of(request), matched(request)
        )
        return answer(PolicyData(kept).data, kept)

    @extend_schema(responses={204: None}, operation_id="policies_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Retire a policy: media and folders that use it go on; it can be restored."""
        remove(access.own(request.user, Policy, pk))
        return Response(status=204)


class PolicyRestore(View):
    @extend_schema(request=None, responses=PolicyData, operation_id="policies_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(PolicyData(restore(access.person(request), Policy, pk)).data)


class PolicyUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="policies_uses")
    def get(self, request: Request, pk: int) -> Response:
        """The media and folders that work by a policy."""
        return Response(
            UseData(uses(access.own(request.user, Policy, pk), request.user), many=True).data
        )


class PolicyTemplate(View):
    @extend_schema(
        responses=OutputPolicy,
        operation_id="policies_template",
        parameters=[CONDITION],
    )
    def get(self, request: Request, kind: str) -> Response:
        """A policy for a usual case and a condition; nothing is kept."""
        pk = int(CONDITION.of(request))
        condition = access.own(request.user, PrintingCondition, pk)
        return Response(services.policy_of_template(kind, condition).model_dump(mode="json"))


class PolicyVersions(View):
    @extend_schema(responses=VersionData(many=True), operation_id="policies_versions")
    def get(self, request: Request, pk: int) -> Response:
        """Every version of a policy, the newest last."""
        versions = access.own(request.user, Policy, pk).versions
        rows = [{"number": i, "policy": v} for i, v in enumerate(versions, 1)]
        return Response(VersionData(rows, many=True).data)


class PolicyCompare(View):
    @extend_schema(
        request=TwoPolicies, responses=DifferenceData(many=True), operation_id="policies_compare"
    )
    def post(self, request: Request) -> Response:
        """Every rule and setting in which two policies differ."""
        given = body(request, TwoPolicies)
        both = given
        found = compare_policies(parse_policy(both["before"]), parse_policy(both["after"]))
        return Response(DifferenceData([vars(d) for d in found], many=True).data)


class ComparisonList(View):
    @extend_schema(
        request=TwoPolicies, responses=ComparisonData, operation_id="policy_comparisons_start"
    )
    def post(self, request: Request) -> Response:
        """Try two policies dry on one's recent documents."""
        given = body(request, TwoPolicies)
        made = services.start_comparison(access.person(request), **given)
        return Response(ComparisonData(made).data, status=201)


class ComparisonDetail(View):
    @extend_schema(responses=ComparisonData, operation_id="policy_comparisons_read")
    def get(self, request: Request, pk: int) -> Response:
        """How far a comparison is, and what it found."""
        found = access.own(request.user, PolicyComparison, pk)
        return Response(ComparisonData(found).data)
