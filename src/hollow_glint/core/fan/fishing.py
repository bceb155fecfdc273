"""Fishing in a hole with the fan looking on: the Bench's hand, lure and fish in the water that the fan shows.

The fish that come are those of the patch: each leaves its group when it is within sight of the lure's hole, does there
what fish do, and swims on out of the picture when it has had enough. The head hangs in a hole of its own; one's line
goes down another beside it, and a person may sit at a third, across from it. A pure function of seed and commands.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Final

import numpy as np

from ..bench.command import HandCommand
from ..checks import Floats
from ..fields import Span, check_fields, doc
from ..fish.day import draw_day
from ..fish.events import Event, Eyes
from ..fish.strike import Striking
from ..gear.lures import OFF_BOTTOM_M, USUAL_JIG, Lure
from ..search.patch import Patch
from ..search.to_bench import under_hole
from .frame import MOST_FRAMES_S
from .head import FanHang, FanHead
from .look import FanFrame, FanLook
from .settings import FanSettings
from .swimmers import AtTheHole, HungLure

STEP_S: Final = 0.05  # of hand, lure and fish, as on the Bench
OVER_FISH_M: Final = 0.6  # the lure begins so far over the first that comes. Common practice, no source
LEAST_DEEP_M: Final = 1.0  # below the head
GONE_BY_M: Final = 40.0  # a fish that has left is out of any picture
LEAVES_M_S: Final = 0.25


@dataclass(frozen=True)
class Seats:
    """Where lines go down: one's own hole is so far from the head's [m], in that direction [degrees from north]; a
    person beside, if there is one, has a hole as far on the other side and jigs at that depth [m]."""

    apart_m: Annotated[float, Span(0.0, 2.0, "m"), doc("From the head's hole to one's own")] = 0.9
    bearing_deg: Annotated[float, Span(0.0, 360.0, "degrees"), doc("In which direction one's own is, from north")] = 0.0
    beside_m: Annotated[
        float | None, Span(0.2, 60.0, "m"), doc("How deep the jig of a person beside hangs; null for nobody")
    ] = None

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def own_m(self) -> tuple[float, float]:
        """One's own hole, east and north of the head's [m]."""
        turn = np.radians(self.bearing_deg)
        return float(self.apart_m * np.sin(turn)), float(self.apart_m * np.cos(turn))


@dataclass(frozen=True)
class _Theirs:
    """The other's jig as one's own fish sense it."""

    hung: HungLure
    x_m: float
    y_m: float

    @property
    def size_m(self) -> float:
        return self.hung.lure.size_m

    def depth_at(self, time_s: float) -> float:
        return self.hung.depth_at(time_s)


@dataclass(frozen=True, eq=False)
class Fished:
    """How things stand after a step: the hand's side of it, and what happened."""

    lure_depth_m: float
    rising_m_s: float
    target_depth_m: float
    rod_tip_bend: float
    rod_tip: str
    eyes: Eyes
    events: tuple[Event, ...]


class FanFishing:
    """Fishing that goes on. `advance` it; `look` is the fan with its picture, `fished` how things stand."""

    def __init__(  # noqa: PLR0913 - all that a start is made of
        self,
        patch: Patch,
        head: FanHead,
        hang: FanHang,
        settings: FanSettings,
        rng: np.random.Generator,
        seats: Seats,
        lure: Lure = USUAL_JIG,
        at_s: float = 0.0,
        lure_depth_m: float | None = None,
    ) -> None:
        """Begin at `at_s` [s] on the patch's clock, which is counted from the head's hole, with the lure still at a
        depth [m], or over the first fish that comes. Raises ValueError for settings that the head cannot have and for a
        hole where there is no water to fish."""
        self.seats, self.lure = seats, lure
        own = seats.own_m
        there = under_hole(patch, *own, at_s)
        self._who, self._due = there.who, np.array([one.at_s for one in there.comers])
        self._start_s = at_s
        scene = replace(there.scene, ice_thickness_m=hang.ice_m, face_depth_m=max(hang.depth_m, hang.ice_m + 0.05))
        if lure_depth_m is None:
            first = there.comers[0].home_m - OVER_FISH_M if there.comers else scene.bottom_depth_m - OFF_BOTTOM_M
            lure_depth_m = max(first, scene.face_depth_m + LEAST_DEEP_M)
        others: tuple[HungLure, ...] = ()
        theirs = None
        if seats.beside_m is not None:
            others = (HungLure(-own[0], -own[1], min(seats.beside_m, scene.bottom_depth_m - 0.1)),)
            theirs = _Theirs(others[0], -2.0 * own[0], -2.0 * own[1])
        picture, luck = rng.spawn(2)
        day = draw_day("hot", scene.ice_thickness_m, scene.bottom_depth_m, luck)
        self.striking = Striking(scene, lure, day, "braid", luck, lure_depth_m, there.comers, theirs)
        self.eyes: Eyes = "sonar"
        self.target_depth_m = 0.0
        self._others = others
        self._steps = 0
        self._rising_m_s = 0.0
        self._was: dict[int, Floats] = {}
        self._hooked: set[int] = set()
        self._leaving: list[tuple[Floats, Floats, float]] = []  # place, velocity, length
        self.look = FanLook(patch, head, hang, settings, picture, self._lures(), at_s)
        self.fished = self._stands(())

    @property
    def time_s(self) -> float:
        """Since one began to fish [s]."""
        return self._steps * STEP_S

    @property
    def bottom_depth_m(self) -> float:
        """How deep it is under one's own hole [m]."""
        return self.striking.scene.bottom_depth_m

    def _lures(self) -> tuple[HungLure, ...]:
        east, north = self.seats.own_m
        swing = self.striking.swing
        mine = HungLure(east + swing.x, north + swing.y, max(self.striking.lure_depth_m, 0.2), 0.0, 3.0, self.lure)
        return (mine, *self._others)

    def advance(
        self, seconds: float, commands: Sequence[HandCommand] = (), newest_only: bool = False
    ) -> list[FanFrame]:
        """All frames of the next `seconds` [s], or with `newest_only` those that anyone will see; the commands are
        obeyed at once."""
        events: list[Event] = []
        for command in commands:
            self.eyes = command.eyes or self.eyes
            if command.target_depth_m is not None:
                self.target_depth_m = command.target_depth_m
            events += self.striking.obey(self.time_s, command)
        frames = []
        for _ in range(max(round(seconds / STEP_S), 1)):
            before = self.striking.lure_depth_m
            events += self.striking.move(self.time_s, STEP_S)
            self._rising_m_s = (before - self.striking.lure_depth_m) / STEP_S
            self._steps += 1
            self.look.came, self.look.lures = self._came(), self._lures()
            if not newest_only:
                frames += self.look.advance(STEP_S)
        if newest_only:
            frames = self.look.advance(self._start_s + self.time_s - self.look.time_s, newest_only=True)
        self.fished = self._stands(tuple(events))
        return frames

    def _stands(self, events: tuple[Event, ...]) -> Fished:
        strike = self.striking
        return Fished(
            strike.lure_depth_m, self._rising_m_s, self.target_depth_m, strike.tip.bend, strike.tip.says, self.eyes,
            events,
        )  # fmt: skip

    def _came(self) -> AtTheHole:
        """Who has come, and who of them has swum on since, as the fan meets them."""
        east, north = self.seats.own_m
        now: dict[int, Floats] = {}
        length, heading = [], []
        for fish in self.striking.truths():
            place = np.array([fish.x + east, fish.y + north, fish.z])
            step = place - self._was.get(fish.who, place)
            to_lure = np.array([-fish.x, -fish.y])
            way = step[:2] if np.hypot(*step[:2]) > 0.05 * STEP_S else to_lure
            now[fish.who] = place
            if fish.mood == "hooked":
                self._hooked.add(fish.who)
            length.append(fish.length_m)
            heading.append(float(np.arctan2(way[0], way[1])))
        self._see_off(now)
        self._was = now
        self._leaving = [
            (place + velocity * STEP_S, velocity, one)
            for place, velocity, one in self._leaving
            if np.hypot(*place[:2]) < GONE_BY_M
        ]
        places = [*now.values(), *(place for place, _, _ in self._leaving)]
        length += [one for _, _, one in self._leaving]
        heading += [float(np.arctan2(v[0], v[1])) for _, v, _ in self._leaving]
        taken = frozenset(self._who[k] for k in np.flatnonzero(self._due <= self.time_s - STEP_S + 1e-9))
        return AtTheHole(
            np.array(places).reshape(-1, 3), np.array(length, dtype=np.float64), np.array(heading, dtype=np.float64),
            taken,
        )  # fmt: skip

    def _see_off(self, now: dict[int, Floats]) -> None:
        """Who was at the hole and is no longer swims on outwards, unless it was landed."""
        east, north = self.seats.own_m
        for who, place in self._was.items():
            out = place[:2] - np.array([east, north])
            away = float(np.hypot(*out))
            if who in now or who in self._hooked or away < 0.1:
                continue
            group, fish = self._who[who]
            length = float(self.look.patch.groups[group].length_m[fish])
            self._leaving.append((place, np.array([*(LEAVES_M_S * out / away), 0.0]), length))


def frame_due(fishing: FanFishing) -> FanFrame:
    """The newest frame; the first is made where none was due yet."""
    while fishing.look.newest is None:
        fishing.advance(1.0 / MOST_FRAMES_S)
    return fishing.look.newest
