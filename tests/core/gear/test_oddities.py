"""What is asked about a profile: a knob that loses or gains decibels by other numbers, or has too few or too many."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hollow_glint.core.gear.oddities import LEAST_SPAN_DB, MOST_SPAN_DB, oddities
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT

EVERY = (TRAIL_UNIT, *SHIPPED)


def turned(unit, **numbers):
    return replace(unit, gain=replace(unit.gain, **numbers))


@pytest.mark.parametrize("unit", EVERY, ids=lambda unit: unit.name)
def test_nothing_is_odd_about_a_unit_that_comes_with_the_program(unit):
    assert oddities(unit) == () == oddities(unit, unit.gain)


@pytest.mark.parametrize("unit", EVERY, ids=lambda unit: unit.name)
def test_other_numbers_on_the_knob_ask_and_the_answer_keeps_its_decibels(unit):
    scale = unit.gain
    other = turned(unit, minimum=0.0, maximum=3.0 * (scale.maximum - scale.minimum))
    (asked,) = oddities(other, scale)
    assert asked.asked.values["had"].value == pytest.approx(scale.decibels(scale.maximum))
    assert asked.asked.values["span"].value == pytest.approx(3.0 * scale.decibels(scale.maximum))
    kept = turned(other, db_per_step=asked.db_per_step)
    assert kept.gain.decibels(kept.gain.maximum) == pytest.approx(scale.decibels(scale.maximum), rel=0.01)
    assert oddities(kept, scale) == ()


def test_a_coarser_step_is_asked_about_too_and_one_that_brought_its_decibels_along_is_not():
    unit = TRAIL_UNIT
    assert oddities(turned(unit, step=2.0 * unit.gain.step), unit.gain)
    both = turned(unit, step=2.0 * unit.gain.step, db_per_step=2.0 * unit.gain.db_per_step)
    assert oddities(both, unit.gain) == ()


def test_a_knob_of_nine_decibels_is_questioned_and_its_answer_is_a_usual_knob():
    steps = (TRAIL_UNIT.gain.maximum - TRAIL_UNIT.gain.minimum) / TRAIL_UNIT.gain.step
    for span in (9.0, LEAST_SPAN_DB - 1.0, MOST_SPAN_DB + 1.0):
        (asked,) = oddities(turned(TRAIL_UNIT, db_per_step=span / steps))
        assert asked.asked.values["span"].value == pytest.approx(span)
        assert oddities(turned(TRAIL_UNIT, db_per_step=asked.db_per_step)) == ()
