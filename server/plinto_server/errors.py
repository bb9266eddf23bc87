"""Every failure of the API as application/problem+json (RFC 9457) with code and remedy."""

from __future__ import annotations

import logging
from typing import Any

from django.http import HttpRequest, JsonResponse
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import exception_handler

from plinto_core.errors import CoreError

CONTENT_TYPE = "application/problem+json"
log = logging.getLogger("plinto")


def problem(status: int, code: str, title: str, remedy: str = "") -> dict[str, Any]:
    return {"status": status, "code": code, "title": title, "remedy": remedy}


class Conflict(exceptions.APIException):
    """The request does not fit the present state."""

    status_code = 409
    default_code = "conflict"


def handle(error: Exception, context: dict[str, Any]) -> Response:
    """DRF's exception handler: core errors are the user's to mend, the rest is logged."""
    if isinstance(error, CoreError):
        said = error.said.as_json()
        body = {
            **problem(400, error.code, error.message, error.remedy),
            "reason": said["code"],
            "values": said["values"],
            "errors": _of_fields(said),
        }
        return Response(body, status=400, content_type=CONTENT_TYPE)
    response = exception_handler(error, context)
    if response is None:
        log.exception("unexpected error", exc_info=error)
        body = problem(
            500,
            "unexpected",
            "Plinto failed unexpectedly; nothing was changed.",
            "Try again; the server's log holds the details.",
        )
        return Response(body, status=500, content_type=CONTENT_TYPE)
    detail = response.data
    if isinstance(detail, dict) and set(detail) == {"detail"}:
        title = str(detail["detail"])
    else:
        title = _first(detail)
    code = getattr(error, "default_code", "bad-request")
    remedy = str(getattr(error, "remedy", ""))
    extra = getattr(error, "extra", {})
    body = problem(response.status_code, str(code), title, remedy)
    response.data = {**body, "errors": _each(detail), **extra}
    response.content_type = CONTENT_TYPE
    return response


def _of_fields(said: dict[str, Any]) -> list[dict[str, str]]:
    """The field at fault, where the core refused a model for one."""
    place, why = said["values"].get("place"), said["values"].get("why")
    if not place or why is None:
        return []
    return [{"field": str(place), "message": why["text"] if isinstance(why, dict) else str(why)}]


def _each(detail: Any, where: str = "") -> list[dict[str, str]]:
    """Every field that a serializer refused, with the first thing that is wrong with it."""
    if isinstance(detail, dict):
        ways = (
            (f"{where}.{k}" if where else str(k), v) for k, v in detail.items() if k != "detail"
        )
        return [found for way, value in ways for found in _each(value, way)]
    if isinstance(detail, list) and detail and where and not isinstance(detail[0], dict | list):
        return [{"field": where, "message": str(detail[0])}]
    return []


def _first(detail: Any, where: str = "") -> str:
    if isinstance(detail, dict) and detail:
        key, value = next(iter(detail.items()))
        return _first(value, "" if key == "non_field_errors" else str(key))
    if isinstance(detail, list) and detail:
        return _first(detail[0], where)
    return f"{where}: {detail}" if where else str(detail)


def not_found(request: HttpRequest, exception: Exception | None = None) -> JsonResponse:
    body = problem(404, "not_found", "There is nothing at this address.")
    return JsonResponse(body, status=404, content_type=CONTENT_TYPE)


def server_error(request: HttpRequest) -> JsonResponse:
    body = problem(500, "unexpected", "Plinto failed unexpectedly; nothing was changed.")
    return JsonResponse(body, status=500, content_type=CONTENT_TYPE)
