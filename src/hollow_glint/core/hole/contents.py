"""What can be under a hole besides the water: fish by species and in schools, structure, what hangs, who else pings."""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import number, one_of
from ..gear.lures import Lure

DEEPEST_M = 60.0
STRUCTURES: dict[str, str] = {"log": "log", "boulder": "boulder", "brush": "brush pile"}
SHOAL_FORMS: dict[str, str] = {"loose": "loose school", "ball": "tight ball"}
HUNG_KINDS: dict[str, str] = {"dead stick": "dead-stick line", "camera": "camera"}


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

    kind: str
    aside_m: float
    height_m: float

    def __post_init__(self) -> None:
        one_of("structures.kind", self.kind, tuple(STRUCTURES))
        number("structures.aside_m", self.aside_m, -10.0, 10.0, "m")
        number("structures.height_m", self.height_m, 0.1, 3.0, "m")


@dataclass(frozen=True)
class Hung:
    """What hangs in the second hole: a dead-stick line or a camera, at `depth_m` [m below the surface]."""

    kind: str
    depth_m: float

    def __post_init__(self) -> None:
        one_of("hung.kind", self.kind, tuple(HUNG_KINDS))
        number("hung.depth_m", self.depth_m, 0.1, DEEPEST_M, "m")

    def lure(self) -> Lure:
        """What answers: a plain dead-stick jig with bait, or a camera's housing."""
        if self.kind == "camera":
            return Lure("camera", 0.04, "steel", "camera", 0.08)
        return Lure("dead-stick jig", 0.005, "tungsten", "baited jig", 0.04)


@dataclass(frozen=True)
class Shoal:
    """Fish that mind their own business: `count` of a species, a loose school or a tight ball, round `depth_m` [m]."""

    species: str
    count: int
    form: str
    depth_m: float

    def __post_init__(self) -> None:
        one_of("shoals.species", self.species, tuple(SPECIES))
        number("shoals.count", self.count, 1, 60)
        one_of("shoals.form", self.form, tuple(SHOAL_FORMS))
        number("shoals.depth_m", self.depth_m, 0.1, DEEPEST_M, "m")


@dataclass(frozen=True)
class Neighbour:
    """Another unit that pings nearby.

    distance_m        [m] to its hole, 0.2 to 50
    frequency_hz      [Hz], width_deg full beam width at -3 dB [degrees], power_w [W] electrical
    ping_interval_s   [s] between its pings, 0.01 to 1
    """

    distance_m: float
    frequency_hz: float = 200e3
    width_deg: float = 12.0
    power_w: float = 60.0
    ping_interval_s: float = 0.047

    def __post_init__(self) -> None:
        number("neighbours.distance_m", self.distance_m, 0.2, 50.0, "m")
        number("neighbours.frequency_hz", self.frequency_hz, 20e3, 1e6, "Hz")
        number("neighbours.width_deg", self.width_deg, 3.0, 60.0, "degrees")
        number("neighbours.power_w", self.power_w, 0.1, 5000.0, "W")
        number("neighbours.ping_interval_s", self.ping_interval_s, 0.01, 1.0, "s")
