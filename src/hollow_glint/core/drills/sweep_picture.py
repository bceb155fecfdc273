"""A picture that turns, as a drill shows it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True, eq=False)
class SweepPicture:
    """What a picture that turns showed, turn by turn.

    levels      (turns, bearings, bins)
    arrow       bearing [degrees] and way through the water [m] that the question points at; None for none
    holes       bearing [degrees] and way along the ice [m] of places that are named A, B, C
    """

    levels: NDArray[np.uint8]
    range_m: float
    head_depth_m: float
    bottom_depth_m: float
    turn_s: float
    arrow: tuple[float, float] | None = None
    holes: tuple[tuple[float, float], ...] = ()
    caption: str = ""
