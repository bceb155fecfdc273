"""The picture: which water the rows show, and which step of the colour ladder each row lights.

Levels are small integers, 0 for dark and 1 to `colours` from weakest to strongest, ready to paint.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from .checks import Floats
from .ping import Levels, Transmission
from .unit import Settings, UnitProfile

# A bottom window keeps this share of its height below the bottom line, to show the line itself. Common practice.
BELOW_BOTTOM_SHARE = 0.15


@dataclass(frozen=True)
class Window:
    """The span of range from the face that the picture shows [m]: its top edge and its bottom edge."""

    top_m: float
    bottom_m: float

    @property
    def height_m(self) -> float:
        """Height of the window [m]."""
        return self.bottom_m - self.top_m


def full_column(settings: Settings) -> Window:
    """The whole range, from the face down."""
    return Window(0.0, settings.range_m)


def window(settings: Settings, found_bottom_m: float) -> Window:
    """The window that `settings` ask for; a bottom window hangs on `found_bottom_m`, where the unit sees the bottom.

    Raised or lowered to stay inside the range.
    """
    height = min(settings.bottom_window_m, settings.range_m)
    if height <= 0.0:
        return full_column(settings)
    lower = float(np.clip(found_bottom_m + BELOW_BOTTOM_SHARE * height, height, settings.range_m))
    return Window(lower - height, lower)


def find_bottom(echo_level_db: Levels, transmission: Transmission) -> float:
    """Range [m] at which a unit takes the bottom to be: the leading edge of the strongest echo past the ring-down.

    From one ping or a block, shape (..., bins). As a unit does it, so it can be wrong as a unit is.
    """
    mean = echo_level_db.reshape(-1, echo_level_db.shape[-1]).mean(axis=0)
    past = int(0.6 / transmission.bin_m)
    strongest = past + int(np.argmax(mean[past:]))
    # Back up the rise of that echo to where it first comes within 20 dB of its peak.
    edge = strongest
    while edge > past and mean[edge - 1] > mean[strongest] - 20.0:
        edge -= 1
    return float(transmission.bin_range_m[edge])


@lru_cache(maxsize=64)
def row_starts(top_m: float, bottom_m: float, rows: int, bin_m: float, bins: int) -> NDArray[np.intp]:
    """First bin of each row, and one more for where the last row ends."""
    edges = np.linspace(top_m, bottom_m, rows + 1) / bin_m
    return np.clip(np.floor(edges + 1e-9).astype(np.intp), 0, bins - 1)


def paint_levels(signal_db: Levels, unit: UnitProfile, transmission: Transmission, shown: Window) -> NDArray[np.uint8]:
    """Ladder level of each picture row, shape (pings, rows), from the received signal (pings, bins) [dB].

    A row shows the strongest bin in it; a row thinner than a bin shows the bin it lies in.
    """
    step = signal_db.dtype.type(1.0 / unit.colour_step_db)
    lit = np.clip(np.floor(signal_db * step) + 1.0, 0.0, unit.colours).astype(np.uint8)
    starts = row_starts(shown.top_m, shown.bottom_m, unit.rows, transmission.bin_m, transmission.bin_range_m.size)
    end = max(int(starts[-1]), int(starts[-2]) + 1)
    return np.maximum.reduceat(lit[:, :end], starts[:-1], axis=1)


def row_height(unit: UnitProfile, shown: Window) -> float:
    """Height of water [m] in one picture row."""
    return shown.height_m / unit.rows


def row_range(unit: UnitProfile, shown: Window) -> Floats:
    """Range from the face [m] at the middle of each row, shape (rows,)."""
    return shown.top_m + (np.arange(unit.rows) + 0.5) * row_height(unit, shown)
