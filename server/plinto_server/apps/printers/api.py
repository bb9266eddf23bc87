"""Printers and their media, what the guard says of them, and what is sent to them."""

from __future__ import annotations

import zipfile
from typing import Any

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import OpenApiTypes, extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from plinto_core.document import parse_policy
from plinto_core.fields import checked
from plinto_core.printing import ColourDuty, MediumSettings
from plinto_server import store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.policies.models import Document, Policy
from plinto_server.apps.printers import services
from plinto_server.apps.printers.models import Medium, Printer, PrintJob
from plinto_server.apps.queue.entries import EntryData, entry
from plinto_server.apps.queue.kinds import KINDS
from plinto_server.apps.queue.models import Run
from plinto_server.errors import Conflict


@extend_schema_field(ColourDuty)
class DutyField(serializers.JSONField):
    """Who manages colour, as the core writes it."""


@extend_schema_field(MediumSettings)
class SettingsField(serializers.JSONField):
    """What the operator sets for a medium, as the core writes it."""


class JudgementData(serializers.Serializer):
    level = serializers.ChoiceField(["fine", "warn", "refuse"])
    reason = serializers.CharField()
    remedy = serializers.CharField(allow_blank=True)


class MediumData(serializers.ModelSerializer):
    duty = DutyField()
    settings = SettingsField()
    condition_name = serializers.CharField(source="condition.name")
    policy_name = serializers.CharField(source="policy.name", default="")
    judgements = serializers.SerializerMethodField()
    price = serializers.SerializerMethodField()
    converts = serializers.SerializerMethodField()

    class Meta:
        model = Medium
        fields = [
            "id", "name", "condition", "condition_name", "policy", "policy_name", "duty", "settings",
            "judgements", "price", "converts",
        ]  # fmt: skip

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


class PrinterData(serializers.ModelSerializer):
    media = MediumData(many=True, read_only=True)
    waiting = serializers.SerializerMethodField()

    class Meta:
        model = Printer
        fields = ["id", "name", "place", "paused", "media", "waiting"]

    def get_waiting(self, printer: Printer) -> int:
        return printer.jobs.filter(state__in=["waiting", "held", "running"]).count()


class NewPrinter(serializers.Serializer):
    name = serializers.CharField(max_length=100)
    place = serializers.CharField(max_length=100, allow_blank=True, default="")
    paused = serializers.BooleanField(default=False)


class NewMedium(serializers.Serializer):
    name = serializers.CharField(max_length=100)
    condition = serializers.PrimaryKeyRelatedField(queryset=PrintingCondition.objects.all())
    policy = serializers.PrimaryKeyRelatedField(queryset=Policy.objects.all(), allow_null=True)
    duty = DutyField()
    settings = SettingsField()


class Sending(serializers.Serializer):
    medium = serializers.PrimaryKeyRelatedField(queryset=Medium.objects.all())
    document = serializers.PrimaryKeyRelatedField(
        queryset=Document.objects.all(), allow_null=True, default=None
    )
    delivery = serializers.PrimaryKeyRelatedField(
        queryset=Run.objects.all(), allow_null=True, default=None
    )
    copies = serializers.IntegerField(min_value=1, max_value=100_000, default=1)
    priority = serializers.IntegerField(min_value=-1, max_value=1, default=0)
    held = serializers.BooleanField(default=False)


def own_printer(request: Request, pk: int) -> Printer:
    return get_object_or_404(Printer, pk=pk, owner=request.user)


def own_medium(request: Request, pk: int) -> Medium:
    return get_object_or_404(Medium, pk=pk, printer__owner=request.user)


def _medium_from(request: Request, medium: Medium) -> Medium:
    """A medium with what the request says of it, not kept yet."""
    given = NewMedium(data=request.data)
    given.is_valid(raise_exception=True)
    values = given.validated_data
    policy = values["policy"]
    if policy is not None and policy.owner_id != request.user.pk:
        raise serializers.ValidationError({"policy": "There is no such policy."})
    medium.name, medium.condition, medium.policy = values["name"], values["condition"], policy
    medium.duty = checked(ColourDuty, values["duty"], "The declared duties are").model_dump()
    medium.settings = checked(
        MediumSettings, values["settings"], "The settings of the medium are"
    ).model_dump()
    return medium


class PrinterList(APIView):
    @extend_schema(responses=PrinterData(many=True), operation_id="printers_list")
    def get(self, request: Request) -> Response:
        """One's printers with their media, each with what the guard says."""
        rows = Printer.objects.filter(owner=request.user).prefetch_related(
            "media__condition__profile", "media__policy"
        )
        return Response(PrinterData(rows, many=True).data)

    @extend_schema(request=NewPrinter, responses=PrinterData, operation_id="printers_create")
    def post(self, request: Request) -> Response:
        """A new printer, without media yet."""
        given = NewPrinter(data=request.data)
        given.is_valid(raise_exception=True)
        made = Printer.objects.create(owner=request.user, **given.validated_data)
        return Response(PrinterData(made).data, status=201)


class PrinterDetail(APIView):
    @extend_schema(request=NewPrinter, responses=PrinterData, operation_id="printers_change")
    def put(self, request: Request, pk: int) -> Response:
        """Rename a printer, pause it or let it go on."""
        printer = own_printer(request, pk)
        given = NewPrinter(data=request.data)
        given.is_valid(raise_exception=True)
        printer.name, printer.place = given.validated_data["name"], given.validated_data["place"]
        printer.save()
        return Response(
            PrinterData(services.pause(printer, paused=given.validated_data["paused"])).data
        )

    @extend_schema(responses={204: None}, operation_id="printers_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Remove a printer with its media; refused while something is in its queue."""
        printer = own_printer(request, pk)
        if printer.jobs.filter(state__in=["waiting", "held", "running"]).exists():
            raise Conflict("Something is in the printer's queue. Cancel it or let it end first.")
        printer.delete()
        return Response(status=204)


class MediumList(APIView):
    @extend_schema(request=NewMedium, responses=MediumData, operation_id="media_create")
    def post(self, request: Request, pk: int) -> Response:
        """A new medium for a printer."""
        medium = _medium_from(request, Medium(printer=own_printer(request, pk)))
        return Response(
            MediumData(services.save_medium(medium, medium.duty, medium.settings)).data, status=201
        )


class MediumDetail(APIView):
    @extend_schema(request=NewMedium, responses=MediumData, operation_id="media_change")
    def put(self, request: Request, pk: int) -> Response:
        """Change a medium; jobs in the queue keep what they came with."""
        medium = _medium_from(request, own_medium(request, pk))
        return Response(MediumData(services.save_medium(medium, medium.duty, medium.settings)).data)

    @extend_schema(responses={204: None}, operation_id="media_delete")
    def delete(self, request: Request, pk: int) -> Response:
        """Remove a medium."""
        own_medium(request, pk).delete()
        return Response(status=204)


class MediumJudge(APIView):
    @extend_schema(
        request=NewMedium, responses=JudgementData(many=True), operation_id="media_judge"
    )
    def post(self, request: Request) -> Response:
        """What the guard would say of a medium; nothing is kept."""
        found = services.judged(_medium_from(request, Medium()))
        return Response(JudgementData([vars(j) for j in found], many=True).data)


class PrintList(APIView):
    @extend_schema(request=Sending, responses=EntryData, operation_id="prints_send")
    def post(self, request: Request) -> Response:
        """Send a document, or a finished delivery, to a medium's printer."""
        given = Sending(data=request.data)
        given.is_valid(raise_exception=True)
        values = given.validated_data
        medium = own_medium(request, values["medium"].pk)
        options = {k: values[k] for k in ("copies", "priority", "held")}
        document, run = values["document"], values["delivery"]
        if document is not None and document.owner_id == request.user.pk:
            job = services.send_document(request.user, document, medium, **options)
        elif run is not None and run.destination.job.owner_id == request.user.pk:
            job = services.send_delivery(request.user, run, medium, **options)
        else:
            raise serializers.ValidationError("Name a document or a delivery to print.")
        return Response(EntryData(entry(KINDS["print"], job)).data, status=201)


class PrintSheet(APIView):
    @extend_schema(responses={(200, "image/png"): OpenApiTypes.BINARY}, operation_id="prints_sheet")
    def get(self, request: Request, pk: int, name: str) -> HttpResponse:
        """A sheet, or a plate of one, as it came off the simulated press."""
        job = get_object_or_404(PrintJob, pk=pk, owner=request.user)
        if job.state != job.DONE:
            raise Conflict("The print is not finished.")
        with zipfile.ZipFile(store.path_of(job.result_sha256)) as bundle:
            if name not in bundle.namelist():
                raise Conflict("The print has no such sheet.")
            response = HttpResponse(bundle.read(name), content_type="image/png")
        response["Cache-Control"] = "private, max-age=3600"
        return response
