"""Pages of documents and small pictures as PNG for the interface, and their plates."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any

import numpy as np
from django.http import HttpResponse

from plinto_core.arrays import Floats, Pixels
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.document.rules.policy import OutputPolicy, parse_policy
from plinto_core.document.views.picture_views import (
    picture_as_meant,
    picture_as_printed,
    picture_plates,
)
from plinto_core.document.views.press_view import page_as_meant, page_as_printed
from plinto_core.document.views.render import render_page
from plinto_core.document.views.separations import PagePlates, page_plates, tac_figures
from plinto_core.errors import BadDocument
from plinto_core.gamut.on_screen import screen_values
from plinto_core.icc.colorants import inks_of, long_name
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server import apart, store
from plinto_server.apps.policies.models import Document, PolicyRun
from plinto_server.apps.profiles.services import load_profile
from plinto_server.png import encode

Size = tuple[float, float]
EDGE = 900
_PLAIN = OutputPolicy(name="As it is", destination="srgb")
_LIGHT = dict(
    zip(
        ("Cyan", "Magenta", "Yellow", "Black"),
        np.array([[0, 1, 1], [1, 0, 1], [1, 1, 0], [0, 0, 0]], dtype=np.float64),
        strict=True,
    )
)
"""What of red, green and blue light a full tint of the process inks lets through, as a sketch."""
_SPOT = np.array([0.55, 0.55, 0.55])


def document_page(document: Document, page: int, edge: int) -> tuple[bytes, Size]:
    """A page as PNG, to find objects on, and its size in points."""
    return apart.run(_document_page, document.sha256, document.kind, page, edge)


def _document_page(sha256: str, kind: str, page: int, edge: int) -> tuple[bytes, Size]:
    path = store.path_of(sha256)
    if kind == Document.PDF:
        return _png(render_page(path, page, edge))
    _only_page(page)
    return _png(picture_as_meant(path, _PLAIN, load_profile, edge=edge))


def run_page(run: PolicyRun, page: int, edge: int, *, meant: bool) -> tuple[bytes, Size]:
    """A page as its colours are meant, or as it prints under the run's policy."""
    document = run.document
    return apart.run(_run_page, document.sha256, document.kind, run.policy, page, edge, meant=meant)


def _run_page(
    sha256: str, kind: str, kept: dict[str, Any], page: int, edge: int, *, meant: bool
) -> tuple[bytes, Size]:
    policy, path = parse_policy(kept), store.path_of(sha256)
    if kind == Document.PICTURE:
        _only_page(page)
        draw = picture_as_meant if meant else picture_as_printed
        return _png(draw(path, policy, load_profile, edge=edge))
    copy = (page_as_meant if meant else page_as_printed)(path, page, policy, load_profile)
    return _png(render_page(copy, 1, edge))


def plate_figures(run: PolicyRun, page: int) -> dict[str, Any]:
    """Names, coverage and total ink of a page's plates."""
    plates = _plates(run, page)
    limit = parse_policy(run.policy).tac
    return {
        "names": plates.names,
        "coverage": plates.coverage,
        "notes": plates.notes,
        **vars(tac_figures(plates, limit)),
    }


def plate_picture(run: PolicyRun, page: int, chosen: list[int]) -> tuple[bytes, Size]:
    """One plate in grey, or several as a sketch of their inks."""
    plates = _plates(run, page)
    numbers = [n for n in chosen if n < len(plates.names)] or list(range(len(plates.names)))
    if len(numbers) == 1:
        return encode(np.repeat(255 - plates.ink[..., numbers], 3, axis=2)), plates.size
    light = np.ones((*plates.ink.shape[:2], 3))
    lights = _lights(run, plates)
    for n in numbers:
        full = lights.get(plates.names[n], _SPOT)
        light *= 1 - (plates.ink[..., n : n + 1] / 255) * (1 - full)
    return encode(np.round(light * 255).astype(np.uint8)), plates.size


def _lights(run: PolicyRun, plates: PagePlates) -> dict[str, Floats]:
    """What of red, green and blue light a full tint of each of the press's inks lets through, 0..1."""
    press = load_profile(parse_policy(run.policy).destination)
    inks = [long_name(n) for n in inks_of(press)]
    if plates.names[: len(inks)] != tuple(inks):
        # The document's own output intent was the destination, which is CMYK.
        return dict(_LIGHT)
    lab = lab_of_device(press, np.eye(len(inks)))
    screen = screen_values(standard_profile("srgb"), Lab_to_XYZ(lab))
    return {**dict(zip(inks, np.clip(screen, 0, 1), strict=True)), **_LIGHT}


def tac_picture(run: PolicyRun, page: int) -> tuple[bytes, Size]:
    """Total ink as greys from paper to the limit; what exceeds it in a marked colour."""
    plates = _plates(run, page)
    limit = parse_policy(run.policy).tac or 400.0
    total = plates.total
    shade = 255 - np.clip(total / limit, 0, 1) * 190
    out = np.repeat(np.round(shade).astype(np.uint8)[..., None], 3, axis=2)
    out[total > limit + 0.8] = (255, 90, 0)
    return encode(out), plates.size


def _plates(run: PolicyRun, page: int) -> PagePlates:
    document = run.document
    return _plates_of(document.sha256, document.kind, json.dumps(run.policy, sort_keys=True), page)


@lru_cache(maxsize=8)
def _plates_of(sha256: str, kind: str, policy_text: str, page: int) -> PagePlates:
    """By all that decides what is on them."""
    return apart.run(_plates_drawn, sha256, kind, policy_text, page)


def _plates_drawn(sha256: str, kind: str, policy_text: str, page: int) -> PagePlates:
    policy, path = parse_policy(json.loads(policy_text)), store.path_of(sha256)
    if kind == Document.PICTURE:
        _only_page(page)
        return picture_plates(path, policy, load_profile, edge=EDGE)
    return page_plates(path, page, policy, load_profile, edge=EDGE)


def _only_page(page: int) -> None:
    if page != 1:
        raise BadDocument(f"A picture has no page {page}.")


def _png(drawn: tuple[Pixels, Size]) -> tuple[bytes, Size]:
    return encode(drawn[0]), drawn[1]


def page_response(png: bytes, size: Size) -> HttpResponse:
    """A page's picture, its size in points beside it."""
    response = HttpResponse(png, content_type="image/png")
    response["Cache-Control"] = "private, max-age=3600"
    response["X-Page-Size"] = f"{size[0]:.2f} {size[1]:.2f}"
    return response
