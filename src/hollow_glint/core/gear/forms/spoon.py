"""A spoon: a blade by its tilt, and the ring and hook it hangs by, which answer whatever the tilt."""

from __future__ import annotations

import numpy as np

from ...acoustics.targets import plate_target_strength
from ..form import ROCKING, Form, Highlights, Sizes, points, rocking_mean, sphere_strength

HANGING_RAD = float(np.radians(76.0))  # nearly on edge, seen from straight above
RING_AND_HOOK_M = 0.010  # the split ring and treble, as a steel sphere


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    """Blade and ring. The blade by the plate of Urick 1983."""
    lies = HANGING_RAD if tilt_rad is None else tilt_rad
    blade = rocking_mean(plate_target_strength(lure.length_m, lure.diameter_m, f, c, lies + ROCKING))
    return points((0.0, blade), (0.0, sphere_strength(RING_AND_HOOK_M, f, c, "steel")))


FORM = Form(
    "spoon", "Spoon", 4, answers, (0.001, 0.04), length_m=(0.015, 0.12), diameter_words="Width",
    length_words="Length of blade", glide=0.55, gliding_tilt_rad=float(np.radians(38.0)), sinks_as_m=0.003,
)  # fmt: skip
