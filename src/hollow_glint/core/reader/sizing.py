"""From the strength and range of a fish's mark to where it can be and how long: a span, never a point.

A mark says how far away a fish is, not in which direction. A small fish below the hole and a larger one further out
paint the same mark, so size is a curve over the distance aside, and depth is what the beam and the largest fish leave
open. Rayleigh fluctuation of fish and Love's target strength as in `ping` and `targets`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from ..acoustics.targets import fish_target_strength
from ..checks import Floats
from ..gear.ladders import Ladder
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.contents import DEEPEST_M
from ..hole.scene import Scene
from ..sonar import ping, receiver
from ..sonar.transmission import Transmission

SHORTEST_M, LONGEST_M = 0.03, 0.9  # fish that anyone asks about [m]
TELLS = 2.5  # times the least length; a span wider than this tells a small fish from a big one no more
LOVE_SLOPE = 19.1  # dB a decade of length (Love 1971)
SATURATED = 0.9  # share of pings in the strongest colour from which a mean level is only a lower limit
PING_SD_DB = 5.6  # spread of a Rayleigh scatterer's level from ping to ping (Simmonds and MacLennan 2005)


@lru_cache(maxsize=64)
def assumed_water(face_depth_m: float, temperature_c: float) -> Scene:
    """Plain clear water under a face that hangs well: all that sizing a mark needs to know of a hole."""
    return Scene(DEEPEST_M, "mud", 0.0, face_depth_m, temperature_c=temperature_c)


def level_thresholds(unit: UnitProfile, ladder: Ladder) -> Floats:
    """Where each step of the ladder begins [dB above the six-step ladder's first colour], shape (steps,)."""
    return np.array([step.begins for step in ladder.steps]) * unit.colour_step_db


def fish_strengths(length_m: Floats, frequency_hz: float) -> Floats:
    """Dorsal target strength of fish [dB re 1 m^2], same shape. Love 1971."""
    return np.asarray(fish_target_strength(length_m, frequency_hz), dtype=np.float64)


def mean_level(exceed: Floats, thresholds_db: Floats) -> tuple[float, bool]:
    """Mean echo level [dB over the ladder's zero] of a Rayleigh scatterer lit above each step in a share `exceed` of
    its pings, shape (steps,), and whether that is only a lower limit.

    The share above a threshold T is exp(-T / mean) in intensity; the step nearest to one in e says it best.
    """
    share = np.clip(exceed, 1e-3, 1.0 - 1e-3)
    saturated = bool(exceed[-1] > SATURATED)
    best = exceed.size - 1 if saturated else int(np.argmin(np.abs(share - np.exp(-1.0))))
    return float(thresholds_db[best] - 10.0 * np.log10(-np.log(share[best]))), saturated


@lru_cache(maxsize=32)
def fish_wander(pings: int, needed: int) -> float:
    """How far a fish's level wanders on the picture [dB, 1 sd], whose rejection shows what `needed` of the last `pings`
    have: that evens a Rayleigh scatterer out. By drawing it.
    """
    drawn = np.random.default_rng(0).standard_exponential((6000, pings))
    kept = np.sort(drawn, axis=1)[:, pings - needed]
    return float(np.std(10.0 * np.log10(kept)))


def echo_level(level_db: float, range_m: float, unit: UnitProfile, settings: Settings) -> float:
    """Echo level [dB re 1 uPa] of what is painted `level_db` [dB over the ladder's zero] at `range_m` [m]."""
    zero = unit.gain.first_colour_at(settings.gain)
    return level_db + zero + float(receiver.taken_off(unit, settings, np.array([range_m]))[0])


def level_under_face(t: Transmission, range_m: float) -> float:
    """Echo level [dB re 1 uPa] that a target of 0 dB re 1 m^2 has under the face at `range_m` [m], to 1 mm."""
    return _level_under_face(t, round(range_m, 3))


@lru_cache(maxsize=8192)
def _level_under_face(t: Transmission, range_m: float) -> float:
    return ping.target_echo_level(t, 0.0, t.face_depth_m + range_m)


@dataclass(frozen=True)
class FishSpan:
    """What a fish's mark leaves open.

    depth_m, aside_m     least and most [m]: true depth below the surface, distance off the hole's axis
    curve_aside_m, curve_length_m   how long it is at each distance aside [m], shape (points,)
    """

    depth_m: tuple[float, float]
    aside_m: tuple[float, float]
    curve_aside_m: Floats
    curve_length_m: Floats

    @property
    def length_m(self) -> tuple[float, float]:
        """Least and most length on the curve [m]."""
        return float(self.curve_length_m.min()), float(self.curve_length_m.max())

    @property
    def told_length_m(self) -> tuple[float, float] | None:
        """Least and most length [m] where that says anything of its size: at most TELLS times as long; else None."""
        least, most = self.length_m
        return self.length_m if most <= TELLS * least and most < LONGEST_M else None


@lru_cache(maxsize=128)
def _angles(t: Transmission) -> tuple[Floats, Floats]:
    """Angles off axis [rad] out to 60 degrees and the two-way pattern at each [dB], with side lobes filled in."""
    angle = np.radians(np.linspace(0.0, 60.0, 361))
    sine = (np.sin(angle) * (t.two_way_pattern.size - 1)).astype(np.intp)
    two_way = 10.0 * np.log10(np.maximum(t.two_way_pattern[sine], 1e-30))
    # A null between lobes hides nobody for long; what counts is the loudest that a fish is from there on out.
    return angle, np.maximum.accumulate(two_way[::-1])[::-1]


def fish_span(t: Transmission, range_m: float, echo_db: float, sd_db: float, row_m: float) -> FishSpan:
    """Where a fish can be and how long, whose mark begins at `range_m` [m from the face] with a mean echo of `echo_db`
    [dB re 1 uPa], known to `sd_db` [dB, 1 sd]; rows are `row_m` [m] high.

    Two standard deviations either way; fish from SHORTEST_M to LONGEST_M. Love 1971; the sonar equation (Urick 1983).
    """
    on_axis_db = echo_db - level_under_face(t, max(range_m, 0.06))
    angle, pattern = _angles(t)
    at_10_cm = float(fish_target_strength(0.1, t.frequency_hz))
    length = 0.1 * 10.0 ** ((on_axis_db - pattern - at_10_cm) / LOVE_SLOPE)
    factor = 10.0 ** (2.0 * sd_db / LOVE_SLOPE)
    can: NDArray[np.bool_] = (length / factor <= LONGEST_M) & (length * factor >= SHORTEST_M)
    if not can.any():  # louder than any fish, or fainter: nearest that there is
        can[0 if on_axis_db > at_10_cm else -1] = True
    inner, outer = float(angle[can][0]), float(angle[can][-1])
    slack = row_m + 0.02
    return FishSpan(
        (
            t.face_depth_m + max(range_m - slack, 0.0) * float(np.cos(outer)),
            t.face_depth_m + (range_m + slack) * float(np.cos(inner)),
        ),
        (range_m * float(np.sin(inner)), (range_m + slack) * float(np.sin(outer))),
        range_m * np.sin(angle[can]),
        np.clip(length[can], SHORTEST_M, LONGEST_M),
    )


def level_sd(pings: int, unit: UnitProfile, settings: Settings) -> float:
    """How surely a mean level over `pings` is known [dB, 1 sd]: fluctuation, half a colour, and the unit's calibration.

    Pings of one fish that hangs still are not quite independent; a third of them are counted. Common practice.
    """
    luck = PING_SD_DB / np.sqrt(max(pings / 3.0, 1.0))
    known = 1.0 if unit.calibrated is None else unit.calibrated.position_sd(unit.gain, settings.gain)
    known_db = known if unit.calibrated is None else known * unit.gain.db_per_step / unit.gain.step
    return float(np.sqrt(luck**2 + (0.3 * unit.colour_step_db) ** 2 + known_db**2))
