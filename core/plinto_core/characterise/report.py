"""What building a profile says of itself."""

from __future__ import annotations

from plinto_core.characterise.settings import BuildSettings
from plinto_core.colorimetry.difference import Differences
from plinto_core.fields import Part, Report
from plinto_core.inks.evenness import Evenness
from plinto_core.inks.rules import InkRules
from plinto_core.words import Said


class ForwardFit(Differences):
    """dE00 of patches that the fit had not seen; smoothing : of the spline that was chosen."""

    patches: int
    smoothing: float


class ProfileProblem(Part):
    """severity : "error" or "warning"; tag : "" for the whole profile."""

    severity: str
    tag: str
    message: str


class Verification(Part):
    """round_trip : dE00 of printable colours through the table back and forth; tac_reached : percent by
    table; size : bytes; greys : how inks run along neutrals from white to black, relative
    colorimetric; stray_ink : the most, in percent, of an ink that a solid or an overprint of two is not
    made of, None for other inks than four."""

    round_trip: Differences
    tac_reached: dict[str, float]
    size: int
    greys: Evenness | None = None
    stray_ink: float | None = None
    problems: tuple[ProfileProblem, ...]


class Misread(Part):
    """A reading that the others contradict. row : its number in the file's order, from 1; name : what the file
    calls it; device : percent; read, expected : Lab under D50, the perfect diffuser being white; de00 :
    between them."""

    row: int
    name: str
    device: tuple[float, ...]
    read: tuple[float, float, float]
    expected: tuple[float, float, float]
    de00: float


class BuildReport(Verification, Report):
    """notes : of the measurements that were read; misread : readings that the others contradict, None where
    they were not looked for; they are left out unless the settings use all."""

    description: str
    forward_fit: ForwardFit
    notes: tuple[Said, ...]
    misread: tuple[Misread, ...] | None = None
    ink_rules: InkRules
    settings: BuildSettings
