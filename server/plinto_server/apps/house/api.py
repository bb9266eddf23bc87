"""House rules and named ink rules: list, save, put in force, delete."""

from __future__ import annotations

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_core.inks.rules import InkRules
from plinto_core.recipes.house_rules import HouseRules
from plinto_server.apps.house import services
from plinto_server.apps.house.models import HouseRuleSet, InkRuleSet


@extend_schema_field(HouseRules)
class HouseRulesField(serializers.JSONField):
    pass


@extend_schema_field(InkRules)
class InkRulesField(serializers.JSONField):
    pass


class HouseRuleSetData(serializers.ModelSerializer):
    rules = HouseRulesField()

    class Meta:
        model = HouseRuleSet
        fields = ["id", "name", "rules", "active", "updated"]


class InkRuleSetData(serializers.ModelSerializer):
    rules = InkRulesField()

    class Meta:
        model = InkRuleSet
        fields = ["id", "name", "rules", "updated"]


def own_set(request: Request, pk: int) -> HouseRuleSet:
    return get_object_or_404(HouseRuleSet, pk=pk, owner=request.user)


class HouseRuleList(APIView):
    @extend_schema(responses=HouseRuleSetData(many=True), operation_id="house_rules_list")
    def get(self, request: Request) -> Response:
        """One's own sets of house rules."""
        found = HouseRuleSet.objects.filter(owner=request.user)
        return Response(HouseRuleSetData(found, many=True).data)

    @extend_schema(
        request=HouseRules, responses=HouseRuleSetData, operation_id="house_rules_create"
    )
    def post(self, request: Request) -> Response:
        """Keep a new set, typed in or from a file."""
        made = services.save_house_rules(request.user, request.data)
        return Response(HouseRuleSetData(made).data, status=201)


class HouseRuleDetail(APIView):
    @extend_schema(
        request=HouseRules, responses=HouseRuleSetData, operation_id="house_rules_change"
    )
    def put(self, request: Request, pk: int) -> Response:
        """Change a set."""
        own_set(request, pk)
        return Response(
            HouseRuleSetData(services.save_house_rules(request.user, request.data, pk=pk)).data
        )

    @extend_schema(responses={204: None}, operation_id="house_rules_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Delete a set that is not in force."""
        services.delete_house_rules(own_set(request, pk))
        return Response(status=204)


class HouseRuleUse(APIView):
    @extend_schema(request=None, responses=HouseRuleSetData, operation_id="house_rules_use")
    def post(self, request: Request, pk: int) -> Response:
        """Put a set in force."""
        return Response(HouseRuleSetData(services.use_house_rules(own_set(request, pk))).data)


class InkRuleList(APIView):
    @extend_schema(responses=InkRuleSetData(many=True), operation_id="ink_rules_list")
    def get(self, request: Request) -> Response:
        """One's own named ink rules."""
        found = InkRuleSet.objects.filter(owner=request.user)
        return Response(InkRuleSetData(found, many=True).data)

    @extend_schema(request=InkRules, responses=InkRuleSetData, operation_id="ink_rules_save")
    def post(self, request: Request) -> Response:
        """Keep ink rules under their name."""
        made = services.save_ink_rules(request.user, request.data)
        return Response(InkRuleSetData(made).data, status=201)


class InkRuleDetail(APIView):
    @extend_schema(responses={204: None}, operation_id="ink_rules_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Forget named ink rules; recipes that use them keep their own copy."""
        get_object_or_404(InkRuleSet, pk=pk, owner=request.user).delete()
        return Response(status=204)
