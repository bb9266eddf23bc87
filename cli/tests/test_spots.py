"""Builds of spot colours on the command line."""

from __future__ import annotations

import csv
import json

import numpy as np
from commands import plinto

from plinto_core.icc import Profile
from plinto_core.inks.rules import InkRules
from plinto_core.spots.builds import SpotOptions, spot_builds
from plinto_core.transform.chain import lab_of_device


def test_builds_are_told_and_written_as_the_core_makes_them(tmp_path, profile_file) -> None:
    profile = Profile.read(profile_file)
    lab = lab_of_device(profile, np.array([[0.5, 0.4, 0, 0], [0, 0, 0, 0.7]]), intent="absolute")
    aims = np.round(np.vstack([lab, [[45.0, 70, 50]]]), 3)
    rows = [
        f"{n},{','.join(map(str, row))}"
        for n, row in zip(("Sea", "Ash", "Flag"), aims, strict=True)
    ]
    colours = tmp_path / "signs.csv"
    colours.write_text("Name,L,a,b\n" + "\n".join(rows))
    table = tmp_path / "t.csv"
    asked = ("spots", colours, "--to", profile_file, "--inks", 2, "--tac", 180)
    found = json.loads(plinto(*asked, "--json", "--csv", table).stdout)
    expected = spot_builds(
        profile, InkRules(tac=180), ("Sea", "Ash", "Flag"), aims, SpotOptions(inks=2)
    )
    assert found[0]["builds"] == json.loads(json.dumps([b.model_dump() for b in expected]))
    with table.open() as file:
        assert [float(r["dE00"]) for r in csv.DictReader(file)] == [b.best.de00 for b in expected]
    said = plinto("spots", colours, "--to", profile_file, "--least", 40).stdout
    assert "Ash: K 70, dE00 0" in said
    rgb = tmp_path / "rgb.csv"
    rgb.write_text("Name,R,G,B\nA,1,2,3")
    for wrong in (
        ("spots", rgb, "--to", profile_file), ("spots", colours, "--to", "srgb"),
        ("spots", colours, "--to", colours), ("spots", tmp_path / "no.csv", "--to", profile_file),
    ):  # fmt: skip
        done = plinto(*wrong)
        assert (done.returncode, done.stderr.count("\n")) == (3, 1), done.stderr
