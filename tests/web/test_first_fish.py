"""How a Bench begins: on half a minute of water, and in the demo with a fish that is caught by the README's letter."""

from __future__ import annotations

import base64
import re
import shutil

import pytest

from hollow_glint.core.bench.command import Command
from hollow_glint.core.fish.hand import LIFT_SLOWLY
from hollow_glint.store.database import Database
from hollow_glint.web.app import create_app
from hollow_glint.web.bench.first_fish import SEED


def test_a_bench_begins_with_half_a_minute_of_water_and_the_lure_where_the_card_has_it(client):
    made = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3}).json
    past = made["past"]
    assert past["pings"] == 600 and past["number"] == 0 and past["events"] == []
    assert len(base64.b64decode(past["levels"])) == past["pings"] * past["rows"]
    hole = client.get("/api/holes").json["holes"][0]
    assert made["lure_depth_m"] == pytest.approx(hole["bottom_depth_m"] - 1.2, abs=0.01)
    exercise = client.post("/api/benches", json={"exercise": "find the bottom"}).json
    assert exercise["past"]["pings"] > 100


def _by_the_letter(app, late_s: float, look_s: float, set_s: float) -> str:
    """What comes of the first Bench of a demo when the README is followed, with these delays of the hand [s]."""
    client = app.test_client()
    made = client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3}).json
    run = app.config["live_benches"].get(made["id"]).run
    state, since, commands = "watch", 0.0, []
    while run.time_s < 60.0:
        frame = run.advance(commands)
        commands = []
        told = [event.kind for event in frame.events]
        if "hooked" in told:
            return f"hooked at {frame.time_s:.0f} s"
        if state == "watch" and "noticed" in told:
            state, since = "turned", frame.time_s
        elif state == "turned" and frame.time_s - since >= late_s:
            state, commands = "lifting", [Command(lift_m_s=LIFT_SLOWLY)]
        elif state == "lifting" and "marks touching" in told:
            state, since = "touching", frame.time_s
        elif state == "touching" and frame.time_s - since >= look_s:
            state, commands = "on the rod", [Command(eyes="rod")]
        if "bite" in told:
            state, since = "bends", frame.time_s
        elif state == "bends" and frame.time_s - since >= set_s:
            state, commands = "set", [Command(eyes="rod", set_hook=True)]
    return "nothing"


@pytest.mark.parametrize(("late_s", "look_s", "set_s"), [(0.5, 0.5, 0.5), (3.0, 1.5, 1.2), (1.5, 0.3, 0.9)])
def test_the_demos_first_fish_is_caught_by_who_follows_the_readme(tmp_path, seeded, late_s, look_s, set_s):
    shutil.copy(seeded, tmp_path / "demo.sqlite3")
    app = create_app(Database(tmp_path / "demo.sqlite3"), demo=True)
    assert re.match(r"hooked at (2|3|4)\d s", _by_the_letter(app, late_s, look_s, set_s))


def test_outside_the_demo_and_after_its_first_bench_chance_says_which_water_it_is(tmp_path, seeded):
    for demo, same in ((True, 1), (False, 0)):
        shutil.copy(seeded, tmp_path / "store.sqlite3")
        client = create_app(Database(tmp_path / "store.sqlite3"), demo=demo).test_client()
        made = [client.post("/api/benches", json={"hole_id": 1, "unit_id": 1, "lure_id": 3}).json for _ in range(3)]
        assert len({one["seed"] for one in made}) == 3
        assert sum(one["seed"] == SEED for one in made) == same
