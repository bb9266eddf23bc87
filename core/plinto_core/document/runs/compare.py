"""What sets two output policies apart, and which objects of a document they treat differently."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from plinto_core.arrays import Progress
from plinto_core.document.pdf.items import Item
from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.rules.checks import Check
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.runs.run import dry_run
from plinto_core.fields import Part, Report
from plinto_core.recipes.sources import Resolve

MOST_SHOWN = 200


@dataclass(frozen=True)
class Difference:
    """where : "rule 2", or a setting's name; before, after : as written, "" where there is none."""

    where: str
    before: str
    after: str


def compare_policies(before: OutputPolicy, after: OutputPolicy) -> list[Difference]:
    """Every rule and setting that differs, rules first and by their number."""
    found = []
    for i in range(max(len(before.rules), len(after.rules))):
        a = before.rules[i] if i < len(before.rules) else None
        b = after.rules[i] if i < len(after.rules) else None
        if a != b:
            found.append(Difference(f"rule {i + 1}", _rule(a), _rule(b)))
    old, new = _settings(before), _settings(after)
    found += [
        Difference(name, old.get(name, ""), new.get(name, ""))
        for name in dict.fromkeys([*old, *new])
        if old.get(name, "") != new.get(name, "")
    ]
    return found


def _rule(rule: Rule | None) -> str:
    if rule is None:
        return ""
    what = {"all": "everything", "vectors": "text and vectors"}.get(rule.objects, rule.objects)
    space = "any space" if rule.space == "all" else rule.space
    spot = f" “{rule.spot}”" if rule.spot else ""
    below = f" below {rule.below:g} pt" if rule.below is not None else ""
    pages = f" on pages {rule.pages}" if rule.pages else ""
    layer = f" on layer “{rule.layer}”" if rule.layer else ""
    text = f"{what}{below} in {space}{spot}{pages}{layer}: {rule.action}"
    if rule.converts:
        intent = f"own, else {rule.fallback}" if rule.intent == "own" else rule.intent
        linked = f"by the device link {rule.link[:16]}" if rule.link else ""
        text += f", {linked or intent + (', BPC' if rule.bpc else '')}"
        if rule.vivid is not None:
            text += f", stretched {rule.vivid.strength:g} %"
    return text


def _settings(policy: OutputPolicy) -> dict[str, str]:
    data = policy.model_dump(mode="json", exclude={"rules", "version", "name", "checks"})
    data["build of"] = data.pop("builds")
    for kind, own in data.pop("images").items():
        data |= {f"{kind} {part}": value for part, value in own.items()}
    data |= {f"check {c.what}": f"{c.severity}{_limit(c)}" for c in policy.checks}
    flat: dict[str, str] = {}
    for key, value in data.items():
        parts = value.items() if isinstance(value, dict) else [("", value)]
        for part, one in parts:
            name = f"{key} {part}".strip().replace("_", " ")
            flat[name] = _word(one)
    return flat


def _word(value: object) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, dict):
        return ", ".join(f"{name} {number:g}" for name, number in value.items())
    return "none" if value is None else str(value)


def _limit(check: Check) -> str:
    return f", {check.value:g} {check.kind.unit}".rstrip() if check.kind.start is not None else ""


class Made(Part):
    """What a policy makes of an object."""

    rule: int
    action: str
    outcome: str
    after: tuple[float, ...]
    new_ppi: float | None
    tac_after: float | None


class Example(Part):
    """An object and what each policy makes of it."""

    page: int
    kind: str
    family: str
    values: tuple[float, ...]
    spot: tuple[str, ...]
    count: int
    before: Made
    after: Made


class Treated(Part):
    """Objects of a document that come out differently under two policies.

    changed : number of objects; examples : up to 200 of them; stops : objects each policy stops at.
    """

    objects: int
    changed: int
    stops: tuple[int, int]
    examples: tuple[Example, ...]


class Tried(Treated):
    """A document that both policies were tried on; problem : why it could not be, "" where it was."""

    document: int
    file_name: str
    objects: int = 0
    changed: int = 0
    stops: tuple[int, int] = (0, 0)
    examples: tuple[Example, ...] = ()
    problem: str = ""


class ComparisonReport(Report):
    """Two policies on several documents."""

    documents: tuple[Tried, ...]


def compare_on_document(
    before: OutputPolicy, after: OutputPolicy, path: Path, resolve: Resolve, *,
    progress: Progress = lambda share: None,
) -> Treated:  # fmt: skip
    """Try both policies dry on a PDF; raises BadDocument."""
    first = dry_run(before, path, resolve, progress=lambda share: progress(share / 2))
    second = dry_run(after, path, resolve, progress=lambda share: progress(0.5 + share / 2))
    return treated_differently(first, second)


def treated_differently(first: PolicyReport, second: PolicyReport) -> Treated:
    """Compare the reports of two dry runs of one document."""
    left: dict[tuple[Any, ...], list[Item]] = {}
    for item in first.objects:
        left.setdefault(_identity(item), []).append(item)
    changed, total = 0, 0
    examples: list[Example] = []
    for item in second.objects:
        total += item.count
        others = left.get(_identity(item))
        if not others:
            continue
        other = others.pop(0)
        if _outcome(other) == _outcome(item):
            continue
        changed += item.count
        if len(examples) < MOST_SHOWN:
            examples.append(
                Example(
                    page=item.page, kind=item.kind, family=item.family, values=item.values,
                    spot=item.spot, count=item.count, before=_made(other), after=_made(item),
                )
            )  # fmt: skip
    return Treated(
        objects=total,
        changed=changed,
        stops=(first.stops, second.stops),
        examples=tuple(examples),
    )


def _identity(item: Item) -> tuple[Any, ...]:
    """What makes it the same object in both reports."""
    return (
        item.page, item.kind, item.space, item.profile,
        item.values if item.kind != "image" else item.pixels or (),
        item.box if item.kind == "image" and item.box else (),
    )  # fmt: skip


def _outcome(item: Item) -> tuple[Any, ...]:
    stops = item.stopped
    return stops, item.outcome, () if stops else item.after, item.new_ppi, item.notes


def _made(item: Item) -> Made:
    return Made(**{name: getattr(item, name) for name in Made.model_fields})
