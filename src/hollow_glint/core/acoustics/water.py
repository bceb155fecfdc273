"""Fresh water as a medium: how fast sound runs in it and how much of it the water takes.

Pressure is left out: at 60 m, the deepest hole this program accepts, it changes sound speed by under 1 m/s.
"""

from __future__ import annotations

from typing import Any

from numpy.typing import ArrayLike

from ..checks import like_input, within

# Del Grosso and Mader (1972), J. Acoust. Soc. Am. 52, 1442: pure water, 0 to 95 degrees C.
# Coefficients from memory; held against gsw in tests/reference.
SOUND_SPEED_COEFFICIENTS = (
    1402.38754,
    5.03711129,
    -5.80852166e-2,
    3.34198834e-4,
    -1.47800417e-6,
    3.14643091e-9,
)

FRESH_WATER_DENSITY = 1000.0  # kg/m^3


def sound_speed(temperature_c: ArrayLike) -> Any:
    """Speed of sound in fresh water [m/s] at `temperature_c` [degrees C, 0 to 95], any shape.

    Raises ValueError outside 0 to 95. Source: Del Grosso and Mader 1972.
    """
    t = within("temperature_c", temperature_c, 0.0, 95.0, "degrees C")
    speed = t * 0.0
    for coefficient in reversed(SOUND_SPEED_COEFFICIENTS):
        speed = speed * t + coefficient
    return like_input(speed)


def absorption(frequency_hz: ArrayLike, temperature_c: ArrayLike) -> Any:
    """Absorption of sound in fresh water [dB/m]; inputs [Hz, 200 to 2e6] and [degrees C, 0 to 95] broadcast.

    The pure-water term A3 P3 f^2 at the surface (P3 = 1). Raises ValueError outside the spans.
    Source: Francois and Garrison 1982, J. Acoust. Soc. Am. 72, 1879.
    """
    f_khz = within("frequency_hz", frequency_hz, 200.0, 2.0e6, "Hz") / 1000.0
    t = within("temperature_c", temperature_c, 0.0, 95.0, "degrees C")
    cold = 4.937e-4 - 2.59e-5 * t + 9.11e-7 * t**2 - 1.50e-8 * t**3
    warm = 3.964e-4 - 1.146e-5 * t + 1.45e-7 * t**2 - 6.5e-10 * t**3
    per_km = (cold * (t <= 20.0) + warm * (t > 20.0)) * f_khz**2
    return like_input(per_km / 1000.0)
