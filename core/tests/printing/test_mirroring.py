"""A transfer print is mirrored exactly once, by one of file, driver and machine; others never."""

from __future__ import annotations

import io
import itertools
import zipfile

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.inks.consumption import Supplies
from plinto_core.printing import (
    ColourDuty,
    MediumSettings,
    Printer,
    SentColours,
    judge_route,
    print_file,
)
from plinto_core.printing.guard import judge_mirror
from plinto_core.transform.standard_spaces import standard_profile

SENT = SentColours(converts=True, made_for="a", prints="a", profile_in=False)


@pytest.mark.parametrize(
    ("ticket", "in_file", "driver", "machine"), list(itertools.product([False, True], repeat=4))
)
def test_every_combination(ticket, in_file, driver, machine) -> None:
    settings = MediumSettings(mirror=ticket, mirror_driver=driver, mirror_machine=machine)
    found = judge_mirror(settings, in_file=in_file, transfer=ticket)
    right = sum((in_file, driver, machine)) == int(ticket)
    assert [j.level for j in found] == ([] if right else ["refuse"])
    if not right:
        assert found[0].remedy
    if ticket and right:
        assert settings.mirrored_by == (
            "yes, in the driver"
            if driver
            else "yes, in the machine"
            if machine
            else "yes, in the file"
        )


@pytest.mark.parametrize("ticket", [True, False])
def test_a_ticket_unlike_its_condition_is_pointed_out(ticket) -> None:
    settings = MediumSettings(mirror=ticket)
    (found,) = judge_mirror(settings, in_file=ticket, transfer=not ticket)
    assert found.level == "warn"
    assert ("transfer" in found.reason) == (not ticket)


def test_mirroring_and_colour_are_judged_together() -> None:
    both = judge_route(ColourDuty(rip="on"), SENT, MediumSettings(), in_file=True, transfer=False)
    assert [j.level for j in both] == ["refuse", "refuse"]
    wrong = judge_route(ColourDuty(), SENT, MediumSettings(), in_file=True, transfer=False)
    assert [(j.level, "right-reading" in j.reason) for j in wrong] == [("refuse", True)]
    fine = judge_route(ColourDuty(), SENT, MediumSettings(), in_file=False, transfer=False)
    assert [j.level for j in fine] == ["fine"]


@pytest.mark.parametrize(("driver", "machine"), list(itertools.product([False, True], repeat=2)))
def test_the_simulated_machine_mirrors_as_it_is_set(tmp_path, coated, driver, machine) -> None:
    inks = np.zeros((40, 60, 4), np.uint8)
    inks[:, :10, 3] = 255
    tifffile.imwrite(tmp_path / "in.tif", inks, photometric="separated", resolution=(72, 72))
    settings = MediumSettings(mirror_driver=driver, mirror_machine=machine)
    printer = Printer(coated, Supplies(), settings)
    print_file(tmp_path / "in.tif", tmp_path / "out.zip", printer, standard_profile)
    with zipfile.ZipFile(tmp_path / "out.zip") as bundle:
        black = np.asarray(Image.open(io.BytesIO(bundle.read("plates/1-4-Black.png"))))
    left = black[:, : black.shape[1] // 2].mean() < black[:, black.shape[1] // 2 :].mean()
    assert left == (driver == machine)


def test_what_the_operator_reads_of_a_medium() -> None:
    plain = dict(MediumSettings().ticket_lines())
    assert plain == {
        "Medium": "as the printer names it", "Mirror": "no", "Passes": "1", "Drying": "none beyond the usual",
        "Platen gap": "as it is", "Feed": "0 %", "Heat": "off",
    }  # fmt: skip
    given = MediumSettings(
        media_type="Satin", mirror=True, mirror_machine=True, passes=4, drying_minutes=2.5, platen_gap=1.8,
        feed=-0.5, heat=45, roll_width=1600, roll_length=50, roll_price=400,
    )  # fmt: skip
    assert dict(given.ticket_lines()) == {
        "Medium": "Satin", "Mirror": "yes, in the machine", "Passes": "4", "Drying": "2.5 min",
        "Platen gap": "1.8 mm", "Feed": "-0.5 %", "Heat": "45 °C",
    }  # fmt: skip
    assert given.price_per_square_metre == 5
    assert (
        given.length_on_roll(1600, 900),
        given.length_on_roll(1700, 900),
        given.length_on_roll(1700, 1601),
    ) == (900, 1700, None)
    assert given.length_on_roll(1000, 1200) == 1000
    assert MediumSettings(mirror=True).mirrored_by == "yes, in the file"
    assert MediumSettings(mirror=True, mirror_driver=True).mirrored_by == "yes, in the driver"


def test_the_medium_is_named_where_it_has_a_name() -> None:
    assert MediumSettings().ticket_lines()[0] == ("Medium", "as the printer names it")
    assert MediumSettings(media_type="Satin 190").ticket_lines()[0] == ("Medium", "Satin 190")
