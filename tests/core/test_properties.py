"""What must hold for any hole and any unit, tried on generated ones."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as some

from hollow_glint.core.bench.bench_run import BenchRun
from hollow_glint.core.bench.command import Command
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings, smallest_range
from hollow_glint.core.gear.unit import Beam, GainScale, Pulse
from hollow_glint.core.hole import scatterers
from hollow_glint.core.hole.scene import CLARITY_DB, Scene
from hollow_glint.core.sonar import picture, ping, transmission
from hollow_glint.core.tuning.gain_window import gain_window, open_water_cells
from tests.effort import bounded

from .watching import judged, painted

CLARITIES = sorted(CLARITY_DB, key=CLARITY_DB.get)
within = {"allow_nan": False, "allow_infinity": False}


@some.composite
def scenes(draw) -> Scene:
    depth = draw(some.floats(2.5, 40.0, **within))
    ice = draw(some.floats(0.05, 0.8, **within))
    return Scene(
        bottom_depth_m=depth,
        bottom_kind=draw(some.sampled_from(["mud", "sand"])),
        ice_thickness_m=ice,
        face_depth_m=ice + draw(some.floats(0.02, 0.3, **within)),
        temperature_c=draw(some.floats(0.0, 6.0, **within)),
        clarity=draw(some.sampled_from(CLARITIES)),
    )


@some.composite
def units(draw):
    least = draw(some.floats(-20.0, 20.0, **within))
    steps = draw(some.integers(20, 120))
    return replace(
        TRAIL_UNIT,
        beams=(Beam("a", draw(some.sampled_from([50e3, 83e3, 200e3, 455e3])), draw(some.floats(7.0, 24.0, **within))),),
        powers_w=(draw(some.floats(5.0, 300.0, **within)),),
        pulses=(Pulse("a", draw(some.floats(4e-5, 3e-4, **within))),),
        gain=GainScale(least, least + steps * 0.5, 0.5, 60.0 / steps, draw(some.floats(130.0, 150.0, **within))),
        rows=draw(some.sampled_from([120, 240, 480])),
    )


lures = some.floats(0.002, 0.01, **within).map(lambda diameter: Lure("jig", diameter))


def bench(scene: Scene, unit):
    fits = Settings(unit.gain.minimum, smallest_range(unit, scene.bottom_range_m)).checked(unit)
    return fits, transmission.transmit(scene, unit, fits), picture.full_column(fits)


@given(scenes(), units(), lures)
@bounded(120)
def test_deeper_never_lowers_the_floor(scene, unit, lure):
    fits, t, shown = bench(scene, unit)
    depths = np.linspace(scene.face_depth_m + 0.5, scene.bottom_depth_m, 5)
    floors = [gain_window(t, unit, fits, lure, float(depth), shown).floor for depth in depths]
    assert floors == sorted(floors)


@given(scenes(), units(), lures)
@bounded(60)
def test_more_in_the_water_never_raises_the_ceiling(scene, unit, lure):
    ceilings = []
    for clarity in CLARITIES:
        fits, t, shown = bench(replace(scene, clarity=clarity), unit)
        # The ceiling is over open water; in very thin columns ringing leaves none of it.
        assume(open_water_cells(t, unit, shown).sum() > 8)
        ceilings.append(gain_window(t, unit, fits, lure, 2.0, shown).ceiling)
    tolerance = unit.gain.position(1.5) - unit.gain.position(0.0)  # the open water's own extent shifts a little
    assert all(b <= a + tolerance for a, b in zip(ceilings, ceilings[1:], strict=False))


@given(scenes(), units(), lures, some.floats(0.1, 0.9, **within))
@bounded(120)
def test_advice_lies_on_a_step_and_inside_an_open_window(scene, unit, lure, share):
    fits, t, shown = bench(scene, unit)
    depth = scene.face_depth_m + 0.6 + share * (scene.bottom_range_m - 0.9)
    limits = gain_window(t, unit, fits, lure, depth, shown)
    scale = unit.gain
    assert scale.minimum <= limits.advised <= scale.maximum
    steps = (limits.advised - scale.minimum) / scale.step
    assert steps == pytest.approx(round(steps), abs=1e-6)
    room = min(limits.ceiling, scale.maximum) - max(limits.floor, scale.minimum)
    if room >= scale.step:
        assert limits.floor - 1e-9 <= limits.advised <= limits.ceiling + 1e-9
    assert replace(fits, gain=limits.advised).checked(unit).gain == pytest.approx(limits.advised)


@given(scenes(), units(), lures)
@bounded(60)
def test_taking_every_advice_ends_with_nothing_to_change(scene, unit, lure):
    """The coach never argues in a circle: each change settles its own finding, and it soon falls silent."""
    depth = scene.face_depth_m + 0.6 + 0.5 * (scene.bottom_range_m - 0.9)
    now = Settings(unit.gain.maximum, unit.ranges_m[-1]).checked(unit)
    for _ in range(5):
        found = judged(scene, unit, now, lure, depth)
        changes = [verdict.change for verdict in found if verdict.change]
        if not changes:
            break
        now = replace(now, **{changes[0].setting: changes[0].value}).checked(unit)
    assert not changes, found
    assert now.range_m == smallest_range(unit, scene.bottom_range_m)


@given(scenes(), units(), some.integers(0, 2**32))
@bounded(60)
def test_a_unit_finds_the_bottom_where_it_is(scene, unit, seed):
    _, t, _ = bench(scene, unit)
    found = picture.find_bottom(ping.echo_levels(t, None, 4, np.random.default_rng(seed)), t)
    assert found == pytest.approx(scene.bottom_range_m, abs=t.resolution_m + 2 * t.bin_m)


@given(scenes(), units(), lures, some.floats(-0.2, 1.2, **within), some.floats(0.0, 6.0, **within))
@bounded(80)
def test_whatever_is_in_the_water_the_picture_is_whole(scene, unit, lure, share, aside):
    fits, t, shown = bench(scene, unit)
    depth = scene.bottom_depth_m * share
    fish = np.array([[[aside, 0.0, max(depth, 0.0)]]])
    targets, names = scatterers.gather(
        scene, lure, np.array([[0.0, 0.0, depth]]), None, fish, ((0.3, "char"),), (), np.zeros(1), t.frequency_hz,
        t.sound_speed_m_s,
    )  # fmt: skip
    assert len(names) == targets.x.shape[1]
    echoes = ping.echo_levels(t, targets, 1, np.random.default_rng(0))
    assert np.isfinite(echoes).all()
    levels = painted(echoes, unit, fits, t, shown)
    assert levels.shape == (1, unit.rows)
    assert levels.max() <= len(unit.ladders[0].steps)


@given(
    some.lists(
        some.fixed_dictionaries(
            {},
            optional={
                "lift_m_s": some.floats(-1.0, 1.0, **within),
                "to_depth_m": some.floats(0.0, 60.0, **within),
                "twitch": some.booleans(),
                "eyes": some.sampled_from(["sonar", "rod"]),
                "set_hook": some.booleans(),
            },
        ),
        max_size=12,
    ),
    some.integers(0, 2**32),
)
@bounded(40)
def test_no_hand_can_break_a_run(commands, seed):
    """Any commands, in any order: the lure stays in the water column and the run repeats itself to the byte."""
    scene = Scene(9.45, "mud", 0.36, 0.44)

    def play() -> list[bytes]:
        run = BenchRun(scene, TRAIL_UNIT, Settings(25.0, 12.192), Lure("jig", 0.005), np.random.default_rng(seed))
        frames = []
        for given_now in commands:
            frames.append(run.advance([Command(**given_now)]))
            frames.extend(run.advance() for _ in range(8))
        for frame in frames:
            assert scene.ice_thickness_m < frame.lure_depth_m <= scene.bottom_depth_m
            assert 0.0 <= frame.rod_tip_bend <= 1.0
        return [frame.to_bytes() for frame in frames]

    assert play() == play()


@given(some.floats(), some.floats(), some.floats())
@bounded(200)
def test_a_scene_is_either_possible_or_refused_in_words(depth, ice, face):
    possible = 0.5 <= depth <= 60 and 0 <= ice <= min(3, depth - 0.2) and 0 <= face <= min(5, depth - 0.2)
    if possible:
        assert Scene(depth, "mud", ice, face).bottom_range_m >= 0.2 - 1e-9
    else:
        with pytest.raises(InputError, match=r"bottom_depth_m|ice_thickness_m|face_depth_m"):
            Scene(depth, "mud", ice, face)
