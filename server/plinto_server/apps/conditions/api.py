"""Printing conditions: list."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.api import ProfileSummary


class BlackRuleData(serializers.Serializer):
    method = serializers.ChoiceField(["gcr", "ucr", "none", "maximum"])
    strength = serializers.FloatField(min_value=0, max_value=100, required=False)
    start = serializers.FloatField(min_value=0, max_value=100, required=False)
    limit = serializers.FloatField(min_value=0, max_value=100, required=False)


class InkRulesData(serializers.Serializer):
    tac = serializers.FloatField()
    black = BlackRuleData(required=False)


class Condition(serializers.ModelSerializer):
    profile = ProfileSummary()
    ink_rules = InkRulesData()
    round_trip = serializers.SerializerMethodField()

    class Meta:
        model = PrintingCondition
        fields = [
            "id",
            "key",
            "name",
            "printer",
            "medium",
            "mirror",
            "process",
            "profile",
            "ink_rules",
            "round_trip",
        ]

    def get_round_trip(self, condition: PrintingCondition) -> dict[str, float]:
        return dict(condition.profile.report.get("round_trip", {}))


class ConditionList(APIView):
    @extend_schema(responses=Condition(many=True), operation_id="conditions_list")
    def get(self, request: Request) -> Response:
        """Every printing condition."""
        return Response(
            Condition(PrintingCondition.objects.select_related("profile"), many=True).data
        )
