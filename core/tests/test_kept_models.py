"""Every limit, default and choice of the core's models, as they were decided."""

from __future__ import annotations

import dataclasses
import importlib
import inspect
import pkgutil
from collections.abc import Iterator
from typing import Any

import pytest
from kept import as_kept, public_figures
from pydantic import BaseModel, ValidationError

import plinto_core


def _classes() -> Iterator[type]:
    seen = set()
    for found in pkgutil.walk_packages(plinto_core.__path__, "plinto_core."):
        module = importlib.import_module(found.name)
        for _, one in inspect.getmembers(module, inspect.isclass):
            if one.__module__ == module.__name__ and one not in seen:
                seen.add(one)
                yield one


def _plain(value: Any) -> Any:
    if isinstance(value, str | int | float | bool) or value is None:
        return value
    return (
        type(value).__name__ if not isinstance(value, tuple | list) else [_plain(v) for v in value]
    )


def _entries(model: type[BaseModel]) -> dict[str, Any]:
    """What the schema says of each entry, without the words that only explain."""
    schema = model.model_json_schema(mode="validation")
    said: dict[str, Any] = {}
    for name, field in schema.get("properties", {}).items():
        said[name] = {k: v for k, v in field.items() if k not in ("title", "description")}
        said[name]["must"] = name in schema.get("required", ())
    config = model.model_config
    return {"entries": said, "closed": config.get("extra"), "frozen": config.get("frozen", False)}


def test_limits_and_defaults_of_models() -> None:
    kept = {
        f"{one.__module__}.{one.__qualname__}": _entries(one)
        for one in _classes()
        if issubclass(one, BaseModel) and one is not BaseModel
    }
    assert len(kept) > 100
    as_kept("models", dict(sorted(kept.items())), abs=0)


def test_what_comes_in_has_no_number_that_is_not_finite() -> None:
    """JSON of other programs knows NaN and Infinity; no figure can be made of them."""
    loose = {
        f"{one.__module__}.{one.__qualname__}"
        for one in _classes()
        if issubclass(one, BaseModel)
        and one.model_config.get("extra") == "forbid"
        and one.model_config.get("allow_inf_nan") is not False
        and "number" in str(one.model_json_schema())
    }
    assert loose == set()


def test_defaults_of_records() -> None:
    """Records made without a value have the one that was decided; those that are shared do not change."""
    kept = {}
    for one in _classes():
        if not dataclasses.is_dataclass(one):
            continue
        defaults = {
            f.name: _plain(f.default)
            for f in dataclasses.fields(one)
            if f.default is not dataclasses.MISSING
        }
        shared = one.__dataclass_params__.frozen  # type: ignore[attr-defined]
        kept[f"{one.__module__}.{one.__qualname__}"] = [shared, defaults]
    as_kept("records", dict(sorted(kept.items())), abs=0)


def test_limits_and_tables_by_name() -> None:
    as_kept("figures-by-name", public_figures(plinto_core), rel=1e-9, abs=0)


@pytest.mark.parametrize("given", [None, 7, "x", [], [1], {"no such entry": 1}.keys()])
def test_what_is_no_object_is_refused_in_words(given) -> None:
    for one in _classes():
        if issubclass(one, BaseModel) and one is not BaseModel:
            with pytest.raises(ValidationError):
                one.model_validate(given)
