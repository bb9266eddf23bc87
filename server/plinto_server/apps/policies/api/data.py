"""What the API says of policies, documents, runs and comparisons."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request

from plinto_core.document.policy import OutputPolicy
from plinto_core.document.report_page import summary_of
from plinto_server import access
from plinto_server.apps.policies.models import Document, Policy, PolicyComparison, PolicyRun
from plinto_server.apps.queue.entries import STATES
from plinto_server.requests import Own


@extend_schema_field(OutputPolicy)
class PolicyField(serializers.JSONField):
    """A policy as the core writes it."""


class PolicyData(serializers.ModelSerializer):
    revision = serializers.IntegerField(read_only=True)
    policy = PolicyField(source="present")
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


class FlowData(serializers.Serializer):
    space = serializers.CharField()
    objects = serializers.CharField()
    spot = serializers.CharField()
    rule = serializers.IntegerField()
    action = serializers.CharField()
    outcome = serializers.CharField()
    count = serializers.IntegerField()


class ObjectData(serializers.Serializer):
    page = serializers.IntegerField()
    kind = serializers.CharField()
    family = serializers.CharField()
    space = serializers.CharField()
    profile = serializers.CharField()
    origin = serializers.CharField()
    rule = serializers.IntegerField()
    action = serializers.CharField()
    values = serializers.ListField(child=serializers.FloatField())
    after = serializers.ListField(child=serializers.FloatField())
    outcome = serializers.CharField()
    spot = serializers.ListField(child=serializers.CharField())
    pixels = serializers.ListField(child=serializers.IntegerField(), allow_null=True)
    ppi = serializers.FloatField(allow_null=True)
    new_ppi = serializers.FloatField(allow_null=True)
    tac = serializers.FloatField(allow_null=True)
    tac_after = serializers.FloatField(allow_null=True)
    intent = serializers.CharField()
    box = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    count = serializers.IntegerField()
    notes = serializers.ListField(child=serializers.CharField())


class LeftData(serializers.Serializer):
    page = serializers.IntegerField()
    kind = serializers.CharField()
    reason = serializers.CharField()


class BreachData(serializers.Serializer):
    rule = serializers.CharField()
    text = serializers.CharField()
    pages = serializers.ListField(child=serializers.IntegerField())
    where = serializers.CharField()


class ColourRulesData(serializers.Serializer):
    standard = serializers.CharField()
    breaches = BreachData(many=True)


class PolicyReport(serializers.Serializer):
    pages = serializers.IntegerField()
    destination = serializers.CharField()
    output_intent = serializers.CharField(allow_null=True)
    flow = FlowData(many=True)
    objects = ObjectData(many=True)
    stops = serializers.IntegerField()
    not_handled = LeftData(many=True)
    transparency = serializers.BooleanField()
    summary = serializers.SerializerMethodField()
    fonts = serializers.ListField(child=serializers.CharField())
    spots = serializers.ListField(child=serializers.CharField())
    size_before = serializers.IntegerField()
    size_after = serializers.IntegerField(required=False)
    pdfx = ColourRulesData(required=False)
    seconds = serializers.FloatField()

    @extend_schema_field(
        serializers.ListField(child=serializers.ListField(child=serializers.CharField()))
    )
    def get_summary(self, report: dict[str, Any]) -> list[list[str]]:
        """Names and values of what holds for the whole document."""
        return summary_of(report)


class PolicyRunData(serializers.ModelSerializer):
    state = serializers.ChoiceField(STATES)
    document = DocumentData()
    report = serializers.SerializerMethodField()

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
        ]

    @extend_schema_field(PolicyReport(allow_null=True))
    def get_report(self, run: PolicyRun) -> dict[str, Any] | None:
        return PolicyReport(run.report).data if run.report else None


class NewRun(serializers.Serializer):
    document = Own(queryset=Document.objects.select_related("owner"))
    policy = PolicyField()
    dry = serializers.BooleanField()


class PlatesData(serializers.Serializer):
    names = serializers.ListField(child=serializers.CharField())
    coverage = serializers.DictField(child=serializers.FloatField())
    highest = serializers.FloatField()
    mean = serializers.FloatField()
    over = serializers.FloatField()
    limit = serializers.FloatField(allow_null=True)
    notes = serializers.ListField(child=serializers.CharField())


class DifferenceData(serializers.Serializer):
    where = serializers.CharField()
    before = serializers.CharField(allow_blank=True)
    after = serializers.CharField(allow_blank=True)


class VersionData(serializers.Serializer):
    number = serializers.IntegerField()
    policy = PolicyField()


class TwoPolicies(serializers.Serializer):
    before = PolicyField()
    after = PolicyField()


class MadeData(serializers.Serializer):
    rule = serializers.IntegerField()
    action = serializers.CharField()
    outcome = serializers.CharField()
    after = serializers.ListField(child=serializers.FloatField())
    new_ppi = serializers.FloatField(allow_null=True)
    tac_after = serializers.FloatField(allow_null=True)


class ExampleData(serializers.Serializer):
    page = serializers.IntegerField()
    kind = serializers.CharField()
    family = serializers.CharField()
    values = serializers.ListField(child=serializers.FloatField())
    spot = serializers.ListField(child=serializers.CharField())
    count = serializers.IntegerField()
    before = MadeData()
    after = MadeData()


class TreatedData(serializers.Serializer):
    document = serializers.IntegerField()
    file_name = serializers.CharField()
    objects = serializers.IntegerField()
    changed = serializers.IntegerField()
    stops = serializers.ListField(child=serializers.IntegerField())
    examples = ExampleData(many=True)
    problem = serializers.CharField(allow_blank=True)


class ComparisonData(serializers.ModelSerializer):
    state = serializers.ChoiceField(STATES)
    documents = serializers.SerializerMethodField()

    class Meta:
        model = PolicyComparison
        fields = ["id", "state", "progress", "error", "documents"]

    @extend_schema_field(TreatedData(many=True))
    def get_documents(self, work: PolicyComparison) -> list[dict[str, Any]]:
        return list(TreatedData(work.report.get("documents", []), many=True).data)


def own_run(request: Request, pk: int) -> PolicyRun:
    rows = PolicyRun.objects.select_related("document__owner")
    return access.own(request.user, PolicyRun, pk, rows)
