"""Where a content stream's paths and texts lie: the operators that move and gather, and paint nothing."""

from __future__ import annotations

from typing import Any

from plinto_core.document.pdf.items import Box, union
from plinto_core.document.pdf.state import State, box_of, multiply, scale_of


class Places:
    """The graphics state with its stack, the box of the path at hand, and the text's place.

    Every operator's method takes its name and operands and returns True where it was replaced, which
    none of these ever is.
    """

    def __init__(self, state: State) -> None:
        self.state = state
        self._stack: list[State] = []
        self._path: Box | None = None
        self._text: tuple[float, float] = (0.0, 0.0)
        self._text_scale = 1.0

    def _saved(self, operator: str, operands: Any) -> bool:
        self._stack.append(self.state)
        return False

    def _restored(self, operator: str, operands: Any) -> bool:
        if self._stack:
            self.state = self._stack.pop()
        return False

    def _concatenated(self, operator: str, operands: Any) -> bool:
        a, b, c, d, e, f = (float(v) for v in operands)
        self.state = self.state.changed(ctm=multiply((a, b, c, d, e, f), self.state.ctm))
        return False

    def _rectangle(self, operator: str, operands: Any) -> bool:
        x, y, w, h = (float(v) for v in operands)
        self._grow([(x, y), (x + w, y + h), (x + w, y), (x, y + h)])
        return False

    def _line(self, operator: str, operands: Any) -> bool:
        self._grow([(float(operands[0]), float(operands[1]))])
        return False

    def _curve(self, operator: str, operands: Any) -> bool:
        values = [float(v) for v in operands]
        self._grow(list(zip(values[::2], values[1::2], strict=False)))
        return False

    def _path_ended(self, operator: str, operands: Any) -> bool:
        self._path = None
        return False

    def _text_begun(self, operator: str, operands: Any) -> bool:
        self._text = (0.0, 0.0)
        self._text_scale = 1.0
        return False

    def _text_moved(self, operator: str, operands: Any) -> bool:
        self._text = (self._text[0] + float(operands[0]), self._text[1] + float(operands[1]))
        return False

    def _text_matrix(self, operator: str, operands: Any) -> bool:
        self._text = (float(operands[4]), float(operands[5]))
        a, b, c, d = (float(v) for v in operands[:4])
        self._text_scale = scale_of((a, b, c, d, 0.0, 0.0))
        return False

    def _line_width(self, operator: str, operands: Any) -> bool:
        self.state = self.state.changed(width=abs(float(operands[0])))
        return False

    def line_width(self) -> float:
        """The width of lines as they come out, in points."""
        return self.state.width * scale_of(self.state.ctm)

    def text_points(self) -> float:
        """The size of text as it comes out, in points."""
        return self.state.text_size * self._text_scale * scale_of(self.state.ctm)

    def _text_mode(self, operator: str, operands: Any) -> bool:
        self.state = self.state.changed(render_mode=int(operands[0]))
        return False

    def _grow(self, points: list[tuple[float, float]]) -> None:
        self._path = union(self._path, box_of(self.state.ctm, points))
