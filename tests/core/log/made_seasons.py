"""Seasons made with a known truth: what rates and levels are, and efforts that came of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hollow_glint.core.log.effort import Effort

FACTORS = {"lure": 4, "light": 3, "trying": 4, "pressure": 3, "clarity": 2}
OF_THE_DAY = ("pressure", "clarity")


@dataclass(frozen=True)
class Season:
    """Efforts, the true overall rate, and for each (factor, level) its true rate at the usual mix, and by how much its
    logarithm is above the usual (0 where the factor does not matter)."""

    efforts: list[Effort]
    overall: float
    rates: dict[tuple[str, str], float]
    above: dict[tuple[str, str], float]


def made_season(seed: int, matters: float = 0.5, outings: tuple[int, int] = (8, 40)) -> Season:
    """A season by chance: how many holes, how much they differ, which factors matter (each with a chance `matters`)."""
    rng = np.random.default_rng(seed)
    days, holes = int(rng.integers(*outings)), int(rng.integers(5, 30))
    shape, base = rng.uniform(1.2, 8.0), float(np.exp(rng.normal(-0.3, 0.7)))
    day_sd, waters, water_sd = abs(rng.normal(0.0, 0.35)), int(rng.integers(1, 4)), 0.3
    effects = {
        name: rng.normal(0.0, 0.45, count) if rng.random() < matters else np.zeros(count)
        for name, count in FACTORS.items()
    }
    hole = rng.gamma(shape, 1.0 / shape, holes)
    day = np.exp(rng.normal(-0.5 * day_sd**2, day_sd, days))
    water, of_hole = np.exp(rng.normal(0.0, water_sd, waters)), rng.integers(waters, size=holes)
    used = {name: rng.dirichlet(np.full(count, 3.0)) for name, count in FACTORS.items()}

    def drawn(name: str) -> int:
        return int(rng.choice(FACTORS[name], p=used[name]))

    rows = []
    for d in range(days):
        that_day = {name: drawn(name) for name in OF_THE_DAY}
        for _ in range(int(rng.integers(3, 8))):
            levels = {name: that_day[name] if name in that_day else drawn(name) for name in FACTORS}
            h, hours = int(rng.integers(holes)), float(rng.uniform(0.3, 2.0))
            rate = base * np.exp(sum(effects[name][k] for name, k in levels.items())) * hole[h] * day[d]
            rows.append((hours, int(rng.poisson(rate * water[of_hole[h]] * hours)), levels, h, d))
    efforts = [
        Effort(hours, count, {name: str(k) for name, k in levels.items()}, f"h{h}", f"d{d}", f"w{of_hole[h]}")
        for hours, count, levels, h, d in rows
    ]
    hours = np.array([row[0] for row in rows])
    logs = np.array([sum(effects[n][k] for n, k in row[2].items()) + np.log(water[of_hole[row[3]]]) for row in rows])
    rates, above = {}, {}
    for name, effect in effects.items():
        mine = np.array([row[2][name] for row in rows])
        share = np.bincount(mine, hours, len(effect))
        rest = base * float(np.sum(hours * np.exp(logs - effect[mine])) / hours.sum())
        usual = float(np.log(np.sum(share * np.exp(effect)) / share.sum()))
        for k in np.flatnonzero(share):
            rates[name, str(k)], above[name, str(k)] = rest * float(np.exp(effect[k])), float(effect[k]) - usual
    return Season(efforts, base * float(np.sum(hours * np.exp(logs)) / hours.sum()), rates, above)
