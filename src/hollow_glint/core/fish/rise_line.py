"""The day's rise line from how high fish came: an estimate with its uncertainty.

Some fish turn at the day's line and many turn below it for reasons of their own, so the line lies at or above the
highest turn; a fish that came up and took, or left otherwise, only says that the line is no deeper than it came. On a
grid of possible lines each observation weighs them (Bayes), and what is told is the middle of what remains.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from ..acoustics.special import log_ndtr
from ..checks import InputError
from ..fields import Span, check_fields, doc
from ..hole.contents import DEEPEST_M

READ_SD_M = 0.15  # how well a depth is read off a sonar. Common practice, no source
EARLY_M = 0.7  # how far below the day's line a fish turns, on average, when it turns. Invented
SURE = 0.90
GRID = 400


@dataclass(frozen=True)
class FishHeight:
    """One fish: the highest depth [m below the surface] it came to, and whether it turned away there."""

    depth_m: Annotated[float, Span(0.05, DEEPEST_M, "m"), doc("The highest it came")]
    turned: Annotated[bool, doc("Whether it turned away there")]

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class RiseLine:
    """The day's line [m below the surface]: the middle of the estimate, the 90 % interval from `low_m` (deep) to
    `high_m` (shallow), and from how many fish."""

    depth_m: float
    low_m: float
    high_m: float
    fish: int
    turned: int


def rise_line(came: Sequence[FishHeight], top_m: float, bottom_m: float) -> RiseLine | None:
    """The line of a day over water from `top_m` to `bottom_m` [m]; None without any fish.

    Turns lie below the line by an exponential early turn and the reading's normal error (an exponentially modified
    normal density); other fish by the normal distribution's tail alone. Raises ValueError for an empty column.
    """
    if not came:
        return None
    if not bottom_m > top_m + 0.1:
        raise InputError(f"bottom_m is {bottom_m:g} m: it must lie below {top_m:g} m")
    line = np.linspace(top_m, bottom_m, GRID)
    weight = np.zeros(GRID)
    for one in came:
        below = one.depth_m - line  # positive where the fish came to below that line
        if one.turned:
            # Normal error convolved with an exponential tail.
            arg = below / READ_SD_M - READ_SD_M / EARLY_M
            weight += -below / EARLY_M + 0.5 * (READ_SD_M / EARLY_M) ** 2 + log_ndtr(arg)
        else:
            weight += log_ndtr(below / READ_SD_M)
    share = np.exp(weight - weight.max())
    total = np.concatenate([[0.0], np.cumsum(0.5 * (share[1:] + share[:-1]))])
    total /= total[-1]
    edge = (1.0 - SURE) / 2.0
    high, middle, low = (float(np.interp(p, total, line)) for p in (edge, 0.5, 1.0 - edge))
    return RiseLine(middle, low, high, len(came), sum(one.turned for one in came))
