"""What the API says of policies, documents, runs and comparisons."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request

from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.reports.report_page import summary_of
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.document.runs.compare import ComparisonReport
from plinto_server import access
from plinto_server.apps.policies.models import Document, Policy, PolicyComparison, PolicyRun
from plinto_server.apps.work.api import STATES
from plinto_server.requests import Own
from plinto_server.schema import CoreField, ReportField, SaidField


class PolicyData(serializers.ModelSerializer):
    revision = serializers.IntegerField(read_only=True)
    policy = CoreField(OutputPolicy, source="present")
    version = serializers.SerializerMethodField()
    retired = serializers.BooleanField()

    class Meta:
        model = Policy
        fields = ["id", "name", "policy", "version", "revision", "retired", "updated"]

    def get_version(self, policy: Policy) -> int:
        return len(policy.versions)


class DocumentData(serializers.ModelSerializer):
    kind = serializers.ChoiceField(["pdf", "picture"])

    class Meta:
        model = Document
        fields = ["id", "file_name", "kind", "size", "pages", "created"]


class PolicyRunData(serializers.ModelSerializer):
    state = serializers.ChoiceField(STATES)
    document = DocumentData()
    report = ReportField(PolicyReport, allow_null=True)
    summary = serializers.SerializerMethodField()

    class Meta:
        model = PolicyRun
        fields = [
            "id",
            "document",
            "dry",
            "file_name",
            "state",
            "progress",
            "error",
            "result_size",
            "report",
            "summary",
        ]

    def to_representation(self, run: PolicyRun) -> dict[str, Any]:
        shown: dict[str, Any] = super().to_representation(run)
        return {**shown, "report": shown["report"] or None}

    @extend_schema_field(
        serializers.ListField(child=serializers.ListField(child=serializers.CharField()))
    )
    def get_summary(self, run: PolicyRun) -> list[list[str]]:
        """Names and values of what holds for the whole document, once there is a report."""
        return summary_of(PolicyReport.model_validate(run.report)) if run.report else []


class NewRun(serializers.Serializer):
    document = Own(queryset=Document.objects.select_related("owner"))
    policy = CoreField(OutputPolicy)
    dry = serializers.BooleanField()


class PlatesData(serializers.Serializer):
    names = serializers.ListField(child=serializers.CharField())
    coverage = serializers.DictField(child=serializers.FloatField())
    highest = serializers.FloatField()
    mean = serializers.FloatField()
    over = serializers.FloatField()
    limit = serializers.FloatField(allow_null=True)
    notes = serializers.ListField(child=SaidField())


class CheckKindData(serializers.Serializer):
    what = serializers.CharField()
    title = serializers.CharField()
    help = serializers.CharField()
    unit = serializers.CharField()
    start = serializers.FloatField(allow_null=True)
    low = serializers.FloatField()
    high = serializers.FloatField()
    mends = serializers.CharField()


class DifferenceData(serializers.Serializer):
    where = serializers.CharField()
    before = serializers.CharField(allow_blank=True)
    after = serializers.CharField(allow_blank=True)


class VersionData(serializers.Serializer):
    number = serializers.IntegerField()
    policy = CoreField(OutputPolicy)


class TwoPolicies(serializers.Serializer):
    before = CoreField(OutputPolicy)
    after = CoreField(OutputPolicy)


class ComparisonData(serializers.ModelSerializer):
    state = serializers.ChoiceField(STATES)
    report = serializers.SerializerMethodField()

    class Meta:
        model = PolicyComparison
        fields = ["id", "state", "progress", "error", "report"]

    @extend_schema_field(CoreField(ComparisonReport, allow_null=True))
    def get_report(self, work: PolicyComparison) -> dict[str, Any] | None:
        return work.report or None


def own_run(request: Request, pk: int) -> PolicyRun:
    rows = PolicyRun.objects.select_related("document__owner")
    return access.own(request.user, PolicyRun, pk, rows)
