"""What is true under the hole: ice, water, bottom, the hung transducer, the lure, a fish. The start of every echo.

Co-ordinates: x and y [m] to the side of the hole's middle, z [m] downwards from the water's surface in the hole.
The transducer's face hangs at (0, 0, face_depth_m); the range the sonar shows is measured from there.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from .bottom import BOTTOM_KINDS
from .checks import Floats, InputError, number, one_of
from .targets import SOLIDS, fish_target_strength, sphere_target_strength

# Volume backscattering strength [dB re 1/m] for words people use of water. Sized so that open water at 9.4 m returns
# about 78 dB when clear and 98 dB with plankton at night on the design's 200 kHz unit. Common practice, no source.
CLARITY_DB: dict[str, float] = {"clear": -84.0, "stained": -76.0, "murky": -70.0, "plankton": -64.0}

DEEPEST_M = 60.0
# A bait or jig is never quite still on its line; its echo wanders a little from ping to ping. Common practice.
JIG_FLUCTUATION_DB = 0.8


@dataclass(frozen=True)
class Scene:
    """One hole, as it is.

    bottom_depth_m    [m] below the water's surface, 0.5 to 60
    bottom_kind       a name in BOTTOM_KINDS
    ice_thickness_m   [m], 0 to 3, less than the depth
    hole_diameter_m   [m], 0.08 to 1
    temperature_c     [degrees C], 0 to 25
    clarity           a name in CLARITY_DB
    face_depth_m      [m] transducer face below the water's surface, 0 to 5, above the bottom

    Raises ValueError naming every field that is out of its span or contradicts another.
    """

    bottom_depth_m: float
    bottom_kind: str
    ice_thickness_m: float
    face_depth_m: float
    hole_diameter_m: float = 0.2
    temperature_c: float = 1.0
    clarity: str = "clear"

    def __post_init__(self) -> None:
        number("bottom_depth_m", self.bottom_depth_m, 0.5, DEEPEST_M, "m")
        one_of("bottom_kind", self.bottom_kind, tuple(BOTTOM_KINDS))
        number("ice_thickness_m", self.ice_thickness_m, 0.0, 3.0, "m")
        number("hole_diameter_m", self.hole_diameter_m, 0.08, 1.0, "m")
        number("temperature_c", self.temperature_c, 0.0, 25.0, "degrees C")
        one_of("clarity", self.clarity, tuple(CLARITY_DB))
        number("face_depth_m", self.face_depth_m, 0.0, 5.0, "m")
        problems = [
            f"{name} is {value:g} m but bottom_depth_m is {self.bottom_depth_m:g} m: "
            f"{name} must leave at least 0.2 m of water above the bottom"
            for name, value in (
                ("ice_thickness_m", self.ice_thickness_m),
                ("face_depth_m", self.face_depth_m),
            )
            if value > self.bottom_depth_m - 0.2
        ]
        if problems:
            raise InputError("; ".join(problems))

    @property
    def volume_scattering_db(self) -> float:
        """Volume backscattering strength of the open water [dB re 1/m]."""
        return CLARITY_DB[self.clarity]

    @property
    def bottom_range_m(self) -> float:
        """Distance from the transducer's face straight down to the bottom [m]."""
        return self.bottom_depth_m - self.face_depth_m


@lru_cache(maxsize=256)
def _sphere_strength(diameter_m: float, frequency_hz: float, sound_speed_m_s: float, material: str) -> float:
    """The modal series takes milliseconds and a lure keeps its size, so each is worked out once."""
    return float(sphere_target_strength(diameter_m, frequency_hz, sound_speed_m_s, material=material))


@lru_cache(maxsize=1024)
def _fish_strength(length_m: float, frequency_hz: float) -> float:
    """A fish keeps its length for as long as anyone looks at it, so its mean echo is worked out once."""
    return float(fish_target_strength(length_m, frequency_hz))


@dataclass(frozen=True)
class Lure:
    """A lure: its form, material and size [m, 1 to 20 mm for a jig]. Raises ValueError outside the spans."""

    name: str
    diameter_m: float
    material: str = "tungsten"
    form: str = "jig"

    def __post_init__(self) -> None:
        one_of("form", self.form, ("jig",))
        one_of("material", self.material, tuple(SOLIDS))
        number("diameter_m", self.diameter_m, 0.001, 0.02, "m")

    def target_strength(self, frequency_hz: float, sound_speed_m_s: float) -> float:
        """Target strength [dB re 1 m^2] at `frequency_hz` [Hz]: a jig is an elastic sphere (Faran 1951)."""
        return _sphere_strength(self.diameter_m, frequency_hz, sound_speed_m_s, self.material)

    @property
    def sink_speed_m_s(self) -> float:
        """Terminal speed [m/s] of the jig as a falling sphere, drag coefficient 0.45, slowed to half by its line.

        Standard drag; that the line about halves it is common practice, no source.
        """
        density = SOLIDS[self.material].density_kg_m3
        return 0.5 * float(np.sqrt(4.0 / 3.0 * 9.81 * self.diameter_m * (density / 1000.0 - 1.0) / 0.45))


@dataclass(frozen=True)
class Scatterers:
    """Single targets over a block of pings, ready to be heard.

    x, y, z              [m], shape (pings, targets)
    target_strength_db   [dB re 1 m^2], shape (targets,)
    fluctuation_db       rms wander of a steady target [dB], shape (targets,)
    rayleigh             whether the target's intensity fluctuates as a Rayleigh scatterer's does, shape (targets,)
    """

    x: Floats
    y: Floats
    z: Floats
    target_strength_db: Floats
    fluctuation_db: Floats
    rayleigh: np.ndarray[tuple[int], np.dtype[np.bool_]]


def lure_and_fish(
    lure: Lure,
    lure_z: Floats,
    fish_xyz: Floats,
    fish_length_m: Floats,
    frequency_hz: float,
    sound_speed_m_s: float,
) -> Scatterers:
    """Scatterers for a lure at `lure_z` (pings,) straight below the face and fish at `fish_xyz` (pings, fish, 3) [m].

    `fish_length_m` (fish,) [m]. A lure in the air above the water is left silent.
    """
    pings = lure_z.shape[0]
    lure_db = lure.target_strength(frequency_hz, sound_speed_m_s)
    fish_db = np.array([_fish_strength(float(length), frequency_hz) for length in fish_length_m])
    places = np.zeros((3, pings, 1 + fish_db.size))  # the lure first, then the fish
    places[2, :, 0] = lure_z
    places[:, :, 1:] = np.moveaxis(fish_xyz, 2, 0)
    return Scatterers(
        x=places[0],
        y=places[1],
        z=places[2],
        target_strength_db=np.concatenate([[lure_db], fish_db]),
        fluctuation_db=np.concatenate([[JIG_FLUCTUATION_DB], np.zeros(fish_db.size)]),
        rayleigh=np.concatenate([[False], np.ones(fish_db.size, dtype=np.bool_)]),
    )
