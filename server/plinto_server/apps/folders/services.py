"""Watched folders: files are taken in once, run, and written out with their report.

Every step can be repeated: a killed process loses nothing and does nothing twice.
"""

from __future__ import annotations

import os
import shutil
import tempfile
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.utils.text import slugify

from plinto_core.arrays import Progress
from plinto_core.document import parse_policy
from plinto_core.document.reports.report import PolicyReport
from plinto_core.errors import BadDocument, CoreError
from plinto_server import store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.policies.models import Document, Policy, PolicyRun
from plinto_server.apps.policies.services import examine, result_name, run_on_file
from plinto_server.apps.printers.models import Medium, Printer
from plinto_server.apps.printers.services import judged, send_document
from plinto_server.apps.work.acts import enqueue
from plinto_server.apps.work.kinds import Described
from plinto_server.errors import Conflict
from plinto_server.removal import Use, remove
from plinto_server.revisions import settle

_LONGEST = 200
_FARTHEST = 2**63 - 1
PARTS = ("in", "out", "failed", "originals")


def create_folder(owner: User, **given: Any) -> WatchedFolder:
    """Keep a new watched folder and make its places; raises Conflict where nothing would happen."""
    folder = _with(WatchedFolder(owner=owner), given)
    folder.slug = _free_slug(folder.name)
    folder.save()
    make_places(folder)
    return folder


@transaction.atomic
def change_folder(
    folder: WatchedFolder, given: Mapping[str, Any], patch: dict[str, Any], match: int | None
) -> WatchedFolder:
    """Lay a patch (`given` : its checked form) over a folder; it holds for files that come from now
    on. Raises Stale where it collides, Conflict where nothing would happen any more."""
    before = _facts(folder)
    settle(folder, before, patch, match)
    _with(folder, given)
    if folder.stamp(before, _facts(folder)):
        folder.save()
    return folder


def _facts(folder: WatchedFolder) -> dict[str, Any]:
    return {
        "name": folder.name, "policy": folder.policy_id, "medium": folder.medium_id,
        "active": folder.active, "repeats": folder.repeats,
    }  # fmt: skip


def _with(folder: WatchedFolder, given: Mapping[str, Any]) -> WatchedFolder:
    for name, value in given.items():
        setattr(folder, name, value)
    policy, medium = folder.policy, folder.medium
    if policy is None and (medium is None or medium.policy is None):
        raise Conflict("Choose a policy for the folder, or a medium that has one.")
    if medium is not None:
        chosen = policy or medium.policy
        assert chosen is not None
        refused = [j for j in judged(medium, parse_policy(chosen.present)) if j.level == "refuse"]
        if refused:
            raise Conflict(f"{refused[0].reason} {refused[0].remedy}")
    return folder


def remove_folder(folder: WatchedFolder) -> None:
    """Stop watching; the files stay where they are."""
    if folder.files.filter(state__in=["waiting", "held", "running"]).exists():
        raise Conflict("A file of the folder is still worked on.")
    remove(folder)


def uses_of_policy(policy: Policy, user: Any) -> list[Use]:
    """The folders that run a policy."""
    rows = WatchedFolder.objects.filter(policy=policy, removed=None)
    return [Use("folder", f.name, "/folders") for f in rows]


def uses_of_medium(medium: Medium, user: Any) -> list[Use]:
    """The folders that print on a medium."""
    rows = WatchedFolder.objects.filter(medium=medium, removed=None)
    return [Use("folder", f.name, "/folders") for f in rows]


def uses_of_printer(printer: Printer, user: Any) -> list[Use]:
    """The folders that print on any medium of a printer."""
    rows = WatchedFolder.objects.filter(medium__printer=printer, removed=None)
    return [Use("folder", f.name, "/folders") for f in rows]


def uses_of_condition(condition: PrintingCondition, user: Any) -> list[Use]:
    """The folders whose medium prints a condition."""
    rows = WatchedFolder.objects.filter(medium__condition=condition, removed=None, owner=user)
    return [Use("folder", f.name, "/folders") for f in rows]


def _free_slug(name: str) -> str:
    base = slugify(name)[:100] or "folder"
    slug, number = base, 2
    while WatchedFolder.objects.filter(slug=slug).exists():
        slug, number = f"{base}-{number}", number + 1
    return slug


def make_places(folder: WatchedFolder) -> None:
    """The folder's in, out, failed and originals."""
    for part in PARTS:
        folder.part(part).mkdir(parents=True, exist_ok=True)


def plain_name(name: str) -> str:
    """A file's name as text that can be kept and lengthened: unreadable bytes replaced, 200 bytes at
    most, its ending kept."""
    text = name.encode("utf-8", "surrogateescape").decode("utf-8", "replace")
    stem, dot, ending = text.rpartition(".")
    if not dot or len(ending) > 10:
        stem, ending = text, ""
    room = _LONGEST - len(ending) - 1
    short = stem.encode()[:room].decode("utf-8", "ignore")
    return f"{short}.{ending}" if ending else short


def take_in(folder: WatchedFolder, path: Path) -> FolderFile | None:
    """Take a settled file of `in` into the queue and move it to `originals`.

    Returns None where it changed meanwhile. A file that is known already (the process was killed
    before it was moved) is only moved.
    """
    before = path.stat()
    with store.scratch(path.suffix.lower()[:8]) as copy:
        shutil.copyfile(path, copy)
        after = path.stat()
        if (before.st_size, before.st_mtime_ns) != (after.st_size, after.st_mtime_ns):
            return None
        sha256 = store.put_file(copy)
    name = plain_name(path.name)
    row = _row(folder, name, sha256, before)
    os.replace(path, _free_path(folder.part("originals") / name))
    return row


@transaction.atomic
def _row(folder: WatchedFolder, name: str, sha256: str, stat: os.stat_result) -> FolderFile:
    # A file may be dated beyond what 63 bits of nanoseconds hold, the year 2262.
    stamp = min(max(stat.st_mtime_ns, -_FARTHEST), _FARTHEST)
    known = FolderFile.objects.filter(folder=folder, name=name, sha256=sha256, stamp=stamp).first()
    if known is not None:
        return known
    policy = folder.policy or (folder.medium.policy if folder.medium else None)
    before = _same_before(folder, sha256, policy.present if policy else {})
    row = FolderFile(
        folder=folder, name=name, sha256=sha256, size=stat.st_size, stamp=stamp,
        policy=policy.present if policy else {}, medium=folder.medium,
    )  # fmt: skip
    if before is not None:
        row.note = f"The same file came before as {before.name}, see {before.out_name}."
    if before is not None and folder.repeats == "skip":
        row.state, row.progress, row.filed = FolderFile.DONE, 1.0, True
        row.note += " It was not run again."
        row.save()
        return row
    row.out_name = _free_name(folder, name, row.policy)
    row.save()
    enqueue(row)
    return row


def _same_before(folder: WatchedFolder, sha256: str, policy: dict[str, Any]) -> FolderFile | None:
    """A file of the same bytes that ran by the same policy, or is about to, None for no such file."""
    known = FolderFile.objects.filter(folder=folder, sha256=sha256, medium=folder.medium)
    alive = (FolderFile.WAITING, FolderFile.HELD, FolderFile.RUNNING)
    same = [
        row for row in known.order_by("created")
        if row.policy == policy and (row.state in alive or (row.state == FolderFile.DONE and row.result_sha256))
    ]  # fmt: skip
    # One that has ended comes first: its result can be looked at.
    return min(same, key=lambda row: row.state in alive, default=None)


def _free_name(folder: WatchedFolder, name: str, policy: dict[str, Any]) -> str:
    kind = Document.PDF if name.lower().endswith(".pdf") else Document.PICTURE
    wanted = Path(result_name(name, kind, parse_policy(policy)) if policy else name)
    number, free = 2, wanted.name
    taken = set(folder.files.values_list("out_name", flat=True))
    while free in taken or (folder.part("out") / free).exists():
        free, number = f"{wanted.stem}-{number}{wanted.suffix}", number + 1
    return free


def _free_path(path: Path) -> Path:
    free, number = path, 2
    while free.exists():
        free, number = path.with_name(f"{path.stem}-{number}{path.suffix}"), number + 1
    return free


def run_file(row: FolderFile, target: Path, progress: Progress) -> PolicyReport:
    """What a worker does for a file: the policy, then result and report into `out`."""
    if not row.policy:
        raise BadDocument("The folder had no policy when the file came.", remedy="Give it one.")
    source = store.path_of(row.sha256)
    kind, _ = examine(source)
    policy = parse_policy(row.policy)
    report = run_on_file(policy, kind, source, target, progress)
    report = report.model_copy(update={"document": row.name})
    out = row.folder.part("out")
    _write(out / f"{row.out_name}.report.json", report.model_dump_json(indent=2).encode())
    _place(target, out / row.out_name)
    return report


def _write(path: Path, data: bytes) -> None:
    with store.scratch() as temporary:
        temporary.write_bytes(data)
        _place(temporary, path)


def _place(source: Path, path: Path) -> None:
    """Copy a file so that it appears under its name only when complete."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, name = tempfile.mkstemp(prefix=".", suffix=".part", dir=path.parent)
    os.close(handle)
    try:
        shutil.copyfile(source, name)
        os.chmod(name, 0o644)
        os.replace(name, path)
    except OSError:
        Path(name).unlink(missing_ok=True)
        raise


def file_away(row: FolderFile) -> None:
    """After the run: a failure into `failed` with its reason, a success on to the printer.

    May be called again after a kill; it then does what is missing.
    """
    if row.filed or not row.has_ended:
        return
    failed = row.folder.part("failed")
    if row.state == FolderFile.DONE:
        if row.medium is not None:
            _print(row)
    else:
        reason = row.error or "It was cancelled."
        _place(store.path_of(row.sha256), failed / row.name)
        _write(failed / f"{row.name}.reason.txt", f"{row.name}: {reason}\n".encode())
    FolderFile.objects.filter(pk=row.pk).update(filed=True)


@transaction.atomic
def _print(row: FolderFile) -> None:
    """The original goes on to the printer, by the policy it ran by; once, with the mark that it did."""
    assert row.medium is not None
    kind, pages = examine(store.path_of(row.sha256))
    document, _ = Document.objects.get_or_create(
        owner=row.folder.owner, sha256=row.sha256,
        defaults={"file_name": row.name, "size": row.size, "pages": pages, "kind": kind},
    )  # fmt: skip
    try:
        if row.medium.retired or row.medium.printer.retired:
            raise Conflict(f"{row.medium.name} was removed from the printers.")
        send_document(row.folder.owner, document, row.medium, policy=parse_policy(row.policy))
    except (Conflict, CoreError) as error:
        FolderFile.objects.filter(pk=row.pk).update(note=f"Not printed: {error}")
    FolderFile.objects.filter(pk=row.pk).update(filed=True)


def described(row: FolderFile) -> Described:
    """A file as the queue shows it."""
    detail = f"Folder {row.folder.name}, policy {row.policy.get('name', 'none')}"
    return Described(row.name, detail, "/folders", row.out_name, row.policy)


def drop_file(folder: WatchedFolder, name: str, source: Path) -> Path:
    """Put a file into `in` as a copying program would; raises Conflict for an unusable name."""
    plain = plain_name(Path(name).name)
    if not plain or plain.startswith("."):
        raise Conflict("The file has no usable name.")
    target = _free_path(folder.part("in") / plain)
    _place(source, target)
    return target


def hand_over(folder: WatchedFolder, run: Run | PolicyRun) -> Path:
    """Put what a delivery or a policy made into `in`, under its own name; raises Conflict where there
    is no file or nobody looks into the folder."""
    if run.state != run.DONE or not run.result_sha256:
        raise Conflict("It is not finished: there is no file yet.")
    if not folder.active:
        raise Conflict("Nobody looks into the folder at present. Let it be watched first.")
    return drop_file(folder, run.file_name, store.path_of(run.result_sha256))
