"""Spot colours in process inks: the build that comes nearest, and how it misses."""
