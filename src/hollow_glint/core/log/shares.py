"""Shares: of the fish that looked, how many bit; of those that bit, how many held. Beta-binomial, partially pooled.

    x_j ~ Binomial(n_j, p_j),   p_j ~ Beta with mean m and correlation r,   logit m_level ~ N(logit m, t^2)

Fish of one stay at a hole answer alike (they are of one school, in one mood), so that twenty looks there are worth
fewer than twenty: r says by how much, and is estimated from the log (Williams 1975). Everything is integrated on a
grid: the likelihood is the beta-binomial's own, and only the probability of being better takes levels for normal.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number
from ..lazily import Lazily
from .effort import MOST_COUNT
from .posterior import Array, Spread
from .rates import NOTHING, better_of

if TYPE_CHECKING:
    from scipy import special
else:
    special = Lazily("scipy.special")

Whole = NDArray[np.int64]
LOGIT = np.linspace(-7.0, 7.0, 141)
CORRELATIONS = np.array([0.005, 0.02, 0.05, 0.1, 0.17, 0.26, 0.37, 0.5])
ALIKE = 8.0  # Beta(1, 8) beforehand for r: fish of a stay are mostly weakly alike. Common practice, no source
SPREADS = np.geomspace(0.03, 2.5, 12)
MATTERS = 1.0  # half-normal scale of the spread of levels


@dataclass(frozen=True)
class Answered:
    """Of `of` fish at one stay `count` went on, at one level of a factor (empty where that is not known)."""

    of: int
    count: int
    level: str = ""

    def __post_init__(self) -> None:
        number("of", self.of, 0, MOST_COUNT)
        number("count", self.count, 0, MOST_COUNT)
        if self.count > self.of:
            raise InputError(f"count is {self.count}: at most of is accepted, and that is {self.of}")


@dataclass(frozen=True)
class LevelShare:
    """A level's share, of how many, how many went on, and the probability that it is better than what else you use."""

    share: Spread
    of: int
    count: int
    better: float


@dataclass(frozen=True)
class Shares:
    """The share overall, and at each level in the order in which they first appear; `alike` how alike fish of one stay
    answer (0 to 1)."""

    overall: Spread
    levels: dict[str, LevelShare]
    alike: float


def shares(answered: Sequence[Answered], level: float = 0.9) -> Shares:
    """Shares with their spans. Raises ValueError where there is not one fish."""
    used = [one for one in answered if one.of > 0]
    if not used:
        raise InputError("answered has no fish: at least one is accepted")
    names = tuple(dict.fromkeys(one.level for one in used if one.level))
    counts, of = (np.array([getattr(one, name) for one in used], dtype=np.int64) for name in ("count", "of"))
    at_level = np.array([one.level for one in used])
    mine = [at_level == name for name in names]
    every = _likelihood(counts, of)
    prior_r = (1.0 - CORRELATIONS) ** (ALIKE - 1.0) * np.gradient(CORRELATIONS)
    jeffreys = np.exp(0.5 * np.log(special.expit(LOGIT) * special.expit(-LOGIT)))  # over the logit
    joint = np.exp(every - every.max()) * prior_r[:, None] * jeffreys
    joint /= joint.sum()
    alike = float(joint.sum(axis=1) @ CORRELATIONS)
    overall = _spread(joint.sum(axis=0), level)
    if len(names) == 0:
        return Shares(overall, {}, alike)
    likelihood = np.array([_likelihood(counts[one], of[one]) for one in mine])  # (L, r, m)
    likelihood = np.exp(likelihood - likelihood.max(axis=(1, 2), keepdims=True))
    told = _Levels(likelihood, prior_r, jeffreys)
    of_level, count_level = [int(of[one].sum()) for one in mine], [int(counts[one].sum()) for one in mine]
    better = told.better(np.array(of_level, dtype=np.float64))
    return Shares(
        overall,
        {
            name: LevelShare(_spread(told.share[k], level), of_level[k], count_level[k], float(better[k]))
            for k, name in enumerate(names)
        },
        alike,
    )


class _Levels:
    """The levels' shares with what is common to them integrated over."""

    def __init__(self, likelihood: Array, prior_r: Array, jeffreys: Array) -> None:
        prior_t = np.exp(-0.5 * (SPREADS / MATTERS) ** 2) * SPREADS
        share = np.zeros((len(likelihood), len(LOGIT)))
        self.parts: list[tuple[float, Array, Array]] = []
        for t, weight_t in zip(SPREADS, prior_t / prior_t.sum(), strict=True):
            pulled = np.exp(-0.5 * ((LOGIT[None, :] - LOGIT[:, None]) / t) ** 2)  # (about, m)
            pulled /= pulled.sum(axis=1, keepdims=True)
            for r, weight_r in enumerate(prior_r):
                each = likelihood[:, r, :]
                evidence = np.maximum(each @ pulled.T, 1e-300)  # (L, about)
                about = jeffreys * np.exp(np.sum(np.log(evidence), axis=0))
                whole = float(about.sum())
                if whole <= 0.0:
                    continue
                # Given what is common, a level's share has the density pulled times each, over the evidence.
                weight = about / whole
                mine = each * ((weight / evidence) @ pulled)  # (L, m)
                middle = (each * LOGIT) @ pulled.T / evidence  # (L, about)
                squared = (each * LOGIT**2) @ pulled.T / evidence
                mean = middle @ weight
                spread = (middle * weight) @ middle.T - np.outer(mean, mean)
                spread += np.diag((squared - middle**2) @ weight)
                part = weight_t * weight_r * whole
                self.parts.append((part, mean, spread))
                share += part * mine
        self.share = share / share.sum(axis=1, keepdims=True)
        # All levels alike: one share for all.
        alone = np.prod(likelihood, axis=0)  # (r, m)
        self.alike = float(prior_r @ (alone @ jeffreys))

    def better(self, of: Array) -> Array:
        """How probable each level's share is above the mix of all: half where there is nothing in it at all."""
        whole = sum(part for part, _, _ in self.parts)
        nothing = NOTHING * self.alike / (NOTHING * self.alike + (1.0 - NOTHING) * whole)
        better = sum(part / whole * better_of(mean, spread, of) for part, mean, spread in self.parts)
        return np.asarray((1.0 - nothing) * better + 0.5 * nothing)


def _likelihood(counts: Whole, ofs: Whole) -> Array:
    """The beta-binomial's logarithm over correlation and logit (r, m), stays alike put together."""
    alike, times = np.unique(ofs * (MOST_COUNT + 1) + counts, return_counts=True)
    whole = (1.0 / CORRELATIONS - 1.0)[:, None]
    a, b = whole * special.expit(LOGIT), whole * special.expit(-LOGIT)
    out = np.zeros_like(a)
    for one, many in zip(alike, times, strict=True):
        of, count = divmod(int(one), MOST_COUNT + 1)
        out += many * special.betaln(a + count, b + of - count)
    return np.asarray(out - len(counts) * special.betaln(a, b))


def _spread(share: Array, level: float) -> Spread:
    """The quantiles of a density over the logit."""
    below = np.concatenate([[0.0], np.cumsum(share)]) / share.sum()
    step = LOGIT[1] - LOGIT[0]
    edges = np.concatenate([LOGIT - 0.5 * step, [LOGIT[-1] + 0.5 * step]])
    kept = np.concatenate([[True], np.diff(below) > 0.0])
    at = np.interp([0.5 * (1.0 - level), 0.5, 0.5 * (1.0 + level)], below[kept], edges[kept])
    return Spread(*(float(one) for one in special.expit(at)))
