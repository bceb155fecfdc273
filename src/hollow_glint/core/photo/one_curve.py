"""The ladder as a camera shows it that saw all of the screen in one light: by one smooth curve for each of red, green
and blue.

Where the light is fitted about every place, a picture of many greys can be laid to shade that is not there. One curve
for all cells has nothing that a picture could be laid to.
"""

from __future__ import annotations

from typing import Final

import numpy as np

from ..checks import Floats
from .colour import light_of, srgb_of
from .first_light import EvenLight
from .nearest_step import nearest, sureness

LOOKED_AT: Final = 16_000  # cells
TURNS: Final = 6  # in which steps and curve are fitted
MOST_OF_A_STEP: Final = 0.2  # what a step's cells count for together at most: dark water alone tells no curve
CODED: Final = 1.0 / 2.2  # about the power by which light is coded in sRGB
# How far each part of a curve may be from what is expected (coded, 1 sd), held against cells that are off by OFF:
VEIL, SLOPE, BOW, OFF = 0.7, 1.4, 0.3, 0.014
MOST: Final = 1.2  # of white


def under_one_curve(cells: Floats, colours: Floats, even: EvenLight) -> Floats:
    """The colours of dark water and of the steps as the camera shows them, shape of `colours` (steps + 1, 3); `cells`
    (rows, pings, 3), all are light. `even` is where it begins.

    A curve is a veil of light, a slope and a bow, in values coded as sRGB has them: exposure and white balance are
    slopes there, for a power of a product is the product of powers.
    """
    every = cells.reshape(-1, 3)
    some = every[:: max(len(every) // LOOKED_AT, 1)]
    coded, ladder = srgb_of(np.maximum(some, 0.0)), srgb_of(colours)
    seen: Floats = (colours * even.gain).astype(np.float32)
    leaning = np.diag((OFF / np.array([VEIL, SLOPE, BOW])) ** 2)
    for _ in range(TURNS):
        levels, off, next_off = (one[0] for one in nearest(some[None], seen))
        sure = sureness(off, next_off)
        weight = np.bincount(levels, sure, len(colours)) + 1e-9
        counts = np.minimum(weight / weight.sum(), MOST_OF_A_STEP)
        curved = np.empty_like(seen)
        for c in range(3):
            mean = np.bincount(levels, sure * coded[:, c], len(colours)) / weight
            parts = np.stack([np.ones(len(ladder)), ladder[:, c], ladder[:, c] * (1.0 - ladder[:, c])], axis=1)
            expected = np.array([0.0, even.gain[c] ** CODED, 0.0])
            curve = np.linalg.solve(
                parts.T @ (counts[:, None] * parts) + leaning, parts.T @ (counts * mean) + leaning @ expected
            )
            curved[:, c] = light_of(np.clip(parts @ curve, 0.0, MOST))
        seen = curved
    return seen
