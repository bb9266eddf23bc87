"""Points of a job as tables for others."""

from __future__ import annotations

import csv
import io
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.measurement.cgats import parse_cgats
from plinto_core.transform.chain import lab_of_device
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.swatches import as_cgats
from plinto_server.apps.profiles.services import load_profile


def reading(**inks: float) -> dict[str, Any]:
    return {"inks": inks, "print_lab": (50.04, -3.06, 12.0)}


@pytest.mark.parametrize(
    ("inks", "fields", "row"),
    [
        ({"C": 10.04, "M": 0, "Y": 99.96, "K": 5}, ["CMYK_C", "CMYK_M", "CMYK_Y", "CMYK_K"], ["10.0", "0.0", "100.0", "5.0"]),
        ({"Brick": 10, "K": 20}, [], []), ({"M": 1, "C": 2, "Y": 3, "K": 4}, [], []),
    ],
)  # fmt: skip
def test_points_are_characterisation_data(inks, fields, row) -> None:
    text = as_cgats(['Sky "north"', "b"], [reading(**inks), reading(**inks)])
    (table,) = parse_cgats(text)
    assert table.fields == ["SAMPLE_ID", "SAMPLE_NAME", *fields, "LAB_L", "LAB_A", "LAB_B"]
    assert table.rows[0] == ["1", "Sky 'north'", *row, "50.0", "-3.1", "12.0"]
    assert table.rows[1][:2] == ["2", "b"]
    assert table.keywords["NUMBER_OF_SETS"] == "2"
    assert table.keywords["NUMBER_OF_FIELDS"] == str(len(table.fields))


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


def _points(client, job, *targets: str):
    points = [{"name": f"P{i}", "x": 20 * i, "y": 30, "target": t} for i, t in enumerate(targets)]
    return client.put(f"/api/jobs/{job['id']}/points", points, format="json")


def test_a_colour_wanted_at_a_point_is_told_against_the_print(client, job, destination) -> None:
    """A measured colour against the print as measured, one of the screen with the paper as white."""
    profile = load_profile(Destination.objects.get(pk=destination).condition.profile.sha256)
    assert _points(client, job, "60 20 10", "#c0a080", "").status_code == 200
    readings = client.get(f"/api/destinations/{destination}/points").json()
    measured, screen, without = (r["target"] for r in readings)
    assert without is None
    assert (measured["as_measured"], screen["as_measured"]) == (True, False)
    assert measured["lab"] == [60, 20, 10]
    for reading, told in zip(readings, (measured, screen), strict=False):
        inks = np.array([list(reading["inks"].values())]) / 100
        white = "absolute" if told["as_measured"] else "relative"
        lab = lab_of_device(profile, inks, intent=white)
        assert told["print_lab"] == pytest.approx(lab[0], abs=0.2)
        miss = delta_e_2000(np.array([told["lab"]]), np.array([told["print_lab"]]))[0]
        assert told["de00"] == pytest.approx(miss, abs=0.03)
    paper = profile.media_white[1]
    assert paper < 0.95
    text = client.get(f"/api/destinations/{destination}/swatches.csv").content.decode()
    rows = list(csv.DictReader(io.StringIO(text)))
    assert [r["target_L"] for r in rows] == ["60.0", str(screen["lab"][0]), ""]
    assert float(rows[0]["target_dE00"]) == measured["de00"]


def test_what_is_no_colour_is_refused_and_changes_nothing(client, job, destination) -> None:
    _points(client, job, "60 20 10")
    refused = _points(client, job, "60 20")
    assert refused.status_code == 400
    assert "no colour" in refused.json()["title"] + refused.json().get("detail", "")
    assert client.get(f"/api/jobs/{job['id']}").json()["points"][0]["target"] == "60 20 10"


def _read_in(client, job, text: str, name: str = "list.csv"):
    file = SimpleUploadedFile(name, text.encode())
    return client.post(f"/api/jobs/{job['id']}/points/targets", {"file": file}, format="multipart")


def test_targets_are_read_in_by_name_else_in_order(client, job, destination) -> None:
    assert _read_in(client, job, "L,a,b\n50,0,0\n").status_code == 400  # no points yet
    _points(client, job, "", "70 1 2", "")
    found = _read_in(client, job, "Name,L,a,b\nP2,10,20,30\nother,1,1,1\np0,50,5,-5\n")
    assert [p["target"] for p in found.json()["points"]] == [
        "50.00 5.00 -5.00",
        "70 1 2",
        "10.00 20.00 30.00",
    ]
    found = _read_in(client, job, "L,a,b\n11,0,0\n22,0,0\n33,0,0\n")
    assert [p["target"][:2] for p in found.json()["points"]] == ["11", "22", "33"]
    for text in ("L,a,b\n50,0,0\n", "R,G,B\n1,2,3\n4,5,6\n7,8,9\n", "nonsense", ""):
        assert _read_in(client, job, text).status_code == 400, text
    kept = client.get(f"/api/jobs/{job['id']}").json()["points"]
    assert [p["target"][:2] for p in kept] == ["11", "22", "33"]
