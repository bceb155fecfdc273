"""Card, Bench and call sheet at one hole: the same water, the same knobs, one gain."""

from __future__ import annotations

import pytest


@pytest.mark.parametrize(
    "known",
    [
        {},
        {"clarity": "murky", "light": "night"},
        {"liveliness": "quiet", "light": "dusk"},
        {"liveliness": "lively", "neighbours": [{"distance_m": 3.0}]},
    ],
)
def test_the_call_sheet_and_the_bench_stand_at_the_cards_gain(client, known):
    kept = client.get("/api/holes/1/card").get_json()
    wanted = {**kept["wanted"], "unit_id": 1, "lure_id": 3, "second_lure_id": None, **known}
    put = client.put("/api/holes/1/card", json=wanted)
    assert put.status_code == 200, put.text
    card = put.get_json()["card"]
    sheet = client.post("/api/holes/1/calls", json={"unit_id": 1, "lure_id": 3, "seen": None}).get_json()
    assert sheet["settings"]["gain"] == card["settings"]["gain"]
    assert sheet["settings"]["range_m"] == card["settings"]["range_m"]
    trial = {
        "hole_id": 1, "unit_id": 1, "lure_id": 3, "seed": 1,
        "settings": card["settings"], "scene": card["scene"], "lure_depth_m": card["lure_depth_m"],
    }  # fmt: skip
    bench = client.post("/api/benches", json=trial)
    assert bench.status_code == 201, bench.text
    begun = bench.get_json()
    assert begun["settings"]["gain"] == card["settings"]["gain"]
    assert begun["scene"] == card["scene"], "depth, light, clarity, life, company and face come along"


@pytest.mark.parametrize(
    ("depth_m", "kind"), [(2.2, "gravel"), (3.1, "sand"), (9.3, "rock"), (14.2, "mud"), (33.0, "silt")]
)
def test_a_fresh_hole_has_one_gain_and_one_depth_of_the_lure_wherever_it_is_opened(client, depth_m, kind):
    """Without a card ever kept: 29, 25 and 34 were once said of one hole, and 4.1 and 3.3 ft of one lure."""
    hole = {
        "name": "Fresh",
        "bottom_depth_m": depth_m,
        "bottom_kind": kind,
        "ice_thickness_m": 0.2,
        "face_depth_m": 0.28,
    }
    made = client.post("/api/holes", json=hole)
    assert made.status_code == 201, made.text
    at = made.get_json()["id"]
    card = client.get(f"/api/holes/{at}/card").get_json()["card"]
    gear = {"unit_id": 1, "lure_id": 3}
    sheet = client.post(f"/api/holes/{at}/calls", json={**gear, "seen": None}).get_json()
    bench = client.post("/api/benches", json={"hole_id": at, **gear, "seed": 1}).get_json()
    assert sheet["settings"] == card["settings"] == bench["settings"]
    assert sheet["lure_depth_m"] == pytest.approx(card["lure_depth_m"])
    assert bench["scene"]["bottom_depth_m"] == pytest.approx(card["numbers"]["true_depth_m"])
