"""Jobs and their destinations: list, make, re-target, points."""

from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.utils import OpenApiTypes, extend_schema
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_server.apps.jobs import data, services, swatches
from plinto_server.apps.jobs.api.requests import CHANGES, own_destination, own_job, recipe_of
from plinto_server.apps.jobs.figures import readouts
from plinto_server.apps.jobs.models import Job


class JobList(APIView):
    @extend_schema(responses=data.JobData(many=True), operation_id="jobs_list")
    def get(self, request: Request) -> Response:
        """One's own jobs, newest first."""
        jobs = Job.objects.filter(owner=request.user).select_related("artwork")
        jobs = jobs.prefetch_related("destinations__condition__profile")
        return Response(data.JobData(jobs, many=True).data)

    @extend_schema(request=data.NewJob, responses=data.JobData, operation_id="jobs_create")
    def post(self, request: Request) -> Response:
        """Make a job of an artwork for one or more conditions."""
        given = data.NewJob(data=request.data)
        given.is_valid(raise_exception=True)
        artwork = given.validated_data["artwork"]
        if artwork.owner_id != request.user.pk:
            raise exceptions.NotFound("There is no such artwork.")
        job = services.create_job(request.user, artwork, given.validated_data["conditions"])
        return Response(data.JobData(own_job(request, job.pk)).data, status=201)


class JobDetail(APIView):
    @extend_schema(responses=data.JobData, operation_id="jobs_read")
    def get(self, request: Request, pk: int) -> Response:
        """One job."""
        return Response(data.JobData(own_job(request, pk)).data)

    @extend_schema(responses={204: None}, operation_id="jobs_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Delete a job; its artwork stays."""
        own_job(request, pk).delete()
        return Response(status=204)


class JobQuestion(APIView):
    @extend_schema(request=data.Answer, responses=data.JobData, operation_id="jobs_answer")
    def post(self, request: Request, pk: int) -> Response:
        """Answer what the house rules ask about the artwork's colours."""
        given = data.Answer(data=request.data)
        given.is_valid(raise_exception=True)
        services.answer_question(
            own_job(request, pk),
            given.validated_data["answer"],
            given.validated_data.get("profile"),
        )
        return Response(data.JobData(own_job(request, pk)).data)


class JobPoints(APIView):
    @extend_schema(
        request=data.PointData(many=True), responses=data.JobData, operation_id="jobs_points"
    )
    def put(self, request: Request, pk: int) -> Response:
        """Replace the job's sample points, at most 20."""
        given = data.PointData(data=request.data, many=True)
        given.is_valid(raise_exception=True)
        services.set_points(own_job(request, pk), [dict(p) for p in given.validated_data])
        return Response(data.JobData(own_job(request, pk)).data)


class DestinationList(APIView):
    @extend_schema(
        request=data.NewDestination,
        responses=data.DestinationData,
        operation_id="destinations_create",
    )
    def post(self, request: Request, pk: int) -> Response:
        """Add a condition to a job."""
        given = data.NewDestination(data=request.data)
        given.is_valid(raise_exception=True)
        made = services.add_destination(own_job(request, pk), given.validated_data["condition"])
        return Response(data.DestinationData(own_destination(request, made.pk)).data, status=201)


class Retarget(APIView):
    @extend_schema(
        request=data.RetargetTo,
        responses=data.DestinationData,
        operation_id="destinations_retarget",
    )
    def post(self, request: Request, pk: int) -> Response:
        """The same recipe for another condition, with notes on what was adapted."""
        given = data.RetargetTo(data=request.data)
        given.is_valid(raise_exception=True)
        made = services.retarget_destination(
            own_destination(request, pk), given.validated_data["condition"]
        )
        return Response(data.DestinationData(own_destination(request, made.pk)).data, status=201)


class Notes(APIView):
    @extend_schema(
        request=None, responses=data.DestinationData, operation_id="destinations_notes_read"
    )
    def delete(self, request: Request, pk: int) -> Response:
        """The notes of re-targeting have been read."""
        return Response(
            data.DestinationData(services.dismiss_notes(own_destination(request, pk))).data
        )


class Points(APIView):
    @extend_schema(
        responses=data.Readout(many=True), operation_id="destinations_points", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """All numbers at the job's sample points."""
        destination = own_destination(request, pk)
        places = [(p["x"], p["y"]) for p in destination.job.points]
        return Response(readouts(destination, recipe_of(request, destination), places))


class PointsFile(APIView):
    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.BINARY}, operation_id="destinations_swatches"
    )
    def get(self, request: Request, pk: int, kind: str) -> HttpResponse:
        """The sample points as a swatch list, CSV or CGATS text."""
        destination = own_destination(request, pk)
        if not destination.job.points:
            raise exceptions.NotFound("The job has no sample points.")
        places = [(p["x"], p["y"]) for p in destination.job.points]
        found = readouts(destination, recipe_of(request, destination), places)
        names = [p["name"] or f"Point {i + 1}" for i, p in enumerate(destination.job.points)]
        text = swatches.as_csv(names, found) if kind == "csv" else swatches.as_cgats(names, found)
        response = HttpResponse(text, content_type="text/csv" if kind == "csv" else "text/plain")
        response["Content-Disposition"] = f'attachment; filename="swatches.{kind}"'
        return response
