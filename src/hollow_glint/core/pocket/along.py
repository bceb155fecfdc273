"""What is taken along: the units, lures, waters, lights and company for which everything is worked out beforehand."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import product
from typing import Final

from ..card.known_hole import LIGHTS, KnownHole
from ..checks import InputError, one_of
from ..gear.lures import Lure
from ..gear.unit import UnitProfile
from ..hole.contents import Neighbour
from ..hole.scene import CLARITY_DB

STEP_M: Final = 0.25
SHALLOWEST_M, DEEPEST_M = 2.0, 25.0
DEPTHS_M: Final = tuple(SHALLOWEST_M + STEP_M * k for k in range(round((DEEPEST_M - SHALLOWEST_M) / STEP_M) + 1))
MOST_COMBINATIONS: Final = 10  # a sheet of more would be larger than a phone should be sent
# Who else may be about: units as most people have. Common practice, no source.
COMPANY: Final[dict[str, tuple[Neighbour, ...]]] = {
    "alone": (),
    "one near": (Neighbour(4.0),),
    "several near": (Neighbour(3.0, ping_interval_s=0.047), Neighbour(5.0, width_deg=20.0, ping_interval_s=0.051),
                     Neighbour(8.0, width_deg=9.0, power_w=100.0, ping_interval_s=0.043)),
}  # fmt: skip


@dataclass(frozen=True)
class Combination:
    """One choice of each, by its place in the lists of `Along`."""

    unit: int
    lure: int
    clarity: int
    light: int
    company: int


@dataclass(frozen=True)
class Along:
    """The lists, and the water they are for: its `depth_m`, clarity, light and neighbours stand for nothing here.

    Raises ValueError naming a list that is empty, says something twice, or holds what is not known, and where all
    together are more than MOST_COMBINATIONS.
    """

    water: KnownHole
    units: tuple[UnitProfile, ...]
    lures: tuple[Lure, ...]
    clarities: tuple[str, ...]
    lights: tuple[str, ...]
    companies: tuple[str, ...] = ("alone",)

    def __post_init__(self) -> None:
        for name in ("units", "lures", "clarities", "lights", "companies"):
            given = getattr(self, name)
            if not given:
                raise InputError(f"{name} is empty: accepted is one at least")
            if len(set(given)) != len(given):
                raise InputError(f"{name} names the same twice: accepted is each once")
        for name, known in (("clarities", CLARITY_DB), ("lights", LIGHTS), ("companies", COMPANY)):
            for one in getattr(self, name):
                one_of(name, one, tuple(known))
        if self.count > MOST_COMBINATIONS:
            raise InputError(
                f"units, lures, clarities, lights and companies make {self.count} combinations: accepted are "
                f"{MOST_COMBINATIONS} at most"
            )

    @property
    def count(self) -> int:
        """How many combinations there are."""
        return len(self.units) * len(self.lures) * len(self.clarities) * len(self.lights) * len(self.companies)

    def combinations(self) -> Iterator[Combination]:
        """All of them: units first, company last."""
        lists = (self.units, self.lures, self.clarities, self.lights, self.companies)
        yield from (Combination(*one) for one in product(*(range(len(each)) for each in lists)))

    def at(self, one: Combination, depth_m: float) -> KnownHole:
        """The hole of that depth in such water."""
        return replace(
            self.water, depth_m=depth_m, depth_is="true", lure_depth_m=None, clarity=self.clarities[one.clarity],
            light=self.lights[one.light], neighbours=COMPANY[self.companies[one.company]],
        )  # fmt: skip


def nearest_depth(depth_m: float) -> int:
    """Which of DEPTHS_M stands for a depth [m]: the nearest, of two as near the deeper.

    Raises ValueError for one that lies further outside than half a step.
    """
    if not SHALLOWEST_M - STEP_M / 2.0 <= depth_m <= DEEPEST_M + STEP_M / 2.0:
        raise InputError(f"depth_m is {depth_m:g} m: accepted are {SHALLOWEST_M:g} to {DEEPEST_M:g} m")
    return min(int((depth_m - SHALLOWEST_M) / STEP_M + 0.5), len(DEPTHS_M) - 1)
