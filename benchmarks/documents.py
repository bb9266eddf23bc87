"""Output policies on large documents: pages a second, memory as pages grow, a document of pictures.

Usage: python benchmarks/documents.py
Every case runs in a process of its own, whose peak memory is printed; copying the same document with
pikepdf alone, parsing and writing its content streams unchanged, and the plain loop that one would
write first (every operator looked at, every colour through the Little CMS library, without a TAC, checks
or a report) stand beside it; "alone" is without the second process that long documents are given, "again" the second of
two documents in one process, as workers have it: what a process loads is loaded.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import time
import zlib
from decimal import Decimal
from pathlib import Path

import numpy as np
import pikepdf
from PIL import Image, ImageCms
from scipy.ndimage import gaussian_filter

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.document import run_policy, template
from plinto_core.document.walking import second_pair
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.standard_spaces import SPACES, standard_profile

PICTURES = 44
EDGE = (1700, 1300)


def coated() -> bytes:
    """A profile built from the demo's coated condition."""
    condition, chart = CONDITIONS[0], cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(condition.model, chart))
    measured = Characterisation(chart, xyz, condition.name)
    rules = parse_ink_rules(condition.rules)
    return build_profile(measured, rules, BuildSettings(description="Coated")).data


def vectors(path: Path, pages: int) -> None:
    """Pages of 510 operators: 40 rectangles in random colours, 50 lines of text, 60 strokes."""
    rng = np.random.default_rng(5)
    with pikepdf.new() as pdf:
        font = pikepdf.Dictionary(
            Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica
        )
        for _ in range(pages):
            parts = []
            for r, g, b, x, y in rng.random((40, 5)).round(3):
                parts.append(f"{r} {g} {b} rg {x * 500:.1f} {y * 700:.1f} 30 20 re f")
            parts += [
                f"BT /F1 9 Tf 40 {780 - 14 * i} Td (Line {i} of the catalogue) Tj ET"
                for i in range(50)
            ]
            for r, g, b, y in rng.random((60, 4)).round(3):
                parts.append(f"{r} {g} {b} RG 20 {y * 800:.1f} m 560 {y * 700:.1f} l S")
            pdf.add_blank_page(page_size=(595, 842))
            page = pdf.pages[-1]
            page.obj["/Resources"] = pikepdf.Dictionary(Font=pikepdf.Dictionary(F1=font))
            page.Contents = pikepdf.Stream(pdf, "\n".join(parts).encode())
        pdf.save(path)


def pictures(path: Path) -> None:
    """Flate-packed pictures of 2.2 Mpx, RGB with little noise, at 600 ppi: about 250 MB."""
    rng = np.random.default_rng(6)
    height, width = EDGE
    with pikepdf.new() as pdf:
        for _ in range(PICTURES):
            coarse = gaussian_filter(rng.random((height // 10, width // 10, 3)), (4, 4, 0))
            coarse = (coarse - coarse.min()) / np.ptp(coarse)
            whole = np.kron(coarse, np.ones((10, 10, 1))) * 235 + rng.normal(
                0, 6, (height, width, 3)
            )
            data = np.clip(whole, 0, 255).astype(np.uint8)
            image = pikepdf.Stream(
                pdf, zlib.compress(data.tobytes(), 1), Type=pikepdf.Name.XObject,
                Subtype=pikepdf.Name.Image, Width=width, Height=height, BitsPerComponent=8,
                ColorSpace=pikepdf.Name.DeviceRGB, Filter=pikepdf.Name.FlateDecode,
            )  # fmt: skip
            pdf.add_blank_page(page_size=(width * 72 / 600, height * 72 / 600))
            page = pdf.pages[-1]
            objects = pikepdf.Dictionary(Im=pdf.make_indirect(image))
            page.obj["/Resources"] = pikepdf.Dictionary(XObject=objects)
            box = f"{width * 72 / 600:.3f} 0 0 {height * 72 / 600:.3f} 0 0"
            page.Contents = pikepdf.Stream(pdf, f"q {box} cm /Im Do Q".encode())
        pdf.save(path)


def plain_loop(source: Path, target: Path, press: Path) -> None:
    """Every operator of every page looked at, RGB through Little CMS in 8 bits, one colour at a time."""
    made = ImageCms.buildTransform(
        ImageCms.createProfile("sRGB"), ImageCms.ImageCmsProfile(str(press)), "RGB", "CMYK", 1
    )
    given, found = Image.new("RGB", (1, 1)), Image.new("CMYK", (1, 1))

    def inks(operands: list[object]) -> list[Decimal]:
        given.putpixel((0, 0), tuple(round(float(v) * 255) for v in operands))
        # ImageCms.applyTransform copies the whole profile for every call.
        made.transform.apply(given.getim(), found.getim())
        return [Decimal(round(v / 255 * 10_000)) / 10_000 for v in found.getpixel((0, 0))]

    with pikepdf.open(source) as pdf:
        for page in pdf.pages:
            out = []
            for instruction in pikepdf.parse_content_stream(page):
                operator = {"rg": "k", "RG": "K"}.get(str(instruction.operator))
                if operator is not None:
                    instruction = pikepdf.ContentStreamInstruction(
                        inks(instruction.operands), pikepdf.Operator(operator)
                    )
                out.append(instruction)
            page.Contents = pikepdf.Stream(pdf, pikepdf.unparse_content_stream(out))
        pdf.save(target)


def peak() -> float:
    """Most memory this process ever held, MB; the kernel's other figure counts the parent's too."""
    status = Path("/proc/self/status").read_text()
    return float(status.split("VmHWM:")[1].split()[0]) / 1024


def treat(source: Path, target: Path, press: Path, how: str) -> None:
    """One case, in a process of its own; prints seconds, peak memory and size as JSON."""
    how, again, _ = how.partition(" again")
    if again:
        work(source, target, press, how)
    began, used = time.perf_counter(), os.times()
    work(source, target, press, how)
    print(
        json.dumps(
            {
                "seconds": time.perf_counter() - began,
                "worked": sum(os.times()[:2]) - sum(used[:2]),
                "peak": peak(),
                "size": target.stat().st_size / 1e6,
            }
        )
    )


def work(source: Path, target: Path, press: Path, how: str) -> None:
    if how == "copy":
        with pikepdf.open(source) as pdf:
            pdf.save(target)
    elif how == "reparse":
        with pikepdf.open(source) as pdf:
            for page in pdf.pages:
                parsed = pikepdf.parse_content_stream(page)
                page.Contents = pikepdf.Stream(pdf, pikepdf.unparse_content_stream(parsed))
            pdf.save(target)
    elif how == "loop":
        plain_loop(source, target, press)
    else:
        how, _, alone = how.partition(" ")
        if alone:
            second_pair.WORTH_IT = 10**9
        policy = template(how, "press", tac=300)
        profile = Profile.read(press)
        run_policy(
            policy,
            source,
            target,
            lambda n: standard_profile(n) if n in (*SPACES, "grey") else profile,
        )


def case(folder: Path, source: Path, how: str) -> dict[str, float]:
    words = [sys.executable, __file__, str(source), str(folder / "out.pdf"), str(folder / "press.icc"), how]  # fmt: skip
    done = subprocess.run(words, capture_output=True, text=True, check=True)
    return dict(json.loads(done.stdout))


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        (folder / "press.icc").write_bytes(coated())
        for pages in (125, 500, 2000):
            source = folder / "vectors.pdf"
            vectors(source, pages)
            for how in ("strict-press", "strict-press alone", "strict-press alone again", "loop", "loop again", "reparse"):  # fmt: skip
                found = case(folder, source, how)
                print(f"{pages:5d} pages of 510 operators, {how:24s} {pages / found['seconds']:6.1f} pages/s, {found['worked']:5.1f} s of CPU, peak {found['peak']:5.0f} MB")  # fmt: skip
        source = folder / "pictures.pdf"
        pictures(source)
        print(f"{PICTURES} pictures of {EDGE[0] * EDGE[1] / 1e6:.1f} Mpx at 600 ppi, {source.stat().st_size / 1e6:.0f} MB")  # fmt: skip
        for how in ("copy", "strict-press", "office-files", "bare-cmyk"):
            found = case(folder, source, how)
            print(f"   {how:14s} {found['seconds']:6.1f} s, to {found['size']:6.1f} MB, peak {found['peak']:5.0f} MB")  # fmt: skip


if __name__ == "__main__":
    if len(sys.argv) > 1:
        treat(Path(sys.argv[1]), Path(sys.argv[2]), Path(sys.argv[3]), sys.argv[4])
    else:
        main()
