"""A dial followed from one picture of a hand-held film to the next, by all that is plain on it: numbers, rims, the body
about it, and of the ring what stands still in the water.

Each picture is laid on the first one, so that nothing drifts: inverse compositional image alignment with an affine warp
(Baker and Matthews 2004), from coarse to fine, places that do not fit counting little (Geman and McClure
1987): marks that move.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from ..lazily import Lazily
from .perspective import Pixels
from .ring import Ring

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

RADIUS_PX: Final = 64  # the dial's while it is followed, about
REACH: Final = 1.3  # of the outer radius, that is looked at
BLURS_PX: Final = (6.0, 3.0, 1.2)
WIDER: Final = 2.5  # than each blur is what counts as light
PLAINEST: Final = 2500  # places that are looked at for each
ROUNDS: Final = 12
ENOUGH: Final = 3e-4  # of the radius: a smaller step is none
UNLIKE: Final = 3.0  # times what half of the places are off: what is off by more counts little,
LEAST_UNLIKE: Final = 0.02  # where half are off by at least so much of how much they vary
MOVING: Final = 0.1  # what a place on the ring is worth, where water moves; and
RIM: Final = 0.15  # of its breadth, at each side, that stands still
LOST: Final = 0.6  # how alike both must be (their correlation) to be the same dial
LEAST_PLACES: Final = 200  # fewer tell nothing

BRIGHT: Final = np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)  # of each primary (IEC 61966-2-1)


@dataclass(frozen=True, eq=False)
class _Plain:
    """The first picture blurred to one width, at its plainest places: where they are about the middle [radii], how
    bright they are, and how that changes with the six unknowns of an affine warp."""

    blur_px: float
    x: Floats
    y: Floats
    bright: Floats
    changes: Floats
    worth: Floats

    @classmethod
    def of(cls, grey: Floats, blur_px: float, x: Floats, y: Floats, worth: Floats, radius_px: float) -> _Plain:
        """The plainest of the places x, y, as many as pixels of `grey`, each worth so much: nothing where none is
        looked at."""
        even = band(grey, blur_px)
        down, across = np.gradient(even, 1.0 / radius_px)
        steep = (worth * (down**2 + across**2)).ravel()
        chosen = np.argsort(steep)[-min(PLAINEST, int((worth > 0.0).sum())) :]
        x, y, down, across, worth = (one.ravel()[chosen] for one in (x, y, down, across, worth))
        bright = even.ravel()[chosen]
        changes = np.stack([across * x, across * y, across, down * x, down * y, down], axis=-1)
        return cls(blur_px, x, y, bright - bright.mean(), changes, worth)


def band(grey: Floats, blur_px: float) -> Floats:
    """What of a picture is wider than a blur but no light that runs over it: glare wanders as the hand does."""
    fine = ndimage.gaussian_filter(grey, blur_px)
    return np.asarray(fine - ndimage.gaussian_filter(fine, WIDER * blur_px))


class Follower:
    """Finds a ring that was pointed out in a film's first picture in the others, one after another."""

    def __init__(self, pixels: Pixels, ring: Ring) -> None:
        self._ring = ring
        rim = ring.rim()
        self._middle = rim.mean(axis=0)
        self._radius = float(np.hypot(*(rim - self._middle).T).mean())
        self._each = max(round(self._radius / RADIUS_PX), 1)
        self._warp: Floats = np.eye(3)
        grey = self._grey(pixels)
        down, across = np.mgrid[0 : grey.shape[0], 0 : grey.shape[1]]
        x = ((across + 0.5) * self._each - self._middle[0]) / self._radius
        y = ((down + 0.5) * self._each - self._middle[1]) / self._radius
        about = np.hypot(x, y) < REACH
        if about.sum() < LEAST_PLACES:
            raise InputError("rim: the ring is too small in the photo to be followed")
        worth = np.where(about, np.where(self._on_ring(grey.shape), MOVING, 1.0), 0.0)
        self._levels = [_Plain.of(grey, blur, x, y, worth, self._radius / self._each) for blur in BLURS_PX]
        self._pattern = np.fft.rfft2(np.where(about, band(grey, BLURS_PX[0]), 0.0))

    def _on_ring(self, shape: tuple[int, ...]) -> NDArray[np.bool_]:
        """Which pixels of a grey picture lie on the ring, within its rims."""
        on = np.zeros(shape, dtype=bool)
        turn = np.arange(1440) / 1440.0
        rim = RIM * (1.0 - self._ring.inner)
        for radius in np.linspace(self._ring.inner + rim, 1.0 - rim, RADIUS_PX):
            column, row = (self._ring.at(turn, np.full(turn.size, radius)) / self._each).astype(int).T
            on[np.clip(row, 0, shape[0] - 1), np.clip(column, 0, shape[1] - 1)] = True
        return on

    def _grey(self, pixels: Pixels) -> Floats:
        """How bright a picture is, so many of its pixels taken together that the dial is no finer than it is looked
        at."""
        each = self._each
        high, wide = pixels.shape[0] // each, pixels.shape[1] // each
        total: Floats = np.zeros((high, wide), dtype=np.float32)
        for i in range(each):
            for j in range(each):
                total += pixels[i : high * each : each, j : wide * each : each] @ BRIGHT
        return total / each**2

    def found(self, pixels: Pixels) -> Ring | None:
        """The ring in the next picture; None where it is lost sight of."""
        grey = self._grey(pixels)
        coarse = band(grey, BLURS_PX[0])
        starts = (self._warp, self._jumped(coarse))
        warp, alike = max((self._laid(coarse, one, self._levels[0]) for one in starts), key=lambda laid: laid[1])
        for plain in self._levels[1:]:
            warp, alike = self._laid(band(grey, plain.blur_px), warp, plain)
        if alike < LOST or not np.isfinite(warp).all():
            return None
        self._warp = warp
        return self._moved(warp)

    def _jumped(self, coarse: Floats) -> Floats:
        """The last warp moved to where the first picture's pattern is found as a whole (correlation by Fourier's
        transform): a hand may move further from one picture to the next than any slope leads."""
        matched = np.fft.irfft2(np.fft.rfft2(coarse) * self._pattern.conj(), coarse.shape)
        down, across = np.unravel_index(int(matched.argmax()), matched.shape)
        high, wide = matched.shape
        off = np.array([(across + wide // 2) % wide - wide // 2, (down + high // 2) % high - high // 2])
        jumped: Floats = self._warp.copy()
        jumped[:2, 2] = off * self._each / self._radius
        return jumped

    def _laid(self, even: Floats, warp: Floats, plain: _Plain) -> tuple[Floats, float]:
        """A start followed to where both pictures fit best, and how alike they are there."""
        alike = 0.0
        for _ in range(ROUNDS):
            step, alike = self._step(even, warp, plain)
            warp = warp @ np.linalg.inv(step)
            if np.abs(step - np.eye(3)).max() < ENOUGH:
                break
        return warp, alike

    def _step(self, even: Floats, warp: Floats, plain: _Plain) -> tuple[Floats, float]:
        """How the first picture would have to move on to look like this one, and how alike both are so far."""
        x = warp[0, 0] * plain.x + warp[0, 1] * plain.y + warp[0, 2]
        y = warp[1, 0] * plain.x + warp[1, 1] * plain.y + warp[1, 2]
        across = (x * self._radius + self._middle[0]) / self._each - 0.5
        down = (y * self._radius + self._middle[1]) / self._each - 0.5
        here = ndimage.map_coordinates(even, [down, across], order=1, mode="nearest")
        here = here - here.mean()
        varies = float(np.sqrt((plain.bright**2).mean())) or 1e-6
        own = float(np.sqrt((here**2).mean())) or 1e-6
        alike = float((here * plain.bright).mean()) / (varies * own)
        off = here * (varies / own) - plain.bright  # a camera's exposure changes as it goes
        usual = max(float(np.median(np.abs(off))), LEAST_UNLIKE * varies)
        counts = plain.worth / (1.0 + (off / (UNLIKE * usual)) ** 2) ** 2
        weighed = plain.changes * counts[:, None]
        square = weighed.T @ plain.changes
        unknown = np.linalg.solve(square + 1e-4 * np.trace(square) / 6.0 * np.eye(6), weighed.T @ off)
        step: Floats = np.eye(3)
        step[:2] += unknown.reshape(2, 3)
        return step, alike

    def _moved(self, warp: Floats) -> Ring | None:
        square = self._ring.square
        places = (np.array(square.corners) - self._middle) / self._radius
        at = (places @ warp[:2, :2].T + warp[:2, 2]) * self._radius + self._middle
        try:
            return replace(self._ring, square=replace(square, corners=tuple((float(a), float(b)) for a, b in at)))
        except InputError:
            return None
