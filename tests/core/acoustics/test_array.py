"""A steered line of elements, against closed forms and against a plain sum over its elements.

Sources: Urick 1983, chapter 3 (the uniform line); Van Trees 2002, Optimum Array Processing, chapter 2 (half-power width
0.886 lambda/L, first side lobe -13.3 dB, grating lobes). The numbers are from memory.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hollow_glint.core.acoustics.array import (
    LineArray,
    array_amplitude,
    array_factor,
    element_amplitude,
    half_power_width,
    steering_loss_db,
    widest_spacing,
)

WAVE = 1.4e-3  # a megahertz in cold water
LINE = LineArray(32, 0.6 * WAVE, 0.55 * WAVE)
ANGLES = np.radians(np.linspace(-90.0, 90.0, 36_001))


@settings(max_examples=60, deadline=None)
@given(
    st.integers(1, 48), st.floats(0.2, 1.6), st.floats(0.1, 1.0), st.floats(-1.2, 1.2), st.floats(-1.5, 1.5)
)  # fmt: skip
def test_the_closed_form_is_the_sum_over_the_elements(n, spacing, share, steered, off):
    line = LineArray(n, spacing * WAVE, share * spacing * WAVE)
    place = (np.arange(n) - (n - 1) / 2.0) * line.spacing_m
    summed = np.abs(np.exp(2j * np.pi / WAVE * place * (np.sin(off) - np.sin(steered))).mean())
    assert array_factor(line, off, steered, WAVE) == pytest.approx(summed, abs=1e-6)
    # One element is a line of its own: many small ones, close together.
    along = (np.arange(4000) + 0.5) / 4000.0 - 0.5
    face = np.abs(np.exp(2j * np.pi / WAVE * along * line.element_m * np.sin(off)).mean())
    assert element_amplitude(line, off, WAVE) == pytest.approx(face, abs=1e-6)
    assert array_amplitude(line, off, steered, WAVE) == pytest.approx(summed * face, abs=1e-5)


@pytest.mark.parametrize("steered_deg", [0.0, 15.0, 30.0, 40.0])
def test_the_lobe_is_0886_wavelengths_over_the_length_and_widens_off_the_normal(steered_deg):
    steered = np.radians(steered_deg)
    level = array_factor(LINE, ANGLES, steered, WAVE)
    above = ANGLES[level >= np.sqrt(0.5)]
    width = np.degrees(np.ptp(above))
    assert width == pytest.approx(np.degrees(half_power_width(LINE, steered, WAVE)), rel=0.01)
    usual = np.degrees(0.886 * WAVE / LINE.length_m / np.cos(steered))
    assert width == pytest.approx(usual, rel=0.02)


def test_the_first_side_lobe_is_thirteen_decibels_down():
    level = 20.0 * np.log10(np.maximum(array_factor(LINE, ANGLES, 0.0, WAVE), 1e-6))
    # Beyond the first null at lambda/L.
    beyond = np.sin(ANGLES) > 1.02 * WAVE / LINE.length_m
    assert level[beyond].max() == pytest.approx(-13.3, abs=0.15)


def test_a_grating_lobe_comes_when_the_elements_stand_too_far_apart():
    steered = np.radians(25.0)
    most = float(widest_spacing(steered, WAVE))
    assert most == pytest.approx(WAVE / (1.0 + np.sin(steered)))
    for share, comes in ((0.9, False), (1.02, True)):
        line = LineArray(32, share * most, 0.4 * most)
        away = np.abs(ANGLES - steered) > np.radians(20.0)
        loudest = array_factor(line, ANGLES, steered, WAVE)[away].max()
        assert (loudest > 0.95) == comes


def test_steering_costs_what_the_element_does_not_hear_there():
    for deg in (0.0, 10.0, 30.0, 45.0):
        steered = np.radians(deg)
        in_lobe = 20.0 * np.log10(array_amplitude(LINE, steered, steered, WAVE))
        assert steering_loss_db(LINE, steered, WAVE) == pytest.approx(in_lobe, abs=1e-9)
        x = np.pi * 0.55 * np.sin(steered)
        assert in_lobe == pytest.approx(20.0 * np.log10(np.sin(x) / x) if x else 0.0, abs=1e-9)
    losses = steering_loss_db(LINE, np.radians([0.0, 10.0, 20.0, 30.0, 45.0]), WAVE)
    assert np.all(np.diff(losses) < 0.0)


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        (lambda: LineArray(0, WAVE, WAVE), "elements is 0"),
        (lambda: LineArray(8, WAVE, 1.1 * WAVE), "element_m"),
        (lambda: array_factor(LINE, 2.0, 0.0, WAVE), "off_rad is 2"),
        (lambda: array_factor(LINE, 0.0, -1.8, WAVE), "steered_rad is -1.8"),
        (lambda: element_amplitude(LINE, 0.0, 1.0), "wavelength_m is 1"),
    ],
)
def test_what_cannot_be_is_refused(wrong, says):
    with pytest.raises(ValueError, match=says):
        wrong()
