"""Plinto's core: the colour computation, free of any interface, server or database."""

__version__ = "0.1.0"
