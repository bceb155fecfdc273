"""Distance along the ice: Pythagoras, worked by hand, and what cannot be."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hollow_glint.core.gear.unit import FOOT
from hollow_glint.core.search.along_ice import along_ice
from tests.effort import bounded


def test_forty_feet_in_the_picture_over_thirty_one_of_water_can_be_twenty_five_along_the_ice():
    """Worked by hand: sqrt(40^2 - 31^2) = 25.3 ft, with the head at the surface."""
    found = along_ice(40 * FOOT, 0.0, 31 * FOOT)
    assert found.low_m == pytest.approx(25.28 * FOOT, abs=0.01) and found.high_m == pytest.approx(40 * FOOT)


def test_a_known_depth_makes_a_span_of_one_place():
    found = along_ice(5.0, 1.0, 9.0, 4.0)  # 3, 4, 5
    assert found.low_m == found.high_m == pytest.approx(4.0)
    above = along_ice(5.0, 4.0, 9.0, 1.0)
    assert above.low_m == pytest.approx(4.0)
    nothing = along_ice(2.0, 1.0, 9.0, 4.0)
    assert nothing.low_m is None and nothing.high_m is None and nothing.why.values["apart"].value == pytest.approx(3.0)


def test_nearer_than_the_bottom_it_may_hang_straight_below():
    assert along_ice(6.0, 1.0, 9.0).low_m == 0.0
    # A head half way down: the bottom and the ice are as near as one another.
    assert along_ice(5.0, 4.0, 8.0).low_m == pytest.approx(3.0)


@given(st.floats(0.0, 60.0), st.floats(0.0, 1.0), st.floats(0.5, 40.0), st.floats(0.0, 1.0))
@bounded(60)
def test_wherever_the_fish_hangs_it_lies_in_the_span(range_m, head, bottom, fish):
    span = along_ice(range_m, head * bottom, bottom)
    known = along_ice(range_m, head * bottom, bottom, fish * bottom)
    if known.low_m is not None:
        assert span.low_m - 1e-9 <= known.low_m <= span.high_m + 1e-9


def test_what_cannot_be_is_refused_by_name():
    with pytest.raises(ValueError, match="head_depth_m is 10 m: accepted is a depth above the bottom at 9 m"):
        along_ice(5.0, 10.0, 9.0)
    with pytest.raises(ValueError, match=r"fish_depth_m is 9\.5 m"):
        along_ice(5.0, 1.0, 9.0, 9.5)
    with pytest.raises(ValueError, match="range_m is -1"):
        along_ice(-1.0, 1.0, 9.0)
