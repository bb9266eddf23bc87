"""An output policy on a picture: the rule for images of its space, as in a document."""

from __future__ import annotations

import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats, Pixels, Progress
from plinto_core.document.pdf.items import Item
from plinto_core.document.pdf.spaces import CMYK, GREY, RGB, ColourSpace
from plinto_core.document.preflight.findings import content_findings, refuse_stopped
from plinto_core.document.reports.report import ColourKept, PolicyReport
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.meaning import difference
from plinto_core.document.rules.painting import HELD, INKS_OF, Painter
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.walking.differences import Differences
from plinto_core.document.walking.findings import Findings
from plinto_core.document.walking.watch import Watch
from plinto_core.errors import BadRecipe, CoreError, NotSupported, PolicyStop
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import said
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.resample import resampled
from plinto_core.imaging.writer import format_of
from plinto_core.recipes.output import result_size, write_output
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.sources import Resolve, embedded_profile, settle_extra_channels
from plinto_core.words import say

BARE = {"RGB ": RGB, "CMYK": CMYK, "GRAY": GREY}
_SAMPLES = 200_000
_COMPARED = 40_000
"""Pixels whose colours before and after are compared."""
_ENDINGS = {"TIFF": "tif", "JPEG": "jpg", "PNG": "png", "PDF": "pdf"}


def run_policy_on_picture(
    policy: OutputPolicy, path: Path, target: Path, resolve: Resolve, *,
    progress: Progress = lambda share: None,
) -> PolicyReport:  # fmt: skip
    """Convert a picture by the policy's rule for images; the report has a document's keys.

    Raises PolicyStop where the rule stops it, BadImage or BadProfile for what cannot be read.
    """
    if path.exists() and target.exists() and path.samefile(target):
        raise BadRecipe(say("document.same-file"))
    return _run(policy, path, target, resolve, progress)


def dry_run_on_picture(
    policy: OutputPolicy, path: Path, resolve: Resolve, *, output: str = "TIFF",
    folder: Path | None = None, progress: Progress = lambda share: None,
) -> PolicyReport:  # fmt: skip
    """What the policy would make of a picture; every pixel is computed, nothing is kept.

    output : the format that the result would be written in, for its size; folder : where it lies until it
    is weighed, the system's own where None.
    """
    # Only what is packed has a size: it is, as it would be for good.
    with tempfile.TemporaryDirectory(prefix="plinto-dry-", dir=folder) as own:
        target = Path(own) / f"dry.{_ENDINGS[output]}"
        return _run(policy, path, target, resolve, progress, dry=True)


@dataclass
class PicturePlan:
    """What happens to a picture: the rule, what it was and will be, and its new pixels' space."""

    policy: OutputPolicy
    facts: PictureFacts
    space: ColourSpace
    mapper: ColourMapper
    number: int
    rule: Rule
    own: Profile | None

    @property
    def intent(self) -> str:
        return self.rule.fallback if self.rule.intent == "own" else self.rule.intent

    @property
    def stops(self) -> bool:
        return self.rule.stops

    @property
    def changes(self) -> bool:
        return self.rule.changes

    @cached_property
    def holds(self) -> bool:
        """Whether its pixels are left, but must keep the TAC."""
        return Painter(self.policy, self.mapper).holds(self.space, "images")

    @property
    def result(self) -> Profile | None:
        """The profile of what comes out, None where its numbers stay without one."""
        return self.mapper.destination if self.changes else self.own

    @property
    def channels(self) -> int:
        return self.mapper.destination.channels if self.changes else self.space.channels

    def pixels(self, band: Pixels, bits: int) -> Pixels:
        """A band as it comes out."""
        flat = np.ascontiguousarray(band.reshape(-1, band.shape[2]))
        if self.changes:
            flat = self.mapper.images(self.space, flat, self.rule, self.intent)
        elif self.holds:
            flat = self.mapper.held_pixels(self.space, flat)
        if flat.dtype == np.uint16 and bits == 8:
            flat = ((flat.astype(np.uint32) + 128) // 257).astype(np.uint8)
        return flat.reshape(*band.shape[:2], flat.shape[1])


def plan_for(policy: OutputPolicy, facts: PictureFacts, resolve: Resolve) -> PicturePlan:
    """Which rule fits a picture and what it comes to; raises BadProfile for a useless profile."""
    settle_extra_channels(facts)
    bare = BARE.get(facts.space)
    if bare is None:
        raise NotSupported(say("document.picture-space", space=said(facts.space)))
    own = embedded_profile(facts) if policy.embedded else None
    space = bare
    if own is not None:
        space = ColourSpace(
            bare.family, "ICCBased", bare.channels, f"ICC:{own.digest}", profile=own
        )
    number, rule = policy.rule_for("images", space.family, page=1)
    mapper = ColourMapper(policy, resolve(policy.destination), resolve)
    return PicturePlan(policy, facts, space, mapper, number, rule, own)


def _run(
    policy: OutputPolicy, path: Path, target: Path | None, resolve: Resolve, progress: Progress, *,
    dry: bool = False,
) -> PolicyReport:  # fmt: skip
    """target : None where only the findings are asked for; dry : whether it only serves to be weighed, and
    stops stop nothing."""
    began = time.monotonic()
    if not dry and any(c.severity == "stop" for c in policy.checks):
        # What stops a picture is known after its last band, and nothing may be written then.
        refuse_stopped(_run(policy, path, None, resolve, lambda share: None, dry=True).findings)
    with open_picture(path) as picture:
        plan = plan_for(policy, picture.facts, resolve)
        if plan.stops and not dry:
            raise PolicyStop(
                say("document.rule-stops-pictures", number=plan.number, family=plan.space.family)
            )
        recipe = _delivery(plan, target)
        facts = picture.facts
        size, resolution = result_size(facts.width, facts.height, facts.resolution, recipe.delivery)
        bands = picture.bands()
        if size != (facts.height, facts.width):
            bands = resampled(bands, (facts.height, facts.width), size)
        seen = _Sums(size, plan)
        results = seen.watch(bands, recipe.delivery.bits, progress)
        shape = (*size, plan.channels)
        kept = plan.result or plan.mapper.destination
        if target is None:
            for _ in results:
                pass
        else:
            write_output(target, results, shape, resolution, recipe, kept, progress)
    weighed = target.stat().st_size if target is not None else None
    item = seen.item(path, size)
    moved = seen.moved() if dry else None
    item.de00 = moved.mean if moved is not None else None
    watch = Watch(policy.checks)
    found = Findings(policy.tac, watch)
    found.close_page([item])
    found.count(item)
    report = found.report(
        path,
        policy,
        pages=1,
        destination=plan.mapper.destination.description,
        inks=plan.mapper.inks,
        output_intent=None,
        transparency=plan.facts.alpha != "none",
        findings=tuple(content_findings(policy, watch)),
        **({"size_forecast": weighed} if dry else {"size_after": weighed}),
        seconds=round(time.monotonic() - began, 3),
    )
    progress(1.0)
    return report.model_copy(update={"colour": moved}) if dry else report


def _delivery(plan: PicturePlan, target: Path | None) -> Recipe:
    policy, facts = plan.policy, plan.facts
    output = format_of(target) if target is not None else "TIFF"
    limits = policy.resolution
    ppi = min(facts.resolution) if facts.resolution else None
    reduce = limits.above == "downsample" and ppi is not None and ppi > limits.high
    return Recipe.model_validate(
        {
            "destination": policy.destination,
            "delivery": {
                "format": output,
                "bits": 8 if output == "JPEG" else facts.bits,
                "embed": policy.profile_in and plan.result is not None,
                "mirror": policy.mirror,
                "quality": policy.compression.quality,
                "resolution": limits.to if reduce else None,
            },
        }
    )


class _Sums:
    """Highest totals and mean colours before and after, while bands pass."""

    def __init__(self, size: tuple[int, int], plan: PicturePlan) -> None:
        self.size, self.plan = size, plan
        self.step = max(1, round((size[0] * size[1] / _SAMPLES) ** 0.5))
        self.before: list[np.ndarray] = []
        self.after: list[np.ndarray] = []
        self.highest = [0.0, 0.0]
        self.inks = plan.changes and bool(plan.mapper.inks)

    def watch(self, bands: Iterator[Pixels], bits: int, progress: Progress) -> Iterator[Pixels]:
        row = 0
        for band in bands:
            out = self.plan.pixels(band, bits)
            for i, (part, kept) in enumerate(((band, self.before), (out, self.after))):
                scale = 1 / float(np.iinfo(part.dtype).max)
                if part.shape[2] >= 4 or (kept is self.after and self.inks):
                    most = float(part.sum(axis=2, dtype=np.uint32).max()) * scale * 100
                    self.highest[i] = max(self.highest[i], most)
                first = -row % self.step
                sample = part[first :: self.step, :: self.step].reshape(-1, part.shape[2])
                kept.append(sample * scale)
            row += band.shape[0]
            progress(0.05 + 0.9 * row / self.size[0])
            yield out

    def moved(self) -> ColourKept | None:
        """How far the sampled pixels move, None where nothing says what their numbers mean."""
        plan = self.plan
        before = np.concatenate(self.before)
        after: Floats | None = np.concatenate(self.after)
        if not plan.changes:
            after = Differences(plan.mapper).landed(plan.space, np.asarray(after))
        if after is None or not len(before):
            return None
        step = max(1, len(before) // _COMPARED)
        try:
            found = difference(plan.mapper, plan.space, before[::step], after[::step])
        except CoreError:
            return None
        return ColourKept(
            mean=round(float(found.mean()), 2),
            p95=round(float(np.percentile(found, 95)), 2),
            greatest=round(float(found.max()), 2),
            objects=len(found),
            of="pixels",
        )

    def item(self, path: Path, size: tuple[int, int]) -> Item:
        plan, facts = self.plan, self.plan.facts
        family = plan.mapper.family if plan.changes else plan.space.family
        painter = Painter(plan.policy, plan.mapper)
        item = Item(
            page=1, kind="image", family=plan.space.family, space=plan.space.label,
            profile=painter.profile_name(plan.space), origin=painter.origin(plan.space),
            rule=plan.number, action=plan.rule.action,
            values=_mean(plan.space.family, self.before), after=_mean(family, self.after),
            outcome=painter.target_name if plan.changes else plan.space.label,
            pixels=(facts.width, facts.height), bits=facts.bits,
            ppi=round(min(facts.resolution), 1) if facts.resolution else None,
            tac=round(self.highest[0], 1) if plan.space.family == "CMYK" else None,
            tac_after=round(self.highest[1], 1) if family in INKS_OF else None,
            intent=plan.intent,
        )  # fmt: skip
        item.notes += painter.notes(plan.space, "images")
        if plan.holds and plan.policy.tac is not None and self.highest[0] > plan.policy.tac + 0.5:
            item.notes.append(HELD)
        item.notes += plan.policy.resolution.notes(item.ppi)
        if size != (facts.height, facts.width) and item.ppi is not None:
            item.new_ppi = round(item.ppi * size[1] / facts.width, 1)
        if plan.rule.to_black and plan.mapper.black_ink is not None:
            item.outcome = "black only"
        return item


def _mean(family: str, samples: list[np.ndarray]) -> tuple[float, ...]:
    scale = 255.0 if family == "RGB" else 100.0
    return tuple(round(float(v) * scale, 1) for v in np.concatenate(samples).mean(axis=0))
