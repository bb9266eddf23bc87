"""Run an output policy on a PDF, dry or for real, and report what was found and done."""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pikepdf

from plinto_core.arrays import Progress
from plinto_core.document.colours import ColourMapper
from plinto_core.document.items import Item
from plinto_core.document.output_intent import read_output_intent, write_output_intent
from plinto_core.document.painting import Painter
from plinto_core.document.policy import OutputPolicy
from plinto_core.document.walk import DocumentWalk
from plinto_core.errors import BadDocument
from plinto_core.icc.profile import Profile
from plinto_core.imaging.writer import whole_or_none
from plinto_core.recipes.sources import Resolve
from plinto_core.transform.working_spaces import standard_profile

MOST_PAGES = 20_000
MOST_ITEMS = 20_000
_MAX_FILE = 8 << 30


@contextmanager
def open_document(path: Path) -> Iterator[pikepdf.Pdf]:
    """A PDF that can be read; raises BadDocument for a damaged, encrypted or huge one."""
    try:
        size = path.stat().st_size
        if size > _MAX_FILE:
            raise BadDocument("The document is larger than 8 GB.")
        pdf = pikepdf.open(path)
    except OSError as error:
        raise BadDocument(
            f"The document {path.name} cannot be read.", remedy="Check its path."
        ) from error
    except pikepdf.PasswordError as error:
        raise BadDocument(
            f"The document {path.name} is encrypted with a password.",
            remedy="Save it without one.",
        ) from error
    except (pikepdf.PdfError, RuntimeError, ValueError) as error:
        raise BadDocument(
            f"The document {path.name} is damaged or no PDF.", remedy="Use an intact copy."
        ) from error
    with pdf:
        try:
            count = len(pdf.pages)
        except (pikepdf.PdfError, RuntimeError, RecursionError) as error:
            raise BadDocument(f"The pages of {path.name} cannot be found.") from error
        if not 1 <= count <= MOST_PAGES:
            raise BadDocument(f"The document has {count} pages; 1 to {MOST_PAGES} are read.")
        yield pdf


def inventory(path: Path, *, progress: Progress = lambda share: None) -> dict[str, Any]:
    """All objects of a PDF with spaces, profiles, pixels, resolution and inks; nothing is changed."""
    policy = OutputPolicy(name="Inventory", destination="srgb")
    return _run(policy, path, None, standard_profile, progress)


def dry_run(
    policy: OutputPolicy, path: Path, resolve: Resolve, *, progress: Progress = lambda share: None
) -> dict[str, Any]:
    """What the policy would do to a PDF; raises BadDocument or BadRecipe."""
    return _run(policy, path, None, resolve, progress)


def run_policy(
    policy: OutputPolicy, path: Path, target: Path, resolve: Resolve, *,
    progress: Progress = lambda share: None,
) -> dict[str, Any]:  # fmt: skip
    """Apply the policy; the result appears under `target` only when complete.

    Raises PolicyStop where a rule stops the document, BadDocument for what cannot be read.
    """
    if path.exists() and target.exists() and path.samefile(target):
        raise BadDocument("Input and output are the same file.", remedy="Choose another name.")
    return _run(policy, path, target, resolve, progress)


def _run(
    policy: OutputPolicy, path: Path, target: Path | None, resolve: Resolve, progress: Progress
) -> dict[str, Any]:
    began = time.monotonic()
    with open_document(path) as pdf:
        own = read_output_intent(pdf)
        destination = _destination(policy, own, resolve)
        painter = Painter(policy, ColourMapper(policy, destination, resolve))
        walk = DocumentWalk(pdf, painter, apply=target is not None)
        total = len(pdf.pages)
        for number in walk.pages():
            progress(0.8 * number / total)
        report = _report(walk, policy, destination, own, path)
        if target is not None:
            _remove_defaults(pdf, painter)
            write_output_intent(pdf, destination, policy)
            with whole_or_none(target) as temporary:
                pdf.save(
                    temporary, static_id=True, compress_streams=True,
                    object_stream_mode=pikepdf.ObjectStreamMode.generate,
                )  # fmt: skip
            report["size_after"] = target.stat().st_size
            report["output_intent_after"] = (
                destination.description if policy.output_intent else None
            )
    report["seconds"] = round(time.monotonic() - began, 3)
    progress(1.0)
    return report


def _destination(policy: OutputPolicy, own: Profile | None, resolve: Resolve) -> Profile:
    if policy.own_intent and own is not None:
        return own
    return resolve(policy.destination)


def _remove_defaults(pdf: pikepdf.Pdf, painter: Painter) -> None:
    """A default space for the destination's own numbers would give them another meaning."""
    key = {"CMYK": "/DefaultCMYK", "RGB": "/DefaultRGB", "grey": "/DefaultGray"}[
        painter.mapper.family
    ]
    for thing in pdf.objects:
        if isinstance(thing, pikepdf.Dictionary | pikepdf.Stream):
            resources = thing.get("/Resources")
            if isinstance(resources, pikepdf.Dictionary) and "/ColorSpace" in resources:
                spaces = resources["/ColorSpace"]
                if isinstance(spaces, pikepdf.Dictionary) and key in spaces:
                    del spaces[key]


def _report(
    walk: DocumentWalk, policy: OutputPolicy, destination: Profile, own: Profile | None, path: Path
) -> dict[str, Any]:
    items = walk.items
    highest = max((i.tac_after for i in items if i.tac_after is not None), default=None)
    before = max((i.tac for i in items if i.tac is not None), default=None)
    stops = [i for i in items if i.action == "stop"]
    return {
        "document": path.name,
        "pages": len(walk.pdf.pages),
        "policy": policy.name,
        "destination": destination.description,
        "output_intent": own.description if own else None,
        "flow": _flow(items),
        "objects": [i.as_data() for i in items[:MOST_ITEMS]],
        "objects_left_out": max(0, len(items) - MOST_ITEMS),
        "stops": len(stops),
        "not_handled": [vars(u) for u in walk.unhandled],
        "tac": {"before": before, "after": highest, "rule": policy.tac},
        "over_tac": len(
            [i for i in items if policy.tac is not None and (i.tac_after or 0) > policy.tac + 0.5]
        ),
        "transparency": walk.transparency,
        "fonts": sorted(walk.fonts)[:500],
        "spots": sorted({n for i in items for n in i.spot}),
        "size_before": path.stat().st_size,
    }


_GROUPS = {
    "image": "images",
    "vector": "text and vectors",
    "text": "text and vectors",
    "shading": "shadings",
}


def _flow(items: list[Item]) -> list[dict[str, Any]]:
    """How many objects of each kind and space meet which rule and come out as what."""
    counted: Counter[tuple[str, str, str, int, str, str]] = Counter()
    for item in items:
        if item.kind not in _GROUPS:
            continue
        outcome = "stopped" if item.action == "stop" else item.outcome
        spot = ", ".join(item.spot)
        counted[(item.family, _GROUPS[item.kind], spot, item.rule, item.action, outcome)] += (
            item.count
        )
    return [
        {"space": family, "objects": objects, "spot": spot, "rule": rule, "action": action, "outcome": outcome, "count": count}
        for (family, objects, spot, rule, action, outcome), count in sorted(counted.items())
    ]  # fmt: skip
