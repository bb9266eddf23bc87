"""Evaluate profiles and paths of them in float; intents, black points; device links."""

from plinto_core.transform.chain import convert, lab_of_device

__all__ = ["convert", "lab_of_device"]
