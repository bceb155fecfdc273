"""The course of a school from two or more fixes: where it goes, how fast, where it will be, and how surely.

A school is taken to go straight on. Each fix is a bearing and a range through the water, each with its error, at the
time at which the turning beam passed it. How deep the school swims is taken as known, or weighed over the column: for
each depth the straight course is found by weighted least squares (Gauss-Newton; Bar-Shalom, Li and Kirubarajan 2001,
chapter 3, for bearings and ranges), and the depths are weighed by how well their course fits (Kass and Raftery 1995,
Laplace's approximation). What is told are spans of that mixture.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number
from ..fields import Span, check_fields
from .along_ice import DEEPEST_M, FARTHEST_M

Array = NDArray[np.float64]
# How fast schools go, along each axis [m/s, 1 sd]: a wide guess, so that two fixes close together do not tell of a fish
# that swims as nothing does. Common practice, no source.
USUAL_M_S = 0.6
DEPTHS = 15  # at which the column is tried
DRAWS = 4000
ROUNDS = 12
SHARE = 0.9  # of the chance in a span


@dataclass(frozen=True)
class Fix:
    """A school as it was seen: when [s], its bearing [degrees clockwise from north] and range through the water [m],
    each with its error (1 sd)."""

    time_s: Annotated[float, Span(-1e6, 1e6, "s")]
    bearing_deg: Annotated[float, Span(-360.0, 720.0, "degrees")]
    range_m: Annotated[float, Span(0.1, FARTHEST_M, "m")]
    bearing_sd_deg: Annotated[float, Span(0.05, 90.0, "degrees")]
    range_sd_m: Annotated[float, Span(0.01, 50.0, "m")]

    def __post_init__(self) -> None:
        check_fields(self, "fixes")


@dataclass(frozen=True)
class SpanOf:
    """A span that holds the truth in nine of ten cases, and its middle."""

    low: float
    likely: float
    high: float


@dataclass(frozen=True)
class There:
    """A place [m] with its error ellipse: deviations [m] and their correlation."""

    east_m: float
    north_m: float
    east_sd_m: float
    north_sd_m: float
    correlation: float


@dataclass(frozen=True)
class Column:
    """The water under the hole: how deep the head, the bottom, and the school where that is known [m]."""

    head_depth_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    bottom_depth_m: Annotated[float, Span(0.1, DEEPEST_M, "m")]
    fish_depth_m: Annotated[float | None, Span(0.0, DEEPEST_M, "m")] = None

    def __post_init__(self) -> None:
        check_fields(self)
        for name in ("head_depth_m", "fish_depth_m"):
            depth = getattr(self, name)
            if depth is not None and depth > self.bottom_depth_m:
                raise InputError(f"{name} is {depth:g} m: the bottom is at {self.bottom_depth_m:g} m")


class Course:
    """A straight course as a mixture over the depths at which the school may swim: east, north [m] at `since_s`, and
    the speed along each [m/s]."""

    def __init__(self, fixes: Sequence[Fix], column: Column) -> None:
        """Raises ValueError for fewer than two fixes, fixes all at one time, or a range shorter than the depth between
        head and fish."""
        if len(fixes) < 2:
            raise InputError(f"fixes has {len(fixes)} entries: at least 2 are needed for a course")
        self.time = np.array([one.time_s for one in fixes])
        if np.ptp(self.time) < 0.5:
            raise InputError("fixes are all at one time: at least half a second apart is accepted")
        self.since_s = float(self.time.mean())
        self.turn = np.radians([one.bearing_deg for one in fixes])
        self.range = np.array([one.range_m for one in fixes])
        self.sd = np.column_stack(
            [np.radians([one.bearing_sd_deg for one in fixes]), [one.range_sd_m for one in fixes]]
        )
        apart = _depths(column)
        found = [one for one in (self._fitted(d) for d in apart) if one is not None]
        if not found:
            raise InputError("range_m is shorter than the depth between head and fish: nothing can be seen there")
        weight = np.array([one[2] for one in found])
        self.weights = np.exp(weight - weight.max())
        self.weights /= self.weights.sum()
        self.means = np.array([one[0] for one in found])
        self.covariances = np.array([one[1] for one in found])

    def _fitted(self, apart: float) -> tuple[Array, Array, float] | None:
        """The likeliest course for a school `apart` [m] above or below the head, its covariance, and the logarithm of
        how well it fits; None where some range is too short for that by far."""
        if np.any(self.range < apart - 4.0 * self.sd[:, 1]):
            return None
        flat = np.sqrt(np.maximum(self.range**2 - apart**2, 0.05**2))
        seen = np.column_stack([flat * np.sin(self.turn), flat * np.cos(self.turn)])
        t = self.time - self.since_s
        slope = (t @ (seen - seen.mean(axis=0))) / (t @ t)
        state = np.concatenate([seen.mean(axis=0), np.clip(slope, -2.0, 2.0)])
        prior = np.diag([0.0, 0.0, USUAL_M_S**-2, USUAL_M_S**-2])
        for _ in range(ROUNDS):
            off, jacobian = self._off(state, apart, t)
            normal = jacobian.T @ jacobian + prior
            step = np.linalg.solve(normal, jacobian.T @ off - prior @ state)
            state = state + step
            if np.abs(step).max() < 1e-6:
                break
        off, jacobian = self._off(state, apart, t)
        normal = jacobian.T @ jacobian + prior
        sign, logdet = np.linalg.slogdet(normal)
        fits = -0.5 * float(off @ off + state @ prior @ state) - 0.5 * float(logdet if sign > 0 else np.inf)
        return np.asarray(state, dtype=np.float64), np.asarray(np.linalg.inv(normal), dtype=np.float64), fits

    def _off(self, state: Array, apart: float, t: Array) -> tuple[Array, Array]:
        """What is left of bearings and ranges, in their deviations, and how that changes with the state."""
        east, north = state[0] + state[2] * t, state[1] + state[3] * t
        flat = np.maximum(np.hypot(east, north), 1e-3)
        slant = np.hypot(flat, apart)
        turned = (self.turn - np.arctan2(east, north) + np.pi) % (2.0 * np.pi) - np.pi
        off = np.concatenate([turned / self.sd[:, 0], (self.range - slant) / self.sd[:, 1]])
        by_east = np.concatenate([north / flat**2 / self.sd[:, 0], east / slant / self.sd[:, 1]])
        by_north = np.concatenate([-east / flat**2 / self.sd[:, 0], north / slant / self.sd[:, 1]])
        again = np.concatenate([t, t])
        return off, np.column_stack([by_east, by_north, by_east * again, by_north * again])

    def draws(self, count: int = DRAWS, seed: int = 0) -> Array:
        """States (count, 4) out of the mixture, the same each time for a seed."""
        rng = np.random.default_rng(seed)
        which = rng.choice(len(self.weights), size=count, p=self.weights)
        roots = np.linalg.cholesky(self.covariances)
        return np.asarray(self.means[which] + np.einsum("nij,nj->ni", roots[which], rng.normal(size=(count, 4))))

    def speed(self) -> SpanOf:
        """How fast it goes [m/s]."""
        fast = np.hypot(*self.draws()[:, 2:].T)
        low, likely, high = np.quantile(fast, [(1.0 - SHARE) / 2.0, 0.5, (1.0 + SHARE) / 2.0])
        return SpanOf(float(low), float(likely), float(high))

    def heading(self) -> SpanOf:
        """Where it goes [degrees clockwise from north]; `high` above 360 for a span that passes north."""
        state = self.draws()
        turn = np.arctan2(state[:, 2], state[:, 3])
        middle = np.arctan2(np.sin(turn).mean(), np.cos(turn).mean())
        around = (turn - middle + np.pi) % (2.0 * np.pi) - np.pi
        low, likely, high = np.degrees(middle + np.quantile(around, [(1.0 - SHARE) / 2.0, 0.5, (1.0 + SHARE) / 2.0]))
        back = 360.0 * np.floor(low / 360.0)
        return SpanOf(float(low - back), float(likely - back), float(high - back))

    def there(self, at_s: float) -> There:
        """Where it is at a time [s]. Raises ValueError for one more than a day off."""
        number("at_s", at_s, self.since_s - 86_400.0, self.since_s + 86_400.0, "s")
        later = np.array([[1.0, 0.0, at_s - self.since_s, 0.0], [0.0, 1.0, 0.0, at_s - self.since_s]])
        means = self.means @ later.T
        mean = self.weights @ means
        apart = means - mean
        covariance = np.einsum("k,kij->ij", self.weights, later @ self.covariances @ later.T)
        covariance += np.einsum("k,ki,kj->ij", self.weights, apart, apart)
        east, north = np.sqrt(np.diag(covariance))
        return There(
            float(mean[0]), float(mean[1]), float(east), float(north), float(covariance[0, 1] / (east * north))
        )


def _depths(column: Column) -> list[float]:
    """How far from the head the school may swim, up or down [m]: at its depth, or at each of many."""
    if column.fish_depth_m is not None:
        return [abs(column.fish_depth_m - column.head_depth_m)]
    middles = (np.arange(DEPTHS) + 0.5) / DEPTHS * column.bottom_depth_m
    return [float(one) for one in np.abs(middles - column.head_depth_m)]
