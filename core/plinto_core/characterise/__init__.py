"""From measurements to a verified output profile."""

from plinto_core.characterise.build import BuildResult, build_profile
from plinto_core.characterise.forward_model import ForwardModel, fit_forward_model
from plinto_core.characterise.settings import BuildSettings

__all__ = ["BuildResult", "BuildSettings", "ForwardModel", "build_profile", "fit_forward_model"]
