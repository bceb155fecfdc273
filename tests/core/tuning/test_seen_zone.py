"""How far off the axis a target is seen and how deep the bottom hides it: against the sonar equation and Pythagoras."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam
from hollow_glint.core.acoustics.targets import fish_target_strength
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import starting_settings
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, ping, receiver
from hollow_glint.core.sonar.transmission import transmit
from hollow_glint.core.tuning.gain_window import CEILING_SHARE, gain_window, lit_share, open_water_cells
from hollow_glint.core.tuning.seen_zone import dead_zone_top, fish_seen_radius, seen_radius

HOLE = Scene(9.45, "mud", 0.36, 0.45)
UNITS = [TRAIL_UNIT, *SHIPPED]


def still(unit=TRAIL_UNIT, scene=HOLE):
    return transmit(scene, unit, starting_settings(unit, scene.bottom_range_m))


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_at_the_zones_edge_the_mean_echo_just_lights(unit):
    """The sonar equation at the edge gives the first colour again."""
    t = still(unit)
    first = ping.target_echo_level(t, -45.0, 6.0) - 8.0
    depth = np.array([3.0, 6.0, 9.0])
    for z, radius in zip(depth, seen_radius(t, -45.0, first, depth), strict=True):
        if radius > 0.05:
            assert ping.target_echo_level(t, -45.0, float(z), float(radius)) == pytest.approx(first, abs=0.3)


def test_what_does_not_light_on_axis_is_seen_nowhere_and_a_hair_above_it_just_there():
    t = still()
    level = ping.target_echo_level(t, -45.0, 6.0)
    assert seen_radius(t, -45.0, level + 0.5, np.array([6.0]))[0] == 0.0
    assert 0.0 < seen_radius(t, -45.0, level - 0.5, np.array([6.0]))[0] < 0.4


def test_six_decibels_to_spare_are_the_nominal_cone():
    """A beam is quoted at 3 dB one way: there and back that is 6."""
    t, width = still(), TRAIL_UNIT.beams[0].width_deg
    level = ping.target_echo_level(t, -45.0, 6.0)
    radius = float(seen_radius(t, -45.0, level - 6.0, np.array([6.0]))[0])
    assert 2.0 * radius == pytest.approx(beam.footprint_diameter(5.55, width), rel=0.03)


def test_more_strength_sees_further_up_to_the_first_null():
    t = still()
    first = ping.target_echo_level(t, -60.0, 6.0) - 1.0
    radii = [float(seen_radius(t, strength, first, np.array([6.0]))[0]) for strength in (-60.0, -50.0, -40.0, -20.0)]
    assert radii == sorted(radii) and radii[0] < radii[2]
    null = 5.55 * np.tan(np.arcsin(beam.FIRST_NULL / t.ka))
    assert radii[-1] <= null + 1e-6


def test_what_is_hidden_takes_from_the_zone_where_it_hides():
    t = still()
    first = ping.target_echo_level(t, -45.0, 6.0) - 10.0
    depth = np.array([2.0, 6.0])
    open_radius = seen_radius(t, -45.0, first, depth)
    hidden = seen_radius(t, -45.0, first, depth, lambda r: np.where(r < 3.0, receiver.BLANKED_DB, 0.0))
    assert hidden[0] == 0.0 and hidden[1] == open_radius[1]


def test_a_fish_is_its_target_strength():
    """Love 1971."""
    t = still()
    first, depth = 110.0, np.array([4.0, 8.0])
    strength = float(fish_target_strength(0.3, t.frequency_hz))
    assert np.array_equal(fish_seen_radius(t, 0.3, first, depth), seen_radius(t, strength, first, depth))


def test_above_the_face_nothing_is_seen():
    assert not seen_radius(still(), 0.0, 60.0, np.array([0.0, 0.2, 0.45])).any()


@pytest.mark.parametrize("slope", [0.0, 8.0])
def test_the_dead_zone_is_the_shell_of_the_first_arrival_less_a_pulse(slope):
    """Ona and Mitson 1996: everything as far as the nearest bottom, whatever its direction."""
    scene = replace(HOLE, slope_deg=slope)
    reach = scene.bottom_range_m * np.cos(np.radians(slope)) - 0.07
    aside = np.array([0.0, 1.0, 2.0, 20.0])
    top = dead_zone_top(scene, 0.07, aside)
    assert top[:3] == pytest.approx(0.45 + np.sqrt(reach**2 - aside[:3] ** 2))
    assert top[3] == 0.45, "so far aside all of the column is behind the bottom"


def test_a_target_in_the_dead_zone_begins_within_a_pulse_of_the_bottom():
    t = still()
    for aside in (0.0, 0.8, 1.6):
        top = float(dead_zone_top(HOLE, t.resolution_m, np.array([aside]))[0])
        r = float(np.hypot(top - 0.45, aside))
        assert r + t.resolution_m == pytest.approx(HOLE.bottom_range_m, abs=1e-6)


# --- the water's part of the gain window ---------------------------------------------------------------------------


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_at_the_ceiling_two_in_a_hundred_cells_light(unit):
    settings = starting_settings(unit, HOLE.bottom_range_m)
    t = transmit(HOLE, unit, settings)
    shown = picture.full_column(settings)
    from hollow_glint.core.gear.lures import USUAL_JIG

    ceiling = gain_window(t, unit, settings, USUAL_JIG, 6.0, shown).ceiling
    at = replace(settings, gain=ceiling)
    lit = lit_share(t, unit, at, shown, receiver.first_colour_level(unit, at))
    assert lit == pytest.approx(CEILING_SHARE, rel=0.02)


def test_open_water_is_neither_ringing_nor_weeds_nor_bottom():
    scene = replace(HOLE, weed_height_m=1.5, weed_density=0.8)
    settings = starting_settings(TRAIL_UNIT, scene.bottom_range_m)
    t = transmit(scene, TRAIL_UNIT, settings)
    shown = picture.full_column(settings)
    cells = open_water_cells(t, TRAIL_UNIT, shown)
    rows = picture.row_range(TRAIL_UNIT, shown)
    assert cells[(rows > 1.5) & (rows < 7.0)].all()
    assert not cells[rows < 0.3].any() and not cells[rows > 7.6].any()


def test_a_window_wholly_in_the_bottom_has_no_open_water_and_no_ceiling():
    settings = starting_settings(TRAIL_UNIT, HOLE.bottom_range_m)
    t = transmit(HOLE, TRAIL_UNIT, settings)
    deep = picture.Window(9.05, 9.14)
    assert not open_water_cells(t, TRAIL_UNIT, deep).any()
    assert lit_share(t, TRAIL_UNIT, settings, deep, 60.0) == 0.0
