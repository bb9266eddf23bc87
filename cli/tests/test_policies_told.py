"""Policies on the command line: what is said of documents and pictures, and the exit status."""

from __future__ import annotations

import json
import re

import pikepdf
import pytest
import tifffile
from commands import plinto

from plinto_core.demo.atlas import star_atlas


def test_policies_on_documents_and_pictures(tmp_path, picture, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=3)
    found = json.loads(plinto("inspect", tmp_path / "atlas.pdf", "--json").stdout)
    assert found["pages"] == 3
    assert {"RGB", "CMYK", "grey"} <= {i["family"] for i in found["objects"]}
    made = plinto("policy", "new", "bare-cmyk", "--to", profile_file, "--tac", "280")
    (tmp_path / "policy.json").write_text(made.stdout)
    words = ("policy", "run", tmp_path / "policy.json")
    done = plinto(
        *words, tmp_path / "atlas.pdf", tmp_path / "out.pdf", "--report", tmp_path / "r.json"
    )
    assert done.returncode == 0
    report = json.loads((tmp_path / "r.json").read_text())
    assert report["not_handled"] == []
    after = json.loads(plinto("inspect", tmp_path / "out.pdf", "--json").stdout)
    assert {i["family"] for i in after["objects"]} <= {"CMYK", "grey"}
    assert (
        plinto(*words, picture, tmp_path / "out.tif", "--report", tmp_path / "p.json").returncode
        == 0
    )
    with tifffile.TiffFile(tmp_path / "out.tif") as file:
        assert file.pages[0].photometric.name == "SEPARATED"
        assert 34675 not in file.pages[0].tags
    assert json.loads((tmp_path / "p.json").read_text())["objects"][0]["rule"] == 4


def test_what_stays_in_rgb_is_said_and_has_an_exit_status(tmp_path, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=2)
    left = json.loads(plinto("policy", "new", "strict-press", "--to", profile_file).stdout)
    left["rules"] = [
        {"space": "CMYK", "action": "leave"},
        {"objects": "images", "action": "convert"},
    ]
    (tmp_path / "left.json").write_text(json.dumps(left))
    words = ("policy", "run", tmp_path / "left.json", tmp_path / "atlas.pdf")
    for more in ((tmp_path / "out.pdf",), ("--dry",)):
        done = plinto(*words, *more)
        assert done.returncode == 4
        assert "objects stay in RGB, which" in done.stdout
        assert done.stderr == ""
    assert (tmp_path / "out.pdf").exists()
    assert plinto(*words).returncode == 2
    whole = plinto("policy", "new", "bare-cmyk", "--to", profile_file).stdout
    (tmp_path / "whole.json").write_text(whole)
    done = plinto("policy", "run", tmp_path / "whole.json", tmp_path / "atlas.pdf", "--dry")
    assert done.returncode == 0
    assert "stay in" not in done.stdout
    assert "rule " in done.stdout
    assert re.search(r"\d\.\d\d MB will be about \d\.\d\d MB\.", done.stdout)
    assert re.search(r"Colours move by \d+\.\d dE00 in the mean", done.stdout)


def test_several_policies_on_a_document_side_by_side(tmp_path, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=4)
    for kind in ("strict-press", "bare-cmyk"):
        made = plinto("policy", "new", kind, "--to", profile_file)
        (tmp_path / f"{kind}.json").write_text(made.stdout)
    words = ("policy", "try", tmp_path / "atlas.pdf", tmp_path / "strict-press.json", tmp_path / "bare-cmyk.json")  # fmt: skip
    done = plinto(*words)
    assert done.returncode == 0
    head, strict, bare = done.stdout.splitlines()
    assert head.split()[0] == "MB"
    assert strict.endswith("Strict press")
    assert bare.endswith("Receiver wants bare CMYK")
    reports = json.loads(plinto(*words, "--json").stdout)
    for line, report in zip((strict, bare), reports, strict=True):
        figures = line.split()
        assert float(figures[0]) == pytest.approx(report["size_forecast"] / 1e6, abs=0.01)
        assert float(figures[1]) == pytest.approx(report["colour"]["mean"], abs=0.05)
        assert float(figures[3]) == pytest.approx(report["colour"]["greatest"], abs=0.05)
        assert figures[4] == f"{report['tac']['after']:.0f}"
        assert int(figures[6]) == report["stops"]
    assert reports[0]["stops"] > 0
    assert plinto("policy", "try", tmp_path / "atlas.pdf").returncode == 2
    assert plinto("policy", "try", tmp_path / "no.pdf", tmp_path / "bare-cmyk.json").returncode == 3


def test_damaged_documents_leave_the_terminal_to_plinto(tmp_path, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=2)
    whole = (tmp_path / "atlas.pdf").read_bytes()
    (tmp_path / "cut.pdf").write_bytes(whole[: len(whole) * 3 // 4])
    made = plinto("policy", "new", "bare-cmyk", "--to", profile_file)
    (tmp_path / "policy.json").write_text(made.stdout)
    done = plinto(
        "policy", "run", tmp_path / "policy.json", tmp_path / "cut.pdf", tmp_path / "o.pdf"
    )
    assert done.returncode in (0, 3, 4)
    assert all(line.startswith("plinto: ") for line in done.stderr.splitlines())


def test_documents_that_cannot_be_read_exit_with_3(tmp_path, profile_file) -> None:
    (tmp_path / "x.pdf").write_bytes(b"%PDF-1.7 nothing")
    made = plinto("policy", "new", "strict-press", "--to", profile_file)
    (tmp_path / "policy.json").write_text(made.stdout)
    for words in (
        ("inspect", tmp_path / "x.pdf"),
        ("policy", "run", tmp_path / "policy.json", tmp_path / "x.pdf", tmp_path / "o.pdf"),
    ):
        done = plinto(*words)
        assert done.returncode == 3
        assert done.stderr.count("\n") == 1
        assert done.stderr.startswith("plinto: ")
    assert not (tmp_path / "o.pdf").exists()


def test_policies_are_compared_in_words_and_on_documents(tmp_path, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=3)
    made = json.loads(plinto("policy", "new", "office-files", "--to", profile_file).stdout)
    (tmp_path / "a.json").write_text(json.dumps(made))
    (tmp_path / "b.json").write_text(json.dumps({**made, "clean": False}))
    done = plinto("policy", "compare", tmp_path / "a.json", tmp_path / "b.json", "--on", tmp_path / "atlas.pdf")  # fmt: skip
    assert done.stdout.splitlines()[0] == "clean: yes -> no"
    assert done.stdout.splitlines()[1].startswith("atlas.pdf: 5 of ")
    same = plinto("policy", "compare", tmp_path / "a.json", tmp_path / "a.json", "--json")
    assert json.loads(same.stdout) == {"differences": [], "documents": {}}


def test_documents_are_checked_and_made_for_pdfx(tmp_path, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=2)
    broken = plinto("inspect", tmp_path / "atlas.pdf", "--pdfx", "X-1a")
    assert broken.returncode == 1
    assert "only CMYK, grey and spot colours, page" in broken.stdout
    found = json.loads(plinto("inspect", tmp_path / "atlas.pdf", "--pdfx", "X-4", "--json").stdout)
    assert found["standard"] == "PDF/X-4"
    assert "fonts are embedded" in {b["rule"] for b in found["breaches"]}
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(200, 100))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"1 0 0 rg 0 0 99 50 re f")
        pdf.save(tmp_path / "plain.pdf")
    made = plinto("policy", "new", "strict-press", "--to", profile_file)
    (tmp_path / "policy.json").write_text(made.stdout)
    words = [
        "policy",
        "run",
        tmp_path / "policy.json",
        tmp_path / "plain.pdf",
        tmp_path / "out.pdf",
    ]
    done = plinto(*words, "--pdfx", "X-4", "--notes", tmp_path / "notes.pdf")
    assert done.returncode == 0, done.stdout
    assert "The result is marked as PDF/X-4." in done.stdout
    assert "report: Bleed, page 1: Bleed of 0.0 mm." in done.stdout
    kept = plinto("inspect", tmp_path / "out.pdf", "--pdfx", "X-4")
    assert (kept.returncode, kept.stdout) == (0, "Nothing was found that breaks PDF/X-4.\n")
    with pikepdf.open(tmp_path / "notes.pdf") as pdf:
        assert "Bleed" in {str(a.T) for a in pdf.pages[0].obj["/Annots"]}


def test_a_warning_of_a_check_shows_in_the_exit_status(tmp_path, profile_file) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=1)
    made = json.loads(plinto("policy", "new", "bare-cmyk", "--to", profile_file).stdout)
    for severity, status in (("report", 0), ("warn", 4)):
        policy = {**made, "checks": [{"what": "fonts", "severity": severity}]}
        (tmp_path / "policy.json").write_text(json.dumps(policy))
        done = plinto("policy", "run", tmp_path / "policy.json", tmp_path / "atlas.pdf", "--dry")
        assert done.returncode == status, done.stdout
        assert f"{severity}: Fonts not embedded, page 1: Not embedded: Helvetica." in done.stdout
    assert "hairlines (limit 0.25 pt)" in plinto("policy", "checks").stdout


def test_a_dry_run_on_a_picture_says_size_and_colour(tmp_path, picture, profile_file) -> None:
    for kind in ("strict-press", "bare-cmyk"):
        made = plinto("policy", "new", kind, "--to", profile_file).stdout
        (tmp_path / f"{kind}.json").write_text(made)
    words = ("policy", "run", tmp_path / "strict-press.json", picture)
    told = plinto(*words, "--dry")
    assert re.search(r"0\.00 MB will be about \d\.\d\d MB\.", told.stdout)
    assert re.search(r"95 % of 1200 pixels by less than \d", told.stdout)
    report = tmp_path / "r.json"
    plinto(*words, tmp_path / "out.tif", "--report", report)
    size = (tmp_path / "out.tif").stat().st_size
    plinto(*words, "--dry", "--report", report)
    assert json.loads(report.read_text())["size_forecast"] == size
    assert plinto(*words, tmp_path / "out.xyz", "--dry").returncode == 3
    assert plinto(*words, tmp_path / "out.png", "--dry").returncode == 3, "PNG holds no CMYK"
    done = plinto(
        "policy", "try", picture, tmp_path / "strict-press.json", tmp_path / "bare-cmyk.json"
    )
    assert done.returncode == 0
    assert done.stdout.splitlines()[1].split()[0] == f"{size / 1e6:.2f}"
