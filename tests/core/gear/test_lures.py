"""Lures by their forms: what answers, how it sinks, which sizes are refused."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics.targets import SOLIDS, sphere_target_strength
from hollow_glint.core.checks import InputError
from hollow_glint.core.gear.form import rocking_mean
from hollow_glint.core.gear.forms import FORMS
from hollow_glint.core.gear.lures import Lure

HZ, C = 200e3, 1405.0
# One of each form, in sizes of its own.
OF_EACH = {
    "jig": Lure("jig", 0.005),
    "baited jig": Lure("baited jig", 0.005, form="baited jig", length_m=0.03),
    "chain jig": Lure("chain jig", 0.005, form="chain jig", spacing_m=0.08),
    "two jigs": Lure("two jigs", 0.005, form="two jigs", spacing_m=0.4),
    "spoon": Lure("spoon", 0.012, "brass", "spoon", length_m=0.05),
    "minnow": Lure("minnow", 0.012, "lead", "minnow", length_m=0.06),
    "camera": Lure("camera", 0.03, "steel", "camera", length_m=0.08),
}


def test_every_form_is_tried_here():
    assert set(OF_EACH) == set(FORMS)


@pytest.mark.parametrize("lure", OF_EACH.values(), ids=OF_EACH)
def test_every_form_answers_at_every_frequency_that_a_unit_may_have(lure):
    for hz in (50e3, 83e3, 200e3, 455e3, 800e3):
        points = lure.highlights(hz, C)
        assert points.below_m.shape == points.strength_db.shape
        assert np.all(np.isfinite(points.strength_db))
        assert -120.0 < points.strength_db.max() < 0.0
        assert lure.target_strength(hz, C) == points.strength_db.max()


@pytest.mark.parametrize("lure", OF_EACH.values(), ids=OF_EACH)
def test_every_form_sinks_slower_than_a_stone_and_heavier_metal_sinks_faster(lure):
    assert 0.05 < lure.sink_speed_m_s < 1.5
    by_weight = sorted(SOLIDS, key=lambda name: SOLIDS[name].density_kg_m3)
    speeds = [replace(lure, material=name).sink_speed_m_s for name in by_weight]
    assert speeds == sorted(speeds)


def test_a_falling_ball_falls_as_standard_drag_says():
    """Terminal speed of a sphere, sqrt(4/3 g d (s - 1) / Cd), any fluid-mechanics text; the line takes half of it."""
    ball = Lure("ball", 0.005, "tungsten")
    free = np.sqrt(4.0 / 3.0 * 9.81 * 0.005 * (19.3 - 1.0) / 0.45)
    assert ball.sink_speed_m_s == pytest.approx(0.5 * free)
    assert replace(ball, diameter_m=0.010).sink_speed_m_s == pytest.approx(np.sqrt(2.0) * 0.5 * free)


def test_blades_and_bodies_fall_as_a_small_ball_whatever_their_size():
    small, large = (
        replace(OF_EACH["spoon"], diameter_m=across, length_m=3 * across).sink_speed_m_s for across in (0.01, 0.03)
    )
    assert small == large


def test_a_jig_is_one_sphere_of_its_material():
    points = OF_EACH["jig"].highlights(HZ, C)
    assert points.below_m.tolist() == [0.0]
    assert points.strength_db[0] == pytest.approx(float(sphere_target_strength(0.005, HZ, C, material="tungsten")))


def test_the_second_jig_hangs_above_the_first_and_answers_alike():
    lure = OF_EACH["two jigs"]
    points = lure.highlights(HZ, C)
    assert points.below_m.tolist() == [0.0, -0.4]
    assert points.strength_db[0] == points.strength_db[1]
    assert lure.parted_m == 0.4 and OF_EACH["chain jig"].parted_m == 0.0


def test_a_chain_hangs_below_in_even_beads():
    points = OF_EACH["chain jig"].highlights(HZ, C)
    assert points.below_m[0] == 0.0
    assert np.allclose(np.diff(points.below_m[1:]), 0.02) and points.below_m[-1] == pytest.approx(0.08)
    assert np.all(points.strength_db[1:] < points.strength_db[0])


def test_bait_lies_below_its_jig_and_is_softer_than_it():
    points = OF_EACH["baited jig"].highlights(HZ, C)
    assert points.below_m.tolist() == [0.0, pytest.approx(0.012)]
    assert points.strength_db[1] < points.strength_db[0]


@pytest.mark.parametrize("form", ["spoon", "minnow"])
def test_a_blade_flat_across_the_beam_is_loud_and_on_edge_quiet(form):
    """A mirror square to the beam against one that looks away (Urick 1983, plates and cylinders)."""
    lure = OF_EACH[form]
    flat, tilted, edge = (lure.highlights(HZ, C, tilt).strength_db[0] for tilt in (0.0, 0.5, 1.3))
    assert flat > tilted + 6.0 > edge


def test_a_spoon_hangs_on_edge_until_it_glides():
    spoon = OF_EACH["spoon"]
    hanging, gliding = (spoon.highlights(HZ, C, tilt).strength_db for tilt in (None, spoon.kind.gliding_tilt_rad))
    assert gliding[0] > hanging[0]
    # Ring and hook answer whatever the blade does.
    assert gliding[1] == hanging[1]


def test_rocking_takes_the_mean_of_intensities_not_of_decibels():
    assert rocking_mean(np.array([0.0, -10.0])) == pytest.approx(10 * np.log10(0.55))
    assert rocking_mean(np.array([-40.0, -40.0, -40.0])) == pytest.approx(-40.0)


def test_a_lure_is_as_long_as_its_longest_side():
    assert OF_EACH["spoon"].size_m == 0.05
    assert OF_EACH["jig"].size_m == 0.005


@pytest.mark.parametrize("form", [form for form in FORMS.values() if form.length_m or form.spacing_m])
def test_sizes_outside_a_forms_own_spans_are_refused_by_name(form):
    good = OF_EACH[form.name]
    for field, span in (("length_m", form.length_m), ("spacing_m", form.spacing_m)):
        if span is None:
            with pytest.raises(InputError, match=rf"{field} is 0.01 m: a {form.name} has none"):
                replace(good, **{field: 0.01})
            continue
        for value in (span[0] / 2.0, span[1] * 1.1):
            with pytest.raises(InputError, match=rf"{field}.*accepted"):
                replace(good, **{field: value})
        for value in span:
            assert getattr(replace(good, **{field: value}), field) == value


@pytest.mark.parametrize("form", FORMS.values(), ids=FORMS)
def test_diameters_outside_a_forms_own_span_are_refused_by_name(form):
    low, high = form.diameter_m
    for value in (low * 0.9, high * 1.1):
        with pytest.raises(InputError, match="diameter_m"):
            replace(OF_EACH[form.name], diameter_m=value)
    for value in (low, high):
        replace(OF_EACH[form.name], diameter_m=value)


@pytest.mark.parametrize(("field", "value"), [("material", "wood"), ("form", "anvil"), ("name", "")])
def test_what_is_no_lure_is_refused_with_what_is_accepted(field, value):
    with pytest.raises(InputError, match=field):
        replace(OF_EACH["jig"], **{field: value})
