"""Searches for real on the web: the scenes, a search kept once, its debrief, and what is refused."""

from __future__ import annotations

import numpy as np

from hollow_glint.core.fan.card import card_at
from hollow_glint.core.fan.head import FAN_HEADS
from hollow_glint.core.fields import from_fields
from hollow_glint.core.searches import debrief
from hollow_glint.core.searches.scenes import SCENES, scene_water
from hollow_glint.core.searches.searched import Searched
from hollow_glint.core.searches.searcher import Way

from .test_fans import frames
from .test_looks import begin, events, turned
from .test_web import is_problem

HANG = {"at_s": 0.0, "hang": {"range_m": 25.0, "gain_db": 33.0}}
GLANCE = {
    "key": "glance of one", "scene": "open", "seed": 3,
    "watches": [{"east_m": 0.0, "north_m": 0.0, "from_s": 0.0, "until_s": 20.0, "hangs": [HANG]}],
    "marks": [{"at_s": 15.0, "bearing_deg": 40.0, "range_m": 9.0}],
}  # fmt: skip


def test_the_scenes_and_what_a_search_is_bound_to(client):
    told = client.get("/api/search/scenes").json
    assert [one["key"] for one in told["scenes"]] == list(SCENES)
    assert all(one["tries"] == 0 and one["best_found"] is None for one in told["scenes"])
    assert (told["schools"], told["lasts_s"]) == (3, 1200.0)
    lines = client.get("/api/search/scenes/edge/map?seed=3").json
    assert set(lines) == {"lines"} and len(lines["lines"]) > 2  # depths, and nothing of who swims or stands there
    is_problem(client.get("/api/search/scenes/sea/map?seed=3"), 422)
    is_problem(client.get("/api/search/scenes/edge/map"), 422)


def test_a_scene_is_looked_at_from_its_holes_and_tells_no_truth(client, app):
    look = begin(client, scene="wood", seed=3, east_m=20.0, north_m=-10.0, start_s=200.0, pace=4)
    (frame,) = events(client, look["id"], 1)
    assert (look["time_s"], frame["now_s"], frame["water_s"]) == (200.0, 200.4, 0.4)
    assert client.post(f"/api/search/looks/{look['id']}/pace", json={"pace": 2}).status_code == 202
    (frame,) = events(client, look["id"], 1)
    assert (frame["now_s"], frame["water_s"]) == (200.6, 0.2)
    patch = app.config["live_looks"].get(look["id"]).look.patch
    water = scene_water(SCENES["wood"], 3)
    assert np.isclose(patch.bottom_depth_m, water.depth_at(np.array([20.0]), np.array([-10.0]))[0])
    assert np.allclose(patch.groups[0].corners_m + np.array([20.0, -10.0]), water.groups[0].corners_m)
    is_problem(client.get(f"/api/search/looks/{look['id']}/truth"), 409, "when the search is over")
    turned(app, look["id"], 30.0)
    assert client.get(f"/api/search/looks/{look['id']}/thing?bearing_deg=10&range_m=8").status_code == 200
    wanted = {"seed": 3, "scene": "wood", "lake_id": 1}
    is_problem(client.post("/api/search/looks", json=wanted), 422, "lake_id", "scene")
    is_problem(client.post("/api/search/looks", json={"seed": 3, "pace": 9}), 422, "pace")


def test_a_search_is_kept_once_told_and_removed(client):
    made = client.post("/api/searches", json=GLANCE)
    assert made.status_code == 201, made.json
    again = client.post("/api/searches", json=GLANCE)
    assert again.json["id"] == made.json["id"]
    (one,) = client.get("/api/searches").json["searches"]
    assert (one["title"], one["holes"], one["watched_s"], one["walked_m"]) == ("Open basin", 1, 20.0, 0.0)
    assert one["found"] + one["wrong"] == 1
    whole = client.get(f"/api/searches/{one['id']}").json
    assert whole["own"]["found"] == one["found"] and len(whole["schools"]) == 3
    assert whole["other"]["watched_s"] > 60.0 and len(whole["other"]["holes"]) >= 1
    assert len(whole["schools"][0]["way"]) == 61 and whole["lines"] and whole["said"]
    scene = client.get("/api/search/scenes").json["scenes"][0]
    assert (scene["tries"], scene["best_found"], scene["best_holes"]) == (1, one["found"], 1)
    removed = client.delete(f"/api/searches/{one['id']}")
    assert removed.status_code == 200 and client.get("/api/searches").json == {"searches": []}
    is_problem(client.get(f"/api/searches/{one['id']}"), 404)
    back = client.post(f"/api/removals/{removed.json['removal']}/undo")
    assert back.status_code < 300 and len(client.get("/api/searches").json["searches"]) == 1


def test_a_search_that_cannot_have_been_is_refused_and_nothing_kept(client):
    def refused(*words: str, **change):
        is_problem(client.post("/api/searches", json={**GLANCE, **change}), 422, *words)

    there = {**GLANCE["watches"][0], "east_m": 30.0, "from_s": 60.0, "until_s": 90.0}
    there["hangs"] = [{**HANG, "at_s": 60.0}]
    refused("watches[1].from_s", "135 s", watches=[*GLANCE["watches"], there])
    refused("marks[0].at_s", "40 s", marks=[{**GLANCE["marks"][0], "at_s": 40.0}])
    refused("east_m", "58", watches=[{**GLANCE["watches"][0], "east_m": 400.0}])
    refused("scene", scene="sea")
    refused("key", key="short")
    assert client.get("/api/searches").json == {"searches": []}


AIMED = {
    "at_s": 0.0, "head": "near reach",
    "hang": {"aim_deg": 70.0}, "settings": {"gain_db": 34.0, "ahead_m": 24.0, "deep_m": 11.0},
}  # fmt: skip
WITH_FAN = {
    "key": "fan of a glance", "scene": "plane", "seed": 3,
    "watches": [{"east_m": 0.0, "north_m": 0.0, "from_s": 0.0, "until_s": 20.0, "aims": [AIMED]}],
    "marks": [{"at_s": 15.0, "bearing_deg": 70.0, "range_m": 9.0}],
}  # fmt: skip


def test_the_fan_looks_at_a_scene_set_by_its_card_and_tells_no_truth(client, app):
    body = {"scene": "plane", "seed": 3, "east_m": 20.0, "north_m": -10.0, "start_s": 200.0, "pace": 4}
    answer = client.post("/api/search/fans", json=body)
    assert answer.status_code == 201, answer.json
    fan = answer.json
    water = scene_water(SCENES["plane"], 3)
    live = app.config["live_fans"].get(fan["id"])
    assert np.allclose(live.look.patch.groups[0].corners_m + np.array([20.0, -10.0]), water.groups[0].corners_m)
    depth = live.look.patch.bottom_depth_m
    by_card = card_at(depth, water.clarity, "search", FAN_HEADS["near reach"]).settings
    assert fan["settings"] == vars(by_card)
    (frame,) = frames(client, fan, 1)
    assert frame["now_s"] == 200.4
    assert client.post(f"/api/search/fans/{fan['id']}/pace", json={"pace": 2}).status_code == 202
    (frame,) = frames(client, fan, 1)
    assert frame["now_s"] == 200.6
    is_problem(client.get(f"/api/search/fans/{fan['id']}/truth"), 409, "when the search is over")
    is_problem(client.post(f"/api/search/fans/{fan['id']}/pace", json={"pace": 9}), 422, "pace")
    is_problem(client.post("/api/search/fans", json={**body, "lake_id": 1}), 422, "lake_id", "scene")
    fishing = {"hole_east_m": 0.0, "hole_north_m": 0.0}
    down = {**body, "hang": {"mounting": "down"}, "fishing": fishing}
    is_problem(client.post("/api/search/fans", json=down), 422, "fishing", "scene")


def test_a_search_with_the_fan_is_kept_and_debriefed(client, monkeypatch):
    # The other's search takes its time and is tested by itself.
    monkeypatch.setattr(debrief, "search", lambda scene, seed, tell: Way(from_fields(Searched, mine, ""), ()))
    mine = {name: value for name, value in WITH_FAN.items() if name != "key"}
    made = client.post("/api/searches", json=WITH_FAN)
    assert made.status_code == 201, made.json
    whole = client.get(f"/api/searches/{made.json['id']}").json
    assert whole["heads"] == ["fan"] and whole["own"]["holes"][0]["aims"] == [[70.0, 24.0]]
    assert (whole["own"]["holes"][0]["range_m"], whole["found"] + whole["wrong"]) == (0.0, 1)
    (scene,) = [one for one in client.get("/api/search/scenes").json["scenes"] if one["key"] == "plane"]
    assert (scene["heads"], scene["fan"], scene["thickness_deg"], scene["tries"]) == (["fan"], "near reach", 18.0, 1)

    def refused(*words: str, **change):
        is_problem(client.post("/api/searches", json={**WITH_FAN, "key": "another fan", **change}), 422, *words)

    (watch,) = WITH_FAN["watches"]
    refused("hangs, aims", watches=[{**watch, "hangs": [HANG]}])
    refused("aims.head", "near reach", watches=[{**watch, "aims": [{**AIMED, "head": "far reach"}]}])
    refused("with the fan", scene="open")
    refused("ahead_m", watches=[{**watch, "aims": [{**AIMED, "settings": {"ahead_m": 55.0}}]}])
    assert len(client.get("/api/searches").json["searches"]) == 1
