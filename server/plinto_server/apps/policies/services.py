"""Changes to policies and their runs; each function is one change."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from plinto_core.arrays import Progress
from plinto_core.document import OutputPolicy, dry_run, parse_policy, run_policy, template
from plinto_core.document.opening import open_document
from plinto_core.document.policy import TEMPLATES
from plinto_core.errors import BadRecipe
from plinto_server import store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.policies.models import Document, Policy, PolicyRun
from plinto_server.apps.profiles.services import load_profile


def policy_of_template(kind: str, condition: PrintingCondition) -> OutputPolicy:
    """A usual policy for a condition; raises BadRecipe for an unknown kind."""
    if kind not in TEMPLATES:
        raise BadRecipe(f"There is no template {kind!r}.", remedy=f"Use {', '.join(TEMPLATES)}.")
    made = template(kind, condition.profile.sha256, tac=condition.ink_rules.get("tac"))
    return made.model_copy(update={"name": f"{made.name}, {condition.name}"})


def checked(data: Any) -> OutputPolicy:
    """A policy whose profiles are all known here; raises BadRecipe or BadProfile."""
    policy = parse_policy(data)
    load_profile(policy.destination)
    for reference in policy.sources.values():
        load_profile(reference)
    return policy


def save_policy(owner: AbstractBaseUser, data: Any, *, kept: Policy | None = None) -> Policy:
    """Keep a policy, new or as the next version of one."""
    policy = checked(data)
    kept = kept or Policy(owner=owner)
    new = policy.model_dump(mode="json")
    if not kept.versions or kept.versions[-1] != new:
        kept.versions = [*kept.versions, new]
    kept.name = policy.name
    kept.save()
    return kept


def take_document(owner: AbstractBaseUser, path: Path, file_name: str) -> Document:
    """Check and keep a PDF that lies in the scratch folder; raises BadDocument."""
    with open_document(path) as pdf:
        pages = len(pdf.pages)
    size = path.stat().st_size
    return Document.objects.create(
        owner=owner,
        file_name=Path(file_name).name[:255],
        sha256=store.put_file(path),
        size=size,
        pages=pages,
    )


@transaction.atomic
def start_run(document: Document, data: Any, *, dry: bool) -> PolicyRun:
    """Queue a dry or a real run of a policy."""
    policy = checked(data)
    stem = document.file_name.rsplit(".", 1)[0]
    run = PolicyRun.objects.create(
        document=document,
        policy=policy.model_dump(mode="json"),
        dry=dry,
        file_name=f"{stem}_{_slug(policy.name)}.pdf",
    )
    transaction.on_commit(lambda: _enqueue(run.pk))
    return run


def _slug(name: str) -> str:
    return "-".join("".join(c if c.isalnum() else " " for c in name.lower()).split())[:60]


def _enqueue(run_id: int) -> None:
    from plinto_server.apps.policies.tasks import apply_policy

    result = apply_policy.enqueue(run_id)
    PolicyRun.objects.filter(pk=run_id).update(task_id=str(result.id).replace("-", ""))


def do_run(run: PolicyRun, target: Path, progress: Progress) -> dict[str, Any]:
    """What a worker does for a run."""
    policy = parse_policy(run.policy)
    source = store.path_of(run.document.sha256)
    if run.dry:
        report = dry_run(policy, source, load_profile, progress=progress)
    else:
        report = run_policy(policy, source, target, load_profile, progress=progress)
    return {**report, "document": run.document.file_name}
