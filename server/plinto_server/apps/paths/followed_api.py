"""Colours followed along a path: rows and figures, the whole table, the picture after a step."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

import numpy as np
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.errors import BadInput
from plinto_core.paths.figures import FORMULAS, THRESHOLDS
from plinto_core.paths.follow import VIEWS
from plinto_core.paths.model import ColourPath, parse_path
from plinto_core.swatches.files import safe_cell
from plinto_core.swatches.swatches import swatches
from plinto_server import access
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.paths import lists, services
from plinto_server.apps.paths.api import SwatchListData
from plinto_server.apps.paths.models import SwatchList
from plinto_server.apps.paths.pictures import Part, render_map, render_step
from plinto_server.apps.paths.rows import SORTS, FollowedReport, report
from plinto_server.requests import Own, View, body
from plinto_server.schema import CoreField

MOST_ROWS = 500


class AskedFollowing(serializers.Serializer):
    """path : JSON of a colour path; list, job, bar : the colours it begins with, one of the three; bar : the
    outermost numbers of the device it begins with; view : relative to each medium's white, or with it."""

    path = serializers.CharField(max_length=8000)
    list = Own(queryset=SwatchList.objects.all(), required=False, default=None)
    job = Own(queryset=Job.objects.all(), required=False, default=None)
    bar = serializers.BooleanField(required=False, default=False)
    view = serializers.ChoiceField(VIEWS, required=False, default="paper")


class AskedRows(AskedFollowing):
    """first, second : the steps compared, from 0; without them there are no figures. text : part of the
    names shown; beyond : the difference that shown colours lie beyond; start, count : of the rows shown."""

    first = serializers.IntegerField(required=False, default=None, min_value=0, max_value=11)
    second = serializers.IntegerField(required=False, default=None, min_value=0, max_value=11)
    formula = serializers.ChoiceField(FORMULAS, required=False, default="2000")
    thresholds = serializers.CharField(max_length=80, required=False, default="")
    sort = serializers.ChoiceField(SORTS, required=False, default="row")
    descending = serializers.BooleanField(required=False, default=False)
    text = serializers.CharField(max_length=80, required=False, default="", allow_blank=True)
    beyond = serializers.FloatField(required=False, default=0, min_value=0)
    start = serializers.IntegerField(required=False, default=0, min_value=0)
    count = serializers.IntegerField(required=False, default=100, min_value=0, max_value=MOST_ROWS)


class AskedTable(AskedFollowing):
    """steps : which, from 0, with commas; all of them where it is left out."""

    steps = serializers.CharField(max_length=40, required=False, default="")


class AskedPicture(serializers.Serializer):
    """step : the picture after it, from 0; or first and second : a map of their difference. edge : pixels of
    the longer side of the whole picture; or box : left, top, width, height of a region in pixels of the
    artwork with commas between them, and its columns and rows."""

    path = serializers.CharField(max_length=8000)
    job = Own(queryset=Job.objects.all())
    view = serializers.ChoiceField(VIEWS, required=False, default="paper")
    step = serializers.IntegerField(required=False, default=None, min_value=0, max_value=11)
    first = serializers.IntegerField(required=False, default=None, min_value=0, max_value=11)
    second = serializers.IntegerField(required=False, default=None, min_value=0, max_value=11)
    formula = serializers.ChoiceField(FORMULAS, required=False, default="2000")
    edge = serializers.IntegerField(required=False, default=900, min_value=16, max_value=2048)
    box = serializers.CharField(max_length=100, required=False, default="")
    columns = serializers.IntegerField(required=False, default=600, min_value=1, max_value=4096)
    rows = serializers.IntegerField(required=False, default=600, min_value=1, max_value=4096)


class AskedList(serializers.Serializer):
    """step : after which the colours are taken, from 0; lab : their colours instead of their numbers."""

    path = CoreField(ColourPath)
    list = Own(queryset=SwatchList.objects.all())
    step = serializers.IntegerField(min_value=0, max_value=11)
    view = serializers.ChoiceField(VIEWS, required=False, default="paper")
    lab = serializers.BooleanField(required=False, default=False)
    name = serializers.CharField(max_length=200, required=False, default="", allow_blank=True)


def asked(request: Request, serializer: type[serializers.Serializer]) -> Any:
    given = serializer(data=request.query_params.dict(), context={"request": request})
    given.is_valid(raise_exception=True)
    return given.validated_data


def _numbers(text: str, what: str) -> tuple[float, ...]:
    try:
        return tuple(float(part) for part in text.split(",")) if text else ()
    except ValueError as error:
        raise BadInput(f"{what} are numbers with commas between them.") from error


def _path(text: str) -> ColourPath:
    try:
        return parse_path(json.loads(text))
    except (ValueError, RecursionError) as error:
        raise BadInput("The path is not JSON.") from error


def _followed(request: Request, given: Any) -> Any:
    user = access.person(request)
    path = services.find(user, _path(given["path"]))
    named = [given[way] and given[way].pk for way in ("list", "job")]
    if given["bar"] and any(named):
        raise BadInput("Name a list of swatches, a job, or the bar, one of the three.")
    colours = services.bar_of(path) if given["bar"] else services.colours_of(user, *named)
    return path, colours, services.walked(path, colours, given["view"])


class FollowedPath(View):
    @extend_schema(
        responses=FollowedReport, operation_id="colour_paths_follow", parameters=[AskedRows]
    )
    def get(self, request: Request) -> Response:
        """Colours after every step, how far two steps are apart, and some of the rows."""
        given = asked(request, AskedRows)
        path, colours, followed = _followed(request, given)
        thresholds = _numbers(given["thresholds"], "Thresholds") or THRESHOLDS
        found = report(
            path.names,
            colours,
            followed,
            pair=(given["first"], given["second"]),
            formula=given["formula"],
            thresholds=thresholds,
            sort=given["sort"],
            descending=given["descending"],
            text=given["text"],
            beyond=given["beyond"],
            start=given["start"],
            count=given["count"],
        )
        return Response(found.model_dump(mode="json"))


class FollowedTable(View):
    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.BINARY}, operation_id="colour_paths_table",
        parameters=[AskedTable],
    )  # fmt: skip
    def get(self, request: Request) -> HttpResponse:
        """Every colour after some or all steps as CSV: device values and Lab."""
        given = asked(request, AskedTable)
        _, colours, followed = _followed(request, given)
        wanted = _numbers(given["steps"], "Steps") or tuple(range(len(followed.steps)))
        if any(s != int(s) or not 0 <= s < len(followed.steps) for s in wanted):
            raise BadInput("The path has no such step.")
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\n")
        header, parts = ["Name"], []
        for step in (int(s) for s in wanted):
            header += [f"{step + 1}.{c}" for c in followed.steps[step].columns]
            parts.append(followed.values[step])
            lab = followed.lab[step]
            if lab is not None and followed.steps[step].space != "Lab ":
                header += [f"{step + 1}.{c}" for c in ("L", "a", "b")]
                parts.append(lab)
        writer.writerow(header)
        for name, row in zip(colours.names, np.round(np.hstack(parts), 4) + 0.0, strict=True):
            writer.writerow([safe_cell(name), *row.tolist()])
        response = HttpResponse(out.getvalue(), content_type="text/csv")
        response["Content-Disposition"] = 'attachment; filename="colour-path.csv"'
        return response


def _part(given: Any) -> Part:
    """What of a picture is asked for; raises BadInput for a region that lies outside it."""
    if not given["box"]:
        return int(given["edge"])
    box = _numbers(given["box"], "A box")
    facts = given["job"].artwork.facts
    if len(box) != 4 or not (
        box[2] > 0
        and box[3] > 0
        and 0 <= box[0] <= facts["width"] - 1
        and 0 <= box[1] <= facts["height"] - 1
        and box[0] + box[2] <= facts["width"] + 1
        and box[1] + box[3] <= facts["height"] + 1
    ):
        raise BadInput("A box is left, top, width and height within the artwork, in its pixels.")
    left, top, wide, high = box
    return (left, top, wide, high), given["columns"], given["rows"]


class FollowedPicture(View):
    @extend_schema(
        responses={(200, "image/png"): OpenApiTypes.BINARY}, operation_id="colour_paths_picture",
        parameters=[AskedPicture],
    )  # fmt: skip
    def get(self, request: Request) -> HttpResponse:
        """A job's artwork as it stands after a step, or a map of the difference of two steps."""
        given = asked(request, AskedPicture)
        path = services.find(access.person(request), _path(given["path"]))
        pair = (given["first"], given["second"])
        named = [p is not None for p in pair]
        if any(named) if given["step"] is not None else not all(named):
            raise BadInput("Name a step, or the first and second of a difference.")
        places = [p for p in (given["step"], *pair) if p is not None]
        if max(places) >= len(path.steps):
            raise BadInput("The path has no such step.")
        part = _part(given)
        if given["step"] is not None:
            png = render_step(path, given["job"], given["step"], given["view"], part)
        else:
            png = render_map(path, given["job"], pair, given["formula"], given["view"], part)
        response = HttpResponse(png, content_type="image/png")
        response["Cache-Control"] = "private, no-cache"
        return response


class ListAfterStep(View):
    @extend_schema(
        request=AskedList, responses=SwatchListData, operation_id="swatch_lists_after_step"
    )
    def post(self, request: Request) -> Response:
        """What a list's colours are after a step, as a list of its own: numbers, or Lab."""
        given = body(request, AskedList)
        user = access.person(request)
        path = services.find(user, parse_path(given["path"]))
        colours = lists.load(given["list"])
        followed = services.walked(path, colours, given["view"])
        step = given["step"]
        if step >= len(followed.steps):
            raise BadInput("The path has no such step.")
        name = given["name"] or f"{colours.title}, after {path.names[step]}"
        space = "Lab " if given["lab"] else followed.steps[step].space
        values = followed.colours(step) if given["lab"] else followed.values[step]
        made = swatches(space, values, list(colours.names), places=colours.places)
        kept = lists.keep(user, made, name, f"{colours.title} after {path.names[step]}"[:200])
        return Response(SwatchListData(kept).data, status=201)
