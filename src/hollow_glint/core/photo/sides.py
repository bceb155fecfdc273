"""The four sides of a picture in a photo, to a part of a pixel, and from how they bow the bend of the lens.

Across each side of a guess a strip of the photo is looked at. Sides that move and turn freely, and bow together as one
lens bends them, are laid through the most and steepest edges: by weighted least squares, from wide to narrow
(iteratively reweighted, Holland and Welsch 1977).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from ..lazily import Lazily
from .colour import LIGHT_OF_BYTE, lab_of
from .perspective import Outline, Pixels

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

PLACES: Final = 64  # along a side
SHARE: Final = np.linspace(0.03, 0.97, PLACES)
UNIT: Final = 0.01  # of bend, so that all unknowns are some pixels
MOST_BEND: Final = 0.1
TRIED_BENDS: Final = tuple(range(-3, 4))  # about the guess's own [UNIT]
TRIED_SLOPES: Final = 7
LEAN_PX: Final = 0.3  # a place with less of an edge than that has none
MOST_STEEP: Final = 12.0  # (CIE 1976 a pixel) steeper counts no more
PLAIN_STEEP: Final = 0.7  # less is noise
STRAIGHT: Final = 0.08  # what a bow of UNIT must gain on the sides' mean edge to be worth trying first
OUTER: Final = 0.5  # of the plainest edge, that the outermost must have to be the picture's own
NARROWEST_PX: Final = 1.5
ROUNDS: Final = 5
GIVEN: Final = 0.008  # of the photo's width, that given corners may be off
MOST_RIM_PX: Final = 9  # a line drawn about a picture is no thicker
RIM: Final = 0.2  # of the outer edge, that the inner edge of such a line has


def along_side(side: int, share: Floats) -> tuple[Floats, Floats]:
    """Shares across and down the picture of places along a side, clockwise from the top."""
    none, all_ = np.zeros_like(share), np.ones_like(share)
    return ((share, none), (all_, share), (1.0 - share, all_), (none, 1.0 - share))[side]


def normals(points: Floats) -> Floats:
    """Which way is out at each of the places along a side, shape (places, 2)."""
    ahead = np.gradient(points, axis=0)
    out = np.stack([ahead[:, 1], -ahead[:, 0]], axis=-1)
    return np.asarray(out / np.hypot(out[:, :1], out[:, 1:]))


def strips(pixels: Pixels, outline: Outline, share: Floats, steps: NDArray[np.intp]) -> Floats:
    """L*, a* and b* across all sides, at places along them and so many pixels out, shape (4, places, steps, 3)."""
    found = np.empty((4, share.size, steps.size, 3), dtype=np.float32)
    for side in range(4):
        points = outline.places(*along_side(side, share))
        at = points[:, None] + steps[:, None] * normals(points)[:, None]
        row = np.clip(at[..., 1].astype(np.intp), 0, pixels.shape[0] - 1)
        column = np.clip(at[..., 0].astype(np.intp), 0, pixels.shape[1] - 1)
        found[side] = lab_of(LIGHT_OF_BYTE[pixels[row, column]])
    smooth: Floats = ndimage.gaussian_filter(found, (0.0, 0.7, 1.0, 0.0))
    return smooth


def steepness(strip: Floats) -> Floats:
    """How steep a strip is across the sides (CIE 1976 a pixel), shape (4, places, steps)."""
    return np.asarray(np.sqrt((np.gradient(strip, axis=2) ** 2).sum(axis=-1)))


@dataclass(frozen=True, eq=False)
class _Strips:
    """What is known of the strips across an outline's sides: how steep they are, at which steps [px out], and how far
    each place moves [px out] with each of nine unknowns: by how much a side moves, by how much it turns, four times,
    and the lens's bend [UNIT]."""

    steep: Floats
    steps: NDArray[np.intp]
    moves: Floats

    @classmethod
    def across(cls, pixels: Pixels, outline: Outline, reach_px: float) -> _Strips:
        most = int(np.ceil(reach_px))
        steps = np.arange(-most - 2, most + 3)
        steep = steepness(strips(pixels, outline, SHARE, steps))[:, :, 2:-2]
        return cls(steep, steps[2:-2], _moves(outline))

    def first(self, outermost: bool) -> Floats:
        """The unknowns for which the plainest straight runs of edges are followed, shape (9,)."""
        reach = float(self.steps[-1])
        counted = np.minimum(self.steep, MOST_STEEP)
        best, found = -np.inf, np.zeros(9)
        for bend in TRIED_BENDS:
            unknown, total = np.zeros(9), -STRAIGHT * abs(bend)
            unknown[8] = bend
            for side in range(4):
                at, slope, profile = self._plainest(counted[side], side, bend, 0.5 * reach)
                total += float(profile.max())
                unknown[2 * side : 2 * side + 2] = self._outermost(profile) if outermost else at, slope
            if total > best:
                best, found = total, unknown
        return found

    def _plainest(self, counted: Floats, side: int, bend: float, most_px: float) -> tuple[float, float, Floats]:
        """Where a side's plainest edge is [px out], how it is turned, and how plain edges are at every step beside."""
        best: tuple[float, float, Floats] = (0.0, 0.0, np.full(self.steps.size, -1.0))
        for slope in np.linspace(-most_px, most_px, TRIED_SLOPES):
            shift = slope * self.moves[side, :, 2 * side + 1] + bend * self.moves[side, :, 8]
            at = np.round(self.steps + shift[:, None]).astype(np.intp) - self.steps[0]
            mean = np.take_along_axis(counted, np.clip(at, 0, self.steps.size - 1), axis=1).mean(axis=0)
            profile = ndimage.gaussian_filter1d(mean, 0.8)
            if profile.max() > best[2].max():
                best = (float(self.steps[profile.argmax()]), float(slope), profile)
        return best

    def _outermost(self, profile: Floats) -> float:
        """The outermost edge that is plain: within it the picture has edges of its own, beyond it only ground."""
        plain = (profile == ndimage.maximum_filter1d(profile, 3)) & (profile >= OUTER * profile.max())
        return float(self.steps[np.flatnonzero(plain)[-1]])

    def fitted(self, unknown: Floats, width_px: float) -> Floats:
        """The unknowns of least squares over the edges that lie so near to where those lead."""
        at = self.moves @ unknown
        off = self.steps - at[..., None]
        weight = np.exp(-0.5 * (off / width_px) ** 2) * np.maximum(self.steep - PLAIN_STEEP, 0.0)
        total = weight.sum(axis=-1)
        seen = total > LEAN_PX
        place = ((weight * off).sum(axis=-1) / np.maximum(total, 1e-9) + at)[seen]
        moves, counts = self.moves[seen], np.sqrt(np.minimum(total[seen], 20.0))
        # A side without an edge stays where it was guessed, a lens that nothing tells of does not bend.
        lean = np.diag(np.r_[np.full(8, 0.15), 0.25])
        held = np.r_[unknown[:8], 0.0]
        found: Floats = np.linalg.solve(
            moves.T @ (counts[:, None] * moves) + lean, moves.T @ (counts * place) + lean @ held
        )
        return found


def _moves(outline: Outline) -> Floats:
    bent = replace(outline, bend=outline.bend + UNIT)
    moves = np.zeros((4, PLACES, 9))
    for side in range(4):
        points, moved = (one.places(*along_side(side, SHARE)) for one in (outline, bent))
        moves[side, :, 2 * side] = 1.0
        moves[side, :, 2 * side + 1] = 2.0 * SHARE - 1.0
        moves[side, :, 8] = ((moved - points) * normals(points)).sum(axis=-1)
    return moves


def fitted_sides(pixels: Pixels, outline: Outline, reach_px: float, outermost: bool = False) -> Outline:
    """A guess moved, and its lens bent, so that its four sides run along edges within `reach_px` of it: the plainest,
    or of all plain ones the outermost."""
    seen = _Strips.across(pixels, outline, reach_px)
    unknown = seen.first(outermost)
    for width in np.geomspace(max(reach_px / 5.0, 2.5), NARROWEST_PX, ROUNDS):
        unknown = seen.fitted(unknown, width)
    return _moved(outline, seen.moves @ unknown, UNIT * float(unknown[8]))


def within_rim(pixels: Pixels, outline: Outline) -> tuple[Outline, bool]:
    """The outline within a line that is drawn about the picture, and whether there is one: a second edge, so far within
    on three sides of four at least, where a picture's own edges are at most above and below."""
    steps = np.arange(-MOST_RIM_PX - 6, MOST_RIM_PX + 7)
    profile = np.minimum(steepness(strips(pixels, outline, SHARE, steps)), MOST_STEEP).mean(axis=1)
    middle = MOST_RIM_PX + 6
    usual = np.median(profile[:, : middle - 2], axis=1, keepdims=True)
    own = profile[:, middle - 1 : middle + 2].max(axis=1, keepdims=True)
    inwards = np.minimum((profile - usual) / np.maximum(own - usual, 0.3), 1.5)[:, middle::-1]
    all_but_one = np.sort(ndimage.maximum_filter1d(inwards, 3, axis=1), axis=0)[1]
    mean = inwards.mean(axis=0)
    for off in range(2, MOST_RIM_PX + 1):
        if mean[off] >= max(mean[off - 1], mean[off + 1], 1.5 * RIM) and all_but_one[off] >= RIM:
            return fitted_sides(pixels, _moved(outline, np.full((4, PLACES), -float(off)), 0.0), 2.0), True
    return outline, False


def _moved(outline: Outline, out_px: Floats, bend: float) -> Outline:
    """The outline whose sides have moved so far out, shape (4, places), under a lens that bends so much more. Raises
    ValueError when nothing is left between them."""
    lens = replace(outline, bend=float(np.clip(outline.bend + bend, -MOST_BEND, MOST_BEND)))
    lines = []
    for side in range(4):
        points = outline.places(*along_side(side, SHARE))
        straight = lens.straightened(points + out_px[side][:, None] * normals(points))
        middle = straight.mean(axis=0)
        lines.append((middle, np.linalg.svd(straight - middle, full_matrices=False)[2][0]))
    met = []
    for side in range(4):
        (a, ahead), (b, across) = lines[side - 1], lines[side]
        along = np.linalg.solve(np.stack([ahead, -across], axis=1), b - a)
        met.append(a + along[0] * ahead)
    corners = lens.bent(np.array(met))
    return replace(lens, corners=tuple((float(x), float(y)) for x, y in corners))


def bend_seen(pixels: Pixels, outline: Outline) -> float:
    """How the lens bends a picture whose corners are known, from how its sides bow between them; none if none are."""
    try:
        return fitted_sides(pixels, outline, GIVEN * outline.width).bend
    except (InputError, np.linalg.LinAlgError):
        return 0.0
