"""The queue as a whole: every kind of long work in one list, with what may be done to it."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import datetime
from typing import Any

from django.contrib.auth.models import User
from django.http import FileResponse, Http404, HttpResponse
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import (
    OpenApiParameter,
    PolymorphicProxySerializer,
    extend_schema,
)
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.characterise.report import BuildReport
from plinto_core.document.reports.report import PolicyReport
from plinto_core.printing.report import PrintReport
from plinto_core.recipes.report import ConversionReport
from plinto_server import access, store
from plinto_server.apps.work import acts
from plinto_server.apps.work.kinds import KINDS, KindOfWork
from plinto_server.apps.work.models import WatchedWork
from plinto_server.errors import Conflict
from plinto_server.requests import View, body

STATES = ["waiting", "held", "running", "done", "failed", "cancelled"]
OPEN = ["waiting", "held", "running"]
SHOWN = 200
_ACTS: dict[str, Callable[[WatchedWork], WatchedWork]] = {
    "hold": acts.hold,
    "release": acts.release,
    "retry": acts.retry,
    "cancel": acts.cancel,
}


class EntryData(serializers.Serializer):
    kind = serializers.CharField()
    kind_name = serializers.CharField()
    id = serializers.IntegerField()
    title = serializers.CharField()
    detail = serializers.CharField()
    place = serializers.CharField()
    file_name = serializers.CharField()
    state = serializers.ChoiceField(STATES)
    priority = serializers.IntegerField()
    progress = serializers.FloatField()
    seconds_left = serializers.FloatField(allow_null=True)
    seconds = serializers.FloatField(allow_null=True)
    error = serializers.CharField()
    has_file = serializers.BooleanField()
    has_report = serializers.BooleanField()
    result_size = serializers.IntegerField()
    created = serializers.DateTimeField()
    finished = serializers.DateTimeField(allow_null=True)


class PriorityData(serializers.Serializer):
    priority = serializers.IntegerField(min_value=WatchedWork.LOW, max_value=WatchedWork.URGENT)


def seconds_left(row: WatchedWork) -> float | None:
    """What is left of running work, from how long its part so far took."""
    if row.state != row.RUNNING or row.started is None or row.progress < 0.05:
        return None
    spent = (timezone.now() - row.started).total_seconds()
    return round(spent * (1 - row.progress) / row.progress, 1)


def entry(kind: KindOfWork, row: WatchedWork) -> dict[str, Any]:
    """A row as the queue shows it."""
    shown = kind.describe(row)
    took = (row.finished - row.started).total_seconds() if row.finished and row.started else None
    return {
        "kind": kind.key,
        "kind_name": kind.name,
        "id": row.pk,
        "title": shown.title,
        "detail": shown.detail,
        "place": shown.place,
        "file_name": shown.file_name,
        "state": row.state,
        "priority": row.priority,
        "progress": row.progress,
        "seconds_left": seconds_left(row),
        "seconds": round(took, 1) if took is not None else None,
        "error": row.error,
        "has_file": row.state == row.DONE and bool(row.result_sha256),
        "has_report": bool(row.report),
        "result_size": row.result_size,
        "created": row.created,
        "finished": row.finished,
    }


def entries(user: User, *, ended: bool) -> list[dict[str, Any]]:
    """A user's work that is under way, in the order it is taken; or ended, newest first."""
    rows: list[tuple[KindOfWork, WatchedWork]] = []
    for kind in KINDS.values():
        mine = access.mine(user, kind.model)
        mine = mine.select_related(*kind.related) if kind.related else mine
        if ended:
            mine = mine.exclude(state__in=OPEN).filter(kind.recorded)
        else:
            mine = mine.filter(state__in=OPEN)
        rows += [(kind, row) for row in mine[:SHOWN]]

    def when(row: WatchedWork) -> datetime:
        return row.finished or row.created

    if ended:
        rows.sort(key=lambda pair: when(pair[1]), reverse=True)
    else:
        order = {"running": 0, "waiting": 1, "held": 2}
        rows.sort(key=lambda p: (order[p[1].state], -p[1].priority, p[1].created))
    return [entry(kind, row) for kind, row in rows[:SHOWN]]


def own_row(request: Request, key: str, pk: int) -> tuple[KindOfWork, WatchedWork]:
    kind = KINDS.get(key)
    if kind is None:
        raise Http404
    return kind, access.own(request.user, kind.model, pk)


class QueueList(View):
    @extend_schema(
        responses=EntryData(many=True),
        operation_id="queue_list",
        parameters=[OpenApiParameter("ended", bool)],
    )
    def get(self, request: Request) -> Response:
        """Long work under way in the order it is taken, or with ?ended=true what has ended."""
        ended = request.query_params.get("ended") == "true"
        return Response(EntryData(entries(access.person(request), ended=ended), many=True).data)


class QueueAct(View):
    @extend_schema(request=None, responses=EntryData, operation_id="queue_act")
    def post(self, request: Request, kind: str, pk: int, act: str) -> Response:
        """Hold, release, retry or cancel a piece of work."""
        found, row = own_row(request, kind, pk)
        return Response(EntryData(entry(found, _ACTS[act](row))).data)


class QueuePriority(View):
    @extend_schema(request=PriorityData, responses=EntryData, operation_id="queue_priority")
    def put(self, request: Request, kind: str, pk: int) -> Response:
        """Make a piece of work urgent (1), usual (0) or less urgent (-1)."""
        found, row = own_row(request, kind, pk)
        row = acts.set_priority(row, **body(request, PriorityData))
        return Response(EntryData(entry(found, row)).data)


RECORDS: Any = PolymorphicProxySerializer(
    component_name="KeptRecord",
    serializers=list[Any]([PrintReport, PolicyReport, ConversionReport, BuildReport]),
    resource_type_field_name=None,
)
"""The reports that runs are kept with; a recipe or policy is described with what it belongs to."""


class QueueRecord(View):
    @extend_schema(responses={(200, "application/json"): RECORDS}, operation_id="queue_record")
    def get(self, request: Request, kind: str, pk: int, part: str) -> HttpResponse:
        """The report of a run, or the recipe or policy it ran by, as a file."""
        found, row = own_row(request, kind, pk)
        data = _present(found, row) if part == "report" else found.describe(row).settings
        if not data:
            raise Conflict(f"There is no {part} yet.")
        response = HttpResponse(
            json.dumps(data, indent=2, ensure_ascii=False), content_type="application/json"
        )
        response["Content-Disposition"] = f'attachment; filename="{kind}-{pk}-{part}.json"'
        return response


def _present(kind: KindOfWork, row: WatchedWork) -> dict[str, Any] | None:
    """A row's report as its kind writes reports now, whenever it was kept."""
    if not row.report or kind.report is None:
        return row.report or None
    return kind.report.model_validate(row.report).model_dump(mode="json")


class QueueFile(View):
    @extend_schema(
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
        operation_id="queue_file",
    )
    def get(self, request: Request, kind: str, pk: int) -> FileResponse:
        """The file that a piece of work made."""
        found, row = own_row(request, kind, pk)
        if row.state != row.DONE or not row.result_sha256:
            raise Conflict("It has made no file.")
        return FileResponse(
            store.path_of(row.result_sha256).open("rb"),
            as_attachment=True,
            filename=found.describe(row).file_name,
        )
