"""What inks are called and are for, said by a person where the profile does not say it or says it wrong.

It is written into a copy of the profile: names into its table of colorants, roles into a private tag. So
recipes, packages and other machines that get the profile separate alike.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from plinto_core.errors import BadInput
from plinto_core.icc import values
from plinto_core.icc.colorants import SHORT, long_name, pack_clrt
from plinto_core.icc.profile import Profile
from plinto_core.icc.write import write_profile
from plinto_core.inks.ink_set import MOST_OF_A_NAME, ROLES_TAG, InkRole, roles_fit
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.encoding import lab_to_unit
from plinto_core.words import say


def with_inks(profile: Profile, names: Sequence[str], roles: Sequence[InkRole]) -> bytes:
    """A copy of a profile whose inks have these names and roles; raises BadInput.

    Only sets of inks of one's own have them: CMYK is what it is. Roles refer to inks by their new names.
    """
    if not profile.colour_space.endswith("CLR"):
        raise BadInput(say("inks.inks-fixed"))
    if len(names) != profile.channels or len(roles) != profile.channels:
        raise BadInput(say("inks.inks-each", count=profile.channels))
    short = [SHORT.get(" ".join(n.split()).casefold(), " ".join(n.split())) for n in names]
    for place, name in enumerate(short, 1):
        long = long_name(name)
        if not (name.isprintable() and 0 < len(long) <= MOST_OF_A_NAME and _latin(long)):
            raise BadInput(say("inks.ink-name", place=place, name=name[:60], most=MOST_OF_A_NAME))
    if len({n.casefold() for n in short}) < len(short):
        raise BadInput(say("inks.inks-same-name"))
    problem = roles_fit(tuple(short), tuple(roles))
    if problem:
        raise BadInput(problem)
    solids = lab_of_device(profile, np.eye(profile.channels))
    said = json.dumps([r.model_dump(mode="json") for r in roles], separators=(",", ":"))
    tags = {name: profile.raw(name) for name in profile.directory}
    tags["clrt"] = pack_clrt(
        [long_name(n) for n in short], lab_to_unit(solids, legacy=not profile.is_v4)
    )
    tags[ROLES_TAG] = values.pack_text(said)
    return write_profile(replace(profile.header), tags)


def _latin(text: str) -> bool:
    try:
        text.encode("latin-1")
    except UnicodeEncodeError:
        return False
    return True
