from __future__ import annotations

import hashlib
from types import SimpleNamespace

import pytest
from rest_framework import exceptions
from rest_framework.exceptions import ValidationError

from plinto_core.errors import BadImage, BadRecipe
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.words import say
from plinto_server import store
from plinto_server.apps.profiles.services import load_table
from plinto_server.errors import handle


def test_equal_files_are_kept_once_under_their_hash() -> None:
    data = b"the same bytes"
    one, two = store.put_bytes(data), store.put_bytes(data)
    assert one == two == hashlib.sha256(data).hexdigest()
    assert store.path_of(one).read_bytes() == data
    assert store.path_of(one).stat().st_mode & 0o777 == 0o444


@pytest.mark.parametrize("digest", ["", "abc", "../" * 21 + "x", "G" * 64, "0" * 63 + "/"])
def test_only_hashes_name_files(digest) -> None:
    with pytest.raises(ValueError, match="SHA-256"):
        store.path_of(digest)


def test_scratch_disappears_also_after_a_failure() -> None:
    used = []

    def fail() -> None:
        with store.scratch(".tif") as path:
            path.write_bytes(b"x")
            used.append(path)
            raise RuntimeError

    with pytest.raises(RuntimeError):
        fail()
    assert not used[0].parent.exists()


def test_a_core_error_becomes_a_problem_with_its_remedy() -> None:
    answer = handle(BadImage("It is broken.", remedy="Send it again."), {})
    assert answer.status_code == 400
    assert answer.data == {
        "status": 400,
        "code": "bad-image",
        "title": "It is broken.",
        "remedy": "Send it again.",
        "reason": "",
        "values": {},
        "errors": [],
    }


def test_a_problem_names_its_sentence_and_the_field_at_fault() -> None:
    answer = handle(BadImage(say("imaging.tiff-depth", bits=12)), {})
    assert (answer.data["reason"], answer.data["values"]) == ("imaging.tiff-depth", {"bits": 12})
    with pytest.raises(BadRecipe) as refused:
        parse_ink_rules({"tac": 280, "limits": {"C": 130}})
    found = handle(refused.value, {}).data
    assert found["reason"] == "inks.rules-not-usable"
    assert found["errors"] == [
        {"field": "limits", "message": "the limit of C must lie between 0 and 100 %"}
    ]


def test_every_field_that_a_serializer_refuses_is_named() -> None:
    error = ValidationError({"name": ["Too long."], "settings": {"heat": ["No number."]}})
    assert handle(error, {}).data["errors"] == [
        {"field": "name", "message": "Too long."},
        {"field": "settings.heat", "message": "No number."},
    ]
    assert handle(ValidationError(["It does not fit."]), {}).data["errors"] == []


def test_an_unexpected_error_tells_nothing_of_the_inside(caplog) -> None:
    answer = handle(ZeroDivisionError("secret detail"), {"view": SimpleNamespace()})
    assert answer.status_code == 500
    assert "secret" not in str(answer.data)
    assert "secret detail" in caplog.text


def test_the_first_field_at_fault_is_named() -> None:
    error = exceptions.ValidationError({"delivery": {"bits": ["Not a valid choice."]}})
    assert handle(error, {}).data["title"] == "bits: Not a valid choice."


@pytest.mark.parametrize(
    ("reference", "why"), [("0" * 64, "not in the store"), ("../../etc", "not known here")]
)
def test_a_colour_table_that_is_gone_is_said(reference, why) -> None:
    with pytest.raises(BadRecipe) as error:
        load_table(reference)
    assert why in str(error.value)
