"""Artwork in the inks of one press for another, and what would be printed if nobody converted."""

from __future__ import annotations

import io

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.icc import Profile
from plinto_core.transform.chain import convert
from plinto_core.transform.standard_spaces import standard_profile
from uploading import upload


@pytest.fixture
def inks_job(client, conditions, profile_bytes):
    rng = np.random.default_rng(4)
    blocks = np.kron(rng.integers(0, 230, (6, 8, 4), np.uint8), np.ones((15, 15, 1), np.uint8))
    file = io.BytesIO()
    tifffile.imwrite(
        file, blocks, photometric="separated", iccprofile=profile_bytes["sheetfed-coated"]
    )
    artwork = upload(client, file.getvalue()).json()
    body = {"artwork": artwork["id"], "conditions": [c.pk for c in conditions]}
    job = client.post("/api/jobs", body, format="json").json()
    return job, blocks


def view(client, destination, **query):
    asked = {"columns": 120, "rows": 90, **query}
    return client.get(f"/api/destinations/{destination}/view.png", asked)


def pixels(answer) -> np.ndarray:
    assert answer.status_code == 200, answer.content
    return np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB")).astype(int)


def test_numbers_as_they_are_are_shown_as_the_press_prints_them(client, inks_job, profile_bytes):
    job, blocks = inks_job
    news = next(d["id"] for d in job["destinations"] if d["condition"]["key"] == "newsprint")
    shown = pixels(view(client, news, pane="unconverted", plays="paper"))
    middle = blocks[7::15, 7::15].reshape(-1, 4) / 255
    press = Profile(profile_bytes["newsprint"])
    screen = convert(press, standard_profile("srgb"), middle, intent="absolute", bpc=False)
    assert np.abs(shown[7::15, 7::15].reshape(-1, 3) - screen * 255).max() <= 3
    converted = pixels(view(client, news, pane="proof", plays="paper"))
    assert np.abs(shown - converted).mean() > 3
    # No correction of the recipe has a part in it.
    changes = '{"corrections": [{"lightness": 60}]}'
    same = pixels(view(client, news, pane="unconverted", plays="paper", changes=changes))
    assert np.array_equal(same, shown)


def test_figures_stand_beside_each_other(client, inks_job):
    job, blocks = inks_job
    news = next(d["id"] for d in job["destinations"] if d["condition"]["key"] == "newsprint")
    asked = f"/api/destinations/{news}/unconverted"
    found = client.get(asked, {"changes": '{"intent": "relative", "bpc": false}'}).json()
    assert found["sent"]["de00"]["mean"] > found["converted"]["mean"] + 0.5
    most = blocks.reshape(-1, 4).astype(int).sum(axis=1).max() / 2.55
    assert found["sent"]["tac_max"] == pytest.approx(most, abs=0.2)


def test_only_numbers_of_the_same_kind_can_be_sent(client, job, inks_job):
    rgb = job["destinations"][0]["id"]
    assert client.get(f"/api/destinations/{rgb}/unconverted").json() == {
        "sent": None,
        "converted": None,
    }
    refused = view(client, rgb, pane="unconverted")
    assert refused.status_code == 409
    assert "another kind" in str(refused.json())
    own = next(
        d["id"] for d in inks_job[0]["destinations"] if d["condition"]["key"] == "sheetfed-coated"
    )
    assert view(client, own, pane="unconverted").status_code == 409
