"""The demo's profiles are built beside each other and come out in their order."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from threading import current_thread, main_thread

import pytest

from plinto_core.demo import presses
from plinto_core.simulator import CONDITIONS, FURTHER


@pytest.mark.parametrize(("processors", "asked"), [(1, []), (2, [2]), (64, [4]), (None, [])])
def test_presses_come_in_their_order_by_as_many_processes_as_there_are(
    monkeypatch, processors, asked
) -> None:
    pools = []

    def pool(count: int, mp_context: object) -> ThreadPoolExecutor:
        pools.append(count)
        return ThreadPoolExecutor(count)

    monkeypatch.setattr(presses, "ProcessPoolExecutor", pool)
    monkeypatch.setattr(presses, "build_simulated", lambda press: press.key)
    monkeypatch.setattr(presses.os, "cpu_count", lambda: processors)
    wanted = (*CONDITIONS, *FURTHER)
    assert list(presses.build_all(wanted)) == [p.key for p in wanted]
    assert pools == asked
    assert list(presses.build_all([])) == []


@pytest.mark.parametrize("falls_at", range(3))
def test_what_a_fallen_process_leaves_is_built_all_the_same(monkeypatch, falls_at) -> None:
    wanted = CONDITIONS[:3]

    def build(press: object) -> str:
        if current_thread() is not main_thread() and press is wanted[falls_at]:
            raise BrokenProcessPool
        return press.key

    monkeypatch.setattr(presses, "ProcessPoolExecutor", lambda n, mp_context: ThreadPoolExecutor(n))
    monkeypatch.setattr(presses, "build_simulated", build)
    monkeypatch.setattr(presses.os, "cpu_count", lambda: 2)
    assert list(presses.build_all(wanted)) == [p.key for p in wanted]
