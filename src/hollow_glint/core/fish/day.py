"""A day's fishing as it is for every fish under the hole: its mood, its rise line, and how two old quarrels stand.

Practice is divided on whether a lure in a fish's face draws it or drives it off, and on whether pounding the bottom
helps. Here each day answers for itself, so that people can find out which works.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from ..checks import one_of
from ..fields import OneOf, Span, check_fields
from ..hole.contents import DEEPEST_M
from .traits import MOODS

# How far up the column fish come, as a share of it from the bottom. Invented.
RISES = {"hot": (0.50, 0.80), "choosy": (0.25, 0.50), "dead": (0.10, 0.22)}


@dataclass(frozen=True)
class Day:
    """One day: mood, rise line [m below the surface], and what a lure in the face and pounding do, each -1 to 1."""

    mood: Annotated[str, OneOf(MOODS)]
    rise_line_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    in_the_face: Annotated[float, Span(-1.0, 1.0)]
    pounding: Annotated[float, Span(-1.0, 1.0)]

    def __post_init__(self) -> None:
        check_fields(self)


def draw_day(mood: str, top_m: float, bottom_m: float, rng: np.random.Generator) -> Day:
    """A day of that mood over water from `top_m` to `bottom_m` [m below the surface]. Raises ValueError."""
    low, high = RISES[one_of("mood", mood, MOODS)]
    share, face, pounding = rng.uniform(low, high), rng.uniform(-1.0, 1.0), rng.uniform(-1.0, 1.0)
    return Day(mood, bottom_m - share * (bottom_m - top_m), face, pounding)
