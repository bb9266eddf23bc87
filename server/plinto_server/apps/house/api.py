"""House rules and named ink rules: list, save, put in force, delete."""

from __future__ import annotations

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.inks.rules import InkRules
from plinto_core.recipes.house_rules import HouseRules
from plinto_server import access
from plinto_server.apps.house import services
from plinto_server.apps.house.models import HouseRuleSet, InkRuleSet
from plinto_server.removal import remove, restore
from plinto_server.requests import View, patch_of
from plinto_server.revisions import answer, matched
from plinto_server.schema import CoreField


class HouseRuleSetData(serializers.ModelSerializer):
    revision = serializers.IntegerField(read_only=True)
    rules = CoreField(HouseRules)

    class Meta:
        model = HouseRuleSet
        fields = ["id", "name", "rules", "active", "revision", "updated"]


class InkRuleSetData(serializers.ModelSerializer):
    rules = CoreField(InkRules)

    class Meta:
        model = InkRuleSet
        fields = ["id", "name", "rules", "updated"]


class HouseRuleList(View):
    @extend_schema(responses=HouseRuleSetData(many=True), operation_id="house_rules_list")
    def get(self, request: Request) -> Response:
        """One's own sets of house rules."""
        found = access.mine(request.user, HouseRuleSet)
        return Response(HouseRuleSetData(found, many=True).data)

    @extend_schema(
        request=HouseRules, responses=HouseRuleSetData, operation_id="house_rules_create"
    )
    def post(self, request: Request) -> Response:
        """Keep a new set, typed in or from a file."""
        made = services.create_house_rules(access.person(request), request.data)
        return answer(HouseRuleSetData(made).data, made, 201)


class HouseRuleDetail(View):
    @extend_schema(
        request=OpenApiTypes.OBJECT, responses=HouseRuleSetData, operation_id="house_rules_change"
    )
    def patch(self, request: Request, pk: int) -> Response:
        """Change parts of a set; If-Match names the revision they were changed on."""
        kept = services.change_house_rules(
            access.person(request), pk, patch_of(request), matched(request)
        )
        return answer(HouseRuleSetData(kept).data, kept)

    @extend_schema(responses={204: None}, operation_id="house_rules_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a set that is not in force out of the list; it can be restored."""
        services.remove_house_rules(access.own(request.user, HouseRuleSet, pk))
        return Response(status=204)


class HouseRuleRestore(View):
    @extend_schema(request=None, responses=HouseRuleSetData, operation_id="house_rules_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(
            HouseRuleSetData(services.restore_house_rules(access.person(request), pk)).data
        )


class HouseRuleUse(View):
    @extend_schema(request=None, responses=HouseRuleSetData, operation_id="house_rules_use")
    def post(self, request: Request, pk: int) -> Response:
        """Put a set in force."""
        return Response(
            HouseRuleSetData(
                services.use_house_rules(access.own(request.user, HouseRuleSet, pk))
            ).data
        )


class InkRuleList(View):
    @extend_schema(responses=InkRuleSetData(many=True), operation_id="ink_rules_list")
    def get(self, request: Request) -> Response:
        """One's own named ink rules."""
        found = access.mine(request.user, InkRuleSet)
        return Response(InkRuleSetData(found, many=True).data)

    @extend_schema(request=InkRules, responses=InkRuleSetData, operation_id="ink_rules_save")
    def post(self, request: Request) -> Response:
        """Keep ink rules under their name."""
        made = services.save_ink_rules(access.person(request), request.data)
        return Response(InkRuleSetData(made).data, status=201)


class InkRuleDetail(View):
    @extend_schema(responses={204: None}, operation_id="ink_rules_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take named ink rules out of the list; recipes that use them keep their own copy."""
        remove(access.own(request.user, InkRuleSet, pk))
        return Response(status=204)


class InkRuleRestore(View):
    @extend_schema(request=None, responses=InkRuleSetData, operation_id="ink_rules_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(InkRuleSetData(restore(access.person(request), InkRuleSet, pk)).data)
