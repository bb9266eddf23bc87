"""Colours followed along a path: what they are after every step, and how far two steps are apart."""
