"""Files that are taken out come as files, with their names."""

from __future__ import annotations

import pytest

from plinto_server.apps.profiles.services import store_profile
from test_kept_responses import made, press
from working import work_off

__all__ = ["made", "press"]


def disposition(answer) -> str:
    assert answer.status_code == 200, answer
    if answer.streaming:
        assert b"".join(answer.streaming_content)
    return answer["Content-Disposition"]


@pytest.mark.parametrize(
    ("description", "name"),
    [("Press 2, coated", "Press-2--coated"), ("...", "profile"), ("-a-", "a")],
)
def test_a_profile_is_called_as_it_says(client, press, description, name) -> None:
    from handmade import linear_press

    stored = store_profile(linear_press(description).data, "shipped")
    assert (
        disposition(client.get(f"/api/profiles/{stored.pk}/file"))
        == f'attachment; filename="{name}.icc"'
    )


def test_what_was_made_of_a_job_comes_as_files(
    client, made, press, django_capture_on_commit_callbacks
) -> None:
    pk = made["destinations"][0]["id"]
    with django_capture_on_commit_callbacks(execute=True):
        run = client.post(f"/api/destinations/{pk}/deliveries", {}, format="json").json()
        proof = client.post(
            f"/api/destinations/{pk}/proofs",
            {"proofer": press.pk, "settings": {"resolution": 60}},
            format="json",
        ).json()
    work_off()
    for address in (
        f"deliveries/{run['id']}/file", f"deliveries/{run['id']}/ticket.pdf", f"proofs/{proof['id']}/file", f"proofs/{proof['id']}/ticket.pdf",
        f"conditions/{press.pk}/file", f"destinations/{pk}/package",
    ):  # fmt: skip
        assert disposition(client.get(f"/api/{address}")).startswith("attachment; filename="), (
            address
        )


@pytest.mark.parametrize(
    ("delivery", "why"), [({"films": {"resolution": 300}}, "Films"), ({"apart": True}, "every ink")]
)
def test_films_and_inks_apart_are_not_printed(
    client, made, press, delivery, why, django_capture_on_commit_callbacks
) -> None:
    pk = made["destinations"][0]["id"]
    client.patch(f"/api/destinations/{pk}", {"delivery": delivery}, format="json")
    with django_capture_on_commit_callbacks(execute=True):
        run = client.post(f"/api/destinations/{pk}/deliveries", {}, format="json").json()
    work_off()
    printer = client.post("/api/printers", {"name": "North press"}, format="json").json()
    template = client.get("/api/policies/templates/bare-cmyk", {"condition": press.pk}).json()
    policy = client.post("/api/policies", template, format="json").json()
    body = {
        "name": "Gloss",
        "condition": press.pk,
        "policy": policy["id"],
        "duty": {"manager": "plinto", "driver": "off", "rip": "off"},
        "settings": {},
    }
    medium = client.post(f"/api/printers/{printer['id']}/media", body, format="json").json()
    answer = client.post(
        "/api/prints", {"medium": medium["id"], "delivery": run["id"]}, format="json"
    )
    assert answer.status_code == 409
    assert why in answer.json()["title"]
