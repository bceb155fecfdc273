"""Distance along the ice from distance in the picture, which is the way through the water: it slants down.

Pythagoras over the depth between the head and the fish. Where the fish's depth is not known it may hang anywhere from
the ice to the bottom, so the answer is a span: at the least as if it lay on the bottom or under the ice, whichever is
further from the head, at the most as if it hung at the head's own depth.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..checks import InputError, number
from ..wording import Quantity, Sentence

FARTHEST_M = 300.0
DEEPEST_M = 500.0


@dataclass(frozen=True)
class AlongIce:
    """How far along the ice [m], at the least and at the most; None with the reason where nothing can be there."""

    low_m: float | None
    high_m: float | None
    why: Sentence


def along_ice(
    range_m: float, head_depth_m: float, bottom_depth_m: float, fish_depth_m: float | None = None
) -> AlongIce:
    """Where along the ice something lies that the picture shows at `range_m` [m] from a head at `head_depth_m` [m].

    The bottom is at `bottom_depth_m` [m], the thing at `fish_depth_m` [m] where that is known; all below the surface.

    Raises ValueError naming what is outside its span, or a head or fish below the bottom.
    """
    number("range_m", range_m, 0.0, FARTHEST_M, "m")
    number("bottom_depth_m", bottom_depth_m, 0.1, DEEPEST_M, "m")
    _above("head_depth_m", head_depth_m, bottom_depth_m)
    values = {"range": Quantity(range_m, "m"), "bottom": Quantity(bottom_depth_m, "m")}
    if fish_depth_m is not None:
        _above("fish_depth_m", fish_depth_m, bottom_depth_m)
        apart = abs(fish_depth_m - head_depth_m)
        values["fish"] = Quantity(fish_depth_m, "m")
        if range_m < apart:
            values["apart"] = Quantity(apart, "m")
            said = "Nothing at {fish} can be {range} away: straight up or down it is {apart} already."
            return AlongIce(None, None, Sentence(said, values))
        there = float(np.sqrt(range_m**2 - apart**2))
        said = "At {fish} a way of {range} through the water is {there} along the ice."
        return AlongIce(there, there, Sentence(said, {**values, "there": Quantity(there, "m")}))
    furthest = max(head_depth_m, bottom_depth_m - head_depth_m)
    low = float(np.sqrt(max(range_m**2 - furthest**2, 0.0)))
    said = "How high it hangs is not known: at most {range}, at the least as if it lay on the bottom or under the ice."
    return AlongIce(low, range_m, Sentence(said, values))


def _above(name: str, depth_m: float, bottom_depth_m: float) -> None:
    number(name, depth_m, 0.0, DEEPEST_M, "m")
    if depth_m > bottom_depth_m:
        raise InputError(f"{name} is {depth_m:g} m: accepted is a depth above the bottom at {bottom_depth_m:g} m")
