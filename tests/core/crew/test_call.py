"""A call turned to one's own hole, held against plain geometry done by hand."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.checks import InputError
from hollow_glint.core.crew.call import CrewHole, FishCall, call_from

FOOT = 0.3048
LOOKOUT = CrewHole("Look-out", 0.0, 0.0)
# Six holes in a row from west to east, ten metres apart, twenty metres south of the look-out.
ROW = [CrewHole(f"Hole {k + 1}", 10.0 * (k - 2), -20.0) for k in range(6)]


def test_ten_oclock_at_forty_feet_from_a_lookout_that_faces_north():
    """300 degrees: 40 ft go 20 ft north and 34.64 ft west."""
    call = FishCall(LOOKOUT, 10.0, 40 * FOOT)
    assert call.bearing_deg == 300.0
    assert call.place == pytest.approx((-40 * FOOT * np.sqrt(3) / 2, 20 * FOOT))
    # From a hole 20 m south and 10 m east of the look-out.
    here = call_from(ROW[3], call, ROW)
    east, north = -40 * FOOT * np.sqrt(3) / 2 - 10.0, 20 * FOOT + 20.0
    assert here.distance_m == pytest.approx(np.hypot(east, north))
    assert here.bearing_deg == pytest.approx(np.degrees(np.arctan2(east, north)) % 360.0)
    assert here.paces == round(np.hypot(east, north) / 0.75)


def test_shift_three_holes_left():
    """Fish beside the first hole of the row, called to somebody at the fourth."""
    call = FishCall(LOOKOUT, 7.5, float(np.hypot(20.0, 20.0)))  # straight south-west: at the first hole
    without = call_from(ROW[3], call, ROW)
    assert (without.hole, without.shift) == ("Hole 1", -3)
    assert "Go to Hole 1, 3 holes to the left as the look-out faces." in [one.text for one in without.said]
    # A look-out that faces south has them on its other side, by its clock as by its words.
    turned = FishCall(LOOKOUT, 1.5, float(np.hypot(20.0, 20.0)), twelve_deg=180.0)
    assert turned.place == pytest.approx(call.place)
    assert call_from(ROW[3], turned, ROW).shift == 3


def test_whoever_sits_on_them_stays_and_nobody_walks_for_little():
    call = FishCall(LOOKOUT, 6.0, 20.0)  # straight south: the third hole
    there = call_from(ROW[2], call, ROW)
    assert there.hole is None and there.shift == 0 and "at your hole" in there.said[0].text
    far = FishCall(LOOKOUT, 12.0, 200.0)
    assert call_from(ROW[2], far, ROW).hole is None
    assert "stay, or drill there" in call_from(ROW[2], far, ROW).said[-1].text
    near = call_from(ROW[3], call, ROW)
    assert (near.hole, near.shift) == ("Hole 3", -1) and "one hole to the left" in near.said[1].text


def test_it_says_how_deep_and_how_surely():
    call = FishCall(LOOKOUT, 3.0, 40.0, depth_m=7.0)
    said = call_from(ROW[0], call, ROW).said
    assert said[-1].values["deep"].value == 7.0
    assert said[0].values["sure"].value == pytest.approx(40.0 * np.radians(15.0))


def test_every_way_round_the_clock_leads_to_the_same_place():
    rng = np.random.default_rng(4)
    for _ in range(50):
        call = FishCall(LOOKOUT, float(rng.uniform(0, 12)), float(rng.uniform(5, 100)), float(rng.uniform(0, 360)))
        own = CrewHole("Mine", *map(float, rng.uniform(-60, 60, 2)))
        here = call_from(own, call, [])
        turn = np.radians(here.bearing_deg)
        place = own.east_m + here.distance_m * np.sin(turn), own.north_m + here.distance_m * np.cos(turn)
        assert place == pytest.approx(call.place, abs=1e-9)
        assert (call.twelve_deg + 30.0 * here.clock_h) % 360.0 == pytest.approx(here.bearing_deg, abs=1e-6)


def test_what_cannot_be_is_refused():
    with pytest.raises(InputError, match="clock_h"):
        FishCall(LOOKOUT, 13.0, 10.0)
    with pytest.raises(InputError, match="one name twice"):
        call_from(ROW[0], FishCall(LOOKOUT, 1.0, 10.0), [CrewHole("Hole 1", 5.0, 5.0)])
