"""A horizontal minnow bait: a cylinder lying across the beam, and its head."""

from __future__ import annotations

import numpy as np

from ...acoustics.targets import cylinder_target_strength
from ..form import ROCKING, Form, Highlights, Sizes, points, rocking_mean, sphere_strength

MOST_HEAD_M = 0.02


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    """Body and head. The body by the cylinder of Urick 1983."""
    lies = 0.0 if tilt_rad is None else tilt_rad
    body = rocking_mean(cylinder_target_strength(lure.length_m, lure.diameter_m, f, c, lies + ROCKING))
    return points((0.0, body), (0.0, sphere_strength(min(lure.diameter_m, MOST_HEAD_M), f, c, "steel")))


FORM = Form(
    "minnow", "Horizontal minnow bait", 5, answers, (0.001, 0.04), length_m=(0.02, 0.12),
    length_words="Length of body", glide=0.25, gliding_tilt_rad=float(np.radians(25.0)), sinks_as_m=0.003,
)  # fmt: skip
