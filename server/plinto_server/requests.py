"""How requests are read: unknown and ineffective fields are refused, never passed over in silence."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import Any, TypeVar

from rest_framework import exceptions, serializers
from rest_framework.request import Request
from rest_framework.views import APIView

from plinto_server import access

Given = TypeVar("Given", bound=serializers.BaseSerializer)


class View(APIView):
    """A view that takes the query parameters of its description and no others, and a body only
    where its description names one."""

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        described = self._description(request)
        known = set(_parameters(described.get_override_parameters())) if described else set()
        refuse_unknown(request.query_params, known, "parameter")
        if described is not None and request.method not in ("GET", "HEAD", "OPTIONS"):
            takes = request.method != "DELETE" and described.get_request_serializer() is not None
            if not takes and request.data:
                raise exceptions.ValidationError("This request takes no content.")

    def _description(self, request: Request) -> Any:
        handler = getattr(self, (request.method or "").lower(), None)
        made = getattr(handler, "kwargs", {}).get("schema")
        if made is None:
            return None
        described = made()
        described.method, described.view = request.method, self
        return described


def _parameters(described: Iterable[Any]) -> Iterator[str]:
    """Names of parameters that are described one by one, or as the fields of a serializer."""
    for one in described:
        if isinstance(one, type) and issubclass(one, serializers.Serializer):
            yield from list(one().fields)
        else:
            yield one.name


def refuse_unknown(given: Iterable[str], known: Iterable[str], what: str) -> None:
    """Raise a ValidationError that names what is not known, and what is."""
    known = set(known)
    unknown = sorted(str(name) for name in given if name not in known)
    if unknown:
        choice = f" Known are {', '.join(sorted(known))}." if known else ""
        raise exceptions.ValidationError(f"There is no {what} {unknown[0]!r} here.{choice}")


def body(request: Request, serializer: type[serializers.Serializer], **options: Any) -> Any:
    """The checked content of a request; raises ValidationError, also for unknown fields.

    options : as the serializer takes them, such as many and partial.
    """
    given = serializer(data=request.data, context={"request": request}, **options)
    given.is_valid(raise_exception=True)
    known = serializer().fields
    items = request.data if options.get("many") else [request.data]
    for item in items:
        if isinstance(item, Mapping):
            refuse_unknown(item, known, "field")
    return given.validated_data


def patch_of(request: Request) -> dict[str, Any]:
    """The changes of a request, an object of the fields that change."""
    if not isinstance(request.data, dict):
        raise exceptions.ValidationError("The changes must be an object.")
    return dict(request.data)


class Own(serializers.PrimaryKeyRelatedField):
    """A row by its id, among those that the signed-in person may use."""

    def get_queryset(self) -> Any:
        rows = super().get_queryset()
        request = self.context.get("request")
        if rows is None or request is None:
            return rows
        return access.mine(request.user, rows.model, rows)
