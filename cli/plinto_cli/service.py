"""`plinto serve`, `worker`, `demo` and `warm-up`."""

from __future__ import annotations

import os
import sys
from typing import Any

import click


def django_ready() -> None:
    """Make the installation's data reachable; what imports Django waits for it."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "plinto_server.config.settings")
    import django

    django.setup()


@click.command("serve")
@click.option("--host", default="127.0.0.1", show_default=True)
@click.option("--port", default=8765, show_default=True)
@click.option("--workers", default=1, show_default=True, help="Worker processes for long work.")
def serve_command(host: str, port: int, workers: int) -> None:
    """Serve the application, with its workers and the watch over them."""
    django_ready()
    from plinto_server.serving import serve

    serve(host, port, workers)


@click.command("web", hidden=True)
@click.option("--host", default="127.0.0.1")
@click.option("--port", default=8765)
def web_command(host: str, port: int) -> None:
    """The web server alone, as `serve` starts it."""
    django_ready()
    from plinto_server.serving import run_web

    run_web(host, port)


@click.command("worker")
def worker_command() -> None:
    """Run one worker for long work."""
    django_ready()
    from plinto_server.serving import run_worker

    run_worker()


@click.command("demo")
def demo_command() -> None:
    """Set up the demo data; safe to repeat."""
    django_ready()
    from django.core.management import call_command

    from plinto_server import store

    store.make_private()
    call_command("migrate", verbosity=0)
    call_command("demo")


@click.command("probe-port", hidden=True)
@click.option("--host", default="127.0.0.1")
@click.option("--port", default=8765)
def probe_command(host: str, port: int) -> None:
    """Exit status 3, with one sentence, where the port is in use."""
    from plinto_server.serving import probe

    probe(host, port)


@click.group("user")
def user_group() -> None:
    """Accounts of this installation."""


_PASSWORD = click.option(
    "--password", help="Asked for where it is left out; - reads one line from standard input."
)


def _given(password: str | None) -> str:
    if password == "-":
        return sys.stdin.readline().rstrip("\n")
    if password is None:
        return str(click.prompt("Password", hide_input=True, confirmation_prompt=True))
    return password


def _accounts() -> Any:
    """What is done to accounts, on the data of this installation."""
    django_ready()
    from django.core.management import call_command

    from plinto_server import store
    from plinto_server.apps.accounts import services
    from plinto_server.apps.profiles.services import add_standard_profiles

    store.make_private()
    call_command("migrate", verbosity=0)
    add_standard_profiles()
    return services


@user_group.command("add")
@click.argument("name")
@_PASSWORD
def user_add(name: str, password: str | None) -> None:
    """Add an account that signs in with NAME."""
    chosen = _given(password)
    _accounts().add_account(name, chosen)
    click.echo(f"{name} can sign in.")


@user_group.command("password")
@click.argument("name")
@_PASSWORD
def user_password(name: str, password: str | None) -> None:
    """Give NAME another password; one who was retired or locked out can sign in again."""
    chosen = _given(password)
    accounts = _accounts()
    accounts.set_password(accounts.account(name), chosen)
    click.echo(f"{name} can sign in with the new password.")


@user_group.command("retire")
@click.argument("name")
def user_retire(name: str) -> None:
    """Keep NAME from signing in; what is theirs stays."""
    accounts = _accounts()
    accounts.retire(accounts.account(name))
    click.echo(f"{name} cannot sign in any more.")


@user_group.command("list")
def user_list() -> None:
    """Who has an account, and when they signed in last."""
    _accounts()
    from django.contrib.auth import get_user_model

    for user in get_user_model().objects.order_by("username"):
        seen = f"{user.last_login:%Y-%m-%d %H:%M} UTC" if user.last_login else "never"
        click.echo(f"{user.username}: {'' if user.is_active else 'retired, '}signed in {seen}")


@click.command("warm-up")
def warm_up_command() -> None:
    """Compile the kernels, so that no first click waits for it."""
    from plinto_core.warm_up import warm_up

    warm_up()
