"""Foreign files are opened in processes of their own: what hurts one hurts nothing else."""

from __future__ import annotations

import os
import queue
import signal
import time

import pytest

from plinto_core.errors import BadImage, NotSupported
from plinto_core.imaging.facts import check_size
from plinto_server import apart


@pytest.fixture
def begun(monkeypatch, settings):
    settings.FILE_MEMORY = 600 << 20
    rooms: queue.LifoQueue = queue.LifoQueue()
    monkeypatch.setattr(apart, "_rooms", rooms)
    monkeypatch.setattr(apart, "_begun", apart.threading.Event())
    monkeypatch.setattr(apart, "AT_ONCE", 1)
    apart.begin()
    apart.begin()
    yield rooms
    room = rooms.get_nowait()
    assert rooms.empty(), "as many as were wanted, whatever happened"
    if room is not None:
        room.end()


def test_where_nobody_has_begun_it_is_done_at_once() -> None:
    assert apart.run(os.getpid) == os.getpid()


def test_a_process_is_used_again_until_something_is_wrong_with_it(begun, monkeypatch) -> None:
    first = apart.run(os.getpid)
    assert first != os.getpid()
    with pytest.raises(BadImage) as refused:
        apart.run(check_size, 0, 0, 1)
    assert refused.value.said.code == "imaging.no-pixels"
    with pytest.raises(RuntimeError, match="memory at"):
        apart.run(memoryview, b"x")
    assert len(apart.run(bytearray, 10 << 20)) == 10 << 20
    assert apart.run(os.getpid) == first
    with pytest.raises(NotSupported, match=r"more memory to be read than the 0\.6 GB"):
        apart.run(bytearray, 2000 << 20)
    second = apart.run(os.getpid)
    assert second != first, "what took too much is not used again"
    with pytest.raises(NotSupported, match="more memory"):
        apart.run(signal.raise_signal, signal.SIGBUS)
    third = apart.run(os.getpid)
    assert third != second
    monkeypatch.setattr(apart, "SECONDS", 0.5)
    began = time.monotonic()
    with pytest.raises(NotSupported, match="could not be read within"):
        apart.run(time.sleep, 600)
    assert time.monotonic() - began < 5
    monkeypatch.setattr(apart, "SECONDS", 60.0)
    assert apart.run(os.getpid) != third
