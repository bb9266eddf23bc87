"""Take in artwork: check it, keep the original, describe it."""

from __future__ import annotations

from dataclasses import asdict
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User

from plinto_core.errors import CoreError
from plinto_core.icc.spaces import said
from plinto_core.imaging.arrival import Arrival
from plinto_core.imaging.facts import PictureFacts
from plinto_core.recipes.arrivals import arrival_findings
from plinto_core.recipes.house_rules import decide_source
from plinto_core.recipes.sources import embedded_profile
from plinto_server import apart, store
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.house.services import rules_in_force
from plinto_server.apps.profiles.services import load_profile, store_profile


def import_artwork(owner: User, path: Path, file_name: str, name: str = "") -> Artwork:
    """Check and keep a picture; raises BadImage or NotSupported and then keeps nothing.

    `path` must lie in the scratch folder; it is moved into the store. House rules may refuse a
    picture without a profile (BadRecipe).
    """
    size = path.stat().st_size
    digest = store.digest_of(path)
    name_of_it = Path(file_name).name
    seen = apart.run(working_copy.facts_of, path, name=name_of_it)
    decide_source(seen, rules_in_force(owner), load_profile)
    arrival = apart.run(working_copy.take_in, digest, path, name=name_of_it)
    facts = _described(seen, arrival, owner)
    store.put_file(path)
    stem = Path(file_name).stem.replace("-", " ").replace("_", " ").strip() or "Artwork"
    return Artwork.objects.create(
        owner=owner,
        name=(name or stem[:1].upper() + stem[1:])[:200],
        file_name=Path(file_name).name[:255],
        sha256=digest,
        size=size,
        facts=facts,
    )


def take_page(artwork: Artwork, page: int) -> Artwork:
    """Another page of the same file as an artwork of its own; raises BadImage."""
    existing = Artwork.objects.filter(owner=artwork.owner, sha256=artwork.sha256, page=page).first()
    if existing is not None:
        return existing
    path = store.path_of(artwork.sha256)
    key = artwork.sha256 if page == 0 else f"{artwork.sha256}-{page}"
    seen = apart.run(working_copy.facts_of, path, page=page, name=artwork.file_name)
    arrival = apart.run(working_copy.take_in, key, path, page=page, name=artwork.file_name)
    facts = _described(seen, arrival, artwork.owner)
    return Artwork.objects.create(
        owner=artwork.owner,
        name=f"{artwork.name.split(', page ')[0][:180]}, page {page + 1}",
        file_name=artwork.file_name,
        sha256=artwork.sha256,
        size=artwork.size,
        page=page,
        facts=facts,
    )


def _described(seen: PictureFacts, arrival: Arrival, owner: User) -> dict[str, Any]:
    """Facts and findings of a picture whose working copy has been made."""
    facts = _facts(seen, owner)
    try:
        profile = embedded_profile(seen)
    except CoreError:
        profile = None
    facts["transparent_share"] = round(arrival.transparent, 4)
    facts["findings"] = [
        {**asdict(f), "text": f.text.as_json()} for f in arrival_findings(seen, arrival, profile)
    ]
    return facts


def _facts(facts: PictureFacts, owner: User) -> dict[str, Any]:
    size = facts.print_size_mm
    return {
        "format": facts.format,
        "width": facts.width,
        "height": facts.height,
        "space": "Grey" if facts.space == "GRAY" else said(facts.space),
        "channels": facts.channels,
        "inks": list(facts.inks),
        "bits": facts.bits,
        "transparency": facts.alpha != "none",
        "resolution": [round(v, 2) for v in facts.resolution] if facts.resolution else None,
        "print_size_mm": [round(v, 1) for v in size] if size else None,
        "pages": facts.pages,
        "layers": [{"name": x.name, "hidden": x.hidden} for x in facts.layers],
        "extra_channels": list(facts.extra_channels),
        **_profile_facts(facts, owner),
    }


def _profile_facts(facts: PictureFacts, owner: User) -> dict[str, Any]:
    """The embedded profile's name and address in the store, or why there is none."""
    try:
        profile = embedded_profile(facts)
    except CoreError as error:
        return {"profile": None, "profile_sha256": None, "profile_problem": str(error)}
    if profile is None:
        return {
            "profile": None,
            "profile_sha256": None,
            "profile_problem": None,
            "declared_srgb": facts.declared_srgb,
        }
    stored = store_profile(profile.data, "embedded", holder=owner)
    return {
        "profile": profile.description,
        "profile_sha256": stored.sha256,
        "profile_problem": None,
    }
