"""JSON of requests: what the parser cannot follow and no answer could repeat is refused at the door."""

from __future__ import annotations

import codecs
import io
import math
from typing import Any

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser
from rest_framework.utils import json

_DEEP = "JSON parse error - nested too deeply"
DEEPEST = 60
"""Of objects and lists in one another; paths and recipes need 12."""


_LARGEST = 2**63
"""Of whole numbers: the database takes no larger ones."""


def _refuse_beyond(data: Any) -> None:
    """Raise ParseError for what lies too deep, and for numbers that nothing can hold."""
    level = [data]
    for _ in range(DEEPEST):
        for found in level:
            if isinstance(found, float) and not math.isfinite(found):
                raise ParseError("JSON parse error - a number too large for anything")
            if isinstance(found, int) and not -_LARGEST <= found < _LARGEST:
                raise ParseError("JSON parse error - a whole number of more than 18 digits")
        level = [
            inner
            for outer in level
            if isinstance(outer, dict | list)
            for inner in (outer.values() if isinstance(outer, dict) else outer)
        ]
        if not level:
            return
    raise ParseError(_DEEP)


class BoundedJSONParser(JSONParser):
    """As the framework's, with an answer to text nested beyond all sense and to halves of characters."""

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        raw = stream.read()
        try:
            found = super().parse(io.BytesIO(raw), media_type, parser_context)
        except RecursionError:
            raise ParseError(_DEEP) from None
        _refuse_beyond(found)
        if b"\\ud" in raw.lower():
            # Only there can half a character stand, which no file, table or answer takes.
            try:
                codecs.encode(json.dumps(found, ensure_ascii=False), "utf-8")
            except UnicodeEncodeError:
                raise ParseError("JSON parse error - half a character (a lone surrogate)") from None
        return found
