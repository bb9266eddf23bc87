"""Presses of two, six and seven inks and a device that takes RGB, from artwork to a checked file."""

from __future__ import annotations

import io
import json
import re
import zipfile
from pathlib import Path

import numpy as np
import pikepdf
import pytest
import tifffile
from playwright.sync_api import Page, expect

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names, long_name
from plinto_core.imaging.ink_tiff import names_of
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from steps import choose, fetched, place, removed, settled, stage, start_job
from test_delivering import deliver, saved, type_in

SEVEN = ("C", "M", "Y", "K", "Orange", "Green", "Violet")


def tall(page: Page) -> None:
    page.set_viewport_size({"width": 1280, "height": 1000})


def ids(page: Page) -> tuple[str, str]:
    job, destination = page.url.split("/jobs/")[1].split("/")[:2]
    return job, destination


def by_the_core(page: Page, picture: Path, folder: Path) -> Path:
    """The same recipe, run by the core alone on the same picture."""
    origin = page.evaluate("location.origin")
    package = fetched(page, f"{origin}/api/destinations/{ids(page)[1]}/package")
    with zipfile.ZipFile(io.BytesIO(package)) as parts:
        recipe = next(json.loads(parts.read(n)) for n in parts.namelist() if n.endswith(".json"))
        profiles = [Profile(parts.read(n)) for n in parts.namelist() if n.endswith(".icc")]
    known = {p.digest: p for p in profiles}
    out = folder / "core.tif"
    run_recipe(parse_recipe(recipe.get("recipe", recipe)), picture, out, lambda ref: known[ref])
    return out


@pytest.mark.parametrize(
    ("condition", "names", "extra", "tac"),
    [
        ("Polyester, seven inks", SEVEN, "Green", 250),
        ("Satin canvas, six inks", (*SEVEN[:4], "Light cyan", "Light magenta"), "Light cyan", 220),
    ],
)
def test_many_inks_go_from_artwork_to_a_file_that_the_core_agrees_with(
    screen: Page,
    picture: Path,
    tmp_path: Path,
    condition: str,
    names: tuple[str, ...],
    extra: str,
    tac: int,
) -> None:
    tall(screen)
    start_job(screen, picture, condition)
    stage(screen, "Inks")
    plates = screen.get_by_role("group", name="Plates")
    for name in names:
        expect(plates.get_by_role("button", name=f"Plate {name}", exact=True)).to_be_visible()
    screen.get_by_label("Own ink rules").check()
    total = screen.get_by_role("slider", name="Total area coverage")
    total.press("Home")
    for _ in range((tac - 120) // 10):
        total.press("PageUp")
    expect(screen.get_by_test_id("tac-highest")).to_contain_text(f"of {tac} %", timeout=60_000)
    screen.get_by_role("button", name="Limits of single inks").click()
    limit = screen.get_by_role("slider", name=extra, exact=True)
    for _ in range(4):
        limit.press("PageDown")
    expect(screen.get_by_label("Stages")).to_contain_text(f"{extra} 60")
    settled(screen)
    screen.locator('[data-pane="proof"]').hover()
    expect(screen.get_by_label("Readout")).to_contain_text("TAC")
    plates.get_by_role("button", name=f"Plate {extra}", exact=True).click()
    settled(screen)
    stage(screen, "Deliver")
    expect(screen.get_by_test_id("next-file")).not_to_be_empty()
    expect(screen.get_by_role("combobox", name="Format").locator("option")).to_have_count(4)
    choose(screen, "Format", "TIFF, 8 bit per ink")
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    with tifffile.TiffFile(result) as file:
        page = file.pages[0]
        assert names_of(page) == names
        inks = file.asarray()
        profile = Profile(page.tags.valueof(34675))
    assert ink_names(profile) == names
    # Inks are rounded to 8 bits each after the total was held.
    assert inks.reshape(-1, len(names)).sum(axis=1).max() / 2.55 <= tac + 0.5
    place = names.index(extra)
    assert 0 < inks[..., place].max() / 2.55 <= 60.5
    own = tifffile.imread(by_the_core(screen, picture, tmp_path))
    assert (own == inks).all()
    # What the press prints of them is what the artwork shows, as far as the press goes.
    small = inks[::7, ::7].reshape(-1, len(names)) / 255
    assert np.ptp(lab_of_device(profile, small)[:, 0]) > 20
    if condition.startswith("Polyester"):
        comes_back_as_artwork(screen, result, inks, tmp_path)


def comes_back_as_artwork(screen: Page, result: Path, inks: np.ndarray, folder: Path) -> None:
    """A file of seven inks is taken in, read at the pointer, and made over for newsprint."""
    screen.get_by_role("link", name="Jobs").first.click()
    screen.get_by_label("Artwork file").set_input_files(result)
    screen.get_by_role("checkbox", name="Newsprint").check()
    screen.get_by_role("button", name="Start the job").click()
    stage(screen, "Artwork")
    expect(screen.get_by_text("7 inks, 8 bit", exact=True)).to_be_visible(timeout=60_000)
    expect(screen.get_by_text(", ".join(SEVEN))).to_be_visible()
    settled(screen)
    readout = screen.get_by_label("Readout")
    screen.locator('[data-pane="proof"]').hover()
    expect(readout).to_contain_text("Violet")
    stage(screen, "Deliver")
    choose(screen, "Format", "TIFF, 8 bit per ink")
    made = saved(screen, deliver(screen).get_by_role("link", name="Download"), folder)
    with tifffile.TiffFile(made) as file:
        cmyk, press = file.asarray(), Profile(file.pages[0].tags.valueof(34675))
    assert cmyk.shape == (*inks.shape[:2], 4)
    own = tifffile.imread(by_the_core(screen, result, folder))
    assert (own == cmyk).all()
    assert press.colour_space == "CMYK"


def test_a_document_comes_out_in_the_seven_inks_of_its_press(screen: Page, tmp_path: Path) -> None:
    place(screen, "Policies")
    screen.get_by_role("button", name="New policy").click()
    screen.get_by_role("menuitem", name="Polyester, seven inks").nth(1).click()
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(200, 200))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"0.9 0.45 0.1 rg 0 0 200 200 re f")
        pdf.save(tmp_path / "leaf.pdf")
    screen.get_by_label("Document file").set_input_files(tmp_path / "leaf.pdf")
    row = screen.get_by_role("table", name="Objects").get_by_role("row").nth(1)
    expect(row).to_contain_text(re.compile(r"R 229\.5\s+G 114\.8\s+B 25\.5.*O 9\d"), timeout=60_000)
    screen.get_by_role("tab", name="Pages and plates").click()
    screen.get_by_role("radio", name="Plates").click()
    region = screen.get_by_role("region", name="Pages")
    for name in ("Cyan", "Orange", "Violet"):
        expect(region.get_by_role("button", name=name).first).to_be_visible(timeout=60_000)
    screen.get_by_role("button", name="Run for real").click()
    done = saved(screen, screen.get_by_role("link", name=re.compile("^Download")), tmp_path)
    origin = screen.evaluate("location.origin")
    rows = screen.request.get(f"{origin}/api/conditions").json()
    (own,) = (c["profile"] for c in rows if c["name"] == "Polyester, seven inks")
    press = Profile(screen.request.get(f"{origin}/api/profiles/{own['id']}/file").body())
    with pikepdf.open(done) as pdf:
        page = pdf.pages[0]
        found = list(pikepdf.parse_content_stream(page))
        space = page.Resources.ColorSpace[str(found[0].operands[0])]
        assert [str(n) for n in space[1]] == [f"/{long_name(n)}" for n in SEVEN]
        inks = [float(v) for v in found[1].operands]
    route = ColourRoute(standard_profile("srgb"), press, "saturation", True)
    assert np.abs(route.inks(np.array([[0.9, 0.45, 0.1]]))[0] - inks).max() < 2e-4


def test_two_screens_become_two_films(screen: Page, picture: Path, tmp_path: Path) -> None:
    tall(screen)
    start_job(screen, picture, "Brick and black, two screens")
    stage(screen, "Deliver")
    expect(screen.get_by_test_id("next-file")).not_to_be_empty()
    screen.get_by_label("One-bit films").check()
    expect(screen.get_by_label("Angle of Brick")).to_have_value("75")
    expect(screen.get_by_label("Angle of K")).to_have_value("45")
    type_in(screen, "Film resolution", "300")
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    with zipfile.ZipFile(result) as films:
        names = [n for n in films.namelist() if n.endswith(".tif")]
        assert len(names) == 2
        assert any("Brick" in n for n in names)


def test_a_device_that_takes_rgb_gets_rgb_for_its_own_paper(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    start_job(screen, picture, "Photo paper, driven by RGB")
    stage(screen, "Inks")
    expect(screen.get_by_label("Stages")).to_contain_text("takes RGB")
    stage(screen, "Deliver")
    expect(screen.get_by_test_id("next-file")).not_to_be_empty()
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    with tifffile.TiffFile(result) as file:
        rgb = file.asarray()
        profile = Profile(file.pages[0].tags.valueof(34675))
    assert profile.colour_space == "RGB "
    assert profile.header.device_class == "prtr"
    core = tifffile.imread(by_the_core(screen, picture, tmp_path))
    assert (core == rgb).all()
    with tifffile.TiffFile(picture) as file:
        artwork = file.asarray()[::9, ::9].reshape(-1, 3) / 65535
        source = Profile(file.pages[0].tags.valueof(34675))
    shown = lab_of_device(source, artwork)
    printed = lab_of_device(profile, rgb[::9, ::9].reshape(-1, 3) / np.iinfo(rgb.dtype).max)
    assert np.median(delta_e_2000(shown, printed)) < 12


def test_inks_of_a_condition_are_called_otherwise_and_one_is_left_out(screen: Page) -> None:
    place(screen, "Conditions")
    screen.get_by_role("button", name=re.compile("^Polyester, seven inks")).first.click()
    screen.get_by_role("button", name="Copy", exact=True).click()
    mine = screen.get_by_role("region", name="Polyester, seven inks, copy")
    mine.get_by_role("button", name="Inks…").click()
    form = mine.get_by_role("form", name="Inks of the condition")
    make = form.get_by_role("button", name="Make it so")
    expect(make).to_be_disabled()
    form.get_by_label("Name of ink 5").fill("Green")
    make.click()
    expect(form.get_by_role("alert")).to_contain_text("Two inks have one name")
    form.get_by_label("Name of ink 5").fill("Mandarin")
    form.get_by_label("Part of ink 7").select_option(label="not used by separation")
    form.get_by_label("Name of ink 5").press("Enter")
    expect(mine.get_by_text("The profile is replaced.")).to_be_visible(timeout=60_000)
    expect(mine).to_contain_text("7 inks: C M Y K, Mandarin, Green, Violet")
    origin = screen.evaluate("location.origin")
    rows = screen.request.get(f"{origin}/api/conditions").json()
    (own,) = (c for c in rows if c["name"] == "Polyester, seven inks, copy")
    channels = own["profile"]["inks"]["channels"]
    assert [c["role"] for c in channels[4:]] == ["extra", "extra", "none"]
    assert channels[4]["between"] in (["M", "Y"], ["Y", "M"])
    removed(screen, "Retire")
