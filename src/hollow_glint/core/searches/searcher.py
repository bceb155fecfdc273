"""A practised searcher: watches for two minutes, marks what the eye tells, then drills where it has not looked.

With a fan it turns the handle all round instead; with both heads it aims the fan at what the circle told, and marks
what that shows. It has nothing but the pictures and the water's outline; whoever searched the same water is shown
beside it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..checks import Floats
from ..search.course import Fix
from ..search.patch import Patch
from ..search.sweep import Hang
from .eye import Eye, Told, same_school
from .fan_scan import Scan
from .scenes import HALF_M, HOLES_M, LASTS_FOR_S, READY_S, SCHOOLS, WALK_M_S, SearchScene, scene_water
from .searched import HungFrom, Searched, Watched, ready_after, turns_of

HANG = Hang(range_m=25.0, gain_db=33.0)
# The clock of `search.stay_or_go` takes what is in sight for seen at once, and with so short ways would go at once; the
# eye needs some turns. Of 40 to 240 s, tried on scenes with seeds from 5000 up, two minutes found most.
WATCH_S = 120.0
# With a fan to aim there is no need to be sure: some turns, and a look at each thing that may be a school.
TURNS_S, LEAST_FIXES, WORTH_AIMING, MOST_AIMED = 42.0, 2, 0.1, 5
LEAST_S = 40.0  # less is not worth a hole
TRIED_M = 5.0  # between the places that are tried for a hole
CELL_M = 4.0


@dataclass(frozen=True)
class Way:
    """How the searcher did it: its search, and when it told each school [s]."""

    searched: Searched
    told: tuple[Told, ...]


def search(scene: SearchScene, seed: int, tell: Callable[[float], None] = lambda _: None) -> Way:
    """Search the water of a scene. `tell` hears how far it has got, 0 to 1."""
    water = scene_water(scene, seed)
    watches: list[Watched] = []
    told: list[Told] = []
    here: Floats = np.zeros(2)
    ready = 0.0
    scan = Scan(water, scene.fan, seed) if "fan" in scene.heads else None
    reach_m = scan.reach_m if scan is not None and scene.heads == ("fan",) else HANG.range_m
    while True:
        at = float(here[0]), float(here[1])
        if scan is not None and scene.heads == ("fan",):
            watch, new = scan.all_round(at, ready, told, SCHOOLS)
            new_watches = [watch]
        elif scan is not None:
            watch, things = _turns(water, at, ready, seed)
            then, new = scan.at_each(at, watch.until_s, things, told)
            new_watches = [watch, *then]
        else:
            watch, new = _watch(water, at, ready, seed, told)
            new_watches = [watch]
        watches += new_watches
        told += [one for one in new if not _known(one, told)]
        until = watches[-1].until_s
        tell(until / LASTS_FOR_S)
        if len(told) >= SCHOOLS:
            break
        to = next_hole(np.array([one.place for one in watches]), here, reach_m)
        ready = until + ready_after(float(np.hypot(*(to - here))))
        if ready + LEAST_S > LASTS_FOR_S:
            break
        here = to
    marks = tuple(one.mark for one in told)
    return Way(Searched(scene.key, seed, tuple(watches), marks), tuple(told))


def _turns(water: Patch, at_m: tuple[float, float], from_s: float, seed: int) -> tuple[Watched, list[Fix]]:
    """Some turns all round at a hole [m], and where the fan is to look then: the likeliest to be a school first."""
    until = min(from_s + TURNS_S, LASTS_FOR_S)
    watch, eye = Watched(*at_m, from_s, until, (HungFrom(from_s, HANG),)), Eye(at_m)
    for look in turns_of(water, watch, seed):
        eye.see(look)
    there = [one for one in eye.followed if one.turn >= eye.turn - 1 and len(one.fixes) >= LEAST_FIXES]
    there = sorted((one for one in there if one.school >= WORTH_AIMING), key=lambda one: -one.school)
    return watch, [one.fixes[-1] for one in there[:MOST_AIMED]]


def _watch(
    water: Patch, place: tuple[float, float], from_s: float, seed: int, before: list[Told]
) -> tuple[Watched, list[Told]]:
    """Watch at a hole until all are told or it is time to go on; and the schools told there."""
    whole = Watched(*place, from_s, LASTS_FOR_S, (HungFrom(from_s, HANG),))
    eye, new = Eye(place), list[Told]()
    for look in turns_of(water, whole, seed):
        new += [one for one in eye.see(look) if not _known(one, [*before, *new])]
        if len(before) + len(new) >= SCHOOLS or look.time_s - from_s >= WATCH_S:
            return Watched(*place, from_s, look.time_s, whole.hangs), new
    return whole, new


def _known(one: Told, others: list[Told]) -> bool:
    """Whether it is taken for a school that was told before."""
    return any(same_school(one, two) for two in others)


def next_hole(looked_from: Floats, here: Floats, radius_m: float = HANG.range_m) -> Floats:
    """The place (2,) [m] that shows the most water not yet looked at for the time that it takes to be ready there, from
    where one stands; `looked_from` (holes, 2) [m]."""
    cells = np.arange(-HALF_M + CELL_M / 2.0, HALF_M, CELL_M)
    east, north = (one.ravel() for one in np.meshgrid(cells, cells))
    unseen = np.ones(east.size, dtype=bool)
    for at in looked_from:
        unseen &= np.hypot(east - at[0], north - at[1]) > radius_m
    axis = np.arange(-HOLES_M, HOLES_M + 0.1, TRIED_M)
    tried = np.stack(np.meshgrid(axis, axis), axis=-1).reshape(-1, 2)
    shown = (np.hypot(tried[:, :1] - east[unseen], tried[:, 1:] - north[unseen]) <= radius_m).sum(axis=1)
    takes = np.hypot(*(tried - here).T) / WALK_M_S + READY_S + WATCH_S
    return np.asarray(tried[int((shown / takes).argmax())])
