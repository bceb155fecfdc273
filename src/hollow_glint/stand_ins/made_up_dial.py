"""Dials that no maker builds: a ring of levels about a hub, with numbers where they may stand, in any colours."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw, ImageFont

from ..core.checks import Floats
from .made_up_screen import MadeUpScreen

SIDE = 420  # px
FINER = 2


@dataclass(frozen=True)
class Dial:
    """How a dial is laid out: its outer radius as a share of half its side; the inner one as a share of that; where its
    zero stands, a share of a turn clockwise from the top; how much of a turn its scale takes, which way; its ground and
    its ink as sRGB bytes; the size of its numbers [px], and whether they stand about the ring or in its hub."""

    outer: float = 0.78
    inner: float = 0.62
    zero: float = 0.0
    scale: float = 1.0
    clockwise: bool = True
    ground: tuple[int, int, int] = (24, 26, 30)
    ink: tuple[int, int, int] = (236, 236, 228)
    letters_px: int = 15
    about: bool = True

    def at(self, turn: Floats, radius: Floats | float) -> Floats:
        """Places [px of the dial] so much of a turn clockwise from its zero, at so much of the outer radius."""
        angle = 2.0 * np.pi * (np.asarray(turn) + self.zero) - np.pi / 2.0
        reach = np.asarray(radius) * self.outer * SIDE / 2.0
        return SIDE / 2.0 + np.stack([reach * np.cos(angle), reach * np.sin(angle)], axis=-1)

    @property
    def quarters(self) -> Floats:
        """The rim's places at its zero and at each quarter of a turn clockwise from there [px], shape (4, 2)."""
        return self.at(np.arange(4) / 4.0, 1.0)


def dial_by_chance(rng: np.random.Generator) -> Dial:
    """Some dial."""
    light = rng.random() < 0.25
    ground = tuple(
        int(one) for one in (rng.integers(190, 235) if light else rng.integers(6, 60)) + rng.integers(-5, 6, 3)
    )
    return Dial(
        outer=float(rng.uniform(0.66, 0.82)),
        inner=float(rng.uniform(0.5, 0.72)),
        zero=float(rng.uniform(0.0, 1.0)),
        scale=float(rng.choice([1.0, rng.uniform(0.6, 0.95)])),
        clockwise=bool(rng.random() < 0.8),
        ground=(ground[0], ground[1], ground[2]),
        ink=(24, 26, 30) if light else (236, 236, 228),
        letters_px=int(rng.integers(11, 20)),
        about=bool(rng.random() < 0.6),
    )


def made_up_dial(levels: NDArray[np.uint8], colours: list[str], bottom_m: float, dial: Dial) -> MadeUpScreen:
    """A dial that shows one ping, shape (rows,), the top of the picture at its zero."""
    palette = np.array([[int(one[at : at + 2], 16) for at in (1, 3, 5)] for one in colours], np.uint8)
    side = SIDE * FINER
    y, x = (np.mgrid[0:side, 0:side] + 0.5) / FINER - SIDE / 2.0
    radius = np.hypot(x, y) / (dial.outer * SIDE / 2.0)
    turn = np.arctan2(y, x) / (2.0 * np.pi) + 0.25 - dial.zero
    share = ((turn if dial.clockwise else -turn) % 1.0) / dial.scale
    row = np.clip((share * levels.size).astype(int), 0, levels.size - 1)
    on = (radius >= dial.inner) & (radius <= 1.0) & (share < 1.0)
    fine = np.where(on[..., None], palette[levels[row]], np.array(dial.ground, np.uint8))
    small = fine.reshape(SIDE, FINER, SIDE, FINER, 3).mean(axis=(1, 3))
    image = Image.fromarray(np.round(small).astype(np.uint8))
    draw = ImageDraw.Draw(image)
    font = ImageFont.load_default(float(dial.letters_px))
    for k in range(8):
        way = k / 8.0 * dial.scale * (1.0 if dial.clockwise else -1.0)
        x0, y0 = dial.at(np.array(way), 1.13 if dial.about else dial.inner - 0.16)
        draw.text((float(x0), float(y0)), f"{bottom_m * k / 8:.0f}", dial.ink, font, anchor="mm")
        a, b = dial.at(np.array([way, way]), np.array([1.02, 1.06]))
        draw.line((*map(float, a), *map(float, b)), dial.ink, 2)
    draw.text((SIDE / 2.0, SIDE / 2.0), f"{bottom_m * 0.87:.1f}", dial.ink,
              ImageFont.load_default(1.8 * dial.letters_px), anchor="mm")  # fmt: skip
    left, top = (int(one) for one in dial.quarters.min(axis=0))
    right, foot = (int(one) for one in dial.quarters.max(axis=0))
    return MadeUpScreen(np.asarray(image), (left, top, right, foot), np.zeros((levels.size, 1), dtype=bool))
