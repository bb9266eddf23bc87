"""What the jobs API takes and gives."""

from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from plinto_core.errors import CoreError
from plinto_core.recipes import parse_recipe
from plinto_server.apps.artwork.api import ArtworkData
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.api import Condition
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.jobs.services import source_of

INTENTS = ["perceptual", "relative", "saturation", "absolute"]


class BlackData(serializers.Serializer):
    method = serializers.ChoiceField(["gcr", "ucr", "none", "maximum"])
    strength = serializers.FloatField()
    start = serializers.FloatField()
    limit = serializers.FloatField()
    reach = serializers.FloatField()


class ProtectData(serializers.Serializer):
    pure_black = serializers.BooleanField()
    neutral_to_black = serializers.BooleanField()


class RulesData(serializers.Serializer):
    name = serializers.CharField(allow_blank=True)
    tac = serializers.FloatField()
    limits = serializers.DictField(child=serializers.FloatField())
    black = BlackData(allow_null=True)
    protect = ProtectData()


class DeliveryOptions(serializers.Serializer):
    format = serializers.ChoiceField(["TIFF", "JPEG"])
    bits = serializers.ChoiceField([8, 16])
    embed = serializers.BooleanField()
    compression = serializers.ChoiceField(["none", "lzw", "deflate"])
    quality = serializers.IntegerField()
    mirror = serializers.BooleanField()
    negative = serializers.BooleanField()


class RecipeData(serializers.Serializer):
    version = serializers.IntegerField()
    source = serializers.CharField(allow_null=True)
    destination = serializers.CharField()
    intent = serializers.ChoiceField(INTENTS)
    bpc = serializers.BooleanField()
    ink_rules = RulesData(allow_null=True)
    delivery = DeliveryOptions()


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


class DestinationData(serializers.ModelSerializer):
    condition = Condition()
    recipe = RecipeData()
    facts = DestinationFacts()
    source = serializers.SerializerMethodField()
    can_undo = serializers.SerializerMethodField()
    can_redo = serializers.SerializerMethodField()

    class Meta:
        model = Destination
        fields = ["id", "condition", "recipe", "facts", "source", "can_undo", "can_redo"]

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


class JobData(serializers.ModelSerializer):
    artwork = ArtworkData()
    destinations = DestinationData(many=True)

    class Meta:
        model = Job
        fields = ["id", "name", "created", "artwork", "destinations"]


class NewJob(serializers.Serializer):
    artwork = serializers.PrimaryKeyRelatedField(queryset=Artwork.objects.all())
    conditions = serializers.PrimaryKeyRelatedField(
        queryset=PrintingCondition.objects.all(), many=True
    )


class NewDestination(serializers.Serializer):
    condition = serializers.PrimaryKeyRelatedField(queryset=PrintingCondition.objects.all())


class RecipeChanges(serializers.Serializer):
    source = serializers.CharField(allow_null=True, required=False)
    intent = serializers.ChoiceField(INTENTS, required=False)
    bpc = serializers.BooleanField(required=False)
    ink_rules = serializers.JSONField(required=False, allow_null=True)
    delivery = serializers.JSONField(required=False)


class InkFigures(serializers.Serializer):
    tac_max = serializers.FloatField()
    tac_at = serializers.ListField(child=serializers.IntegerField())
    tac_rule = serializers.FloatField()
    exact = serializers.BooleanField()
    coverage = serializers.DictField(child=serializers.FloatField())


class NeutralAxis(serializers.Serializer):
    lightness = serializers.ListField(child=serializers.FloatField())
    print_lightness = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class Readout(serializers.Serializer):
    x = serializers.IntegerField()
    y = serializers.IntegerField()
    source_space = serializers.CharField()
    source = serializers.DictField(child=serializers.FloatField())
    lab = serializers.ListField(child=serializers.FloatField())
    print_lab = serializers.ListField(child=serializers.FloatField())
    inks = serializers.DictField(child=serializers.FloatField())
    tac = serializers.FloatField()
    tac_rule = serializers.FloatField()
    de00 = serializers.FloatField()
    out_of_gamut = serializers.BooleanField()
