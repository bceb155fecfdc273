"""Which reading is far off: against every possibility written out with SciPy, and on stand-ins with one bad reading."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.stats import multivariate_normal

from hollow_glint.core.gear import profiles
from hollow_glint.core.tuning import calibration, doubt
from hollow_glint.core.tuning.calibration import GainReading
from hollow_glint.stand_ins.sonar_unit import StandInUnit

from .test_calibration import JIG, RING, WATER, exact, hidden

UNITS = (profiles.TRAIL_UNIT, *profiles.SHIPPED)


def taken(unit, seed: int, depths) -> list[GainReading]:
    stand_in = StandInUnit(unit, seed)
    return [stand_in.disappears_at(WATER, GainReading(JIG, depth, 0.0)) for depth in depths]


def spoilt(unit, reading: GainReading, by_db: float) -> GainReading:
    return replace(reading, gain=reading.gain + by_db / unit.gain.db_per_step * unit.gain.step)


def test_every_possibility_is_weighed_as_scipys_normal_distribution_has_it():
    rows = np.array([[1.0, -10.0, 0.0], [1.0, -30.0, 0.0], [1.0, -60.0, 0.0]])
    held, wide = np.array([140.0, 0.6, 6.0]), np.array([15.0, 0.09, 1.0])
    level = rows @ np.array([143.0, 0.62, 6.0]) + np.array([0.2, 9.0, -0.1])
    weighed = doubt.weigh(rows, level, (held, wide), 0.6, np.ones(3, dtype=bool))
    chances = []
    for out in (None, 0, 1, 2):
        noise = np.full(3, 0.36)
        prior = (1 - doubt.BAD_CHANCE) ** 3
        if out is not None:
            noise[out] += doubt.BAD_SD_DB**2
            prior = doubt.BAD_CHANCE * (1 - doubt.BAD_CHANCE) ** 2
        cov = rows @ np.diag(wide**2) @ rows.T + np.diag(noise)
        chances.append(prior * multivariate_normal(rows @ held, cov).pdf(level))
    assert weighed.bad == pytest.approx(np.array(chances[1:]) / sum(chances), rel=1e-6)
    assert np.linalg.eigvalsh(weighed.between).min() > -1e-9


@pytest.mark.parametrize("count", [2, 3, 4, 6])
def test_a_gross_error_is_never_taken_in_silence(count):
    """10 dB off: named and left out, or asked for again; before, two or three readings took it in silence."""
    noticed = tried = 0
    for seed in range(40):
        unit, rng = UNITS[seed % len(UNITS)], np.random.default_rng([8, seed])
        readings = taken(unit, 900 + seed, np.sort(rng.uniform(2.0, 11.5, count)))
        k = int(rng.integers(count))
        readings[k] = spoilt(unit, readings[k], 10.0 if rng.random() < 0.5 else -10.0)
        if not unit.gain.minimum < readings[k].gain < unit.gain.maximum:
            continue
        fit = calibration.fit(WATER, unit, tuple(readings))
        tried += 1
        noticed += not fit.judged[k].used or not fit.usable
    assert tried >= 20 and noticed >= 0.9 * tried


def test_four_readings_are_within_a_decibel_and_their_span_holds_with_and_without_a_bad_one():
    for bad in (False, True):
        near = held = used = 0
        for seed in range(60):
            unit, rng = UNITS[seed % len(UNITS)], np.random.default_rng([9, seed])
            readings = taken(unit, 1_900 + seed, np.sort(rng.uniform(2.0, 11.5, 4)))
            if bad:
                k = int(rng.integers(4))
                readings[k] = spoilt(unit, readings[k], float(rng.choice([-1, 1]) * rng.uniform(4.0, 12.0)))
                if not unit.gain.minimum < readings[k].gain < unit.gain.maximum:
                    continue
            fit, truth = calibration.fit(WATER, unit, tuple(readings)), StandInUnit(unit, 1_900 + seed).reveal()
            if not fit.usable:
                continue
            n, sure = 0.5 * (unit.gain.maximum - unit.gain.minimum) / unit.gain.step, fit.calibrated
            off = fit.first_colour_db - fit.db_per_step * n - (truth.first_colour_db - truth.db_per_step * n)
            sd = sure.position_sd(fit.profile.gain, unit.gain.minimum + n * unit.gain.step)
            sd *= fit.db_per_step / unit.gain.step
            used, near, held = used + 1, near + (abs(off) < 1.0), held + (abs(off) < 2.0 * sd)
        assert used >= 25 and near >= 0.93 * used and held >= 0.93 * used


def test_two_readings_far_from_the_profiles_slope_ask_for_a_third_and_say_where():
    unit = hidden(RING, constant=2.0, slope=1.0)
    two = (exact(unit, 3.0), spoilt(unit, exact(unit, 10.0), 16.0))
    fit = calibration.fit(WATER, RING, two)
    assert not fit.usable
    said = fit.doubts[0]
    assert "reading 1 or reading 2" in said.text and "depth" in said.values


def test_readings_that_leave_the_floor_unknown_are_no_calibration():
    fit = calibration.fit(WATER, RING, (exact(hidden(RING), 3.0),))
    assert fit.usable == (fit.next_reading.now_db <= calibration.UNSURE_DB)
    wide = calibration.fit(WATER, RING, (exact(hidden(RING, slope=1.0), 11.0),))
    assert all("{then}" in one.text for one in wide.doubts)


def test_what_no_reading_of_one_lure_can_show_is_said():
    unit = hidden(RING)
    one = calibration.fit(WATER, RING, tuple(exact(unit, depth) for depth in (3.0, 6.0, 9.0)))
    assert "second lure" in one.unseen[0].text
    other = replace(JIG, name="another", diameter_m=0.006)
    two = calibration.fit(WATER, RING, (exact(unit, 3.0), exact(unit, 9.0), exact(unit, 6.0, lure=other)))
    assert two.unseen == ()
