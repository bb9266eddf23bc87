"""Deliveries: start, watch, cancel, run again, download."""

from __future__ import annotations

import json

from django.http import FileResponse, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.recipes import Recipe
from plinto_core.recipes.report import ConversionReport
from plinto_core.recipes.ticket import ticket_pdf
from plinto_server import access, store
from plinto_server.apps.artwork.api import FindingData
from plinto_server.apps.deliveries import services
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.jobs.api.requests import CHANGES, own_destination, own_job, recipe_of
from plinto_server.apps.work.acts import cancel
from plinto_server.apps.work.api import STATES, seconds_left
from plinto_server.errors import Conflict
from plinto_server.requests import View, body
from plinto_server.schema import CoreField

TYPES = {
    "tif": "image/tiff",
    "jpg": "image/jpeg",
    "png": "image/png",
    "pdf": "application/pdf",
    "zip": "application/zip",
}


class DeliveryData(serializers.ModelSerializer):
    recipe = CoreField(Recipe, complete=True)
    state = serializers.ChoiceField(STATES)
    seconds_left = serializers.SerializerMethodField()
    tac_max = serializers.SerializerMethodField()
    de00_mean = serializers.SerializerMethodField()

    class Meta:
        model = Run
        fields = [
            "id",
            "file_name",
            "state",
            "progress",
            "seconds_left",
            "result_size",
            "error",
            "recipe",
            "corrected",
            "tac_max",
            "de00_mean",
            "created",
            "finished",
        ]

    def get_seconds_left(self, run: Run) -> float | None:
        return seconds_left(run)

    def get_tac_max(self, run: Run) -> float | None:
        return ConversionReport.model_validate(run.report).tac.max if run.report else None

    def get_de00_mean(self, run: Run) -> float | None:
        return ConversionReport.model_validate(run.report).de00.mean if run.report else None


def own_run(request: Request, pk: int) -> Run:
    rows = Run.objects.select_related("destination__job__artwork", "destination__condition")
    return access.own(request.user, Run, pk, rows)


class DeliveryList(View):
    @extend_schema(responses=DeliveryData(many=True), operation_id="deliveries_list")
    def get(self, request: Request, pk: int) -> Response:
        """Deliveries of a destination, newest first."""
        return Response(DeliveryData(own_destination(request, pk).runs.all()[:50], many=True).data)

    @extend_schema(request=None, responses=DeliveryData, operation_id="deliveries_start")
    def post(self, request: Request, pk: int) -> Response:
        """Start a delivery of the present recipe."""
        return Response(
            DeliveryData(services.start_delivery(own_destination(request, pk))).data, status=201
        )


class CorrectedSpace(serializers.Serializer):
    """space : a profile by reference, None for the space that the artwork is corrected in."""

    space = serializers.CharField(max_length=64, required=False, allow_null=True, default=None)


class CorrectedDelivery(View):
    @extend_schema(
        request=CorrectedSpace, responses=DeliveryData, operation_id="deliveries_corrected"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Start a delivery of the artwork with its corrections, for no press, to be worked on elsewhere."""
        space = body(request, CorrectedSpace)["space"]
        run = services.start_corrected(own_destination(request, pk), space)
        return Response(DeliveryData(run).data, status=201)


class JobDeliveries(View):
    @extend_schema(request=None, responses=DeliveryData(many=True), operation_id="jobs_deliver_all")
    def post(self, request: Request, pk: int) -> Response:
        """Start a delivery for every destination of a job."""
        runs = services.start_all(own_job(request, pk))
        return Response(DeliveryData(runs, many=True).data, status=201)


class CheckData(serializers.Serializer):
    """measured : whether the findings say all; without it inks and colours are not judged yet."""

    file_name = serializers.CharField()
    measured = serializers.BooleanField()
    findings = FindingData(many=True)


class DeliveryCheck(View):
    @extend_schema(responses=CheckData, operation_id="destinations_check", parameters=[CHANGES])
    def get(self, request: Request, pk: int) -> Response:
        """What would surprise the receiver, and the name of the next file."""
        destination = own_destination(request, pk)
        recipe = recipe_of(request, destination)
        name = services.name_of(destination, recipe)
        found = [vars(f) for f in services.findings(destination, recipe)]
        measured = "intent" in services.figures_of(destination, recipe)
        said = {"file_name": name, "measured": measured, "findings": found}
        return Response(CheckData(said).data)


class DeliveryTicket(View):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
        operation_id="deliveries_ticket",
    )
    def get(self, request: Request, pk: int, kind: str) -> HttpResponse:
        """The print ticket, as a page or as data."""
        ticket = services.ticket_of(own_run(request, pk))
        if kind == "json":
            text = json.dumps(ticket.as_data(), indent=2, ensure_ascii=False)
            response = HttpResponse(text, content_type="application/json")
        else:
            response = HttpResponse(ticket_pdf(ticket), content_type="application/pdf")
        response["Content-Disposition"] = f'attachment; filename="ticket.{kind}"'
        return response


class DeliveryReport(View):
    @extend_schema(responses=ConversionReport, operation_id="deliveries_report")
    def get(self, request: Request, pk: int) -> Response:
        """What was done and measured."""
        return Response(own_run(request, pk).report)


class DeliveryDetail(View):
    @extend_schema(responses=DeliveryData, operation_id="deliveries_read")
    def get(self, request: Request, pk: int) -> Response:
        """One delivery and how far it is."""
        return Response(DeliveryData(own_run(request, pk)).data)


class DeliveryCancel(View):
    @extend_schema(request=None, responses=DeliveryData, operation_id="deliveries_cancel")
    def post(self, request: Request, pk: int) -> Response:
        """Ask a delivery to stop."""
        return Response(DeliveryData(cancel(own_run(request, pk))).data)


class DeliveryAgain(View):
    @extend_schema(request=None, responses=DeliveryData, operation_id="deliveries_again")
    def post(self, request: Request, pk: int) -> Response:
        """Run the recipe of a former delivery again."""
        run = own_run(request, pk)
        return Response(DeliveryData(services.again(run)).data, status=201)


class DeliveryFile(View):
    @extend_schema(
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
        operation_id="deliveries_file",
    )
    def get(self, request: Request, pk: int) -> FileResponse:
        """The delivered file."""
        run = own_run(request, pk)
        if run.state != Run.DONE:
            raise Conflict("The delivery is not finished.")
        kind = TYPES[run.file_name.rsplit(".", 1)[1]]
        return FileResponse(
            store.path_of(run.result_sha256).open("rb"),
            as_attachment=True,
            filename=run.file_name,
            content_type=kind,
        )
