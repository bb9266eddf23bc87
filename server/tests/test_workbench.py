"""What the stages ask for: corrections, looks, points, states, ink figures, re-targeting."""

from __future__ import annotations

import csv
import io
import json
import struct
import zipfile

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.corrections import Place
from plinto_core.recipes import parse_recipe
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.deliveries.services import ticket_of
from plinto_server.apps.jobs import ink_figures
from plinto_server.apps.jobs.figures import printed_lab, readouts, small_picture
from plinto_server.apps.jobs.links import ink_link, path_of
from plinto_server.apps.jobs.models import Destination
from uploading import upload

LEFT = {"corners": [[-10, -10], [50, -10], [50, 110], [-10, 110]], "softness": 0}
RULES = {"tac": 260, "black": {"method": "gcr", "strength": 60}}


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


def change(client, destination, **changes):
    return client.patch(f"/api/destinations/{destination}", changes, format="json")


def view_bytes(client, destination, **query) -> bytes:
    answer = client.get(
        f"/api/destinations/{destination}/view.png",
        {"pane": "proof", "columns": 60, "rows": 45, **query},
    )
    assert answer.status_code == 200, answer.content
    return answer.content


def view(client, destination, **query) -> np.ndarray:
    return np.asarray(
        Image.open(io.BytesIO(view_bytes(client, destination, **query))).convert("RGB")
    ).astype(int)


def get(client, destination, what, **query):
    answer = client.get(f"/api/destinations/{destination}/{what}", query)
    assert answer.status_code == 200, answer.content
    return answer.json()


def test_a_region_changes_its_part_of_view_and_numbers_only(client, destination) -> None:
    before = view(client, destination)
    numbers = [get(client, destination, "readout", x=x, y=45) for x in (20, 100)]
    change(client, destination, corrections=[{"lightness": -70, "region": LEFT}])
    after = view(client, destination)
    assert np.abs(after - before)[:, :29].mean() > 10
    # Two links in place of one interpolate twice: a few steps of the screen apart.
    away = np.abs(after - before)[:, 31:]
    assert np.percentile(away, 99) <= 5
    assert away.max() <= 12
    fresh = [get(client, destination, "readout", x=x, y=45) for x in (20, 100)]
    assert fresh[0]["print_lab"][0] < numbers[0]["print_lab"][0] - 5
    assert fresh[0]["aim_lab"][0] < fresh[0]["lab"][0]
    assert fresh[1] == numbers[1]


def test_the_corrected_artwork_and_the_weight_of_a_correction_are_shown(
    client, destination
) -> None:
    change(client, destination, corrections=[{"chroma": -100, "region": LEFT}])
    shown = view(client, destination, pane="corrected")
    assert np.ptp(shown[:, :28], axis=2).max() < 6
    assert np.ptp(shown[:, 32:], axis=2).max() > 60
    weight = view(client, destination, map="correction")
    assert weight[:, :29].min() == 255
    assert weight[:, 31:].max() == 0
    # One for colours about those of a pixel is strong there and weak where others are, by Lab.
    lab = get(client, destination, "readout", x=20, y=20)["lab"]
    colours = {"lab": lab, "radius": 20, "softness": 50}
    change(client, destination, corrections=[{"chroma": -100, "colours": colours}])
    weight = view(client, destination, map="correction")[..., 0]
    row, column = np.unravel_index(weight.argmax(), weight.shape)
    assert weight.max() == 255
    assert weight.min() == 0
    assert np.hypot(row * 90 / weight.shape[0] - 20, column * 120 / weight.shape[1] - 20) < 30


def test_vivid_raises_chroma_and_the_delivery_agrees_with_the_view(client, destination) -> None:
    before = get(client, destination, "readout", x=60, y=45)
    changes = json.dumps({"vivid": {"space": "stretch", "strength": 100}})
    after = get(client, destination, "readout", x=60, y=45, changes=changes)
    assert np.hypot(*after["aim_lab"][1:]) > 1.3 * np.hypot(*before["lab"][1:])
    assert after["lab"] == before["lab"]


@pytest.mark.parametrize("display", ["srgb", "p3"])
def test_pictures_carry_the_screens_profile(client, destination, display) -> None:
    data = view_bytes(client, destination, display=display)
    assert data[8:16] == struct.pack(">I", 13) + b"IHDR"
    assert Image.open(io.BytesIO(data)).info["icc_profile"] == standard_profile(display).data
    if display == "p3":
        assert not np.array_equal(
            view(client, destination), view(client, destination, display="p3")
        )


def test_a_display_that_shows_no_rgb_is_refused(client, destination, conditions) -> None:
    for display in (conditions[0].profile.sha256, "nonsense", "grey"):
        answer = client.get(
            f"/api/destinations/{destination}/view.png", {"pane": "proof", "display": display}
        )
        assert answer.status_code == 400


def test_colours_that_the_screen_cannot_show_are_marked(client, job, destination) -> None:
    plain = view(client, destination)
    srgb = view(client, destination, screen_veil="ff00ff")
    marked = (srgb == [255, 0, 255]).all(axis=2)
    assert np.array_equal(srgb[~marked], plain[~marked])
    wide = view(client, destination, screen_veil="ff00ff", display="romm")
    assert (wide == [255, 0, 255]).all(axis=2).sum() <= marked.sum()


def test_dots_below_the_limit_vanish_in_the_break_up_preview(client, destination) -> None:
    plain = view(client, destination, plates="Y")
    broken = view(client, destination, plates="Y", break_up=20)
    assert (broken.sum(axis=2) >= plain.sum(axis=2) - 6).all()
    assert broken.sum() > plain.sum()


def test_sample_points_follow_every_change_and_are_exported(client, job, destination) -> None:
    points = [{"name": "sky", "x": 20, "y": 30}, {"name": "=sea", "x": 9999, "y": 80}]
    kept = client.put(f"/api/jobs/{job['id']}/points", points, format="json").json()
    assert kept["points"][1]["x"] == 119
    first = get(client, destination, "points")
    changes = json.dumps({"intent": "absolute"})
    assert (
        get(client, destination, "points", changes=changes)[0]["print_lab"] != first[0]["print_lab"]
    )
    rows = list(
        csv.DictReader(
            io.StringIO(
                client.get(f"/api/destinations/{destination}/swatches.csv").content.decode()
            )
        )
    )
    assert [r["name"] for r in rows] == ["sky", "'=sea"]
    assert float(rows[0]["print_L"]) == first[0]["print_lab"][0]
    text = client.get(f"/api/destinations/{destination}/swatches.txt").content.decode()
    assert "NUMBER_OF_SETS 2" in text
    many = [{"name": "", "x": i, "y": i} for i in range(21)]
    assert client.put(f"/api/jobs/{job['id']}/points", many, format="json").status_code == 409
    client.put(f"/api/jobs/{job['id']}/points", [], format="json")
    assert client.get(f"/api/destinations/{destination}/swatches.csv").status_code == 404


def test_moments_are_listed_in_words_and_can_be_seen_again(client, destination) -> None:
    before = view(client, destination)
    change(client, destination, intent="absolute")
    change(client, destination, ink_rules=RULES)
    change(client, destination, ink_rules={**RULES, "tac": 200})
    softer = (
        {**RULES["black"], "strength": 35}
        if RULES.get("black")
        else {"method": "gcr", "strength": 35}
    )
    change(client, destination, ink_rules={**RULES, "tac": 200, "black": softer})
    change(client, destination, ink_rules={**RULES, "tac": 200, "black": {**softer, "start": 33}})
    labels = [s["label"] for s in get(client, destination, "moments")]
    assert labels.pop() == "black start 33"
    assert "black strength 35" in labels.pop()
    assert labels == ["start", "absolute colorimetric", "own ink rules, TAC 260 %", "TAC 200 %"]
    assert np.array_equal(view(client, destination, moment=0), before)
    assert not np.array_equal(view(client, destination), before)
    query = {"pane": "proof", "moment": 9}
    assert client.get(f"/api/destinations/{destination}/view.png", query).status_code == 404


def test_how_evenly_greys_run_is_told_before_and_with_the_delivery(client, destination) -> None:
    change(client, destination, ink_rules=RULES)
    live = get(client, destination, "inks")["greys"]
    assert 0 < live["black_step"] <= 2.5
    assert live["black_back"] <= 2
    assert live["step"] >= live["black_step"]
    row = Destination.objects.get(pk=destination)
    route = path_of(row, parse_recipe(row.recipe)).route
    ramp = np.repeat(np.linspace(1, 0, 512)[:, None], 3, axis=1)
    black = route.inks(ramp)[:, 3] * 100
    assert live["black_step"] == pytest.approx(np.abs(np.diff(black)).max(), abs=0.01)


def test_ink_figures_agree_with_the_delivered_plates(client, destination, conditions) -> None:
    conditions[0].supplies = {
        "inks": {n: {"film": 2, "price": 50} for n in "CMYK"},
        "medium_price": 1,
    }
    conditions[0].save()
    change(client, destination, delivery={"copies": 10})
    found = get(client, destination, "inks")
    names = list("CMYK")
    assert list(found["coverage"]) == names
    # 120 × 90 pixels at 300 ppi.
    area = 120 / 300 * 25.4 * 90 / 300 * 25.4 / 1e6
    assert found["use"]["area"] == pytest.approx(area, abs=1e-4)
    for name in names:
        assert found["use"]["millilitres"][name] == pytest.approx(
            found["coverage"][name] / 50, abs=0.002
        )
    per_metre = 1 + sum(found["use"]["millilitres"].values()) / 1000 * 50
    assert found["use"]["cost_per_square_metre"] == pytest.approx(per_metre, abs=0.01)
    for name in names:
        assert sum(found["histogram"][name]) <= 100.01
    mean = sum(h * (i + 0.5) * 2 for i, h in enumerate(found["histogram"]["C"])) / 100
    assert mean == pytest.approx(found["coverage"]["C"], abs=1)


def test_beyond_the_edge_the_nearest_pixel_is_read(destination) -> None:
    at = Destination.objects.get(pk=destination)
    beyond = [(-5, -5), (500, -1), (119, 500), (-1, 45)]
    nearest = [(0, 0), (119, 0), (119, 89), (0, 45)]
    found, wanted = (readouts(at, parse_recipe(at.recipe), p) for p in (beyond, nearest))
    assert found == wanted
    assert [(r["x"], r["y"]) for r in found] == nearest


def test_figures_of_large_pictures_come_from_the_reduced_copy_and_say_so(
    destination, monkeypatch
) -> None:
    at = Destination.objects.get(pk=destination)
    recipe = parse_recipe(at.recipe)
    chain = working_copy.levels(at.job.artwork.picture_key)
    whole = ink_figures.ink_figures(at, recipe)
    assert whole["exact"] is True
    monkeypatch.setattr(ink_figures, "EXACT_PIXELS", 90 * 120 - 1)
    if len(chain) == 1:
        half = np.array(chain[0][::2, ::2])
        monkeypatch.setattr(working_copy, "levels", lambda key: [chain[0], half])
    found = ink_figures.ink_figures(at, recipe)
    assert found["exact"] is False
    assert found["coverage"] == pytest.approx(whole["coverage"], abs=1)
    assert found["tac_max"] == pytest.approx(whole["tac_max"], abs=3)
    assert found["tac_at"] == pytest.approx(whole["tac_at"], abs=4)
    assert all(v % 2 == 0 for v in found["tac_at"])


def test_pixels_for_histograms_are_taken_evenly_through_the_bands(
    client, conditions, monkeypatch
) -> None:
    data = io.BytesIO()
    rows = np.linspace(0, 255, 1100).astype(np.uint8)[:, None, None]
    tifffile.imwrite(data, np.tile(rows, (1, 8, 3)), photometric="rgb")
    artwork = upload(client, data.getvalue()).json()
    body = {"artwork": artwork["id"], "conditions": [conditions[0].pk]}
    made = client.post("/api/jobs", body, format="json").json()["destinations"][0]
    destination = Destination.objects.get(pk=made["id"])
    taken = []
    monkeypatch.setattr(ink_figures, "SAMPLES", 200)
    monkeypatch.setattr(ink_figures, "_histogram", lambda sample, names: taken.append(sample))
    recipe = parse_recipe(destination.recipe)
    ink_figures.ink_figures(destination, recipe)
    # Every seventh of 8 x 1100, as if it were one band.
    whole = np.tile(rows, (1, 8, 3)).astype(np.uint16) * 257
    path, place = path_of(destination, recipe), Place((8, 1100))
    inks = path.inks(ink_link, whole, place, bits=16)[::7, ::7].reshape(-1, 4)
    assert np.abs(taken[0].astype(int) - inks).max() <= 300


def test_black_that_begins_in_light_tones_is_said_to_look_grainy(client, destination) -> None:
    PrintingCondition.objects.update(process="screen")
    late, early = (
        get(
            client, destination, "inks",
            changes=json.dumps({"ink_rules": {"black": {"method": "gcr", "start": start, "strength": 80}}}),
        )["aids"]["grain"]
        for start in (50, 0)
    )  # fmt: skip
    assert late + 5 < early


def test_screens_are_advised_for_screen_prints_and_for_films(client, destination) -> None:
    def aids(**changes):
        return get(client, destination, "inks", changes=json.dumps(changes))["aids"]["screen"]

    assert aids() is None
    found = aids(delivery={"films": {"ruling": 50, "resolution": 1200}})
    assert (found["ruling"], found["tones"] > 100) == (50, True)
    PrintingCondition.objects.update(process="screen")
    assert aids()["ruling"] == 65


def test_inks_along_the_greys_stand_at_33_lightnesses(client, destination) -> None:
    found = get(client, destination, "neutral")
    assert len(found["lightness"]) == 33


def test_black_of_a_region_is_measured(client, destination) -> None:
    region = {"region": LEFT, "black": {"method": "none"}}
    change(client, destination, ink_rules=RULES, corrections=[region])
    (found,) = get(client, destination, "inks")["regions"]
    assert found["black_after"] == 0
    assert found["black_before"] > 1
    assert found["de00_mean"] < 1.5
    # Corners beyond the picture bound what is inside it: a narrower strip holds less of it.
    past = {"corners": [[-300, -10], [50, -10], [50, 400], [-300, 400]], "softness": 0}
    change(client, destination, corrections=[{**region, "region": past}])
    (same,) = get(client, destination, "inks")["regions"]
    assert same["black_before"] == pytest.approx(found["black_before"], abs=0.2)


def test_limits_and_ramps_follow_the_rules(client, destination) -> None:
    limits = [
        get(client, destination, "limits", changes=json.dumps({"ink_rules": {"tac": t}}))
        for t in (160, 300)
    ]
    assert limits[0]["darkest"][0] > limits[1]["darkest"][0]
    assert limits[0]["volume"] < limits[1]["volume"] <= limits[1]["whole_volume"]
    ramp = get(client, destination, "ramp", hue=30)
    assert max(ramp["print_chroma"]) > 30
    assert ramp["lightness"] == sorted(ramp["lightness"])
    none = get(
        client,
        destination,
        "neutral",
        changes=json.dumps({"ink_rules": {"tac": 300, "black": {"method": "none"}}}),
    )
    assert max(none["inks"]["K"]) == 0


def test_retargeting_adapts_and_the_results_compare(client, job, conditions, destination) -> None:
    third = PrintingCondition.objects.create(
        key="satin", name="Satin", printer="-", medium="-", mirror=True, process="transfer",
        profile=conditions[1].profile, ink_rules={"tac": 200}, ticket={"passes": 4},
    )  # fmt: skip
    change(client, destination, ink_rules={"tac": 300}, corrections=[{"lightness": 10}])
    made = client.post(
        f"/api/destinations/{destination}/retarget", {"condition": third.pk}, format="json"
    ).json()
    assert made["recipe"]["ink_rules"]["tac"] == 188  # 300 of 320 kept as a share of 200
    assert made["recipe"]["delivery"]["mirror"] is True
    assert made["recipe"]["corrections"][0]["lightness"] == 10
    assert {n["way"] for n in made["notes"]} == {"adapted", "kept"}
    source = next(n["text"] for n in made["notes"] if n["text"]["code"] == "recipes.kept-source")
    assert source["text"].startswith("Source, intent, black point compensation")
    again = client.post(
        f"/api/destinations/{destination}/retarget", {"condition": third.pk}, format="json"
    )
    assert again.status_code == 409
    against = get(client, destination, "against", other=made["id"])
    assert against["de00_mean"] > 0.5
    assert against["de00_mean"] < against["de00_p95"] <= against["de00_max"]
    first, second = (
        printed_lab(path_of(d, parse_recipe(d.recipe)), *small_picture(d))
        for d in (Destination.objects.get(pk=pk) for pk in (destination, made["id"]))
    )
    assert against["lightness"] == pytest.approx(second[:, 0].mean() - first[:, 0].mean(), abs=0.01)
    chroma = [np.hypot(lab[:, 1], lab[:, 2]).mean() for lab in (first, second)]
    assert against["chroma"] == pytest.approx(chroma[1] - chroma[0], abs=0.01)
    back = get(client, made["id"], "against", other=destination)
    assert back == {
        **against, "names": against["names"][::-1],
        "lightness": -against["lightness"], "chroma": -against["chroma"],
    }  # fmt: skip
    assert get(client, destination, "against", other=destination)["de00_max"] == 0
    assert client.delete(f"/api/destinations/{made['id']}/notes").json()["notes"] == []


def test_a_cube_table_is_uploaded_and_used(client, destination) -> None:
    table = io.BytesIO(b'TITLE "Negative"\nLUT_1D_SIZE 2\n1 1 1\n0 0 0\n')
    table.name = "negative.cube"
    kept = client.post("/api/tables", {"file": table}, format="multipart").json()
    assert (kept["name"], kept["dimensions"], kept["size"]) == ("Negative", 1, 2)
    before = view(client, destination)
    assert change(client, destination, before=kept["sha256"]).status_code == 200
    assert np.abs(view(client, destination) - before).mean() > 20
    bad = io.BytesIO(b"no table")
    bad.name = "x.cube"
    assert client.post("/api/tables", {"file": bad}, format="multipart").status_code == 400
    assert change(client, destination, before="f" * 64).status_code in (200, 400)


def test_the_package_holds_all_that_the_recipe_names(client, destination) -> None:
    answer = client.get(f"/api/destinations/{destination}/package")
    with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
        recipe = json.loads(archive.read("recipe.json"))
        assert f"{recipe['destination']}.icc" in archive.namelist()
    assert answer.content == client.get(f"/api/destinations/{destination}/package").content


def test_another_page_of_a_file(client) -> None:
    buffer = io.BytesIO()
    with tifffile.TiffWriter(buffer) as tiff:
        for value in (40, 200):
            tiff.write(np.full((20, 30, 3), value, np.uint8), photometric="rgb")
    first = upload(client, buffer.getvalue(), "pages.tif").json()
    assert first["facts"]["pages"] == 2
    second = client.post(f"/api/artwork/{first['id']}/page", {"page": 1}, format="json").json()
    assert (second["name"], second["page"]) == ("Pages, page 2", 1)
    shown = Image.open(io.BytesIO(client.get(f"/api/artwork/{second['id']}/thumbnail.png").content))
    assert shown.convert("RGB").getpixel((5, 5)) == (200, 200, 200)
    assert (
        client.post(f"/api/artwork/{first['id']}/page", {"page": 7}, format="json").status_code
        == 400
    )


def test_what_is_noticed_on_arrival_is_said(client) -> None:
    pixels = np.full((20, 30, 4), 255, np.uint8)
    pixels[:, :, 1] = 90
    pixels[:10, :, 3] = 0
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "PNG", icc_profile=standard_profile("romm").data)
    found = upload(client, buffer.getvalue(), "a.png").json()["facts"]
    codes = {f["code"] for f in found["findings"]}
    assert {"no-size", "clipped", "transparent", "wide-8-bit"} <= codes
    assert found["transparent_share"] == 0.5


@pytest.mark.parametrize("changes", ['{"corrections": [{"lightness": 999}]}', '{"vivid": {"space": "x"}}', '{"plates": {"O": {}}}', '{"corrections": [{"region": {"corners": []}}]}', '{"delivery": {"films": {"screening": "x"}}}', '{"plates": {"K": {"curve": [[0, 0]]}}}', '{"before": "zz"}'])  # fmt: skip
def test_impossible_changes_are_refused_with_a_sentence(client, destination, changes) -> None:
    answer = client.get(f"/api/destinations/{destination}/inks", {"changes": changes})
    assert answer.status_code == 400
    assert answer.json()["title"]


def test_a_bar_shows_the_outermost_colours_as_each_pane_shows_its_picture(
    client, destination
) -> None:
    """The brightest red, green and blue of the artwork's space among the originals; of the print what the
    press makes of them; and no correction of a part of the picture."""
    before = view(client, destination, pane="original", bar=1, columns=270, rows=9)
    full = {tuple(c) for c in before[4]}
    assert {(255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 255), (0, 0, 0)} <= full
    assert (before[1].sum(axis=1) >= before[4].sum(axis=1)).all()
    assert (before[8].sum(axis=1) <= before[4].sum(axis=1)).all()
    assert (before[1] - before[8]).sum(axis=1).min() > 100
    printed = view(client, destination, bar=1, columns=270, rows=9)
    assert printed.shape == before.shape
    red = printed[4, 2]
    assert red[0] > 150
    assert not np.array_equal(red, [255, 0, 0])
    change(client, destination, corrections=[{"lightness": -70, "region": LEFT}])
    # Two links in place of one interpolate twice.
    region = view(client, destination, bar=1, columns=270, rows=9)
    assert np.abs(region - printed).mean() < 1
    change(client, destination, corrections=[{"lightness": -70}])
    darker = view(client, destination, bar=1, columns=270, rows=9)
    assert np.abs(darker - printed).mean() > 10
    change(client, destination, corrections=[], negative=True)
    negative = view(client, destination, pane="original", bar=1, columns=270, rows=9,
                    changes=json.dumps({"negative": True}))  # fmt: skip
    assert np.abs(negative - before).max() <= 1


def test_the_dot_that_vanishes_is_the_conditions(client, destination) -> None:
    """Else the mesh's of a screen, else a flexo plate's; none where nothing says that tones vanish."""
    condition = Destination.objects.get(pk=destination).condition

    def aids(process: str, least: float, **changes):
        condition.process, condition.least_dot = process, least
        condition.save()
        found = get(client, destination, "inks", changes=json.dumps(changes))["aids"]
        return found["fine_dot"], max(found["fine"].values())

    none, some = aids("offset", 0), aids("offset", 12)
    assert none == (0, 0)
    assert some[0] == 12
    assert some[1] > 0
    assert aids("flexo", 0)[0] == 3
    assert aids("flexo", 1.5)[0] == 1.5
    assert aids("screen", 0)[0] == pytest.approx(3.6, abs=0.1)
    assert aids("screen", 5)[0] == 5
    coarse = {"films": {"ruling": 300, "resolution": 1200}}
    assert aids("offset", 0, delivery=coarse)[0] == 20


def test_the_tickets_gap_heat_and_pause_are_the_conditions(client, destination) -> None:
    """A condition's ticket goes into recipes that are made for it, and onto the operator's page."""
    there = Destination.objects.get(pk=destination)
    there.condition.ticket = {"passes": 2, "pause_minutes": 4, "platen_gap": 1.8, "heat": 160}
    there.condition.save()
    job = {"artwork": there.job.artwork_id, "conditions": [there.condition_id]}
    made = client.post("/api/jobs", job, format="json").json()["destinations"][0]
    assert made["recipe"]["delivery"]["ticket"]["pause_minutes"] == 4
    run = client.post(f"/api/destinations/{made['id']}/deliveries").json()["id"]
    settings = {n: v for n, v, _ in ticket_of(Run.objects.get(pk=run)).settings}
    assert settings["Pause between passes"] == "4 min"
    assert settings["Platen gap"] == "1.8 mm"
    assert settings["Heat"] == "160 °C"
