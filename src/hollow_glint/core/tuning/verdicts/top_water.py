"""The verdict on the top of the column, lit while the rest is quiet."""

from __future__ import annotations

import numpy as np

from ...sonar import picture
from ...wording import Change, Quantity
from .. import gain_window
from ..situation import Situation
from ..verdict import Verdict, rule

TOP_LIT_SHARE = 0.12  # share of cells in the top of the column that may light
TOP_M = (0.5, 2.5)  # below the face: past the ringing, down to where near water is no longer near


@rule("top-water noise")
def top_water_lit(s: Situation) -> Verdict | None:
    """The top of the column is lit by the walls or by near water while the rest is quiet."""
    t = s.transmission
    column = s.scene.bottom_range_m
    rows = picture.row_range(s.unit, picture.full_column(s.settings))
    top = (rows > TOP_M[0]) & (rows < min(TOP_M[1], 0.5 * column))
    if not top.any() or s.scene.inside_ice_m > 0.0:
        return None
    echo = t.open_water + t.clutter
    lit = gain_window.lit_rows(t, s.unit, s.settings, picture.full_column(s.settings), s.first_colour(), echo)
    share = float(lit[top].mean())
    if share < TOP_LIT_SHARE:
        return None
    values = {"share": Quantity(100.0 * share, "percent"), "to": Quantity(min(TOP_M[1], 0.5 * column), "m")}
    tvg = s.unit.tvg_db_decade
    more = [i for i in range(len(tvg)) if tvg[i] > tvg[s.settings.tvg]]
    if more:
        to = min(more, key=lambda i: tvg[i])
        if not s.lure_down or s.settings.gain >= s.window_with(tvg=to).floor or np.isinf(s.limits.floor):
            return Verdict(
                "top-water noise",
                1.6,
                "The top {to} of water is {share} lit. Turn time-varied gain up a step.",
                "Near water answers loudest. Time-varied gain turns it down there and leaves deep fish as they are.",
                values,
                Change("tvg", to),
            )
    blank = [i for i, m in enumerate(s.unit.blanking_m) if m > s.unit.blanking_m[s.settings.blanking]]
    blank = [i for i in blank if s.unit.blanking_m[i] < s.lure_depth_m - s.scene.face_depth_m - 0.3]
    if blank:
        to = min(blank, key=lambda i: s.unit.blanking_m[i])
        return Verdict(
            "top-water noise",
            1.5,
            "The top {to} of water is {share} lit. Blank the top {blanked}.",
            "It takes the clutter out, and with it every fish in the top {blanked}. Turn it off when one comes high.",
            values | {"blanked": Quantity(s.unit.blanking_m[to], "m")},
            Change("blanking", to),
        )
    return None
