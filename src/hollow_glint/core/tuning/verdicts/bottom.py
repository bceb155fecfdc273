"""The verdict on a bottom that is short of the strongest colour."""

from __future__ import annotations

import numpy as np

from ...sonar import receiver
from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule


@rule("weak bottom")
def weak_bottom(s: Situation) -> Verdict | None:
    """The bottom does not reach the strongest colour, though gain in the window could bring it there."""
    t = s.transmission
    near = np.abs(t.bin_range_m - s.scene.bottom_range_m) < max(0.5, 4.0 * t.resolution_m)
    if not near.any() or not np.isfinite(s.limits.floor) or s.settings.gain < s.limits.floor:
        return None
    loudest = 10.0 * np.log10((t.diffuse + t.steady)[near].max())
    steps = s.unit.ladders[s.settings.ladder].steps
    top_db = (steps[-1].begins - steps[0].begins) * s.unit.colour_step_db
    off = float(receiver.taken_off(s.unit, s.settings, np.array([s.scene.bottom_range_m]))[0])
    short = s.first_colour() + top_db + off - loudest
    if short <= 0.0:
        return None
    scale = s.unit.gain
    wanted = scale.position(scale.decibels(s.settings.gain) + float(short))
    needed = scale.at_or_above(wanted)
    if needed > min(s.limits.ceiling, scale.maximum):
        return None
    return Verdict(
        "weak bottom",
        1.2,
        "The bottom is {short} short of the strongest colour, {top}. Gain {needed} brings it there.",
        "A bottom in full colour is the yardstick: against it you tell soft from hard, and fish from bottom.",
        {
            "short": Quantity(float(short), "dB"),
            "top": Quantity(len(steps), "step"),
            "needed": Quantity(needed, "gain"),
        },
        Change("gain", needed),
    )
