"""The forward fan over the web: started, heard, aimed and set; advised, measured; what is wrong is refused by name."""

from __future__ import annotations

import base64
import json

import numpy as np
import pytest

from hollow_glint.core.fan.head import CONTROLS, FAN_HEADS
from hollow_glint.web.search.fans import MOST_FANS

HANG = {"aim_deg": 20.0, "depth_m": 0.9}


@pytest.fixture
def fan(client):
    answer = client.post("/api/search/fans", json={"seed": 21, "hang": HANG, "lures": [{"depth_m": 4.0}]})
    assert answer.status_code == 201, answer.json
    return answer.json


def frames(client, fan, count=2):
    """The first events of its stream."""
    answer = client.get(f"/api/search/fans/{fan['id']}/stream")
    found, text = [], ""
    for chunk in answer.response:
        text += chunk if isinstance(chunk, str) else chunk.decode()
        found = [json.loads(line[6:]) for line in text.splitlines() if line.startswith("data: ")]
        if len(found) >= count:
            break
    answer.close()
    return found


def levels(frame, fan):
    return np.frombuffer(base64.b64decode(frame["levels"]), np.uint8).reshape(fan["beams"], fan["bins"])


def told(client, fan, hang=None, settings=None, lures=None):
    body = {
        "hang": {**fan["hang"], **(hang or {})},
        "settings": {**fan["settings"], **(settings or {})},
        "lures": lures,
    }
    return client.post(f"/api/search/fans/{fan['id']}/set", json=body)


def test_the_heads_are_listed_with_the_controls_they_have(client):
    heads = client.get("/api/search/fan-heads").json["heads"]
    assert [one["key"] for one in heads] == list(FAN_HEADS)
    for one in heads:
        assert set(one["controls"]) == {control for control in CONTROLS if FAN_HEADS[one["key"]].has(control)}
        assert one["fan_deg"] == 135.0 and one["seams_deg"] == [-22.5, 22.5]


def test_its_picture_is_the_cores_and_follows_the_hand(client, fan):
    first, second = frames(client, fan)
    shown = levels(first, fan)
    assert shown.max() <= fan["steps"] + 1 and (shown > 0).any()
    assert second["now_s"] == pytest.approx(first["now_s"] + 0.1)
    assert told(client, fan, {"aim_deg": 80.0}, {"gain_db": 10.0, "square_m": 2.0}).status_code == 202
    after = frames(client, fan)[-1]
    assert after["hang"]["aim_deg"] == 80.0 and after["lines_ahead_m"][:2] == [-2.0, 0.0]
    assert (levels(after, fan) > 0).sum() < 0.5 * (shown > 0).sum()
    still = client.get(f"/api/search/fans/{fan['id']}/picture").json
    assert still["levels"] == after["levels"] and len(still["colours"]) == 2


def test_the_same_seed_is_the_same_water_as_the_look_around_has(client, fan):
    look = client.post("/api/search/looks", json={"seed": 21}).json
    one = client.get(f"/api/search/looks/{look['id']}/truth").json
    two = client.get(f"/api/search/fans/{fan['id']}/truth").json
    assert one["standing"] == two["standing"] and one["lines"] == two["lines"]
    assert [group["species"] for group in one["groups"]] == [group["species"] for group in two["groups"]]


def test_advice_has_the_window_the_verdicts_and_a_cost_for_each_control(client, fan):
    asked = {"sought": {"lure_depth_m": 4.0, "away_m": 3.0, "fish_depth_m": 4.0}, "job": "fish"}
    told(client, fan, settings={"gain_db": 3.0, "ahead_m": 12.0})
    frames(client, fan)
    advice = client.post(f"/api/search/fans/{fan['id']}/advice", json=asked).json
    assert advice["verdicts"][0]["code"] == "gain too low"
    assert advice["window"]["floor"] <= advice["window"]["advised"] <= advice["window"]["ceiling"]
    assert set(advice["costs"]) == {one for one in CONTROLS if FAN_HEADS["near reach"].has(one)}
    change = advice["verdicts"][0]["change"]
    assert client.post(f"/api/search/fans/{fan['id']}/change", json=change).status_code == 202
    frames(client, fan)
    after = client.post(f"/api/search/fans/{fan['id']}/advice", json=asked).json
    assert "gain too low" not in {one["code"] for one in after["verdicts"]}


def test_a_touched_lure_is_measured_and_open_water_is_nothing(client, fan):
    told(client, fan, settings={"ahead_m": 12.0}, lures=[{"depth_m": 4.0, "north_m": 2.0, "lift_m": 0.0}])
    told(client, fan, {"aim_deg": 0.0}, {"ahead_m": 12.0}, [{"depth_m": 4.0, "north_m": 2.0, "lift_m": 0.0}])
    frames(client, fan, 12)
    found = client.get(f"/api/search/fans/{fan['id']}/mark?ahead_m=2.1&depth_m=4.1").json
    assert found["mark"]["ahead_m"] == pytest.approx(2.0, abs=0.15)
    assert found["to_do"]["text"].startswith("It is {away}") and found["length_m"]["low"] < found["length_m"]["high"]
    spots = [client.get(f"/api/search/fans/{fan['id']}/mark?ahead_m={x}&depth_m=2.2").json for x in (3, 5, 7, 9)]
    empty = [one for one in spots if one["mark"] is None]
    assert empty and all(value is None for one in empty for value in one.values())


def test_the_turn_of_the_handle_is_told(client):
    seen = [{"aim_deg": aim, "strength_db": level} for aim, level in ((0.0, -40.0), (8.0, -34.0), (16.0, -34.0))]
    found = client.post("/api/search/fan-turn", json={"head": "near reach", "aim_deg": 8.0, "seen": seen}).json
    assert 0.0 < found["turn_deg"] < 8.0 and found["sd_deg"] > 0.0


@pytest.mark.parametrize(
    ("hang", "settings", "words"),
    [
        ({"depth_m": 99.0}, {}, "depth_m"),
        ({}, {"gain_db": "loud"}, "gain_db"),
        ({}, {"ahead_m": 55.0}, "reach"),
        ({}, {"heading": True}, "Near reach has no such control"),
        ({"mounting": "up"}, {}, "mounting"),
    ],
)
def test_what_cannot_be_is_refused_by_name_and_nothing_changes(client, fan, hang, settings, words):
    answer = told(client, fan, hang, settings)
    assert answer.status_code == 422 and words in json.dumps(answer.json)
    assert frames(client, fan)[-1]["settings"] == fan["settings"]


def test_there_are_so_many_and_no_more_and_one_that_is_ended_is_gone(client, fan):
    more = [client.post("/api/search/fans", json={"seed": 1}) for _ in range(MOST_FANS)]
    assert [one.status_code for one in more] == [201] * (MOST_FANS - 1) + [503]
    assert client.delete(f"/api/search/fans/{fan['id']}").status_code == 204
    for method, path in (("get", "picture"), ("get", "truth"), ("get", "mark?ahead_m=1&depth_m=1")):
        answer = getattr(client, method)(f"/api/search/fans/{fan['id']}/{path}")
        assert answer.status_code == 404 and "There is no live fan" in answer.json["detail"]
    assert client.post("/api/search/fans/nobody/change", json={"setting": "kick", "value": 1.0}).status_code == 404
    live = more[0].json["id"]
    answer = client.post(f"/api/search/fans/{live}/change", json={"setting": "kick", "value": 1.0})
    assert answer.status_code == 422 and "setting is 'kick'" in answer.json["detail"]


KNOWN = {"depth_m": 8.0, "job": "fish", "clarity": "stained"}


def test_a_card_without_a_picture_and_the_same_on_another_head(client):
    card = client.post("/api/search/fan-card", json={"head": "near reach", "known": KNOWN}).json
    assert card["hang"]["mounting"] == "down" and card["settings"]["gain_db"] > 0.0
    assert set(card["lines"]) == {one for one in CONTROLS if FAN_HEADS["near reach"].has(one)}
    assert card["later"][-1]["text"].startswith("A lure at that depth is in a weak strip")
    body = {"head": "near reach", "known": KNOWN, "now": {**card["settings"], "tails": 1}, "other": "far reach"}
    told = client.post("/api/search/fan-card/translate", json=body).json
    assert told["settings"]["tails"] == 0 and told["unmatched"][0]["text"] == "Far reach has no tails."
    for wrong, words in (({"depth_m": 90.0}, "depth_m"), ({"light": "noon"}, "light"), ({"ice_m": 9.0}, "ice_m")):
        answer = client.post("/api/search/fan-card", json={"head": "near reach", "known": {**KNOWN, **wrong}})
        assert answer.status_code == 422 and words in json.dumps(answer.json)


def test_coming_or_leaving_is_told(client):
    seen = [{"time_s": 1.0, "range_m": 12.0}, {"time_s": 11.0, "range_m": 9.0}]
    found = client.post("/api/search/fan-closing", json={"seen": seen}).json
    assert found["speed_m_s"] == pytest.approx(0.3) and "comes nearer" in found["said"]["text"]
    assert client.post("/api/search/fan-closing", json={"seen": seen[:1]}).status_code == 422


def test_a_change_without_end_is_refused(client, fan):
    address = f"/api/search/fans/{fan['id']}/change"
    answer = client.post(address, data='{"setting": "repeats", "value": 1e400}', content_type="application/json")
    assert answer.status_code == 422 and "value" in json.dumps(answer.json)
