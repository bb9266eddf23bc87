"""Unknown and ineffective fields are refused everywhere; no accepted change leaves a dead recipe."""

from __future__ import annotations

import io
import json

import numpy as np
import pytest
import tifffile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from rest_framework.exceptions import ParseError

from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.parsing import DEEPEST, BoundedJSONParser
from test_strangers import OPEN, routes
from uploading import upload


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"intnet": "relative"}, "no field 'intnet'"),
        ({"destination": "f" * 64}, "destination"),
        ({"page": 1}, "page"),
        ({"version": 1}, "version"),
        ({"working": "srgb"}, "no field 'working'"),
        ({"delivery": {"bit": 8}}, "delivery.bit"),
        ({"ink_rules": {"black": {"strenght": 3}}}, "strenght"),
        ({"ink_rules": {"limits": {"O": 50}}}, "no ink 'O' to limit"),
        ({"ink_rules": {"limits": {"C": -20}}}, "between 0 and 100"),
        ({"ink_rules": {"limits": {"C": 150}}}, "between 0 and 100"),
        ({"ink_rules": {"tac": 20}}, "tac"),
        ({"intent": None}, "intent"),
        ({"plates": {"K": {"least": 3}}}, "least"),
        ({"vivid": {"space": "srgb"}}, "vivid"),
        ({"arrival": "grey"}, "arrival space"),
        ({"before": "0" * 64}, "not known here"),
        ({"delivery": {"format": "PNG"}}, "PNG"),
        ({"delivery": {"format": "JPEG", "bits": 16}}, "JPEG"),
        ({"source": "grey"}, "is for GRAY"),
    ],
    ids=str,
)
def test_a_recipe_takes_nothing_that_it_would_not_use(client, destination, change, said) -> None:
    before = client.get(f"/api/destinations/{destination}").json()
    answer = client.patch(f"/api/destinations/{destination}", change, format="json")
    assert answer.status_code == 400
    problem = answer.json()
    assert said in f"{problem['title']} {problem['remedy']}"
    assert client.get(f"/api/destinations/{destination}").json() == before


@pytest.mark.parametrize("text", ['{"ink_rules": {"tac": NaN}}', '{"ink_rules": {"limits": {"C": NaN}}}', '{"delivery": {"width_mm": Infinity}}', "[]", "3", "{"])  # fmt: skip
def test_numbers_that_are_none_are_refused(client, destination, text) -> None:
    answer = client.patch(f"/api/destinations/{destination}", text, content_type="application/json")
    assert answer.status_code == 400
    shown = client.get(f"/api/destinations/{destination}/inks", {"changes": text})
    assert shown.status_code == 400


def test_no_address_takes_a_parameter_or_field_that_it_does_not_know(
    client, job, conditions
) -> None:
    asked = 0
    for plain, view in routes():
        if "<" in plain or plain.removeprefix("api/") in {"schema", "health"}:
            continue
        if hasattr(view, "get"):
            answer = client.get(f"/{plain}", {"misspelt": 1})
            assert (answer.status_code, "misspelt" in answer.json()["title"]) == (400, True), plain
            asked += 1
        if hasattr(view, "post") and plain.removeprefix("api/") not in OPEN:
            answer = client.post(f"/{plain}", {"misspelt": 1}, format="json")
            assert answer.status_code in (400, 415), plain
            asked += 1
    assert asked > 25


@pytest.mark.parametrize(
    ("method", "address", "body"),
    [
        ("post", "printers", {"name": "x", "colour": "red"}),
        ("post", "folders", {"name": "x", "polcy": 1}),
        ("post", "jobs", {"artwork": 1, "conditions": [], "name": "x"}),
        ("post", "house-rules", {"name": "x", "cymk": None}),
        ("post", "ink-rules", {"name": "x", "tak": 3}),
        ("post", "session", {"username": "a", "password": "b", "keep": True}),
        ("put", "jobs/{job}/points", [{"name": "a", "x": 1, "y": 1, "z": 1}]),
        ("put", "jobs/{job}/look", {"papr": True}),
        ("patch", "jobs/{job}", {"name": "New", "owner": 3}),
        ("delete", "jobs/{job}", {"really": True}),
        ("post", "destinations/{destination}/undo", {"steps": 3}),
        ("post", "destinations/{destination}/facts", {"x": 1}),
    ],
)
def test_bodies_hold_known_fields_only(client, job, destination, method, address, body) -> None:
    place = address.format(job=job["id"], destination=destination)
    answer = getattr(client, method)(f"/api/{place}", body, format="json")
    assert answer.status_code == 400
    assert client.get(f"/api/jobs/{job['id']}").status_code == 200


def test_an_upload_takes_a_file_and_nothing_else(client, picture_bytes) -> None:
    file = SimpleUploadedFile("a.tif", picture_bytes)
    answer = client.post("/api/artwork", {"file": file, "name": "x"}, format="multipart")
    assert answer.status_code == 400
    assert "'name'" in answer.json()["title"]


def test_a_change_that_needs_a_size_waits_for_it(client, conditions) -> None:
    buffer = io.BytesIO()
    Image.new("RGB", (20, 20)).save(buffer, "PNG")
    artwork = upload(client, buffer.getvalue(), "a.png").json()
    made = client.post(
        "/api/jobs", {"artwork": artwork["id"], "conditions": [conditions[0].pk]}, format="json"
    )
    address = f"/api/destinations/{made.json()['destinations'][0]['id']}"
    for delivery in ({"resolution": 300}, {"films": {"ruling": 65}}):
        refused = client.patch(address, {"delivery": delivery}, format="json")
        assert refused.status_code == 400
        assert "width of the print" in refused.json()["remedy"]
        given = {"delivery": {"width_mm": 100, **delivery}}
        assert client.patch(address, given, format="json").status_code == 200
        still = client.patch(address, {"delivery": {"width_mm": None}}, format="json")
        assert still.status_code == 400
        both = {"delivery": {"width_mm": None, "resolution": None, "films": None}}
        assert client.patch(address, both, format="json").status_code == 200


@pytest.fixture
def grey_job(client, conditions):
    buffer = io.BytesIO()
    Image.linear_gradient("L").save(buffer, "PNG", dpi=(300, 300))
    artwork = upload(client, buffer.getvalue(), "grey.png").json()
    body = {"artwork": artwork["id"], "conditions": [conditions[0].pk]}
    return client.post("/api/jobs", body, format="json").json()["destinations"][0]["id"]


@pytest.mark.parametrize(
    "change", [{"arrival": "srgb"}, {"arrival": "romm", "before": True}, {"before": True}]
)
def test_grey_artwork_takes_a_table_and_an_arrival_space_and_runs(client, grey_job, change) -> None:
    from plinto_server.apps.deliveries.models import Run
    from working import work_off

    cube = "LUT_3D_SIZE 2\n" + "\n".join(
        f"{r} {g * 0.5} {b}" for b in (0, 1) for g in (0, 1) for r in (0, 1)
    )
    table = io.BytesIO(cube.encode())
    table.name = "warm.cube"
    kept = client.post("/api/tables", {"file": table}, format="multipart").json()
    body = {**change, **({"before": kept["sha256"]} if "before" in change else {})}
    assert client.patch(f"/api/destinations/{grey_job}", body, format="json").status_code == 200
    assert client.get(f"/api/destinations/{grey_job}/readout", {"x": 9, "y": 9}).status_code == 200
    run = client.post(f"/api/destinations/{grey_job}/deliveries").json()
    work_off()
    assert Run.objects.get(pk=run["id"]).state == "done"


def test_channels_beside_the_colours_are_asked_about_before_a_job_starts(
    client, conditions
) -> None:
    buffer = io.BytesIO()
    data = np.zeros((10, 10, 5), np.uint8)
    tifffile.imwrite(buffer, data, photometric="separated", extrasamples=[0], resolution=(300, 300))
    artwork = upload(client, buffer.getvalue(), "white.tif").json()
    assert artwork["facts"]["extra_channels"] == ["channel 5"]
    assert artwork["facts"]["findings"][0]["level"] == "stop"
    body = {"artwork": artwork["id"], "conditions": [c.pk for c in conditions]}
    refused = client.post("/api/jobs", body, format="json")
    assert refused.status_code == 400
    assert "channel 5" in refused.json()["title"]
    assert client.get("/api/jobs").json() == []
    made = client.post("/api/jobs", {**body, "extra_channels": "leave out"}, format="json").json()
    assert {d["recipe"]["extra_channels"] for d in made["destinations"]} == {"leave out"}
    first = made["destinations"][0]["id"]
    back = client.patch(f"/api/destinations/{first}", {"extra_channels": "stop"}, format="json")
    assert back.status_code == 400


def test_a_refused_file_has_the_name_its_owner_gave_it(client) -> None:
    pdf = upload(client, b"%PDF-1.7 ...", "annual report.pdf").json()
    assert pdf["title"] == "annual report.pdf is a PDF; jobs are made of pictures."
    assert "Policies" in pdf["remedy"]
    assert "poem.txt" in upload(client, b"roses are red", "poem.txt").json()["title"]
    document = SimpleUploadedFile("poem.txt", b"roses are red")
    answer = client.post("/api/documents", {"file": document}, format="multipart")
    assert "poem.txt" in answer.json()["title"]


def reclassed(kind: bytes) -> bytes:
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = kind
    return bytes(data)


def test_a_profile_is_judged_for_the_part_it_is_to_play(client, destination, conditions) -> None:
    printer = SimpleUploadedFile("p.icc", reclassed(b"prtr"))
    refused = client.post("/api/profiles?part=display", {"file": printer}, format="multipart")
    assert refused.status_code == 400
    assert "screen" in refused.json()["title"]
    assert all(p["origin"] != "uploaded" for p in client.get("/api/profiles").json())
    kept = client.post(
        "/api/profiles",
        {"file": SimpleUploadedFile("p.icc", reclassed(b"prtr"))},
        format="multipart",
    ).json()
    assert kept["parts"] == ["source", "destination"]
    for reference in (kept["sha256"], conditions[0].profile.sha256):
        shown = client.get(f"/api/destinations/{destination}/view.png", {"display": reference})
        assert shown.status_code == 400
        assert "screen" in json.loads(shown.content)["title"]
    arrival = client.patch(
        f"/api/destinations/{destination}", {"arrival": kept["sha256"]}, format="json"
    )
    assert arrival.status_code == 400
    wrong = client.post("/api/profiles?part=nothing", {"file": printer}, format="multipart")
    assert wrong.status_code == 400


def test_a_policy_names_profiles_for_their_parts(client, conditions) -> None:
    policy = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    link = bytearray(reclassed(b"link"))
    link[20:24] = b"RGB "
    kept = client.post(
        "/api/profiles", {"file": SimpleUploadedFile("l.icc", bytes(link))}, format="multipart"
    ).json()
    for bad in ({"destination": kept["sha256"]}, {"sources": {"RGB": kept["sha256"]}}):
        assert client.post("/api/policies", {**policy, **bad}, format="json").status_code == 400


def test_answers_are_offered_only_where_they_lead_somewhere(client, conditions) -> None:
    buffer = io.BytesIO()
    Image.new("CMYK", (20, 20), (9, 9, 9, 9)).save(buffer, "TIFF", dpi=(300, 300))
    artwork = upload(client, buffer.getvalue(), "inks.tif").json()
    body = {"artwork": artwork["id"], "conditions": [conditions[0].pk]}
    job = client.post("/api/jobs", body, format="json").json()
    assert (job["question"], job["answers"]) == ("missing", [])
    address = f"/api/jobs/{job['id']}/question"
    for answer in ("assign", "convert", "keep"):
        assert client.post(address, {"answer": answer}, format="json").status_code == 409
    profile = conditions[1].profile.sha256
    done = client.post(address, {"answer": "assign", "profile": profile}, format="json").json()
    assert (done["question"], done["destinations"][0]["recipe"]["source"]) == ("", profile)


@pytest.mark.parametrize(
    ("raw", "said"),
    [
        ("[" * 5000, "deeply"),
        ("[" * 900 + "]" * 900, "deeply"),
        ('{"a":' * 900 + "1" + "}" * 900, "deeply"),
        ('{"name": "\\ud800"}', "surrogate"),
        ('{"\\uDFFF": 1}', "surrogate"),
    ],
)
@pytest.mark.parametrize("address", ["policies", "jobs", "printers", "swatch-lists"])
def test_json_that_nothing_could_follow_or_repeat_is_refused(client, address, raw, said) -> None:
    answer = client.generic("POST", f"/api/{address}", raw, content_type="application/json")
    assert answer.status_code == 400
    assert said in answer.json()["title"]


def test_json_as_deep_as_anything_needs_and_whole_characters_are_read() -> None:
    def parsed(raw: str):
        return BoundedJSONParser().parse(io.BytesIO(raw.encode()))

    assert parsed('{"a": "\\ud83d\\ude00"}') == {"a": "\U0001f600"}
    deep = "[" * DEEPEST + "]" * DEEPEST
    assert parsed(deep)[0]
    with pytest.raises(ParseError):
        parsed(f"[{deep}]")


@pytest.mark.parametrize(
    ("changes", "why"),
    [("{", "not JSON"), ("[" * 100_000, "not JSON"), ("[1]", "must be an object"), ('"x"', "must be an object"), ("7", "must be an object"), ("null", "must be an object")],
)  # fmt: skip
def test_changes_of_a_recipe_are_an_object_of_its_parts(client, destination, changes, why) -> None:
    answer = client.get(f"/api/destinations/{destination}/neutral", {"changes": changes})
    assert answer.status_code == 400
    assert why in str(answer.json())
