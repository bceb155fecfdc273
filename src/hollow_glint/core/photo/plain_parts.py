"""The parts of a picture that no edge runs through, and fields that change so slowly that few places tell them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..lazily import Lazily
from .colour import lab_of

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

SMOOTHED: Final = (1.0, 1.6, 2.4)  # cells
LARGE: Final = 0.12  # share of the cells in a part that holds together
LEAST_PLAIN: Final = 0.002  # share of the cells that a part without an edge must have to be held for one step
SHARPEST_LIGHT: Final = 3.0  # from a cell to the next (CIE 1976): more is an edge
LOCAL: Final = 2.4  # cells, about which a part's own mean is taken
SPECKLED: Final = 3.0  # from that mean (CIE 1976, root mean square), and
TWO_SORTED: Final = 0.5  # Sarle's coefficient of bimodality: noise has a third, two sorts of cells go up to one
LOOKED_AT: Final = 4000
COARSE: Final = 96  # places each way at which slow fields are told, at most;
EACH_WIDTH: Final = 28.0  # so many over which they change are enough

Whole = NDArray[np.intp]


def plain_parts(cells: Floats) -> tuple[Whole, NDArray[np.bool_], float]:
    """The parts of a picture that no edge runs through, numbered from 1, 0 for edges and small parts; and the cells
    that are as calm as most, both of shape (rows, pings). And the share of cells in parts that are none of these,
    though no edge runs through them: speckle, cells of two steps in turn."""
    lab = lab_of(cells)
    for sigma in SMOOTHED:  # as little as lets a large part hold together
        even = ndimage.gaussian_filter(lab, (sigma, sigma, 0.0))
        down, across = np.gradient(even, axis=(0, 1))
        slope = np.sqrt((down**2 + across**2).sum(axis=-1))
        # An edge stands out of what noise does everywhere.
        usual = float(np.median(slope))
        parts, count = ndimage.label(slope <= np.clip(3.0 * usual, 1.0, SHARPEST_LIGHT))
        size = np.bincount(parts.ravel(), minlength=count + 1)
        size[0] = 0
        if size.max() >= LARGE * parts.size:
            break
    kept = np.flatnonzero(size >= LEAST_PLAIN * parts.size)
    number = np.zeros(count + 1, dtype=np.intp)
    off = (lab - ndimage.gaussian_filter(lab, (LOCAL, LOCAL, 0.0))).reshape(-1, 3)
    plain = [one for one in kept if not _two_sorted(off[np.flatnonzero(parts == one)])]
    number[plain] = np.arange(1, len(plain) + 1)
    speckled = 1.0 - size[plain].sum() / max(size[kept].sum(), 1)
    return number[parts], slope <= max(1.5 * usual, 0.5), float(speckled * size[kept].sum() / parts.size)


def _two_sorted(off: Floats) -> bool:
    """Whether cells that are so far off their neighbours' mean (L*, a*, b*; shape (cells, 3)) are of two sorts, along
    the line on which they differ most (SAS/STAT 9.2, the coefficient of bimodality, after Sarle; from memory)."""
    some = off[:: max(len(off) // LOOKED_AT, 1)]
    some = some - some.mean(axis=0)
    far2, lines = np.linalg.eigh(some.T @ some / len(some))
    if far2[-1] < SPECKLED**2:
        return False
    along = some @ lines[:, -1] / np.sqrt(far2[-1])
    return float(((along**3).mean() ** 2 + 1.0) / (along**4).mean()) > TWO_SORTED


def coarse(shape: tuple[int, int], width: float = 0.0) -> tuple[int, int]:
    """How many cells down and across are taken together for a field that changes over `width` of the picture."""
    places = int(min(EACH_WIDTH / width, COARSE)) if width else COARSE
    return max(shape[0] // places, 1), max(shape[1] // places, 1)


def taken_together(what: Floats, by: tuple[int, int]) -> Floats:
    """Means of blocks, the last row and column of blocks filled with what stands at the edge."""
    down, across = by
    short = (-what.shape[0] % down, -what.shape[1] % across)
    padded = np.pad(what, ((0, short[0]), (0, short[1])), mode="edge") if any(short) else what
    # Rows first, while they are long: numpy is slow over many short axes.
    rows = padded.reshape(padded.shape[0] // down, down, -1).sum(axis=1)
    means: Floats = rows.reshape(rows.shape[0], -1, across).sum(axis=2) / (down * across)
    return means


def spread_out(small: Floats, shape: tuple[int, int]) -> Floats:
    """A coarse field at every cell, even between its places."""
    down = np.clip((np.arange(shape[0]) + 0.5) * small.shape[0] / shape[0] - 0.5, 0, small.shape[0] - 1)
    across = np.clip((np.arange(shape[1]) + 0.5) * small.shape[1] / shape[1] - 0.5, 0, small.shape[1] - 1)
    i, j = down.astype(np.intp), across.astype(np.intp)
    i2, j2 = np.minimum(i + 1, small.shape[0] - 1), np.minimum(j + 1, small.shape[1] - 1)
    fi, fj = (down - i)[:, None], (across - j)[None, :]
    upper = small[i][:, j] * (1 - fj) + small[i][:, j2] * fj
    lower = small[i2][:, j] * (1 - fj) + small[i2][:, j2] * fj
    even: Floats = (upper * (1 - fi) + lower * fi).astype(np.float32)
    return even
