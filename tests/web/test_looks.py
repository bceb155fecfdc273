"""Live looks on the web: started, streamed, hung anew, touched, freed; and the Bench at the hole that one led to."""

from __future__ import annotations

import base64
import json

import numpy as np
import pytest

from hollow_glint.core.search.patch import Standing

from ..core.search.waters import flat
from .test_web import is_problem

BINS = 512


def begin(client, **more):
    made = client.post("/api/search/looks", json={"seed": 5001, "hang": {"gain_db": 34.0}, **more})
    assert made.status_code == 201, made.json
    return made.json


def events(client, look_id: str, count: int) -> list[dict]:
    """The first `count` frames of a look's stream."""
    out = []
    stream = client.get(f"/api/search/looks/{look_id}/stream")
    assert stream.headers["Content-Type"].startswith("text/event-stream")
    for part in stream.response:
        text = part if isinstance(part, str) else part.decode()
        name, told = text.strip().split("\n")
        assert name == "event: turned"
        out.append(json.loads(told.removeprefix("data: ")))
        if len(out) == count:
            break
    stream.close()
    return out


def turned(app, look_id: str, seconds: float):
    """Let a look's water go on without waiting for it."""
    look = app.config["live_looks"].get(look_id).look
    look.advance(seconds)
    return look


def test_a_look_turns_bearing_by_bearing(client):
    look = begin(client)
    assert (look["bearings"], look["bins"], look["time_s"]) == (240, BINS, 0.0)
    told = events(client, look["id"], 12)
    which = [one for frame in told for one in frame["which"]]
    assert which == list(range(len(which))) and len(which) >= 12 * 0.1 / (look["turn_s"] / 240) - 1
    rows = np.frombuffer(base64.b64decode(told[-1]["levels"]), np.uint8).reshape(-1, BINS)
    assert len(rows) == len(told[-1]["which"]) and 0 < rows.max() <= look["steps"]
    assert told[-1]["now_s"] == pytest.approx(1.2)


def test_who_lives_here_lists_every_thing_once(client, app):
    look = begin(client, seed=21)
    assert client.get(f"/api/search/looks/{look['id']}/things").json == {"things": []}  # one turn tells no mover
    turned(app, look["id"], 3.0 * look["turn_s"])
    things = client.get(f"/api/search/looks/{look['id']}/things").json["things"]
    kinds = [one["kinds"][0]["kind"] for one in things]
    assert "standing" in kinds and len(things) >= 3
    marks = [(mark["bearing_deg"], mark["range_m"]) for one in things for mark in one["marks"]]
    assert len(marks) == len(set(marks))
    for one in things:
        query = f"bearing_deg={one['marks'][0]['bearing_deg']}&range_m={one['marks'][0]['range_m']}"
        touched = client.get(f"/api/search/looks/{look['id']}/thing?{query}").json
        assert touched["fix"] == one["fix"] and touched["ice"] == one["ice"]


def test_the_same_seed_is_the_same_water(client, app):
    pictures = []
    for _ in range(2):
        look = begin(client)
        turned(app, look["id"], 20.0)
        pictures.append(client.get(f"/api/search/looks/{look['id']}/picture").json["levels"])
        assert client.delete(f"/api/search/looks/{look['id']}").status_code == 204
    assert pictures[0] == pictures[1]


def test_hung_anew_it_looks_further(client, app):
    look = begin(client)
    wanted = look["hang"] | {"range_m": 30.0}
    assert client.post(f"/api/search/looks/{look['id']}/hang", json=wanted).json["hang"]["range_m"] == 30.0
    assert events(client, look["id"], 1)[0]["hang"]["range_m"] == 30.0
    bad = client.post(f"/api/search/looks/{look['id']}/hang", json=wanted | {"range_m": 500.0})
    is_problem(bad, 422, "range_m")


def test_what_is_touched_is_told_with_reasons_and_a_fix(client, app):
    look = begin(client)
    truth = client.get(f"/api/search/looks/{look['id']}/truth").json
    assert {one["kind"] for one in truth["groups"]} == {"school", "hunters", "single"} and truth["lines"]
    boulder = Standing("boulder", 9.0, 9.0, 1.5, 2.2, 2.2)
    app.config["live_looks"].get(look["id"]).look.patch = flat(9.4, "sand", (boulder,))
    turned(app, look["id"], 40.0)
    assert client.get(f"/api/search/looks/{look['id']}/truth").json["standing"][0]["kind"] == "boulder"
    asked = {"bearing_deg": 45.0, "range_m": 14.7}
    found = client.get(f"/api/search/looks/{look['id']}/thing", query_string=asked).json
    assert found["marks"] and found["kinds"][0]["kind"] == "standing" and found["kinds"][0]["why"]
    assert found["ice"]["low_m"] < found["fix"]["range_m"] and found["fix"]["bearing_sd_deg"] > 0.0
    nothing = client.get(f"/api/search/looks/{look['id']}/thing", query_string=asked | {"range_m": 0.5}).json
    assert nothing == {"marks": [], "kinds": [], "fix": None, "ice": None}


def test_there_are_so_many_looks_and_no_more(client, app):
    app.config["live_looks"].most = 1
    look = begin(client)
    is_problem(client.post("/api/search/looks", json={}), 503, "All 1 live looks are in use. Close the Search page")
    assert client.delete(f"/api/search/looks/{look['id']}").status_code == 204
    is_problem(client.get(f"/api/search/looks/{look['id']}/picture"), 404, "no live look")
    is_problem(client.delete(f"/api/search/looks/{look['id']}"), 404, "no live look")


def test_the_bench_at_the_new_hole_has_the_looks_water_and_its_school(client, app):
    look = begin(client)
    water = turned(app, look["id"], 30.0).patch
    school = next(one for one in water.groups if one.kind == "school")
    at_s = 150.0
    east, north = school.centre(np.array([at_s + 60.0]))[0]
    unit, lure = client.get("/api/units").json["units"][0]["id"], client.get("/api/lures").json["lures"][0]["id"]
    body = {
        "unit_id": unit, "lure_id": lure,
        "drilled_at": {"seed": look["seed"], "hole_east_m": float(east), "hole_north_m": float(north), "at_s": at_s},
    }  # fmt: skip
    made = client.post("/api/benches", json=body)
    assert made.status_code == 201, made.json
    depth = float(water.depth_at(np.array([east]), np.array([north]))[0])
    assert made.json["scene"]["bottom_depth_m"] == pytest.approx(depth) and made.json["hole_id"] is None
    run = app.config["live_benches"].get(made.json["id"]).run
    seen = 0
    for _ in range(int(70.0 / 0.05)):
        seen = max(seen, len(run.advance().fish))
    assert seen >= 3, "the school comes by when the look has it come by"
    is_problem(client.post("/api/benches", json=body | {"lure_id": None}), 422, "lure_id is missing")
    off = body | {"drilled_at": body["drilled_at"] | {"hole_east_m": 150.0}}
    is_problem(client.post("/api/benches", json=off), 422, "accepted is a place in the water looked at")


def test_water_round_a_place_of_a_lake(client, app):
    lake = client.post("/api/lakes", json={"name": "Stilltarn"}).json["id"]
    felt = [
        {"east_m": east, "north_m": north, "depth_m": depth, "how": "drilled hole", "bottom": "gravel"}
        for east, north, depth in ((0, 0, 6), (40, 0, 9), (0, 40, 5), (40, 40, 8), (-40, 0, 4), (0, -40, 7))
    ]
    assert client.post(f"/api/lakes/{lake}/soundings", json={"soundings": felt}).status_code == 201
    body = {"east_m": 12, "north_m": 6, "kind": "boulder"}
    assert client.post(f"/api/lakes/{lake}/structures", json=body).status_code == 201
    look = begin(client, lake_id=lake, east_m=4.0, north_m=0.0)
    assert 5.0 < look["bottom_depth_m"] < 8.0
    truth = client.get(f"/api/search/looks/{look['id']}/truth").json
    assert [(one["kind"], one["east_m"], one["north_m"]) for one in truth["standing"]] == [("boulder", 8.0, 6.0)]
    is_problem(client.post("/api/search/looks", json={"lake_id": 999}), 404, "999")


def test_heading_kind_by_hand_and_fewer_holes(client):
    told = client.post("/api/search/heading", json={"known": [{"true_deg": 350.0, "seen_deg": 12.0}]}).json
    assert told["say"] == "correct" and told["error_deg"] == pytest.approx(22.0)
    seen = {"marks": 12, "spread_m": 1.5, "largest_m": None, "stays": 0.0}
    assert client.post("/api/search/kind", json=seen).json["kinds"][0]["kind"] == "school"
    fix = client.post("/api/search/by-hand", json={"clock": 1.5, "range_m": 12.0, "time_s": 3.0}).json
    assert fix["bearing_deg"] == 45.0 and fix["range_sd_m"] > 0.5
    is_problem(client.post("/api/search/by-hand", json={"clock": 13.0, "range_m": 12.0, "time_s": 3.0}), 422, "clock")
    shore = [[0, 0], [200, 0], [200, 100], [0, 100]]
    plan = client.post(
        "/api/search/fewer-holes", json={"shore": shore, "look_radius_m": 18.3, "cone_radius_m": 1.0}
    ).json
    assert 15 < len(plan["looks"]) < 45 and plan["blind"] > 5000
    crossed = {"shore": [[0, 0], [9, 9], [9, 0], [0, 9]], "look_radius_m": 18.3, "cone_radius_m": 1.0}
    is_problem(client.post("/api/search/fewer-holes", json=crossed), 422, "shore")
