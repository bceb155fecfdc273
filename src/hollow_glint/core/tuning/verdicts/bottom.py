"""The verdicts on a bottom that is lost, and on one that is short of the strongest colour."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...gear.settings import Settings
from ...sonar import receiver
from ...sonar.picture import PAST_RINGING_M
from ...sonar.transmission import transmit
from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule

FEWEST_FOUND = 15  # frames before it can be told that the bottom is lost
LOST_SHARE = 0.1  # of them in which something else was taken for it
LURES_OWN_M = 0.4  # what is taken for the bottom so near to the lure is the lure
CLEAR_DB = 3.0  # by which the bottom's echo must stand over the top water to be held


@rule("bottom lost")
def lost_bottom(s: Situation) -> Verdict | None:
    """The depth that the unit shows is not the bottom's: something louder is taken for it."""
    found, bottom = np.array(s.found_m), s.scene.bottom_range_m
    wrong = np.abs(found - bottom) > max(0.5, 0.06 * bottom)
    # What the range cuts off is another rule's.
    if found.size < FEWEST_FOUND or wrong.mean() < LOST_SHARE or bottom > s.settings.range_m:
        return None
    values = {
        "low": Quantity(float(found.min()), "m"), "high": Quantity(float(found.max()), "m"),
        "bottom": Quantity(bottom, "m"),
    }  # fmt: skip
    always = bool(wrong.all())
    finding = (
        "The unit takes something at {low} below its face for the bottom, which lies at {bottom}."
        if always
        else "The depth shown jumps between {low} and {high} below the face: the bottom, at {bottom}, is lost."
    )
    taken = float(np.median(found[wrong]))
    change = None
    if _stands_over(s, s.settings) < CLEAR_DB:
        change = _that_holds(s)
        reason = "What rings and scatters in the water is louder there than this bottom."
    elif s.lure_down and abs(taken - (s.lure_depth_m - s.scene.face_depth_m)) < LURES_OWN_M:
        reason = "It is your lure: so near under the face it is louder than this bottom. Lower it."
    elif s.scene.neighbours:
        reason = "A neighbour's ping is louder than this bottom."
    else:
        reason = "A fish there is louder than this bottom; it is held again when that has moved off."
    if change is None and s.settings.bottom_window_m:
        change = Change("bottom_window_m", 0)  # it would jump about with the depth
    reason += " Read the bottom off the picture, not off the number."
    return Verdict("bottom lost", 3.2, finding, reason, values, change)


def _stands_over(s: Situation, settings: Settings) -> float:
    """By how much the bottom's echo is louder than all the water above it [dB]."""
    t = transmit(s.scene, s.unit, settings)
    heard = 10.0 * np.log10(t.diffuse + t.steady)
    near = np.abs(t.bin_range_m - s.scene.bottom_range_m) < max(0.5, 4.0 * t.resolution_m)
    above = (t.bin_range_m > PAST_RINGING_M) & (t.bin_range_m < s.scene.bottom_range_m - 0.5)
    return float(heard[near].max() - heard[above].max()) if near.any() and above.any() else -np.inf


def _that_holds(s: Situation) -> Change | None:
    """The beam, power or pulse that lifts the bottom over the top water."""
    ways = [("beam", k) for k in range(len(s.unit.beams))] + [("power", k) for k in range(len(s.unit.powers_w))]
    ways += [("pulse", k) for k in range(len(s.unit.pulses))]
    for name, k in ways:
        if getattr(s.settings, name) != k and _stands_over(s, replace(s.settings, **{name: k})) > CLEAR_DB:  # type: ignore[arg-type]
            return Change(name, k)
    return None


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
