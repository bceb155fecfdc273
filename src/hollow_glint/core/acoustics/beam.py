"""The beam of a circular piston: how loud it is off its axis, how wide on the bottom, how far along the slant.

Angles are from the beam's axis. Levels are one way; an echo passes the pattern twice.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import ArrayLike

from ..checks import Floats, like_input, number, within
from .special import j1

FIRST_NULL = 3.8317059702075125  # first zero of J1
# Real transducers are never as quiet off axis as theory has them: housing and edge radiate a little everywhere.
# Common practice, no source.
SIDE_LOBE_FLOOR_DB = -50.0


def piston_amplitude(x: ArrayLike) -> Floats:
    """Amplitude pattern 2 J1(x)/x of a circular piston; 1 at x = 0. Any shape. Source: Urick 1983."""
    x = np.abs(np.asarray(x, dtype=np.float64))
    safe = np.where(x < 1e-6, 1.0, x)
    return np.where(x < 1e-6, 1.0, 2.0 * j1(safe) / safe)


@lru_cache(maxsize=64)
def _argument_at_level(level_db: float) -> float:
    """The x = ka sin(theta) inside the main lobe at which the one-way pattern has fallen to `level_db`."""
    x = np.linspace(0.0, FIRST_NULL, 20_001)  # fine enough that the level comes back within a ten-thousandth of a dB
    return float(np.interp(-(10.0 ** (level_db / 20.0)), -piston_amplitude(x), x))


def ka_from_beam_width(beam_width_deg: ArrayLike, level_db: float = -3.0) -> Any:
    """Dimensionless piston size ka from the full beam width [degrees, 1 to 120] quoted at `level_db` one way [dB].

    Raises ValueError outside the spans (level -40 to -0.1). Source: Urick 1983; that makers quote the full angle
    at -3 dB unless they say otherwise is common practice, no source.
    """
    width = within("beam_width_deg", beam_width_deg, 1.0, 120.0, "degrees")
    x = _argument_at_level(number("level_db", level_db, -40.0, -0.1, "dB"))
    return like_input(x / np.sin(np.radians(width / 2.0)))


def directivity(off_axis_rad: ArrayLike, ka: ArrayLike) -> Any:
    """One-way directivity [dB], 0 on axis, at `off_axis_rad` [rad, -pi to pi] for a piston of size `ka` [0.1 to 1000].

    Never below SIDE_LOBE_FLOOR_DB. Inputs broadcast. Raises ValueError outside the spans. Source: Urick 1983.
    """
    angle = within("off_axis_rad", off_axis_rad, -np.pi, np.pi, "rad")
    size = within("ka", ka, 0.1, 1000.0)
    amplitude = np.abs(piston_amplitude(size * np.sin(angle)))
    # Behind the face there is no lobe, only what leaks round the housing.
    amplitude = np.where(np.abs(angle) > np.pi / 2.0, 0.0, amplitude)
    return like_input(20.0 * np.log10(np.maximum(amplitude, 10.0 ** (SIDE_LOBE_FLOOR_DB / 20.0))))


LINE_HALF_POWER = 1.3915573782515103  # where sin(x)/x has fallen to the root of a half


def line_amplitude(off_axis_rad: ArrayLike, beam_width_deg: float) -> Floats:
    """Amplitude pattern sin(x)/x of a straight, evenly driven line whose full width at -3 dB is `beam_width_deg`.

    Any shape [rad]; 1 on axis, never below SIDE_LOBE_FLOOR_DB. A rectangular face is two of them, across and down.
    Source: Urick 1983, line source.
    """
    scale = LINE_HALF_POWER / np.sin(np.radians(number("beam_width_deg", beam_width_deg, 0.1, 120.0, "degrees") / 2.0))
    x = scale * np.sin(np.clip(np.asarray(off_axis_rad, dtype=np.float64), -np.pi / 2.0, np.pi / 2.0))
    return np.asarray(np.maximum(np.abs(np.sinc(x / np.pi)), 10.0 ** (SIDE_LOBE_FLOOR_DB / 20.0)))


def off_axis_at_level(level_db: ArrayLike, ka: float) -> Any:
    """Angle off axis [rad] inside the main lobe at which the one-way level has fallen to `level_db` [dB, <= 0].

    Any shape; levels below the first side lobe give the angle where the main lobe passes them. 0 dB gives 0.
    Raises ValueError for positive levels. Source: Urick 1983.
    """
    level = within("level_db", level_db, -200.0, 0.0, "dB")
    x = np.linspace(0.0, FIRST_NULL, 800)
    pattern_db = 20.0 * np.log10(np.maximum(piston_amplitude(x), 1e-10))
    return like_input(np.arcsin(np.minimum(np.interp(-level, -pattern_db, x) / ka, 1.0)))


def directivity_index(ka: float) -> float:
    """Directivity index [dB] of a piston of size ka, 20 log10 ka (good for ka above about 2). Source: Urick 1983."""
    return 20.0 * float(np.log10(number("ka", ka, 0.1, 1000.0)))


def equivalent_beam_angle(ka: ArrayLike) -> Any:
    """Equivalent two-way beam angle [sr] of a piston, 5.78/(ka)^2. Source: Simmonds and MacLennan 2005.

    Any shape. Raises ValueError for ka outside 1 to 1000; below about 4 the form overstates the angle.
    """
    return like_input(5.78 / within("ka", ka, 1.0, 1000.0) ** 2)


def footprint_diameter(distance_m: ArrayLike, beam_width_deg: ArrayLike) -> Any:
    """Diameter [m] of the nominal cone at `distance_m` [m, 0 to 1000] below the face; 2 d tan(width/2). Geometry."""
    distance = within("distance_m", distance_m, 0.0, 1000.0, "m")
    width = within("beam_width_deg", beam_width_deg, 1.0, 120.0, "degrees")
    return like_input(2.0 * distance * np.tan(np.radians(width / 2.0)))


def slant_range(distance_m: ArrayLike, offset_m: ArrayLike) -> Any:
    """Straight distance [m] to something `distance_m` below the face and `offset_m` to the side. Geometry."""
    distance = within("distance_m", distance_m, 0.0, 1000.0, "m")
    offset = within("offset_m", offset_m, -1000.0, 1000.0, "m")
    return like_input(np.hypot(distance, offset))
