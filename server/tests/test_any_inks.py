"""Conditions of other inks than four: from their measurements to a job's figures and files."""

from __future__ import annotations

import io
import zipfile
from datetime import date

import numpy as np
import pikepdf
import pytest
import tifffile
from PIL import Image

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.icc import Profile
from plinto_core.imaging.ink_tiff import names_of
from plinto_core.imaging.writer import OutputOptions, write_picture
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement.characterisation import format_characterisation
from plinto_core.simulator import SIMULATED
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.services import load_profile
from test_builds import start
from uploading import upload, upload_document
from working import work_off


def built(client, key: str, tac: float, **asked) -> dict:
    """A profile built of a simulated press's chart, as one's own measurements come in."""
    text = format_characterisation(SIMULATED[key].measured()).encode()
    made = start(client, text, tac=tac, name=key, **asked)
    assert made.status_code == 201
    work_off()
    done = client.get(f"/api/builds/{made.json()['id']}").json()
    assert done["state"] == "done"
    return done["profile"]


@pytest.fixture(scope="session")
def two_inks() -> bytes:
    """A profile of two inks, as the command line builds it of the same measurements."""
    measured = SIMULATED["two-screens"].measured()
    settings = BuildSettings(description="two-screens", built=date(2026, 1, 1))
    return build_profile(measured, parse_ink_rules({"tac": 180}), settings).data


def test_measurements_of_two_inks_become_a_profile(client, conditions) -> None:
    profile = built(client, "two-screens", 180)
    assert [c["name"] for c in profile["inks"]["channels"]] == ["Brick", "K"]
    found = client.get(f"/api/profiles/{profile['id']}/proposal").json()
    assert found["condition"]["ink_rules"]["tac"] <= 180


@pytest.fixture
def two(client, conditions, two_inks) -> dict:
    """A condition of two inks by what is proposed for its profile."""
    file = io.BytesIO(two_inks)
    file.name = "two.icc"
    received = client.post("/api/profiles", {"file": file}, format="multipart")
    assert received.status_code == 201, received.content
    profile = received.json()
    assert [c["name"] for c in profile["inks"]["channels"]] == ["Brick", "K"]
    found = client.get(f"/api/profiles/{profile['id']}/proposal").json()
    assert found["condition"]["ink_rules"]["tac"] <= 180
    body = {"profile": profile["id"], "condition": {**found["condition"], "process": "screen"}}
    made = client.post("/api/conditions", body, format="json")
    assert made.status_code == 201
    return made.json()


@pytest.fixture
def destination(client, job, two) -> dict:
    first = job["destinations"][0]["id"]
    made = client.post(
        f"/api/destinations/{first}/retarget", {"condition": two["id"]}, format="json"
    )
    assert made.status_code == 201
    rows = client.get(f"/api/jobs/{job['id']}").json()["destinations"]
    return next(d for d in rows if d["condition"]["id"] == two["id"])


def change(client, destination: dict, **part):
    return client.patch(f"/api/destinations/{destination['id']}", part, format="json")


def test_figures_name_the_inks_of_the_condition(client, destination) -> None:
    at = f"/api/destinations/{destination['id']}"
    rules = {"tac": 150, "limits": {"Brick": 70}, "black": {"method": "gcr", "start": 20}}
    assert change(client, destination, ink_rules=rules).status_code == 200
    inks = client.get(f"{at}/inks").json()
    assert list(inks["coverage"]) == ["Brick", "K"]
    assert 0 < inks["tac_max"] <= 150
    assert list(client.get(f"{at}/readout?x=10&y=10").json()["inks"]) == ["Brick", "K"]
    ramp = client.get(f"{at}/neutral").json()
    assert max(ramp["inks"]["Brick"]) <= 70
    assert max(ramp["inks"]["K"]) > 40
    limits = client.get(f"{at}/limits").json()
    assert list(limits["darkest_inks"]) == ["Brick", "K"]
    assert limits["volume"] <= limits["whole_volume"]


def test_an_ink_that_the_condition_lacks_is_refused(client, destination) -> None:
    for rules in ({"limits": {"C": 50}}, {"limits": {"Gold": 50}}):
        answer = change(client, destination, ink_rules=rules)
        at = f"/api/destinations/{destination['id']}"
        if answer.status_code == 200:
            answer = client.get(f"{at}/inks")
        assert answer.status_code == 400
        assert "Brick, K" in str(answer.json())


def test_the_file_has_two_named_inks_and_says_what_it_cannot_be(client, destination) -> None:
    at = f"/api/destinations/{destination['id']}"
    refused = change(client, destination, delivery={"format": "PNG"})
    assert refused.status_code == 400
    assert "TIFF or PDF" in str(refused.json())
    bare = change(client, destination, delivery={"format": "PDF", "embed": False})
    if bare.status_code == 200:
        found = client.get(f"{at}/check").json()["findings"]
        assert any(f["level"] == "stop" and "Embed it" in str(f) for f in found)
        change(client, destination, delivery={"embed": True})
    change(client, destination, delivery={"format": "TIFF", "bits": 8})
    assert client.post(f"{at}/deliveries").status_code == 201
    work_off()
    (done,) = client.get(f"{at}/deliveries").json()
    assert done["state"] == "done"
    data = b"".join(client.get(f"/api/deliveries/{done['id']}/file").streaming_content)
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        assert names_of(file.pages[0]) == ("Brick", "K")
        assert file.pages[0].photometric == 5
        assert Profile(file.pages[0].tags.valueof(34675)).colour_space == "2CLR"


def test_films_stand_at_the_angles_of_their_inks(client, destination) -> None:
    at = f"/api/destinations/{destination['id']}"
    films = {"resolution": 150, "ruling": 20}
    assert change(client, destination, delivery={"films": films}).status_code == 200
    assert client.post(f"{at}/deliveries").status_code == 201
    work_off()
    (done,) = client.get(f"{at}/deliveries").json()
    data = b"".join(client.get(f"/api/deliveries/{done['id']}/file").streaming_content)
    with zipfile.ZipFile(io.BytesIO(data)) as folder:
        names = sorted(n for n in folder.namelist() if n.endswith(".tif"))
        assert len(names) == 2
        brick, black = (tifffile.imread(io.BytesIO(folder.read(n))) for n in names)
    assert brick.shape == black.shape
    assert (brick != black).any()


def test_a_document_is_made_of_its_two_inks(client, two, tmp_path) -> None:
    answer = client.get(f"/api/policies/templates/office-files?condition={two['id']}")
    policy = client.post("/api/policies", answer.json(), format="json").json()["policy"]
    assert policy["destination"] == two["profile"]["sha256"]
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(120, 60))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"0.7 0.3 0.2 rg 0 0 120 60 re f")
        pdf.save(tmp_path / "in.pdf")
    document = upload_document(client, (tmp_path / "in.pdf").read_bytes()).json()
    body = {"document": document["id"], "policy": policy, "dry": False}
    started = client.post("/api/policy-runs", body, format="json").json()
    work_off()
    done = client.get(f"/api/policy-runs/{started['id']}").json()
    assert (done["state"], done["report"]["inks"]) == ("done", ["Brick", "Black"])
    (item,) = done["report"]["objects"]
    data = b"".join(client.get(f"/api/policy-runs/{done['id']}/file").streaming_content)
    with pikepdf.open(io.BytesIO(data)) as pdf:
        space = pdf.pages[0].Resources.ColorSpace["/PlintoInks"]
        assert [str(n) for n in space[1]] == ["/Brick", "/Black"]
    at = f"/api/policy-runs/{done['id']}/pages/1"
    plates = client.get(f"{at}/plates").json()
    assert plates["names"] == ["Brick", "Black"]
    covered = [100 * v for v in plates["coverage"].values()]
    assert covered == pytest.approx(item["after"], abs=0.4)
    # Both plates together have the brick's own colour, and not that of cyan.
    sketch = client.get(f"{at}/plates.png", {"plates": "0,1"}).content
    red, green, blue = np.asarray(Image.open(io.BytesIO(sketch)).convert("RGB"))[30, 60].astype(int)
    assert red > green
    assert red > blue


def test_a_device_that_takes_rgb_is_built_of_its_chart(client, conditions) -> None:
    profile = built(client, "photo-rgb", 300)
    assert profile["colour_space"] == "RGB"
    assert profile["device_class"] == "output"
    assert profile["inks"] is None
    assert "destination" in profile["parts"]
    stored = load_profile(profile["sha256"])
    assert stored.header.device_class == "prtr"


def test_profiles_of_four_inks_say_theirs_too(client, conditions) -> None:
    found = client.get("/api/conditions").json()[0]["profile"]["inks"]["channels"]
    assert [c["name"] for c in found] == ["C", "M", "Y", "K"]
    assert [c["angle"] for c in found] == [15, 75, 0, 45]
    solids = np.array([c["solid"] for c in found])
    assert solids[3, 0] < 30
    assert PrintingCondition.objects.count() == len(conditions)


def test_two_inks_are_printed_on_the_simulated_printer(client, two, tmp_path) -> None:
    template = client.get(f"/api/policies/templates/office-files?condition={two['id']}").json()
    policy = client.post("/api/policies", template, format="json").json()
    inks = {n: {"film": 2, "price": 10} for n in ("Brick", "K")}
    assert client.patch(f"/api/conditions/{two['id']}", {"supplies": {"inks": inks}}, format="json").status_code == 200  # fmt: skip
    printer = client.post("/api/printers", {"name": "Screens"}, format="json").json()
    medium = {
        "name": "Cotton", "condition": two["id"], "policy": policy["id"], "settings": {},
        "duty": {"manager": "plinto", "driver": "off", "rip": "absent"},
    }  # fmt: skip
    made = client.post(f"/api/printers/{printer['id']}/media", medium, format="json")
    assert made.status_code == 201, made.content
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(720, 720))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"0.7 0.3 0.2 rg 0 0 360 720 re f")
        pdf.save(tmp_path / "in.pdf")
    document = upload_document(client, (tmp_path / "in.pdf").read_bytes()).json()
    body = {"medium": made.json()["id"], "document": document["id"]}
    sent = client.post("/api/prints", body, format="json").json()
    work_off()
    report = client.get(f"/api/queue/print/{sent['id']}/report.json").json()
    (sheet,) = report["sheets"]
    assert list(sheet["coverage"]) == ["Brick", "Black"]
    tones = report["policy"]["objects"][0]["after"]
    area = 0.254**2
    for name, long, tone in zip(("Brick", "K"), ("Brick", "Black"), tones, strict=True):
        assert sheet["coverage"][long] == pytest.approx(tone / 200, abs=0.004)
        assert report["millilitres"][name] == pytest.approx(area * 2 * tone / 200, abs=0.002)


def test_inks_are_called_otherwise_and_what_leans_on_them_goes_along(
    client, two, destination
) -> None:
    rules = {"tac": 160, "limits": {"Brick": 70}}
    assert change(client, destination, ink_rules=rules).status_code == 200
    template = client.get(f"/api/policies/templates/office-files?condition={two['id']}").json()
    policy = client.post(
        "/api/policies", {**template, "builds": {"Kiln": {"Brick": 80}}}, format="json"
    ).json()
    at = f"/api/conditions/{two['id']}"
    limited = {
        "ink_rules": {"limits": {"Brick": 90}},
        "supplies": {"inks": {"Brick": {"film": 2, "price": 31}}},
    }
    assert client.patch(at, limited, format="json").status_code == 200
    channels = [{"name": "Terracotta", "role": "colour"}, {"name": "Black", "role": "black"}]
    for wrong in (
        {"channels": channels[:1]},
        {"channels": [channels[1], channels[1]]},
        {"channels": [{**channels[0], "role": "light", "of": "Teal"}, channels[1]]},
        {"channels": [{**channels[0], "role": "gold"}, channels[1]]},
        {"channels": []},
        {},
    ):
        assert client.post(f"{at}/inks", wrong, format="json").status_code == 400, wrong
    body = {"channels": channels, "carry": True}
    done = client.post(f"{at}/inks", body, format="json")
    assert done.status_code == 200, done.content
    assert done.json()["moved"] == 2
    made = done.json()["condition"]
    assert [c["name"] for c in made["profile"]["inks"]["channels"]] == ["Terracotta", "K"]
    assert made["ink_rules"]["limits"] == {"Terracotta": 90}
    assert made["supplies"]["inks"]["Terracotta"]["price"] == 31
    assert "Brick" not in made["supplies"]["inks"]
    recipe = client.get(f"/api/destinations/{destination['id']}").json()["recipe"]
    assert recipe["ink_rules"]["limits"] == {"Terracotta": 70}
    assert recipe["destination"] == made["profile"]["sha256"]
    kept = client.get("/api/policies").json()
    (mine,) = (p["policy"] for p in kept if p["id"] == policy["id"])
    assert mine["builds"] == {"Kiln": {"Terracotta": 80}}
    assert mine["destination"] == made["profile"]["sha256"]
    again = client.post(f"{at}/inks", body, format="json")
    assert again.status_code == 409
    shipped = client.get("/api/conditions").json()
    (cmyk,) = (c["id"] for c in shipped if c["name"] == "Sheetfed coated")
    assert client.post(f"/api/conditions/{cmyk}/inks", body, format="json").status_code in (
        403,
        404,
    )


def test_a_picture_of_two_inks_is_artwork_of_a_job(client, two, conditions, tmp_path) -> None:
    y, x = np.mgrid[0:40, 0:60]
    tones = np.stack([x * 3, y * 4], axis=-1).astype(np.uint8)
    profile = load_profile(two["profile"]["sha256"])
    options = OutputOptions("TIFF", 8, profile=profile.data, resolution=(200, 200), inks=("Brick", "K"))  # fmt: skip
    write_picture(tmp_path / "two.tif", iter([tones]), tones.shape, options)
    artwork = upload(client, (tmp_path / "two.tif").read_bytes(), "two.tif").json()
    body = {"artwork": artwork["id"], "conditions": [conditions[0].pk]}
    job = client.post("/api/jobs", body, format="json").json()
    facts = job["artwork"]["facts"]
    assert (facts["space"], facts["inks"]) == ("2 inks", ["Brick", "K"])
    (at,) = (f"/api/destinations/{d['id']}" for d in job["destinations"][:1])
    own = client.post(f"{at}/retarget", {"condition": two["id"]}, format="json")
    assert own.status_code == 201, own.content
    rows = client.get(f"/api/jobs/{job['id']}").json()["destinations"]
    mine = next(d for d in rows if d["condition"]["id"] == two["id"])
    read = client.get(f"/api/destinations/{mine['id']}/readout", {"x": 20, "y": 10}).json()
    assert read["source"] == pytest.approx({"Brick": 60 / 2.55, "K": 40 / 2.55}, abs=0.06)
    assert read["inks"] == pytest.approx(read["source"], abs=0.1)
    other = client.get(f"{at}/readout", {"x": 20, "y": 10}).json()
    assert list(other["inks"]) == ["C", "M", "Y", "K"]
    for pane in ("original", "proof"):
        view = client.get(f"{at}/view.png", {"pane": pane, "x": 0, "y": 0, "w": 60, "h": 40, "columns": 60, "rows": 40})  # fmt: skip
        assert view.status_code == 200, view.content
    assert client.post(f"/api/destinations/{mine['id']}/deliveries").status_code == 201
    work_off()
    (done,) = client.get(f"/api/destinations/{mine['id']}/deliveries").json()
    data = b"".join(client.get(f"/api/deliveries/{done['id']}/file").streaming_content)
    assert np.abs(tifffile.imread(io.BytesIO(data)).astype(int) // 257 - tones).max() <= 1
    small = client.post("/api/swatch-lists/dominant", {"job": job["id"], "count": 4}, format="json")
    assert (small.status_code, small.json()["space"]) == (201, "2CLR")
    cloud = client.get("/api/gamuts", {"of": [f"condition:{conditions[0].pk}", f"picture:{job['id']}"]})  # fmt: skip
    assert len(cloud.json()["clouds"][0]["points"]) > 20


def test_a_single_ink_from_its_measurements_to_its_file(client, conditions, job) -> None:
    """A screen print of one colour: everything that is asked of a press is answered, or refused in words."""
    share = np.linspace(0, 1, 21)
    rows = "\n".join(f"{s * 100} {95 - 75 * s**0.8} {40 * s} {30 * s}" for s in share)
    head = (
        'CGATS.17\nINK_NAMES "Brick"\nBEGIN_DATA_FORMAT\n1CLR_1 LAB_L LAB_A LAB_B\nEND_DATA_FORMAT'
    )
    made = start(client, f"{head}\nBEGIN_DATA\n{rows}\nEND_DATA\n".encode(), tac=100, name="one", size="small")  # fmt: skip
    assert made.status_code == 201, made.content
    work_off()
    done = client.get(f"/api/builds/{made.json()['id']}").json()
    assert done["state"] == "done", done
    profile = done["profile"]
    assert [c["name"] for c in profile["inks"]["channels"]] == ["Brick"]
    found = client.get(f"/api/profiles/{profile['id']}/proposal").json()
    body = {"profile": profile["id"], "condition": {**found["condition"], "name": "One screen"}}
    condition = client.post("/api/conditions", body, format="json").json()
    first = job["destinations"][0]["id"]
    retarget = {"condition": condition["id"]}
    assert client.post(f"/api/destinations/{first}/retarget", retarget, format="json").status_code == 201  # fmt: skip
    destinations = client.get(f"/api/jobs/{job['id']}").json()["destinations"]
    (pk,) = [d["id"] for d in destinations if d["condition"]["id"] == condition["id"]]
    at = f"/api/destinations/{pk}"
    for asked in (
        "inks", "neutral", "ramp?hue=40", "limits", "readout?x=3&y=4", "fit", "check", "view.png?columns=40&rows=30",
        "view.png?columns=40&rows=30&map=tac", "view.png?columns=40&rows=30&plates=Brick&grey=1",
    ):  # fmt: skip
        answer = client.get(f"{at}/{asked}")
        assert answer.status_code == 200, (asked, answer.content[:300])
    assert list(client.get(f"{at}/inks").json()["coverage"]) == ["Brick"]
    ramp = client.get(f"{at}/neutral").json()["inks"]["Brick"]
    assert ramp[0] > 85
    assert ramp == sorted(ramp, reverse=True)
    for what in ("examination", "examination.pdf"):
        assert client.get(f"/api/profiles/{profile['id']}/{what}").status_code == 200, what
    for wanted in ({"format": "TIFF", "bits": 8}, {"format": "PDF"}):
        assert client.patch(at, {"delivery": wanted}, format="json").status_code == 200
        assert client.post(f"{at}/deliveries").status_code == 201
        work_off()
    assert [d["state"] for d in client.get(f"{at}/deliveries").json()] == ["done", "done"]
