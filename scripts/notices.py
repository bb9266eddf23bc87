"""Whose work ships with Plinto: fonts and libraries, their owners and licences, in one file.

python scripts/notices.py           writes web/public/notices.txt
python scripts/notices.py --check   fails where it is not what is installed
"""

from __future__ import annotations

import json
import re
import sys
from importlib import metadata
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
TARGET = ROOT / "web/public/notices.txt"
_OWNED = re.compile(r"^\W*(copyright (?:\(c\)|©|\d|[A-Z]).*)$", re.IGNORECASE | re.MULTILINE)


def shipped() -> dict[str, list[str]]:
    """Fonts and libraries of the built interface, by licence: name, version, owners; then its text."""
    lock = json.loads((ROOT / "web/package-lock.json").read_text())
    found: dict[str, list[str]] = {}
    texts: dict[str, str] = {}
    for place, facts in sorted(lock["packages"].items()):
        folder = ROOT / "web" / place
        if not place or facts.get("dev") or facts.get("devOptional") or not folder.is_dir():
            continue
        said = next((p for p in sorted(folder.glob("*")) if _is_licence(p)), None)
        text = said.read_text(errors="replace") if said else ""
        owners = list(dict.fromkeys(line.strip(" *") for line in _OWNED.findall(text)))
        if not owners:
            author = json.loads((folder / "package.json").read_text()).get("author") or ""
            owners = [author["name"] if isinstance(author, dict) else author]
        name = place.rpartition("node_modules/")[2]
        line = f"{name} {facts['version']}" + "".join(f"\n    {o}" for o in owners if o)
        found.setdefault(facts["license"], []).append(line)
        if text:
            texts.setdefault(facts["license"], _OWNED.sub("", text).strip())
    return {kind: [*dict.fromkeys(lines), texts[kind]] for kind, lines in sorted(found.items())}


def _is_licence(path: Path) -> bool:
    return path.is_file() and bool(re.match(r"licen[cs]e|copying", path.name, re.IGNORECASE))


def installed() -> list[str]:
    """Python libraries that are installed beside Plinto; each brings its texts along."""
    wanted = re.findall(
        r"^([\w.-]+)==(\S+)", (ROOT / "requirements/run.txt").read_text(), re.MULTILINE
    )
    return [f"{name} {version}: {_licence(name)}" for name, version in wanted]


def _licence(name: str) -> str:
    facts = metadata.metadata(name)
    stated = facts["License-Expression"] or facts["License"] or ""
    if stated and "\n" not in stated and len(stated) < 60:
        return stated
    kinds = [c for c in facts.get_all("Classifier", []) if c.startswith("License ::")]
    return ", ".join(k.rpartition(" :: ")[2] for k in kinds) or "see its files"


def notices() -> str:
    parts = ["Fonts and libraries in Plinto's interface, by licence."]
    for kind, lines in shipped().items():
        *packages, text = lines
        parts += [f"{kind}\n{'=' * len(kind)}", "\n".join(packages), text]
    parts += ["Libraries installed beside Plinto; each brings the text of its licence along."]
    parts += ["\n".join(installed())]
    return "\n\n".join("\n".join(line.rstrip() for line in p.splitlines()) for p in parts) + "\n"


if __name__ == "__main__":
    told = notices()
    if "--check" not in sys.argv:
        TARGET.write_text(told)
    elif not TARGET.exists() or TARGET.read_text() != told:
        sys.exit(f"{TARGET.relative_to(ROOT)} is out of date: python scripts/notices.py")
