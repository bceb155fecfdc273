"""The fan: patterns by their closed forms, levels by the sonar equation written out, geometry by hand."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.acoustics import array, beam, bottom, sonar_equation, targets
from hollow_glint.core.fan.beams import angle_number, angles_deg, two_way
from hollow_glint.core.fan.frame import frame_time, heard, ping_interval
from hollow_glint.core.fan.head import FAN_HEADS, FAR_REACH, NEAR_REACH, FanHang, in_fan
from hollow_glint.core.fan.swimmers import HungLure, Points, fish_points, points_at
from hollow_glint.core.fan.water import BINS, fan_water, wavelength_m
from hollow_glint.core.search.patch import Standing

from ..search.waters import fish, flat

HEADS = pytest.mark.parametrize("head", FAN_HEADS.values(), ids=lambda one: one.name)
DOWN = FanHang(mounting="down", depth_m=1.0)
WATER, DEEP, ABYSS = flat(9.4), flat(30.0), flat(60.0)


def db(intensity):
    return 10.0 * np.log10(intensity)


def at(place, strength=1.0) -> Points:
    """Still points that answer so loud."""
    places = np.array(place, dtype=np.float64).reshape(-1, 3)
    return Points(places, np.full(len(places), strength), np.zeros(len(places), dtype=bool))


class Steady:
    """No chance at all: every echo as loud as it is in the mean."""

    def standard_exponential(self, size=None, dtype=np.float64):
        return np.ones(size, dtype)

    def normal(self, mean, deviation, size=None):
        return np.full(size, mean)


def steady(patch, head, hang, points, reach_m=20.0, **more):
    return heard(fan_water(patch, head, hang, reach_m), head, hang, points, Steady(), **more)


def only(patch, head, hang, points, reach_m=20.0):
    """Intensities of the points alone."""
    return 10.0 ** (steady(patch, head, hang, points, reach_m) / 10.0) - 10.0 ** (
        steady(patch, head, hang, at([]), reach_m) / 10.0
    )


@HEADS
def test_what_steering_costs_is_the_sincs_of_both_faces(head):
    """Urick 1983: an evenly driven face is sinc(l/lambda sin); pattern multiplication, Van Trees 2002."""
    wave = wavelength_m(WATER, head)
    table = two_way(head, wave)
    for number in (0, head.beams // 6, head.beams // 3 - 1, head.beams // 2):
        off = np.radians(head.beams_deg[number] - head.normals_deg[number])
        sent, own = (20.0 * np.log10(np.sinc(length / wave * np.sin(off))) for length in (head.sends_m, head.element_m))
        # The table's angles are a quarter of a degree apart: the top may lie between two of them.
        assert db(table[:, number].max()) == pytest.approx(sent + own, abs=0.25)
    seam = np.radians(head.sub_array_deg / 2.0)
    costs = 20.0 * np.log10(np.sinc(head.sends_m / wave * np.sin(seam)) * np.sinc(head.element_m / wave * np.sin(seam)))
    assert -9.0 < costs < -4.0


@HEADS
def test_a_lobe_is_wider_the_further_it_is_steered(head):
    """0.886 lambda / (N d cos), Van Trees 2002, for what is heard alone."""
    wave = wavelength_m(WATER, head)
    fine = np.radians(np.arange(-40.0, 40.0, 0.005))
    for steered in (0.0, np.radians(22.0)):
        lobe = array.array_factor(head.line, fine, steered, wave)
        inside = fine[(lobe > np.sqrt(0.5)) & (np.abs(fine - steered) < 0.1)]
        closed = 0.8859 * wave / (head.line.length_m * np.cos(steered))
        assert inside[-1] - inside[0] == pytest.approx(closed, rel=0.02)
    assert np.isclose(head.beams_deg[1] - head.beams_deg[0], head.fan_deg / head.beams)


@HEADS
def test_a_second_lobe_stands_where_the_elements_say_and_the_sending_face_holds_it_down(head):
    """sin of the grating lobe = sin of the main lobe less lambda/d (Van Trees 2002)."""
    wave = wavelength_m(WATER, head)
    number = head.beams // 2 + head.beams // 6 - 1  # the middle sub-array, steered as far as it goes
    steered = np.radians(head.beams_deg[number] - head.normals_deg[number])
    second = np.arcsin(np.sin(steered) - wave / head.spacing_m)
    table = two_way(head, wave)[:, number]
    near = np.abs(angles_deg() - np.degrees(second) - head.normals_deg[number]) < 1.5
    whole = [np.sinc(length / wave * np.sin(second)) for length in (head.sends_m, head.element_m)]
    assert db(table[near].max()) == pytest.approx(
        40.0 * np.log10(abs(whole[0])) / 2.0 + 20.0 * np.log10(abs(whole[1])), abs=0.6
    )
    assert db(table[near].max()) < db(table.max()) - 12.0


@HEADS
@pytest.mark.parametrize("mounting", ["ahead", "down"])
def test_the_weak_strip_where_sub_arrays_meet_emerges(head, mounting):
    """The same jig at the same range, moved round the head: weakest where two sub-arrays meet, by the closed form."""
    hang = replace(DOWN, mounting=mounting)
    wave = wavelength_m(WATER, head)
    seen = np.arange(-head.fan_deg / 2 + 2.0, head.fan_deg / 2 - 2.0, 0.5)
    loudest = []
    for off in seen:
        angle = np.radians(off + hang.axis_deg)
        place = (0.0, 6.0 * np.cos(angle), 1.0 + 6.0 * np.sin(angle))
        loudest.append(db(only(DEEP, head, hang, at(place, 1e-2)).max()))
    loudest = np.array(loudest)
    for seam in head.seams_deg:
        strip = np.abs(seen - seam) < 0.9
        middle = np.abs(np.abs(seen - seam) - head.sub_array_deg / 2.0) < 1.5
        half = np.radians(head.sub_array_deg / 2.0)
        costs = [20.0 * np.log10(np.sinc(length / wave * np.sin(half))) for length in (head.sends_m, head.element_m)]
        # Between two beams a little more is lost, everywhere: the loudest places are compared.
        assert loudest[strip].max() - loudest[middle].max() == pytest.approx(sum(costs), abs=0.6)
    weakest = seen[loudest < loudest.max() - 3.5]
    parts = np.array([np.abs(weakest - seam) for seam in (*head.seams_deg, -head.fan_deg / 2, head.fan_deg / 2)])
    assert parts.min(axis=0).max() < head.sub_array_deg / 4.0, "and nowhere else"


@pytest.mark.parametrize("away", [6.0, 12.0, 18.0])
def test_a_jig_is_as_loud_as_the_sonar_equation_has_it(away):
    """SL - 2 TL + TS, on a beam near the normal of its sub-array (Urick 1983); all of its echo, a pulse long."""
    here = fan_water(DEEP, NEAR_REACH, DOWN, 20.0)
    number = NEAR_REACH.beams // 2
    angle = np.radians(NEAR_REACH.beams_deg[number] + 90.0)
    place = (0.0, away * np.cos(angle), 1.0 + away * np.sin(angle))
    echo = only(DEEP, NEAR_REACH, DOWN, at(place, 10.0**-4.2))[number].astype(float)
    lost = sonar_equation.transmission_loss(away, here.absorption_db_m)
    pulses = here.bin_m / (here.sound_speed_m_s * NEAR_REACH.pulse_s / 2.0)
    assert db(echo.sum() * pulses) == pytest.approx(here.source_db - 2.0 * lost - 42.0, abs=0.2)


@HEADS
def test_a_fish_beside_the_plane_is_shown_in_it_at_its_own_range_and_weaker(head):
    away, beside = 8.0, np.radians(head.thickness_deg / 2.0)
    hang = FanHang(depth_m=1.0, aim_deg=90.0)
    off = (away * np.cos(beside), -away * np.sin(beside), 1.0)
    shown, side = (only(DEEP, head, hang, at(place, 1e-3)) for place in ((away, 0.0, 1.0), off))
    (number, first), (_, also) = (np.unravel_index(one.argmax(), one.shape) for one in (shown, side))
    assert abs(first - also) <= 1 and number == np.unravel_index(side.argmax(), side.shape)[0]
    # Half the thickness off: -3 dB one way is -6 dB out and back, by the definition of a beam's width.
    assert db(side.max()) - db(shown.max()) == pytest.approx(-6.0, abs=0.3)


def test_angles_in_the_plane_by_hand():
    hang = FanHang(depth_m=1.0, aim_deg=90.0)
    r, angle, off = in_fan(hang, np.array([3.0, 0.0, 0.0]), np.array([0.0, 0.0, -4.0]), np.array([4.0, 2.0, 3.0]))
    assert r == pytest.approx([5.0, 2.0, 5.0])
    assert np.degrees(angle[:2]) == pytest.approx([53.1301, 90.0])
    assert np.degrees(off) == pytest.approx([0.0, 0.0, 53.1301])  # to the south is to the right of east
    # Leaning to the right by 30 degrees, the plane holds what lies 30 degrees to the right of straight down.
    lean = replace(hang, roll_deg=30.0)
    place = np.array([0.0]), np.array([-np.tan(np.radians(30.0)) * 5.0]), np.array([5.0])
    _, angle, off = in_fan(lean, *place)
    assert np.degrees([angle[0], off[0]]) == pytest.approx([90.0, 0.0], abs=1e-6)
    # A handle that is out of line points elsewhere than the head looks.
    _, _, off = in_fan(replace(hang, aim_deg=70.0, off_deg=20.0), np.array([5.0]), np.array([0.0]), np.array([0.0]))
    assert off[0] == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize("kind", ["mud", "sand", "gravel"])
def test_the_beds_level_is_lamberts_law_over_the_thickness_and_the_pulse(kind):
    """Urick 1983: SL - 2 TL + Lambert's strength + 10 log of the area between the fan's edges and the pulse's."""
    hang = FanHang(depth_m=1.0)
    here = fan_water(flat(9.4, kind), NEAR_REACH, hang, 30.0)
    k = 2 * np.pi * NEAR_REACH.frequency_hz / here.sound_speed_m_s
    for angle in (25.0, 32.0):
        number = int(np.abs(NEAR_REACH.beams_deg + hang.axis_deg - angle).argmin())
        graze = np.radians(NEAR_REACH.beams_deg[number] + hang.axis_deg)
        r = 8.4 / np.sin(graze)
        # All that comes back in this beam from about there is the strength of the strip that its lobe covers.
        around = np.abs(here.range_m - r) < 2.0
        total = (here.mean[number] - fan_water(ABYSS, NEAR_REACH, hang, 30.0).mean[number])[around].sum()
        total *= here.bin_m / (here.sound_speed_m_s * NEAR_REACH.pulse_s / 2.0)
        wave = wavelength_m(WATER, NEAR_REACH)
        table = two_way(NEAR_REACH, wave)[:, number]
        lobe = np.abs(angles_deg() - NEAR_REACH.beams_deg[number]) < 4.0
        plane = table[lobe].sum() * np.radians(0.25)
        off = np.radians(np.arange(-60.0, 60.0, 0.05))
        thick = (beam.line_amplitude(off, 18.0) ** 4).sum() * np.radians(0.05)
        strength = bottom.interface_scattering(bottom.bottom_kind(kind), k, np.array([np.pi / 2 - graze]))[0]
        strip = strength * r * thick * r * plane / np.sin(graze)
        closed = here.source_db - 2.0 * sonar_equation.transmission_loss(r, here.absorption_db_m) + db(strip)
        assert db(total) == pytest.approx(closed, abs=1.0)


def test_open_water_is_its_volume_strength_over_the_beam():
    """Simmonds and MacLennan 2005: SL - 2 TL + s_v + 10 log of beam, r^2 and c tau / 2."""
    clear, full = (replace(ABYSS, clarity=one) for one in ("clear", "plankton"))
    a, b = (fan_water(one, NEAR_REACH, DOWN, 20.0) for one in (clear, full))
    far = np.abs(a.range_m - 12.0) < 0.5
    number = NEAR_REACH.beams // 2
    table = two_way(NEAR_REACH, wavelength_m(WATER, NEAR_REACH))[:, number]
    off = np.radians(np.arange(-60.0, 60.0, 0.05))
    psi = table.sum() * np.radians(0.25) * (beam.line_amplitude(off, 18.0) ** 4).sum() * np.radians(0.05)
    lost = sonar_equation.transmission_loss(12.0, a.absorption_db_m)
    pulse = a.sound_speed_m_s * NEAR_REACH.pulse_s / 2.0
    for here, strength in ((a, -84.0), (b, -64.0)):
        closed = here.source_db - 2.0 * lost + strength + db(psi * 144.0 * pulse)
        assert db(here.mean[number, far].mean() - here.noise) == pytest.approx(closed, abs=0.5)


def test_a_strong_bottom_is_smeared_into_an_arc_at_its_range():
    """Far from its own beam it is down by the beams' side lobes: the closed form says by how much."""
    here = fan_water(flat(9.4, "rock"), NEAR_REACH, DOWN, 20.0)
    column = int(8.4 / here.bin_m) + 1
    number = int(np.abs(NEAR_REACH.beams_deg - 15.0).argmin())
    open_water = fan_water(ABYSS, NEAR_REACH, DOWN, 20.0)
    arc = here.mean[number, column - 1 : column + 2].max()
    assert arc > 10.0 * open_water.mean[number, column], "it stands out of the water"
    before = int(7.6 / here.bin_m)
    assert here.mean[number, before] < 2.0 * open_water.mean[number, before], "and nothing does before it"
    table = two_way(NEAR_REACH, wavelength_m(WATER, NEAR_REACH))
    foot = np.abs(angles_deg()) < 3.0  # what lies within a pulse of straight down
    straight = table[foot, number].mean() / table[foot, NEAR_REACH.beams // 2].mean()
    middle = here.mean[NEAR_REACH.beams // 2, column - 1 : column + 2].max()
    assert db(arc / middle) == pytest.approx(db(straight), abs=4.0)


def test_what_lies_beyond_the_listening_time_is_a_repeat_and_jumps_with_the_stagger():
    hang, c = FanHang(depth_m=1.0), fan_water(WATER, NEAR_REACH, FanHang(depth_m=1.0), 15.0).sound_speed_m_s
    late = ping_interval(15.0, c) * c / 2.0
    truly = 22.0
    for stagger in (0.0, 0.1):
        level = only(ABYSS, NEAR_REACH, hang, at((0.0, truly, 1.0), 1.0), 15.0) if stagger == 0.0 else None
        if level is None:
            both = [
                10.0 ** (steady(ABYSS, NEAR_REACH, hang, points, 15.0, stagger=stagger) / 10.0)
                for points in (at((0.0, truly, 1.0), 1.0), at([]))
            ]
            level = both[0] - both[1]
        shown = (level.max(axis=0).argmax() + 0.5) * 15.0 / BINS
        assert shown == pytest.approx(truly - late - stagger * 15.0, abs=0.1)
    # So does what stands on the bed out there.
    rock = Standing("boulder", 0.0, 22.0, 3.0, 3.0, 3.0)
    with_it, bare = (fan_water(flat(6.0, "mud", things), NEAR_REACH, hang, 15.0) for things in ((rock,), ()))
    assert (with_it.beyond.max(axis=0) > 5.0 * bare.beyond.max(axis=0)).any()
    assert np.array_equal(with_it.mean[:, : BINS // 2], bare.mean[:, : BINS // 2])


def test_a_head_inside_the_ice_sees_straight_down_and_its_own_hole():
    inside, below = (FanHang(depth_m=depth, mounting="down", ice_m=0.6) for depth in (0.3, 0.8))
    a, b = (fan_water(WATER, NEAR_REACH, hang, 20.0) for hang in (inside, below))
    near = a.range_m < 0.6
    assert db(a.mean[:, near].max() / b.mean[:, near].max()) > 3.0, "the walls answer"
    side = int(np.abs(NEAR_REACH.beams_deg - 50.0).argmin())
    far = np.abs(a.range_m - 14.0) < 2.0
    assert db(b.mean[side, far].max() / a.mean[side, far].max()) > 10.0, "and hide what is aside"
    straight = NEAR_REACH.beams // 2
    deep = (np.abs(a.range_m - 9.1) < 0.5).nonzero()[0]
    assert db(a.mean[straight, deep].max() / a.mean[straight, deep - 60].max()) > 20.0


def test_the_ice_overhead_is_seen_by_beams_that_look_up():
    up, level = (FanHang(depth_m=1.4, nose_up_deg=deg, ice_m=0.4) for deg in (20.0, -10.0))
    a, b = (fan_water(ABYSS, NEAR_REACH, hang, 20.0) for hang in (up, level))
    column = int(1.0 / np.sin(np.radians(18.0)) / a.bin_m)
    assert db(a.mean[:, column - 2 : column + 3].max() / b.mean[:, column - 2 : column + 3].max()) > 10.0


@pytest.mark.parametrize(("reach", "a_second"), [(10.0, 20.0), (30.0, 20.0), (60.0, 11.2), (137.0, 5.0)])
def test_frames_come_five_to_twenty_a_second(reach, a_second):
    assert 1.0 / frame_time(reach, 1404.0) == pytest.approx(a_second, rel=0.02)


def test_a_fish_is_a_body_and_as_loud_as_where_it_is_seen_from_says():
    """Side aspect and dorsal strength as the acoustics room has them, at the two ends."""
    swims = fish([(0.0, -5.0, 10.0), (100.0, 5.0, 10.0)], 1.0, 0.36)  # square to the way of the sound, at head's depth
    place, strength = fish_points(swims, 1.0, 1e6, 50.0)
    assert place.shape == (4, 3) and np.ptp(place[:, 0]) == pytest.approx(0.8 * 0.36 * 0.75)
    side = targets.fish_target_strength_at_aspect(0.36, np.pi / 2)
    assert db(strength.sum()) == pytest.approx(side, abs=0.1)
    below = fish([(0.0, -0.05, 0.0), (100.0, 0.05, 0.0)], 9.0, 0.36)
    _, strength = fish_points(below, 1.0, 1e6, 50.0)
    assert db(strength.sum()) == pytest.approx(targets.fish_target_strength(0.36, 1e6), abs=0.1)


def test_a_lure_is_lifted_and_answers_as_its_form_does():
    lure = HungLure(0.0, 2.0, 5.0, 0.4, 2.0)
    depths = [lure.depth_at(t) for t in np.arange(0.0, 2.0, 0.05)]
    assert min(depths) == pytest.approx(4.6) and max(depths) == 5.0
    points = points_at(flat(), (lure,), 1.0, 1e6, 1404.0, 1.5)
    assert db(points.strength_m2.max()) == pytest.approx(lure.lure.target_strength(1e6, 1404.0))
    assert not points.flickers.any()


def test_a_thing_that_stands_hides_what_swims_behind_it():
    crib = Standing("crib", 0.0, 8.0, 3.0, 3.0, 1.5, 90.0)
    hang = FanHang(depth_m=1.0)
    behind = at((0.0, 12.0, 8.8), 1e-2)
    assert only(flat(9.4, "mud", (crib,)), NEAR_REACH, hang, behind).max() == pytest.approx(0.0, abs=1e-3)
    assert only(flat(9.4, "mud"), NEAR_REACH, hang, behind).max() > 1e3


def test_profiles_differ_as_they_say():
    near, far = (fan_water(WATER, one, FanHang(), 30.0) for one in (NEAR_REACH, FAR_REACH))
    lost = [2.0 * sonar_equation.transmission_loss(28.0, one.absorption_db_m) for one in (near, far)]
    # Francois and Garrison 1982: absorption goes with the square of the frequency.
    assert near.absorption_db_m / far.absorption_db_m == pytest.approx((1.0 / 0.55) ** 2, rel=1e-3)
    assert lost[0] - lost[1] > 15.0
    assert angle_number(np.radians(NEAR_REACH.beams_deg[:1])) == round((180.0 - 67.5 + 0.527) / 0.25)
