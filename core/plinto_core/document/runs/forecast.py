"""How large a document will be: a dry run writes nothing, and still says so."""

from __future__ import annotations

import io
import zlib
from typing import Any, BinaryIO, cast

import pikepdf

from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.icc.profile import Profile


class _Weighed(io.RawIOBase):
    """A file that keeps nothing but its length."""

    def __init__(self) -> None:
        self.size = 0

    def writable(self) -> bool:
        return True

    def seekable(self) -> bool:
        return True

    def tell(self) -> int:
        return self.size

    def write(self, data: Any) -> int:
        self.size += len(data)
        return len(data)


def forecast(pdf: pikepdf.Pdf, policy: OutputPolicy, destination: Profile) -> int | None:
    """Bytes of the result while its images stay as they are: the document as it is written anew, its
    output intents as the policy has them; None where it cannot be written.

    Content streams keep their length: other numbers in them come out nearly as long.
    """
    weighed = _Weighed()
    try:
        pdf.save(
            cast(BinaryIO, weighed),
            compress_streams=True,
            object_stream_mode=pikepdf.ObjectStreamMode.generate,
        )
        intents = sum(_length(i) for i in pdf.Root.get("/OutputIntents", []))
    except (*UNREADABLE, OSError):
        return None
    size = weighed.size - intents
    if policy.output_intent and policy.profile_in and destination.channels in (1, 3, 4):
        size += len(zlib.compress(destination.data))
    return size


def _length(intent: Any) -> int:
    """Bytes of the profile in an output intent."""
    profile = intent.get("/DestOutputProfile")
    return len(profile.read_raw_bytes()) if isinstance(profile, pikepdf.Stream) else 0
