"""The core's pydantic models as components of the API's description."""

from __future__ import annotations

from typing import Any

from drf_spectacular.drainage import set_override
from drf_spectacular.extensions import OpenApiSerializerExtension, OpenApiSerializerFieldExtension
from drf_spectacular.openapi import AutoSchema
from drf_spectacular.plumbing import ResolvedComponent
from pydantic import BaseModel
from rest_framework import serializers

from plinto_core.words import SCHEMA, TITLE, Said


class CoreField(serializers.JSONField):
    """Data of one of the core's models, described by the model itself; the core checks what comes in.

    complete : what goes out has every part, also those that did not exist when it was kept.
    """

    def __init__(self, model: type[BaseModel], *, complete: bool = False, **options: Any) -> None:
        super().__init__(**options)
        self.model = model
        self.complete = complete

    def to_representation(self, value: Any) -> Any:
        if isinstance(value, BaseModel):
            return value.model_dump(mode="json")
        if self.complete:
            return self.model.model_validate(value or {}).model_dump(mode="json")
        return super().to_representation(value)


class ReportField(CoreField):
    """A kept report in its present form; what is not there yet stays so."""

    def to_representation(self, value: Any) -> Any:
        if isinstance(value, dict) and value:
            value = self.model.model_validate(value)
        return super().to_representation(value)


class SaidField(serializers.JSONField):
    """A sentence of the core; what was kept as plain text goes out as a sentence without a code."""

    def to_representation(self, value: Any) -> Any:
        return Said.read(value).as_json()


_SAID = {"$ref": "#/components/schemas/Said"}


def _register_said(auto_schema: AutoSchema) -> None:
    auto_schema.registry.register_on_missing(
        ResolvedComponent(  # type: ignore[no-untyped-call]
            name="Said", type=ResolvedComponent.SCHEMA, object="Said", schema=SCHEMA
        )
    )


class SaidFieldExtension(OpenApiSerializerFieldExtension):  # type: ignore[no-untyped-call]
    """Describes such a field as the component that the core's models use too."""

    target_class = SaidField

    def map_serializer_field(self, auto_schema: AutoSchema, direction: Any) -> Any:
        _register_said(auto_schema)
        return _SAID


class CoreFieldExtension(OpenApiSerializerFieldExtension):  # type: ignore[no-untyped-call]
    """Describes such a field by its model's component."""

    target_class = CoreField
    match_subclasses = True
    target: CoreField

    def map_serializer_field(self, auto_schema: AutoSchema, direction: Any) -> Any:
        model: Any = self.target.model
        return auto_schema.resolve_serializer(model, direction).ref


class PydanticExtension(OpenApiSerializerExtension):  # type: ignore[no-untyped-call]
    """Describes a pydantic model by its own JSON schema, its parts as components too."""

    target_class = "pydantic.BaseModel"
    match_subclasses = True
    priority = 1
    """Above the one the library ships, which keeps titles and makes what has defaults optional."""
    target: type[BaseModel]

    def get_name(self, auto_schema: AutoSchema, direction: str) -> str:
        # Parts registered below carry the same name; they are the same model.
        set_override(self.target, "suppress_collision_warning", True)
        return self.target.__name__

    def map_serializer(self, auto_schema: AutoSchema, direction: str) -> dict[str, Any]:
        schema = self.target.model_json_schema(
            ref_template="#/components/schemas/{model}", mode="serialization"
        )
        _register_said(auto_schema)
        for name, part in schema.pop("$defs", {}).items():
            auto_schema.registry.register_on_missing(
                ResolvedComponent(  # type: ignore[no-untyped-call]
                    name=name,
                    type=ResolvedComponent.SCHEMA,
                    object=name,
                    schema=_with_defaults(_plain(part), part),
                )
            )
        return _with_defaults(_plain(schema), schema)


def _with_defaults(plain: dict[str, Any], schema: dict[str, Any]) -> dict[str, Any]:
    """The description with what each property is where nobody says otherwise, for forms to start from."""
    found = {n: p["default"] for n, p in schema.get("properties", {}).items() if "default" in p}
    return {**plain, "x-defaults": found} if found else plain


def _plain(schema: dict[str, Any]) -> dict[str, Any]:
    """Without titles and defaults; what the core writes always holds every property."""
    if schema.get("title") == TITLE:
        return dict(_SAID)
    out: dict[str, Any] = {}
    for key, value in schema.items():
        if key in ("title", "default") and not isinstance(value, dict):
            continue
        if key == "default" and "properties" not in schema:
            continue
        if key == "prefixItems":
            # The client's types know no tuples; their length stands beside them.
            out["items"] = _walk(value[0])
            continue
        out[key] = _walk(value)
    if "properties" in schema:
        out["required"] = list(schema["properties"])
    return out


def _walk(value: Any) -> Any:
    if isinstance(value, dict):
        return _plain(value)
    if isinstance(value, list):
        return [_walk(v) for v in value]
    return value
