"""Everything single that answers, gathered for a block of pings: lure, line, fish, schools, what hangs, what lies.

Each target keeps its source, so that whoever touches a mark can be told what made it.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ..acoustics.targets import fish_target_strength
from ..checks import Floats
from ..gear.lures import FLUCTUATION_DB, Lure
from .scene import Scene
from .shoals import Swimming
from .structure import lying

Positions = NDArray[np.float32] | Floats


@dataclass(frozen=True, eq=False)
class Strengths:
    """How strongly each target answers and how its echo fluctuates, as long as nobody comes or goes: (targets,).

    target_strength_db   [dB re 1 m^2]
    fluctuation_db       rms wander of a steady target [dB]
    rayleigh             whether the target's intensity fluctuates as a Rayleigh scatterer's does
    """

    target_strength_db: Floats
    fluctuation_db: Floats
    rayleigh: NDArray[np.bool_]

    @cached_property
    def intensity(self) -> Floats:
        """Backscattering cross-section [m^2] of each target."""
        section: Floats = 10.0 ** (self.target_strength_db / 10.0)
        return section

    @cached_property
    def steady(self) -> NDArray[np.intp]:
        """Which targets wander instead of fluctuating."""
        return np.flatnonzero(~self.rayleigh)

    @cached_property
    def wander(self) -> NDArray[np.float32]:
        """Standard deviation of the natural logarithm of each steady target's intensity, shape (steady,)."""
        wander: NDArray[np.float32] = (0.1 * np.log(10.0) * self.fluctuation_db[self.steady]).astype(np.float32)
        return wander


class Scatterers(NamedTuple):
    """Single targets over a block of pings, ready to be heard.

    `place` [m] holds x, y and the depth z of each, shape (3, pings, targets); single precision will do.
    """

    place: Positions
    strengths: Strengths

    @property
    def x(self) -> Positions:
        """Shape (pings, targets) [m]."""
        x: Positions = self.place[0]
        return x

    @property
    def z(self) -> Positions:
        """Depth below the surface, shape (pings, targets) [m]."""
        z: Positions = self.place[2]
        return z


STRUCTURE_FLUCTUATION_DB = 1.0
# Bubbles that cling to the line, far apart and faint: seen only at very high gain. Common practice, no source.
LINE_BUBBLES = (0.15, 0.35, 0.55, 0.75)  # shares of the way from the face to the lure
BUBBLES_DOWN = np.array(LINE_BUBBLES)
LINE_DB = -92.0


SourceKind = Literal["lure", "line", "fish", "school", "dead stick", "camera", "log", "boulder", "brush"]


@dataclass(frozen=True)
class EchoSource:
    """Whose echo it is: "lure", "line", "fish", "school", "dead stick", "camera", "log", "boulder", "brush".

    of   which one of them, counted from 0; length_m of a fish [m], 0 for the rest
    """

    kind: SourceKind
    of: int = 0
    length_m: float = 0.0
    species: str = ""


@lru_cache(maxsize=1024)
def fish_strength(length_m: float, frequency_hz: float) -> float:
    """A fish keeps its length for as long as anyone looks at it, so its mean echo is worked out once."""
    return float(fish_target_strength(length_m, frequency_hz))


@lru_cache(maxsize=64)
def _still(scene: Scene, frequency_hz: float, c: float) -> tuple[Floats, Floats, tuple[EchoSource, ...]]:
    """What hangs in the second hole and what lies on the bottom: places (n, 3), strengths (n,) and names."""
    places: list[Floats] = [np.zeros((0, 3))]
    strengths: list[Floats] = [np.zeros(0)]
    names: list[EchoSource] = []
    for index, hung in enumerate(scene.hung):
        points = hung.lure().highlights(frequency_hz, c)
        place: Floats = np.zeros((points.below_m.size, 3))
        place[:, 0], place[:, 2] = scene.second_hole_m, hung.depth_m + points.below_m
        places.append(place)
        strengths.append(points.strength_db)
        names += [EchoSource(hung.kind, index)] * points.below_m.size
    for index, structure in enumerate(scene.structures):
        place, strength = lying(structure, scene.bottom_depth_m, float(np.radians(scene.slope_deg)))
        places.append(place)
        strengths.append(strength)
        names += [EchoSource(structure.kind, index)] * strength.size
    return np.concatenate(places), np.concatenate(strengths), tuple(names)


@dataclass(frozen=True, eq=False)
class TargetSet:
    """Who is there, as long as nobody comes or goes, in the order in which `gather` places them.

    line_share    how far down the way from the face to the lure each of the lure's points and its line's bubbles is
    line_below_m  what is added to that depth [m]
    still         places of what neither swims nor hangs on the line [m], shape (3, 1, still)
    """

    names: tuple[EchoSource, ...]
    strengths: Strengths
    line_share: Floats
    line_below_m: NDArray[np.float32]
    still: Floats


@lru_cache(maxsize=256)
def _target_set(
    scene: Scene,
    lure: Lure,
    lure_tilt_rad: float | None,
    fish: tuple[tuple[float, str], ...],
    swimming: tuple[Swimming, ...],
    frequency_hz: float,
    sound_speed_m_s: float,
) -> TargetSet:
    points = lure.highlights(frequency_hz, sound_speed_m_s, lure_tilt_rad)
    still, still_db, still_names = _still(scene, frequency_hz, sound_speed_m_s)
    bubbles = len(LINE_BUBBLES)
    names = [EchoSource("lure")] * points.below_m.size + [EchoSource("line")] * bubbles
    names += [EchoSource("fish", i, *who) for i, who in enumerate(fish)]
    names += [
        EchoSource("school", i, float(length), one.shoal.species)
        for i, one in enumerate(swimming)
        for length in one.length_m
    ]
    fish_db = np.array([fish_strength(length, frequency_hz) for length, _ in fish])
    school_db = [fish_target_strength(one.length_m, frequency_hz) + one.tilt_db for one in swimming]
    parts = [
        (points.strength_db, FLUCTUATION_DB, False),
        (np.full(bubbles, LINE_DB), 2.0, False),
        (fish_db, 0.0, True),
        *((strength, 0.0, True) for strength in school_db),
        (still_db, STRUCTURE_FLUCTUATION_DB, False),
    ]
    strengths = Strengths(
        np.concatenate([strength for strength, _, _ in parts]),
        np.concatenate([np.full(strength.size, wander) for strength, wander, _ in parts]),
        np.concatenate([np.full(strength.size, fluctuates) for strength, _, fluctuates in parts]),
    )
    return TargetSet(
        (*names, *still_names),
        strengths,
        np.concatenate([np.ones(points.below_m.size), BUBBLES_DOWN]),
        np.concatenate([points.below_m, scene.face_depth_m * (1.0 - BUBBLES_DOWN)]).astype(np.float32),
        still.T[:, None, :],
    )


def gather(  # noqa: PLR0913 - all that may be in the water
    scene: Scene,
    lure: Lure,
    lure_xyz: Floats,
    lure_tilt_rad: float | None,
    fish_xyz: Floats,
    fish: tuple[tuple[float, str], ...],
    swimming: tuple[Swimming, ...],
    time_s: Floats,
    frequency_hz: float,
    sound_speed_m_s: float,
) -> tuple[Scatterers, tuple[EchoSource, ...]]:
    """All single targets for pings at `time_s` (pings,) [s], and whose each is.

    `lure_xyz` (pings, 3) and `fish_xyz` (pings, fish, 3) [m]; `fish` the length [m] and species of each. What is in
    the air above the water is left silent.
    """
    cast = _target_set(scene, lure, lure_tilt_rad, fish, swimming, frequency_hz, sound_speed_m_s)
    place = np.empty((3, time_s.size, len(cast.names)), dtype=np.float32)
    m = cast.line_share.size
    np.multiply(lure_xyz.T[:, :, None], cast.line_share, out=place[:, :, :m], casting="same_kind")
    place[2, :, :m] += cast.line_below_m
    if fish:
        place[:, :, m : m + len(fish)] = fish_xyz.transpose(2, 0, 1)
        m += len(fish)
    for shoal in swimming:
        count = shoal.length_m.size
        place[:, :, m : m + count] = shoal.places(time_s, scene.bottom_depth_m).transpose(2, 0, 1)
        m += count
    if m < place.shape[2]:
        place[:, :, m:] = cast.still
    return Scatterers(place, cast.strengths), cast.names
