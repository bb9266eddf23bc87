"""Watched folders: files are settled, run once, written out whole, and survive kills at any step."""

from __future__ import annotations

import io
import json
import os
import shutil
import time

import pikepdf
import pytest

from plinto_core.demo.atlas import star_atlas
from plinto_server.apps.folders import services
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.folders.watching import FolderWatch
from plinto_server.apps.printers.models import Medium, Printer, PrintJob
from plinto_server.apps.work.running import sweep
from uploading import upload_document
from working import work_off


@pytest.fixture(autouse=True)
def _folders(settings, tmp_path) -> None:
    settings.FOLDERS = tmp_path / "folders"


@pytest.fixture
def policy(client, conditions) -> dict:
    made = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    return client.post("/api/policies", made, format="json").json()


@pytest.fixture
def folder(client, policy) -> WatchedFolder:
    body = {"name": "From the office", "policy": policy["id"]}
    made = client.post("/api/folders", body, format="json")
    assert made.status_code == 201, made.content
    return WatchedFolder.objects.get(pk=made.json()["id"])


@pytest.fixture
def drop(folder, tmp_path):
    star_atlas(tmp_path / "atlas.pdf", pages=1)

    def put(name: str = "atlas.pdf", data: bytes | None = None, into: WatchedFolder = folder):
        path = into.part("in") / name
        path.write_bytes((tmp_path / "atlas.pdf").read_bytes() if data is None else data)
        return path

    return put


def names(folder: WatchedFolder, part: str) -> list[str]:
    return sorted(p.name for p in folder.part(part).iterdir())


def once() -> list[FolderFile]:
    return FolderWatch(settled=0).look()


def test_what_a_policy_made_goes_on_into_a_folder(client, policy, folder, tmp_path) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=1)
    document = upload_document(client, (tmp_path / "atlas.pdf").read_bytes()).json()
    run = {"policy": policy["policy"], "document": document["id"]}
    made = client.post("/api/policy-runs", {**run, "dry": False}, format="json").json()
    place = f"/api/folders/{folder.pk}/finished"
    early = client.post(place, {"result": made["id"]}, format="json")
    assert early.status_code == 409
    assert names(folder, "in") == []
    work_off()
    for _ in range(2):
        assert client.post(place, {"result": made["id"]}, format="json").status_code == 201
    first, second = sorted(folder.part("in").iterdir())
    made_file = client.get(f"/api/policy-runs/{made['id']}/file").getvalue()
    assert first.read_bytes() == second.read_bytes() == made_file
    assert [r.name for r in once()] == [first.name, second.name]
    dry = client.post("/api/policy-runs", {**run, "dry": True}, format="json").json()
    work_off()
    assert client.post(place, {"result": dry["id"]}, format="json").status_code == 409
    assert client.post(place, {}, format="json").status_code == 400
    client.patch(f"/api/folders/{folder.pk}", {"active": False}, format="json")
    nobody_looks = client.post(place, {"result": made["id"]}, format="json")
    assert nobody_looks.status_code == 409
    assert "watched" in nobody_looks.json()["title"]


@pytest.mark.parametrize("year", [1677, 2400])
def test_a_file_dated_in_any_year_is_taken(folder, drop, year) -> None:
    path = drop()
    seconds = (year - 1970) * 31_556_952
    os.utime(path, (seconds, seconds))
    assert len(once()) == 1
    assert names(folder, "in") == []


def test_one_folder_s_trouble_is_its_own_and_told_on_its_page(
    client, policy, folder, drop, monkeypatch, caplog
) -> None:
    body = {"name": "A quarrelsome one", "policy": policy["id"]}
    other = WatchedFolder.objects.get(
        pk=client.post("/api/folders", body, format="json").json()["id"]
    )
    drop("bad.pdf", into=other)
    drop("also-good.pdf", b"%PDF-1.7 another", into=other)
    drop()
    real = services.take_in

    def take_in(where, path):
        if path.name == "bad.pdf":
            raise RuntimeError("nobody thought of this")
        return real(where, path)

    monkeypatch.setattr("plinto_server.apps.folders.watching.take_in", take_in)
    watch = FolderWatch(settled=0)
    assert {r.name for r in watch.look()} == {"atlas.pdf", "also-good.pdf"}
    assert watch.look() == []
    said = "bad.pdf cannot be taken in: RuntimeError."
    told = {f["name"]: f["trouble"] for f in client.get("/api/folders").json()}
    assert told == {"A quarrelsome one": said, "From the office": ""}
    assert sum(said in r.getMessage() for r in caplog.records) == 1, "not at every look"
    monkeypatch.setattr("plinto_server.apps.folders.watching.take_in", real)
    assert len(watch.look()) == 1
    other.refresh_from_db()
    assert other.trouble == ""


def test_a_folder_that_cannot_be_looked_into_keeps_no_other_waiting(
    client, policy, folder, drop
) -> None:
    body = {"name": "A gone one", "policy": policy["id"]}
    gone = WatchedFolder.objects.get(
        pk=client.post("/api/folders", body, format="json").json()["id"]
    )
    shutil.rmtree(gone.root)
    gone.root.write_text("a file stands where the folder should")
    drop()
    assert len(once()) == 1
    gone.refresh_from_db()
    assert gone.trouble.startswith("The folder cannot be looked into: ")
    assert client.get("/api/folders").status_code == 200


def test_a_result_that_cannot_be_filed_keeps_no_other_waiting(folder, drop, monkeypatch) -> None:
    drop("one.pdf", b"%PDF-1.7 broken")
    drop("two.pdf", b"%PDF-1.7 broken too")
    once()
    work_off()
    real = services.file_away

    def file_away(row):
        if row.name == "one.pdf":
            raise OSError(28, "No space left on device")
        real(row)

    monkeypatch.setattr("plinto_server.apps.folders.watching.file_away", file_away)
    once()
    one, two = (FolderFile.objects.get(name=n) for n in ("one.pdf", "two.pdf"))
    assert (one.filed, two.filed) == (False, True)
    assert one.note == "one.pdf cannot be filed: The disk is full. Make room and try again."
    monkeypatch.setattr("plinto_server.apps.folders.watching.file_away", real)
    once()
    one.refresh_from_db()
    assert (one.filed, one.note) == (True, "")


def test_a_look_that_fails_is_not_the_last(monkeypatch) -> None:
    watch, looks, beats = FolderWatch(), [], []
    for name, stands_in in (("beat", beats.append), ("close_old_connections", lambda: None)):
        monkeypatch.setattr(f"plinto_server.apps.folders.watching.{name}", stands_in)
    monkeypatch.setattr(watch._stop, "wait", lambda seconds: len(looks) == 3)

    def look():
        looks.append(1)
        raise OverflowError("dated in the year 2400")

    monkeypatch.setattr(watch, "look", look)
    watch.run()
    assert len(looks) == 3
    assert beats == ["folders"] * 3


def test_a_file_is_run_and_written_out_with_its_report(folder, drop) -> None:
    drop()
    assert len(once()) == 1
    assert names(folder, "in") == []
    assert names(folder, "originals") == ["atlas.pdf"]
    work_off()
    result = "atlas_receiver-wants-bare-cmyk-sheetfed-coated.pdf"
    assert names(folder, "out") == [result, f"{result}.report.json"]
    report = json.loads((folder.part("out") / f"{result}.report.json").read_text())
    assert report["document"] == "atlas.pdf"
    with pikepdf.open(folder.part("out") / result) as pdf:
        assert len(pdf.pages) == 1
    once()
    assert FolderFile.objects.get().filed


def test_a_growing_file_is_left_until_it_rests(folder, drop) -> None:
    watch = FolderWatch(settled=0.2)
    path = drop(data=b"%PDF-1.7 first")
    assert watch.look() == []
    path.write_bytes(b"%PDF-1.7 first and more")
    assert watch.look() == []
    shutil.copyfile(path, path.with_name("x.part"))
    time.sleep(0.25)
    assert [row.name for row in watch.look()] == ["atlas.pdf"]
    assert names(folder, "in") == ["x.part"]


def test_hidden_files_folders_and_links_are_left_alone(folder, drop, tmp_path) -> None:
    drop(".hidden.pdf")
    (folder.part("in") / "sub").mkdir()
    os.symlink("/etc/hostname", folder.part("in") / "link.pdf")
    assert once() == []


def test_what_fails_goes_to_its_own_folder_with_the_reason(folder, drop) -> None:
    drop("broken.pdf", b"%PDF-1.7 nothing in here")
    drop("notes.txt", b"no picture")
    once()
    work_off()
    once()
    assert names(folder, "out") == []
    assert names(folder, "failed") == [
        "broken.pdf", "broken.pdf.reason.txt", "notes.txt", "notes.txt.reason.txt",
    ]  # fmt: skip
    reason = (folder.part("failed") / "broken.pdf.reason.txt").read_text()
    assert "damaged" in reason
    assert names(folder, "originals") == ["broken.pdf", "notes.txt"]


def test_names_that_no_database_keeps_are_taken_all_the_same(folder, drop) -> None:
    long = "ü" * 120 + ".pdf"
    drop(long, b"%PDF-1.7 nothing in here")
    odd = os.fsdecode(b"caf\xe9.pdf")
    drop(odd, b"%PDF-1.7 nothing in here either")
    once()
    work_off()
    once()
    assert names(folder, "in") == []
    assert sorted(FolderFile.objects.values_list("name", flat=True)) == [
        "caf\ufffd.pdf", "ü" * 98 + ".pdf",
    ]  # fmt: skip
    assert len(names(folder, "failed")) == 4
    assert set(FolderFile.objects.values_list("filed", flat=True)) == {True}


def test_one_file_that_cannot_be_filed_keeps_no_other_waiting(folder, drop, monkeypatch) -> None:
    drop("a.pdf", b"%PDF-1.7 one")
    drop("b.pdf", b"%PDF-1.7 two")
    once()
    work_off()
    place = services._place

    def full(source, path) -> None:
        if path.name.startswith("b.pdf"):
            raise OSError("no room")
        place(source, path)

    with monkeypatch.context() as patch:
        patch.setattr(services, "_place", full)
        once()
    assert FolderFile.objects.get(name="a.pdf").filed
    assert not FolderFile.objects.get(name="b.pdf").filed
    once()
    assert FolderFile.objects.get(name="b.pdf").filed


def test_the_same_file_beside_one_that_still_waits_runs_once(client, folder, drop) -> None:
    drop()
    drop("again.pdf")
    once()
    assert len(work_off()) == 1
    skipped = FolderFile.objects.get(name="atlas.pdf")
    assert (skipped.state, skipped.filed) == ("done", True)
    assert skipped.note.startswith("The same file came before as again.pdf, see again_")


def test_the_same_file_under_another_policy_runs_again(client, folder, drop, policy) -> None:
    drop()
    once()
    work_off()
    changed = client.patch(f"/api/policies/{policy['id']}", {"tac": 250}, format="json")
    assert changed.status_code == 200
    drop("again.pdf")
    once()
    assert len(work_off()) == 1
    assert FolderFile.objects.get(name="again.pdf").note == ""


def test_names_that_are_no_text_are_kept_readable(client, folder, drop) -> None:
    broken = os.fsdecode(b"Plakat \xfc.pdf")
    drop(broken)
    once()
    work_off()
    row = FolderFile.objects.get()
    assert (row.name, row.state) == ("Plakat \ufffd.pdf", "done")
    listed = client.get("/api/folders")
    assert listed.status_code == 200
    assert "Plakat" in listed.content.decode()


def test_the_same_file_twice_is_noticed(client, folder, drop) -> None:
    drop()
    once()
    work_off()
    drop("again.pdf")
    once()
    assert work_off() == []
    row = FolderFile.objects.get(name="again.pdf")
    assert row.state == "done"
    assert row.note.startswith("The same file came before as atlas.pdf")
    assert names(folder, "originals") == ["again.pdf", "atlas.pdf"]
    body = {"name": folder.name, "policy": folder.policy_id, "repeats": "run"}
    client.patch(f"/api/folders/{folder.pk}", body, format="json")
    drop("third.pdf")
    once()
    assert len(work_off()) == 1
    assert "not run again" not in FolderFile.objects.get(name="third.pdf").note


def test_equal_names_never_write_over_each_other(folder, drop) -> None:
    for pages in (1, 2, 3):
        star_atlas(folder.root / "new.pdf", pages=pages)
        drop(data=(folder.root / "new.pdf").read_bytes())
        once()
    work_off()
    assert [n for n in names(folder, "out") if n.endswith(".pdf")] == [
        "atlas_receiver-wants-bare-cmyk-sheetfed-coated-2.pdf",
        "atlas_receiver-wants-bare-cmyk-sheetfed-coated-3.pdf",
        "atlas_receiver-wants-bare-cmyk-sheetfed-coated.pdf",
    ]
    assert names(folder, "originals") == ["atlas-2.pdf", "atlas-3.pdf", "atlas.pdf"]


def test_a_kill_before_the_original_was_moved_doubles_nothing(folder, drop, monkeypatch) -> None:
    drop()

    def killed(*args: object) -> None:
        raise OSError("killed")

    with monkeypatch.context() as patch:
        patch.setattr(services, "_free_path", killed)
        assert once() == []
    assert FolderFile.objects.count() == 1
    assert names(folder, "in") == ["atlas.pdf"]
    once()
    assert FolderFile.objects.count() == 1
    assert names(folder, "originals") == ["atlas.pdf"]
    assert len(work_off()) == 1


def test_a_kill_after_writing_out_writes_the_same_again(folder, drop) -> None:
    drop()
    once()
    work_off()
    before = names(folder, "out")
    FolderFile.objects.update(state="waiting", filed=False, task_id="")
    sweep()
    work_off()
    assert names(folder, "out") == before
    assert FolderFile.objects.get().state == "done"


def test_results_go_on_to_the_printer_once(client, user, folder, drop, conditions) -> None:
    printer = Printer.objects.create(owner=user, name="North press")
    medium = Medium.objects.create(
        printer=printer, name="Gloss", condition=conditions[0], policy=folder.policy,
        duty={"manager": "plinto", "driver": "off", "rip": "off"}, settings={},
    )  # fmt: skip
    body = {"name": folder.name, "medium": medium.pk}
    assert client.patch(f"/api/folders/{folder.pk}", body, format="json").status_code == 200
    drop()
    once()
    work_off()
    once()
    once()
    work_off()
    assert PrintJob.objects.get().state == "done"


def test_a_folder_needs_a_policy_and_a_route_that_the_guard_lets_pass(client, user, policy, conditions) -> None:  # fmt: skip
    answer = client.post("/api/folders", {"name": "Nothing"}, format="json")
    assert answer.status_code == 409
    printer = Printer.objects.create(owner=user, name="North press")
    medium = Medium.objects.create(
        printer=printer, name="Gloss", condition=conditions[0], policy_id=policy["id"],
        duty={"manager": "plinto", "driver": "off", "rip": "on"},
    )  # fmt: skip
    answer = client.post("/api/folders", {"name": "Twice", "medium": medium.pk}, format="json")
    assert answer.status_code == 409
    assert "managed twice" in answer.json()["title"]


def test_files_can_be_dropped_from_the_browser(client, folder, tmp_path) -> None:
    file = io.BytesIO(b"%PDF-1.7 x")
    file.name = "../../evil.pdf"
    shown = client.post(f"/api/folders/{folder.pk}/files", {"file": file}, format="multipart")
    assert shown.status_code == 201
    assert shown.json()["settling"] == ["evil.pdf"]
    assert names(folder, "in") == ["evil.pdf"]


def test_a_folder_that_rests_takes_nothing(client, folder, drop) -> None:
    body = {"name": folder.name, "policy": folder.policy_id, "active": False}
    client.patch(f"/api/folders/{folder.pk}", body, format="json")
    drop()
    assert once() == []
    assert client.delete(f"/api/folders/{folder.pk}").status_code == 204
    assert (folder.part("in") / "atlas.pdf").exists()
