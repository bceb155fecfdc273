"""Photos of a dial, or a film of one in single pictures, read: one ping a picture."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from .following import Follower
from .ladder_steps import Levels, steps_seen
from .perspective import Pixels, cells_of
from .ring import Ring
from .screen_photo import LEAST_KNOWN, PhotoRead, filled_in_time, unsure_cells

MOST_PICTURES: Final = 240
LEAST_COLUMNS: Final = 3  # across the ring, for each picture: what is drawn over one of them is outvoted
ENOUGH_COLUMNS: Final = 24  # of all pictures together: fewer tell little of how the light runs
MOST_JUMP: Final = 4.0  # from a picture to another, of a camera's exposure


@dataclass(frozen=True, eq=False)
class _Seen:
    """The light of a picture's ring, shape (rows, columns, 3), and where the ring was; None where it was lost."""

    cells: Floats
    ring: Ring | None


def read_rings(pictures: Iterable[Pixels], count: int, ring: Ring, colours: Floats, rows: int) -> PhotoRead:
    """The levels that a dial shows in each of `count` pictures, the oldest first.

    pictures  sRGB bytes, each of shape (height, width, 3): looked at one after another, the first alone is held
    ring      where it stands in the first of them; in the others it is followed
    colours   light of dark water and of each step, weakest first, shape (steps + 1, 3)

    Raises ValueError when the colours cannot be told apart, or what stands there is no such ring.
    """
    columns = max(LEAST_COLUMNS, -(-ENOUGH_COLUMNS // count))
    seen = list(_looked_at(pictures, ring, rows, columns))
    cells = _one_exposure(np.stack([one.cells for one in seen]))
    # One picture looked at outwards and the next inwards, so that light runs on without a step from each to the other.
    whole = np.concatenate([one[:, :: (1, -1)[k % 2]] for k, one in enumerate(cells)], axis=1)
    steps = steps_seen(whole, colours)
    off = unsure_cells(steps).reshape(rows, len(seen), columns)
    levels, unsure = _outvoted(steps.levels.reshape(rows, len(seen), columns), off)
    unsure[[one.ring is None for one in seen]] = True
    if unsure.mean() > 1.0 - LEAST_KNOWN:
        raise InputError(
            f"the ring shows the ladder's colours in {100.0 * (1.0 - unsure.mean()):.0f} of 100 places: at least "
            f"{100.0 * LEAST_KNOWN:.0f} are needed. Look at where the ring stands and at its colours"
        )
    return PhotoRead(filled_in_time(levels, unsure), unsure)


def _looked_at(pictures: Iterable[Pixels], ring: Ring, rows: int, columns: int) -> Iterator[_Seen]:
    """Each picture's ring. Where it is lost sight of stands what was seen before, until it is found again."""
    first: Pixels | None = None
    follower: Follower | None = None  # one photo alone is not followed, however small its ring
    last = _Seen(np.zeros((rows, columns, 3), np.float32), ring)
    for pixels in pictures:
        if pixels.shape[:2] != (ring.square.height, ring.width):
            raise InputError(
                f"photos: one is {pixels.shape[1]} x {pixels.shape[0]} pixels, the first is {ring.width} x "
                f"{ring.square.height}: pictures of one size are accepted"
            )
        found: Ring | None = ring
        if first is None:
            first = pixels
        else:
            follower = follower or Follower(first, ring)
            found = follower.found(pixels)
        last = _Seen(last.cells, None) if found is None else _Seen(cells_of(pixels, found, rows, columns), found)
        yield last


def _one_exposure(cells: Floats) -> Floats:
    """The pictures as if all were exposed alike, shape (pictures, rows, columns, 3): most of the ring is the same water
    from one to the next, so what all of it did is the camera's."""
    middle = np.median(cells.sum(axis=-1), axis=0)
    ratio = np.median((cells.sum(axis=-1) / np.maximum(middle, 1e-4)).reshape(len(cells), -1), axis=1)
    alike: Floats = cells / np.clip(ratio, 1.0 / MOST_JUMP, MOST_JUMP)[:, None, None, None]
    return alike


def _outvoted(levels: Levels, off: NDArray[np.bool_]) -> tuple[Levels, NDArray[np.bool_]]:
    """For each picture and row the step that most of the columns show which are sure, the weakest of those that as many
    show; and where most columns are not sure. (rows, pictures, columns) gives (pictures, rows) twice."""
    most = int(levels.max(initial=0)) + 1
    votes = np.stack([((levels == step) & ~off).sum(axis=-1) for step in range(most)])
    chosen = votes.argmax(axis=0)
    unsure: NDArray[np.bool_] = 2 * off.sum(axis=-1) > off.shape[-1]
    return np.ascontiguousarray(chosen.T.astype(np.uint8)), np.ascontiguousarray(unsure.T)
