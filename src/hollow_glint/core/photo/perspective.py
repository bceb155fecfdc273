"""Perspective taken out: four corners in the photo, and the light of each cell of the picture that stands between them.

A pinhole camera keeps straight lines straight, so four corners say all (Hartley and Zisserman 2004, the homography from
four points). A lens bends them: the first term of the radial series (Brown 1966) about the photo's middle.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Protocol

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, InputError
from .colour import LIGHT_OF_BYTE

LEAST_SIDE: Final = 24.0  # px; a picture that is smaller in the photo shows nothing
OUTSIDE: Final = 0.02  # of the photo's width: a corner may lie this far out of it
MOST_EACH: Final = 4  # samples along each side of a cell
MOST_SAMPLES: Final = 2_000_000  # of all cells together
KEPT: Final = 0.8  # of a cell's height and width is looked at: its rim is half its neighbour's
NAMED: Final = {
    "corners": ("top left", "top right", "bottom right", "bottom left"),
    "rim": ("first", "second", "third", "last"),
}
FROM: Final = {"corners": "from the top left", "rim": "places from the zero on"}

Pixels = NDArray[np.uint8]


class Laid(Protocol):
    """How a picture lies in a photo."""

    @property
    def width(self) -> int:
        """The photo's [px]."""

    def places(self, across: Floats, down: Floats) -> Floats:
        """Where in the photo [px] shares across and down the picture stand, shape of both broadcast, and 2."""

    def rim(self) -> Floats:
        """Places [px] about it, shape (places, 2): all of it lies between their least and their most."""

    def pixels_each(self, rows: int, pings: int) -> tuple[float, float]:
        """Height and width of a cell in the photo [px]."""


@dataclass(frozen=True)
class Outline:
    """Four corners [px], from the top left clockwise, and how the lens bends: a radial term over the half diagonal.
    What the four are called outside is for what is said of wrong ones: corners, or a ring's rim.

    Raises ValueError for corners that cross, lie outside the photo or leave nothing between them.
    """

    corners: tuple[tuple[float, float], ...]
    width: int
    height: int
    bend: float = 0.0
    called: str = "corners"

    def __post_init__(self) -> None:
        if len(self.corners) != 4 or any(len(one) != 2 for one in self.corners):
            raise InputError(f"{self.called} has {len(self.corners)} entries: four of [x, y] are accepted")
        slack = OUTSIDE * self.width
        for name, (x, y) in zip(NAMED[self.called], self.corners, strict=True):
            if not (-slack <= x <= self.width + slack and -slack <= y <= self.height + slack):
                raise InputError(
                    f"{self.called}: the {name} one is ({x:g}, {y:g}): places within the photo's "
                    f"{self.width} x {self.height} pixels are accepted"
                )
        points = np.array(self.corners)
        ahead = np.roll(points, -1, axis=0) - points
        turns = ahead[:, 0] * np.roll(ahead[:, 1], -1) - ahead[:, 1] * np.roll(ahead[:, 0], -1)
        if not (turns > 0.0).all():
            raise InputError(f"{self.called} cross or run the wrong way: {FROM[self.called]} clockwise is accepted")
        side = float(np.hypot(*ahead.T).min())
        if side < LEAST_SIDE:
            raise InputError(f"{self.called} leave a side of {side:.0f} pixels: at least {LEAST_SIDE:g} are accepted")

    @property
    def _middle(self) -> Floats:
        return np.array([self.width / 2.0, self.height / 2.0])

    @property
    def _half(self) -> float:
        return float(np.hypot(self.width, self.height)) / 2.0

    def straightened(self, points: Floats) -> Floats:
        """Where a camera without a lens's bend would have shown these places, shape (..., 2)."""
        off = (np.asarray(points, dtype=np.float64) - self._middle) / self._half
        out = off.copy()
        for _ in range(6):  # the series is small: a fixed point
            out = off / (1.0 + self.bend * (out**2).sum(axis=-1, keepdims=True))
        straight: Floats = out * self._half + self._middle
        return straight

    def bent(self, points: Floats) -> Floats:
        """Where the photo shows what stands at these straightened places, shape (..., 2)."""
        off = (np.asarray(points, dtype=np.float64) - self._middle) / self._half
        bent: Floats = off * (1.0 + self.bend * (off**2).sum(axis=-1, keepdims=True)) * self._half + self._middle
        return bent

    def places(self, across: Floats, down: Floats) -> Floats:
        """Where in the photo [px] shares across and down the picture stand, shape of both broadcast, and 2."""
        h = homography(self.straightened(np.array(self.corners)))
        u, v = np.broadcast_arrays(across, down)
        flat = np.stack([u, v, np.ones_like(u)], axis=-1) @ h.T
        return self.bent(flat[..., :2] / flat[..., 2:])

    def rim(self) -> Floats:
        """The corners, shape (4, 2)."""
        return np.array(self.corners)

    def pixels_each(self, rows: int, pings: int) -> tuple[float, float]:
        """Height and width of a cell in the photo [px]."""
        points = np.array(self.corners)
        sides = np.hypot(*(np.roll(points, -1, axis=0) - points).T)
        return float(sides[[1, 3]].mean()) / rows, float(sides[[0, 2]].mean()) / pings


def homography(corners: Floats) -> Floats:
    """The matrix that takes the unit square to four corners, top left clockwise, shape (3, 3)."""
    square = np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]])
    rows, right = [], []
    for (u, v), (x, y) in zip(square, corners, strict=True):
        rows += [[u, v, 1, 0, 0, 0, -u * x, -v * x], [0, 0, 0, u, v, 1, -u * y, -v * y]]
        right += [x, y]
    return np.append(np.linalg.solve(np.array(rows), np.array(right)), 1.0).reshape(3, 3)


def cells_of(pixels: Pixels, laid: Laid, rows: int, pings: int) -> Floats:
    """Mean light of each cell, shape (rows, pings, 3), float32: from the middle of its part of the photo.

    Several samples a cell where the photo is finer than the cells, so that noise and the screen's own grid even out.
    """
    tall, wide = laid.pixels_each(rows, pings)
    light, coarser, left, top = _light_about(pixels, laid, min(tall, wide))
    most = max(int(np.sqrt(MOST_SAMPLES / (rows * pings))), 1)
    each_down, each_across = (
        int(np.clip(np.ceil(KEPT * one / coarser), 1, min(MOST_EACH, most))) for one in (tall, wide)
    )
    total = np.zeros((rows, pings, 3), dtype=np.float32)
    for i in range(each_down):
        down = (np.arange(rows) + 0.5 + KEPT * ((i + 0.5) / each_down - 0.5)) / rows
        for j in range(each_across):
            across = (np.arange(pings) + 0.5 + KEPT * ((j + 0.5) / each_across - 0.5)) / pings
            at = (laid.places(across[None, :], down[:, None]) - (left, top)) / coarser
            total += sampled(light, at)
    return total / (each_down * each_across)


def _light_about(pixels: Pixels, laid: Laid, each_px: float) -> tuple[Floats, int, int, int]:
    """The light of the part of the photo that the picture stands in, float32; how many of its pixels are taken together
    each way, where a cell has more of them than are looked at; and where that part begins [px]."""
    points = laid.rim()
    slack = OUTSIDE * laid.width + 2.0
    left, top = (max(int(one - slack), 0) for one in points.min(axis=0))
    right, foot = (int(one + slack) + 1 for one in points.max(axis=0))
    part = pixels[top:foot, left:right]
    coarser = max(int(KEPT * each_px / MOST_EACH), 1)
    if coarser == 1:
        return LIGHT_OF_BYTE[part], 1, left, top
    height, width = part.shape[0] // coarser, part.shape[1] // coarser
    light = np.zeros((height, width, 3), dtype=np.float32)
    for i in range(coarser):
        for j in range(coarser):
            light += LIGHT_OF_BYTE[part[i : height * coarser : coarser, j : width * coarser : coarser]]
    return light / coarser**2, coarser, left, top


def sampled(light: Floats, at: Floats) -> Floats:
    """Light at places [px] of a picture of light, between its pixels by bilinear weights, shape (..., 3)."""
    height, width = light.shape[:2]
    x = np.clip(at[..., 0] - 0.5, 0.0, width - 1.001).astype(np.float32)
    y = np.clip(at[..., 1] - 0.5, 0.0, height - 1.001).astype(np.float32)
    left, top = x.astype(np.intp), y.astype(np.intp)
    fx, fy = (x - left)[..., None], (y - top)[..., None]
    flat = light.reshape(-1, 3)
    first = top * width + left
    upper = flat[first] * (1.0 - fx) + flat[first + 1] * fx
    lower = flat[first + width] * (1.0 - fx) + flat[first + width + 1] * fx
    mixed: Floats = upper * (1.0 - fy) + lower * fy
    return mixed


def as_outline(corners: Sequence[Sequence[float]], width: int, height: int, called: str = "corners") -> Outline:
    """An outline of corners as they come from outside."""
    return Outline(tuple((float(x), float(y)) for x, y in corners), width, height, called=called)
