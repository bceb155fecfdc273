"""Schools and bait clouds: who swims where at any moment.

A shoal keeps no state: where each of its fish is follows from the time alone, by slow sums of sines about a centre that
comes and goes under the hole. Sizes and speeds are invented to be believable.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..checks import Floats
from .contents import SPECIES, Shoal
from .scene import Scene

SPREAD_M = {"loose": (1.6, 0.45), "ball": (0.28, 0.14)}  # sideways and up and down, one standard deviation
REACH_M = {"loose": 1.5, "ball": 1.2}  # how far off the hole its middle wanders


@dataclass(frozen=True, eq=False)
class Swimming:
    """One shoal with the constants of its wandering drawn: shapes (fish,) and (fish, 3)."""

    shoal: Shoal
    length_m: Floats
    offset_m: Floats
    wander_m: Floats
    turns_per_s: Floats
    phase: Floats
    centre_phase: float
    tilt_db: Floats

    def places(self, time_s: Floats, bottom_depth_m: float) -> Floats:
        """Where each fish is at `time_s` (moments,) [s]: (moments, fish, 3) [m], kept in the water."""
        t = np.asarray(time_s, dtype=np.float64)[:, None]
        speed = SPECIES[self.shoal.species].cruise_m_s
        reach = REACH_M[self.shoal.form]
        turn = speed / (2.5 * reach)
        centre = np.stack(
            [
                reach * np.sin(turn * t + self.centre_phase),
                0.4 * reach * np.sin(1.3 * turn * t + 2.0 * self.centre_phase),
                self.shoal.depth_m + 0.15 * np.sin(0.7 * turn * t + self.centre_phase),
            ],
            axis=2,
        )
        swing = np.sin(2.0 * np.pi * t[:, :, None] * self.turns_per_s + self.phase)
        place = centre + self.offset_m + self.wander_m * swing
        np.clip(place[:, :, 2], 0.1, bottom_depth_m - 0.05, out=place[:, :, 2])
        return place


def set_swimming(scene: Scene, rng: np.random.Generator) -> tuple[Swimming, ...]:
    """The shoals of `scene`, their wandering drawn from `rng`."""
    out = []
    for shoal in scene.shoals:
        n, kind = shoal.count, SPECIES[shoal.species]
        aside, upright = SPREAD_M[shoal.form]
        spread = np.array([aside, aside, upright])
        tilt = np.abs(rng.normal(0.0, 10.0, n))  # degrees a swimming fish is off level
        out.append(
            Swimming(
                shoal,
                rng.uniform(*kind.length_m, n),
                rng.normal(0.0, 1.0, (n, 3)) * spread,
                0.25 * spread * rng.uniform(0.3, 1.0, (n, 3)),
                rng.uniform(0.03, 0.12, (n, 3)),
                rng.uniform(0.0, 2.0 * np.pi, (n, 3)),
                float(rng.uniform(0.0, 2.0 * np.pi)),
                tilt_loss_db(tilt),
            )
        )
    return tuple(out)


def tilt_loss_db(tilt_deg: Floats) -> Floats:
    """What a fish off level loses of its dorsal echo [dB, 0 to -10], same shape as `tilt_deg` [degrees].

    Half its strength at 13 degrees: the order of published tilt-averaging work; the number is ours.
    """
    loss: Floats = -np.minimum(3.0 * (np.asarray(tilt_deg) / 13.0) ** 2, 10.0)
    return loss
