"""Sample points as a swatch list: CSV, and CGATS text (ISO 28178)."""

from __future__ import annotations

import csv
import io
from typing import Any

from plinto_core.swatches.files import safe_cell


def as_csv(names: list[str], readings: list[dict[str, Any]]) -> str:
    """One row a point: place, the artwork's numbers, Lab before and in print, inks, dE00, what is wanted
    and the miss of it."""
    source, inks = list(readings[0]["source"]), list(readings[0]["inks"])
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(
        ["name", "x", "y", *(f"source_{n}" for n in source), "L", "a", "b", "print_L", "print_a",
         "print_b", *(f"ink_{n}" for n in inks), "tac", "dE00", "target_L", "target_a", "target_b",
         "target_dE00"]
    )  # fmt: skip
    for name, r in zip(names, readings, strict=True):
        target = r["target"]
        writer.writerow(
            [safe_cell(name), r["x"], r["y"], *r["source"].values(), *r["lab"], *r["print_lab"],
             *r["inks"].values(), r["tac"], r["de00"],
             *([*target["lab"], target["de00"]] if target else [""] * 4)]
        )  # fmt: skip
    return out.getvalue()


def as_cgats(names: list[str], readings: list[dict[str, Any]]) -> str:
    """Inks where the destination is CMYK, and the Lab of the print, as characterisation data."""
    inks = list(readings[0]["inks"])
    cmyk = inks == ["C", "M", "Y", "K"]
    fields = [
        "SAMPLE_ID",
        "SAMPLE_NAME",
        *(f"CMYK_{n}" for n in inks if cmyk),
        "LAB_L",
        "LAB_A",
        "LAB_B",
    ]
    lines = [
        "CGATS.17",
        'ORIGINATOR "Plinto"',
        f"NUMBER_OF_FIELDS {len(fields)}",
        "BEGIN_DATA_FORMAT",
    ]
    lines += [" ".join(fields), "END_DATA_FORMAT", f"NUMBER_OF_SETS {len(names)}", "BEGIN_DATA"]
    for number, (name, r) in enumerate(zip(names, readings, strict=True), 1):
        plain = name.replace('"', "'")
        values = [str(number), f'"{plain}"']
        values += [f"{v:.1f}" for v in r["inks"].values()] if cmyk else []
        lines.append(" ".join([*values, *(f"{v:.1f}" for v in r["print_lab"])]))
    return "\n".join([*lines, "END_DATA", ""])
