"""Does pressure decide how high fish come? By days, for fish of one day come alike: twenty fish of one day are one day.

The means of the days are held against each other by the analysis of variance (Fisher 1925, Statistical Methods for
Research Workers), their spans are Student's. With fewer than LEAST_DAYS of two kinds there is nothing to hold.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..wording import Quantity, Sentence

LEAST_DAYS = 3  # of a kind
CHANCE = 0.05  # that days alike by nature are told apart
HeightVerdict = Literal["it does", "no telling", "too little"]


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


def rise_by_pressure(seen: Iterable[tuple[str, str | None, float]], level: float = 0.9) -> Rise:
    """From (day, pressure trend or None, height off the bottom [m]) of each fish."""
    from scipy import stats  # a third of a second to load

    of_day: dict[tuple[str, str], list[float]] = defaultdict(list)
    for day, trend, height in seen:
        if trend is not None:
            of_day[trend, day].append(height)
    days: dict[str, list[float]] = defaultdict(list)
    fish: dict[str, int] = defaultdict(int)
    for (trend, _), heights in sorted(of_day.items()):
        days[trend].append(float(np.mean(heights)))
        fish[trend] += len(heights)
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
    alike = all(np.ptp(one) == 0.0 for one in means)
    chance = 1.0 if alike else float(stats.f_oneway(*means).pvalue)
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


def _trend(trend: str, means: list[float], fish: int, level: float) -> TrendHeight:
    from scipy import stats

    mean, n = float(np.mean(means)), len(means)
    if n < 2:
        return TrendHeight(trend, mean, 0.0, mean * 2.0, n, fish)
    half = float(stats.t.ppf(0.5 * (1.0 + level), n - 1) * np.std(means, ddof=1) / np.sqrt(n))
    return TrendHeight(trend, mean, max(mean - half, 0.0), mean + half, n, fish)
