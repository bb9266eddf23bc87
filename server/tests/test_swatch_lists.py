"""Lists of swatches: typed, read, ready, changed row by row, copied, removed, and taken out as files."""

from __future__ import annotations

import csv
import io

from django.core.files.uploadedfile import SimpleUploadedFile

from pathing import followed, path
from plinto_core.swatches.files import read_swatches


def test_typed_colours_are_a_list(client, typed) -> None:
    assert (typed["name"], typed["space"], typed["count"]) == ("Mine", "Lab ".strip(), 4)
    assert [one["id"] for one in client.get("/api/swatch-lists").json()] == [typed["id"]]
    bare = client.post(
        "/api/swatch-lists", {"text": "x 1 2 3", "space": "RGB", "name": ""}, format="json"
    )
    assert bare.json()["space"] == "RGB"
    for wrong in (
        {"text": "1 2 3"},
        {"text": "1 2", "space": "RGB"},
        {"text": "a,b\n"},
        {"text": ""},
    ):
        answer = client.post("/api/swatch-lists", wrong, format="json")
        assert answer.status_code == 400
        assert answer.json()["title"]


def test_lists_come_from_files_and_leave_as_files(client, typed) -> None:
    kept = SimpleUploadedFile(
        "chart.txt",
        b"CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_ID RGB_R RGB_G RGB_B LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\n"
        b"BEGIN_DATA\nA 255 0 0 54 81 70\nEND_DATA\n",
    )
    made = client.post("/api/swatch-lists/file", {"file": kept}, format="multipart").json()
    assert [(m["name"], m["space"]) for m in made] == [
        ("chart, device values", "RGB"), ("chart, measured", "Lab"),
    ]  # fmt: skip
    for form in ("csv", "cgats", "cxf"):
        answer = client.get(f"/api/swatch-lists/{typed['id']}/file", {"form": form})
        (again,) = read_swatches(answer.content)
        assert again.names == ("brick", "leaf", "night", "paper")
        assert again.values[0].tolist() == [50, 45, 35]
    assert client.get(f"/api/swatch-lists/{typed['id']}/file", {"form": "doc"}).status_code == 400
    for wrong in (b"", b"\x00\x01", b"<CxF", b"%PDF-1.7", b"a,b\n1,2"):
        file = SimpleUploadedFile("x.bin", wrong)
        answer = client.post("/api/swatch-lists/file", {"file": file}, format="multipart")
        assert answer.status_code == 400, wrong
    assert len(client.get("/api/swatch-lists").json()) == 3


def test_ready_lists(client, conditions) -> None:
    def made(**body):
        return client.post("/api/swatch-lists/ready", body, format="json")

    assert made(kind="neutrals", count=5).json()["count"] == 5
    # Without a count as many as are usually wanted.
    assert made(kind="neutrals").json()["count"] == 21
    for kind, count in (("chart", 6), ("extremes", 24)):
        both = [
            made(kind=kind, profile="srgb", **c).json()["count"] for c in ({}, {"count": count})
        ]
        assert both[0] == both[1] > 20
    press = conditions[0].profile.sha256
    assert made(kind="solids", profile=press).json()["count"] == 16
    assert made(kind="chart", profile="srgb", count=3).json()["count"] == 27
    assert made(kind="extremes", profile=press, count=12).json()["count"] == 14
    for wrong in (
        {"kind": "neutrals", "profile": press}, {"kind": "chart"}, {"kind": "solids", "profile": press, "count": 3},
        {"kind": "solids", "profile": "srgb"}, {"kind": "chart", "profile": press, "count": 30}, {"kind": "x"},
        {"kind": "neutrals", "count": 1}, {"kind": "chart", "profile": "f" * 64},
    ):  # fmt: skip
        assert made(**wrong).status_code == 400, wrong


def test_lists_are_changed_copied_removed_and_come_back(client, typed) -> None:
    address = f"/api/swatch-lists/{typed['id']}"
    seen = typed["digest"]
    out = {"name": "Four", "remove": [0, 3]}
    assert client.patch(address, out, format="json").status_code == 409
    changed = client.patch(address, {**out, "digest": seen}, format="json").json()
    assert (changed["name"], changed["count"]) == ("Four", 2)
    more = client.patch(address, {"add": "sky 70 -10 -30\n60 0 0"}, format="json").json()
    assert more["count"] == 4
    inks = client.patch(address, {"add": "CMYK_C,CMYK_M,CMYK_Y,CMYK_K\n10,20,30,40"}, format="json")
    assert inks.status_code == 400
    assert "are CMYK, and Lab is wanted" in inks.json()["title"]
    rows = followed(client, path("lab:"), list=typed["id"]).json()["rows"]
    assert [r["name"] for r in rows] == ["leaf", "night", "sky", "2"]
    # Another window still sees the former rows: the same place would be another colour.
    stale = client.patch(address, {"remove": [1], "digest": seen}, format="json")
    assert stale.status_code == 409
    assert "changed meanwhile" in stale.json()["title"]
    now = more["digest"]
    other = {"put": [{"row": 2, "values": [71, -9, -31]}, {"row": 0, "name": "tree"}]}
    assert client.patch(address, {**other, "digest": seen}, format="json").status_code == 409
    put = client.patch(address, {**other, "digest": now}, format="json").json()
    rows = followed(client, path("lab:"), list=typed["id"]).json()["rows"]
    assert [r["name"] for r in rows] == ["tree", "night", "sky", "2"]
    assert rows[2]["given"] == [71, -9, -31]
    assert [rows[0]["given"], rows[1]["given"]] == [[45, -40, 35], [8, 5, -20]]
    now = put["digest"]
    for wrong in (
        {"put": [{"row": 0, "values": [1, 2]}], "digest": now},
        {"put": [{"row": 0, "values": [1, 2, 900]}], "digest": now},
        {"put": [{"row": 4, "values": [1, 2, 3]}], "digest": now},
        {"put": [{"row": -1, "name": "x"}], "digest": now},
        {"put": "all", "digest": now},
        {"remove": [9], "digest": now}, {"add": "1 2"}, {}, {"space": "RGB"}, {"remove": [0, 1, 2, 3], "digest": now},
    ):  # fmt: skip
        assert client.patch(address, wrong, format="json").status_code == 400, wrong
    copy = client.post(f"{address}/copy").json()
    assert copy["name"] == "Four, copy"
    assert client.delete(address).status_code == 204
    assert [one["id"] for one in client.get("/api/swatch-lists").json()] == [copy["id"]]
    assert client.post(f"{address}/restore").json()["name"] == "Four"
    assert followed(client, path("lab:"), list=copy["id"]).json()["count"] == 4


def rows_of(client, kept: dict) -> list[list[str]]:
    """Name and values of every row, as the list goes out."""
    data = client.get(f"/api/swatch-lists/{kept['id']}/file?form=csv").content.decode()
    return list(csv.reader(io.StringIO(data)))[1:]


def test_rows_are_changed_taken_out_and_added_in_one_go(client, typed) -> None:
    at = f"/api/swatch-lists/{typed['id']}"
    asked = {
        "name": "  Two   words ", "digest": typed["digest"], "remove": [0, 3], "add": "sky 70 -10 -30",
        "put": [{"row": 1, "name": "moss"}, {"row": 2, "values": [9, 1, 2]}, {"row": 3, "name": "gone"}],
    }  # fmt: skip
    found = client.patch(at, asked, format="json")
    assert found.status_code == 200, found.content
    assert (found.json()["name"], found.json()["count"]) == ("Two words", 3)
    assert rows_of(client, typed) == [["moss", "45", "-40", "35"], ["night", "9", "1", "2"], ["sky", "70", "-10", "-30"]]  # fmt: skip
    # The colours are others now: places seen before stand elsewhere.
    for late in ({"remove": [0]}, {"put": [{"row": 0, "name": "x"}]}):
        assert (
            client.patch(at, {**late, "digest": typed["digest"]}, format="json").status_code == 409
        )
        assert client.patch(at, late, format="json").status_code == 409
    now = found.json()["digest"]
    for wrong in (
        {"remove": [3], "digest": now}, {"remove": [-1], "digest": now}, {"put": [{"row": 3, "name": "x"}], "digest": now},
        {"put": [{"row": 0, "values": [1, 2]}], "digest": now}, {"add": "x,C,M,Y,K\na,1,2,3,4"}, {}, {"remove": [0, 1, 2], "digest": now},
    ):  # fmt: skip
        assert client.patch(at, wrong, format="json").status_code == 400, wrong
    assert len(rows_of(client, typed)) == 3
    assert client.patch(at, {"name": "N" * 200}, format="json").json()["digest"] == now
    copied = client.post(f"{at}/copy").json()
    assert (copied["name"], copied["digest"], copied["count"]) == ("N" * 190 + ", copy", now, 3)


def test_a_colour_that_is_changed_is_no_longer_that_of_its_place(client, job) -> None:
    asked = {"job": job["id"], "x": 10, "y": 10, "width": 80, "height": 60, "columns": 2, "rows": 1, "mark": 5}  # fmt: skip
    kept = client.post("/api/swatch-lists/sampled", asked, format="json").json()
    first, second = rows_of(client, kept)
    assert all(first[-2:])
    values = [float(v) for v in first[1:-2]]
    at, digest = f"/api/swatch-lists/{kept['id']}", kept["digest"]
    same = client.patch(at, {"digest": digest, "put": [{"row": 0, "values": values, "name": "again"}]}, format="json").json()  # fmt: skip
    assert rows_of(client, kept)[0][-2:] == first[-2:]
    moved = {"digest": same["digest"], "put": [{"row": 0, "values": [values[0] + 0.02, *values[1:]]}]}  # fmt: skip
    assert client.patch(at, moved, format="json").status_code == 200
    assert [r[-2:] for r in rows_of(client, kept)] == [["", ""], second[-2:]]
    assert client.patch(at, {"add": "more " + " ".join(first[1:-2])}, format="json").status_code == 200  # fmt: skip
    assert len({len(r) for r in rows_of(client, kept)}) == 1
    assert len(rows_of(client, kept)[0]) == len(first) - 2
