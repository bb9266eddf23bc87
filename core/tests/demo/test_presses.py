"""The demo's profiles are built beside each other and come out in their order."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor

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
