"""What a unit must have for one's waters: by closed forms, and by what anybody would expect of such waters."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.gear.lures import USUAL_JIG, Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT, TWO_BEAM_RING
from hollow_glint.core.trip.worth import CAPABILITIES, CONES_DEG, FishedWater, cones, worth

SMALL = Lure("4 mm", 0.004)
ALONE = FishedWater(4.3, "sand")
CROWDED = FishedWater(9.4, "mud", others=4)


@pytest.fixture(scope="module")
def found():
    return {one.capability: one for one in worth([ALONE, CROWDED], SMALL, TWO_BEAM_RING)}


def test_all_are_weighed_and_most_comes_first(found):
    assert {*CAPABILITIES, "turns", "ahead", "automatic range"} == set(found)
    shares = [one.share for one in found.values()]
    assert shares == sorted(shares, reverse=True) and 0.0 <= shares[-1] <= shares[0] <= 1.0


def test_a_pulse_parts_by_half_its_length(found):
    """Range resolution c tau / 2 (Simmonds and MacLennan 2005): 18 microseconds at 1407 m/s are 12.7 mm."""
    pulse = found["fine pulse"]
    assert pulse.with_it.value == pytest.approx(1407.0 * 18e-6 / 2.0, rel=0.01)
    assert pulse.without.value == pytest.approx(1407.0 * 1e-4 / 2.0, rel=0.01)
    assert pulse.own.value == pytest.approx(1407.0 * 4e-5 / 2.0, rel=0.01) and not pulse.has


def test_rejection_is_worth_much_in_company_and_nothing_alone(found):
    assert found["rejection"].share > 0.25 and found["rejection"].with_it.value < 0.5 * found["rejection"].without.value
    alone = {one.capability: one for one in worth([ALONE], SMALL)}
    assert alone["rejection"].verdict == "you gain nothing" and "alone" in alone["rejection"].why.text
    assert alone["rejection"].own is None and not alone["rejection"].has


def test_a_narrow_beam_hides_less_beside_the_hole_and_shows_a_small_lure_deeper():
    (deep,) = [one for one in worth([FishedWater(12.0, "mud")], SMALL) if one.capability == "narrow beam"]
    # The lure hangs at 11.7 m: seen with it, lost without it.
    assert deep.with_it.value > 11.7 > deep.without.value and "lost below" in deep.why.text
    assert deep.share == 1.0 and deep.verdict == "you should not be without it"
    flat = cones(FishedWater(9.4, "mud"), SMALL)
    assert [one.width_deg for one in flat] == list(CONES_DEG)
    for narrow, wide in zip(flat[:-1], flat[1:], strict=True):
        assert narrow.hidden_m < wide.hidden_m and narrow.window_db > wide.window_db
        assert narrow.at_bottom_m < wide.at_bottom_m and narrow.fish_seen_m < wide.fish_seen_m
    # A cone of 12 degrees at the bottom under the face: 2 h tan 6.
    twelve = flat[3]
    assert twelve.at_bottom_m == pytest.approx(2.0 * 9.02 * np.tan(np.radians(6.0)), rel=0.01)


def test_what_ones_own_unit_has_is_said(found):
    assert found["wide beam"].has and found["narrow beam"].has and found["more colours"].has
    assert not found["automatic range"].has
    plain = {one.capability: one.has for one in worth([ALONE], USUAL_JIG, TRAIL_UNIT)}
    assert plain["bottom window"] and not plain["rejection"] and not plain["fine pulse"]


def test_waters_that_differ_want_more_ranges_and_no_water_is_refused():
    (one,) = [x for x in worth([ALONE], SMALL) if x.capability == "automatic range"]
    assert one.verdict == "you gain nothing" and one.without.value == 1
    many = [FishedWater(depth) for depth in (2.5, 5.0, 9.0, 17.0)]
    (four,) = [x for x in worth(many, SMALL) if x.capability == "automatic range"]
    assert four.without.value == 4 and four.share > one.share
    with pytest.raises(ValueError, match="waters is empty"):
        worth([], SMALL)
    told: list[float] = []
    worth([ALONE], SMALL, tell=told.append)
    assert told == sorted(told) and 0.0 < told[0] < told[-1] < 1.0
