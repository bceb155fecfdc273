"""Calibrating a unit with a known jig: recovered from few readings, honest about what they do not fix."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import curve_fit

from hollow_glint.core.card.hole_card import hole_card
from hollow_glint.core.card.known_hole import KnownHole
from hollow_glint.core.gear import profiles
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, transmission
from hollow_glint.core.tuning import calibration
from hollow_glint.core.tuning.calibration import GainReading
from hollow_glint.core.tuning.gain_window import gain_window
from hollow_glint.stand_ins.sonar_unit import StandInUnit

WATER = Scene(12.0, "mud", 0.36, 0.44, visitors=0)
JIG = Lure("5 mm tungsten jig", 0.005)
RING = profiles.TWO_BEAM_RING
DEPTHS = (3.0, 4.5, 8.0, 11.5)


def exact(unit, depth: float, colour: int = 0, lure: Lure = JIG) -> GainReading:
    """The reading that a perfect eye would take of `unit`."""
    level = calibration.echo_level(WATER, unit, GainReading(lure, depth, unit.gain.minimum, colour))
    begins = unit.ladders[0].steps[colour].begins
    return GainReading(
        lure, depth, unit.gain.position(unit.gain.first_colour_db + begins * unit.colour_step_db - level), colour
    )


def hidden(unit, constant: float = 3.0, slope: float = 1.1):
    scale = unit.gain
    return replace(
        unit,
        gain=replace(scale, first_colour_db=scale.first_colour_db + constant, db_per_step=scale.db_per_step * slope),
    )


@pytest.mark.parametrize("unit", [profiles.TRAIL_UNIT, *profiles.SHIPPED], ids=lambda unit: unit.name)
def test_a_stand_ins_hidden_numbers_are_recovered_from_four_readings(unit):
    """Constant within 1 dB and slope within 5 percent, half-step rounding, in at least 95 of 100 seeds."""
    good, inside = 0, 0
    for seed in range(100):
        stand_in = StandInUnit(unit, seed)
        readings = tuple(stand_in.disappears_at(WATER, GainReading(JIG, depth, 0.0)) for depth in DEPTHS)
        half = unit.gain.step / 2
        assert all(abs((one.gain - unit.gain.minimum) / half % 1.0 - 0.5) > 0.499 for one in readings)
        fit, truth = calibration.fit(WATER, unit, readings), stand_in.reveal()
        off = abs(fit.first_colour_db - truth.first_colour_db)
        good += off < 1.0 and abs(fit.db_per_step / truth.db_per_step - 1.0) < 0.05
        inside += off < 2.0 * fit.calibrated.first_colour_sd_db
    assert good >= 95 and inside >= 90


def test_least_squares_and_covariance_against_scipy():
    """A worked example: five readings with noise, against scipy.optimize.curve_fit with the same sigma."""
    unit = hidden(RING)
    noise = (0.5, -0.6, 0.2, -0.3, 0.2)
    readings = tuple(
        replace(one, gain=one.gain + off)
        for one, off in zip((exact(unit, depth) for depth in (2.5, 4.0, 6.0, 8.0, 11.0)), noise, strict=True)
    )
    fit = calibration.fit(WATER, RING, readings)
    n = np.array([(one.gain - RING.gain.minimum) / RING.gain.step for one in readings])
    level = np.array([one.level_db for one in fit.judged])
    sigma = np.full(5, fit.residual_sd_db)
    theirs, covariance = curve_fit(
        lambda n, a, b: a - b * n, n, level, p0=(140.0, 0.6), sigma=sigma, absolute_sigma=True
    )
    assert fit.first_colour_db == pytest.approx(theirs[0], abs=1e-6)
    assert fit.db_per_step == pytest.approx(theirs[1], abs=1e-8)
    # The colour step is held, and with the weakest colour alone it moves neither.
    sure = fit.calibrated
    ours = [[sure.first_colour_sd_db**2, sure.covariance_db2], [sure.covariance_db2, sure.db_per_step_sd**2]]
    np.testing.assert_allclose(ours, covariance, rtol=1e-6)
    assert fit.assumed == ("colour_step_db",)


def test_fewer_readings_fix_fewer_values_and_it_says_which():
    unit = hidden(RING, slope=1.0)
    one = calibration.fit(WATER, RING, (exact(unit, 8.0),))
    assert one.assumed == ("db_per_step", "colour_step_db")
    assert one.first_colour_db == pytest.approx(unit.gain.first_colour_db, abs=1e-6)
    two = calibration.fit(WATER, RING, (exact(hidden(RING), 3.0), exact(hidden(RING), 9.0)))
    assert two.assumed == ("colour_step_db",)
    assert two.db_per_step == pytest.approx(hidden(RING).gain.db_per_step, rel=1e-6)
    coloured = replace(hidden(RING), colour_step_db=7.5)
    many = tuple(exact(coloured, depth, colour) for depth in (4.0, 7.0, 10.0) for colour in (0, 1, 2))
    full = calibration.fit(WATER, RING, many)
    assert full.assumed == () and full.colour_step_db == pytest.approx(7.5, abs=1e-6)
    assert one.calibrated.first_colour_sd_db > two.calibrated.first_colour_sd_db


def test_a_second_lure_joins_the_same_fit():
    unit, lead = hidden(RING), Lure("6 mm lead jig", 0.006, "lead")
    fit = calibration.fit(WATER, RING, (exact(unit, 4.0), exact(unit, 9.0), exact(unit, 6.0, lure=lead)))
    assert fit.first_colour_db == pytest.approx(unit.gain.first_colour_db, abs=1e-6)


def test_readings_that_cannot_be_right_are_named_and_left_out():
    unit = hidden(RING)
    good = [exact(unit, depth) for depth in (3.0, 5.0, 7.0, 9.0, 11.0)]
    far = [*good[:2], replace(good[2], gain=good[2].gain + 14.0), *good[3:]]
    fit = calibration.fit(WATER, RING, tuple(far))
    assert [one.used for one in fit.judged] == [True, True, False, True, True]
    assert "dB from where the other readings put it" in fit.judged[2].why or "louder" in fit.judged[2].why
    assert fit.first_colour_db == pytest.approx(unit.gain.first_colour_db, abs=0.05)
    louder = [*good[:4], replace(good[4], gain=good[0].gain - 5.0)]
    fit = calibration.fit(WATER, RING, tuple(louder))
    assert not fit.judged[4].used and "louder when deeper" in fit.judged[4].why
    at_the_end = [*good, GainReading(JIG, 2.0, RING.gain.minimum)]
    assert "bound" in calibration.fit(WATER, RING, tuple(at_the_end)).judged[5].why


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        (GainReading(JIG, 8.0, 500.0), "readings.0.gain is 500: this unit's scale has 0 to 100"),
        (GainReading(JIG, 30.0, 50.0), "readings.0.depth_m is 30 m"),
        (GainReading(JIG, 8.0, 50.0, colour=30), "readings.0.colour is 30"),
        (GainReading(JIG, 8.0, 50.0, beam=7), "readings.0.beam is 7"),
    ],
)
def test_what_cannot_be_is_refused(wrong, said):
    with pytest.raises(ValueError, match=said):
        calibration.fit(WATER, RING, (wrong,))


def test_one_more_reading_where_it_is_told_narrows_the_floor_most():
    unit = hidden(RING)
    fit = calibration.fit(WATER, RING, (exact(unit, 7.0), exact(unit, 8.0)))
    ahead = fit.next_reading
    assert ahead.then_db < 0.8 * ahead.now_db
    there = calibration.fit(WATER, RING, (exact(unit, 7.0), exact(unit, 8.0), exact(unit, ahead.depth_m)))
    elsewhere = calibration.fit(WATER, RING, (exact(unit, 7.0), exact(unit, 8.0), exact(unit, 7.5)))
    assert there.calibrated.db_per_step_sd < elsewhere.calibrated.db_per_step_sd


def test_the_calibrated_unit_shows_its_lure_where_the_card_says_with_the_uncertainty_carried():
    """Card before and after differ by what was hidden; after, the real unit does what the card says."""
    real = hidden(RING, constant=5.0, slope=1.05)
    fit = calibration.fit(WATER, RING, tuple(exact(real, depth) for depth in DEPTHS))
    at = KnownHole(9.45, ice_thickness_m=0.36, clarity="clear", light="day", liveliness="quiet")
    before, after = hole_card(at, RING, JIG), hole_card(at, fit.profile, JIG)
    truth = hole_card(at, real, JIG)
    assert abs(before.gains.floor - truth.gains.floor) > 3.0
    assert after.gains.floor == pytest.approx(truth.gains.floor, abs=0.1)
    assert before.gains.floor_sd == 0.0 and after.gains.floor_sd > 0.0
    assert after.gains.firm_floor == pytest.approx(after.gains.floor + 2.0 * after.gains.floor_sd)
    now = replace(after.settings, gain=after.settings.gain)
    t = transmission.transmit(after.scene, real, now)
    window = gain_window(t, real, now, JIG, after.lure_depth_m, picture.full_column(now))
    assert window.floor <= now.gain <= window.ceiling


def test_the_stand_in_shows_a_mark_that_goes_where_its_reading_says():
    stand_in = StandInUnit(RING, 3)
    reading = stand_in.disappears_at(WATER, GainReading(JIG, 7.0, 0.0))
    shares = []
    for off in (-4.0, 4.0):
        levels, shown = stand_in.look(WATER, replace(reading, gain=reading.gain + off))
        rows = picture.row_range(RING, shown)
        near = np.abs(rows - (7.0 - WATER.face_depth_m) - 0.04) < 0.06
        shares.append(float((levels[:, near] > 0).any(axis=1).mean()))
    assert shares[0] < 0.3 and shares[1] > 0.9
