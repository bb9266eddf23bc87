"""Jobs and their destinations: list, make, re-target, points."""

from __future__ import annotations

from typing import Any

from django.db.models import QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server import access
from plinto_server.apps.jobs import data, points, services, swatches
from plinto_server.apps.jobs.api.requests import CHANGES, own_destination, own_job, recipe_of
from plinto_server.apps.jobs.figures import at_points
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.jobs.pictures import replace_artwork
from plinto_server.apps.profiles.services import usable_profile
from plinto_server.removal import UseData, remove, restore, uses
from plinto_server.requests import View, body
from plinto_server.revisions import answer
from plinto_server.uploads import Upload, given_file


def listed() -> QuerySet[Job]:
    """Jobs with all that a list shows of them, in a few queries."""
    rows = Job.objects.select_related("artwork", "owner")
    return rows.prefetch_related("destinations__condition__profile", "looks", "former__artwork")


def shown(request: Request, pk: int) -> Any:
    """A job as it is now."""
    job = access.own(request.user, Job, pk, listed())
    return data.JobData(job, context={"request": request}).data


class JobList(View):
    @extend_schema(responses=data.JobData(many=True), operation_id="jobs_list")
    def get(self, request: Request) -> Response:
        """One's own jobs, newest first."""
        jobs = access.mine(request.user, Job, listed())
        return Response(data.JobData(jobs, many=True, context={"request": request}).data)

    @extend_schema(request=data.NewJob, responses=data.JobData, operation_id="jobs_create")
    def post(self, request: Request) -> Response:
        """Make a job of an artwork for one or more conditions."""
        job = services.create_job(access.person(request), **body(request, data.NewJob))
        return Response(shown(request, job.pk), status=201)


class JobDetail(View):
    @extend_schema(responses=data.JobData, operation_id="jobs_read")
    def get(self, request: Request, pk: int) -> Response:
        """One job."""
        return Response(shown(request, pk))

    @extend_schema(request=data.JobName, responses=data.JobData, operation_id="jobs_rename")
    def patch(self, request: Request, pk: int) -> Response:
        """Give a job another name."""
        own_job(request, pk)
        Job.objects.filter(pk=pk).update(**body(request, data.JobName))
        return Response(shown(request, pk))

    @extend_schema(responses={204: None}, operation_id="jobs_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a job out of the list; its artwork and deliveries stay, and it can be restored."""
        remove(own_job(request, pk))
        return Response(status=204)


class JobRestore(View):
    @extend_schema(request=None, responses=data.JobData, operation_id="jobs_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(shown(request, restore(access.person(request), Job, pk).pk))


class JobUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="jobs_uses")
    def get(self, request: Request, pk: int) -> Response:
        """What leans on a job."""
        return Response(UseData(uses(own_job(request, pk), access.person(request)), many=True).data)


class Look(View):
    @extend_schema(request=data.LookData, responses=data.LookData, operation_id="jobs_look")
    def put(self, request: Request, pk: int) -> Response:
        """Keep how one looks at a job: screen, paper, veil, comparison."""
        job = own_job(request, pk)
        look = body(request, data.LookData)
        usable_profile(access.person(request), look["display"], "display")
        services.keep_look(access.person(request), job, dict(look))
        return Response(data.LookData(look).data)


class JobQuestion(View):
    @extend_schema(request=data.AnswerGiven, responses=data.JobData, operation_id="jobs_answer")
    def post(self, request: Request, pk: int) -> Response:
        """Answer what the house rules ask about the artwork's colours."""
        given = body(request, data.AnswerGiven)
        services.answer_question(own_job(request, pk), given["answer"], given.get("profile"))
        return Response(shown(request, pk))


class JobArtwork(View):
    @extend_schema(
        request=data.OtherPicture, responses=data.JobData, operation_id="jobs_replace_artwork"
    )
    def post(self, request: Request, pk: int) -> Response:
        """Put another picture of the same shape under a job: worked on elsewhere, or a former one.

        Points, regions and recipes stay, and the former picture can be had again.
        """
        job = own_job(request, pk)
        given = body(request, data.OtherPicture)
        replace_artwork(job, given["artwork"], corrections_in_it=given["corrections_in_it"])
        return Response(shown(request, pk))


class JobPoints(View):
    @extend_schema(
        request=data.PointData(many=True), responses=data.JobData, operation_id="jobs_points"
    )
    def put(self, request: Request, pk: int) -> Response:
        """Replace the job's sample points, at most 20."""
        given = [dict(p) for p in body(request, data.PointData, many=True)]
        points.set_points(own_job(request, pk), given)
        return Response(shown(request, pk))


class JobTargets(View):
    @extend_schema(request=Upload, responses=data.JobData, operation_id="jobs_targets")
    def post(self, request: Request, pk: int) -> Response:
        """Take a list of measured colours (CGATS, CxF, CSV) as targets of the sample points, by name or
        in order."""
        own_job(request, pk)
        file = given_file(request, largest=points.LARGEST_LIST)
        points.take_targets(pk, file.read(), file.name or "file")
        return Response(shown(request, pk))


class DestinationList(View):
    @extend_schema(
        request=data.NewDestination,
        responses=data.DestinationData,
        operation_id="destinations_create",
    )
    def post(self, request: Request, pk: int) -> Response:
        """Add a condition to a job."""
        job = own_job(request, pk)
        given = body(request, data.NewDestination)
        made = services.add_destination(job, given["condition"])
        return answer(data.DestinationData(own_destination(request, made.pk)).data, made, 201)


class Retarget(View):
    @extend_schema(
        request=data.RetargetTo,
        responses=data.DestinationData,
        operation_id="destinations_retarget",
    )
    def post(self, request: Request, pk: int) -> Response:
        """The same recipe for another condition, with notes on what was adapted."""
        old = own_destination(request, pk)
        made = services.retarget_destination(old, body(request, data.RetargetTo)["condition"])
        return answer(data.DestinationData(own_destination(request, made.pk)).data, made, 201)


class Notes(View):
    @extend_schema(
        request=None, responses=data.DestinationData, operation_id="destinations_notes_read"
    )
    def delete(self, request: Request, pk: int) -> Response:
        """The notes of re-targeting have been read."""
        return Response(
            data.DestinationData(services.dismiss_notes(own_destination(request, pk))).data
        )


class Points(View):
    @extend_schema(
        responses=data.Readout(many=True), operation_id="destinations_points", parameters=[CHANGES]
    )
    def get(self, request: Request, pk: int) -> Response:
        """All numbers at the job's sample points."""
        destination = own_destination(request, pk)
        return Response(at_points(destination, recipe_of(request, destination)))


class PointsFile(View):
    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.BINARY},
        operation_id="destinations_swatches",
        parameters=[CHANGES],
    )
    def get(self, request: Request, pk: int, kind: str) -> HttpResponse:
        """The sample points as a swatch list, CSV or CGATS text."""
        destination = own_destination(request, pk)
        if not destination.job.points:
            raise exceptions.NotFound("The job has no sample points.")
        found = at_points(destination, recipe_of(request, destination))
        names = points.named(destination.job)
        text = swatches.as_csv(names, found) if kind == "csv" else swatches.as_cgats(names, found)
        response = HttpResponse(text, content_type="text/csv" if kind == "csv" else "text/plain")
        response["Content-Disposition"] = f'attachment; filename="swatches.{kind}"'
        return response
