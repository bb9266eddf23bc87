"""What the jobs API takes and gives."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from plinto_core.errors import CoreError
from plinto_core.recipes import Recipe, parse_recipe
from plinto_server.apps.artwork.api import ArtworkData
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.api import Condition
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.jobs.services import source_of

INTENTS = ["perceptual", "relative", "saturation", "absolute"]


@extend_schema_field(Recipe)
class RecipeField(serializers.JSONField):
    """A recipe as the core writes it, also where it was kept before a field existed."""

    def to_representation(self, value: Any) -> Any:
        return parse_recipe(value).model_dump(mode="json")


class Figures(serializers.DictField):
    """Numbers by ink."""

    child = serializers.FloatField()


class SourceData(serializers.Serializer):
    profile = serializers.CharField(allow_null=True)
    origin = serializers.CharField()
    problem = serializers.CharField(allow_null=True)


class IntentFigures(serializers.Serializer):
    intent = serializers.ChoiceField(INTENTS)
    out_of_gamut = serializers.FloatField()
    de00_mean = serializers.FloatField()
    de00_p95 = serializers.FloatField()
    detail = serializers.FloatField()


class FitData(serializers.Serializer):
    intent = serializers.ChoiceField(INTENTS)
    bpc = serializers.BooleanField()
    out_of_gamut = serializers.FloatField()
    de00_mean = serializers.FloatField()
    de00_p95 = serializers.FloatField()
    de00_max = serializers.FloatField()
    detail = serializers.FloatField()
    banding = serializers.FloatField()
    drift = serializers.FloatField()
    advised = serializers.BooleanField()


class DestinationFacts(serializers.Serializer):
    intent = IntentFigures(required=False)
    tac_max = serializers.FloatField(required=False)
    tac_rule = serializers.FloatField(required=False)


class NoteData(serializers.Serializer):
    way = serializers.ChoiceField(["kept", "adapted", "attention"])
    text = serializers.CharField()


class DestinationData(serializers.ModelSerializer):
    condition = Condition()
    recipe = RecipeField()
    facts = DestinationFacts()
    notes = NoteData(many=True)
    source = serializers.SerializerMethodField()
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
        ]

    @extend_schema_field(SourceData)
    def get_source(self, destination: Destination) -> dict[str, Any]:
        try:
            choice = source_of(destination.job.artwork, parse_recipe(destination.recipe))
        except CoreError as error:
            return {"profile": None, "origin": "none", "problem": str(error)}
        return {"profile": choice.profile.description, "origin": choice.origin, "problem": None}

    def get_can_undo(self, destination: Destination) -> bool:
        return destination.position > 0

    def get_can_redo(self, destination: Destination) -> bool:
        return destination.position < len(destination.history) - 1


class PointData(serializers.Serializer):
    name = serializers.CharField(max_length=60, allow_blank=True)
    x = serializers.IntegerField()
    y = serializers.IntegerField()


class JobData(serializers.ModelSerializer):
    artwork = ArtworkData()
    destinations = DestinationData(many=True)
    question = serializers.ChoiceField(["", "differs", "missing"])
    points = PointData(many=True)

    class Meta:
        model = Job
        fields = ["id", "name", "created", "artwork", "question", "points", "destinations"]


class NewJob(serializers.Serializer):
    artwork = serializers.PrimaryKeyRelatedField(queryset=Artwork.objects.all())
    conditions = serializers.PrimaryKeyRelatedField(
        queryset=PrintingCondition.objects.all(), many=True
    )


class NewDestination(serializers.Serializer):
    condition = serializers.PrimaryKeyRelatedField(queryset=PrintingCondition.objects.all())


class RetargetTo(serializers.Serializer):
    condition = serializers.PrimaryKeyRelatedField(queryset=PrintingCondition.objects.all())


class Answer(serializers.Serializer):
    answer = serializers.ChoiceField(["keep", "convert", "assign"])
    profile = serializers.CharField(required=False, allow_null=True)


class StateData(serializers.Serializer):
    position = serializers.IntegerField()
    label = serializers.CharField()
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
    histogram = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))
    use = InkUse()
    aids = AidData()
    regions = BlackRegionData(many=True)


class InkRamp(serializers.Serializer):
    lightness = serializers.ListField(child=serializers.FloatField())
    print_lightness = serializers.ListField(child=serializers.FloatField())
    print_chroma = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class InkLimits(serializers.Serializer):
    darkest = serializers.ListField(child=serializers.FloatField(), allow_null=True)
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


class Readout(serializers.Serializer):
    x = serializers.IntegerField()
    y = serializers.IntegerField()
    source_space = serializers.CharField()
    source = serializers.DictField(child=serializers.FloatField())
    lab = serializers.ListField(child=serializers.FloatField())
    aim_lab = serializers.ListField(child=serializers.FloatField())
    print_lab = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.FloatField())
    tac = serializers.FloatField()
    tac_rule = serializers.FloatField()
    de00 = serializers.FloatField()
    out_of_gamut = serializers.BooleanField()
