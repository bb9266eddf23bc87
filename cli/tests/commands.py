"""The command line as scripts run it."""

from __future__ import annotations

import io
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from unittest.mock import patch

from plinto_cli.main import main


def plinto(*words, text=None):
    """A command in this process, which has everything loaded already: exit status, output, complaints."""
    out, err, given = (io.TextIOWrapper(io.BytesIO(), "utf-8", write_through=True) for _ in "oei")
    given.write(text or "")
    given.seek(0)
    called = ["plinto", *map(str, words)]
    status = 0
    with (
        redirect_stdout(out),
        redirect_stderr(err),
        patch.object(sys, "stdin", given),
        patch.object(sys, "argv", called),
    ):
        try:
            main()
        except SystemExit as stop:
            status = int(stop.code or 0)
    said, complained = (s.buffer.getvalue().decode() for s in (out, err))
    return subprocess.CompletedProcess(called, status, said, complained)


def plinto_alone(*words, text=None):
    """A command in a process of its own, as a shell starts it."""
    return subprocess.run(
        [sys.executable, "-m", "plinto_cli.main", *map(str, words)],
        capture_output=True, text=True, input=text, check=False,
    )  # fmt: skip
