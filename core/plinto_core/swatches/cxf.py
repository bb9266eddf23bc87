"""CxF3 (ISO 17972-1): swatches as objects with colorimetric, spectral and device values."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
from lxml import etree

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadInput, BadMeasurement
from plinto_core.icc.spaces import is_subtractive
from plinto_core.swatches.swatches import Swatches, swatches
from plinto_core.words import Said, say

NAMESPACE = "http://colorexchangeformat.com/CxF3-core"
_PARSER = {"resolve_entities": False, "no_network": True, "load_dtd": False, "huge_tree": False}
_DEVICE = {
    "ColorRGB": ("RGB ", ("R", "G", "B"), 255.0),
    "ColorCMYK": ("CMYK", ("Cyan", "Magenta", "Yellow", "Black"), 100.0),
}
_FEWEST_BANDS = 16


def is_cxf(data: bytes) -> bool:
    """Whether a file looks like CxF3 at all."""
    head = data[:4096]
    return head.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"<") and b"CxF" in head


def read_cxf(data: bytes) -> list[Swatches]:
    """The colours of a CxF3 file: one list of Lab, one of device values, where there are any.

    Spectra are turned to Lab under D50 and the 2 degree observer; of an object with several colours the
    first in the order Lab, XYZ, spectrum counts, and device values of the space that most objects have.
    Raises BadMeasurement.
    """
    try:
        root = etree.fromstring(data, etree.XMLParser(**_PARSER))
    except etree.XMLSyntaxError as error:
        raise BadMeasurement(say("swatches.cxf-malformed")) from error
    if _local(root) != "CxF":
        raise BadMeasurement(say("swatches.cxf-other"))
    starts = _wavelengths(root)
    names: list[str] = []
    lab: list[Floats | None] = []
    device: list[tuple[str, list[float]] | None] = []
    for found in root.iter("{*}Object"):
        names.append(found.get("Name") or found.get("Id") or "")
        lab.append(_colour(found, starts))
        device.append(_device(found))
    title = root.findtext(".//{*}FileInformation/{*}Description") or ""
    notes = _other_white(root)
    lists = []
    at = [i for i, v in enumerate(lab) if v is not None]
    if at:
        lists.append(
            swatches(
                "Lab ",
                np.array([lab[i] for i in at]),
                [names[i] for i in at],
                title=title,
                notes=notes,
            )
        )
    spaces = [d[0] for d in device if d is not None]
    if spaces:
        space = max(dict.fromkeys(spaces), key=spaces.count)
        kept = [(n, d[1]) for n, d in zip(names, device, strict=True) if d and d[0] == space]
        values = np.array([v for _, v in kept])
        lists.append(swatches(space, values, [n for n, _ in kept], title=title))
    if not lists:
        raise BadMeasurement(say("swatches.cxf-no-colours"))
    return lists


def _local(element: etree._Element) -> str:
    return str(etree.QName(element).localname)


def _other_white(root: etree._Element) -> tuple[Said, ...]:
    """A note where colours are for another illuminant than D50, which is what paths compare under."""
    said = {(e.text or "").strip().upper() for e in root.iter("{*}Illuminant")} - {"D50", ""}
    if not said:
        return ()
    return (say("swatches.cxf-white", whites=", ".join(sorted(said))[:40]),)


def _number(text: str | None) -> float:
    try:
        return float((text or "").strip())
    except ValueError:
        raise BadMeasurement(say("swatches.cxf-number", value=(text or "")[:20])) from None


def _wavelengths(root: etree._Element) -> dict[str, tuple[float, float]]:
    """By specification: the first wavelength and the step, in nm."""
    found = {}
    for spec in root.iter("{*}ColorSpecification"):
        span = spec.find(".//{*}WavelengthRange")
        if span is not None and spec.get("Id"):
            found[str(spec.get("Id"))] = (
                _number(span.get("StartWL")),
                _number(span.get("Increment")),
            )
    return found


def _colour(found: etree._Element, starts: dict[str, tuple[float, float]]) -> Floats | None:
    lab = found.find(".//{*}ColorCIELab")
    if lab is not None:
        return np.array([_number(lab.findtext(f"{{*}}{n}")) for n in "LAB"])
    xyz = found.find(".//{*}ColorCIEXYZ")
    if xyz is not None:
        values = np.array([_number(xyz.findtext(f"{{*}}{n}")) for n in "XYZ"])
        return XYZ_to_Lab(values / 100.0)
    spectrum = found.find(".//{*}ReflectanceSpectrum")
    if spectrum is None:
        return None
    values = np.array([_number(t) for t in (spectrum.text or "").split()])
    first, step = starts.get(spectrum.get("ColorSpecification") or "", (380.0, 10.0))
    if spectrum.get("StartWL"):
        first = _number(spectrum.get("StartWL"))
    if values.size < _FEWEST_BANDS or step <= 0:
        raise BadMeasurement(say("swatches.cxf-spectrum-short"))
    wavelengths = np.asarray(first + step * np.arange(values.size), dtype=np.float64)
    return np.asarray(XYZ_to_Lab(reflectance_to_XYZ(values[None], wavelengths))[0])


def _device(found: etree._Element) -> tuple[str, list[float]] | None:
    for name, (space, parts, top) in _DEVICE.items():
        held = found.find(f".//{{*}}{name}")
        if held is not None:
            greatest = _number(held.get("MaxRange")) if held.get("MaxRange") else top
            if greatest <= 0:
                raise BadMeasurement(say("swatches.cxf-greatest"))
            return space, [_number(held.findtext(f"{{*}}{p}")) * top / greatest for p in parts]
    return None


def write_cxf(listed: Swatches) -> bytes:
    """A list as CxF3; raises BadInput for inks beyond CMYK, which the format's core has no place for."""
    words = {space: (name, parts) for name, (space, parts, _) in _DEVICE.items()}
    if listed.space != "Lab " and listed.space not in words:
        kind = "inks" if is_subtractive(listed.space) else "values"
        raise BadInput(say("swatches.cxf-no-place", kind=kind))
    root = etree.Element(f"{{{NAMESPACE}}}CxF", nsmap={None: NAMESPACE})
    about = _under(root, "FileInformation")
    _under(about, "Creator", "Plinto")
    _under(about, "CreationDate", datetime.now(UTC).isoformat(timespec="seconds"))
    _under(about, "Description", _plain(listed.title or "Swatches"))
    resources = _under(root, "Resources")
    objects = _under(resources, "ObjectCollection")
    for number, (name, row) in enumerate(zip(listed.names, listed.values, strict=True), 1):
        one = _under(objects, "Object", ObjectType="Standard", Name=_plain(name), Id=f"s{number}")
        if listed.space == "Lab ":
            values = _under(_under(one, "ColorValues"), "ColorCIELab", ColorSpecification="d50")
            parts: tuple[str, ...] = ("L", "A", "B")
        else:
            word, parts = words[listed.space]
            values = _under(_under(one, "DeviceColorValues"), word, ColorSpecification="d50")
        for part, value in zip(parts, row, strict=True):
            _under(values, part, f"{value:.6g}")
    kinds = _under(resources, "ColorSpecificationCollection")
    spec = _under(kinds, "ColorSpecification", Id="d50")
    tristimulus = _under(spec, "TristimulusSpec")
    _under(tristimulus, "Illuminant", "D50")
    _under(tristimulus, "Observer", "2_Degree")
    _under(tristimulus, "Method", "E308_1nm")
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8", pretty_print=True))


def _under(parent: etree._Element, name: str, text: str = "", **attributes: str) -> etree._Element:
    made = etree.SubElement(parent, f"{{{NAMESPACE}}}{name}", attributes)
    if text:
        made.text = text
    return made


def _plain(text: str) -> str:
    """Without what XML cannot hold."""
    return "".join(c for c in text if c >= " " and not 0xD800 <= ord(c) <= 0xDFFF and c not in "￾￿")
