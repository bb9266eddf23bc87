"""Preflight checks that a policy may make: what each looks at, its limit, and what may follow."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, model_validator

from plinto_core.words import say

CheckName = Literal[
    "hairlines", "mixed lines", "mixed text", "white overprints", "fonts", "coarse images",
    "coarse line art", "image total", "vector total", "transparency", "blending", "spot colours",
    "trim", "bleed", "layers", "annotations", "restrictions", "standard",
]  # fmt: skip
Severity = Literal["report", "warn", "stop", "mend"]


@dataclass(frozen=True)
class CheckKind:
    """title, help : for people; unit, start, low, high : of the limit, unit "" where there is none;
    mends : what mending does, "" where nothing can be done."""

    title: str
    help: str
    unit: str = ""
    start: float | None = None
    low: float = 0.0
    high: float = 0.0
    mends: str = ""


CHECKS: dict[CheckName, CheckKind] = {
    "hairlines": CheckKind(
        "Hairlines", "Lines thinner than this.", "pt", 0.25, 0.01, 10, mends="They are drawn as thick as that."
    ),
    "mixed lines": CheckKind(
        "Thin lines of several inks", "Lines thinner than this that come out in more than one ink, and show every misregister.", "pt", 0.5, 0.01, 20,
    ),
    "mixed text": CheckKind(
        "Small text of several inks", "Text smaller than this that comes out in more than one ink.", "pt", 6, 1, 100
    ),
    "white overprints": CheckKind(
        "White that overprints", "White set to overprint vanishes on many devices.", mends="Areas and text knock out; lines stay."
    ),
    "fonts": CheckKind("Fonts not embedded", "Text whose font is not in the document."),
    "coarse images": CheckKind("Coarse images", "Images of fewer pixels an inch than this.", "ppi", 150, 1, 10_000),
    "coarse line art": CheckKind("Coarse line art", "One-bit images of fewer pixels an inch than this.", "ppi", 550, 1, 10_000),
    "image total": CheckKind("Ink of images", "Images that come out with more total ink than this.", "%", 300, 50, 1500),
    "vector total": CheckKind("Ink of text and vectors", "Text and vectors that come out with more total ink than this.", "%", 300, 50, 1500),
    "transparency": CheckKind("Transparency", "Pages on which something lets others through."),
    "blending": CheckKind("Blending in RGB", "Transparency that is blended in another space than the press prints."),
    "spot colours": CheckKind("Spot colours", "More different spot colours than this.", "", 0, 0, 100),
    "trim": CheckKind("No trim box", "Pages that do not say where they are cut.", mends="What is shown of the page becomes its trim box."),
    "bleed": CheckKind("Bleed", "Pages whose bleed beyond the trim is less than this.", "mm", 3, 0, 100),
    "layers": CheckKind("Layers", "Documents with layers, of which some may be hidden."),
    "annotations": CheckKind("Annotations", "Notes, links and fields on what is printed.", mends="They are taken out."),
    "restrictions": CheckKind("Restrictions", "Documents whose owner restricted them."),
    "standard": CheckKind("PDF/X", "Results that do not keep the PDF/X part that the policy names."),
}  # fmt: skip


class Check(BaseModel):
    """One check of a policy. limit : None for the kind's own."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)
    what: CheckName
    severity: Severity = "warn"
    limit: float | None = None

    @property
    def kind(self) -> CheckKind:
        return CHECKS[self.what]

    @property
    def value(self) -> float:
        """The limit that holds."""
        return self.limit if self.limit is not None else (self.kind.start or 0.0)

    @model_validator(mode="after")
    def _fits(self) -> Check:
        kind = self.kind
        if self.severity == "mend" and not kind.mends:
            raise ValueError(say("document.check-not-mended", check=kind.title))
        if self.limit is not None:
            if kind.start is None:
                raise ValueError(say("document.check-no-limit", check=kind.title))
            if not kind.low <= self.limit <= kind.high:
                raise ValueError(
                    say("document.check-limit", check=kind.title, low=kind.low, high=kind.high)
                )
        return self


def each_once(checks: Any) -> Any:
    """Checks of which no two look at the same; raises ValueError."""
    names = [c.what for c in checks]
    if len(set(names)) < len(names):
        raise ValueError(say("document.check-twice"))
    return checks


def checks_as_data() -> list[dict[str, Any]]:
    """Every check that can be made, for those who offer them."""
    return [{"what": name, **vars(kind)} for name, kind in CHECKS.items()]
