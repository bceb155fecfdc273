"""What would mend a picture: each advice drawn from a picture alone, and followed in the same water."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime

import numpy as np
import pytest

from benchmarks.reader_scenes import Case, scenario
from hollow_glint.core.bench.tape import Tape
from hollow_glint.core.hole.contents import Neighbour
from hollow_glint.core.reader.mending import ALL_LIT, MOST_LIT, WANTED_LIT, PictureState, mending, steps_less
from hollow_glint.core.reader.recording import Recording

STEPS = 500


def picture(case: Case, **settings) -> Recording:
    run, tape = replace(case, settings=replace(case.settings, **settings)).run(), Tape()
    for commands in case.hand[:STEPS]:
        tape.add(run.advance(commands))
    return tape.recording("Now", run, datetime(2026, 1, 1, tzinfo=UTC))


def quiet(seed: int, **scene) -> Case:
    case = scenario(seed)
    return replace(case, scene=replace(case.scene, **{"neighbours": (), "shoals": (), **scene}))


def knobs(state: PictureState) -> dict[str, float]:
    return {one.change.setting: float(one.change.value) for one in state.mends if one.change is not None}


def said(state: PictureState) -> str:
    return " ".join(f"{one.what.text} {one.because.text}" for one in state.mends)


@pytest.fixture(scope="module")
def lit() -> Case:
    """Water full of plankton under far too much gain."""
    case = quiet(70_103, plankton="thick")
    return replace(case, settings=replace(case.settings, gain=case.settings.gain + 16 * case.unit.gain.step))


def test_lit_water_is_darkened_by_as_many_steps_as_are_advised(lit):
    before = mending(picture(lit))
    assert before.lit_share > MOST_LIT and "water is lit" in said(before)
    after = mending(picture(lit, gain=knobs(before)["gain"]))
    assert after.lit_share < MOST_LIT and "water is lit" not in said(after)


def test_water_that_is_lit_all_through_is_darkened_in_two_goes(lit):
    """Of such water no share tells how far above the first colour it lies: so "at least" is said."""
    gain = lit.unit.gain.maximum
    first = mending(picture(lit, gain=gain))
    assert first.lit_share >= ALL_LIT and "At least" in said(first)
    second = mending(picture(lit, gain=knobs(first)["gain"]))
    assert mending(picture(lit, gain=knobs(second)["gain"])).lit_share < MOST_LIT


@pytest.mark.parametrize("share", [0.1, 0.3, 0.6, 0.95])
def test_steps_less_are_those_that_an_exponential_intensity_asks_for(share):
    """Drawn by chance and counted, against the law of exponential intensity (Simmonds and MacLennan 2005)."""
    intensity = np.random.default_rng(1).exponential(1.0, 200_000)
    threshold = np.quantile(intensity, 1.0 - share)
    less_db = 1.5 * steps_less(share, 1.5)
    assert (intensity * 10 ** (-less_db / 10) > threshold).mean() < 1.1 * WANTED_LIT
    assert (intensity * 10 ** (-(less_db - 1.5) / 10) > threshold).mean() > 0.9 * WANTED_LIT
    assert steps_less(1.0, 1.5) == steps_less(ALL_LIT, 1.5)


def test_a_range_far_too_long_is_shortened_to_the_least_that_holds_the_bottom():
    case = quiet(70_102)
    before = mending(picture(case, range_m=case.unit.ranges_m[-1]))
    assert knobs(before)["range_m"] == case.settings.range_m
    assert "range_m" not in knobs(mending(picture(case)))


def test_a_faint_bottom_asks_for_more_gain_and_gets_its_colour():
    case = quiet(70_101)
    before = mending(picture(case, gain=case.unit.gain.minimum))
    assert "reaches" in said(before)
    after = mending(picture(case, gain=knobs(before)["gain"]))
    assert "reaches" not in said(after) and after.lit_share < MOST_LIT


def test_no_bottom_is_said_to_be_missing():
    case = quiet(70_102)
    assert "no bottom" in said(mending(picture(case, gain=case.unit.gain.minimum)))


def test_a_neighbour_asks_for_rejection_until_there_is_no_more():
    case = quiet(70_103, neighbours=(Neighbour(4.0, ping_interval_s=0.0473),))
    assert knobs(mending(picture(case)))["rejection"] == case.settings.rejection + 1
    none_left = mending(picture(case, rejection=len(case.unit.rejections) - 1))
    assert "rejection" not in knobs(none_left)


def test_a_picture_that_is_well_tuned_asks_for_nothing():
    assert mending(picture(quiet(70_101))).mends == ()


def test_a_gain_that_nobody_told_is_advised_in_steps_alone(lit):
    state = mending(replace(picture(lit), missing=("gain: taken as the middle of its scale",)))
    assert "gain" not in knobs(state) and "steps less gain" in said(state)


def test_of_a_unit_that_nobody_told_no_step_and_no_range_is_advised(lit):
    untold = ("unit: the file has no profile, so a plain one of six colours, 6 dB each, stands for it",)
    state = mending(replace(picture(lit), missing=untold))
    assert [one.what.text for one in state.mends] == ["Less gain, then look for your lure again"]
    case = quiet(70_102)
    long = picture(case, range_m=case.unit.ranges_m[-1])
    assert mending(long).mends and mending(replace(long, missing=untold)).mends == ()
