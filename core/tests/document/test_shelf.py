"""Large streams wait on disk, and the result is the same."""

from __future__ import annotations

import zlib

import numpy as np
import pikepdf
import pytest
from pikepdf import Dictionary, Name

from corpus import CORPUS
from paperwork import Paper
from plinto_core.document import parse_policy, run_policy
from plinto_core.document.pdf import shelf
from plinto_core.document.pdf.shelf import Shelf
from plinto_core.errors import BadDocument

CONVERT = {"destination": "press", "rules": [{"action": "convert"}]}
WITH_PICTURES = (
    "flate", "flate 16", "jpeg", "jpeg 2000", "run length", "inline", "indexed", "decode", "colour key", "soft mask", "inherited",
)  # fmt: skip


def contents(path) -> list[tuple[str, bytes]]:
    """All streams of a document with their keys, in the order of the file."""
    with pikepdf.open(path, attempt_recovery=False) as pdf:
        assert not any("/PlintoLaid" in o for o in pdf.objects if isinstance(o, pikepdf.Stream))
        return [
            (o.stream_dict.unparse().decode("latin-1"), o.read_raw_bytes())
            for o in pdf.objects if isinstance(o, pikepdf.Stream) and o.get("/Type") != Name.XRef
        ]  # fmt: skip


def loose(found: list[tuple[str, bytes]]) -> list[bytes]:
    return sorted(data for _, data in found)


@pytest.mark.parametrize("pdfx", ["none", "PDF/X-1a:2001", "PDF/X-4"])
@pytest.mark.parametrize("construct", WITH_PICTURES)
def test_what_was_laid_down_is_in_the_result(
    tmp_path, resolve, paper, monkeypatch, construct, pdfx
) -> None:
    content = CORPUS[construct](paper)
    path = paper.save(tmp_path / "in.pdf", content)
    policy = parse_policy({**CONVERT, "pdfx": pdfx, "pdfx_made": pdfx != "none"})
    kept = run_policy(policy, path, tmp_path / "kept.pdf", resolve)
    monkeypatch.setattr(shelf, "_ROOM", 0)
    monkeypatch.setattr(shelf, "_SMALL", 0)
    laid = run_policy(policy, path, tmp_path / "laid.pdf", resolve)
    leave = {"seconds", "size_after"}
    assert laid.model_dump(exclude=leave) == kept.model_dump(exclude=leave)
    a, b = contents(tmp_path / "kept.pdf"), contents(tmp_path / "laid.pdf")
    pictures = [[f for f in found if "/Image" in f[0]] for found in (a, b)]
    assert loose(pictures[0]) == loose(pictures[1])
    assert len(a) == len(b)
    versions = []
    for name in ("kept.pdf", "laid.pdf"):
        with pikepdf.open(tmp_path / name) as pdf:
            versions.append(pdf.pdf_version)
    assert versions[0] == versions[1]
    assert sorted(p.name for p in tmp_path.iterdir()) == ["in.pdf", "kept.pdf", "laid.pdf"]


def test_most_is_kept_in_memory_up_to_a_bound(tmp_path, monkeypatch) -> None:
    monkeypatch.setattr(shelf, "_ROOM", 1000)
    monkeypatch.setattr(shelf, "_SMALL", 100)
    how = {"Filter": Name.FlateDecode, "DecodeParms": Dictionary(Predictor=2, Columns=3)}
    rng = np.random.default_rng(2)
    data = [zlib.compress(rng.bytes(size), 0) for size in (500, 80, 400, 400, 80)]
    pdf = pikepdf.new()
    pdf.add_blank_page()
    streams = [pdf.make_indirect(pikepdf.Stream(pdf, b"", Number=i)) for i in range(len(data))]
    pdf.Root.Kept = pikepdf.Array(streams)
    with Shelf(tmp_path) as laid:
        for stream, packed in zip(streams, data, strict=True):
            laid.write(stream, packed, how)
        (folder,) = tmp_path.iterdir()
        assert [p.read_bytes() for p in folder.iterdir()] == [data[3]]
        pdf.save(tmp_path / "made.pdf")
        laid.restore(tmp_path / "made.pdf", "1.6", packs=False)
    assert [p.name for p in tmp_path.iterdir()] == ["made.pdf"]
    with pikepdf.open(tmp_path / "made.pdf") as made:
        assert made.pdf_version == "1.6"
        assert not any(
            o.get("/Type") == Name.ObjStm for o in made.objects if isinstance(o, pikepdf.Stream)
        )
        for i, (stream, packed) in enumerate(zip(made.Root.Kept, data, strict=True)):
            assert stream.read_raw_bytes() == packed
            assert stream.Number == i
            assert stream.Filter == Name.FlateDecode
            assert stream.DecodeParms.Columns == 3


@pytest.mark.parametrize("how", ["nonsense", "lost"])
def test_a_run_that_fails_leaves_nothing(tmp_path, resolve, monkeypatch, how) -> None:
    monkeypatch.setattr(shelf, "_ROOM", 0)
    monkeypatch.setattr(shelf, "_SMALL", 0)
    paper = Paper()
    picture = paper.image(np.full((9, 9, 3), 80, np.uint8), Name.DeviceRGB)
    paper.put("/XObject", "/Im", picture)
    path = paper.save(tmp_path / "in.pdf", "/Im Do")
    changes = Shelf._changes

    def damaged(self, saved):
        made = changes(self, saved)
        for change in made.values():
            change["stream"]["datafile"] = "/no/such/file"
        return made if how == "lost" else {"nonsense": 1}

    monkeypatch.setattr(Shelf, "_changes", damaged)
    with pytest.raises(BadDocument):
        run_policy(parse_policy(CONVERT), path, tmp_path / "out.pdf", resolve)
    assert [p.name for p in tmp_path.iterdir()] == ["in.pdf"]
