"""The command `plinto`: the core from a shell, without a server."""

from __future__ import annotations

import sys

import click

from plinto_cli.condition import condition_group
from plinto_cli.convert import convert_command, recipe_group
from plinto_cli.path import path_command
from plinto_cli.policy import inspect_command, policy_group
from plinto_cli.profiles import build_command, profile_group
from plinto_cli.service import (
    demo_command,
    probe_command,
    serve_command,
    user_group,
    warm_up_command,
    worker_command,
)
from plinto_core.errors import CoreError


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(package_name="plinto")
def cli() -> None:
    """Convert artwork to inks, follow colours through profiles, build and examine profiles."""


for command in (
    convert_command,
    recipe_group,
    path_command,
    profile_group,
    condition_group,
    build_command,
    inspect_command,
    policy_group,
    serve_command,
    worker_command,
    demo_command,
    probe_command,
    user_group,
    warm_up_command,
):
    cli.add_command(command)


def main() -> None:
    """Run the command: 0 done, 2 wrong words, 3 bad input with one line on standard error."""
    try:
        cli(standalone_mode=False)
    except click.exceptions.Exit as stop:
        sys.exit(stop.exit_code)
    except click.ClickException as error:
        error.show()
        sys.exit(2)
    except click.Abort:
        click.echo("plinto: stopped", err=True)
        sys.exit(130)
    except CoreError as error:
        click.echo("plinto: " + " ".join(str(error).split()), err=True)
        sys.exit(3)
    except MemoryError:
        click.echo("plinto: the input needs more memory than there is; use a smaller one", err=True)
        sys.exit(3)
    except BrokenPipeError:
        sys.stderr.close()
        sys.exit(0)


if __name__ == "__main__":
    main()
