"""Questions answered in one go: figure and words, what was done step by step, where to look further."""

from plinto_core.questions.answer import Answer
from plinto_core.questions.asked import QUESTIONS, Question

__all__ = ["QUESTIONS", "Answer", "Question"]
