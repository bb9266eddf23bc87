"""Large streams that were made, laid on disk until the document is saved, so that they fill no memory."""

from __future__ import annotations

import json
import os
import tempfile
from dataclasses import dataclass
from pathlib import Path
from types import TracebackType
from typing import Any

import pikepdf

_ROOM = 48 << 20
"""Bytes of streams that are kept in memory: with fewer, nothing is laid down."""
_SMALL = 1 << 16
"""Bytes below which a stream is not worth a file."""
_MARK = "/PlintoLaid"
"""Under which a stream bears its number while it is away."""


@dataclass(frozen=True)
class _Laid:
    path: Path
    packed: dict[str, Any]
    """its filter and the filter's parameters, as JSON of the PDF library's"""


class Shelf:
    """Takes the packed data of a document's streams; `restore` puts it into the file that was saved."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._directory: tempfile.TemporaryDirectory[str] | None = None
        self._laid: list[_Laid] = []
        self._size = 0

    def __enter__(self) -> Shelf:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        if self._directory is not None:
            self._directory.cleanup()

    def write(self, stream: Any, data: bytes, how: dict[str, Any]) -> None:
        """Give a stream its data. how : its Filter, and DecodeParms where it has any."""
        if len(data) >= _SMALL and stream.is_indirect:
            self._size += len(data)
            if self._size > _ROOM:
                self._lay(stream, data, how)
                return
        stream.write(data, filter=how["Filter"], decode_parms=how.get("DecodeParms"))

    def _lay(self, stream: Any, data: bytes, how: dict[str, Any]) -> None:
        if self._directory is None:
            self._directory = tempfile.TemporaryDirectory(prefix=".plinto-", dir=self._folder)
        path = Path(self._directory.name) / str(len(self._laid))
        path.write_bytes(data)
        packed = {f"/{k}": _as_json(v) for k, v in how.items() if k in ("Filter", "DecodeParms")}
        stream.write(b"")
        stream[_MARK] = len(self._laid)
        self._laid.append(_Laid(path, packed))

    def restore(self, saved: Path, version: str, *, packs: bool) -> None:
        """Put what was laid down into a document that was saved without it.

        version : "" or what the file says to be; packs : whether objects may be packed. Raises PdfError.
        """
        if not self._laid:
            return
        assert self._directory is not None
        folder = Path(self._directory.name)
        changes = folder / "changes.json"
        changes.write_text(json.dumps({"qpdf": [_HEAD, self._changes(saved)]}), encoding="utf-8")
        whole = folder / "whole.pdf"
        given: dict[str, Any] = {
            "inputFile": str(saved), "outputFile": str(whole), "updateFromJson": str(changes),
            "objectStreams": "generate" if packs else "disable", "compressStreams": "y",
            "deterministicId": "",
        }  # fmt: skip
        if version:
            given["forceVersion"] = version
        job = pikepdf.Job(given)
        job.run()
        if job.exit_code != 0:
            raise pikepdf.PdfError(job.exit_code)
        os.replace(whole, saved)

    def _changes(self, saved: Path) -> dict[str, Any]:
        changes: dict[str, Any] = {}
        with pikepdf.open(saved) as pdf:
            for stream in pdf.objects:
                if not isinstance(stream, pikepdf.Stream) or _MARK not in stream:
                    continue
                laid = self._laid[int(stream[_MARK])]
                kept = {
                    key: _as_json(stream.get(key))
                    for key in stream.keys()  # noqa: SIM118
                    if key not in (_MARK, "/Length")
                }
                number, generation = stream.objgen
                changes[f"obj:{number} {generation} R"] = {
                    "stream": {"dict": kept | laid.packed, "datafile": str(laid.path)}
                }
        return changes


_HEAD = {
    "jsonversion": 2, "pushedinheritedpageresources": False, "calledgetallpages": False,
    "maxobjectid": 1,
}  # fmt: skip
"""What the PDF library's JSON begins with; of a change it asks for no more than its being there."""


def _as_json(value: Any) -> Any:
    return json.loads(value.to_json()) if isinstance(value, pikepdf.Object) else value
