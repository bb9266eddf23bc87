"""Plates that a picture makes under a policy, on a press made by hand; profiles found in files."""

from __future__ import annotations

import zipfile

import numpy as np
import pikepdf
import pytest
import tifffile
from handmade import ink_profile, linear_press, linear_print

from plinto_core.document import OutputPolicy
from plinto_core.document import profiles_inside as inside
from plinto_core.document.profiles_inside import profiles_inside
from plinto_core.document.views.picture_views import picture_plates
from plinto_core.errors import BadProfile, CoreError, NotSupported, PolicyStop
from plinto_core.icc import Profile
from plinto_core.inks.editing import with_inks
from plinto_core.inks.ink_set import InkRole
from plinto_core.transform import convert
from plinto_core.transform.standard_spaces import standard_profile

PRESS = linear_press()
RNG = np.random.default_rng(5)
CMYK = RNG.integers(0, 120, (6, 9, 4)).astype(np.uint8)
RGB = RNG.integers(0, 256, (6, 9, 3)).astype(np.uint8)


def plates(tmp_path, pixels, *rules, press="press", edge=800, resolution=(100, 50), **policy):
    path = tmp_path / "a.tif"
    kind = "separated" if pixels.shape[2] == 4 else "rgb"
    tifffile.imwrite(path, pixels, photometric=kind, resolution=resolution, metadata=None, planarconfig="contig")  # fmt: skip
    onto = (
        PRESS
        if press == "press"
        else press
        if isinstance(press, Profile)
        else standard_profile(press)
    )
    made = OutputPolicy.model_validate({"destination": "press", "rules": list(rules), **policy})
    return picture_plates(path, made, lambda n: onto if n == "press" else standard_profile(n), edge=edge)  # fmt: skip


@pytest.mark.parametrize("bits", [8, 16])
def test_rgb_becomes_inks_as_the_route_has_them(tmp_path, bits) -> None:
    pixels = RGB if bits == 8 else RGB.astype(np.uint16) * 257
    found = plates(tmp_path, pixels, {"action": "convert"})
    wanted = convert(standard_profile("srgb"), PRESS, RGB.reshape(-1, 3) / 255, intent="relative", bpc=True)  # fmt: skip
    assert found.names == ("Cyan", "Magenta", "Yellow", "Black")
    assert found.ink.dtype == np.uint8
    assert np.abs(found.ink.reshape(-1, 4) / 255 - wanted).mean() < 0.01
    # In points: 9 pixels at 100 an inch, 6 at 50.
    assert found.size == pytest.approx((9 / 100 * 72, 6 / 50 * 72))
    assert found.notes == ()


def test_inks_that_stay_are_the_plates(tmp_path) -> None:
    found = plates(tmp_path, CMYK, {"action": "leave"})
    assert np.array_equal(found.ink, CMYK)
    assert found.notes == ()
    held = plates(tmp_path, CMYK, {"action": "leave"}, tac=100, tac_action="enforce")
    over = CMYK.sum(axis=2) > 255
    assert over.any()
    assert np.array_equal(held.ink[~over], CMYK[~over])
    assert held.ink.sum(axis=2).max() <= 256


def test_what_stays_in_another_space_is_shown_as_it_would_print_and_said(tmp_path) -> None:
    left = plates(tmp_path, RGB.astype(np.uint16) * 257, {"action": "leave"})
    converted = plates(tmp_path, RGB, {"action": "convert"})
    assert np.abs(left.ink.astype(int) - converted.ink).max() <= 2
    assert [n.code for n in left.notes] == ["document.spaces-left"]


def five_inks() -> Profile:
    """Orange beside the four, which are not its first: plates are found by their names."""
    names, order = ["Orange", "K", "C", "M", "Y"], [2, 3, 4, 1]
    made = ink_profile(
        5,
        lambda d: linear_print(d[:, order]) - d[:, :1] * [20, 0, 0],
        lambda lab: np.zeros((len(lab), 5)),
        grid=2, back_grid=2,
    )  # fmt: skip
    roles = [InkRole(role=r) for r in ("none", "black", "colour", "colour", "colour")]
    return Profile(with_inks(made, names, roles))


def test_cmyk_that_stays_goes_to_the_plates_of_its_names(tmp_path) -> None:
    press = five_inks()
    left = plates(tmp_path, CMYK, {"action": "leave"}, press=press)
    assert left.names == ("Orange", "Black", "Cyan", "Magenta", "Yellow")
    assert not left.ink[..., 0].any()
    assert np.array_equal(left.ink[..., [2, 3, 4, 1]], CMYK)
    assert left.notes == ()
    colour = plates(tmp_path, RGB, {"action": "leave"}, press=press)
    assert [n.code for n in colour.notes] == ["document.spaces-left"]


def test_what_has_no_plates(tmp_path) -> None:
    with pytest.raises(PolicyStop):
        plates(tmp_path, RGB, {"space": "RGB", "action": "stop"}, {"action": "convert"})
    with pytest.raises(NotSupported) as error:
        plates(tmp_path, RGB, {"action": "convert"}, press="srgb")
    assert error.value.said.code == "document.no-plates"


def test_large_pictures_are_reduced_to_their_longer_edge(tmp_path) -> None:
    even = np.full((60, 90, 4), 77, np.uint8)
    found = plates(tmp_path, even, {"action": "leave"}, edge=30)
    assert found.ink.shape == (20, 30, 4)
    assert (found.ink == 77).all()
    assert found.size == pytest.approx((90 / 100 * 72, 60 / 50 * 72))


# Profiles inside files


def archive(path, **entries: bytes):
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as made:
        for name, data in entries.items():
            made.writestr(name.replace("_", "."), data)
    return path


def refused(path) -> str:
    with pytest.raises(CoreError) as error:
        profiles_inside(path, path.name)
    assert isinstance(error.value, BadProfile)
    return error.value.said.code.removeprefix("document.")


def test_every_profile_of_an_archive_once(tmp_path) -> None:
    one, other = standard_profile("srgb").data, standard_profile("p3").data
    path = archive(tmp_path / "a.zip", a_icc=one, b_icc=one, readme_txt=b"words" * 99, c_icc=other, short=b"acsp", broken_icc=one[:200])  # fmt: skip
    found = profiles_inside(path, "a.zip")
    assert [(place, p.description) for place, p in found] == [
        ("a.icc", "sRGB"),
        ("c.icc", "P3 D65"),
    ]
    assert refused(archive(tmp_path / "b.zip", readme_txt=b"words")) == "no-profile-inside"


def test_archives_that_are_too_large_or_damaged(tmp_path, monkeypatch) -> None:
    data = standard_profile("grey").data
    path = archive(tmp_path / "a.zip", a_icc=data, b_txt=b"0123456789")
    for name, most in (("MOST_ENTRIES", 2), ("MOST_BYTES", len(data) + 10), ("LARGEST", len(data))):
        monkeypatch.setattr(inside, name, most)
        assert len(profiles_inside(path, "a.zip")) == 1
        monkeypatch.setattr(inside, name, most - 1)
        assert refused(path) == ("no-profile-inside" if name == "LARGEST" else "archive-large")
        monkeypatch.undo()
    whole = bytearray(path.read_bytes())
    whole[60:90] = bytes(30)
    path.write_bytes(bytes(whole))
    assert refused(path) == "archive-damaged"


def test_profiles_of_documents_and_of_files_themselves(tmp_path) -> None:
    press = PRESS.data
    (tmp_path / "p.icc").write_bytes(press)
    assert [p.digest for _, p in profiles_inside(tmp_path / "p.icc", "mine.icc")] == [PRESS.digest]
    with pikepdf.new() as pdf:
        pdf.add_blank_page()
        pdf.Root["/A"] = pdf.make_indirect(pikepdf.Stream(pdf, press, N=4))
        pdf.Root["/B"] = pdf.make_indirect(pikepdf.Stream(pdf, press))
        pdf.Root["/C"] = pdf.make_indirect(pikepdf.Stream(pdf, b"no profile", N=3))
        pdf.save(tmp_path / "a.pdf")
    ((place, found),) = profiles_inside(tmp_path / "a.pdf", "a.pdf")
    assert place.startswith("object ")
    assert Profile(found.data).digest == PRESS.digest
    assert refused(tmp_path / "none.icc") == "profile-file-unreadable"
