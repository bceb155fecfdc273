"""Verdicts on open water that lights up: what lights it, and the least that clears it."""

from __future__ import annotations

import numpy as np

from ...wording import Change, Quantity
from .. import gain_window
from ..situation import Situation
from ..verdict import Verdict, rule


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
        return Verdict(
            "window closed",
            0.4,
            "No gain shows this lure in quiet water: the window is closed by {closed}."
            if closed
            else "The water lights at {ceiling}, and gain {gain} is the least that will do here.",
            "The water lights at {ceiling} and the lure needs {floor}. A larger lure or a lesser depth opens it."
            if closed
            else "The window is narrower than one step of the knob, or lies below its end.",
            values,
        )
    change = Change("gain", limits.advised)
    if _plankton_rules(s):
        return Verdict(
            "night plankton",
            2.1,
            "Plankton lights {share} of the water. Its ceiling is {ceiling}; you are at {gain}.",
            "They rise at dusk and answer everywhere at once. Lower gain until they go; the lure still shows."
            if not closed
            else "The window is closed by {closed} here, so take the least gain that still shows the lure.",
            values,
            change,
        )
    if closed:
        return Verdict(
            "water too bright",
            2.0,
            "The water is too bright: {share} of it lights up. The lure needs {floor} and no more.",
            "The window is closed by {closed} here, so take the least gain that still shows the lure.",
            values,
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


def _opens_the_window(s: Situation) -> Verdict | None:
    """With the window closed: time-varied gain, a shorter pulse or a narrower beam that opens it by 1.5 dB or more."""
    if not np.isfinite(s.limits.floor):
        return None
    settings, unit = s.settings, s.unit
    tried: list[tuple[str, int, str, str]] = []
    tvg = unit.tvg_db_decade
    more = [i for i in range(len(tvg)) if tvg[i] > tvg[settings.tvg]]
    if more:
        do = "Turn time-varied gain up: near water answers loudest and lights before the lure shows."
        tried.append(("tvg", min(more, key=lambda i: tvg[i]), "top-water noise", do))
    pulses = [one.duration_s for one in unit.pulses]
    shorter = [i for i, one in enumerate(pulses) if one < 0.9 * pulses[settings.pulse]]
    if shorter:
        do = "Take the shorter pulse: it fills less water at once, and the lure loses nothing."
        tried.append(("pulse", min(shorter, key=lambda i: pulses[i]), "window closed", do))
    narrow = [i for i, one in enumerate(unit.beams) if one.width_deg < 0.9 * unit.beams[settings.beam].width_deg]
    if narrow:
        do = "Take the narrow beam: it takes in less water round the lure."
        tried.append(("beam", min(narrow, key=lambda i: unit.beams[i].width_deg), "window closed", do))
    best: tuple[float, Verdict] | None = None
    for setting, to, code, do in tried:
        gained = s.window_with(**{setting: to}).width_db - s.limits.width_db
        if gained >= 1.5 and (best is None or gained > best[0]):
            values = {"closed": Quantity(-s.limits.width_db, "dB"), "gained": Quantity(float(gained), "dB")}
            finding = (
                "No gain shows this lure in quiet water: the window is closed by {closed}."
                if s.limits.width_db < 0.0
                else "The window is narrower than one step of the knob."
            )
            best = gained, Verdict(code, 2.3, finding, do + " That opens it by {gained}.", values, Change(setting, to))
    return None if best is None else best[1]
