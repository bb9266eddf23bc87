"""Strips of proofs, read and judged: on the bench, from files, anew, taken out."""

from __future__ import annotations

import json

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import exceptions, serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.proofs import ProofTolerances, parse_tolerances
from plinto_core.proofs.page import judgement_pdf
from plinto_core.swatches.files import write_swatches
from plinto_core.swatches.swatches import swatches
from plinto_server import access
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.proofs import services
from plinto_server.apps.proofs.api import ReadingData, own_proof
from plinto_server.apps.proofs.models import ProofReading
from plinto_server.removal import remove, restore
from plinto_server.requests import Own, View, body
from plinto_server.schema import CoreField
from plinto_server.uploads import Upload, given_file

LARGEST = 16 << 20


class BenchReading(serializers.Serializer):
    """printed_on : the condition whose simulator prints, None for the proofer itself; noise : read as
    the bench instrument reads, else without noise."""

    printed_on = Own(
        queryset=PrintingCondition.objects.all(), required=False, allow_null=True, default=None
    )
    noise = serializers.BooleanField(default=True)
    tolerances = CoreField(ProofTolerances)


class JudgedBy(serializers.Serializer):
    tolerances = CoreField(ProofTolerances)


def own_reading(request: Request, pk: int) -> ProofReading:
    found = ProofReading.objects.select_related("proof__proofer__profile")
    return access.own(request.user, ProofReading, pk, found.filter(proof__removed=None))


class ProofReadings(View):
    @extend_schema(request=BenchReading, responses=ReadingData, operation_id="proofs_read_bench")
    def post(self, request: Request, pk: int) -> Response:
        """Print the strip on a press simulator, read it with the bench instrument, judge it."""
        proof = own_proof(request, pk)
        given = body(request, BenchReading)
        made = services.read_on_bench(
            proof, given["printed_on"] or proof.proofer, parse_tolerances(given["tolerances"]),
            noise=given["noise"],
        )  # fmt: skip
        return Response(ReadingData(made).data, status=201)


class ProofReadingFile(View):
    parser_classes = [MultiPartParser]

    @extend_schema(
        request={"multipart/form-data": Upload},
        responses=ReadingData,
        operation_id="proofs_read_file",
        parameters=[
            OpenApiParameter("tolerances", str, required=True, description="JSON of a set")
        ],
    )
    def post(self, request: Request, pk: int) -> Response:
        """Judge the readings of a measured file: CGATS text, CSV or CxF3."""
        proof = own_proof(request, pk)
        try:
            asked = json.loads(request.query_params.get("tolerances", ""))
        except (ValueError, RecursionError) as error:
            raise exceptions.ValidationError("The tolerances are not JSON.") from error
        file = given_file(request, largest=LARGEST)
        name = file.name or "file"
        made = services.read_file(proof, file.read(), name, parse_tolerances(asked))
        return Response(ReadingData(made).data, status=201)


class ReadingDetail(View):
    @extend_schema(responses=ReadingData, operation_id="proof_readings_read")
    def get(self, request: Request, pk: int) -> Response:
        """One reading, judged."""
        return Response(ReadingData(own_reading(request, pk)).data)

    @extend_schema(responses={204: None}, operation_id="proof_readings_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a reading out of the history; it can be restored."""
        remove(own_reading(request, pk))
        return Response(status=204)


class ReadingRestore(View):
    @extend_schema(request=None, responses=ReadingData, operation_id="proof_readings_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(ReadingData(restore(access.person(request), ProofReading, pk)).data)


class ReadingJudge(View):
    @extend_schema(request=JudgedBy, responses=ReadingData, operation_id="proof_readings_judge")
    def post(self, request: Request, pk: int) -> Response:
        """Judge the same reading by other tolerances."""
        reading = own_reading(request, pk)
        asked = parse_tolerances(body(request, JudgedBy)["tolerances"])
        return Response(ReadingData(services.judge_anew(reading, asked)).data)


class ReadingReport(View):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
        operation_id="proof_readings_report",
    )
    def get(self, request: Request, pk: int, kind: str) -> HttpResponse:
        """The judgement as pages, or the colours that were read as CGATS text."""
        reading = own_reading(request, pk)
        report = services.report_of(reading.proof)
        if kind == "txt":
            listed = swatches("Lab ", reading.labs, [p.name for p in report.patches])
            response = HttpResponse(write_swatches(listed, "cgats"), content_type="text/plain")
        else:
            when = f"{reading.created:%Y-%m-%d %H:%M} UTC"
            how = "printed on" if reading.way == "bench" else "from the file"
            pages = judgement_pdf(
                report, services.judgement_of(reading), f"Read {when}, {how} {reading.by}."
            )
            response = HttpResponse(pages, content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="proof-{reading.pk}.{kind}"'
        return response
