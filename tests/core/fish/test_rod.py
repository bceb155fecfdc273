"""Rod, line and hook: sink, slack, stretch, the tip's language, and why a set fails."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics.targets import SOLIDS
from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.bench.frame import STEP_S
from hollow_glint.core.fish import rod
from hollow_glint.core.fish.day import Day
from hollow_glint.core.fish.states import MOUTHING, Newcomer
from hollow_glint.core.fish.strike import Striking
from hollow_glint.core.gear.lures import USUAL_JIG as JIG
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.hole.contents import Hung
from hollow_glint.core.runs.levels import MUD
from hollow_glint.core.runs.replay import begin, story
from hollow_glint.core.runs.run_log import RunLog
from hollow_glint.core.runs.start import set_up
from tests.effort import seeds

HOT = Day("hot", 3.0, 0.0, 0.0)


def striking(scene=MUD, lure=JIG, line="braid", depth=7.0, schedule=(), seed=0):
    return Striking(scene, lure, HOT, line, np.random.default_rng(seed), depth, schedule)


def with_a_bite(how="load", species="whitefish", length=0.35, line="braid", scene=MUD, depth=7.0):
    """A fish that has just taken the lure."""
    strike = striking(scene, line=line, depth=depth, schedule=(Newcomer(species, length, depth, 1.0, comes=True),))
    strike.move(0.0, STEP_S)
    fish = strike.visitors
    fish.mood[:] = MOUTHING
    fish.x[:], fish.y[:], fish.z[:] = 0.0, 0.0, depth
    fish.timer_s[:], fish.watched_s[:] = 2.0, 0.0
    fish.bite[:] = ("tap", "load", "slack", "nip").index(how)
    return strike


def pass_time(strike, seconds, start=0.05):
    tips = []
    for k in range(round(seconds / STEP_S)):
        strike.move(start + k * STEP_S, STEP_S)
        tips.append((strike.tip.says, strike.tip.bend))
    return tips


def test_submerged_weight_is_that_of_archimedes():
    """A 5 mm tungsten ball: 65.4 mm3 of 19.3 less 1.0 g/cm3, 11.7 mN (worked by hand; densities as in `targets`)."""
    assert rod.weight_in_water(JIG) == pytest.approx(
        65.45e-9 * (SOLIDS["tungsten"].density_kg_m3 - 1000) * 9.81, rel=1e-3
    )
    assert rod.weight_in_water(JIG) == pytest.approx(0.0117, rel=0.03)


def test_a_line_stretches_as_a_spring():
    """Hooke: nylon twice as long gives half the pull for the same sweep; braid is capped by the arm."""
    near = rod.set_pull("nylon", 8.0, 0.0, "firm", 14.0, 1.0)
    far = rod.set_pull("nylon", 16.0, 0.0, "firm", 14.0, 1.0)
    assert near.pull_n == pytest.approx(2.0 * far.pull_n) and near.pull_n == pytest.approx(64.0 / 8.0 * 0.45)
    assert rod.set_pull("braid", 8.0, 0.0, "firm", 14.0, 1.0).pull_n == rod.SWEEPS["firm"][1]
    assert rod.set_pull("nylon", 8.0, 0.45, "firm", 14.0, 1.0).outcome == "too soft"


@pytest.mark.parametrize(
    ("line", "depth", "force", "held", "outcome"),
    [
        ("braid", 7.0, "firm", 0.5, "hooked"),
        ("braid", 7.0, "hard", 0.5, "torn out"),
        ("braid", 7.0, "firm", 0.05, "torn out"),
        ("nylon", 26.0, "firm", 0.5, "too soft"),
        ("nylon", 26.0, "hard", 0.5, "hooked"),
        ("nylon", 2.0, "hard", 0.5, "line parted"),
    ],
)  # fmt: skip
def test_each_way_for_a_set_to_go(line, depth, force, held, outcome):
    assert rod.set_pull(line, depth, 0.0, force, 14.0, held).outcome == outcome


@pytest.mark.parametrize("wrong", [{"line": "rope"}, {"force": "brutal"}])
def test_unknown_tackle_is_refused(wrong):
    with pytest.raises(ValueError, match=next(iter(wrong))):
        rod.set_pull(
            **{
                "line": "braid",
                "length_m": 5.0,
                "slack_m": 0.0,
                "force": "firm",
                "mouth_n": 9.0,
                "held_s": 1.0,
                **wrong,
            }
        )


def test_the_tip_speaks_of_what_hangs_on_it():
    """A tap is over in a fifth of a second, a load stays, and where a fish swims up the tip springs straight."""
    tap = pass_time(with_a_bite("tap"), 1.0)
    assert tap[0][0] == "tap" and tap[0][1] > 0.4 > tap[10][1] > 0.15
    load = pass_time(with_a_bite("load"), 1.0)
    assert all(bend > 0.5 for _, bend in load)
    slack = pass_time(with_a_bite("slack"), 1.0)
    assert all(bend == 0.0 for _, bend in slack)
    still = pass_time(striking(), 1.0)
    assert all(0.02 < bend < 0.2 for _, bend in still)


def test_weed_bends_the_tip_only_when_lifted_through_it_and_the_bottom_takes_the_weight():
    scene = set_up("weeds", 1).scene
    strike = striking(scene, depth=scene.bottom_depth_m - 0.5)
    assert pass_time(strike, 0.5)[-1][0] == "still"
    strike.lift_m_s = 0.05
    says, bend = pass_time(strike, 0.5)[-1]
    assert says == "weed" and bend > 0.3
    strike = striking(depth=MUD.bottom_depth_m)
    assert pass_time(strike, 0.3)[-1] == ("bottom", 0.0)


def test_a_lure_cannot_be_pushed():
    """Let out faster than it sinks, line lies slack; a lift takes that up before the lure moves."""
    light = Lure("2 mm lead jig", 0.002, "lead")
    strike = striking(lure=light, depth=3.0)
    strike.lift_m_s = -1.0
    pass_time(strike, 1.0)
    assert strike.lure_depth_m == pytest.approx(3.0 + light.sink_speed_m_s * 1.0, rel=0.01)
    assert 0.1 < strike.slack_m <= rod.MOST_SLACK_M and strike.tip.says == "slack line"
    strike.lift_m_s = 0.1
    before = strike.lure_depth_m
    strike.move(2.0, STEP_S)
    assert strike.lure_depth_m > before and strike.rising_m_s <= 0.0


def test_a_bite_that_swims_up_leaves_slack_that_the_set_must_take_up():
    strike = with_a_bite("slack")
    pass_time(strike, 1.5)
    assert strike.slack_m == pytest.approx(0.18, abs=0.02)
    assert strike.lure_depth_m < 6.9
    assert strike.set_hook(1.6).kind == "hooked"
    nylon = with_a_bite("slack", line="nylon", depth=8.9)
    pass_time(nylon, 1.5)
    assert nylon.set_hook(1.6).number < strike.set_hook(1.6).number or nylon.slack_m > 0.1


def test_too_early_too_late_too_hard_are_told_apart():
    strike = with_a_bite("load")
    strike.visitors.mood[:] = 1
    strike.visitors.z[:] = 7.3
    early = strike.set_hook(0.1)
    assert early.kind == "too early" and early.number == pytest.approx(0.3)
    strike = with_a_bite("load")
    pass_time(strike, 2.4)
    late = strike.set_hook(2.45)
    assert late.kind == "too late" and 0.2 < late.number < 0.7
    strike = with_a_bite("load")
    pass_time(strike, 0.6)
    hard = strike.set_hook(0.65, "hard")
    assert hard.kind == "torn out" and hard.number > 14.0
    assert strike.set_hook(10.0).kind in ("nothing there", "too early")


def test_a_small_fish_is_never_hooked():
    strike = with_a_bite("nip", "grayling", 0.10)
    assert strike.set_hook(0.1).kind == "only nipped"


def test_either_of_two_jigs_may_be_taken():
    """A fish that comes at the upper jig's height takes that one: half a metre above where the line ends."""
    rig = Lure("two jigs", 0.005, "tungsten", "two jigs", 0.0, 0.5)
    taken = {"upper": 0, "lower": 0}
    for home in (7.3, 8.3):
        for seed in range(8):
            fish = (Newcomer("whitefish", 0.35, home, 0.6, comes=True),)
            strike = Striking(MUD, rig, HOT, "braid", np.random.default_rng(seed), 7.9, fish)
            strike.lift_m_s = 0.01
            for k in range(700):
                bites = [one for one in strike.move(k * STEP_S, STEP_S) if one.kind == "bite"]
                if bites:
                    taken["upper" if strike.lure_depth_m - bites[0].depth_m > 0.3 else "lower"] += 1
                    break
    assert taken["upper"] >= 2 and taken["lower"] >= 2


def test_a_dead_stick_in_the_next_hole_gets_its_own_bites_and_its_own_set():
    scene = set_up("willing", 1, scene=MUD).scene
    scene = replace(scene, second_hole_m=1.0, hung=(Hung("dead stick", 8.0),))
    took = 0
    for seed in seeds(4):
        fish = (Newcomer("burbot", 0.5, 8.3, 1.5, 0.0, 0.0, comes=True),)
        strike = Striking(scene, JIG, HOT, "braid", np.random.default_rng(seed), 0.6, fish)
        for k in range(1200):
            said = strike.move(k * STEP_S, STEP_S)
            if any(one.kind == "bite on the stick" for one in said):
                took += 1
                assert strike.tip.says == "still"
                for j in range(8):
                    strike.move((k + j) * STEP_S, STEP_S)
                assert strike.stick_tip.says in ("tap", "load")
                assert strike.set_hook((k + 9) * STEP_S).kind != "hooked", "the wrong rod"
                assert strike.set_hook((k + 9) * STEP_S, which="stick").kind == "hooked"
                break
    assert took >= len(seeds(2))


def test_the_story_without_pinging_is_what_the_bench_lived():
    """Beat by beat: lure, tip, eyes, fish and events, so that a debrief needs no second sonar."""
    setup = set_up("pair", 5)
    log = RunLog(
        setup,
        ((1, Command(to_depth_m=setup.goal_m)), (240, Command(lift_m_s=0.03, eyes="rod")), (400, Command(twitch=True)),
         (500, Command(set_hook=True)), (520, Command(lift_m_s=-0.4))),
        700,
    )  # fmt: skip
    run: BenchRun = begin(setup)
    by_frame = {at: [command] for at, command in log.commands}
    for k, beat in enumerate(story(log), start=1):
        frame = run.advance(by_frame.get(k, ()))
        assert (frame.time_s, frame.lure_depth_m, frame.eyes) == (beat.time_s, beat.lure_m, beat.eyes)
        assert frame.fish == beat.fish
        assert (frame.rod_tip, frame.rod_tip_bend) == (beat.tip.says, beat.tip.bend)
        assert [e for e in frame.events if e.kind != "marks touching"] == list(beat.events)
