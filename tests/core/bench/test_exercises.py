"""Guided exercises and touched marks: each aim can be met, none is at the start; a mark is named for its maker."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core import checks
from hollow_glint.core.bench import exercises
from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.exercises import EXERCISES
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TWO_BEAM_RING
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.gear.unit import FOOT
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import receiver, still_echoes
from hollow_glint.core.tuning import touched_mark

# What a reader does who follows each exercise's hint.
DONE = {
    "find the bottom": {"settings": {"gain": 60.0, "range_m": 30 * FOOT}},
    "find the true depth": {"target_depth_m": 8.3, "settings": {"range_m": 30 * FOOT}},
    "hang it well": {"scene": {"face_depth_m": 0.56, "tilt_deg": 0.0, "face_wet": True}},
    "find the lure": {"to_depth_m": 7.0, "settings": {"gain": 58.0}},
    "set the window": {"settings": {"bottom_window_m": 10 * FOOT}},
    "set gain by the window": {"settings": {"gain": 56.0, "tvg": 1}},
    "kill the neighbour's marks": {"settings": {"rejection": 2, "gain": 54.0}},
    "clear the night plankton": {"settings": {"gain": 0.5, "tvg": 2}},
    "separate two jigs": {"settings": {"pulse": 1, "bottom_window_m": 12 * FOOT, "gain": 40.0}},
}


def start(one: exercises.Exercise) -> BenchRun:
    return BenchRun(one.scene, one.unit, one.settings, one.lure, np.random.default_rng(3), one.lure_depth_m)


def go(run: BenchRun, seconds: float, *commands: Command) -> None:
    run.advance(commands)
    for _ in range(int(seconds / 0.05)):
        run.advance()


def test_there_are_at_least_eight_in_working_order_with_words():
    assert len(EXERCISES) >= 8 and set(DONE) == set(EXERCISES)
    for one in EXERCISES.values():
        assert one.title and one.aim.endswith(".") and one.hint.endswith(".") and one.learned.endswith(".")
    with pytest.raises(ValueError, match="juggle"):
        checks.named("exercise", "juggle", EXERCISES)


@pytest.mark.parametrize("key", DONE)
def test_an_aim_is_not_met_at_the_start_and_is_met_by_doing_as_told(key):
    one = EXERCISES[key]
    run = start(one)
    go(run, 3.0)
    assert not one.met(run)
    do = dict(DONE[key])
    if "settings" in do:
        do["settings"] = replace(run.settings, **do["settings"])
    if "scene" in do:
        do["scene"] = replace(run.scene, **do["scene"])
    go(run, 14.0 if "to_depth_m" in do else 3.0, Command(**do))
    assert one.met(run)


# --- marks --------------------------------------------------------------------------------------------------------

CROWD = Scene(
    9.1, "sand", 0.36, 0.44, weed_height_m=0.8, weed_density=0.6, plankton="thick", hour=21.0, visitors=0,
    neighbours=(Neighbour(2.5, ping_interval_s=0.0471),),
)  # fmt: skip


def named(scene: Scene, range_m: float, gain: float = 60.0, span: float = 90 * FOOT) -> touched_mark.TouchedMark:
    run = BenchRun(scene, TWO_BEAM_RING, Settings(gain, span), Lure("jig", 0.008), np.random.default_rng(1), 6.0)
    run.advance()
    now = run.heard[-1]
    off = float(receiver.taken_off(run.unit, run.settings, np.array([range_m]))[0])
    return touched_mark.explain(run.water, now, range_m, receiver.first_colour_level(run.unit, run.settings) + off)


@pytest.mark.parametrize(
    ("range_m", "kind"),
    [(0.1, "ringing"), (6.0 - 0.44 + 0.03, "lure"), (8.1, "weeds"), (8.70, "bottom"), (4.0, "plankton")],
)
def test_a_touched_mark_is_named_for_what_made_it(range_m, kind):
    assert named(replace(CROWD, neighbours=()), range_m).kind == kind


def test_second_echoes_walls_and_darkness_are_named():
    hard = Scene(4.0, "rock", 0.41, 0.46, visitors=0)
    assert named(hard, still_echoes.second_echo_range(hard) + 0.03, 70.0, 45 * FOOT).kind == "second echo"
    inside = Scene(9.1, "mud", 0.6, 0.1, visitors=0)
    assert named(inside, 0.9).kind == "walls"
    dark = named(Scene(9.1, "mud", 0.36, 0.44, visitors=0), 3.0, 10.0)
    assert dark.kind == "nothing" and dark.depth_m is None


def test_a_neighbours_mark_is_named_and_told_from_ours():
    scene = replace(CROWD, plankton="none", weed_height_m=0.0)
    run = BenchRun(scene, TWO_BEAM_RING, Settings(60.0, 90 * FOOT), Lure("jig", 0.005), np.random.default_rng(1), 3.0)
    for _ in range(40):
        run.advance()
    found = set()
    for heard in list(run.heard)[-20:]:
        for range_m in np.arange(10.0, 26.0, 0.05):
            found.add(touched_mark.explain(scene, heard, float(range_m), 110.0).kind)
    assert "neighbour" in found


def test_where_a_mark_really_is_and_how_far_it_is_off():
    scene = Scene(9.1, "mud", 0.36, 0.44, visitors=0)
    run = BenchRun(scene, TWO_BEAM_RING, Settings(60.0, 45 * FOOT), Lure("jig", 0.005), np.random.default_rng(1), 3.0)
    run.advance()
    heard = run.heard[-1]
    aside = replace(
        heard,
        place=np.array([[1.0, 0.0, 6.44]], dtype=np.float32),
        strength_db=np.array([-35.0]),
        names=heard.names[:1],
    )
    mark = touched_mark.explain(scene, aside, float(np.hypot(6.0, 1.0)) + 0.02, 90.0)
    assert mark.depth_m == pytest.approx(6.44) and mark.aside_m == pytest.approx(1.0)
    # By Pythagoras: 1 m aside at 6 m looks 8 cm too deep.
    assert mark.values["looks"].value == pytest.approx(np.hypot(6.0, 1.0) - 6.0)
    assert mark.values["off"].value > 0.5 and "looks {looks} too deep" in mark.reason
