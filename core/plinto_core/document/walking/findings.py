"""What a walk has found, summed up page by page so that memory does not grow with the document."""

from __future__ import annotations

from collections import Counter
from pathlib import Path
from typing import Any

from plinto_core.document.pdf.items import Item, Unhandled
from plinto_core.document.reports.report import (
    ColourKept,
    FlowRow,
    HighestTotals,
    PolicyReport,
)
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.document.walking.watch import Watch
from plinto_core.words import Said

MOST_ITEMS = 20_000
MOST_UNHANDLED = 2_000
_GROUPS = {
    "image": "images",
    "vector": "text and vectors",
    "text": "text and vectors",
    "shading": "shadings",
}


class Findings:
    """Objects listed up to a bound, and figures over all of them.

    tac : the policy's limit in percent; apart : whether its rules know text from vectors, and line art
    from images. Images are listed with their page, but counted only when
    `count` is called for them: what becomes of them is known after the last page.
    """

    def __init__(
        self,
        tac: float | None,
        watch: Watch | None = None,
        apart: tuple[bool, bool] = (False, False),
    ) -> None:
        self._watch = watch
        self._apart = apart
        self.listed: list[Item] = []
        self.left_out = 0
        self.stops = 0
        self.over_tac = 0
        self.tac_before: float | None = None
        self.tac_after: float | None = None
        self.spots: set[str] = set()
        self.remarks: list[Said] = []
        """what is to be said of the document as a whole"""
        self.blended_in_rgb: set[int] = set()
        """pages with transparency groups that blend in RGB before the policy"""
        self._tac = tac
        self._moved: Counter[float] = Counter()
        self._unknown = 0
        self._flow: Counter[tuple[str, str, str, int, str, str]] = Counter()
        self._unhandled: dict[Unhandled, None] = {}

    def close_page(self, items: list[Item]) -> None:
        """Take over a page's objects."""
        room = MOST_ITEMS - len(self.listed)
        self.listed.extend(items[:room])
        self.left_out += max(0, len(items) - room)
        for item in items:
            if item.kind != "image":
                self.count(item)

    def count(self, item: Item) -> None:
        """Add an object to the figures."""
        self.stops += item.stopped
        if self._watch is not None:
            self._watch.item(item)
        self.tac_before = _higher(self.tac_before, item.tac)
        self.tac_after = _higher(self.tac_after, item.tac_after)
        self.over_tac += self._tac is not None and (item.tac_after or 0) > self._tac + 0.5
        self.spots.update(item.spot)
        if item.kind == "group" and item.family == "RGB":
            self.blended_in_rgb.add(item.page)
        if item.kind not in _GROUPS:
            return
        if item.de00 is None:
            self._unknown += item.count
        else:
            self._moved[round(item.de00, 2)] += item.count
        outcome = "stopped" if item.stopped else item.outcome
        key = (
            item.family,
            self._group(item),
            ", ".join(item.spot),
            item.rule,
            item.action,
            outcome,
        )
        self._flow[key] += item.count

    def _group(self, item: Item) -> str:
        """The kind of objects that an item is counted with: as fine as the policy's rules are."""
        if item.kind == "image" and item.bits == 1 and self._apart[1]:
            return "line art"
        if item.kind in ("text", "vector") and self._apart[0]:
            return "text" if item.kind == "text" else "vectors"
        return _GROUPS[item.kind]

    def note(self, found: Unhandled) -> None:
        """List something that is left as it is; the same thing once a page."""
        if len(self._unhandled) < MOST_UNHANDLED:
            self._unhandled.setdefault(found)

    @property
    def unhandled(self) -> list[Unhandled]:
        return list(self._unhandled)

    @property
    def flow(self) -> tuple[FlowRow, ...]:
        """How many objects of each kind and space meet which rule and come out as what."""
        return tuple(
            FlowRow(
                space=space,
                objects=objects,
                spot=spot,
                rule=rule,
                action=action,
                outcome=outcome,
                count=count,
            )
            for (space, objects, spot, rule, action, outcome), count in sorted(self._flow.items())
        )

    @property
    def colour(self) -> ColourKept | None:
        """How far colours move, None where no object's difference is known."""
        if not self._moved:
            return None
        steps = sorted(self._moved.items())
        known = sum(self._moved.values())
        below, p95 = 0, steps[-1][0]
        for value, count in steps:
            below += count
            if below >= 0.95 * known:
                p95 = value
                break
        mean = sum(value * count for value, count in steps) / known
        return ColourKept(
            mean=round(mean, 2),
            p95=p95,
            greatest=steps[-1][0],
            objects=known,
            unknown=self._unknown,
        )

    def report(self, path: Path, policy: OutputPolicy, **known: Any) -> PolicyReport:
        """The report of a run over the file at `path`; known : the fields that are not gathered here."""
        return PolicyReport(
            document=path.name,
            policy=policy.name,
            flow=self.flow,
            objects=tuple(self.listed),
            objects_left_out=self.left_out,
            stops=self.stops,
            not_handled=tuple(self.unhandled),
            tac=HighestTotals(before=self.tac_before, after=self.tac_after, rule=policy.tac),
            over_tac=self.over_tac,
            colour=self.colour,
            remarks=tuple(self.remarks),
            spots=tuple(sorted(self.spots)),
            size_before=path.stat().st_size,
            **known,
        )


def _higher(a: float | None, b: float | None) -> float | None:
    return b if a is None else a if b is None else max(a, b)
