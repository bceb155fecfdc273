"""Fishing under a fan over the web: begun in a hole of the water, moved by the hand, told with every frame."""

from __future__ import annotations

import pytest

from .test_fans import frames

DOWN = {"mounting": "down", "aim_deg": 0.0}
SEEN = {"ahead_m": 8.0, "behind_m": 8.0, "deep_m": 9.0, "gain_db": 34.0}
AT = {"hole_east_m": 2.0, "hole_north_m": 3.0, "apart_m": 0.9, "bearing_deg": 0.0}
BODY = {"seed": 21, "hang": DOWN, "settings": SEEN, "start_s": 60.0}


def begin(client, **fishing):
    return client.post("/api/search/fans", json={**BODY, "fishing": {**AT, **fishing}})


@pytest.fixture
def fishing(client):
    answer = begin(client, lure_depth_m=4.0)
    assert answer.status_code == 201, answer.json
    return answer.json


def test_it_begins_with_the_lure_over_the_hole_and_tells_of_it(client, fishing):
    begun = fishing["fishing"]
    assert begun["lure_depth_m"] == 4.0 and begun["apart_m"] == 0.9 and begun["beside_m"] is None
    assert begun["lure_name"] == "The usual jig" and 4.5 < begun["bottom_depth_m"] < 20.0
    (frame,) = frames(client, fishing, 1)
    told = frame["fishing"]
    assert told["lure_depth_m"] == 4.0 and told["rod_tip"] in ("still", "unwatched")
    (lure,) = told["reading"]["lures"]
    assert lure["is_yours"] and lure["ahead_m"] == pytest.approx(0.9, abs=0.01)
    assert told["reading"]["turn"]["aim_deg"] is None and frame["now_s"] > 60.0


def test_what_is_not_said_is_as_the_card_for_fishing_has_it(client):
    begun = client.post("/api/search/fans", json={"seed": 21, "start_s": 60.0, "fishing": {**AT, "bearing_deg": 70.0}})
    assert begun.status_code == 201, begun.json
    fan = begun.json
    assert fan["hang"]["mounting"] == "down" and fan["hang"]["aim_deg"] == 70.0
    depth = round(fan["bottom_depth_m"], 1)
    card = client.post("/api/search/fan-card", json={"head": "near reach", "known": {"depth_m": depth, "job": "fish"}})
    assert card.status_code == 200, card.json
    assert fan["settings"]["ahead_m"] == card.json["settings"]["ahead_m"] < 13.0
    assert fan["settings"]["gain_db"] == pytest.approx(card.json["settings"]["gain_db"], abs=2.0)


def test_the_hand_moves_the_lure_and_sets_the_hook(client, fishing):
    address = f"/api/search/fans/{fishing['id']}/hand"
    assert client.post(address, json={"lift_m_s": 0.5, "eyes": "rod"}).json == {"lure_depth_m": 4.0}
    up = frames(client, fishing, 4)[-1]["fishing"]
    assert up["lure_depth_m"] < 3.95 and up["rising_m_s"] == pytest.approx(0.5, abs=0.05) and up["eyes"] == "rod"
    client.post(address, json={"lift_m_s": 0.0, "set_hook": True})
    events = frames(client, fishing, 1)[0]["fishing"]["events"]
    assert [one["kind"] for one in events] == ["nothing there"]


def test_a_persons_jig_beside_and_the_turn_that_has_both(client):
    begun = begin(client, beside_m=4.0, lure_depth_m=4.0, bearing_deg=90.0)
    assert begun.status_code == 201 and len(begun.json["lures"]) == 2
    told = frames(client, begun.json, 1)[0]["fishing"]["reading"]
    assert [one["is_yours"] for one in told["lures"]] == [True, False]
    assert told["turn"]["aim_deg"] is not None and "turn the handle" in told["turn"]["said"]["text"]


def test_who_has_come_to_the_hole_is_told_apart_in_the_truth(client, fishing):
    frames(client, fishing, 3)
    truth = client.get(f"/api/search/fans/{fishing['id']}/truth").json
    here = len(truth["at_the_hole"])
    whole = client.post("/api/search/fans", json={"seed": 21}).json
    all_of = client.get(f"/api/search/fans/{whole['id']}/truth").json
    assert here + sum(one["count"] for one in truth["groups"]) == sum(one["count"] for one in all_of["groups"])


@pytest.mark.parametrize(
    ("change", "status", "words"),
    [
        ({"apart_m": 3.0}, 422, "apart_m"),
        ({"hole_east_m": 300.0}, 422, "hole_east_m"),
        ({"hole_east_m": 150.0}, 422, "accepted is a place in the water"),
        ({"lure_id": 4711}, 404, "lure"),
        ({"beside_m": 0.01}, 422, "beside_m"),
        ({"depth": 3}, 422, "depth"),
    ],
)
def test_what_is_wrong_is_named(client, change, status, words):
    answer = begin(client, **change)
    assert answer.status_code == status and words in answer.get_data(as_text=True)


def test_it_needs_the_head_turned_down_and_hangs_its_own_lures(client, fishing):
    ahead = client.post("/api/search/fans", json={**BODY, "hang": {"mounting": "ahead"}, "fishing": AT})
    assert ahead.status_code == 422 and "mounting is 'ahead'" in ahead.get_data(as_text=True)
    lures = client.post("/api/search/fans", json={**BODY, "fishing": AT, "lures": [{}]})
    assert lures.status_code == 422 and "lures" in lures.get_data(as_text=True)
    body = {"hang": fishing["hang"], "settings": fishing["settings"]}
    set_to = f"/api/search/fans/{fishing['id']}/set"
    assert client.post(set_to, json={**body, "lures": [{}]}).status_code == 422
    assert client.post(set_to, json=body).status_code == 202
    plain = client.post("/api/search/fans", json={"seed": 21}).json
    refused = client.post(f"/api/search/fans/{plain['id']}/hand", json={"twitch": True})
    assert refused.status_code == 409 and "Nobody fishes" in refused.get_data(as_text=True)
    assert client.post("/api/search/fans/none/hand", json={}).status_code == 404
