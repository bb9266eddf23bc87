from __future__ import annotations

import io
import json

import numpy as np
import pytest
from PIL import Image

from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import convert
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.jobs import links, rendering
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.profiles.services import load_profile
from uploading import upload


def view(client, destination: int, **query) -> np.ndarray:
    answer = client.get(f"/api/destinations/{destination}/view.png", query)
    assert answer.status_code == 200, answer.content
    return np.asarray(Image.open(io.BytesIO(answer.content)))


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


def test_a_job_has_a_recipe_for_every_condition(job) -> None:
    assert [d["condition"]["name"] for d in job["destinations"]] == ["Sheetfed coated", "Newsprint"]
    recipe = job["destinations"][0]["recipe"]
    assert (recipe["intent"], recipe["bpc"], recipe["source"]) == ("perceptual", True, None)
    assert job["destinations"][0]["source"]["origin"] == "embedded"


def test_proof_shows_what_the_float_path_computes(client, destination, job) -> None:
    shown = view(client, destination, pane="proof", columns=120, rows=90)
    recipe = parse_recipe(job["destinations"][0]["recipe"])
    press = load_profile(recipe.destination)
    route = route_for(recipe, standard_profile("oprgb"), press)
    y, x = np.mgrid[0:90, 0:120]
    device = np.stack([x * 540, y * 720, 65535 - x * 500], axis=-1).reshape(-1, 3) / 65535
    exact = convert(
        press, standard_profile("srgb"), route.inks(device), intent="relative", bpc=False
    )
    assert np.abs(shown.reshape(-1, 3) - exact * 255).mean() < 1.0


def test_region_and_size_are_those_asked_for(client, destination) -> None:
    whole = view(client, destination, pane="original", columns=120, rows=90)
    part = view(client, destination, pane="original", x=30, y=20, w=60, h=40, columns=60, rows=40)
    assert np.array_equal(part, whole[20:60, 30:90])
    assert view(client, destination, columns=33, rows=17).shape == (17, 33, 3)


def test_paper_and_black_are_shown_when_wanted(client, destination) -> None:
    plain = view(client, destination, plays="colours").astype(int)
    weak = view(client, destination, plays="black").astype(int)
    paper = view(client, destination, plays="paper").astype(int)
    assert weak.min() >= plain.min()
    assert paper.max() < weak.max()


def test_veil_has_its_colour_and_covers_what_does_not_fit(client, destination) -> None:
    veiled = view(client, destination, veil="123456", columns=120, rows=90)
    covered = (veiled == [0x12, 0x34, 0x56]).all(axis=2)
    spot = np.argwhere(covered)[len(np.argwhere(covered)) // 2]
    readout = client.get(
        f"/api/destinations/{destination}/readout", {"x": spot[1], "y": spot[0]}
    ).json()
    assert 0.02 < covered.mean() < 0.9
    assert readout["out_of_gamut"] is True


def test_a_hatched_veil_is_lines_of_black_beside_white(client, destination) -> None:
    ways = {"veil": "hatch", "columns": 120, "rows": 90}
    bare, veiled = (
        view(client, destination, columns=120, rows=90),
        view(client, destination, **ways),
    )
    covered = (view(client, destination, **{**ways, "veil": "123456"}) != bare).any(axis=2)
    rows, columns = np.nonzero(covered)
    line = (rows + columns) % rendering.HATCH
    shown = veiled[covered]
    assert (shown[line == 0] == 0).all()
    assert (shown[line == 1] == 255).all()
    assert (shown[line > 1] == bare[covered][line > 1]).all()
    assert (veiled[~covered] == bare[~covered]).all()
    assert {0, 1, 2} <= set(line)


def test_distance_map_follows_its_scale(client, destination) -> None:
    shown = view(client, destination, map="distance", columns=120, rows=90)
    r = client.get(f"/api/destinations/{destination}/readout", {"x": 60, "y": 45}).json()
    scale = rendering.distance_scale().astype(int)
    nearest = np.abs(scale - shown[45, 60].astype(int)).sum(axis=1).argmin()
    assert nearest / 255 * links.MAP_SCALE == pytest.approx(min(r["de00"], 20), abs=0.7)
    assert (np.diff(scale @ [0.2126, 0.7152, 0.0722]) >= -0.5).all()


def test_total_ink_map_darkens_with_ink_and_marks_what_is_over_the_rule(
    client, destination
) -> None:
    shown = view(client, destination, map="tac", columns=120, rows=90)
    over = rendering.distance_scale()[-1]
    assert not (shown == over).all(axis=2).any()
    totals = []
    for x, y in ((5, 5), (110, 80)):
        totals.append(
            client.get(f"/api/destinations/{destination}/readout", {"x": x, "y": y}).json()["tac"]
        )
    assert (totals[0] > totals[1]) == (int(shown[5, 5, 0]) < int(shown[80, 110, 0]))


def test_a_plate_as_greys_has_its_tone_values(client, destination) -> None:
    shown = view(client, destination, plates="M", grey="1", columns=120, rows=90)
    r = client.get(f"/api/destinations/{destination}/readout", {"x": 60, "y": 45}).json()
    assert (shown[..., 0] == shown[..., 1]).all()
    assert 100 - shown[45, 60, 0] / 2.55 == pytest.approx(r["inks"]["M"], abs=1.5)


def test_plates_in_their_inks_add_up_to_the_print(client, destination) -> None:
    alone = view(client, destination, plates="Y").astype(int)
    assert alone[..., 2].mean() < alone[..., 0].mean() - 20
    whole = view(client, destination)
    assert np.array_equal(view(client, destination, plates="C,M,Y,K"), whole)
    assert view(client, destination, plates="C,M,Y").mean() > whole.mean()


def test_unsaved_changes_show_and_are_not_kept(client, destination) -> None:
    before = view(client, destination)
    changes = json.dumps({"intent": "saturation", "ink_rules": {"tac": 200}})
    after = view(client, destination, changes=changes)
    assert not np.array_equal(before, after)
    assert client.get(f"/api/destinations/{destination}").json()["recipe"]["intent"] == "perceptual"


def test_readout_agrees_with_itself(client, destination) -> None:
    r = client.get(f"/api/destinations/{destination}/readout", {"x": 60, "y": 45}).json()
    assert r["tac"] == pytest.approx(sum(r["inks"].values()), abs=0.3)
    assert r["source"]["R"] == pytest.approx(60 * 540 / 257, abs=0.1)
    assert (
        client.get(f"/api/destinations/{destination}/readout", {"x": 9e6, "y": -4}).json()["x"]
        == 119
    )


def test_tac_rule_lowers_the_highest_tac(client, destination) -> None:
    free = client.get(f"/api/destinations/{destination}/inks").json()
    changes = json.dumps({"ink_rules": {"tac": 130, "black": {"method": "gcr"}}})
    ruled = client.get(f"/api/destinations/{destination}/inks", {"changes": changes}).json()
    assert free["tac_max"] > 155
    assert ruled["tac_max"] <= 130.5
    assert ruled["tac_rule"] == 130
    x, y = free["tac_at"]
    there = client.get(f"/api/destinations/{destination}/readout", {"x": x, "y": y}).json()
    assert there["tac"] == pytest.approx(free["tac_max"], abs=3)


def test_figures_for_four_intents(client, destination) -> None:
    found = client.get(f"/api/destinations/{destination}/intents").json()
    assert [f["intent"] for f in found] == ["perceptual", "relative", "saturation", "absolute"]
    assert all(0 < f["de00_mean"] < f["de00_p95"] for f in found)
    assert all(20 < f["detail"] < 130 for f in found)


def test_fit_advice_marks_one_and_changes_nothing(client, destination) -> None:
    found = client.get(f"/api/destinations/{destination}/fit").json()
    assert len(found) == 7
    assert sum(f["advised"] for f in found) == 1
    shown = {f["intent"]: f for f in client.get(f"/api/destinations/{destination}/intents").json()}
    for fit in found:
        assert 50 < fit["detail"] <= 130, "percent of the source's detail"
        assert 0 <= fit["banding"] <= 100
        assert 0 <= fit["out_of_gamut"] <= 100
        assert fit["de00_mean"] <= fit["de00_p95"] <= fit["de00_max"]
    exact = next(f for f in found if f["intent"] == "perceptual" and f["bpc"])
    assert exact["de00_mean"] == pytest.approx(shown["perceptual"]["de00_mean"], abs=0.2)
    assert client.get(f"/api/destinations/{destination}").json()["recipe"]["intent"] == "perceptual"


def test_the_most_vivid_print_is_one_change_away(client, destination) -> None:
    path = f"/api/destinations/{destination}"
    present, *ways = client.get(f"{path}/most-vivid").json()
    assert present["part"] == "present"
    assert present["changes"]["intent"] == "perceptual"
    vividness = [w["fit"]["vividness"] for w in (present, *ways)]
    assert vividness == sorted(vividness)
    best = ways[-1]
    changed = client.patch(path, best["changes"], format="json")
    assert changed.status_code == 200
    now = client.get(f"{path}/most-vivid").json()
    assert now[0]["changes"] == best["changes"]
    assert now[0]["fit"]["vividness"] == best["fit"]["vividness"]
    assert len(now) == 1, "nothing is more vivid than the most vivid"


def test_a_leaf_is_drawn_for_a_hue_of_a_recipe(client, destination) -> None:
    path = f"/api/destinations/{destination}/leaf"
    plain = client.get(path, {"hue": 142}).json()
    vivid = client.get(
        path, {"hue": 142, "changes": json.dumps({"perceptual": {"kind": "vivid"}})}
    ).json()
    assert plain["before"] == vivid["before"]
    assert plain["press"] == vivid["press"]
    assert sum(c for c, _ in vivid["after"]) > sum(c for c, _ in plain["after"])
    assert client.get(path, {"hue": 400}).status_code == 400
    wrong = json.dumps({"perceptual": {"kind": "louder"}})
    assert client.get(path, {"hue": 10, "changes": wrong}).status_code == 400


def test_neutral_axis_runs_from_paper_to_black(client, destination) -> None:
    axis = client.get(f"/api/destinations/{destination}/neutral").json()
    assert axis["inks"]["K"][-1] == pytest.approx(0, abs=0.5)
    assert axis["inks"]["K"][0] > 80
    assert axis["print_lightness"] == sorted(axis["print_lightness"])


def change(client, destination: int, **changes):
    return client.patch(f"/api/destinations/{destination}", changes, format="json")


def test_undo_and_redo_reach_back_over_200_steps(client, destination) -> None:
    for tac in range(101, 311):
        assert change(client, destination, ink_rules={"tac": tac}).status_code == 200
    for _ in range(205):
        state = client.post(f"/api/destinations/{destination}/undo").json()
    assert state["recipe"]["ink_rules"]["tac"] == 105
    state = client.post(f"/api/destinations/{destination}/redo").json()
    assert state["recipe"]["ink_rules"]["tac"] == 106
    state = change(client, destination, intent="absolute").json()
    assert state["can_redo"] is False


def test_undo_at_the_beginning_is_a_conflict(client, destination) -> None:
    answer = client.post(f"/api/destinations/{destination}/undo")
    assert answer.status_code == 409
    assert answer.json()["title"] == "There is nothing to undo."


@pytest.mark.parametrize(
    "changes",
    [
        {"intent": "nice"}, {"ink_rules": {"tac": "x"}}, {"ink_rules": 5}, {"source": "0" * 64},
        {"source": "../../secret"}, {"delivery": {"bits": 12}}, {"delivery": 3}, {"ink_rules": {"limits": [1]}},
    ],
)  # fmt: skip
def test_wrong_changes_are_problems_and_change_nothing(client, destination, changes) -> None:
    before = client.get(f"/api/destinations/{destination}").json()
    answer = client.patch(f"/api/destinations/{destination}", changes, format="json")
    assert answer.status_code == 400
    assert answer.json()["title"]
    assert client.get(f"/api/destinations/{destination}").json()["recipe"] == before["recipe"]


@pytest.mark.parametrize(
    "query",
    [
        {"columns": "many"}, {"columns": 99999}, {"w": -5}, {"w": "nan"}, {"veil": "red"}, {"changes": "{"},
        {"changes": "[]"}, {"map": "treasure"}, {"changes": '{"intent": 3}'}, {"x": "inf"},
    ],
)  # fmt: skip
def test_wrong_views_are_problems(client, destination, query) -> None:
    assert client.get(f"/api/destinations/{destination}/view.png", query).status_code == 400


def test_views_beyond_the_picture_are_still_pictures(client, destination) -> None:
    assert view(client, destination, x=5000, y=-700, w=10, h=10, columns=5, rows=5).shape == (
        5,
        5,
        3,
    )


def test_assigning_a_source_changes_the_picture(client, destination) -> None:
    before = view(client, destination, pane="original")
    state = change(client, destination, source="romm").json()
    assert state["source"] == {
        "profile": "ROMM RGB",
        "origin": "assigned",
        "problem": None,
        "same_space": False,
    }
    assert not np.array_equal(before, view(client, destination, pane="original"))


def test_measured_facts_are_kept_until_the_recipe_changes(client, destination) -> None:
    measured = client.post(f"/api/destinations/{destination}/facts").json()
    assert measured["facts"]["tac_max"] > 0
    assert change(client, destination, bpc=False).json()["facts"] == {}


def test_conditions_are_added_once(client, job, conditions) -> None:
    body = {"condition": conditions[0].pk}
    assert (
        client.post(f"/api/jobs/{job['id']}/destinations", body, format="json").status_code == 409
    )


def test_others_see_nothing(client, job, destination, django_user_model) -> None:
    client.force_authenticate(django_user_model.objects.create_user("eve"))
    assert client.get("/api/jobs").json() == []
    for url in (
        f"jobs/{job['id']}",
        f"destinations/{destination}",
        f"destinations/{destination}/view.png",
    ):
        assert client.get(f"/api/{url}").status_code == 404
    body = {"artwork": job["artwork"]["id"], "conditions": []}
    assert client.post("/api/jobs", body, format="json").status_code == 400


@pytest.mark.parametrize("mode", ["L", "CMYK"])
def test_grey_and_cmyk_artwork_has_press_views(client, conditions, mode) -> None:
    buffer = io.BytesIO()
    Image.linear_gradient("L").convert(mode).save(buffer, "JPEG")
    artwork = upload(client, buffer.getvalue(), "g.jpg").json()
    body = {"artwork": artwork["id"], "conditions": [conditions[1].pk]}
    made = client.post("/api/jobs", body, format="json").json()["destinations"][0]["id"]
    assert view(client, made, columns=64, rows=64).shape == (64, 64, 3)
    assert client.get(f"/api/destinations/{made}/intents").status_code == 200
    assert client.get(f"/api/destinations/{made}/neutral").status_code == 200


def test_the_veil_marks_the_ways_that_are_asked_for(client, job) -> None:
    destination = job["destinations"][1]["id"]
    base = {"pane": "proof", "x": 0, "y": 0, "w": 120, "h": 90, "columns": 60, "rows": 45}
    address = f"/api/destinations/{destination}/view.png"

    def marked(**more: str) -> int:
        data = client.get(address, {**base, "veil": "ff00ff", **more}).content
        shown = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))
        return int((shown == (255, 0, 255)).all(axis=2).sum())

    by_way = [marked(ways=w) for w in ("vivid", "dark", "light")]
    assert by_way[0] > 0
    assert marked() == sum(by_way) == marked(ways="vivid,dark,light")
    assert marked(ways="dark,vivid") == by_way[0] + by_way[1]
    assert client.get(address, {**base, "ways": "dull"}).status_code == 400


def test_figures_say_three_ways_and_families(client, job) -> None:
    destination = job["destinations"][1]["id"]
    for f in client.get(f"/api/destinations/{destination}/intents").json():
        ways = f["too_vivid"] + f["too_dark"] + f["too_light"]
        assert f["out_of_gamut"] == pytest.approx(ways, abs=0.2)
        assert sum(x["share"] for x in f["families"]) == pytest.approx(100, abs=0.5)
        out = sum(x["share"] * x["out"] for x in f["families"]) / 100
        assert out == pytest.approx(f["out_of_gamut"], abs=1)
    read = client.get(f"/api/destinations/{destination}/readout", {"x": 119, "y": 0}).json()
    assert read["out_way"] in ("vivid", "dark", "light")
    assert read["miss"] > 2


def test_what_a_profile_gives_back_of_a_picture(client, job, conditions) -> None:
    address = f"/api/jobs/{job['id']}/round-trip"
    found = client.get(address, {"profile": conditions[1].profile_id}).json()
    # Vivid corners of opRGB do not come back from newsprint; printable colours would.
    assert found["max"] > 10
    assert found["worst"][0]["de00"] == pytest.approx(found["max"], abs=0.01)
    assert sum(found["histogram"]) == pytest.approx(1, abs=0.001)
    assert set(found["tones_lost"]) == {"C", "M", "Y", "K", "paper"}
    assert sum(found["tones_lost"].values()) > 0
    better = client.get(address, {"profile": conditions[0].profile_id}).json()
    assert better["mean"] < found["mean"]
    assert better["p95"] < found["p95"]
    assert better["tones_lost"] != found["tones_lost"]
    assert client.get(address).status_code == 400
    assert client.get(address, {"profile": 9999}).status_code == 400


def test_a_former_recipe_keeps_its_method_until_its_inks_are_made_anew(client, destination) -> None:
    rules = {"tac": 280, "black": {"method": "gcr", "strength": 90}}
    answer = client.patch(f"/api/destinations/{destination}", {"ink_rules": rules}, format="json")
    assert answer.json()["recipe"]["version"] == 4
    row = Destination.objects.get(pk=destination)
    row.recipe = {**row.recipe, "version": 1}
    row.save()
    former = view(client, destination, pane="proof", columns=120, rows=90, plates="K", grey=1)
    # The browser names all that decides colours, the method too.
    parts = json.dumps({"ink_rules": row.recipe["ink_rules"], "version": 1})
    asked = view(
        client, destination, pane="proof", columns=120, rows=90, plates="K", grey=1, changes=parts
    )
    assert (asked == former).all()
    changed = client.patch(f"/api/destinations/{destination}", {"bpc": False}, format="json").json()
    assert changed["recipe"]["version"] == 1
    client.post(f"/api/destinations/{destination}/undo")
    made = client.patch(f"/api/destinations/{destination}", {"version": 4}, format="json")
    assert made.json()["recipe"]["version"] == 4
    present = view(client, destination, pane="proof", columns=120, rows=90, plates="K", grey=1)
    assert (former != present).any()
    back = client.patch(f"/api/destinations/{destination}", {"version": 1}, format="json")
    assert back.status_code == 400


def test_a_recipe_of_method_two_takes_the_present_one_with_its_first_correction(
    client, destination
) -> None:
    row = Destination.objects.get(pk=destination)
    row.recipe = {**row.recipe, "version": 2}
    row.save()
    darker = {"corrections": [{"lightness": -20}]}
    answer = client.patch(f"/api/destinations/{destination}", darker, format="json")
    assert answer.json()["recipe"]["version"] == 3
    row.refresh_from_db()
    row.recipe = {**row.recipe, "version": 2}
    row.save()
    lighter = {"corrections": [{"lightness": 20}]}
    answer = client.patch(f"/api/destinations/{destination}", lighter, format="json")
    assert answer.json()["recipe"]["version"] == 2


def test_a_jobs_name_has_an_end(client, job) -> None:
    def rename(name: str) -> int:
        return client.patch(f"/api/jobs/{job['id']}", {"name": name}, format="json").status_code

    assert rename("x" * 200) == 200
    assert rename("y" * 201) == 400
    assert rename("") == 400
    assert client.get(f"/api/jobs/{job['id']}").json()["name"] == "x" * 200


def test_the_sheet_is_what_the_artworks_white_prints_as(client, destination) -> None:
    """White on its white laid relative is bare medium; its colour follows what the screen plays."""
    change(client, destination, intent="relative")
    for plays in ("colours", "black", "paper"):
        sheet = view(client, destination, pane="proof", sheet=1, plays=plays)
        assert sheet.shape == (1, 1, 3)
        bar = view(client, destination, pane="proof", bar=1, columns=270, rows=9, plays=plays)
        white = bar[4][bar[4].sum(axis=1).argmax()].astype(int)
        assert np.abs(sheet[0, 0] - white).max() <= 1
        assert (sheet.min() >= 254) == (plays != "paper")
