"""Every sentence of errors, findings and notes, worded once.

The core says a code with values; the sentence to it stands in a catalogue, one file of TOML for each
package of the core: `en/inks.toml` holds what begins with `inks.`. An entry has

    says    the sentence, values in braces as Python formats them; lists are joined by commas
    one     the same where the value `count` is 1
    remedy  what the reader can do, or nothing

A second language is a second folder with the same codes.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping, Sequence
from functools import cache
from numbers import Integral
from pathlib import Path
from string import Formatter
from typing import TYPE_CHECKING, Any, TypeAlias, cast

if TYPE_CHECKING:
    from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
    from pydantic_core import core_schema

Value: TypeAlias = "str | float | bool | Sequence[Value] | None"
HERE = Path(__file__).parent
LANGUAGE = "en"


class Said(str):
    """A sentence that knows its code and the values it is made of; used like any text.

    In JSON it is an object of `code`, `values`, `text` and `remedy`, and is worded anew when it is read again;
    text without a code, as kept before there were codes, stays as it is.
    """

    code: str
    values: Mapping[str, Value]
    remedy: str

    def __new__(
        cls, text: str, code: str = "", values: Mapping[str, Value] | None = None, remedy: str = ""
    ) -> Said:
        made = super().__new__(cls, text)
        made.code, made.values, made.remedy = code, dict(values or {}), remedy
        return made

    def __getnewargs__(self) -> tuple[Any, ...]:
        return (str(self), self.code, self.values, self.remedy)

    def as_json(self) -> dict[str, Any]:
        """Code, values, text and remedy."""
        return {
            "code": self.code,
            "values": {k: _plain(v) for k, v in self.values.items()},
            "text": str(self),
            "remedy": self.remedy,
        }

    @classmethod
    def read(cls, given: Any) -> Said:
        """From a sentence, or from its JSON; raises ValueError for anything else."""
        if isinstance(given, Said):
            return given
        if isinstance(given, str):
            return cls(given)
        if isinstance(given, Mapping) and isinstance(given.get("text"), str):
            code, values = given.get("code") or "", given.get("values") or {}
            if isinstance(values, Mapping) and code in _catalogue(LANGUAGE):
                inner = {str(k): _inner(v) for k, v in values.items()}
                try:
                    return say(str(code), **inner)
                except (KeyError, ValueError, TypeError, IndexError):
                    # A sentence of another version took other values.
                    pass
            return cls(given["text"], str(code), remedy=str(given.get("remedy") or ""))
        raise ValueError("a sentence is text, or code, values and text")

    @classmethod
    def __get_pydantic_core_schema__(
        cls, source: Any, handler: GetCoreSchemaHandler
    ) -> core_schema.CoreSchema:
        # Not above: the list of commands words its errors without the models.
        from pydantic_core import core_schema

        return core_schema.no_info_plain_validator_function(
            cls.read,
            serialization=core_schema.plain_serializer_function_ser_schema(
                lambda said: cls.read(said).as_json(), when_used="json"
            ),
        )

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        return {"title": TITLE, **SCHEMA}


def say(code: str, **values: Any) -> Said:
    """The sentence of a code, "package.name", with its values; raises KeyError for a code or a value
    that is missing."""
    return word(code, values)


def word(code: str, values: Mapping[str, Any], language: str = LANGUAGE) -> Said:
    """The same in a language that there is a folder for."""
    entry = _catalogue(language)[code]
    one = entry.get("one") if values.get("count") == 1 else None
    form = _JOINS.vformat
    return Said(
        form(one or entry["says"], (), values),
        code,
        values,
        form(entry.get("remedy", ""), (), values),
    )


@cache
def _catalogue(language: str) -> dict[str, dict[str, str]]:
    found: dict[str, dict[str, str]] = {}
    for path in sorted((HERE / language).glob("*.toml")):
        entries = cast("dict[str, dict[str, str]]", tomllib.loads(path.read_text("utf-8")))
        found.update({f"{path.stem}.{name}": entry for name, entry in entries.items()})
    return found


TITLE = "SentenceOfTheCore"
"""By which a sentence is known among the parts of a schema."""
SCHEMA: dict[str, Any] = {
    "type": "object",
    "description": "A sentence: its code, the values it is made of, its wording, and what can be done.",
    "properties": {
        "code": {"type": "string"},
        "values": {"type": "object", "additionalProperties": True},
        "text": {"type": "string"},
        "remedy": {"type": "string"},
    },
    "required": ["code", "values", "text", "remedy"],
}
"""Of a sentence in JSON."""


class _Joins(Formatter):
    """Format strings whose lists are joined by commas and whose None is nothing."""

    def format_field(self, value: Any, format_spec: str) -> str:
        if value is None:
            return ""
        if isinstance(value, list | tuple):
            return ", ".join(format(v, format_spec) for v in value)
        return format(value, format_spec)


_JOINS = _Joins()


def _plain(value: Any) -> Any:
    if isinstance(value, Said):
        return value.as_json()
    if isinstance(value, list | tuple):
        return [_plain(v) for v in value]
    if value is None or isinstance(value, str | bool):
        return value
    if isinstance(value, Integral):
        return int(value)
    try:
        return float(value)
    except (TypeError, ValueError):
        return str(value)


def _inner(value: Any) -> Any:
    if isinstance(value, Mapping) and "text" in value:
        return Said.read(value)
    if isinstance(value, list):
        return [_inner(v) for v in value]
    return value
