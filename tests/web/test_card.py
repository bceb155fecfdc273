"""Hole cards, calibration and gear files through the web."""

from __future__ import annotations

import base64
import json

import pytest

from hollow_glint.web.card import contract as card_contract

from .test_web import is_problem

KNOWN = {
    "depth_m": 9.45, "ice_thickness_m": 0.36, "bottom_kind": "mud", "clarity": "clear", "light": "day",
    "liveliness": "quiet", "weed_height_m": 0.0, "unit_id": 3, "lure_id": 3, "neighbours": [], "fish_length_m": 0.3,
}  # fmt: skip


def test_depth_alone_gives_a_whole_card(client):
    answer = client.post("/api/hole-card", json={"depth_m": 9.45})
    assert answer.status_code == 200
    card_contract.HoleCardOut.model_validate(answer.json)
    card = answer.json
    assert card["settings"]["range_m"] == pytest.approx(12.192)
    assert card["unknowns"] and card["checks"] and len(card["rules"]) >= 4
    assert any("No ice is safe ice" in one["text"] for one in card["cautions"])
    assert card["ice"] is None  # nothing was said of the ice, so nothing is set beside it
    for one in (*card["cautions"], *card["notes"], *(check["said"] for check in card["checks"])):
        one["text"].format(**{name: value["value"] for name, value in one["values"].items()})
    known = client.post("/api/hole-card", json=KNOWN).json
    assert known["unknowns"][0]["cost_db"] < 0.1 and known["gains"]["firm"]
    assert known["ice"]["counts_as_m"] == pytest.approx(0.18)


@pytest.mark.parametrize(
    ("body", "said"),
    [
        ({}, ["depth_m is missing"]),
        ({"depth_m": 900}, ["depth_m is 900", "0.5 to 60 m"]),
        ({"depth_m": 5, "clarity": "pink"}, ['clarity is "pink"', "clear, stained, murky"]),
        ({"depth_m": 5, "colour": 1}, ["colour is not a field"]),
        ({"depth_m": 3, "ice_thickness_m": 2.9, "lure_depth_m": 5, "face_depth_m": 2.95, "window_m": 3.0},
         ["ice_thickness_m is 2.9 m", "lure_depth_m is 5 m", "face_depth_m is 2.95 m", "window_m is 3 m"]),
        ({"depth_m": 59.0, "unit_id": 5}, ["largest range"]),
    ],
)  # fmt: skip
def test_what_cannot_be_is_named_all_at_once(client, body, said):
    is_problem(client.post("/api/hole-card", json=body), 422, *said)
    is_problem(client.put("/api/holes/1/card", json=body), 422, *said)
    assert client.get("/api/holes/1/card").json["wanted"]["depth_m"] == pytest.approx(9.45)


def test_unknown_gear_is_not_there(client):
    is_problem(client.post("/api/hole-card", json={"depth_m": 5, "unit_id": 999}), 404, "unit with id 999")
    is_problem(client.get("/api/holes/999/card"), 404, "hole with id 999")


def test_a_holes_card_is_remembered_and_moving_on_says_what_to_change(client):
    first = client.get("/api/holes/1/card").json
    assert first["wanted"]["bottom_kind"] == "mud" and first["wanted"]["light"] is None  # from the hole itself
    assert first["from_hole"] is None
    kept = client.put("/api/holes/1/card", json=KNOWN).json
    assert client.get("/api/holes/1/card").json["wanted"] == kept["wanted"]
    moved = client.put("/api/holes/2/card", json={**KNOWN, "depth_m": 4.3}).json
    assert moved["from_hole"] == "Lantern point"
    effects = [one["effect_db"] for one in moved["changes"]]
    assert effects == sorted(effects, reverse=True)
    assert {"range_m", "gain", "lure_depth_m"} <= {one["setting"] for one in moved["changes"]}
    other = client.put("/api/holes/3/card", json={**KNOWN, "depth_m": 17.0, "unit_id": 4}).json
    assert other["from_hole"] == "Sand tongue" and other["changes"] is None
    # What is carried from hole to hole comes along to a new one: gear, school and view are chosen once.
    client.put("/api/holes/3/card", json={**KNOWN, "depth_m": 17.0, "unit_id": 4, "school": "rich", "view": "window"})
    fresh = client.get("/api/holes/5/card").json["wanted"]
    assert (fresh["unit_id"], fresh["school"], fresh["view"], fresh["depth_m"]) == (4, "rich", "window", 2.6)
    # A lure that has gone since leaves the card standing on the usual one.
    lure = client.post("/api/lures", json={"name": "Short-lived", "diameter_m": 0.004}).json
    client.put("/api/holes/4/card", json={**KNOWN, "lure_id": lure["id"], "depth_m": 7.0})
    client.delete(f"/api/lures/{lure['id']}")
    assert client.get("/api/holes/4/card").json["wanted"]["lure_id"] is None


def test_checks_are_ticked_and_remembered_per_hole(client):
    assert client.put("/api/holes/1/checks", json={"name": "plumb", "done": True}).status_code == 204
    done = lambda hole: [c["name"] for c in client.get(f"/api/holes/{hole}/card").json["card"]["checks"] if c["done"]]  # noqa: E731
    assert done(1) == ["plumb"] and done(2) == []
    client.put("/api/holes/1/checks", json={"name": "plumb", "done": False})
    assert done(1) == []
    is_problem(client.put("/api/holes/1/checks", json={"name": "luck", "done": True}), 422, "connections, battery")


def test_a_card_goes_out_as_json(client):
    answer = client.get("/api/holes/1/card/file")
    assert "attachment" in answer.headers["Content-Disposition"]
    card_contract.HoleCardOut.model_validate(json.loads(answer.text))


def test_a_card_is_translated(client):
    made = client.post("/api/hole-card/translate", json={"card": KNOWN, "to_unit_id": 5}).json
    assert made["unit"]["id"] == 5 and made["matched"]
    is_problem(client.post("/api/hole-card/translate", json={"card": KNOWN, "to_unit_id": 99}), 404, "unit with id 99")


def test_a_bench_starts_from_a_cards_settings(client):
    card = client.post("/api/hole-card", json=KNOWN).json
    body = {
        "hole_id": 1,
        "unit_id": 3,
        "lure_id": 3,
        "settings": card["settings"],
        "lure_depth_m": card["lure_depth_m"],
    }
    bench = client.post("/api/benches", json=body).json
    assert bench["settings"] == card["settings"] and bench["lure_depth_m"] == pytest.approx(card["lure_depth_m"])
    is_problem(client.post("/api/benches", json={**body, "settings": {**card["settings"], "gain": 999}}), 422, "gain")


# --- calibration --------------------------------------------------------------------------------------------------

WATER = {"bottom_depth_m": 12.0}


def stand_in_readings(client, unit_id: int, seed: int) -> list[dict]:
    """Readings as a hand takes them: gain down by half steps until the mark is in fewer than half of the pings."""
    readings = []
    for depth in (3.0, 6.0, 11.0):
        low, high = 0.0, 100.0
        while high - low > 0.6:
            gain = round((low + high), 0) / 2
            reading = {"lure_id": 3, "depth_m": depth, "gain": gain}
            look = client.post(
                f"/api/units/{unit_id}/stand-in/look", json={"seed": seed, "water": WATER, "reading": reading}
            ).json
            levels, rows = base64.b64decode(look["levels"]), look["rows"]
            at = (depth - 0.45 - look["top_m"]) / (look["bottom_m"] - look["top_m"]) * rows
            mark = slice(int(at) - 2, int(at + 0.05 * rows))
            lit = sum(any(levels[p * rows : (p + 1) * rows][mark]) for p in range(look["pings"]))
            low, high = (low, gain) if lit >= 0.5 * look["pings"] else (gain, high)
            if high - low <= 0.5:
                break
        readings.append({"lure_id": 3, "depth_m": depth, "gain": high})
    return readings


def test_a_unit_is_calibrated_with_the_stand_in_and_the_card_speaks_its_numbers(client):
    before = client.post("/api/hole-card", json=KNOWN).json
    wanted = {"water": WATER, "readings": stand_in_readings(client, 3, 5)}
    fit = client.post("/api/units/3/calibration/fit", json=wanted).json
    truth = client.post("/api/units/3/stand-in/reveal", json={"seed": 5}).json
    assert fit["first_colour_db"] == pytest.approx(truth["first_colour_db"], abs=1.5)
    assert fit["db_per_step"] == pytest.approx(truth["db_per_step"], rel=0.06)
    assert fit["assumed"] == ["colour_step_db"] and fit["next_reading"]["then_db"] <= fit["next_reading"]["now_db"]
    unit = client.put("/api/units/3/calibration", json=wanted).json
    assert unit["calibrated"]["readings"] == 3
    after = client.post("/api/hole-card", json=KNOWN).json
    shift = (truth["first_colour_db"] - 141.0) / truth["db_per_step"]
    assert after["gains"]["floor"] != pytest.approx(before["gains"]["floor"], abs=0.3 * abs(shift) + 0.3)
    assert after["gains"]["floor_sd"] > 0 and before["gains"]["floor_sd"] == 0
    # Kept readings come back, and another fit starts from the profile as it was, not from itself.
    kept = client.get("/api/units/3/calibration").json
    assert kept["wanted"]["readings"][0]["gain"] == wanted["readings"][0]["gain"]
    assert client.post("/api/units/3/calibration/fit", json=wanted).json["db_per_step"] == fit["db_per_step"]
    bench = client.post("/api/benches", json={"hole_id": 1, "unit_id": 3, "lure_id": 3}).json
    assert bench["unit"]["calibrated"]["readings"] == 3
    back = client.delete("/api/units/3/calibration").json
    assert back["calibrated"] is None and back["gain"]["first_colour_db"] == 141.0
    is_problem(client.delete("/api/units/3/calibration"), 404, "calibration of unit")
    assert client.get("/api/units/3/calibration").json["wanted"] is None


@pytest.mark.parametrize(
    ("readings", "said"),
    [
        ([], ["readings"]),
        ([{"lure_id": 3, "depth_m": 30.0, "gain": 500.0}], ["readings.0.gain is 500", "readings.0.depth_m is 30 m"]),
        ([{"lure_id": 3, "depth_m": 6.0, "gain": 0.0}], ["end of the gain scale"]),
    ],
)
def test_readings_that_cannot_be_are_refused_and_change_nothing(client, readings, said):
    before = client.get("/api/units").json
    body = {"water": WATER, "readings": readings}
    is_problem(client.post("/api/units/3/calibration/fit", json=body), 422, *said)
    is_problem(client.put("/api/units/3/calibration", json=body), 422, *said)
    assert client.get("/api/units").json == before


# --- gear files ---------------------------------------------------------------------------------------------------


def test_units_and_lures_go_out_as_files_and_come_back_the_same(client):
    for kind, row in (("units", 3), ("lures", 5)):
        text = client.get(f"/api/{kind}/{row}/file").text
        taken = client.post("/api/gear/file", data=text, content_type="application/json")
        assert taken.status_code == 201
        made = taken.json[kind][0]
        back, given = json.loads(client.get(f"/api/{kind}/{made['id']}/file").text), json.loads(text)
        assert made["name"] == back[kind][0].pop("name") == f"{given[kind][0].pop('name')} (2)"  # it is here twice now
        assert back == given


def test_a_bad_gear_file_is_refused_with_its_line_and_nothing_is_taken_in(client):
    text = client.get("/api/units/3/file").text
    before = client.get("/api/units").json
    for spoiled, said in (
        (text.replace('"rows": 360', '"rows": 3'), ["line", "units.0.rows is 3"]),
        (text.replace("hollow_glint_gear", "gear"), ["not a gear file"]),
        (text.replace('"minimum": 0.0', '"minimum": 200.0'), ["line", "gain.maximum is 100"]),
    ):
        is_problem(client.post("/api/gear/file", data=spoiled, content_type="application/json"), 422, *said)
    assert client.get("/api/units").json == before


def test_a_form_is_checked_without_being_kept(client):
    unit = {
        key: value for key, value in client.get("/api/units").json["units"][0].items() if key not in ("id", "version")
    }
    before = client.get("/api/units").json
    assert client.post("/api/units/check", json=unit).json == {"odd": []}
    is_problem(client.post("/api/units/check", json={**unit, "ranges_m": [9, 3]}), 422, "smallest to largest")
    assert client.get("/api/units").json == before
