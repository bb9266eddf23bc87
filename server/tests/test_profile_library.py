"""The profile library: received in any wrapping, examined, changed in copies, taken out and back."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pikepdf
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.report import examine
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import standard_profile


def dated(data: bytes, year: int) -> bytes:
    changed = bytearray(data)
    changed[24:26] = year.to_bytes(2, "big")
    return bytes(changed)


def receive(client, data: bytes, name: str):
    file = SimpleUploadedFile(name, data)
    return client.post("/api/profiles/receive", {"file": file}, format="multipart")


@pytest.fixture
def press(client, profile_bytes, db) -> dict:
    return receive(client, dated(profile_bytes["newsprint"], 2018), "press.icc").json()[0]


def test_facts_are_listed(client, press) -> None:
    (row,) = client.get("/api/profiles").json()
    assert row == press
    assert row["facts"]["created"].startswith("2018-")
    assert row["facts"]["version"] == "2.4"
    assert 80 < row["facts"]["white"][0] < 90
    assert row["parts"] == ["source", "destination"]


def test_profiles_come_out_of_archives_pictures_and_documents(client, profile_bytes, db) -> None:
    first, second = (dated(profile_bytes["newsprint"], y) for y in (2011, 2012))
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w", zipfile.ZIP_DEFLATED) as bundle:
        bundle.writestr("a/one.icc", first)
        bundle.writestr("two.icm", second)
        bundle.writestr("again.icc", first)
        bundle.writestr("read me.txt", "nothing")
    answer = receive(client, archive.getvalue(), "profiles.zip")
    assert answer.status_code == 201
    found = answer.json()
    assert {p["sha256"] for p in found} == {Profile(d).digest for d in (first, second)}
    picture = io.BytesIO()
    embedded = dated(standard_profile("p3").data, 2013)
    Image.fromarray(np.zeros((4, 4, 3), np.uint8)).save(picture, "PNG", icc_profile=embedded)
    (from_picture,) = receive(client, picture.getvalue(), "p.png").json()
    assert from_picture["sha256"] == Profile(embedded).digest
    document = io.BytesIO()
    inside = dated(profile_bytes["newsprint"], 2014)
    with pikepdf.new() as pdf:
        pdf.add_blank_page()
        stream = pdf.make_indirect(pikepdf.Stream(pdf, inside, N=4))
        pdf.Root.OutputIntents = [pikepdf.Dictionary(DestOutputProfile=stream)]
        pdf.save(document)
    (from_document,) = receive(client, document.getvalue(), "d.pdf").json()
    assert from_document["sha256"] == Profile(inside).digest


@pytest.mark.parametrize("name", ["x.icc", "x.zip", "x.pdf", "x.tif"])
@pytest.mark.parametrize(
    "data", [b"", b"PK\x03\x04" + b"\x00" * 40, b"%PDF-1.7\nnothing", b"II*\x00" + b"\xff" * 30]
)
def test_other_files_are_refused_in_words(client, db, name, data) -> None:
    answer = receive(client, data, name)
    assert answer.status_code == 400
    assert answer.json()["title"]
    assert client.get("/api/profiles").json() == []


def test_a_bomb_is_not_unpacked(client, db) -> None:
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w", zipfile.ZIP_DEFLATED) as bundle:
        for i in range(10):
            bundle.writestr(f"{i}.icc", bytes(36) + b"acsp" + bytes(60 << 20))
    answer = receive(client, archive.getvalue(), "bomb.zip")
    assert answer.status_code == 400
    assert "512 MB" in answer.json()["title"]


def test_the_examination_is_the_cores(client, press, profile_bytes) -> None:
    profile = Profile(dated(profile_bytes["newsprint"], 2018))
    found = client.get(f"/api/profiles/{press['id']}/examination", {"tac": 220}).json()
    assert found == examine(profile, tac=220).model_dump(mode="json")
    assert [f["code"] for f in found["findings"]].count("total") == 3
    plain = client.get(f"/api/profiles/{press['id']}/examination").json()
    assert [f["code"] for f in plain["findings"]].count("total") == 0
    aimed = client.get(f"/api/profiles/{press['id']}/examination", {"aim": press["id"]}).json()
    assert set(aimed["aim"]["solids"].values()) == {0.0}


@pytest.mark.parametrize("query", [{"tac": "x"}, {"tac": 20}, {"aim": 999}, {"tca": 300}])
def test_unknown_questions_are_refused(client, press, query) -> None:
    answer = client.get(f"/api/profiles/{press['id']}/examination", query)
    assert answer.status_code == 400


def test_neutrals_follow_intent_and_bpc(client, press, profile_bytes) -> None:
    profile = Profile(dated(profile_bytes["newsprint"], 2018))
    address = f"/api/profiles/{press['id']}/neutrals"
    seen = []
    for intent, bpc in (
        ("perceptual", True),
        ("relative", True),
        ("relative", False),
        ("absolute", False),
    ):
        found = client.get(address, {"intent": intent, "bpc": bpc}).json()
        path = neutrals(profile, intent, bpc=bpc)
        assert np.allclose(found["inks"]["K"], path.inks[:, 3] * 100, atol=0.006)
        assert np.allclose(found["printed"], path.printed, atol=0.006)
        assert np.allclose(found["total"], path.total * 100, atol=0.006)
        seen.append(found["printed"])
    assert all(a != b for i, a in enumerate(seen) for b in seen[:i])
    assert client.get(address, {"intent": "best"}).status_code == 400


def test_what_is_inside(client, press) -> None:
    tags = {t["name"]: t for t in client.get(f"/api/profiles/{press['id']}/tags").json()}
    assert tags["B2A1"]["meaning"] == "Colour to device, relative colorimetric"
    assert tags["B2A1"]["required"]
    assert tags["B2A1"]["used"]
    assert not tags["cprt"]["used"]
    address = f"/api/profiles/{press['id']}/tags"
    assert client.get(f"{address}/desc").json()["text"] == press["description"]
    table = client.get(f"{address}/B2A1").json()
    assert table["kind"] == "table"
    assert len(table["grid"]) == 3
    assert client.get(f"{address}/wtpt").json()["kind"] == "numbers"
    assert client.get(f"{address}/targ").json()["kind"] == "measurements"
    assert client.get(f"{address}/none").status_code == 404


def test_a_copy_is_renamed_and_the_original_stays(client, press) -> None:
    address = f"/api/profiles/{press['id']}/copy"
    done = client.post(address, {"description": "Tower two"}, format="json")
    assert done.status_code == 201
    assert done.json()["profile"]["description"] == "Tower two"
    assert done.json()["profile"]["origin"] == "edited"
    assert client.get(f"/api/profiles/{press['id']}").json() == press
    assert (
        client.post(address, {"description": press["description"]}, format="json").status_code
        == 409
    )
    assert client.post(address, {"descriptio": "x"}, format="json").status_code == 400
    assert client.post(address, {"description": "a\nb" * 90}, format="json").status_code == 400


def test_tags_of_another_profile_and_what_the_halves_give_back(
    client, press, profile_bytes
) -> None:
    other = receive(client, dated(profile_bytes["sheetfed-coated"], 2018), "o.icc").json()[0]
    srgb = receive(client, standard_profile("srgb").data, "s.icc").json()[0]
    address = f"/api/profiles/{press['id']}/copy"
    white = client.post(address, {"tags": {"A2B1": other["id"]}}, format="json")
    assert white.status_code == 400
    assert "whites" in white.json()["title"]
    for source in (srgb["id"],):
        wrong = client.post(address, {"tags": {"A2B1": source}}, format="json")
        assert wrong.status_code == 400
    assert client.post(address, {"tags": {"A2B1": 9999}}, format="json").status_code == 404
    twin = receive(client, dated(profile_bytes["newsprint"], 2017), "t.icc").json()[0]
    done = client.post(
        address, {"tags": {"B2A1": twin["id"], "cprt": twin["id"]}}, format="json"
    ).json()
    assert done["round_trip"]["mean"] < 1
    assert len(done["done"]) == 2


def test_safe_repair_leaves_every_table(client, profile_bytes, db) -> None:
    data = bytearray(dated(profile_bytes["newsprint"], 2018))
    data[64:68] = (7).to_bytes(4, "big")
    broken = receive(client, bytes(data) + b"\0\0\0\0", "b.icc").json()[0]
    done = client.post(f"/api/profiles/{broken['id']}/copy", {"repair": True}, format="json").json()
    assert len(done["done"]) == 2
    mended = Profile(client.get(f"/api/profiles/{done['profile']['id']}/file").getvalue())
    for tag in Profile(bytes(data)).directory:
        assert mended.raw(tag) == Profile(bytes(data)).raw(tag)
    again = client.post(
        f"/api/profiles/{done['profile']['id']}/copy", {"repair": True}, format="json"
    )
    assert again.status_code == 409


def test_taking_out_is_refused_where_leaned_on_and_can_be_undone(
    client, press, conditions, django_user_model
) -> None:
    body = {"profile": press["id"], "condition": {"name": "Leans"}}
    condition = client.post("/api/conditions", body, format="json").json()
    address = f"/api/profiles/{press['id']}"
    assert [u["name"] for u in client.get(f"{address}/uses").json()] == ["Leans"]
    refused = client.delete(address)
    assert refused.status_code == 409
    assert "Leans" in refused.json()["title"]
    client.delete(f"/api/conditions/{condition['id']}")
    assert client.delete(address).status_code == 204
    assert client.get(address).status_code == 404
    other = django_user_model.objects.create_user("ben")
    client.force_authenticate(other)
    assert client.post(f"{address}/restore").status_code == 404
    client.force_authenticate(django_user_model.objects.get(username="ada"))
    assert client.post(f"{address}/restore").json()["id"] == press["id"]
    shipped = conditions[0].profile_id
    assert client.delete(f"/api/profiles/{shipped}").status_code == 409


def test_what_makes_no_greys_says_so(client, db, profile_bytes) -> None:
    """Bytes 12 to 16 of the header name the class: a link has one way only."""
    data = bytearray(profile_bytes["newsprint"])
    data[12:16] = b"link"
    (stored,) = receive(client, bytes(data), "link.icc").json()
    answer = client.get(f"/api/profiles/{stored['id']}/neutrals")
    assert answer.status_code == 400
    assert "makes no greys" in str(answer.json())
    assert "device link" in str(answer.json())
    examined = client.get(f"/api/profiles/{stored['id']}/examination").json()
    assert (examined["reach"], examined["solids"]) == ([], {})
