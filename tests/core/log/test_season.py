"""Stays as efforts: cut where light, hour or what was tried changed, each fish once, unknown hours left out."""

from __future__ import annotations

import datetime
from dataclasses import replace

import numpy as np
import pytest
from scipy import stats

from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.log.elsewhere import Ground, Taught
from hollow_glint.core.log.going_back import going_back, hole_by_hole, minutes_of
from hollow_glint.core.log.outing import Happening, Outing, Stay
from hollow_glint.core.log.patterns import patterns
from hollow_glint.core.log.rise import SeenAt, chance_of, rise_by_pressure
from hollow_glint.core.log.sayings import sayings
from hollow_glint.core.log.season import HOURS, StayTold, answered, efforts, heights, of_species, pieces_of
from hollow_glint.core.log.weather import Reading, pressure_at, trend_at
from hollow_glint.core.log.worked import Now, worked
from hollow_glint.core.trip.sun import SunTimes

SUN = SunTimes(540.0, 600.0, 840.0, 900.0, True)  # sunset at 14:00
DAY = Outing("2026-02-14T12:00:00Z", "2026-02-14T16:00:00Z", "Testmere", pressure_trend="falling", sky="overcast")


def told(begins: str, ends: str | None, *happened: Happening, lines: int = 1, sun: SunTimes | None = SUN, **more):
    stay = Stay(f"2026-02-14T{begins}:00Z", None if ends is None else f"2026-02-14T{ends}:00Z", "A", lines,
                **{"depth_m": 8.0, "bottom": "mud", "lure_form": "jig", "lure_size_m": 0.005} | more)  # fmt: skip
    return StayTold(DAY, "d1", stay, "A", happened, sun)


def at(clock: str, kind: str, trying: str | None = "hold", depth_m: float | None = 7.0, **more) -> Happening:
    return Happening(f"2026-02-14T{clock}:00Z", kind, depth_m, trying, **more)


def test_hours_are_lines_times_hours_also_without_a_fish():
    (piece,) = pieces_of(told("12:10", "12:40", lines=3))
    assert piece.rod_hours == pytest.approx(1.5) and piece.went == ()
    assert piece.factors == {
        "depth": "6 to 10 m", "bottom": "mud", "lure": "jig", "size": "under 15 mm", "pressure": "falling",
        "hour": "2 to 1 h before sunset", "light": "dull day",
    }  # fmt: skip


def test_a_stay_is_cut_at_sunset_and_at_every_class_of_hours():
    pieces = pieces_of(told("12:30", "15:30"))
    assert [one.factors["hour"] for one in pieces] == [
        "2 to 1 h before sunset", "the last hour before sunset", "the first hour after sunset",
        "more than 1 h after sunset",
    ]  # fmt: skip
    assert [one.rod_hours for one in pieces] == pytest.approx([0.5, 1.0, 1.0, 0.5])
    assert [one.factors["light"] for one in pieces] == ["dull day", "dull day", "dusk", "night"]


def test_a_stay_is_cut_where_something_else_was_tried():
    pieces = pieces_of(
        told("12:00", "12:50", at("12:10", "look", "hold"), at("12:20", "look", "hold"), at("12:40", "bite", "pound"),
             sun=None)
    )  # fmt: skip
    assert [(one.factors["trying"], round(one.rod_hours * 60)) for one in pieces] == [("hold", 20), ("pound", 30)]
    assert [one.count("looks") for one in pieces] == [1, 2] and [one.count("bites") for one in pieces] == [0, 1]


def test_a_fish_that_is_touched_in_stage_by_stage_is_one():
    stay = told("12:00", "12:50", at("12:10", "look"), at("12:11", "follow"), at("12:12", "bite"), at("12:13", "fish"),
                at("12:14", "look"))  # fmt: skip
    (piece,) = pieces_of(stay)
    assert [one.kind for one in piece.went] == ["fish", "look"]
    assert [piece.count(of) for of in ("looks", "bites", "fish")] == [2, 1, 1]
    assert [(one.of, one.count) for one in answered([piece], "looks", "bites")] == [(2, 1)]
    assert [(one.kind, round(one.height_m, 1)) for _, one in heights(pieces_of(stay))] == [("fish", 1.0)]


def test_only_fish_of_a_species_count_where_one_is_asked_but_all_hours_do():
    stay = told("12:10", "12:50", at("12:20", "fish", species="char"), at("12:30", "fish", species="burbot"))
    (piece,) = of_species(pieces_of(stay), "char")
    assert piece.count("fish") == 1 and piece.rod_hours == pytest.approx(40 / 60)


def test_a_stay_that_nobody_ended_lasts_a_little_past_its_last_note_or_has_no_hours_at_all():
    assert pieces_of(told("12:10", None)) == []
    (piece,) = pieces_of(told("12:10", None, at("12:25", "look")))
    assert piece.rod_hours == pytest.approx(0.5)


def test_past_midnight_the_hours_from_sunset_go_on():
    late = StayTold(
        replace(DAY, began_at="2026-02-14T20:00:00Z", ended_at=None), "d1",
        Stay("2026-02-15T00:30:00Z", "2026-02-15T01:00:00Z", "A"), "A", (), SUN,
    )  # fmt: skip
    (piece,) = pieces_of(late)
    assert piece.factors["hour"] == "more than 1 h after sunset" and piece.factors["light"] == "night"


def test_notes_before_lines_in_and_after_lines_out_are_not_lost():
    pieces = pieces_of(told("12:10", "12:40", at("12:05", "look"), at("12:45", "fish"), sun=None))
    assert sum(one.count("looks") for one in pieces) == 2


def test_the_pressure_of_a_station_and_where_it_went():
    """The tendency is over three hours: WMO-No. 8."""
    began = datetime.datetime(2026, 2, 14, 6, tzinfo=datetime.UTC)
    hours = [Reading(began + datetime.timedelta(hours=k), 1010.0 - 0.5 * k) for k in range(8)]
    noon = began + datetime.timedelta(hours=5, minutes=30)
    assert pressure_at(hours, noon) == pytest.approx(1007.25)
    assert trend_at(hours, noon) == "falling"
    assert trend_at([Reading(one.at, 1010.0) for one in hours], noon) == "steady"
    assert trend_at([Reading(one.at, 2020.0 - one.pressure_hpa) for one in hours], noon) == "rising"
    assert pressure_at(hours, began + datetime.timedelta(hours=20)) is None
    assert trend_at(hours, began + datetime.timedelta(hours=1)) is None  # three hours before nobody measured


def test_days_are_held_against_each_other_as_scipy_does():
    rng = np.random.default_rng(3)
    groups = [rng.normal(0.1 * k, 1.0, n).tolist() for k, n in enumerate((5, 8, 11))]
    assert chance_of(groups) == pytest.approx(stats.f_oneway(*groups).pvalue, rel=1e-9)


def test_pressure_is_not_believed_for_what_a_hole_does():
    """Fish come high at one hole and low at the other; that hole was fished when pressure fell. Nothing is said."""
    rng = np.random.default_rng(4)
    seen = [
        SeenAt(f"d{day}", hole, trend, high + float(rng.normal(0.0, 0.2)))
        for day, (hole, trend, high) in enumerate([("A", "falling", 3.0)] * 5 + [("B", "rising", 0.5)] * 5)
        for _ in range(6)
    ]
    assert rise_by_pressure(seen).verdict == "no telling"
    same = [replace(one, hole="A") for one in seen]
    found = rise_by_pressure(same)
    assert found.verdict == "it does" and "falling than rising" in found.says.text
    assert rise_by_pressure(seen[:6]).verdict == "too little"


def test_days_alike_by_nature_are_seldom_told_apart():
    rng = np.random.default_rng(5)
    called = 0
    for _ in range(200):
        seen = [
            SeenAt(f"d{day}", "A", ("falling", "steady", "rising")[day % 3], middle + float(rng.normal(0.0, 0.4)))
            for day in range(15)
            for middle in [1.5 + float(rng.normal(0.0, 0.5))]
            for _ in range(8)
        ]
        called += rise_by_pressure(seen).verdict == "it does"
    assert called <= 20  # 5 in 100 are to be expected


# --- where to go -----------------------------------------------------------------------------------------------------


def season(*holes: tuple[str, int, int]):
    """Stays of an hour, each at a hole with so many bites, on so many days."""
    out = []
    for hole, bites, days in holes:
        for day in range(days):
            happened = [at(f"12:{5 + 4 * k:02}", "bite") for k in range(bites)]
            one = told("12:00", "13:00", *happened)
            out.append(replace(one, hole=hole, day=f"d{day}"))
    return out


def test_a_hole_that_brings_more_is_worth_a_return_and_three_fish_make_no_rule():
    stays = season(("A", 4, 6), ("B", 0, 6), ("C", 1, 6), ("D", 1, 6), ("E", 3, 1))
    pieces = [piece for one in stays for piece in pieces_of(one)]
    every = hole_by_hole(pieces)
    found = going_back(every)
    assert found[0].hole == "A" and found[0].count == 24 and found[0].days == 6
    assert {one.hole for one in every} == {"A", "B", "C", "D", "E"}
    by = {one.hole: one.rate for one in every}
    assert by["E"].likely < 3.0 and by["E"].low < by["A"].low  # three bites in one hour are pulled to the usual
    assert found[0].hour == "2 to 1 h before sunset"


def test_hours_of_a_class_have_a_beginning_and_an_end():
    assert minutes_of("the last hour before sunset") == (-60.0, 0.0)
    assert all(low < high for low, high in (minutes_of(name) for _, name in HOURS))


def test_places_like_those_that_worked_promise_more_and_thin_logs_little():
    edge, flat = Ground(8.0, 0.2, "timber", "mud"), Ground(4.0, 0.0, "", "sand")
    stays = season(*((f"e{k}", 4, 4) for k in range(5)), *((f"f{k}", 1, 4) for k in range(5)))
    pieces = [piece for one in stays for piece in pieces_of(one)]
    grounds = [edge if one.hole.startswith("e") else flat for one in pieces]
    taught = Taught(pieces, grounds)
    assert taught.expect(edge).times > 1.2 > 0.9 > taught.expect(flat).times
    assert taught.expect(edge).rate.low > taught.usual.low
    thin = Taught(pieces[:4] + pieces[-4:], grounds[:4] + grounds[-4:])
    assert abs(np.log(thin.expect(edge).times)) < abs(np.log(taught.expect(edge).times))
    with pytest.raises(ValueError, match="3 h are needed"):
        Taught(pieces[:2], grounds[:2])


def test_what_worked_is_held_beside_the_card_and_says_what_differs():
    def good(gain: float, **more):
        one = told("12:00", "13:00", at("12:20", "fish"), unit="My unit", settings=Settings(gain, 12.0), **more)
        return replace(one, stay=replace(one.stay, **more))

    now = Now("A", "My unit", 26.0, "jig", 0.005, "", "clear", 8.0)
    found = worked([good(28.0, clarity="stained"), good(30.0, clarity="stained")], now)
    assert (found[0].low, found[0].high, found[0].stays) == (28.0, 30.0, 2)
    assert "the water (stained then, clear now)" in found[0].says.text
    assert "They agree" in worked([good(26.0), good(25.0)], now)[0].says.text
    assert "Nothing that is noted" in worked([good(30.0)], now)[0].says.text
    assert worked([good(28.0)], replace(now, unit="Another")) == []


def test_too_little_is_said_to_be_too_little_and_chance_to_be_chance():
    few = [piece for one in season(("A", 1, 2)) for piece in pieces_of(one)]
    assert "Too little to say" in sayings(patterns(efforts(few, "bites")), "bites")[0].text
    many = [piece for one in season(*((f"h{k}", 1, 4) for k in range(8))) for piece in pieces_of(one)]
    assert "Nothing you noted makes a difference" in sayings(patterns(efforts(many, "bites")), "bites")[0].text


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda: Outing("yesterday"), "began_at is 'yesterday'"),
        (lambda: Outing("2026-02-14T12:00:00Z", "2026-02-14T11:00:00Z"), "ended_at"),
        (lambda: Outing("2026-02-14T12:00:00Z", "2026-03-14T11:00:00Z"), "48 h later"),
        (lambda: Outing("2026-02-14T12:00:00Z", pressure_hpa=30.0), "pressure_hpa is 30"),
        (lambda: Stay("2026-02-14T12:00:00Z", lines=0), "lines is 0"),
        (lambda: Happening("2026-02-14T12:00:00Z", "wave"), "kind is 'wave'"),
        (lambda: Happening("2026-02-30T12:00:00Z", "look"), "accepted is a time"),
    ],
)
def test_what_is_no_outing_stay_or_note_is_said(make, said):
    with pytest.raises(ValueError, match=said):
        make()
