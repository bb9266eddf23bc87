"""An output policy on a picture: the rule for images of its space as a recipe."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from plinto_core.arrays import Progress
from plinto_core.document.policy import OutputPolicy, Rule
from plinto_core.errors import PolicyStop
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.writer import format_of
from plinto_core.recipes import Recipe, run_recipe
from plinto_core.recipes.sources import Resolve

_FAMILIES = {"RGB ": "RGB", "CMYK": "CMYK", "GRAY": "grey"}


def recipe_of_policy(
    policy: OutputPolicy, facts: PictureFacts, target: Path
) -> tuple[int, Rule, Recipe]:
    """The rule that fits a picture and the recipe it amounts to; raises PolicyStop.

    A rule that leaves the space alone keeps the picture's own profile as destination where it has
    one; that is decided by the caller, who sees action "leave".
    """
    family = _FAMILIES[facts.space]
    number, rule = policy.rule_for("images", family)
    if rule.action == "stop":
        raise PolicyStop(
            f"Rule {number} of the policy stops pictures in {family}.",
            remedy="Change the picture, or the rule.",
        )
    intent = rule.fallback if rule.intent == "own" else rule.intent
    given = policy.sources.get(family)  # type: ignore[call-overload]
    source = given if facts.profile is None or not policy.embedded else None
    if source is None and facts.profile is None and family == "CMYK":
        source = policy.destination
    rules: dict[str, Any] | None = None
    if policy.tac is not None and policy.tac_action == "enforce":
        rules = {"tac": policy.tac}
    if rule.action == "black":
        rules = {"tac": policy.tac or 400, "protect": {"neutral_to_black": True}}
    limits = policy.resolution
    ppi = min(facts.resolution) if facts.resolution else None
    reduce = limits.above == "downsample" and ppi is not None and ppi > limits.high
    output = format_of(target)
    recipe = Recipe.model_validate(
        {
            "source": source,
            "destination": policy.destination,
            "intent": intent,
            "bpc": rule.bpc,
            "vivid": rule.vivid.model_dump() if rule.vivid and family == "RGB" else None,
            "ink_rules": rules,
            "delivery": {
                "format": output,
                "bits": 8 if output == "JPEG" else facts.bits,
                "embed": policy.profile_in,
                "mirror": policy.mirror,
                "quality": policy.compression.quality,
                "resolution": limits.to if reduce else None,
            },
        }
    )
    return number, rule, recipe


def run_policy_on_picture(
    policy: OutputPolicy, path: Path, target: Path, resolve: Resolve, *,
    progress: Progress = lambda share: None,
) -> dict[str, Any]:  # fmt: skip
    """Convert a picture by the policy's rule for images; the report has a document's keys too."""
    with open_picture(path) as picture:
        facts = picture.facts
    number, rule, recipe = recipe_of_policy(policy, facts, target)
    if rule.action in ("leave", "keep spot"):
        recipe = recipe.model_copy(update={"intent": "relative"})
    done = run_recipe(recipe, path, target, resolve, progress=progress)
    family = _FAMILIES[facts.space]
    item = {
        "page": 1, "kind": "image", "family": family, "space": family, "rule": number, "action": rule.action,
        "profile": done["source"]["profile"], "origin": done["source"]["origin"],
        "pixels": [facts.width, facts.height], "bits": facts.bits,
        "ppi": round(min(facts.resolution), 1) if facts.resolution else None,
        "tac_after": done["tac"]["max"], "outcome": done["destination"]["profile"], "count": 1,
    }  # fmt: skip
    return {
        "document": path.name,
        "pages": 1,
        "policy": policy.name,
        "destination": done["destination"]["profile"],
        "flow": [{"space": family, "objects": "images", "spot": "", "rule": number, "action": rule.action, "outcome": item["outcome"], "count": 1}],
        "objects": [item],
        "stops": 0,
        "not_handled": [],
        "tac": {"before": None, "after": done["tac"]["max"], "rule": policy.tac},
        "size_before": path.stat().st_size,
        "size_after": target.stat().st_size,
        "picture": done,
        "seconds": done["seconds"],
    }  # fmt: skip
