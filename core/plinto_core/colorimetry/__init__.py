"""CIELAB, XYZ, spectra, adaptation and colour difference."""

from plinto_core.colorimetry.adaptation import bradford
from plinto_core.colorimetry.cielab import D50, Lab_to_LCh, Lab_to_XYZ, LCh_to_Lab, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_76, delta_e_2000

__all__ = [
    "D50",
    "LCh_to_Lab",
    "Lab_to_LCh",
    "Lab_to_XYZ",
    "XYZ_to_Lab",
    "bradford",
    "delta_e_76",
    "delta_e_2000",
]
