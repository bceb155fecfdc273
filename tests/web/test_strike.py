"""The Strike step through the application: runs, debriefs, what-ifs, the lab, the rise line, the strike sheet."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta

import pytest

from hollow_glint.core.bench.command import Command
from hollow_glint.core.runs.replay import replay, story
from hollow_glint.formats import run_file
from hollow_glint.store import runs
from tests.noting import note


def live(client, app, **wanted):
    """A run just begun, and its live bench."""
    answer = client.post("/api/runs/start", json={"level": "willing", "seed": 2, **wanted})
    assert answer.status_code == 201, answer.json
    return answer.json, app.config["live_benches"].get(answer.json["id"])


def played(client, app, seconds=16.0, **wanted):
    """A run lowered to its level's depth and ended after a while: what was kept of it."""
    made, bench = live(client, app, **wanted)
    bench.command(Command(to_depth_m=made["run"]["goal_m"]))
    for _ in range(round(seconds / 0.05)):
        bench.step()
    return client.post(f"/api/benches/{made['id']}/end-run", json={}).json


def test_a_run_hides_the_truth_until_it_is_over(client, app):
    made, bench = live(client, app)
    assert made["run"]["key"] == "willing" and made["scene"]["visitors"] == 6
    bench.command(Command(to_depth_m=made["run"]["goal_m"]))
    for _ in range(360):
        frame, events = bench.step()
        assert frame.fish == () and frame.school.size == 0
        assert frame.rod_tip in ("unwatched", "felt")
        assert {event["kind"] for event in events} <= {"hooked", "landed", "nothing on", "came off", "run over"}
    assert bench.run.striking.visitors.count > 0, "a fish is there, and not shown"
    answer = client.get(f"/api/benches/{made['id']}/mark?range_m=5")
    assert answer.status_code == 409 and "hidden" in answer.json["detail"]


def test_a_set_on_nothing_and_a_set_too_early_feel_the_same(client, app):
    _, bench = live(client, app)
    bench.command(Command(set_hook=True))
    _, events = bench.step()
    assert [event["kind"] for event in events] == ["nothing on"]


def test_the_tip_is_seen_only_by_eyes_on_it(client, app):
    _, bench = live(client, app)
    frame, _ = bench.step()
    assert frame.rod_tip == "unwatched"
    bench.command(Command(eyes="rod"))
    frame, _ = bench.step()
    assert frame.rod_tip == "still"


def test_a_run_is_kept_once_and_replays_identically(client, app):
    kept = played(client, app)
    store = app.config["database"]
    assert [one.id for one in runs.every(store)] == [kept["id"]]
    log = runs.log_of(store, kept["id"])
    assert log.frames == 320 and log.commands[0][1].to_depth_m is not None
    first, again = list(replay(log)), list(replay(log))
    assert b"".join(f.to_bytes() for f in first) == b"".join(f.to_bytes() for f in again)
    # What was shown is what the log plays.
    picture = runs.picture_of(store, kept["id"])
    assert picture.levels.shape[0] == sum(frame.levels.shape[0] for frame in first)
    shown = [row.tobytes() for frame in first for row in frame.levels]
    assert [row.tobytes() for row in picture.levels] == shown


def test_a_run_ends_by_itself_when_a_fish_is_landed(client, app):
    made, bench = live(client, app)
    bench.command(Command(to_depth_m=made["run"]["goal_m"]))
    truth = bench.run.striking
    lifted = bit = 0
    for k in range(4700):
        _, events = bench.step()
        looking = any(f.mood in ("curious", "following") and f.aside_m < 0.8 for f in truth.truths())
        if looking and not lifted:
            bench.command(Command(lift_m_s=0.025, eyes="rod"))
            lifted = k
        bit = bit + 1 if any(f.mood == "mouthing" for f in truth.truths()) else 0
        if bit == 6:
            bench.command(Command(set_hook=True))
        if any(event["kind"] == "run over" for event in events):
            break
    assert bench.play.over_as is not None and bench.freed
    kept = client.get(f"/api/runs/{bench.play.over_as}").json
    assert kept["outcome"] == "landed" and kept["species"] == "whitefish" and kept["landed_m"] > 0.2
    assert {one["code"] for one in kept["judged"] if one["is_good"]} >= {"eyes", "set", "landed"}


def test_the_debrief_has_truth_rod_and_attention_on_one_time_line(client, app):
    kept = played(client, app)
    whole = client.get(f"/api/runs/{kept['id']}").json
    n = len(whole["time_s"])
    assert n == len(whole["lure_m"]) == len(whole["rising_m_s"]) == len(whole["bend"]) == len(whole["tip"])
    assert whole["tracks"] and all(len(t["time_s"]) == len(t["depth_m"]) for t in whole["tracks"])
    assert len(whole["next"]) == 2 and whole["has_picture"]
    pings = client.get(f"/api/runs/{kept['id']}/pings").json
    assert pings["count"] > 200
    beats = story(runs.log_of(app.config["database"], kept["id"]))
    assert whole["lure_m"] == [round(beat.lure_m, 3) for beat in beats[::4]]


def test_what_if_is_deterministic_and_another_hand_takes_over(client, app):
    kept = played(client, app)
    asked = {"time_s": 14.0, "hand": "slow lift"}
    one, two = (client.post(f"/api/runs/{kept['id']}/what-if", json=asked).json for _ in range(2))
    assert one == two and one["outcome"] == "landed"
    made, bench = live(client, app, level=None, seed=None, branch_of=kept["id"], branch_at_s=12.0)
    assert made["run"]["begins_s"] == pytest.approx(12.0) and bench.run.time_s == pytest.approx(12.0)
    frame, _ = bench.step()
    assert frame.number == 241
    branch = client.post(f"/api/benches/{made['id']}/end-run", json={}).json
    assert branch["branch_of"] == kept["id"] and branch["branch_at_s"] == pytest.approx(12.0)
    store = app.config["database"]
    assert story(runs.log_of(store, branch["id"]))[:240] == story(runs.log_of(store, kept["id"]))[:240]


def test_the_run_file_is_whole_and_a_bad_one_is_refused(client, app):
    kept = played(client, app, seconds=2.0)
    text = client.get(f"/api/runs/{kept['id']}/file").get_data(as_text=True)
    log = run_file.read(text)
    assert log == runs.log_of(app.config["database"], kept["id"]) and run_file.read(run_file.write(log)) == log
    given = json.loads(text)
    given["setup"]["day"]["mood"] = "sulky"
    with pytest.raises(ValueError, match=r"line \d+: setup.day.mood"):
        run_file.read(json.dumps(given, indent=2))
    given["setup"]["day"]["mood"] = "hot"
    given["commands"][0]["frame"] = 4000
    with pytest.raises(ValueError, match=r"commands.frame is 4000"):
        run_file.read(json.dumps(given, indent=2))


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({}, "level"),
        ({"level": "nosuch"}, "level"),
        ({"level": "willing", "mood": "sulky"}, "mood"),
        ({"level": "willing", "line": "rope"}, "line"),
        ({"level": "willing", "branch_of": 1}, "branch_of"),
        ({"level": "willing", "seed": -1}, "seed"),
        ({"level": "willing", "colour": "red"}, "colour"),
        ({"level": "deep", "unit_id": 1, "hole_id": 1, "start": "odd"}, "start"),
    ],
)  # fmt: skip
def test_bad_runs_name_the_field(client, body, field):
    answer = client.post("/api/runs/start", json=body)
    assert answer.status_code == 422 and field in answer.json["detail"]


def test_runs_that_are_not_there(client, app):
    for method, path, body in (
        ("get", "/api/runs/99", None), ("get", "/api/runs/99/pings", None), ("get", "/api/runs/99/file", None),
        ("delete", "/api/runs/99", None), ("post", "/api/runs/99/what-if", {"time_s": 1.0, "hand": "hold"}),
        ("post", "/api/runs/start", {"branch_of": 99, "branch_at_s": 1.0}),
    ):  # fmt: skip
        assert getattr(client, method)(path, json=body).status_code == 404
    made = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3}).json
    assert client.post(f"/api/benches/{made['id']}/end-run", json={}).status_code == 409
    kept = played(client, app, seconds=1.0)
    assert client.delete(f"/api/runs/{kept['id']}").status_code == 200
    assert client.get("/api/runs").json["runs"] == []


def test_a_runs_water_is_what_it_is(client, app):
    made, _ = live(client, app)
    answer = client.post(f"/api/benches/{made['id']}/commands", json={"scene": made["scene"]})
    assert answer.status_code == 422 and "scene" in answer.json["detail"]


def test_a_run_at_a_hole_with_own_gear(client, app):
    made, _ = live(client, app, hole_id=3, unit_id=4, lure_id=2)
    hole = client.get("/api/holes/3").json
    assert made["scene"]["bottom_depth_m"] == hole["bottom_depth_m"] and made["hole_id"] == 3


def test_the_lab_answers_the_same_for_the_same_day(client):
    patterns = client.get("/api/cadence/patterns").json["patterns"]
    assert len(patterns) >= 5
    asked = [{name: one[name] for name in ("key", "moves", "start_m")} for one in patterns[:2]]
    body = {"patterns": asked, "mood": "hot", "seed": 4, "fish": 40}
    one, two = (client.post("/api/cadence", json=body).json for _ in range(2))
    assert one == two
    assert all(o["low"] <= o["share"] <= o["high"] and o["took"] <= o["came"] <= 40 for o in one["outcomes"])
    answer = client.post("/api/cadence", json={"patterns": [{"key": "x", "moves": [{"seconds": 0.0}]}]})
    assert answer.status_code == 422 and "seconds" in answer.json["detail"]


def test_the_holes_rise_line_is_todays_alone(client, app):
    store = app.config["database"]
    old = (datetime.now(UTC) - timedelta(days=2)).strftime("%Y-%m-%dT%H:%M:%SZ")
    note(store, 2, old, "turned", 1.0)
    assert client.get("/api/holes/2/rise-line").json == {"heights": [], "line": None}
    ids = [
        client.post("/api/holes/2/heights", json={"depth_m": depth, "turned": True}).json["id"]
        for depth in (2.6, 2.9, 2.7)
    ]
    line = client.get("/api/holes/2/rise-line").json["line"]
    assert line["fish"] == 3 and line["high_m"] <= line["depth_m"] <= line["low_m"]
    assert client.delete(f"/api/holes/1/heights/{ids[0]}").status_code == 404
    assert client.delete(f"/api/holes/2/heights/{ids[0]}").status_code == 200
    assert client.get("/api/holes/2/rise-line").json["line"]["fish"] == 2
    assert client.post("/api/holes/2/heights", json={"depth_m": -1.0, "turned": True}).status_code == 422
    assert client.post("/api/holes/99/heights", json={"depth_m": 1.0, "turned": True}).status_code == 404


def test_the_sheet_climbs_the_ladder_and_takes_a_touch_back(client):
    def sheet():
        return client.get("/api/holes/2/strike-sheet?species=char&at_hole_s=60").json

    def touch(kind, trying="slow lift"):
        body = {"kind": kind, "trying": trying, "species": "char", "depth_m": 2.5}
        return client.post("/api/holes/2/touches", json=body)

    assert sheet()["trying"] == "slow lift" and sheet()["evidence"] == []
    last = [touch("look").json["id"] for _ in range(3)][-1]
    assert sheet()["trying"] == "lift and wait"
    assert client.delete(f"/api/holes/2/touches/{last}").status_code == 200
    assert sheet()["trying"] == "slow lift"
    touch("bite", "pound")
    found = sheet()
    assert found["trying"] == "pound" and found["best_depth_m"] == pytest.approx(2.5)
    assert [one["kind"] for one in found["touches"]] == ["bite", "look", "look"]
    # Another species has its own day.
    assert client.get("/api/holes/2/strike-sheet?species=burbot").json["touches"] == []
    assert touch("wave").status_code == 422
    assert client.get("/api/holes/2/strike-sheet?species=perch").status_code == 422
    assert client.get("/api/holes/99/strike-sheet").status_code == 404


def test_choices_count_what_was_played(client, app):
    played(client, app, seconds=1.0)
    levels = {one["key"]: one for one in client.get("/api/runs/choices").json["levels"]}
    assert len(levels) == 11 and levels["willing"]["runs"] == 1 and levels["night"]["runs"] == 0
