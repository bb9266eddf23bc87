"""What breaks a rule of a standard, and where."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from plinto_core.document.reports.report import BrokenRule
from plinto_core.words import Said, say

_MOST_PAGES_NAMED = 8


@dataclass(frozen=True)
class Breach:
    """A rule that is not kept. rule : in a few words; pages : empty for the whole document."""

    rule: Said
    text: Said
    pages: tuple[int, ...] = ()


def together(found: Iterable[Breach]) -> list[Breach]:
    """Equal breaches of several pages as one."""
    pages: dict[tuple[Said, Said], dict[int, None]] = {}
    for breach in found:
        pages.setdefault((breach.rule, breach.text), {}).update(dict.fromkeys(breach.pages))
    return [Breach(rule, text, tuple(sorted(where))) for (rule, text), where in pages.items()]


def breach_data(breaches: list[Breach]) -> tuple[BrokenRule, ...]:
    """Breaches as a report keeps them, with their pages also in words."""
    return tuple(
        BrokenRule(rule=b.rule, text=b.text, pages=b.pages, where=_where(b)) for b in breaches
    )


def _where(breach: Breach) -> Said:
    """The pages of a breach in words."""
    pages = breach.pages
    if not pages:
        return say("pdfx.where-document")
    named, more = pages[:_MOST_PAGES_NAMED], len(pages) - _MOST_PAGES_NAMED
    if more > 0:
        return say("pdfx.where-more", pages=named, more=more)
    return say("pdfx.where-pages", count=len(pages), pages=named)
