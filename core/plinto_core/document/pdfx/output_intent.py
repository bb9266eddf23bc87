"""The output intent of a document: what printing condition its colours are meant for (ISO 15930)."""

from __future__ import annotations

import zlib
from dataclasses import dataclass

import pikepdf

from plinto_core.document.pdf.bounds import MOST_OF_A_PROFILE, read_bounded
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.errors import CoreError
from plinto_core.icc.profile import Profile

ICC_REGISTRY = "http://www.color.org"
"""What ISO 15930 has an output intent say where the ICC's registry knows the condition."""


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


@dataclass(frozen=True)
class PrintingCondition:
    """The name of a printing condition in an output intent, and the registry that knows it or ""."""

    identifier: str
    registry: str = ""
    info: str = ""


def condition_of(pdf: pikepdf.Pdf, destination: Profile, policy: OutputPolicy) -> PrintingCondition:
    """How the output intent of a result names the destination.

    As the policy says; else as the document's own intent did, where its profile is the destination; else
    by the registered characterisation that the profile says it was made from; else by its description.
    """
    info = destination.description
    if policy.condition:
        return PrintingCondition(policy.condition, policy.registry, info)
    known = pdf.Root.get("/OutputIntents")
    for intent in known if isinstance(known, pikepdf.Array) else []:
        stream = (
            intent.get("/DestOutputProfile") if isinstance(intent, pikepdf.Dictionary) else None
        )
        if isinstance(stream, pikepdf.Stream) and bytes(stream.read_raw_bytes()):
            given = str(intent.get("/OutputConditionIdentifier", ""))
            if given and read_bounded(stream, MOST_OF_A_PROFILE, "A profile") == destination.data:
                return PrintingCondition(given, str(intent.get("/RegistryName", "")), info)
    registered = registered_characterisation(destination)
    if registered:
        return PrintingCondition(registered, ICC_REGISTRY, info)
    return PrintingCondition(info, "", info)


def registered_characterisation(profile: Profile) -> str:
    """The reference name of the registered data a profile says it was made from, "" where it does not.

    Its characterisation target then begins with ICCHDAT, a space and the name (ICC.1, 9.2.14).
    """
    text = profile.text("targ")
    return text[8:].strip()[:100] if text.startswith("ICCHDAT ") else ""


def write_output_intent(pdf: pikepdf.Pdf, destination: Profile, policy: OutputPolicy) -> None:
    """Replace the output intents; only output profiles may stand in one, with or without data."""
    condition = condition_of(pdf, destination, policy)
    if "/OutputIntents" in pdf.Root:
        del pdf.Root["/OutputIntents"]
    if not policy.output_intent or destination.header.device_class != "prtr":
        return
    intent = pikepdf.Dictionary(
        Type=pikepdf.Name.OutputIntent,
        S=pikepdf.Name.GTS_PDFX,
        OutputConditionIdentifier=pikepdf.String(condition.identifier),
        Info=pikepdf.String(condition.info),
    )
    if condition.registry:
        intent["/RegistryName"] = pikepdf.String(condition.registry)
    # A PDF takes profiles of one, three or four channels (ISO 32000-2, 8.6.5.5); of others the name alone.
    if policy.profile_in and destination.channels in (1, 3, 4):
        # Tables pack no better for longer: level 6 takes twice the time of 4 for the same size.
        packed = zlib.compress(destination.data, 4)
        stream = pikepdf.Stream(
            pdf, packed, N=destination.channels, Filter=pikepdf.Name.FlateDecode
        )
        intent["/DestOutputProfile"] = pdf.make_indirect(stream)
    pdf.Root["/OutputIntents"] = pikepdf.Array([intent])
