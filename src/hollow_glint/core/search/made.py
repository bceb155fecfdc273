"""Patches of water made up from a seed, and cut out of a lake's map: bed, edges, what stands there, who swims through.

Schools come in, turn, and leave, as those that swim about a basin do. All sizes are invented to be believable.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..checks import Floats
from ..ground.contours import Grid
from ..ground.soundings import Structure
from ..hole.contents import SPECIES
from .patch import BEDS, STANDING, Group, GroupKind, Patch, Standing, StandingKind, group_of

CELL_M, HALF_M = 1.0, 90.0
LASTS_S = 5400.0  # fish have a way for so long
STARTS_S = -60.0
# How high, long and wide things stand [m], least and most of each.
SIZES: dict[StandingKind, tuple[tuple[float, float], tuple[float, float], tuple[float, float]]] = {
    "timber": ((0.3, 0.6), (3.0, 7.0), (0.3, 0.6)),
    "brush": ((0.8, 1.6), (1.5, 3.0), (1.5, 3.0)),
    "boulder": ((0.7, 1.5), (1.2, 2.4), (1.2, 2.4)),
    "rock pile": ((0.6, 1.2), (3.0, 6.0), (2.5, 4.0)),
    "crib": ((1.0, 1.8), (1.8, 2.6), (1.8, 2.6)),
    "weed edge": ((0.5, 1.1), (12.0, 28.0), (3.0, 6.0)),
}
# Which fish swim in which kind of group, and how many together.
SWIMS: dict[GroupKind, tuple[tuple[str, ...], tuple[int, int]]] = {
    "school": (("grayling", "whitefish", "bait"), (14, 40)),
    "hunters": (("char", "whitefish"), (2, 4)),
    "single": (("burbot", "whitefish", "char"), (1, 1)),
}


@dataclass(frozen=True)
class Passing:
    """A straight way: where its middle is at which time [m, s], where it goes [degrees] and how fast [m/s]."""

    east_m: float
    north_m: float
    at_s: float
    heading_deg: float
    speed_m_s: float

    def way(self, rng: np.random.Generator | None = None, straight_s: float = 600.0) -> tuple[Floats, Floats]:
        """Times [s] and corners [m]: straight for `straight_s` about its moment; with a generator it turns elsewhere
        now and then."""
        times, legs = [self.at_s], list[float]()
        ahead = np.radians(self.heading_deg)
        half = straight_s / 2.0
        while times[-1] < LASTS_S:
            times.append(times[-1] + (half if len(legs) == 0 else _leg(rng)))
            legs.append(ahead)
            ahead = ahead if rng is None else ahead + float(rng.normal(0.0, 0.9))
        place = [np.array([self.east_m, self.north_m])]
        for k, turn in enumerate(legs):
            step = self.speed_m_s * (times[k + 1] - times[k])
            place.append(place[-1] + step * np.array([np.sin(turn), np.cos(turn)]))
        first = np.array([np.sin(np.radians(self.heading_deg)), np.cos(np.radians(self.heading_deg))])
        back = max(half, self.at_s - STARTS_S)
        start = place[0] - back * self.speed_m_s * first
        return np.array([self.at_s - back, *times]), np.array([start, *place])


def _leg(rng: np.random.Generator | None) -> float:
    """How long a school swims straight on [s]."""
    return LASTS_S if rng is None else float(rng.uniform(60.0, 240.0))


@dataclass(frozen=True)
class Roaming:
    """A way about a ground: within `reach_m` of its middle [m], at such a speed, for as long as fish have a way."""

    east_m: float
    north_m: float
    reach_m: float
    speed_m_s: float

    def way(self, rng: np.random.Generator | None = None, straight_s: float = 0.0) -> tuple[Floats, Floats]:
        """Times [s] and corners [m], from one place of the ground to another. Raises ValueError without a generator."""
        if rng is None:
            raise ValueError("a way about a ground needs chance: a generator is accepted")
        times, corners = [STARTS_S - straight_s], [self._somewhere(rng)]
        while times[-1] < LASTS_S:
            there = self._somewhere(rng)
            if (far := float(np.hypot(*(there - corners[-1])))) > self.reach_m / 3.0:
                times.append(times[-1] + far / self.speed_m_s)
                corners.append(there)
        return np.array(times), np.array(corners)

    def _somewhere(self, rng: np.random.Generator) -> Floats:
        side, away = rng.uniform(0.0, 2.0 * np.pi), self.reach_m * np.sqrt(rng.uniform())
        return np.array([self.east_m + away * np.sin(side), self.north_m + away * np.cos(side)])


def made_group(
    kind: GroupKind,
    goes: Passing | Roaming,
    patch_depth_m: float,
    rng: np.random.Generator,
    turns: bool = True,
    of: Sequence[str] = (),
) -> Group:
    """A group of a kind on a way, of fish that live at such a depth; of one of the species `of` where any are named."""
    kinds, (fewest, most) = SWIMS[kind]
    species = str(rng.choice(list(of) or kinds))
    deep = float(np.clip(rng.uniform(*SPECIES[species].home_share), 0.15, 0.96)) * patch_depth_m
    if kind == "single":  # it hangs about
        way = (np.array([0.0]), np.array([[goes.east_m, goes.north_m]]))
    else:
        way = goes.way(rng if turns else None)
    return group_of(kind, species, int(rng.integers(fewest, most + 1)), deep, way, rng)


SOME_BEDS = ("mud", "silt", "sand", "gravel", "rock")


def made_bed(
    rng: np.random.Generator, half_m: float = HALF_M, kinds: Sequence[str] = SOME_BEDS, edges: int | None = None
) -> tuple[Grid, Any]:
    """A bed with a slope, an edge or two unless it is said how many, and stretches of up to three of the `kinds`."""
    axis = np.arange(-half_m, half_m + CELL_M / 2.0, CELL_M)
    east, north = np.meshgrid(axis, axis)
    turn = rng.uniform(0.0, 2.0 * np.pi)
    down = east * np.sin(turn) + north * np.cos(turn)
    base = rng.uniform(5.0, 9.0)
    depth = base + rng.uniform(0.005, 0.04) * down
    for _ in range(int(rng.integers(0, 3)) if edges is None else edges):  # edges, across the slope
        depth += rng.uniform(0.6, 1.6) * np.tanh((down - rng.uniform(-40.0, 40.0)) / rng.uniform(2.5, 8.0))
    for _ in range(4):  # humps and hollows
        x, y, size = rng.uniform(-half_m, half_m), rng.uniform(-half_m, half_m), rng.uniform(8.0, 25.0)
        depth += rng.uniform(-0.8, 0.8) * np.exp(-((east - x) ** 2 + (north - y) ** 2) / (2.0 * size**2))
    names = [BEDS.index(str(one)) for one in rng.choice(kinds, min(len(kinds), 3), replace=False)]
    names += names[:1] * (3 - len(names))
    which = np.full(east.shape, names[0], dtype=np.uint8)
    bend = 8.0 * np.sin(down / 17.0)
    which[east * np.cos(turn) - north * np.sin(turn) + bend > rng.uniform(5.0, 40.0)] = names[1]
    which[down > rng.uniform(10.0, 60.0)] = names[2]
    return Grid(-half_m, -half_m, CELL_M, np.clip(depth, 2.0, 25.0)), which


def made_standing(kind: StandingKind, east_m: float, north_m: float, rng: np.random.Generator) -> Standing:
    """Something of a kind, its sizes drawn."""
    high, long, wide = (float(rng.uniform(*span)) for span in SIZES[kind])
    return Standing(kind, east_m, north_m, high, long, wide, float(rng.uniform(0.0, 360.0)))


def made_patch(
    seed: int, groups: Sequence[GroupKind] = ("school", "hunters", "single"), things: int = 4, turns: bool = True
) -> Patch:
    """A patch of water around a hole, the same each time for a seed. The groups pass in sight of the hole in their
    first minutes, and with `turns` go elsewhere now and then."""
    rng = np.random.default_rng([seed, 0x9A7C])
    grid, bed = made_bed(rng)
    patch = Patch(grid, bed, (), ())
    standing = []
    for number in rng.integers(0, len(STANDING), things):
        away, side = rng.uniform(6.0, 26.0), rng.uniform(0.0, 2.0 * np.pi)
        place = float(away * np.sin(side)), float(away * np.cos(side))
        standing.append(made_standing(STANDING[int(number)], *place, rng))
    swim = []
    for kind in groups:
        passing = _passes(rng, kind)
        depth = float(patch.depth_at(np.array([passing.east_m]), np.array([passing.north_m]))[0])
        swim.append(made_group(kind, passing, min(depth, patch.bottom_depth_m), rng, turns))
    return replace(patch, standing=tuple(standing), groups=tuple(swim))


def _passes(rng: np.random.Generator, kind: GroupKind) -> Passing:
    """A way past the hole, in sight."""
    near, side = rng.uniform(7.0, 15.0), rng.uniform(0.0, 2.0 * np.pi)
    heading = np.degrees(side) + 90.0 * rng.choice([-1.0, 1.0]) + rng.normal(0.0, 25.0)
    speed = float(rng.uniform(0.08, 0.3)) * (1.2 if kind == "hunters" else 1.0)
    return Passing(
        float(near * np.sin(side)), float(near * np.cos(side)), float(rng.uniform(20.0, 150.0)), float(heading), speed
    )


def patch_of_ground(
    grid: Grid,
    bottoms: Sequence[tuple[float, float, str]],
    structures: Sequence[Structure],
    at_m: tuple[float, float],
    seed: int,
    groups: Sequence[GroupKind] = ("school", "hunters", "single"),
) -> Patch:
    """The water around a place `at_m` (east, north) [m] of a lake's map: its depths, the nearest known bottom
    (east, north, kind), what stands there; who swims is made up from a seed.

    Where no bottom was ever felt it is taken for mud.
    """
    rng = np.random.default_rng([seed, 0x9A7C])
    moved = Grid(grid.west_m - at_m[0], grid.south_m - at_m[1], grid.cell_m, grid.depth_m)
    bed = np.full(moved.depth_m.shape, BEDS.index("mud"), dtype=np.uint8)
    if bottoms:
        felt = np.array([(east - at_m[0], north - at_m[1]) for east, north, _ in bottoms])
        kinds = np.array([BEDS.index(kind) for _, _, kind in bottoms], dtype=np.uint8)
        near = np.array([int(np.hypot(*(felt - place).T).argmin()) for place in moved.places])
        bed = kinds[near].reshape(bed.shape)
    standing = tuple(
        made_standing(one.kind, one.east_m - at_m[0], one.north_m - at_m[1], rng)
        for one in structures
        if one.kind in STANDING
    )
    patch = Patch(moved, bed, standing, ())
    swim = [made_group(kind, _passes(rng, kind), patch.bottom_depth_m, rng, turns=True) for kind in groups]
    return replace(patch, groups=tuple(swim))


def seen_from(patch: Patch, east_m: float, north_m: float) -> Patch:
    """The same water from another hole: every place counted from there [m]."""
    grid = patch.grid
    return replace(
        patch,
        grid=Grid(grid.west_m - east_m, grid.south_m - north_m, grid.cell_m, grid.depth_m),
        standing=tuple(replace(s, east_m=s.east_m - east_m, north_m=s.north_m - north_m) for s in patch.standing),
        groups=tuple(replace(g, corners_m=g.corners_m - np.array([east_m, north_m])) for g in patch.groups),
    )
