"""A jig with plastic or bait on the hook: the jig, and a soft body that hangs below it."""

from __future__ import annotations

import numpy as np

from ...acoustics.targets import cylinder_target_strength
from ..form import Form, Highlights, Sizes, points, sphere_strength

SOFT_BODY_DB = -12.0  # a plastic or a grub against a rigid cylinder of its size: nearly water itself


def answers(lure: Sizes, f: float, c: float, tilt_rad: float | None) -> Highlights:
    """The jig and the bait's body."""
    jig = sphere_strength(lure.diameter_m, f, c, lure.material)
    body = float(cylinder_target_strength(lure.length_m, max(0.2 * lure.length_m, 0.002), f, c, np.radians(35.0)))
    # What hangs on a hook is curled and soft: its sides answer together, never like a straight rod end on.
    return points((0.0, jig), (0.4 * lure.length_m, max(body, jig - 20.0) + SOFT_BODY_DB))


FORM = Form("baited jig", "Jig with plastic or bait", 1, answers, length_m=(0.005, 0.08), length_words="Length of bait")
