"""Who is in a shelter: its holes from above, and at each seat a unit with a lure, as it is set now."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from typing import Annotated

import numpy as np

from ..card.known_hole import KnownHole
from ..checks import Floats, InputError
from ..fields import Span, Text, check_fields, doc
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.contents import Depth

MOST_SEATS = MOST_HOLES = 8
NEAREST_M = 0.3  # holes nearer to each other than this run together
FARTHEST_M = 50.0  # a party farther apart than this is two parties

Aside = Annotated[float, Span(-25.0, 25.0, "m"), doc("From the middle of the shelter")]


@dataclass(frozen=True)
class ShelterHole:
    """A hole from above: x to the right of the door's opposite wall, y away from the door [m]."""

    x_m: Aside
    y_m: Aside

    def __post_init__(self) -> None:
        check_fields(self, "holes")


@dataclass(frozen=True)
class Seat:
    """Someone with a unit and a lure. `hole` counts from 0, None for someone who has none yet.

    now   how the unit is set; None for as it would be set if nobody else were there
    """

    name: Annotated[str, Text(1, 40)]
    unit: UnitProfile
    lure: Lure
    hole: Annotated[int | None, Span(0, MOST_HOLES - 1)] = None
    lure_depth_m: Annotated[Depth | None, doc("Below the surface; null: a little off bottom")] = None
    now: Settings | None = None

    def __post_init__(self) -> None:
        check_fields(self, "seats")


@dataclass(frozen=True)
class Party:
    """A shelter over one water, with its holes and seats. Raises ValueError naming what cannot be."""

    water: KnownHole
    holes: tuple[ShelterHole, ...]
    seats: tuple[Seat, ...]

    def __post_init__(self) -> None:
        if not 1 <= len(self.seats) <= MOST_SEATS:
            raise InputError(f"seats has {len(self.seats)} entries: accepted are 1 to {MOST_SEATS}")
        if not len(self.seats) <= len(self.holes) <= MOST_HOLES:
            raise InputError(
                f"holes has {len(self.holes)} entries: accepted are {len(self.seats)}, one for each seat, "
                f"to {MOST_HOLES}"
            )
        for i, j in combinations(range(len(self.holes)), 2):
            if not NEAREST_M <= self.apart_m[i, j] <= FARTHEST_M:
                raise InputError(
                    f"holes {i + 1} and {j + 1} are {self.apart_m[i, j]:.2f} m apart: "
                    f"accepted are {NEAREST_M:g} to {FARTHEST_M:g} m"
                )
        taken: dict[int, str] = {}
        for one in self.seats:
            if one.hole is None:
                continue
            if one.hole >= len(self.holes):
                raise InputError(
                    f"seats.hole is {one.hole} for {one.name}: accepted are 0 to {len(self.holes) - 1}, the holes there"
                )
            if one.hole in taken:
                raise InputError(
                    f"seats.hole is {one.hole} for {taken[one.hole]} and for {one.name}: accepted is one seat a hole"
                )
            taken[one.hole] = one.name
        deep = self.water.scene().bottom_range_m
        for one in self.seats:
            if deep > one.unit.ranges_m[-1]:
                raise InputError(
                    f"depth_m is {self.water.depth_m:g} m: the largest range of {one.name}'s unit is "
                    f"{one.unit.ranges_m[-1]:g} m"
                )

    @cached_property
    def apart_m(self) -> Floats:
        """How far [m] the holes are from each other, shape (holes, holes)."""
        at = np.array([(one.x_m, one.y_m) for one in self.holes])
        apart: Floats = np.hypot(*(at[:, None, :] - at[None, :, :]).transpose(2, 0, 1))
        return apart
