"""One command for all: the web server, its workers, the sweep, and the watch over folders."""

from __future__ import annotations

import errno
import logging
import os
import signal
import socket
import subprocess
import sys
import threading
import time
from types import FrameType

from django.core.management import call_command
from django.db import OperationalError, close_old_connections

from plinto_core.errors import BadInput

log = logging.getLogger("plinto")
SWEEP_EVERY = 3.0
LOOK_EVERY = 0.3
"""Seconds between two looks at whether the workers live."""
SERVER = "PLINTO_SERVED_BY"
"""What a worker of a server finds its process number in; one that was started alone has none."""


def run_worker() -> None:
    """One worker process, until it is told to stop."""
    from plinto_core.warm_up import warm_up
    from plinto_server.apps.work.limits import in_own_process
    from plinto_server.errors import held
    from plinto_server.processes import die_with

    in_own_process()
    if SERVER in os.environ:
        die_with(int(os.environ[SERVER]))
    warm_up()
    while True:
        try:
            call_command("db_worker", interval=0.3, startup_delay=False, verbosity=0)
            return
        except OperationalError as error:
            if not held(error):
                raise
            log.warning("the database is held; the worker looks for work again in a moment")
            close_old_connections()
            time.sleep(1.0)


class Crew:
    """Keeps the wanted number of processes of each kind alive and sweeps after lost work.

    wanted : words of the command line after `plinto`, and how many processes of it.
    """

    def __init__(self, wanted: dict[tuple[str, ...], int]) -> None:
        self._wanted = wanted
        self._processes: dict[tuple[str, ...], list[subprocess.Popen[bytes]]] = {
            words: [] for words in wanted
        }
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._watch, daemon=True)

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._stop.set()
        every = [p for several in self._processes.values() for p in several]
        for process in every:
            process.terminate()
        for process in every:
            try:
                process.wait(5)
            except subprocess.TimeoutExpired:
                process.kill()

    def _watch(self) -> None:
        swept = float("-inf")
        while not self._stop.is_set():
            try:
                self._make_up()
                if time.monotonic() - swept >= SWEEP_EVERY:
                    swept = time.monotonic()
                    self._sweep()
            except Exception:
                log.exception("the watch over the workers stumbled; it goes on")
            self._stop.wait(LOOK_EVERY)

    def _sweep(self) -> None:
        from plinto_server.apps.work.running import sweep
        from plinto_server.health import beat

        workers = self._processes.get(("worker",), [])
        beat("workers", str(sum(p.poll() is None for p in workers)))
        try:
            sweep()
        finally:
            close_old_connections()

    def _make_up(self) -> None:
        """Start a process for every one that is gone."""
        for words, count in self._wanted.items():
            alive = [p for p in self._processes[words] if p.poll() is None]
            while len(alive) < count and not self._stop.is_set():
                alive.append(
                    subprocess.Popen(
                        [sys.executable, "-m", "plinto_cli.main", *words],
                        env={**os.environ, SERVER: str(os.getpid())},
                    )
                )
            self._processes[words] = alive


def probe(host: str, port: int) -> None:
    """Raise BadInput where nothing can be served at an address, before anything is begun."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family, socket.SOCK_STREAM) as trial:
        trial.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            trial.bind((host, port))
        except OSError as error:
            if error.errno == errno.EADDRINUSE:
                raise BadInput(
                    f"Port {port} is in use already.",
                    remedy=f"Stop what serves there, or choose another: PORT={port + 1} make demo.",
                ) from error
            raise BadInput(
                f"Nothing can be served at {host}, port {port}: {error.strerror}.",
                remedy="Choose another address.",
            ) from error


def serve(host: str, port: int, workers: int) -> None:
    """Serve until interrupted: the web server and the workers are processes that are made up for, the
    watch over them and over the folders goes on here."""
    from plinto_server import apart, store
    from plinto_server.apps.folders.watching import FolderWatch
    from plinto_server.apps.profiles.services import add_standard_profiles, judge_stored_profiles

    probe(host, port)
    apart.begin()
    store.make_private()
    call_command("migrate", verbosity=0)
    add_standard_profiles()
    judge_stored_profiles()
    store.clear_scratch()
    crew = Crew({("web", "--host", host, "--port", str(port)): 1, ("worker",): workers})
    crew.start()
    folders = FolderWatch()
    folders.start()
    ended = threading.Event()
    signal.signal(signal.SIGTERM, lambda number, frame: ended.set())
    try:
        ended.wait()
    except KeyboardInterrupt:
        pass
    finally:
        folders.stop()
        crew.stop()


def run_web(host: str, port: int) -> None:
    """The web server alone, until it is told to stop."""
    import numba
    from waitress import create_server

    from plinto_core.warm_up import warm_up
    from plinto_server import apart, store
    from plinto_server.config.wsgi import application
    from plinto_server.processes import die_with

    if SERVER in os.environ:
        die_with(int(os.environ[SERVER]))
    store.clear_incoming()
    apart.begin("plinto_server.apps.policies.pages")
    warm_up()
    # Without a thread-safe layer of Numba (OpenMP or TBB) requests must take turns.
    layer: str = numba.threading_layer()  # type: ignore[attr-defined]
    threads = 1 if layer == "workqueue" else 6
    server = create_server(
        application,
        host=host,
        port=port,
        threads=threads,
        channel_timeout=300,
        max_request_body_size=5 << 30,
    )

    def stop(number: int, frame: FrameType | None) -> None:
        raise KeyboardInterrupt

    signal.signal(signal.SIGTERM, stop)
    server_process = os.environ.get(SERVER, os.getpid())
    print(f"Plinto is ready: http://{host}:{port}/  (process {server_process})", flush=True)
    try:
        server.run()
    except KeyboardInterrupt:
        pass
    finally:
        server.close()
