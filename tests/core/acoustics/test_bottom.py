"""The bottom by what is published of it: reflection, the coherent share, facets, sediment; each kind by its feel."""

from __future__ import annotations

import numpy as np
import pytest

from hollow_glint.core.acoustics import beam, bottom, sonar_equation
from hollow_glint.core.acoustics.bottom import BOTTOM_KINDS
from hollow_glint.core.checks import InputError

K = 2.0 * np.pi * 200e3 / 1405.0


def test_reflection_is_that_of_two_impedances():
    """(z - 1) / (z + 1), Rayleigh; sand of ratio 1.845 x 1.1782 gives 0.3698, by hand."""
    assert bottom.reflection_coefficient(BOTTOM_KINDS["sand"]) == pytest.approx(0.3698, abs=1e-4)
    assert bottom.reflection_coefficient(BOTTOM_KINDS["mud"]) == pytest.approx(0.0576, abs=1e-4)


def test_harder_kinds_reflect_more():
    order = ["mud", "silt", "sand", "gravel", "rock"]
    found = [bottom.reflection_coefficient(BOTTOM_KINDS[name]) for name in order]
    assert found == sorted(found)
    feels = {name: kind.feel for name, kind in BOTTOM_KINDS.items()}
    assert feels["sand"] == feels["gravel"] == feels["rock"] == "hard"
    assert feels["mud"] == feels["silt"] == feels["weed carpet"] == "soft"
    assert BOTTOM_KINDS["sand"].words == "sand, hard"


def test_roughness_takes_from_the_mirror_image_by_eckart():
    """exp(-4 k^2 h^2): at k h = 0.5 to 1/e, at k h = 1 to e^-4 (Eckart 1953)."""
    assert bottom.coherent_share(0.0, K) == 1.0
    assert bottom.coherent_share(0.5 / K, K) == pytest.approx(np.exp(-1.0))
    assert bottom.coherent_share(1.0 / K, K) == pytest.approx(np.exp(-4.0))


@pytest.mark.parametrize("kind", BOTTOM_KINDS.values(), ids=BOTTOM_KINDS)
def test_what_is_scattered_falls_off_with_the_angle_down_to_lamberts_law(kind):
    angle = np.radians(np.linspace(0.0, 80.0, 161))
    scattered = bottom.interface_scattering(kind, K, angle)
    assert np.all(np.diff(scattered) <= 1e-12)
    wide = angle > np.radians(65.0)
    lambert = 10.0 ** (kind.lambert_db / 10.0) * np.cos(angle) ** 2
    assert np.all(scattered >= lambert)
    assert scattered[wide] == pytest.approx(lambert[wide], rel=0.05)


def test_facets_carry_what_the_mirror_image_loses():
    """All over the half space the facets' part, cos-weighted, is what roughness took: energy is kept, to a fifth.

    The high-frequency Kirchhoff limit's own integral, 2 pi int s cos sin d theta, for gentle slopes.
    """
    kind = BOTTOM_KINDS["sand"]
    angle = np.linspace(0.0, np.pi / 2.0 - 1e-3, 20_001)
    facets = bottom.interface_scattering(kind, K, angle) - 10.0 ** (kind.lambert_db / 10.0) * np.cos(angle) ** 2
    # Backscatter at incidence a comes from slopes a; reflected power spreads over twice the angle: a factor of four.
    total = (
        4.0 * 2.0 * np.pi * float(np.trapezoid(facets * np.cos(angle) ** 4 * np.sin(angle) / np.cos(angle) ** 3, angle))
    )
    lost = bottom.reflection_coefficient(kind) ** 2 * (1.0 - bottom.coherent_share(kind.roughness_m, K))
    assert total == pytest.approx(lost, rel=0.2)


def test_sediment_takes_up_sound_with_frequency_and_its_tail_falls_as_fast():
    """8.686 x loss x k / speed ratio (APL-UW TR 9407)."""
    mud = BOTTOM_KINDS["mud"]
    assert bottom.sediment_attenuation(mud, K) == pytest.approx(8.686 * 0.00148 * K / 0.9801)
    assert bottom.sediment_attenuation(mud, 2.0 * K) == pytest.approx(2.0 * bottom.sediment_attenuation(mud, K))
    below = np.array([0.0, 0.1, 0.2])
    tail = bottom.sediment_tail(mud, K, below)
    falls = -10.0 * np.diff(np.log10(tail)) / 0.1
    assert falls == pytest.approx(2.0 * bottom.sediment_attenuation(mud, K))


def test_soft_bottoms_have_the_longer_tails():
    reach = {}
    for name in ("mud", "sand"):
        tail = bottom.sediment_tail(BOTTOM_KINDS[name], K, np.linspace(0.0, 2.0, 400))
        reach[name] = float(np.interp(-3.0, 10.0 * np.log10(tail / tail[0])[::-1], np.linspace(0.0, 2.0, 400)[::-1]))
    assert reach["mud"] > 3.0 * reach["sand"]


def test_a_bottom_that_is_not_known_is_refused_with_those_that_are():
    with pytest.raises(InputError) as refused:
        bottom.bottom_kind("custard")
    assert all(name in str(refused.value) for name in ("custard", "mud", "rock"))


# --- the sonar equation and the beam, by hand ----------------------------------------------------------------------


def test_spreading_is_twenty_log_and_absorption_adds():
    assert sonar_equation.transmission_loss(10.0, 0.0) == pytest.approx(20.0)
    assert sonar_equation.transmission_loss(100.0, 0.05) == pytest.approx(45.0)


def test_a_pulse_tells_apart_half_its_length():
    assert sonar_equation.range_resolution(1e-4, 1400.0) == pytest.approx(0.07)
    assert sonar_equation.max_ping_rate(70.0, 1400.0) == pytest.approx(10.0)


def test_source_level_grows_ten_decibels_a_decade_of_power():
    low, high = (sonar_equation.source_level(watt, 0.5, 20.0) for watt in (10.0, 100.0))
    assert high - low == pytest.approx(10.0)
    assert sonar_equation.source_level(100.0, 0.5, 0.0) == pytest.approx(170.8 + 10.0 * np.log10(50.0))


def test_the_beams_own_numbers():
    ka = beam.ka_from_beam_width(12.0)
    assert beam.directivity(np.radians(6.0), ka) == pytest.approx(-3.0, abs=0.01)
    assert np.degrees(beam.off_axis_at_level(-3.0, ka)) == pytest.approx(6.0, abs=0.02)
    assert beam.equivalent_beam_angle(10.0) == pytest.approx(0.0578)
    assert beam.directivity_index(10.0) == pytest.approx(20.0)
    assert beam.slant_range(3.0, 4.0) == pytest.approx(5.0)
    assert beam.footprint_diameter(10.0, 20.0) == pytest.approx(20.0 * np.tan(np.radians(10.0)))


@pytest.mark.parametrize(
    ("call", "names"),
    [
        (lambda: beam.ka_from_beam_width(0.5), ["beam_width_deg", "1", "120"]),
        (lambda: beam.directivity(4.0, 10.0), ["off_axis_rad"]),
        (lambda: beam.directivity_index(0.0), ["ka"]),
        (lambda: sonar_equation.transmission_loss(0.0, 0.0), ["distance_m"]),
        (lambda: sonar_equation.source_level(0.0, 0.5, 0.0), ["electrical_power_w"]),
        (lambda: sonar_equation.source_level(10.0, 1.5, 0.0), ["efficiency"]),
        (lambda: sonar_equation.range_resolution(1.0, 1400.0), ["pulse_s"]),
        (lambda: sonar_equation.max_ping_rate(5.0, 343.0), ["sound_speed_m_s"]),
    ],
)
def test_what_is_outside_its_span_is_refused_by_name(call, names):
    with pytest.raises(InputError) as refused:
        call()
    assert all(name in str(refused.value) for name in names)
