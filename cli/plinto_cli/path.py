"""`plinto path`: colours of a list through a chain of profiles, exact float path."""

from __future__ import annotations

import csv
import io
import json
import sys
from pathlib import Path
from typing import cast

import click
import numpy as np

from plinto_cli.files import read_bytes, read_json, resolve_profile, write_bytes
from plinto_core.arrays import Floats
from plinto_core.errors import BadInput
from plinto_core.icc.spaces import INTENTS
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement.cgats import decode
from plinto_core.paths.figures import FORMULAS, Formula, difference_figures
from plinto_core.paths.follow import VIEWS, Followed, View, follow
from plinto_core.paths.saving import SavedKind, SavedReport, SavingOptions, save_path
from plinto_core.recipes.separating import separation_step
from plinto_core.swatches.files import read_swatches, swatches_of_text, write_swatches
from plinto_core.swatches.swatches import swatches
from plinto_core.transform.cube import read_cube
from plinto_core.transform.direct import colour_names
from plinto_core.transform.path import LAB, NumbersStep, PathStep, Step, reversal


def parse_step(word: str) -> Step:
    """PROFILE[:INTENT[:bpc|nobpc]], PROFILE@RULES.json[:INTENT…] or FILE.cube; lab stands for the PCS, and
    reversed-rgb, reversed-cmyk and reversed-grey for numbers counted from the other end."""
    if word.lower().startswith("reversed-"):
        return reversal(word.lower().removeprefix("reversed-"))
    if word.lower().endswith(".cube"):
        table = read_cube(word)
        return NumbersStep(repr(Path(word).name), "RGB ", "RGB ", table.apply)
    whole = word
    word, at, rules = word.rpartition("@")
    if ".json" not in rules:
        word, at, rules = "", "", whole
    parts = rules.split(":")
    bpc = False
    intent = "relative"
    if len(parts) > 1 and parts[-1] in ("bpc", "nobpc"):
        bpc = parts.pop() == "bpc"
    if len(parts) > 1 and parts[-1] in INTENTS:
        intent = parts.pop()
    elif len(parts) > 1 and not Path(":".join(parts)).exists():
        raise click.UsageError(f"{word}: the intent must be one of {', '.join(INTENTS)}")
    name = ":".join(parts)
    if at:
        given = parse_ink_rules(read_json(name, "ink rules"))
        called = f"{Path(word).name} by {given.name or Path(name).stem}"
        return separation_step(resolve_profile(word), given, called, intent=intent, bpc=bpc)
    profile = LAB if name.lower() == "lab" else resolve_profile(name)
    return PathStep(profile, intent, bpc)


def _read(path: str | None, step: Step) -> tuple[Floats, tuple[str, ...]]:
    """The values that a path begins with, and the names of the colours."""
    if path is None:
        text = sys.stdin.read()
        if step.kind == "nmcl":
            return _places(step, text)
        found = [swatches_of_text(text, step.space_in)]
    else:
        data = read_bytes(path, "list of colours")
        if step.kind == "nmcl":
            return _places(step, decode(data))
        found = read_swatches(data, path, step.space_in)
    fitting = next((s for s in found if s.space == step.space_in), None)
    if fitting is None:
        held = " and ".join(s.space.strip() for s in found)
        raise BadInput(
            f"The list holds {held} and the path begins with {step.space_in.strip()}: the columns "
            f"{','.join(step.columns_in)} are missing.",
            remedy="Begin the path with the profile that the list is meant for.",
        )
    return fitting.values, fitting.names


def _places(step: Step, text: str) -> tuple[Floats, tuple[str, ...]]:
    """(n, 1) places in a list of named colours, and their names."""
    assert step.profile is not None
    known = {name: i for i, name in enumerate(colour_names(step.profile))}
    names = [row[0].strip() for row in csv.reader(io.StringIO(text.lstrip("\ufeff"))) if row]
    if len(names) < 2 or names[0].lower() != "name":
        raise BadInput(
            "The list of colours does not name the columns Name.",
            remedy="Give a header row Name and a row for every colour.",
        )
    unknown = [name for name in names[1:] if name not in known]
    if unknown:
        raise BadInput(
            f"The list has no colour {unknown[0]!r}.",
            remedy="Names are written as the list has them.",
        )
    values = np.array([[known[name]] for name in names[1:]], dtype=np.float64)
    return values, tuple(names[1:])


@click.command("path")
@click.argument("steps", nargs=-1, required=True, metavar="STEP STEP…")
@click.option(
    "--in",
    "source_file",
    metavar="FILE",
    help="Colours as CSV, CGATS text, CxF3 or a profile with measurements; else CSV from standard input.",
)
@click.option(
    "--out",
    "target_file",
    metavar="FILE",
    help="What comes out, as CSV; as CGATS text or CxF3 where the name ends in .txt or .cxf.",
)
@click.option("--all", "every", is_flag=True, help="Columns of every step, not only the last.")
@click.option(
    "--step", type=int, metavar="N", help="What stands after step N, instead of the last."
)
@click.option("--lab", "as_lab", is_flag=True, help="Its colours in Lab instead of its numbers.")
@click.option("--difference", metavar="A,B", help="How far the colours of two steps are apart.")
@click.option("--formula", type=click.Choice(FORMULAS), default="2000", show_default=True)
@click.option(
    "--view",
    type=click.Choice(VIEWS),
    default="paper",
    show_default=True,
    help="Colours relative to each medium's white, or with it.",
)
@click.option("--json", "as_json", is_flag=True, help="Figures of --difference or --save as JSON.")
@click.option(
    "--save",
    "saved_file",
    metavar="FILE",
    help="The path as one table: a device link, another profile by --as, or a .cube table.",
)
@click.option(
    "--as",
    "kind",
    type=click.Choice(["link", "abstract", "baked"]),
    default="link",
    show_default=True,
    help="What --save writes, where the name does not end in .cube.",
)
@click.option("--grid", type=int, help="Nodes a side of its table.")
@click.option("--title", default="", help="Its description.")
@click.option("--keep-black", is_flag=True, help="Black ink alone stays alone (CMYK to CMYK).")
@click.option("--keep-inks", is_flag=True, help="Every ink alone stays alone (CMYK to CMYK).")
@click.option("--tac", type=click.FloatRange(50, 1500), help="Percent that its inks may come to.")
def path_command(
    steps: tuple[str, ...],
    source_file: str | None,
    target_file: str | None,
    every: bool,
    step: int | None,
    as_lab: bool,
    difference: str | None,
    formula: Formula,
    view: View,
    as_json: bool,
    saved_file: str | None,
    kind: str,
    grid: int | None,
    title: str,
    keep_black: bool,
    keep_inks: bool,
    tac: float | None,
) -> None:
    """Send colours along a path of profiles: RGB 0..255, inks 0..100, Lab as L* a* b*.

    A step is PROFILE[:INTENT[:bpc|nobpc]], a .cube table, or lab; PROFILE@RULES.json separates anew by ink
    rules; reversed-rgb, reversed-cmyk and reversed-grey turn numbers round. Device links and abstract profiles are
    steps like others; a list of named colours can be the first, its CSV has the column Name.
    """
    chain = [parse_step(word) for word in steps]
    alone = ("link", "abst", "nmcl", "numbers")
    if len(chain) < 2 and chain[0].kind not in alone:
        raise click.UsageError("a path needs two steps or more")
    if every and (step is not None or as_lab or difference):
        raise click.UsageError("--all goes without --step, --lab and --difference")
    if saved_file is not None:
        options = SavingOptions(
            kind=cast(SavedKind, "cube" if saved_file.lower().endswith(".cube") else kind),
            grid=grid,
            title=title,
            keep_black=keep_black,
            keep_inks=keep_inks,
            tac=tac,
        )
        data, made = save_path(chain, options, view)
        write_bytes(Path(saved_file), data)
        _say_saved(made, as_json=as_json)
        if source_file is None:
            return
    pair = _pair(difference, len(chain)) if difference else None
    at = _place(step, len(chain)) if step is not None else len(chain) - 1
    values, names = _read(source_file, chain[0])
    followed = follow(chain, values, view)
    if pair is not None:
        _say_difference(followed, pair, formula, names, as_json=as_json)
        if target_file is None:
            return
    shown = list(enumerate(chain)) if every else [(at, chain[at])]
    suffix = Path(target_file).suffix.lower() if target_file else ".csv"
    if suffix in (".txt", ".cxf"):
        if every:
            raise click.UsageError("every step at once goes to CSV only")
        space = "Lab " if as_lab else chain[at].space
        held = followed.colours(at) if as_lab else followed.values[at]
        listed = swatches(
            space, held, list(names), title=" to ".join(Path(word).name for word in steps)
        )
        write_bytes(
            Path(str(target_file)), write_swatches(listed, "cxf" if suffix == ".cxf" else "cgats")
        )
        return
    header: list[str] = []
    for number, one in shown:
        columns = ["L", "a", "b"] if as_lab else one.columns
        header += [f"{number + 1}.{c}" if every else c for c in columns]
    lines = [",".join(header)]
    held = followed.colours(at) if as_lab else np.hstack([followed.values[i] for i, _ in shown])
    for row in held:
        lines.append(",".join(f"{v:.4f}".rstrip("0").rstrip(".") if v else "0" for v in row))
    text = "\n".join(lines) + "\n"
    if target_file:
        write_bytes(Path(target_file), text.encode())
    else:
        click.echo(text, nl=False)


def _say_saved(made: SavedReport, *, as_json: bool) -> None:
    if as_json:
        click.echo(json.dumps(made.model_dump(mode="json"), indent=2))
        return
    click.echo(made.sentence)
    for where, errors in (("in gamut", made.inside), ("everywhere", made.everywhere)):
        if errors is not None:
            click.echo(
                f"{where:>10}  mean {errors.mean:.3f}, 99 % {errors.p99:.3f}, "
                f"greatest {errors.max:.3f} {made.unit}"
            )
    if made.tac is not None:
        click.echo(f"{'total':>10}  {made.tac:.1f} % at most")


def _place(number: int, count: int) -> int:
    if not 1 <= number <= count:
        raise click.UsageError(f"the path has the steps 1 to {count}")
    return number - 1


def _pair(words: str, count: int) -> tuple[int, int]:
    first, _, second = words.partition(",")
    if not (first.strip().isdecimal() and second.strip().isdecimal()):
        raise click.UsageError("--difference names two steps, such as 1,3")
    return _place(int(first), count), _place(int(second), count)


def _say_difference(
    followed: Followed,
    pair: tuple[int, int],
    formula: Formula,
    names: tuple[str, ...],
    *,
    as_json: bool,
) -> None:
    first, second = (followed.colours(i) for i in pair)
    found = difference_figures(formula, first, second, names)
    if as_json:
        click.echo(json.dumps(found.model_dump(mode="json"), indent=2))
        return
    parts = ("mean", "median", "p95", "greatest", "least", "deviation", "best90")
    click.echo(f"{found.count} colours, step {pair[0] + 1} to step {pair[1] + 1}, {formula}")
    for part in parts:
        click.echo(f"{part:>10}  {getattr(found, part):.3f}")
    for limit, share in zip(found.thresholds, found.shares, strict=True):
        click.echo(f"{f'to {limit:g}':>10}  {share:.1%}")
    for worst in found.worst[:5]:
        click.echo(f"{worst.difference:10.2f}  {worst.name}")
