"""The patch of water around a hole, in three dimensions: the bed, what lies and stands on it, and who swims there.

Places are metres east and north of the hole, depths metres below the surface. A patch keeps no state: where a fish is
follows from the time alone. It is cut out of a lake's map, or made up from a seed; sizes, speeds and numbers of fish
are invented to be believable.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Literal, get_args

import numpy as np
from numpy.typing import NDArray

from ..acoustics.bottom import BOTTOM_KINDS
from ..checks import Floats
from ..ground.contours import Grid
from ..hole.contents import SPECIES
from ..lazily import Lazily

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

BEDS = tuple(BOTTOM_KINDS)
StandingKind = Literal["timber", "brush", "boulder", "rock pile", "crib", "weed edge"]
STANDING: tuple[StandingKind, ...] = get_args(StandingKind)
GroupKind = Literal["school", "hunters", "single"]
CELL_M = 1.0
HALF_M = 60.0  # a patch reaches so far to each side


@dataclass(frozen=True)
class Standing:
    """Something on the bed: where its middle is [m], how high, long and wide [m], and how it lies [degrees from north].

    A weed edge runs along its length; weeds stand to its right, as far as it is wide.
    """

    kind: StandingKind
    east_m: float
    north_m: float
    height_m: float
    length_m: float
    width_m: float
    bearing_deg: float = 0.0

    def raises(self, east_m: Floats, north_m: Floats) -> Floats:
        """How far it stands above the bed [m] at places, same shape; nothing beside it."""
        turn = np.radians(self.bearing_deg)
        along = (east_m - self.east_m) * np.sin(turn) + (north_m - self.north_m) * np.cos(turn)
        across = (east_m - self.east_m) * np.cos(turn) - (north_m - self.north_m) * np.sin(turn)
        u, v = 2.0 * along / self.length_m, 2.0 * across / self.width_m
        if self.kind == "crib":
            return np.asarray(np.where((np.abs(u) <= 1.0) & (np.abs(v) <= 1.0), self.height_m, 0.0))
        if self.kind == "timber":  # a round trunk
            return np.where(np.abs(u) <= 1.0, self.height_m * np.sqrt(np.maximum(1.0 - v**2, 0.0)), 0.0)
        dome: Floats = self.height_m * np.sqrt(np.maximum(1.0 - u**2 - v**2, 0.0))
        if self.kind == "boulder":
            return dome
        if self.kind == "rock pile":  # stones with gaps between them
            return dome * np.where(_growth(east_m, north_m, 0.5) > 0.4, 1.0, 0.2)
        # Twigs and stems: a fine, uneven growth through which one sees here and there.
        grown = _growth(east_m, north_m)
        if self.kind == "brush":
            return dome * grown
        return np.where((np.abs(u) <= 1.0) & (v >= 0.0) & (v <= 2.0), self.height_m * grown, 0.0)

    @property
    def reach_m(self) -> float:
        """How far from its middle it reaches [m]."""
        aside = self.width_m if self.kind == "weed edge" else self.width_m / 2.0
        return float(np.hypot(self.length_m / 2.0, aside))


def _growth(east_m: Floats, north_m: Floats, size_m: float = 0.12) -> Floats:
    """How far something has grown at places, 0 to 1: uneven, in clumps of a size, and always the same at a place."""
    u = np.floor(np.asarray(east_m) / size_m).astype(np.int64) & 0xFFFF
    v = np.floor(np.asarray(north_m) / size_m).astype(np.int64) & 0xFFFF
    mixed = (u * 73_856_093) ^ (v * 19_349_663)
    mixed = (mixed ^ (mixed >> 13)) * 0x5BD1E995 & 0xFFFFFFFF
    return np.asarray((mixed ^ (mixed >> 15)) & 0xFFFF, dtype=np.float64) / 0xFFFF


@dataclass(frozen=True, eq=False)
class Group:
    """Fish that swim together: a way through the patch as corners (corners, 2) [m] at times (corners,) [s], how deep,
    and each fish's length (fish,) [m], place in the group (fish, 3) [m] and wandering about it."""

    kind: GroupKind
    species: str
    length_m: Floats
    depth_m: float
    times_s: Floats
    corners_m: Floats
    offset_m: Floats
    wander_m: Floats
    turns_per_s: Floats
    phase: Floats

    def centre(self, time_s: Floats) -> Floats:
        """Where its middle is (moments, 2) [m]; before its first corner and after its last it stays there."""
        t = np.asarray(time_s, dtype=np.float64)
        return np.stack([np.interp(t, self.times_s, self.corners_m[:, k]) for k in (0, 1)], axis=-1)

    def velocity(self, time_s: Floats) -> Floats:
        """How it swims (moments, 2) [m/s], over half a second."""
        return (self.centre(np.asarray(time_s) + 0.25) - self.centre(np.asarray(time_s) - 0.25)) / 0.5

    def places(self, time_s: Floats) -> Floats:
        """Where each fish is (moments, fish, 3): east, north and depth [m]."""
        t = np.asarray(time_s, dtype=np.float64)[:, None, None]
        swing = np.sin(2.0 * np.pi * t * self.turns_per_s + self.phase)
        middle = np.concatenate([self.centre(time_s), np.full((len(time_s), 1), self.depth_m)], axis=1)
        return np.asarray(middle[:, None, :] + self.offset_m + self.wander_m * swing)

    @property
    def radius_m(self) -> float:
        """How far most of its fish are from its middle along the ice [m]."""
        return float(np.sqrt((self.offset_m[:, :2] ** 2).sum(axis=1).mean() * 2.0)) if self.length_m.size > 1 else 0.2


@dataclass(frozen=True, eq=False)
class Patch:
    """The water around a hole: depths on a grid, what the bed is made of there (numbers in BEDS), what stands on it,
    who swims."""

    grid: Grid
    bed: NDArray[np.uint8]
    standing: tuple[Standing, ...]
    groups: tuple[Group, ...]
    temperature_c: float = 1.0
    clarity: str = "clear"

    def depth_at(self, east_m: Floats, north_m: Floats) -> Floats:
        """How deep the bed is [m], without what stands on it, same shape; beyond the grid as at its rim."""
        east, north = np.broadcast_arrays(np.asarray(east_m, dtype=np.float64), np.asarray(north_m, dtype=np.float64))
        rows = (north - self.grid.south_m) / self.grid.cell_m
        columns = (east - self.grid.west_m) / self.grid.cell_m
        at = np.stack([rows.ravel(), columns.ravel()])
        return np.asarray(ndimage.map_coordinates(self._filled, at, order=1, mode="nearest")).reshape(east.shape)

    @cached_property
    def _filled(self) -> Floats:
        # Land is the shallowest water there is, so that sound ends on a beach.
        return np.nan_to_num(self.grid.depth_m, nan=0.2)

    def bed_at(self, east_m: Floats, north_m: Floats) -> NDArray[np.uint8]:
        """What the bed is made of: numbers in BEDS, same shape."""
        last_row, last_column = (n - 1 for n in self.bed.shape)
        rows = np.clip(np.rint((north_m - self.grid.south_m) / self.grid.cell_m), 0, last_row).astype(np.intp)
        columns = np.clip(np.rint((east_m - self.grid.west_m) / self.grid.cell_m), 0, last_column).astype(np.intp)
        return np.asarray(self.bed[rows, columns])

    @property
    def bottom_depth_m(self) -> float:
        """How deep it is under the hole [m]."""
        return float(self.depth_at(np.zeros(1), np.zeros(1))[0])

    def deepest(self, radius_m: float) -> float:
        """The deepest bed within a radius of the hole [m]."""
        near = np.hypot(*self.grid.places.T) <= radius_m
        return float(self._filled.ravel()[near].max())


def group_of(
    kind: GroupKind, species: str, count: int, depth_m: float, way: tuple[Floats, Floats], rng: np.random.Generator
) -> Group:
    """A group of `count` fish on a way of times [s] and corners [m], the fish drawn from `rng`.

    A school is tight and of small fish, hunters keep a few lengths apart, a single one hangs about.
    """
    shortest, longest = SPECIES[species].length_m
    small = kind == "school"
    span = (shortest, shortest + 0.3 * (longest - shortest)) if small else (0.5 * (shortest + longest), longest)
    length = rng.uniform(*span, count)
    apart = {"school": max(3.0 * float(length.mean()), 0.35), "hunters": 1.1, "single": 0.0}[kind]
    across = apart * max(count, 1) ** (1.0 / 3.0) * (0.6 if small else 0.75)
    spread = np.array([across, across, 0.45 * across])
    return Group(
        kind, species, length, depth_m, way[0], way[1],
        rng.normal(0.0, 1.0, (count, 3)) * spread,
        0.3 * max(apart, 0.15) * rng.uniform(0.3, 1.0, (count, 3)),
        rng.uniform(0.03, 0.12, (count, 3)),
        rng.uniform(0.0, 2.0 * np.pi, (count, 3)),
    )  # fmt: skip
