"""The still part of a ping against closed forms worked out here: volume, weeds, bottom, images, noise, pulses laid."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam, bottom, sonar_equation
from hollow_glint.core.gear.ladders import SIX_STEP, Step
from hollow_glint.core.gear.profiles import SHIPPED, TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings, starting_settings
from hollow_glint.core.hole.scene import CLARITY_DB, WEED_LOSS_DB_M, Scene
from hollow_glint.core.sonar import picture, ping, pulse, transmission
from hollow_glint.core.sonar.still_echoes import second_echo_range
from hollow_glint.core.sonar.transmission import transmit

from ..watching import steady

HOLE = Scene(bottom_depth_m=9.45, bottom_kind="sand", ice_thickness_m=0.36, face_depth_m=0.45)
UNITS = (TRAIL_UNIT, *SHIPPED)


def still(scene=HOLE, unit=TRAIL_UNIT, **knobs):
    settings = replace(starting_settings(unit, scene.bottom_range_m), **knobs)
    return transmit(scene, unit, settings)


def at(t, values, range_m):
    return float(np.interp(range_m, t.bin_range_m, values))


def db(value):
    return 10.0 * np.log10(value)


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
def test_open_water_is_the_closed_form_of_volume_reverberation(unit):
    """SL - 20 log r - 2 alpha r + Sv + 10 log(psi c tau / 2) (Simmonds and MacLennan 2005), by hand."""
    t = still(unit=unit)
    used = unit.beams[0]
    for r in (3.0, 5.0, 7.0):
        psi = beam.equivalent_beam_angle(beam.ka_from_beam_width(used.width_deg, used.level_db))
        closed = t.source_level_db - 20.0 * np.log10(r) - 2.0 * t.absorption_db_m * r + CLARITY_DB["clear"]
        closed += 10.0 * np.log10(psi * t.resolution_m)
        volume = at(t, t.open_water, r) - 10.0 ** (unit.noise_level_db / 10.0)
        assert db(volume) == pytest.approx(closed, abs=0.4)


def test_far_out_only_the_receivers_own_noise_is_left():
    t = still(replace(HOLE, bottom_depth_m=9.45), range_m=TRAIL_UNIT.ranges_m[-1])
    assert db(t.diffuse.min()) == pytest.approx(TRAIL_UNIT.noise_level_db, abs=0.5)


def test_ringing_dies_by_its_decibels_a_metre_and_a_clear_face_has_no_walls():
    t = still()
    near, far = (db(at(t, t.clutter, r)) for r in (0.2, 0.4))
    assert near - far == pytest.approx(0.2 * TRAIL_UNIT.ring_down_decay_db_m, rel=0.03)
    assert still(replace(HOLE, face_depth_m=0.1)).clutter[20:40].sum() > 100.0 * t.clutter[20:40].sum()


def test_weeds_take_from_what_is_below_them_by_their_thickness():
    scene = replace(HOLE, weed_height_m=2.0, weed_density=0.5)
    t = still(scene)
    above, below = at(t, t.through, 6.0), at(t, t.through, 8.9)
    assert above == 1.0
    assert db(below) == pytest.approx(-2.0 * WEED_LOSS_DB_M * 0.5 * (8.9 + 0.45 - scene.weed_top_m), rel=0.02)


def test_a_dry_face_and_slush_weaken_all_but_the_noise():
    wet, dry = still(), still(replace(HOLE, face_wet=False))
    assert wet.source_level_db - dry.source_level_db == pytest.approx(2.0 * transmission.DRY_FACE_DB)
    slushy = still(replace(HOLE, slush_m=0.5))
    assert wet.source_level_db - slushy.source_level_db == pytest.approx(2.0 * transmission.SLUSH_DB_M * 0.05)


# --- bottom --------------------------------------------------------------------------------------------------------


def test_the_bottoms_image_begins_at_the_bottom_and_is_as_loud_as_a_mirror_makes_it():
    """One path of twice the depth, times what the bottom reflects and leaves a mirror image (Urick 1983; Eckart)."""
    t = still()
    first = int(np.flatnonzero(t.steady > 0.0)[0])
    assert t.bin_range_m[first] == pytest.approx(HOLE.bottom_range_m, abs=t.bin_m)
    kind = bottom.BOTTOM_KINDS["sand"]
    k = 2.0 * np.pi * t.frequency_hz / t.sound_speed_m_s
    share = bottom.reflection_coefficient(kind) ** 2 * bottom.coherent_share(kind.roughness_m, k)
    path = 2.0 * HOLE.bottom_range_m
    loss = sonar_equation.transmission_loss(path, t.absorption_db_m)
    plateau = t.steady[first : first + int(0.9 * t.resolution_m / t.bin_m)].max()
    assert db(plateau) == pytest.approx(t.source_level_db - loss + db(share), abs=0.1)


@pytest.mark.parametrize("kind", list(bottom.BOTTOM_KINDS))
def test_nothing_of_the_bottom_is_above_it(kind):
    scene = replace(HOLE, bottom_kind=kind)
    t = still(scene)
    bed = t.diffuse + t.steady - t.open_water - t.weeds - t.clutter
    above = t.bin_range_m < scene.bottom_range_m - t.bin_m
    assert np.abs(bed[above]).max() < 1e-6 * bed.max()


def test_the_second_echo_stands_where_its_way_is_long_and_only_over_hard_ground():
    """Down, up to the ice, down, and up to the face: half of 2 (2 bottom - ice - face), by hand."""
    assert second_echo_range(HOLE) == pytest.approx(2 * 9.45 - 0.36 - 0.45)
    scene = replace(HOLE, bottom_depth_m=4.0)
    t = still(scene, range_m=TRAIL_UNIT.ranges_m[2])
    after = t.bin_range_m > second_echo_range(scene) - t.bin_m
    assert t.steady[after].max() > 0.0
    loud, soft = (
        still(replace(scene, bottom_kind=kind), range_m=TRAIL_UNIT.ranges_m[2]).steady[after].max()
        for kind in ("rock", "mud")
    )
    assert loud > 1000.0 * soft


def test_a_slope_brings_the_first_echo_nearer_by_its_cosine_and_takes_the_mirror_away():
    slope = replace(HOLE, slope_deg=10.0)
    flat, leaning = still(), still(slope)
    near = HOLE.bottom_range_m * np.cos(np.radians(10.0))
    bed = leaning.diffuse - leaning.open_water - leaning.weeds - leaning.clutter
    first = leaning.bin_range_m[np.flatnonzero(bed > 1e-3 * bed.max())[0]]
    assert first == pytest.approx(near, abs=0.1)
    assert leaning.steady.max() < 0.1 * flat.steady.max()


# --- pulses --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("unit", UNITS, ids=lambda unit: unit.name)
@pytest.mark.parametrize("between", [0.0, 0.25, 0.5, 0.9])
def test_a_pulse_is_laid_whole_wherever_it_begins(unit, between):
    """Its bins are the kernel's, shared between two neighbours where it begins between them."""
    t = still(unit=unit)
    laid = np.zeros((1, t.bin_range_m.size), dtype=np.float32)
    ping._lay_pulses(t, laid, np.array([[100.0 + between]]), np.array([[1000.0]]))
    kernel = 1000.0 * t.kernel.astype(float)
    wanted = np.zeros(t.bin_range_m.size)
    wanted[100 : 100 + kernel.size] += (1.0 - between) * kernel
    wanted[101 : 101 + kernel.size] += between * kernel
    span = slice(95, 100 + kernel.size - 1)
    assert laid[0, span] == pytest.approx(
        wanted[span], rel=2e-3, abs=1000.0 * 10.0 ** (-pulse.SKIRT_DB_PER_PULSE * 0.4)
    )
    assert laid[0, :100].max() == 0.0


def test_no_pings_skirt_reaches_into_the_next_and_what_is_past_the_end_is_nowhere():
    t = still()
    bins = t.bin_range_m.size
    laid = np.zeros((3, bins), dtype=np.float32)
    position = np.array([[bins - 1.5], [bins + 40.0], [5.0]])
    ping._lay_pulses(t, laid, position, np.full((3, 1), 1e6))
    assert laid[0, -2:].max() > 0.0
    assert not laid[1].any()
    assert not laid[2, :5].any() and laid[2, 5:].any()


def test_two_echoes_in_one_place_add_up():
    t = still()
    one, two = (np.zeros((1, t.bin_range_m.size), dtype=np.float32) for _ in range(2))
    ping._lay_pulses(t, one, np.array([[50.3]]), np.array([[7.0]]))
    ping._lay_pulses(t, two, np.array([[50.3, 50.3]]), np.array([[3.0, 4.0]]))
    assert two == pytest.approx(one, rel=1e-5)


@pytest.mark.parametrize("aside", [0.0, 0.5, 1.0])
def test_a_targets_level_is_the_sonar_equations(aside):
    """SL - 2 TL + TS + the beam there and back (Urick 1983), against the loudest bin of the ping."""
    t = still()
    targets = steady((6.0, aside, -30.0), pings=1)
    echoes = ping.echo_levels(t, targets, 1, np.random.default_rng(0))[0]
    r = float(np.hypot(5.55, aside))
    two_way = 2.0 * float(beam.directivity(np.arctan2(aside, 5.55), t.ka))
    wanted = t.source_level_db - 2.0 * sonar_equation.transmission_loss(r, t.absorption_db_m) - 30.0 + two_way
    assert ping.target_echo_level(t, -30.0, 6.0, aside) == pytest.approx(wanted, abs=0.2)
    near = np.abs(t.bin_range_m - r) < 1.5 * t.resolution_m
    assert echoes[near].max() == pytest.approx(wanted, abs=0.8)


def test_pings_of_targets_for_another_count_are_refused():
    with pytest.raises(ValueError, match="scatterers are for 3 pings; 2 are wanted"):
        ping.echo_levels(still(), steady((6.0, 0.0, -30.0), pings=3), 2, np.random.default_rng(0))


# --- ladders and rows ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize("begins", [-3.0, -1.5, 0.0, 2.5])
def test_a_ladder_may_begin_anywhere_and_darker_water_than_that_is_dark(begins):
    """A step lights from its own level on; half a step below it, and far below any, is dark."""
    ladder = replace(SIX_STEP, steps=(Step("only", begins, "#000000", "#ffffff"), *SIX_STEP.steps[4:]))
    unit = replace(TRAIL_UNIT, ladders=(ladder,), colour_step_db=6.0)
    settings = starting_settings(unit, HOLE.bottom_range_m)
    t = transmit(HOLE, unit, settings)
    shown = picture.full_column(settings)
    for over, level in ((begins, 1), (begins + 0.4, 1), (begins - 0.1, 0), (begins - 0.5, 0), (-60.0, 0), (60.0, 3)):
        signal = np.full((1, t.bin_range_m.size), 6.0 * over, dtype=np.float32)
        assert set(picture.paint_levels(signal, unit, settings, t, shown)[0].tolist()) == {level}, over


@pytest.mark.parametrize("rows", [16, 100, 240, 511, 1024])
@pytest.mark.parametrize("window", [(0.0, 1.0), (0.3, 0.5), (0.97, 1.0)])
def test_a_row_shows_the_strongest_bin_in_it(rows, window):
    """Against a loop over rows and bins."""
    unit = replace(TRAIL_UNIT, rows=rows)
    settings = starting_settings(unit, HOLE.bottom_range_m)
    t = transmit(HOLE, unit, settings)
    shown = picture.Window(window[0] * settings.range_m, window[1] * settings.range_m)
    signal = np.random.default_rng(1).normal(15.0, 12.0, (2, t.bin_range_m.size)).astype(np.float32)
    painted = picture.paint_levels(signal, unit, settings, t, shown)
    starts = picture.row_starts(shown.top_m, shown.bottom_m, rows, t.bin_m, t.bin_range_m.size)
    begins = np.array([step.begins for step in unit.ladders[0].steps]) * unit.colour_step_db
    for k in range(rows):
        bins = slice(starts[k], max(starts[k + 1], starts[k] + 1))
        strongest = signal[:, bins].max(axis=1)
        # Half colour steps are told apart.
        half = np.floor(strongest / unit.colour_step_db * 2.0) / 2.0 * unit.colour_step_db
        assert painted[:, k].tolist() == [(int((one >= begins).sum())) for one in half]


def test_bins_reach_from_the_face_to_the_range_at_three_a_pulse_or_more():
    for unit in UNITS:
        for span in (unit.ranges_m[0], unit.ranges_m[-1]):
            t = transmit(HOLE, unit, Settings(unit.gain.minimum, span))
            assert t.bin_range_m[0] == pytest.approx(t.bin_m / 2.0)
            assert t.bin_range_m[-1] + t.bin_m / 2.0 == pytest.approx(span)
            assert t.bin_range_m.size >= 512 and t.resolution_m / t.bin_m >= 2.99
