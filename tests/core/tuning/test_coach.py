"""The coach: each verdict is given where it applies, its change settles it, and following it cleans the picture."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as some

from hollow_glint import demo
from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.settings import POSITIONS, Settings, smallest_range
from hollow_glint.core.gear.unit import FOOT
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, still_echoes, transmission
from hollow_glint.core.tuning import coach, company
from hollow_glint.core.tuning.gain_window import gain_window
from hollow_glint.core.tuning.situation import Situation
from hollow_glint.core.tuning.verdict import Verdict
from tests.effort import bounded

from ..watching import judged

MUD = Scene(9.1, "mud", 0.36, 0.44)
JIG = Lure("5 mm tungsten jig", 0.005)
RING, SCROLLER, FINE = profiles.TWO_BEAM_RING, profiles.WIDE_NARROW_SCROLLER, profiles.SHORT_PULSE
WELL = Settings(56.0, 30 * FOOT)
NEXT_DOOR = (Neighbour(2.5, ping_interval_s=0.0471), Neighbour(3.2, ping_interval_s=0.0533))


def told(scene, unit, now, depth=6.5, lure=JIG, lock=None) -> dict[str, Verdict]:
    return {v.code: v for v in judged(scene, unit, now, lure, depth, lock)}


def follow(scene: Scene, now: Settings, verdict: Verdict) -> tuple[Scene, Settings]:
    """Scene and settings after the verdict's change."""
    change = verdict.change
    if change.setting in vars(now):
        return scene, replace(now, **{change.setting: change.value})
    return replace(scene, **{change.setting: change.value}), now


# (verdict, scene, unit, settings, lure depth)
CASES = [
    ("inside the ice", replace(MUD, face_depth_m=0.2), RING, WELL, 6.5),
    ("inside the ice", replace(MUD, slush_m=0.5), RING, WELL, 6.5),
    ("dry face", replace(MUD, face_wet=False), RING, WELL, 6.5),
    ("off plumb", replace(MUD, tilt_deg=6.0), RING, WELL, 6.5),
    ("swinging", replace(MUD, on_float=False), RING, WELL, 6.5),
    ("range too small", MUD, RING, replace(WELL, range_m=15 * FOOT), 3.0),
    ("range larger than needed", MUD, RING, replace(WELL, range_m=90 * FOOT), 6.5),
    ("rejection too low", replace(MUD, neighbours=NEXT_DOOR), RING, WELL, 6.5),
    ("rejection higher than needed", MUD, RING, replace(WELL, rejection=4), 6.5),
    ("beam too wide", replace(MUD, bottom_depth_m=14.0), RING, Settings(60.0, 60 * FOOT), 6.5),
    ("weeds read as bottom", replace(MUD, weed_height_m=1.5, weed_density=0.9), RING, WELL, 5.5),
    ("window not over the lure", MUD, RING, replace(WELL, bottom_window_m=5 * FOOT), 3.0),
    ("window not over the lure", MUD, RING, replace(WELL, free_window_m=10 * FOOT, free_window_top_m=5.0), 3.0),
    ("lure lost", MUD, RING, replace(WELL, gain=30.0), 6.5),
    ("lure lost", MUD, RING, replace(WELL, blanking=2), 2.0),
    ("water too bright", MUD, RING, replace(WELL, gain=90.0), 6.5),
    ("night plankton", replace(MUD, plankton="thin", hour=21.0), RING, replace(WELL, gain=85.0, tvg=2), 6.5),
    ("weak bottom", MUD, replace(RING, colour_step_db=8.5), replace(WELL, gain=52.0), 4.0),
]  # fmt: skip


@pytest.mark.parametrize(
    ("code", "scene", "unit", "now", "depth"), CASES, ids=[f"{c[0]}-{i}" for i, c in enumerate(CASES)]
)
def test_a_verdict_has_its_number_its_reason_and_a_change_that_settles_it(code, scene, unit, now, depth):
    verdict = told(scene, unit, now, depth)[code]
    for sentence in (verdict.finding, verdict.reason):
        sentence.format(**{name: q.value for name, q in verdict.values.items()})  # every name it uses is given
    assert any("{" in sentence for sentence in (verdict.finding, verdict.reason)), "a verdict without its number"
    after = follow(scene, now, verdict)
    left = told(after[0], unit, after[1].checked(unit), depth)
    if code in left:  # one step of several: it must have moved on
        assert left[code].change.setting != verdict.change.setting or left[code].change.value != verdict.change.value
    else:
        assert code not in left


def test_top_water_noise_is_answered_by_time_varied_gain_then_blanking_and_says_what_that_costs():
    scene = replace(MUD, clarity="murky")
    lure = Lure("6 mm jig", 0.006)
    one_step = replace(SCROLLER, tvg_db_decade=(0.0,))
    now = Settings(2.0, 32 * FOOT, beam=1)
    verdict = told(scene, SCROLLER, now, 7.5, lure)["top-water noise"]
    assert verdict.change.setting == "tvg"
    blanked = told(scene, one_step, now, 7.5, lure)["top-water noise"]
    assert blanked.change.setting == "blanking" and "every fish in the top" in blanked.reason


def test_a_lock_on_the_second_echo_is_told_and_kicked():
    scene = Scene(3.5, "rock", 0.41, 0.46)
    now = Settings(0.0, 24 * FOOT, beam=1, auto_range=True)
    second = still_echoes.second_echo_range(scene)
    assert told(scene, SCROLLER, now, 2.4, lock=second)["locked on a second echo"].change.setting == "kick"
    assert "locked on a second echo" not in told(scene, SCROLLER, now, 2.4, lock=scene.bottom_range_m)


def test_there_are_at_least_fourteen_kinds_of_verdict():
    kinds = {case[0] for case in CASES} | {"top-water noise", "locked on a second echo", "lure buried", "window closed"}
    assert len(kinds) >= 14


def test_the_numbers_it_tells_are_those_of_the_picture():
    """The share of the picture it says that neighbours light is the share they light."""
    scene = replace(MUD, neighbours=NEXT_DOOR, visitors=0)
    situation = Situation(scene, RING, WELL, JIG, 6.5, picture.full_column(WELL), picture.full_column(WELL))
    run = BenchRun(scene, RING, WELL, JIG, np.random.default_rng(5), 6.5)
    alone = BenchRun(replace(scene, neighbours=()), RING, WELL, JIG, np.random.default_rng(5), 6.5)
    shared, quiet = ([f.levels for f in (one.advance() for _ in range(600))] for one in (run, alone))
    seen = (np.concatenate(shared) > 0).mean() - (np.concatenate(quiet) > 0).mean()
    assert seen == pytest.approx(company.neighbour_share(situation, WELL), rel=0.5)


def test_nothing_to_change_is_said_when_that_is_so():
    assert told(MUD, RING, WELL) == {}


def sounding(scene: Scene, lure_depth_m: float, seconds: float = 3.0, **knobs) -> BenchRun:
    run = BenchRun(scene, RING, replace(WELL, **knobs), JIG, np.random.default_rng(3), lure_depth_m)
    for _ in range(round(seconds * 20)):
        run.advance()
    return run


def test_a_bottom_that_the_unit_has_lost_is_a_verdict_with_the_depths_that_it_shows_instead():
    quiet = sounding(replace(MUD, visitors=0), 6.5)
    assert "bottom lost" not in {v.code for v in coach.verdicts(quiet.situation)}
    deep = replace(MUD, visitors=0, bottom_depth_m=13.0)
    loud = sounding(deep, MUD.face_depth_m + 0.7, range_m=45 * FOOT)
    found = np.array(loud.situation.found_m)
    assert found.min() < 1.0, "a jig so near the face is louder than mud thirteen metres down"
    lost = next(v for v in coach.verdicts(loud.situation) if v.code == "bottom lost")
    assert lost.values["low"].value == pytest.approx(found.min())
    assert lost.values["high"].value == pytest.approx(found.max())
    assert "your lure" in lost.reason
    loud.advance([Command(to_depth_m=6.5)])
    for _ in range(400):
        loud.advance()
    assert "bottom lost" not in {v.code for v in coach.verdicts(loud.situation)}, "it is held again"


def test_rejection_gives_back_a_bottom_that_neighbours_have_taken():
    shelter = replace(MUD, visitors=0, neighbours=NEXT_DOOR)
    taken, kept = (sounding(shelter, 6.5, rejection=step) for step in (0, 3))
    off = [np.abs(np.array(run.situation.found_m) - run.scene.bottom_range_m).max() for run in (taken, kept)]
    assert off[0] > 1.0 > off[1]
    assert "bottom lost" in {v.code for v in coach.verdicts(taken.situation)}
    assert "bottom lost" not in {v.code for v in coach.verdicts(kept.situation)}


@pytest.mark.parametrize("saved", [one for _, one in demo.SCENES], ids=lambda one: one.name)
def test_following_the_coach_ends_in_a_clean_picture_in_under_ten_changes(saved):
    """From the demo's chaos: each change is one click, and at the end there is nothing to change."""
    run = BenchRun(
        saved.scene, saved.unit, saved.settings, saved.lure, np.random.default_rng(saved.seed), saved.lure_depth_m
    )
    for _ in range(40):
        run.advance()
    changes = []
    for _ in range(10):
        found = coach.verdicts(run.situation)
        if not found or found[0].change is None:
            break
        change = found[0].change
        changes.append(change)
        if change.setting == "kick":
            run.advance([Command(kick=True)])
        elif change.setting in vars(run.settings):
            run.advance([Command(settings=replace(run.settings, **{change.setting: change.value}))])
        else:
            run.advance([Command(scene=replace(run.scene, **{change.setting: change.value}))])
        for _ in range(40):
            run.advance()
    assert len(changes) < 10
    assert all(verdict.change is None for verdict in coach.verdicts(run.situation))


within = {"allow_nan": False, "allow_infinity": False}


@some.composite
def troubles(draw):
    """Any unit set anyhow over any water."""
    unit = draw(some.sampled_from([profiles.TRAIL_UNIT, *profiles.SHIPPED]))
    depth = draw(some.floats(3.0, 25.0, **within))
    company = draw(some.sampled_from([(), (2.0,), (1.0, 3.0)]))
    scene = Scene(
        depth, draw(some.sampled_from(["mud", "sand", "rock", "weed carpet"])), 0.36,
        draw(some.sampled_from([0.1, 0.44, 0.9])), tilt_deg=draw(some.sampled_from([0.0, 9.0])),
        face_wet=draw(some.booleans()), on_float=draw(some.booleans()), slope_deg=draw(some.sampled_from([0.0, 8.0])),
        clarity=draw(some.sampled_from(["clear", "murky"])), hour=draw(some.sampled_from([12.0, 16.8, 22.0])),
        plankton=draw(some.sampled_from(["none", "thin", "thick"])), weed_height_m=draw(some.sampled_from([0.0, 1.0])),
        neighbours=tuple(Neighbour(away, ping_interval_s=0.047 + 0.001 * away) for away in company),
    )  # fmt: skip
    positions = {name: draw(some.integers(0, len(getattr(unit, listed)) - 1)) for name, listed in POSITIONS.items()}
    gain = unit.gain.minimum + draw(some.floats(0, 1, **within)) * (unit.gain.maximum - unit.gain.minimum)
    range_m = draw(some.sampled_from([smallest_range(unit, depth), unit.ranges_m[-1]]))
    return (
        scene,
        unit,
        Settings(gain, range_m, **positions).checked(unit),
        scene.face_depth_m + draw(some.floats(0.7, 0.9)) * (depth - scene.face_depth_m),
    )


@given(troubles())
@bounded(60)
def test_the_coach_never_argues_in_a_circle(trouble):
    """Whatever the trouble, doing as told comes to an end, never back to where it has been, and leaves it no worse."""
    scene, unit, now, depth = trouble
    been = set()
    for _ in range(24):
        found = judged(scene, unit, now, JIG, depth)
        todo = [v for v in found if v.change is not None]
        if not todo:
            return
        assert (scene, now) not in been, [v.code for v in found]
        been.add((scene, now))
        scene, now = follow(scene, now, todo[0])
        now = now.checked(unit)
    raise AssertionError(f"still not done: {[(v.code, v.change) for v in found]}")


def test_hiding_the_weakest_moves_floor_and_ceiling_alike():
    hide = next(i for i, one in enumerate(RING.ladders) if one.name == "Hide the weakest")
    plain, hidden = (
        gain_window(transmission.transmit(MUD, RING, now), RING, now, JIG, 6.5, picture.full_column(now))
        for now in (WELL, replace(WELL, ladder=hide))
    )
    step = RING.gain.position(RING.colour_step_db) - RING.gain.position(0.0)
    assert hidden.floor - plain.floor == pytest.approx(step, abs=0.05)
    assert hidden.ceiling - plain.ceiling == pytest.approx(step, abs=0.1)
