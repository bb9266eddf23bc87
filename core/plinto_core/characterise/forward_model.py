"""Forward model of a press from scattered patches: smoothed radial basis functions over inks.

Kernel: quintic polyharmonic spline with a cubic polynomial (Duchon 1977), smoothing chosen by
cross-validation. The spline runs over straightened ink axes, on which the tone curves of the inks
are no longer its burden: that halves its error where patches are missing. It gives the sixth root of
what is reflected: nearer to density than Lab, so that the last darks go on from those before them as
films of ink do. Small charts get the stiffer cubic kernel.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.characterise.ink_axes import InkAxes
from plinto_core.characterise.report import ForwardFit
from plinto_core.characterise.spline import Spline, SplinePoints
from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000, in_figures
from plinto_core.errors import BadMeasurement
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.words import say

FOLDS = 5
ROOT = 6
"""Of reflectance. The cube root, which is Lab's, misses more where darks were not measured; from the
seventh on darks miss less on one of the sets it was chosen by and more on the other."""
SMOOTHING = (1e-4, 1e-2, 1.0)
QUINTIC_FROM = 400
"""Patches from which the quintic kernel is determined well enough."""


@dataclass(frozen=True)
class ForwardModel:
    """A fitted press. spline : to roots of reflectance; paper_error : (3,) by how much it misses those of
    paper, which are 1; floor : least L*; validation : dE00 of patches the fit had not seen."""

    spline: Spline
    axes: InkAxes
    paper_error: Floats
    floor: float
    validation: ForwardFit

    def __call__(self, device: Floats) -> Floats:
        """(n, inks) amounts 0..1 to (n, 3) media-relative Lab; paper is exactly 100 0 0."""
        device = np.asarray(device, dtype=np.float64)
        roots = self.spline(self.axes(device))
        near_paper = np.prod(np.clip(1 - 4 * device, 0, 1) ** 2, axis=1)
        lab = lab_of_roots(roots - near_paper[:, None] * self.paper_error)
        lab[:, 0] = np.clip(lab[:, 0], self.floor, 100.0)
        return np.asarray(lab)


def relative_lab(data: Characterisation) -> Floats:
    """(n, 3) Lab with the medium as white."""
    return XYZ_to_Lab(data.xyz / data.paper * D50)


def lab_of_roots(roots: Floats) -> Floats:
    """(n, 3) Lab of roots of XYZ relative to paper."""
    return XYZ_to_Lab(np.maximum(roots, 0.0) ** ROOT * D50)


def fit_forward_model(data: Characterisation) -> ForwardModel:
    """Fit and cross-validate; raises BadMeasurement where the patches do not determine a fit."""
    lab = relative_lab(data)
    axes = InkAxes.of_patches(data.amounts, lab)
    roots = np.maximum(data.xyz / data.paper, 0.0) ** (1 / ROOT)
    points = SplinePoints(axes(data.amounts), roots, quintic=len(lab) >= QUINTIC_FROM)
    try:
        scored = [(_cross_validate(points, s), s) for s in SMOOTHING]
        errors, smoothing = min(scored, key=lambda item: float((item[0] ** 2).mean()))
        spline = points.fit(smoothing)
    except np.linalg.LinAlgError as error:
        raise BadMeasurement(say("characterise.mixtures-undetermined")) from error
    validation = ForwardFit(
        patches=len(lab), smoothing=smoothing, **in_figures(errors).model_dump()
    )
    paper_error = spline(np.zeros((1, data.inks)))[0] - 1.0
    return ForwardModel(
        spline, axes, paper_error, max(0.0, float(lab[:, 0].min()) - 3.0), validation
    )


def _cross_validate(points: SplinePoints, smoothing: float) -> Floats:
    """(n,) dE00 of every point by a fit of the four fifths that it is not among."""
    places = len(points.places)
    part = np.empty(places, int)
    part[np.random.default_rng(5).permutation(places)] = np.arange(places) % FOLDS
    missed = points.left_out(smoothing, part)
    return delta_e_2000(lab_of_roots(points.values - missed), lab_of_roots(points.values))
