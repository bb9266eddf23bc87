"""Soft masks that blend in RGB, made to blend in grey: what they cover stays the same.

A mask's opacity is the luminosity of what its group paints (ISO 32000-2, 11.5.3), which of device RGB is
0.3 R + 0.59 G + 0.11 B (10.4.2.2). It is linear, as mixing by opacity is, so that every colour can be
replaced by its grey before instead of after. What cannot be replaced exactly leaves the whole mask alone.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.document.pdf.bounds import check_size_of_stream
from plinto_core.document.pdf.copies import Original
from plinto_core.document.pdf.functions import numbers, read_function
from plinto_core.document.pdf.images import (
    KEPT_KEYS,
    decoded,
    image_facts,
    packed,
    read_samples,
)
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.errors import CoreError

LUMINOSITY = np.array([0.3, 0.59, 0.11])
_DEEPEST = 12
_GREY, _RGB = pikepdf.Name.DeviceGray, pikepdf.Name.DeviceRGB
_PLAIN_BLENDS = ("/Normal", "/Compatible")
_DEFAULTS = ("/DefaultRGB", "/DefaultGray")


class _NotExact(Exception):
    """Something in a mask has no grey of its own."""


def grey_masks(pdf: pikepdf.Pdf) -> int:
    """Have luminosity masks of device RGB blend in grey where that changes nothing; how many were changed."""
    changed, greys = 0, _Greys(pdf)
    for mask in _masks(pdf):
        try:
            backdrop = _grey(numbers(mask["/BC"])) if "/BC" in mask else None
            mask["/G"] = greys.form(mask["/G"], 0)
        except (_NotExact, CoreError, *UNREADABLE):
            continue
        if backdrop is not None:
            mask["/BC"] = pikepdf.Array(backdrop)
        changed += 1
    return changed


def _masks(pdf: pikepdf.Pdf) -> Iterator[Any]:
    """Luminosity masks whose group blends in device RGB, each once."""
    seen: set[tuple[int, int]] = set()
    for holder in pdf.objects:
        for state in _states(holder):
            mask = state.get("/SMask")
            if not isinstance(mask, pikepdf.Dictionary) or str(mask.get("/S")) != "/Luminosity":
                continue
            group = mask.get("/G")
            if not isinstance(group, pikepdf.Stream) or not _blends_in_rgb(group):
                continue
            if mask.objgen == (0, 0) or mask.objgen not in seen:
                seen.add(mask.objgen)
                yield mask


def _states(holder: Any) -> Iterator[Any]:
    """Graphics states that an object is or holds."""
    if not isinstance(holder, pikepdf.Dictionary | pikepdf.Stream):
        return
    if not isinstance(holder, pikepdf.Stream):
        yield holder
    resources = holder.get("/Resources")
    for within in (holder, resources):
        states = within.get("/ExtGState") if isinstance(within, pikepdf.Dictionary) else None
        if isinstance(states, pikepdf.Dictionary):
            # Those that are objects of their own come by themselves.
            yield from (
                s for s in states.values()
                if isinstance(s, pikepdf.Dictionary) and s.objgen == (0, 0)
            )  # fmt: skip


def _blends_in_rgb(form: Any) -> bool:
    group = form.get("/Group")
    return isinstance(group, pikepdf.Dictionary) and group.get("/CS") == _RGB


def _grey(values: list[float]) -> list[float]:
    if len(values) != 3:
        raise _NotExact
    return [round(float(np.clip(np.dot(LUMINOSITY, values), 0, 1)), 6)]


class _Greys:
    """Copies of what masks' groups paint, in grey: one of each form, however often it is drawn."""

    def __init__(self, pdf: pikepdf.Pdf) -> None:
        self._pdf = pdf
        self._made: dict[tuple[int, int], Any] = {}

    def form(self, form: Any, depth: int) -> Any:
        """A form, with what it holds; raises _NotExact, for the same form again at once."""
        key = form.objgen
        if key not in self._made:
            self._made[key] = None
            self._made[key] = self._form(form, depth)
        # None: it could not be made, or draws itself.
        if self._made[key] is None:
            raise _NotExact
        return self._made[key]

    def _form(self, form: Any, depth: int) -> Any:
        if depth > _DEEPEST:
            raise _NotExact
        # One without resources of its own that names any is damaged, and raises what is missing.
        resources = form.get("/Resources")
        resources = resources if isinstance(resources, pikepdf.Dictionary) else pikepdf.Dictionary()
        self._plain(resources)
        own = pikepdf.Dictionary(dict(resources.items()))
        data = self._content(form, own, depth)
        made = Original(data, {k: v for k, v in form.items() if k not in ("/Length", "/Filter", "/DecodeParms")}).copy(self._pdf)  # fmt: skip
        made["/Resources"] = own
        group = form.get("/Group")
        if isinstance(group, pikepdf.Dictionary):
            entries = dict(group.items())
            if entries.get("/CS") not in (None, _RGB, _GREY):
                raise _NotExact
            if "/CS" in entries:
                entries["/CS"] = _GREY
            made["/Group"] = pikepdf.Dictionary(entries)
        return made

    def _plain(self, resources: Any) -> None:
        """Raises _NotExact where device colours mean others, or are mixed by more than opacity."""
        spaces = resources.get("/ColorSpace", pikepdf.Dictionary())
        if any(name in spaces for name in _DEFAULTS):
            raise _NotExact
        for state in resources.get("/ExtGState", pikepdf.Dictionary()).values():
            if str(state.get("/BM", "/Normal")) not in _PLAIN_BLENDS or "/TR" in state:
                raise _NotExact

    def _content(self, form: Any, resources: Any, depth: int) -> bytes:
        written: list[Any] = []
        state, kept = {"fill": _GREY, "stroke": _GREY}, []
        check_size_of_stream(form)
        for instruction in pikepdf.parse_content_stream(form):
            if isinstance(instruction, pikepdf.ContentStreamInlineImage):
                if not bool(instruction.iimage.obj.get("/ImageMask", False)):
                    raise _NotExact
                written.append(instruction)
                continue
            operator, operands = str(instruction.operator), list(instruction.operands)
            if operator == "q":
                kept.append(dict(state))
            elif operator == "Q" and kept:
                state = kept.pop()
            elif operator.lower() in ("g", "rg", "k", "cs", "sc", "scn"):
                operator, operands = _coloured(operator, operands, state, resources)
            elif operator == "sh":
                operands = [self._named(resources, "/Shading", operands[0], depth)]
            elif operator == "Do":
                operands = [self._named(resources, "/XObject", operands[0], depth)]
            elif operator in ("Tf", "Tj", "TJ", "'", '"'):
                _no_drawn_glyphs(resources)
            written.append(pikepdf.ContentStreamInstruction(operands, pikepdf.Operator(operator)))
        return pikepdf.unparse_content_stream(written)

    def _named(self, resources: Any, kind: str, name: Any, depth: int) -> Any:
        """The name of a thing's grey copy among the resources."""
        given = resources.get(kind, pikepdf.Dictionary())
        thing, grey = given[str(name)], f"{name}InGrey"
        if grey not in given:
            made = self._shading(thing) if kind == "/Shading" else self._object(thing, resources, depth)  # fmt: skip
            own = pikepdf.Dictionary(dict(given.items()))
            own[grey] = made
            resources[kind] = own
        return pikepdf.Name(grey)

    def _object(self, thing: Any, resources: Any, depth: int) -> Any:
        if str(thing.get("/Subtype")) == "/Form":
            return self.form(thing, depth + 1)
        if bool(thing.get("/ImageMask", False)) or thing.get("/ColorSpace") == _GREY:
            return thing
        if thing.get("/ColorSpace") != _RGB or isinstance(thing.get("/Mask"), pikepdf.Array):
            raise _NotExact
        facts = image_facts(thing, resources)
        values = decoded(thing, read_samples(thing, facts), facts)
        full = float(np.iinfo(values.dtype).max)
        grey = np.rint(values.astype(np.float64) @ LUMINOSITY).clip(0, full).astype(values.dtype)
        data, how = packed(grey[..., None], None)
        made = pikepdf.Stream(
            self._pdf, data, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image,
            Width=facts.width, Height=facts.height, ColorSpace=_GREY,
            BitsPerComponent=values.dtype.itemsize * 8, **how,
        )  # fmt: skip
        for key in KEPT_KEYS:
            if key in thing:
                made[key] = thing[key]
        return made

    def _shading(self, thing: Any) -> Any:
        if thing.get("/ColorSpace") == _GREY:
            return thing
        # Meshes keep their colours in bits beside their corners.
        if thing.get("/ColorSpace") != _RGB or int(thing.get("/ShadingType", 0)) not in (1, 2, 3):
            raise _NotExact
        made = pikepdf.Dictionary(dict(thing.items()))
        made["/ColorSpace"] = _GREY
        made["/Function"] = self._function(thing["/Function"], 0)
        if "/Background" in thing:
            made["/Background"] = pikepdf.Array(_grey(numbers(thing["/Background"])))
        return self._pdf.make_indirect(made)

    def _function(self, function: Any, depth: int) -> Any:
        """A function of three outputs as one of their grey; linear between its ends, parts or samples."""
        if depth > _DEEPEST or isinstance(function, pikepdf.Array):
            raise _NotExact
        kind = int(function.get("/FunctionType", -1))
        entries = {k: v for k, v in function.items() if k != "/Range"}
        if kind == 2:
            entries["/C0"] = pikepdf.Array(_grey(numbers(function["/C0"])))
            entries["/C1"] = pikepdf.Array(_grey(numbers(function["/C1"])))
            return pikepdf.Dictionary(entries)
        if kind == 3:
            parts = [self._function(f, depth + 1) for f in function["/Functions"]]
            entries["/Functions"] = pikepdf.Array(parts)
            return pikepdf.Dictionary(entries)
        if kind == 0 and len(numbers(function["/Size"])) == 1:
            return self._sampled(function)
        raise _NotExact

    def _sampled(self, function: Any) -> Any:
        size = int(function["/Size"][0])
        low, high = numbers(function["/Domain"])
        if numbers(function.get("/Encode", pikepdf.Array([0, size - 1]))) != [0, size - 1]:
            raise _NotExact
        colours: Floats = read_function(function)(np.linspace(low, high, size)[:, None])
        if colours.shape[1] != 3:
            raise _NotExact
        grey = np.rint((colours @ LUMINOSITY).clip(0, 1) * 65535).astype(">u2")
        made = pikepdf.Stream(self._pdf, grey.tobytes())
        made["/FunctionType"], made["/Size"] = 0, pikepdf.Array([size])
        made["/Domain"], made["/Range"] = function["/Domain"], pikepdf.Array([0, 1])
        made["/BitsPerSample"] = 16
        return made


def _coloured(
    operator: str, operands: list[Any], state: dict[str, Any], resources: Any
) -> tuple[str, list[Any]]:
    """An operator that sets a colour or its space, for the same in grey."""
    side = "stroke" if operator.isupper() else "fill"
    plain = operator.lower()
    if plain in ("g", "rg"):
        state[side] = _GREY
        values = [float(v) for v in operands]
        return ("G" if side == "stroke" else "g"), _grey(values) if plain == "rg" else values
    if plain == "cs":
        space = resources.get("/ColorSpace", pikepdf.Dictionary()).get(str(operands[0]), operands[0])  # fmt: skip
        if space not in (_RGB, _GREY):
            raise _NotExact
        state[side] = space
        return operator, [_GREY]
    if plain == "k" or any(isinstance(v, pikepdf.Name) for v in operands):
        raise _NotExact
    values = [float(v) for v in operands]
    if state[side] == _RGB:
        return operator, _grey(values)
    if len(values) != 1:
        # A form that goes on with the space at hand where it is drawn.
        raise _NotExact
    return operator, values


def _no_drawn_glyphs(resources: Any) -> None:
    """Glyphs of Type 3 fonts are content of their own."""
    for font in resources.get("/Font", pikepdf.Dictionary()).values():
        if str(font.get("/Subtype")) == "/Type3":
            raise _NotExact
