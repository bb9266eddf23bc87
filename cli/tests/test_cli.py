"""The command line as scripts use it: words, exit status, files, one line of error."""

from __future__ import annotations

import json
import os
import re
import socket
import subprocess
import sys

import click
import numpy as np
import pytest
import tifffile
from commands import plinto, plinto_alone
from PIL import Image

from plinto_core.measurement import cmyk_chart, format_cgats
from plinto_core.simulator import CONDITIONS
from plinto_core.simulator.press import predicted_lab
from plinto_core.transform.standard_spaces import standard_profile


def test_convert_writes_picture_and_report(tmp_path, picture, profile_file) -> None:
    out, report = tmp_path / "out.tif", tmp_path / "r.json"
    done = plinto("convert", picture, out, "--to", profile_file, "--tac", 180, "--report", report)
    assert (done.returncode, done.stderr) == (0, "")
    inks = tifffile.imread(out)
    assert inks.shape == (30, 40, 4)
    assert inks.dtype == np.uint8
    assert inks.astype(int).sum(axis=2).max() / 2.55 <= 180.5
    facts = json.loads(report.read_text())
    assert facts["source"]["origin"] == "house default"
    assert {
        "destination",
        "intent",
        "bpc",
        "size",
        "bits",
        "tac",
        "out_of_gamut",
        "de00",
        "seconds",
    } <= set(facts)


def test_ink_rules_from_a_file(tmp_path, picture, profile_file) -> None:
    rules = tmp_path / "rules.json"
    rules.write_text(json.dumps({"black": {"method": "none"}}))
    out = tmp_path / "o.tif"
    assert (
        plinto(
            "convert", picture, out, "--to", profile_file, "--ink-rules", rules, "--bits", 16
        ).returncode
        == 0
    )
    assert tifffile.imread(out)[..., 3].max() == 0


def test_recipe_runs_to_the_same_bytes_as_convert(tmp_path, picture, profile_file) -> None:
    recipe = {"destination": str(profile_file), "intent": "relative", "delivery": {"bits": 8}}
    (tmp_path / "recipe.json").write_text(json.dumps(recipe))
    plinto("convert", picture, tmp_path / "a.tif", "--to", profile_file, "--intent", "relative")
    done = plinto("recipe", "run", tmp_path / "recipe.json", picture, tmp_path / "b.tif")
    assert done.returncode == 0
    assert (tmp_path / "a.tif").read_bytes() == (tmp_path / "b.tif").read_bytes()


def test_the_corrected_artwork_is_written_for_no_press(tmp_path, picture, profile_file) -> None:
    recipe = {"destination": str(profile_file), "ink_rules": {"tac": 200}}
    (tmp_path / "recipe.json").write_text(json.dumps(recipe))
    run = ("recipe", "run", tmp_path / "recipe.json", picture)
    assert plinto(*run, tmp_path / "c.tif", "--corrected").returncode == 0
    given, found = np.asarray(Image.open(picture)), tifffile.imread(tmp_path / "c.tif")
    assert np.array_equal(found, given.astype(np.uint16) * 257)
    assert plinto(*run, tmp_path / "d.tif", "--space", "srgb").returncode == 3


def test_profile_show_and_check(profile_file, tmp_path) -> None:
    facts = json.loads(plinto("profile", "show", profile_file, "--json").stdout)
    assert facts["class"] == "output"
    assert plinto("profile", "check", profile_file, "--structure-only").returncode == 0
    broken = tmp_path / "b.icc"
    broken.write_bytes(profile_file.read_bytes()[:5000])
    done = plinto("profile", "check", broken)
    assert done.returncode == 1
    assert "truncated" in done.stdout


def test_build_from_text_and_show_its_fit(tmp_path) -> None:
    chart = cmyk_chart()
    lab = predicted_lab(CONDITIONS[0].model, chart)
    fields = ["LAB_B", "LAB_A", "LAB_L", "CMYK_K", "CMYK_Y", "CMYK_M", "CMYK_C"]
    rows = [
        [f"{v:.3f}" for v in (*m[::-1], *(d[::-1] * 100))] for m, d in zip(lab, chart, strict=True)
    ]
    (tmp_path / "m.txt").write_text(format_cgats({"DESCRIPTOR": "My press"}, fields, rows))
    (tmp_path / "s.json").write_text('{"size": "small"}')
    out = tmp_path / "o.icc"
    done = plinto(
        "build",
        tmp_path / "m.txt",
        out,
        "--settings",
        tmp_path / "s.json",
        "--report",
        tmp_path / "r.json",
    )
    assert done.returncode == 0, done.stderr
    assert "cross-validation" in done.stdout
    report = json.loads((tmp_path / "r.json").read_text())
    assert report["description"] == "My press"
    assert report["round_trip"]["mean"] <= 0.5
    assert (report["misread"], done.stderr) == ([], "")
    assert plinto("profile", "check", out).returncode == 0


def test_build_names_what_was_misread_and_leaves_it_out_unless_told(tmp_path) -> None:
    chart = cmyk_chart()
    lab = predicted_lab(CONDITIONS[0].model, chart)
    lab[500:506] = lab[300:306]
    fields = ["SAMPLE_NAME", *(f"CMYK_{i}" for i in "CMYK"), "LAB_L", "LAB_A", "LAB_B"]
    rows = [
        [f"S{i}", *(f"{v:.3f}" for v in (*d * 100, *m))]
        for i, (d, m) in enumerate(zip(chart, lab, strict=True), 1)
    ]
    (tmp_path / "m.txt").write_text(format_cgats({}, fields, rows))
    (tmp_path / "s.json").write_text('{"size": "small"}')
    call = ("build", tmp_path / "m.txt", tmp_path / "o.icc", "--settings", tmp_path / "s.json")
    done = plinto(*call)
    assert done.returncode == 0
    assert "6 readings are contradicted by the others (left out" in done.stderr
    read = " ".join(f"{v:.1f}" for v in lab[500])
    assert re.search(
        rf"row 501, patch S501 \(.*\): read {re.escape(read)}, expected .*dE00", done.stderr
    )
    assert "940 patches" in done.stdout
    done = plinto(*call, "--use-all")
    assert "6 readings are contradicted by the others (used all the same" in done.stderr
    assert "946 patches" in done.stdout


@pytest.mark.parametrize(
    "words",
    [
        [], ["convert"], ["convert", "a.tif", "b.tif"], ["path", "srgb"], ["unknown"],
        ["convert", "a.tif", "b.tif", "--to", "x", "--intent", "nice"],
        ["convert", "a.tif", "b.tif", "--to", "x", "--tac", "many"],
        ["path", "srgb", "srgb:fast"],
    ],
)  # fmt: skip
def test_wrong_words_exit_with_2(words) -> None:
    done = plinto(*words, text="R,G,B\n1,2,3\n")
    assert done.returncode == 2
    assert "Traceback" not in done.stderr


def test_bad_input_exits_with_3_one_line_and_no_file(tmp_path, picture, profile_file) -> None:
    junk = tmp_path / "junk.bin"
    junk.write_bytes(b"\x00\x01junk" * 99)
    cut = tmp_path / "cut.png"
    noise = np.random.default_rng(1).integers(0, 256, (30, 40, 3)).astype(np.uint8)
    Image.fromarray(noise).save(cut)
    cut.write_bytes(cut.read_bytes()[:2000])
    out = tmp_path / "out.tif"
    calls = [
        ("convert", tmp_path / "none.tif", out, "--to", profile_file),
        ("convert", junk, out, "--to", profile_file),
        ("convert", cut, out, "--to", profile_file),
        ("convert", picture, out, "--to", junk),
        ("convert", picture, out, "--to", tmp_path / "none.icc"),
        ("convert", picture, tmp_path / "out.png", "--to", profile_file),
        ("convert", picture, tmp_path / "out.xyz", "--to", profile_file),
        ("convert", picture, out, "--to", profile_file, "--source", profile_file),
        ("convert", picture, out, "--to", profile_file, "--ink-rules", junk),
        ("convert", picture, tmp_path / "no" / "out.tif", "--to", profile_file),
        ("build", junk, tmp_path / "o.icc"),
        ("path", "srgb", profile_file, "--in", junk),
        ("profile", "show", junk, "--json"),
        ("recipe", "run", junk, picture, out),
    ]
    before = set(tmp_path.iterdir())
    for words in calls:
        done = plinto(*words)
        assert done.returncode == 3, words
        assert done.stderr.startswith("plinto: "), words
        assert done.stderr.count("\n") == 1, words
        assert done.stdout == ""
    assert set(tmp_path.iterdir()) == before


def test_channels_beside_the_colours_stop_a_conversion(tmp_path, profile_file) -> None:
    tifffile.imwrite(
        tmp_path / "white.tif", np.zeros((8, 8, 4), np.uint8), photometric="rgb", extrasamples=[0]
    )
    words = [
        "convert",
        str(tmp_path / "white.tif"),
        str(tmp_path / "out.tif"),
        "--to",
        profile_file,
    ]
    stopped = plinto(*words)
    assert stopped.returncode == 3
    assert "channel 4" in stopped.stderr
    assert not (tmp_path / "out.tif").exists()
    assert plinto(*words, "--leave-out-channels").returncode == 0


def test_a_port_in_use_is_one_sentence_before_anything_is_done(tmp_path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        for words in (["probe-port"], ["serve"]):
            done = subprocess.run(
                [sys.executable, "-m", "plinto_cli.main", *words, "--port", str(port)],
                capture_output=True, text=True, check=False,
                env={**os.environ, "PLINTO_DATA": str(tmp_path)},
            )  # fmt: skip
            assert done.returncode == 3
            assert done.stderr.count("\n") == 1
            assert f"Port {port} is in use" in done.stderr
    assert not (tmp_path / "plinto.sqlite3").exists()
    assert plinto_alone("probe-port", "--port", port).returncode == 0


def test_accounts_are_kept_on_the_command_line(tmp_path) -> None:
    def user(*words: str, password: str | None = None):
        given = [] if password is None else ["--password", "-"]
        return subprocess.run(
            [sys.executable, "-m", "plinto_cli.main", "user", *words, *given],
            capture_output=True, text=True, check=False, input=(password or "") + "\n",
            env={**os.environ, "PLINTO_DATA": str(tmp_path)},
        )  # fmt: skip

    done = user("add", "ada", password="correct horse battery")
    assert (done.returncode, done.stdout) == (0, "ada can sign in.\n")
    again = user("add", "ada", password="correct horse battery")
    assert again.returncode == 3
    assert "already" in again.stderr
    assert user("add", "bo", password="short").returncode == 3
    assert user("retire", "ada").returncode == 0
    assert user("list").stdout == "ada: retired, signed in never\n"
    assert user("password", "ada", password="short").returncode == 3
    assert user("password", "ada", password="another horse battery").returncode == 0
    assert user("list").stdout == "ada: signed in never\n"
    assert user("password", "eve", password="another horse battery").returncode == 3


def test_a_condition_is_made_shown_and_converted_to(tmp_path, picture, profile_file) -> None:
    made = tmp_path / "condition.json"
    done = plinto("condition", "new", profile_file, made, "--name", "House", "--tac", 200)
    assert (done.returncode, done.stderr) == (0, "")
    shown = json.loads(plinto("condition", "show", made, "--json").stdout)
    assert shown["condition"]["name"] == "House"
    assert shown["condition"]["ink_rules"]["tac"] == 200
    by_condition, by_profile = tmp_path / "a.tif", tmp_path / "b.tif"
    plinto("convert", picture, by_condition, "--to", made)
    plinto("convert", picture, by_profile, "--to", profile_file)
    assert by_condition.read_bytes() == by_profile.read_bytes()


def test_a_condition_for_transfer_mirrors_unless_told_not_to(
    tmp_path, picture, profile_file
) -> None:
    (tmp_path / "more.json").write_text('{"mirror": true, "process": "transfer"}')
    made = tmp_path / "condition.json"
    plinto("condition", "new", profile_file, made, "--set", tmp_path / "more.json")
    plain, turned, told = (tmp_path / n for n in ("p.tif", "t.tif", "o.tif"))
    plinto("convert", picture, plain, "--to", profile_file)
    plinto("convert", picture, turned, "--to", made)
    plinto("convert", picture, told, "--to", made, "--no-mirror")
    assert np.array_equal(tifffile.imread(turned), tifffile.imread(plain)[:, ::-1])
    assert np.array_equal(tifffile.imread(told), tifffile.imread(plain))


@pytest.mark.parametrize("words", [("new", "x"), ("show",), ("import", "--user", "x")])
def test_condition_commands_refuse_other_files_in_one_line(tmp_path, picture, words) -> None:
    name, *rest = words
    extra = [tmp_path / "out.json"] if name == "new" else []
    options = rest if name == "import" else []
    done = plinto("condition", name, picture, *extra, *options)
    assert done.returncode == 3
    assert done.stderr.startswith("plinto: ")
    assert len(done.stderr.splitlines()) == 1
    assert not (tmp_path / "out.json").exists()


def test_profiles_are_judged_by_their_colours_too(tmp_path, profile_file) -> None:
    space = tmp_path / "srgb.icc"
    space.write_bytes(standard_profile("srgb").data)
    assert plinto("profile", "check", space).returncode == 0
    assert "asked were" not in plinto("profile", "check", profile_file, "--tac", 241).stdout
    over = plinto("profile", "check", profile_file, "--tac", 200)
    assert over.returncode == 1
    assert "asked were 200 %" in over.stdout
    assert (
        plinto("profile", "check", profile_file, "--tac", 200, "--structure-only").returncode == 0
    )
    found = json.loads(plinto("profile", "examine", profile_file, "--json").stdout)
    assert found["version"] == 1
    assert found["reach"][0]["tac"] <= 240
    assert found["round_trip"]["mean"] < 1
    said = plinto("profile", "examine", profile_file, "--aim", profile_file).stdout
    assert "paper 0," in said
    aim = tmp_path / "house.txt"
    aim.write_text("paper 10 0 0\nK 50 17\nOrange 60 50 60")
    said = plinto("profile", "examine", profile_file, "--aim", aim).stdout
    assert "against house, dE00: paper" in said
    assert "not in this profile: Orange" in said
    aim.write_text("paper dark")
    refused = plinto("profile", "examine", profile_file, "--aim", aim)
    assert (refused.returncode, "Row 1 is not an aim" in refused.stderr) == (3, True)
    broken = tmp_path / "b.icc"
    broken.write_bytes(profile_file.read_bytes()[:3000])
    for command in ("check", "examine"):
        done = plinto("profile", command, broken)
        assert done.returncode in (1, 3)
        assert "Traceback" not in done.stdout + done.stderr


def test_the_list_of_commands_says_what_each_says_of_itself() -> None:
    from plinto_cli.main import COMMANDS, cli

    context = click.Context(cli)
    for name, (_, line) in COMMANDS.items():
        command = cli.get_command(context, name)
        assert command is not None
        assert command.name == name
        assert (command.help or "").split("\n")[0].rstrip(".") == line.rstrip(".")


def test_the_list_of_commands_loads_none_of_them() -> None:
    code = (
        "import sys\n"
        "from plinto_cli.main import cli\n"
        "cli(['--help'], standalone_mode=False)\n"
        "heavy = {m.split('.')[0] for m in sys.modules} & {'numpy', 'numba', 'django', 'scipy', 'pydantic'}\n"
        "sys.exit(f'loaded {heavy}' if heavy else 0)\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    assert "convert" in done.stdout


def test_an_unknown_command_is_a_wrong_word() -> None:
    done = plinto_alone("convrt")
    assert done.returncode == 2
    assert "No such command" in done.stderr


def test_gamuts_are_told_beside_each_other(tmp_path, profile_file) -> None:
    done = plinto("gamut", profile_file, "srgb", "--cut", "50", "--csv", tmp_path / "cut.csv")
    assert done.returncode == 0, done.stderr
    first, _, on_screen, on_press = done.stdout.splitlines()
    assert "volume" in first
    assert float(on_screen.split(": ")[1].split(" %")[0]) > float(on_press.split(": ")[1].split(" %")[0])  # fmt: skip
    rows = (tmp_path / "cut.csv").read_text().splitlines()
    assert len(rows) == 1 + 2 * 120
    found = json.loads(plinto("gamut", "srgb", "--json", "--cut", "0").stdout)
    assert 800_000 < found["bodies"][0]["volume"] < 860_000
    assert plinto("gamut", profile_file, "--tac", "180", "--json").returncode == 0
    flat = plinto("gamut", "grey")
    assert flat.returncode == 3
    assert "no volume" in flat.stderr
    assert plinto("gamut", "srgb", "--csv", tmp_path / "x.csv").returncode == 2
