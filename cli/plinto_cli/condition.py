"""`plinto condition`: printing conditions as files, and those of this installation."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click

from plinto_cli.files import read_json, write_bytes
from plinto_cli.service import django_ready
from plinto_core.conditions import (
    PrintingCondition,
    Proposal,
    pack_condition,
    parse_condition,
    propose,
    unpack_condition,
)
from plinto_core.conditions.file import LARGEST, looks_like_condition
from plinto_core.errors import BadInput
from plinto_core.icc import Profile


def read_bytes(path: str) -> bytes:
    """The bytes of a file; raises BadInput for one that cannot be read or is too large."""
    try:
        if Path(path).stat().st_size > LARGEST:
            raise BadInput(f"{path} is larger than 64 MB.")
        return Path(path).read_bytes()
    except OSError as error:
        raise BadInput(f"{path} cannot be read.", remedy="Check the path.") from error


def condition_in(path: str) -> tuple[PrintingCondition, Profile] | None:
    """The condition of a file with its profile, None where the file is none."""
    if not Path(path).is_file():
        return None
    with Path(path).open("rb") as file:
        if not looks_like_condition(file.read(200)):
            return None
    facts, profile = unpack_condition(read_bytes(path))
    return facts, Profile(profile)


@click.group("condition")
def condition_group() -> None:
    """Printing conditions: from a received profile to a file, and in and out of Plinto."""


@condition_group.command("new")
@click.argument("profile")
@click.argument("output", metavar="OUT.json")
@click.option("--name", help="Default: the profile's description.")
@click.option("--printer", help="Printer or press.")
@click.option("--medium")
@click.option(
    "--tac", type=click.FloatRange(50, 400), help="Percent; default: as its tables reach."
)
@click.option("--set", "changes", metavar="FILE.json", help="Any further parts of the condition.")
def new_command(
    profile: str,
    output: str,
    name: str | None,
    printer: str | None,
    medium: str | None,
    tac: float | None,
    changes: str | None,
) -> None:
    """Make a condition file of a PROFILE, proposed by what its own tables reach."""
    found = Profile(read_bytes(profile))
    proposal = propose(found)
    data = proposal.condition.model_dump(mode="json")
    given: Any = read_json(changes, "parts of the condition") if changes else {}
    if not isinstance(given, dict):
        raise BadInput(f"{changes} holds no object of parts.")
    for key, value in {"name": name, "printer": printer, "medium": medium, **given}.items():
        if value is not None:
            merge = isinstance(value, dict) and isinstance(data.get(key), dict)
            data[key] = {**data[key], **value} if merge else value
    if tac is not None:
        data["ink_rules"] = {**data["ink_rules"], "tac": tac}
    condition = parse_condition(data)
    write_bytes(Path(output), pack_condition(condition, found.data))
    _say(condition, found, proposal)


@condition_group.command("show")
@click.argument("file", metavar="FILE")
@click.option("--json", "as_json", is_flag=True, help="As JSON, without the profile.")
def show_command(file: str, as_json: bool) -> None:
    """What a condition file says, or what a profile proposes."""
    given = condition_in(file)
    profile = given[1] if given else Profile(read_bytes(file))
    proposal = propose(profile)
    condition = given[0] if given else proposal.condition
    if as_json:
        data = {**proposal.model_dump(mode="json"), "condition": condition.model_dump(mode="json")}
        click.echo(json.dumps(data, indent=2))
        return
    _say(condition, profile, proposal)


def _say(condition: PrintingCondition, profile: Profile, proposal: Proposal) -> None:
    click.echo(f"{condition.name}: {condition.process}, {profile.colour_space.strip()}")
    if condition.printer or condition.medium:
        click.echo(f"on {condition.medium or 'a medium'} by {condition.printer or 'a press'}")
    for reach in proposal.reach:
        black = f", black from L* {reach.black_start:g}" if reach.black_start is not None else ""
        click.echo(
            f"{reach.intent:12} total {reach.tac:g} %{black}, darkest L* {reach.darkest[0]:g}"
        )
    click.echo(f"TAC {condition.ink_rules.tac:g} %")
    for problem in proposal.problems:
        click.echo(f"{problem.severity}: {problem.message}")


@condition_group.command("list")
@click.option("--user", help="Only those of this account, and those that come with Plinto.")
def list_command(user: str | None) -> None:
    """The conditions of this installation."""
    django_ready()
    from plinto_server.apps.conditions.services import every_condition

    for row in every_condition(user):
        owner = row.owner.get_username() if row.owner else "with Plinto"
        click.echo(f"{row.key:44} {owner:16} {row.name}")


@condition_group.command("export")
@click.argument("key")
@click.argument("output", metavar="OUT.json")
def export_command(key: str, output: str) -> None:
    """Write the condition KEY (see list) to a file, its profile in it."""
    django_ready()
    from plinto_server.apps.conditions.services import condition_file

    write_bytes(Path(output), condition_file(key))


@condition_group.command("import")
@click.argument("file", metavar="FILE.json")
@click.option("--user", required=True, help="Whose it becomes.")
def import_command(file: str, user: str) -> None:
    """Take a condition file into this installation."""
    data = read_bytes(file)
    unpack_condition(data)
    django_ready()
    from plinto_server.apps.conditions.services import take_file

    click.echo(f"{take_file(user, data)} is kept.")
