"""The print ticket: all that the operator must set, as data and as a page with a test strip."""

from __future__ import annotations

import io
from dataclasses import asdict, dataclass, field
from typing import Any

import numpy as np
from reportlab.lib.colors import CMYKColor, Color
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen import canvas

from plinto_core.arrays import Floats
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.recipes.recipe import Recipe, tac_in_force
from plinto_core.recipes.report import ConversionReport
from plinto_core.transform.chain import lab_of_device

USUAL_TAC = 300.0
"""Percent, where neither recipe nor condition says what the medium bears."""


@dataclass(frozen=True)
class StripPatch:
    """A patch of the test strip: device values in percent and the Lab (relative) it should print."""

    name: str
    device: dict[str, float]
    lab: tuple[float, float, float]


@dataclass(frozen=True)
class PrintTicket:
    """settings : (name, value, why) in the order the operator meets them."""

    job: str
    condition: str
    file_name: str
    settings: tuple[tuple[str, str, str], ...]
    strip: tuple[StripPatch, ...] = ()
    figures: dict[str, str] = field(default_factory=dict)

    def as_data(self) -> dict[str, Any]:
        """Plain data for JSON."""
        return {"version": 1, **asdict(self)}


def print_ticket(
    recipe: Recipe, destination: Profile, *, job: str, condition: str, file_name: str,
    report: ConversionReport | None = None, tac: float | None = None,
) -> PrintTicket:  # fmt: skip
    """The ticket of a delivery; `report` is run_recipe's, for the figures;
    tac : the condition's, percent, for the darkest patch where the recipe has no ink rules."""
    return PrintTicket(
        job=job,
        condition=condition,
        file_name=file_name,
        settings=tuple(_settings(recipe, destination)),
        strip=tuple(_strip(recipe, destination, tac)) if recipe.delivery.ticket.test_strip else (),
        figures=_figures(report) if report else {},
    )


def _settings(recipe: Recipe, destination: Profile) -> list[tuple[str, str, str]]:
    delivery, ticket = recipe.delivery, recipe.delivery.ticket
    settings = [
        (
            "Colour management in the driver",
            "off",
            "The file's numbers are final inks; a second conversion would spoil them.",
        ),
        (
            "Profile in the file",
            destination.description if delivery.embed else "none, bare numbers",
            "Names what the numbers were made for; it must not be applied again.",
        ),
        (
            "Medium",
            ticket.media or "as the condition says",
            "The profile holds for this medium only.",
        ),
        (
            "Mirror in the driver",
            "off" if delivery.mirror else "off, the file reads right",
            "The file is mirrored already."
            if delivery.mirror
            else "The print reads right as the file does.",
        ),
        ("Scaling", "100 %", "The file has the size of the print."),
        ("Passes", str(ticket.passes), "Ink limits were found with this number."),
        (
            "Drying",
            f"{ticket.drying_minutes:g} min" if ticket.drying_minutes else "none beyond the usual",
            "Before winding, transfer or the next side.",
        ),
    ]
    if ticket.pause_minutes:
        pause = f"{ticket.pause_minutes:g} min"
        settings.append(("Pause between passes", pause, "Ink laid on wet ink spreads."))
    if ticket.platen_gap is not None:
        settings.append(
            ("Platen gap", f"{ticket.platen_gap:g} mm", "A wider one blurs, a closer one touches.")
        )
    if ticket.heat is not None:
        settings.append(("Heat", f"{ticket.heat:g} °C", "Of dryer, platen or transfer press."))
    settings.append(("Copies", str(delivery.copies), ""))
    if delivery.negative:
        settings.append(
            ("Polarity", "negative file, expose as it is", "Reversing it again gives a positive.")
        )
    if delivery.films is not None:
        films = delivery.films
        screen = (
            f"FM, spots of {films.dot} film pixels"
            if films.screening == "fm"
            else f"AM, {films.ruling:g} lines per inch, {films.shape}"
        )
        settings.append(
            (
                "Films",
                f"{films.resolution:g} ppi, {screen}",
                "The dots are in the file; no screening in the RIP.",
            )
        )
    if ticket.note:
        settings.append(("Note", ticket.note, ""))
    return settings


def _figures(report: ConversionReport) -> dict[str, str]:
    size = report.size
    found = {"Pixels": f"{size.width} × {size.height}"}
    if report.resolution is not None:
        x, y = report.resolution
        found["Print size"] = f"{size.width / x * 25.4:.1f} × {size.height / y * 25.4:.1f} mm"
    if report.destination.channels != ("R", "G", "B"):
        found["Highest total ink"] = f"{report.tac.max:.1f} %"
    found["Mean difference to the artwork"] = f"{report.de00.mean:.1f} ΔE00"
    return found


def _strip(recipe: Recipe, destination: Profile, tac: float | None) -> list[StripPatch]:
    names = ink_names(destination)
    count = destination.channels
    device: list[tuple[str, Floats]] = [("Paper", np.zeros(count))]
    if destination.colour_space in ("RGB ", "GRAY"):
        device = [(f"{v} %", np.full(count, v / 100)) for v in (100, 75, 50, 25, 0)]
        device += [(n, np.eye(count)[i]) for i, n in enumerate(names) if count > 1]
    else:
        for i, name in enumerate(names):
            device += [(f"{name} {v}", np.eye(count)[i] * v / 100) for v in (100, 50, 10)]
        if destination.colour_space == "CMYK":
            for a, b, name in ((0, 1, "C+M"), (0, 2, "C+Y"), (1, 2, "M+Y")):
                both = np.zeros(count)
                both[[a, b]] = 1.0
                device.append((name, both))
            most = (tac_in_force(recipe, tac) or USUAL_TAC) / 100
            # The darkest patch the TAC bears: black full, the three colours share the rest.
            colour = float(np.clip((most - 1) / 3, 0, 1))
            device.append((f"TAC {100 + 300 * colour:.0f}", np.array([colour] * 3 + [1.0])))
    values = np.stack([d for _, d in device])
    labs = lab_of_device(destination, values)
    return [
        StripPatch(
            name,
            {n: round(float(v) * 100, 1) for n, v in zip(names, d, strict=True)},
            (round(float(lab[0]), 1), round(float(lab[1]), 1), round(float(lab[2]), 1)),
        )
        for (name, d), lab in zip(device, labs, strict=True)
    ]


_PATCH = 15 * mm
_COLUMNS = 11


def ticket_pdf(ticket: PrintTicket) -> bytes:
    """One A4 page; the strip is drawn in bare device values, as the press must receive them."""
    buffer = io.BytesIO()
    page = canvas.Canvas(buffer, pagesize=A4, invariant=1)
    page.setTitle(f"Print ticket, {ticket.job}")
    height = A4[1]
    left, y = 18 * mm, height - 24 * mm
    page.setFont("Helvetica-Bold", 18)
    page.drawString(left, y, "Print ticket")
    page.setFont("Helvetica", 10)
    for label, value in (
        ("Job", ticket.job),
        ("Condition", ticket.condition),
        ("File", ticket.file_name),
        *ticket.figures.items(),
    ):
        y -= 5.5 * mm
        page.drawString(left, y, _latin(label))
        page.drawString(left + 60 * mm, y, _latin(value)[:70])
    y -= 5 * mm
    for number, (name, value, why) in enumerate(ticket.settings, 1):
        y -= 11 * mm
        page.rect(left, y - 0.5 * mm, 4.5 * mm, 4.5 * mm)
        page.setFont("Helvetica-Bold", 10)
        page.drawString(left + 8 * mm, y, _latin(f"{number}. {name}"))
        page.drawString(left + 78 * mm, y, _latin(value)[:58])
        page.setFont("Helvetica", 8)
        page.drawString(left + 8 * mm, y - 4 * mm, _latin(why))
    if ticket.strip:
        _draw_strip(page, ticket.strip, left, 62 * mm)
    page.showPage()
    page.save()
    return buffer.getvalue()


def _draw_strip(
    page: canvas.Canvas, strip: tuple[StripPatch, ...], left: float, top: float
) -> None:
    page.setFont("Helvetica-Bold", 10)
    page.drawString(
        left,
        top + 4 * mm,
        "Test strip: print it with the same settings and measure; Lab relative to paper",
    )
    for i, patch in enumerate(strip):
        x = left + (i % _COLUMNS) * (_PATCH + 0.9 * mm)
        y = top - (i // _COLUMNS + 1) * (_PATCH + 7 * mm) + 7 * mm
        values = [v / 100 for v in patch.device.values()]
        page.setFillColor(_device_colour(values))
        page.rect(x, y, _PATCH, _PATCH - 1 * mm, stroke=0, fill=1)
        page.setFillColor(CMYKColor(0, 0, 0, 1))
        page.setFont("Helvetica", 6)
        page.drawString(x, y - 2.4 * mm, _latin(patch.name))
        page.drawString(x, y - 4.8 * mm, " ".join(f"{v:.0f}" for v in patch.lab))


def _device_colour(values: list[float]) -> Color | CMYKColor:
    if len(values) == 4:
        return CMYKColor(*values)
    if len(values) == 3:
        return Color(*values)
    return Color(values[0], values[0], values[0]) if len(values) == 1 else CMYKColor(0, 0, 0, 0)


def _latin(text: str) -> str:
    """What the page's built-in fonts can show."""
    return text.replace("Δ", "d").replace("×", "x").encode("latin-1", "replace").decode("latin-1")
