"""The corrected artwork delivered as a picture, worked on elsewhere, and brought back under its job."""

from __future__ import annotations

import hashlib
import io

import numpy as np
import pytest
import tifffile

from plinto_core.colorimetry import delta_e_2000
from plinto_core.transform.chain import convert, lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.profiles.models import StoredProfile
from uploading import upload
from working import work_off

LEFT = {"corners": [[-10, -10], [50, -10], [50, 110], [-10, 110]], "softness": 0}


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


@pytest.fixture
def corrected(client, destination, django_capture_on_commit_callbacks):
    def deliver(**body) -> tuple[dict, np.ndarray, bytes]:
        with django_capture_on_commit_callbacks(execute=True):
            answer = client.post(f"/api/destinations/{destination}/corrected", body, format="json")
        assert answer.status_code == 201, answer.content
        work_off()
        run = client.get(f"/api/deliveries/{answer.json()['id']}").json()
        assert run["state"] == "done", run
        data = b"".join(client.get(f"/api/deliveries/{run['id']}/file").streaming_content)
        with tifffile.TiffFile(io.BytesIO(data)) as file:
            profile = file.pages[0].tags[34675].value
        return run, tifffile.imread(io.BytesIO(data)), profile

    return deliver


def change(client, destination, **changes):
    answer = client.patch(f"/api/destinations/{destination}", changes, format="json")
    assert answer.status_code == 200, answer.content


def picture(wide: int, high: int, space: str = "oprgb") -> bytes:
    y, x = np.mgrid[0:high, 0:wide]
    data = np.stack([x * 65535 // wide, y * 65535 // high, 0 * x], axis=-1).astype(np.uint16)
    file = io.BytesIO()
    tifffile.imwrite(file, data, photometric="rgb", iccprofile=standard_profile(space).data)
    return file.getvalue()


def put(client, job, artwork, **more):
    body = {"artwork": artwork, **more}
    return client.post(f"/api/jobs/{job['id']}/artwork", body, format="json")


def test_without_corrections_the_numbers_are_the_artworks_own(
    client, destination, corrected, picture_bytes
) -> None:
    # Nothing of the press takes part: neither its mirror nor its rules nor its plates.
    change(client, destination, ink_rules={"tac": 200}, plates={"K": {"minimum": 5}},
           delivery={"mirror": True, "width_mm": 50, "format": "JPEG", "bits": 8})  # fmt: skip
    run, pixels, profile = corrected()
    assert np.array_equal(pixels, tifffile.imread(io.BytesIO(picture_bytes)))
    assert profile == standard_profile("oprgb").data
    assert run["file_name"] == "night sky_corrected.tif"
    assert run["corrected"]


def test_it_has_the_corrections_in_it_and_nothing_of_the_press(
    client, destination, corrected
) -> None:
    change(client, destination, corrections=[{"lightness": -40, "region": LEFT}, {"chroma": -30}],
           intent="perceptual", ink_rules={"tac": 200})  # fmt: skip
    _, pixels, _ = corrected()
    for x, y in ((20, 30), (100, 60), (70, 80)):
        read = client.get(f"/api/destinations/{destination}/readout", {"x": x, "y": y}).json()
        lab = lab_of_device(standard_profile("oprgb"), pixels[y, x][None] / 65535)
        assert delta_e_2000(lab, np.array([read["aim_lab"]]))[0] < 0.5
    read = client.get(f"/api/destinations/{destination}/readout", {"x": 20, "y": 30}).json()
    assert read["aim_lab"][0] < read["lab"][0] - 5


def test_it_can_be_written_in_another_space(client, destination, corrected, picture_bytes) -> None:
    _, pixels, profile = corrected(space="srgb")
    assert profile == standard_profile("srgb").data
    device = tifffile.imread(io.BytesIO(picture_bytes)).reshape(-1, 3) / 65535
    expected = convert(
        standard_profile("oprgb"), standard_profile("srgb"), device, intent="relative", bpc=True
    )
    errors = delta_e_2000(
        lab_of_device(standard_profile("srgb"), pixels.reshape(-1, 3) / 65535),
        lab_of_device(standard_profile("srgb"), expected),
    )
    # Where colours leave the smaller space, a grid follows the bend only nearly.
    assert errors.mean() < 0.1
    assert np.percentile(errors, 99) < 1.0
    refused = client.post(
        f"/api/destinations/{destination}/corrected", {"space": "0" * 64}, format="json"
    )
    assert refused.status_code == 400


def test_the_space_that_came_inside_the_picture_is_there_again_where_it_was_removed(
    client, conditions, django_capture_on_commit_callbacks
) -> None:
    own = bytearray(standard_profile("oprgb").data)
    own[84:100] = bytes(16)
    own[24:26] = (2021).to_bytes(2, "big")  # the year it was made: a profile nobody else has
    file = io.BytesIO()
    pixels = np.full((8, 8, 3), 128, np.uint8)
    tifffile.imwrite(file, pixels, photometric="rgb", iccprofile=bytes(own))
    body = {
        "artwork": upload(client, file.getvalue()).json()["id"],
        "conditions": [conditions[0].pk],
    }
    pk = client.post("/api/jobs", body, format="json").json()["destinations"][0]["id"]
    held = StoredProfile.objects.filter(sha256=hashlib.sha256(own).hexdigest())
    client.delete(f"/api/profiles/{held.get().pk}")
    for space, holders in (("srgb", []), (None, ["ada"]), (None, ["ada"])):
        asked = {"space": space} if space else {}
        with django_capture_on_commit_callbacks(execute=True):
            answer = client.post(f"/api/destinations/{pk}/corrected", asked, format="json")
        assert answer.status_code == 201
        assert list(held.get().holders.values_list("username", flat=True)) == holders


def test_its_ticket_names_no_press_and_it_can_be_run_again(
    client, destination, corrected, django_capture_on_commit_callbacks
) -> None:
    run, pixels, _ = corrected()
    ticket = client.get(f"/api/deliveries/{run['id']}/ticket.json").content.decode()
    assert "for no press" in ticket
    assert "Sheetfed" not in ticket
    with django_capture_on_commit_callbacks(execute=True):
        again = client.post(f"/api/deliveries/{run['id']}/again").json()
    assert again["corrected"]
    work_off()
    data = b"".join(client.get(f"/api/deliveries/{again['id']}/file").streaming_content)
    assert np.array_equal(tifffile.imread(io.BytesIO(data)), pixels)


def test_a_picture_brought_back_keeps_points_regions_and_recipe(client, job, destination) -> None:
    change(client, destination, corrections=[{"lightness": -40, "region": LEFT}], negative=True,
           intent="saturation", vivid={"strength": 20})  # fmt: skip
    points = [
        {"name": "a", "x": 10, "y": 20, "target": "50 0 0"},
        {"name": "b", "x": 119, "y": 89, "target": ""},
    ]
    client.put(f"/api/jobs/{job['id']}/points", points, format="json")
    twice = upload(client, picture(240, 180), "night sky worked on.tif").json()
    changed = put(client, job, twice["id"]).json()
    assert changed["artwork"]["id"] == twice["id"]
    assert changed["points"] == [
        {"name": "a", "x": 21, "y": 41, "target": "50 0 0"},
        {"name": "b", "x": 239, "y": 179, "target": ""},
    ]  # fmt: skip
    recipe = changed["destinations"][0]["recipe"]
    assert recipe["intent"] == "saturation"
    assert [(c["on"], c["region"] is not None) for c in recipe["corrections"]] == [(False, True)]
    assert (recipe["vivid"], recipe["negative"]) == (None, False)
    assert changed["destinations"][0]["facts"] == {}
    read = client.get(f"/api/destinations/{destination}/readout", {"x": 120, "y": 0}).json()
    assert read["source"]["R"] == pytest.approx(127.5, abs=1)
    # The former picture can be had again, with what the recipe said of it.
    assert [f["artwork"]["id"] for f in changed["former"]] == [job["artwork"]["id"]]
    back = put(client, job, job["artwork"]["id"], corrections_in_it=False).json()
    recipe = back["destinations"][0]["recipe"]
    assert [c["on"] for c in recipe["corrections"]] == [True]
    assert (recipe["vivid"]["strength"], recipe["negative"]) == (20, True)
    assert back["points"] == points
    assert [f["artwork"]["id"] for f in back["former"]] == [twice["id"]]


def test_corrections_that_are_not_in_it_go_on(client, job, destination) -> None:
    change(client, destination, corrections=[{"lightness": -40}], source="srgb")
    other = upload(client, picture(120, 90, "p3"), "retouched.tif").json()
    assert client.post(f"/api/destinations/{destination}/facts").json()["facts"]
    recipe = put(client, job, other["id"], corrections_in_it=False).json()["destinations"][0][
        "recipe"
    ]
    assert [c["on"] for c in recipe["corrections"]] == [True]
    # What was measured was measured on the former picture.
    assert client.get(f"/api/destinations/{destination}").json()["facts"] == {}
    # What overruled the former picture's profile has nothing to say of this one's.
    assert recipe["source"] is None


def test_another_shape_the_same_picture_and_strangers_pictures_are_refused(
    client, job, django_user_model
) -> None:
    cut = upload(client, picture(120, 80), "cut.tif").json()
    refused = put(client, job, cut["id"])
    assert refused.status_code == 409
    assert "120 × 80" in str(refused.json())
    assert put(client, job, job["artwork"]["id"]).status_code == 409
    nearly = upload(client, picture(61, 45), "smaller.tif").json()
    assert put(client, job, nearly["id"]).status_code == 200
    from rest_framework.test import APIClient

    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("bo", password="x"))
    theirs = upload(stranger, picture(120, 90), "theirs.tif").json()
    assert put(client, job, theirs["id"]).status_code == 400


def test_what_waits_is_made_of_the_picture_it_was_started_with(
    client, job, destination, django_capture_on_commit_callbacks, picture_bytes
) -> None:
    with django_capture_on_commit_callbacks(execute=True):
        run = client.post(f"/api/destinations/{destination}/corrected", {}, format="json").json()
    other = upload(client, picture(120, 90), "other.tif").json()
    assert put(client, job, other["id"]).status_code == 200
    work_off()
    assert Run.objects.get(pk=run["id"]).state == "done"
    data = b"".join(client.get(f"/api/deliveries/{run['id']}/file").streaming_content)
    assert np.array_equal(
        tifffile.imread(io.BytesIO(data)), tifffile.imread(io.BytesIO(picture_bytes))
    )
