"""What a finger says: a clock and a distance, touched on an empty circle, as a fix with the errors that a hand has."""

from __future__ import annotations

from typing import Final

from ..checks import number
from .along_ice import FARTHEST_M
from .course import Fix

# A gloved finger on a circle of a hand's width, and a mark as large as a school. Common practice, no source; tried in
# `docs/search.md` on situations of the simulator's own pictures, typed in.
BEARING_SD_DEG: Final = 6.0
RANGE_SD_M: Final = 1.0
RANGE_SHARE: Final = 0.06


def clock_of(bearing_deg: float) -> float:
    """The hour on a clock whose twelve is north, 0 to 12."""
    return (bearing_deg % 360.0) / 30.0


def fix_by_hand(clock: float, range_m: float, time_s: float) -> Fix:
    """A fix from an hour [0 to 12] and a distance in the picture [m]. Raises ValueError outside the spans."""
    hour = number("clock", clock, 0.0, 12.0, "h")
    away = number("range_m", range_m, 0.1, FARTHEST_M, "m")
    return Fix(time_s, 30.0 * hour, away, BEARING_SD_DEG, RANGE_SD_M + RANGE_SHARE * away)
