"""The gain window really is one: what it promises is what the picture shows."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics.targets import fish_target_strength
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.settings import Settings, smallest_range
from hollow_glint.core.gear.unit import GainScale
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, ping, receiver, transmission
from hollow_glint.core.tuning import seen_zone
from hollow_glint.core.tuning.gain_window import gain_window, open_water_cells

from ..watching import judged, lure_alone, painted


def pings_with_lure(scene, unit, settings, lure, depth, gain, seed, pings=100):
    """Levels (pings, rows) with the lure at `depth` and the gain at `gain`, not rounded to knob steps."""
    t = transmission.transmit(scene, unit, settings)
    targets = lure_alone(lure, depth, pings, t)
    echoes = ping.echo_levels(t, targets, pings, np.random.default_rng(seed))
    shown = picture.full_column(settings)
    return (
        painted(echoes, unit, replace(settings, gain=gain), t, shown),
        t,
        shown,
    )


def shows(levels, unit, t, shown, depth):
    """Share of pings in which any row of the lure's pulse lights."""
    r = picture.row_range(unit, shown)
    rows = (r > depth - t.face_depth_m - t.bin_m) & (r < depth - t.face_depth_m + t.resolution_m)
    return float(np.mean((levels[:, rows] > 0).any(axis=1)))


@pytest.mark.parametrize("depth", [3.0, 5.0, 7.5])
@pytest.mark.parametrize("kind", ["mud", "sand"])
def test_floor_shows_the_lure_and_3_db_less_does_not(unit, jig, depth, kind):
    scene = Scene(9.75, kind, 0.35, 0.42)
    settings = Settings(25.0, smallest_range(unit, scene.bottom_range_m))
    t = transmission.transmit(scene, unit, settings)
    limits = gain_window(t, unit, settings, jig, depth, picture.full_column(settings))
    at_floor, t, shown = pings_with_lure(scene, unit, settings, jig, depth, limits.floor, seed=1)
    assert shows(at_floor, unit, t, shown, depth) >= 0.95
    below = limits.floor - 3.0 / unit.gain.db_per_step
    lower, *_ = pings_with_lure(scene, unit, settings, jig, depth, below, seed=2)
    assert shows(lower, unit, t, shown, depth) < 0.5


@pytest.mark.parametrize("clarity", ["clear", "murky", "plankton"])
def test_ceiling_keeps_the_water_dark_and_3_db_more_does_not(unit, jig, clarity):
    scene = Scene(9.75, "mud", 0.35, 0.42, clarity=clarity)
    settings = Settings(25.0, smallest_range(unit, scene.bottom_range_m))
    t = transmission.transmit(scene, unit, settings)
    shown = picture.full_column(settings)
    limits = gain_window(t, unit, settings, jig, 5.0, shown)
    water = open_water_cells(t, unit, shown)
    r = picture.row_range(unit, shown)
    # Leave out the jig's own rows: it is meant to light.
    water &= (r < 5.0 - t.face_depth_m - 0.1) | (r > 5.0 - t.face_depth_m + 0.5)
    assert water.sum() > 100
    at_ceiling, *_ = pings_with_lure(scene, unit, settings, jig, 5.0, limits.ceiling, seed=3, pings=400)
    share = (at_ceiling[:, water] > 0).mean()
    # 2 percent is the promise; 400 pings of correlated rows leave about 0.2 percent of chance.
    assert 0.012 < share <= 0.0225
    above = limits.ceiling + 3.0 / unit.gain.db_per_step
    brighter, *_ = pings_with_lure(scene, unit, settings, jig, 5.0, above, seed=4, pings=400)
    assert (brighter[:, water] > 0).mean() > 1.7 * share


def test_floor_rises_with_depth_and_murk_lowers_the_ceiling(unit, jig, hole, settings):
    shown = picture.full_column(settings)
    t = transmission.transmit(hole, unit, settings)
    floors = [gain_window(t, unit, settings, jig, d, shown).floor for d in (2.0, 4.0, 6.0, 8.0)]
    assert floors == sorted(floors)
    ceilings = []
    for clarity in ("clear", "stained", "murky", "plankton"):
        t = transmission.transmit(replace(hole, clarity=clarity), unit, settings)
        ceilings.append(gain_window(t, unit, settings, jig, 5.0, shown).ceiling)
    assert ceilings == sorted(ceilings, reverse=True)
    assert ceilings[0] - ceilings[-1] > 10


def test_advice_is_inside_the_window_and_settles_the_verdict(unit, jig, hole, settings):
    t, shown = transmission.transmit(hole, unit, settings), picture.full_column(settings)
    for depth in np.arange(1.5, 8.6, 0.5):
        limits = gain_window(t, unit, settings, jig, depth, shown)
        assert limits.floor <= limits.advised <= limits.ceiling
        left = judged(hole, unit, replace(settings, gain=limits.advised), jig, depth)
        # A lure high up asks for so little gain that the bottom may be short of full colour: still inside the window.
        assert [v.code for v in left] in ([], ["weak bottom"])
        assert all(limits.floor <= v.change.value <= limits.ceiling for v in left)


@pytest.mark.parametrize(
    ("change", "code", "fixed_field"),
    [
        ({"gain": 5.0}, "lure lost", "gain"),
        ({"gain": 45.0}, "water too bright", "gain"),
        ({"range_m": 18.288}, "range larger than needed", "range_m"),
        ({"range_m": 6.096}, "range too small", "range_m"),
    ],
)
def test_each_verdict_names_its_change_and_the_change_settles_it(unit, jig, hole, settings, change, code, fixed_field):
    bad = replace(settings, **change)

    worst = judged(hole, unit, bad, jig, 5.0)[0]
    assert worst.code == code
    assert worst.change.setting == fixed_field
    for sentence in (worst.finding, worst.reason):
        sentence.format(**{name: q.value for name, q in worst.values.items()})  # every name it uses is given
    mended = replace(bad, **{worst.change.setting: worst.change.value})
    assert code not in [v.code for v in judged(hole, unit, mended, jig, 5.0)]


def test_closed_window_says_so_and_does_not_ask_to_lose_the_lure(unit, hole, settings):
    scene = replace(hole, clarity="plankton")
    small = Lure("2 mm tungsten jig", 0.002)
    t, shown = transmission.transmit(scene, unit, settings), picture.full_column(settings)
    limits = gain_window(t, unit, settings, small, 8.0, shown)
    assert limits.width_db < 0 and limits.floor > limits.ceiling
    codes = [v.code for v in judged(scene, unit, replace(settings, gain=limits.advised), small, 8.0)]
    assert codes in (["window closed"], ["lure lost"])  # lost only if the knob ends first


def test_lure_on_the_bottom_is_said_to_be_buried_not_lost(unit, jig, hole, settings):
    v = judged(hole, unit, settings, jig, hole.bottom_depth_m)
    assert v[0].code == "lure buried" and v[0].change is None


def test_bright_water_is_told_before_the_lure_is_lowered(unit, jig, hole, settings):
    bright = replace(settings, gain=50.0)
    (verdict,) = judged(hole, unit, bright, jig, hole.face_depth_m)
    assert verdict.code == "water too bright"
    assert all(np.isfinite(q.value) for q in verdict.values.values())
    assert judged(hole, unit, replace(bright, gain=verdict.change.value), jig, 0.0) == ()


def test_a_lure_that_shows_at_any_gain_is_not_advised_to_the_end_of_the_knob(unit, hole, settings):
    loud = Lure("8 mm tungsten jig", 0.008)
    t, shown = transmission.transmit(hole, unit, settings), picture.full_column(settings)
    limits = gain_window(t, unit, settings, loud, 1.2, shown)
    assert limits.floor < unit.gain.minimum < limits.advised < limits.ceiling


def test_knob_scale_is_only_a_scale(unit, jig, hole, settings):
    """The same unit with another knob (20 to 100 by 2, 1.5 dB a step) has the same window in dB."""
    other = replace(unit, gain=GainScale(20.0, 100.0, 2.0, 1.5, 140.0))
    t, shown = transmission.transmit(hole, unit, settings), picture.full_column(settings)
    a = gain_window(t, unit, settings, jig, 5.0, shown)
    b = gain_window(t, other, settings, jig, 5.0, shown)
    assert other.gain.decibels(b.floor) == pytest.approx(unit.gain.decibels(a.floor))
    assert b.width_db == pytest.approx(a.width_db, abs=0.05)
    assert (b.advised - 20.0) % 2.0 == 0.0


def test_seen_zone_matches_the_picture(unit, hole, settings):
    """A steady target just inside the seen radius lights on the mean; just outside it stays dark."""
    t = transmission.transmit(hole, unit, settings)
    threshold = receiver.first_colour_level(unit, settings)
    for depth in (3.0, 6.0, 9.0):
        radius = float(seen_zone.fish_seen_radius(t, 0.3, threshold, np.array([depth]))[0])
        strength = fish_target_strength(0.3, t.frequency_hz)
        assert ping.target_echo_level(t, strength, depth, radius * 0.98) > threshold
        assert ping.target_echo_level(t, strength, depth, radius * 1.02) < threshold


def test_more_gain_widens_the_seen_zone(unit, hole, settings):
    t = transmission.transmit(hole, unit, settings)
    depth = np.array([8.0])
    radii = [
        float(
            seen_zone.fish_seen_radius(t, 0.3, receiver.first_colour_level(unit, replace(settings, gain=g)), depth)[0]
        )
        for g in (15.0, 20.0, 25.0, 30.0)
    ]
    assert all(b > a for a, b in zip(radii, radii[1:], strict=False))


def test_dead_zone_is_the_shell_under_the_first_arrival(hole, unit, settings):
    # Ona and Mitson 1996: on axis the dead zone is the pulse alone; off axis the shell is added.
    t = transmission.transmit(hole, unit, settings)
    tops = seen_zone.dead_zone_top(hole, t.resolution_m, np.array([0.0, 1.0]))
    assert hole.bottom_depth_m - tops[0] == pytest.approx(t.resolution_m)
    h = hole.bottom_range_m - t.resolution_m
    assert tops[0] - tops[1] == pytest.approx(h - np.sqrt(h**2 - 1.0))
