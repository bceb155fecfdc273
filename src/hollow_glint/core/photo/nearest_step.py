"""The step whose colour is nearest to each cell's, and how surely it is that one."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from .colour import lab_of


def nearest(cells: Floats, colours: Floats) -> tuple[NDArray[np.intp], Floats, Floats]:
    """The nearest colour of each cell, and how far off it and the next best are (CIE 1976), each (rows, pings);
    `cells` (rows, pings, 3) and `colours` (steps + 1, 3) are light."""
    lab, to = lab_of(cells).reshape(-1, 3), lab_of(colours)
    # A row for each colour: numpy is slow over many short axes. What a cell's own square adds is the same for all.
    far = (to**2).sum(axis=-1)[:, None] - 2.0 * (to @ lab.T)
    best, second = far[0].copy(), np.full(len(lab), np.inf, dtype=far.dtype)
    levels = np.zeros(len(lab), dtype=np.intp)
    for step in range(1, len(far)):
        closer = far[step] < best
        second = np.where(closer, best, np.minimum(second, far[step]))
        np.copyto(best, far[step], where=closer)
        levels[closer] = step
    own = np.einsum("ij,ij->i", lab, lab)
    shape = cells.shape[:-1]
    off, next_off = (np.sqrt(np.maximum(one + own, 0.0)).reshape(shape) for one in (best, second))
    return levels.reshape(shape), off, next_off


def sureness(off: Floats, next_off: Floats) -> Floats:
    """What a cell counts for when the light is fitted: nothing when it is far off, little when two steps are near."""
    clear: Floats = np.exp(-0.5 * (off / 8.0) ** 2) * np.clip((next_off - off) / (next_off + off + 1.0), 0.02, 1.0)
    return clear
