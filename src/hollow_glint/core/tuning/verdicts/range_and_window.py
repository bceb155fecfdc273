"""Verdicts on the range and on the window that magnifies a part of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...gear import settings
from ...sonar import picture, still_echoes
from ...wording import Change, Quantity
from ..situation import Situation
from ..verdict import Verdict, rule


@rule("locked on a second echo")
def second_echo_lock(s: Situation) -> Verdict | None:
    if not s.settings.auto_range or s.lock_m is None:
        return None
    second = still_echoes.second_echo_range(s.scene)
    if abs(s.lock_m - second) > 0.15 * s.scene.bottom_range_m:
        return None
    return Verdict(
        "locked on a second echo",
        4.5,
        "Automatic range has locked on a second echo at {lock}. Make it look again.",
        "That sound went down, up to the ice and down once more. The bottom itself is at {bottom}.",
        {"lock": Quantity(s.lock_m, "m"), "bottom": Quantity(s.scene.bottom_range_m, "m")},
        Change("kick", True),
    )


@rule("range too small", "range larger than needed")
def range_fits(s: Situation) -> Verdict | None:
    """The range is not the smallest that holds the bottom."""
    fits = settings.smallest_range(s.unit, s.scene.bottom_range_m)
    if s.settings.auto_range or abs(s.settings.range_m - fits) < 1e-3:
        return None
    values = {
        "range": Quantity(s.settings.range_m, "m"),
        "fits": Quantity(fits, "m"),
        "bottom": Quantity(s.scene.bottom_range_m, "m"),
        "row": Quantity(s.settings.range_m / s.unit.rows, "m"),
        "row_then": Quantity(fits / s.unit.rows, "m"),
    }
    if s.settings.range_m < fits:
        if s.unit.free_range and s.settings.range_m > s.scene.bottom_range_m + 0.15:
            return None  # set by hand to just under the bottom: the bottom is in the picture
        return Verdict(
            "range too small",
            4.0,
            "The range stops at {range}, and the bottom is at {bottom}. Take {fits}.",
            "Without the bottom and a little below it in the picture you cannot tell where the lure is in the column.",
            values,
            Change("range_m", fits),
        )
    if s.unit.free_range and s.settings.range_m < 1.15 * fits:
        return None  # a hand on a free knob need not be exact
    return Verdict(
        "range larger than needed",
        0.5,
        "The range is {range}; {fits} still holds the bottom at {bottom}.",
        "One picture row now stands for {row} of water. At the smaller range it is {row_then}, so marks are taller.",
        values,
        Change("range_m", fits),
    )


@rule("window not over the lure")
def window_off_the_lure(s: Situation) -> Verdict | None:
    if not picture.zoomed(s.settings) or not s.lure_down:
        return None
    at = s.lure_depth_m - s.scene.face_depth_m
    if s.zoom.top_m <= at <= s.zoom.bottom_m or at > s.settings.range_m:
        return None
    values = {
        "depth": Quantity(s.lure_depth_m, "m"),
        "top": Quantity(s.zoom.top_m, "m"),
        "foot": Quantity(s.zoom.bottom_m, "m"),
    }
    if s.settings.free_window_m > 0.0:
        top = float(np.clip(at - 0.6 * s.zoom.height_m, 0.0, s.settings.range_m - s.zoom.height_m))
        change, do = Change("free_window_top_m", round(top, 2)), "Move it over the lure."
    else:
        change, do = Change("bottom_window_m", 0.0), "Go back to the full column."
        for height in sorted(s.unit.bottom_windows_m):
            shown = picture.window(replace(s.settings, bottom_window_m=height), s.scene.bottom_range_m)
            if shown.top_m < at - 0.1 and height < s.settings.range_m:
                change, do = Change("bottom_window_m", height), "Take a taller one."
                break
    return Verdict(
        "window not over the lure",
        2.8,
        "The window shows {top} to {foot}, and your lure hangs at {depth}. " + do,
        "A fish that comes to the lure would not be in the picture.",
        values,
        change,
    )
