"""Lists of swatches and kept paths: made, changed, copied, removed, taken out."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import exceptions, serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.errors import BadInput
from plinto_core.paths.model import ColourPath, PathStepData
from plinto_core.swatches import ready
from plinto_core.swatches.files import FORMATS, SUFFIXES, Format, swatches_of_text, write_swatches
from plinto_core.swatches.sampling import Grid
from plinto_core.swatches.swatches import Swatches
from plinto_server import access
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.paths import lists, services
from plinto_server.apps.paths.models import KeptPath, SwatchList
from plinto_server.apps.profiles.services import usable_profile
from plinto_server.parameters import Choice
from plinto_server.removal import remove, restore
from plinto_server.requests import Own, View, body, patch_of
from plinto_server.revisions import answer, matched
from plinto_server.schema import CoreField, SaidField
from plinto_server.uploads import Upload, given_file

LARGEST = 64 << 20
FORM = Choice("form", FORMATS, "csv")
SPACES = ("Lab", "LCh", "XYZ", "RGB", "CMYK", "GRAY")
MIMES: dict[Format, str] = {"csv": "text/csv", "cgats": "text/plain", "cxf": "application/xml"}


class SwatchListData(serializers.ModelSerializer):
    """notes : what a reader should know of where the colours come from."""

    notes = serializers.SerializerMethodField()

    class Meta:
        model = SwatchList
        fields = ["id", "name", "space", "count", "made", "job", "digest", "notes", "updated"]

    @extend_schema_field(serializers.ListField(child=SaidField()))
    def get_notes(self, row: SwatchList) -> list[dict[str, Any]]:
        return [n.as_json() for n in lists.load(row).notes]


class SwatchListSummary(serializers.ModelSerializer):
    class Meta:
        model = SwatchList
        fields = ["id", "name", "space", "count", "made", "job", "digest", "updated"]


class TypedList(serializers.Serializer):
    """text : a row a colour, with a name before it; its first row may name the columns, and `space` says
    what the numbers are where it does not."""

    name = serializers.CharField(max_length=200, required=False, default="", allow_blank=True)
    text = serializers.CharField(max_length=2_000_000, trim_whitespace=False)
    space = serializers.ChoiceField(SPACES, required=False, default=None)


class AskedReady(serializers.Serializer):
    """profile : whose, by reference; not for neutrals. count : steps of neutrals, steps a channel of a
    chart, hues of extreme colours; solids have none."""

    kind = serializers.ChoiceField(("neutrals", "solids", "chart", "extremes"))
    profile = serializers.CharField(max_length=64, required=False, default=None)
    count = serializers.IntegerField(required=False, default=None, min_value=2, max_value=1001)
    name = serializers.CharField(max_length=200, required=False, default="", allow_blank=True)


class AskedGrid(serializers.Serializer):
    """x, y, width, height : the region in pixels of the artwork; mark : edge of the square a mark averages."""

    job = Own(queryset=Job.objects.all())
    x = serializers.FloatField()
    y = serializers.FloatField()
    width = serializers.FloatField()
    height = serializers.FloatField()
    columns = serializers.IntegerField()
    rows = serializers.IntegerField()
    mark = serializers.IntegerField(required=False, default=5)
    name = serializers.CharField(max_length=200, required=False, default="", allow_blank=True)


class AskedDominant(serializers.Serializer):
    job = Own(queryset=Job.objects.all())
    count = serializers.IntegerField(required=False, default=8)
    name = serializers.CharField(max_length=200, required=False, default="", allow_blank=True)


class ChangedRow(serializers.Serializer):
    """row : its place in the list, from 0; name, values : what it is to hold, as it was where left out."""

    row = serializers.IntegerField(min_value=0)
    name = serializers.CharField(max_length=200, required=False, allow_blank=True)
    values = serializers.ListField(child=serializers.FloatField(), required=False, max_length=15)


class ListChange(serializers.Serializer):
    """add : rows as text, in the list's space; put : rows that are to hold other colours or names; remove :
    places of rows, from 0; digest : of the colours they were seen in, needed to change or take out rows."""

    name = serializers.CharField(max_length=200, required=False)
    add = serializers.CharField(max_length=2_000_000, required=False, trim_whitespace=False)
    put = ChangedRow(many=True, required=False)
    remove = serializers.ListField(child=serializers.IntegerField(), required=False)
    digest = serializers.CharField(max_length=64, required=False)


class KeptPathData(serializers.ModelSerializer):
    steps = serializers.ListField(child=CoreField(PathStepData))

    class Meta:
        model = KeptPath
        fields = ["id", "name", "steps", "revision", "updated"]


def file_of(listed: Swatches, name: str, form: Format) -> HttpResponse:
    """A list as a download in one of the formats."""
    found = HttpResponse(write_swatches(listed, form), content_type=MIMES[form])
    plain = (
        "".join(c if c.isascii() and c.isalnum() else "-" for c in name).strip("-") or "swatches"
    )
    found["Content-Disposition"] = f'attachment; filename="{plain}{SUFFIXES[form]}"'
    return found


class SwatchLists(View):
    @extend_schema(responses=SwatchListSummary(many=True), operation_id="swatch_lists_list")
    def get(self, request: Request) -> Response:
        """One's own lists of swatches."""
        return Response(SwatchListSummary(access.mine(request.user, SwatchList), many=True).data)

    @extend_schema(request=TypedList, responses=SwatchListData, operation_id="swatch_lists_create")
    def post(self, request: Request) -> Response:
        """A list of colours that were typed or pasted."""
        given = body(request, TypedList)
        space = given["space"]
        found = swatches_of_text(
            given["text"], space and (space if space == "LCh" else space.ljust(4))
        )
        kept = lists.keep(access.person(request), found, given["name"] or "Typed colours", "typed")
        return Response(SwatchListData(kept).data, status=201)


class SwatchListReceipt(View):
    parser_classes = [MultiPartParser]

    @extend_schema(
        request=Upload, responses=SwatchListData(many=True), operation_id="swatch_lists_receive"
    )
    def post(self, request: Request) -> Response:
        """The lists of a file: CSV, CGATS text, CxF3, named colours or measurements of a profile."""
        file = given_file(request, largest=LARGEST)
        made = lists.take_file(access.person(request), file.read(), file.name or "file")
        return Response(SwatchListData(made, many=True).data, status=201)


class ReadyList(View):
    @extend_schema(request=AskedReady, responses=SwatchListData, operation_id="swatch_lists_ready")
    def post(self, request: Request) -> Response:
        """A list that is ready: neutrals, a profile's solids, chart or extreme colours."""
        user, given = access.person(request), body(request, AskedReady)
        kind, count = given["kind"], given["count"]
        if (kind == "neutrals") != (given["profile"] is None):
            raise exceptions.ValidationError("Neutrals name no profile, all others do.")
        if kind == "solids" and count is not None:
            raise exceptions.ValidationError("Solids have no count.")
        if kind == "neutrals":
            found = ready.neutrals(count or 21)
        else:
            profile = usable_profile(user, given["profile"])
            if kind == "solids":
                found = ready.solids(profile)
            elif kind == "chart":
                found = ready.chart(profile, count or 6)
            else:
                found = ready.extremes(profile, count or 24)
        kept = lists.keep(user, found, given["name"], "made here")
        return Response(SwatchListData(kept).data, status=201)


class SampledList(View):
    @extend_schema(request=AskedGrid, responses=SwatchListData, operation_id="swatch_lists_sample")
    def post(self, request: Request) -> Response:
        """The colours under a grid of sample marks on a job's artwork."""
        given = body(request, AskedGrid)
        job, name = given.pop("job"), given.pop("name")
        kept = lists.take_grid(access.person(request), job, Grid(**given), name)
        return Response(SwatchListData(kept).data, status=201)


class DominantList(View):
    @extend_schema(
        request=AskedDominant, responses=SwatchListData, operation_id="swatch_lists_dominant"
    )
    def post(self, request: Request) -> Response:
        """The colours that a job's artwork is mostly made of."""
        given = body(request, AskedDominant)
        kept = lists.take_dominant(
            access.person(request), given["job"], given["count"], given["name"]
        )
        return Response(SwatchListData(kept).data, status=201)


class SwatchListDetail(View):
    @extend_schema(responses=SwatchListData, operation_id="swatch_lists_read")
    def get(self, request: Request, pk: int) -> Response:
        """One list; its colours are read along a path."""
        return Response(SwatchListData(access.own(request.user, SwatchList, pk)).data)

    @extend_schema(request=ListChange, responses=SwatchListData, operation_id="swatch_lists_change")
    def patch(self, request: Request, pk: int) -> Response:
        """Rename a list, change rows, add rows, take rows out."""
        kept = access.own(request.user, SwatchList, pk)
        given = body(request, ListChange, partial=True)
        if not given:
            raise BadInput("Nothing was to be changed.")
        changed = lists.change(
            kept,
            name=given.get("name"),
            add=given.get("add", ""),
            remove=given.get("remove", []),
            put=given.get("put", []),
            seen=given.get("digest"),
        )
        return Response(SwatchListData(changed).data)

    @extend_schema(responses={204: None}, operation_id="swatch_lists_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a list out of one's lists; it can be restored."""
        remove(access.own(request.user, SwatchList, pk))
        return Response(status=204)


class SwatchListCopy(View):
    @extend_schema(request=None, responses=SwatchListData, operation_id="swatch_lists_copy")
    def post(self, request: Request, pk: int) -> Response:
        """The same colours again."""
        kept = access.own(request.user, SwatchList, pk)
        return Response(SwatchListData(lists.copy(access.person(request), kept)).data, status=201)


class SwatchListRestore(View):
    @extend_schema(request=None, responses=SwatchListData, operation_id="swatch_lists_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(SwatchListData(restore(access.person(request), SwatchList, pk)).data)


class SwatchListFile(View):
    @extend_schema(
        responses={(200, "text/plain"): OpenApiTypes.BINARY}, operation_id="swatch_lists_file",
        parameters=[FORM],
    )  # fmt: skip
    def get(self, request: Request, pk: int) -> HttpResponse:
        """A list as CSV, CGATS text or CxF3."""
        kept = access.own(request.user, SwatchList, pk)
        return file_of(lists.load(kept), kept.name, FORM.of(request))


class ColourPaths(View):
    @extend_schema(responses=KeptPathData(many=True), operation_id="colour_paths_list")
    def get(self, request: Request) -> Response:
        """One's own kept paths."""
        return Response(KeptPathData(access.mine(request.user, KeptPath), many=True).data)

    @extend_schema(request=ColourPath, responses=KeptPathData, operation_id="colour_paths_create")
    def post(self, request: Request) -> Response:
        """Keep a path under its name."""
        made = services.create(access.person(request), request.data)
        return answer(KeptPathData(made).data, made, 201)


class ColourPathDetail(View):
    @extend_schema(responses=KeptPathData, operation_id="colour_paths_read")
    def get(self, request: Request, pk: int) -> Response:
        """One kept path."""
        kept = access.own(request.user, KeptPath, pk)
        return answer(KeptPathData(kept).data, kept)

    @extend_schema(
        request=OpenApiTypes.OBJECT, responses=KeptPathData, operation_id="colour_paths_change"
    )
    def patch(self, request: Request, pk: int) -> Response:
        """Change name or steps; If-Match names the revision they were changed on."""
        kept = services.change(access.person(request), pk, patch_of(request), matched(request))
        return answer(KeptPathData(kept).data, kept)

    @extend_schema(responses={204: None}, operation_id="colour_paths_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a path out of one's list; it can be restored."""
        remove(access.own(request.user, KeptPath, pk))
        return Response(status=204)


class ColourPathRestore(View):
    @extend_schema(request=None, responses=KeptPathData, operation_id="colour_paths_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return Response(KeptPathData(restore(access.person(request), KeptPath, pk)).data)
