"""Proof prints on the command line: made, read, judged."""

from __future__ import annotations

import json

import numpy as np
import tifffile
from commands import plinto

from plinto_core.transform.standard_spaces import standard_profile


def test_a_proof_is_made_read_and_judged(tmp_path, profile_file) -> None:
    y, x = np.mgrid[0:40, 0:60]
    data = np.stack([x * 4, y * 6, 255 - x * 4], axis=-1).astype(np.uint8)
    picture, out, report = tmp_path / "in.tif", tmp_path / "p.tif", tmp_path / "r.json"
    tifffile.imwrite(
        picture, data, photometric="rgb", resolution=(60, 60),
        iccprofile=standard_profile("srgb").data,
    )  # fmt: skip
    # The press on itself: the profile's own round trip is all that is between the two.
    made = plinto(
        "proof", "make", picture, out, "--to", profile_file, "--on", profile_file, "--report", report,
        "--text", "for Ada",
    )  # fmt: skip
    assert made.returncode == 0, made.stderr
    assert "expected on the strip" in made.stdout
    assert "for Ada" in json.loads(report.read_text())["text"]
    good, bad = tmp_path / "good.txt", tmp_path / "bad.txt"
    for on, target in (("newsprint", good), ("sheetfed-coated", bad)):
        assert (
            plinto("proof", "read", out, report, target, "--on", on, "--noise", 0).returncode == 0
        )
    passed = plinto("proof", "judge", report, good)
    assert (passed.returncode, passed.stdout.splitlines()[-1]) == (0, "passes")
    pages = tmp_path / "j.pdf"
    failed = plinto("proof", "judge", report, bad, "--json", "--pdf", pages)
    assert failed.returncode == 4
    assert json.loads(failed.stdout)["passes"] is False
    assert pages.read_bytes().startswith(b"%PDF")
    loose = tmp_path / "loose.json"
    loose.write_text('{"name": "loose", "most": 99}')
    assert plinto("proof", "judge", report, bad, "--tolerances", loose).returncode == 0
    for wrong in (
        ("make", picture, out, "--on", profile_file),
        ("make", picture, out, "--to", profile_file, "--on", "grey"),
        ("read", picture, report, tmp_path / "x.txt"),
        ("judge", profile_file, good),
        ("judge", loose, good),
        ("judge", report, loose),
        ("judge", report, good, "--tolerances", report),
    ):
        done = plinto("proof", *wrong)
        assert (done.returncode, done.stderr.count("\n")) == (3, 1), (wrong, done.stderr)
