"""Printers and their media, what the guard says of them, and what is sent to them."""

from __future__ import annotations

import zipfile
from collections.abc import Callable
from typing import Any

from django.db.models import Count, Prefetch, Q, QuerySet
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_core.document import parse_policy
from plinto_core.printing import ColourDuty, MediumSettings
from plinto_server import access, store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.policies.models import Document, Policy, PolicyRun
from plinto_server.apps.printers import services
from plinto_server.apps.printers.models import Medium, Printer, PrintJob
from plinto_server.apps.work.api import EntryData, entry
from plinto_server.apps.work.kinds import KINDS
from plinto_server.errors import Conflict
from plinto_server.removal import UseData, remove, restore, uses
from plinto_server.requests import Own, View, body, patch_of
from plinto_server.revisions import answer, matched
from plinto_server.schema import CoreField, SaidField


class JudgementData(serializers.Serializer):
    level = serializers.ChoiceField(["fine", "warn", "refuse"])
    reason = SaidField()


class MediumData(serializers.ModelSerializer):
    revision = serializers.IntegerField(read_only=True)
    duty = CoreField(ColourDuty)
    settings = CoreField(MediumSettings)
    condition_name = serializers.CharField(source="condition.name")
    policy_name = serializers.CharField(source="policy.name", default="")
    policy_version = serializers.SerializerMethodField()
    policy_retired = serializers.BooleanField(source="policy.retired", default=False)
    transfer = serializers.BooleanField(source="condition.mirror")
    judgements = serializers.SerializerMethodField()
    price = serializers.SerializerMethodField()
    converts = serializers.SerializerMethodField()
    mirrors = serializers.SerializerMethodField()

    class Meta:
        model = Medium
        fields = [
            "id", "name", "condition", "condition_name", "policy", "policy_name", "policy_version", "policy_retired", "duty",
            "settings", "judgements", "price", "converts", "mirrors", "transfer", "revision",
        ]  # fmt: skip

    def get_policy_version(self, medium: Medium) -> int | None:
        """The version that runs on what is sent; None without a policy."""
        return len(medium.policy.versions) if medium.policy else None

    @extend_schema_field(JudgementData(many=True))
    def get_judgements(self, medium: Medium) -> list[dict[str, Any]]:
        return list(JudgementData([vars(j) for j in services.judged(medium)], many=True).data)

    def get_price(self, medium: Medium) -> float | None:
        """Currency units a square metre, from the roll."""
        return MediumSettings.model_validate(medium.settings).price_per_square_metre

    def get_converts(self, medium: Medium) -> bool:
        """Whether Plinto takes colours to inks on this way."""
        policy = parse_policy(medium.policy.present) if medium.policy else None
        return services.sent_by(policy, medium).converts

    def get_mirrors(self, medium: Medium) -> bool:
        """Whether files leave Plinto mirrored on this way."""
        return medium.policy is not None and parse_policy(medium.policy.present).mirror


class PrinterData(serializers.ModelSerializer):
    revision = serializers.IntegerField(read_only=True)
    media = MediumData(many=True, read_only=True)
    waiting = serializers.IntegerField(read_only=True, default=0)

    class Meta:
        model = Printer
        fields = ["id", "name", "place", "paused", "media", "waiting", "revision"]


class NewPrinter(serializers.Serializer):
    name = serializers.CharField(max_length=100)
    place = serializers.CharField(max_length=100, allow_blank=True, default="")
    paused = serializers.BooleanField(default=False)


class NewMedium(serializers.Serializer):
    name = serializers.CharField(max_length=100)
    condition = Own(queryset=PrintingCondition.objects.select_related("profile"))
    policy = Own(queryset=Policy.objects.all(), allow_null=True)
    duty = CoreField(ColourDuty)
    settings = CoreField(MediumSettings)


class Sending(serializers.Serializer):
    medium = Own(
        queryset=Medium.objects.filter(printer__removed=None).select_related(
            "printer", "condition__profile", "policy"
        )
    )
    document = Own(queryset=Document.objects.all(), allow_null=True, default=None)
    delivery = Own(queryset=Run.objects.all(), allow_null=True, default=None)
    result = Own(
        queryset=PolicyRun.objects.select_related("document"), allow_null=True, default=None
    )
    copies = serializers.IntegerField(min_value=1, max_value=100_000, default=1)
    priority = serializers.IntegerField(
        min_value=PrintJob.LOW, max_value=PrintJob.URGENT, default=PrintJob.NORMAL
    )
    held = serializers.BooleanField(default=False)


def listed() -> QuerySet[Printer]:
    """Printers with all that a list shows of them, in a few queries."""
    media = Medium.objects.filter(removed=None).select_related("condition__profile", "policy")
    waiting = Count("jobs", filter=Q(jobs__state__in=["waiting", "held", "running"]))
    return Printer.objects.annotate(waiting=waiting).prefetch_related(Prefetch("media", media))


def shown(request: Request, pk: int, status: int = 200) -> Response:
    printer = access.own(request.user, Printer, pk, listed())
    return answer(PrinterData(printer).data, printer, status)


def own_medium(request: Request, pk: int) -> Medium:
    rows = Medium.objects.filter(printer__removed=None)
    rows = rows.select_related("printer", "condition__profile", "policy")
    return access.own(request.user, Medium, pk, rows)


class PrinterList(View):
    @extend_schema(responses=PrinterData(many=True), operation_id="printers_list")
    def get(self, request: Request) -> Response:
        """One's printers with their media, each with what the guard says."""
        return Response(PrinterData(access.mine(request.user, Printer, listed()), many=True).data)

    @extend_schema(request=NewPrinter, responses=PrinterData, operation_id="printers_create")
    def post(self, request: Request) -> Response:
        """A new printer, without media yet."""
        made = Printer.objects.create(owner=access.person(request), **body(request, NewPrinter))
        return shown(request, made.pk, 201)


class PrinterDetail(View):
    @extend_schema(request=NewPrinter, responses=PrinterData, operation_id="printers_change")
    def patch(self, request: Request, pk: int) -> Response:
        """Rename a printer, pause it or let it go on; If-Match names the revision it is changed on."""
        printer = access.own(request.user, Printer, pk)
        services.change_printer(printer, body(request, NewPrinter, partial=True), matched(request))
        return shown(request, pk)

    @extend_schema(responses={204: None}, operation_id="printers_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Take a printer with its media out of the list; what it printed stays on record, and it
        can be restored. Refused while something is in its queue."""
        services.remove_printer(access.own(request.user, Printer, pk))
        return Response(status=204)


class PrinterRestore(View):
    @extend_schema(request=None, responses=PrinterData, operation_id="printers_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        return shown(request, restore(access.person(request), Printer, pk).pk)


class PrinterUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="printers_uses")
    def get(self, request: Request, pk: int) -> Response:
        """The media and folders that go with a printer."""
        return Response(
            UseData(uses(access.own(request.user, Printer, pk), request.user), many=True).data
        )


class MediumList(View):
    @extend_schema(request=NewMedium, responses=MediumData, operation_id="media_create")
    def post(self, request: Request, pk: int) -> Response:
        """A new medium for a printer."""
        printer = access.own(request.user, Printer, pk)
        medium = services.medium_from(Medium(printer=printer), body(request, NewMedium))
        medium.save()
        return answer(MediumData(medium).data, medium, 201)


class MediumDetail(View):
    @extend_schema(request=NewMedium, responses=MediumData, operation_id="media_change")
    def patch(self, request: Request, pk: int) -> Response:
        """Change a medium; If-Match names the revision it is changed on."""
        medium = own_medium(request, pk)
        given = body(request, NewMedium, partial=True)
        services.change_medium(medium, given, patch_of(request), matched(request))
        return answer(MediumData(medium).data, medium)

    @extend_schema(responses={204: None}, operation_id="media_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Retire a medium: folders that print on it are named by its uses; it can be restored."""
        remove(own_medium(request, pk))
        return Response(status=204)


class MediumRestore(View):
    @extend_schema(request=None, responses=MediumData, operation_id="media_restore")
    def post(self, request: Request, pk: int) -> Response:
        """Undo a removal."""
        restore(access.person(request), Medium, pk)
        return Response(MediumData(own_medium(request, pk)).data)


class MediumUses(View):
    @extend_schema(responses=UseData(many=True), operation_id="media_uses")
    def get(self, request: Request, pk: int) -> Response:
        """The folders that print on a medium."""
        return Response(
            UseData(uses(own_medium(request, pk), access.person(request)), many=True).data
        )


class MediumJudge(View):
    @extend_schema(
        request=NewMedium, responses=JudgementData(many=True), operation_id="media_judge"
    )
    def post(self, request: Request) -> Response:
        """What the guard would say of a medium; nothing is kept."""
        found = services.judged(services.medium_from(Medium(), body(request, NewMedium)))
        return Response(JudgementData([vars(j) for j in found], many=True).data)


class PrintList(View):
    @extend_schema(request=Sending, responses=EntryData, operation_id="prints_send")
    def post(self, request: Request) -> Response:
        """Send a document, a finished delivery, or what a policy made of a document, to a medium's
        printer."""
        values = body(request, Sending)
        senders: dict[str, Callable[..., PrintJob]] = {
            "document": services.send_document,
            "delivery": services.send_delivery,
            "result": services.send_result,
        }
        named = [k for k in senders if values[k] is not None]
        if len(named) != 1:
            raise serializers.ValidationError("Name a document, a delivery or a result to print.")
        options = {k: values[k] for k in ("copies", "priority", "held")}
        send = senders[named[0]]
        job = send(access.person(request), values[named[0]], values["medium"], **options)
        return Response(EntryData(entry(KINDS["print"], job)).data, status=201)


class PrintSheet(View):
    @extend_schema(responses={(200, "image/png"): OpenApiTypes.BINARY}, operation_id="prints_sheet")
    def get(self, request: Request, pk: int, name: str) -> HttpResponse:
        """A sheet, or a plate of one, as it came off the simulated press."""
        job = access.own(request.user, PrintJob, pk)
        if job.state != job.DONE:
            raise Conflict("The print is not finished.")
        with zipfile.ZipFile(store.path_of(job.result_sha256)) as bundle:
            if name not in bundle.namelist():
                raise Conflict("The print has no such sheet.")
            response = HttpResponse(bundle.read(name), content_type="image/png")
        response["Cache-Control"] = "private, max-age=3600"
        return response
