"""Learns what speaks for a figure in a photo being the picture, from made-up photos, and prints the tables of
`core/photo/corner_weights.py`. `python -m benchmarks.photo_corners FIRST COUNT`, FIRST from 5000 up.

A choice among figures: the weights that make the right one likeliest (conditional logit, McFadden 1974), leaning on
none. Whether the chosen one is right: a logistic regression, each fifth of the photos judged by weights that were
learned from the others.
"""

from __future__ import annotations

import io
import sys
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from scipy.optimize import minimize

from hollow_glint.core.photo import corners
from hollow_glint.core.photo.corner_weights import Weights
from hollow_glint.core.photo.corners import figures_from_afar, likeliest_figures

from .photo_cases import TUNING_FROM, case_of

FAR_RIGHT, NEAR_RIGHT, RIGHT = 0.025, 0.013, 0.01  # how far a corner may be off, of the width
FOLDS = 5
Floats = NDArray[np.float64]


@dataclass(frozen=True, eq=False)
class Choice:
    """Figures of one photo: what is measured of each, shape (figures, measures), and how far off it is."""

    measured: Floats
    off: Floats


def photo_of(seed: int) -> tuple[NDArray[np.uint8], Floats]:
    """A made-up photo's pixels and its true corners."""
    photo = case_of(seed).photo
    return np.asarray(Image.open(io.BytesIO(photo.content)).convert("RGB")), np.array(photo.corners)


def far_choice(seed: int) -> tuple[list[str], Choice]:
    """What the photo's figures are from afar."""
    pixels, true = photo_of(seed)
    quads, measured, _ = figures_from_afar(pixels)
    wide = np.hypot(*(true[1] - true[0]))
    off = np.hypot(*np.moveaxis(quads - true, -1, 0)).max(axis=1) / wide
    return list(measured), Choice(np.stack(list(measured.values()), axis=1), off)


def near_choice(given: tuple[int, Weights]) -> tuple[list[str], Choice]:
    """What the likeliest of them are from near, by weights from afar."""
    seed, corners.FAR_WEIGHTS = given
    pixels, true = photo_of(seed)
    figures = likeliest_figures(pixels)
    wide = np.hypot(*(true[1] - true[0]))
    off = [float(np.hypot(*(np.array(one.outline.corners) - true).T).max()) / wide for one in figures]
    names = list(figures[0].measured)
    return names, Choice(np.array([[one.measured[name] for name in names] for one in figures]), np.array(off))


def squared(measured: Floats) -> Floats:
    """Each measure itself and squared."""
    return np.concatenate([measured, measured**2], axis=1)


def learned(choices: list[Choice], right: float, lean: float) -> Floats:
    """Weights of measures and of their squares."""
    scale = np.concatenate([squared(one.measured) for one in choices]).std(axis=0) + 1e-6
    told = [(squared(one.measured) / scale, one.off < right) for one in choices if (one.off < right).any()]

    def loss(weights: Floats) -> tuple[float, Floats]:
        total, slope = 0.0, np.zeros_like(weights)
        for measured, good in told:
            odds = np.exp((z := measured @ weights) - z.max())
            total -= np.log(odds[good].sum() / odds.sum())
            slope += odds @ measured / odds.sum() - odds[good] @ measured[good] / odds[good].sum()
        return total / len(told) + lean * weights @ weights, slope / len(told) + 2.0 * lean * weights

    found = minimize(loss, np.zeros(scale.size), jac=True, method="L-BFGS-B", options={"maxiter": 300}).x
    return np.asarray(found / scale)


def sureness(choices: list[Choice], lean: float = 1e-3) -> tuple[Floats, Floats, Floats, Floats]:
    """Weights of what makes a chosen figure right; of every photo how likely it was said to be by weights that had not
    seen it, how far off it was, and how far off the best of its figures."""
    told, off = [], []
    best = np.array([one.off.min() for one in choices])
    for fold in range(FOLDS):
        weights = learned([one for k, one in enumerate(choices) if k % FOLDS != fold], NEAR_RIGHT, 1e-3)
        for k in range(fold, len(choices), FOLDS):
            score = squared(choices[k].measured) @ weights
            chosen = int(score.argmax())
            others = np.log(np.exp(np.delete(score, chosen) - score[chosen]).sum() + 1e-3)
            told.append(np.r_[choices[k].measured[chosen], -others, 1.0])
            off.append((k, choices[k].off[chosen]))
    order = np.argsort([k for k, _ in off])
    measured, far = squared(np.array(told)[order]), np.array([one for _, one in off])[order]
    good = far < RIGHT

    def fitted(kept: NDArray[np.bool_]) -> Floats:
        scale = measured.std(axis=0) + 0.1

        def loss(weights: Floats) -> float:
            z = measured[kept] @ (weights / scale)
            return float(np.mean(np.logaddexp(0.0, np.where(good[kept], -z, z))) + lean * weights @ weights)

        return np.asarray(minimize(loss, np.zeros(scale.size), method="L-BFGS-B").x / scale)

    chance = np.zeros(far.size)
    for fold in range(FOLDS):
        own = np.arange(far.size) % FOLDS == fold
        chance[own] = 1.0 / (1.0 + np.exp(-measured[own] @ fitted(~own)))
    return fitted(np.ones(far.size, bool)), chance, far, best


def table(name: str, names: list[str], weights: Floats) -> str:
    """The lines of a table of weights."""
    half = len(names)
    rows = (f'    "{one}": ({weights[k]:.2f}, {weights[half + k]:.2f}),' for k, one in enumerate(names))
    return "\n".join((f"{name}: Final[Weights] = {{", *rows, "}"))


def main(first: int, count: int) -> None:
    if first < TUNING_FROM:
        raise SystemExit(f"seeds below {TUNING_FROM} are only for judging")
    seeds = range(first, first + count)
    with ProcessPoolExecutor(2) as pool:
        told = list(pool.map(far_choice, seeds))
        names, far = told[0][0], [one for _, one in told]
        weights = learned(far, FAR_RIGHT, 1e-4)
        print(table("FAR_WEIGHTS", names, weights))
        given: Weights = {one: (weights[k], weights[len(names) + k]) for k, one in enumerate(names)}
        told = list(pool.map(near_choice, [(seed, given) for seed in seeds]))
    names, near = told[0][0], [one for _, one in told]
    print(table("NEAR_WEIGHTS", names, learned(near, NEAR_RIGHT, 1e-3)))
    weights, chance, off, best = sureness(near)
    print(table("SURE_WEIGHTS", [*names, "of them all", ""], weights))
    sure = chance > corners.SURE
    print(
        f"# learned from {count} photos, each fifth judged by the others: {100 * (off < RIGHT).mean():.0f} % right, "
        f"{100 * (best < RIGHT).mean():.0f} % among the figures; called sure {100 * sure.mean():.0f} %, "
        f"of those right {100 * (off[sure] < RIGHT).mean():.0f} %"
    )


if __name__ == "__main__":
    main(int(sys.argv[1]), int(sys.argv[2]))
