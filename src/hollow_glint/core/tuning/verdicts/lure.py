"""Verdicts on a lure that does not show, for want of gain or because a stronger echo covers it."""

from __future__ import annotations

import numpy as np

from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule
from .open_water import closed_window


@rule("lure lost", "lure buried", "window closed", "top-water noise")
def lure_shows(s: Situation) -> Verdict | None:
    """The lure does not show, for want of gain or because a stronger echo covers it."""
    if not s.lure_down:
        return None  # not lowered yet: nothing to lose
    limits, scale = s.limits, s.unit.gain
    depth = Quantity(s.lure_depth_m, "m")
    at = s.lure_depth_m - s.scene.face_depth_m
    if at < s.unit.blanking_m[s.settings.blanking]:
        return Verdict(
            "lure lost",
            3.0,
            "Your lure at {depth} is in the water that blanking hides. Turn blanking off.",
            "Blanking takes everything above {blanked} out of the picture, fish and lure too.",
            {"depth": depth, "blanked": Quantity(s.unit.blanking_m[s.settings.blanking], "m")},
            Change("blanking", 0),
        )
    if limits.buried:
        if s.scene.weed_top_m < s.lure_depth_m < s.scene.bottom_depth_m - 0.3:
            where, why = "the weeds", "They answer louder than the lure, so no gain can part them. Lift it above them."
        elif s.lure_depth_m > s.scene.bottom_depth_m - 1.0:
            where = "the bottom echo"
            why = "The bottom answers louder than the lure, so no gain can part them. Lift it a little."
        else:
            where = "the ringing under the transducer"
            why = "The transducer still rings from its own pulse up there. Lower the lure below it."
        return Verdict("lure buried", 2.5, "Your lure at {depth} is inside " + where + ".", why, {"depth": depth})
    if s.settings.gain >= limits.floor:
        return None
    if s.settings.gain == limits.advised and scale.at_or_above(limits.floor) <= scale.maximum:
        # The window is closed, and this is the gain at which most is to be seen. Lit water is told by its own rule.
        return closed_window(s) if s.settings.gain <= limits.ceiling else None
    short_db = scale.decibels(limits.floor) - scale.decibels(s.settings.gain)
    needed = scale.at_or_above(limits.floor)
    values = {
        "depth": depth,
        "needed": Quantity(needed, "gain"),
        "gain": Quantity(s.settings.gain, "gain"),
        "short": Quantity(short_db, "dB"),
    }
    if needed > scale.maximum:
        louder = [i for i, power in enumerate(s.unit.powers_w) if power > s.unit.powers_w[s.settings.power]]
        finding = "Your lure is lost at {depth}, and gain alone cannot show it."
        if louder:
            to = max(louder, key=lambda i: s.unit.powers_w[i])
            more = 10.0 * np.log10(s.unit.powers_w[to] / s.unit.powers_w[s.settings.power])
            values["more"] = Quantity(float(more), "dB")
            reason = "It would need gain {needed}. More power puts {more} into the water."
            return Verdict("lure lost", 3.0, finding + " Take more power.", reason, values, Change("power", to))
        return Verdict(
            "lure lost",
            3.0,
            finding,
            "It would need gain {needed}, more than this unit has. A larger lure is what helps.",
            values,
        )
    return Verdict(
        "lure lost",
        3.0 + min(short_db, 40.0) / 100.0,
        "Your lure is lost at {depth}. It needs gain {needed} or more; you are at {gain}.",
        "Its echo is {short} too weak to light the first colour in nearly every ping.",
        values,
        Change("gain", limits.advised),
    )
