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
from plinto_core.document.rules.tones import Met
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
        self._vectors_watched = watch is not None and "vector total" in watch.limits
        self._apart = apart
        self.listed: list[Item] = []
        self.left_out = 0
        self.met: list[Met] = []
        """of the page at hand"""
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
        self._flow: Counter[tuple[str, str, bool, tuple[str, ...], int, str, str]] = Counter()
        self._unhandled: dict[Unhandled, None] = {}

    def close_page(self, items: list[Item]) -> None:
        """Take over a page's objects."""
        room = MOST_ITEMS - len(self.listed)
        self.listed.extend(items[:room])
        self.left_out += max(0, len(items) - room)
        for item in items:
            if item.kind != "image":
                self.count(item)
        for met in self.met:
            self._add(met)
        self.met.clear()

    @property
    def full(self) -> bool:
        """Whether no further object is listed or looked at, but only counted."""
        return len(self.listed) >= MOST_ITEMS and not self._vectors_watched

    def _add(self, met: Met) -> None:
        """As `count`, of objects that no Item was made of; nobody asked how far their colours move."""
        tone = met.tone
        facts = tone.shared.facts
        self._total(tone.tac, tone.tac_after)
        self._flow[
            facts["family"], met.kind, False, facts["spot"], facts["rule"], facts["action"], met.outcome
        ] += met.count  # fmt: skip
        self.left_out += 1

    def _total(self, before: float | None, after: float | None) -> None:
        if before is not None:
            self.tac_before = max(self.tac_before or 0.0, before)
        if after is not None:
            self.tac_after = max(self.tac_after or 0.0, after)
            self.over_tac += self._tac is not None and after > self._tac + 0.5

    def count(self, item: Item) -> None:
        """Add an object to the figures."""
        self.stops += item.stopped
        if self._watch is not None and (item.kind == "image" or self._vectors_watched):
            self._watch.item(item)
        self._total(item.tac, item.tac_after)
        if item.spot:
            self.spots.update(item.spot)
        if item.kind == "group" and item.family == "RGB":
            self.blended_in_rgb.add(item.page)
        if item.kind not in _GROUPS:
            return
        if item.de00 is None:
            self._unknown += item.count
        else:
            self._moved[round(item.de00, 2)] += item.count
        self._flow[
            item.family, item.kind, item.bits == 1, item.spot, item.rule, item.action, item.outcome
        ] += item.count  # fmt: skip

    def _group(self, kind: str, one_bit: bool) -> str:
        """The kind of objects that an item is counted with: as fine as the policy's rules are."""
        if kind == "image" and one_bit and self._apart[1]:
            return "line art"
        if kind in ("text", "vector") and self._apart[0]:
            return "text" if kind == "text" else "vectors"
        return _GROUPS[kind]

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
        rows: Counter[tuple[str, str, str, int, str, str]] = Counter()
        for (space, kind, one_bit, spot, rule, action, outcome), count in self._flow.items():
            said = "stopped" if action == "stop" else outcome
            rows[space, self._group(kind, one_bit), ", ".join(spot), rule, action, said] += count
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
            for (space, objects, spot, rule, action, outcome), count in sorted(rows.items())
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
