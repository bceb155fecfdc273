"""A practised eye: what someone who knows what to look for makes of the pictures, turn after turn, and of no more.

A thing is followed from turn to turn; what it can be is the mean of what each turn says (`search.kinds`), and it is
called a school once that is likelier than not for long enough, under way, and made of several marks. The numbers were
chosen on scenes with seeds from 5000 up.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from ..checks import Floats
from ..search.along_ice import along_ice
from ..search.around import things_around
from ..search.course import Fix
from ..search.kinds import THINGS
from ..search.look import Look
from .searched import MarkedSchool

SURE = 0.5  # a mean chance from which on it is called a school
LEAST_TURNS = 3
FASTEST_M_S = 0.35
CLOSE_M = 2.0  # and how far the middle of a few marks leaps between turns
FORGOTTEN_TURNS = 3
ONE_SCHOOL_M = 20.0  # what was told nearer than this to another is taken for the same school
MARKS = 2.5  # on average
THERE = 0.8  # share of the turns in which it is seen at all: speckle that looks like a school seldom lasts
GONE_M, STRAIGHT = 2.0, 0.5  # weeds that flicker hop about, but get nowhere


@dataclass
class Followed:
    """A thing that is followed: its fixes, and the sum of what the turns said of each kind."""

    fixes: list[Fix] = field(default_factory=list)
    chances: Floats = field(default_factory=lambda: np.zeros(len(THINGS)))
    marks: int = 0
    turn: int = 0
    since: int = 0
    told_s: float | None = None

    @property
    def school(self) -> float:
        """How likely it is a school."""
        return float(self.chances[0] / max(self.chances.sum(), 1e-9))

    @property
    def is_school(self) -> bool:
        """Whether it is to be called one: likely enough, for long enough, and under way."""
        way = np.array([_on_picture(fix) for fix in self.fixes])
        gone, hops = float(np.hypot(*(way[-1] - way[0]))), float(np.hypot(*np.diff(way, axis=0).T).sum())
        many = self.marks >= MARKS * len(way) and len(way) >= THERE * (self.turn - self.since + 1)
        return many and len(way) >= LEAST_TURNS and self.school >= SURE and gone >= max(GONE_M, STRAIGHT * hops)


@dataclass(frozen=True)
class Told:
    """A school that the eye told: when, by which fix, and where it was taken to be, along the ice from the first hole
    [m]."""

    at_s: float
    fix: Fix
    east_m: float
    north_m: float

    @property
    def mark(self) -> MarkedSchool:
        """The mark that it makes of it."""
        return MarkedSchool(self.fix.time_s, self.fix.bearing_deg, self.fix.range_m)


def same_school(one: Told, two: Told) -> bool:
    """Whether two are taken for the same school."""
    return float(np.hypot(one.east_m - two.east_m, one.north_m - two.north_m)) < ONE_SCHOOL_M


class Eye:
    """Looks at the picture of one hole after each turn."""

    def __init__(self, at_m: tuple[float, float] = (0.0, 0.0)) -> None:
        """The hole is `at_m` [m] from the first."""
        self.at_m = at_m
        self.followed: list[Followed] = []
        self.turn = 0

    def see(self, look: Look) -> list[Told]:
        """The schools that this turn told, which no turn before did."""
        self.turn += 1
        step = look.turn_s
        free = [one for one in self.followed if self.turn - one.turn <= FORGOTTEN_TURNS]
        told = []
        for thing in things_around(look):
            fix = thing.fix
            mine = _nearest(free, fix, step)
            if mine is None:
                mine = Followed(since=self.turn)
                self.followed.append(mine)
            else:
                free.remove(mine)
            mine.fixes.append(fix)
            can_be = {one.kind: one.chance for one in thing.kinds}
            mine.chances = mine.chances + np.array([can_be[kind] for kind in THINGS])
            mine.marks += len(thing.marks)
            mine.turn = self.turn
            if mine.told_s is None and mine.is_school:
                mine.told_s = look.time_s
                told.append(Told(look.time_s, fix, *self._place(look, fix)))
        return told

    def _place(self, look: Look, fix: Fix) -> tuple[float, float]:
        """Where along the ice a fix is taken to be, half way between the least and the most."""
        span = along_ice(fix.range_m, look.hang.depth_m, look.patch.deepest(look.hang.range_m))
        away = 0.5 * ((span.low_m or 0.0) + (span.high_m or 0.0))
        turn = np.radians(fix.bearing_deg)
        return self.at_m[0] + away * float(np.sin(turn)), self.at_m[1] + away * float(np.cos(turn))


def _nearest(free: list[Followed], fix: Fix, turn_s: float) -> Followed | None:
    """Which followed thing a fix is of."""
    here = _on_picture(fix)
    best, least = None, np.inf
    for one in free:
        last = one.fixes[-1]
        away = float(np.hypot(*(_on_picture(last) - here)))
        if away < min(least, CLOSE_M + FASTEST_M_S * min(fix.time_s - last.time_s, FORGOTTEN_TURNS * turn_s)):
            best, least = one, away
    return best


def _on_picture(fix: Fix) -> Floats:
    turn = np.radians(fix.bearing_deg)
    return fix.range_m * np.array([np.sin(turn), np.cos(turn)])
