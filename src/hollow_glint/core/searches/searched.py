"""A search written down: from which holes it was looked when, how the head hung, and what was marked as a school.

With its scene and seed that is all there is to it: every picture can be looked at again.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

import numpy as np

from ..checks import InputError
from ..fan.head import FAN_HEADS, FanHang, FanHead
from ..fan.settings import FanSettings, check_settings
from ..fields import Len, OneOf, Span, check_fields, doc
from ..search.look import Look
from ..search.made import seen_from
from ..search.patch import Patch
from ..search.sweep import Hang, TurningHead
from .scenes import HOLES_M, LASTS_FOR_S, READY_S, SCENES, WALK_M_S, SearchHead, scene_of, scene_water

MOST_WATCHES, MOST_HANGS, MOST_MARKS = 120, 700, 40
MOST_SEED = 2**53
SAME_M = 0.5  # a look from so near is from the same hole
SLACK_S = 1.0  # clocks are told to the second


@dataclass(frozen=True)
class HungFrom:
    """How the head hung from a moment on."""

    at_s: Annotated[float, Span(0.0, LASTS_FOR_S, "s")]
    hang: Hang

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class AimedFrom:
    """How a fan was aimed and set from a moment on. Raises ValueError for settings that its head cannot have."""

    at_s: Annotated[float, Span(0.0, LASTS_FOR_S, "s")]
    head: Annotated[str, OneOf(FAN_HEADS)]
    hang: FanHang
    settings: FanSettings

    def __post_init__(self) -> None:
        check_fields(self)
        check_settings(FAN_HEADS[self.head], self.settings)


@dataclass(frozen=True)
class Watched:
    """A watch at a hole [m from the first] with one head: from when to when, and how that hung; a watch that was broken
    off and taken up again, or goes on with another head, is two."""

    east_m: Annotated[float, Span(-HOLES_M, HOLES_M, "m")]
    north_m: Annotated[float, Span(-HOLES_M, HOLES_M, "m")]
    from_s: Annotated[float, Span(0.0, LASTS_FOR_S, "s")]
    until_s: Annotated[float, Span(0.0, LASTS_FOR_S, "s")]
    hangs: Annotated[
        tuple[HungFrom, ...],
        Len(0, MOST_HANGS),
        doc("Of the head that turns, in order of time; the first from the watch's beginning. Empty with a fan"),
    ] = ()
    aims: Annotated[tuple[AimedFrom, ...], Len(0, MOST_HANGS), doc("The same of a fan; empty without one")] = ()

    def __post_init__(self) -> None:
        check_fields(self)
        if bool(self.hangs) == bool(self.aims):
            raise InputError("hangs, aims: accepted is one of them, of the head that was watched with")
        if len({one.head for one in self.aims}) > 1:
            raise InputError("aims.head: accepted is one fan in a watch; another head is another watch")
        if self.until_s < self.from_s:
            raise InputError(f"until_s is {self.until_s:g} s: accepted is no sooner than from_s, {self.from_s:g} s")
        last = self.from_s
        moments: list[HungFrom | AimedFrom] = [*self.hangs, *self.aims]
        for one in moments:
            if not last - SLACK_S <= one.at_s <= self.until_s + SLACK_S:
                raise InputError(
                    f"{'hangs' if self.hangs else 'aims'}.at_s is {one.at_s:g} s: accepted are moments in order from "
                    f"{self.from_s:g} to {self.until_s:g} s"
                )
            last = one.at_s

    @property
    def place(self) -> tuple[float, float]:
        """East and north [m]."""
        return self.east_m, self.north_m

    @property
    def head(self) -> SearchHead:
        """What was watched with."""
        return "circle" if self.hangs else "fan"

    @property
    def fan(self) -> FanHead:
        """The fan that was watched with. Raises IndexError where that was the head that turns."""
        return FAN_HEADS[self.aims[0].head]

    def hung(self, time_s: float) -> Hang:
        """How the head that turns hung at a moment [s]. Raises IndexError where a fan was watched with."""
        return ([one.hang for one in self.hangs if one.at_s <= time_s + 1e-6] or [self.hangs[0].hang])[-1]

    def aimed(self, time_s: float) -> AimedFrom:
        """How the fan was aimed at a moment [s]. Raises IndexError where the head that turns was watched with."""
        return ([one for one in self.aims if one.at_s <= time_s + 1e-6] or [self.aims[0]])[-1]

    def way_m(self, other: Watched) -> float:
        """How far it is to where another watch is kept [m]."""
        return float(np.hypot(other.east_m - self.east_m, other.north_m - self.north_m))


@dataclass(frozen=True)
class MarkedSchool:
    """What was marked as a school: when it was seen, and where in the picture of the hole that was watched then."""

    at_s: Annotated[float, Span(0.0, LASTS_FOR_S, "s")]
    bearing_deg: Annotated[float, Span(0.0, 360.0, "degrees")]
    range_m: Annotated[float, Span(0.0, 60.0, "m"), doc("Through the water")]

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Searched:
    """A search of a scene's water. Raises ValueError for watches out of order, or sooner than one can walk and drill,
    and for marks at moments when nobody watched."""

    scene: Annotated[str, OneOf(SCENES)]
    seed: Annotated[int, Span(0, MOST_SEED)]
    watches: Annotated[tuple[Watched, ...], Len(1, MOST_WATCHES)]
    marks: Annotated[tuple[MarkedSchool, ...], Len(0, MOST_MARKS)] = ()

    def __post_init__(self) -> None:
        check_fields(self)
        scene = scene_of(self.scene)
        for k, watch in enumerate(self.watches):
            if watch.head not in scene.heads:
                raise InputError(
                    f"watches[{k}] is with the {watch.head}: accepted in {scene.title} is {' or '.join(scene.heads)}"
                )
            if watch.aims and watch.aims[0].head != scene.fan:
                raise InputError(f"watches[{k}].aims.head is {watch.aims[0].head!r}: accepted is {scene.fan!r}")
        if np.hypot(*self.watches[0].place) > SAME_M:
            raise InputError("watches[0] is not at the first hole: accepted is east_m 0 and north_m 0")
        for k, (before, one) in enumerate(zip(self.watches, self.watches[1:], strict=False), 1):
            drilled = any(earlier.way_m(one) <= SAME_M for earlier in self.watches[:k])
            soonest = before.until_s + ready_after(before.way_m(one), drilled)
            if one.from_s < soonest - SLACK_S:
                raise InputError(
                    f"watches[{k}].from_s is {one.from_s:.0f} s: accepted is {soonest:.0f} s and later, when that "
                    "hole is ready"
                )
        for k, mark in enumerate(self.marks):
            if self.watch_at(mark.at_s) is None:
                raise InputError(
                    f"marks[{k}].at_s is {mark.at_s:.0f} s: accepted are moments at which a hole is watched with the "
                    f"{scene.marks_with}"
                )

    def watch_at(self, time_s: float) -> int | None:
        """Which watch that shows what can be marked was kept at a moment [s].

        The fix of a mark may be some seconds older than the touch.
        """
        with_it = scene_of(self.scene).marks_with
        for k in range(len(self.watches) - 1, -1, -1):
            one = self.watches[k]
            if one.head == with_it and one.from_s - SLACK_S <= time_s <= one.until_s + SLACK_S:
                return k
        return None

    @property
    def holes(self) -> list[list[Watched]]:
        """The watches of each hole, in the order in which they were drilled."""
        out: list[list[Watched]] = []
        for one in self.watches:
            for hole in out:
                if hole[0].way_m(one) <= SAME_M:
                    hole.append(one)
                    break
            else:
                out.append([one])
        return out

    @property
    def walked_m(self) -> float:
        """How far was walked [m]."""
        return sum(a.way_m(b) for a, b in zip(self.watches, self.watches[1:], strict=False))

    @property
    def watched_s(self) -> float:
        """How long was watched [s]."""
        return sum(one.until_s - one.from_s for one in self.watches)

    def water(self) -> Patch:
        """The water, from its first hole."""
        return scene_water(scene_of(self.scene), self.seed)


def ready_after(way_m: float, drilled: bool = False) -> float:
    """How long it takes to be ready at a hole so far off [s]: walking, and drilling where that is not done."""
    if way_m <= SAME_M:
        return 0.0
    return way_m / WALK_M_S + (0.0 if drilled else READY_S)


def look_from(water: Patch, watch: Watched, seed: int) -> Look:
    """The look of a watch, as it began."""
    here = seen_from(water, watch.east_m, watch.north_m)
    return Look(here, TurningHead(), watch.hangs[0].hang, np.random.default_rng([seed, 1]), watch.from_s)


def turns_of(water: Patch, watch: Watched, seed: int) -> Iterator[Look]:
    """The look of a watch after each turn of it, to its end, hung anew whenever it was."""
    look = look_from(water, watch, seed)
    coming = list(watch.hangs[1:])
    turned = look.time_s + look.turn_s
    while look.time_s < watch.until_s:
        until = min([turned, watch.until_s, *(one.at_s for one in coming[:1])])
        look.advance(max(until - look.time_s, 0.0))
        while coming and coming[0].at_s <= look.time_s:
            look.set(coming.pop(0).hang)
            turned = look.time_s + look.turn_s
        if look.time_s >= turned:
            yield look
            turned = look.time_s + look.turn_s
