"""Lists of swatches: kept, read again, changed; each function that changes one is one change."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import NotRequired, TypedDict

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction

from plinto_core.errors import BadInput
from plinto_core.icc.spaces import SIGNATURE_OF
from plinto_core.keeping import Kept
from plinto_core.swatches.files import read_swatches, swatches_of_text
from plinto_core.swatches.sampling import Grid, dominant, sample_grid
from plinto_core.swatches.swatches import Swatches, swatches
from plinto_core.words import Said
from plinto_server import store
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.paths.models import SwatchList
from plinto_server.errors import Conflict


class Row(TypedDict):
    """What a row is to hold, by its place from 0; what is left out stays."""

    row: int
    name: NotRequired[str]
    values: NotRequired[list[float]]


_LOADED: Kept[str, Swatches] = Kept(64 << 20, lambda kept: kept.values.nbytes + 64 * len(kept))


def keep(owner: User, listed: Swatches, name: str, made: str, job: Job | None = None) -> SwatchList:
    """Put a list into the store and the list of lists."""
    named = " ".join((name or listed.title).split())[:200] or "Swatches"
    return SwatchList.objects.create(
        owner=owner, name=named, space=listed.space.strip(), count=len(listed),
        digest=_stored(listed), made=made[:200], job=job,
    )  # fmt: skip


def _stored(listed: Swatches) -> str:
    data = {
        "space": listed.space,
        "values": listed.values.tolist(),
        "names": listed.names,
        "places": None if listed.places is None else listed.places.tolist(),
        "notes": [n.as_json() for n in listed.notes],
    }
    return store.put_bytes(json.dumps(data, separators=(",", ":")).encode())


def load(kept: SwatchList) -> Swatches:
    """The colours of a list, under its present name."""

    def read() -> Swatches:
        data = json.loads(store.path_of(kept.digest).read_bytes())
        places = None if data["places"] is None else np.array(data["places"])
        values = np.array(data["values"], dtype=np.float64)
        return Swatches(
            data["space"],
            values,
            tuple(data["names"]),
            places,
            "",
            tuple(Said.read(n) for n in data["notes"]),
        )

    return replace(_LOADED.get(kept.digest, read), title=kept.name)


def take_file(owner: User, data: bytes, file_name: str) -> list[SwatchList]:
    """The lists of a file: two where it holds device values and their measured colours."""
    found = read_swatches(data, file_name)
    several = len(found) > 1
    return [
        keep(
            owner,
            one,
            f"{one.title}, {'measured' if one.space == 'Lab ' else 'device values'}"
            if several
            else one.title,
            f"from {file_name[:150]}",
        )
        for one in found
    ]


def take_grid(owner: User, job: Job, grid: Grid, name: str) -> SwatchList:
    """The colours under a grid of marks on a job's artwork, as it came."""
    level = working_copy.levels(job.artwork.picture_key)[0]
    found = sample_grid(level, space_of(job), grid)
    return keep(
        owner, found, name or job.name, f"{grid.columns} × {grid.rows} marks on {job.name}", job
    )


def take_dominant(owner: User, job: Job, count: int, name: str) -> SwatchList:
    """The dominant colours of a job's artwork, on the picture reduced to 220 pixels."""
    found = dominant(working_copy.reduced(job.artwork.picture_key, 220), space_of(job), count)
    return keep(owner, found, name or job.name, f"dominant colours of {job.name}", job)


def space_of(job: Job) -> str:
    """The signature of the space of a job's artwork."""
    facts = job.artwork.facts
    if facts.get("inks"):
        return f"{facts['channels']:X}CLR"
    return SIGNATURE_OF[{"Grey": "grey"}.get(facts["space"], facts["space"])]


@transaction.atomic
def change(
    kept: SwatchList,
    *,
    name: str | None,
    add: str,
    remove: list[int],
    put: list[Row],
    seen: str | None,
) -> SwatchList:
    """Rename a list, put other colours or names in rows, take rows out by their places, add rows as text;
    raises BadInput.

    seen : the digest of the colours that the places were seen in; Conflict where they changed meanwhile,
    since other colours would be changed or taken out.
    """
    kept = SwatchList.objects.select_for_update().get(pk=kept.pk)
    if (remove or put) and seen != kept.digest:
        raise Conflict("The list was changed meanwhile; its rows may stand elsewhere now.")
    if name is not None:
        kept.name = " ".join(name.split())[:200]
    if add.strip() or remove or put:
        listed = load(kept)
        if any(not 0 <= row < len(listed) for row in (*remove, *(r["row"] for r in put))):
            raise BadInput("The list has no such row any more.", remedy="Look at it again.")
        listed = _with(listed, put)
        stays = np.setdiff1d(np.arange(len(listed)), remove)
        values, names = listed.values[stays], [listed.names[i] for i in stays]
        places = None if listed.places is None else listed.places[stays]
        if add.strip():
            more = swatches_of_text(add, listed.space)
            if more.space != listed.space:
                raise BadInput(f"The list holds {listed.space.strip()}, and so must what is added.")
            values, names = np.concatenate([values, more.values]), [*names, *more.names]
            # Typed colours have no place on a picture, and then the list has none.
            places = None
        changed = swatches(listed.space, values, names, places=places, notes=listed.notes)
        kept.digest, kept.count = _stored(changed), len(changed)
    kept.save()
    return kept


def _with(listed: Swatches, put: list[Row]) -> Swatches:
    """Other colours or names in some rows; a colour that was changed is no longer that of its place."""
    values, names = listed.values.copy(), list(listed.names)
    places = None if listed.places is None else listed.places.copy()
    for one in put:
        row, numbers = one["row"], one.get("values")
        names[row] = one.get("name", names[row])
        if numbers is None:
            continue
        if len(numbers) != values.shape[1]:
            raise BadInput(
                f"A colour of this list has {values.shape[1]} values: {' '.join(listed.columns)}."
            )
        if places is not None and not np.allclose(values[row], numbers, atol=0.005):
            places[row] = np.nan
        values[row] = numbers
    return swatches(listed.space, values, names, places=places, notes=listed.notes)


def copy(owner: User, kept: SwatchList) -> SwatchList:
    """The same colours under another name."""
    return SwatchList.objects.create(
        owner=owner, name=f"{kept.name[:190]}, copy", space=kept.space, count=kept.count,
        digest=kept.digest, made=kept.made, job=kept.job,
    )  # fmt: skip
