"""A simulated RIP and printer: takes a finished file, "prints" its sheets and says what they took.

A stand-in that ships with Plinto; it never converts colours itself. Its sheets are the press
simulator's prediction of what the plates would print, so they can be held against the profile's.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from PIL import Image

from plinto_core.arrays import Floats, Pixels, Progress
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.document.pdf.opening import is_pdf, open_document
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.views.picture_views import picture_plates
from plinto_core.document.views.separations import PagePlates, plates_of, tac_figures
from plinto_core.errors import NotSupported
from plinto_core.gamut.on_screen import screen_values
from plinto_core.icc.colorants import ink_names, long_name
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENTS, is_subtractive
from plinto_core.imaging.writer import whole_or_none
from plinto_core.inks.consumption import Supplies, consumption
from plinto_core.printing.medium import MediumSettings
from plinto_core.printing.report import Agreement, PrintedSheet, PrintReport
from plinto_core.printing.rgb_sheets import RGB_NAMES, rgb_sheets
from plinto_core.recipes.sources import Resolve
from plinto_core.simulator.press import PressModel, predicted_lab
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import Said, say

MOST_SHEETS = 200
KEPT_SHEETS = 4
"""Sheets whose plates are kept as pictures."""
_EDGE = 700
RELATIVE = INTENTS.index("relative")
_POINT = 25.4 / 72
_LEVELS = 51


@dataclass(frozen=True)
class Printer:
    """What prints: press, its profile, and its simulation where there is one; supplies and medium."""

    press: Profile
    supplies: Supplies
    medium: MediumSettings
    model: PressModel | None = None


def print_file(
    path: Path, target: Path, printer: Printer, resolve: Resolve, *, copies: int = 1,
    tac: float | None = None, progress: Progress = lambda share: None,
) -> PrintReport:  # fmt: skip
    """ "Print" a PDF or a picture in the press's inks; `target` becomes a ZIP of sheets and plates.

    Returns a report: sheets, ink, medium, cost, and how far the predicted print lies from what the
    profile says. Raises BadDocument, BadImage or NotSupported.
    """
    if not is_subtractive(printer.press.colour_space) and printer.press.colour_space != "RGB ":
        raise NotSupported(say("printing.printer-no-inks"))
    sheets: list[PrintedSheet] = []
    agreement: list[Floats] = []
    count = _pages(path)
    with (
        whole_or_none(target) as temporary,
        zipfile.ZipFile(temporary, "w", zipfile.ZIP_STORED) as bundle,
        _sheets(path, printer.press, resolve) as plates_of_page,
    ):
        for number in range(1, min(count, MOST_SHEETS) + 1):
            plates = plates_of_page(number)
            if printer.medium.mirror_driver != printer.medium.mirror_machine:
                plates = replace(plates, ink=np.ascontiguousarray(plates.ink[:, ::-1]))
            sheets.append(_sheet(number, plates, printer, tac))
            if number <= KEPT_SHEETS:
                lab, errors = _predicted(plates, printer)
                agreement.append(errors)
                _keep(bundle, number, plates, lab)
            progress(number / min(count, MOST_SHEETS))
    return _report(sheets, count, printer, copies, agreement, tac)


def _pages(path: Path) -> int:
    if not is_pdf(path):
        return 1
    with open_document(path) as pdf:
        return len(pdf.pages)


@contextmanager
def _sheets(path: Path, press: Profile, resolve: Resolve) -> Iterator[Callable[[int], PagePlates]]:
    """Gives the plates of a page by its number."""
    if is_subtractive(press.colour_space):
        yield lambda number: _plates(path, number, press, resolve)
        return
    with rgb_sheets(path, press, resolve, edge=_EDGE) as sheets:
        yield sheets


def _plates(path: Path, number: int, press: Profile, resolve: Resolve) -> PagePlates:
    if is_pdf(path):
        return plates_of(path, number, press, resolve, edge=_EDGE)
    leave = OutputPolicy(
        name="As it is", destination="press", embedded=False, rules=(Rule(action="leave"),)
    )
    return picture_plates(path, leave, lambda r: press if r == "press" else resolve(r), edge=_EDGE)


def _sheet(number: int, plates: PagePlates, printer: Printer, tac: float | None) -> PrintedSheet:
    size = (plates.size[0] * _POINT, plates.size[1] * _POINT)
    notes: list[Said] = list(plates.notes)
    fits = printer.medium.length_on_roll(*size) is not None
    narrow = () if fits else (say("printing.roll-narrow", width=printer.medium.roll_width),)
    if not is_subtractive(printer.press.colour_space):
        notes.append(say("printing.own-inks"))
        return PrintedSheet(
            page=number, size_mm=(round(size[0], 1), round(size[1], 1)), coverage={},
            millilitres={}, tac_highest=0.0, tac_mean=0.0, notes=(*notes, *narrow),
        )  # fmt: skip
    coverage = plates.coverage
    codes = {long_name(n): n for n in ink_names(printer.press)}
    by_code = {codes.get(n, n): c for n, c in coverage.items()}
    used = consumption(by_code, printer.supplies, size_mm=size)
    figures = tac_figures(plates, tac)
    known = printer.supplies.inks
    unknown = [n for n in plates.names if codes.get(n, n) not in known and coverage[n] > 0]
    if unknown:
        notes.append(say("printing.ink-unknown", inks=list(unknown)))
    if tac is not None and figures.over > 0:
        notes.append(say("printing.sheet-over", share=figures.over * 100, tac=tac))
    return PrintedSheet(
        page=number,
        size_mm=(round(size[0], 1), round(size[1], 1)),
        coverage=coverage,
        # A label takes millionths, and there may be a hundred thousand of them.
        millilitres={n: float(f"{v:.6g}") for n, v in (used.millilitres_of_run or {}).items()},
        tac_highest=figures.highest,
        tac_mean=figures.mean,
        notes=(*notes, *narrow),
    )


def _predicted(plates: PagePlates, printer: Printer) -> tuple[Floats, Floats]:
    """(height, width, 3) absolute Lab of the sheet, and dE00 of press against profile by colour."""
    count = printer.press.channels
    own = plates.ink[::2, ::2, :count].astype(np.float64)
    steps = np.round(own / 255 * _LEVELS).astype(np.uint8)
    unique, back = np.unique(steps.reshape(-1, count), axis=0, return_inverse=True)
    inks = unique / _LEVELS
    expected = lab_of_device(printer.press, inks)
    if printer.model is None:
        lab, errors = lab_of_device(printer.press, inks, intent="absolute"), np.zeros(0)
    else:
        lab = predicted_lab(printer.model, inks)
        paper = Lab_to_XYZ(predicted_lab(printer.model, np.zeros((1, count))))
        relative = XYZ_to_Lab(Lab_to_XYZ(lab) * (D50 / paper))
        errors = delta_e_2000(expected, relative)
    return lab[back.reshape(-1)].reshape(*steps.shape[:2], 3), errors


def _keep(bundle: zipfile.ZipFile, number: int, plates: PagePlates, lab: Floats) -> None:
    bundle.writestr(f"sheet-{number}.png", _png(_to_srgb(lab)))
    if plates.names == RGB_NAMES:
        return
    for i, name in enumerate(plates.names):
        safe = "".join(c if c.isalnum() else "_" for c in name)
        bundle.writestr(f"plates/{number}-{i + 1}-{safe}.png", _png(255 - plates.ink[..., i]))


def _to_srgb(lab: Floats) -> Pixels:
    """Absolute Lab as the screen shows it beside its own white."""
    srgb = standard_profile("srgb")
    flat = lab.reshape(-1, 3)
    unique, back = np.unique(np.round(flat, 2), axis=0, return_inverse=True)
    rgb = screen_values(srgb, Lab_to_XYZ(unique))
    pixels = np.round(np.clip(rgb, 0, 1) * 255).astype(np.uint8)
    return pixels[back.reshape(-1)].reshape(lab.shape)


def _png(pixels: np.ndarray) -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(pixels)).save(buffer, "PNG", compress_level=3)
    return buffer.getvalue()


def _report(
    sheets: list[PrintedSheet],
    count: int,
    printer: Printer,
    copies: int,
    agreement: list[Floats],
    tac: float | None,
) -> PrintReport:
    medium, supplies = printer.medium, printer.supplies
    ink: dict[str, float] = {}
    for sheet in sheets:
        for name, amount in sheet.millilitres.items():
            ink[name] = ink.get(name, 0.0) + amount * copies
    area = sum(s.size_mm[0] * s.size_mm[1] for s in sheets) / 1e6 * copies
    cost: float | None = sum(v / 1000 * supplies.inks[n].price for n, v in ink.items())
    if not is_subtractive(printer.press.colour_space):
        cost = None if medium.ink_price is None else area * medium.ink_price
    lengths = [medium.length_on_roll(*s.size_mm) for s in sheets]
    length = sum(v for v in lengths if v is not None) * copies / 1000
    price = medium.price_per_square_metre
    if price is not None and medium.roll_width is not None:
        medium_cost = length * medium.roll_width / 1000 * price
    else:
        medium_cost = area * supplies.medium_price
    errors = np.concatenate(agreement) if agreement else np.zeros(0)
    return PrintReport(
        sheets=tuple(sheets),
        sheets_left_out=max(0, count - MOST_SHEETS),
        copies=copies,
        millilitres={n: round(v, 3) for n, v in ink.items()},
        area_m2=round(area, 4),
        roll_metres=round(length, 3) if medium.roll_width is not None else None,
        ink_cost=None if cost is None else round(cost, 3),
        medium_cost=round(medium_cost, 3),
        currency=supplies.currency,
        tac_rule=tac,
        tac_highest=max((s.tac_highest for s in sheets), default=0.0),
        press_against_profile=_agreement(errors),
    )


def _agreement(errors: Floats) -> Agreement | None:
    if not errors.size:
        return None
    return Agreement(
        mean=round(float(errors.mean()), 2),
        p95=round(float(np.percentile(errors, 95)), 2),
        colours=int(errors.size),
    )
