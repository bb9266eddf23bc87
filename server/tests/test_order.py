"""The server's own order: what stands below imports nothing from above."""

from __future__ import annotations

import ast
from collections.abc import Iterator
from pathlib import Path

import plinto_server

ROOT = Path(plinto_server.__file__).parent
SHARED = [
    "access", "processes", "apart", "errors", "requests", "parameters", "removal", "revisions", "store", "uploads", "png", "schema", "health", "reference", "parsing", "pages",
]  # fmt: skip
"""Modules that every app may use."""
APPS = [
    "work", "profiles", "builds", "house", "accounts", "conditions", "artwork", "jobs", "paths", "gamuts", "deliveries", "policies", "proofs", "questions",
    "printers", "folders", "demo",
]  # fmt: skip
"""Apps, from the ground up."""
ORDER = [*SHARED, *APPS, "config", "serving"]


def unit(parts: list[str]) -> str | None:
    """The app or module that a dotted path below the server belongs to."""
    rest = parts[2:] if parts[:1] == ["apps"] else parts
    if parts[:1] == ["apps"]:
        return parts[1] if len(parts) > 1 else None
    return rest[0] if rest else None


def arrows() -> Iterator[tuple[str, str, str]]:
    """Module, its unit and the unit it imports; also imports inside functions."""
    for path in ROOT.rglob("*.py"):
        parts = list(path.relative_to(ROOT).with_suffix("").parts)
        own = unit(parts)
        if own in (None, "__init__") or "migrations" in parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.ImportFrom) or not (node.module or "").startswith(
                "plinto_server"
            ):
                continue
            module = str(node.module).split(".")[1:]
            targets = (
                [[*module, a.name] for a in node.names] if module in ([], ["apps"]) else [module]
            )
            for target in targets:
                used = unit(target)
                if used is not None and used != own:
                    yield ".".join(parts), str(own), used


def test_what_stands_below_imports_nothing_from_above() -> None:
    wrong = [
        f"{module} imports {used}"
        for module, own, used in arrows()
        if ORDER.index(used) > ORDER.index(own)
    ]
    assert wrong == []


def test_everything_is_in_the_order() -> None:
    apps = {p.name for p in (ROOT / "apps").iterdir() if (p / "__init__.py").exists()}
    assert apps == set(APPS)
    modules = {p.stem for p in ROOT.glob("*.py")} - {"__init__"}
    assert modules == {*SHARED, "serving"}


def test_the_guard_sees_an_arrow_that_runs_back() -> None:
    seen = {(own, used) for _, own, used in arrows()}
    assert ("deliveries", "jobs") in seen
    assert ("printers", "policies") in seen
