"""Artwork: import, list, other pages."""

from __future__ import annotations

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server import access
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.artwork.services import import_artwork, take_page
from plinto_server.requests import View, body
from plinto_server.schema import SaidField
from plinto_server.uploads import Upload, uploaded


class FindingData(serializers.Serializer):
    level = serializers.ChoiceField(["stop", "attention", "note"])
    code = serializers.CharField()
    text = SaidField()


class LayerData(serializers.Serializer):
    name = serializers.CharField()
    hidden = serializers.BooleanField()


class ArtworkFacts(serializers.Serializer):
    """layers : of a layered document, those with pixels, the uppermost first; page 0 is its flattened picture,
    the pages after it are these."""

    format = serializers.CharField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    space = serializers.CharField()
    channels = serializers.IntegerField()
    bits = serializers.IntegerField()
    transparency = serializers.BooleanField()
    resolution = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    print_size_mm = serializers.ListField(child=serializers.FloatField(), allow_null=True)
    pages = serializers.IntegerField()
    profile = serializers.CharField(allow_null=True)
    profile_sha256 = serializers.CharField(allow_null=True)
    profile_problem = serializers.CharField(allow_null=True)
    declared_srgb = serializers.BooleanField(required=False)
    transparent_share = serializers.FloatField(required=False)
    extra_channels = serializers.ListField(child=serializers.CharField(), required=False)
    inks = serializers.ListField(child=serializers.CharField(), required=False)
    layers = LayerData(many=True, required=False)
    findings = FindingData(many=True, required=False)


class ArtworkData(serializers.ModelSerializer):
    facts = ArtworkFacts()

    class Meta:
        model = Artwork
        fields = ["id", "name", "file_name", "size", "sha256", "page", "facts", "created"]


class PageChoice(serializers.Serializer):
    page = serializers.IntegerField(min_value=0, max_value=100_000)


class ArtworkList(View):
    parser_classes = [MultiPartParser]

    @extend_schema(responses=ArtworkData(many=True), operation_id="artwork_list")
    def get(self, request: Request) -> Response:
        """One's own artwork, newest first."""
        return Response(ArtworkData(access.mine(request.user, Artwork), many=True).data)

    @extend_schema(request=Upload, responses=ArtworkData, operation_id="artwork_import")
    def post(self, request: Request) -> Response:
        """Import a picture (TIFF, PNG, JPEG, PSD)."""
        with uploaded(request) as (path, name):
            artwork = import_artwork(access.person(request), path, name)
        return Response(ArtworkData(artwork).data, status=201)


class ArtworkPage(View):
    @extend_schema(request=PageChoice, responses=ArtworkData, operation_id="artwork_page")
    def post(self, request: Request, pk: int) -> Response:
        """Another page of the same file as an artwork of its own."""
        artwork = access.own(request.user, Artwork, pk)
        page = body(request, PageChoice)["page"]
        return Response(ArtworkData(take_page(artwork, page)).data, status=201)
