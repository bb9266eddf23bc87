"""Charts and characterisation data: CGATS text, averaging, checks."""

from plinto_core.measurement.cgats import format_cgats, parse_cgats
from plinto_core.measurement.characterisation import Characterisation, read_characterisation
from plinto_core.measurement.charts import cmyk_chart

__all__ = [
    "Characterisation",
    "cmyk_chart",
    "format_cgats",
    "parse_cgats",
    "read_characterisation",
]
