"""Straight lines in a photo, and how the lens bends them.

What is straight on a screen is bowed in a photo by the lens alone, so that bend is the right one under which most of
the photo's edges fall on straight lines (the plumb-line method, Brown 1971). Lines by the Hough transform in Duda and
Hart's form (1972), each edge voting along its own direction alone, held against how many edges there are about it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..lazily import Lazily
from .colour import LIGHT_OF_BYTE, lab_of
from .perspective import Outline, Pixels

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

SMALL_PX: Final = 480  # the photo's longer side while lines are looked for
MOST_TURNED_DEG: Final = 25  # a phone is held so straight
LINES: Final = 20  # that are tried each way
APART_PX: Final = 4.0  # two lines nearer than that are one
EDGE: Final = 3.0  # from a pixel to the next (CIE 1976): less is no edge
MOST_EDGE: Final = 16.0  # a steeper one counts no more
WIDE_DEG: Final = 8  # an edge votes for lines that are turned so little from it
USUAL_PX: Final = 12.0  # about a line, over which the usual number of edges is reckoned
FEW: Final = 6.0  # votes; a place with fewer about it stands out no more for that
BENDS: Final = tuple(0.0125 * k for k in range(-5, 4))  # that are tried: barrel is commoner than pincushion
SHARPEST: Final = 5.0  # few lines with many edges each count for more than many with few
BLURRED_PX: Final = 0.8


@dataclass(frozen=True, eq=False)
class SmallPhoto:
    """A photo made small, L*, a* and b* (height, width, 3); how steep it is at each pixel (CIE 1976 from one to the
    next); and the change down and across in the channel in which it is plainest, each (height, width)."""

    lab: Floats
    steep: Floats
    down: Floats
    across: Floats

    @classmethod
    def of(cls, lab: Floats) -> SmallPhoto:
        """The small photo whose colours those are."""
        down, across = (ndimage.sobel(lab, axis=axis, mode="nearest") / 8.0 for axis in (0, 1))
        plainest = (down**2 + across**2).argmax(axis=-1)[..., None]
        steep = np.sqrt((down**2 + across**2).sum(axis=-1))
        own = (np.take_along_axis(one, plainest, axis=-1)[..., 0] for one in (down, across))
        return cls(lab, steep, *own)

    def edges(self, upright: bool, most_turned_deg: float) -> tuple[Floats, Floats, Floats, Floats]:
        """Places across and down [px] of edges that are so little turned from upright or level, how far they are
        [degrees], and what each counts."""
        main, other = (self.across, self.down) if upright else (self.down, self.across)
        turned = np.degrees(np.arctan2(other * np.sign(main), np.abs(main)))
        thin = self.steep >= ndimage.maximum_filter1d(self.steep, 3, axis=1 if upright else 0)
        rows, columns = np.nonzero(thin & (self.steep > EDGE) & (np.abs(turned) < most_turned_deg))
        votes = np.sqrt(np.minimum(self.steep[rows, columns], MOST_EDGE))
        return columns + 0.5, rows + 0.5, turned[rows, columns], votes

    def straightened(self, bend: float) -> SmallPhoto:
        """As a lens without that bend would have shown it."""
        high, wide = self.lab.shape[:2]
        y, x = np.mgrid[0:high, 0:wide] + 0.5
        at = self.whole(bend).bent(np.stack([x, y], axis=-1)) - 0.5
        places = [at[..., 1], at[..., 0]]
        channels = [ndimage.map_coordinates(self.lab[..., c], places, order=1, mode="nearest") for c in range(3)]
        return SmallPhoto.of(np.stack(channels, axis=-1))

    def whole(self, bend: float) -> Outline:
        """The outline of all of it under a lens."""
        high, wide = self.lab.shape[:2]
        corners = ((0.0, 0.0), (float(wide), 0.0), (float(wide), float(high)), (0.0, float(high)))
        return Outline(corners, wide, high, bend)


def small_photo(pixels: Pixels) -> tuple[SmallPhoto, int]:
    """A photo made small, and how many of its pixels each way are one of those."""
    coarser = max(int(np.ceil(max(pixels.shape[:2]) / SMALL_PX)), 1)
    high, wide = (side // coarser for side in pixels.shape[:2])
    light = np.zeros((high, wide, 3), dtype=np.float32)
    for i in range(coarser):
        for j in range(coarser):
            light += LIGHT_OF_BYTE[pixels[i : high * coarser : coarser, j : wide * coarser : coarser]]
    return SmallPhoto.of(ndimage.gaussian_filter(lab_of(light / coarser**2), (BLURRED_PX, BLURRED_PX, 0.0))), coarser


def bend_of(small: SmallPhoto) -> float:
    """The lens's bend under which most edges fall on straight lines; see `perspective.Outline` for what it means."""
    middle = np.array(small.lab.shape[1::-1]) / 2.0
    sharp = np.zeros(len(BENDS))
    for upright in (True, False):
        x, y, turned, votes = small.edges(upright, MOST_TURNED_DEG)
        at = np.stack([x, y], axis=-1)
        angles = np.arange(-MOST_TURNED_DEG + 5.0, MOST_TURNED_DEG - 4.0)
        near = [np.flatnonzero(np.abs(turned - angle) < WIDE_DEG - 2.0) for angle in angles]
        for k, bend in enumerate(BENDS):
            straight = small.whole(bend).straightened(at) - middle
            table = _votes(straight, votes, near, angles, upright, int(2.0 * np.hypot(*middle)) + 2)
            sharp[k] += (_standing_out(ndimage.gaussian_filter1d(table, BLURRED_PX, axis=1), 0.0) ** SHARPEST).sum()
    return BENDS[int(sharp.argmax())]


def lines_of(small: SmallPhoto, upright: bool) -> Floats:
    """The lines that stand out most as (angle of the normal [rad], distance from the photo's corner [px]), shape
    (lines, 2), those at the left or the top first: x cos a + y sin a = d of upright ones, y cos a + x sin a = d of
    level ones."""
    x, y, turned, votes = small.edges(upright, MOST_TURNED_DEG + WIDE_DEG)
    angles = np.arange(-MOST_TURNED_DEG, MOST_TURNED_DEG + 1.0)
    near = [np.flatnonzero(np.abs(turned - angle) < WIDE_DEG) for angle in angles]
    reach = int(np.hypot(*small.lab.shape[:2])) + 2
    table = _votes(np.stack([x, y], axis=-1), votes, near, angles, upright, reach)
    table = _standing_out(ndimage.gaussian_filter(table, (0.5, BLURRED_PX)), 3.0)
    middle = small.lab.shape[0 if upright else 1] / 2.0
    found: list[tuple[float, float, float]] = []
    for place in np.argsort(-table, axis=None)[: 400 * LINES]:
        k, column = np.unravel_index(place, table.shape)
        angle, distance = float(np.radians(angles[k])), float(column - reach)
        at = (distance - middle * np.sin(angle)) / np.cos(angle)
        if all(abs(at - other) > APART_PX for other, _, _ in found):
            found.append((at, angle, distance))
            if len(found) == LINES:
                break
    return np.array(sorted(found)).reshape(-1, 3)[:, 1:]


def _votes(
    at: Floats, votes: Floats, near: list[NDArray[np.intp]], angles: Floats, upright: bool, reach: int
) -> Floats:
    """What edges at those places count for each angle and distance, shape (angles, 2 reach)."""
    along, over = at.T if upright else at.T[::-1]
    table = np.zeros((len(angles), 2 * reach))
    for k, angle in enumerate(np.radians(angles)):
        distance = along[near[k]] * np.cos(angle) + over[near[k]] * np.sin(angle)
        table[k] = np.bincount((distance + reach + 0.5).astype(np.intp), votes[near[k]], 2 * reach)[: 2 * reach]
    return table


def _standing_out(table: Floats, wide_deg: float) -> Floats:
    """By how much each place has more votes than are usual about it, over what chance makes of those."""
    usual = ndimage.gaussian_filter(table, (wide_deg, USUAL_PX))
    more: Floats = np.maximum((table - usual) / np.sqrt(usual + FEW), 0.0)
    return more
