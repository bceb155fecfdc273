"""Does pressure decide how high fish come? By days, for fish of one day come alike: twenty fish of one day are one day.
A hole where fish always come high (or whose fish are of another kind) is taken out first: each fish counts by how far
above or below its hole's own mean it came.

The means of the days are held against each other by the analysis of variance (Fisher 1925, Statistical Methods for
Research Workers), their spans are Student's. With fewer than LEAST_DAYS of two kinds there is nothing to hold.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from ..lazily import Lazily
from ..wording import Quantity, Sentence

if TYPE_CHECKING:
    from scipy import special
else:
    special = Lazily("scipy.special")

LEAST_DAYS = 3  # of a kind
CHANCE = 0.05  # that days alike by nature are told apart
HeightVerdict = Literal["it does", "no telling", "too little"]


@dataclass(frozen=True)
class SeenAt:
    """A fish at a height off the bottom [m]: the day and hole, and where the pressure was going, None if not known."""

    day: str
    hole: str
    trend: str | None
    height_m: float


@dataclass(frozen=True)
class TrendHeight:
    """Days of one kind: the mean of their means [m off the bottom], its span at the level asked, how many days and
    fish."""

    trend: str
    mean_m: float
    low_m: float
    high_m: float
    days: int
    fish: int


@dataclass(frozen=True)
class Rise:
    """What the log says of pressure and how high fish came."""

    trends: tuple[TrendHeight, ...]
    verdict: HeightVerdict
    says: Sentence


def rise_by_pressure(seen: Iterable[SeenAt], level: float = 0.9) -> Rise:
    """What the fish of a log say, each at a hole on a day."""
    known = [one for one in seen if one.trend is not None]
    of_hole: dict[str, list[float]] = defaultdict(list)
    for one in known:
        of_hole[one.hole].append(one.height_m)
    usual = float(np.mean([one.height_m for one in known])) if known else 0.0
    mean_of_hole = {hole: sum(mine) / len(mine) for hole, mine in of_hole.items()}
    of_day: dict[tuple[str, str], list[float]] = defaultdict(list)
    for one in known:
        of_day[str(one.trend), one.day].append(one.height_m - mean_of_hole[one.hole])
    days: dict[str, list[float]] = defaultdict(list)
    fish: dict[str, int] = defaultdict(int)
    for (trend, _), above in sorted(of_day.items()):
        days[trend].append(usual + float(np.mean(above)))
        fish[trend] += len(above)
    told = {trend: means for trend, means in days.items() if len(means) >= LEAST_DAYS}
    trends = tuple(_trend(trend, means, fish[trend], level) for trend, means in days.items())
    if len(told) < 2:
        said = "Fish were noted at a depth on {days} days of known pressure; it takes {least} days each of two kinds."
        values = {
            "days": Quantity(sum(len(means) for means in days.values()), "count"),
            "least": Quantity(LEAST_DAYS, "count"),
        }
        return Rise(trends, "too little", Sentence(said, values))
    means = list(told.values())
    chance = chance_of(means)
    high, low = max(told, key=lambda one: np.mean(told[one])), min(told, key=lambda one: np.mean(told[one]))
    values = {
        "apart": Quantity(float(np.mean(told[high]) - np.mean(told[low])), "m"),
        "days": Quantity(sum(len(one) for one in means), "count"),
        "chance": Quantity(100.0 * chance, "percent"),
    }
    if chance < CHANCE:
        said = (
            f"Fish came {{apart}} higher with pressure {high} than {low}, over {{days}} days; chance alone parts days "
            "so far in {chance} of logs."
        )
        return Rise(trends, "it does", Sentence(said, values))
    said = (
        "No telling: over {days} days the kinds of pressure lie {apart} apart at most, and chance alone parts them so "
        "far in {chance} of logs."
    )
    return Rise(trends, "no telling", Sentence(said, values))


def chance_of(groups: Sequence[Sequence[float]]) -> float:
    """How often chance alone parts groups of one kind so far or further: the one-way analysis of variance."""
    every = np.concatenate([np.asarray(one, dtype=np.float64) for one in groups])
    within = sum(float(np.sum((np.asarray(one) - np.mean(one)) ** 2)) for one in groups)
    between = sum(len(one) * (float(np.mean(one)) - float(every.mean())) ** 2 for one in groups)
    free = len(groups) - 1, len(every) - len(groups)
    if within <= 1e-12 * max(between, 1.0):
        return 1.0  # days all the same to the last digit were not measured
    return float(special.fdtrc(*free, (between / free[0]) / (within / free[1])))


def _trend(trend: str, means: list[float], fish: int, level: float) -> TrendHeight:
    mean, n = float(np.mean(means)), len(means)
    if n < 2:
        return TrendHeight(trend, mean, 0.0, mean * 2.0, n, fish)
    half = float(special.stdtrit(n - 1, 0.5 * (1.0 + level)) * np.std(means, ddof=1) / np.sqrt(n))
    return TrendHeight(trend, mean, max(mean - half, 0.0), mean + half, n, fish)
