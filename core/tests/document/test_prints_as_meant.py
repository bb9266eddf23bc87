"""What a receiver gets: pixels and plates of results, whatever was written to get there."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name, Stream
from PIL import Image

from corpus import icc, ramp, separation, stream
from paperwork import Paper, colours_of, operations
from plinto_core.document import OutputPolicy, dry_run, run_policy
from plinto_core.document.rules.policy import template
from plinto_core.document.views.render import render_page
from plinto_core.errors import BadDocument, PolicyStop
from plinto_core.transform import convert
from plinto_core.transform.standard_spaces import standard_profile

LEAVE_ALL: dict[str, Any] = {"destination": "press", "rules": []}


def seen(path: Path) -> np.ndarray:
    return render_page(path, 1, 200)[0].astype(int)


# Mirrors


def gradient_pattern(paper: Paper) -> str:
    shade = Dictionary(
        ShadingType=2, ColorSpace=Name.DeviceRGB, Coords=[20, 0, 120, 0], Extend=[True, True],
        Function=Dictionary(FunctionType=2, Domain=[0, 1], C0=[1, 0, 0], C1=[0, 0, 1], N=1),
    )  # fmt: skip
    paper.put("/Pattern", "/G", Dictionary(PatternType=2, Shading=shade))
    return "/Pattern cs /G scn 10 10 150 60 re f"


def tiles(paper: Paper) -> str:
    cell = stream(
        paper, b"0 0.6 0 rg 0 0 9 5 re f", Type=Name.Pattern, PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 30, 20], XStep=30, YStep=20, Resources=Dictionary(), Matrix=[1, 0, 0, 1, 7, 0],
    )  # fmt: skip
    paper.put("/Pattern", "/T", cell)
    return "/Pattern cs /T scn 0 0 200 100 re f"


def cropped(paper: Paper) -> str:
    paper.page.obj["/CropBox"] = Array([0, 0, 80, 100])
    paper.page.obj["/TrimBox"] = Array([10, 5, 70, 90])
    return "1 0 0 rg 0 0 40 100 re f 0 0 1 rg 60 0 60 50 re f"


def one_q_too_many(paper: Paper) -> str:
    return "q 1 0 0 rg 0 0 40 100 re f Q Q 0 0 1 rg 60 0 60 50 re f"


def stamped(paper: Paper) -> str:
    look = stream(
        paper, b"0 0.5 0.5 rg 0 0 10 20 re f", Type=Name.XObject, Subtype=Name.Form,
        BBox=[0, 0, 40, 20], Resources=Dictionary(),
    )  # fmt: skip
    paper.page.obj["/Annots"] = Array(
        [
            Dictionary(
                Type=Name.Annot,
                Subtype=Name.Stamp,
                Rect=[x, 10, x + 40, 30],
                F=4,
                AP=Dictionary(N=look),
            )
            for x in (10, 60)
        ]
    )
    return "1 0 0 rg 0 60 40 40 re f"


def sideways(paper: Paper) -> str:
    paper.page.obj["/Rotate"] = 90
    return "1 0 0 rg 0 0 40 100 re f 0 0 1 rg 60 0 60 50 re f"


@pytest.mark.parametrize(
    "draw", [gradient_pattern, tiles, cropped, one_q_too_many, stamped, sideways]
)
def test_a_mirrored_page_is_the_page_in_a_mirror(draw, paper, tmp_path, resolve) -> None:
    source = paper.save(tmp_path / "in.pdf", draw(paper))
    policy = OutputPolicy.model_validate({**LEAVE_ALL, "mirror": True})
    run_policy(policy, source, tmp_path / "out.pdf", resolve)
    before, after = seen(source), seen(tmp_path / "out.pdf")
    assert before.shape == after.shape
    assert before.std() > 20
    away = np.abs(before[:, ::-1] - after).max(axis=2)
    assert (away > 60).mean() < 0.02  # edges may fall between pixels


# Images


def only_image(paper, tmp_path, resolve, image: Any, **changes: Any) -> Any:
    paper.put("/XObject", "/Im", image)
    source = paper.save(tmp_path / "in.pdf", "q 180 0 0 80 10 10 cm /Im Do Q")
    policy = OutputPolicy.model_validate(
        {"destination": "press", "rules": [{"action": "convert"}], **changes}
    )
    report = run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert report.not_handled == ()
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        made = pdf.pages[0].Resources.XObject.Im
        packed = made.read_raw_bytes()
        plain = b"" if "/DCTDecode" in str(made.get("/Filter")) else made.read_bytes()
        return dict(made.items()), plain, packed


def test_a_cmyk_jpeg_without_adobes_marker_is_no_negative(paper, tmp_path, resolve, coated) -> None:
    inks = np.zeros((32, 48, 4), np.uint8)
    inks[...] = (200, 30, 10, 0)
    buffer = io.BytesIO()
    # Pillow stores the reverse of what it is given, and marks it.
    Image.fromarray(255 - inks, "CMYK").save(buffer, "JPEG", quality=100)
    data = bytearray(buffer.getvalue())
    at = data.find(b"\xff\xee")
    length = int.from_bytes(data[at + 2 : at + 4], "big")
    del data[at : at + 2 + length]
    image = stream(
        paper, bytes(data), Type=Name.XObject, Subtype=Name.Image, Width=48, Height=32,
        ColorSpace=icc_of(paper, coated), BitsPerComponent=8, Filter=Name.DCTDecode,
    )  # fmt: skip
    _, pixels, _ = only_image(paper, tmp_path, resolve, image)
    made = np.frombuffer(pixels, np.uint8).reshape(32, 48, 4)
    assert np.abs(made[16, 24].astype(int) - inks[0, 0]).max() < 6


def icc_of(paper: Paper, profile) -> Any:
    return Array([Name.ICCBased, stream(paper, profile.data, N=profile.channels)])


@pytest.mark.parametrize("bits", [8, 12, 16])
def test_jpeg_2000_of_any_depth_is_as_light_as_it_is(
    paper, tmp_path, resolve, coated, bits
) -> None:
    top = 2**bits - 1
    rgb = np.full((32, 48, 3), round(0.6 * top), np.uint16 if bits > 8 else np.uint8)
    data = imagecodecs.jpeg2k_encode(rgb, bitspersample=bits)
    image = stream(
        paper, data, Type=Name.XObject, Subtype=Name.Image, Width=48, Height=32,
        ColorSpace=Name.DeviceRGB, Filter=Name.JPXDecode,
    )  # fmt: skip
    made, pixels, _ = only_image(paper, tmp_path, resolve, image)
    deep = int(made["/BitsPerComponent"]) == 16
    inks = np.frombuffer(pixels, ">u2" if deep else np.uint8).reshape(32, 48, 4)[5, 5] / (
        65535 if deep else 255
    )
    expected = convert(
        standard_profile("srgb"), coated, np.full((1, 3), 0.6), intent="relative", bpc=True
    )
    assert inks == pytest.approx(expected[0], abs=0.02)


def test_the_opacity_inside_a_jpeg_2000_is_kept(paper, tmp_path, resolve) -> None:
    rgba = np.zeros((32, 48, 4), np.uint8)
    rgba[..., 0] = 200
    rgba[:, 24:, 3] = 255
    data = imagecodecs.jpeg2k_encode(rgba)
    image = stream(
        paper, data, Type=Name.XObject, Subtype=Name.Image, Width=48, Height=32,
        ColorSpace=Name.DeviceRGB, Filter=Name.JPXDecode, SMaskInData=1,
    )  # fmt: skip
    only_image(paper, tmp_path, resolve, image)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        mask = pdf.pages[0].Resources.XObject.Im.SMask
        shown = np.frombuffer(mask.read_bytes(), np.uint8).reshape(32, 48)
    assert shown[:, :20].max() == 0
    assert shown[:, 28:].min() == 255


def test_a_broken_jpeg_2000_is_named_and_left(paper, tmp_path, resolve) -> None:
    data = imagecodecs.jpeg2k_encode(np.zeros((32, 48, 3), np.uint8))
    image = stream(
        paper, data[: len(data) // 2] + b"xx", Type=Name.XObject, Subtype=Name.Image, Width=48, Height=32,
        ColorSpace=Name.DeviceRGB, Filter=Name.JPXDecode,
    )  # fmt: skip
    paper.put("/XObject", "/Im", image)
    source = paper.save(tmp_path / "in.pdf", "q 180 0 0 80 10 10 cm /Im Do Q")
    report = run_policy(
        template("textile-transfer", "press", tac=300), source, tmp_path / "o.pdf", resolve
    )
    assert [u.kind for u in report.not_handled] == ["image"]


@pytest.mark.parametrize("kind", ["office-files", "strict-press", "textile-transfer"])
def test_line_art_stays_line_art(kind, paper, tmp_path, resolve) -> None:
    bits = np.packbits(np.tile([1, 0, 0, 1], (20, 10)), axis=1)
    image = paper.image(bits, Name.DeviceGray, 1, width=40)
    changes = template(kind, "press", tac=300).model_dump(mode="json")
    made, pixels, _ = only_image(paper, tmp_path, resolve, image, **{**changes, "mirror": False})
    assert int(made["/BitsPerComponent"]) == 1
    assert "/DCTDecode" not in str(made.get("/Filter"))
    assert pixels == bits.tobytes()


def test_a_grey_jpeg_that_is_black_already_is_not_packed_again(paper, tmp_path, resolve) -> None:
    buffer = io.BytesIO()
    Image.fromarray(np.tile(np.arange(0, 240, 5, dtype=np.uint8), (32, 1))).save(buffer, "JPEG")
    image = stream(
        paper, buffer.getvalue(), Type=Name.XObject, Subtype=Name.Image, Width=48, Height=32,
        ColorSpace=Name.DeviceGray, BitsPerComponent=8, Filter=Name.DCTDecode,
    )  # fmt: skip
    changes = template("office-files", "press").model_dump(mode="json")
    _, _, raw = only_image(paper, tmp_path, resolve, image, **changes)
    assert raw == buffer.getvalue()


# Overprint


def states_and_colours(page: Any) -> list[Any]:
    """What each painting operator meets: (inks, overprints, mode)."""
    found, colour, over = [], None, (False, 0)
    stack: list[Any] = []
    for operator, operands in operations(page):
        if operator == "k":
            colour = tuple(round(float(v), 3) for v in operands)
        elif operator == "gs":
            state = page.Resources.ExtGState[str(operands[0])]
            over = (
                bool(state.get("/op", state.get("/OP", over[0]))),
                int(state.get("/OPM", over[1])),
            )
        elif operator == "q":
            stack.append((colour, over))
        elif operator == "Q":
            colour, over = stack.pop()
        elif operator == "f":
            found.append((colour, *over))
    return found


def over_state(paper: Paper) -> None:
    paper.put("/ExtGState", "/Over", Dictionary(OP=True, op=True, OPM=1))


@pytest.mark.parametrize(
    "content", ["/Over gs 1 1 1 rg 0 0 9 9 re f", "1 1 1 rg /Over gs 0 0 9 9 re f"]
)
def test_white_in_rgb_stays_white_under_overprint(content, paper, converted) -> None:
    over_state(paper)
    _, pdf = converted(paper, content)
    ((inks, overprints, mode),) = states_and_colours(pdf.pages[0])
    assert inks == (0, 0, 0, 0)
    # Overprinted in mode 1, inks of zero would let what is below show through.
    assert not (overprints and mode == 1)


def test_cmyk_that_is_left_overprints_as_it_did(paper, converted) -> None:
    over_state(paper)
    content = "/Over gs q 1 0 0 rg 0 0 9 9 re f Q 0 0 0 1 k 0 0 9 9 re f 1 1 1 rg 0 0 5 5 re f 0 0 0 1 k 1 1 2 2 re f"
    _, pdf = converted(paper, content)
    found = states_and_colours(pdf.pages[0])
    assert [f[1:] for f in found] == [(True, 0), (True, 1), (True, 0), (True, 1)]


# Meaning


def with_intent(path: Path, kind: str, profile) -> Path:
    with pikepdf.open(path, allow_overwriting_input=True) as pdf:
        data = pdf.make_indirect(Stream(pdf, profile.data, N=profile.channels))
        pdf.Root["/OutputIntents"] = Array(
            [Dictionary(Type=Name.OutputIntent, S=Name(f"/{kind}"), DestOutputProfile=data)]
        )
        pdf.save(path)
    return path


def test_an_archives_rgb_intent_is_no_printing_condition(paper, tmp_path, resolve, coated) -> None:
    source = with_intent(
        paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f"),
        "GTS_PDFA1",
        standard_profile("srgb"),
    )
    policy = OutputPolicy.model_validate(
        {"destination": "press", "own_intent": True, "rules": [{"action": "convert"}]}
    )
    assert (
        run_policy(policy, source, tmp_path / "out.pdf", resolve).destination == coated.description
    )
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert operations(pdf.pages[0])[0][0] == "k"


def test_a_printing_intent_is_taken_even_behind_an_archives(
    paper, tmp_path, resolve, coated, coated_v4
) -> None:
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f")
    with_intent(source, "GTS_PDFX", coated_v4)
    with pikepdf.open(source, allow_overwriting_input=True) as pdf:
        archive = Dictionary(
            Type=Name.OutputIntent, S=Name.GTS_PDFA1,
            DestOutputProfile=pdf.make_indirect(Stream(pdf, coated.data, N=4)),
        )  # fmt: skip
        pdf.Root["/OutputIntents"].insert(0, archive)
        pdf.save(source)
    policy = OutputPolicy.model_validate({"destination": "press", "own_intent": True, "rules": []})
    assert dry_run(policy, source, resolve).destination == coated_v4.description


def test_a_colour_that_is_left_after_one_that_was_rewritten_keeps_its_space(
    paper, converted
) -> None:
    # Both entries are inks; the first is over the TAC and rewritten, the second is left.
    palette = bytes([255, 255, 255, 255, 51, 102, 0, 0])
    space = Array([Name.Indexed, Name.DeviceCMYK, 1, pikepdf.String(palette)])
    paper.put("/ColorSpace", "/I", space)
    _, pdf = converted(
        paper, "/I cs 0 sc 0 0 9 9 re f 1 sc 9 9 9 9 re f", rules=[], tac=300, tac_action="enforce"
    )
    found = colours_of(pdf.pages[0])
    assert [o for o, _ in found] == ["k", "k", "cs", "sc"]
    assert str(found[2][1][0]) == "/I"
    assert [int(v) for v in found[3][1]] == [1]


@pytest.mark.parametrize("name", ["All", "None", "Black", "Cyan"])
def test_process_inks_and_marks_are_no_spot_colours(name, paper, tmp_path, resolve) -> None:
    paper.put("/ColorSpace", "/S", separation(name))
    source = paper.save(tmp_path / "in.pdf", "/S cs 1 scn 0 0 9 9 re f")
    strict = template("strict-press", "press", tac=300)
    report = run_policy(strict, source, tmp_path / "out.pdf", resolve)
    assert report.stops == 0
    assert report.spots == ()
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert [o for o, _ in colours_of(pdf.pages[0])] == ["cs", "scn"]


def test_a_spot_colour_still_stops_and_process_inks_by_name_go_to_their_plates(
    paper, tmp_path, resolve, converted
) -> None:
    paper.put("/ColorSpace", "/S", separation("Ternholm Red"))
    source = paper.save(tmp_path / "spot.pdf", "/S cs 1 scn 0 0 9 9 re f")
    with pytest.raises(PolicyStop, match="Ternholm Red"):
        run_policy(template("strict-press", "press"), source, tmp_path / "no.pdf", resolve)
    names = Array([Name.DeviceN, Array([Name.Black, Name.Magenta]), Name.DeviceCMYK, Dictionary(
        FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * 4)])  # fmt: skip
    program = Stream(
        paper.pdf, b"{ pop pop 1 1 1 1 }", FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * 4
    )
    names[3] = paper.pdf.make_indirect(program)
    paper.put("/ColorSpace", "/N", names)
    _, pdf = converted(paper, "/N cs 0.7 0.2 scn 0 0 9 9 re f", rules=[{"action": "convert"}])
    values = [float(v) for v in colours_of(pdf.pages[0])[-1][1]]
    # By name, not by what its tint transform would show.
    assert values == [0, 0.2, 0, 0.7]


def test_a_total_just_over_the_limit_changes_just_a_little(paper, converted) -> None:
    _, pdf = converted(
        paper, "0.7 0.7 0.7 0.91 k 0 0 9 9 re f", rules=[], tac=300, tac_action="enforce"
    )
    after = np.array([float(v) for v in colours_of(pdf.pages[0])[0][1]])
    assert after.sum() <= 3.0
    assert np.abs(after - [0.7, 0.7, 0.7, 0.91]).max() < 0.03


@pytest.mark.parametrize("kind", [2, 3])
def test_shadings_that_are_left_keep_the_tac(kind, paper, converted) -> None:
    shade = Dictionary(
        ShadingType=kind, ColorSpace=Name.DeviceCMYK,
        Coords=[0, 0, 100, 0] if kind == 2 else [50, 50, 0, 50, 50, 50],
        Function=Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=[1, 1, 1, 1], N=1),
    )  # fmt: skip
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(shade))
    report, pdf = converted(paper, "/Sh sh", rules=[], tac=300, tac_action="enforce")
    function = pdf.pages[0].Resources.Shading.Sh.Function
    samples = np.frombuffer(function.read_bytes(), ">u2").reshape(-1, 4) / 65535
    assert samples.sum(axis=1).max() <= 3.0
    assert samples[0].sum() == 0
    assert report.over_tac == 0


def test_icc_grey_line_art_becomes_two_entries(paper, tmp_path, resolve, coated) -> None:
    bits = np.packbits(np.tile([1, 0], (20, 20)), axis=1)
    image = paper.image(bits, icc(paper, "grey"), 1, width=40)
    made, pixels, _ = only_image(paper, tmp_path, resolve, image)
    assert pixels == bits.tobytes()
    palette = np.frombuffer(bytes(made["/ColorSpace"][3]), np.uint8).reshape(2, 4) / 255
    exact = convert(
        standard_profile("grey"), coated, np.array([[0.0], [1]]), intent="relative", bpc=True
    )
    assert palette == pytest.approx(exact, abs=0.004)


# Pre-multiplied images, bare inks, annotations without a look


def test_an_image_multiplied_with_its_mask_is_converted_by_its_own_colours(
    paper, converted
) -> None:
    """Half-opaque pure red on a black matte is stored as half red; its own colour is pure red."""
    own = np.zeros((4, 4, 3), np.uint8)
    own[..., 0] = 255
    alpha = np.full((4, 4, 1), 128, np.uint8)
    alpha[0] = 0
    stored = np.round(own * (alpha / 255.0)).astype(np.uint8)

    def inks(pixels: np.ndarray, **extra) -> np.ndarray:
        mask = paper.image(alpha, pikepdf.Name.DeviceGray, **extra)
        paper.put("/XObject", "/Im", paper.image(pixels, pikepdf.Name.DeviceRGB, SMask=mask))
        _, pdf = converted(paper, "q 9 0 0 9 0 0 cm /Im Do Q")
        image = pdf.pages[0].Resources["/XObject"]["/Im"]
        assert "/Matte" not in image["/SMask"]
        assert bytes(image["/SMask"].read_bytes()) == alpha.tobytes()
        return np.frombuffer(image.read_bytes(), np.uint8).reshape(4, 4, 4)

    plain, multiplied = inks(own), inks(stored, Matte=[0, 0, 0])
    assert np.abs(plain[1:].astype(int) - multiplied[1:]).max() <= 2
    assert np.abs(plain[1:].astype(int) - inks(stored)[1:]).max() > 40


def test_a_matte_that_does_not_fit_is_listed_and_left(paper, converted) -> None:
    mask = paper.image(np.full((2, 2, 1), 128, np.uint8), pikepdf.Name.DeviceGray, Matte=[0, 0, 0])
    paper.put("/XObject", "/Im", paper.image(np.zeros((4, 4, 3), np.uint8), pikepdf.Name.DeviceRGB, SMask=mask))  # fmt: skip
    report, pdf = converted(paper, "q 9 0 0 9 0 0 cm /Im Do Q")
    assert "do not fit" in report.not_handled[0].reason
    assert str(pdf.pages[0].Resources["/XObject"]["/Im"]["/ColorSpace"]) == "/DeviceRGB"


def test_profiles_are_taken_off_inks_that_are_left_and_numbers_stay(
    paper, converted, coated
) -> None:
    profile = paper.pdf.make_indirect(pikepdf.Stream(paper.pdf, coated.data, N=4))
    space = pikepdf.Array([pikepdf.Name.ICCBased, profile])
    paper.put("/ColorSpace", "/Inks", paper.pdf.make_indirect(space))
    pixels = np.full((4, 4, 4), 77, np.uint8)
    paper.put("/XObject", "/Im", paper.image(pixels, space))
    shading = pikepdf.Dictionary(ShadingType=2, ColorSpace=space, Coords=[0, 0, 9, 0], Function=ramp([1, 0, 0, 0], [0, 1, 0, 0]))  # fmt: skip
    paper.put("/Shading", "/S1", shading)
    content = "/Inks cs 0.1 0.2 0.3 0.4 scn 0 0 9 9 re f /S1 sh q 9 0 0 9 0 0 cm /Im Do Q"
    _, kept = converted(paper, content)
    assert "ICCBased" in repr(kept.pages[0].Resources["/ColorSpace"]["/Inks"])
    _, pdf = converted(paper, content, bare_cmyk=True, output_intent=False)
    resources = pdf.pages[0].Resources
    assert str(resources["/XObject"]["/Im"]["/ColorSpace"]) == "/DeviceCMYK"
    assert bytes(resources["/XObject"]["/Im"].read_bytes()) == pixels.tobytes()
    assert str(resources["/Shading"]["/S1"]["/ColorSpace"]) == "/DeviceCMYK"
    colours = [[float(v) for v in o] for name, o in operations(pdf.pages[0]) if name == "k"]
    assert colours[-1] == [0.1, 0.2, 0.3, 0.4]
    streams = [o for o in pdf.objects if isinstance(o, pikepdf.Stream) and "/N" in o]
    assert [str(o.get("/Type")) for o in streams if str(o.get("/Type")) != "/ObjStm"] == []


def test_colours_of_annotations_without_a_look_become_inks(paper, converted) -> None:
    link = pikepdf.Dictionary(Type=pikepdf.Name.Annot, Subtype=pikepdf.Name.Link, Rect=[9, 9, 50, 50], C=[1, 0, 0])  # fmt: skip
    paper.page.obj["/Annots"] = pikepdf.Array([paper.pdf.make_indirect(link)])
    report, pdf = converted(paper, "0 g 0 0 9 9 re f")
    colour = [float(v) for v in pdf.pages[0].obj["/Annots"][0].C]
    assert len(colour) == 4
    assert colour[1] > 0.7 > colour[0]
    assert any(o.family == "RGB" and o.outcome == "DeviceCMYK" for o in report.objects)
    rules = [{"space": "RGB", "action": "leave"}]
    _, pdf = converted(paper, "0 g 0 0 9 9 re f", rules=rules)
    assert [float(v) for v in pdf.pages[0].obj["/Annots"][0].C] == [1, 0, 0]


def test_inks_that_were_cmyk_keep_their_overprint_mode(paper, converted) -> None:
    paper.put("/ExtGState", "/Over", Dictionary(OP=True, op=True, OPM=1))
    rules = [{"action": "convert"}]
    _, pdf = converted(
        paper, "/Over gs 0 0.5 0 0 k 0 0 9 9 re f 1 1 1 rg 0 0 9 9 re f", rules=rules
    )
    found = [(o, [str(v) for v in values]) for o, values in operations(pdf.pages[0])]
    states = [v[0] for o, v in found if o == "gs"]
    # Nothing between the graphics state and the ink; white of RGB needs another mode.
    assert [o for o, _ in found[:2]] == ["gs", "k"]
    assert states == ["/Over", "/PlintoOver10"]


def test_a_result_never_takes_its_sources_place(paper, tmp_path, resolve) -> None:
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f")
    before = source.read_bytes()
    with pytest.raises(BadDocument):
        run_policy(template("strict-press", "press"), source, tmp_path / "." / "in.pdf", resolve)
    assert source.read_bytes() == before


# Hidden text


def test_words_under_a_scanned_page_stay_hidden_and_stay(paper, tmp_path, resolve) -> None:
    paper.put(
        "/Font", "/F", Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica)
    )
    content = (
        "0.9 0.1 0.1 rg BT /F 24 Tf 3 Tr 10 60 Td (comet) Tj ET q 3 Tr BT 10 20 Td /F 24 Tf (tail) Tj ET Q "
        "BT 0 Tr /F 24 Tf 110 60 Td (seen) Tj ET"
    )
    source = paper.save(tmp_path / "in.pdf", content)
    policy = OutputPolicy.model_validate({"destination": "press", "rules": [{"action": "convert"}]})
    run_policy(policy, source, tmp_path / "out.pdf", resolve)

    def words(path: Path) -> list[tuple[int, str]]:
        with pikepdf.open(path) as pdf:
            mode, kept, found = 0, [], []
            for operator, operands in operations(pdf.pages[0]):
                if operator == "q":
                    kept.append(mode)
                elif operator == "Q":
                    mode = kept.pop()
                elif operator == "Tr":
                    mode = int(operands[0])
                elif operator == "Tj":
                    found.append((mode, str(operands[0])))
            return found

    assert words(tmp_path / "out.pdf") == words(source)
    assert [mode for mode, _ in words(source)] == [3, 3, 0]
    page = seen(tmp_path / "out.pdf")
    across = page.shape[1]
    # Only the word at the right is printed.
    assert np.ptp(page[:, : across // 2]) == 0
    assert np.ptp(page[:, across // 2 :]) > 60
