"""A second process that walks a long document from its end while this one walks from its beginning.

Only pages that hold nothing shared are done there (no forms, images, patterns, shadings, glyphs): their
new content and what was found on them come back; all other pages are left to the first process. Both
meet somewhere in the middle, so that a slow start of the second costs nothing.
"""

from __future__ import annotations

import os
import pickle
import subprocess
import sys
import threading
import zlib
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

import pikepdf

from plinto_core.document.pdf.items import Item, Unhandled
from plinto_core.document.pdf.opening import open_document
from plinto_core.document.pdf.state import State
from plinto_core.document.pdf.tree import inherited
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import OutputPolicy, parse_policy
from plinto_core.document.walking.ahead import ReadAhead
from plinto_core.document.walking.content import ContentWalk
from plinto_core.document.walking.walk import DocumentWalk, PageFinds
from plinto_core.errors import CoreError
from plinto_core.icc.profile import Profile
from plinto_core.recipes.sources import Resolve
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import Said

WORTH_IT = 250
"""Pages from which a second process is started: it takes a second to begin, in which the first does 200."""


@dataclass(frozen=True)
class _Job:
    path: str
    policy: dict[str, Any]
    destination: bytes
    profiles: dict[str, bytes]
    apply: bool
    weighs: bool


class _NotPlainError(Exception):
    """The page holds something that other pages may share."""


class SecondPair:
    """Results of the second process, by page."""

    def __init__(self, process: subprocess.Popen[bytes], job: bytes) -> None:
        self._process = process
        self._job = job
        self._ready: dict[int, bytes] = {}
        self._thread = threading.Thread(target=self._collect, daemon=True)
        self._thread.start()

    def _collect(self) -> None:
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        # A pipe holds less than a profile: whoever writes waits until the other has loaded its modules.
        # A second process that has died already leaves all pages to the first.
        with suppress(OSError, ValueError):
            self._process.stdin.write(self._job)
            self._process.stdin.close()
        for number, finds in _messages(self._process.stdout):
            self._ready[number] = finds

    def page(self, number: int) -> PageFinds | None:
        """What was found on a page, None where it is to be walked here."""
        found = self._ready.pop(number, None)
        return pickle.loads(zlib.decompress(found)) if found is not None else None

    def stop(self) -> None:
        self._process.kill()
        self._process.wait()
        self._thread.join()
        for pipe in (self._process.stdin, self._process.stdout):
            if pipe is not None:
                with suppress(OSError):
                    pipe.close()


@contextmanager
def second_pair(
    path: Path,
    policy: OutputPolicy,
    destination: Profile,
    resolve: Resolve,
    pages: int,
    *,
    apply: bool,
    weighs: bool,
) -> Iterator[SecondPair | None]:
    """The second process for a long document, where there is a second core; None otherwise."""
    if pages < WORTH_IT or (os.cpu_count() or 1) < 2:
        yield None
        return
    references = {policy.destination, *policy.sources.values()}
    job = _Job(
        str(path.resolve()), policy.model_dump(mode="json"), destination.data,
        {r: resolve(r).data for r in references}, apply, weighs,
    )  # fmt: skip
    process = subprocess.Popen(
        [sys.executable, "-m", "plinto_core.document.walking.second_pair"],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
    )  # fmt: skip
    pair = SecondPair(process, pickle.dumps(job))
    try:
        yield pair
    finally:
        pair.stop()


def _messages(pipe: IO[bytes]) -> Iterator[tuple[int, bytes]]:
    while len(head := pipe.read(8)) == 8:
        number, length = int.from_bytes(head[:4], "big"), int.from_bytes(head[4:], "big")
        data = pipe.read(length)
        if len(data) < length:
            return
        yield number, data


class _PlainWalk(ContentWalk):
    """A content stream whose every effect stays on its page."""

    def _object(self, name: str) -> bool:
        raise _NotPlainError

    def _inline(self, instruction: Any) -> bool:
        raise _NotPlainError

    def _pattern(self, stroke: bool, space: Any, operands: Any) -> bool:
        raise _NotPlainError

    def _shading(self, name: str) -> None:
        raise _NotPlainError


class _Walk(DocumentWalk):
    def __init__(self, pdf: pikepdf.Pdf, painter: Painter, *, apply: bool, weighs: bool) -> None:
        super().__init__(pdf, painter, apply=apply, weighs=weighs)
        self.noted: list[Unhandled] = []
        self._backwards = ReadAhead(self, -1)

    def note(self, kind: str, reason: Said) -> None:
        self.noted.append(Unhandled(self.page, kind, reason))

    def form(self, form: Any, parent: Any, state: State, depth: int = 0) -> None:
        # Glyphs, which are drawn for other pages too.
        raise _NotPlainError

    def finds(self, number: int) -> PageFinds | None:
        """A plain page's findings, None for any other."""
        self.page = number
        self.begin_page()
        page = self.pdf.pages[number - 1]
        before = self.operators
        self.fonts.clear()
        self.noted = []
        try:
            data = _PlainWalk(
                self, inherited(page, "/Resources") or pikepdf.Dictionary(), State()
            ).run(page, self._backwards.page(number))
        except (_NotPlainError, CoreError, pikepdf.PdfError, ValueError, TypeError, IndexError):
            # Whatever goes wrong goes wrong again in the first process, which knows what to say.
            return None
        self.differences.close()
        known = [(key, item) for key, item in self.known.items() if isinstance(item, Item)]
        return PageFinds(
            data if self.apply else None,
            known,
            self.noted,
            set(self.fonts),
            self.transparent.get(number),
            self.operators - before,
            self.watch.of_page(number) if self.watch is not None else [],
        )


def _main() -> None:
    job: _Job = pickle.loads(sys.stdin.buffer.read())
    policy = parse_policy(job.policy)
    known = {r: Profile(data) for r, data in job.profiles.items()}

    def resolve(reference: str) -> Profile:
        return known.get(reference) or standard_profile(reference)

    with open_document(Path(job.path)) as pdf:
        painter = Painter(policy, ColourMapper(policy, Profile(job.destination), resolve))
        walk = _Walk(pdf, painter, apply=job.apply, weighs=job.weighs)
        for number in range(len(pdf.pages), 0, -1):
            finds = walk.finds(number)
            if finds is None:
                continue
            data = zlib.compress(pickle.dumps(finds), 1)
            sys.stdout.buffer.write(number.to_bytes(4, "big") + len(data).to_bytes(4, "big") + data)
            sys.stdout.buffer.flush()


if __name__ == "__main__":
    _main()
