"""The Search step's addresses: what they answer, and what they refuse."""

from __future__ import annotations

import pytest

from .test_web import is_problem

FIX = {"bearing_sd_deg": 1.0, "range_sd_m": 0.3}
FIXES = [
    {"time_s": time, "bearing_deg": bearing, "range_m": 20.0, **FIX} for time, bearing in ((0.0, 315.0), (40.0, 45.0))
]
COLUMN = {"head_depth_m": 3.0, "bottom_depth_m": 9.4}


def test_along_the_ice_a_span_a_place_and_nothing(client):
    over = {"range_m": 12.192, "head_depth_m": 0.0, "bottom_depth_m": 9.4488}
    found = client.post("/api/search/along-ice", json=over).json
    assert (found["low_m"], found["high_m"]) == pytest.approx((7.7, 12.192), abs=0.01)
    known = client.post("/api/search/along-ice", json=over | {"fish_depth_m": 9.0}).json
    assert known["low_m"] == known["high_m"] == pytest.approx(8.225, abs=0.01)
    nothing = client.post("/api/search/along-ice", json=over | {"range_m": 2.0, "fish_depth_m": 9.0}).json
    assert nothing["low_m"] is None and "straight up or down" in nothing["why"]["text"]
    is_problem(client.post("/api/search/along-ice", json=over | {"head_depth_m": 10.0}), 422, "head_depth_m is 10")


def test_a_course_from_two_fixes(client):
    wanted = {"fixes": FIXES, **COLUMN, "fish_depth_m": 3.0, "at_s": 80.0}
    found = client.post("/api/search/course", json=wanted).json
    assert found["heading_deg"]["low"] < 90.0 < found["heading_deg"]["high"]
    assert found["speed_m_s"]["low"] < 28.28 / 40.0 < found["speed_m_s"]["high"]
    assert found["there"]["east_m"] == pytest.approx(42.4, abs=3.0) and found["there"]["east_sd_m"] > 0.0
    assert client.post("/api/search/course", json=wanted).json == found, "the same each time"
    unknown = client.post("/api/search/course", json=wanted | {"fish_depth_m": None}).json
    assert unknown["there"]["north_sd_m"] > found["there"]["north_sd_m"]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"fixes": FIXES[:1]}, "fixes"),
        ({"fixes": [FIXES[0], FIXES[0]]}, "all at one time"),
        ({"fish_depth_m": 12.0}, "fish_depth_m is 12"),
        ({"fixes": [one | {"range_m": 0.0} for one in FIXES]}, "range_m"),
        ({"at_s": None}, "at_s"),
    ],
)
def test_what_is_no_course_is_refused(client, change, said):
    is_problem(client.post("/api/search/course", json={"fixes": FIXES, **COLUMN, "at_s": 80.0} | change), 422, said)
