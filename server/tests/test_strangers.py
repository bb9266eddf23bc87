"""Every route for somebody else's things: nothing is found, nothing is told, nothing is changed."""

from __future__ import annotations

import io
import re
from collections.abc import Iterator

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import URLPattern, URLResolver, get_resolver
from rest_framework.test import APIClient

from plinto_core.demo.atlas import star_atlas
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.builds.models import ProfileBuild
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.policies.models import Policy, PolicyComparison
from plinto_server.apps.policies.services import start_comparison
from plinto_server.apps.printers.models import Medium, PrintJob
from plinto_server.apps.profiles.models import ColourTable, StoredProfile
from plinto_server.apps.proofs.models import ProofReading
from plinto_server.requests import View
from uploading import upload_document

OPEN = {"session", "first-run", "token", "schema", "health"}
"""Routes that are nobody's in particular."""
BODIES = {
    "page": {"page": 0}, "points": [], "look": {}, "question": {"answer": "keep"},
    "priority": {"priority": 1},
}  # fmt: skip


def routes() -> Iterator[tuple[str, type[View]]]:
    """Every address pattern of the API with its view, as a plain text with <names>."""

    def walk(patterns, before: str) -> Iterator[tuple[str, type[View]]]:
        for p in patterns:
            if isinstance(p, URLResolver):
                yield from walk(p.url_patterns, before + str(p.pattern))
            elif isinstance(p, URLPattern) and hasattr(p.callback, "view_class"):
                yield before + str(p.pattern), p.callback.view_class

    for address, view in walk(get_resolver().url_patterns, ""):
        if address.startswith("api/"):
            plain = re.sub(r"\(\?P<(\w+)>[^)]*\)", r"<\1>", address)
            plain = re.sub(r"<\w+:(\w+)>", r"<\1>", plain)
            yield plain.replace("^", "").replace("$", "").replace("\\.", "."), view


@pytest.fixture
def things(client, user, job, conditions, tmp_path, profile_bytes) -> dict[str, int | str]:
    """One of everything, Ada's; by the first word of its address."""
    destination = job["destinations"][0]["id"]
    star_atlas(tmp_path / "a.pdf", pages=1)
    document = upload_document(client, (tmp_path / "a.pdf").read_bytes()).json()
    template = client.get(
        "/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}
    ).json()
    policy = client.post("/api/policies", template, format="json").json()
    run = client.post(
        "/api/policy-runs",
        {"document": document["id"], "policy": template, "dry": True},
        format="json",
    ).json()
    comparison = start_comparison(user, template, {**template, "tac": 200})
    printer = client.post("/api/printers", {"name": "Mine"}, format="json").json()
    medium = client.post(
        f"/api/printers/{printer['id']}/media",
        {"name": "Gloss", "condition": conditions[0].pk, "policy": policy["id"], "settings": {},
         "duty": {"manager": "plinto", "driver": "off", "rip": "absent"}},
        format="json",
    ).json()  # fmt: skip
    printed = client.post(
        "/api/prints", {"medium": medium["id"], "document": document["id"]}, format="json"
    ).json()
    folder = client.post(
        "/api/folders", {"name": "In", "policy": policy["id"]}, format="json"
    ).json()
    row = FolderFile.objects.create(
        folder_id=folder["id"],
        name="x.pdf",
        sha256="0" * 64,
        size=1,
        stamp=1,
        policy={},
        out_name="x.pdf",
    )
    data = bytearray(standard_profile("srgb").data)
    data[24:26] = b"\x07\xd0"
    own = SimpleUploadedFile("own.icc", bytes(data))
    profile = client.post("/api/profiles", {"file": own}, format="multipart").json()
    table = io.BytesIO(b"LUT_1D_SIZE 2\n1 1 1\n0 0 0\n")
    table.name = "t.cube"
    kept = client.post("/api/tables", {"file": table}, format="multipart").json()
    delivery = client.post(f"/api/destinations/{destination}/deliveries").json()
    condition = client.post(
        "/api/conditions",
        {"profile": profile["id"], "condition": {"name": "Ada’s"}},
        format="json",
    ).json()
    build = ProfileBuild.objects.create(
        owner=user, file_name="m.txt", sha256="0" * 64, patches=1, rules={}, build={}
    )
    swatches = client.post("/api/swatch-lists/ready", {"kind": "neutrals"}, format="json").json()
    steps = {"name": "P", "steps": [{"kind": "profile", "ref": profile["sha256"]}]}
    path = client.post("/api/colour-paths", steps, format="json").json()
    aim = client.post("/api/aims", {"name": "A", "rows": "paper 90 0 0"}, format="json").json()
    proof = client.post(
        f"/api/destinations/{destination}/proofs", {"proofer": conditions[0].pk}, format="json"
    ).json()
    reading = ProofReading.objects.create(
        proof_id=proof["id"], way="file", by="x", labs=[], judgement={}
    )
    tolerances = client.post(
        "/api/proof-tolerances", {"tolerances": {"name": "T"}}, format="json"
    ).json()
    return {
        "proofs": proof["id"], "queue/proof": proof["id"], "proof-readings": reading.pk,
        "proof-tolerances": tolerances["id"],
        "aims": aim["id"], "swatch-lists": swatches["id"], "colour-paths": path["id"],
        "builds": build.pk, "queue/build": build.pk, "conditions": condition["id"], "jobs": job["id"], "destinations": destination, "artwork": job["artwork"]["id"],
        "documents": document["id"], "policies": policy["id"], "policy-runs": run["id"],
        "policy-comparisons": comparison.pk, "printers": printer["id"], "media": medium["id"],
        "prints": printed["id"], "folders": folder["id"], "profiles": profile["id"],
        "house-rules": client.post("/api/house-rules", {"name": "H"}, format="json").json()["id"],
        "ink-rules": client.post("/api/ink-rules", {"name": "I"}, format="json").json()["id"],
        "deliveries": delivery["id"], "profile": profile["sha256"], "table": kept["sha256"],
        "queue/delivery": delivery["id"], "queue/policy": run["id"], "queue/print": printed["id"],
        "queue/comparison": comparison.pk, "queue/folder": row.pk, "tables": kept["id"],
    }  # fmt: skip


@pytest.fixture
def stranger(django_user_model) -> APIClient:
    client = APIClient()
    client.force_authenticate(django_user_model.objects.create_user("eve"))
    return client


FILLED = {"tag": "desc", "profile": "1", "step": "undo", "kind": "csv", "form": "json", "part": "report", "act": "hold", "page": "1", "name": "sheet-1.png"}  # fmt: skip


def addresses(things) -> Iterator[tuple[str, type[View]]]:
    """Every address that names one of Ada's things."""
    for plain, view in routes():
        first = plain.removeprefix("api/").split("/")[0]
        if "<pk>" not in plain or first in OPEN:
            continue
        kinds = [k for k in things if str(k).startswith("queue/")] if first == "queue" else [first]
        for kind in kinds:
            place = plain.replace("<pk>", str(things[kind]))
            if first == "queue":
                place = place.replace("<kind>", kind.split("/")[1])
            for name, value in FILLED.items():
                place = place.replace(f"<{name}>", value)
            assert "<" not in place, f"nothing to fill {plain} with"
            yield f"/{place}", view


def test_every_route_answers_a_stranger_with_nothing_found(things, stranger) -> None:
    asked = 0
    for address, view in addresses(things):
        for method in ("get", "post", "put", "patch", "delete"):
            if not hasattr(view, method):
                continue
            body = BODIES.get(address.rsplit("/", 1)[1], {})
            send = getattr(stranger, method)
            if address.endswith("/files"):
                answer = send(
                    address, {"file": SimpleUploadedFile("a.pdf", b"%PDF-")}, format="multipart"
                )
            elif method == "get" or method == "delete":
                answer = send(address)
            else:
                answer = send(address, body, format="json")
            assert answer.status_code == 404, (method, address, answer.content[:200])
            assert set(answer.json()) >= {"title", "code"}
            asked += 1
    assert asked > 90


def test_lists_show_a_stranger_nothing(things, client, stranger, conditions) -> None:
    common = {
        "gamuts",
        "gamuts/where",
        "methods",
        "policies/checks",
        "questions",
        "proof-tolerances/starting",
        "spot-builds",
        "spot-builds/table",
        *(f"colour-paths/{w}" for w in ("followed", "table", "picture")),
    }
    for plain, view in routes():
        name = plain.removeprefix("api/")
        if "<" in name or name in OPEN or not hasattr(view, "get"):
            continue
        mine, theirs = client.get(f"/api/{name}").json(), stranger.get(f"/api/{name}").json()
        if name in common:
            assert theirs == mine
        elif name == "conditions":
            assert things["conditions"] in {c["id"] for c in mine}
            assert {c["id"] for c in theirs} == {c.pk for c in conditions}
            # What others do with the conditions that are everybody's is not counted.
            assert all(c["jobs"] == c["media"] == 0 for c in theirs)
        elif name == "profiles":
            assert things["profile"] in {p["sha256"] for p in mine}
            assert {p["origin"] for p in theirs} == {"standard", "shipped"}
        else:
            assert theirs == [], name
            assert mine != [] or name in ("media/judge", "prints"), name


def test_nothing_of_a_stranger_can_be_named_in_ones_own(
    things, stranger, conditions, django_user_model
) -> None:
    template = stranger.get(
        "/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}
    ).json()
    duty = {"manager": "plinto", "driver": "off", "rip": "absent"}
    printer = stranger.post("/api/printers", {"name": "Own"}, format="json").json()
    medium = {
        "name": "G",
        "condition": conditions[0].pk,
        "policy": None,
        "duty": duty,
        "settings": {},
    }
    own = stranger.post(f"/api/printers/{printer['id']}/media", medium, format="json").json()
    for address, body in (
        ("jobs", {"artwork": things["artwork"], "conditions": [conditions[0].pk]}),
        ("conditions", {"profile": things["profiles"], "condition": {"name": "x"}}),
        (f"printers/{printer['id']}/media", {**medium, "condition": things["conditions"]}),
        ("policy-runs", {"document": things["documents"], "policy": template, "dry": True}),
        ("policies", {**template, "destination": things["profile"]}),
        ("policies", {**template, "sources": {"RGB": things["profile"]}}),
        ("house-rules", {"name": "x", "rgb": things["profile"]}),
        (f"printers/{printer['id']}/media", {**medium, "policy": things["policies"]}),
        ("folders", {"name": "f", "policy": things["policies"]}),
        ("folders", {"name": "f", "medium": things["media"]}),
        ("prints", {"medium": things["media"], "document": things["documents"]}),
        ("prints", {"medium": own["id"], "document": things["documents"]}),
        ("prints", {"medium": own["id"], "delivery": things["deliveries"]}),
        ("prints", {"medium": own["id"], "result": things["queue/policy"]}),
        ("swatch-lists/dominant", {"job": things["jobs"]}),
        (
            "swatch-lists/sampled",
            {
                "job": things["jobs"],
                "x": 0,
                "y": 0,
                "width": 9,
                "height": 9,
                "columns": 1,
                "rows": 1,
            },
        ),
        ("swatch-lists/ready", {"kind": "extremes", "profile": things["profile"]}),
        (
            "swatch-lists/after-a-step",
            {"list": things["swatch-lists"], "step": 0, "path": {"steps": [{"kind": "lab"}]}},
        ),
        *(
            ("colour-paths", {"name": "x", "steps": [{"kind": kind, "ref": str(ref)}]})
            for kind, ref in (
                ("profile", things["profile"]),
                ("table", things["table"]),
                ("job", things["destinations"]),
                ("condition", things["conditions"]),
            )
        ),
    ):
        answer = stranger.post(f"/api/{address}", body, format="json")
        assert answer.status_code == 400, (address, body, answer.content)
    owner = Policy.objects.exclude(pk=things["policies"])
    assert not owner.exists()
    assert Medium.objects.count() == 2
    assert WatchedFolder.objects.count() == 1
    assert (PrintJob.objects.count(), PolicyComparison.objects.count()) == (1, 1)


def test_profiles_and_tables_of_others_cannot_be_used_in_a_recipe(
    things, stranger, conditions, picture_bytes
) -> None:
    from uploading import upload

    artwork = upload(stranger, picture_bytes).json()
    body = {"artwork": artwork["id"], "conditions": [conditions[0].pk]}
    mine = stranger.post("/api/jobs", body, format="json").json()["destinations"][0]["id"]
    for change in (
        {"source": things["profile"]},
        {"arrival": things["profile"]},
        {"before": things["table"]},
    ):
        answer = stranger.patch(f"/api/destinations/{mine}", change, format="json")
        assert answer.status_code == 400
        assert "not known here" in answer.json()["title"]
    shown = stranger.get(f"/api/destinations/{mine}/view.png", {"display": things["profile"]})
    assert shown.status_code == 400
    look = stranger.put(
        f"/api/jobs/{stranger.get('/api/jobs').json()[0]['id']}/look",
        {"display": things["profile"]},
        format="json",
    )
    assert look.status_code == 400


def test_the_same_profile_belongs_to_everybody_who_brought_it(things, stranger) -> None:
    stored = StoredProfile.objects.get(sha256=things["profile"])
    from plinto_server import store

    again = SimpleUploadedFile("b.icc", store.path_of(stored.sha256).read_bytes())
    made = stranger.post("/api/profiles", {"file": again}, format="multipart").json()
    assert made["id"] == stored.pk
    answer = stranger.get(f"/api/profiles/{stored.pk}/file")
    assert answer.status_code == 200
    assert b"".join(answer.streaming_content)
    for close in answer._resource_closers:
        close()
    assert ColourTable.objects.count() == 1
