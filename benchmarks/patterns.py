"""How far the log's patterns may be trusted: spans, what is called better, pure chance, and the other library.

`python -m benchmarks.patterns` prints what docs/patterns.md tells. Seeds 600 to 899 are for judging, those from 5000
up were for trying things out; 0 to 599 were judged before. Seasons: `tests/core/log/made_seasons.py`.
"""

from __future__ import annotations

import sys
from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import numpy as np
import statsmodels.api as sm
from threadpoolctl import threadpool_limits

from hollow_glint.core.log.effort import Effort
from hollow_glint.core.log.patterns import SURE, patterns
from tests.core.log.made_seasons import Season, made_season
from tests.core.log.test_rates import a_large_log

DOCS = Path(__file__).parents[1] / "docs"
JUDGED = range(600, 900)
LOUD = np.log(1.2)  # a level this much above the usual is one that people would want to know
Told = tuple[bool, bool, list[tuple[bool, bool, float, float, float, float, float, float]]]


def judged(given: tuple[int, float]) -> Told:
    """A season's verdicts: is the overall rate held, is it below the span; and for each level the same, how probably
    better, by how much in truth, how many events to expect, and its span over its truth."""
    seed, matters = given
    with threadpool_limits(1):
        season: Season = made_season(seed, matters)
        found = patterns(season.efforts)
    rows = []
    for name, levels in found.factors.items():
        for level, one in levels.items():
            truth = season.rates[name, level]
            rows.append(
                (
                    one.rate.low <= truth <= one.rate.high, truth < one.rate.low, one.better,
                    season.above[name, level], one.rod_hours * truth, one.rate.low / truth, one.rate.likely / truth,
                    one.rate.high / truth,
                )
            )  # fmt: skip
    span = found.overall
    return span.low <= season.overall <= span.high, season.overall < span.low, rows


def sweep(seeds: Iterable[int], matters: float) -> list[Told]:
    """The verdicts of seasons, two at a time."""
    with ProcessPoolExecutor(2) as pool:
        return list(pool.map(judged, [(seed, matters) for seed in seeds], chunksize=10))


def table(found: list[Told], called: str) -> str:
    """A line of docs/patterns.md."""
    levels = np.array([row[:5] for _, _, rows in found for row in rows])
    overall = np.array([(held, below) for held, below, _ in found])
    better, worse = levels[levels[:, 2] >= SURE], levels[levels[:, 2] <= 1.0 - SURE]
    loud = levels[levels[:, 3] > LOUD]
    wrong = int(np.sum(better[:, 3] <= 1e-9)), int(np.sum(worse[:, 3] >= -1e-9))
    seen = "" if not len(loud) else f"{100 * np.mean(loud[:, 2] >= SURE):.0f} %"
    return (
        f"| {called} | {len(levels)} | {100 * np.mean(overall[:, 0]):.1f} % | {100 * np.mean(levels[:, 0]):.1f} % | "
        f"{100 * np.mean(levels[:, 1]):.1f} % | {len(better)}, {wrong[0]} wrong | {len(worse)}, {wrong[1]} wrong | "
        f"{seen} |"
    )


def by_count(found: list[Told]) -> list[str]:
    """How the spans hold where so many events of a level are to be expected by the truth."""
    levels = np.array([row[:5] for _, _, rows in found for row in rows])
    out = []
    for low, high in ((0, 3), (3, 10), (10, 30), (30, 100), (100, 10**9)):
        mine = levels[(levels[:, 4] >= low) & (levels[:, 4] < high)]
        of = f"{low} to {high}" if high < 10**9 else f"{low} and more"
        out.append(f"| {of} | {len(mine)} | {100 * np.mean(mine[:, 0]):.1f} % |")
    return out


def by_certainty(found: list[Told]) -> list[str]:
    """How often what is said with so much certainty is so."""
    levels = np.array([row[:5] for _, _, rows in found for row in rows])
    out = []
    for low, high in ((0.5, 0.6), (0.6, 0.75), (0.75, 0.9), (0.9, 0.97), (0.97, 1.01)):
        mine = levels[(levels[:, 2] > low) & (levels[:, 2] <= high)]
        no_more = np.mean(np.abs(mine[:, 3]) <= 1e-9)
        out.append(
            f"| {100 * low:.0f} to {min(100 * high, 100):.0f} % | {len(mine)} | "
            f"{100 * np.mean(mine[:, 3] > 1e-9):.0f} % | {100 * no_more:.0f} % |"
        )
    return out


def against_the_library(seeds: Iterable[int] = range(20)) -> float:
    """The largest difference of any rate or span from statsmodels' negative binomial, as a share."""
    most = 0.0
    for seed in seeds:
        rows = a_large_log(np.random.default_rng(seed))
        hours, counts = np.array([row[0] for row in rows]), np.array([row[1] for row in rows])
        a = np.array([row[2] for row in rows])
        x = np.column_stack([a == 0, a == 1, a == 2]).astype(float)
        theirs = sm.NegativeBinomial(counts, x, exposure=hours).fit(disp=0, maxiter=200)
        half = 1.6448536 * np.sqrt(np.diag(np.asarray(theirs.cov_params())))[:3]
        ours = patterns([Effort(t, c, {"a": str(i)}, f"h{k}") for k, (t, c, i, _) in enumerate(rows)])
        for level in range(3):
            rate = ours.factors["a"][str(level)].rate
            log = theirs.params[level]
            for mine, other in ((rate.likely, log), (rate.low, log - half[level]), (rate.high, log + half[level])):
                most = max(most, abs(mine / float(np.exp(other)) - 1.0))
    return most


def draw(found: list[Told], chance: list[Told]) -> None:
    """docs/patterns.png: spans of a hundred levels over their truth, and how certain is how often so."""
    from matplotlib import pyplot

    figure, (left, right) = pyplot.subplots(1, 2, figsize=(11.0, 5.0), dpi=110)
    every = sorted((row for _, _, some in found for row in some), key=lambda row: -row[6])
    rows = every[:: len(every) // 100][:100]
    for y, (held, _, _, _, _, low, likely, high) in enumerate(rows):
        left.plot([low, high], [y, y], color="#2F6B4F" if held else "#A3212B", linewidth=1.6)
        left.plot(likely, y, ".", color="#10222B", markersize=4)
    left.axvline(1.0, color="#10222B", linewidth=1.0)
    left.set_xscale("log")
    left.set_xticks([0.5, 1.0, 2.0], ["half", "the truth", "twice"])
    left.set_yticks([])
    left.set_xlabel("A level's 90 % span over its true rate")
    left.set_title("A hundred spans: red ones miss")
    for told, colour, called in ((found, "#A8431B", "some factors matter"), (chance, "#2F6B4F", "pure chance")):
        better = np.array([row[2] for _, _, some in told for row in some])
        right.hist(better, np.linspace(0.0, 1.0, 41), density=True, histtype="step", color=colour, label=called,
                   linewidth=1.8)  # fmt: skip
    right.axvspan(SURE, 1.0, color="#C9D5D6", alpha=0.6)
    right.axvspan(0.0, 1.0 - SURE, color="#C9D5D6", alpha=0.6)
    right.set_xlabel("Probability that a level is better than what else is used")
    right.set_ylabel("How often that is said")
    right.set_title("Grey: called better or worse")
    right.legend(frameon=False)
    figure.tight_layout()
    figure.savefig(DOCS / "patterns.png")


def main() -> None:
    seeds = JUDGED if len(sys.argv) < 2 else range(int(sys.argv[1]), int(sys.argv[1]) + int(sys.argv[2]))
    half, chance = sweep(seeds, 0.5), sweep(seeds, 0.0)
    print(
        "| seasons | levels | overall held | levels held | truth below | better | worse | 1.2 times and more, found |"
    )
    print("|---|---|---|---|---|---|---|---|")
    print(table(half, "half of the factors matter"))
    print(table(chance, "pure chance"))
    print("\n".join(["", "| events to expect | levels | held |", "|---|---|---|", *by_count(half)]))
    print("\n".join(["", "| said | levels | better | no better, no worse |", "|---|---|---|---|", *by_certainty(half)]))
    print(f"\nLargest difference from statsmodels: {100 * against_the_library():.2f} %")
    if len(sys.argv) < 2:
        draw(half, chance)


if __name__ == "__main__":
    main()
