"""Gear, scenes, exercises and touched marks through the web: what people make, keep and exchange on the Bench."""

from __future__ import annotations

import json

import pytest

from .test_web import is_problem


@pytest.fixture
def unit(client) -> dict:
    return {
        key: value for key, value in client.get("/api/units").json["units"][1].items() if key not in ("id", "version")
    }


def test_a_unit_is_copied_changed_and_removed(client, unit):
    made = client.post("/api/units", json={**unit, "name": "Mine"})
    assert made.status_code == 201
    gain = {**unit["gain"], "minimum": 0, "maximum": 30, "step": 0.5}
    changed = client.put(
        f"/api/units/{made.json['id']}", json={**unit, "name": "Mine", "gain": gain}, headers={"If-Match": '"1"'}
    )
    assert changed.json["gain"]["maximum"] == 30
    gear = {"unit_id": made.json["id"], "lure_id": 3}
    bench = client.post("/api/benches", json={"hole_id": 1, **gear}).json
    sheet = client.post("/api/holes/1/calls", json={**gear, "seen": None}).json
    assert bench["settings"]["gain"] == sheet["settings"]["gain"] == 9.5  # on its own scale
    assert client.delete(f"/api/units/{made.json['id']}").status_code == 200
    is_problem(client.delete(f"/api/units/{made.json['id']}"), 404, "no unit")
    is_problem(client.delete("/api/units/1"), 409, "6 logged strikes")


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"ranges_m": [10.0, 5.0]}, ["ranges_m", "smallest to largest"]),
        ({"beams": []}, ["beams"]),
        ({"gain": {"minimum": 5, "maximum": 5, "step": 1, "db_per_step": 1, "first_colour_db": 140}}, ["gain.maximum"]),
        ({"rejections": [{"pings": 40}]}, ["rejections.0.pings is 40"]),
        ({"colour": "red"}, ["colour is not a field"]),
    ],
)
def test_bad_units_are_named_and_not_written(client, unit, change, said):
    before = client.get("/api/units").json
    is_problem(client.post("/api/units", json={**unit, **change}), 422, *said)
    assert client.get("/api/units").json == before


def test_lures_of_every_form(client):
    for form, more in (
        ("jig", {}),
        ("baited jig", {"length_m": 0.03}),
        ("chain jig", {"spacing_m": 0.06}),
        ("two jigs", {"spacing_m": 0.15}),
        ("spoon", {"length_m": 0.05}),
        ("minnow", {"length_m": 0.06}),
        ("camera", {"length_m": 0.08}),
    ):
        made = client.post("/api/lures", json={"name": f"A {form}", "form": form, "diameter_m": 0.006, **more})
        assert made.status_code == 201, made.text
        fields = {key: value for key, value in made.json.items() if key not in ("id", "version")}
        headers = {"If-Match": made.headers["ETag"]}
        again = client.put(f"/api/lures/{made.json['id']}", json={**fields, "id": None}, headers=headers)
        is_problem(again, 422, "id is not a field")
        again = client.put(f"/api/lures/{made.json['id']}", json={**fields, "diameter_m": 0.007}, headers=headers)
        assert again.json == {**made.json, "diameter_m": 0.007, "version": 2} and again.headers["ETag"] == '"2"'
    is_problem(client.post("/api/lures", json={"name": "x", "form": "spoon", "diameter_m": 0.01}), 422, "length_m is 0")
    is_problem(client.post("/api/lures", json={"name": "x", "diameter_m": 0.5}), 422, "diameter_m is 0.5")


# --- scenes -------------------------------------------------------------------------------------------------------


def scene_file(client, scene_id: int = 1) -> str:
    return client.get(f"/api/scenes/{scene_id}/file").text


def test_a_scene_goes_out_as_a_file_and_comes_back_the_same(client):
    text = scene_file(client)
    taken = client.post("/api/scenes/file", data=text, content_type="application/json")
    assert taken.status_code == 201
    assert json.loads(scene_file(client, taken.json["id"])) == json.loads(text)
    # It opens on the Bench as it was kept.
    bench = client.post("/api/benches", json={"scene_id": taken.json["id"]}).json
    document = json.loads(text)
    assert bench["scene"] == document["scene"] and bench["settings"] == document["settings"]
    assert bench["lure_depth_m"] == document["lure_depth_m"] and bench["seed"] == document["seed"]
    assert client.delete(f"/api/scenes/{taken.json['id']}").status_code == 200


def swap(old: str, new: str):
    return lambda text: text.replace(old, new)


@pytest.mark.parametrize(
    ("spoil", "said"),
    [
        (lambda text: "not a file", ["line 1", "not JSON"]),
        (lambda text: text[: len(text) // 2], ["line", "not JSON"]),
        (lambda text: "{}", ["line 1", "not a scene file"]),
        (
            lambda text: text.replace('"hollow_glint_scene": 1', '"hollow_glint_scene": 9'),
            ["line 2", "reads version 1"],
        ),
        (
            lambda text: text.replace('"bottom_depth_m": 9.1', '"bottom_depth_m": 900'),
            ["line 6", "bottom_depth_m is 900"],
        ),
        (
            lambda text: text.replace('"bottom_depth_m": 9.1', '"bottom_depth_m": 0.55'),
            ["line 8: ice_thickness_m is 0.4"],
        ),
        (swap('"bottom_kind": "mud"', '"bottom_kind": "goo"'), ["line 7", 'bottom_kind is "goo"']),
        (swap('"seed": 7', '"seed": NaN'), ["NaN"]),
        (lambda text: "[" * 4000, ["nested too deeply"]),
    ],
)
def test_a_bad_scene_file_is_refused_with_its_line_and_field(client, spoil, said):
    before = client.get("/api/scenes").json
    answer = client.post("/api/scenes/file", data=spoil(scene_file(client)), content_type="application/json")
    is_problem(answer, answer.status_code, *said)
    assert answer.status_code in (400, 422)
    assert client.get("/api/scenes").json == before


def test_a_kept_scene_with_another_unit_starts_in_that_units_numbers(client):
    bench = client.post("/api/benches", json={"scene_id": 1, "unit_id": 2}).json
    unit = client.get("/api/units").json["units"][1]
    assert bench["unit"]["name"] == unit["name"]
    assert unit["gain"]["minimum"] <= bench["settings"]["gain"] <= unit["gain"]["maximum"]


def test_a_bench_starts_from_exactly_one_thing(client):
    is_problem(client.post("/api/benches", json={}), 422, "one of hole_id, scene_id, exercise and drilled_at")
    both = {"hole_id": 1, "scene_id": 1, "unit_id": 1, "lure_id": 1}
    is_problem(client.post("/api/benches", json=both), 422, "hole_id and scene_id")
    is_problem(client.post("/api/benches", json={"exercise": "juggle"}), 422, "juggle", "find the bottom")


# --- exercises ----------------------------------------------------------------------------------------------------


def test_an_exercise_ends_when_its_aim_is_met_and_is_remembered(client, app):
    listed = client.get("/api/exercises").json["exercises"]
    assert len(listed) >= 8 and all(one["done_at"] is None for one in listed)
    made = client.post("/api/benches", json={"exercise": "find the bottom"}).json
    one = app.config["live_benches"].get(made["id"])
    kinds = [event["kind"] for _ in range(60) for event in one.step()[1]]
    assert "aim met" not in kinds  # it starts from a bad setting
    command = {"settings": {**made["settings"], "gain": 60.0, "range_m": 9.144}}
    assert client.post(f"/api/benches/{made['id']}/commands", json=command).status_code == 202
    kinds = [event["kind"] for _ in range(120) for event in one.step()[1]]
    assert kinds.count("aim met") == 1
    done = {one["key"]: one["done_at"] for one in client.get("/api/exercises").json["exercises"]}
    assert done["find the bottom"] and not done["set the window"]


# --- marks --------------------------------------------------------------------------------------------------------


def test_a_touched_mark_is_named_with_where_it_is_and_why(client, app):
    made = client.post("/api/benches", json={"scene_id": 1}).json
    one = app.config["live_benches"].get(made["id"])
    for _ in range(20):
        one.step()
    face = made["scene"]["face_depth_m"]
    mark = client.get(f"/api/benches/{made['id']}/mark?range_m={made['lure_depth_m'] - face + 0.03}").json
    assert mark["kind"] == "lure" and mark["depth_m"] == pytest.approx(made["lure_depth_m"], abs=0.05)
    below = made["scene"]["bottom_depth_m"] - face + 0.05
    assert client.get(f"/api/benches/{made['id']}/mark?range_m={below}").json["kind"] == "bottom"
    is_problem(client.get(f"/api/benches/{made['id']}/mark?range_m=2&ping=9999"), 404, "five minutes")
