"""A positive quantity as it is known: a mixture of gamma distributions, and its span.

A count in so many hours leaves a gamma distribution open for its rate (with the Jeffreys prior exactly so: Gelman and
others 2013, Bayesian Data Analysis, section 2.6), and what is not known of the spread between holes and of how much a
factor matters mixes several of them.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from ..lazily import Lazily

if TYPE_CHECKING:
    from scipy import special
else:
    special = Lazily("scipy.special")

Array = NDArray[np.float64]
POINTS = 40  # of a distribution function that is then inverted between them
REACH = 5.5  # standard deviations beyond the outermost component: nothing is left there
LEAST_SKEW, MOST_SKEW = 0.01, 2.0  # of a part: less is none, more is beyond what a top and its curve can tell
FARTHEST = 46.0  # of a logarithm: what is less than 1e-20 or more than 1e20 is as good as that
LIGHTEST = 1e-3  # components of less weight than this decide no digit that is shown


@dataclass(frozen=True)
class Spread:
    """A rate or a share: between `low` and `high` with the level that was asked, `likely` its median."""

    low: float
    likely: float
    high: float


def counted(count: int, hours: float, level: float) -> Spread:
    """What a count in so many hours leaves open for its rate, with the Jeffreys prior."""
    asked = (0.5 * (1.0 - level), 0.5, 0.5 * (1.0 + level))
    return Spread(*(float(special.gammaincinv(count + 0.5, one)) / hours for one in asked))


@dataclass(frozen=True)
class Known:
    """Parts of a mixture, each told by the logarithm's density about its top: where that is, the inverse of its
    curvature there, its third derivative there, and the part's weight. All (parts,), or (n, parts) for n quantities.

    Each part is a power of a gamma that has these: for a count in so many hours the gamma itself (third derivative
    below 0), for the mean of holes that differ an inverse gamma (above 0).
    """

    top: Array
    variance: Array
    third: Array
    weight: Array


def spreads(known: Known, level: float) -> list[Spread]:
    """The spans of several quantities (n, parts)."""
    asked = np.array([0.5 * (1.0 - level), 0.5, 0.5 * (1.0 + level)])
    found = []
    for top, variance, third, weight in zip(known.top, known.variance, known.third, known.weight, strict=True):
        kept = weight > LIGHTEST * weight.max()
        one = Known(top[kept], variance[kept], third[kept], weight[kept] / weight[kept].sum())
        found.append(Spread(*_quantiles(one, asked)))
    return found


def _quantiles(known: Known, asked: Array) -> list[float]:
    spread = np.sqrt(known.variance)
    skew = np.clip(known.third * spread**3, -MOST_SKEW, MOST_SKEW)
    skew = np.where(np.abs(skew) < LEAST_SKEW, -LEAST_SKEW, skew)
    shape = (1.0 / skew**2)[:, None]
    scale = (1.0 / (skew / spread))[:, None]  # of the logarithm; its sign turns the gamma round

    def below(at: Array) -> Array:
        x = shape * np.exp(-(at[None, :] - known.top[:, None]) / scale)
        lower = np.where(scale < 0.0, special.gammainc(shape, x), special.gammaincc(shape, x))
        return np.asarray(known.weight @ lower)

    far = REACH * spread * (1.0 + np.abs(skew))
    at = np.linspace(np.min(known.top - far), np.max(known.top + far), POINTS)
    for _ in range(2):  # first all that is possible, then ever closer about what is asked
        first = np.clip(np.searchsorted(below(at), asked) - 1, 0, len(at) - 2)
        at = np.unique(np.concatenate([np.linspace(at[k], at[k + 1], POINTS // 3) for k in first]))
    return [float(np.exp(one)) for one in np.clip(np.interp(asked, below(at), at), -FARTHEST, FARTHEST)]


def hermite(points: int) -> tuple[Array, Array]:
    """Places and weights that integrate over a standard normal. Source: Abramowitz and Stegun 1964, 25.4.46."""
    at, weight = np.polynomial.hermite_e.hermegauss(points)
    return at, weight / weight.sum()
