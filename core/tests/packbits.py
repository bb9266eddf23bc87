"""Rows packed as layered documents and TIFF pack them."""

from __future__ import annotations


def packed_row(row: bytes) -> bytes:
    """PackBits, a count and as many bytes as they are, at most 128 at a time."""
    parts = [row[i : i + 128] for i in range(0, len(row), 128)]
    return b"".join(bytes([len(p) - 1]) + p for p in parts)
