"""`plinto serve`, `worker`, `demo` and `warm-up`."""

from __future__ import annotations

import os

import click


def _django() -> None:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "plinto_server.config.settings")
    import django

    django.setup()


@click.command("serve")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8765, show_default=True)
@click.option("--workers", default=1, show_default=True, help="Worker processes for long work.")
def serve_command(host: str, port: int, workers: int) -> None:
    """Serve the application, with its workers and the watch over them."""
    _django()
    from plinto_server.apps.queue.service import serve

    serve(host, port, workers)


@click.command("worker")
def worker_command() -> None:
    """Run one worker for long work."""
    _django()
    from plinto_server.apps.queue.service import run_worker

    run_worker()


@click.command("demo")
def demo_command() -> None:
    """Set up the demo data; safe to repeat."""
    _django()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    call_command("demo")


@click.command("warm-up")
def warm_up_command() -> None:
    """Compile the kernels, so that no first click waits for it."""
    from plinto_core.warm_up import warm_up

    warm_up()
