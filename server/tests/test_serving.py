"""Workers that are kept alive, what is swept and how often, and limits that end a piece of work."""

from __future__ import annotations

import itertools
import socket
from dataclasses import replace
from types import SimpleNamespace

import pytest

from plinto_core.errors import BadInput
from plinto_server import serving
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.work import limits, running
from plinto_server.apps.work.kinds import KINDS
from plinto_server.serving import LOOK_EVERY, SERVER, SWEEP_EVERY, Crew, probe


class Clock:
    """A clock that moves only when somebody waits."""

    def __init__(self, monkeypatch, *modules) -> None:
        self.now = 1000.0
        for module in modules:
            monkeypatch.setattr(module, "time", SimpleNamespace(monotonic=lambda: self.now))


class Process:
    """A worker that lives until it is told otherwise."""

    made: list[Process]

    def __init__(self, command, env) -> None:
        self.command, self.env, self.code, self.told = command, env, None, []
        self.made.append(self)

    def poll(self):
        return self.code

    def terminate(self) -> None:
        self.told.append("terminate")

    def kill(self) -> None:
        self.told.append("kill")

    def wait(self, seconds):
        self.told.append(seconds)
        if self.code == "deaf":
            raise serving.subprocess.TimeoutExpired("worker", seconds)


@pytest.fixture
def processes(monkeypatch) -> list[Process]:
    Process.made = []
    monkeypatch.setattr(serving.subprocess, "Popen", Process)
    return Process.made


def test_a_worker_that_is_gone_is_made_up_for(processes, monkeypatch) -> None:
    crew = Crew({("web", "--port", "1"): 1, ("worker",): 2})
    crew._make_up()
    crew._make_up()
    assert len(processes) == 3
    assert processes[0].command[1:] == ["-m", "plinto_cli.main", "web", "--port", "1"]
    assert processes[1].command[1:] == ["-m", "plinto_cli.main", "worker"]
    assert processes[0].env[SERVER] == str(serving.os.getpid())
    processes[1].code = 71
    crew._make_up()
    assert len(processes) == 4
    assert processes[3].command == processes[1].command
    processes[0].code = -7
    crew._make_up()
    assert processes[4].command == processes[0].command
    processes[3].code = "deaf"
    crew.stop()
    assert [p.told for p in processes] == [
        [],
        [],
        ["terminate", 5],
        ["terminate", 5, "kill"],
        ["terminate", 5],
    ]
    for process in processes:
        process.code = 0
    crew._make_up()
    assert len(processes) == 5, "none is started while the server stops"


def test_sweeps_come_every_three_seconds_and_one_that_fails_is_tried_again(
    processes, monkeypatch
) -> None:
    clock, swept, beaten = Clock(monkeypatch, serving), [], []
    crew = Crew({("worker",): 2})

    def sweep() -> None:
        swept.append(clock.now)
        if len(swept) == 1:
            raise RuntimeError("the database is busy")

    def wait(seconds: float) -> None:
        assert seconds == LOOK_EVERY
        clock.now += seconds
        processes[0].code = 1 if clock.now > 1005 else None
        if clock.now > 1010:
            crew._stop.set()

    monkeypatch.setattr(running, "sweep", sweep)
    monkeypatch.setattr("plinto_server.health.beat", lambda name, says: beaten.append((name, says)))
    monkeypatch.setattr(crew._stop, "wait", wait)
    monkeypatch.setattr(serving, "close_old_connections", lambda: None)
    crew._watch()
    assert swept[0] == 1000
    steps = [b - a for a, b in itertools.pairwise(swept)]
    assert len(steps) == 3
    assert all(SWEEP_EVERY <= s < SWEEP_EVERY + LOOK_EVERY + 1e-6 for s in steps)
    assert beaten == [("workers", "2")] * 4
    assert len(processes) > 2


def test_an_address_is_tried_before_anything_is_begun() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        with pytest.raises(BadInput, match=f"Port {port} is in use") as error:
            probe("127.0.0.1", port)
        assert f"PORT={port + 1}" in error.value.remedy
    probe("127.0.0.1", port)
    with pytest.raises(BadInput, match="Nothing can be served at 203.0.113.7"):
        probe("203.0.113.7", port)


@pytest.fixture
def leash(monkeypatch, settings):
    settings.WORK_MINUTES, settings.WORK_MEMORY = 5, 2 << 30
    monkeypatch.setattr(limits, "resident_memory", lambda: 1 << 30)
    clock = Clock(monkeypatch, limits)
    return limits.Leash(), clock


@pytest.mark.parametrize(("after", "found"), [(1.9, None), (2.1, "")])
def test_a_cancel_is_followed_within_two_seconds(leash, after, found) -> None:
    held, clock = leash
    clock.now += 100
    held.cancelled()
    clock.now += after / 2
    held.cancelled()
    clock.now += after / 2
    assert held.passed() == found


def test_work_may_stand_still_for_minutes_but_not_for_more(leash) -> None:
    held, clock = leash
    clock.now += 299
    assert held.passed() is None
    held.step()
    clock.now += 299
    assert held.passed() is None
    clock.now += 2
    assert str(held.passed()).startswith("It stood still for 5 minutes")


@pytest.mark.parametrize(("used", "said"), [(2 << 30, ""), ((2 << 30) + 1, "It took 2.0 GB"), (7 << 29, "It took 3.5 GB")])  # fmt: skip
def test_work_takes_no_more_memory_than_it_may(leash, monkeypatch, used, said) -> None:
    monkeypatch.setattr(limits, "resident_memory", lambda: used)
    found = leash[0].passed()
    assert (found or "").startswith(said)
    assert (found is None) is (said == "")
    assert found is None or "the limit is 2.0 GB" in found


def test_memory_is_counted_in_bytes() -> None:
    before = limits.resident_memory()
    held = bytearray(b"x") * (64 << 20)
    grown = limits.resident_memory() - before
    assert len(held) * 0.9 < grown < len(held) * 1.5


@pytest.mark.parametrize(
    ("sentence", "state", "error"), [(None, "running", ""), ("", "cancelled", ""), ("It took all.", "failed", "It took all.")]
)  # fmt: skip
def test_work_that_passes_a_limit_is_written_down_before_its_process_ends(
    job, monkeypatch, sentence, state, error
) -> None:
    run = Run.objects.create(destination_id=job["destinations"][0]["id"], artwork_id=job["artwork"]["id"], recipe={}, state="running")  # fmt: skip
    ended, asked, told = [], [], []
    monkeypatch.setattr(running, "end", lambda: ended.append(Run.objects.get(pk=run.pk).state))
    held = SimpleNamespace(cancelled=lambda: asked.append(True), passed=lambda: sentence)
    kind = replace(KINDS["delivery"], ended=told.append)
    for cancelled in (False, True):
        Run.objects.filter(pk=run.pk).update(cancel_requested=cancelled, state="running")
        running._hold(kind, run.pk, held)
    after = Run.objects.get(pk=run.pk)
    assert (after.state, after.error) == (state, error)
    assert asked == [True]
    assert ended == ([] if sentence is None else [state] * 2)
    assert told == ([] if sentence is None else [after] * 2)
