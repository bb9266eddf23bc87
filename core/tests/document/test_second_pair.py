"""Two processes on a long document make what one makes, and whatever happens to the second is no loss."""

from __future__ import annotations

import pickle

import pikepdf
import pytest

from plinto_core.demo.atlas import star_atlas
from plinto_core.document import dry_run, run_policy, template
from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.walking import second_pair
from plinto_core.document.walking.walk import PageFinds
from plinto_core.errors import Cancelled, PolicyStop
from plinto_core.transform.standard_spaces import standard_profile

OFFICE = template("office-files", "press", tac=280)
PAGES = 40


@pytest.fixture(autouse=True)
def soon(monkeypatch) -> None:
    """A second process is worth it from here, so that its documents need not be long."""
    monkeypatch.setattr(second_pair, "WORTH_IT", PAGES)


@pytest.fixture(scope="module")
def long(tmp_path_factory):
    """Every page of the atlas many times, among plain ones that a second process can do alone."""
    path = tmp_path_factory.mktemp("long") / "atlas.pdf"
    star_atlas(path, pages=PAGES)
    return path


def alone(monkeypatch) -> None:
    monkeypatch.setattr(second_pair.os, "cpu_count", lambda: 1)


def without_time(report: PolicyReport) -> PolicyReport:
    return report.model_copy(update={"seconds": 0})


def wait_for_it(monkeypatch) -> list[int]:
    """Let the second process finish before the first begins; returns the pages it did."""
    taken: list[int] = []
    page = second_pair.SecondPair.page

    def patient(self, number: int) -> PageFinds | None:
        self._thread.join()
        found = page(self, number)
        if found is not None:
            taken.append(number)
        return found

    monkeypatch.setattr(second_pair.SecondPair, "page", patient)
    return taken


def test_two_processes_make_the_same_bytes_and_report(long, tmp_path, resolve, monkeypatch) -> None:
    taken = wait_for_it(monkeypatch)
    both = run_policy(OFFICE, long, tmp_path / "both.pdf", resolve)
    alone(monkeypatch)
    one = run_policy(OFFICE, long, tmp_path / "one.pdf", resolve)
    assert {(n - 1) % 6 for n in taken} == {0, 2, 3}, "chart, office and spot pages share nothing"
    assert (tmp_path / "both.pdf").read_bytes() == (tmp_path / "one.pdf").read_bytes()
    assert without_time(both) == without_time(one)


def test_pages_of_other_inks_have_their_space_wherever_they_were_done(
    long, tmp_path, seven, monkeypatch
) -> None:
    taken = wait_for_it(monkeypatch)

    def find(reference):
        return seven if reference == "press" else standard_profile(reference)

    both = run_policy(OFFICE, long, tmp_path / "both.pdf", find)
    alone(monkeypatch)
    one = run_policy(OFFICE, long, tmp_path / "one.pdf", find)
    assert len(taken) > 10
    assert without_time(both).model_copy(update={"size_after": 0}) == without_time(one).model_copy(
        update={"size_after": 0}
    )
    with pikepdf.open(tmp_path / "both.pdf") as two, pikepdf.open(tmp_path / "one.pdf") as single:
        for page, other in zip(two.pages, single.pages, strict=True):
            assert page.Contents.read_bytes() == other.Contents.read_bytes()
            if b"/PlintoInks" in page.Contents.read_bytes():
                assert len(page.Resources.ColorSpace["/PlintoInks"][1]) == 7


def test_a_dry_run_reports_the_same(long, resolve, monkeypatch) -> None:
    taken = wait_for_it(monkeypatch)
    both = dry_run(OFFICE, long, resolve)
    assert len(taken) > 10
    alone(monkeypatch)
    assert without_time(both) == without_time(dry_run(OFFICE, long, resolve))


def test_a_stop_still_names_the_first_page(long, tmp_path, resolve, monkeypatch) -> None:
    wait_for_it(monkeypatch)
    with pytest.raises(PolicyStop, match="Page 4: rule 1"):
        run_policy(template("strict-press", "press"), long, tmp_path / "out.pdf", resolve)


def test_a_second_process_that_dies_is_no_loss(long, tmp_path, resolve, monkeypatch) -> None:
    monkeypatch.setattr(second_pair.sys, "executable", "/bin/false")
    report = run_policy(OFFICE, long, tmp_path / "out.pdf", resolve)
    assert report.pages == PAGES
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert len(pdf.pages) == PAGES


def test_cancelling_ends_the_second_process(long, tmp_path, resolve, monkeypatch) -> None:
    started = []
    popen = second_pair.subprocess.Popen

    def remembered(*args, **options):
        started.append(popen(*args, **options))
        return started[-1]

    monkeypatch.setattr(second_pair.subprocess, "Popen", remembered)

    def stop(share: float) -> None:
        raise Cancelled

    with pytest.raises(Cancelled):
        run_policy(OFFICE, long, tmp_path / "out.pdf", resolve, progress=stop)
    assert started[0].returncode is not None
    assert not (tmp_path / "out.pdf").exists()


def test_a_short_document_is_walked_by_one(long, resolve, monkeypatch) -> None:
    monkeypatch.setattr(second_pair, "WORTH_IT", PAGES + 1)
    monkeypatch.setattr(
        second_pair.subprocess, "Popen", lambda *args, **options: pytest.fail("started")
    )
    assert dry_run(OFFICE, long, resolve).pages == PAGES


def test_what_crosses_the_pipe_is_plain_data() -> None:
    finds = PageFinds(b"0 g", [], [], {"Helvetica"}, None, 3, [])
    assert pickle.loads(pickle.dumps(finds)) == finds
