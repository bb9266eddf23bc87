"""Questions on the command line."""

from __future__ import annotations

import json

import numpy as np
from commands import plinto
from PIL import Image

from plinto_core.icc import Profile
from plinto_core.questions.profiles import reaches_total


def test_questions_are_answered_as_the_core_answers_them(tmp_path, profile_file) -> None:
    out, pages = tmp_path / "a.json", tmp_path / "a.pdf"
    done = plinto("ask", "total", profile_file, "--total", 200, "--json", out, "--pdf", pages)
    assert done.returncode == 0, done.stderr
    expected = reaches_total(Profile.read(profile_file), 200)
    assert json.loads(out.read_text()) == json.loads(expected.model_dump_json())
    assert done.stdout.startswith(expected.said)
    assert pages.read_bytes().startswith(b"%PDF")
    y, x = np.mgrid[0:40, 0:300]
    picture = tmp_path / "p.png"
    Image.fromarray(np.stack([x * 0.8, y * 6, 250 - y * 6], axis=-1).astype(np.uint8)).save(picture)
    suits = plinto("ask", "suit", picture, profile_file, "srgb")
    assert suits.stdout.startswith("sRGB")
    tones = plinto("ask", "tones", "srgb", profile_file, "--no-bpc", "--intent", "absolute")
    assert "is left" in tones.stdout.splitlines()[0]
    for wrong in (
        ("total", profile_file, profile_file), ("total", "srgb"), ("alike", profile_file, "srgb"),
        ("suit", tmp_path / "no.png", profile_file, profile_file), ("greys", picture),
    ):  # fmt: skip
        refused = plinto("ask", *wrong)
        assert (refused.returncode, refused.stderr.count("\n")) == (3, 1), (wrong, refused.stderr)
