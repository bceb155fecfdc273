"""What can be under a hole besides the water: fish by species and in schools, structure, what hangs, who else pings."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ..fields import OneOf, Span, check_fields, doc
from ..gear.lures import Lure

DEEPEST_M = 60.0
Depth = Annotated[float, Span(0.1, DEEPEST_M, "m"), doc("Below the water's surface")]
StructureKind = Literal["log", "boulder", "brush"]
HungKind = Literal["dead stick", "camera"]
STRUCTURES: dict[StructureKind, str] = {"log": "log", "boulder": "boulder", "brush": "brush pile"}
SHOAL_FORMS: dict[str, str] = {"loose": "loose school", "ball": "tight ball"}
HUNG_KINDS: dict[HungKind, str] = {"dead stick": "dead-stick line", "camera": "camera"}


@dataclass(frozen=True)
class Species:
    """A group of fish: lengths [m], where in the column it lives (0 surface, 1 bottom), cruising speed [m/s]."""

    length_m: tuple[float, float]
    home_share: tuple[float, float]
    cruise_m_s: float


# The demo's waters. Sizes, depths and speeds are invented to be believable.
SPECIES: dict[str, Species] = {
    "whitefish": Species((0.25, 0.45), (0.70, 0.95), 0.16),
    "grayling": Species((0.20, 0.38), (0.35, 0.80), 0.20),
    "char": Species((0.30, 0.60), (0.30, 0.85), 0.22),
    "burbot": Species((0.35, 0.70), (0.93, 0.99), 0.08),
    "bait": Species((0.03, 0.08), (0.25, 0.75), 0.10),
}


@dataclass(frozen=True)
class Structure:
    """Something lying on the bottom: `kind` in STRUCTURES, `aside_m` from the hole [m, -10 to 10], `height_m` [m]."""

    kind: Annotated[StructureKind, OneOf(STRUCTURES)]
    aside_m: Annotated[float, Span(-10.0, 10.0, "m")]
    height_m: Annotated[float, Span(0.1, 3.0, "m")]

    def __post_init__(self) -> None:
        check_fields(self, "structures")


@dataclass(frozen=True)
class Hung:
    """What hangs in the second hole: a dead-stick line or a camera, at `depth_m` [m below the surface]."""

    kind: Annotated[HungKind, OneOf(HUNG_KINDS)]
    depth_m: Depth

    def __post_init__(self) -> None:
        check_fields(self, "hung")

    def lure(self) -> Lure:
        """What answers: a plain dead-stick jig with bait, or a camera's housing."""
        if self.kind == "camera":
            return Lure("camera", 0.04, "steel", "camera", 0.08)
        return Lure("dead-stick jig", 0.005, "tungsten", "baited jig", 0.04)


@dataclass(frozen=True)
class Shoal:
    """Fish that mind their own business: `count` of a species, a loose school or a tight ball, round `depth_m` [m]."""

    species: Annotated[str, OneOf(SPECIES)]
    count: Annotated[int, Span(1, 60)]
    form: Annotated[str, OneOf(SHOAL_FORMS)]
    depth_m: Depth

    def __post_init__(self) -> None:
        check_fields(self, "shoals")


@dataclass(frozen=True)
class Neighbour:
    """Another unit that pings nearby."""

    distance_m: Annotated[float, Span(0.2, 50.0, "m"), doc("To its hole")]
    frequency_hz: Annotated[float, Span(20e3, 1e6, "Hz")] = 200e3
    width_deg: Annotated[float, Span(3.0, 60.0, "degrees"), doc("Full width of its beam at -3 dB")] = 12.0
    power_w: Annotated[float, Span(0.1, 5000.0, "W"), doc("Electrical power")] = 60.0
    ping_interval_s: Annotated[float, Span(0.01, 1.0, "s"), doc("Between its pings")] = 0.047

    def __post_init__(self) -> None:
        check_fields(self, "neighbours")
