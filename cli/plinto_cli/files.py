"""Files named on the command line: profiles, JSON in and out, a progress bar."""

from __future__ import annotations

import json
import os
import sys
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import click
from pydantic import BaseModel

from plinto_core.arrays import Progress
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import SPACES, standard_profile


def resolve_profile(name: str) -> Profile:
    """A profile by path, or a standard space by its key (srgb, oprgb, romm, p3, grey)."""
    if name.lower() in (*SPACES, "grey") and not Path(name).exists():
        return standard_profile(name.lower())
    return Profile.read(name)


def read_json(path: str, what: str) -> Any:
    """Decoded JSON of a file; raises BadInput naming `what` it was to be."""
    try:
        return json.loads(Path(path).read_text(encoding="utf-8"))
    except OSError as error:
        raise BadInput(f"The {what} {path} cannot be read.", remedy="Check the path.") from error
    except (ValueError, RecursionError) as error:
        raise BadInput(
            f"The {what} {path} is not JSON.", remedy="Correct or export it again."
        ) from error


def read_bytes(path: str, what: str) -> bytes:
    """A whole file; raises BadInput naming `what` it was to be."""
    try:
        return Path(path).read_bytes()
    except OSError as error:
        raise BadInput(f"The {what} {path} cannot be read.", remedy="Check the path.") from error


def write_bytes(path: Path, data: bytes) -> None:
    """Write a whole file or none."""
    try:
        handle, name = tempfile.mkstemp(prefix=".plinto-", dir=path.parent)
    except OSError as error:
        raise BadInput(
            f"Nothing can be written to {path.parent}.", remedy="Check the folder."
        ) from error
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
        os.chmod(name, 0o644)
        os.replace(name, path)
    except OSError as error:
        Path(name).unlink(missing_ok=True)
        raise BadInput(f"{path} cannot be written.", remedy="Choose another name.") from error


def write_json(path: str | None, data: Any) -> None:
    """Write a report, or other data, where it was asked for."""
    if path:
        if isinstance(data, BaseModel):
            data = data.model_dump(mode="json")
        write_bytes(Path(path), (json.dumps(data, indent=2) + "\n").encode())


@contextmanager
def progress_bar(label: str) -> Iterator[Progress]:
    """A bar on a terminal, silence elsewhere."""
    if not sys.stderr.isatty():
        yield lambda share: None
        return
    with click.progressbar(length=1000, label=label, file=sys.stderr) as bar:
        last = 0

        def told(share: float) -> None:
            nonlocal last
            now = int(share * 1000)
            if now > last:
                bar.update(now - last)
                last = now

        yield told
