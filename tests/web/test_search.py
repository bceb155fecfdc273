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


DRILLS = {"now_s": 50.0, "walk_m_s": 1.2, "ready_s": 60.0, "stay_s": 600.0, "seen_radius_m": 2.0,
          "school_radius_m": 1.5, "holes": 1}  # fmt: skip
WATCH = {"look_radius_m": 18.3, "fish_speed_m_s": 0.25, "schools_per_km2": 60.0, "sure": 20_000.0, "move_s": 300.0}


def test_where_to_drill_leads_the_school_on_its_way(client):
    slow = [one | {"time_s": time} for one, time in zip(FIXES, (0.0, 140.0), strict=True)]  # 28 m in 140 s, eastwards
    wanted = {"fixes": slow, **COLUMN, "fish_depth_m": 3.0, **DRILLS, "now_s": 150.0}
    found = client.post("/api/search/where-to-drill", json=wanted).json
    hole = found["holes"][0]
    assert found["chance"] > 0.9 and not found["let_it_go"]
    assert hole["east_m"] > 28.28 / 2.0 and hole["north_m"] == pytest.approx(14.14, abs=3.0), "ahead of it"
    three = client.post("/api/search/where-to-drill", json=wanted | {"holes": 3}).json
    assert len(three["holes"]) == 3 and three["chance"] >= found["chance"] - 0.02
    assert three["holes"][0]["ready_at_s"] < three["holes"][1]["ready_at_s"] < three["holes"][2]["ready_at_s"]


def test_a_school_that_outruns_the_walker_is_let_go(client):
    fast = [one | {"time_s": time} for one, time in zip(FIXES, (0.0, 14.0), strict=True)]  # 2 m/s
    wanted = {"fixes": fast, **COLUMN, "fish_depth_m": 3.0, **DRILLS, "now_s": 60.0}
    found = client.post("/api/search/where-to-drill", json=wanted).json
    assert found["let_it_go"] and found["chance"] < 0.1 and "Let it go" in found["why"]["text"]
    is_problem(client.post("/api/search/where-to-drill", json=wanted | {"holes": 4}), 422, "holes")
    is_problem(client.post("/api/search/where-to-drill", json=wanted | {"now_s": 9e5}), 422, "now_s")


def test_the_watch_clock(client):
    first = client.post("/api/search/stay-or-go", json=WATCH | {"watched_s": 0.0, "seen": 0}).json
    assert first["say"] == "stay" and 120.0 < first["go_at_s"] < 900.0
    late = client.post("/api/search/stay-or-go", json=WATCH | {"watched_s": 1200.0, "seen": 0}).json
    assert late["say"] == "go" and late["stay_worth"] < late["go_worth"] == first["go_worth"]
    assert late["nobody_here"] > first["nobody_here"]
    met = client.post("/api/search/stay-or-go", json=WATCH | {"watched_s": 1200.0, "seen": 2}).json
    assert met["say"] == "stay" and met["go_at_s"] > 1200.0 and met["nobody_here"] < first["nobody_here"]
    is_problem(client.post("/api/search/stay-or-go", json=WATCH | {"watched_s": -1.0, "seen": 0}), 422, "watched_s")


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
