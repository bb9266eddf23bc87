"""The demo's artwork, generated."""

from plinto_core.demo.artwork import ARTWORK, DemoArtwork

__all__ = ["ARTWORK", "DemoArtwork"]
