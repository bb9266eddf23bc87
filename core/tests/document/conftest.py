"""Small documents made for one construct each."""

from __future__ import annotations

from typing import Any

import pikepdf
import pytest

from paperwork import Paper
from plinto_core.document import OutputPolicy, run_policy
from plinto_core.transform.standard_spaces import SPACES, standard_profile

CONVERT = {"destination": "press", "rules": [{"space": "grey", "action": "black"}, {"space": "CMYK", "action": "leave"}, {"action": "convert"}]}  # fmt: skip


@pytest.fixture
def resolve(coated):
    return lambda name: standard_profile(name) if name in (*SPACES, "grey") else coated


@pytest.fixture
def pdf():
    """An empty document for objects to belong to."""
    with pikepdf.new() as made:
        yield made


@pytest.fixture
def paper() -> Paper:
    return Paper()


@pytest.fixture
def converted(tmp_path, resolve):
    """Run a policy on a paper's content; gives the report and the opened result."""
    opened: list[pikepdf.Pdf] = []

    def run(paper: Paper, content: str, **changes: Any):
        policy = OutputPolicy.model_validate({**CONVERT, **changes})
        source = paper.save(tmp_path / "in.pdf", content)
        report = run_policy(policy, source, tmp_path / "out.pdf", resolve)
        pdf = pikepdf.open(tmp_path / "out.pdf")
        opened.append(pdf)
        return report, pdf

    yield run
    for pdf in opened:
        pdf.close()
