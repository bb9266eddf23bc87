"""The graphics state that a content stream is at, and its stack."""

from __future__ import annotations

from plinto_core.document.pdf.operations import Laid, Operations
from plinto_core.document.pdf.state import State, multiply, scale_of


class Places:
    """The state that operators of a stream change, and paint nothing.

    Every operator's method takes its number in the stream and returns True where it was replaced,
    which none of these ever is.
    """

    ops: Operations
    laid: Laid

    def __init__(self, state: State) -> None:
        self.state = state
        self._stack: list[State] = []
        self.text_scale = 1.0
        """how much the matrix of the text at hand enlarges"""

    def _saved(self, i: int) -> bool:
        self._stack.append(self.state)
        return False

    def _concatenated(self, i: int) -> bool:
        a, b, c, d, e, f = (float(v) for v in self.ops.operands(i))
        self.state = self.state.changed(ctm=multiply((a, b, c, d, e, f), self.state.ctm))
        return False

    def line_width(self) -> float:
        """The width of lines as they come out, in points."""
        return self.state.width * scale_of(self.state.ctm)

    def text_points(self) -> float:
        """The size of text as it comes out, in points."""
        return self.state.text_size * self.text_scale * scale_of(self.state.ctm)

    def _text_mode(self, i: int) -> bool:
        self.state = self.state.changed(render_mode=int(self.ops.operands(i)[0]))
        return False
