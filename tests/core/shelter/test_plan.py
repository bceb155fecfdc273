"""The plan for a shelter: what a party would expect of it, measured in the Bench's own pictures."""

import re
from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.lures import USUAL_JIG
from hollow_glint.core.shelter.party import Party, Seat, ShelterHole
from hollow_glint.core.shelter.plan import shelter_plan
from hollow_glint.core.tuning.company import NEIGHBOUR_SHARE

from .parties import FINE, RING, SCROLLER, THREE, TRAIL, TWO_ROWS, WATER, party


def lit_by_others(unit, state, lure_depth_m):
    """Share of cells more that light with all others on than alone, in 400 pings of the Bench."""
    quiet = replace(state.scene, visitors=0)
    levels = []
    for scene in (quiet, replace(quiet, neighbours=())):
        run = BenchRun(scene, unit, state.settings, USUAL_JIG, np.random.default_rng(11), lure_depth_m)
        levels.append((np.concatenate([run.advance().levels for _ in range(400)]) > 0).mean())
    return levels[0] - levels[1]


def test_six_in_one_shelter_before_and_after_in_the_pictures_themselves():
    units = (RING, RING, THREE, SCROLLER, FINE, RING)
    plan = shelter_plan(party(*units))
    assert plan.proved and plan.disturbed_before >= 5 and plan.disturbed_after == 0
    for unit, seat in list(zip(units, plan.seats, strict=True))[:4:3]:
        before, after = (lit_by_others(unit, one, seat.lure_depth_m) for one in (seat.before, seat.after))
        assert before > 0.01 and after < 0.3 * before, seat.name
    for seat in plan.seats:
        assert seat.after.floor <= seat.after.settings.gain <= seat.after.ceiling, "no lure below its window"
        assert seat.line.startswith(seat.name) and f"gain {seat.after.settings.gain:g}" in seat.line
        assert seat.after.share <= NEIGHBOUR_SHARE


def test_everyone_stays_where_a_turn_of_the_rejection_is_enough():
    plan = shelter_plan(party(RING, RING, RING, RING))
    assert all(seat.changes == ("rejection",) for seat in plan.seats)
    assert [seat.after.hole for seat in plan.seats] == [0, 1, 2, 3]


def test_a_unit_without_rejection_is_told_who_suffers_and_why():
    plan = shelter_plan(party(TRAIL, TRAIL, RING))
    said = " ".join(one.text for one in plan.words)
    assert plan.disturbed_after == 2 and "Seat 1 still has" in said and "no interference rejection" in said
    assert "suffers least" in said
    # The ring can spare them: it turns its power down, for what they see of it counts before its own changes.
    assert sum(one.share for one in plan.heard_after if one.of == 2) < sum(
        one.share for one in plan.heard_before if one.of == 2
    )


def test_two_that_nothing_helps_turn_no_knob_for_a_hair():
    """Nobody is sent to the knob for a share that stays what it was."""
    water = replace(WATER, depth_m=6.0, ice_thickness_m=0.3, clarity="clear")
    plan = shelter_plan(party(TRAIL, TRAIL, water=water, holes=TWO_ROWS[:2]))
    assert plan.disturbed_after == 2
    assert [seat.changes for seat in plan.seats] == [(), ()]
    said = " ".join(one.text for one in plan.words)
    assert "suffers least" not in said and "No plan that shows as many lures" in said


def test_someone_who_comes_late_changes_as_little_as_can_be():
    first = shelter_plan(party(RING, RING, SCROLLER))
    set_so = [seat.after.settings for seat in first.seats]
    joined = shelter_plan(party(RING, RING, SCROLLER, FINE, nows=[*set_so, None], at=[0, 1, 2, None]))
    newcomer = joined.seats[3]
    assert newcomer.before.share is None and newcomer.after.hole == 3 and newcomer.after.share <= NEIGHBOUR_SHARE
    assert all("hole" not in seat.changes for seat in joined.seats[:3])
    anew = shelter_plan(party(RING, RING, SCROLLER, FINE))
    assert sum(len(seat.changes) for seat in joined.seats[:3]) == 0 < sum(len(seat.changes) for seat in anew.seats[:3])
    assert joined.disturbed_after == 0


def test_alone_in_a_shelter_nothing_changes():
    plan = shelter_plan(party(FINE))
    (seat,) = plan.seats
    assert seat.changes == () and seat.before.settings == seat.after.settings and plan.heard_after == ()


def test_a_lure_that_nothing_shows_is_said():
    faint = replace(USUAL_JIG, diameter_m=0.001, name="speck")
    seats = (Seat("Near", TRAIL, faint, 0), Seat("Far", RING, USUAL_JIG, 1))
    plan = shelter_plan(Party(replace(WATER, clarity="murky"), TWO_ROWS, seats))
    assert "No gain shows Near's lure" in " ".join(one.text for one in plan.words)


@pytest.mark.parametrize(
    ("holes", "at", "message"),
    [
        (TWO_ROWS[:1], [0, 1], "holes has 1 entries: accepted are 2"),
        ((ShelterHole(0, 0), ShelterHole(0.1, 0)), [0, 1], "holes 1 and 2 are 0.10 m apart: accepted are 0.3 to 50 m"),
        (TWO_ROWS, [2, 2], "seats.hole is 2 for Seat 1 and for Seat 2: accepted is one seat a hole"),
        (TWO_ROWS[:2], [0, 5], "seats.hole is 5 for Seat 2: accepted are 0 to 1"),
    ],
)
def test_what_cannot_be_is_refused_with_what_can(holes, at, message):
    with pytest.raises(InputError, match=re.escape(message)):
        party(RING, RING, holes=holes, at=at)


def test_a_water_deeper_than_a_units_range_is_refused():
    with pytest.raises(InputError, match="largest range of Seat 1's unit"):
        party(FINE, water=replace(WATER, depth_m=55.0))
    with pytest.raises(InputError, match="seats has 9 entries: accepted are 1 to 8"):
        party(*[RING] * 9, at=[None] * 9)
