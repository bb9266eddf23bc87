"""The home of shared caches: made once, bounded, and nothing kept of what failed."""

from __future__ import annotations

import threading
import time

import pytest

from plinto_core.keeping import Kept


def test_the_least_recently_used_gives_way() -> None:
    made: list[str] = []

    def make(name: str):
        return lambda: made.append(name) or name * 10

    kept: Kept[str, str] = Kept(25, len)
    for name in ("a", "b", "a", "c", "a", "b"):
        assert kept.get(name, make(name)) == name * 10
    assert made == ["a", "b", "c", "b"]
    assert len(kept) == 2


def test_what_alone_is_too_large_stays_until_the_next() -> None:
    kept: Kept[str, str] = Kept(5, len)
    assert kept.get("long", lambda: "x" * 50) == "x" * 50
    assert kept.get("long", lambda: "never") == "x" * 50
    kept.get("b", lambda: "bb")
    assert kept.get("long", lambda: "anew") == "anew"


def test_six_threads_make_one_value_once() -> None:
    made: list[int] = []
    begun = threading.Barrier(6)
    kept: Kept[str, object] = Kept(4)

    def make() -> object:
        made.append(1)
        time.sleep(0.05)
        return object()

    found: list[object] = []

    def ask() -> None:
        begun.wait()
        found.append(kept.get("key", make))

    threads = [threading.Thread(target=ask) for _ in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert len(made) == 1
    assert len({id(v) for v in found}) == 1
    assert len(found) == 6


def test_other_keys_do_not_wait() -> None:
    kept: Kept[str, str] = Kept(4)
    inside, go_on = threading.Event(), threading.Event()

    def slow() -> str:
        inside.set()
        assert go_on.wait(20)
        return "slow"

    thread = threading.Thread(target=lambda: kept.get("slow", slow))
    thread.start()
    assert inside.wait(20)
    assert kept.get("other", lambda: "at once") == "at once"
    go_on.set()
    thread.join()
    assert kept.get("slow", lambda: "again") == "slow"


def test_what_fails_is_told_to_all_and_not_kept() -> None:
    kept: Kept[str, str] = Kept(4)
    inside, go_on = threading.Event(), threading.Event()

    def fails() -> str:
        inside.set()
        assert go_on.wait(20)
        raise ValueError("no")

    told: list[str] = []

    def ask() -> None:
        try:
            kept.get("key", fails)
        except ValueError as error:
            told.append(str(error))

    threads = [threading.Thread(target=ask) for _ in range(2)]
    threads[0].start()
    assert inside.wait(20)
    threads[1].start()
    go_on.set()
    for t in threads:
        t.join()
    assert told == ["no", "no"]
    assert kept.get("key", lambda: "now") == "now"
    with pytest.raises(KeyError):
        kept.get("another", lambda: {}["nothing"])
    assert len(kept) == 1
