"""Commands as they are obeyed, the water as it changes, the tape of what was shown, and the report of the settings."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam
from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.bench.tape import Tape, pings_of_frame
from hollow_glint.core.bench.tuning_report import tuning_report
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.lures import USUAL_JIG as JIG
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT, TWO_BEAM_RING
from hollow_glint.core.gear.settings import smallest_range, starting_settings
from hollow_glint.core.hole.contents import Shoal
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture
from hollow_glint.core.sonar.still_echoes import second_echo_range

HOLE = Scene(9.1, "mud", 0.36, 0.44, visitors=0)
STARTED = datetime(2026, 1, 5, 10, 0, tzinfo=UTC)


def bench(unit=TRAIL_UNIT, scene=HOLE, lure_depth_m=6.0, **knobs) -> BenchRun:
    settings = replace(starting_settings(unit, scene.bottom_range_m), **knobs)
    return BenchRun(scene, unit, settings, JIG, np.random.default_rng(1), lure_depth_m)


def go(run: BenchRun, seconds: float, *commands: Command):
    frames = [run.advance(commands)]
    frames += [run.advance() for _ in range(round(seconds / STEP_S) - 1)]
    return frames


# --- time and pings ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("unit", [TRAIL_UNIT, *SHIPPED], ids=lambda unit: unit.name)
def test_as_many_pings_as_the_rate_says_are_numbered_without_a_gap(unit):
    run = bench(unit)
    frames = go(run, 3.0)
    count = sum(frame.levels.shape[0] for frame in frames)
    assert count == pytest.approx(3.0 * run.ping_rate_hz, abs=1.01)
    nexts = 0
    for frame in frames:
        if frame.levels.shape[0]:
            assert frame.first_ping == nexts
            nexts += frame.levels.shape[0]
    assert [frame.number for frame in frames] == list(range(1, len(frames) + 1))
    assert frames[-1].time_s == pytest.approx(3.0)


@pytest.mark.parametrize("unit", [TRAIL_UNIT, *SHIPPED], ids=lambda unit: unit.name)
def test_the_line_of_steps_without_a_ping_is_seen_with_the_next_ping(unit):
    slowest = min(range(len(unit.rejections)), key=lambda k: unit.rejections[k].rate)
    run = bench(unit, rejection=slowest)
    frames = go(run, 4.0, Command(to_depth_m=3.0))
    while not frames[-1].levels.shape[0]:
        frames.append(run.advance())
    seen = [one for frame in frames for one in pings_of_frame(frame, frame.time_s - STEP_S)]
    assert sum(one.line_in_m for one in seen) == pytest.approx(6.0 - run.lure_depth_m, abs=1e-6)
    assert 6.0 - run.lure_depth_m > 0.5


def test_staggered_pings_come_as_often_in_the_mean():
    step = max(range(len(TWO_BEAM_RING.rejections)), key=lambda k: TWO_BEAM_RING.rejections[k].stagger)
    run = bench(TWO_BEAM_RING, rejection=step)
    count = sum(frame.levels.shape[0] for frame in go(run, 20.0))
    assert count == pytest.approx(20.0 * run.ping_rate_hz, rel=0.05)


# --- commands ------------------------------------------------------------------------------------------------------


def test_only_what_is_given_changes():
    run = bench()
    before = run.settings
    frames = go(run, 0.1, Command(eyes="rod"))
    assert frames[-1].eyes == "rod" and run.settings == before and frames[-1].target_depth_m == 0.0
    frames = go(run, 0.1, Command(target_depth_m=5.0))
    assert frames[-1].eyes == "rod" and frames[-1].target_depth_m == 5.0
    assert go(run, 0.1, Command(target_depth_m=0.0))[-1].target_depth_m == 0.0


def test_of_several_settings_in_one_step_the_last_counts():
    run = bench()
    first, last = (replace(run.settings, gain=gain) for gain in (10.0, 20.0))
    assert go(run, 0.05, Command(settings=first), Command(settings=last))[-1].settings.gain == 20.0


def test_a_lift_goes_on_until_it_is_changed_and_lower_to_ends_it():
    run = bench()
    up = go(run, 2.0, Command(lift_m_s=0.1))
    assert up[-1].lure_depth_m == pytest.approx(6.0 - 0.2, abs=0.01)
    held = go(run, 1.0, Command(lift_m_s=0.0))
    assert held[-1].lure_depth_m == pytest.approx(held[0].lure_depth_m, abs=1e-6)
    go(run, 0.1, Command(lift_m_s=0.1))
    down = go(run, 8.0, Command(to_depth_m=7.0))
    assert down[-1].lure_depth_m == pytest.approx(7.0, abs=1e-3)


def test_line_taken_in_and_let_out_adds_up_to_where_the_lure_went():
    run = bench()
    frames = [*go(run, 2.0, Command(lift_m_s=0.15)), *go(run, 2.0, Command(lift_m_s=-0.1))]
    assert sum(frame.line_in_m for frame in frames) == pytest.approx(6.0 - frames[-1].lure_depth_m, abs=1e-6)


def test_a_scene_too_deep_for_the_unit_is_refused_and_nothing_changes():
    run = bench(replace(TRAIL_UNIT, ranges_m=TRAIL_UNIT.ranges_m[:3]))
    before = run.scene, run.settings, run.time_s
    with pytest.raises(InputError, match="bottom_depth_m is 55 m: this unit reaches"):
        run.advance([Command(lift_m_s=0.3), Command(scene=replace(HOLE, bottom_depth_m=55.0))])
    assert (run.scene, run.settings, run.time_s) == before
    assert go(run, 0.2)[-1].lure_depth_m == pytest.approx(6.0), "the lift beside it was not obeyed either"


def test_water_that_becomes_shallower_brings_the_lure_up_with_its_bottom():
    run = bench(lure_depth_m=8.5)
    frames = go(run, 0.1, Command(scene=replace(HOLE, bottom_depth_m=5.0)))
    assert frames[-1].lure_depth_m <= 5.0


def test_schools_are_where_they_are_said_to_be_and_gone_when_taken_out():
    scene = replace(HOLE, shoals=(Shoal("bait", 12, "ball", 4.0), Shoal("char", 3, "loose", 6.0)))
    run = bench(scene=scene)
    school = go(run, 0.1)[-1].school
    assert school.shape == (15, 4) and np.all(school[:12, 3] < 0.1) and np.all(school[12:, 3] > 0.2)
    assert go(run, 0.1, Command(scene=HOLE))[-1].school.shape == (0, 4)


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"lift_m_s": 99.0}, "lift_m_s"),
        ({"to_depth_m": -1.0}, "to_depth_m"),
        ({"target_depth_m": 61.0}, "target_depth_m"),
        ({"force": "brutal"}, "force"),
        ({"rod": "third"}, "rod"),
        ({"eyes": "phone"}, "eyes"),
    ],
)
def test_a_command_out_of_its_span_is_refused_by_name(given, field):
    with pytest.raises(InputError, match=field):
        Command(**given)


# --- windows and automatic range -----------------------------------------------------------------------------------


def test_a_window_beside_the_column_is_a_second_picture_of_the_same_pings():
    unit = replace(TRAIL_UNIT, bottom_windows_m=(2.0,), window_beside=True)
    alone = go(bench(unit, bottom_window_m=2.0), 0.5)[-1]
    assert alone.window_levels is None and alone.shown.height_m == pytest.approx(2.0)
    both = go(bench(unit, bottom_window_m=2.0, beside=True), 0.5)[-1]
    assert both.shown == picture.full_column(both.settings) and both.window_shown.height_m == pytest.approx(2.0)
    assert both.window_levels.shape == both.levels.shape


def test_an_automatic_range_finds_the_bottom_and_looks_anew_when_it_is_kicked():
    unit = replace(TWO_BEAM_RING, auto_range=True)
    run = bench(unit, replace(HOLE, bottom_kind="sand"), auto_range=True, gain=70.0, range_m=unit.ranges_m[-1])
    frames = go(run, 6.0)
    assert frames[-1].lock_m == pytest.approx(HOLE.bottom_range_m, abs=0.8)
    assert frames[-1].settings.range_m == smallest_range(unit, frames[-1].lock_m)
    kicked = run.advance([Command(kick=True)])
    assert kicked.settings.range_m == smallest_range(unit, 0.0)
    assert go(run, 6.0)[-1].lock_m == pytest.approx(HOLE.bottom_range_m, abs=0.8)


def test_while_the_unit_chooses_its_range_a_hand_on_the_knob_does_nothing():
    unit = replace(TWO_BEAM_RING, auto_range=True)
    run = bench(unit, auto_range=True, gain=60.0)
    go(run, 6.0)
    was = run.settings.range_m
    go(run, 0.05, Command(settings=replace(run.settings, range_m=unit.ranges_m[-1], gain=58.0)))
    assert run.settings.range_m == was and run.settings.gain == 58.0


# --- the tape ------------------------------------------------------------------------------------------------------


def test_a_tape_keeps_every_ping_with_its_time_its_window_and_its_line():
    run, tape = bench(), Tape()
    frames = [*go(run, 1.0), *go(run, 1.0, Command(lift_m_s=0.2))]
    for frame in frames:
        tape.add(frame)
    kept = tape.recording("Test", run, STARTED)
    levels = np.concatenate([frame.levels for frame in frames])
    assert np.array_equal(kept.levels, levels) and kept.time_s.size == levels.shape[0]
    assert np.all(np.diff(kept.time_s) > 0.0) and kept.time_s[-1] == pytest.approx(2.0, abs=1e-6)
    assert kept.line_in_m.sum() == pytest.approx(sum(frame.line_in_m for frame in frames), abs=1e-6)
    assert set(kept.bottom_m) == {run.shown.bottom_m} and kept.settings == ((0, run.settings),)
    assert kept.started_at == "2026-01-05T10:00:00Z" and kept.lure == JIG


def test_a_turned_knob_is_on_the_tape_with_the_ping_it_came_at():
    run, tape = bench(), Tape()
    low = go(run, 1.0)
    high = go(run, 1.0, Command(settings=replace(run.settings, gain=run.settings.gain + 5.0)))
    for frame in (*low, *high):
        tape.add(frame)
    kept = tape.recording("Test", run, STARTED)
    first = sum(frame.levels.shape[0] for frame in low)
    assert [at for at, _ in kept.settings] == [0, first]
    assert kept.settings[1][1].gain == kept.settings[0][1].gain + 5.0


def test_an_empty_tape_says_that_nothing_was_shown_yet():
    with pytest.raises(InputError, match="nothing has been shown yet"):
        Tape().recording("Test", bench(), STARTED)


def test_the_pings_of_a_frame_share_its_time_and_its_line():
    frame = next(frame for frame in go(bench(), 1.0, Command(lift_m_s=0.4)) if frame.levels.shape[0] >= 1)
    pings = list(pings_of_frame(frame, frame.time_s - STEP_S))
    assert len(pings) == frame.levels.shape[0] and pings[-1].time_s == pytest.approx(frame.time_s)
    assert sum(one.line_in_m for one in pings) == pytest.approx(frame.line_in_m)
    assert all(np.array_equal(one.levels, row) for one, row in zip(pings, frame.levels, strict=True))


# --- the report ----------------------------------------------------------------------------------------------------


def test_the_report_has_the_numbers_of_the_settings():
    run = bench(TWO_BEAM_RING)
    go(run, 0.2)
    told = tuning_report(run, 0.3)
    width = TWO_BEAM_RING.beams[run.settings.beam].width_deg
    assert told.cone_at_lure_m == pytest.approx(beam.footprint_diameter(6.0 - 0.44, width))
    assert told.cone_at_bottom_m == pytest.approx(beam.footprint_diameter(HOLE.bottom_range_m, width))
    assert told.row_height_m == pytest.approx(run.settings.range_m / TWO_BEAM_RING.rows)
    assert told.second_echo_m == second_echo_range(HOLE) and told.neighbour_percent == 0.0
    assert told.smallest_range_m == smallest_range(TWO_BEAM_RING, HOLE.bottom_range_m)
    assert told.ping_rate_hz == run.ping_rate_hz


def test_a_fish_is_seen_further_out_than_a_jig_and_the_dead_zone_rises_outwards():
    zone = tuning_report(bench(gain=30.0), 0.4).seen_zone
    assert zone.depth_m.shape == zone.lure_m.shape == zone.fish_m.shape
    assert np.all(zone.fish_m >= zone.lure_m) and zone.fish_m.max() > zone.lure_m.max()
    assert zone.offset_m[0] == 0.0 and np.all(np.diff(zone.dead_zone_top_m) <= 1e-9)
    # By Pythagoras: at this offset the shell that first touches the bottom stands higher.
    down, aside = HOLE.bottom_range_m, zone.offset_m[-1]
    risen = down - float(np.sqrt(max(down**2 - aside**2, 0.0)))
    assert zone.dead_zone_top_m[0] - zone.dead_zone_top_m[-1] == pytest.approx(risen, abs=0.02)
