"""Proof prints through the API: of jobs and pages, read on the bench and from files, kept and judged."""

from __future__ import annotations

import io
import json
from datetime import date

import numpy as np
import pypdfium2
import pytest
import tifffile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.demo.atlas import star_atlas
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import PROOFER, measure_chart
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.services import store_profile
from plinto_server.apps.proofs.models import ProofPrint
from uploading import upload_document
from working import work_off

LOOSE = {"name": "House", "mean": 3, "most": 8}


@pytest.fixture(scope="module")
def proofer_bytes() -> bytes:
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(PROOFER.model, chart))
    rules = parse_ink_rules(PROOFER.rules)
    settings = BuildSettings(size="small", description=PROOFER.name, built=date(2026, 1, 1))
    return build_profile(Characterisation(chart, xyz), rules, settings).data


@pytest.fixture
def proofer(conditions, proofer_bytes) -> PrintingCondition:
    return PrintingCondition.objects.create(
        key=PROOFER.key, name=PROOFER.name, printer="-", medium=PROOFER.medium, process="inkjet",
        profile=store_profile(proofer_bytes, "shipped"), ink_rules=PROOFER.rules,
        ticket=PROOFER.ticket,
    )  # fmt: skip


@pytest.fixture
def make(client, django_capture_on_commit_callbacks):
    def begin(address: str, **body) -> dict:
        with django_capture_on_commit_callbacks(execute=True):
            answer = client.post(f"/api/{address}/proofs", body, format="json")
        assert answer.status_code == 201, answer.content
        work_off()
        made = client.get(f"/api/proofs/{answer.json()['id']}").json()
        assert made["state"] == "done", made["error"]
        return made

    return begin


@pytest.fixture
def proof(job, proofer, make) -> dict:
    return make(f"destinations/{job['destinations'][0]['id']}", proofer=proofer.pk)


def read(client, proof, **body):
    asked = {"tolerances": LOOSE, "noise": False, **body}
    return client.post(f"/api/proofs/{proof['id']}/readings", asked, format="json")


def test_a_proof_of_a_job_is_made_printed_read_and_passes(client, proof, job) -> None:
    assert proof["press_name"] == "Sheetfed coated"
    assert proof["proofer_name"] == "Proofing inkjet"
    assert proof["made"]["intent"] == "absolute"
    assert proof["job"] == job["id"]
    assert "Sheetfed coated shown by Proofing inkjet" in proof["lines"][0]
    data = b"".join(client.get(f"/api/proofs/{proof['id']}/file").streaming_content)
    pixels = tifffile.imread(io.BytesIO(data))
    size = proof["made"]["size"]
    assert pixels.shape == (size["height"], size["width"], 4)
    found = read(client, proof).json()
    assert found["passes"] is True
    assert found["judgement"]["signs"] == []
    assert found["figures"]["mean"] < 0.6
    assert (found["way"], found["by"]) == ("bench", "Proofing inkjet")
    listed = client.get("/api/proofs").json()
    assert [r["id"] for r in listed[0]["readings"]] == [found["id"]]


def test_another_paper_fails_and_the_history_keeps_both(client, proof, conditions) -> None:
    good = read(client, proof).json()
    bad = read(client, proof, printed_on=conditions[1].pk).json()
    assert bad["passes"] is False
    assert bad["by"] == "Newsprint"
    assert bad["judgement"]["signs"]
    readings = client.get(f"/api/proofs/{proof['id']}").json()["readings"]
    assert [r["id"] for r in readings] == [bad["id"], good["id"]]
    assert client.delete(f"/api/proof-readings/{bad['id']}").status_code == 204
    assert len(client.get(f"/api/proofs/{proof['id']}").json()["readings"]) == 1
    client.post(f"/api/proof-readings/{bad['id']}/restore")
    assert len(client.get(f"/api/proofs/{proof['id']}").json()["readings"]) == 2


def test_noise_is_drawn_anew_for_every_reading(client, proof) -> None:
    asked = (True, True, True, False)
    # All of them: two means may well be the same in three digits.
    figures = [str(read(client, proof, noise=n).json()["figures"]) for n in asked]
    assert len(set(figures)) == 4
    plain = [str(read(client, proof).json()["figures"]) for _ in range(2)]
    assert plain[0] == plain[1] == figures[3]


def test_a_relative_proof_fails_for_its_paper(client, job, proofer, make) -> None:
    news = next(d for d in job["destinations"] if d["condition"]["key"] == "newsprint")
    made = make(f"destinations/{news['id']}", proofer=proofer.pk, settings={"intent": "relative"})
    found = read(client, made, tolerances={"name": "x", "paper": 3}).json()
    assert found["passes"] is False
    assert "bare paper" in found["judgement"]["signs"][0]["text"]


def test_a_measured_file_is_judged_and_comes_out_again(client, proof) -> None:
    bench = read(client, proof).json()
    text = client.get(f"/api/proof-readings/{bench['id']}/report.txt").content
    address = f"/api/proofs/{proof['id']}/readings/file?tolerances={json.dumps(LOOSE)}"
    file = SimpleUploadedFile("monday.txt", text)
    found = client.post(address, {"file": file}, format="multipart").json()
    assert (found["way"], found["by"]) == ("file", "monday.txt")
    assert found["figures"]["mean"] == pytest.approx(bench["figures"]["mean"], abs=0.02)
    short = SimpleUploadedFile("short.csv", b"name,L,a,b\nx,50,0,0\n")
    refused = client.post(address, {"file": short}, format="multipart")
    assert refused.status_code == 400
    assert "30 patches" in str(refused.json())
    address = f"/api/proofs/{proof['id']}/readings/file"
    for query in ("", "?tolerances={", '?tolerances={"name":"x","paper":-3}', "?tolerances=[]"):
        again = SimpleUploadedFile("a.txt", text)
        answer = client.post(address + query, {"file": again}, format="multipart")
        assert answer.status_code == 400, query


def test_a_reading_is_judged_anew_and_printed(client, proof) -> None:
    found = read(client, proof).json()
    strict = {"name": "Strict", "mean": 0.001}
    address = f"/api/proof-readings/{found['id']}"
    again = client.post(f"{address}/judge", {"tolerances": strict}, format="json").json()
    assert again["passes"] is False
    assert again["figures"] == found["figures"]
    assert client.get(address).json()["tolerances"] == "Strict"
    pages = pypdfium2.PdfDocument(client.get(f"{address}/report.pdf").content)
    text = "".join(page.get_textpage().get_text_range() for page in pages)
    assert "It fails." in text
    assert "printed on Proofing inkjet" in text
    ticket = client.get(f"/api/proofs/{proof['id']}/ticket.json").json()
    assert ticket["condition"] == "Sheetfed coated, shown by Proofing inkjet"
    assert ticket["settings"][1][1] == PROOFER.medium
    assert client.get(f"/api/proofs/{proof['id']}/ticket.pdf").content.startswith(b"%PDF")


def test_a_page_is_proofed_as_it_prints_under_a_policy(
    client, conditions, proofer, make, tmp_path
) -> None:
    star_atlas(tmp_path / "a.pdf", pages=2)
    document = upload_document(client, (tmp_path / "a.pdf").read_bytes()).json()
    policy = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    run = client.post(
        "/api/policy-runs", {"document": document["id"], "policy": policy, "dry": True},
        format="json",
    ).json()  # fmt: skip
    made = make(f"policy-runs/{run['id']}", proofer=proofer.pk, page=2, settings={"resolution": 60})
    assert made["title"] == "atlas.pdf, page 2"
    assert made["press_name"] == "Sheetfed coated"
    assert made["made"]["resolution"] == pytest.approx(60, abs=1)
    assert read(client, made).json()["passes"] is True
    refused = client.post(
        f"/api/policy-runs/{run['id']}/proofs", {"proofer": proofer.pk, "page": 3}, format="json"
    )
    assert refused.status_code == 409


def test_what_cannot_be_read_says_why(client, job, proofer, make, conditions, user) -> None:
    destination = f"destinations/{job['destinations'][0]['id']}"
    bare = make(destination, proofer=proofer.pk, settings={"strip": False})
    assert "without a strip" in str(read(client, bare).json())
    pdf = make(destination, proofer=proofer.pk, settings={"format": "PDF", "bits": 8})
    assert "TIFF" in str(read(client, pdf).json())
    own = PrintingCondition.objects.create(
        key="own", name="Own press", owner=user, profile=conditions[0].profile
    )
    assert own.profile_id == conditions[0].profile_id
    tif = make(destination, proofer=proofer.pk)
    # An own condition with a shipped profile is printed by that one's simulator.
    assert read(client, tif, printed_on=own.pk).status_code == 201
    unknown = PrintingCondition.objects.create(
        key="other",
        name="Other",
        owner=user,
        profile=store_profile(_another(), "uploaded", holder=user),
    )
    assert "no press simulator" in str(read(client, tif, printed_on=unknown.pk).json())
    for settings in ({"intent": "perceptual"}, {"resolution": 5}, {"x": 1}, [], "a"):
        body = {"proofer": proofer.pk, "settings": settings}
        assert client.post(f"/api/{destination}/proofs", body, format="json").status_code == 400


def _another() -> bytes:
    from plinto_core.transform.standard_spaces import standard_profile

    data = bytearray(standard_profile("srgb").data)
    data[24:26] = b"\x07\xd1"
    return bytes(data)


def test_removed_proofs_come_back_and_conditions_know_their_proofs(client, proof, proofer) -> None:
    uses = client.get(f"/api/conditions/{proofer.pk}/uses").json()
    assert [u["kind"] for u in uses] == ["proof"]
    assert client.delete(f"/api/proofs/{proof['id']}").status_code == 204
    assert client.get("/api/proofs").json() == []
    assert client.get(f"/api/proofs/{proof['id']}").status_code == 404
    assert client.post(f"/api/proofs/{proof['id']}/restore").json()["state"] == "done"


def test_what_is_waiting_can_be_cancelled_and_is_not_read(client, job, proofer) -> None:
    address = f"/api/destinations/{job['destinations'][0]['id']}/proofs"
    made = client.post(address, {"proofer": proofer.pk}, format="json").json()
    assert "not made yet" in str(read(client, made).json())
    assert client.post(f"/api/proofs/{made['id']}/cancel").json()["state"] == "cancelled"
    assert ProofPrint.objects.get(pk=made["id"]).cancel_requested


def test_sets_of_tolerances_are_kept_changed_and_two_people_do_not_collide(client) -> None:
    found = client.get("/api/proof-tolerances/starting").json()
    assert [s["tolerances"]["name"] for s in found] == ["Contract proof", "Validation print"]
    made = client.post("/api/proof-tolerances", {"tolerances": LOOSE}, format="json")
    pk, tag = made.json()["id"], made.headers["ETag"]

    def patch(body, tag):
        return client.patch(
            f"/api/proof-tolerances/{pk}", body, format="json", headers={"If-Match": tag}
        )

    assert patch({"mean": 2}, tag).json()["tolerances"]["mean"] == 2
    assert patch({"paper": 3}, tag).json()["tolerances"] == {
        **dict.fromkeys(("p95", "solids", "solid_hue", "greys")),
        "name": "House", "mean": 2, "most": 8, "paper": 3,
    }  # fmt: skip
    assert patch({"mean": 1}, tag).status_code == 409
    assert patch({"mean": "x"}, '"3"').status_code == 400
    assert patch({"unknown": 1}, '"3"').status_code == 400
    assert client.delete(f"/api/proof-tolerances/{pk}").status_code == 204
    assert client.get("/api/proof-tolerances").json() == []
    assert client.post(f"/api/proof-tolerances/{pk}/restore").json()["name"] == "House"


def test_the_picture_of_the_time_is_proofed(
    client, job, proofer, django_capture_on_commit_callbacks
) -> None:
    from uploading import upload

    address = f"/api/destinations/{job['destinations'][0]['id']}/proofs"
    with django_capture_on_commit_callbacks(execute=True):
        made = client.post(address, {"proofer": proofer.pk}, format="json").json()
    other = io.BytesIO()
    tifffile.imwrite(
        other, np.zeros((90, 120, 3), np.uint16), photometric="rgb", resolution=(300, 300)
    )
    artwork = upload(client, other.getvalue(), "black.tif").json()
    client.post(f"/api/jobs/{job['id']}/artwork", {"artwork": artwork["id"]}, format="json")
    work_off()
    data = b"".join(client.get(f"/api/proofs/{made['id']}/file").streaming_content)
    margin = round(4 / 25.4 * 300)
    inside = tifffile.imread(io.BytesIO(data))[margin : margin + 90, margin : margin + 120]
    assert inside.std() > 1000


def test_a_recipe_that_cannot_run_is_refused_before_it_waits(client, job, proofer) -> None:
    from plinto_server.apps.jobs.models import Destination

    destination = Destination.objects.get(pk=job["destinations"][0]["id"])
    Destination.objects.filter(pk=destination.pk).update(
        recipe={**destination.recipe, "arrival": "grey"}
    )
    address = f"/api/destinations/{destination.pk}/proofs"
    answer = client.post(address, {"proofer": proofer.pk}, format="json")
    assert answer.status_code == 400
    assert "another kind" in str(answer.json())
    assert not ProofPrint.objects.exists()


def test_a_picture_without_a_print_size_is_refused_before_it_waits(
    client, conditions, proofer
) -> None:
    from uploading import upload

    file = io.BytesIO()
    Image.new("RGB", (40, 30), (90, 60, 30)).save(file, "PNG")
    artwork = upload(client, file.getvalue(), "plain.png").json()
    body = {"artwork": artwork["id"], "conditions": [conditions[0].pk]}
    destination = client.post("/api/jobs", body, format="json").json()["destinations"][0]["id"]
    address = f"/api/destinations/{destination}"
    refused = client.post(f"{address}/proofs", {"proofer": proofer.pk}, format="json")
    assert refused.status_code == 409
    assert "Set the width of the print" in str(refused.json())
    client.patch(address, {"delivery": {"width_mm": 100}}, format="json")
    made = client.post(f"{address}/proofs", {"proofer": proofer.pk}, format="json")
    assert made.status_code == 201
