"""Where one more sounding would teach most: where it would leave least water undecided between in a band and out of it.

What is undecided at a place is the variance of the answer, p (1 - p), with p the chance that it lies in the band. A
sounding that is not made yet has a spread of outcomes: the expected rest is averaged over them (Chevalier and others
2014, Technometrics 56, 455-465: stepwise uncertainty reduction for a set of interest), by Gauss-Hermite quadrature.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from ..checks import InputError
from .regression import Array
from .surface import Band, Surface, chance_in

OUTCOMES, SHARES = (part.astype(np.float64) for part in np.polynomial.hermite_e.hermegauss(5))
SHARES = SHARES / SHARES.sum()


@dataclass(frozen=True)
class Teaches:
    """A place [m], and how much undecided area [m^2] a sounding there takes away on average."""

    east_m: float
    north_m: float
    decides_m2: float


def undecided(mean: Array, sd: Array, band: Band) -> Array:
    """p (1 - p) of lying in the band, for depths with means and deviations (any shape) [m]."""
    inside = chance_in(mean, sd, band)
    return np.asarray(inside * (1.0 - inside))


def next_soundings(
    surface: Surface, band: Band, water: ArrayLike, cell_m2: float, candidates: ArrayLike
) -> list[Teaches]:
    """Candidates (m, 2), best first, by what a sounding there decides of the water at places (g, 2).

    Each of those stands for `cell_m2` [m^2]. Raises ValueError where there is nowhere to sound.
    """
    places = np.asarray(candidates, dtype=np.float64).reshape(-1, 2)
    over = np.asarray(water, dtype=np.float64).reshape(-1, 2)
    if places.shape[0] == 0 or over.shape[0] == 0:
        raise InputError("candidates is empty: at least one place over water is needed")
    mean, sd = surface.at(over)
    now = float(undecided(mean, sd, band).sum())
    with_cov = surface.covariance_between(over, places)
    _, own = surface.at(places)
    noisy = own**2 + surface.covariance.noise
    # What a sounding at a candidate would take from the variance at each place, and by how much it would move its mean.
    shift = with_cov / np.sqrt(noisy)
    left = np.sqrt(np.maximum((sd**2)[:, None] - shift**2, 0.0))
    rest = np.zeros(places.shape[0])
    for outcome, share in zip(OUTCOMES, SHARES, strict=True):
        rest += share * undecided(mean[:, None] + outcome * shift, left, band).sum(axis=0)
    found = [Teaches(float(e), float(n), float((now - r) * cell_m2)) for (e, n), r in zip(places, rest, strict=True)]
    return sorted(found, key=lambda one: -one.decides_m2)
