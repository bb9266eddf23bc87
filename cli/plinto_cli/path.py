"""`plinto path`: colours of a CSV through a chain of profiles, exact float path."""

from __future__ import annotations

import csv
import io
import sys
from pathlib import Path

import click
import numpy as np

from plinto_cli.files import resolve_profile, write_bytes
from plinto_core.arrays import Floats
from plinto_core.errors import BadInput
from plinto_core.icc.spaces import INTENTS
from plinto_core.transform.direct import colour_names
from plinto_core.transform.path import LAB, PathStep, follow_path


def parse_step(word: str) -> PathStep:
    """PROFILE[:INTENT[:bpc|nobpc]]; the word lab stands for the PCS."""
    parts = word.split(":")
    bpc = False
    intent = "relative"
    if len(parts) > 1 and parts[-1] in ("bpc", "nobpc"):
        bpc = parts.pop() == "bpc"
    if len(parts) > 1 and parts[-1] in INTENTS:
        intent = parts.pop()
    elif len(parts) > 1 and not Path(":".join(parts)).exists():
        raise click.UsageError(f"{word}: the intent must be one of {', '.join(INTENTS)}")
    name = ":".join(parts)
    profile = LAB if name.lower() == "lab" else resolve_profile(name)
    return PathStep(profile, intent, bpc)


def _read(path: str | None, step: PathStep) -> Floats:
    try:
        text = Path(path).read_text(encoding="utf-8-sig") if path else sys.stdin.read()
    except (OSError, UnicodeDecodeError) as error:
        raise BadInput("The list of colours cannot be read.", remedy="Give a CSV file.") from error
    rows = [row for row in csv.reader(io.StringIO(text)) if any(cell.strip() for cell in row)]
    if len(rows) < 2:
        raise BadInput("The list of colours is empty.", remedy="Give a header row and colours.")
    header = [name.strip() for name in rows[0]]
    wanted = step.columns_in
    numbered = [str(i + 1) for i in range(len(wanted))]
    for names in (wanted, numbered):
        lowered = [h.lower() for h in header]
        if all(n.lower() in lowered for n in names):
            at = [lowered.index(n.lower()) for n in names]
            break
    else:
        raise BadInput(
            f"The header row {','.join(header)!r} does not name the columns {','.join(wanted)}."
        )
    if step.kind == "nmcl":
        return _places(step, [row[at[0]].strip() if at[0] < len(row) else "" for row in rows[1:]])
    try:
        values = np.array([[float(row[i]) for i in at] for row in rows[1:]])
    except (ValueError, IndexError) as error:
        raise BadInput("A row of the list holds something that is not a number.") from error
    if not np.isfinite(values).all():
        raise BadInput("The list holds values that are not finite.")
    return values


def _places(step: PathStep, names: list[str]) -> Floats:
    """(n, 1) places in a list of named colours."""
    assert step.profile is not None
    known = {name: i for i, name in enumerate(colour_names(step.profile))}
    unknown = [name for name in names if name not in known]
    if unknown:
        raise BadInput(
            f"The list has no colour {unknown[0]!r}.",
            remedy="Names are written as the list has them.",
        )
    return np.array([[known[name]] for name in names], dtype=np.float64)


@click.command("path")
@click.argument("steps", nargs=-1, required=True, metavar="STEP STEP…")
@click.option("--in", "source_file", metavar="FILE.csv")
@click.option("--out", "target_file", metavar="FILE.csv")
@click.option("--all", "every", is_flag=True, help="Columns of every step, not only the last.")
def path_command(
    steps: tuple[str, ...], source_file: str | None, target_file: str | None, every: bool
) -> None:
    """Send colours along a path of profiles: RGB 0..255, inks 0..100, Lab as L* a* b*.

    A step is PROFILE[:INTENT[:bpc|nobpc]] or lab. Device links and abstract profiles are steps like
    others; a list of named colours can be the first, its CSV has the column Name.
    """
    chain = [parse_step(word) for word in steps]
    if len(chain) < 2 and chain[0].kind not in ("link", "abst", "nmcl"):
        raise click.UsageError("a path needs two steps or more")
    traced = follow_path(chain, _read(source_file, chain[0]))
    shown = list(zip(chain, traced, strict=True)) if every else [(chain[-1], traced[-1])]
    header: list[str] = []
    for number, (step, _) in enumerate(shown, 1):
        header += [f"{number}.{c}" if every else c for c in step.columns]
    lines = [",".join(header)]
    for row in np.hstack([values for _, values in shown]):
        lines.append(",".join(f"{v:.4f}".rstrip("0").rstrip(".") if v else "0" for v in row))
    text = "\n".join(lines) + "\n"
    if target_file:
        write_bytes(Path(target_file), text.encode())
    else:
        click.echo(text, nl=False)
