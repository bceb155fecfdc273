"""What is told of a reading and when: each moment once, not twice over, with the one thing to do; marks in one ping."""

from __future__ import annotations

from collections import deque
from dataclasses import replace
from typing import get_args

import numpy as np
import pytest

from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.gear.unit import Calibrated
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.reader import sizing
from hollow_glint.core.reader.detect import marks_in
from hollow_glint.core.reader.moments import (
    DO,
    GONE_S,
    IGNORES_S,
    LATELY_TOUCHED_S,
    SWELL_PINGS,
    TAKEN_BACK_S,
    TOLD_AFTER_S,
    TOLD_SURE,
    LureNow,
    Teller,
)
from hollow_glint.core.reader.report import BottomReading, FishReading, MomentKind, NamedMark
from hollow_glint.core.reader.sizing import FishSpan
from hollow_glint.core.reader.track import Track
from hollow_glint.core.sonar.picture import Window
from hollow_glint.core.sonar.transmission import transmit

SPAN = FishSpan((6.0, 7.0), (0.0, 1.0), np.array([0.0, 1.0]), np.array([0.2, 0.4]))
PULSE_M, ROW_M = 0.07, 0.04


def fish(track: int = 1, gap: float | None = 1.0, hidden: bool = False, **of) -> NamedMark:
    reading = FishReading(SPAN, 0.0, 0.0, 0.0, "here", "steady", gap)
    return NamedMark(track, "fish", 0.9, 6.0, 6.4, 0.1, 3.0, hidden, (), replace(reading, **of))


def a_lure(thick_m: float = 0.1, level: int = 3, pings: int = SWELL_PINGS, id: int = 9) -> Track:
    track = Track(id, 5.0, 0.0, 0.0, thick_m=thick_m)
    track.seen = deque([(0.1 * k, 5.0, level, thick_m, 0.0) for k in range(pings)], maxlen=400)
    return track


def told(teller: Teller, marks, time_s: float, lure: Track | None = None, bottom=None, moved_m=0.0, wavers=False):
    now = None if lure is None else LureNow(lure, moved_m, wavers)
    return [(one.kind, one.say.text) for one in teller.moments(marks, now, bottom, time_s, PULSE_M, ROW_M)]


def seen_for(teller: Teller, marks, time_s: float, lure: Track | None = None, bottom=None):
    """What is told of marks that were there for as long before as it takes to be told."""
    told(teller, marks, time_s - TOLD_AFTER_S - 0.01, lure, bottom)
    return told(teller, marks, time_s, lure, bottom)


def kinds(found) -> list[str]:
    return [kind for kind, _ in found]


def test_every_moment_has_the_one_thing_to_do():
    assert set(DO) == set(get_args(MomentKind)) and all(do.endswith(".") for do in DO.values())


def test_a_fish_is_told_once_while_it_stays_and_again_when_it_comes_back():
    teller = Teller()
    assert kinds(seen_for(teller, [fish()], 1.0)) == ["fish in the cone"]
    assert told(teller, [fish()], 1.5) == told(teller, [fish()], 9.0) == []
    assert told(teller, [], 10.5) == [], "a second without it is no leaving"
    assert kinds(told(teller, [], 9.1 + GONE_S)) == ["gone"]
    assert kinds(seen_for(teller, [fish()], 20.0)) == ["fish in the cone"]


def test_two_fish_are_told_apart_by_their_tracks():
    teller = Teller()
    assert kinds(seen_for(teller, [fish(1), fish(2)], 1.0)) == ["fish in the cone"] * 2
    assert kinds(told(teller, [fish(2)], 1.1 + GONE_S)) == ["gone"]


def test_what_is_no_fish_or_has_no_reading_is_not_told():
    teller = Teller()
    lure = replace(fish(), kind="lure")
    assert seen_for(teller, [lure], 1.0) == []


def test_what_is_called_a_fish_for_a_moment_is_not_told():
    """A bubble or a falling lure is called one for a moment: that is never told, nor that it went."""
    teller = Teller()
    assert told(teller, [fish()], 1.0) == told(teller, [fish()], 1.0 + 0.8 * TOLD_AFTER_S) == []
    assert told(teller, [replace(fish(), kind="still")], 1.1 + TOLD_AFTER_S) == []
    assert told(teller, [], 9.0) == []


def test_what_is_called_a_fish_and_not_surely_is_not_told():
    teller = Teller()
    assert seen_for(teller, [replace(fish(), sure=TOLD_SURE - 0.05)], 1.0) == []


def test_what_was_told_and_is_something_else_is_taken_back_in_the_open():
    teller = Teller()
    seen_for(teller, [fish()], 1.0)
    lure = replace(fish(), kind="lure", sure=0.95)
    assert told(teller, [lure], 1.2) == [], "not at once: it may be a crossing"
    ((kind, text),) = told(teller, [lure], 1.3 + TAKEN_BACK_S)
    assert kind == "taken back" and "your lure" in text
    assert told(teller, [], 9.0) == [], "and it is not said to be gone besides"


def test_a_fish_that_goes_on_as_another_track_is_not_told_twice():
    teller = Teller()
    seen_for(teller, [fish(1)], 1.0)
    assert seen_for(teller, [fish(2)], 2.2) == []


@pytest.mark.parametrize(
    ("gap", "hidden", "touches"),
    [(0.06, False, True), (-0.06, False, True), (0.08, False, False), (0.06, True, True), (0.08, True, False)],
)
def test_marks_touch_within_a_pulse(gap, hidden, touches):
    teller = Teller()
    seen_for(teller, [fish()], 1.0, a_lure())
    assert ("marks touching" in kinds(told(teller, [fish(gap=gap, hidden=hidden)], 2.0, a_lure()))) == touches


def test_what_was_never_a_mark_apart_or_keeps_beside_a_lure_on_its_way_does_not_touch_it():
    beside = Teller()
    seen_for(beside, [fish(gap=0.02)], 1.0, a_lure())
    assert "marks touching" not in kinds(told(beside, [fish(gap=0.02)], 2.0, a_lure()))
    for moved_m, touches in ((0.05, True), (0.4, False)):
        teller = Teller()
        seen_for(teller, [fish()], 1.0, a_lure())
        found = kinds(told(teller, [fish(gap=0.02)], 2.0, a_lure(), moved_m=moved_m))
        assert ("marks touching" in found) == touches


def test_a_mark_that_stays_swollen_with_no_fish_near_is_how_the_lure_hangs_now():
    teller = Teller()
    told(teller, [], 1.0, a_lure(0.1))
    heard = [t for t in np.arange(4.0, 30.0, 0.25) if told(teller, [], float(t), a_lure(0.3))]
    assert heard == [4.0], "told once, and then taken for what it is"


def test_a_lure_whose_echo_depends_on_how_it_hangs_swells_only_beside_a_fish():
    for about in (False, True):
        teller, others = Teller(), [fish()] if about else []
        seen_for(teller, others, 1.0, a_lure(0.1))
        assert bool(told(teller, others, 4.0, a_lure(0.3), wavers=True)) == about


def test_touching_is_told_once_and_again_only_when_they_have_parted():
    teller = Teller()
    seen_for(teller, [fish()], 1.0, a_lure())
    gaps = {2.0: 0.01, 3.0: 0.1, 4.0: 0.05, 6.0: 0.2, 7.0: 0.2, 8.0: 0.05, 9.0: 0.05}
    times = [t for t, gap in gaps.items() if "marks touching" in kinds(told(teller, [fish(gap=gap)], t, a_lure()))]
    assert times == [2.0, 8.0], "two pulses of 7 cm apart is parted"


def test_two_at_the_lure_are_told_once():
    teller = Teller()
    seen_for(teller, [fish(1), fish(2)], 1.0, a_lure())
    assert kinds(told(teller, [fish(1, 0.02), fish(2, 0.03)], 2.0, a_lure())) == ["marks touching"]
    assert told(teller, [fish(1, 0.02), fish(2, 0.5)], 3.0, a_lure()) == []


@pytest.mark.parametrize(
    ("of", "kind"),
    [
        ({"interest": "charging", "seems_m_s": -0.4}, "charging"),
        ({"interest": "curious", "seems_m_s": -0.05}, "coming up"),
        ({"interest": "curious", "seems_m_s": -0.02}, None),
        ({"interest": "curious", "seems_m_s": 0.05}, None),
        ({"interest": "put off"}, None),
    ],
)
def test_what_a_fish_is_about_is_told_by_how_it_moves(of, kind):
    teller = Teller()
    seen_for(teller, [fish()], 1.0)
    assert kinds(told(teller, [fish(**of)], 2.0)) == ([] if kind is None else [kind])


def test_bait_is_not_told_to_come_up_as_a_fish():
    teller = Teller()
    rises = {"interest": "curious", "seems_m_s": -0.05}
    seen_for(teller, [replace(fish(), kind="bait")], 1.0)
    assert told(teller, [replace(fish(**rises), kind="bait")], 2.0) == []


def test_a_fish_above_the_lure_does_not_come_up():
    teller = Teller()
    seen_for(teller, [fish()], 1.0)
    assert told(teller, [fish(gap=-0.5, interest="curious", seems_m_s=-0.05)], 2.0) == []


@pytest.mark.parametrize(("after", "is_told"), [(LATELY_TOUCHED_S - 1.0, True), (LATELY_TOUCHED_S + 1.0, False)])
def test_a_fish_is_put_off_only_when_it_touched_of_late(after, is_told):
    teller = Teller()
    seen_for(teller, [fish()], 1.0, a_lure())
    told(teller, [fish(gap=0.01)], 2.0, a_lure())
    assert ("put off" in kinds(told(teller, [fish(interest="put off")], 2.0 + after))) == is_told


def test_half_a_minute_without_moving_is_ignoring_and_told_once_a_minute():
    teller = Teller()
    seen_for(teller, [fish()], 1.0)
    times = [t for t in range(2, 200) if "ignores you" in kinds(told(teller, [fish()], float(t)))]
    assert times == [1 + int(IGNORES_S) + 1, 1 + int(IGNORES_S) + 61, 1 + int(IGNORES_S) + 121]


# --- the lure's own mark -------------------------------------------------------------------------------------------


def test_a_lures_mark_that_swells_is_told_when_it_hangs_still():
    for moved_m, is_told in ((0.0, True), (0.2, False)):
        teller = Teller()
        assert told(teller, [], 1.0, a_lure(0.10)) == [], "how it looks alone is learned first"
        assert ("marks touching" in kinds(told(teller, [], 4.0, a_lure(0.25), moved_m=moved_m))) == is_told


@pytest.mark.parametrize(
    ("thick", "level", "about", "swells"),
    [(0.17, 3, True, False), (0.18, 3, True, True), (0.18, 3, False, False), (0.25, 3, False, True),
     (0.1, 4, True, True), (0.1, 4, False, False), (0.1, 3, True, False)],
)  # fmt: skip
def test_a_third_thicker_and_a_row_or_a_step_brighter_is_swollen(thick, level, about, swells):
    """1.35 times 0.10 m and a row of 0.04 m: from 0.175 m on where a fish is about, else twice."""
    teller, others = Teller(), [fish(gap=2.0)] if about else []
    seen_for(teller, others, 1.0, a_lure(0.10))
    assert ("marks touching" in kinds(told(teller, others, 4.0, a_lure(thick, level)))) == swells


def test_what_has_been_seen_for_too_short_is_no_measure():
    teller = Teller()
    assert told(teller, [], 1.0, a_lure(0.1, pings=2)) == []
    assert told(teller, [], 2.0, a_lure(0.9, pings=2)) == []


def test_another_track_taken_for_the_lure_is_learned_anew():
    teller = Teller()
    told(teller, [], 1.0, a_lure(0.10))
    assert told(teller, [], 2.0, a_lure(0.3, id=10)) == []
    assert told(teller, [], 5.0, a_lure(0.7, id=10)) != []


def test_marks_that_are_one_and_swell_have_merged():
    teller = Teller()
    seen_for(teller, [fish()], 1.0, a_lure(0.10))
    found = kinds(told(teller, [fish(gap=0.05, hidden=True)], 2.0, a_lure(0.13)))
    assert "merged" in found


# --- the bottom ----------------------------------------------------------------------------------------------------


def bed(restless: bool) -> BottomReading:
    return BottomReading(8.6, "soft", 0.5, None, restless, None, ())


def test_a_restless_bottom_is_told_while_no_fish_explains_it_and_seldom():
    teller = Teller()
    assert told(teller, [], 1.0, bottom=bed(False)) == []
    assert kinds(told(teller, [], 2.0, bottom=bed(True))) == ["restless bottom"]
    assert told(teller, [], 20.0, bottom=bed(True)) == []
    assert kinds(told(teller, [], 33.0, bottom=bed(True))) == ["restless bottom"]
    assert kinds(seen_for(Teller(), [fish()], 1.0, bottom=bed(True))) == ["fish in the cone"]


# --- marks in one ping ---------------------------------------------------------------------------------------------


def marks(levels: str, below: float = 0.0, above: float = 10.0, pulse: float = 0.5):
    return marks_in(np.array([int(one) for one in levels], dtype=np.uint8), Window(0.0, 10.0), pulse, below, above)


def test_marks_are_looked_for_only_where_asked():
    levels = "0" * 4 + "33" + "0" * 14 + "44" + "0" * 18
    assert marks(levels).level.tolist() == [3, 4]
    assert marks(levels, below=2.0).level.tolist() == [4]
    assert marks(levels, above=4.0).level.tolist() == [3]
    assert marks(levels, below=9.9, above=9.8).level.size == 0


def test_what_is_lit_where_the_look_begins_began_before_it():
    assert marks("5" * 10 + "0" * 30, below=1.0).level.size == 0
    assert marks("5" * 10 + "0" * 30).range_m.tolist() == [0.125]


def test_a_rise_within_the_pulses_own_is_one_mark_and_a_later_one_another():
    rising = "0" * 10 + "1234" + "0" * 26
    assert marks(rising, pulse=0.5).level.tolist() == [4]
    apart = "0" * 10 + "1111" + "3333" + "0" * 22
    assert marks(apart, pulse=0.5).level.tolist() == [1, 3]


def test_a_mark_is_as_thick_as_it_is_lit():
    assert marks("0" * 10 + "22022" + "0" * 25, pulse=2.0).thick_m[0] == pytest.approx(4 * 0.25, abs=0.26)


# --- sizes ---------------------------------------------------------------------------------------------------------

HOLE = Scene(9.1, "mud", 0.36, 0.44)
SETTINGS = starting_settings(TRAIL_UNIT, HOLE.bottom_range_m)


def test_a_stronger_mark_is_a_longer_fish_and_a_wider_error_a_wider_span():
    t = transmit(HOLE, TRAIL_UNIT, SETTINGS)
    weak, strong = (sizing.fish_span(t, 5.0, db, 1.0, 0.03) for db in (128.0, 138.0))
    assert np.interp(0.0, strong.curve_aside_m, strong.curve_length_m) > np.interp(
        0.0, weak.curve_aside_m, weak.curve_length_m
    )
    sure, unsure = (sizing.fish_span(t, 5.0, 132.0, sd, 0.03) for sd in (0.5, 4.0))
    assert sure.aside_m[1] < unsure.aside_m[1]
    assert sure.depth_m[0] > unsure.depth_m[0]


def test_louder_than_any_fish_is_the_largest_right_under_the_hole():
    t = transmit(HOLE, TRAIL_UNIT, SETTINGS)
    span = sizing.fish_span(t, 5.0, 180.0, 0.5, 0.03)
    assert span.length_m == (sizing.LONGEST_M, sizing.LONGEST_M)


def test_more_pings_make_a_level_surer_down_to_what_colour_and_calibration_leave():
    few, many, most = (sizing.level_sd(pings, TRAIL_UNIT, SETTINGS) for pings in (3, 30, 30_000))
    assert few > many > most > 0.3 * TRAIL_UNIT.colour_step_db
    assert few == pytest.approx(np.hypot(sizing.PING_SD_DB, np.hypot(0.3 * TRAIL_UNIT.colour_step_db, 1.0)))
    unsure = replace(TRAIL_UNIT, calibrated=Calibrated(4, 8.0, 0.0, 0.0, 0.5))
    assert sizing.level_sd(30, unsure, SETTINGS) > 8.0


# --- sizes ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("curve", "told"),
    [
        ([0.2, 0.4], (0.2, 0.4)),
        ([0.2, 0.51], None),
        ([0.112, 0.914], None),
        ([0.4, 0.9], None),
        ([0.3, 0.3], (0.3, 0.3)),
    ],
)
def test_a_size_is_told_only_where_it_says_something(curve, told):
    span = FishSpan((6.0, 7.0), (0.0, 1.0), np.linspace(0.0, 1.0, 2), np.array(curve))
    assert span.told_length_m == told
