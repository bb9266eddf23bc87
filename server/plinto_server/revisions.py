"""Two people, two windows: every change names the revision it was made on.

A row counts its revisions and keeps, for every field, the revision that changed it last. A change made
on an older revision is merged where the two touched different fields; where they collide it is refused
with both values, and nothing is lost.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from django.db import models
from rest_framework import exceptions
from rest_framework.request import Request
from rest_framework.response import Response

from plinto_server.errors import Conflict

_TAG = re.compile(r'^(?:W/)?"(\d{1,18})"$')


class Revised(models.Model):
    """revision : counts the changes; touched : by dotted field, the revision that changed it last."""

    revision = models.PositiveIntegerField(default=1)
    touched = models.JSONField(default=dict)

    class Meta:
        abstract = True

    def stamp(
        self,
        before: Mapping[str, Any],
        after: Mapping[str, Any],
        patch: Mapping[str, Any] | None = None,
    ) -> bool:
        """Count a change from `before` to `after`; returns whether anything differs.

        patch : what was asked for. Only its own fields count as touched then, and not what follows
        from them, such as the defaults of an object that it made.
        """
        changed = differences(before, after)
        if not changed:
            return False
        if patch is not None:
            asked = [p for p in leaves(patch) if at(before, p) != at(after, p)]
            changed = asked or changed
        self.revision += 1
        kept = {p: r for p, r in self.touched.items() if not any(_related(p, c) for c in changed)}
        self.touched = {**kept, **dict.fromkeys(changed, self.revision)}
        return True


class Stale(Conflict):
    """Somebody else changed the same field meanwhile; `fields` holds both values."""

    default_code = "stale"

    def __init__(self, fields: list[dict[str, Any]], revision: int) -> None:
        names = ", ".join(str(f["field"]) for f in fields)
        super().__init__(f"Somebody changed the same meanwhile: {names}.")
        self.remedy = "Keep the newer value, or send yours again on the newer revision."
        self.extra = {"fields": fields, "revision": revision}


def matched(request: Request) -> int | None:
    """The revision that a request was made on (If-Match), None where it names none."""
    given = request.headers.get("If-Match")
    if given is None or given.strip() == "*":
        return None
    found = _TAG.match(given.strip())
    if found is None:
        raise exceptions.ValidationError("If-Match is not an entity tag of this address.")
    return int(found[1])


def answer(data: Any, row: Revised, status: int = 200) -> Response:
    """A response that carries the row's revision as its entity tag."""
    return Response(data, status=status, headers={"ETag": f'"{row.revision}"'})


def settle(
    row: Revised, present: Mapping[str, Any], patch: Mapping[str, Any], match: int | None
) -> None:
    """Raise Stale where a patch made on revision `match` collides with a later change."""
    if match is None or match >= row.revision:
        return
    clashes = []
    for path, yours in leaves(patch).items():
        later = any(r > match for p, r in row.touched.items() if _related(p, path))
        theirs = at(present, path)
        if later and theirs != yours:
            clashes.append({"field": path, "theirs": theirs, "yours": yours})
    if clashes:
        raise Stale(clashes, row.revision)


def merged(
    base: Mapping[str, Any],
    patch: Mapping[str, Any],
    free: frozenset[str] = frozenset(),
    way: str = "",
) -> dict[str, Any]:
    """`base` with a patch laid over it, object by object (RFC 7396).

    free : dotted names of objects whose keys are data (inks, plates); null removes such a key, while
    null elsewhere is a value like any other.
    """
    out = dict(base)
    for key, value in patch.items():
        path = f"{way}.{key}" if way else str(key)
        if value is None and way in free:
            out.pop(key, None)
        elif isinstance(value, Mapping):
            under = out.get(key)
            out[key] = merged(under if isinstance(under, Mapping) else {}, value, free, path)
        else:
            out[key] = value
    return out


def leaves(value: Mapping[str, Any], way: str = "") -> dict[str, Any]:
    """Every value of nested objects by its dotted name; lists are one value."""
    found: dict[str, Any] = {}
    for key, inner in value.items():
        path = f"{way}.{key}" if way else str(key)
        if isinstance(inner, Mapping) and inner:
            found.update(leaves(inner, path))
        else:
            found[path] = inner
    return found


def differences(before: Mapping[str, Any], after: Mapping[str, Any]) -> list[str]:
    """Dotted names of all values that differ."""
    a, b = leaves(before), leaves(after)
    return sorted(p for p in {*a, *b} if (p in a) != (p in b) or a[p] != b[p])


def at(value: Any, path: str) -> Any:
    """The value under a dotted name, None where there is none."""
    for key in path.split("."):
        if not isinstance(value, Mapping) or key not in value:
            return None
        value = value[key]
    return value


def _related(a: str, b: str) -> bool:
    """Whether one dotted name is the other, or lies inside it."""
    return a == b or a.startswith(f"{b}.") or b.startswith(f"{a}.")
