"""Changes to jobs and recipes: each function is one change, checked and recorded."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from plinto_core.errors import BadRecipe, CoreError
from plinto_core.imaging.facts import PictureFacts
from plinto_core.inks.separation import ALIKE_UNCORRECTED, CORRECTED, PRESENT
from plinto_core.recipes import Recipe, parse_recipe
from plinto_core.recipes.house_rules import HouseRules, decide_source
from plinto_core.recipes.renaming import inks_renamed, renamed_recipe
from plinto_core.recipes.retarget import Note, retarget
from plinto_core.recipes.runnable import Prepared, prepare
from plinto_core.recipes.sources import (
    HOUSE_DEFAULTS,
    SourceChoice,
    choose_source,
    settle_extra_channels,
)
from plinto_core.words import say
from plinto_server import access, store
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.conditions.services import facts_of
from plinto_server.apps.house.models import HouseRuleSet
from plinto_server.apps.house.services import rules_in_force
from plinto_server.apps.jobs.models import Destination, Job, JobLook, Moment
from plinto_server.apps.profiles.services import (
    load_profile,
    load_table,
    usable_profile,
    usable_table,
)
from plinto_server.errors import Conflict
from plinto_server.removal import Use
from plinto_server.revisions import merged as lay_over
from plinto_server.revisions import settle

DEPTH = 250
"""Recipes kept for undo."""
_FIXED = {"page", "destination"}
"""What a change of the recipe cannot touch: the artwork and the condition decide it."""
_FREE = frozenset({"plates", "ink_rules.limits", "delivery.films.angles"})
"""Objects of a recipe whose keys are inks."""
ANSWERS = {"differs": ("keep", "convert", "assign"), "missing": ("assign",)}


def first_recipe(
    artwork: Artwork, condition: PrintingCondition, rules: HouseRules
) -> tuple[dict[str, Any], str]:
    """The recipe a destination starts with by the house rules, and what they ask about it."""
    decision = decide_source(picture_facts(artwork), rules, load_profile)
    # The standard stand-ins need no naming: a recipe without a source says so already.
    own = None if decision.source in HOUSE_DEFAULTS.values() else decision.source
    source = own or needed_source(artwork)
    recipe = Recipe.model_validate(
        {
            "page": artwork.page,
            "source": source,
            "arrival": decision.arrival,
            "destination": condition.profile.sha256,
            "intent": rules.intent,
            "bpc": rules.bpc,
            "delivery": {"mirror": condition.mirror, "ticket": condition.ticket},
        }
    )
    return recipe.model_dump(mode="json"), decision.question


_STAND_INS = {"RGB": "srgb", "Grey": "grey"}


def needed_source(artwork: Artwork) -> str | None:
    """A stand-in where the picture itself cannot say what its numbers mean, else None."""
    facts = artwork.facts
    if facts["space"] in ("RGB", "Grey"):
        return _STAND_INS[facts["space"]] if facts["profile_problem"] else None
    if not facts["profile"]:
        space = f"{facts['channels']:X}CLR" if facts.get("inks") else "CMYK"
        known = access.mine(artwork.owner, PrintingCondition).filter(profile__colour_space=space)
        first = known.select_related("profile").first()
        return first.profile.sha256 if first else None
    return None


@transaction.atomic
def create_job(
    owner: User,
    artwork: Artwork,
    conditions: list[PrintingCondition],
    extra_channels: str = "stop",
    work: str = "",
) -> Job:
    """A job for an artwork, with a destination for every condition, by the house rules.

    work : a kind of work, which says where it goes where no condition is named. Raises BadRecipe where the artwork has channels beside its colours and nobody said that they may
    be left out.
    """
    settle_extra_channels(picture_facts(artwork), extra_channels)
    conditions = list(conditions) or _usual_conditions(owner, work)
    job = Job.objects.create(owner=owner, artwork=artwork, name=artwork.name)
    for condition in conditions:
        add_destination(job, condition, extra_channels)
    return job


def _usual_conditions(owner: User, work: str) -> list[PrintingCondition]:
    """Where a kind of work goes by the house rules in force; raises Conflict where they say nothing."""
    kind = next((k for k in rules_in_force(owner).work if k.name == work), None)
    keys = kind.conditions if kind else ()
    found = {c.key: c for c in access.mine(owner, PrintingCondition).filter(key__in=keys)}
    if not found:
        raise Conflict(
            f"The house rules in force do not say where {work!r} goes."
            if work
            else "Name at least one printing condition."
        )
    return [found[key] for key in keys if key in found]


@transaction.atomic
def add_destination(
    job: Job, condition: PrintingCondition, extra_channels: str = "stop"
) -> Destination:
    """One more condition for a job; raises Conflict where it has it already."""
    _not_there(job, condition)
    recipe, question = first_recipe(job.artwork, condition, rules_in_force(job.owner))
    recipe["extra_channels"] = extra_channels
    first = job.destinations.order_by("pk").first()
    if first is not None:
        # What the colours of the artwork mean has been settled in this job already.
        settled = ("source", "arrival", "negative", "extra_channels")
        recipe = {**recipe, **{k: first.recipe[k] for k in settled if k in first.recipe}}
    elif question:
        job.question = question
        job.save(update_fields=["question"])
    return _begin(job, condition, recipe)


def _begin(
    job: Job, condition: PrintingCondition, recipe: dict[str, Any], notes: list[Any] | None = None
) -> Destination:
    made = Destination.objects.create(
        job=job, condition=condition, recipe=recipe, notes=notes or []
    )
    Moment.objects.create(destination=made, number=0, recipe=recipe)
    return made


def _not_there(job: Job, condition: PrintingCondition) -> None:
    if job.destinations.filter(condition=condition).exists():
        raise Conflict(f"The job already goes to {condition.name}.")


@transaction.atomic
def retarget_destination(destination: Destination, condition: PrintingCondition) -> Destination:
    """The same recipe for another condition; what happened to its parts is kept as notes."""
    _not_there(destination.job, condition)
    recipe, notes = retarget(
        parse_recipe(destination.recipe), facts_of(destination.condition), facts_of(condition)
    )
    check_runnable(destination.job, recipe)
    return _begin(
        destination.job,
        condition,
        recipe.model_dump(mode="json"),
        [{"way": n.way, "text": n.text.as_json()} for n in _from(destination, notes)],
    )


def _from(destination: Destination, notes: list[Note]) -> list[Note]:
    return [*notes, Note("kept", say("recipes.taken-from", condition=destination.condition.name))]


def dismiss_notes(destination: Destination) -> Destination:
    """The notes of re-targeting have been read."""
    Destination.objects.filter(pk=destination.pk).update(notes=[])
    destination.notes = []
    return destination


def answers_of(job: Job, rules: HouseRules | None = None) -> tuple[str, ...]:
    """What the house rules' question can be answered with: only what would lead somewhere."""
    possible = ANSWERS.get(job.question, ())
    default = (rules or rules_in_force(job.owner)).default_for(picture_facts(job.artwork).space)
    if default is not None:
        return possible
    # Without a house default there is nothing to assign or to convert to but a profile by name.
    return tuple(a for a in possible if a == "keep")


@transaction.atomic
def answer_question(job: Job, answer: str, profile: str | None) -> Job:
    """Answer what the house rules asked: "keep", "convert" or "assign"; for every destination."""
    if not job.question:
        raise Conflict("Nothing is asked about this artwork.")
    if answer not in ANSWERS[job.question]:
        raise Conflict(f"The question cannot be answered with {answer!r}.")
    if profile is None and answer not in answers_of(job):
        raise Conflict("The house rules name no default for this artwork; choose a profile.")
    if profile is not None and answer != "assign":
        raise Conflict("A profile can only be assigned.")
    default = rules_in_force(job.owner).default_for(picture_facts(job.artwork).space)
    changes: dict[str, Any] = {"source": None, "arrival": None}
    if answer == "convert":
        changes["arrival"] = default
    elif answer == "assign":
        changes["source"] = profile or default
    for destination in job.destinations.all():
        change_recipe(destination, changes)
    job.question = ""
    job.save(update_fields=["question"])
    return job


def uses_of_condition(condition: PrintingCondition, user: Any) -> list[Use]:
    """The jobs that go to a condition, and the house rules that send work there."""
    rows = access.mine(user, Job).filter(destinations__condition=condition)
    jobs = [Use("job", job.name, f"/jobs/{job.pk}") for job in rows]
    names = [
        rules.name
        for rules in access.mine(user, HouseRuleSet)
        if any(condition.key in kind["conditions"] for kind in rules.rules.get("work", ()))
    ]
    return jobs + [Use("house rules", name, "/house-rules") for name in names]


def carry_destinations(condition: PrintingCondition, former: str, user: Any) -> int:
    """Take a condition's new profile into the recipes that were made for its former one; how many.

    Each is a moment that can be undone; a recipe that cannot run with it stays as it is.
    """
    moved = 0
    renamed = inks_renamed(load_profile(former), load_profile(condition.profile.sha256))
    rows = access.mine(user, Destination).filter(condition=condition)
    for destination in rows.select_related("job__artwork", "job__owner", "condition__profile"):
        if destination.recipe.get("destination") != former:
            continue
        changes: dict[str, Any] = {"destination": condition.profile.sha256}
        changes |= renamed_recipe(destination.recipe, renamed)
        try:
            recipe = parse_recipe({**destination.recipe, **changes})
            check_runnable(destination.job, recipe)
        except CoreError:
            continue
        make_moment(fresh_destination(destination.pk), recipe.model_dump(mode="json"), changes)
        moved += 1
    return moved


@transaction.atomic
def change_recipe(
    destination: Destination, changes: dict[str, Any], match: int | None = None
) -> Destination:
    """Lay changes over the present recipe, check the whole, and make it the newest moment.

    `match` : the revision the changes were made on; Stale where they collide with a later one.
    """
    fresh = fresh_destination(destination.pk)
    settle(fresh, fresh.recipe, changes, match)
    if changes.get("version", PRESENT) not in (PRESENT, fresh.recipe.get("version", PRESENT)):
        raise BadRecipe(
            "version: inks are separated by the present method or as they were, not by an older one.",
            remedy=f"Leave it out, or say {PRESENT}.",
        )
    return make_moment(fresh, merged(fresh, changes).model_dump(mode="json"), changes)


def fresh_destination(pk: int) -> Destination:
    """The row as it is now, read inside the transaction that will change it."""
    rows = Destination.objects.select_related("job__artwork", "condition__profile")
    return rows.get(pk=pk)


def make_moment(fresh: Destination, new: dict[str, Any], changes: dict[str, Any]) -> Destination:
    """Make a recipe the newest moment, those that were undone give way."""
    before = fresh.revision
    if not fresh.stamp(fresh.recipe, new, changes):
        return fresh
    number = fresh.position + 1
    fresh.moments.filter(number__gte=number).delete()
    Moment.objects.create(destination=fresh, number=number, recipe=new)
    fresh.recipe, fresh.facts = new, {}
    fresh.position = fresh.newest = number
    if number - fresh.oldest >= DEPTH:
        fresh.oldest = number - DEPTH + 1
        fresh.moments.filter(number__lt=fresh.oldest).delete()
    return _kept(fresh, before)


def _kept(fresh: Destination, before: int) -> Destination:
    """Write a changed row, if it still is what it was read as."""
    written = Destination.objects.filter(pk=fresh.pk, revision=before).update(
        recipe=fresh.recipe, facts=fresh.facts, position=fresh.position, oldest=fresh.oldest,
        newest=fresh.newest, revision=fresh.revision, touched=fresh.touched, updated=timezone.now(),
    )  # fmt: skip
    if not written:
        raise Conflict("The recipe was changed at the same moment. Try again.")
    return fresh


def merged(
    destination: Destination, changes: dict[str, Any], base: dict[str, Any] | None = None
) -> Recipe:
    """The present recipe (or `base`) with changes laid over it, object by object.

    Raises BadRecipe for unknown fields, for those that the artwork or the condition decides, and
    for a recipe that could not run.
    """
    for key in changes:
        if key in _FIXED:
            raise BadRecipe(f"{key}: the artwork and the condition decide it.")
        if key not in Recipe.model_fields:
            raise BadRecipe(
                f"A recipe has no field {key!r}.",
                remedy=f"Known are {', '.join(sorted(set(Recipe.model_fields) - _FIXED))}.",
            )
    under = dict(base or destination.recipe)
    if under.get("version") == ALIKE_UNCORRECTED and not under.get("corrections"):
        under["version"] = CORRECTED
    recipe = parse_recipe(lay_over(under, changes, _FREE))
    named = {"source", "arrival", "link", "before", "after"} & set(changes)
    _usable(destination.job.owner, recipe, named)
    settle_extra_channels(picture_facts(destination.job.artwork), recipe.extra_channels)
    check_runnable(destination.job, recipe)
    return recipe


def replaced(
    destination: Destination, parts: dict[str, Any], base: dict[str, Any] | None = None
) -> Recipe:
    """As `merged`, with whole parts put in the place of the recipe's own: for views that are asked
    for with all that decides their colours."""
    kept = {k: v for k, v in dict(base or destination.recipe).items() if k not in parts}
    inner = parts.get("delivery")
    if isinstance(inner, dict):
        kept["delivery"] = (base or destination.recipe)["delivery"]
    return merged(destination, parts, kept)


def _usable(owner: User, recipe: Recipe, named: set[str]) -> None:
    """Raise where a change refers to a profile or table that is not its owner's, or does not fit."""
    for field, part in (("source", "source"), ("arrival", "arrival")):
        reference = getattr(recipe, field)
        if field in named and reference is not None:
            usable_profile(owner, reference, part)  # type: ignore[arg-type]
    if "link" in named and recipe.link is not None:
        usable_profile(owner, recipe.link)
    for field in ("before", "after"):
        reference = getattr(recipe, field)
        if field in named and reference is not None:
            usable_table(owner, reference)


def check_runnable(job: Job, recipe: Recipe) -> Prepared:
    """What a run of the recipe needs, all looked up; raises what a run would stumble on."""
    return prepare(recipe, picture_facts(job.artwork), load_profile, load_table)


@transaction.atomic
def step_history(destination: Destination, by: int) -> Destination:
    """Undo (-1) or redo (+1); raises Conflict at either end."""
    fresh = fresh_destination(destination.pk)
    number = fresh.position + by
    if not fresh.oldest <= number <= fresh.newest:
        raise Conflict("There is nothing to undo." if by < 0 else "There is nothing to redo.")
    before = fresh.revision
    recipe = fresh.moments.get(number=number).recipe
    if not fresh.stamp(fresh.recipe, recipe):
        fresh.revision += 1
    fresh.position, fresh.recipe, fresh.facts = number, recipe, {}
    return _kept(fresh, before)


def keep_look(user: User, job: Job, look: dict[str, Any]) -> None:
    """How a person looks at a job, for the next time and the next condition."""
    JobLook.objects.update_or_create(user=user, job=job, defaults={"look": look})


def source_of(artwork: Artwork, recipe: Recipe) -> SourceChoice:
    """The source profile of an artwork under a recipe; raises BadProfile or BadRecipe."""
    return choose_source(picture_facts(artwork), recipe.source, load_profile)


def picture_facts(artwork: Artwork) -> PictureFacts:
    """The core's facts of an artwork, its embedded profile taken from the store."""
    facts = artwork.facts
    sha = facts["profile_sha256"]
    resolution = facts["resolution"]
    return PictureFacts(
        format=facts["format"],
        width=facts["width"],
        height=facts["height"],
        channels=facts["channels"],
        bits=facts["bits"],
        profile=store.path_of(sha).read_bytes() if sha else None,
        resolution=(resolution[0], resolution[1]) if resolution else None,
        pages=facts["pages"],
        declared_srgb=facts.get("declared_srgb", False),
        extra_channels=tuple(facts.get("extra_channels", ())),
        inks=tuple(facts.get("inks", ())),
    )
