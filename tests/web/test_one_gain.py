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
