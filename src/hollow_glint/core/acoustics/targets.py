"""Single targets: how much of the sound that meets a fish or a jig comes straight back (target strength)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from ..checks import Floats, like_input, one_of, within
from .special import spherical_jn, spherical_yn


@dataclass(frozen=True)
class Solid:
    """An elastic solid: density [kg/m^3], longitudinal and transverse sound speed [m/s]."""

    density_kg_m3: float
    longitudinal_m_s: float
    transverse_m_s: float


# Tungsten carbide: MacLennan and Dunn 1984 (6 percent cobalt). The rest: handbook values for the pure or common
# form of each metal, from memory.
SOLIDS: dict[str, Solid] = {
    "tungsten carbide": Solid(14_900.0, 6_853.0, 4_171.0),
    "tungsten": Solid(19_300.0, 5_220.0, 2_890.0),
    "lead": Solid(11_340.0, 2_160.0, 700.0),
    "brass": Solid(8_500.0, 4_430.0, 2_120.0),
    "steel": Solid(7_850.0, 5_960.0, 3_235.0),
}


def fish_target_strength(length_m: ArrayLike, frequency_hz: ArrayLike) -> Any:
    """Mean dorsal-aspect target strength [dB re 1 m^2] of a fish of `length_m` [m, 0.01 to 3] at `frequency_hz` [Hz].

    19.1 log10 L[cm] - 0.9 log10 f[kHz] - 62.0; frequency 10 kHz to 1 MHz. Inputs broadcast. Raises ValueError
    outside the spans. Source: Love 1971, J. Acoust. Soc. Am. 49, 816. Ping-to-ping fluctuation is drawn in `ping`.
    """
    length = within("length_m", length_m, 0.01, 3.0, "m")
    frequency = within("frequency_hz", frequency_hz, 10e3, 1e6, "Hz")
    return like_input(19.1 * np.log10(length * 100.0) - 0.9 * np.log10(frequency / 1000.0) - 62.0)


def fish_target_strength_at_aspect(length_m: ArrayLike, aspect_rad: ArrayLike) -> Any:
    """Target strength [dB re 1 m^2] of a fish of `length_m` [m, 0.01 to 3] seen from the side, by its aspect [rad].

    Aspect 0 is head on, pi/2 broadside, any angle. Broadside 24.7 log10 L[mm] - 89.6 (Frouzova and others 2005,
    Fisheries Research 75, 86-96, European species, 120 kHz); from there down to 20 dB less head or tail on, as
    cos^3(2 aspect) (the form of Kubecka 1994, J. Applied Ichthyology 10, 136-153; the 20 dB are ours). Both from
    memory, and used here at frequencies above those measured. Inputs broadcast. Raises ValueError outside the span.
    """
    length = within("length_m", length_m, 0.01, 3.0, "m")
    broadside = 24.7 * np.log10(1000.0 * length) - 89.6
    return like_input(broadside - 10.0 * (1.0 + np.cos(2.0 * np.asarray(aspect_rad, dtype=np.float64)) ** 3))


def sphere_target_strength(
    diameter_m: ArrayLike,
    frequency_hz: ArrayLike,
    sound_speed_m_s: ArrayLike,
    water_density_kg_m3: ArrayLike = 1000.0,
    material: str = "tungsten carbide",
) -> Any:
    """Target strength [dB re 1 m^2] of an elastic sphere by its modal series; inputs broadcast.

    Diameter 0.1 mm to 0.2 m, frequency 1 kHz to 2 MHz, sound speed 1300 to 1700 m/s, density 900 to 1100 kg/m^3,
    material one of SOLIDS. Raises ValueError outside the spans. Source: Faran 1951, in the form of MacLennan 1981;
    tungsten carbide after MacLennan and Dunn 1984.
    """
    solid = SOLIDS[one_of("material", material, tuple(SOLIDS))]
    diameter = within("diameter_m", diameter_m, 1e-4, 0.2, "m")
    frequency = within("frequency_hz", frequency_hz, 1e3, 2e6, "Hz")
    c = within("sound_speed_m_s", sound_speed_m_s, 1300.0, 1700.0, "m/s")
    rho = within("water_density_kg_m3", water_density_kg_m3, 900.0, 1100.0, "kg/m^3")
    diameter, frequency, c, rho = np.broadcast_arrays(diameter, frequency, c, rho)
    q = np.pi * frequency * diameter / c  # wave number times radius
    form = np.abs(_sphere_form_function(q, c, rho, solid))
    return like_input(20.0 * np.log10(diameter / 4.0 * form))


def _sphere_form_function(q: Floats, c: Floats, rho: Floats, solid: Solid) -> Any:
    """Backscattering form function, complex, same shape as `q` = ka. Source: MacLennan 1981, ICES CM equations."""
    q1 = q * c / solid.longitudinal_m_s
    q2 = q * c / solid.transverse_m_s
    alpha = 2.0 * (solid.density_kg_m3 / rho) * (solid.transverse_m_s / c) ** 2
    beta = (solid.density_kg_m3 / rho) * (solid.longitudinal_m_s / c) ** 2 - alpha
    total = np.zeros(np.shape(q), dtype=np.complex128)
    # The series has converged a little past order ka; ten more orders cost nothing and settle small spheres too.
    for order in range(int(np.max(q)) + 12):
        j_q, jd_q = spherical_jn(order, q), spherical_jn(order, q, True)
        y_q, yd_q = spherical_yn(order, q), spherical_yn(order, q, True)
        j_1, jd_1, jdd_1 = _bessel_with_derivatives(order, q1)
        j_2, jd_2, jdd_2 = _bessel_with_derivatives(order, q2)
        a2 = (order**2 + order - 2) * j_2 + q2**2 * jdd_2
        a1 = 2.0 * order * (order + 1) * (q1 * jd_1 - j_1)
        b2 = a2 * q1**2 * (beta * j_1 - alpha * jdd_1) - a1 * alpha * (j_2 - q2 * jd_2)
        b1 = q * (a2 * q1 * jd_1 - a1 * j_2)
        eta = np.arctan(-(b2 * jd_q - b1 * j_q) / (b2 * yd_q - b1 * y_q))
        total += (-1) ** order * (2 * order + 1) * np.sin(eta) * np.exp(1j * eta)
    return -2.0 / q * total


def _bessel_with_derivatives(order: int, x: Floats) -> tuple[Floats, Floats, Floats]:
    """Spherical Bessel function of the first kind with its first two derivatives, the second by its own equation."""
    j = spherical_jn(order, x)
    jd = spherical_jn(order, x, True)
    return j, jd, -2.0 / x * jd - (1.0 - order * (order + 1) / x**2) * j


def rigid_sphere_target_strength(diameter_m: ArrayLike) -> Any:
    """Target strength [dB re 1 m^2] of a large rigid sphere, 10 log10(a^2/4); diameter 1 mm to 10 m, any shape.

    Good where ka is above about 10. Raises ValueError outside the span. Source: Urick 1983, table of simple forms.
    """
    diameter = within("diameter_m", diameter_m, 1e-3, 10.0, "m")
    return like_input(20.0 * np.log10(diameter / 4.0))


def cylinder_target_strength(
    length_m: ArrayLike,
    diameter_m: ArrayLike,
    frequency_hz: ArrayLike,
    sound_speed_m_s: ArrayLike,
    tilt_rad: ArrayLike = 0.0,
) -> Any:
    """Target strength [dB re 1 m^2] of a rigid finite cylinder `tilt_rad` [rad] off broadside; inputs broadcast.

    10 log10(a L^2 / 2 lambda) + 20 log10(sin b / b) + 20 log10 cos(tilt), b = k L sin(tilt). Length 1 mm to 10 m,
    diameter 0.1 mm to 5 m. Good for ka above about 2 and within some ten degrees of broadside; it knows no end caps.
    Raises ValueError outside the spans. Source: Urick 1983, table of simple forms.
    """
    length = within("length_m", length_m, 1e-3, 10.0, "m")
    radius = within("diameter_m", diameter_m, 1e-4, 5.0, "m") / 2.0
    wavelength = within("sound_speed_m_s", sound_speed_m_s, 1300.0, 1700.0, "m/s") / within(
        "frequency_hz", frequency_hz, 1e3, 2e6, "Hz"
    )
    return like_input(
        10.0 * np.log10(radius * length**2 / (2.0 * wavelength)) + _line_pattern(length, wavelength, tilt_rad)
    )


def plate_target_strength(
    length_m: ArrayLike,
    width_m: ArrayLike,
    frequency_hz: ArrayLike,
    sound_speed_m_s: ArrayLike,
    tilt_rad: ArrayLike = 0.0,
) -> Any:
    """Target strength [dB re 1 m^2] of a rigid oval blade tilted by `tilt_rad` [rad] along its length; broadcasts.

    20 log10(A / lambda) + 20 log10(sin b / b) + 20 log10 cos(tilt), b = k L sin(tilt), A the oval's area. Length and
    width 1 mm to 1 m. Good where both are above a wavelength. Raises ValueError outside the spans.
    Source: Urick 1983, table of simple forms (plates).
    """
    length = within("length_m", length_m, 1e-3, 1.0, "m")
    width = within("width_m", width_m, 1e-3, 1.0, "m")
    wavelength = within("sound_speed_m_s", sound_speed_m_s, 1300.0, 1700.0, "m/s") / within(
        "frequency_hz", frequency_hz, 1e3, 2e6, "Hz"
    )
    area = np.pi / 4.0 * length * width
    return like_input(20.0 * np.log10(area / wavelength) + _line_pattern(length, wavelength, tilt_rad))


def _line_pattern(length_m: Floats, wavelength_m: Floats, tilt_rad: ArrayLike) -> Floats:
    """How a straight thing of `length_m` answers `tilt_rad` off broadside [dB, never below -80], by Urick 1983."""
    tilt = within("tilt_rad", tilt_rad, -np.pi, np.pi, "rad")
    b = 2.0 * np.pi / wavelength_m * length_m * np.sin(tilt)
    amplitude = np.abs(np.sinc(b / np.pi) * np.cos(tilt))  # numpy's sinc carries a pi of its own
    level: Floats = 20.0 * np.log10(np.maximum(amplitude, 1e-4))
    return level
