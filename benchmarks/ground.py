"""`python -m benchmarks.ground`: how far the depth map may be trusted, on lakes that nothing was tuned on.

Prints what docs/ground.md publishes: coverage of the 95 % spans, the difference from an outside library, the difference
that neighbours make, whether a proposed sounding teaches more than one at random or on a grid, and the time it takes.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
from sklearn.gaussian_process import GaussianProcessRegressor
from sklearn.gaussian_process.kernels import RBF, ConstantKernel, Matern

from hollow_glint.core.ground.contours import on_a_grid as on_sheet
from hollow_glint.core.ground.lake_map import LIKELY, POSSIBLE, lake_map
from hollow_glint.core.ground.next_sounding import next_soundings, undecided
from hollow_glint.core.ground.regression import SHAPES, Covariance, Fitted, Known
from hollow_glint.core.ground.surface import Band, Surface, chance_in
from tests.core.ground.lakes import KINDS, Lake, lake

JUDGED = 200  # lakes, seeds 0 and up
NOISE_M = 0.1
DOCS = Path(__file__).parents[1] / "docs"


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
    whole, mended = redrawn(surface, (float(asked[0, 0]), float(asked[0, 1])))
    print(
        f"10,000 soundings: fitted in {fitted:.2f} s, 3,000 places in {drawn:.2f} s; a map of 6,000 places in "
        f"{whole:.2f} s, drawn anew after one sounding more in {mended:.2f} s"
    )


def redrawn(surface: Surface, place: tuple[float, float]) -> tuple[float, float]:
    """Seconds for a map of a lake, and for the same with one sounding more."""
    band = Band(4.0, 9.0)
    begun = time.perf_counter()
    before = on_sheet(surface, 6000)
    lake_map(before, band)
    whole = time.perf_counter() - begun
    begun = time.perf_counter()
    lake_map(on_sheet(surface.with_sounding(place, 5.0), 6000, before), band)
    return whole, time.perf_counter() - begun


def picture() -> None:
    """docs/ground.png: a made-up lake as it is, as twenty soundings tell it, and twenty more where they teach most."""
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib import pyplot

    here, rng = lake(5004, "rough"), np.random.default_rng(4)
    place = here.places(20, rng)
    depth = sounded(here, place, rng)
    surface = Surface(place, depth, here.ring)
    band = Band(0.35 * here.deep_m, 0.65 * here.deep_m)
    first = surface
    for _ in range(20):
        water, candidates = here.places(400, rng), here.places(40, rng)
        best = next_soundings(surface, band, water, here.polygon.area / 400, candidates)[0]
        there = np.array([[best.east_m, best.north_m]])
        surface = surface.with_sounding((best.east_m, best.north_m), float(sounded(here, there, rng)[0]))
    figure, axes = pyplot.subplots(1, 3, figsize=(11.0, 4.2), dpi=100)
    sheet = on_sheet(first, 9000).grid
    true = np.full(sheet.depth_m.shape, np.nan)
    wet = np.isfinite(sheet.depth_m)
    true[wet] = here.depth(sheet.places[wet.ravel()])
    inside = np.where(wet, (true >= band.from_m) & (true <= band.to_m), np.nan)
    axes[0].contourf(sheet.east, sheet.north, inside, [0.5, 1.5], colors=["#2F6B4F"])
    axes[0].contour(sheet.east, sheet.north, true, colors="#7f97a0", linewidths=0.7)
    axes[0].set_title("as it is: the band, and lines of depth")
    for axis, told, words in ((axes[1], first, "20 soundings"), (axes[2], surface, "20 more, where they teach most")):
        drawn = on_sheet(told, 9000)
        chance = chance_in(drawn.grid.depth_m, drawn.sd_m, band)
        axis.contourf(sheet.east, sheet.north, chance, [LIKELY, 1.1], colors=["#2F6B4F"])
        axis.contourf(sheet.east, sheet.north, chance, [POSSIBLE, LIKELY], colors=["#dfe9e4"], hatches=["////"])
        axis.plot(*told.place.T, "s", color="#10222B", markersize=3)
        axis.set_title(words)
    for axis in axes:
        axis.plot(*np.vstack([here.ring, here.ring[:1]]).T, color="#10222B", linewidth=1.5)
        axis.set_aspect("equal")
        axis.set_axis_off()
    figure.tight_layout()
    figure.savefig(DOCS / "ground.png")
    pyplot.close(figure)


PARTS = {"coverage": coverage, "outside": outside, "teaching": teaching, "speed": speed, "picture": picture}


def main() -> None:
    for name in sys.argv[1:] or PARTS:
        PARTS[name]()


if __name__ == "__main__":
    main()
