"""Questions through the API: with one's own parts only, as data and as pages."""

from __future__ import annotations

import pypdfium2
import pytest

from plinto_core.icc import Profile
from plinto_core.questions.profiles import greys_grey, reaches_total, step_tones
from plinto_core.questions.proofing import still_alike
from plinto_server.apps.profiles.models import StoredProfile


@pytest.fixture
def parts(job, conditions) -> dict[str, str]:
    a, b = (str(c.profile.pk) for c in conditions)
    return {
        "press": a, "proofer": b, "first": a, "second": b, "source": a, "destination": b,
        "profile": a, "picture": str(job["id"]), "asked": "320", "mean": "2", "intent": "relative",
        "bpc": "off",
    }  # fmt: skip


def asked(client) -> dict[str, list[str]]:
    found = client.get("/api/questions").json()["questions"]
    return {q["key"]: [p["key"] for p in q["parts"]] for q in found}


def test_every_question_is_answered_and_makes_pages(client, parts) -> None:
    for key, needed in asked(client).items():
        query = {p: parts[p] for p in needed}
        found = client.get(f"/api/questions/{key}", query)
        assert found.status_code == 200, (key, found.content)
        answer = found.json()
        assert answer["said"]
        assert answer["done"]
        assert len(answer["parts"]) == len(needed)
        pages = client.get(f"/api/questions/{key}.pdf", query)
        text = pypdfium2.PdfDocument(pages.content)[0].get_textpage().get_text_range()
        assert answer["asked"] in text


def test_the_answer_is_the_cores(client, parts, profile_bytes) -> None:
    query = {"first": parts["first"], "second": parts["second"], "mean": "2"}
    found = client.get("/api/questions/alike", query).json()
    expected = still_alike(
        *(Profile(profile_bytes[k]) for k in ("sheetfed-coated", "newsprint")), 2
    )
    assert found["said"] == expected.said
    assert found["figures"] == expected.model_dump(mode="json")["figures"]
    assert found["parts"] == {
        "First": "Sheetfed coated", "Second": "Newsprint", "Alike up to": "2 ΔE00"
    }  # fmt: skip


def test_a_picture_is_asked_about_by_its_job(client, parts) -> None:
    query = {p: parts[p] for p in ("picture", "first", "second")}
    found = client.get("/api/questions/suit", query).json()
    assert found["verdict"] == "first"
    assert found["parts"]["Picture"] == "Night sky"


@pytest.mark.parametrize(
    ("key", "change"),
    [
        ("greys", {"profile": ""}), ("greys", {"profile": "x"}), ("greys", {"profile": "1e400"}),
        ("greys", {"profile": "-1"}), ("greys", {"profile": "1.5"}), ("greys", {"intent": "loud"}),
        ("greys", {"bpc": "maybe"}), ("total", {"asked": "nan"}), ("total", {"asked": "9999"}),
        ("suit", {"picture": "99999"}), ("greys", {"profile": "99999"}), ("greys", {"press": "1"}),
    ],
)  # fmt: skip
def test_parts_that_are_none_are_refused(client, parts, key, change) -> None:
    query = {p: parts[p] for p in asked(client)[key]} | change
    answer = client.get(f"/api/questions/{key}", query)
    # A part of another question is known here, and has no say.
    assert answer.status_code == (200 if change == {"press": "1"} else 400), answer.content


def test_others_profiles_and_jobs_are_not_known(client, parts, django_user_model, job) -> None:
    from rest_framework.test import APIClient

    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("bo", password="x"))
    query = {p: parts[p] for p in ("picture", "first", "second")}
    assert stranger.get("/api/questions/suit", query).status_code == 400
    own = StoredProfile.objects.get(pk=parts["first"])
    own.origin = "uploaded"
    own.save()
    assert stranger.get("/api/questions/greys", {"profile": own.pk}).status_code == 400
    assert client.get("/api/questions/nothing").status_code == 404
    assert stranger.get("/api/questions/greys", {}).status_code == 400


@pytest.mark.parametrize("bpc", ["on", "off"])
@pytest.mark.parametrize("intent", ["relative", "perceptual"])
def test_intent_and_black_point_reach_the_core(client, parts, profile_bytes, intent, bpc) -> None:
    one, other = (Profile(profile_bytes[k]) for k in ("sheetfed-coated", "newsprint"))
    way = {"intent": intent, "bpc": bpc}
    for key, given, wanted in (
        ("tones", ("source", "destination"), step_tones(one, other, intent, bpc=bpc == "on")),
        ("greys", ("profile",), greys_grey(one, intent, bpc=bpc == "on")),
    ):
        found = client.get(f"/api/questions/{key}", {p: parts[p] for p in given} | way).json()
        assert found["figures"] == wanted.model_dump(mode="json")["figures"]
    total = client.get("/api/questions/total", {"profile": parts["profile"], "asked": "310"}).json()
    assert total["figures"] == reaches_total(one, 310).model_dump(mode="json")["figures"]
