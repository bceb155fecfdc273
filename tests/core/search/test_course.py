"""A school's course: by hand, and over simulated schools whose course is known."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.search.course import Column, Course, Fix

DEEP = Column(1.0, 9.4)


def fix(
    time: float, east: float, north: float, apart: float = 0.0, sd: tuple[float, float] = (1.0, 0.3), rng=None
) -> Fix:
    """A place as the picture shows it, off by its errors where a generator is given."""
    off = (0.0, 0.0) if rng is None else rng.normal(size=2) * sd
    bearing = np.degrees(np.arctan2(east, north)) + off[0]
    return Fix(time, float(bearing), float(max(np.hypot(np.hypot(east, north), apart) + off[1], 0.2)), *sd)


def test_a_school_that_goes_east_at_a_known_depth():
    # At the head's own depth a range is a distance: 20 m north, 30 m in 60 s to the east.
    found = Course([fix(0, -15, 20), fix(30, 0, 20), fix(60, 15, 20)], Column(3.0, 9.4, 3.0))
    assert found.speed().likely == pytest.approx(0.5, abs=0.02)
    assert found.heading().likely == pytest.approx(90.0, abs=1.0)
    there = found.there(90.0)
    assert (there.east_m, there.north_m) == pytest.approx((30.0, 20.0), abs=0.6)
    assert found.there(300.0).east_sd_m > 2.0 * there.east_sd_m and abs(there.correlation) < 1.0


def test_a_span_of_heading_may_pass_north():
    found = Course([fix(0, 10, 5), fix(40, 10, 21)], Column(3.0, 9.4, 3.0))
    heading = found.heading()
    assert heading.low > 300.0 and heading.high > 360.0 and heading.likely == pytest.approx(360.0, abs=3.0)


@pytest.mark.parametrize("known", [True, False], ids=["depth known", "depth not known"])
@pytest.mark.parametrize("count", [2, 5])
def test_nine_of_ten_spans_hold_the_truth(known, count):
    rng, held = np.random.default_rng(31), {"speed": 0, "heading": 0, "there": 0}
    total = 300
    for _ in range(total):
        fish = rng.uniform(1.0, 9.0)
        speed, turn = abs(rng.normal(0.0, 0.6)) + 0.05, rng.uniform(0.0, 2.0 * np.pi)
        v = speed * np.array([np.sin(turn), np.cos(turn)])
        away, side = rng.uniform(8.0, 25.0), rng.uniform(0.0, 2.0 * np.pi)
        x = away * np.array([np.sin(side), np.cos(side)])
        times = np.sort(rng.uniform(0.0, 60.0, count)) + 12.0 * np.arange(count)
        sd = (1.5, 0.4)
        seen = [fix(float(t), *(x + v * t), apart=abs(fish - 1.0), sd=sd, rng=rng) for t in times]
        found = Course(seen, Column(1.0, 9.4, fish if known else None))
        span, heading = found.speed(), found.heading()
        held["speed"] += span.low <= speed <= span.high
        off = (np.degrees(turn) - heading.low) % 360.0
        held["heading"] += off <= heading.high - heading.low
        at = float(times[-1] + 30.0)
        there = found.there(at)
        true = x + v * at - (there.east_m, there.north_m)
        mixed = there.correlation * there.east_sd_m * there.north_sd_m
        ellipse = np.array([[there.east_sd_m**2, mixed], [mixed, there.north_sd_m**2]])
        held["there"] += true @ np.linalg.solve(ellipse, true) <= 4.605  # 90 % of a normal ellipse
    for name, count_held in held.items():
        # Nine of ten, within three deviations of 300 draws.
        assert 0.84 <= count_held / total <= 0.97, (name, count_held / total)


def test_what_is_no_course_is_refused():
    with pytest.raises(ValueError, match="fixes has 1 entries"):
        Course([fix(0, 1, 1)], DEEP)
    with pytest.raises(ValueError, match="all at one time"):
        Course([fix(0, 1, 9), fix(0.1, 2, 9)], DEEP)
    with pytest.raises(ValueError, match="range_m is shorter than the depth"):
        Course([Fix(0, 0, 2.0, 1, 0.1), Fix(20, 10, 2.0, 1, 0.1)], Column(1.0, 9.4, 9.0))
    with pytest.raises(ValueError, match=r"fish_depth_m is 12 m: the bottom is at 9\.4 m"):
        Column(1.0, 9.4, 12.0)
