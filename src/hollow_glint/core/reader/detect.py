"""Marks in one ping: where something begins on the picture, how strong it gets and how thick it stands.

From the picture alone. A mark begins where the rows grow stronger and ends where the next one begins or the water is
dark again; a weak mark on the skirt of a stronger one is found by the rise between them.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..sonar.picture import Window

RISE_PULSES = 0.4  # an echo has grown to its full strength this soon [pulse lengths], as in ping.pulse_envelope
OVER_CLUTTER = 1.5  # steps over what stands there, from which a row is seen in it


@dataclass(frozen=True)
class Marks:
    """The marks of one ping, shape (marks,) each, from the face down.

    range_m      where each begins [m from the face]
    thick_m      how thick it stands [m]
    level        strongest ladder level in it
    """

    range_m: Floats
    thick_m: Floats
    level: NDArray[np.uint8]


NO_MARKS = Marks(np.zeros(0), np.zeros(0), np.zeros(0, dtype=np.uint8))


def out_of_clutter(levels: NDArray[np.uint8], mean: Floats, rows: int) -> NDArray[np.uint8]:
    """One ping's `levels` (rows,) with what stands in its first `rows` left out: a row that is OVER_CLUTTER steps over
    its running `mean` (rows,) keeps its level, the others are dark."""
    seen = levels.copy()
    seen[:rows][levels[:rows] < mean[:rows] + OVER_CLUTTER] = 0
    return seen


def marks_in(levels: NDArray[np.uint8], shown: Window, resolution_m: float, below_m: float, above_m: float) -> Marks:
    """The marks that begin between `below_m` and `above_m` [m from the face] in one ping's `levels` (rows,).

    `resolution_m` [m] is the pulse's, c tau / 2: what rises within RISE_PULSES of it is one mark.
    """
    row_m = shown.height_m / levels.size
    first = max(int((below_m - shown.top_m) / row_m), 0)
    last = min(int(np.ceil((above_m - shown.top_m) / row_m)), levels.size)
    if last - first < 1:
        return NO_MARKS
    rows = levels[first:last].astype(np.int16)
    before = np.concatenate([rows[:1] if first else [0], rows[:-1]]).astype(np.int16)
    rising = np.flatnonzero(rows > before)
    if rising.size == 0:
        return NO_MARKS
    # A rise that goes on within the pulse's own rise belongs to the mark it began.
    within = max(int(np.ceil(RISE_PULSES * resolution_m / row_m)), 1)
    begins = rising[np.concatenate([[True], np.diff(rising) > within])]
    ends = np.append(begins[1:], rows.size)
    level = np.maximum.reduceat(rows, begins)
    lit = np.add.reduceat((rows > 0).astype(np.int16), begins)
    thick = np.minimum(lit, ends - begins) * row_m
    return Marks(shown.top_m + (first + begins + 0.5) * row_m, thick, level.astype(np.uint8))
