"""Colour paths: followed, seen, kept, and whose they are."""

from __future__ import annotations

import csv
import io
import json

import imagecodecs
import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from pathing import followed, path
from plinto_core.colorimetry.difference import delta_e_76, delta_e_2000
from plinto_core.paths.follow import follow
from plinto_core.swatches.files import swatches_of_text
from plinto_core.transform.path import LAB, PathStep
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.paths.services import FoundPath
from plinto_server.apps.profiles.services import load_profile


@pytest.fixture
def press(conditions) -> str:
    return f"condition:{conditions[0].pk}"


def test_a_path_gives_every_step_and_the_core_agrees(client, typed, press, conditions) -> None:
    steps = path("lab:", press, "lab:")
    found = followed(client, steps, list=typed["id"], first=0, second=2).json()
    assert [s["name"] for s in found["steps"]] == ["Lab", "Sheetfed coated", "Lab"]
    assert found["steps"][1]["columns"] == ["C", "M", "Y", "K"]
    lab = np.array([[50, 45, 35], [45, -40, 35], [8, 5, -20], [95, 0, 0]], float)
    profile = load_profile(conditions[0].profile.sha256)
    core = follow(
        [PathStep(LAB), PathStep(profile, "relative", True), PathStep(LAB, "relative", True)], lab
    )
    for row, inks, colour in zip(found["rows"], core.values[1], core.lab[2], strict=True):
        assert row["values"][1] == pytest.approx(inks, abs=0.006)
        assert row["lab"][2] == pytest.approx(colour, abs=0.006)
    errors = delta_e_2000(core.lab[0], core.lab[2])
    assert [r["difference"] for r in found["rows"]] == pytest.approx(errors, abs=1e-3)
    assert found["figures"]["mean"] == pytest.approx(errors.mean(), abs=1e-4)
    other = followed(client, steps, list=typed["id"], first=0, second=2, formula="1976").json()
    assert other["figures"]["mean"] == pytest.approx(
        delta_e_76(core.lab[0], core.lab[2]).mean(), abs=1e-4
    )
    absolute = followed(client, steps, list=typed["id"], view="absolute").json()
    assert absolute["rows"][3]["lab"][1][0] < found["rows"][3]["lab"][1][0] - 1
    assert absolute["figures"] is None


def test_intent_and_bpc_are_part_of_what_is_kept_in_mind(client, typed, press) -> None:
    seen = set()
    for intent in ("relative", "perceptual", "absolute"):
        for bpc in (True, False):
            steps = path("lab:", press, intent=intent, bpc=bpc)
            seen.add(
                json.dumps(followed(client, steps, list=typed["id"]).json()["rows"][2]["values"])
            )
    # Absolute knows no BPC; relative and perceptual do.
    assert len(seen) == 5


def test_rows_are_sorted_filtered_and_taken_by_windows(client, typed, press) -> None:
    steps = path("lab:", press, "lab:")

    def names(**query) -> list[str]:
        answer = followed(client, steps, list=typed["id"], first=0, second=2, **query)
        assert answer.status_code == 200, answer.content
        return [r["name"] for r in answer.json()["rows"]]

    assert names() == ["brick", "leaf", "night", "paper"]
    assert names(start=1, count=2) == ["leaf", "night"]
    assert names(sort="name", descending=True) == ["paper", "night", "leaf", "brick"]
    assert names(sort="lightness") == ["night", "leaf", "brick", "paper"]
    assert names(sort="chroma")[0] == "paper"
    by_size = names(sort="difference", descending=True)
    assert by_size[0] in ("night", "leaf")
    assert names(text="NI") == ["night"]
    assert len(names(beyond=0.5)) < 4
    # What lies beyond is meant by its size, where differences carry a sign.
    signed = followed(client, steps, list=typed["id"], first=0, second=2, formula="chroma").json()
    far = {r["name"] for r in signed["rows"] if abs(r["difference"]) > 0.5}
    assert any(r["difference"] < -0.5 for r in signed["rows"])
    assert set(names(formula="chroma", beyond=0.5)) == far
    inks = followed(client, path("lab:", press), list=typed["id"], first=0, second=1, sort="total")
    assert inks.json()["rows"][0]["name"] == "paper"
    assert inks.json()["rows"][-1]["name"] == "night"
    for wrong in (
        {"sort": "total"},
        {"sort": "x"},
        {"count": 501},
        {"start": -1},
        {"thresholds": "2,1"},
        {"thresholds": "x"},
        {"formula": "1"},
        {"first": 3},
    ):
        answer = followed(client, steps, **{"list": typed["id"], "first": 0, "second": 2, **wrong})
        assert answer.status_code == 400, wrong


@pytest.mark.parametrize(
    "asked",
    [
        {}, {"path": "no"}, {"path": "[" * 3000}, {"path": json.dumps({"steps": []})},
        {"path": json.dumps(path("profile:" + "f" * 64))}, {"path": json.dumps(path("condition:x"))},
        {"path": json.dumps(path("condition:999999999"))}, {"path": json.dumps(path("job:1" * 30))},
        {"path": json.dumps(path("table:x"))}, {"path": json.dumps(path("lab:x"))},
        {"path": json.dumps(path("profile:srgb"))}, {"path": json.dumps(path("lab:"))},
    ],
)  # fmt: skip
def test_what_cannot_be_followed_is_refused_in_a_sentence(client, typed, asked) -> None:
    for more in ({"list": typed["id"]}, {}):
        if asked.get("path") == json.dumps(path("lab:")) and more:
            continue
        answer = client.get("/api/colour-paths/followed", {**asked, **more})
        assert answer.status_code == 400
        assert answer.json()["title"]


@pytest.mark.parametrize(("title", "said"), [("Film look", "Film look"), ("", "colour table")])
def test_a_table_is_a_step_under_its_title(client, title, said) -> None:
    cube = f'TITLE "{title}"\nLUT_1D_SIZE 2\n1 1 1\n0 0 0\n'.removeprefix('TITLE ""\n')
    file = SimpleUploadedFile("a.cube", cube.encode())
    table = client.post("/api/tables", {"file": file}, format="multipart").json()
    steps = path("profile:srgb", f"table:{table['sha256']}")
    found = followed(client, steps, bar=1, first=0, second=1).json()
    assert [s["name"] for s in found["steps"]][1] == said


def test_a_reversal_is_a_step_of_its_own(client) -> None:
    steps = path("profile:srgb", "reversal:rgb", "profile:oprgb")
    found = followed(client, steps, bar=1, first=0, second=1).json()
    assert [s["name"] for s in found["steps"]][1] == "Reversed RGB"
    for row in found["rows"]:
        assert row["values"][1] == pytest.approx([255 - v for v in row["values"][0]], abs=0.02)
    answer = followed(client, path("profile:srgb", "reversal:lab"), bar=1, first=0, second=1)
    assert answer.status_code == 400
    assert answer.json()["title"].startswith("Step 2: Numbers of 'lab' cannot be reversed")


def test_a_recipe_is_a_step(client, job, conditions, typed) -> None:
    destination = job["destinations"][0]["id"]
    steps = path("profile:oprgb", f"job:{destination}", "lab:")
    found = followed(client, steps, job=job["id"], first=0, second=1).json()
    assert found["steps"][1]["name"] == f"{job['name']} for Sheetfed coated"
    assert found["steps"][1]["columns"] == ["C", "M", "Y", "K"]
    row = found["rows"][0]
    x, y = row["place"]
    read = client.get(f"/api/destinations/{destination}/readout", {"x": int(x), "y": int(y)}).json()
    assert row["lab"][1] == pytest.approx(read["print_lab"], abs=3)
    assert max(sum(r["values"][1]) for r in found["rows"]) > 160
    rules = {"ink_rules": {"tac": 150}}
    assert client.patch(f"/api/destinations/{destination}", rules, format="json").status_code == 200
    after = followed(client, steps, job=job["id"], first=0, second=1).json()
    assert max(sum(r["values"][1]) for r in after["rows"]) < 150.5


def test_a_picture_gives_lists_and_is_seen_after_every_step(client, job, press) -> None:
    region = {
        "job": job["id"],
        "x": 20,
        "y": 30,
        "width": 60,
        "height": 40,
        "columns": 3,
        "rows": 2,
    }
    made = client.post("/api/swatch-lists/sampled", region, format="json").json()
    assert (made["count"], made["space"], made["job"]) == (6, "RGB", job["id"])
    own = path("profile:oprgb")
    rows = followed(client, own, list=made["id"]).json()["rows"]
    assert rows[0]["name"] == "A1"
    assert rows[0]["place"] == [30, 40]
    # The picture's red is 540 x of 65535, at x = 30; its green 720 y.
    assert rows[0]["values"][0][:2] == pytest.approx([30 * 540 / 257, 40 * 720 / 257], abs=1)
    # A colour that was changed is no longer that of its place; a name that was changed is.
    copied = client.post(f"/api/swatch-lists/{made['id']}/copy").json()
    at = f"/api/swatch-lists/{copied['id']}"
    put = [{"row": 0, "values": [1, 2, 3]}, {"row": 1, "name": "second"}]
    assert (
        client.patch(at, {"put": put, "digest": made["digest"]}, format="json").status_code == 200
    )
    places = [r["place"] for r in followed(client, own, list=copied["id"]).json()["rows"]]
    assert places[0] is None
    assert places[1] == rows[1]["place"]
    text = client.get(f"{at}/file", {"form": "csv"}).content.decode()
    assert text.splitlines()[1] == "A1,1,2,3,,"
    again = swatches_of_text(text)
    assert np.isnan(again.places[0]).all()
    assert again.places[1].tolist() == places[1]
    wrong = client.post("/api/swatch-lists/sampled", {**region, "x": 100}, format="json")
    assert wrong.status_code == 400
    most = client.post("/api/swatch-lists/dominant", {"job": job["id"], "count": 4}, format="json")
    assert most.json()["count"] == 4

    def picture(steps, **query):
        return client.get(
            "/api/colour-paths/picture", {"path": json.dumps(steps), "job": job["id"], **query}
        )

    steps = path("profile:oprgb", press)
    shown = imagecodecs.png_decode(picture(steps, step=1, edge=64).content)
    assert shown.shape == (48, 64, 3)
    source = imagecodecs.png_decode(picture(steps, step=0, edge=64).content)
    assert np.abs(source.astype(int) - shown).max() > 20
    # A picture converted exactly at one of its pixels agrees with the link.
    centre = followed(client, steps, list=made["id"]).json()["rows"][0]
    from plinto_core.colorimetry import Lab_to_XYZ
    from plinto_core.transform.sides import xyz_to_device

    expected = xyz_to_device(standard_profile("srgb"), Lab_to_XYZ(np.array([centre["lab"][1]])), 1)
    assert shown[21, 16] == pytest.approx(expected[0] * 255, abs=8)
    # A region is the same pixels as in the whole, for a step and for a map.
    for what in ({"step": 1}, {"first": 0, "second": 1}):
        whole = imagecodecs.png_decode(picture(steps, **what, edge=2048).content)
        box = {"box": "40,30,50,20", "columns": 50, "rows": 20}
        part = imagecodecs.png_decode(picture(steps, **what, **box).content)
        assert np.abs(part.astype(int) - whole[30:50, 40:90]).max() <= 1
        assert picture(steps, **what, box="40,30,50,20", columns=100, rows=10).status_code == 200
    same = imagecodecs.png_decode(picture(steps, first=1, second=1, edge=64).content)
    apart = imagecodecs.png_decode(picture(steps, first=0, second=1, edge=64).content)
    assert len(np.unique(same.reshape(-1, 3), axis=0)) == 1
    assert len(np.unique(apart.reshape(-1, 3), axis=0)) > 20
    for query in (
        {},
        {"step": 2},
        {"step": 0, "first": 0},
        {"first": 0},
        {"step": 0, "edge": 9999},
        {"step": 0, "box": "1,2,3"},
        {"step": 0, "box": "1,2,0,5"},
        {"step": 0, "box": "-1,2,5,5"},
        {"step": 0, "box": "1,2,5,5000"},
        {"step": 0, "box": "nan,2,5,5"},
        {"step": 0, "box": "120,0,1,1"},
        {"step": 0, "box": "0,90,1,1"},
        {"step": 0, "box": "0,0,122,1"},
        {"step": 0, "box": "0,0,1,92"},
        {"step": 0, "box": "1,2,5,-5"},
        {"step": 0, "box": "1,2,5,5", "columns": 0},
    ):
        assert picture(steps, **query).status_code == 400, query
    # The last pixel, and one beyond the edge, as a view is rounded.
    for box in ("119,89,1,1", "0,0,121,91", "119,89,2,2"):
        assert picture(steps, step=0, box=box).status_code == 200, box
    assert picture(path("lab:"), step=0).status_code == 400


def test_a_path_up_to_a_step_has_the_one_after_it_and_a_key_of_its_own() -> None:
    steps = tuple(PathStep(standard_profile(n)) for n in ("srgb", "p3", "oprgb", "romm", "grey"))
    whole = FoundPath(steps, ("a", "b", "c", "d", "e"), "key")
    part = whole.upto(1)
    assert (part.steps, part.names) == (steps[:3], ("a", "b", "c"))
    assert len({whole.key, part.key, whole.upto(0).key}) == 3


def test_a_device_s_outermost_numbers_go_along_a_path(client, typed, press) -> None:
    steps = path("profile:oprgb", press)
    found = followed(client, steps, bar=1, first=0, second=1).json()
    given = [row["given"] for row in found["rows"]]
    assert found["count"] == 27
    assert [given[i] for i in (0, 4, 8, 12, 16, 20)] == [
        [255, 0, 0], [255, 255, 0], [0, 255, 0], [0, 255, 255], [0, 0, 255], [255, 0, 255],
    ]  # fmt: skip
    assert given[-3:] == [[255, 255, 255], [128, 128, 128], [0, 0, 0]]
    assert given[1] == [255, 64, 0]
    # A press does not print the green of a wide RGB space.
    assert found["rows"][8]["difference"] > 10
    inks = followed(client, path(press), bar=1).json()["rows"]
    assert [100, 0, 0, 0] in [row["given"] for row in inks]
    for wrong in ({"bar": 1, "list": typed["id"]}, {"bar": "x"}, {"bar": 0}):
        assert followed(client, steps, **wrong).status_code == 400, wrong
    assert followed(client, path("lab:"), bar=1).status_code == 400


def test_either_side_becomes_a_list_and_the_whole_a_table(client, typed, press) -> None:
    steps = path("lab:", press)
    body = {"path": steps, "list": typed["id"], "step": 1}
    inks = client.post("/api/swatch-lists/after-a-step", body, format="json").json()
    assert (inks["space"], inks["name"]) == ("CMYK", "Mine, after Sheetfed coated")
    lab = client.post("/api/swatch-lists/after-a-step", {**body, "lab": True}, format="json").json()
    assert lab["space"] == "Lab"
    assert (
        client.post(
            "/api/swatch-lists/after-a-step", {**body, "step": 2}, format="json"
        ).status_code
        == 400
    )
    table = client.get(
        "/api/colour-paths/table", {"path": json.dumps(steps), "list": typed["id"]}
    ).content.decode()
    rows = list(csv.reader(io.StringIO(table)))
    assert rows[0] == ["Name", "1.L", "1.a", "1.b", "2.C", "2.M", "2.Y", "2.K", "2.L", "2.a", "2.b"]
    row = followed(client, steps, list=typed["id"]).json()["rows"][0]
    assert [float(v) for v in rows[1][4:8]] == pytest.approx(row["values"][1], abs=0.006)
    one = client.get(
        "/api/colour-paths/table", {"path": json.dumps(steps), "list": typed["id"], "steps": "0"}
    )
    assert one.content.decode().splitlines()[1] == "brick,50.0,45.0,35.0"
    for wrong in ("5", "x", "0.5", "-1"):
        asked = {"path": json.dumps(steps), "list": typed["id"], "steps": wrong}
        assert client.get("/api/colour-paths/table", asked).status_code == 400


def test_paths_are_kept_with_revisions_and_outlive_what_they_lean_on(
    client, conditions, typed
) -> None:
    own = client.post(
        "/api/conditions",
        {"profile": conditions[1].profile_id, "condition": {"name": "Ours"}},
        format="json",
    ).json()
    steps = path("lab:", f"condition:{own['id']}")
    made = client.post("/api/colour-paths", {"name": "Proof", **steps}, format="json")
    assert made.status_code == 201, made.content
    address = f"/api/colour-paths/{made.json()['id']}"
    first = client.get(address)
    renamed = client.patch(
        address, {"name": "Other"}, format="json", headers={"If-Match": first["ETag"]}
    )
    assert renamed.json()["revision"] == 2
    stale = client.patch(
        address, {"name": "Third"}, format="json", headers={"If-Match": first["ETag"]}
    )
    assert stale.status_code == 409
    for wrong in (
        {"name": ""},
        {"steps": []},
        {"steps": [{"kind": "profile", "ref": "f" * 64}]},
        {"x": 1},
    ):
        assert client.patch(address, wrong, format="json").status_code == 400, wrong
    assert client.post("/api/colour-paths", steps, format="json").status_code == 400
    uses = client.get(f"/api/conditions/{own['id']}/uses").json()
    assert [u["kind"] for u in uses if u["name"] == "Other"] == ["colour path"]
    profiles = [c.profile for c in conditions[:2]]
    through = path(f"profile:{profiles[0].sha256}", "lab:")
    assert (
        client.post("/api/colour-paths", {"name": "Through", **through}, format="json").status_code
        == 201
    )
    leaning = [client.get(f"/api/profiles/{p.pk}/uses").json() for p in profiles]
    paths = [[u["name"] for u in rows if u["kind"] == "colour path"] for rows in leaning]
    assert paths == [["Through"], []]
    (kept,) = (p for p in client.get("/api/colour-paths").json() if p["name"] == "Through")
    client.delete(f"/api/colour-paths/{kept['id']}")
    client.delete(f"/api/conditions/{own['id']}")
    assert followed(client, steps, list=typed["id"]).status_code == 200
    assert client.delete(address).status_code == 204
    assert client.get("/api/colour-paths").json() == []
    assert client.post(f"{address}/restore").status_code == 200


def test_nothing_of_others_is_followed(client, typed, job, django_user_model) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve"))
    assert followed(stranger, path("lab:"), list=typed["id"]).status_code == 400
    assert followed(stranger, path("profile:oprgb"), job=job["id"]).status_code == 400
    picture = {"path": json.dumps(path("profile:oprgb")), "job": job["id"], "step": 0}
    assert stranger.get("/api/colour-paths/picture", picture).status_code == 400
    assert client.get("/api/colour-paths/picture", picture).status_code == 200


@pytest.mark.parametrize("one", [{"first": 0}, {"second": 2}])
def test_a_difference_has_two_steps(client, typed, press, one) -> None:
    steps = path("lab:", press, "lab:")
    answer = followed(client, steps, list=typed["id"], **one)
    assert answer.status_code == 400
    assert "two steps" in answer.json()["title"]
    assert followed(client, steps, list=typed["id"]).status_code == 200
