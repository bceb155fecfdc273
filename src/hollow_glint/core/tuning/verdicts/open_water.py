"""Verdicts on open water that lights up: what lights it, and the least that clears it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...wording import Change, Quantity
from .. import gain_window, joint
from ..gain_window import step_inside
from ..situation import Situation
from ..verdict import Verdict, rule

CLOSED_HERE = "The window is closed by {closed} here. At {advised} most is seen of the lure for what lights up."
WORTH_TURNING_DB = 1.5  # less than this is no reason to turn a knob


def _plankton_rules(s: Situation) -> bool:
    """Whether plankton makes up most of what lights the open water."""
    depth = s.scene.face_depth_m + s.transmission.bin_range_m
    share = 1.0 - s.scene.volume_scattering(np.array([0.0]))[0] / np.maximum(s.scene.volume_scattering(depth), 1e-12)
    layered = s.scene.plankton != "none" and float(share[depth < s.scene.bottom_depth_m].max(initial=0.0)) > 0.5
    return layered or s.scene.clarity == "plankton"


@rule("water too bright", "night plankton", "window closed", "top-water noise")
def open_water_lit(s: Situation) -> Verdict | None:
    """Open water lights up: name what lights it, and what is the least that clears it."""
    limits = s.limits
    if s.settings.gain <= limits.ceiling:
        return None
    t = s.transmission
    share = 100.0 * gain_window.lit_share(t, s.unit, s.settings, s.shown, s.first_colour())
    values = {
        "share": Quantity(share, "percent"),
        "ceiling": Quantity(limits.ceiling, "gain"),
        "gain": Quantity(s.settings.gain, "gain"),
    }
    closed = bool(np.isfinite(limits.floor) and limits.width_db < 0.0)
    if closed:
        values |= {"floor": Quantity(limits.floor, "gain"), "closed": Quantity(-limits.width_db, "dB")}
    helped = _opens_the_window(s) if closed or s.settings.gain <= limits.advised else None
    if helped is not None:
        return helped
    if s.settings.gain <= limits.advised:
        # Gain cannot mend it: less would lose the lure, or there is no less.
        hidden = _hide_the_weakest(s, values)
        if hidden is not None:
            return hidden
        if closed:
            return _closed(values)
        return Verdict(
            "window closed",
            0.4,
            "The water lights at {ceiling}, and gain {gain} is the least that will do here.",
            "The window is narrower than one step of the knob, or lies below its end.",
            values,
        )
    change = Change("gain", limits.advised)
    if _plankton_rules(s):
        return Verdict(
            "night plankton",
            2.1,
            "Plankton lights {share} of the water. Its ceiling is {ceiling}; you are at {gain}.",
            CLOSED_HERE
            if closed
            else "They rise at dusk and answer everywhere at once. Lower gain until they go"
            + ("; the lure still shows." if s.lure_down and not limits.buried else "."),
            {**values, "advised": Quantity(limits.advised, "gain")},
            change,
        )
    if closed:
        return Verdict(
            "water too bright",
            2.0,
            "The water is too bright: {share} of it lights up, and the lure needs {floor}.",
            CLOSED_HERE,
            {**values, "advised": Quantity(limits.advised, "gain")},
            change,
        )
    return Verdict(
        "water too bright",
        2.0,
        "The water is too bright: {share} of it lights up. The ceiling is {ceiling}; you are at {gain}.",
        "Every speck in the water now reaches the first colour, and a fish can hide among them.",
        values,
        change,
    )


def _closed(values: dict[str, Quantity]) -> Verdict:
    return Verdict(
        "window closed",
        0.4,
        "No gain shows this lure in quiet water: the window is closed by {closed}.",
        "The water lights at {ceiling} and the lure needs {floor}. A larger lure or a lesser depth opens it.",
        values,
    )


def closed_window(s: Situation) -> Verdict:
    """What to say of a closed window at the gain at which most is to be seen: what would open it, if anything."""
    limits = s.limits
    values = {
        "ceiling": Quantity(limits.ceiling, "gain"),
        "floor": Quantity(limits.floor, "gain"),
        "closed": Quantity(-limits.width_db, "dB"),
    }
    return _opens_the_window(s) or _closed(values)


def _hide_the_weakest(s: Situation, values: dict[str, Quantity]) -> Verdict | None:
    """In plankton with no gain left to take: a ladder without its weakest step, if the lure is strong enough for it."""
    ladders = s.unit.ladders
    now = ladders[s.settings.ladder].first_begins
    higher = [i for i, one in enumerate(ladders) if one.first_begins > now]
    if not higher or not _plankton_rules(s) or not np.isfinite(s.limits.floor):
        return None
    to = min(higher, key=lambda i: ladders[i].first_begins)
    then = s.window_with(ladder=to)
    if s.settings.gain < then.floor:
        return None
    return Verdict(
        "night plankton",
        2.1,
        "Plankton lights {share} of the water at the least gain there is. Hide the weakest colour.",
        "What is left is what answers louder than plankton. The price is the smallest lures and fish.",
        values,
        Change("ladder", to),
    )


# What each knob does for a closed window, in words; the code of its verdict.
OPENS: dict[str, tuple[str, str]] = {
    "tvg": ("top-water noise", "Turn time-varied gain: near water answers loudest and lights before the lure shows."),
    "pulse": ("window closed", "Take the other pulse: how much water it fills at once is what lights up."),
    "beam": ("window closed", "Take the other beam: how much water round the lure it takes in is what lights up."),
    "noise_filter": ("window closed", "Turn the noise filter: it evens out specks more than it takes off the lure."),
    "rejection": ("window closed", "Turn interference rejection: specks are not in the same place ping after ping."),
    "power": ("window closed", "Take the other power: the window lies past the end of the knob."),
    "ladder": ("window closed", "Take the other ladder: the window lies past the end of the knob."),
}


def _opens_the_window(s: Situation) -> Verdict | None:
    """With the window closed: of the knobs that the best joint setting turns, the one that gives most by itself."""
    if not np.isfinite(s.limits.floor) or step_inside(s.unit, s.limits.floor, s.limits.ceiling) is not None:
        return None
    best = joint.best_joint(s)
    now = joint.room_of(s, s.settings)
    if best.room_db - now < WORTH_TURNING_DB:
        return None
    turns = {name: getattr(best.settings, name) for name in OPENS}
    turns = {name: to for name, to in turns.items() if to != getattr(s.settings, name)}
    alone = {name: joint.room_of(s, replace(s.settings, **{name: to})) - now for name, to in turns.items()}
    first = max(alone, key=lambda name: alone[name])
    values = {"closed": Quantity(-s.limits.width_db, "dB"), "gained": Quantity(best.room_db - now, "dB")}
    finding = (
        "No gain shows this lure in quiet water: the window is closed by {closed}."
        if s.limits.width_db < 0.0
        else "The window is narrower than one step of the knob."
    )
    code, do = OPENS[first]
    gives = " That gives {gained}."
    if len(turns) > 1:
        gives = " With what comes next it gives {gained}."
    return Verdict(code, 2.3, finding, do + gives, values, Change(first, turns[first]))
