"""The picture: which water the rows show, and which step of the colour ladder each row lights.

Levels are small integers, 0 for dark and 1 upwards from the weakest step of the ladder to the strongest.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..gear.ladders import BELOW_FIRST
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from .transmission import Levels, Transmission

# A bottom window keeps this share of its height below the bottom line, to show the line itself. Common practice.
BELOW_BOTTOM_SHARE = 0.15
PAST_RINGING_M = 0.6  # nearer than this no unit looks for the bottom. Common practice, no source
LOWEST_HALF_STEP = np.float32(BELOW_FIRST)
LOCK_PULSES = 2.8  # a strong echo thinner than this is no bottom. Common practice, no source


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


def zoomed(settings: Settings) -> bool:
    """Whether a window is asked for."""
    return settings.bottom_window_m > 0.0 or settings.free_window_m > 0.0


def window(settings: Settings, found_bottom_m: float) -> Window:
    """The window that `settings` ask for; a bottom window hangs on `found_bottom_m`, where the unit sees the bottom.

    Raised or lowered to stay inside the range; the full column when no window is asked for.
    """
    if settings.free_window_m > 0.0:
        height = min(settings.free_window_m, settings.range_m)
        top = float(np.clip(settings.free_window_top_m, 0.0, settings.range_m - height))
        return Window(top, top + height)
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
    past = int(PAST_RINGING_M / transmission.bin_m)
    strongest = past + int(np.argmax(mean[past:]))
    # Back up the rise of that echo to where it first comes within 20 dB of its peak.
    edge = strongest
    while edge > past and mean[edge - 1] > mean[strongest] - 20.0:
        edge -= 1
    return float(transmission.bin_range_m[edge])


@dataclass(frozen=True, eq=False)
class Rows:
    """Which bins each row shows: `doublings` times as wide a span from `first`, and one that begins at `second`.

    Two spans of a power of two, one from the row's first bin and one up to its last, cover any row between them.
    """

    doublings: int
    first: NDArray[np.intp]
    second: NDArray[np.intp]


@lru_cache(maxsize=64)
def row_starts(top_m: float, bottom_m: float, rows: int, bin_m: float, bins: int) -> NDArray[np.intp]:
    """First bin of each row, and one more for where the last row ends."""
    edges = np.linspace(top_m, bottom_m, rows + 1) / bin_m
    return np.clip(np.floor(edges + 1e-9).astype(np.intp), 0, bins - 1)


@lru_cache(maxsize=64)
def _rows(top_m: float, bottom_m: float, rows: int, bin_m: float, bins: int) -> Rows:
    starts = row_starts(top_m, bottom_m, rows, bin_m, bins)
    first = starts[:-1]
    last = np.maximum(starts[1:] - 1, first)
    doublings = int((last - first).min() + 1).bit_length() - 1
    return Rows(doublings, first, last - 2**doublings + 1)


def paint_levels(
    signal_db: Levels, unit: UnitProfile, settings: Settings, transmission: Transmission, shown: Window
) -> NDArray[np.uint8]:
    """Ladder level of each picture row, shape (pings, rows), from the received signal (pings, bins) [dB].

    A row shows the strongest bin in it; a row thinner than a bin shows the bin it lies in.
    """
    rows = _rows(shown.top_m, shown.bottom_m, unit.rows, transmission.bin_m, transmission.bin_range_m.size)
    scaled = signal_db * signal_db.dtype.type(2.0 / unit.colour_step_db)
    scaled += LOWEST_HALF_STEP
    # Whole half steps by cutting off, which is rounding down here: what is negative is dark either way.
    halves = scaled.astype(np.int16)
    # In one long row, which is quicker than ping by ping: past a ping's end it runs into the next, where no row looks.
    for span in (2**k for k in range(rows.doublings)):
        long, stronger = halves.reshape(-1), np.empty_like(halves)
        np.maximum(long[:-span], long[span:], out=stronger.reshape(-1)[:-span])
        halves = stronger
    strongest = np.maximum(halves.take(rows.first, axis=1), halves.take(rows.second, axis=1))
    return unit.ladders[settings.ladder].level_of_half_step.take(strongest, mode="clip")


def row_height(unit: UnitProfile, shown: Window) -> float:
    """Height of water [m] in one picture row."""
    return shown.height_m / unit.rows


def row_range(unit: UnitProfile, shown: Window) -> Floats:
    """Range from the face [m] at the middle of each row, shape (rows,)."""
    return shown.top_m + (np.arange(unit.rows) + 0.5) * row_height(unit, shown)


def bottom_lock(echo_level_db: Levels, transmission: Transmission, strong_db: float) -> float | None:
    """Range [m] that an automatic range takes for the bottom: the deepest echo that stays above `strong_db`.

    It looks for the last strong echo so that fish and weeds above do not fool it; a second echo can. It takes nothing
    thinner than a bottom is, LOCK_PULSES pulse lengths. None when there is none past the ring-down. From a block of
    pings, shape (..., bins). Common practice, no source.
    """
    mean = echo_level_db.reshape(-1, echo_level_db.shape[-1]).mean(axis=0)
    past = int(0.9 / transmission.bin_m)
    loud = mean > strong_db
    loud[:past] = False
    # Stretches of strong echo, gaps shorter than a pulse closed; the last one thick enough is the bottom.
    strong = np.flatnonzero(loud)
    if strong.size == 0:
        return None
    pulse = transmission.resolution_m / transmission.bin_m
    breaks = np.flatnonzero(np.diff(strong) > max(pulse, 1.0))
    begins = strong[np.concatenate([[0], breaks + 1])]
    ends = strong[np.concatenate([breaks, [-1]])]
    # What runs out of the picture may be as thick as it likes.
    thick = (ends - begins + 1 >= LOCK_PULSES * pulse) | (ends == loud.size - 1)
    return float(transmission.bin_range_m[begins[thick][-1]]) if thick.any() else None
