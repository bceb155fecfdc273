"""From echo levels to the fan's picture: what each control does to it, one after another, in the order of the signal.

Levels are evened out with range; then repeats, water and what is near are taken away, what is left is drawn out in
time, cut into steps, and laid on the plane. Numbers, net and colours are laid over it and change no step.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..gear.ladders import dimmed
from ..search.sweep import FIRST_DB
from .frame import frame_time
from .head import AXIS_DEG, FanHang, FanHead
from .settings import FAN_LADDERS, FanSettings
from .water import BINS, FanWater

STEPS: Final = 30
GROUND: Final = STEPS + 1  # the one shade below the bottom
DAMPING_DB: Final = 46.0  # at the head; nothing at the damping's end
CLUTTER_DB: Final = 3.0  # over the water round it, for each step
TAIL_DB_S: Final = (np.inf, 30.0, 12.0, 5.0)  # how fast a mark that has gone dies away
GROUND_OVER_DB: Final = 14.0  # the bottom is so much brighter than the water over it
PAST_RINGING_M: Final = 0.6


@dataclass(frozen=True, eq=False)
class FanPicture:
    """One picture: steps (beams, BINS), 0 dark to STEPS, GROUND where it is shaded; where its beams are drawn
    [degrees from level ahead, downwards]; and what is laid over it."""

    steps: NDArray[np.uint8]
    beams_deg: Floats
    reach_m: float
    lines_ahead_m: tuple[float, ...]
    lines_deep_m: tuple[float, ...]
    numbers_ahead_m: tuple[float, ...]
    numbers_deep_m: tuple[float, ...]
    heading_deg: float | None
    dark: str
    colours: tuple[str, ...]


class Painter:
    """Makes pictures of frames, and keeps what rejection and tails need of those before."""

    def __init__(self) -> None:
        self._before: list[NDArray[np.float32]] = []
        self._tail: NDArray[np.float32] | None = None
        self._edges: tuple[tuple[object, ...], NDArray[np.bool_]] | None = None

    def forget(self) -> None:
        """The head or the reach has changed: what was before is of another picture."""
        self._before = []
        self._tail = None

    def paint(
        self, level_db: NDArray[np.float32], here: FanWater, head: FanHead, hang: FanHang, settings: FanSettings
    ) -> NDArray[np.uint8]:
        """Steps of a frame (beams, BINS); frames come in order. Raises nothing for settings that were checked."""
        level = level_db + here.even_db
        level = self._agreed(level, settings.repeats)
        if settings.damping_m > 0.0:
            near = np.maximum(1.0 - here.range_m / settings.damping_m, 0.0)
            level = level - (DAMPING_DB * near).astype(np.float32)
        if settings.clutter:
            water = np.median(level, axis=0) + np.float32(CLUTTER_DB * settings.clutter)
            level = np.where(level >= water, level, np.float32(-300.0))
        if settings.tails:
            fall = np.float32(TAIL_DB_S[settings.tails] * frame_time(here.reach_m, here.sound_speed_m_s))
            if self._tail is not None and self._tail.shape == level.shape:
                level = np.maximum(level, self._tail - fall)
            self._tail = level
        first = here.source_db - FIRST_DB - settings.gain_db
        step = settings.strong_db / STEPS
        found = np.floor((level - np.float32(first)) * np.float32(1.0 / step)) + np.float32(1.0)
        steps: NDArray[np.uint8] = np.clip(found, 0.0, STEPS, out=found).astype(np.uint8)
        if settings.weak_steps:
            steps[steps <= settings.weak_steps] = 0
        if settings.ground:
            shade(steps, level, here)
        steps[self._outside(here, head, hang, settings)] = 0
        return steps

    def _outside(self, here: FanWater, head: FanHead, hang: FanHang, settings: FanSettings) -> NDArray[np.bool_]:
        """Which cells lie beyond the picture's edges; worked out anew where one of them has moved."""
        key = (here.reach_m, head, hang, settings.ahead_m, settings.behind_m, settings.deep_m, settings.levelling)
        if self._edges is None or self._edges[0] != key:
            self._edges = key, ~in_picture(here, head, hang, settings)
        return self._edges[1]

    def _agreed(self, level: NDArray[np.float32], repeats: int) -> NDArray[np.float32]:
        """What the newest frames have in common: the lowest of them."""
        if repeats == 0:
            self._before = []
            return level
        self._before = [*self._before, level][-(repeats + 1) :]
        if len({one.shape for one in self._before}) > 1:
            self._before = [level]
        return np.asarray(np.minimum.reduce(self._before))


def shown_deg(head: FanHead, hang: FanHang, settings: FanSettings) -> Floats:
    """Where the beams are drawn (beams,) [degrees from level ahead]: as the head should hang, or as it does."""
    middle = hang.axis_deg if settings.levelling else AXIS_DEG[hang.mounting]
    return np.asarray(head.beams_deg + middle)


def places(here: FanWater, head: FanHead, hang: FanHang, settings: FanSettings) -> tuple[Floats, Floats]:
    """How far ahead and how deep [m] each cell of the picture is drawn, both (beams, BINS)."""
    angle = np.radians(shown_deg(head, hang, settings))[:, None]
    return here.range_m * np.cos(angle), hang.depth_m + here.range_m * np.sin(angle)


def in_picture(here: FanWater, head: FanHead, hang: FanHang, settings: FanSettings) -> NDArray[np.bool_]:
    """Which cells lie within the picture's edges (beams, BINS)."""
    ahead, deep = places(here, head, hang, settings)
    return np.asarray((ahead <= settings.ahead_m) & (ahead >= -settings.behind_m) & (deep <= settings.deep_m))


def shade(steps: NDArray[np.uint8], level: NDArray[np.float32], here: FanWater) -> None:
    """Shade everything below the bottom, in place: the unit takes the first strong rise of each beam for it."""
    past = int(PAST_RINGING_M / here.bin_m) + 1
    over = level - np.median(level, axis=1, keepdims=True)
    over[:, :past] = -300.0
    strong = over >= GROUND_OVER_DB
    found = strong.any(axis=1)
    first = np.where(found, strong.argmax(axis=1), BINS)
    # One beam alone is no bottom: the middle of three.
    around = np.stack([np.roll(first, -1), first, np.roll(first, 1)])
    bottom = np.median(around, axis=0).astype(np.intp) + max(int(0.3 / here.bin_m), 1)
    steps[np.arange(BINS) >= bottom[:, None]] = GROUND


def every(step_m: float, low_m: float, high_m: float) -> tuple[float, ...]:
    """Multiples of a step from low to high [m]; none for no step."""
    if step_m <= 0.0:
        return ()
    return tuple(float(k * step_m) for k in range(int(np.ceil(low_m / step_m)), int(np.floor(high_m / step_m)) + 1))


def numbered(span_m: float) -> float:
    """How far apart numbers stand on an axis so long [m]."""
    return next(one for one in (1.0, 2.0, 5.0, 10.0, 20.0) if span_m / one <= 8.0 or one == 20.0)


def picture(
    steps: NDArray[np.uint8], head: FanHead, hang: FanHang, settings: FanSettings, theme: str = "lantern"
) -> FanPicture:
    """A picture with all that is laid over it, in the colours of "rime" or "lantern"."""
    across, deep = settings.ahead_m + settings.behind_m, settings.deep_m
    wants = settings.numbers
    ladder = FAN_LADDERS[settings.ladder]
    dark, *colours = dimmed(ladder.colours(theme), settings.screen)
    return FanPicture(
        steps,
        shown_deg(head, hang, settings),
        settings.reach_m,
        every(settings.square_m, -settings.behind_m, settings.ahead_m),
        every(settings.square_m, 0.0, deep),
        every(numbered(across), -settings.behind_m, settings.ahead_m) if wants in ("distance", "both") else (),
        every(numbered(deep), 0.0, deep) if wants in ("depth", "both") else (),
        hang.looks_deg if settings.heading else None,
        dark,
        tuple(colours),
    )
