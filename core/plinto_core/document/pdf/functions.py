"""PDF functions of types 0, 2, 3 and 4 (ISO 32000-2, 7.10), evaluated on arrays."""

from __future__ import annotations

import hashlib
import math
import re
from collections.abc import Callable
from itertools import product
from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.document.pdf.bounds import MOST_OF_A_FUNCTION, read_bounded, spend
from plinto_core.errors import BadDocument, NotSupported
from plinto_core.words import say

Function = Callable[[Floats], Floats]
"""(n, inputs) to (n, outputs)."""
_DEEPEST = 8
_MOST_SAMPLES = 4_000_000
_MOST_INPUTS = 12
"""Every input doubles the corners that are weighed for a colour."""


def read_function(source: Any, depth: int = 0) -> Function:
    """A function object, or an array of one-output functions; raises BadDocument."""
    if depth > _DEEPEST:
        raise BadDocument(say("document.functions-deep"))
    if isinstance(source, pikepdf.Array):
        parts = [read_function(f, depth + 1) for f in source]
        return lambda x: np.concatenate([p(x) for p in parts], axis=1)
    kind = int(source.get("/FunctionType", -1))
    domain = _pairs(source.get("/Domain"))
    if kind == 0:
        inner = _sampled(source, domain)
    elif kind == 2:
        inner = _exponential(source)
    elif kind == 3:
        inner = _stitched(source, domain, depth)
    elif kind == 4:
        inner = _calculator(source)
    else:
        raise BadDocument(say("document.function-type", kind=kind))
    limits = _pairs(source.get("/Range")) if "/Range" in source else None

    def evaluate(x: Floats) -> Floats:
        held = np.clip(x[:, : len(domain)], domain[:, 0], domain[:, 1])
        out = inner(held)
        return out if limits is None else np.clip(out[:, : len(limits)], limits[:, 0], limits[:, 1])

    return evaluate


def digest_of(source: Any, depth: int = 0) -> str:
    """What tells a function object from another: its entries and samples, wherever it stands."""
    if depth > _DEEPEST:
        raise BadDocument(say("document.functions-deep"))
    if isinstance(source, pikepdf.Array):
        whole = "[" + " ".join(digest_of(part, depth + 1) for part in source) + "]"
    elif isinstance(source, pikepdf.Dictionary | pikepdf.Stream):
        entries = [
            f"{key}={digest_of(source[key], depth + 1)}"
            for key in sorted(source.keys())
            if key not in ("/Length", "/Metadata")
        ]
        raw = source.read_raw_bytes() if isinstance(source, pikepdf.Stream) else b""
        whole = " ".join([*entries, hashlib.sha256(raw).hexdigest()])
    else:
        return repr(source)
    return hashlib.sha256(whole.encode()).hexdigest()[:20]


def numbers(source: Any) -> list[float]:
    """Plain floats of a PDF array; raises BadDocument for anything else."""
    try:
        values = [float(v) for v in source]
    except (TypeError, ValueError) as error:
        raise BadDocument(say("document.words-for-numbers")) from error
    if not all(math.isfinite(v) for v in values):
        raise BadDocument(say("document.numbers-none"))
    return values


def _pairs(source: Any) -> Floats:
    values = numbers(source if source is not None else ())
    if not values or len(values) % 2:
        raise BadDocument(say("document.function-domain"))
    return np.array(values).reshape(-1, 2)


def _exponential(source: Any) -> Function:
    low = np.array(numbers(source.get("/C0", [0])))
    high = np.array(numbers(source.get("/C1", [1])))
    power = float(source.get("/N", 1))
    if low.shape != high.shape:
        raise BadDocument(say("document.interpolation-ends"))
    return lambda x: low + np.abs(x[:, :1]) ** power * (high - low)


def _sampled(source: Any, domain: Floats) -> Function:
    size = [int(v) for v in source.get("/Size", [])]
    bits = int(source.get("/BitsPerSample", 8))
    limits = _pairs(source.get("/Range"))
    if (
        len(size) != len(domain)
        or min(size, default=0) < 1
        or bits not in (1, 2, 4, 8, 12, 16, 24, 32)
    ):
        raise BadDocument(say("document.sampled-contradicts"))
    count = math.prod(size) * len(limits)
    if sum(s > 1 for s in size) > _MOST_INPUTS:
        raise BadDocument(say("document.sampled-inputs"))
    if count > _MOST_SAMPLES:
        raise BadDocument(say("document.sampled-large"))
    raw = np.frombuffer(read_bounded(source, MOST_OF_A_FUNCTION, "A function"), np.uint8)
    samples = unpack(raw, bits, count) / float(2**bits - 1)
    encode = (
        _pairs(source.get("/Encode"))
        if "/Encode" in source
        else np.array([[0, s - 1] for s in size], dtype=float)
    )
    decode = _pairs(source.get("/Decode")) if "/Decode" in source else limits
    # The first input varies fastest.
    grid = samples.reshape(*size[::-1], len(limits))
    grid = decode[:, 0] + grid * (decode[:, 1] - decode[:, 0])

    def evaluate(x: Floats) -> Floats:
        share = (x - domain[:, 0]) / np.maximum(domain[:, 1] - domain[:, 0], 1e-12)
        at = np.clip(encode[:, 0] + share * (encode[:, 1] - encode[:, 0]), 0, np.array(size) - 1)
        low = np.minimum(np.floor(at).astype(int), np.maximum(np.array(size) - 2, 0))
        part = at - low
        out = np.zeros((x.shape[0], len(limits)))
        # Inputs with one sample have no second corner.
        for corner in product(*(((0, 1) if s > 1 else (0,)) for s in size)):
            index = np.minimum(low + np.array(corner), np.array(size) - 1)
            weight = np.prod(np.where(np.array(corner) == 1, part, 1 - part), axis=1)
            out += weight[:, None] * grid[tuple(index[:, ::-1].T)]
        return out

    return evaluate


def unpack(raw: np.ndarray, bits: int, count: int) -> np.ndarray:
    """`count` unsigned samples of 1 to 32 bits, most significant bit first, without row padding."""
    needed = (count * bits + 7) // 8
    if raw.size < needed:
        raise BadDocument(say("document.data-short"))
    raw = raw[:needed]
    if bits == 8:
        return raw[:count].astype(np.int64)
    if bits in (16, 32):
        return raw.view(f">u{bits // 8}")[:count].astype(np.int64)
    if bits == 24:
        whole = raw.reshape(-1, 3).astype(np.int64)
        return whole[:, 0] << 16 | whole[:, 1] << 8 | whole[:, 2]
    single = np.unpackbits(raw)[: count * bits].reshape(-1, bits).astype(np.int64)
    return single @ (1 << np.arange(bits - 1, -1, -1))


def _stitched(source: Any, domain: Floats, depth: int) -> Function:
    parts = [read_function(f, depth + 1) for f in source.get("/Functions", [])]
    bounds = numbers(source.get("/Bounds", []))
    encode = _pairs(source.get("/Encode"))
    if not parts or len(bounds) != len(parts) - 1 or len(encode) != len(parts):
        raise BadDocument(say("document.stitched-contradicts"))
    edges = [domain[0, 0], *bounds, domain[0, 1]]

    def evaluate(x: Floats) -> Floats:
        which = np.searchsorted(bounds, x[:, 0], side="right")
        out: Floats | None = None
        for k, part in enumerate(parts):
            here = which == k
            if not here.any():
                continue
            width = edges[k + 1] - edges[k]
            share = (x[here, :1] - edges[k]) / width if width else np.zeros((int(here.sum()), 1))
            value = part(encode[k, 0] + share * (encode[k, 1] - encode[k, 0]))
            if out is None:
                out = np.zeros((x.shape[0], value.shape[1]))
            out[here] = value
        return out if out is not None else np.zeros((0, 1))

    return evaluate


_TOKEN = re.compile(rb"[{}]|[^\s{}]+")
_MOST_TOKENS = 10_000
_AT_ONCE = 1 << 15
"""Values that a calculator function is run for together; so many of a column stay near the processor."""
_FAR = 1e300


def _calculator(source: Any) -> Function:
    tokens = _TOKEN.findall(read_bounded(source, 1 << 20, "A function"))
    if len(tokens) > _MOST_TOKENS:
        raise BadDocument(say("document.calculator-long"))
    program, rest = _block(tokens[1:], 0) if tokens[:1] == [b"{"] else ([], [b"?"])
    if rest:
        raise BadDocument(say("document.calculator-malformed"))

    cost = _cost(program)

    def evaluate(x: Floats) -> Floats:
        spend(cost * len(x))
        parts = [_run_on(program, x[i : i + _AT_ONCE]) for i in range(0, len(x), _AT_ONCE)]
        if len({part.shape[1] for part in parts}) > 1:
            raise BadDocument(say("document.calculator-unsteady"))
        return np.concatenate(parts) if parts else np.zeros((0, 1))

    return evaluate


def _cost(program: list[Any]) -> int:
    return sum(_cost(item) if isinstance(item, list) else 1 for item in program)


def _run_on(program: list[Any], x: Floats) -> Floats:
    """(n, inputs) to (n, whatever the stack holds)."""
    with np.errstate(all="ignore"):
        stack = _run(program, [np.array(column) for column in x.T], len(x))
    found = np.stack(stack, axis=1) if stack else np.zeros((len(x), 0))
    return np.nan_to_num(found, nan=0.0, posinf=_FAR, neginf=-_FAR)


def _block(tokens: list[bytes], depth: int) -> tuple[list[Any], list[bytes]]:
    if depth > 32:
        raise BadDocument(say("document.calculator-deep"))
    out: list[Any] = []
    while tokens:
        word, tokens = tokens[0], tokens[1:]
        if word == b"}":
            return out, tokens
        if word == b"{":
            inner, tokens = _block(tokens, depth + 1)
            out.append(inner)
            continue
        try:
            out.append(float(word))
        except ValueError:
            out.append(word.decode("latin-1"))
    raise BadDocument(say("document.calculator-endless"))


def _whole(a: Floats) -> Any:
    return np.clip(np.trunc(np.nan_to_num(a)), -(2**31), 2**31 - 1).astype(np.int64)


def _divided(a: Floats, b: Floats) -> Floats:
    return np.where(b != 0, a / np.where(b != 0, b, 1.0), 0.0)


def _shifted(a: Floats, b: Floats) -> Any:
    value, by = _whole(a), np.clip(_whole(b), -31, 31)
    return np.where(by >= 0, value << np.maximum(by, 0), value >> np.maximum(-by, 0))


_ONE: dict[str, Callable[[Floats], Any]] = {
    "abs": np.abs, "neg": np.negative, "ceiling": np.ceil, "floor": np.floor,
    "round": lambda a: np.floor(a + 0.5), "truncate": np.trunc, "sqrt": lambda a: np.sqrt(np.maximum(a, 0)),
    "sin": lambda a: np.sin(np.radians(a)), "cos": lambda a: np.cos(np.radians(a)),
    "ln": lambda a: np.log(np.maximum(a, 1e-300)), "log": lambda a: np.log10(np.maximum(a, 1e-300)),
    "cvi": np.trunc, "cvr": np.array, "not": lambda a: a == 0,
}  # fmt: skip
_TWO: dict[str, Callable[[Floats, Floats], Any]] = {
    "add": np.add, "sub": np.subtract, "mul": np.multiply, "div": _divided,
    "idiv": lambda a, b: np.trunc(_divided(_whole(a), _whole(b))),
    "mod": lambda a, b: np.where(_whole(b) != 0, np.fmod(_whole(a), np.where(_whole(b) != 0, _whole(b), 1)), 0),
    "atan": lambda a, b: np.degrees(np.arctan2(a, b)) % 360,
    "exp": lambda a, b: np.where(a != 0, np.abs(a) ** b, 0.0), "eq": np.equal, "ne": np.not_equal,
    "gt": np.greater, "ge": np.greater_equal, "lt": np.less,
    "le": np.less_equal, "and": lambda a, b: _whole(a) & _whole(b), "or": lambda a, b: _whole(a) | _whole(b),
    "xor": lambda a, b: _whole(a) ^ _whole(b), "bitshift": _shifted,
}  # fmt: skip


def _run(program: list[Any], stack: list[Floats], rows: int) -> list[Floats]:
    """The stack after a program; every place of it is a column of `rows` values."""
    waiting: list[list[Any]] = []
    for item in program:
        if isinstance(item, list):
            waiting.append(item)
            continue
        try:
            if isinstance(item, float):
                stack.append(np.full(rows, item))
            else:
                stack = _operator(item, stack, waiting, rows)
        except (IndexError, OverflowError, ValueError) as error:
            raise BadDocument(say("document.calculator-fails")) from error
        if len(stack) > 128:
            raise BadDocument(say("document.calculator-piles"))
    return stack


def _operator(word: str, stack: list[Floats], waiting: list[list[Any]], rows: int) -> list[Floats]:
    if word in _ONE:
        stack.append(np.asarray(_ONE[word](stack.pop()), dtype=np.float64))
    elif word in _TWO:
        second = stack.pop()
        stack.append(np.asarray(_TWO[word](stack.pop(), second), dtype=np.float64))
    elif word == "if":
        return _branched(stack, waiting.pop(), [])
    elif word == "ifelse":
        otherwise, block = waiting.pop(), waiting.pop()
        return _branched(stack, block, otherwise)
    elif word == "pop":
        stack.pop()
    elif word == "exch":
        stack[-1], stack[-2] = stack[-2], stack[-1]
    elif word == "dup":
        stack.append(stack[-1])
    elif word == "copy":
        count = _one_number(stack.pop())
        stack.extend(stack[-count:] if count > 0 else [])
    elif word == "index":
        deep = _whole(stack.pop())
        if deep.min() < 0 or deep.max() >= len(stack):
            raise IndexError
        stack.append(np.stack(stack[::-1])[deep, np.arange(len(deep))])
    elif word == "roll":
        turns, count = _one_number(stack.pop()), _one_number(stack.pop())
        if count > 0:
            turns %= count
            stack[-count:] = stack[-turns:] + stack[-count:-turns] if turns else stack[-count:]
    elif word in ("true", "false"):
        stack.append(np.full(rows, float(word == "true")))
    else:
        raise NotSupported(say("document.calculator-operator", word=word))
    return stack


def _one_number(values: Floats) -> int:
    """How many places are copied or rolled, which must not hang on the colour."""
    if values.min() != values.max():
        raise BadDocument(say("document.calculator-unsteady"))
    return int(values[0])


def _branched(stack: list[Floats], block: list[Any], otherwise: list[Any]) -> list[Floats]:
    """The stack where one block is run for some values and the other for the rest."""
    chosen = stack.pop() != 0
    if chosen.all() or not chosen.any():
        return _run(block if chosen.all() else otherwise, stack, len(chosen))
    sides = [
        _run(part, [column[where] for column in stack], int(where.sum()))
        for part, where in ((block, chosen), (otherwise, ~chosen))
    ]
    if len(sides[0]) != len(sides[1]):
        raise BadDocument(say("document.calculator-unsteady"))
    merged = []
    for first, second in zip(*sides, strict=True):
        column = np.empty(len(chosen))
        column[chosen], column[~chosen] = first, second
        merged.append(column)
    return merged
