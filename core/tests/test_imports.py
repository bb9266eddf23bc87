"""The core's own rules: no interface inside, and packages import downwards only."""

from __future__ import annotations

import ast
import subprocess
import sys
from pathlib import Path

import plinto_core

ROOT = Path(plinto_core.__file__).parent
ORDER = [
    "words", "errors", "fields", "keeping", "arrays", "disk", "pages", "kernels", "icc", "colorimetry", "transform", "gamut", "inks", "corrections",
    "measurement", "examination", "conditions", "characterise", "simulator", "swatches", "spots", "paths", "imaging", "recipes",
    "document", "printing", "proofs", "questions",
    "demo", "warm_up",
]  # fmt: skip


def imports_of(path: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("plinto_core."):
            found.add(str(node.module).split(".")[1])
    return found


def test_the_core_imports_no_interface() -> None:
    code = (
        "import pkgutil, importlib, sys, plinto_core\n"
        "for m in pkgutil.walk_packages(plinto_core.__path__, 'plinto_core.'):\n"
        "    importlib.import_module(m.name)\n"
        "print([m for m in ('django', 'click', 'rest_framework', 'waitress') if m in sys.modules])"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


def test_packages_import_only_from_those_before_them() -> None:
    wrong = []
    for path in ROOT.rglob("*.py"):
        package = path.relative_to(ROOT).parts[0].removesuffix(".py")
        if package == "__init__":
            continue
        for used in imports_of(path):
            if ORDER.index(used) > ORDER.index(package):
                wrong.append(f"{path.relative_to(ROOT)} imports {used}")
    assert wrong == []


IN_DOCUMENT = [
    "pdf",
    "rules",
    "reports",
    "walking",
    "pdfx",
    "preflight",
    "runs",
    "views",
    "profiles_inside",
]
"""The parts of the document package, from what a PDF holds up to how pages are shown."""


def test_parts_of_the_document_package_import_downwards_too() -> None:
    wrong = []
    for path in (ROOT / "document").rglob("*.py"):
        part = path.relative_to(ROOT / "document").parts[0].removesuffix(".py")
        if part == "__init__":
            continue
        assert part in IN_DOCUMENT
        for node in ast.walk(ast.parse(path.read_text())):
            module = getattr(node, "module", None) or ""
            if isinstance(node, ast.ImportFrom) and module.startswith("plinto_core.document."):
                used = module.split(".")[2]
                if IN_DOCUMENT.index(used) > IN_DOCUMENT.index(part):
                    wrong.append(f"{path.relative_to(ROOT)} imports {used}")
    assert wrong == []


def test_every_package_is_in_the_order() -> None:
    packages = {p.name for p in ROOT.iterdir() if p.is_dir() and p.name != "__pycache__"}
    assert packages <= set(ORDER)
