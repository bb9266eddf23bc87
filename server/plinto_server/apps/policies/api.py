"""Output policies: templates, versions, documents, dry and real runs."""

from __future__ import annotations

import json
from typing import Any

from django.http import FileResponse, HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiParameter, OpenApiTypes, extend_schema, extend_schema_field
from rest_framework import exceptions, serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_core.document.policy import OutputPolicy, parse_policy
from plinto_core.document.press_view import page_as_meant, page_as_printed
from plinto_core.document.report_page import report_pdf, summary_of
from plinto_core.errors import BadDocument
from plinto_server import store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.api.requests import number
from plinto_server.apps.policies import services
from plinto_server.apps.policies.models import Document, Policy, PolicyRun
from plinto_server.apps.policies.pages import page_picture
from plinto_server.apps.profiles.services import load_profile
from plinto_server.apps.queue.services import cancel
from plinto_server.errors import Conflict

LARGEST = 4 << 30


@extend_schema_field(OutputPolicy)
class PolicyField(serializers.JSONField):
    """A policy as the core writes it."""


class PolicyData(serializers.ModelSerializer):
    policy = PolicyField(source="present")
    version = serializers.SerializerMethodField()

    class Meta:
        model = Policy
        fields = ["id", "name", "policy", "version", "updated"]

    def get_version(self, policy: Policy) -> int:
        return len(policy.versions)


class DocumentData(serializers.ModelSerializer):
    class Meta:
        model = Document
        fields = ["id", "file_name", "size", "pages", "created"]


class DocumentUpload(serializers.Serializer):
    file = serializers.FileField()


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
    seconds = serializers.FloatField()

    @extend_schema_field(
        serializers.ListField(child=serializers.ListField(child=serializers.CharField()))
    )
    def get_summary(self, report: dict[str, Any]) -> list[list[str]]:
        """Names and values of what holds for the whole document."""
        return summary_of(report)


class PolicyRunData(serializers.ModelSerializer):
    state = serializers.ChoiceField(["waiting", "running", "done", "failed", "cancelled"])
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
    document = serializers.PrimaryKeyRelatedField(queryset=Document.objects.all())
    policy = PolicyField()
    dry = serializers.BooleanField()


def own_policy(request: Request, pk: int) -> Policy:
    return get_object_or_404(Policy, pk=pk, owner=request.user)


def own_run(request: Request, pk: int) -> PolicyRun:
    rows = PolicyRun.objects.select_related("document")
    return get_object_or_404(rows, pk=pk, document__owner=request.user)


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


class DocumentList(APIView):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=DocumentData(many=True), operation_id="documents_list")
    def get(self, request: Request) -> Response:
        """One's own documents, newest first."""
        return Response(DocumentData(Document.objects.filter(owner=request.user), many=True).data)

    @extend_schema(request=DocumentUpload, responses=DocumentData, operation_id="documents_take")
    def post(self, request: Request) -> Response:
        """Take in a PDF."""
        given = DocumentUpload(data=request.data)
        given.is_valid(raise_exception=True)
        file = given.validated_data["file"]
        if file.size > LARGEST:
            raise BadDocument("The file is larger than 4 GB.")
        with store.received(file) as path:
            made = services.take_document(request.user, path, file.name)
        return Response(DocumentData(made).data, status=201)


class DocumentPage(APIView):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="documents_page",
        parameters=[OpenApiParameter("edge", int)],
    )
    def get(self, request: Request, pk: int, page: int) -> HttpResponse:
        """A page as a picture, to find objects on."""
        document = get_object_or_404(Document, pk=pk, owner=request.user)
        edge = int(number(request, "edge", 800, 16, 2000))
        png, size = page_picture(store.path_of(document.sha256), page, edge)
        response = HttpResponse(png, content_type="image/png")
        response["Cache-Control"] = "private, max-age=3600"
        response["X-Page-Size"] = f"{size[0]:.2f} {size[1]:.2f}"
        return response


class PolicyRunList(APIView):
    @extend_schema(request=NewRun, responses=PolicyRunData, operation_id="policy_runs_start")
    def post(self, request: Request) -> Response:
        """Start a dry or a real run of a policy on a document."""
        given = NewRun(data=request.data)
        given.is_valid(raise_exception=True)
        document = given.validated_data["document"]
        if document.owner_id != request.user.pk:
            raise exceptions.NotFound("There is no such document.")
        run = services.start_run(
            document, given.validated_data["policy"], dry=given.validated_data["dry"]
        )
        return Response(PolicyRunData(run).data, status=201)


class PolicyRunDetail(APIView):
    @extend_schema(responses=PolicyRunData, operation_id="policy_runs_read")
    def get(self, request: Request, pk: int) -> Response:
        """How far a run is, and its report."""
        return Response(PolicyRunData(own_run(request, pk)).data)


class PolicyRunCancel(APIView):
    @extend_schema(request=None, responses=PolicyRunData, operation_id="policy_runs_cancel")
    def post(self, request: Request, pk: int) -> Response:
        """Ask a run to stop."""
        return Response(PolicyRunData(cancel(own_run(request, pk))).data)


class PolicyRunReport(APIView):
    @extend_schema(
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
        operation_id="policy_runs_report",
    )
    def get(self, request: Request, pk: int, form: str) -> HttpResponse:
        """The whole report of a run, as data or as pages."""
        run = own_run(request, pk)
        if not run.report:
            raise Conflict("The run has no report yet.")
        if form == "json":
            body: str | bytes = json.dumps(run.report, indent=2)
        else:
            body = report_pdf(run.report)
        response = HttpResponse(body, content_type=f"application/{form}")
        response["Content-Disposition"] = f'attachment; filename="preflight.{form}"'
        return response


class PolicyRunPage(APIView):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="policy_runs_page",
        parameters=[
            OpenApiParameter("side", str, enum=["meant", "printed"]),
            OpenApiParameter("edge", int),
        ],
    )
    def get(self, request: Request, pk: int, page: int) -> HttpResponse:
        """A page as its colours are meant, or as the destination prints it under the policy."""
        run = own_run(request, pk)
        draw = page_as_meant if request.query_params.get("side") == "meant" else page_as_printed
        policy = parse_policy(run.policy)
        copy = draw(store.path_of(run.document.sha256), page, policy, load_profile)
        png, size = page_picture(copy, 1, int(number(request, "edge", 800, 16, 2000)))
        response = HttpResponse(png, content_type="image/png")
        response["Cache-Control"] = "private, max-age=3600"
        response["X-Page-Size"] = f"{size[0]:.2f} {size[1]:.2f}"
        return response


class PolicyRunFile(APIView):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY}, operation_id="policy_runs_file"
    )
    def get(self, request: Request, pk: int) -> FileResponse:
        """The document that came out."""
        run = own_run(request, pk)
        if run.state != PolicyRun.DONE or not run.result_sha256:
            raise Conflict("The run has made no file.")
        return FileResponse(
            store.path_of(run.result_sha256).open("rb"),
            as_attachment=True,
            filename=run.file_name,
            content_type="application/pdf",
        )
