"""The kinds of long work there are: each app names its own, the queue treats them alike."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from django.db.models import Q

from plinto_core.arrays import Progress
from plinto_core.fields import Report

if TYPE_CHECKING:
    from plinto_core.fields import Report
from plinto_server.apps.work.models import WatchedWork

Doing = Callable[[Any, Path, Progress], Report]
"""Given the work's row, a path to write to and progress; returns the report."""


@dataclass(frozen=True)
class Described:
    """What the queue shows of a row: what is worked on, what is done to it, where to see it."""

    title: str
    detail: str
    place: str
    """An address in the interface."""
    file_name: str = ""
    settings: dict[str, Any] | None = None
    """The recipe or policy it runs by."""


def _always(row: Any) -> Q:
    return Q()


def _nothing(row: Any) -> None:
    return None


@dataclass(frozen=True)
class KindOfWork:
    """key : its name in addresses; owner : lookup of the user it belongs to; related : what a list
    of rows needs beside them.

    suffix : of the file it makes; free : what must hold of the row for a worker to take it;
    recorded : which ended rows are worth showing; report : what its report is kept as; arrange : in place of putting a task into the queue at once; ended : after it has ended.
    """

    key: str
    name: str
    model: type[WatchedWork]
    owner: str
    doing: Doing
    suffix: Callable[[Any], str]
    describe: Callable[[Any], Described]
    related: tuple[str, ...] = ()
    free: Callable[[Any], Q] = _always
    recorded: Q = field(default_factory=Q)
    report: type[Report] | None = None
    arrange: Callable[[Any], None] | None = None
    ended: Callable[[Any], None] = _nothing


KINDS: dict[str, KindOfWork] = {}


def register(kind: KindOfWork) -> None:
    """Make a kind known; called when its app is ready."""
    KINDS[kind.key] = kind


def kind_of(row: WatchedWork) -> KindOfWork:
    """The kind a row belongs to."""
    return next(k for k in KINDS.values() if k.model is type(row))
