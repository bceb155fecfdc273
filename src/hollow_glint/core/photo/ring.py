"""A ring in a photo: the whole column of water around a dial, from its zero on.

Four places on its outer rim, a quarter of a turn from each other, are the corners of a square on the dial, and a circle
runs through them; so the homography that takes that square to the photo takes every place of the ring there.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np

from ..checks import Floats, InputError, number
from .perspective import Outline

LEAST_SCALE: Final = 0.25  # of a turn: a shorter scale is none
LEAST_INNER, MOST_INNER = 0.2, 0.95  # of the outer radius
SHOWN: Final = 0.1  # of the ring's breadth is left out at each rim: half of a cell there is not the ring
FIRST_CORNER: Final = -0.75 * np.pi  # where the unit square's first corner stands about its middle
ABOUT: Final = 72  # places of a circle that tell where it lies


@dataclass(frozen=True)
class Ring:
    """A ring in a photo.

    square    the outline whose first corner is where the outer rim shows the top of the picture, and the others the
              rim's places a quarter, a half and three quarters of a turn on, clockwise [px]
    scale     how much of a turn the picture takes, 0.25 to 1
    inner     its inner radius as a share of the outer one
    clockwise which way depth runs

    Raises ValueError for a ring that does not lie in the photo, or of which nothing is left.
    """

    square: Outline
    scale: float = 1.0
    inner: float = 0.6
    clockwise: bool = True

    def __post_init__(self) -> None:
        number("scale", self.scale, LEAST_SCALE, 1.0, "of a turn")
        number("inner", self.inner, LEAST_INNER, MOST_INNER, "of the outer radius")
        rim = self.rim()
        slack = 0.02 * self.width
        if (rim < -slack).any() or (rim > np.array([self.width, self.square.height]) + slack).any():
            raise InputError("rim: the ring through these places runs out of the photo: all of it is needed")

    @property
    def width(self) -> int:
        """The photo's [px]."""
        return self.square.width

    def at(self, turn: Floats, radius: Floats) -> Floats:
        """Where in the photo [px] stands what is so much of a turn clockwise from the zero, at so much of the outer
        radius from the middle; shape of both broadcast, and 2."""
        angle = FIRST_CORNER + 2.0 * np.pi * np.asarray(turn)
        reach = np.sqrt(0.5) * np.asarray(radius)
        return self.square.places(0.5 + reach * np.cos(angle), 0.5 + reach * np.sin(angle))

    def places(self, across: Floats, down: Floats) -> Floats:
        """Where in the photo [px] shares of the way from the inner rim to the outer, and of the scale from its zero on,
        stand."""
        breadth = (1.0 - self.inner) * (SHOWN + (1.0 - 2.0 * SHOWN) * np.asarray(across))
        turn = self.scale * np.asarray(down)
        return self.at(turn if self.clockwise else -turn, self.inner + breadth)

    def rim(self) -> Floats:
        """Places about the outer rim [px], shape (72, 2)."""
        return self.at(np.arange(ABOUT) / ABOUT, np.ones(ABOUT))

    def pixels_each(self, rows: int, pings: int) -> tuple[float, float]:
        """Height along the ring and width across it of a cell in the photo [px]."""
        rim = self.rim()
        around = float(np.hypot(*(np.roll(rim, -1, axis=0) - rim).T).sum())
        middle = self.scale * around * (1.0 + self.inner) / 2.0
        breadth = around / (2.0 * np.pi) * (1.0 - self.inner) * (1.0 - 2.0 * SHOWN)
        return middle / rows, breadth / pings
