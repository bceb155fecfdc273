"""Bad values are refused by name, value and span; scalars stay scalars, arrays keep their shape."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam, sonar_equation, targets, water
from hollow_glint.core.gear import settings, unit
from hollow_glint.core.gear.lures import Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.hole.scene import Scene

CALLS = {
    "temperature_c": lambda bad: water.sound_speed(bad),
    "frequency_hz": lambda bad: water.absorption(bad, 4.0),
    "beam_width_deg": lambda bad: beam.ka_from_beam_width(bad),
    "level_db": lambda bad: beam.ka_from_beam_width(12.0, bad),
    "off_axis_rad": lambda bad: beam.directivity(bad, 15.0),
    "ka": lambda bad: beam.equivalent_beam_angle(bad),
    "distance_m": lambda bad: sonar_equation.transmission_loss(bad, 0.01),
    "pulse_s": lambda bad: sonar_equation.range_resolution(bad, 1402.0),
    "length_m": lambda bad: targets.fish_target_strength(bad, 200e3),
    "diameter_m": lambda bad: targets.sphere_target_strength(bad, 200e3, 1402.0),
    "sound_speed_m_s": lambda bad: targets.sphere_target_strength(0.004, 200e3, bad),
    "bottom_depth_m": lambda bad: Scene(bad, "mud", 0.3, 0.4),
    "ice_thickness_m": lambda bad: Scene(9.0, "mud", bad, 0.4),
}


@pytest.mark.parametrize("name", CALLS)
@pytest.mark.parametrize("bad", [float("nan"), float("inf"), 1e9, -1e9])
def test_out_of_span_is_named(name, bad):
    with pytest.raises(ValueError, match=name) as refusal:
        CALLS[name](bad)
    assert f"{bad:g}" in str(refusal.value) and " to " in str(refusal.value)


@pytest.mark.parametrize("name", CALLS)
def test_text_for_a_number_is_named(name):
    with pytest.raises(ValueError, match=name):
        CALLS[name]("deep")


def test_shapes_in_are_shapes_out():
    grid = np.array([[1.0, 2.0, 3.0]])
    assert isinstance(water.sound_speed(4.0), float)
    assert water.sound_speed(grid).shape == (1, 3)
    assert beam.directivity(grid / 10, 15.0).shape == (1, 3)
    assert isinstance(beam.directivity(0.1, 15.0), float)
    assert targets.sphere_target_strength(grid / 1000, 200e3, 1402.0).shape == (1, 3)
    assert targets.sphere_target_strength(0.004, np.array([50e3, 200e3]), 1402.0).shape == (2,)
    assert sonar_equation.transmission_loss(grid, 0.01).shape == (1, 3)


def test_contradictions_are_named_together():
    with pytest.raises(ValueError) as refusal:
        Scene(bottom_depth_m=1.0, bottom_kind="mud", ice_thickness_m=1.5, face_depth_m=1.2)
    assert "ice_thickness_m is 1.5" in str(refusal.value) and "face_depth_m is 1.2" in str(refusal.value)


def test_unknown_names_list_what_is_accepted():
    with pytest.raises(ValueError, match="mud, silt, sand"):
        Scene(9.0, "porridge", 0.3, 0.4)
    with pytest.raises(ValueError, match="tungsten"):
        Lure("x", 0.004, "cheese")


def test_profile_goes_through_json_unchanged():
    import json

    there_and_back = unit.unit_from_dict(json.loads(json.dumps(unit.unit_to_dict(TRAIL_UNIT))))
    assert there_and_back == TRAIL_UNIT


@pytest.mark.parametrize("wrong", [{"gain": None}, {"beams": [{"name": "x"}]}, {"ladders": []}, {"ranges_m": []}])
def test_broken_profiles_are_refused(wrong):
    with pytest.raises(ValueError):
        unit.unit_from_dict({**unit.unit_to_dict(TRAIL_UNIT), **wrong})


def test_settings_the_unit_does_not_have_are_refused():
    u = TRAIL_UNIT
    for wrong in ({"gain": 51.0}, {"range_m": 7.0}, {"bottom_window_m": 1.0}, {"beam": 1}, {"pulse": -1}):
        with pytest.raises(ValueError, match=next(iter(wrong))):
            settings.Settings(**{"gain": 10.0, "range_m": 12.192, **wrong}).checked(u)


@pytest.mark.parametrize("bottom", np.linspace(0.5, 60, 60))
def test_smallest_range_is_the_smallest_that_holds_the_bottom(bottom):
    spans = TRAIL_UNIT.ranges_m
    chosen = settings.smallest_range(TRAIL_UNIT, bottom)
    assert chosen > bottom
    assert not any(bottom + max(0.3, 0.03 * bottom) <= span < chosen for span in spans)
