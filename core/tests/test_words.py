"""Every sentence stands in a catalogue once, is used, and is made of the values that are given."""

from __future__ import annotations

import ast
import copy
import json
import pickle
import tomllib
from functools import cache
from pathlib import Path
from string import Formatter

import numpy as np
import pytest
from pydantic import BaseModel, ValidationError, field_validator

from plinto_core import words
from plinto_core.errors import BadInput, Cancelled, CoreError
from plinto_core.fields import why
from plinto_core.words import Said, say, word

CORE = Path(words.__file__).parents[1]
CATALOGUES = {
    p.stem: tomllib.loads(p.read_text("utf-8")) for p in (CORE / "words/en").glob("*.toml")
}
ENTRIES = {f"{p}.{n}": e for p, entries in CATALOGUES.items() for n, e in entries.items()}
ERRORS = {
    "CoreError",
    *(c.__name__ for c in (BadInput.__subclasses__() + CoreError.__subclasses__())),
}


@cache
def all_calls() -> dict[str, list[tuple[Path, ast.Call]]]:
    """Of functions by their bare name, in the whole core."""
    found: dict[str, list[tuple[Path, ast.Call]]] = {}
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name):
                found.setdefault(node.func.id, []).append((path, node))
    return found


def calls(name: str) -> list[tuple[Path, ast.Call]]:
    return all_calls().get(name, [])


def fields(entry: dict[str, str]) -> set[str]:
    return {f for text in entry.values() for _, f, _, _ in Formatter().parse(text) if f}


def test_every_sentence_has_the_values_it_is_made_of() -> None:
    wrong = []
    for path, call in calls("say"):
        code = call.args[0]
        if isinstance(code, ast.Constant) and isinstance(code.value, str):
            given = {k.arg for k in call.keywords}
            if code.value not in ENTRIES:
                wrong.append(f"{path.name}: {code.value} is in no catalogue")
            elif "one" in ENTRIES[code.value] and "count" not in given:
                wrong.append(f"{path.name}: {code.value} does not say how many")
            elif None not in given and fields(ENTRIES[code.value]) - given:
                wrong.append(
                    f"{path.name}: {code.value} lacks {fields(ENTRIES[code.value]) - given}"
                )
    assert wrong == []


def test_what_is_not_usable_is_worded_wherever_data_are_checked() -> None:
    root = CORE.parents[1]
    files = [*CORE.rglob("*.py"), *(root / "server").rglob("*.py"), *(root / "cli").rglob("*.py")]
    found = set()
    for path in files:
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.Call) or ast.unparse(node.func) != "checked":
                continue
            for argument in node.args[2:]:
                if isinstance(argument, ast.Constant) and isinstance(argument.value, str):
                    found.add(argument.value)
    assert len(found) > 8
    assert found <= set(ENTRIES)


def test_every_sentence_is_said_somewhere() -> None:
    source = "\n".join(
        p.read_text() for p in [*CORE.rglob("*.py"), *(CORE.parents[1] / "server").rglob("*.py")]
    )
    unused = [code for code in ENTRIES if f'"{code}"' not in source and not _composed(code, source)]
    assert unused == []


def _composed(code: str, source: str) -> bool:
    """Codes whose end is chosen by a name: of parts of profiles, checks, findings and the guard."""
    package, name = code.split(".", 1)
    if package == "preflight":
        return f'"{name.replace("-", " ")}"' in source
    return f'f"{package}.' in source and any(
        f'"{end}"' in source for end in (name, name.split("-", 1)[-1])
    )


def test_no_error_of_the_core_is_worded_where_it_is_raised() -> None:
    loose = [
        f"{path.relative_to(CORE)}:{call.lineno}"
        for name in ERRORS
        for path, call in calls(name)
        if call.args and isinstance(call.args[0], ast.Constant | ast.JoinedStr)
    ]
    assert loose == []


def test_no_two_errors_share_a_code_and_every_sentence_ends() -> None:
    assert len(ENTRIES) > 400
    for code, entry in ENTRIES.items():
        assert set(entry) <= {"says", "one", "remedy"}, code
        assert entry["says"].strip() == entry["says"] != "", code
        if "remedy" in entry:
            assert entry["remedy"].endswith("."), code


def test_a_sentence_is_text_with_a_code_and_values() -> None:
    said = say("icc.too-short", count=12)
    assert said == "The file has 12 bytes, too few for an ICC profile."
    assert (said.code, said.values) == ("icc.too-short", {"count": 12})
    assert said.remedy == "It is truncated or not a profile."
    error = BadInput(said)
    assert str(error) == f"{said} {said.remedy}"
    assert error.said.code == "icc.too-short"


def test_lists_are_joined_and_one_thing_has_its_own_wording() -> None:
    many = say("recipes.extra-channels", count=2, names=["White", "Varnish"])
    one = say("recipes.extra-channels", count=1, names=("White",))
    assert "2 channels beside its colours (White, Varnish)" in many
    assert "a channel beside its colours (White)" in one


def test_a_missing_value_or_code_is_an_error_of_ours() -> None:
    with pytest.raises(KeyError):
        say("icc.too-short")
    with pytest.raises(KeyError):
        say("icc.no-such-sentence")


def test_it_survives_json_pickles_and_copies() -> None:
    inner = say("icc.why-space", space="Lab")
    said = say("icc.no-source", profile="A", why=inner)
    for again in (
        Said.read(json.loads(json.dumps(said.as_json()))),
        pickle.loads(pickle.dumps(said)),
        copy.deepcopy(said),
    ):
        assert (str(again), again.code, again.remedy) == (str(said), said.code, said.remedy)
        assert isinstance(again.values["why"], Said)
        assert again.values["why"].code == "icc.why-space"
    error = pickle.loads(pickle.dumps(BadInput(said)))
    assert (error.said.code, error.remedy) == (said.code, said.remedy)
    assert pickle.loads(pickle.dumps(Cancelled())).said.code == "errors.cancelled"


def test_numbers_of_arrays_go_into_json() -> None:
    said = say("icc.tag-count", count=np.int64(7))
    assert said.as_json()["values"] == {"count": 7}
    assert json.dumps(say("printing.sheet-over", share=np.float32(2.5), tac=300.0).as_json())


class _Kept(BaseModel):
    notes: tuple[Said, ...]


def test_reports_keep_codes_and_read_text_from_before_there_were_any() -> None:
    kept = _Kept(notes=(say("document.few-ppi", ppi=72.0),))
    data = json.loads(kept.model_dump_json())
    assert data["notes"][0] == {
        "code": "document.few-ppi", "values": {"ppi": 72.0}, "text": "Fewer than 72 ppi.", "remedy": "",
    }  # fmt: skip
    again = _Kept.model_validate(data)
    assert again.notes[0].values == {"ppi": 72.0}
    old = _Kept.model_validate({"notes": ["Fewer than 72 ppi."]})
    assert (str(old.notes[0]), old.notes[0].code) == ("Fewer than 72 ppi.", "")
    with pytest.raises(ValueError, match="sentence"):
        _Kept.model_validate({"notes": [7]})


@pytest.mark.parametrize(
    "data",
    [
        {"code": "document.few-ppi", "values": {}, "text": "As it was."},
        {"code": "document.few-ppi", "values": {"ppi": "many"}, "text": "As it was."},
        {"code": "document.few-ppi", "values": ["x"], "text": "As it was."},
        {"code": "no.such", "values": {"ppi": 3}, "text": "As it was."},
        {"text": "As it was."},
    ],
)
def test_what_no_catalogue_words_any_more_keeps_its_text(data: dict[str, object]) -> None:
    assert str(Said.read(data)) == "As it was."


def test_another_language_is_another_folder(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "xx").mkdir()
    (tmp_path / "xx/icc.toml").write_text('[too-short]\nsays = "{count} Bytes sind zu wenig."\n')
    monkeypatch.setattr(words, "HERE", tmp_path)
    said = say("icc.too-short", count=3)
    assert str(word(said.code, said.values, "xx")) == "3 Bytes sind zu wenig."


def test_why_a_model_refuses_is_said_in_our_words_or_its_own() -> None:
    class Plain(BaseModel):
        one: int = 0
        two: int = 0

        @field_validator("one")
        @classmethod
        def _one(cls, value: int) -> int:
            raise ValueError(say("document.below-objects"))

        @field_validator("two")
        @classmethod
        def _two(cls, value: int) -> int:
            raise ValueError("an error of somebody else's")

    for data, wanted in (({"one": 1}, say("document.below-objects")), ({"two": 1}, "an error of somebody else's")):  # fmt: skip
        with pytest.raises(ValidationError) as refused:
            Plain.model_validate(data)
        assert why(refused.value.errors()[0]) == wanted
