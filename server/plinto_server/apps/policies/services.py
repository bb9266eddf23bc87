"""Changes to policies and their runs; each function is one change."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from plinto_core.arrays import Progress
from plinto_core.document import (
    OutputPolicy,
    dry_run,
    dry_run_on_picture,
    parse_policy,
    run_policy,
    run_policy_on_picture,
    template,
)
from plinto_core.document.pdf.opening import is_pdf, open_document
from plinto_core.document.preflight.notes import write_notes
from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.rules.judging import judge_builds, judge_destination
from plinto_core.document.rules.policy import TEMPLATES
from plinto_core.document.runs.compare import ComparisonReport, Tried, treated_differently
from plinto_core.errors import BadRecipe, Cancelled, CoreError
from plinto_core.imaging.reader import open_picture
from plinto_core.recipes.renaming import inks_renamed, renamed_keys
from plinto_server import access, apart, store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.policies.models import Document, Policy, PolicyComparison, PolicyRun
from plinto_server.apps.profiles.services import load_profile, usable_profile
from plinto_server.apps.work.acts import enqueue
from plinto_server.apps.work.kinds import Described
from plinto_server.errors import Conflict
from plinto_server.removal import Use
from plinto_server.revisions import merged, settle

MOST_NOTED = 300 << 20
"""Bytes of a document that notes are written on while somebody waits."""
RECENT = 10
"""Documents that a comparison of policies is tried on."""


def policy_of_template(kind: str, condition: PrintingCondition) -> OutputPolicy:
    """A usual policy for a condition; raises BadRecipe for an unknown kind."""
    if kind not in TEMPLATES:
        raise BadRecipe(f"There is no template {kind!r}.", remedy=f"Use {', '.join(TEMPLATES)}.")
    made = template(kind, condition.profile.sha256, tac=condition.tac)
    return made.model_copy(update={"name": f"{made.name}, {condition.name}"})


def checked(owner: Any, data: Any) -> OutputPolicy:
    """A policy whose profiles its owner may all use, each for its part; raises BadRecipe or
    BadProfile."""
    policy = parse_policy(data)
    destination = usable_profile(owner, policy.destination, "destination")
    judge_destination(destination)
    judge_builds(policy, destination)
    for reference in policy.sources.values():
        usable_profile(owner, reference, "source")
    for rule in policy.rules:
        if rule.link is not None:
            usable_profile(owner, rule.link)
    return policy


def create_policy(owner: User, data: Any) -> Policy:
    """Keep a new policy."""
    policy = checked(owner, data)
    return Policy.objects.create(
        owner=owner, name=policy.name, versions=[policy.model_dump(mode="json")]
    )


@transaction.atomic
def change_policy(owner: User, pk: int, patch: dict[str, Any], match: int | None) -> Policy:
    """Keep a policy with a patch laid over it as the next version; raises Stale where it collides
    with a later change."""
    kept = access.own(owner, Policy, pk)
    before = parse_policy(kept.present).model_dump(mode="json")
    settle(kept, before, patch, match)
    # A build is one value: a new one takes the place of the former one, ink by ink it makes no sense.
    asked = patch.get("builds")
    named = asked if isinstance(asked, dict) else {}
    base = {**before, "builds": {n: b for n, b in before["builds"].items() if n not in named}}
    policy = checked(owner, merged(base, patch, frozenset({"sources", "builds", "images"})))
    after = policy.model_dump(mode="json")
    if kept.stamp(before, after, patch):
        kept.versions, kept.name = [*kept.versions, after], policy.name
        kept.save()
    return kept


def policies_of(condition: PrintingCondition, reference: str, user: Any) -> list[Policy]:
    """A person's policies that convert to a profile, where the condition is the one they mean.

    A policy names a profile and no condition: among several conditions with one and the same profile
    the oldest is meant.
    """
    same = access.mine(user, PrintingCondition).filter(profile__sha256=reference)
    if same.exclude(pk=condition.pk).filter(pk__lt=condition.pk).exists():
        return []
    return [p for p in access.mine(user, Policy) if p.present.get("destination") == reference]


def uses_of_condition(condition: PrintingCondition, user: Any) -> list[Use]:
    """The policies that convert to a condition's profile."""
    found = policies_of(condition, condition.profile.sha256, user)
    return [Use("policy", p.name, "/policies") for p in found]


def carry_policies(condition: PrintingCondition, former: str, user: Any) -> int:
    """Let the policies of a condition's former profile convert to its new one; how many."""
    moved = policies_of(condition, former, user)
    renamed = inks_renamed(load_profile(former), load_profile(condition.profile.sha256))
    for policy in moved:
        builds = policy.present.get("builds", {}) if renamed else {}
        changes: dict[str, Any] = {"destination": condition.profile.sha256}
        if builds:
            changes["builds"] = {n: renamed_keys(b, renamed) for n, b in builds.items()}
        change_policy(user, policy.pk, changes, None)
    return len(moved)


def take_document(owner: User, path: Path, file_name: str) -> Document:
    """Check and keep a PDF or picture that lies in the scratch folder.

    Raises BadDocument or BadImage for what is neither, or damaged.
    """
    kind, pages = examine(path, Path(file_name).name)
    size = path.stat().st_size
    return Document.objects.create(
        owner=owner,
        file_name=Path(file_name).name[:255],
        sha256=store.put_file(path),
        size=size,
        pages=pages,
        kind=kind,
    )


def notes_on(run: PolicyRun) -> bytes:
    """A run's document with its report as notes on the pages; raises Conflict for a picture or a
    document that is too large to be answered at once."""
    if run.document.kind != Document.PDF:
        raise Conflict("Notes stand on the pages of a PDF; a picture has none.")
    if run.document.size > MOST_NOTED:
        raise Conflict("The document is too large for this; write the notes on the command line.")
    with store.scratch(".pdf") as path:
        write_notes(
            store.path_of(run.document.sha256), PolicyReport.model_validate(run.report), path
        )
        return path.read_bytes()


def examine(path: Path, name: str = "") -> tuple[str, int]:
    """Whether a file is a PDF or a picture, and its pages; raises BadDocument or BadImage.

    name : what its owner calls it.
    """
    return apart.run(_examined, path, name)


def _examined(path: Path, name: str) -> tuple[str, int]:
    if is_pdf(path):
        with open_document(path) as pdf:
            return Document.PDF, len(pdf.pages)
    with open_picture(path, name=name):
        return Document.PICTURE, 1


@transaction.atomic
def start_run(document: Document, policy: Any, *, dry: bool) -> PolicyRun:
    """Queue a dry or a real run of a policy."""
    policy = checked(document.owner, policy)
    run = PolicyRun.objects.create(
        document=document,
        policy=policy.model_dump(mode="json"),
        dry=dry,
        file_name=result_name(document.file_name, document.kind, policy),
    )
    enqueue(run)
    return run


def result_name(file_name: str, kind: str, policy: OutputPolicy) -> str:
    """What the result of a policy is called; pictures come out as TIFF."""
    ending = "pdf" if kind == Document.PDF else "tif"
    return f"{file_name.rsplit('.', 1)[0][:150]}_{_slug(policy.name)}.{ending}"


def _slug(name: str) -> str:
    return "-".join("".join(c if c.isalnum() else " " for c in name.lower()).split())[:60]


def run_on_file(
    policy: OutputPolicy, kind: str, source: Path, target: Path | None, progress: Progress
) -> PolicyReport:
    """A policy on a PDF or a picture, dry where there is no target."""
    if kind == Document.PDF:
        if target is None:
            return dry_run(policy, source, load_profile, progress=progress)
        return run_policy(policy, source, target, load_profile, progress=progress)
    if target is None:
        # In the scratch folder, where what a killed worker leaves behind is swept up.
        with store.scratch() as beside:
            return dry_run_on_picture(
                policy, source, load_profile, folder=beside.parent, progress=progress
            )
    return run_policy_on_picture(policy, source, target, load_profile, progress=progress)


def do_run(run: PolicyRun, target: Path, progress: Progress) -> PolicyReport:
    """What a worker does for a run."""
    document = run.document
    made = None if run.dry else target
    source = store.path_of(document.sha256)
    report = run_on_file(parse_policy(run.policy), document.kind, source, made, progress)
    return report.model_copy(update={"document": document.file_name})


def described_run(run: PolicyRun) -> Described:
    """A policy run as the queue shows it."""
    what = "Dry run of" if run.dry else "Policy"
    detail = f"{what} {run.policy.get('name', '')}"
    return Described(run.document.file_name, detail, "/policies", run.file_name, run.policy)


@transaction.atomic
def start_comparison(owner: User, before: Any, after: Any) -> PolicyComparison:
    """Try two policies on the owner's recent documents; raises Conflict where there are none."""
    documents = list(access.mine(owner, Document)[:RECENT])
    if not documents:
        raise Conflict("There are no documents to try the policies on.")
    made = PolicyComparison.objects.create(
        owner=owner,
        before=checked(owner, before).model_dump(mode="json"),
        after=checked(owner, after).model_dump(mode="json"),
    )
    made.documents.set(documents)
    enqueue(made)
    return made


def compare(work: PolicyComparison, target: Path, progress: Progress) -> ComparisonReport:
    """What a worker does for a comparison; a document that cannot be tried is said."""
    before, after = parse_policy(work.before), parse_policy(work.after)
    documents = list(work.documents.all())
    found = []
    for i, document in enumerate(documents):
        parts = [_part(progress, 2 * i + j, 2 * len(documents)) for j in (0, 1)]
        source = store.path_of(document.sha256)
        named = {"document": document.pk, "file_name": document.file_name}
        try:
            first = run_on_file(before, document.kind, source, None, parts[0])
            second = run_on_file(after, document.kind, source, None, parts[1])
            found.append(Tried(**named, **vars(treated_differently(first, second))))
        except Cancelled:
            raise
        except CoreError as error:
            found.append(Tried(**named, problem=str(error)))
    return ComparisonReport(documents=tuple(found))


def _part(progress: Progress, number: int, count: int) -> Progress:
    return lambda share: progress((number + share) / count)


def described_comparison(work: PolicyComparison) -> Described:
    """A comparison as the queue shows it."""
    names = f"{work.before.get('name', '')} and {work.after.get('name', '')}"
    settings = {"before": work.before, "after": work.after}
    return Described(names, "Policies compared on recent documents", "/policies", "", settings)
