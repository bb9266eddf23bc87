"""Documents made for presses of other inks than four: DeviceN with their names, checked by what prints."""

from __future__ import annotations

from types import SimpleNamespace

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from corpus import CORPUS, RGB, ramp
from paperwork import operations
from plinto_core.colorimetry import Lab_to_XYZ, delta_e_2000
from plinto_core.document import parse_policy, run_policy
from plinto_core.document.reports.report_page import summary_of
from plinto_core.document.rules.judging import judge_destination
from plinto_core.document.views.press_view import page_as_meant, page_as_printed
from plinto_core.document.views.render import render_page
from plinto_core.document.views.separations import page_inks, page_plates
from plinto_core.errors import BadRecipe, NotSupported
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile

SEVEN = ("Cyan", "Magenta", "Yellow", "Black", "Orange", "Green", "Violet")
WHOLE = {"destination": "press", "sources": {"CMYK": "four"}, "rules": [{"action": "convert"}]}


@pytest.fixture
def resolve(coated, seven, two_inks):
    own = {"press": seven, "four": coated, "two": two_inks}
    return lambda name: own[name] if name in own else standard_profile(name)


@pytest.fixture
def made(tmp_path, resolve, paper):
    """A page's content under a policy: the report, the opened result, and the policy."""
    opened: list[pikepdf.Pdf] = []

    def run(content: str, **changes):
        policy = parse_policy({**WHOLE, **changes})
        paper.save(tmp_path / "in.pdf", content)
        report = run_policy(policy, tmp_path / "in.pdf", tmp_path / "out.pdf", resolve)
        opened.append(pikepdf.open(tmp_path / "out.pdf"))
        return report, opened[-1], policy

    yield run
    for pdf in opened:
        pdf.close()


def exact(seven, rgb: list[float], rules=None) -> np.ndarray:
    route = ColourRoute(standard_profile("srgb"), seven, "relative", True, rules)
    return route.inks(np.array([rgb]))[0]


def test_vectors_are_devicen_of_the_inks_by_name(made, seven) -> None:
    report, pdf, _ = made("0.9 0.4 0.1 rg 10 10 180 80 re f")
    page = pdf.pages[0]
    found = operations(page)
    assert [o for o, _ in found] == ["cs", "scn", "re", "f"]
    space = page.Resources.ColorSpace[str(found[0][1][0])]
    assert str(space[0]) == "/DeviceN"
    assert [str(n).removeprefix("/") for n in space[1]] == list(SEVEN)
    assert str(space[4].Subtype) == "/NChannel"
    values = [float(v) for v in found[1][1]]
    assert values == pytest.approx(exact(seven, [0.9, 0.4, 0.1]), abs=1e-4)
    assert values[4] > 0.2, "an orange uses no orange"
    (item,) = report.objects
    assert item.outcome == "DeviceN"
    assert item.after == pytest.approx(100 * np.array(values), abs=0.06)
    assert item.tac_after == pytest.approx(100 * sum(values), abs=0.3)
    assert report.inks == SEVEN


def test_inks_of_the_press_by_name_go_straight_to_their_plates(made, paper) -> None:
    for name in ("Orange", "Ternholm Red"):
        paper.put("/ColorSpace", f"/{name[:1]}", Array([Name.Separation, Name(f"/{name}"), Name.DeviceCMYK, ramp([0] * 4, [0, 0.6, 1, 0])]))  # fmt: skip
    paper.put("/ColorSpace", "/D", Array([Name.DeviceN, Array([Name.Black, Name.Violet]), Name.DeviceCMYK, Dictionary(FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * 4)]))  # fmt: skip
    paper.resources.ColorSpace.D[3] = pikepdf.Stream(
        paper.pdf, b"{ exch 3 1 roll dup 3 -1 roll dup pop pop 0 exch }",
        FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * 4,
    )  # fmt: skip
    report, pdf, _ = made(
        "/O cs 0.8 scn 0 0 50 100 re f /D cs 0.3 0.6 scn 50 0 50 100 re f "
        "/T cs 1 scn 100 0 50 100 re f"
    )
    # Selecting a space sets its own first colour, which is written as well.
    set_to = [[float(v) for v in a] for o, a in operations(pdf.pages[0]) if o == "scn"][1::2]
    assert set_to[0] == [0, 0, 0, 0, 0.8, 0, 0]
    assert set_to[1] == [0, 0, 0, 0.3, 0, 0, 0.6]
    # A spot colour that the press has no ink for is converted by what it looks like.
    assert sum(v > 0.01 for v in set_to[2]) > 1
    assert [o.spot for o in report.objects] == [(), (), ("Ternholm Red",)]
    stops = {"rules": [{"space": "spot", "action": "stop"}, {"action": "convert"}]}
    with pytest.raises(Exception, match="Ternholm Red"):
        made("/T cs 1 scn 100 0 50 100 re f", **stops)
    made("/O cs 1 scn 100 0 50 100 re f", **stops)


def test_the_total_is_held_and_black_stays_black(made, seven) -> None:
    tac = {"tac": 200, "tac_action": "enforce"}
    _, pdf, _ = made("0.05 0.02 0.2 rg 0 0 50 100 re f", **tac)
    (dark,) = ([float(v) for v in a] for o, a in operations(pdf.pages[0]) if o == "scn")
    assert sum(dark) <= 2.0 + 1e-6
    _, pdf, _ = made("0.05 0.02 0.2 rg 0 0 50 100 re f")
    (free,) = ([float(v) for v in a] for o, a in operations(pdf.pages[0]) if o == "scn")
    assert sum(free) > 2.2
    _, pdf, _ = made("0 0 0 0.6 k 0 0 9 9 re f")
    assert [float(v) for v in operations(pdf.pages[0])[1][1]] == [0, 0, 0, 0.6, 0, 0, 0]
    _, pdf, _ = made("0.5 g 0 0 9 9 re f", rules=[{"action": "black"}])
    assert [float(v) for v in operations(pdf.pages[0])[1][1]] == [0, 0, 0, 0.5, 0, 0, 0]


def test_greys_and_primaries_of_vectors_are_clean(made) -> None:
    report, pdf, _ = made(
        "0.5 0.5 0.5 rg 0 0 9 9 re f 1 0 0 rg 0 0 9 9 re f 0 0 0 RG 0 0 m 9 9 l S",
        greys_to_black=True, clean=True,
    )  # fmt: skip
    grey, red, black = ([float(v) for v in a] for o, a in operations(pdf.pages[0]) if o in ("scn", "SCN"))  # fmt: skip
    assert [v > 0 for v in grey] == [False, False, False, True, False, False, False]
    assert red == [0, 1, 1, 0, 0, 0, 0]
    assert black == [0, 0, 0, 1, 0, 0, 0]
    assert {o.outcome for o in report.objects} == {"black only", "DeviceN"}


def test_black_that_overprints_leaves_the_other_inks_alone(made) -> None:
    """As a colour of seven inks it would print six of them as none, whatever overprints."""
    _, pdf, _ = made(
        "0.9 0.4 0.1 rg 0 0 200 100 re f 0 0 0 rg 5 5 90 40 re f 0.2 0.7 0.4 rg 5 50 90 40 re f",
        overprint_black=True, greys_to_black=True,
    )  # fmt: skip
    found = operations(pdf.pages[0])
    names = [o for o, _ in found]
    at = names.index("k")
    assert [float(v) for v in found[at][1]] == [0, 0, 0, 1]
    states = pdf.pages[0].Resources.ExtGState
    over, knocks = (states[str(a[0])] for o, a in found if o == "gs")
    assert (bool(over.op), int(over.OPM)) == (True, 1)
    assert bool(knocks.op) is False
    assert names[at:].count("scn") == 1


def test_images_palettes_shadings_and_patterns_hold_the_same_inks(made, paper, seven) -> None:
    paper.put("/XObject", "/Im", paper.image(RGB, Name.DeviceRGB))
    table = bytes([230, 100, 25, 20, 180, 90])
    paper.put("/XObject", "/Pa", paper.image(np.array([[0, 1]], np.uint8), Array([Name.Indexed, Name.DeviceRGB, 1, pikepdf.String(table)])))  # fmt: skip
    paper.put("/Shading", "/Sh", Dictionary(ShadingType=2, ColorSpace=Name.DeviceRGB, Coords=[0, 0, 200, 0], Function=ramp([0.9, 0.4, 0.1], [0.1, 0.7, 0.3])))  # fmt: skip
    report, pdf, _ = made("q 90 0 0 80 0 0 cm /Im Do /Pa Do Q /Sh sh")
    resources = pdf.pages[0].Resources
    image = resources.XObject.Im
    assert str(image.ColorSpace[0]) == "/DeviceN"
    inks = np.frombuffer(image.read_bytes(), np.uint8).reshape(40, 80, 7) / 255
    srgb = standard_profile("srgb")
    wanted = ColourRoute(srgb, seven, "relative", True).inks(RGB.reshape(-1, 3) / 255)
    shown, meant = (lab_of_device(seven, v) for v in (inks.reshape(-1, 7), wanted))
    assert delta_e_2000(shown, meant).max() < 1.0
    assert np.abs(inks.reshape(-1, 7) - wanted).mean() < 0.01
    palette = np.frombuffer(bytes(resources.XObject.Pa.ColorSpace[3]), np.uint8).reshape(2, 7) / 255
    entries = np.frombuffer(table, np.uint8).reshape(2, 3) / 255
    assert palette == pytest.approx(ColourRoute(srgb, seven, "relative", True).inks(entries), abs=0.004)  # fmt: skip
    shading = resources.Shading.Sh
    assert str(shading.ColorSpace[0]) == "/DeviceN"
    assert len(shading.Function.Range) == 14
    samples = np.frombuffer(shading.Function.read_bytes(), ">u2").reshape(-1, 7) / 65535
    assert samples[0] == pytest.approx(exact(seven, [0.9, 0.4, 0.1]), abs=0.002)
    assert report.not_handled == ()
    assert "Orange" in dict(summary_of(report))["Inks that come out"]


@pytest.mark.parametrize("construct", CORPUS)
def test_every_construct_prints_as_the_press_view_says(
    construct, paper, tmp_path, resolve, seven
) -> None:
    source = paper.save(tmp_path / "in.pdf", CORPUS[construct](paper))
    policy = parse_policy({**WHOLE, "embedded": True})
    report = run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert report.not_handled == ()
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert pdf.check_pdf_syntax() == []
    again = run_policy(policy, tmp_path / "out.pdf", tmp_path / "twice.pdf", resolve)
    assert again.not_handled == ()
    meant, _ = render_page(page_as_meant(source, 1, policy, resolve), 1, 400)
    printed, _ = render_page(page_as_printed(source, 1, policy, resolve), 1, 400)
    assert np.ptp(meant) > 30
    if construct in ("inks", "spot", "device n"):
        # Colours of inks that no screen shows cannot be had from what a screen shows.
        return
    unique, back = np.unique(meant.reshape(-1, 3), axis=0, return_inverse=True)
    srgb = standard_profile("srgb")
    inks = ColourRoute(srgb, seven, "relative", True).inks(unique / 255)
    shown = ColourRoute(seven, srgb, "relative", False).inks(inks)
    expected = (np.clip(shown, 0, 1) * 255)[back.reshape(-1)].reshape(meant.shape)
    difference = np.abs(expected - printed)
    assert np.median(difference) <= 1.5
    assert np.percentile(difference, 90) <= 6.5


def test_seven_plates_hold_what_the_profile_says(paper, tmp_path, resolve, seven) -> None:
    source = paper.save(tmp_path / "in.pdf", "0.9 0.4 0.1 rg 0 0 200 100 re f")
    policy = parse_policy(WHOLE)
    plates = page_plates(source, 1, policy, resolve, edge=200)
    assert plates.names == SEVEN
    middle = plates.ink[50, 100] / 255
    assert middle == pytest.approx(exact(seven, [0.9, 0.4, 0.1]), abs=0.003)
    proof, _, press = page_inks(source, 1, policy, resolve, resolution=72)
    assert press.digest == seven.digest
    assert proof.ink[50, 100] / 255 == pytest.approx(middle, abs=0.003)
    # What is left in CMYK lies on the plates of these names, on the press and on its view.
    source = paper.save(tmp_path / "in.pdf", "0.2 0.7 0.1 0.3 k 0 0 200 100 re f")
    leave = parse_policy({"destination": "press", "rules": [{"action": "leave"}]})
    plates = page_plates(source, 1, leave, resolve, edge=200)
    left = [0.2, 0.7, 0.1, 0.3, 0, 0, 0]
    assert plates.ink[50, 100] / 255 == pytest.approx(left, abs=0.003)
    pixels, _ = render_page(page_as_printed(source, 1, leave, resolve), 1, 200)
    lab = lab_of_device(seven, np.array([left]))
    srgb = standard_profile("srgb")
    assert pixels[50, 100] == pytest.approx(xyz_to_device(srgb, Lab_to_XYZ(lab), 1)[0] * 255, abs=1.5)  # fmt: skip


def test_groups_blend_in_cmyk_and_the_intent_has_the_name_alone(made, paper, seven) -> None:
    paper.page.obj["/Group"] = Dictionary(S=Name.Transparency, CS=Name.DeviceRGB)
    report, pdf, _ = made("0.4 0.6 0.5 rg 10 10 180 80 re f")
    assert str(pdf.pages[0].Group.CS) == "/DeviceCMYK"
    (intent,) = pdf.Root.OutputIntents
    assert str(intent.Info) == seven.description
    assert "/DestOutputProfile" not in intent
    assert report.output_intent_after == seven.description


def test_cmyk_without_a_profile_is_the_press_s_own_where_it_has_these_inks(
    made, paper, tmp_path, resolve
) -> None:
    tac = {"tac": 250, "tac_action": "enforce"}
    report, pdf, _ = made("0 1 0 0.2 k 0 0 9 9 re f 0.9 0.9 0.9 0.6 k 0 0 9 9 re f", sources={}, **tac)  # fmt: skip
    plain, heavy = ([float(v) for v in a] for o, a in operations(pdf.pages[0]) if o == "scn")
    assert plain == [0, 1, 0, 0.2, 0, 0, 0]
    assert sum(heavy) <= 2.5 + 1e-6
    assert {o.origin for o in report.objects} == {"destination"}
    # With a source it is the colours of that, and not the press's own inks.
    _, pdf, _ = made("0.3 1 0.2 0 k 0 0 9 9 re f")
    (named,) = ([float(v) for v in a] for o, a in operations(pdf.pages[0]) if o == "scn")
    route = ColourRoute(resolve("four"), resolve("press"), "relative", True)
    assert named == pytest.approx(route.inks(np.array([[0.3, 1, 0.2, 0]]))[0], abs=1e-4)
    source = paper.save(tmp_path / "in.pdf", "0 1 0 0 k 0 0 9 9 re f")
    two = parse_policy({**WHOLE, "destination": "two", "sources": {}})
    with pytest.raises(BadRecipe, match="names no source"):
        run_policy(two, source, tmp_path / "two.pdf", resolve)
    report, pdf, _ = made("0 1 0 0 k 0 0 9 9 re f", sources={}, rules=[{"action": "leave"}])
    assert operations(pdf.pages[0])[0][0] == "k"
    assert report.left_in_other_colours("inks") == {}


def test_two_screens_without_the_primaries_take_a_document(paper, tmp_path, resolve, two_inks) -> None:  # fmt: skip
    policy = parse_policy({**WHOLE, "destination": "two", "clean": True, "greys_to_black": True})
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 200 100 re f")
    report = run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert len(report.inks) == 2
    wanted = ColourRoute(standard_profile("srgb"), two_inks, "relative", True).inks(np.array([[1.0, 0, 0]]))  # fmt: skip
    plates = page_plates(source, 1, policy, resolve, edge=200)
    assert plates.ink[50, 100] / 255 == pytest.approx(wanted[0], abs=0.003)
    # Of CMYK the plates that this press has would be a part of a colour.
    cmyk = paper.save(tmp_path / "in.pdf", "0 1 0 0 k 0 0 200 100 re f")
    leave = parse_policy({"destination": "two", "rules": [{"action": "leave"}]})
    left = run_policy(leave, cmyk, tmp_path / "left.pdf", resolve)
    assert left.left_in_other_colours("inks") == {"CMYK": 1}


def test_what_is_no_device_or_has_too_many_inks_is_no_destination() -> None:
    for space, channels in (("Lab ", 3), ("XYZ ", 3), ("9CLR", 9)):
        with pytest.raises(NotSupported):
            judge_destination(SimpleNamespace(colour_space=space, channels=channels, description="It"))  # type: ignore[arg-type]  # fmt: skip
    judge_destination(SimpleNamespace(colour_space="8CLR", channels=8, description="It"))  # type: ignore[arg-type]  # fmt: skip
