"""What belongs to a lake is kept with it, comes back with it, and a day is never lost to another tab."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.ground.lake import Lake, drawn_shore
from hollow_glint.core.ground.soundings import Sounding, Structure
from hollow_glint.core.hole.hole import Hole
from hollow_glint.core.trip.band import Starting
from hollow_glint.core.trip.batteries import Battery
from hollow_glint.core.trip.day import Chosen, Day, Powered
from hollow_glint.core.trip.ice import IceReading
from hollow_glint.core.trip.rig_test import Finding, GearItem
from hollow_glint.core.trip.start_places import FishedPlace
from hollow_glint.store import holes, kit, lake_things, lakes, removals
from hollow_glint.store.database import Database, NotFound, Stale

LAKE = Lake("Testmere", 66.6, 17.0)
THINGS = (
    Sounding(10.0, 20.0, 6.5, "drilled hole", "2026-01-14", "mud"),
    Structure(5.0, -3.0, "timber", "two logs"),
    IceReading(0.0, 1.0, 0.2, "clear", "2026-12-01"),
    FishedPlace(1.0, 2.0, "2026-10-18", "left in autumn", "a school"),
)


@pytest.fixture
def store(tmp_path) -> Database:
    return Database(tmp_path / "store.sqlite3")


@pytest.fixture
def lake_id(store) -> int:
    return lakes.add(store, LAKE).id


@pytest.mark.parametrize("thing", THINGS, ids=lambda one: type(one).__name__)
def test_each_kind_of_thing_comes_back_as_it_went_in_and_goes_with_an_undo(store, lake_id, thing):
    (row_id,) = lake_things.add(store, lake_id, [thing])
    assert lake_things.every(store, type(thing), lake_id) == [lake_things.Kept(row_id, thing)]
    removal = lake_things.remove(store, type(thing), lake_id, row_id)
    assert lake_things.every(store, type(thing), lake_id) == []
    removals.undo(store, removal)
    assert lake_things.every(store, type(thing), lake_id)[0].thing == thing
    other = lakes.add(store, replace(LAKE, name="Other")).id
    for act in (
        lambda: lake_things.add(store, 999, [thing]),
        lambda: lake_things.remove(store, type(thing), other, row_id),
    ):
        with pytest.raises(NotFound):
            act()


def test_a_lake_that_is_removed_comes_back_with_everything(store, lake_id):
    for thing in THINGS:
        lake_things.add(store, lake_id, [thing])
    hole = holes.add(store, Hole("Point", 9.0, "mud", 0.3, 0.4))
    lake_things.place_hole(store, lake_id, hole.id, 30.0, 40.0)
    survey = lake_things.add_survey(store, lake_id, "file.csv", "2026-01-01", "all", [Sounding(1.0, 1.0, 3.0)] * 5)
    lakes.keep_day(store, lake_id, 0, Day("2026-12-05", places=(Chosen("A", 1.0, 2.0),), powered=(Powered(1, 1),)))
    before = lake_things.depths(store, lake_id)
    assert len(before) == 7 and before[-1] == (30.0, 40.0, 9.0)
    removal = lakes.remove(store, lake_id)
    assert holes.get(store, hole.id) == hole and lakes.every(store) == []
    removals.undo(store, removal)
    assert lake_things.depths(store, lake_id) == before
    assert lakes.day(store, lake_id).day.places == (Chosen("A", 1.0, 2.0),)
    assert [(one.id, one.soundings) for one in lake_things.surveys(store, lake_id)] == [(survey, 5)]
    lake_things.remove_survey(store, lake_id, survey)
    assert len(lake_things.depths(store, lake_id)) == 2


def test_a_holes_own_depth_is_the_sounding_and_follows_it(store, lake_id):
    hole = holes.add(store, Hole("Point", 9.0, "mud", 0.3, 0.4))
    lake_things.place_hole(store, lake_id, hole.id, 3.0, 4.0)
    lake_things.place_hole(store, lake_id, hole.id, 5.0, 6.0)  # it lies elsewhere after all
    holes.change(store, replace(hole, hole=replace(hole.hole, bottom_depth_m=8.0)))
    assert lake_things.depths(store, lake_id) == [(5.0, 6.0, 8.0)]
    assert lake_things.bottoms(store, lake_id) == [(5.0, 6.0, "mud")]
    removals.undo(store, lake_things.unplace_hole(store, lake_id, hole.id))
    assert [one.name for one in lake_things.holes_on(store, lake_id)] == ["Point"]
    with pytest.raises(NotFound):
        lake_things.place_hole(store, lake_id, 999, 0.0, 0.0)
    holes.remove(store, hole.id)
    assert lake_things.depths(store, lake_id) == []


def test_a_day_is_kept_by_version_and_another_tabs_is_not_overwritten(store, lake_id):
    assert lakes.day(store, lake_id) is None
    first = lakes.keep_day(store, lake_id, 0, Day("2026-12-05"))
    assert first.version == 1
    with pytest.raises(Stale):
        lakes.keep_day(store, lake_id, 0, Day("2026-12-06"))
    theirs = lakes.keep_day(store, lake_id, 1, Day("2026-12-07", people=5))
    with pytest.raises(Stale) as stale:
        lakes.keep_day(store, lake_id, 1, Day("2026-12-08"))
    assert stale.value.now == theirs == lakes.day(store, lake_id)
    for act in (lambda: lakes.day(store, 999), lambda: lakes.keep_day(store, 999, 0, Day("2026-12-05"))):
        with pytest.raises(NotFound):
            act()
    empty = lakes.add(store, replace(LAKE, name="Empty")).id
    with pytest.raises(NotFound):
        lakes.keep_day(store, empty, 3, Day("2026-12-05"))


def test_a_charge_counts_and_volts_do_not(store):
    battery = kit.add_battery(store, Battery("Big", "lead", 10.0, charges=4))
    kit.note_battery(store, battery.id, "2026-12-01T18:00:00Z", "charged", None)
    kit.note_battery(store, battery.id, "2026-12-02T08:00:00Z", "volts", 12.6)
    assert kit.battery(store, battery.id).battery.charges == 5
    assert [(one.what, one.volts) for one in kit.battery_notes(store, battery.id)] == [
        ("volts", 12.6),
        ("charged", None),
    ]
    with pytest.raises(NotFound):
        kit.note_battery(store, 999, "2026-12-01T18:00:00Z", "charged", None)


def test_findings_go_with_their_gear_and_come_back(store):
    item = kit.add_item(store, GearItem("Cable", "cable"))
    found = Finding("2026-12-03T18:15", "plugs", False, "green")
    row_id = kit.add_finding(store, item.id, found)
    removals.undo(store, kit.remove_item(store, item.id))
    assert kit.findings(store, item.id) == [(row_id, found)]
    kit.remove_finding(store, item.id, row_id)
    assert kit.findings(store, item.id) == []
    with pytest.raises(NotFound):
        kit.add_finding(store, 999, found)


def test_a_band_of_ones_own_replaces_the_one_before(store):
    line = Starting("whitefish", "first ice", "day", 4.0, 9.0, "our own edge")
    first = kit.put_band_line(store, line)
    assert kit.put_band_line(store, replace(line, to_m=8.0)) == first
    assert kit.band_lines(store) == [(first, replace(line, to_m=8.0))]
    kit.remove_band_line(store, first)
    assert kit.band_lines(store) == []


def test_a_shore_drawn_by_hand_loses_its_loops_and_one_that_encloses_nothing_is_refused():
    # A square with a knot in one side.
    line = [(0, 0), (50, 0), (52, 3), (49, 3), (50, -1), (100, 0), (100, 100), (0, 100)]
    ring = drawn_shore(line, 0.5)
    made = Lake("Square", shore_m=tuple(x for place in ring for x in place))
    assert len(made.shore) == len(ring) >= 4
    with pytest.raises(ValueError, match="encloses nothing"):
        drawn_shore([(0, 0), (1, 1), (2, 2), (3, 3)], 0.5)
    with pytest.raises(ValueError, match="shore_m crosses itself"):
        Lake("Knot", shore_m=(0.0, 0.0, 10.0, 10.0, 10.0, 0.0, 0.0, 10.0))
    with pytest.raises(ValueError, match="shore_m has 5 numbers"):
        Lake("Odd", shore_m=(0.0, 0.0, 10.0, 10.0, 10.0))
    with pytest.raises(ValueError, match="latitude and longitude belong together"):
        Lake("Half", 60.0)
    with pytest.raises(ValueError, match="say where the lake lies first"):
        _ = Lake("Nowhere").plane
