"""An examination as PDF pages: figures, greys drawn, findings in words."""

from __future__ import annotations

from typing import Any

from reportlab.graphics.shapes import Drawing, Group, Line, PolyLine, String
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, Spacer

from plinto_core.examination.aims import AimDifference
from plinto_core.examination.neutrals import Neutrals
from plinto_core.examination.report import Examination
from plinto_core.gamut.views import GamutFigures
from plinto_core.pages import (
    HEAD,
    PLAIN,
    STRONG,
    TITLE,
    lab_said,
    pages,
    paragraph,
    safe,
    table,
)

_INKS = {"C": "#0090c5", "M": "#cf1f7c", "Y": "#d9bd00", "K": "#1b1b1b"}
_DASHES = {"C": [5, 2], "M": [1.5, 2], "Y": [6, 2, 1.5, 2]}
_WIDTH, _HEIGHT = 165 * mm, 62 * mm


def examination_pdf(found: Examination, greys: dict[str, Neutrals]) -> bytes:
    """A4 pages of an examination; greys : neutrals by intent, drawn as ink curves with a* and b*."""
    name = str(found.holds["description"])
    parts: list[Any] = [Paragraph(safe(name), TITLE), paragraph(_facts(found))]
    parts.append(Paragraph("What is wrong with it", HEAD))
    for said in found.findings:
        style = STRONG if said.severity == "error" else PLAIN
        parts.append(Paragraph(safe(f"{said.severity}: {said.sentence}"), style))
    if not found.findings:
        parts.append(paragraph("Nothing was found wrong."))
    if found.reach:
        parts += _prints(found)
    for intent, path in greys.items():
        figures = path.figures()
        parts.append(
            Paragraph(safe(f"How it makes greys, {intent}, with black point compensation"), HEAD)
        )
        parts.append(_drawn(path))
        parts.append(
            paragraph(
                f"C* {figures.chroma_mean:.2f} in the mean, {figures.chroma_max:.2f} at L* "
                f"{figures.worst:.0f}; the hue turns back {figures.turns} times."
            )
        )
    if found.round_trip is not None:
        trip = found.round_trip
        parts.append(Paragraph("What it gives back", HEAD))
        parts.append(
            paragraph(
                f"Printable colours to inks and back: dE00 {trip.mean:.2f} in the mean, {trip.p95:.2f} at "
                f"95 %, {trip.p99:.2f} at 99 %, {trip.max:.2f} at most."
            )
        )
        rows = [
            [lab_said(m.asked), lab_said(m.printed), " ".join(f"{n} {v:.0f}" for n, v in m.inks.items()), f"{m.de00:.2f}"]
            for m in trip.worst
        ]  # fmt: skip
        parts.append(table([["Asked, L* a* b*", "Printed", "Inks, %", "dE00"], *rows]))
    return pages(f"Examination, {name}", parts)


def _facts(found: Examination) -> str:
    holds = found.holds
    return (
        f"Class {holds['class']}, {holds['colour_space']} to {holds['pcs']}, version {holds['version']}, "
        f"{holds['size']} bytes, SHA-256 {str(holds['sha256'])[:16]}."
    )


def _prints(found: Examination) -> list[Any]:
    parts: list[Any] = [Paragraph("What it prints", HEAD)]
    rows = [["Intent", "Total, %", "Black from L*", "Most black, %", "Darkest grey, Lab"]]
    for r in found.reach:
        start = "never" if r.black_start is None else f"{r.black_start:.1f}"
        most = "none" if r.black_most is None else f"{r.black_most:.1f}"
        rows.append([r.intent, f"{r.tac:.1f}", start, most, lab_said(r.darkest)])
    parts += [table(rows), Spacer(1, 3 * mm)]
    if found.gamut is not None:
        parts += [paragraph(_gamut(found.gamut)), Spacer(1, 3 * mm)]
    against = found.aim.solids if found.aim else {}
    head = ["", "L* a* b*, absolute"] + ([f"dE00 to {found.aim.name[:32]}"] if found.aim else [])
    solids = [
        [name, lab_said(lab), *([f"{against.get(name, 0):.1f}"] if found.aim else [])]
        for name, lab in found.solids.items()
    ]
    parts += [table([head, *solids]), Spacer(1, 3 * mm)]
    if found.aim:
        parts += [*_aim(found.aim), Spacer(1, 3 * mm)]
    if found.tones:
        tones = [
            [t.name, f"{t.increase_50:.1f}", f"{t.increase_max:.1f} at {t.increase_at:.0f} %",
             "prints all" if t.vanishes is None else f"{t.vanishes:.2f} %"]
            for t in found.tones
        ]  # fmt: skip
        head = ["Ink", "TVI at 50 %", "TVI at most", "Tints vanish below"]
        parts.append(table([head, *tones]))
    return parts


def _aim(aim: AimDifference) -> list[Any]:
    said = {None: "nothing is judged", True: "all that is judged holds", False: "does not hold"}
    parts: list[Any] = [
        paragraph(f"Aim: {aim.name}{', ' if aim.source else ''}{aim.source}; {said[aim.holds]}.")
    ]
    missed = [c for c in aim.colours if c.holds is False]
    tones = [t for t in aim.tones if t.holds is False]
    rows = [
        *([c.name, lab_said(c.aim), lab_said(c.printed), f"dE00 {c.de00:.2f}, {c.tolerance:g} allowed"] for c in missed),
        *([f"{t.ink} {t.at:g} %", f"+{t.aim:.1f}", f"+{t.printed:.1f}", f"{t.missed:+.1f}, {t.tolerance:g} allowed"] for t in tones),
    ]  # fmt: skip
    if rows:
        parts.append(table([["Missed", "Aim", "Printed", "By"], *rows[:60]]))
    if aim.left:
        parts.append(paragraph(f"Not in this profile: {', '.join(aim.left[:20])}."))
    return parts


def _gamut(figures: GamutFigures) -> str:
    return (
        f"Gamut volume {figures.volume} cubic CIELAB units; greys from L* {figures.darkest:.1f} to "
        f"{figures.lightest:.1f}; most chroma {figures.most_chroma:.1f} at L* "
        f"{figures.at_lightness:.1f}, hue {figures.at_hue:.0f} degrees."
    )


def _drawn(path: Neutrals) -> Drawing:
    drawing = Drawing(_WIDTH, _HEIGHT)
    left, bottom, width, high = 9 * mm, 20 * mm, _WIDTH - 16 * mm, _HEIGHT - 22 * mm

    def x(lightness: float) -> float:
        return float(left + (100 - lightness) / 100 * width)

    frame = Group()
    for share in (0, 0.5, 1):
        y = bottom + share * high
        frame.add(Line(left, y, left + width, y, strokeColor=colors.lightgrey))
        frame.add(String(left - 2 * mm, y - 2, f"{share * 100:.0f}", fontSize=7, textAnchor="end"))
    for lightness in (100, 75, 50, 25, 0):
        frame.add(
            String(x(lightness), bottom - 8, f"L* {lightness}", fontSize=7, textAnchor="middle")
        )
    drawing.add(frame)
    for i, name in enumerate(path.names):
        points = [
            v
            for asked, ink in zip(path.asked, path.inks[:, i], strict=True)
            for v in (x(float(asked)), bottom + float(ink) * high)
        ]
        line = PolyLine(
            points, strokeColor=colors.HexColor(_INKS.get(name, "#777777")), strokeWidth=1.2
        )
        if name in _DASHES:
            line.strokeDashArray = _DASHES[name]
        drawing.add(line)
        drawing.add(String(left + width + 1.5 * mm, points[-1] - 2, name, fontSize=8))
    middle, reach = 6 * mm, max(2.0, float(abs(path.printed[:, 1:]).max()))
    drawing.add(Line(left, middle, left + width, middle, strokeColor=colors.lightgrey))
    drawing.add(String(left - 1 * mm, middle + 7, f"+{reach:.0f}", fontSize=6, textAnchor="end"))
    for column, label, dash in ((1, "a*", None), (2, "b*", [4, 2])):
        points = [
            v
            for asked, value in zip(path.asked, path.printed[:, column], strict=True)
            for v in (x(float(asked)), middle + float(value) / reach * 5 * mm)
        ]
        line = PolyLine(points, strokeColor=colors.black, strokeWidth=0.9)
        if dash:
            line.strokeDashArray = dash
        drawing.add(line)
        drawing.add(
            String(left + width + 1.5 * mm, middle + (2 if column == 1 else -6), label, fontSize=7)
        )
    return drawing
