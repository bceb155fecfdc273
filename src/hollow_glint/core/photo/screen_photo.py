"""A photo of a scrolling screen read: levels ping by ping, and where they are not sure."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from ..lazily import Lazily
from .first_light import LEAST_SHADE
from .ladder_steps import Levels, SeenSteps, steps_seen
from .perspective import Outline, Pixels, cells_of
from .sides import bend_seen

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

MOST_OFF: Final = 13.0  # a colour so far from every step (CIE 1976) is no step's
WHITED: Final = 0.55  # so much light added leaves no step to tell
LEAST_CELLS: Final = 9  # fewer cells that are off are an edge between two steps
LEAST_KNOWN: Final = 0.5  # share of cells that must be some step's, or it is no photo of such a screen
MOST_SPOTS: Final = 60

Spot = tuple[int, int, int, int]


@dataclass(frozen=True, eq=False)
class PhotoRead:
    """What a photo shows: levels, shape (pings, rows), oldest first; which of them are not sure, same shape."""

    levels: Levels
    unsure: NDArray[np.bool_]

    @property
    def share_sure(self) -> float:
        """Share of cells that are sure."""
        return float(1.0 - self.unsure.mean())

    def spots(self) -> list[Spot]:
        """Rectangles around what is not sure: first and last ping, first and last row, the largest first."""
        names, count = ndimage.label(self.unsure)
        found = [
            (across.start, across.stop - 1, down.start, down.stop - 1)
            for across, down in ndimage.find_objects(names)
            if count
        ]
        found.sort(key=lambda one: -(one[1] - one[0] + 1) * (one[3] - one[2] + 1))
        return found[:MOST_SPOTS]


def read_photo(
    pixels: Pixels, outline: Outline, colours: Floats, rows: int, pings: int, newest_right: bool = True
) -> PhotoRead:
    """The levels of a photographed picture.

    pixels    sRGB bytes, shape (height, width, 3)
    outline   where the picture stands in it; how the lens bends it is seen from its sides
    colours   light of dark water and of each step, weakest first, shape (steps + 1, 3)

    Raises ValueError when the colours cannot be told apart, or what stands there is no such picture.
    """
    lens = replace(outline, bend=bend_seen(pixels, outline))
    seen = steps_seen(cells_of(pixels, lens, rows, pings), colours)
    unsure = unsure_cells(seen)
    if unsure.mean() > 1.0 - LEAST_KNOWN:
        raise InputError(
            f"the photo shows the ladder's colours in {100.0 * (1.0 - unsure.mean()):.0f} of 100 places between the "
            f"corners: at least {100.0 * LEAST_KNOWN:.0f} are needed. Look at corners and colours, or at what it shows"
        )
    levels = filled_in_time(seen.levels.T, unsure.T)
    unsure = unsure.T
    if not newest_right:
        levels, unsure = levels[::-1], unsure[::-1]
    return PhotoRead(np.ascontiguousarray(levels), np.ascontiguousarray(unsure))


def unsure_cells(seen: SeenSteps) -> NDArray[np.bool_]:
    """Cells that no step explains, with those beside them: numbers and icons over the picture, a thumb, white glare.
    Shape (rows, pings)."""
    off = ndimage.median_filter(seen.off, size=(3, 3)) > MOST_OFF
    off |= (seen.glare > WHITED) | (seen.shade <= LEAST_SHADE)
    names, count = ndimage.label(off, structure=np.ones((3, 3)))
    if count:
        cells = np.bincount(names.ravel())
        off &= cells[names] >= LEAST_CELLS
    grown: NDArray[np.bool_] = ndimage.binary_dilation(off, iterations=1) if off.any() else off
    return grown


def filled_in_time(levels: Levels, unsure: NDArray[np.bool_]) -> Levels:
    """What is not sure taken from the nearest ping before that is, else from the first after; dark where a row has
    none. Shape (pings, rows)."""
    pings = np.arange(levels.shape[0])[:, None]
    before = np.maximum.accumulate(np.where(unsure, -1, pings), axis=0)
    after = np.minimum.accumulate(np.where(unsure, levels.shape[0], pings)[::-1], axis=0)[::-1]
    from_ping = np.where(before >= 0, before, after)
    none = from_ping >= levels.shape[0]
    filled: Levels = np.take_along_axis(levels, np.minimum(from_ping, levels.shape[0] - 1), axis=0)
    return np.where(none, np.uint8(0), filled)
