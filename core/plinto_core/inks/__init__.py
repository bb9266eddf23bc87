"""Ink rules, the black they ask for, and the separation of Lab aims into inks."""

from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.rules import BlackRule, InkRules, parse_ink_rules
from plinto_core.inks.separation import Separation, separate

__all__ = [
    "BlackRule",
    "ForwardTable",
    "InkRules",
    "Separation",
    "parse_ink_rules",
    "separate",
]
