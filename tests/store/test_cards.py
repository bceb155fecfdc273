"""What is kept of hole cards and calibrations: remembered per hole and unit, gone with them, and nothing half done."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint import demo
from hollow_glint.core.gear.unit import Calibrated
from hollow_glint.store import calibrations, hole_cards, holes, units
from hollow_glint.store.database import Database, NotFound


@pytest.fixture
def store(tmp_path) -> Database:
    database = Database(tmp_path / "store.sqlite3")
    demo.seed(database)
    return database


def test_the_card_used_last_elsewhere_is_found(store):
    assert hole_cards.find(store, 1) is None and hole_cards.last_elsewhere(store, 1) is None
    for hole, depth in ((1, 9.0), (2, 4.0), (1, 9.5)):
        hole_cards.keep(store, hole, {"depth_m": depth})
    assert hole_cards.find(store, 1).wanted == {"depth_m": 9.5}
    assert hole_cards.last_elsewhere(store, 2).hole_id == 1
    assert hole_cards.last_elsewhere(store, 1).hole_id == 2
    with pytest.raises(NotFound):
        hole_cards.keep(store, 99, {"depth_m": 1.0})


def test_ticks_are_per_hole_and_go_with_it(store):
    hole = holes.add(store, replace(holes.get(store, 1).hole, name="Short-lived"))
    hole_cards.tick(store, hole.id, "plumb", True)
    hole_cards.tick(store, hole.id, "plumb", True)
    hole_cards.keep(store, hole.id, {"depth_m": 5.0})
    assert hole_cards.ticked(store, hole.id) == {"plumb"} and hole_cards.ticked(store, 1) == set()
    holes.remove(store, hole.id)
    assert hole_cards.ticked(store, hole.id) == set() and hole_cards.find(store, hole.id) is None
    with pytest.raises(NotFound):
        hole_cards.tick(store, hole.id, "plumb", True)


def test_a_calibration_keeps_the_profile_from_before_however_often_it_is_done(store):
    was = units.get(store, 3).profile
    sure = Calibrated(4, 0.5, 0.01, 0.001, 1.0)
    for constant in (143.0, 144.5):
        made = replace(was, gain=replace(was.gain, first_colour_db=constant), calibrated=sure)
        calibrations.apply(store, 3, {"readings": [constant]}, made)
    assert units.get(store, 3).profile.gain.first_colour_db == 144.5
    assert units.get(store, 3).profile.calibrated == sure
    kept = calibrations.find(store, 3)
    assert kept.before == was and kept.readings == {"readings": [144.5]}
    assert calibrations.forget(store, 3).profile == was
    with pytest.raises(NotFound):
        calibrations.forget(store, 3)
    with pytest.raises(NotFound):
        calibrations.apply(store, 99, {}, was)
