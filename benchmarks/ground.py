"""`python -m benchmarks.ground`: how far the depth map may be trusted, on lakes that nothing was tuned on.

Prints what docs/ground.md publishes: coverage of the 95 % spans, the difference from an outside library, the difference
that neighbours make, whether a proposed sounding teaches more than one at random or on a grid, and the time it takes.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable

import numpy as np
from sklearn.gaussian_process import GaussianProcessRegressor
from sklearn.gaussian_process.kernels import RBF, ConstantKernel, Matern

from hollow_glint.core.ground.next_sounding import next_soundings, undecided
from hollow_glint.core.ground.regression import SHAPES, Covariance, Fitted, Known
from hollow_glint.core.ground.surface import Band, Surface
from tests.core.ground.lakes import KINDS, Lake, lake

JUDGED = 200  # lakes, seeds 0 and up
NOISE_M = 0.1


def sounded(here: Lake, place: np.ndarray, rng: np.random.Generator) -> np.ndarray:
    """Depths as a line in a cold hand tells them."""
    return np.maximum(here.depth(place) + rng.normal(size=place.shape[0]) * NOISE_M, 0.0)


def coverage() -> None:
    """Share of places whose true depth lies in the 95 % span, and the typical error."""
    print("| bed | shore | soundings | in the 95 % span | error, m (rms) | deviation told, m (median) |")
    print("|---|---|---|---|---|---|")
    for kind in KINDS:
        for shore in (True, False):
            shares, errors, told, counts = [], [], [], []
            for seed in range(JUDGED):
                here, rng = lake(seed, kind), np.random.default_rng(seed + 7)
                place = here.places(int(rng.integers(8, 80)), rng)
                asked = here.places(200, rng)
                mean, sd = Surface(place, sounded(here, place, rng), here.ring if shore else None).at(asked)
                off = here.depth(asked) - mean
                shares.append(np.mean(np.abs(off) <= 1.96 * sd))
                errors.append(np.sqrt(np.mean(off**2)))
                told.append(np.median(sd))
                counts.append(place.shape[0])
            print(
                f"| {kind} | {'known' if shore else 'not known'} | {min(counts)} to {max(counts)} | "
                f"{100 * np.mean(shares):.1f} % | {np.mean(errors):.2f} | {np.mean(told):.2f} |"
            )


def outside() -> None:
    """The largest difference from scikit-learn on the same soundings, covariance and noise."""
    kernels = {"matern 3/2": lambda a: Matern(a, nu=1.5), "matern 5/2": lambda a: Matern(a, nu=2.5)}
    kernels["squared exponential"] = RBF
    worst_mean = worst_sd = 0.0
    for seed in range(20):
        for shape in SHAPES:
            rng = np.random.default_rng(seed)
            place, asked = rng.uniform(0, 500, (60, 2)), rng.uniform(-50, 550, (100, 2))
            depth = 8.0 + 3.0 * np.sin(place[:, 0] / 90.0) + rng.normal(size=60) * 0.2
            known = Known(place, depth, np.ones(60), np.ones((60, 1)), np.array([150.0]))
            mean, variance = Fitted(known, Covariance(shape, 120.0, 6.0, 0.04)).at(
                asked, np.ones(100), np.ones((100, 1))
            )
            kernel = ConstantKernel(150.0) + ConstantKernel(6.0) * kernels[shape](120.0)
            process = GaussianProcessRegressor(kernel, alpha=0.04, optimizer=None).fit(place, depth)
            theirs, sd = process.predict(asked, return_std=True)
            worst_mean = max(worst_mean, float(np.abs(mean / theirs - 1.0).max()))
            worst_sd = max(worst_sd, float(np.abs(np.sqrt(variance) / sd - 1.0).max()))
    print(f"from scikit-learn: mean {100 * worst_mean:.4f} %, deviation {100 * worst_sd:.4f} % at the most")


Choose = Callable[[Surface, Band, np.ndarray, np.ndarray, int], np.ndarray]


def proposed(surface: Surface, band: Band, water: np.ndarray, candidates: np.ndarray, k: int) -> np.ndarray:
    best = next_soundings(surface, band, water, 1.0, candidates)[0]
    return np.array([best.east_m, best.north_m])


def at_random(surface: Surface, band: Band, water: np.ndarray, candidates: np.ndarray, k: int) -> np.ndarray:
    return np.asarray(candidates[0])


def on_a_grid(surface: Surface, band: Band, water: np.ndarray, candidates: np.ndarray, k: int) -> np.ndarray:
    """Where the nearest sounding is furthest: what an even grid does, one hole at a time."""
    away = np.linalg.norm(candidates[:, None] - surface.place[None], axis=-1).min(axis=1)
    return np.asarray(candidates[int(away.argmax())])


def teaching(lakes: int = 100, holes: int = 16) -> None:
    """Undecided and wrongly told water after a few more holes, by how they were chosen."""
    ways: dict[str, Choose] = {"proposed": proposed, "at random": at_random, "on a grid": on_a_grid}
    left: dict[str, list[float]] = {name: [] for name in ways}
    wrong: dict[str, list[float]] = {name: [] for name in ways}
    for seed in range(lakes):
        here = lake(seed, KINDS[seed % 2])
        rng = np.random.default_rng(seed + 11)
        place, water = here.places(10, rng), here.places(300, rng)
        candidates = [here.places(30, rng) for _ in range(holes)]
        true = here.depth(water)
        shallow, deep = np.quantile(true, [0.45, 0.75])
        band = Band(float(shallow), float(deep) + 0.01)
        first = Surface(place, sounded(here, place, rng), here.ring)
        before = undecided(*first.at(water), band).sum()
        for name, choose in ways.items():
            surface, luck = first, np.random.default_rng(seed + 13)
            for k in range(holes):
                at = choose(surface, band, water, candidates[k], k)
                surface = surface.with_sounding(at, float(sounded(here, at[None], luck)[0]))
            surface = Surface(surface.place, surface.depth, here.ring)
            mean, sd = surface.at(water)
            left[name].append(float(undecided(mean, sd, band).sum() / before))
            inside = (true > band.from_m) & (true < band.to_m)
            wrong[name].append(float(np.mean((surface.in_band(water, band) > 0.5) != inside)))
    print(
        f"| eight more holes on {lakes} lakes | undecided water left, share of before | told wrongly, share of water |"
    )
    print("|---|---|---|")
    for name in ways:
        print(f"| {name} | {np.mean(left[name]):.2f} | {100 * np.mean(wrong[name]):.1f} % of the water |")
    for name in ("at random", "on a grid"):
        less = np.array(wrong[name]) - np.array(wrong["proposed"])
        sure = 1.96 * less.std(ddof=1) / np.sqrt(lakes)
        more = f"{100 * less.mean():.1f} ± {100 * sure:.1f} %"
        print(f"proposed tells {more} more of the water rightly than {name}")


def speed() -> None:
    """Ten thousand soundings: the fit, a map of three thousand places, and one sounding more round its place."""
    here, rng = lake(5030, "smooth"), np.random.default_rng(9)
    place = here.places(10_000, rng)
    depth = sounded(here, place, rng)
    begun = time.perf_counter()
    surface = Surface(place, depth, here.ring)
    fitted = time.perf_counter() - begun
    asked = here.places(3000, rng)
    begun = time.perf_counter()
    surface.at(asked)
    drawn = time.perf_counter() - begun
    begun = time.perf_counter()
    more = surface.with_sounding(asked[0], 5.0)
    near = np.linalg.norm(asked - asked[0], axis=1) < 3.0 * surface.covariance.length_m
    more.at(asked[near][:600])
    mended = time.perf_counter() - begun
    print(f"10,000 soundings: fitted in {fitted:.2f} s, 3,000 places in {drawn:.2f} s, one more in {mended:.2f} s")


PARTS = {"coverage": coverage, "outside": outside, "teaching": teaching, "speed": speed}


def main() -> None:
    for name in sys.argv[1:] or PARTS:
        PARTS[name]()


if __name__ == "__main__":
    main()
