"""What the simulation must show by itself: facts of the trade, each measured on the picture the chain makes.

All are common practice, no single source. The number in each name is the fact's number in the design's list.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam
from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import SHORT_PULSE, TRAIL_UNIT, TWO_BEAM_RING, WIDE_NARROW_SCROLLER
from hollow_glint.core.gear.settings import Settings, picture_rate
from hollow_glint.core.gear.unit import FOOT, Beam, Pulse
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, ping, receiver, transmission
from hollow_glint.core.tuning import seen_zone

from .watching import fish, lure_alone, steady, watch

HOLE = Scene(bottom_depth_m=31 * FOOT, bottom_kind="mud", ice_thickness_m=0.35, face_depth_m=0.42)
FORTY = Settings(gain=25.0, range_m=40 * FOOT)


def test_01_a_20_degree_cone_is_a_third_as_wide_as_the_water_is_deep():
    for feet in (10, 20, 40):
        assert beam.footprint_diameter(feet * FOOT, 20.0) == pytest.approx(feet * FOOT / 3.0, rel=0.07)
    assert beam.footprint_diameter(31 * FOOT, 12.0) == pytest.approx(6.5 * FOOT, rel=0.01)


def test_02_a_target_drawn_to_the_edge_fades_and_looks_deeper():
    scene = replace(HOLE, bottom_depth_m=40 * FOOT)
    settings = Settings(21.0, 60 * FOOT)
    depth = scene.face_depth_m + 25 * FOOT
    looked = {}
    for aside_ft in (0, 3, 5):
        seen = watch(scene, settings, steady((depth, aside_ft * FOOT, -22.0)))
        looked[aside_ft] = (seen.top_of_mark(24 * FOOT, 27 * FOOT), seen.brightest(24 * FOOT, 27 * FOOT))
    deeper = looked[5][0] - looked[0][0]
    assert deeper == pytest.approx(0.5 * FOOT, abs=1.5 * 60 * FOOT / TRAIL_UNIT.rows)
    assert looked[0][1] > looked[3][1] >= looked[5][1] > 0


def test_02b_the_shift_is_resolved_in_a_bottom_window():
    """In a finer picture the same six inches are measured closely."""
    scene = replace(HOLE, bottom_depth_m=27 * FOOT + HOLE.face_depth_m)
    settings = Settings(30.0, 30 * FOOT, 6 * FOOT)
    depth = scene.face_depth_m + 25 * FOOT
    tops = [
        watch(scene, settings, steady((depth, aside * FOOT, -22.0))).top_of_mark(24 * FOOT, 26 * FOOT)
        for aside in (0, 5)
    ]
    assert (tops[1] - tops[0]) / FOOT * 12 == pytest.approx(6.0, abs=1.0)


def test_03_the_same_fish_is_weakest_at_the_edge_and_strongest_under_the_hole():
    t = transmission.transmit(HOLE, TRAIL_UNIT, FORTY)
    threshold = TRAIL_UNIT.gain.first_colour_db - TRAIL_UNIT.gain.decibels(FORTY.gain)
    edge = float(seen_zone.fish_seen_radius(t, 0.3, threshold, np.array([7.0]))[0])
    levels = []
    for share in (0.0, 0.5, 0.9, 1.0):
        seen = watch(HOLE, FORTY, fish((7.0, share * edge, 0.3)))
        levels.append(seen.brightest(6.0, 7.2))
    assert levels == sorted(levels, reverse=True)
    assert levels[0] > 3.5
    assert 0.1 < levels[-1] < 1.2


def test_04_more_gain_widens_the_cone_in_which_a_fish_is_seen():
    """A nominal 9 degree beam acts like 12 or more once there is gain to spare."""
    unit = replace(TRAIL_UNIT, beams=(Beam("nine", 200e3, 9.0),))

    def acts_like(gain: float) -> float:
        widest = 0.0
        for aside in np.arange(0.0, 1.6, 0.05):
            seen = watch(HOLE, replace(FORTY, gain=gain), fish((7.0, float(aside), 0.3), pings=120), unit)
            if seen.share_lit(6.2, 7.2) > 0.5:
                widest = float(aside)
        return float(2 * np.degrees(np.arctan(widest / (7.0 - HOLE.face_depth_m))))

    widths = [acts_like(gain) for gain in (12.0, 20.0, 28.0)]
    assert widths[0] < widths[1] < widths[2]
    assert widths[2] > 12.0


def test_05_the_lure_needs_more_gain_deeper_and_murk_takes_gain_away():
    jig = Lure("5 mm tungsten jig", 0.005)
    strength = jig.target_strength(200e3, transmission.transmit(HOLE, TRAIL_UNIT, FORTY).sound_speed_m_s)

    def least_gain(depth: float) -> float:
        for gain in np.arange(0.0, 51.0):
            seen = watch(HOLE, replace(FORTY, gain=float(gain)), steady((depth, 0.0, strength), pings=40))
            r = depth - HOLE.face_depth_m
            if seen.share_lit(r - 0.05, r + 0.15) > 0.9:
                return float(gain)
        return np.inf

    needs = [least_gain(depth) for depth in (3.0, 5.0, 8.0)]
    assert needs == sorted(needs) and needs[2] - needs[0] > 8

    def most_gain(clarity: str) -> float:
        scene = replace(HOLE, clarity=clarity)
        for gain in np.arange(50.0, -1.0, -1.0):
            seen = watch(scene, replace(FORTY, gain=float(gain)), None, pings=40)
            if (seen.between(1.5, 8.5) > 0).mean() < 0.02:
                return float(gain)
        return -np.inf

    allows = [most_gain(clarity) for clarity in ("clear", "murky", "plankton")]
    assert allows == sorted(allows, reverse=True) and allows[0] - allows[2] > 8


def test_06_doubling_the_range_halves_a_mark_and_a_window_enlarges_it():
    loud = steady((8.4, 0.0, -38.0))
    near = watch(HOLE, FORTY, loud).thickness(7.7, 8.6)
    far = watch(HOLE, replace(FORTY, range_m=80 * FOOT), loud).thickness(7.7, 8.6)
    close = watch(HOLE, replace(FORTY, bottom_window_m=6 * FOOT), loud).thickness(7.7, 8.6)
    assert near / far == pytest.approx(2.0, rel=0.35)
    assert close / near == pytest.approx(40 / 6, rel=0.25)


def test_07_low_power_hides_the_jig_first_and_gain_brings_neighbours_back_with_it():
    unit = replace(TWO_BEAM_RING, powers_w=(5.0, 100.0))
    settings = Settings(45.0, 45 * FOOT)
    shared = replace(HOLE, neighbours=(Neighbour(15.0, power_w=60.0),))
    t = transmission.transmit(HOLE, unit, settings)
    jig = Lure("3 mm jig", 0.003).target_strength(200e3, t.sound_speed_m_s)
    bait = Lure("minnow", 0.01, "lead", "minnow", 0.05).target_strength(200e3, t.sound_speed_m_s)

    def lit(power: int, gain: float) -> tuple[float, float, float]:
        now = replace(settings, power=power, gain=gain)
        seen = watch(shared, now, steady((6.0, 0.0, jig), (7.5, 0.0, bait), pings=400), unit)
        water = (seen.between(2.0, 5.0) > 0).mean()
        return seen.share_lit(5.55, 5.75), seen.share_lit(7.05, 7.25), float(water)

    enough = next(gain for gain in range(101) if lit(1, gain)[0] > 0.95)
    low = lit(0, enough)
    assert low[0] < 0.3 and low[1] > 0.95
    back = next(gain for gain in range(enough, 101) if lit(0, gain)[0] > 0.95)
    assert lit(0, back)[2] > 1.3 * low[2] > 0.0


def test_08_mud_leaves_a_tail_and_sand_a_second_echo():
    settings = Settings(18.0, 80 * FOOT)
    thick, second = {}, {}
    for kind in ("mud", "sand"):
        scene = replace(HOLE, bottom_kind=kind)
        seen = watch(scene, settings, None)
        first = scene.bottom_range_m
        again = 2 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m
        thick[kind] = seen.thickness(first - 0.3, first + 4.0)
        second[kind] = seen.share_lit(again - 0.3, again + 0.4)
        assert again == pytest.approx(2 * first, rel=0.1)
    assert thick["mud"] > 1.5 * thick["sand"]
    assert second == {"mud": 0.0, "sand": 1.0}


def test_09_weeds_read_as_a_soft_bottom_and_a_shorter_pulse_shows_what_stands_in_them():
    scene = replace(HOLE, weed_height_m=1.2, weed_density=0.35)
    unit = SHORT_PULSE
    top = scene.weed_top_m - scene.face_depth_m
    at = top + 0.5
    settings = Settings(36.0, 40 * FOOT, beam=1, power=0)
    seen = watch(scene, settings, None, unit)
    # A false bottom: full of colour from the top of the weeds down, and thick.
    assert seen.top_of_mark(4.0, 9.5) == pytest.approx(top, abs=0.3)
    assert seen.thickness(top - 0.2, HOLE.bottom_range_m) * seen.row_m > 0.8

    def stands_out(pulse: int) -> float:
        """How many colours the fish stands above the weeds beside it."""
        now = replace(settings, pulse=pulse, bottom_window_m=6 * FOOT)
        with_fish = watch(scene, now, steady((at + scene.face_depth_m, 0.0, -35.0)), unit)
        without = watch(scene, now, None, unit)
        return with_fish.brightest(at, at + 0.05) - without.brightest(at, at + 0.05)

    assert stands_out(1) > stands_out(0) + 0.5


def test_10_inside_the_ice_the_top_is_full_of_clutter_and_lowered_it_clears():
    """The heavy clutter of a face up in the hole, its narrowed cone, and what lowering does to both."""
    settings = Settings(45.0, 45 * FOOT)
    lit, edge = {}, {}
    for face in (0.05, 0.65):
        scene = replace(HOLE, ice_thickness_m=0.6, face_depth_m=face)
        seen = watch(scene, settings, fish((6.0, 1.4, 0.35)), TWO_BEAM_RING)
        lit[face] = (seen.between(0.0, 1.6) > 0).mean()
        edge[face] = seen.brightest(5.2, 6.3)
    assert lit[0.05] > 2.0 * lit[0.65]
    assert edge[0.65] > edge[0.05]


def test_10b_the_displayed_depth_drops_by_what_the_transducer_is_lowered():
    tops = []
    for lowered in (0.0, 0.3, 0.6):
        scene = replace(HOLE, face_depth_m=HOLE.face_depth_m + lowered)
        seen = watch(scene, Settings(20.0, 40 * FOOT), None)
        displayed = seen.top_of_mark(7.0, 11.0)
        assert displayed + scene.face_depth_m == pytest.approx(scene.bottom_depth_m, abs=1.5 * seen.row_m)
        tops.append(displayed)
    assert tops[0] - tops[2] == pytest.approx(0.6, abs=1.5 * 40 * FOOT / TRAIL_UNIT.rows)


def test_11_off_plumb_the_bottom_shows_and_the_lure_fades():
    levels = {}
    lure = steady((8.0, 0.0, -50.0))
    for tilt in (0.0, 6.0):
        seen = watch(replace(HOLE, tilt_deg=tilt), FORTY, lure)
        levels[tilt] = (seen.brightest(7.4, 7.8), seen.brightest(8.9, 9.2))
    assert levels[6.0][0] <= levels[0.0][0] - 0.8
    assert levels[6.0][1] > 0.8 * levels[0.0][1] and levels[6.0][1] >= 4.0


def test_12_a_dry_face_costs_several_db_on_everything():
    for what in (None, steady((7.0, 0.0, -45.0))):
        wet = watch(HOLE, FORTY, what)
        dry = watch(replace(HOLE, face_wet=False), FORTY, what)
        span = (6.4, 6.8) if what else (9.0, 12.0)
        assert dry.between(*span).mean() < 0.8 * wet.between(*span).mean()
    wet_t, dry_t = (transmission.transmit(replace(HOLE, face_wet=wet), TRAIL_UNIT, FORTY) for wet in (True, False))
    assert 5.0 < ping.target_echo_level(wet_t, -40.0, 7.0) - ping.target_echo_level(dry_t, -40.0, 7.0) < 12.0


def test_13_minnow_over_spoon_over_jig():
    t = transmission.transmit(HOLE, TRAIL_UNIT, FORTY)
    lures = (
        Lure("jig", 0.005),
        Lure("spoon", 0.012, "brass", "spoon", 0.04),
        Lure("minnow", 0.010, "lead", "minnow", 0.05),
    )
    settings = replace(FORTY, gain=23.0, bottom_window_m=12 * FOOT)
    thick = [watch(HOLE, settings, lure_alone(lure, 7.5, 200, t)).thickness(6.9, 7.8) for lure in lures]
    bright = [watch(HOLE, settings, lure_alone(lure, 7.5, 200, t)).brightest(6.9, 7.4) for lure in lures]
    assert thick == sorted(thick) and bright == sorted(bright)
    assert thick[2] > 1.3 * thick[0] and bright[1] > bright[0] + 0.3


def test_14_a_spoon_on_slack_line_glides_out_is_lost_and_swings_back():
    spoon = Lure("spoon", 0.012, "brass", "spoon", 0.04)
    scene = replace(HOLE, visitors=0)
    settings = replace(FORTY, gain=20.0)
    run = BenchRun(scene, TRAIL_UNIT, settings, spoon, np.random.default_rng(3))
    frames = [run.advance([Command(to_depth_m=2.0)])] + [run.advance() for _ in range(200)]
    frames += [run.advance([Command(to_depth_m=7.0)])] + [run.advance() for _ in range(500)]
    rows = picture.row_range(TRAIL_UNIT, frames[0].shown)

    def marked(frame) -> bool:
        at = frame.lure_depth_m - scene.face_depth_m
        return bool((frame.levels[:, np.abs(rows - at - 0.05) < 0.2] > 0).any())

    aside = np.array([abs(frame.lure_x) for frame in frames])
    falling = [i for i in range(201, 460) if frames[i].lure_depth_m < 6.9]
    assert np.mean([marked(f) for f in frames[150:200]]) > 0.9  # hanging at 2 m
    assert max(frame.lure_depth_m for frame in frames) == pytest.approx(7.0, abs=0.01)
    assert run_aside(frames) > 1.0
    gone = [i for i in falling if frames[i].lure_depth_m > 5.0]
    assert np.mean([marked(frames[i]) for i in gone]) < 0.4
    assert np.mean([marked(f) for f in frames[-60:]]) > 0.9 and aside[-1] < 0.15


def run_aside(frames) -> float:
    """The farthest a lure swung along x [m]."""
    return float(max(abs(frame.lure_x) for frame in frames))


def test_15_two_jigs_six_inches_apart_are_two_marks():
    t = transmission.transmit(HOLE, TRAIL_UNIT, FORTY)
    strength = Lure("5 mm tungsten jig", 0.005).target_strength(200e3, t.sound_speed_m_s)
    settings = replace(FORTY, gain=23.0, bottom_window_m=6 * FOOT)
    apart = watch(HOLE, settings, steady((8.2, 0.0, strength), (8.2 + 0.5 * FOOT, 0.0, strength)))
    touching = watch(HOLE, settings, steady((8.2, 0.0, strength), (8.2 + FOOT / 24, 0.0, strength)))
    assert apart.runs(7.5, 8.3) == 2
    assert touching.runs(7.5, 8.3) == 1


def test_15b_half_an_inch_needs_a_pulse_of_about_18_microseconds():
    """The longest pulse with which two jigs half an inch apart still are two marks."""
    settings = Settings(0.0, 40 * FOOT, bottom_window_m=3 * FOOT, pulse=0, power=1)
    parts = []
    for microseconds in (10, 12, 14, 16, 18, 20, 24, 30, 70):
        unit = replace(SHORT_PULSE, pulses=(Pulse("tried", microseconds * 1e-6),))
        t = transmission.transmit(HOLE, unit, settings)
        strength = Lure("5 mm tungsten jig", 0.005).target_strength(455e3, t.sound_speed_m_s)
        pair = steady((8.75, 0.0, strength), (8.75 + FOOT / 24, 0.0, strength))
        # As little gain as shows them: skirts of a strong echo fill any gap.
        shown = (watch(HOLE, replace(settings, gain=g), pair, unit) for g in range(61))
        parts.append((next(seen for seen in shown if seen.share_lit(8.28, 8.5) > 0.95).runs(8.28, 8.5), microseconds))
    assert 12 <= max(length for marks, length in parts if marks == 2) <= 20
    assert parts[-1] == (1, 70)
    assert min(one.duration_s for one in SHORT_PULSE.pulses) <= 18e-6


def test_16_a_fish_that_closes_on_the_lure_merges_and_the_mark_swells():
    settings = replace(FORTY, gain=23.0, bottom_window_m=6 * FOOT)
    lure = (8.2, 0.0, -58.0)

    def with_fish_below(gap: float):
        return watch(HOLE, settings, steady(lure, (8.2 + gap, 0.0, -45.0)))

    assert with_fish_below(0.35).runs(7.5, 8.4) == 2
    merged = with_fish_below(0.04)
    assert merged.runs(7.5, 8.4) == 1
    alone = watch(HOLE, settings, steady(lure))
    assert merged.thickness(7.5, 8.4) > 1.3 * alone.thickness(7.5, 8.4)
    assert merged.brightest(7.5, 8.4) > alone.brightest(7.5, 8.4)


def test_17_a_fish_near_the_bottom_but_off_axis_hides_in_the_bottom_echo():
    """On axis it stands clear above the line; off axis its slant puts it into the line."""
    settings = Settings(22.0, 40 * FOOT, 6 * FOOT)
    depth = HOLE.bottom_depth_m - 0.22
    line = HOLE.bottom_range_m
    under = watch(HOLE, settings, fish((depth, 0.0, 0.35)))
    aside = watch(HOLE, settings, fish((depth, 2.1, 0.35)))
    empty = watch(HOLE, settings, None, pings=400)
    above = (line - 0.4, line - 0.05)
    assert under.share_lit(*above) > 0.9
    assert aside.share_lit(*above) == empty.share_lit(*above) == 0.0


def test_17b_the_bottom_line_is_restless_over_a_hidden_fish():
    """A fish half in the line makes its top flicker from ping to ping; alone the line is steady."""
    settings = Settings(22.0, 40 * FOOT, 6 * FOOT)
    line = HOLE.bottom_range_m
    hidden = fish((HOLE.bottom_depth_m - 0.14, 0.6, 0.5))
    rows = None
    flicker = []
    for targets in (hidden, None):
        seen = watch(HOLE, settings, targets, pings=400)
        rows = (seen.range_m > line - 0.25) & (seen.range_m < line + 0.2)
        top = (seen.levels[:, rows] > 0).argmax(axis=1)
        flicker.append(float(top.std()))
    assert flicker[0] > flicker[1] + 0.5


NEXT_DOOR = (Neighbour(2.5, ping_interval_s=0.0471), Neighbour(4.0, ping_interval_s=0.0533))


def _foreign(scene: Scene, settings: Settings, unit) -> float:
    """Share of open-water cells lit, past what the water lights by itself."""
    shared = watch(scene, settings, None, unit, pings=400)
    alone = watch(replace(scene, neighbours=()), settings, None, unit, pings=400)
    return float((shared.between(2.0, 8.5) > 0).mean() - (alone.between(2.0, 8.5) > 0).mean())


def test_18_a_neighbours_marks_drift_rejection_removes_them_and_a_narrow_beam_weakens_them():
    scene, unit = replace(HOLE, neighbours=NEXT_DOOR), TWO_BEAM_RING
    settings = Settings(45.0, 45 * FOOT)
    one = replace(HOLE, neighbours=NEXT_DOOR[:1])
    seen = watch(one, settings, None, unit, pings=60)
    tops = np.array([rows[0] if rows.size else -1 for rows in map(np.flatnonzero, seen.between(1.5, 8.6) > 0)])
    there = tops[tops >= 0]
    assert there.size > 5 and np.ptp(there) > 100  # all over the column, ping by ping
    foreign = [_foreign(scene, replace(settings, rejection=step), unit) for step in (0, 1, 5)]
    assert foreign[0] > 0.01
    assert foreign[1] < 0.2 * foreign[0] and foreign[2] < 0.05 * foreign[0]
    assert _foreign(scene, replace(settings, beam=1), unit) < 0.8 * foreign[0]


def test_19_the_highest_rejection_makes_a_moving_lures_mark_lag():
    settings = Settings(40.0, 45 * FOOT)
    pings = 120
    behind = {}
    for step in (0, 5):
        now = replace(settings, rejection=step)
        t = transmission.transmit(HOLE, TWO_BEAM_RING, now)
        rate = picture_rate(TWO_BEAM_RING, now, 50.0)
        depth = 3.0 + 0.2 * np.arange(pings) / rate  # falling at 0.2 m/s
        falling = steady((0.0, 0.0, -45.0), pings=pings)
        falling.place[2] = depth[:, None]
        seen = watch(HOLE, now, falling, TWO_BEAM_RING)
        column = (seen.range_m > 2.0) & (seen.range_m < 8.6)
        foot = seen.range_m[column][seen.levels[:, column].argmax(axis=1)]
        late = (depth - t.face_depth_m - foot)[20:90]
        behind[step] = float(np.nanmedian(late)) / 0.2
    told = receiver.lag(TWO_BEAM_RING, replace(settings, rejection=5), 10.0)
    assert behind[5] - behind[0] == pytest.approx(told, rel=0.5)
    assert told > 0.3


def test_20_plankton_at_night_lifts_the_floor_and_hiding_the_weakest_clears_it():
    unit = WIDE_NARROW_SCROLLER
    noon = replace(HOLE, plankton="thick", hour=12.0)
    night = replace(noon, hour=20.0)
    settings = Settings(2.0, 34 * FOOT, beam=1)

    def water(scene: Scene, **knobs) -> float:
        return float((watch(scene, replace(settings, **knobs), None, unit).between(1.5, 6.5) > 0).mean())

    assert water(night) > 4.0 * water(noon)
    hide = next(i for i, one in enumerate(unit.ladders) if one.name == "Hide the weakest")
    assert water(night, ladder=hide) < 0.5 * water(night)
    t = transmission.transmit(night, unit, settings)
    small = steady((5.0, 0.0, Lure("2 mm", 0.002).target_strength(200e3, t.sound_speed_m_s)))
    clear = replace(HOLE)
    shows = next(
        g
        for g in np.arange(-10, 10.5, 0.5)
        if watch(clear, replace(settings, gain=g), small, unit).share_lit(4.5, 4.75) > 0.95
    )
    now = replace(settings, gain=shows, ladder=hide)
    assert watch(clear, now, small, unit).share_lit(4.5, 4.75) < 0.1


def test_21_a_still_fish_draws_a_line_and_one_that_swims_through_an_arc():
    pings = 300
    through = fish((7.0, 0.0, 0.4), pings=pings)
    through.place[0] = np.linspace(-1.6, 1.6, pings)[:, None]
    settings = replace(FORTY, gain=28.0)

    def course(targets) -> np.ndarray:
        seen = watch(HOLE, settings, targets)
        rows = (seen.range_m > 6.2) & (seen.range_m < 7.4)
        lit = seen.levels[:, rows] > 0
        first = np.where(lit.any(axis=1), seen.range_m[rows][lit.argmax(axis=1)], np.nan)
        return np.array([np.nanmedian(part) for part in np.array_split(first, 5)])

    still, swimming = course(fish((7.0, 0.0, 0.4), pings=pings)), course(through)
    row = 40 * FOOT / TRAIL_UNIT.rows
    assert np.ptp(still) <= row
    assert swimming[0] - swimming[2] > row and swimming[4] - swimming[2] > row


def test_22_small_fish_that_look_like_one_mark_part_in_a_window():
    """Two a hand apart share their rows at 80 ft of range and stand apart in a 6 ft window."""
    pair = steady((8.4, 0.0, -50.0), (8.58, 0.0, -50.0))
    wide = watch(HOLE, Settings(20.0, 80 * FOOT), pair)
    close = watch(HOLE, Settings(20.0, 80 * FOOT, 6 * FOOT), pair)
    assert wide.runs(7.6, 8.5) == 1
    assert close.runs(7.6, 8.5) == 2


def test_23_time_varied_gain_quiets_the_top_and_leaves_the_deep_fish():
    unit = TWO_BEAM_RING
    scene = replace(HOLE, clarity="murky")
    deep = steady((8.5, 0.0, -40.0))
    off, on = (watch(scene, Settings(58.0, 45 * FOOT, tvg=step), deep, unit) for step in (0, 2))
    assert (off.between(0.5, 2.5) > 0).mean() > 0.3
    assert (on.between(0.5, 2.5) > 0).mean() < 0.25 * (off.between(0.5, 2.5) > 0).mean()
    assert on.brightest(8.0, 8.3) >= off.brightest(8.0, 8.3) - 1.0


def test_24_blanking_removes_the_clutter_and_everything_else_in_the_top():
    unit = TWO_BEAM_RING
    high = steady((HOLE.face_depth_m + 0.7, 0.0, -45.0), (HOLE.face_depth_m + 5.0, 0.0, -45.0))
    settings = Settings(45.0, 45 * FOOT)
    off, on = (watch(HOLE, replace(settings, blanking=step), high, unit) for step in (0, 1))
    assert off.between(0.0, 0.3).max() > 0 and off.share_lit(0.65, 0.85) > 0.9
    assert on.between(0.0, 0.9).max() == 0
    assert on.share_lit(4.95, 5.15) > 0.9
