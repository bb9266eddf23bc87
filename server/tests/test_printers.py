"""Printers: media, the guard, one print at a time, and what the simulated RIP reports."""

from __future__ import annotations

import io
import zipfile

import pikepdf
import pytest

from plinto_core.demo.atlas import star_atlas
from plinto_server import store
from plinto_server.apps.policies.models import PolicyRun
from plinto_server.apps.printers import printing
from plinto_server.apps.printers.models import PrintJob
from plinto_server.apps.work.running import sweep
from uploading import upload_document
from working import work_off

DUTY = {"manager": "plinto", "driver": "off", "rip": "absent"}


@pytest.fixture
def atlas(client, tmp_path) -> dict:
    star_atlas(tmp_path / "atlas.pdf", pages=2)
    return upload_document(client, (tmp_path / "atlas.pdf").read_bytes()).json()


@pytest.fixture
def policy(client, conditions) -> dict:
    made = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    return client.post("/api/policies", made, format="json").json()


@pytest.fixture
def printer(client) -> dict:
    return client.post("/api/printers", {"name": "North press"}, format="json").json()


@pytest.fixture
def medium(client, printer, policy, conditions):
    def make(**changes) -> dict:
        body = {
            "name": "Gloss", "condition": conditions[0].pk, "policy": policy["id"], "duty": DUTY,
            "settings": {"roll_width": 1000, "roll_length": 50, "roll_price": 100}, **changes,
        }  # fmt: skip
        answer = client.post(f"/api/printers/{printer['id']}/media", body, format="json")
        assert answer.status_code == 201, answer.content
        return answer.json()

    return make


def send(client, medium: dict, document: dict, **options):
    body = {"medium": medium["id"], "document": document["id"], **options}
    return client.post("/api/prints", body, format="json")


def test_a_medium_knows_its_price_and_what_the_guard_says(client, medium) -> None:
    made = medium()
    assert made["price"] == 2
    assert made["judgements"][0]["level"] == "fine"
    shown = client.get("/api/printers").json()
    assert shown[0]["media"][0]["condition_name"] == "Sheetfed coated"


def test_the_guard_refuses_what_would_be_managed_twice(client, medium, atlas) -> None:
    twice = medium(duty={**DUTY, "rip": "on"})
    assert twice["judgements"][0]["level"] == "refuse"
    answer = send(client, twice, atlas)
    assert answer.status_code == 409
    assert "managed twice: by Plinto and by the RIP" in answer.json()["title"]
    assert "Switch colour management off in the RIP" in answer.json()["title"]
    assert not PrintJob.objects.exists()


def test_the_guard_refuses_what_nobody_would_manage(client, medium, atlas) -> None:
    answer = send(client, medium(policy=None), atlas)
    assert answer.status_code == 409
    assert "never be managed" in answer.json()["title"]


def test_the_guard_can_be_asked_before_anything_is_kept(client, conditions) -> None:
    body = {"name": "x", "condition": conditions[1].pk, "policy": None, "settings": {}}
    answer = client.post("/api/media/judge", {**body, "duty": {**DUTY, "manager": "rip", "rip": "on"}}, format="json")  # fmt: skip
    assert answer.json()[0]["level"] == "fine"
    bad = client.post("/api/media/judge", {**body, "duty": {"manager": "somebody"}}, format="json")
    assert bad.status_code == 400
    assert "manager" in bad.json()["title"]


def test_a_document_is_brought_to_inks_and_printed(client, medium, atlas) -> None:
    pk = send(client, medium(), atlas, copies=3).json()["id"]
    work_off()
    report = client.get(f"/api/queue/print/{pk}/report.json").json()
    assert [s["page"] for s in report["sheets"]] == [1, 2]
    assert report["policy"]["flow"]
    assert report["press_against_profile"]["mean"] < 2.5
    assert report["roll_metres"] == pytest.approx(2 * 3 * 0.2099, rel=0.01)
    bundle = b"".join(client.get(f"/api/queue/print/{pk}/file").streaming_content)
    names = zipfile.ZipFile(io.BytesIO(bundle)).namelist()
    assert {"sheet-1.png", "plates/1-4-Black.png"} <= set(names)
    sheet = client.get(f"/api/prints/{pk}/sheet-2.png")
    assert sheet.content[1:4] == b"PNG"
    assert client.get(f"/api/prints/{pk}/../../secret-key").status_code in (404, 409)


def test_a_delivery_is_printed_as_it_is(client, medium, job, atlas) -> None:
    path = f"/api/destinations/{job['destinations'][0]['id']}/deliveries"
    run = client.post(path).json()["id"]
    assert client.post("/api/prints", {"medium": medium()["id"], "delivery": run}, format="json").status_code == 409  # fmt: skip
    work_off()
    for neither in ({}, {"delivery": run, "document": atlas["id"]}):
        wrong = client.post("/api/prints", {"medium": medium()["id"], **neither}, format="json")
        assert (wrong.status_code, "Name a document, a delivery or a result" in str(wrong.json())) == (400, True)  # fmt: skip
    sent = client.post("/api/prints", {"medium": medium()["id"], "delivery": run}, format="json")
    assert sent.status_code == 201, sent.content
    work_off()
    assert PrintJob.objects.get().report["sheets"][0]["size_mm"] == pytest.approx([10.2, 7.6], abs=0.1)  # fmt: skip


def test_a_delivery_for_another_condition_is_refused(client, medium, job) -> None:
    path = f"/api/destinations/{job['destinations'][1]['id']}/deliveries"
    run = client.post(path).json()["id"]
    work_off()
    sent = client.post("/api/prints", {"medium": medium()["id"], "delivery": run}, format="json")
    assert sent.status_code == 409
    assert "another printing condition" in sent.json()["title"]


def test_a_printer_prints_one_job_at_a_time_urgent_ones_first(client, medium, atlas) -> None:
    made = medium()
    first, second, third = (send(client, made, atlas).json()["id"] for _ in range(3))
    client.put(f"/api/queue/print/{third}/priority", {"priority": 1}, format="json")
    PrintJob.objects.filter(pk=first).update(state="running")
    assert [pk for _, pk in work_off()] == [first]
    assert PrintJob.objects.filter(state="waiting").count() == 2
    PrintJob.objects.filter(pk=first).update(state="done")
    sweep()
    assert [pk for _, pk in work_off()] == [third, second]


def test_a_paused_printer_takes_nothing(client, printer, medium, atlas) -> None:
    body = {"name": "North press", "paused": True}
    client.patch(f"/api/printers/{printer['id']}", body, format="json")
    send(client, medium(), atlas)
    assert work_off() == []
    sweep()
    assert work_off() == []
    assert client.delete(f"/api/printers/{printer['id']}").status_code == 409
    client.patch(f"/api/printers/{printer['id']}", {**body, "paused": False}, format="json")
    assert len(work_off()) == 1
    assert client.delete(f"/api/printers/{printer['id']}").status_code == 204


def test_a_stop_of_the_policy_ends_the_print_with_page_and_object(client, conditions, medium, atlas) -> None:  # fmt: skip
    strict = client.get(
        "/api/policies/templates/strict-press", {"condition": conditions[0].pk}
    ).json()
    strict = {**strict, "rules": [{"space": "RGB", "action": "stop"}, *strict["rules"]]}
    kept = client.post("/api/policies", strict, format="json").json()
    pk = send(client, medium(policy=kept["id"]), atlas).json()["id"]
    work_off()
    row = PrintJob.objects.get(pk=pk)
    assert row.state == "failed"
    assert row.error.startswith("Page 1: rule 1 of the policy stops a")


@pytest.fixture
def meant(client, conditions, tmp_path) -> dict:
    """A document whose output intent is the second press."""
    other = store.path_of(conditions[1].profile.sha256).read_bytes()
    star_atlas(tmp_path / "plain.pdf", pages=1)
    with pikepdf.open(tmp_path / "plain.pdf") as pdf:
        profile = pdf.make_indirect(pikepdf.Stream(pdf, other, N=4))
        intent = pikepdf.Dictionary(S=pikepdf.Name.GTS_PDFX, DestOutputProfile=profile)
        pdf.Root["/OutputIntents"] = pikepdf.Array([intent])
        pdf.save(tmp_path / "meant.pdf")
    return upload_document(client, (tmp_path / "meant.pdf").read_bytes()).json()


def test_the_medium_decides_the_press_not_the_documents_output_intent(
    client, conditions, medium, policy, meant
) -> None:
    own = {**policy["policy"], "own_intent": True}
    kept = client.post("/api/policies", own, format="json").json()
    pk = send(client, medium(policy=kept["id"]), meant).json()["id"]
    work_off()
    report = PrintJob.objects.get(pk=pk).report["policy"]
    assert report["destination"] == conditions[0].profile.description


def run_for_real(client, policy: dict, document: dict, *, dry: bool = False) -> int:
    body = {"policy": policy, "document": document["id"], "dry": dry}
    made = client.post("/api/policy-runs", body, format="json")
    assert made.status_code == 201, made.content
    work_off()
    return made.json()["id"]


def send_result(client, medium: dict, result: int):
    body = {"medium": medium["id"], "result": result, "copies": 2}
    return client.post("/api/prints", body, format="json")


def test_what_a_policy_made_is_printed_as_it_is(client, medium, policy, atlas) -> None:
    made = medium()
    assert made["policy_version"] == 1
    run = run_for_real(client, policy["policy"], atlas)
    answer = send_result(client, made, run)
    assert answer.status_code == 201, answer.content
    work_off()
    row = PrintJob.objects.get(pk=answer.json()["id"])
    assert (row.state, row.copies, row.policy) == ("done", 2, None)
    assert row.sha256 == PolicyRun.objects.get(pk=run).result_sha256
    assert "policy" not in row.report or row.report["policy"] is None


def test_a_dry_run_and_a_result_for_another_press_are_not_printed(
    client, conditions, medium, policy, atlas
) -> None:
    made = medium()
    dry = run_for_real(client, policy["policy"], atlas, dry=True)
    answer = send_result(client, made, dry)
    assert answer.status_code == 409
    assert "Run it for real first" in answer.json()["title"]
    other = {**policy["policy"], "destination": conditions[1].profile.sha256}
    answer = send_result(client, made, run_for_real(client, other, atlas))
    assert answer.status_code == 409
    mirrored = {**policy["policy"], "mirror": True}
    answer = send_result(client, made, run_for_real(client, mirrored, atlas))
    assert answer.status_code == 409
    assert PrintJob.objects.count() == 0


def test_a_result_made_for_the_document_s_own_press_counts_by_that_press(
    client, conditions, medium, policy, meant
) -> None:
    run = run_for_real(client, {**policy["policy"], "own_intent": True}, meant)
    assert send_result(client, medium(), run).status_code == 409
    other_press = medium(condition=conditions[1].pk, name="Other")
    assert send_result(client, other_press, run).status_code == 201


def test_ones_printers_are_ones_own(client, medium, atlas, django_user_model) -> None:
    made = medium()
    client.force_authenticate(django_user_model.objects.create_user("eve"))
    assert client.get("/api/printers").json() == []
    assert send(client, made, atlas).status_code == 400


@pytest.mark.parametrize("part", ["duty", "settings"])
@pytest.mark.parametrize("value", ["x", 3, ["a"], None])
def test_fields_of_a_medium_are_fields(client, medium, part, value) -> None:
    made = medium()
    answer = client.patch(f"/api/media/{made['id']}", {part: value}, format="json")
    assert answer.status_code == 400
    assert answer.json()["title"]


def test_progress_of_a_print_goes_on_where_its_policy_ended() -> None:
    told: list[float] = []
    first, second = printing._first(told.append), printing._second(told.append)
    for share in (0, 0.5, 1):
        first(share)
    for share in (0, 0.5, 1):
        second(share)
    assert told == sorted(told)
    assert told[0] == 0
    assert told[2] == told[3]
    assert told[-1] == pytest.approx(1)


@pytest.fixture
def exposure(client) -> dict:
    """A condition of a printer that takes RGB."""
    profile = client.get("/api/profiles").json()
    opened = next(p for p in profile if p["description"] == "sRGB")
    facts = {"name": "Photo paper", "process": "photographic"}
    body = {"profile": opened["id"], "condition": facts}
    answer = client.post("/api/conditions", body, format="json")
    assert answer.status_code == 201, answer.content
    return answer.json()


def test_a_printer_that_takes_rgb_prints_documents_and_deliveries(
    client, medium, exposure, atlas, job, conditions
) -> None:
    """Through a policy, with its own profile as the aim; the ink that nobody counted is not told as none."""
    rules = client.get("/api/policies/templates/bare-cmyk", {"condition": exposure["id"]}).json()
    everything = {
        "rules": [{"action": "convert"}],
        "sources": {"CMYK": conditions[0].profile.sha256},
    }
    policy = client.post(
        "/api/policies", {**rules, **everything, "name": "To photo paper"}, format="json"
    ).json()
    paper = medium(condition=exposure["id"], policy=policy["id"])
    assert paper["judgements"][0]["level"] == "fine", paper["judgements"]
    assert send(client, paper, atlas).status_code == 201
    job_id = client.post(
        f"/api/jobs/{job['id']}/destinations", {"condition": exposure["id"]}, format="json"
    ).json()["id"]
    run = client.post(f"/api/destinations/{job_id}/deliveries").json()["id"]
    work_off()
    sent = client.post("/api/prints", {"medium": paper["id"], "delivery": run}, format="json")
    assert sent.status_code == 201, sent.content
    work_off()
    prints = list(PrintJob.objects.order_by("id"))
    assert [p.state for p in prints] == ["done", "done"], [p.error for p in prints]
    for done in prints:
        assert done.report["ink_cost"] is None
        assert done.report["medium_cost"] > 0
        assert client.get(f"/api/prints/{done.pk}/sheet-1.png").content[1:4] == b"PNG"


def test_cmyk_that_a_policy_leaves_is_nobodys_on_a_printer_of_rgb(
    client, medium, exposure, atlas, conditions
) -> None:
    made = client.get("/api/policies/templates/bare-cmyk", {"condition": exposure["id"]}).json()
    leaves = {
        **made,
        "name": "Leaves CMYK",
        "rules": [{"space": "CMYK", "action": "leave"}, *made["rules"]],
    }
    policy = client.post("/api/policies", leaves, format="json").json()
    found = medium(condition=exposure["id"], policy=policy["id"])["judgements"]
    assert any("leaves" in j["reason"]["text"] and "CMYK" in j["reason"]["text"] for j in found)
    inks = client.post(
        "/api/policies",
        {**leaves, "name": "b", "destination": conditions[0].profile.sha256},
        format="json",
    ).json()
    found = medium(policy=inks["id"])["judgements"]
    assert not any("leaves CMYK" in j["reason"]["text"] for j in found)
