"""The sweep: geometry by similar triangles, levels by the sonar equation written out, the beam by its pattern."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam, bottom, targets, water
from hollow_glint.core.search import sweep
from hollow_glint.core.search.patch import Standing
from hollow_glint.core.search.sweep import BEARINGS, BINS, Hang, TurningHead, heard, painted, ping_interval, still

from .waters import fish, flat

HEAD = TurningHead()


def db(intensity):
    return 10.0 * np.log10(intensity)


def bins(range_m: float, of_m: float = 20.0) -> int:
    return int(range_m / of_m * BINS)


@pytest.mark.parametrize("depth", [5.0, 9.4, 14.0])
def test_the_dark_disc_is_as_wide_as_the_water_is_deep(depth):
    """No bed is nearer than straight down."""
    here, bottomless = (still(flat(one), HEAD, 1.0, 20.0) for one in (depth, 60.0))
    first = (db(here.bed) - db(bottomless.bed) > 3.0).argmax(axis=1) * 20.0 / BINS
    assert first == pytest.approx(depth - 1.0, abs=0.15)


@pytest.mark.parametrize(("height", "away"), [(1.0, 8.0), (1.8, 12.0)])
def test_a_shadow_is_as_long_as_similar_triangles_say(height, away):
    """From a thing `x` off and `h` high under a head `z` above the bed the bed is dark to x z / (z - h)."""
    z = 8.4
    crib = Standing("crib", 0.0, away, height, 3.0, 1.0, 90.0)
    here, bare = (still(flat(9.4, "gravel", things), HEAD, 1.0, 30.0) for things in ((crib,), ()))
    dark = db(here.bed[0]) < db(bare.bed[0]) - 10.0
    ends = np.flatnonzero(dark)[-1] * 30.0 / BINS
    back = away + 0.5  # the far edge of its top
    assert np.sqrt(ends**2 - z**2) == pytest.approx(back * z / (z - height), rel=0.02)
    # Beside it nothing is dark.
    assert np.abs(db(here.bed[BEARINGS // 2]) - db(bare.bed[BEARINGS // 2])).max() < 0.1


@pytest.mark.parametrize("kind", ["mud", "sand", "rock"])
def test_the_beds_level_is_lamberts_law_over_beam_and_pulse(kind):
    """Urick 1983: SL - 2 TL + Lambert's strength + 10 log of the area under beam and pulse, and the fan's pattern."""
    head = TurningHead(down_deg=90.0, tilt_deg=30.0)
    here = still(flat(9.4, kind), head, 1.0, 30.0)
    k = 2 * np.pi * head.frequency_hz / here.sound_speed_m_s
    for r in (14.0, 18.0, 25.0):
        graze = np.arcsin(8.4 / r)
        area = np.radians(head.across_deg) * r * (here.sound_speed_m_s * head.pulse_s / 2.0) / np.cos(graze)
        strength = db(bottom.interface_scattering(bottom.bottom_kind(kind), k, np.pi / 2 - graze))
        lambert = bottom.bottom_kind(kind).lambert_db + 20 * np.log10(np.sin(graze))
        assert strength == pytest.approx(lambert, abs=0.5), "so flat, Lambert's term is all that is left"
        one_way = 20 * np.log10(r) + here.absorption_db_m * r
        fan = 4 * 10 * np.log10(beam.line_amplitude(graze - np.radians(30.0), 90.0))
        expected = here.source_db + strength + 10 * np.log10(area) - 2 * one_way + fan
        around = slice(bins(r, 30.0) - 6, bins(r, 30.0) + 6)
        assert db((here.bed[:, around] - here.noise[around]).mean()) == pytest.approx(expected, abs=1.0)


def test_absorption_takes_what_it_should_with_range():
    """Two heads alike but for their frequency part by twice the difference of absorption over the way."""
    slow, fast = (TurningHead(frequency_hz=f) for f in (400e3, 1.2e6))
    levels = []
    for head in (slow, fast):
        here = still(flat(9.4, "rock"), head, 1.0, 30.0)
        levels.append(db(here.bed.mean(axis=0) - here.noise))
    apart = levels[0] - levels[1]
    alpha = water.absorption(1.2e6, 1.0) - water.absorption(400e3, 1.0)
    near, far = bins(12.0, 30.0), bins(22.0, 30.0)
    mean = [apart[k - 8 : k + 8].mean() for k in (near, far)]
    assert mean[1] - mean[0] == pytest.approx(2 * alpha * 10.0, rel=0.08)


def fish_level(place, head: TurningHead = HEAD, length_m: float = 0.3, which: int = 0, heading=(1.0, 0.0)) -> float:
    """How loud a fish is on a bearing, on average over its flicker [dB]."""
    east, north, depth = place
    way = [(-1000.0, east - 1000 * heading[0] * 1e-3, north - 1000 * heading[1] * 1e-3),
           (1000.0, east + 1000 * heading[0] * 1e-3, north + 1000 * heading[1] * 1e-3)]  # fmt: skip
    patch = flat(40.0, groups=(fish(way, depth, length_m),))
    count = 400
    rng = np.random.default_rng(2)
    level = heard(patch, head, Hang(1.0, 20.0), np.full(count, which), np.zeros(count), rng)
    at = bins(float(np.hypot(np.hypot(east, north), depth - 1.0)))
    return float(db((10 ** (level[:, at : at + 2] / 10)).mean(axis=0).max()))


def test_a_fish_is_as_loud_as_the_sonar_equation_says():
    here = still(flat(40.0), HEAD, 1.0, 20.0)
    r = np.hypot(10.0, 2.0)
    strength = targets.fish_target_strength_at_aspect(0.3, np.pi / 2)
    fan = 40 * np.log10(beam.line_amplitude(np.arctan2(2.0, 10.0) - np.radians(HEAD.tilt_deg), HEAD.down_deg))
    expected = here.source_db + strength - 2 * (20 * np.log10(r) + here.absorption_db_m * r) + fan
    assert fish_level((0.0, 10.0, 3.0)) == pytest.approx(expected, abs=0.7)


def test_broadside_is_twenty_decibels_louder_than_head_on():
    broad, head_on = (fish_level((0.0, 10.0, 3.0), heading=way) for way in ((1.0, 0.0), (0.0, 1.0)))
    assert broad - head_on == pytest.approx(20.0, abs=1.0)


@pytest.mark.parametrize("across", [1.0, 1.6, 3.0])
def test_bearing_resolution_is_the_beams(across):
    """Half a beam's width aside an echo has lost 6 dB there and back; at sin(x)/x's first null it is gone."""
    head = TurningHead(across_deg=across)
    on = fish_level((0.0, 10.0, 1.0), head)
    half = np.radians(across / 2)
    assert on - fish_level((10 * np.sin(half), 10 * np.cos(half), 1.0), head) == pytest.approx(6.0, abs=0.7)
    null = np.arcsin(np.sin(half) * np.pi / 1.39156)
    assert on - fish_level((10 * np.sin(null), 10 * np.cos(null), 1.0), head) > 25.0


def test_each_bearing_shows_the_water_as_it_was_when_the_beam_passed():
    """A fish that swims towards the beam is met where it is by then; the picture is a few seconds old at its end."""
    hang = Hang(1.0, 20.0)
    times = np.arange(BEARINGS) * ping_interval(HEAD, hang, 1407.0)
    goes = flat(30.0, groups=(fish([(0.0, 10.0, 8.0), (20.0, 10.0, -12.0)], 1.5),))  # southwards, 1 m/s
    level = heard(goes, HEAD, hang, np.arange(BEARINGS), times, np.random.default_rng(1))
    which, at = np.unravel_index(level[:, bins(3.0) :].argmax(), (BEARINGS, BINS - bins(3.0)))
    when = times[which]
    north = 8.0 - when
    assert which * 360 / BEARINGS == pytest.approx(np.degrees(np.arctan2(10.0, north)), abs=2.0)
    assert (at + bins(3.0)) * 20 / BINS == pytest.approx(np.hypot(10.0, north), abs=0.3)
    assert when > 1.0 and times[-1] > 6.0


def test_what_stands_up_hides_the_fish_behind_it():
    wall = Standing("crib", 0.0, 8.0, 6.0, 6.0, 1.0, 90.0)
    before, behind = ((0.0, 6.0, 8.0), (0.0, 14.0, 8.0))
    loud = []
    for place in (before, behind):
        patch = flat(9.4, "mud", (wall,), (fish([(0.0, *place[:2])], place[2]),))
        level = heard(patch, HEAD, Hang(1.0, 20.0), np.zeros(50, int), np.zeros(50), np.random.default_rng(1))
        at = bins(float(np.hypot(place[1], 7.0)))
        loud.append(level[:, at : at + 2].max())
    assert loud[0] > loud[1] + 20.0


def test_speckle_is_exponential():
    """Many small echoes: the mean of an exponential intensity, in decibels, lies 2.5 dB under its level, 5.6 dB apart
    (Urick 1983, Rayleigh)."""
    here = still(flat(9.4, "gravel"), HEAD, 1.0, 20.0)
    level = heard(flat(9.4, "gravel"), HEAD, Hang(1.0, 20.0), np.arange(BEARINGS), np.zeros(BEARINGS),
                  np.random.default_rng(4), here)  # fmt: skip
    off = (level - db(here.bed))[:, bins(10.0) :]
    assert off.std() == pytest.approx(5.57, abs=0.1) and off.mean() == pytest.approx(-2.51, abs=0.1)


def test_gain_moves_the_picture_by_its_decibels():
    here = still(flat(9.4, "gravel"), HEAD, 1.0, 20.0)
    level = db(here.bed)
    shown = [painted(level, here, Hang(1.0, 20.0, gain)).astype(int) for gain in (20.0, 26.0)]
    lit = (shown[0] > 0) & (shown[1] < sweep.STEPS)
    assert lit.any() and (shown[1] - shown[0])[lit] == pytest.approx(6.0 / sweep.LIT_DB)


def test_the_line_patterns_half_power_and_floor():
    for width in (1.0, 20.0, 60.0):
        assert 20 * np.log10(beam.line_amplitude(np.radians(width / 2), width)) == pytest.approx(-3.01, abs=0.01)
    assert beam.line_amplitude(0.0, 5.0) == 1.0
    assert 20 * np.log10(beam.line_amplitude(np.linspace(-1.5, 1.5, 999), 1.6)).min() >= beam.SIDE_LOBE_FLOOR_DB - 1e-9
