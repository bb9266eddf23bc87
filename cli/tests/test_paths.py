"""Lists of colours and differences of paths on the command line."""

from __future__ import annotations

import csv
import io
import json

import numpy as np
import pytest
from commands import plinto
from PIL import Image

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.swatches.files import read_swatches
from plinto_core.transform.path import LAB, PathStep, follow_path
from plinto_core.transform.standard_spaces import standard_profile


def test_lists_are_made_and_turned_into_every_format(tmp_path, profile_file) -> None:
    made = plinto("swatches", "make", "solids", profile_file, "--out", tmp_path / "s.csv")
    assert made.returncode == 0, made.stderr
    for suffix in (".txt", ".cxf"):
        done = plinto("swatches", "convert", tmp_path / "s.csv", "--out", tmp_path / f"s{suffix}")
        assert done.returncode == 0, done.stderr
        (found,) = read_swatches((tmp_path / f"s{suffix}").read_bytes())
        assert found.space == "CMYK"
        assert len(found) == 16
    neutrals = plinto("swatches", "make", "neutrals", "--count", 3, "--out", tmp_path / "n.csv")
    assert neutrals.returncode == 0
    assert (tmp_path / "n.csv").read_text().splitlines()[2] == "L* 50,50,0,0"
    assert plinto("swatches", "make", "chart", "--out", tmp_path / "c.csv").returncode == 2
    assert plinto("swatches", "make", "neutrals", "--out", tmp_path / "c.doc").returncode == 3
    assert not (tmp_path / "c.doc").exists()


def test_measured_colours_of_a_chart_are_taken_where_asked(tmp_path) -> None:
    (tmp_path / "m.csv").write_text("L,a,b\n50,1,2\n")
    (tmp_path / "m.txt").write_text(
        "CGATS.17\nBEGIN_DATA_FORMAT\nRGB_R RGB_G RGB_B LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\n"
        "BEGIN_DATA\n1 2 3 50 1 2\nEND_DATA\n"
    )
    for more, header in (((), "Name,R,G,B"), (("--measured",), "Name,L,a,b")):
        done = plinto("swatches", "convert", tmp_path / "m.txt", *more, "--out", tmp_path / "o.csv")
        assert done.returncode == 0, done.stderr
        assert (tmp_path / "o.csv").read_text().startswith(header)


def test_a_picture_is_sampled(tmp_path) -> None:
    pixels = np.zeros((40, 80, 3), np.uint8)
    pixels[:, 40:] = (200, 100, 50)
    Image.fromarray(pixels).save(tmp_path / "p.png")
    out = tmp_path / "o.csv"
    done = plinto("swatches", "sample", tmp_path / "p.png", "--marks", "2x1", "--out", out)
    assert done.returncode == 0, done.stderr
    assert out.read_text().splitlines() == [
        "Name,R,G,B,at_x,at_y",
        "A1,0,0,0,20,20",
        "A2,200,100,50,60,20",
    ]
    region = plinto(
        "swatches",
        "sample",
        tmp_path / "p.png",
        "--region",
        "30,0,20,40",
        "--marks",
        "1X1",
        "--out",
        out,
    )
    assert "on an edge" in region.stderr
    most = plinto("swatches", "sample", tmp_path / "p.png", "--dominant", 2, "--out", out)
    assert most.returncode == 0, most.stderr
    assert out.read_text().splitlines()[1].startswith("50.0 % of it,")
    for wrong in (("--region", "70,0,20,40"), ("--region", "90,90,5,5", "--dominant", "3")):
        assert (
            plinto("swatches", "sample", tmp_path / "p.png", *wrong, "--out", out).returncode == 3
        )
    assert (
        plinto("swatches", "sample", tmp_path / "p.png", "--marks", "8", "--out", out).returncode
        == 2
    )


def test_steps_are_told_apart_in_figures(tmp_path, profile_file) -> None:
    (tmp_path / "in.csv").write_text("Name,R,G,B\nred,255,0,0\ngrey,128,128,128\nblue,0,0,255\n")
    steps = ("srgb", f"{profile_file}:relative:bpc", "lab:relative:nobpc")
    done = plinto("path", *steps, "--in", tmp_path / "in.csv", "--difference", "1,2", "--json")
    found = json.loads(done.stdout)
    press = Profile.read(profile_file)
    traced = follow_path(
        [PathStep(standard_profile("srgb")), PathStep(press, "relative", True), PathStep(LAB)],
        np.array([[255.0, 0, 0], [128, 128, 128], [0, 0, 255]]),
    )
    source = follow_path([PathStep(standard_profile("srgb")), PathStep(LAB)], traced[0])[1]
    expected = delta_e_2000(source, traced[2])
    assert found["mean"] == pytest.approx(expected.mean(), abs=1e-3)
    assert found["worst"][0]["name"] == ("red", "grey", "blue")[int(np.argmax(expected))]
    said = plinto("path", *steps, "--in", tmp_path / "in.csv", "--difference", "1,2")
    assert "3 colours, step 1 to step 2, 2000" in said.stdout
    for wrong in ("1,4", "1", "0,1", "a,b"):
        done = plinto("path", *steps, "--in", tmp_path / "in.csv", "--difference", wrong)
        assert done.returncode == 2


def test_either_side_of_a_path_leaves_in_numbers_or_in_lab(tmp_path, profile_file) -> None:
    (tmp_path / "in.csv").write_text("Name,R,G,B\nred,255,0,0\n")
    asked = ("path", "srgb", profile_file, "--in", tmp_path / "in.csv")
    done = plinto(*asked, "--step", 1, "--lab", "--out", tmp_path / "o.cxf")
    assert done.returncode == 0, done.stderr
    (found,) = read_swatches((tmp_path / "o.cxf").read_bytes())
    assert (found.space, found.names) == ("Lab ", ("red",))
    # sRGB red under D50, IEC 61966-2-1.
    assert found.values[0] == pytest.approx([54.29, 80.81, 69.89], abs=0.1)
    assert plinto(*asked, "--out", tmp_path / "o.txt").returncode == 0
    (inks,) = read_swatches((tmp_path / "o.txt").read_bytes())
    assert inks.space == "CMYK"
    assert inks.values[0][1] > 50


def test_a_cube_table_is_a_step(tmp_path) -> None:
    (tmp_path / "n.cube").write_text("LUT_1D_SIZE 2\n1 1 1\n0 0 0\n")
    done = plinto("path", "srgb", tmp_path / "n.cube", "lab", text="R,G,B\n255,255,255\n")
    assert done.returncode == 0, done.stderr
    # The table makes black of white, in the numbers of the profile before it.
    assert [abs(float(v)) < 0.05 for v in done.stdout.splitlines()[1].split(",")] == [True] * 3
    done = plinto("path", "srgb", "reversed-rgb", text="R,G,B\n255,200,0\n")
    assert done.stdout.splitlines()[-1] == "0,55,255"
    assert plinto("path", "srgb", "reversed-hue", text="R,G,B\n1,2,3\n").returncode == 3
    assert plinto("path", tmp_path / "no.cube", "lab", text="R,G,B\n1,2,3\n").returncode == 3


def test_a_path_is_saved_as_a_link_and_used_as_a_step(tmp_path, profile_file) -> None:
    made = plinto(
        "path", "srgb", f"{profile_file}:relative:bpc", "--save", tmp_path / "l.icc", "--json",
        "--title", "To newsprint",
    )  # fmt: skip
    assert made.returncode == 0, made.stderr
    report = json.loads(made.stdout)
    assert report["everywhere"]["mean"] < 0.1
    through = plinto("path", tmp_path / "l.icc", text="R,G,B\n200,100,50\n")
    direct = plinto("path", "srgb", f"{profile_file}:relative:bpc", text="R,G,B\n200,100,50\n")
    numbers = [
        np.array([float(v) for v in done.stdout.splitlines()[1].split(",")])
        for done in (through, direct)
    ]
    assert numbers[0] == pytest.approx(numbers[1], abs=0.7)
    said = plinto("path", "srgb", "p3", "--save", tmp_path / "l.cube")
    assert "A .cube table" in said.stdout
    assert (tmp_path / "l.cube").read_text().count("\n") == 33**3 + 2
    wrong = plinto("path", "srgb", "lab", "--save", tmp_path / "x.icc", "--as", "abstract")
    assert wrong.returncode == 3
    assert not (tmp_path / "x.icc").exists()


def test_a_picture_is_converted_by_a_link(tmp_path, profile_file) -> None:
    steps = ("srgb", f"{profile_file}:relative:bpc")
    plinto("path", *steps, "--save", tmp_path / "l.icc", "--tac", "180")
    pixels = np.random.default_rng(1).integers(0, 256, (20, 20, 3), np.uint8)
    Image.fromarray(pixels).save(tmp_path / "in.png", icc_profile=standard_profile("srgb").data)
    asked = ("convert", tmp_path / "in.png", tmp_path / "o.tif", "--to", profile_file)
    done = plinto(*asked, "--link", tmp_path / "l.icc", "--report", tmp_path / "r.json")
    assert done.returncode == 0, done.stderr
    report = json.loads((tmp_path / "r.json").read_text())
    assert report["link"]
    assert report["tac"]["max"] <= 180.5
    both = plinto(*asked, "--link", tmp_path / "l.icc", "--tac", "200")
    assert both.returncode == 3
    assert "anew" in both.stderr
    assert plinto(*asked, "--link", profile_file).returncode == 3


def test_ink_rules_are_a_step(tmp_path, profile_file) -> None:
    rules = {"name": "Lean", "tac": 200, "black": {"method": "gcr", "strength": 90, "start": 5}}
    (tmp_path / "lean.json").write_text(json.dumps(rules))
    text = "C,M,Y,K\n70,60,60,30\n"
    done = plinto("path", profile_file, f"{profile_file}@{tmp_path}/lean.json", text=text)
    assert done.returncode == 0, done.stderr
    inks = [float(v) for v in done.stdout.splitlines()[1].split(",")]
    assert sum(inks) <= 200.1
    assert inks[3] > 40
    assert (
        plinto("path", profile_file, f"{profile_file}@{tmp_path}/no.json", text=text).returncode
        == 3
    )
    assert (
        plinto("path", "srgb", f"srgb@{tmp_path}/lean.json", text="R,G,B\n1,2,3\n").returncode == 3
    )


def test_path_names_steps_that_do_not_fit_and_needs_two(tmp_path, profile_file) -> None:
    alone = plinto("path", "srgb", text="R,G,B\n1,2,3\n")
    assert alone.returncode == 2
    assert "two steps" in alone.stderr
    link = bytearray(profile_file.read_bytes())
    link[12:16] = b"link"
    (tmp_path / "link.icc").write_bytes(bytes(link))
    done = plinto("path", "srgb", tmp_path / "link.icc", text="R,G,B\n1,2,3\n")
    assert done.returncode != 0
    assert "takes CMYK numbers" in done.stderr
    assert "Traceback" not in done.stderr


def test_path_from_standard_input(profile_file) -> None:
    done = plinto(
        "path",
        "srgb",
        f"{profile_file}:relative:bpc",
        "lab",
        "--all",
        text="R,G,B\n255,255,255\n0,0,0\n",
    )
    rows = list(csv.DictReader(io.StringIO(done.stdout)))
    assert done.returncode == 0
    assert [float(rows[0][c]) for c in ("2.C", "2.M", "2.Y", "2.K")] == pytest.approx(
        [0] * 4, abs=0.2
    )
    assert float(rows[0]["3.L"]) == pytest.approx(100, abs=0.1)
    assert float(rows[1]["2.K"]) > 80


def test_path_from_lab_with_files(tmp_path, profile_file) -> None:
    (tmp_path / "in.csv").write_text("name,L,a,b\nx,50,0,0\n")
    done = plinto(
        "path", "lab", profile_file, "--in", tmp_path / "in.csv", "--out", tmp_path / "out.csv"
    )
    assert done.returncode == 0
    assert (tmp_path / "out.csv").read_text().startswith("C,M,Y,K\n")
