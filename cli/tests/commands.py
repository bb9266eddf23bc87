"""The command line as scripts run it."""

from __future__ import annotations

import subprocess
import sys


def plinto(*words, text=None):
    return subprocess.run(
        [sys.executable, "-m", "plinto_cli.main", *map(str, words)],
        capture_output=True, text=True, input=text, check=False,
    )  # fmt: skip
