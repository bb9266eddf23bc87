"""Dry and real runs: how far they are, their reports, pages and files."""

from __future__ import annotations

import json
from pathlib import Path

from django.http import FileResponse, HttpResponse
from django.utils.http import content_disposition_header
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.reports.report_page import report_pdf
from plinto_server import store
from plinto_server.apps.policies import services
from plinto_server.apps.policies.api.data import NewRun, PlatesData, PolicyRunData, own_run
from plinto_server.apps.policies.api.documents import EDGE
from plinto_server.apps.policies.models import PolicyRun
from plinto_server.apps.policies.pages import (
    page_response,
    plate_figures,
    plate_picture,
    run_page,
    tac_picture,
)
from plinto_server.apps.work.acts import cancel
from plinto_server.errors import Conflict
from plinto_server.parameters import Choice
from plinto_server.requests import View, body

SIDE = Choice("side", ("meant", "printed"), "printed")


class PolicyRunList(View):
    @extend_schema(request=NewRun, responses=PolicyRunData, operation_id="policy_runs_start")
    def post(self, request: Request) -> Response:
        """Start a dry or a real run of a policy on a document."""
        run = services.start_run(**body(request, NewRun))
        return Response(PolicyRunData(run).data, status=201)


class PolicyRunDetail(View):
    @extend_schema(responses=PolicyRunData, operation_id="policy_runs_read")
    def get(self, request: Request, pk: int) -> Response:
        """How far a run is, and its report."""
        return Response(PolicyRunData(own_run(request, pk)).data)


class PolicyRunCancel(View):
    @extend_schema(request=None, responses=PolicyRunData, operation_id="policy_runs_cancel")
    def post(self, request: Request, pk: int) -> Response:
        """Ask a run to stop."""
        return Response(PolicyRunData(cancel(own_run(request, pk))).data)


class PolicyRunReport(View):
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
            body = report_pdf(PolicyReport.model_validate(run.report))
        response = HttpResponse(body, content_type=f"application/{form}")
        response["Content-Disposition"] = f'attachment; filename="preflight.{form}"'
        return response


class PolicyRunPage(View):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="policy_runs_page",
        parameters=[
            SIDE,
            EDGE,
        ],
    )
    def get(self, request: Request, pk: int, page: int) -> HttpResponse:
        """A page as its colours are meant, or as the destination prints it under the policy."""
        run = own_run(request, pk)
        meant = SIDE.of(request) == "meant"
        edge = int(EDGE.of(request))
        return page_response(*run_page(run, page, edge, meant=meant))


class PolicyRunPlates(View):
    @extend_schema(responses=PlatesData, operation_id="policy_runs_plates")
    def get(self, request: Request, pk: int, page: int) -> Response:
        """The plates of a page: their names, coverage and total ink."""
        return Response(PlatesData(plate_figures(own_run(request, pk), page)).data)


class PolicyRunPlate(View):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY},
        operation_id="policy_runs_plate",
        parameters=[OpenApiParameter("plates", str, description="Numbers from 0, with commas.")],
    )
    def get(self, request: Request, pk: int, page: int) -> HttpResponse:
        """One plate of a page in grey, or several as their inks."""
        given = request.query_params.get("plates", "")
        chosen = [int(v) for v in given.split(",") if v.isdigit()][:16]
        return page_response(*plate_picture(own_run(request, pk), page, chosen))


class PolicyRunTac(View):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY}, operation_id="policy_runs_tac"
    )
    def get(self, request: Request, pk: int, page: int) -> HttpResponse:
        """The total ink of a page in greys, what exceeds the limit marked."""
        return page_response(*tac_picture(own_run(request, pk), page))


class PolicyRunNotes(View):
    @extend_schema(
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
        operation_id="policy_runs_notes",
    )
    def get(self, request: Request, pk: int) -> HttpResponse:
        """The document as it came, with the report as notes on its pages."""
        run = own_run(request, pk)
        if not run.report:
            raise Conflict("The run has no report yet.")
        response = HttpResponse(services.notes_on(run), content_type="application/pdf")
        name = f"{Path(run.document.file_name).stem} notes.pdf"
        response["Content-Disposition"] = content_disposition_header(True, name) or ""
        return response


class PolicyRunFile(View):
    @extend_schema(
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
        operation_id="policy_runs_file",
    )
    def get(self, request: Request, pk: int) -> FileResponse:
        """The document or picture that came out."""
        run = own_run(request, pk)
        if run.state != PolicyRun.DONE or not run.result_sha256:
            raise Conflict("The run has made no file.")
        return FileResponse(
            store.path_of(run.result_sha256).open("rb"),
            as_attachment=True,
            filename=run.file_name,
        )
