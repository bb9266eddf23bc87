"""What the jobs API takes and gives."""

from __future__ import annotations

from typing import Any, get_args

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from plinto_core.colorimetry.difference import Differences
from plinto_core.corrections import Vivid
from plinto_core.errors import CoreError
from plinto_core.gamut.look import Perceptual
from plinto_core.gamut.outside import WAYS
from plinto_core.icc.spaces import INTENTS
from plinto_core.inks.evenness import Evenness
from plinto_core.recipes import Recipe, parse_recipe
from plinto_core.recipes.unconverted import Unconverted
from plinto_core.recipes.vividest import Part as WayPart
from plinto_server.apps.artwork.api import ArtworkData
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.api import Condition
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.house.services import rules_in_force
from plinto_server.apps.jobs.links import PLAYS
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.jobs.services import answers_of, check_runnable
from plinto_server.requests import Own
from plinto_server.schema import CoreField, SaidField

LAYOUTS = ["pair", "corrected", "unconverted", "moments", "intents", "conditions"]
ARRANGEMENTS = ["fit", "side", "stacked", "split", "single"]


class Figures(serializers.DictField):
    """Numbers by ink."""

    child = serializers.FloatField()


class SourceData(serializers.Serializer):
    profile = serializers.CharField(allow_null=True)
    origin = serializers.CharField()
    problem = serializers.CharField(allow_null=True)
    same_space = serializers.BooleanField()
    """Whether the colours are in the destination's own space already."""


class FamilyData(serializers.Serializer):
    family = serializers.CharField()
    share = serializers.FloatField()
    chroma_original = serializers.FloatField()
    chroma_aim = serializers.FloatField()
    chroma_printed = serializers.FloatField()
    chroma_kept = serializers.FloatField()
    de00_mean = serializers.FloatField()
    out = serializers.FloatField()
    far = serializers.BooleanField(default=False)


class MissData(serializers.Serializer):
    """Percent of the picture that is out of gamut, in all and by way."""

    out_of_gamut = serializers.FloatField()
    too_vivid = serializers.FloatField()
    too_dark = serializers.FloatField()
    too_light = serializers.FloatField()


class IntentFigures(MissData):
    intent = serializers.ChoiceField(INTENTS)
    families = FamilyData(many=True)
    de00_mean = serializers.FloatField()
    de00_p95 = serializers.FloatField()
    detail = serializers.FloatField()
    vividness = serializers.FloatField(allow_null=True)
    vividness_plain = serializers.FloatField(allow_null=True)


class FitData(MissData):
    intent = serializers.ChoiceField(INTENTS)
    bpc = serializers.BooleanField()
    de00_mean = serializers.FloatField()
    de00_p95 = serializers.FloatField()
    de00_max = serializers.FloatField()
    detail = serializers.FloatField()
    banding = serializers.FloatField()
    drift = serializers.FloatField()
    vividness = serializers.FloatField(allow_null=True)
    tones_lost = Figures()
    advised = serializers.BooleanField()


class WayChanges(serializers.Serializer):
    intent = serializers.ChoiceField(INTENTS)
    bpc = serializers.BooleanField()
    perceptual = CoreField(Perceptual, allow_null=True, complete=True)
    vivid = CoreField(Vivid, allow_null=True, complete=True)


class WayData(serializers.Serializer):
    part = serializers.ChoiceField(get_args(WayPart))
    changes = WayChanges()
    fit = FitData()


class DestinationFacts(serializers.Serializer):
    intent = IntentFigures(required=False)
    tac_max = serializers.FloatField(required=False)
    tac_rule = serializers.FloatField(required=False)


class NoteData(serializers.Serializer):
    way = serializers.ChoiceField(["kept", "adapted", "attention"])
    text = SaidField()


class DestinationData(serializers.ModelSerializer):
    condition = Condition()
    recipe = CoreField(Recipe, complete=True)
    facts = DestinationFacts()
    notes = NoteData(many=True)
    source = serializers.SerializerMethodField()  # type: ignore[assignment]
    revision = serializers.IntegerField(read_only=True)
    position = serializers.IntegerField(read_only=True)
    can_undo = serializers.SerializerMethodField()
    can_redo = serializers.SerializerMethodField()

    class Meta:
        model = Destination
        fields = [
            "id",
            "condition",
            "recipe",
            "facts",
            "notes",
            "source",
            "can_undo",
            "can_redo",
            "revision",
            "position",
        ]

    @extend_schema_field(SourceData)
    def get_source(self, destination: Destination) -> dict[str, Any]:
        try:
            ready = check_runnable(destination.job, parse_recipe(destination.recipe))
        except CoreError as error:
            return {"profile": None, "origin": "none", "problem": str(error), "same_space": False}
        return {
            "profile": ready.source.profile.description,
            "origin": ready.source.origin,
            "problem": None,
            "same_space": ready.route.same_space,
        }

    def get_can_undo(self, destination: Destination) -> bool:
        return destination.position > destination.oldest

    def get_can_redo(self, destination: Destination) -> bool:
        return destination.position < destination.newest


class PointData(serializers.Serializer):
    """target : a colour wanted there, as typed: Lab or LCh as measured, rgb or hex of the screen."""

    name = serializers.CharField(max_length=60, allow_blank=True)
    x = serializers.IntegerField()
    y = serializers.IntegerField()
    target = serializers.CharField(max_length=80, allow_blank=True, required=False, default="")


ANSWERS = ["keep", "convert", "assign"]


class LookData(serializers.Serializer):
    """What of the print a person looks at, and how pictures are compared."""

    plays = serializers.ChoiceField(PLAYS, default="black")
    veil_on = serializers.BooleanField(default=False)
    ways = serializers.ListField(
        child=serializers.ChoiceField(WAYS), min_length=1, max_length=3, default=lambda: list(WAYS)
    )
    veil = serializers.RegexField(r"^(hatch|#[0-9a-f]{6})$", default="hatch")
    map = serializers.ChoiceField(["", "distance", "tac"], default="")
    plates = serializers.ListField(
        child=serializers.CharField(max_length=40), max_length=16, allow_null=True, default=None
    )
    grey = serializers.BooleanField(default=False)
    display = serializers.CharField(max_length=64, default="srgb")
    screen_veil_on = serializers.BooleanField(default=False)
    bar = serializers.BooleanField(default=False)
    sheet = serializers.BooleanField(default=False)
    break_up = serializers.FloatField(min_value=0, max_value=20, default=0)
    layout = serializers.ChoiceField(LAYOUTS, default="pair")
    arrangement = serializers.ChoiceField(ARRANGEMENTS, default="fit")
    surround = serializers.ChoiceField(["light", "mid", "dark"], default="mid")


class PictureOfJob(serializers.Serializer):
    """A picture that the job had; created : when another took its place."""

    artwork = ArtworkData()
    created = serializers.DateTimeField()


class JobData(serializers.ModelSerializer):
    artwork = ArtworkData()
    destinations = DestinationData(many=True)
    question = serializers.ChoiceField(["", "differs", "missing"])
    answers = serializers.SerializerMethodField()
    points = PointData(many=True)
    former = serializers.SerializerMethodField()
    look = serializers.SerializerMethodField()

    class Meta:
        model = Job
        fields = [
            "id", "name", "created", "artwork", "former", "question", "answers", "points", "look", "destinations",
        ]  # fmt: skip

    @extend_schema_field(PictureOfJob(many=True))
    def get_former(self, job: Job) -> Any:
        """Pictures that the job had and can have again, the last one first."""
        rows = [f for f in job.former.all() if f.artwork_id != job.artwork_id]
        return PictureOfJob(rows, many=True).data

    @extend_schema_field(serializers.ListField(child=serializers.ChoiceField(ANSWERS)))
    def get_answers(self, job: Job) -> list[str]:
        """What the question can be answered with, besides a profile by name."""
        if not job.question:
            return []
        context: Any = self.context
        if "rules" not in context:
            context["rules"] = rules_in_force(job.owner)
        return list(answers_of(job, context["rules"]))

    @extend_schema_field(LookData(allow_null=True))
    def get_look(self, job: Job) -> dict[str, Any] | None:
        """How the person who asks looked at the job last."""
        user = getattr(self.context.get("request"), "user", None)
        mine = [look.look for look in job.looks.all() if look.user_id == getattr(user, "pk", None)]
        return LookData(mine[0]).data if mine else None


class JobName(serializers.Serializer):
    name = serializers.CharField(max_length=200)


class NewJob(serializers.Serializer):
    """work : a kind of work of the house rules in force, whose conditions are taken where none are named."""

    artwork = Own(queryset=Artwork.objects.all())
    conditions = Own(queryset=PrintingCondition.objects.all(), many=True, default=())
    work = serializers.CharField(max_length=60, allow_blank=True, default="")
    extra_channels = serializers.ChoiceField(["stop", "leave out"], default="stop")


class OtherPicture(serializers.Serializer):
    """corrections_in_it : it was delivered with the job's corrections, so they are turned off."""

    artwork = Own(queryset=Artwork.objects.all())
    corrections_in_it = serializers.BooleanField(default=True)


class NewDestination(serializers.Serializer):
    condition = Own(queryset=PrintingCondition.objects.all())


class RetargetTo(serializers.Serializer):
    condition = Own(queryset=PrintingCondition.objects.all())


class AnswerGiven(serializers.Serializer):
    answer = serializers.ChoiceField(ANSWERS)
    profile = serializers.CharField(required=False, allow_null=True)


class MomentData(serializers.Serializer):
    number = serializers.IntegerField()
    label = serializers.CharField()  # type: ignore[assignment]
    current = serializers.BooleanField()


class InkUse(serializers.Serializer):
    millilitres = Figures()
    run_millilitres = Figures(allow_null=True)
    cost_per_square_metre = serializers.FloatField()
    run_cost = serializers.FloatField(allow_null=True)
    area = serializers.FloatField(allow_null=True)
    copies = serializers.IntegerField()
    currency = serializers.CharField()


class ScreenAdviceData(serializers.Serializer):
    ruling = serializers.FloatField()
    mesh = serializers.IntegerField()
    thread = serializers.FloatField()
    opening = serializers.FloatField()
    least_dot = serializers.FloatField()
    most_dot = serializers.FloatField()
    tones = serializers.IntegerField()


class AidData(serializers.Serializer):
    fine = Figures()
    fine_dot = serializers.FloatField()
    grain = serializers.FloatField()
    screen = ScreenAdviceData(allow_null=True)


class BlackRegionData(serializers.Serializer):
    correction = serializers.IntegerField()
    de00_mean = serializers.FloatField()
    de00_max = serializers.FloatField()
    black_before = serializers.FloatField()
    black_after = serializers.FloatField()


class InkFigures(serializers.Serializer):
    tac_max = serializers.FloatField()
    tac_at = serializers.ListField(child=serializers.IntegerField())
    tac_rule = serializers.FloatField()
    exact = serializers.BooleanField()
    coverage = Figures()
    tones_lost = Figures()
    histogram = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))
    use = InkUse()
    aids = AidData()
    greys = CoreField(Evenness, complete=True, allow_null=True)
    regions = BlackRegionData(many=True)


class UnconvertedData(serializers.Serializer):
    """Both None where the artwork's numbers cannot be sent as they are."""

    sent = CoreField(Unconverted, complete=True, allow_null=True)
    converted = CoreField(Differences, complete=True, allow_null=True)


class InkRamp(serializers.Serializer):
    lightness = serializers.ListField(child=serializers.FloatField())
    print_lightness = serializers.ListField(child=serializers.FloatField())
    print_chroma = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class InkLimits(serializers.Serializer):
    darkest = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    darkest_grey = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    darkest_inks = Figures(allow_null=True)
    volume = serializers.FloatField(allow_null=True)
    whole_volume = serializers.FloatField(allow_null=True)


class Comparison(serializers.Serializer):
    names = serializers.ListField(child=serializers.CharField())
    de00_mean = serializers.FloatField()
    de00_p95 = serializers.FloatField()
    de00_max = serializers.FloatField()
    lightness = serializers.FloatField()
    chroma = serializers.FloatField()


class AgainstTarget(serializers.Serializer):
    """A wanted colour and the print, both as measured or with the paper as white; way : what the
    print is, in words."""

    lab = serializers.ListField(child=serializers.FloatField())
    print_lab = serializers.ListField(child=serializers.FloatField())
    as_measured = serializers.BooleanField()
    de00 = serializers.FloatField()
    way = serializers.CharField()


class Readout(serializers.Serializer):
    x = serializers.IntegerField()
    y = serializers.IntegerField()
    source_space = serializers.CharField()
    source = serializers.DictField(child=serializers.FloatField())  # type: ignore[assignment]
    lab = serializers.ListField(child=serializers.FloatField())
    aim_lab = serializers.ListField(child=serializers.FloatField())
    print_lab = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.FloatField())
    tac = serializers.FloatField()
    tac_rule = serializers.FloatField()
    de00 = serializers.FloatField()
    out_of_gamut = serializers.BooleanField()
    out_way = serializers.ChoiceField(["", *WAYS])
    miss = serializers.FloatField()
    target = AgainstTarget(allow_null=True)
