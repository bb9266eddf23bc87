"""The documents of methods that ship with Plinto, for reading in the application."""

from __future__ import annotations

from functools import cache
from typing import Any

from django.conf import settings
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server.requests import View


class MethodData(serializers.Serializer):
    name = serializers.CharField()
    title = serializers.CharField()
    text = serializers.CharField()


@cache
def methods() -> list[dict[str, Any]]:
    """Every document of methods, the overview first."""
    found = []
    for path in sorted((settings.ROOT / "docs" / "methods").glob("*.md")):
        text = path.read_text(encoding="utf-8")
        title = text.splitlines()[0].lstrip("# ").strip() if text.strip() else path.stem
        found.append({"name": path.stem, "title": title, "text": text})
    return sorted(found, key=lambda m: (m["name"] != "README", m["title"]))


class MethodList(View):
    @extend_schema(responses=MethodData(many=True), operation_id="methods_list")
    def get(self, request: Request) -> Response:
        """How every figure is computed, as Markdown."""
        return Response(MethodData(methods(), many=True).data)
