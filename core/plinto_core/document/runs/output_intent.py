"""The output intent of a document: what printing condition its colours are meant for (ISO 15930)."""

from __future__ import annotations

import pikepdf

from plinto_core.document.pdf.bounds import MOST_OF_A_PROFILE, read_bounded
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.errors import CoreError
from plinto_core.icc.profile import Profile


def read_output_intent(pdf: pikepdf.Pdf, *, printing: bool = True) -> Profile | None:
    """The profile of the output intent that says how the document is printed, None without one.

    Only a usable profile of a printer counts, that of a PDF/X intent first: the intent of an archive
    (PDF/A) is often an RGB space, which says how to look at a document and not how to print it. printing : False for one of any class.
    """
    intents = pdf.Root.get("/OutputIntents")
    if not isinstance(intents, pikepdf.Array):
        return None
    known = [i for i in intents if isinstance(i, pikepdf.Dictionary)]
    known.sort(key=lambda i: str(i.get("/S", "")) != "/GTS_PDFX")
    for intent in known:
        stream = intent.get("/DestOutputProfile")
        if isinstance(stream, pikepdf.Stream):
            try:
                profile = Profile(read_bounded(stream, MOST_OF_A_PROFILE, "A profile"))
            except (CoreError, pikepdf.PdfError):
                continue
            if not printing or profile.header.device_class == "prtr":
                return profile
    return None


def write_output_intent(pdf: pikepdf.Pdf, destination: Profile, policy: OutputPolicy) -> None:
    """Replace the output intents; only output profiles may stand in one, with or without data."""
    if "/OutputIntents" in pdf.Root:
        del pdf.Root["/OutputIntents"]
    if not policy.output_intent or destination.header.device_class != "prtr":
        return
    name = destination.description
    intent = pikepdf.Dictionary(
        Type=pikepdf.Name.OutputIntent,
        S=pikepdf.Name.GTS_PDFX,
        OutputConditionIdentifier=pikepdf.String(name),
        Info=pikepdf.String(name),
    )
    if policy.profile_in:
        stream = pikepdf.Stream(pdf, destination.data, N=destination.channels)
        intent["/DestOutputProfile"] = pdf.make_indirect(stream)
    pdf.Root["/OutputIntents"] = pikepdf.Array([intent])
