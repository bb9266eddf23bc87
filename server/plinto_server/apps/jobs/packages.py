"""A recipe with all that it refers to, in one file for other machines."""

from __future__ import annotations

import io
import json
import zipfile

from plinto_core.recipes import parse_recipe
from plinto_server import store
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.profiles.services import STANDARD

_WHEN = (1980, 1, 1, 0, 0, 0)


def recipe_package(destination: Destination) -> bytes:
    """A ZIP of recipe.json, the profiles as SHA-256.icc and the tables as SHA-256.cube."""
    recipe = parse_recipe(destination.recipe)
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        text = json.dumps(recipe.model_dump(mode="json"), indent=2)
        archive.writestr(zipfile.ZipInfo("recipe.json", _WHEN), text)
        profiles = {recipe.source, recipe.arrival, recipe.destination, recipe.link} - {
            None,
            *STANDARD,
        }
        tables = {recipe.before, recipe.after} - {None}
        for references, suffix in ((profiles, "icc"), (tables, "cube")):
            for reference in sorted(str(r) for r in references):
                entry = zipfile.ZipInfo(f"{reference}.{suffix}", _WHEN)
                entry.compress_type = zipfile.ZIP_DEFLATED
                archive.writestr(entry, store.path_of(reference).read_bytes())
    return buffer.getvalue()
