"""The receiver against hand counts and against its own picture: rejection, its lag, the noise filter, quiet tops."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics.sonar_equation import max_ping_rate
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import picture_rate, starting_settings
from hollow_glint.core.gear.unit import Rejection
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import receiver, transmission

HOLE = Scene(bottom_depth_m=9.45, bottom_kind="mud", ice_thickness_m=0.36, face_depth_m=0.45)
UNITS = (TRAIL_UNIT, *SHIPPED)
REJECTING = [(unit, step) for unit in UNITS for step in range(1, len(unit.rejections))]


def unit_with(**changed):
    return replace(TRAIL_UNIT, **changed)


def at(unit, **knobs):
    return replace(starting_settings(unit, HOLE.bottom_range_m), **knobs)


# --- rejection ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("pings", [2, 3, 5, 9])
def test_what_is_in_more_than_half_of_the_pings_stays(pings):
    """By counting: a bin lit in k of the last n pings is kept when k is more than n / 2."""
    unit = unit_with(rejections=(Rejection(1), Rejection(pings)))
    settings = at(unit, rejection=1)
    for lit in range(pings + 1):
        echoes = np.full((pings, 4), 50.0, dtype=np.float32)
        echoes[:lit, 2] = 120.0
        kept, _ = receiver.reject(echoes, echoes[: pings - 1], unit, settings)
        assert (kept[-1, 2] == 120.0) == (lit > pings / 2.0), (pings, lit)
        assert np.all(kept[:, [0, 1, 3]] == 50.0)


@pytest.mark.parametrize(("unit", "step"), REJECTING, ids=lambda one: getattr(one, "name", one))
def test_a_block_gives_what_its_pings_give_one_by_one(unit, step):
    settings = at(unit, rejection=step)
    echoes = np.random.default_rng(1).normal(80.0, 10.0, (17, 30)).astype(np.float32)
    whole, handed = receiver.reject(echoes, None, unit, settings)
    past, rows = None, []
    for one in echoes:
        kept, past = receiver.reject(one[None], past, unit, settings)
        rows.append(kept[0])
    assert np.array_equal(whole, np.array(rows))
    assert np.array_equal(handed, past)


def test_pings_of_another_grid_are_nothing_to_compare_with():
    unit = unit_with(rejections=(Rejection(1), Rejection(3)))
    settings = at(unit, rejection=1)
    echoes = np.full((2, 6), 90.0, dtype=np.float32)
    kept, past = receiver.reject(echoes, np.zeros((2, 5), dtype=np.float32), unit, settings)
    assert np.all(kept == 90.0) and past.shape == (2, 6)


def test_without_rejection_nothing_is_changed_or_remembered():
    echoes = np.random.default_rng(1).normal(80.0, 10.0, (4, 8)).astype(np.float32)
    kept, past = receiver.reject(echoes, None, TRAIL_UNIT, at(TRAIL_UNIT))
    assert kept is echoes and past.shape == (0, 8)


@pytest.mark.parametrize(("unit", "step"), REJECTING, ids=lambda one: getattr(one, "name", one))
def test_a_mark_that_comes_is_shown_as_late_as_the_lag_says(unit, step):
    """Nothing, then an echo in every ping: the picture has it `lag` seconds after the first, to the ping."""
    settings = at(unit, rejection=step)
    t = transmission.transmit(HOLE, unit, settings)
    rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, t.sound_speed_m_s))
    echoes = np.full((60, 8), 40.0, dtype=np.float32)
    echoes[30:, 3] = 140.0
    kept, _ = receiver.reject(echoes, None, unit, settings)
    first = int(np.flatnonzero(kept[:, 3] > 100.0)[0])
    assert (first - 30 + 1) / rate == pytest.approx(receiver.lag(unit, settings, rate))
    # And a mark that goes stands as long again.
    gone = np.full((60, 8), 140.0, dtype=np.float32)
    gone[30:, 3] = 40.0
    kept, _ = receiver.reject(gone, None, unit, settings)
    stood = int(np.flatnonzero(kept[:, 3] < 100.0)[0])
    n = unit.rejections[step].pings
    assert stood - 30 == n - unit.rejections[step].needed


def test_one_stray_ping_in_three_is_dropped_and_two_are_not():
    """Binomial, by hand: at one chance in ten, two or more of three are 3 * 0.01 * 0.9 + 0.001."""
    unit = unit_with(rejections=(Rejection(1), Rejection(3)))
    chance = receiver.kept_chance(np.array([0.0, 0.1, 0.5, 1.0]), unit, at(unit, rejection=1))
    assert chance == pytest.approx([0.0, 0.028, 0.5, 1.0])
    assert receiver.kept_chance(np.array([0.1]), unit, at(unit))[0] == 0.1


# --- noise filter -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("bins", [2, 3, 4, 7])
def test_the_noise_filter_is_the_mean_intensity_of_the_bins_round(bins):
    """Bin by bin, by hand: of as many bins, half of them before the one that shows it."""
    unit = unit_with(noise_filters=(1, bins))
    level = np.random.default_rng(2).normal(80.0, 8.0, (3, 60)).astype(np.float32)
    smooth = receiver.smooth(level, unit, at(unit, noise_filter=1))
    intensity = 10.0 ** (level.astype(float) / 10.0)
    for k in range(bins, 60 - bins):
        first = k - bins // 2
        mean = intensity[:, first : first + bins].mean(axis=1)
        assert smooth[:, k] == pytest.approx(10.0 * np.log10(mean), abs=0.01)


def test_even_water_stays_as_it_is_and_a_spike_is_lowered():
    unit = unit_with(noise_filters=(1, 4))
    settings = at(unit, noise_filter=1)
    even = np.full((2, 40), 77.0, dtype=np.float32)
    assert receiver.smooth(even, unit, settings) == pytest.approx(even, abs=1e-3)
    spike = even.copy()
    spike[:, 20] = 117.0
    assert receiver.smooth(spike, unit, settings).max() == pytest.approx(117.0 - 10 * np.log10(4.0), abs=0.02)


def test_a_running_sum_beside_the_loudest_echo_is_never_nothing():
    unit = unit_with(noise_filters=(1, 5))
    level = np.full((1, 400), -20.0, dtype=np.float32)
    level[0, 3] = 220.0
    assert np.isfinite(receiver.smooth(level, unit, at(unit, noise_filter=1))).all()


@pytest.mark.parametrize("bins", [1, 2, 4])
def test_the_chance_that_water_lights_is_that_of_its_draws(bins):
    """Exponential intensity, and the mean of several a gamma: against a hundred thousand draws."""
    unit = unit_with(noise_filters=(1, bins) if bins > 1 else (1,))
    settings = at(unit, noise_filter=1 if bins > 1 else 0)
    drawn = np.random.default_rng(3).standard_exponential((100_000, bins)).mean(axis=1)
    for ratio in (0.2, 0.5, 1.0, 3.0):
        chance = float(receiver.lit_chance(np.array([ratio]), unit, settings)[0])
        counted = float((ratio * drawn > 1.0).mean())
        assert chance == pytest.approx(counted, abs=4.0 * np.sqrt(0.25 / 100_000))


# --- time-varied gain, blanking, gain -----------------------------------------------------------------------------


def test_forty_decibels_a_decade_hold_a_single_targets_colour():
    """A target's echo falls by 40 log r (Urick 1983); what is taken off grows as much towards the face."""
    unit = unit_with(tvg_db_decade=(0.0, 40.0))
    settings = at(unit, tvg=1)
    r = np.array([1.0, 2.0, 4.0])
    left = -40.0 * np.log10(r) - receiver.taken_off(unit, settings, r)
    assert np.ptp(left) == pytest.approx(0.0, abs=1e-9)


def test_time_varied_gain_leaves_deep_echoes_alone_and_stops_somewhere():
    unit = unit_with(tvg_db_decade=(0.0, 60.0))
    settings = at(unit, tvg=1)
    off = receiver.taken_off(unit, settings, np.array([1e-4, 0.1, 2.0 / 3.0 * settings.range_m, settings.range_m]))
    assert off[0] == receiver.MOST_TVG_DB and off[1] <= receiver.MOST_TVG_DB
    assert off[2] == pytest.approx(0.0, abs=1e-9) and off[3] == 0.0


def test_blanking_takes_the_top_and_nothing_below_it():
    unit = unit_with(blanking_m=(0.0, 1.5))
    off = receiver.taken_off(unit, at(unit, blanking=1), np.array([0.2, 1.49, 1.5, 4.0]))
    assert off.tolist() == [receiver.BLANKED_DB, receiver.BLANKED_DB, 0.0, 0.0]


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_a_step_of_gain_lifts_every_bin_by_its_decibels(unit):
    t = transmission.transmit(HOLE, unit, at(unit))
    echoes = np.random.default_rng(4).normal(80.0, 10.0, (2, t.bin_range_m.size)).astype(np.float32)
    low = at(unit, gain=unit.gain.minimum)
    high = replace(low, gain=unit.gain.minimum + unit.gain.step)
    a, b = (receiver.receive(echoes, unit, settings, t)[0] for settings in (low, high))
    assert np.allclose(b - a, unit.gain.db_per_step, atol=1e-4)
    first = receiver.first_colour_level(unit, low) - receiver.first_colour_level(unit, high)
    assert first == pytest.approx(unit.gain.db_per_step)
