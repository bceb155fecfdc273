"""Gaussian-process regression: what values at some places say of the value at another, and how sure that is.

Simple kriging of a field whose covariance is fitted (Matheron 1963; Rasmussen and Williams 2006, chapters 2, 4 and 5).
The covariance is one of three shapes (Matern 3/2, Matern 5/2, squared exponential), and what is not sure of its shape,
length and strength is carried into the deviation: predictions are averaged over a small design about each shape's most
likely parameters, weighted by how likely each is (Rue, Martino and Chopin 2009, section 6.5).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from ..lazily import Lazily

if TYPE_CHECKING:
    from scipy import linalg, optimize, stats
    from scipy.spatial import distance
else:
    linalg, optimize, stats = (Lazily(f"scipy.{one}") for one in ("linalg", "optimize", "stats"))
    distance = Lazily("scipy.spatial.distance")

Array = NDArray[np.float64]
Shape = Callable[[Array], Array]

JITTER = 1e-8  # of the variance: keeps the factorisation from failing on soundings at one place
STEP = 0.9  # how far the design goes about the most likely parameters, in their own log units
PRIOR_ERRORS = 8.0  # how many errors of the expected size the left-out check begins with


def _matern_32(r: Array) -> Array:
    scaled = np.sqrt(3.0) * r
    return np.asarray((1.0 + scaled) * np.exp(-scaled))


def _matern_52(r: Array) -> Array:
    scaled = np.sqrt(5.0) * r
    return np.asarray((1.0 + scaled + scaled**2 / 3.0) * np.exp(-scaled))


def _squared(r: Array) -> Array:
    return np.asarray(np.exp(-0.5 * r**2))


# Correlation over distance in lengths (Rasmussen and Williams 2006, equations 4.17 and 4.9), and how it grows with the
# logarithm of the length.
SHAPES: dict[str, Shape] = {"matern 3/2": _matern_32, "matern 5/2": _matern_52, "squared exponential": _squared}
GROWTHS: dict[str, Shape] = {
    "matern 3/2": lambda r: np.asarray(3.0 * r**2 * np.exp(-np.sqrt(3.0) * r)),
    "matern 5/2": lambda r: np.asarray(5.0 / 3.0 * r**2 * (1.0 + np.sqrt(5.0) * r) * np.exp(-np.sqrt(5.0) * r)),
    "squared exponential": lambda r: np.asarray(r**2 * np.exp(-0.5 * r**2)),
}


@dataclass(frozen=True)
class Covariance:
    """A shape's name, its length [m], and the variances [m^2] of the field and of what one value is off by."""

    shape: str
    length_m: float
    variance: float
    noise: float

    def of(self, a: Array, b: Array) -> Array:
        """Covariance of the field between places (n, 2) and (m, 2)."""
        return self.over(distance.cdist(a, b))

    def over(self, distance_m: Array) -> Array:
        """Covariance of the field over distances [m], same shape."""
        return np.asarray(self.variance * SHAPES[self.shape](distance_m / self.length_m))


@dataclass(frozen=True)
class Known:
    """What is known: places (n, 2) [m] and values (n,) [m]; how strong the field is there (n,), and the trend's terms
    (n, k) with the variance of what each may be multiplied by (k,) [m^2]."""

    place: Array
    value: Array
    strength: Array
    terms: Array
    spread: Array

    @property
    def size(self) -> int:
        """How many values."""
        return int(self.value.size)

    def only(self, keep: Any) -> Known:
        """A part of it."""
        return Known(self.place[keep], self.value[keep], self.strength[keep], self.terms[keep], self.spread)


class Fitted:
    """A covariance conditioned on what is known."""

    def __init__(self, known: Known, covariance: Covariance) -> None:
        self.known, self.covariance = known, covariance
        total = self.across(known.place, known.strength, known.terms)
        total[np.diag_indices_from(total)] += covariance.noise + JITTER * covariance.variance
        self.factor = linalg.cho_factor(total, lower=True)
        self.weights = linalg.cho_solve(self.factor, known.value)

    @property
    def log_likelihood(self) -> float:
        """Of the values, up to a constant."""
        half = float(np.log(np.diag(self.factor[0])).sum())
        return -0.5 * float(self.known.value @ self.weights) - half

    def across(self, place: Array, strength: Array, terms: Array) -> Array:
        """Covariance of places (m, 2) with what is known, (m, n)."""
        known = self.known
        field = self.covariance.of(place, known.place) * strength[:, None] * known.strength
        return np.asarray(field + (terms * known.spread) @ known.terms.T)

    def at(self, place: Array, strength: Array, terms: Array) -> tuple[Array, Array]:
        """Mean (m,) and variance (m,) of the value itself at places (m, 2)."""
        across = self.across(place, strength, terms)
        own = self.covariance.variance * strength**2 + np.einsum("ij,j,ij->i", terms, self.known.spread, terms)
        taken = np.einsum("ij,ij->i", across, linalg.cho_solve(self.factor, across.T).T)
        return across @ self.weights, np.maximum(own - taken, 0.0)

    def between(
        self, a: Array, strength_a: Array, terms_a: Array, b: Array, strength_b: Array, terms_b: Array
    ) -> Array:
        """Covariance of the values at places (m, 2) and (k, 2) once the known values are known, (m, k)."""
        own = self.covariance.of(a, b) * strength_a[:, None] * strength_b + (terms_a * self.known.spread) @ terms_b.T
        across = self.across(b, strength_b, terms_b)
        return np.asarray(own - self.across(a, strength_a, terms_a) @ linalg.cho_solve(self.factor, across.T))

    def left_out(self) -> Array:
        """How far each value is from what the others say of it, in the deviation expected of that (Rasmussen and
        Williams 2006, equations 5.10 to 5.12)."""
        inverse = np.diag(linalg.cho_solve(self.factor, np.eye(self.known.size)))
        return np.asarray(self.weights / np.sqrt(inverse))


@dataclass(frozen=True)
class Prior:
    """Where a covariance is looked for: medians of its length, variance and noise, and how far off they may be."""

    length_m: float
    variance: float
    noise: float
    spread: tuple[float, float, float] = (1.0, 1.2, 1.0)

    @property
    def medians(self) -> Array:
        """Logarithms of length, variance and noise."""
        return np.asarray(np.log([self.length_m, self.variance, self.noise]))

    def log_density(self, logs: Array) -> float:
        """Of the logarithms of length, variance and noise, up to a constant."""
        return -0.5 * float((((logs - self.medians) / self.spread) ** 2).sum())


def _covariance(shape: str, logs: Array) -> Covariance:
    length, variance, noise = np.exp(logs)
    return Covariance(shape, float(length), float(variance), float(noise))


class _Likelihood:
    """How likely a shape's length, variance and noise are, with how that changes: what does not change is kept."""

    def __init__(self, known: Known, prior: Prior, shape: str) -> None:
        self.known, self.prior, self.shape = known, prior, shape
        self.distance = distance.cdist(known.place, known.place)
        self.strength = known.strength[:, None] * known.strength
        self.trend = (known.terms * known.spread) @ known.terms.T

    def unlikely(self, logs: Array) -> tuple[float, Array]:
        """Minus the log density at the logarithms of length, variance and noise, and its slope (Rasmussen and Williams
        2006, equation 5.9)."""
        length, variance, noise = np.exp(logs)
        r = self.distance / length
        field = variance * self.strength * SHAPES[self.shape](r)
        total = field + self.trend
        total[np.diag_indices_from(total)] += noise + JITTER * variance
        try:
            factor = linalg.cho_factor(total, lower=True)
        except np.linalg.LinAlgError:
            return 1e12, np.zeros(3)
        weights = linalg.cho_solve(factor, self.known.value)
        inner = np.outer(weights, weights) - linalg.cho_solve(factor, np.eye(self.known.size))
        longer = variance * self.strength * GROWTHS[self.shape](r)
        slope = 0.5 * np.array(
            [
                (inner * longer).sum(),
                (inner * field).sum() + JITTER * variance * np.trace(inner),
                noise * np.trace(inner),
            ]
        )
        off = (logs - self.prior.medians) / self.prior.spread
        half = float(np.log(np.diag(factor[0])).sum())
        density = -0.5 * float(self.known.value @ weights) - half + self.prior.log_density(logs)
        return -density, -(slope - off / self.prior.spread)


def most_likely(known: Known, prior: Prior, shape: str) -> tuple[Array, float]:
    """Logarithms of the most likely length, variance and noise of a shape, and the log density there."""
    likelihood = _Likelihood(known, prior, shape)
    bounds = [(one - 4.0, one + 4.0) for one in prior.medians]
    found = optimize.minimize(
        likelihood.unlikely, prior.medians, jac=True, method="L-BFGS-B", bounds=bounds,
        options={"maxiter": 40, "ftol": 1e-5},
    )  # fmt: skip
    return np.asarray(found.x), -float(found.fun)


class Field:
    """The field as the values leave it: an average over covariances, each conditioned on them."""

    def __init__(self, parts: list[tuple[float, Fitted]]) -> None:
        total = sum(weight for weight, _ in parts)
        self.parts = [(weight / total, fitted) for weight, fitted in parts]
        errors = max(self.parts, key=lambda one: one[0])[1].left_out()
        # What was left out tells whether the deviations are of the right size, the less surely the fewer there are.
        off = (float((errors**2).sum()) + PRIOR_ERRORS) / (errors.size + PRIOR_ERRORS)
        # Neighbours tell much the same: half of them count.
        few = float(stats.t.ppf(0.975, 0.5 * (errors.size + PRIOR_ERRORS)) / stats.t.ppf(0.975, np.inf))
        self.stretch = few * float(np.clip(np.sqrt(off), 0.8, 2.0))

    def on(self, known: Known) -> Field:
        """The same covariances, conditioned on these values instead."""
        return Field([(weight, Fitted(known, fitted.covariance)) for weight, fitted in self.parts])

    @property
    def likeliest(self) -> Fitted:
        """The part with most weight."""
        return max(self.parts, key=lambda one: one[0])[1]

    def at(self, place: Array, strength: Array, terms: Array) -> tuple[Array, Array]:
        """Mean and standard deviation (m,) [m] of the value itself at places (m, 2)."""
        mean = np.zeros(place.shape[0])
        square = np.zeros(place.shape[0])
        for weight, fitted in self.parts:
            m, v = fitted.at(place, strength, terms)
            mean += weight * m
            square += weight * (v * self.stretch**2 + m**2)
        return mean, np.sqrt(np.maximum(square - mean**2, 0.0))


LEAST_WEIGHT = 0.01


def fit(known: Known, prior: Prior, shapes: tuple[str, ...] = tuple(SHAPES)) -> Field:
    """The field that the values speak for."""
    tried: list[tuple[float, str, Array]] = []
    for shape in shapes:
        best, density = most_likely(known, prior, shape)
        tried.append((density, shape, best))
        for which in (0, 1):
            for step in (-STEP, STEP):
                logs = best.copy()
                logs[which] += step
                try:
                    at = Fitted(known, _covariance(shape, logs)).log_likelihood + prior.log_density(logs)
                except np.linalg.LinAlgError:
                    continue
                tried.append((at, shape, logs))
    top = max(density for density, _, _ in tried)
    weighed = [(float(np.exp(density - top)), shape, logs) for density, shape, logs in tried]
    parts = [(w, Fitted(known, _covariance(shape, logs))) for w, shape, logs in weighed if w > LEAST_WEIGHT]
    return Field(parts)
