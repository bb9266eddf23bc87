"""What the server answers about a job on a press made by hand: figures, views and lists as they were judged
good; a wanted change is kept by PLINTO_KEEP=1 and seen in the difference of the files."""

from __future__ import annotations

import base64
import io
import json
import re
from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
import pytest
import tifffile
from django.core.management import call_command
from handmade import cmyk_profile, linear_inks, linear_press, linear_print
from kept import as_kept
from PIL import Image

from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.services import add_standard_profiles, store_profile
from uploading import upload, upload_document
from working import work_off

FOLDER = Path(__file__).parent / "kept_figures"
PASSING = (
    "id",
    "created",
    "updated",
    "started",
    "ended",
    "seconds",
    "changed",
    "at",
    "uuid",
    "sha256",
    "digest",
    "key",
)
ROWS = (
    "condition",
    "profile",
    "job",
    "artwork",
    "destination",
    "document",
    "policy",
    "owner",
    "run",
)
"""Names under which other rows are named by their numbers."""
RULES = {"tac": 240, "black": {"method": "gcr", "strength": 60}}


@pytest.fixture
def press(db) -> PrintingCondition:
    add_standard_profiles()
    PrintingCondition.objects.create(
        key="paler", name="Paler", printer="Press 2", medium="Card", ink_rules={"tac": 300},
        profile=store_profile(cmyk_profile(linear_print, lambda lab: linear_inks(lab) * 0.95, back_grid=9, name="Paler").data, "shipped"),
    )  # fmt: skip
    return PrintingCondition.objects.create(
        key="linear", name="Linear", printer="Press 1", medium="Paper", ink_rules=RULES,
        profile=store_profile(linear_press("Linear").data, "shipped"),
        supplies={"inks": {n: {"film": 2, "price": 10} for n in "CMYK"}, "medium_price": 0.5, "currency": "EUR"},
    )  # fmt: skip


@pytest.fixture
def made(client, press) -> dict[str, Any]:
    y, x = np.mgrid[0:60, 0:80]
    data = np.stack([x * 800, y * 1000, 65535 - x * 700], axis=-1).astype(np.uint16)
    data[:8, :10], data[8:16, :10] = 0, 32768
    file = io.BytesIO()
    tifffile.imwrite(
        file,
        data,
        photometric="rgb",
        resolution=(200, 200),
        iccprofile=standard_profile("oprgb").data,
    )
    artwork = upload(client, file.getvalue()).json()
    body = {"artwork": artwork["id"], "conditions": [press.pk]}
    return client.post("/api/jobs", body, format="json").json()


def steady(found: Any) -> Any:
    """Without what differs from run to run: numbers of rows, times, hashes."""
    if isinstance(found, dict):
        if "png" in found:
            found = {**found, "png": looks(base64.b64decode(found["png"]))}
        return {
            k: steady(v)
            for k, v in found.items()
            if k not in PASSING
            and not str(k).endswith("_at")
            and not (k in ROWS and isinstance(v, int))
        }
    if isinstance(found, list) and len(found) > 40 and isinstance(found[0], list):
        return [row[::10] for row in found[::20]]
    if isinstance(found, list):
        return [steady(v) for v in found]
    if isinstance(found, str) and (numbered := re.fullmatch(r"(.*)[:/]\d+", found)):
        return numbered[1]
    if isinstance(found, str) and (found.startswith("/api/") or len(found) == 64):
        return "address or hash"
    return found


def looks(data: bytes) -> list[Any]:
    """Width and height, the mean and nine pixels of a picture, as RGB and how much it covers."""
    pixels = np.asarray(Image.open(io.BytesIO(data)).convert("RGBA")) / 255
    height, width = pixels.shape[:2]
    at = [
        np.round(pixels[height * a // 8, width * b // 8], 4).tolist()
        for a in (1, 4, 7)
        for b in (1, 4, 7)
    ]
    return [width, height, np.round(pixels.mean((0, 1)), 4).tolist(), at]


def seen(answer: Any) -> Any:
    """An answer's data, or what a picture looks like."""
    assert answer.status_code == 200, answer.content
    if answer["Content-Type"].startswith("image/"):
        data = b"".join(answer.streaming_content) if answer.streaming else answer.content
        return looks(data)
    if answer["Content-Type"].startswith("text/"):
        return answer.content.decode().splitlines()[:40]
    return steady(answer.json())


def keep(name: str, answers: dict[str, Any], **tolerance: float) -> None:
    as_kept(name, answers, folder=FOLDER, **{"rel": 5e-3, "abs": 0.06, **tolerance})


CHANGES = json.dumps(
    {"intent": "relative", "bpc": False, "ink_rules": {"tac": 180, "black": {"method": "ucr"}}}
)
REGION = {"corners": [[0, 0], [60, 0], [60, 60], [0, 60]], "softness": 5}
CORRECTED = json.dumps(
    {"corrections": [{"lightness": 30, "chroma": -20}, {"region": REGION, "chroma": 60}]}
)


def test_figures_of_a_destination(client, made) -> None:
    pk = made["destinations"][0]["id"]
    answers = {}
    for name in (
        "check",
        "fit",
        "inks",
        "intents",
        "limits",
        "neutral",
        "points",
        "ramp",
        "unconverted",
    ):
        for how, changes in (("", {}), (", changed", {"changes": CHANGES})):
            asked = {**changes, **({"hue": 30} if name == "ramp" else {})}
            answers[name + how] = seen(client.get(f"/api/destinations/{pk}/{name}", asked))
    for x, y in ((0, 0), (79, 59), (40, 30), (500, -3)):
        answer = client.get(f"/api/destinations/{pk}/readout", {"x": x, "y": y})
        answers[f"readout {x} {y}"] = (
            seen(answer) if answer.status_code == 200 else answer.status_code
        )
    answers["readout, corrected"] = seen(
        client.get(f"/api/destinations/{pk}/readout", {"x": 20, "y": 20, "changes": CORRECTED})
    )
    client.put(
        f"/api/jobs/{made['id']}/points",
        [{"x": 5, "y": 5, "name": "black"}, {"x": 60, "y": 30, "name": ""}],
        format="json",
    )
    answers["swatches"] = seen(client.get(f"/api/destinations/{pk}/swatches.csv"))
    keep("destination", answers)


@pytest.mark.parametrize(
    "how",
    [
        {}, {"pane": "original"}, {"plates": "K"}, {"plates": "C,M"}, {"veil": "ff0000"}, {"veil": "hatch", "ways": "dark"}, {"map": "distance"}, {"map": "tac"},
        {"grey": "1"}, {"break_up": "8"}, {"x": 10, "y": 5, "w": 40, "h": 30, "columns": 20, "rows": 15},
        {"changes": CORRECTED}, {"changes": CORRECTED, "map": "correction", "correction": "1"}, {"display": "srgb"},
    ],
)  # fmt: skip
def test_views_of_a_destination(client, made, how) -> None:
    pk = made["destinations"][0]["id"]
    answer = client.get(f"/api/destinations/{pk}/view.png", how)
    found = (
        seen(answer) if answer.status_code == 200 else [answer.status_code, steady(answer.json())]
    )
    name = "-".join(f"{k}-{'changed' if k == 'changes' else v}" for k, v in how.items()) or "plain"
    keep(f"views/{name.replace('#', '').replace(',', '')}", {"seen": found}, abs=0.008)


def test_moments_and_points(client, made) -> None:
    pk = made["destinations"][0]["id"]
    gcr = {"method": "gcr", "strength": 30}
    for changes in (
        {"intent": "relative"}, {"ink_rules": {"tac": 200, "black": {"method": "gcr", "strength": 30}}},
        {"ink_rules": {"tac": 180, "black": {**gcr, "strength": 45}, "limits": {"C": 90}}},
        {"ink_rules": {"tac": 180, "black": None, "protect": {"pure_black": False}}}, {"ink_rules": None, "bpc": False}, {"corrections": [{"lightness": 10}]},
        {"delivery": {"mirror": True, "bits": 8}}, {"vivid": {"space": "stretch", "strength": 20}},
    ):  # fmt: skip
        assert client.patch(f"/api/destinations/{pk}", changes, format="json").status_code == 200
    points = [{"x": -4, "y": 9999, "name": "edge"}, {"x": 5, "y": 5, "name": "black"}]
    placed = client.put(f"/api/jobs/{made['id']}/points", points, format="json")
    answers = {
        "moments": seen(client.get(f"/api/destinations/{pk}/moments")),
        "placed": [placed.status_code, steady(placed.json())],
        "points": seen(client.get(f"/api/destinations/{pk}/points")),
        "job": seen(client.get(f"/api/jobs/{made['id']}")),
        "jobs": seen(client.get("/api/jobs")),
        "recipe": seen(client.get(f"/api/destinations/{pk}/recipe")),
    }
    keep("moments", answers)


def test_gamuts_and_paths(client, made, press) -> None:
    other = PrintingCondition.objects.get(key="paler")
    of = [f"condition:{c.pk}" for c in (press, other)]
    path = json.dumps({"steps": [{"kind": "profile", "ref": standard_profile("srgb").digest}, {"kind": "profile", "ref": press.profile.sha256, "intent": "relative"}]})  # fmt: skip
    answers: dict[str, Any] = {}
    for name, address, asked in (
        ("gamuts", "gamuts", {"of": of}), ("gamuts, absolute", "gamuts", {"of": of, "sight": "absolute", "tac": 200}),
        ("where", "gamuts/where", {"job": made["id"], "l": 50, "a": 20, "b": 10}),
        ("where, narrow", "gamuts/where", {"job": made["id"], "l": 50, "a": 0, "b": 0, "radius": 2}),
        ("followed", "colour-paths/followed", {"path": path, "job": made["id"], "first": 0, "second": 1, "count": 12}),
        ("followed, sorted", "colour-paths/followed", {"path": path, "job": made["id"], "sort": "difference", "descending": "true", "first": 0, "second": 1, "count": 6, "start": 3, "formula": "1976"}),
        ("followed bar", "colour-paths/followed", {"path": path, "bar": "true", "count": 6}),
        ("table", "colour-paths/table", {"path": path, "bar": "true"}),
        ("picture", "colour-paths/picture", {"path": path, "job": made["id"], "first": 0, "second": 1, "columns": 40, "rows": 30}),
        ("picture, step", "colour-paths/picture", {"path": path, "job": made["id"], "step": 0, "edge": 40}),
        ("spots", "spot-builds", {"condition": press.pk, "lab": "50,40,20"}),
        ("spot table", "spot-builds/table", {"conditions": press.pk, "lab": "30,-20,-30"}),
    ):  # fmt: skip
        answer = client.get(f"/api/{address}", asked)
        answers[name] = (
            seen(answer)
            if answer.status_code == 200
            else [answer.status_code, steady(answer.json())]
        )
    keep("gamuts-and-paths", answers)


def test_profiles_and_conditions(client, press) -> None:
    answers: dict[str, Any] = {}
    profile = press.profile_id
    for name in (
        "conditions", f"conditions/{press.pk}", f"conditions/{press.pk}/uses", "profiles", f"profiles/{profile}",
        f"profiles/{profile}/proposal", f"profiles/{profile}/tags", f"profiles/{profile}/uses", f"profiles/{profile}/neutrals",
        f"profiles/{profile}/examination", "house-rules", "ink-rules", "questions", "policies/checks",
        "policies/templates/strict-press", "policies/templates/textile-transfer", "proof-tolerances/starting", "session",
    ):  # fmt: skip
        asked = {"condition": press.pk} if "templates" in name else {}
        answer = client.get(f"/api/{name}", asked)
        kept = (
            seen(answer)
            if answer.status_code == 200
            else [answer.status_code, steady(answer.json())]
        )
        answers[name.replace(str(profile), "profile").replace(f"/{press.pk}", "/press")] = kept
    keep("profiles-and-conditions", answers, abs=0.1)


def document() -> bytes:
    with pikepdf.new() as pdf:
        for content in (
            b"1 0 0 rg 20 20 80 60 re f 0 0 0 rg 110 20 60 60 re f", b"0.9 0.9 0.8 0.9 k 20 20 160 60 re f",
        ):  # fmt: skip
            pdf.add_blank_page(page_size=(200, 100))
            pdf.pages[-1].Contents = pikepdf.Stream(pdf, content)
        file = io.BytesIO()
        pdf.save(file, static_id=True)
        return file.getvalue()


def test_a_policy_run(client, press, django_capture_on_commit_callbacks) -> None:
    sent = upload_document(client, document()).json()
    rules = [{"action": "convert", "intent": "relative"}]
    policy = {
        "destination": press.profile.sha256,
        "rules": rules,
        "tac": 220,
        "checks": [{"what": "hairlines"}],
    }
    kept = client.post("/api/policies", policy, format="json").json()
    answers: dict[str, Any] = {"policy": steady(kept)}
    with django_capture_on_commit_callbacks(execute=True):
        started = client.post(
            "/api/policy-runs",
            {"document": sent["id"], "policy": kept["policy"], "dry": False},
            format="json",
        )
    assert started.status_code == 201, started.content
    pk = started.json()["id"]
    for name in (
        f"policy-runs/{pk}/report.json",
        f"policy-runs/{pk}/file",
        f"policy-runs/{pk}/pages/1/plates",
    ):
        answers[f"waiting {name.split('/', 2)[2]}"] = client.get(f"/api/{name}").status_code
    work_off()
    answers["run"] = seen(client.get(f"/api/policy-runs/{pk}"))
    answers["report"] = seen(client.get(f"/api/policy-runs/{pk}/report.json"))
    for page in (1, 2):
        for name, asked in (
            (f"pages/{page}/plates", {}), (f"pages/{page}/plates.png", {"plates": "Black"}), (f"pages/{page}/plates.png", {}),
            (f"pages/{page}/tac.png", {}), (f"pages/{page}.png", {"side": "printed", "edge": 200}),
            (f"pages/{page}.png", {"side": "meant", "edge": 200}), ("pages/9.png", {}),
        ):  # fmt: skip
            answer = client.get(f"/api/policy-runs/{pk}/{name}", asked)
            answers[f"{name} {asked}"] = (
                seen(answer) if answer.status_code == 200 else answer.status_code
            )
    answers["document"] = seen(
        client.get(f"/api/documents/{sent['id']}/pages/2.png", {"edge": 120})
    )
    answers["queue"] = seen(client.get("/api/queue", {"ended": 1}))
    keep("policy-run", answers, abs=0.008)


def test_no_model_differs_from_its_migrations(db) -> None:
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
