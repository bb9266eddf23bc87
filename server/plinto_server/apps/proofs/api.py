"""Proof prints: start, list, read, judge, take out as files."""

from __future__ import annotations

import json
from typing import Any

from django.db.models import QuerySet
from django.http import FileResponse, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.proofs import (
    Judgement,
    ProofReport,
    ProofSettings,
    parse_proof_settings,
)
from plinto_core.recipes.ticket import ticket_pdf
from plinto_server import access, store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.api.requests import own_destination
from plinto_server.apps.policies.models import PolicyRun
from plinto_server.apps.proofs import services
from plinto_server.apps.proofs.models import ProofPrint, ProofReading
from plinto_server.apps.work.acts import cancel
from plinto_server.apps.work.api import STATES, seconds_left
from plinto_server.removal import remove, restore
from plinto_server.requests import Own, View, body
from plinto_server.schema import CoreField, ReportField

MOST = 500
"""Proofs in a list, the newest ones."""
KINDS = {"tif": "image/tiff", "pdf": "application/pdf"}


class ReadingBrief(serializers.ModelSerializer):
    """A reading in few figures, for lists and for the drift; dE00 of paper, mean and greatest."""

    passes = serializers.SerializerMethodField()
    figures = serializers.SerializerMethodField()
    tolerances = serializers.SerializerMethodField()

    class Meta:
        model = ProofReading
        fields = ["id", "way", "by", "noise", "created", "passes", "figures", "tolerances"]

    def get_passes(self, reading: ProofReading) -> bool | None:
        found = reading.judgement["passes"]
        return None if found is None else bool(found)

    @extend_schema_field(serializers.DictField(child=serializers.FloatField()))
    def get_figures(self, reading: ProofReading) -> dict[str, float]:
        return {c["key"]: c["value"] for c in reading.judgement["criteria"]}

    def get_tolerances(self, reading: ProofReading) -> str:
        return str(reading.judgement["tolerances"]["name"])


class ReadingData(ReadingBrief):
    judgement = ReportField(Judgement)

    class Meta(ReadingBrief.Meta):
        fields = [*ReadingBrief.Meta.fields, "judgement"]


class ProofBrief(serializers.ModelSerializer):
    state = serializers.ChoiceField(STATES)
    proofer_name = serializers.CharField(source="proofer.name")
    readings = serializers.SerializerMethodField()
    seconds_left = serializers.SerializerMethodField()

    class Meta:
        model = ProofPrint
        fields = [
            "id", "title", "press_name", "press", "proofer", "proofer_name", "state", "progress",
            "seconds_left", "error", "file_name", "result_size", "created", "destination", "run", "page",
            "readings",
        ]  # fmt: skip

    @extend_schema_field(ReadingBrief(many=True))
    def get_readings(self, proof: ProofPrint) -> Any:
        rows = [r for r in proof.readings.all() if r.removed is None]
        return ReadingBrief(rows, many=True).data

    def get_seconds_left(self, proof: ProofPrint) -> float | None:
        return seconds_left(proof)


class ProofData(ProofBrief):
    settings = CoreField(ProofSettings, complete=True)
    lines = serializers.ListField(child=serializers.CharField())
    made = serializers.SerializerMethodField()
    bench = serializers.SerializerMethodField()
    job = serializers.SerializerMethodField()

    class Meta(ProofBrief.Meta):
        fields = [*ProofBrief.Meta.fields, "settings", "lines", "made", "bench", "job"]

    @extend_schema_field(CoreField(ProofReport, allow_null=True))
    def get_made(self, proof: ProofPrint) -> Any:
        return proof.report or None

    def get_bench(self, proof: ProofPrint) -> bool:
        """Whether the proofer has a simulator that prints the strip."""
        return services.simulated(proof.proofer) is not None

    def get_job(self, proof: ProofPrint) -> int | None:
        return proof.destination.job_id if proof.destination else None


class NewProof(serializers.Serializer):
    proofer = Own(queryset=PrintingCondition.objects.all())
    settings = CoreField(ProofSettings, required=False)


class NewPageProof(NewProof):
    page = serializers.IntegerField(min_value=1, max_value=100_000, default=1)


def rows() -> QuerySet[ProofPrint]:
    return ProofPrint.objects.select_related(
        "proofer__profile", "destination", "run"
    ).prefetch_related("readings")


def own_proof(request: Request, pk: int) -> ProofPrint:
    return access.own(request.user, ProofPrint, pk, rows())


class ProofList(View):
    @extend_schema(responses=ProofBrief(many=True), operation_id="proofs_list")
    def get(self, request: Request) -> Response:
        """One's own proofs with their readings, newest first."""
        found = access.mine(request.user, ProofPrint, rows())[:MOST]
        return Response(ProofBrief(found, many=True).data)


class JobProofs(View):
    @extend_schema(request=NewProof, responses=ProofData, operation_id="destinations_proof")
    def post(self, request: Request, pk: int) -> Response:
        """Start a proof of a destination's present recipe on another condition."""
        destination = own_destination(request, pk)
        given = body(request, NewProof)
        settings = parse_proof_settings(given.get("settings", {}))
        made = services.start_of_job(destination, given["proofer"], settings)
        return Response(ProofData(own_proof(request, made.pk)).data, status=201)


class PageProofs(View):
    @extend_schema(request=NewPageProof, responses=ProofData, operation_id="policy_runs_proof")
    def post(self, request: Request, pk: int) -> Response:
        """Start a proof of a page of a document as it prints under a policy."""
        found = PolicyRun.objects.select_related("document__owner")
        run = access.own(request.user, PolicyRun, pk, found)
        given = body(request, NewPageProof)
        settings = parse_proof_settings(given.get("settings", {}))
        made = services.start_of_page(run, given["page"], given["proofer"], settings)
        return Response(ProofData(own_proof(request, made.pk)).data, status=201)


class ProofDetail(View):
    @extend_schema(responses=ProofData, operation_id="proofs_read")
    def get(self, request: Request, pk: int) -> Response:
        """One proof: how far it is, what it holds, how it was read."""
        return Response(ProofData(own_proof(request, pk)).data)

    @extend_schema(responses={204: None}, operation_id="proofs_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a proof and its readings out of the list; it can be restored."""
        proof = own_proof(request, pk)
        if not proof.has_ended:
            cancel(proof)
        remove(proof)
        return Response(status=204)


class ProofRestore(View):
    @extend_schema(request=None, responses=ProofData, operation_id="proofs_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        found = restore(access.person(request), ProofPrint, pk)
        return Response(ProofData(own_proof(request, found.pk)).data)


class ProofCancel(View):
    @extend_schema(request=None, responses=ProofData, operation_id="proofs_cancel")
    def post(self, request: Request, pk: int) -> Response:
        """Ask the making of a proof to stop."""
        cancel(own_proof(request, pk))
        return Response(ProofData(own_proof(request, pk)).data)


class ProofFile(View):
    @extend_schema(
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
        operation_id="proofs_file",
    )
    def get(self, request: Request, pk: int) -> FileResponse:
        """The file to print on the proofer."""
        proof = own_proof(request, pk)
        services.report_of(proof)
        return FileResponse(
            store.path_of(proof.result_sha256).open("rb"),
            as_attachment=True,
            filename=proof.file_name,
            content_type=KINDS[proof.file_name.rsplit(".", 1)[1]],
        )


class ProofTicket(View):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY}, operation_id="proofs_ticket"
    )
    def get(self, request: Request, pk: int, kind: str) -> HttpResponse:
        """What the operator of the proofer must set, as a page or as data."""
        ticket = services.ticket_of(own_proof(request, pk))
        if kind == "json":
            text = json.dumps(ticket.as_data(), indent=2, ensure_ascii=False)
            response = HttpResponse(text, content_type="application/json")
        else:
            response = HttpResponse(ticket_pdf(ticket), content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="proof-ticket.{kind}"'
        return response
