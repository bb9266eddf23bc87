"""Foreign files are opened and drawn in processes of their own, under limits of memory and time.

A file that was built to hurt takes such a process with it and nothing else. Where nobody has begun it (the
command line, workers, which have limits themselves) what is to be done is done at once.
"""

from __future__ import annotations

import multiprocessing
import os
import queue
import resource
import threading
from collections.abc import Callable
from importlib import import_module
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from django.conf import settings

from plinto_core.errors import NotSupported
from plinto_core.words import say
from plinto_server.processes import die_with, resident_memory

Result = TypeVar("Result")
_CONTEXT = multiprocessing.get_context("spawn")
AT_ONCE = 2
SECONDS = 120.0
"""That a file may take to be read, or a page to be drawn."""
_HEAVY = 1 << 29
"""Bytes of memory from which a process is not used again: what it holds may never be given back."""


class _Room:
    """One process that does what it is sent, one thing after the other."""

    def __init__(self) -> None:
        self._ours, theirs = _CONTEXT.Pipe()
        self._process = _CONTEXT.Process(
            target=_serve, args=(theirs, os.getpid(), settings.FILE_MEMORY), daemon=True
        )
        self._process.start()
        theirs.close()

    def run(self, do: Callable[..., Any], given: tuple[Any, ...], named: dict[str, Any]) -> Any:
        self._ours.send((do, given, named))
        if not self._ours.poll(SECONDS):
            self.end()
            raise NotSupported(say("errors.file-slow", seconds=SECONDS))
        try:
            went_well, result, self.heavy = self._ours.recv()
        except EOFError:
            went_well, result, self.heavy = False, MemoryError(), True
        if went_well:
            return result
        if isinstance(result, MemoryError):
            self.heavy = True
            raise NotSupported(say("errors.file-memory", gigabytes=settings.FILE_MEMORY / 2**30))
        raise result

    heavy = False

    @property
    def usable(self) -> bool:
        return self._process.is_alive() and not self.heavy

    def end(self) -> None:
        self._process.kill()
        self._process.join()
        self._ours.close()


def _serve(pipe: Connection, parent: int, memory: int) -> None:
    import django

    django.setup()
    die_with(parent)
    resource.setrlimit(resource.RLIMIT_DATA, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    while True:
        try:
            do, given, named = pipe.recv()
        except EOFError:
            return  # the server has ended
        try:
            told = True, do(*given, **named)
        except Exception as error:  # noqa: BLE001  it is raised again where it was asked for
            told = False, error
        heavy = resident_memory() > _HEAVY
        try:
            pipe.send((*told, heavy))
        except Exception:  # noqa: BLE001  an error that cannot be sent
            pipe.send((False, RuntimeError(repr(told[1])[:500]), heavy))


_rooms: queue.LifoQueue[_Room | None] = queue.LifoQueue()
_begun = threading.Event()


def begin(first: str = "") -> None:
    """From now on, in this process, foreign files are opened apart.

    first : a module that one process begins with at once, so that no first file waits for it.
    """
    if not _begun.is_set():
        for _ in range(AT_ONCE):
            _rooms.put(None)
        _begun.set()
        if first:
            threading.Thread(target=_load, args=(first,), daemon=True).start()


def _load(module: str) -> None:
    run(_loaded, module)


def _loaded(module: str) -> None:
    import_module(module)


def run(do: Callable[..., Result], *given: Any, **named: Any) -> Result:
    """The result of a function of a module, called apart; raises what it raises, and NotSupported where it
    needs more memory or time than a file may take."""
    if not _begun.is_set():
        return do(*given, **named)
    room = _rooms.get()
    try:
        if room is None or not room.usable:
            if room is not None:
                room.end()
            room = _Room()
        result: Result = room.run(do, given, named)
        return result
    finally:
        _rooms.put(room)
