"""The signposts for newcomers lead somewhere."""

from __future__ import annotations

import re
from pathlib import Path

ROOT = Path(__file__).parents[2]
PAGE = ROOT / "docs" / "architecture.md"
TOPS = ("core/", "server/", "cli/", "web/", "e2e/", "docs/")


def named() -> list[str]:
    """Paths in backticks on the page, from the project's root."""
    return [n for n in re.findall(r"`([^` ]+)`", PAGE.read_text()) if n.startswith(TOPS)]


def test_every_path_named_exists() -> None:
    paths = named()
    assert len(paths) > 30
    missing = [p for p in paths if not any(ROOT.glob(p)) and not (ROOT / p).exists()]
    assert missing == []


def test_packages_and_apps_of_the_tables_exist_and_none_is_left_out() -> None:
    text = PAGE.read_text()
    packages = {
        p.name for p in (ROOT / "core" / "plinto_core").iterdir() if (p / "__init__.py").exists()
    }
    apps = {
        p.name
        for p in (ROOT / "server" / "plinto_server" / "apps").iterdir()
        if (p / "__init__.py").exists()
    }
    features = {p.name for p in (ROOT / "web" / "src").iterdir() if p.is_dir()}
    for name in packages | apps | features:
        assert f"`{name}`" in text, f"{name} is not told of"
