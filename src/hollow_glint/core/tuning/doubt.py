"""Which of a few readings is far off: each possibility weighed by how well it explains them all.

Readings follow a line whose values are known beforehand only roughly; each is right to within its error, or with a
small chance far off. Every way in which none, one or two of them are far off is a normal distribution with an evidence
of its own, so the chance that a reading is bad, and how far the answer would move if it were, fall out of one sum (Box
and Tiao 1968, a Bayesian approach to some outlier problems; from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats

BAD_CHANCE = 0.05  # of a reading: the wrong lure, a swinging line, a number misheard. Common practice, no source
BAD_SD_DB = 10.0
SOME = 0.03  # chance of being bad from which a reading widens what is told
MUCH = 0.15  # and from which it is asked for again
PAIRS_FROM = 5  # with fewer readings two bad ones could say anything


@dataclass(frozen=True, eq=False)
class Weighed:
    """Chance that each reading is far off, (readings,), and the spread between all answers that may be, (3, 3)."""

    bad: Floats
    between: Floats


def weigh(rows: Floats, level: Floats, prior: tuple[Floats, Floats], sd: float, used: NDArray[np.bool_]) -> Weighed:
    """Weigh readings `level` [dB] (readings,), linear in three values by `rows` (readings, 3), each right to `sd` [dB].

    `prior` the three values and how far off each may be [1 sd]; only those `used` (readings,) count.
    """
    at = np.flatnonzero(used)
    held, wide = prior
    off, design = level[at] - rows[at] @ held, rows[at]
    most = 2 if at.size >= PAIRS_FROM else 1
    logs, answers, sets = [], [], []
    for count in range(min(most, max(at.size - 1, 0)) + 1):
        for out in combinations(range(at.size), count):
            noise = np.full(at.size, sd**2)
            noise[list(out)] += BAD_SD_DB**2
            spread = design @ np.diag(wide**2) @ design.T + np.diag(noise)
            _, size = np.linalg.slogdet(spread)
            known = np.linalg.solve(spread, off)
            logs.append(
                -0.5 * float(off @ known) - 0.5 * float(size)
                + count * np.log(BAD_CHANCE) + (at.size - count) * np.log(1.0 - BAD_CHANCE)
            )  # fmt: skip
            answers.append(wide**2 * (design.T @ known))
            sets.append(out)
    chance = np.exp(np.array(logs) - max(logs))
    chance /= chance.sum()
    bad = np.zeros(level.size)
    for share, out in zip(chance, sets, strict=True):
        bad[at[list(out)]] += share
    all_of_them = np.array(answers)
    mean = chance @ all_of_them
    apart = all_of_them - mean
    return Weighed(bad, (apart * chance[:, None]).T @ apart)
