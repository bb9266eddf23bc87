"""Names and roles of a profile's inks on the command line."""

from __future__ import annotations

from commands import plinto

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.simulator import SIMULATED


def test_inks_of_a_profile_are_told_and_called_otherwise(tmp_path, profile_file) -> None:
    simulated = SIMULATED["two-screens"]
    rules = parse_ink_rules(simulated.rules)
    built = build_profile(simulated.measured(), rules, BuildSettings(size="small"))
    two, own = tmp_path / "two.icc", tmp_path / "own.icc"
    two.write_bytes(built.data)
    assert plinto("profile", "inks", two).stdout.splitlines() == ["1 Brick: colour", "2 K: black"]
    done = plinto("profile", "inks", two, own, "--name", "1=Clay", "--role", "2=none")
    assert done.stdout.splitlines() == ["1 Clay: colour", "2 K: none"]
    assert ink_names(Profile.read(own)) == ("Clay", "K")
    assert plinto("profile", "inks", own).stdout == done.stdout
    assert plinto("profile", "inks", profile_file).stdout.startswith("1 C: colour\n2 M: colour")
    for wrong in (
        ("--name", "3=Sky"), ("--name", "Sky"), ("--role", "1=gold"), ("--role", "0=none"), ("--name", "2=clay", "--name", "1=Clay"),
        ("--role", "1=light:Teal"),
    ):  # fmt: skip
        refused = plinto("profile", "inks", two, tmp_path / "no.icc", *wrong)
        assert (refused.returncode, refused.stderr.count("\n")) == (3, 1), wrong
        assert not (tmp_path / "no.icc").exists()
    assert plinto("profile", "inks", two, "--name", "1=Clay").returncode == 3
    assert plinto("profile", "inks", profile_file, own, "--name", "1=Teal").returncode == 3
