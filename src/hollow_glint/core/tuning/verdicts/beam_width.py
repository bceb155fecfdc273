"""The verdict on a beam that takes in more than the angler can use."""

from __future__ import annotations

from dataclasses import replace

from ...acoustics import beam
from ...wording import Change, Quantity
from ..company import NEIGHBOUR_SHARE, neighbour_share
from ..situation import Situation
from ..verdict import Verdict, rule
from .neighbours import enough_rejection

WIDE_CONE_M = 4.0  # at the bottom; a fish at its edge cannot see the lure


@rule("beam too wide")
def beam_too_wide(s: Situation) -> Verdict | None:
    used = s.unit.beams[s.settings.beam]
    width = beam.footprint_diameter(s.scene.bottom_range_m, used.width_deg)
    narrower = [i for i, one in enumerate(s.unit.beams) if one.width_deg < 0.8 * used.width_deg]
    if not narrower:
        return None
    to = min(narrower, key=lambda i: s.unit.beams[i].width_deg)
    crowded = neighbour_share(s, s.settings) > NEIGHBOUR_SHARE and enough_rejection(s) is None
    calmer = crowded and neighbour_share(s, replace(s.settings, beam=to)) < 0.7 * neighbour_share(s, s.settings)
    if width <= WIDE_CONE_M and not calmer:
        return None
    if s.lure_down and (s.window_with(beam=to).width_db < min(s.limits.width_db, 0.0) - 3.0 or s.closes_with(beam=to)):
        return None  # the narrow beam would lose the lure, or drown it: not here
    values = {
        "width": Quantity(width, "m"),
        "then": Quantity(beam.footprint_diameter(s.scene.bottom_range_m, s.unit.beams[to].width_deg), "m"),
        "share": Quantity(100.0 * neighbour_share(s, s.settings), "percent"),
    }
    if calmer:
        return Verdict(
            "beam too wide",
            3.4,
            "Neighbours still light {share} of the picture. The narrow beam looks less their way.",
            "What comes from a neighbour by way of the bottom comes in at a slant, where a narrow beam is deaf.",
            values,
            Change("beam", to),
        )
    return Verdict(
        "beam too wide",
        0.9,
        "The cone is {width} wide at the bottom. The narrow beam makes it {then}.",
        "Fish out at the edge look too deep and cannot see your lure; a narrow cone shows those that can.",
        values,
        Change("beam", to),
    )
