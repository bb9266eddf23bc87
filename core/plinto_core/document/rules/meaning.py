"""What a document's colours look like by themselves, to compare with what they became."""

from __future__ import annotations

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.document.pdf.spaces import ColourSpace, calibrated_XYZ
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.transform.chain import lab_of_device


def difference(mapper: ColourMapper, space: ColourSpace, before: Floats, after: Floats) -> Floats:
    """(n,) CIEDE2000 between (n, channels) values of a space and the (n, destination channels) they
    became, each relative to its own white. Raises BadRecipe where nothing gives the space its colours."""
    return delta_e_2000(
        lab_of_space(mapper, space, before), lab_of_device(mapper.destination, after)
    )


def lab_of_space(mapper: ColourMapper, space: ColourSpace, values: Floats) -> Floats:
    """Media-relative Lab of a document's own colours, for comparing before and after."""
    if space.family == "spot":
        assert space.tint is not None
        assert space.alternate is not None
        return lab_of_space(mapper, space.alternate, space.tint(values))
    if mapper.own_plates(space):
        return lab_of_device(mapper.destination, mapper.laid(space, values))
    profile, _ = mapper.source_of(space)
    if profile is None:
        return XYZ_to_Lab(calibrated_XYZ(space.colour, values))
    return lab_of_device(profile, values)
