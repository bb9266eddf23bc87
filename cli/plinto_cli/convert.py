"""`plinto convert` and `plinto recipe run`."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any, get_args

import click

from plinto_cli.condition import condition_in
from plinto_cli.files import progress_bar, read_json, resolve_profile, write_bytes, write_json
from plinto_cli.references import referenced_profile, referenced_table, unpacked
from plinto_core.errors import BadInput
from plinto_core.gamut.mapping import Kind
from plinto_core.icc import Profile
from plinto_core.icc.spaces import INTENTS
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.writer import format_of
from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.recipes import Delivery, parse_recipe, run_recipe
from plinto_core.recipes.corrected import run_corrected
from plinto_core.recipes.ticket import print_ticket, ticket_pdf

CHOICE_OF_INTENT = click.Choice(INTENTS)


def rules_from(path: str | None, tac: float | None) -> InkRules | None:
    """Ink rules of a file, with the TAC of the command line on top."""
    data: Any = read_json(path, "ink rules") if path else {}
    if tac is not None and isinstance(data, dict):
        data = {**data, "tac": tac}
    return parse_ink_rules(data) if path or tac is not None else None


@click.command("convert")
@click.argument("source_file", metavar="IN")
@click.argument("target_file", metavar="OUT")
@click.option(
    "--to",
    "destination",
    required=True,
    metavar="PROFILE|FILE.json",
    help="Destination profile, or the file of a printing condition.",
)
@click.option(
    "--source", metavar="PROFILE", help="Stands in for, or overrules, the embedded profile."
)
@click.option("--intent", type=CHOICE_OF_INTENT, default="perceptual", show_default=True)
@click.option("--bpc/--no-bpc", default=True, show_default=True, help="Black point compensation.")
@click.option(
    "--perceptual",
    type=click.Choice(get_args(Kind)),
    help="Perceptual made here, in place of the profile's own table.",
)
@click.option("--ink-rules", metavar="FILE.json", help="TAC, limits and black generation.")
@click.option("--tac", type=click.FloatRange(50, 1500), help="Total area coverage in percent.")
@click.option("--bits", type=click.Choice(["8", "16"]), help="Default: as the input; 8 for JPEG.")
@click.option(
    "--dither",
    type=click.Choice(get_args(Delivery.model_fields["dither"].annotation)),
    default="smooth",
    show_default=True,
    help="From 16 to 8 bits in a fine pattern; smooth: artwork of 16 bits.",
)
@click.option("--no-embed", is_flag=True, help="Leave the destination profile out.")
@click.option(
    "--mirror/--no-mirror", default=None, help="Default: as the condition says, else not."
)
@click.option("--negative", is_flag=True, help="Reverse the plates, for film copied negative.")
@click.option("--from-negative", is_flag=True, help="The artwork is a photographic negative.")
@click.option(
    "--numbers",
    type=click.Choice(["keep", "separate"]),
    default="keep",
    show_default=True,
    help="Artwork in the destination's own space: its numbers stay, or inks are made anew.",
)
@click.option(
    "--link",
    metavar="FILE.icc",
    help="A device link makes the numbers, in place of intent, BPC and ink rules; --to says of what.",
)
@click.option(
    "--leave-out-channels",
    is_flag=True,
    help="Channels beside the colours (white, varnish, spot inks) may be left out.",
)
@click.option("--report", metavar="FILE.json", help="Write what was done and measured.")
def convert_command(
    source_file: str,
    target_file: str,
    destination: str,
    source: str | None,
    intent: str,
    bpc: bool,
    perceptual: str | None,
    ink_rules: str | None,
    tac: float | None,
    bits: str | None,
    dither: str,
    no_embed: bool,
    mirror: bool | None,
    negative: bool,
    from_negative: bool,
    numbers: str,
    link: str | None,
    leave_out_channels: bool,
    report: str | None,
) -> None:
    """Convert a picture (TIFF, PNG, JPEG) to a destination profile or printing condition."""
    target = Path(target_file)
    output = format_of(target)
    with open_picture(source_file) as picture:
        depth = picture.facts.bits
    rules = rules_from(ink_rules, tac)
    condition = condition_in(destination)
    if mirror is None:
        mirror = condition is not None and condition[0].mirror

    def resolve(name: str) -> Profile:
        return condition[1] if condition and name == destination else resolve_profile(name)

    recipe = parse_recipe(
        {
            "source": source,
            "negative": from_negative,
            "numbers": numbers,
            "link": link,
            "extra_channels": "leave out" if leave_out_channels else "stop",
            "destination": destination,
            "intent": intent,
            "bpc": bpc,
            "perceptual": {"kind": perceptual} if perceptual else None,
            "ink_rules": rules.model_dump() if rules else None,
            "delivery": {
                "format": output,
                "bits": int(bits) if bits else 8 if output == "JPEG" else depth,
                "dither": dither,
                "embed": not no_embed,
                "mirror": mirror,
                "negative": negative,
            },
        }
    )
    with progress_bar("Converting") as progress:
        done = run_recipe(recipe, Path(source_file), target, resolve, progress=progress)
    write_json(report, done)


@click.group("recipe")
def recipe_group() -> None:
    """Recipes exported from the application."""


@recipe_group.command("run")
@click.argument("recipe_file", metavar="RECIPE.json")
@click.argument("source_file", metavar="IN")
@click.argument("target_file", metavar="OUT")
@click.option("--profiles", metavar="FOLDER", help="Where the recipe's profiles lie, by SHA-256.")
@click.option("--tables", metavar="FOLDER", help="Where its .cube tables lie, by SHA-256.")
@click.option(
    "--corrected", is_flag=True, help="Write the artwork with its corrections, for no press."
)
@click.option(
    "--space", metavar="PROFILE", help="The space of the corrected artwork. Default: its own."
)
@click.option("--report", metavar="FILE.json")
@click.option("--ticket", metavar="FILE.pdf|FILE.json", help="Write the print ticket too.")
def recipe_run(
    recipe_file: str,
    source_file: str,
    target_file: str,
    profiles: str | None,
    tables: str | None,
    corrected: bool,
    space: str | None,
    report: str | None,
    ticket: str | None,
) -> None:
    """Run a recipe on a picture; the same recipe and picture give the same bytes.

    RECIPE.json, or the package (ZIP) that holds it with its profiles and tables.
    """
    if space is not None and not corrected:
        raise BadInput("--space is of the corrected artwork.", remedy="Add --corrected.")
    if ticket is not None and corrected:
        raise BadInput("The corrected artwork is for no press, so it has no ticket.")
    with unpacked(recipe_file) as (recipe_path, folder):
        recipe = parse_recipe(read_json(recipe_path, "recipe"))
        resolve = partial(referenced_profile, folders=[folder, profiles])
        find_table = partial(referenced_table, folders=[folder, tables])
        with progress_bar("Running") as progress:
            run = partial(run_corrected, space=space) if corrected else run_recipe
            done = run(
                recipe, Path(source_file), Path(target_file), resolve,
                find_table=find_table, progress=progress,
            )  # fmt: skip
        if ticket:
            made = print_ticket(
                recipe, resolve(recipe.destination), job=Path(source_file).stem,
                condition=done.destination.profile, file_name=Path(target_file).name,
                report=done,
            )  # fmt: skip
            if ticket.lower().endswith(".json"):
                write_json(ticket, made.as_data())
            else:
                write_bytes(Path(ticket), ticket_pdf(made))
    write_json(report, done)
