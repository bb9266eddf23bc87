"""Every failure of the API as application/problem+json (RFC 9457) with code and remedy."""

from __future__ import annotations

import logging
import re
import sys
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, JsonResponse
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import exception_handler

from plinto_core.disk import of_the_disk
from plinto_core.errors import CoreError, NoRoom, NotWritable
from plinto_core.words import say

CONTENT_TYPE = "application/problem+json"
log = logging.getLogger("plinto")


def problem(status: int, code: str, title: str, remedy: str = "") -> dict[str, Any]:
    return {"status": status, "code": code, "title": title, "remedy": remedy}


class Conflict(exceptions.APIException):
    """The request does not fit the present state."""

    status_code = 409
    default_code = "conflict"


class Busy(exceptions.APIException):
    """Others hold what is asked for; it is free again in a moment."""

    status_code = 503
    default_code = "busy"
    default_detail = "The database is held by something else."
    remedy = "Try again in a moment."


NO_ROOM, CLOSED = 507, 503
_AGAIN = 5
"""Seconds after which a request that found the database held may come again."""


def held(error: BaseException) -> bool:
    """Whether the database was held by another for longer than it is waited for."""
    return isinstance(error, OperationalError) and bool(
        re.search("locked|busy", str(error), re.IGNORECASE)
    )


def of_the_place(error: BaseException) -> CoreError | None:
    """What an error says of the disk, or of a database that found it full or closed; else None."""
    if isinstance(error, OSError):
        return of_the_disk(error)
    if not isinstance(error, OperationalError):
        return None
    if "full" in str(error):
        return NoRoom(say("errors.disk-full"))
    if "readonly" in str(error) or "unable to open" in str(error):
        return NotWritable(say("errors.not-writable", why=str(error)))
    return None


def _status(error: CoreError) -> int:
    return (
        NO_ROOM if isinstance(error, NoRoom) else CLOSED if isinstance(error, NotWritable) else 400
    )


def handle(error: Exception, context: dict[str, Any]) -> Response:
    """DRF's exception handler: core errors are the user's to mend, the rest is logged."""
    error = of_the_place(error) or (Busy() if held(error) else error)
    if isinstance(error, CoreError):
        said = error.said.as_json()
        body = {
            **problem(_status(error), error.code, error.message, error.remedy),
            "reason": said["code"],
            "values": said["values"],
            "errors": _of_fields(said),
        }
        return Response(body, status=_status(error), content_type=CONTENT_TYPE)
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
    if isinstance(error, Busy):
        response["Retry-After"] = str(_AGAIN)
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
    """What fails outside a view: a session that cannot be kept, a form that cannot be received."""
    error = sys.exc_info()[1]
    if isinstance(error, Exception) and (held(error) or of_the_place(error) is not None):
        told = handle(error, {})
        headers = {k: v for k, v in told.headers.items() if k == "Retry-After"}
        return JsonResponse(
            told.data, status=told.status_code, content_type=CONTENT_TYPE, headers=headers
        )
    body = problem(500, "unexpected", "Plinto failed unexpectedly; nothing was changed.")
    return JsonResponse(body, status=500, content_type=CONTENT_TYPE)
