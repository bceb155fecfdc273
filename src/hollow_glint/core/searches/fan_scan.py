"""How a practised searcher goes about with a fan: the handle turned a little, some frames, on; longer where marks are.

What always shows at an aim (`fan.reading`) is the bed, timber and brush; what does not, swims. Several such marks close
together are a school, two or three may be hunters. The numbers were chosen on scenes with seeds from 5000 up.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..fan.card import card_at
from ..fan.head import FAN_HEADS, FanHang
from ..fan.look import FanLook
from ..fan.lures_heard import Blob
from ..fan.measure import RANGE_SD_M, RANGE_SHARE
from ..fan.reading import Clutter, swimming
from ..search.course import Fix
from ..search.made import seen_from
from ..search.patch import Patch
from .eye import Told, same_school
from .scenes import LASTS_FOR_S
from .searched import AimedFrom, Watched

READING_S, FRAMES = 0.5, 2  # from reading to reading, and of how many frames one is
FEW = 2  # where the first reading in which all that stands is known shows fewer marks it goes on
DWELL_S = 4.5
TURN_S = 0.5  # for the handle
OVERLAP = 0.8  # of the fan's thickness from aim to aim
TOGETHER_M = 3.0
MARKS = 3.5  # so many on average within that are a school
THERE = 0.6  # share of the readings in which some are there
NEAREST_M = 2.0
ASIDE_DEG = (0.0, 9.0, -9.0)  # where it looks for what the circle showed
NEAR_TOLD_M = 6.0  # how far from there through the water it may be by now


@dataclass(frozen=True)
class InPlane:
    """Several swimming marks together: when [s], and how far ahead and through the water [m]."""

    time_s: float
    ahead_m: float
    range_m: float


class Scan:
    """One fan in the water of a scene, set by its card for searching."""

    def __init__(self, water: Patch, fan: str, seed: int) -> None:
        """`fan` is a key of `FAN_HEADS`."""
        self._water, self._fan, self._seed = water, fan, seed
        self._head = FAN_HEADS[fan]
        card = card_at(water.bottom_depth_m, water.clarity, "search", self._head)
        self._hang, self._settings = card.hang, card.settings
        self._looks = 0

    @property
    def reach_m(self) -> float:
        """How far it looks [m]."""
        return self._settings.ahead_m

    def all_round(
        self, at_m: tuple[float, float], from_s: float, before: list[Told], wanted: int
    ) -> tuple[Watched, list[Told]]:
        """The handle turned once round at a hole [m], until with those told `before` `wanted` schools are told; the new
        ones."""
        here = seen_from(self._water, *at_m)
        step = 360.0 / np.ceil(360.0 / (OVERLAP * self._head.thickness_deg))
        aims: list[AimedFrom] = []
        told: list[Told] = []
        now = from_s
        for aim_deg in np.arange(0.0, 360.0 - 1e-6, step):
            if now + DWELL_S + TURN_S > LASTS_FOR_S:
                break
            aims.append(self._aimed(now, float(aim_deg)))
            now, seen = self._look_along(here, aims[-1].hang, now)
            # The same school shows in the next aim too: it is told once.
            for one in seen:
                new = self._told(at_m, aims[-1].hang, one)
                if not any(same_school(new, other) for other in [*before, *told]):
                    told.append(new)
            now += TURN_S
            if len(before) + len(told) >= wanted:
                break
        return Watched(*at_m, from_s, now, (), tuple(aims or [self._aimed(from_s, 0.0)])), told

    def at_each(
        self, at_m: tuple[float, float], from_s: float, things: list[Fix], before: list[Told]
    ) -> tuple[list[Watched], list[Told]]:
        """The fan aimed at each thing that the circle showed from a hole [m]; the schools that it shows there and that
        were not told `before`."""
        here = seen_from(self._water, *at_m)
        aims: list[AimedFrom] = []
        found: list[Told] = []
        now = from_s
        for one in things:
            for aside in ASIDE_DEG:
                if now + DWELL_S + TURN_S > LASTS_FOR_S:
                    break
                aims.append(self._aimed(now, (one.bearing_deg + aside) % 360.0))
                now, seen = self._look_along(here, aims[-1].hang, now)
                now += TURN_S
                near = [each for each in seen if abs(each.range_m - one.range_m) <= NEAR_TOLD_M]
                if near:
                    new = self._told(at_m, aims[-1].hang, near[0])
                    if not any(same_school(new, other) for other in [*before, *found]):
                        found.append(new)
                    break
        return [Watched(*at_m, from_s, now, (), tuple(aims))] if aims else [], found

    def _aimed(self, at_s: float, aim_deg: float) -> AimedFrom:
        return AimedFrom(at_s, self._fan, replace(self._hang, aim_deg=aim_deg), self._settings)

    def _look_along(self, here: Patch, hang: FanHang, from_s: float) -> tuple[float, list[InPlane]]:
        """Look along one aim from a moment on [s]: until when, and the schools that stand there, the fullest first."""
        self._looks += 1
        clutter, readings, at = Clutter(), [], from_s
        for number in range(1, int(DWELL_S / READING_S) + 1):
            at = from_s + number * READING_S
            rng = np.random.default_rng([self._seed, 4, self._looks, number])
            look = FanLook(here, self._head, hang, self._settings, rng, (), at)
            look.advance((FRAMES - 0.5) * look.frame_s)
            swim = swimming(look, clutter)
            if swim is not None:
                readings.append([one for one in swim if one.ahead_m > NEAREST_M])
                if len(readings) == 1 and len(readings[0]) < FEW:
                    return at, []
        return at, _together(readings, at)

    def _told(self, at_m: tuple[float, float], hang: FanHang, one: InPlane) -> Told:
        """What stands in the plane as a school that is told, in the middle of the fan's thickness."""
        turn = np.radians(hang.looks_deg)
        bearing_sd, range_sd = self._head.thickness_deg / 4.0, RANGE_SD_M + RANGE_SHARE * one.range_m
        return Told(
            one.time_s, Fix(one.time_s, hang.aim_deg, one.range_m, bearing_sd, range_sd),
            at_m[0] + one.ahead_m * float(np.sin(turn)), at_m[1] + one.ahead_m * float(np.cos(turn)),
        )  # fmt: skip


def _together(readings: list[list[Blob]], now_s: float) -> list[InPlane]:
    """The schools of one aim, by all its readings, the fullest first."""
    left = [(number, one) for number, marks in enumerate(readings) for one in marks]
    out: list[InPlane] = []
    while left:
        place = np.array([(one.ahead_m, one.depth_m) for _, one in left])
        near = np.hypot(*(place[:, None] - place).transpose(2, 0, 1)) <= TOGETHER_M
        most = int(near.sum(axis=1).argmax())
        mine = [left[k] for k in np.flatnonzero(near[most])]
        if len(mine) < MARKS * len(readings):
            break
        if len({number for number, _ in mine}) >= THERE * len(readings):
            ahead, away = (float(np.mean([getattr(one, name) for _, one in mine])) for name in ("ahead_m", "range_m"))
            out.append(InPlane(now_s, ahead, away))
        left = [left[k] for k in np.flatnonzero(~near[most])]
    return out
