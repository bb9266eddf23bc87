"""Images of every kind, shadings of every type."""

from __future__ import annotations

import io

import imagecodecs
import numpy as np
import pikepdf
import pypdfium2
import pytest
from PIL import Image

from plinto_core.colorimetry import delta_e_2000
from plinto_core.document import run_policy, template
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

PLACE = "q 100 0 0 50 0 0 cm /Im Do Q"
y, x = np.mgrid[0:20, 0:40]
RGB = np.round(np.stack([x * 6, y * 12, 255 - x * 5], axis=-1)).astype(np.uint8)


def samples(image) -> np.ndarray:
    bits = int(image.BitsPerComponent)
    if isinstance(image.ColorSpace, pikepdf.Array):
        rows = np.unpackbits(np.frombuffer(image.read_bytes(), np.uint8)).reshape(
            int(image.Height), -1
        )
        palette = np.frombuffer(bytes(image.ColorSpace[3]), np.uint8).reshape(2, -1) / 255
        assert bits == 1
        return palette[rows[:, : int(image.Width)]]
    channels = {"/DeviceCMYK": 4, "/DeviceGray": 1, "/DeviceRGB": 3}[str(image.ColorSpace)]
    data = np.frombuffer(image.read_bytes(), ">u2" if bits == 16 else np.uint8)
    stored = data.reshape(int(image.Height), int(image.Width), channels) / (2**bits - 1)
    low, high = (
        np.array([float(v) for v in image.get("/Decode", [0, 1] * channels)]).reshape(-1, 2).T
    )
    return low + stored * (high - low)


def close(coated, inks: np.ndarray, rgb: np.ndarray, *, limit: float = 0.6) -> None:
    flat = rgb.reshape(-1, 3) / 255
    exact = convert(standard_profile("srgb"), coated, flat, intent="relative", bpc=True)
    error = delta_e_2000(lab_of_device(coated, inks.reshape(-1, 4)), lab_of_device(coated, exact))
    assert np.percentile(error, 99) < limit


def converted_image(paper, converted, image, **changes):
    paper.put("/XObject", "/Im", image)
    report, pdf = converted(paper, PLACE, **changes)
    assert report.not_handled == ()
    return report, pdf.pages[0].Resources.XObject.Im


@pytest.mark.parametrize("bits", [8, 16])
def test_plain_pixels_are_converted_at_their_depth(paper, converted, coated, bits) -> None:
    data = RGB if bits == 8 else (RGB.astype(">u2") * 257)
    report, image = converted_image(
        paper, converted, paper.image(data, pikepdf.Name.DeviceRGB, bits)
    )
    assert image.BitsPerComponent == bits
    close(coated, samples(image), RGB)
    item = report.objects[0]
    assert item.pixels == (40, 20)
    assert item.ppi == pytest.approx(28.8)
    assert item.notes == ["Fewer than 100 ppi."]


def test_jpeg_and_jpeg_2000(paper, converted, coated) -> None:
    smooth = np.repeat(np.repeat(RGB, 4, 0), 4, 1)
    buffer = io.BytesIO()
    Image.fromarray(smooth).save(buffer, "JPEG", quality=98, subsampling=0)
    for data, name in (
        (buffer.getvalue(), "DCTDecode"),
        (imagecodecs.jpeg2k_encode(smooth, level=0), "JPXDecode"),
    ):
        stream = pikepdf.Stream(paper.pdf, data, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=160, Height=80,
                                BitsPerComponent=8, ColorSpace=pikepdf.Name.DeviceRGB, Filter=pikepdf.Name(f"/{name}"))  # fmt: skip
        _, image = converted_image(paper, converted, paper.pdf.make_indirect(stream))
        close(coated, samples(image), smooth, limit=4)


@pytest.mark.parametrize("filter_name", ["LZWDecode", "RunLengthDecode", "ASCII85Decode"])
def test_other_lossless_packings(paper, converted, coated, filter_name) -> None:
    raw = RGB.tobytes()
    if filter_name == "RunLengthDecode":
        packed = (
            b"".join(
                bytes([len(raw[i : i + 128]) - 1]) + raw[i : i + 128]
                for i in range(0, len(raw), 128)
            )
            + b"\x80"
        )
    elif filter_name == "ASCII85Decode":
        import base64

        packed = base64.a85encode(raw) + b"~>"
    else:
        packed = bytes(imagecodecs.lzw_encode(raw))
    stream = pikepdf.Stream(paper.pdf, packed, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=40, Height=20,
                            BitsPerComponent=8, ColorSpace=pikepdf.Name.DeviceRGB, Filter=pikepdf.Name(f"/{filter_name}"))  # fmt: skip
    _, image = converted_image(paper, converted, paper.pdf.make_indirect(stream))
    close(coated, samples(image), RGB)


def test_a_palette_is_converted_and_its_pixels_stay(paper, converted, coated) -> None:
    table = np.array([[255, 0, 0], [0, 120, 200], [250, 250, 250], [10, 10, 10]], np.uint8)
    index = np.packbits(np.unpackbits(np.array([[0b00011011] * 10] * 20, np.uint8), axis=1), axis=1)
    space = pikepdf.Array(
        [pikepdf.Name.Indexed, pikepdf.Name.DeviceRGB, 3, pikepdf.String(table.tobytes())]
    )
    _, image = converted_image(paper, converted, paper.image(index, space, 2, width=40))
    assert str(image.ColorSpace[1]) == "/DeviceCMYK"
    assert image.read_bytes() == index.tobytes()
    inks = np.frombuffer(bytes(image.ColorSpace[3]), np.uint8).reshape(4, 4) / 255
    close(coated, inks, table, limit=1.5)


def test_decode_arrays_and_bare_grey(paper, converted) -> None:
    ramp = np.tile(np.arange(40, dtype=np.uint8) * 6, (20, 1))[..., None]
    report, image = converted_image(
        paper, converted, paper.image(ramp, pikepdf.Name.DeviceGray, Decode=[1, 0])
    )
    assert str(image.ColorSpace) == "/DeviceGray"
    assert samples(image)[0, :, 0] == pytest.approx(1 - ramp[0, :, 0] / 255, abs=0.003)
    assert report.objects[0].outcome == "black only"


def test_one_bit_images_and_colour_keys(paper, converted) -> None:
    bits = np.packbits(np.tile([1, 0], (20, 20)), axis=1)
    _, image = converted_image(
        paper, converted, paper.image(bits, pikepdf.Name.DeviceGray, 1, width=40)
    )
    # Bare grey is black ink already: it stays as it is, one bit deep.
    assert int(image.BitsPerComponent) == 1
    assert str(image.ColorSpace) == "/DeviceGray"
    _, image = converted_image(
        paper, converted, paper.image(bits, pikepdf.Name.DeviceGray, 1, width=40, Decode=[1, 0]),
        rules=[{"action": "convert"}],
    )  # fmt: skip
    assert int(image.BitsPerComponent) == 1
    inks = samples(image)
    assert inks[..., :3].max() < 1.0
    assert inks[0, 0].sum() > 1.5  # the ones of the file are black under this Decode
    assert inks[0, 1].sum() == pytest.approx(0, abs=0.01)
    keyed = RGB.copy()
    keyed[:5] = (0, 255, 0)
    _, image = converted_image(
        paper, converted, paper.image(keyed, pikepdf.Name.DeviceRGB, Mask=[0, 0, 255, 255, 0, 0])
    )
    assert "/SMask" not in image
    assert bool(image.Mask.ImageMask)
    mask = np.unpackbits(np.frombuffer(image.Mask.read_bytes(), np.uint8)).reshape(20, 40)
    assert mask[:5].min() == 1
    assert mask[5:].max() == 0


@pytest.mark.parametrize("standard", ["PDF/X-1a:2003", "PDF/X-4"])
@pytest.mark.parametrize("width", [40, 37])
def test_a_colour_key_prints_and_hides_what_it_did_without_transparency(
    paper, resolve, coated, tmp_path, standard, width
) -> None:
    keyed = np.full((20, width, 3), (200, 40, 30), np.uint8)
    keyed[:8, : width // 2] = (0, 255, 0)
    paper.put(
        "/XObject", "/Im", paper.image(keyed, pikepdf.Name.DeviceRGB, Mask=[0, 0, 255, 255, 0, 0])
    )
    path = paper.save(tmp_path / "keyed.pdf", f"q {width} 0 0 20 0 0 cm /Im Do Q")
    policy = template("strict-press", coated.digest)
    policy = policy.model_copy(update={"pdfx": standard, "pdfx_made": True})
    report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
    assert report.pdfx is not None
    assert report.pdfx.breaches == ()
    before, after = (
        pypdfium2.PdfDocument(p)[0].render(scale=1).to_numpy()[-20:, :width].min(axis=2) == 255
        for p in (path, tmp_path / "out.pdf")
    )
    assert before[1:7, 1 : width // 2 - 1].all()
    assert (before == after).mean() > 0.97


def test_images_are_never_cleaned_like_vectors(paper, converted, coated) -> None:
    """Pure corners and greys of a picture keep their smooth conversion."""
    corners = np.zeros((20, 40, 3), np.uint8)
    corners[:10, :20, 0] = 255
    corners[10:] = 128
    _, image = converted_image(
        paper, converted, paper.image(corners, pikepdf.Name.DeviceRGB), clean=True, greys_to_black=True
    )  # fmt: skip
    close(coated, samples(image), corners)
    assert samples(image)[15, 5, :3].min() > 0.1


def test_soft_masks_are_left_alone(paper, converted) -> None:
    soft = paper.image(np.full((20, 40, 1), 77, np.uint8), pikepdf.Name.DeviceGray)
    report, image = converted_image(
        paper, converted, paper.image(RGB, pikepdf.Name.DeviceRGB, SMask=soft)
    )
    assert set(image.SMask.read_bytes()) == {77}
    assert len(report.objects) == 1


def test_inline_images(paper, converted, coated) -> None:
    raw = bytes([200, 30, 60] * 4)
    content = (
        b"q 10 0 0 10 0 0 cm BI /W 2 /H 2 /BPC 8 /CS /RGB ID ".decode()
        + raw.decode("latin-1")
        + " EI Q"
    )
    report, pdf = converted(paper, content)
    assert report.not_handled == ()
    (name,) = pdf.pages[0].Resources.XObject.keys()
    close(
        coated,
        samples(pdf.pages[0].Resources.XObject[name]),
        np.array([[200, 30, 60]] * 4),
        limit=2,
    )


def test_fine_images_are_reduced_for_their_largest_use(paper, converted) -> None:
    big = np.repeat(np.repeat(RGB, 20, 0), 20, 1)
    paper.put("/XObject", "/Im", paper.image(big, pikepdf.Name.DeviceRGB))
    content = "q 36 0 0 18 0 0 cm /Im Do Q q 96 0 0 48 50 0 cm /Im Do Q"
    resolution = {"high": 450, "above": "downsample", "to": 300}
    report, pdf = converted(paper, content, resolution=resolution)
    assert [round(i.ppi) for i in report.objects] == [1600, 600]
    assert [round(i.new_ppi) for i in report.objects] == [800, 300]
    assert (pdf.pages[0].Resources.XObject.Im.Width, pdf.pages[0].Resources.XObject.Im.Height) == (
        400,
        200,
    )


def test_jpeg_compression_of_the_result(paper, converted, coated) -> None:
    smooth = np.repeat(np.repeat(RGB, 8, 0), 8, 1)
    _, image = converted_image(
        paper,
        converted,
        paper.image(smooth, pikepdf.Name.DeviceRGB),
        compression={"kind": "jpeg", "quality": 95},
    )
    assert str(image.Filter) == "/DCTDecode"
    with Image.open(io.BytesIO(image.read_raw_bytes())) as opened:
        stored = 255 - np.asarray(opened)
    assert [float(v) for v in image.Decode] == [1, 0] * 4
    close(coated, 1 - stored / 255, smooth, limit=4)


def ramp(a, b) -> pikepdf.Dictionary:
    return pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=a, C1=b, N=1)


@pytest.mark.parametrize("kind", [1, 2, 3])
def test_shadings_by_function(paper, converted, coated, kind) -> None:
    made = pikepdf.Dictionary(ShadingType=kind, ColorSpace=pikepdf.Name.DeviceRGB)
    if kind == 1:
        program = pikepdf.Stream(
            paper.pdf, b"{ 0.5 }", FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1, 0, 1, 0, 1]
        )
        made["/Function"] = paper.pdf.make_indirect(program)
    else:
        made["/Coords"] = [0, 0, 9, 9] if kind == 2 else [0, 0, 1, 9, 9, 9]
        made["/Function"] = ramp([0.1, 0.2, 0.5], [0.9, 0.6, 0.2])
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(made))
    report, pdf = converted(paper, "/Sh sh")
    assert report.not_handled == ()
    shading = pdf.pages[0].Resources.Shading.Sh
    assert str(shading.ColorSpace) == "/DeviceCMYK"
    from plinto_core.document.pdf.functions import read_function

    function = read_function(shading.Function)
    at = np.array([[0.25, 0.75]]) if kind == 1 else np.array([[0.0], [0.5], [1.0]])
    rgb = (
        np.array([[0.25, 0.75, 0.5]])
        if kind == 1
        else np.array([[0.1, 0.2, 0.5], [0.5, 0.4, 0.35], [0.9, 0.6, 0.2]])
    )
    exact = convert(standard_profile("srgb"), coated, rgb, intent="relative", bpc=True)
    assert function(at) == pytest.approx(exact, abs=0.01)


@pytest.mark.parametrize("kind", [4, 5, 6, 7])
def test_meshes(paper, converted, coated, kind) -> None:
    points = {4: 1, 5: 1, 6: 12, 7: 16}[kind]
    corners = {4: 1, 5: 1, 6: 4, 7: 4}[kind]
    record = (
        (b"" if kind == 5 else b"\0")
        + bytes(range(0, 2 * points))
        + bytes([200, 100, 50] * corners)
    )
    data = record * 4
    extra = {"VerticesPerRow": 2} if kind == 5 else {"BitsPerFlag": 8}
    made = pikepdf.Stream(paper.pdf, data, ShadingType=kind, ColorSpace=pikepdf.Name.DeviceRGB, BitsPerCoordinate=8,
                          BitsPerComponent=8, Decode=[0, 200, 0, 100, 0, 1, 0, 1, 0, 1], **extra)  # fmt: skip
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(made))
    report, pdf = converted(paper, "/Sh sh")
    assert report.not_handled == ()
    result = pdf.pages[0].Resources.Shading.Sh
    # One triangle of four vertices in a lattice of two makes two; a record shares nothing with others.
    patch = kind in (6, 7)
    size = 1 + 8 * (16 if patch else 1) + 8 * corners
    assert len(result.read_bytes()) == size * (4 if patch else 3 if kind == 4 else 6)
    first = result.read_bytes()[:size]
    places = np.frombuffer(first[1 : size - 8 * corners], ">u4") / (2**32 - 1) * 255
    assert places[: 2 * min(points, 12)] == pytest.approx(np.arange(2 * min(points, 12)), abs=1e-3)
    inks = np.frombuffer(first[size - 8 * corners :], ">u2").reshape(corners, 4) / 65535
    recipe = parse_recipe({"destination": "x", "intent": "relative"})
    exact = route_for(recipe, standard_profile("srgb"), coated).inks(
        np.array([[200, 100, 50]]) / 255
    )
    assert inks[0] == pytest.approx(exact[0], abs=1e-3)


def test_what_cannot_be_decoded_is_listed_and_left(paper, converted) -> None:
    stream = pikepdf.Stream(paper.pdf, b"x" * 50, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Image, Width=8, Height=8,
                            BitsPerComponent=8, ColorSpace=pikepdf.Name.DeviceRGB, Filter=pikepdf.Name.DCTDecode)  # fmt: skip
    paper.put("/XObject", "/Im", paper.pdf.make_indirect(stream))
    report, pdf = converted(paper, PLACE)
    assert "damaged" in report.not_handled[0].reason
    assert pdf.pages[0].Resources.XObject.Im.read_raw_bytes() == b"x" * 50


@pytest.mark.parametrize(
    "wrong",
    [
        {"BitsPerCoordinate": 7},
        {"BitsPerComponent": 3},
        {"BitsPerComponent": 32},
        {"Decode": [0, 200, 0, 100, 0, 1, 0, 1]},
        {"BitsPerCoordinate": 0},
    ],
)
def test_a_mesh_that_contradicts_itself_is_listed_and_left(paper, converted, wrong) -> None:
    layout = {"BitsPerCoordinate": 8, "BitsPerComponent": 8, "Decode": [0, 200, 0, 100, 0, 1, 0, 1, 0, 1]}  # fmt: skip
    made = pikepdf.Stream(
        paper.pdf, bytes(24), ShadingType=4, ColorSpace=pikepdf.Name.DeviceRGB, BitsPerFlag=8, **layout | wrong
    )  # fmt: skip
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(made))
    report, pdf = converted(paper, "/Sh sh")
    assert [n.reason.code for n in report.not_handled] == ["document.mesh-contradicts"]
    assert pdf.pages[0].Resources.Shading.Sh.read_bytes() == bytes(24)


@pytest.mark.parametrize(("bits", "width"), [(1, 9), (2, 5), (4, 3), (4, 4)])
def test_rows_that_end_inside_a_byte(paper, converted, coated, bits: int, width: int) -> None:
    tones = np.random.default_rng(bits).integers(0, 2**bits, (7, width))
    packed = np.zeros((7, -(-width * bits // 8)), np.uint8)
    for (row, column), tone in np.ndenumerate(tones):
        at = column * bits
        packed[row, at // 8] |= int(tone) << (8 - bits - at % 8)
    space = pikepdf.Array([pikepdf.Name.CalGray, pikepdf.Dictionary(WhitePoint=[0.9505, 1, 1.089], Gamma=1.8)])  # fmt: skip
    image = paper.image(packed, space, bits, width=width)
    paper.put("/XObject", "/Im", image)
    report, pdf = converted(paper, PLACE)
    assert report.not_handled == ()
    stored = pdf.pages[0].Resources.XObject.Im
    palette = np.frombuffer(bytes(stored.ColorSpace[3]), np.uint8).reshape(-1, 4) / 255
    assert np.array_equal(np.frombuffer(stored.read_bytes(), np.uint8).reshape(7, -1), packed)
    # Black alone by lightness: XYZ is the tone to the power of 1.8.
    lightness = lab_of_device(coated, palette)[:, 0]
    assert (np.diff(lightness) > 0).all()
    assert palette[-1].sum() == 0
    assert palette[0].tolist() == [0, 0, 0, 1]


@pytest.mark.parametrize(("bits", "width"), [(1, 3), (2, 3), (4, 3), (4, 2)])
def test_colours_of_few_bits_that_end_inside_a_byte(paper, converted, coated, bits, width) -> None:
    tones = np.random.default_rng(bits).integers(0, 2**bits, (6, width, 3))
    packed = np.zeros((6, -(-width * 3 * bits // 8)), np.uint8)
    for row in range(6):
        for number, tone in enumerate(tones[row].ravel()):
            at = number * bits
            packed[row, at // 8] |= int(tone) << (8 - bits - at % 8)
    image = paper.image(packed, pikepdf.Name.DeviceRGB, bits, width=width)
    report, stored = converted_image(paper, converted, image)
    assert report.not_handled == ()
    close(coated, samples(stored), tones / (2**bits - 1) * 255, limit=1.5)
