"""The Trip step's addresses: what they answer, and that nothing of it touches the store."""

from __future__ import annotations

import pytest

from .test_web import is_problem

SOUNDINGS = [
    {"east_m": e, "north_m": n, "depth_m": d}
    for e, n, d in ((50, 50, 4.0), (100, 100, 9.0), (150, 60, 7.0), (100, 150, 5.0), (60, 120, 5.5))
]
SHORE = [[0, 0], [200, 0], [200, 200], [0, 200]]


def test_a_surface_with_its_deviation_and_the_chance_in_a_band(client):
    wanted = {"soundings": SOUNDINGS, "shore": SHORE, "at": [[100, 100], [1, 100], [300, 300]], "band_m": [8.0, 10.0]}
    found = client.post("/api/ground/surface", json=wanted).json
    assert found["depth_m"][0] == pytest.approx(9.0, abs=0.7) and found["depth_m"][1] < 1.0
    assert found["sd_m"][0] < 1.0 and found["sd_m"][2] == 0.0
    assert found["in_band"][0] > 0.6 and found["in_band"][1] < 0.01 and found["in_band"][2] == 0.0
    plain = client.post("/api/ground/surface", json={"soundings": SOUNDINGS, "shore": None, "at": [[100, 100]]}).json
    assert plain["in_band"] is None and plain["depth_m"][0] == pytest.approx(9.0, abs=1.0)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"soundings": []}, "soundings"),
        ({"at": [[0, 0, 0]]}, "at"),
        ({"shore": [[0, 0], [10, 10], [10, 0], [0, 10]]}, "shore crosses itself"),
        ({"band_m": [5.0, 5.0]}, "band_m is 5 to 5"),
        ({"soundings": [{"east_m": 0, "north_m": 0, "depth_m": -1}]}, "depth_m"),
    ],
)
def test_what_is_no_lake_is_refused(client, change, said):
    wanted = {"soundings": SOUNDINGS, "shore": SHORE, "at": [[100, 100]]} | change
    is_problem(client.post("/api/ground/surface", json=wanted), 422, said)


def test_a_walk(client):
    places = [
        {"east_m": 0, "north_m": 300, "value": 5, "minutes": 20},
        {"east_m": 0, "north_m": 600, "value": 5, "minutes": 20},
        {"east_m": 5000, "north_m": 0, "value": 100, "minutes": 20},
    ]
    wanted = {"start": [0, 0], "end": [0, 0], "minutes": 65, "walk_m_min": 60, "places": places}
    found = client.post("/api/trip/walk", json=wanted).json
    assert sorted(found["order"]) == [0, 1] and found["value"] == 10 and found["minutes"] == pytest.approx(60.0)
    is_problem(client.post("/api/trip/walk", json=wanted | {"end": [0, 6000]}), 422, "walking from start to end alone")


def test_power(client):
    wanted = {"chemistry": "lead", "capacity_ah": 9, "rated_hours": 20, "draw_a": 0.9, "temperature_c": -15}
    found = client.post("/api/trip/power", json=wanted).json
    assert 0 < found["hours"]["low"] < found["hours"]["likely"] < found["hours"]["high"] < 10
    assert len(found["reasons"]) >= 3 and all("{" in one["text"] for one in found["reasons"])
    is_problem(client.post("/api/trip/power", json=wanted | {"chemistry": "coal"}), 422, "chemistry", "lead")
