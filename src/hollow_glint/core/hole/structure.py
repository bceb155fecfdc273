"""What lies on the bottom, a log, a boulder or brush, as points that answer."""

from __future__ import annotations

import numpy as np

from ..acoustics.targets import rigid_sphere_target_strength
from ..checks import Floats
from .contents import Structure, StructureKind

HIGHLIGHTS: dict[StructureKind, int] = {"log": 7, "boulder": 6, "brush": 14}


def lying(structure: Structure, bottom_depth_m: float, slope_rad: float) -> tuple[Floats, Floats]:
    """The highlights of one structure: places (points, 3) [m] and target strengths (points,) [dB re 1 m^2].

    A boulder answers from its crown and flanks as a large rigid sphere (Urick 1983) does, a log from points along its
    upper side, brush from twigs all through it. How many, and the loss of rough surfaces, is common practice.
    """
    bed = bottom_depth_m + structure.aside_m * float(np.tan(slope_rad))
    h, n = structure.height_m, HIGHLIGHTS[structure.kind]
    k = np.arange(n)
    if structure.kind == "boulder":
        bearing = k * 2.4
        out = np.where(k == 0, 0.0, 0.35 * h)
        place = np.stack([out * np.cos(bearing), out * np.sin(bearing), np.where(k == 0, -h, -0.75 * h)], axis=1)
        strength = rigid_sphere_target_strength(h) - np.where(k == 0, 6.0, 14.0)
    elif structure.kind == "log":
        place = np.stack([0.2 * h * np.sin(1.7 * k), 2.5 * h * (k / (n - 1) - 0.5), np.full(n, -h)], axis=1)
        strength = np.full(n, rigid_sphere_target_strength(h) - 12.0)
    else:
        out = 0.6 * h * np.sqrt((k + 0.5) / n)
        place = np.stack(
            [out * np.cos(2.4 * k), out * np.sin(2.4 * k), -h * (0.15 + 0.85 * ((0.618 * k) % 1.0))], axis=1
        )
        strength = np.full(n, rigid_sphere_target_strength(0.05) - 4.0)
    return place + np.array([structure.aside_m, 0.0, bed]), strength
