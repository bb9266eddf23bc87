"""Policies: templates, versions, documents, dry and real runs through the worker's code."""

from __future__ import annotations

import io

import numpy as np
import pikepdf
import pytest
from PIL import Image

from plinto_core.demo.atlas import star_atlas
from plinto_server.apps.policies import services
from plinto_server.apps.policies.models import PolicyRun
from plinto_server.apps.work.running import work
from uploading import upload_document
from working import Later


@pytest.fixture
def atlas(client, tmp_path) -> dict:
    star_atlas(tmp_path / "atlas.pdf")
    return upload_document(client, (tmp_path / "atlas.pdf").read_bytes()).json()


@pytest.fixture
def policy(client, conditions) -> dict:
    query = {"condition": conditions[0].pk}
    made = client.get("/api/policies/templates/strict-press", query).json()
    return client.post("/api/policies", made, format="json").json()


def run(client, document: dict, policy: dict, *, dry: bool) -> dict:
    body = {"document": document["id"], "policy": policy, "dry": dry}
    started = client.post("/api/policy-runs", body, format="json")
    assert started.status_code == 201, started.content
    work("policy", started.json()["id"])
    return client.get(f"/api/policy-runs/{started.json()['id']}").json()


def test_templates_are_for_a_condition(client, conditions, policy) -> None:
    assert policy["name"] == "Strict press, Sheetfed coated"
    assert policy["policy"]["destination"] == conditions[0].profile.sha256
    assert policy["policy"]["tac"] == 320
    answer = client.get("/api/policies/templates/nothing", {"condition": conditions[0].pk})
    assert answer.status_code == 400


def test_every_change_is_a_version(client, policy) -> None:
    changed = {**policy["policy"], "tac": 300}
    first = client.patch(f"/api/policies/{policy['id']}", changed, format="json").json()
    again = client.patch(f"/api/policies/{policy['id']}", changed, format="json").json()
    assert (policy["version"], first["version"], again["version"]) == (1, 2, 2)
    bad = {**changed, "destination": "f" * 64}
    assert client.patch(f"/api/policies/{policy['id']}", bad, format="json").status_code == 400
    assert client.delete(f"/api/policies/{policy['id']}").status_code == 204


def compared(client, before: dict, after: dict) -> dict:
    body = {"before": before, "after": after}
    started = client.post("/api/policy-comparisons", body, format="json")
    assert started.status_code == 201, started.content
    assert started.json()["report"] is None
    work("comparison", started.json()["id"])
    return client.get(f"/api/policy-comparisons/{started.json()['id']}").json()


def test_two_policies_are_tried_on_the_documents_that_are_there(client, atlas, policy) -> None:
    looser = [
        {**rule, "action": "leave"} if rule["action"] == "stop" else rule
        for rule in policy["policy"]["rules"]
    ]
    done = compared(client, policy["policy"], {**policy["policy"], "rules": looser})
    assert (done["state"], done["progress"]) == ("done", 1.0)
    (tried,) = done["report"]["documents"]
    assert (tried["document"], tried["file_name"]) == (atlas["id"], "atlas.pdf")
    assert tried["stops"] == [2, 0]
    assert 0 < tried["changed"] < tried["objects"]
    assert tried["problem"] == ""
    assert all(example["before"] != example["after"] for example in tried["examples"])
    (same,) = compared(client, policy["policy"], policy["policy"])["report"]["documents"]
    assert (same["changed"], same["examples"]) == (0, [])


def test_policies_are_compared_only_where_there_is_a_document(client, policy) -> None:
    body = {"before": policy["policy"], "after": policy["policy"]}
    answer = client.post("/api/policy-comparisons", body, format="json")
    assert (answer.status_code, answer.json()["title"]) == (
        409, "There are no documents to try the policies on.",
    )  # fmt: skip


def test_a_dry_run_lists_everything_and_writes_nothing(client, atlas, policy) -> None:
    done = run(client, atlas, policy["policy"], dry=True)
    assert done["state"] == "done"
    report = done["report"]
    assert report["stops"] == 2
    assert sum(f["count"] for f in report["flow"]) > 100
    assert {o["kind"] for o in report["objects"]} >= {"image", "text", "vector", "shading"}
    assert report["not_handled"] == []
    assert client.get(f"/api/policy-runs/{done['id']}/file").status_code == 409
    assert ["Spot colours", "Ternholm Red"] in done["summary"]
    data = client.get(f"/api/policy-runs/{done['id']}/report.json").json()
    assert data["stops"] == 2
    pages = client.get(f"/api/policy-runs/{done['id']}/report.pdf").content
    assert pages.startswith(b"%PDF")


def test_a_stop_fails_the_run_and_names_page_and_object(client, atlas, policy) -> None:
    done = run(client, atlas, policy["policy"], dry=False)
    assert done["state"] == "failed"
    assert "Page 4" in done["error"]
    assert "Ternholm Red" in done["error"]


def test_a_real_run_gives_a_document(client, atlas, policy) -> None:
    rules = [{"space": "spot", "action": "convert"}, *policy["policy"]["rules"][1:]]
    done = run(client, atlas, {**policy["policy"], "rules": rules}, dry=False)
    assert done["state"] == "done"
    assert done["file_name"] == "atlas_strict-press-sheetfed-coated.pdf"
    data = b"".join(client.get(f"/api/policy-runs/{done['id']}/file").streaming_content)
    with pikepdf.open(io.BytesIO(data)) as pdf:
        assert len(pdf.pages) == 6
        assert "/OutputIntents" in pdf.Root
    assert done["report"]["size_after"] == len(data)


def test_pages_are_shown(client, atlas) -> None:
    answer = client.get(f"/api/documents/{atlas['id']}/pages/2.png", {"edge": 400})
    assert max(Image.open(io.BytesIO(answer.content)).size) == 400
    assert answer["X-Page-Size"] == "595.00 842.00"
    assert client.get(f"/api/documents/{atlas['id']}/pages/99.png").status_code == 400


def test_a_page_as_meant_and_as_printed(client, atlas, policy) -> None:
    done = run(client, atlas, policy["policy"], dry=True)
    shown = []
    for side in ("meant", "printed"):
        answer = client.get(
            f"/api/policy-runs/{done['id']}/pages/3.png", {"side": side, "edge": 300}
        )
        assert answer.status_code == 200
        shown.append(np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB")).astype(int))
    assert np.ptp(shown[1], axis=2).max() < np.ptp(shown[0], axis=2).max()
    stopped = client.get(f"/api/policy-runs/{done['id']}/pages/4.png", {"side": "printed"})
    assert stopped.status_code == 400
    assert "Ternholm Red" in stopped.json()["title"]


@pytest.mark.parametrize("data", [b"", b"%PDF-1.4 broken", b"\x89PNG"])
def test_what_is_no_document_is_refused(client, data) -> None:
    assert upload_document(client, data).status_code == 400
    assert client.get("/api/documents").json() == []


def test_a_lost_run_waits_again(client, atlas, policy, monkeypatch) -> None:
    body = {"document": atlas["id"], "policy": policy["policy"], "dry": True}
    pk = client.post("/api/policy-runs", body, format="json").json()["id"]
    PolicyRun.objects.filter(pk=pk).update(state="running", attempts=1)
    assert Later(monkeypatch).sweep() == 1
    assert client.get(f"/api/policy-runs/{pk}").json()["state"] == "waiting"
    assert client.post(f"/api/policy-runs/{pk}/cancel").json()["state"] == "cancelled"
    assert client.post(f"/api/policy-runs/{pk}/cancel").status_code == 409


def test_nobody_reaches_anothers(client, atlas, policy, django_user_model) -> None:
    from rest_framework.test import APIClient

    other = APIClient()
    other.force_authenticate(django_user_model.objects.create_user("bo"))
    assert other.get("/api/documents").json() == []
    body = {"document": atlas["id"], "policy": policy["policy"], "dry": True}
    assert other.post("/api/policy-runs", body, format="json").status_code == 400
    assert other.get(f"/api/documents/{atlas['id']}/pages/1.png").status_code == 404
    assert other.delete(f"/api/policies/{policy['id']}").status_code == 404


def test_checks_are_offered_found_and_noted_on_the_pages(client, atlas, policy) -> None:
    offered = client.get("/api/policies/checks").json()
    assert next(c for c in offered if c["what"] == "hairlines")["start"] == 0.25
    checks = [{"what": "fonts", "severity": "report"}, {"what": "trim", "severity": "mend"}]
    done = run(client, atlas, {**policy["policy"], "checks": checks}, dry=True)
    assert [f["check"] for f in done["report"]["findings"]] == ["fonts", "trim"]
    answer = client.get(f"/api/policy-runs/{done['id']}/notes.pdf")
    assert 'filename="atlas notes.pdf"' in answer["Content-Disposition"]
    with pikepdf.open(io.BytesIO(answer.content)) as pdf:
        first = {str(a.T) for a in pdf.pages[0].obj["/Annots"]}
    assert first >= {"Fonts not embedded", "No trim box"}
    refused = {**policy["policy"], "checks": [{"what": "fonts", "severity": "mend"}]}
    answer = client.post("/api/policies", refused, format="json")
    assert (answer.status_code, "cannot be mended" in answer.json()["title"]) == (400, True)


def test_pictures_have_no_notes(client, policy) -> None:
    data = io.BytesIO()
    Image.new("RGB", (20, 20), "teal").save(data, "PNG")
    picture = upload_document(client, data.getvalue()).json()
    done = run(client, picture, policy["policy"], dry=True)
    assert done["state"] == "done"
    assert client.get(f"/api/policy-runs/{done['id']}/notes.pdf").status_code == 409


def test_a_picture_has_one_page(client, policy) -> None:
    data = io.BytesIO()
    Image.new("RGB", (20, 20), "teal").save(data, "PNG")
    picture = upload_document(client, data.getvalue()).json()
    done = run(client, picture, policy["policy"], dry=True)
    for address in (
        f"/api/documents/{picture['id']}/pages", f"/api/policy-runs/{done['id']}/pages",
    ):  # fmt: skip
        answers = [client.get(f"{address}/{page}.png").status_code for page in (1, 2)]
        assert answers == [200, 400], address


def test_a_pictures_dry_run_weighs_its_result_in_the_scratch_folder(
    client, policy, monkeypatch
) -> None:
    """Where what a killed worker leaves behind is swept up; a real run comes out as large as was said."""
    data = io.BytesIO()
    Image.new("RGB", (20, 20), "teal").save(data, "PNG")
    picture = upload_document(client, data.getvalue()).json()
    folders: list[str] = []
    tried = services.dry_run_on_picture

    def watched(*given, folder, **more):
        folders.append(folder.parent.name)
        return tried(*given, folder=folder, **more)

    monkeypatch.setattr(services, "dry_run_on_picture", watched)
    dry = run(client, picture, policy["policy"], dry=True)
    assert folders == ["scratch"]
    assert dry["report"]["colour"]["of"] == "pixels"
    real = run(client, picture, policy["policy"], dry=False)
    assert dry["report"]["size_forecast"] == real["report"]["size_after"]
    assert dry["report"]["size_after"] is None
