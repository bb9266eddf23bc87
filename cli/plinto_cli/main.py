"""The command `plinto`: the core from a shell, without a server."""

from __future__ import annotations

import sys
from importlib import import_module

import click

from plinto_core.errors import CoreError

COMMANDS = {
    "convert": (
        "convert:convert_command",
        "Convert a picture (TIFF, PNG, JPEG) to a destination profile or printing condition.",
    ),
    "recipe": ("convert:recipe_group", "Recipes exported from the application."),
    "path": (
        "path:path_command",
        "Send colours along a path of profiles: RGB 0..255, inks 0..100, Lab as L* a* b*.",
    ),
    "swatches": (
        "swatches:swatches_group",
        "Lists of colours: made, taken from pictures, turned into other formats.",
    ),
    "spots": (
        "spots:spots_command",
        "Builds of spot colours in the inks of presses, and how they miss.",
    ),
    "proof": (
        "proof:proof_group",
        "Proof prints: a press shown by another printer, read and judged.",
    ),
    "ask": (
        "ask:ask_command",
        "A question about profiles or a picture, answered in words and figures.",
    ),
    "profile": ("profiles:profile_group", "Facts and problems of ICC profiles."),
    "gamut": ("gamut:gamut_command", "What profiles print, beside each other."),
    "condition": (
        "condition:condition_group",
        "Printing conditions: from a received profile to a file, and in and out of Plinto.",
    ),
    "build": (
        "profiles:build_command",
        "Build an output profile from characterisation data in CGATS text.",
    ),
    "inspect": (
        "policy:inspect_command",
        "Inventory of an image or PDF: objects, spaces, profiles, pixels, resolution, TAC.",
    ),
    "policy": ("policy:policy_group", "Output policies for printers and RIPs."),
    "serve": (
        "service:serve_command",
        "Serve the application, with its workers and the watch over them.",
    ),
    "web": ("service:web_command", "The web server alone, as `serve` starts it."),
    "worker": ("service:worker_command", "Run one worker for long work."),
    "demo": ("service:demo_command", "Set up the demo data; safe to repeat."),
    "probe-port": (
        "service:probe_command",
        "Exit status 3, with one sentence, where the port is in use.",
    ),
    "user": ("service:user_group", "Accounts of this installation."),
    "warm-up": (
        "service:warm_up_command",
        "Compile the kernels, so that no first click waits for it.",
    ),
}
"""Where each command stands, and its line in the list: the list alone loads none of them."""


class Commands(click.Group):
    """A group whose commands are loaded when they are called."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, name: str) -> click.Command | None:
        if name not in COMMANDS:
            return None
        module, attribute = COMMANDS[name][0].split(":")
        command: click.Command = getattr(import_module(f"plinto_cli.{module}"), attribute)
        return command

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, line) for name, (_, line) in COMMANDS.items()])


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(package_name="plinto")
@click.option(
    "--trust",
    is_flag=True,
    help="Documents are known to be good: what bounds those built to hurt lies ten times as far.",
)
@click.option(
    "--memory",
    type=click.FloatRange(0.2),
    metavar="GB",
    envvar="PLINTO_WORK_MEMORY",
    help="The most memory a command may take. Default: six tenths of the machine's.",
)
@click.pass_context
def cli(context: click.Context, trust: bool, memory: float | None) -> None:
    """Convert artwork to inks, follow colours through profiles, build and examine profiles."""
    if context.invoked_subcommand not in SERVICES:
        limit_memory(memory)
    if trust:
        from plinto_core.document.pdf.bounds import widen

        widen(TRUSTED)


TRUSTED = 10.0
SERVICES = ("serve", "web", "worker", "demo", "warm-up")
"""Commands that limit themselves, or read nothing foreign."""


def limit_memory(gigabytes: float | None) -> None:
    """Let this process take so much, so that a file built to hurt ends it with a sentence."""
    import os
    import resource

    most = 0.6 * os.sysconf("SC_PHYS_PAGES") * os.sysconf("SC_PAGE_SIZE")
    if gigabytes is not None:
        most = gigabytes * 2**30
    _, hard = resource.getrlimit(resource.RLIMIT_DATA)
    wanted = int(most) if hard == resource.RLIM_INFINITY else min(int(most), hard)
    resource.setrlimit(resource.RLIMIT_DATA, (wanted, hard))


def main() -> None:
    """Run the command: 0 done, 2 wrong words, 3 bad input with one line on standard error; what 1 and 4
    say, a command that ends with them explains."""
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
    except OSError as error:
        from plinto_core.disk import of_the_disk

        told = of_the_disk(error)
        if told is None:
            raise
        click.echo(f"plinto: {told}", err=True)
        sys.exit(3)


if __name__ == "__main__":
    main()
