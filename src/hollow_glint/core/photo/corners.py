"""Where the picture stands in a photo, found beforehand: four straight sides with one ground all about them and layers
within that end at the left and the right. A guess to be looked at, with how sure it is.

Every four-sided figure of the photo's straight lines is measured; the likeliest are fitted to their edges and measured
again, from near. What speaks for a figure was learned from made-up photos: `corner_weights`.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from typing import TYPE_CHECKING, Final

import numpy as np

from ..checks import Floats, InputError
from ..lazily import Lazily
from .corner_weights import FAR_WEIGHTS, NEAR_WEIGHTS, SURE_WEIGHTS, Weights
from .perspective import LEAST_SIDE, Outline, Pixels
from .sides import fitted_sides, steepness, strips, within_rim
from .straight_lines import SmallPhoto, bend_of, lines_of, small_photo

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

QUICK: Final = 500  # figures that are measured well
LOOKED_AT: Final = 10  # and fitted to their edges
APART: Final = 0.02  # of its width, by which a figure differs from another
LEAST_SHARE: Final = 0.04  # of the photo that a picture fills
UNLIKE: Final = np.exp(0.35)  # by how much a side may be longer than the one across
EDGE: Final = 4.0  # of the small photo (CIE 1976 a pixel)
NEAR_EDGE, PLAIN_EDGE = 2.5, 5.0  # of the photo itself
BEYOND: Final = np.r_[np.linspace(-0.09, -0.025, 8), np.linspace(1.025, 1.09, 8)]
FITTED: Final = (0.013, 0.007)  # of the photo's width: how far edges may be from a figure
SURE: Final = 0.8  # chance from which a guess is called sure


@dataclass(frozen=True)
class CornersFound:
    """Where the picture seems to stand, and how likely each corner is within 1 % of its width of the true one."""

    outline: Outline
    chance: float

    @property
    def sure(self) -> bool:
        """Whether it is likely enough to be called sure; it is looked at all the same."""
        return self.chance > SURE


@dataclass(frozen=True, eq=False)
class Figure:
    """A four-sided figure fitted to its edges, and what was measured of it."""

    outline: Outline
    measured: dict[str, float]


def find_corners(pixels: Pixels) -> CornersFound:
    """The picture in a photo. Raises ValueError when there is nothing with four straight sides.

    Where the picture's ground is as its frame's, or its first row as the frame above, no side is to be seen:
    docs/photo.md says how often a guess is right.
    """
    figures = likeliest_figures(pixels)
    if not figures:
        raise InputError("the photo shows no picture with four straight sides: put the corners there by hand")
    score = np.array([weighed(one.measured, NEAR_WEIGHTS) for one in figures])
    best = int(score.argmax())
    odds = -float(np.log(np.exp(np.delete(score, best) - score[best]).sum() + 1e-3))
    sure = weighed({**figures[best].measured, "of them all": odds, "": 1.0}, SURE_WEIGHTS)
    return CornersFound(figures[best].outline, float(1.0 / (1.0 + np.exp(-np.clip(sure, -50.0, 50.0)))))


def weighed(measured: dict[str, float], weights: Weights) -> float:
    """What is measured of a figure times its weights, itself and squared: a logarithm of odds up to a constant."""
    return float(
        sum(first * measured[name] + second * measured[name] ** 2 for name, (first, second) in weights.items())
    )


def likeliest_figures(pixels: Pixels) -> list[Figure]:
    """The few figures that look most like a picture from afar, fitted and measured from near."""
    quads, measured, bend = figures_from_afar(pixels)
    if not len(quads):
        return []
    score = sum(
        (a * measured[name] + b * measured[name] ** 2 for name, (a, b) in FAR_WEIGHTS.items()), np.zeros(len(quads))
    )
    found: list[Figure] = []
    for one in _distinct(quads, score):
        figure = _fitted(pixels, quads[one], bend, float(score[one] - score.max()))
        if figure is not None:
            found.append(figure)
    return found


def figures_from_afar(pixels: Pixels) -> tuple[Floats, dict[str, Floats], float]:
    """Figures of straight lines in the photo [px], shape (figures, 4, 2); what is measured of each; the lens's bend."""
    small, coarser = small_photo(pixels)
    bend = bend_of(small)
    straight = small.straightened(bend)
    quads = _quads(lines_of(straight, upright=True), lines_of(straight, upright=False), straight)
    if not len(quads):
        return quads, {}, bend
    quads = quads[np.argsort(-_quickly(quads, straight), kind="stable")[:QUICK]]
    return small.whole(bend).bent(quads) * coarser, _from_afar(quads, straight), bend


def _quads(upright: Floats, level: Floats, small: SmallPhoto) -> Floats:
    """Every four-sided figure of two upright and two level lines that could be a picture, shape (quads, 4, 2)."""
    high, wide = small.lab.shape[:2]
    if len(upright) < 2 or len(level) < 2:
        return np.zeros((0, 4, 2))
    a, d = upright[:, :1], upright[:, 1:]
    b, e = level[:, 0], level[:, 1]
    turned = np.cos(a) * np.cos(b) - np.sin(a) * np.sin(b)
    met = np.stack([d * np.cos(b) - e * np.sin(a), e * np.cos(a) - d * np.sin(b)], axis=-1) / turned[..., None]
    left, right = np.array(list(combinations(range(len(a)), 2))).T[:, :, None]
    top, foot = np.array(list(combinations(range(len(b)), 2))).T[:, None]
    quads = np.stack([met[left, top], met[right, top], met[right, foot], met[left, foot]], axis=2).reshape(-1, 4, 2)
    sides = np.roll(quads, -1, axis=1) - quads
    turns = sides[..., 0] * np.roll(sides[..., 1], -1, axis=1) - sides[..., 1] * np.roll(sides[..., 0], -1, axis=1)
    long = np.hypot(sides[..., 0], sides[..., 1])
    inside = ((quads > -2.0) & (quads < [wide + 2.0, high + 2.0])).all(axis=(1, 2))
    like = (long <= UNLIKE * np.roll(long, 2, axis=1)).all(axis=1)
    large = _areas(quads) > LEAST_SHARE * wide * high
    kept: Floats = quads[inside & like & large & (turns > 0.0).all(axis=1) & (long.min(axis=1) > LEAST_SIDE)]
    return kept


def _areas(quads: Floats) -> Floats:
    x, y = quads[..., 0], quads[..., 1]
    return np.asarray(np.abs((x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1)).sum(axis=1)) / 2.0)


class _Along:
    """Places along the sides of figures in the small photo."""

    def __init__(self, quads: Floats, small: SmallPhoto) -> None:
        self._quads, self._small = quads, small
        self._ahead = np.roll(quads, -1, axis=1) - quads
        out = np.stack([self._ahead[..., 1], -self._ahead[..., 0]], axis=-1)
        self._out = out / np.hypot(out[..., :1], out[..., 1:])
        self._widest = ndimage.maximum_filter(small.steep, 3)

    def _looked_up(self, field: Floats, share: Floats, out_px: float) -> Floats:
        at = self._quads[:, :, None] + share[:, None] * self._ahead[:, :, None] + out_px * self._out[:, :, None]
        row = np.clip(at[..., 1].astype(np.intp), 0, field.shape[0] - 1)
        column = np.clip(at[..., 0].astype(np.intp), 0, field.shape[1] - 1)
        return np.asarray(field[row, column])

    def steep(self, share: Floats) -> Floats:
        """How steep it is there, shape (figures, 4, places)."""
        return self._looked_up(self._widest, share, 0.0)

    def lab(self, places: int, out_px: float) -> Floats:
        """The colours so many pixels out of evenly spread places, shape (figures, 4, places, 3)."""
        return self._looked_up(self._small.lab, (np.arange(places) + 0.5) / places, out_px)


def _off(one: Floats, other: Floats, most: float = 40.0) -> Floats:
    """How far colours are from others (L*, a* and b* summed), 0 to 1 at `most`."""
    return np.asarray(np.minimum(np.abs(one - other).sum(axis=-1), most) / most)


def _quickly(quads: Floats, small: SmallPhoto) -> Floats:
    """A score by which hopeless figures are left out: edges all along, an even ground about, layers within."""
    along, few = _Along(quads, small), 14
    edge = (along.steep((np.arange(few) + 0.5) / few) > 0.75 * EDGE).mean(axis=2)
    outside, within = along.lab(few, 3.0), along.lab(few, -4.0)
    ground, usual = np.median(outside, axis=2), np.median(within, axis=2)
    varies = _off(outside, ground[:, :, None], 30.0).mean(axis=(1, 2))
    between = _off(ground, np.median(ground, axis=1, keepdims=True)).max(axis=1)
    layers = _off(within, usual[:, :, None], 30.0)[:, [1, 3]].mean(axis=(1, 2))
    score: Floats = 2.0 * edge.min(axis=1) + 2.0 * edge.mean(axis=1) - 3.0 * varies - 1.6 * between + 2.0 * layers
    return score


def _from_afar(quads: Floats, small: SmallPhoto) -> dict[str, Floats]:
    """What is measured of figures in the small photo, each a share from 0 to about 1, shape (figures,)."""
    along, many = _Along(quads, small), 40
    beyond = np.r_[np.linspace(-0.1, -0.02, 6), np.linspace(1.02, 1.1, 6)]
    edge, on = along.steep((np.arange(many) + 0.5) / many), along.steep(beyond)
    outside, further = along.lab(many, 2.5), along.lab(many, 5.0)
    within, deeper = along.lab(many, -3.0), along.lab(many, -7.0)
    grounds, usuals = np.median(outside, axis=2), np.median(within, axis=2)
    ground, usual = (np.median(one, axis=(1, 2), keepdims=True) for one in (outside, within))
    own_ground, own_usual = _off(outside, grounds[:, :, None], 20.0), _off(within, usuals[:, :, None])[:, [1, 3]]
    further_off = _off(outside, further, 20.0)
    all_ = (1, 2)
    return {
        "goes on": (on > EDGE).mean(all_), "goes on faintly": (on > EDGE / 2).mean(all_),
        "one goes on": (on > EDGE).mean(axis=2).max(axis=1),
        "steeper than beyond": (edge - on.mean(axis=2, keepdims=True)).mean(all_) / 10.0,
        "edge": (edge > EDGE).mean(all_), "least edge": (edge > EDGE).mean(axis=2).min(axis=1),
        "faint edge": (edge > EDGE / 2).mean(all_), "least faint edge": (edge > EDGE / 2).mean(axis=2).min(axis=1),
        "ground varies": _off(outside, ground).mean(all_), "within varies": _off(within, usual).mean(all_),
        "large": np.sqrt(_areas(quads) / (small.lab.shape[0] * small.lab.shape[1])),
        "ground of a side": _off(grounds, ground[:, 0]).max(axis=1),
        "within of a side": _off(usuals, usual[:, 0]).max(axis=1),
        "in and out": _off(within, outside).mean(all_),
        "least in and out": _off(within, outside).mean(axis=2).min(axis=1),
        "ground along": own_ground.mean(all_), "most ground along": own_ground.mean(axis=2).max(axis=1),
        "ground outwards": further_off.mean(all_), "most ground outwards": further_off.mean(axis=2).max(axis=1),
        "layers": own_usual.mean(all_), "least layers": own_usual.mean(axis=2).min(axis=1),
        "inwards": _off(within, deeper, 20.0).mean(all_),
        "layers inwards": _off(within, deeper, 20.0)[:, [1, 3]].mean(all_),
        "left and right": _off(within[:, 1], within[:, 3, ::-1], 30.0).mean(axis=1),
    }  # fmt: skip


def _distinct(quads: Floats, score: Floats) -> list[int]:
    """The figures with the highest scores that are not nearly another with a higher."""
    order = [int(one) for one in np.argsort(-score, kind="stable")]
    wide = float(np.hypot(*(quads[order[0], 1] - quads[order[0], 0])))
    kept: list[int] = []
    for one in order:
        if all(np.abs(quads[one] - quads[other]).max() > APART * wide for other in kept):
            kept.append(one)
            if len(kept) == LOOKED_AT:
                break
    return kept


def _fitted(pixels: Pixels, quad: Floats, bend: float, from_afar: float) -> Figure | None:
    """A figure fitted to its edges and measured, or None when nothing is left of it."""
    high, wide = pixels.shape[:2]
    try:
        outline = Outline(tuple((float(x), float(y)) for x, y in quad), wide, high, bend)
        for reach in FITTED:
            outline = fitted_sides(pixels, outline, reach * wide, outermost=True)
        outline, rim = within_rim(pixels, outline)
    except (InputError, np.linalg.LinAlgError):
        return None
    return Figure(outline, _from_near(pixels, outline) | {"from afar": from_afar, "rim": float(rim)})


def _from_near(pixels: Pixels, outline: Outline) -> dict[str, float]:
    """What is measured of a fitted figure in the photo itself, each a share from 0 to 1."""
    most = 16
    steps = np.arange(-most, most + 1)
    lab = strips(pixels, outline, np.linspace(0.02, 0.98, 64), steps)
    edge = steepness(lab)[:, :, most - 2 : most + 3].max(axis=2)
    on = steepness(strips(pixels, outline, BEYOND, steps))[:, :, most - 2 : most + 3].max(axis=2)
    outside, further, within, deeper = (lab[:, :, most + off] for off in (7, 14, -8, -16))
    grounds, usuals = np.median(outside, axis=1), np.median(within, axis=1)
    layers = _off(within, usuals[:, None])
    measured = {
        "ground of a side": _off(grounds, np.median(grounds, axis=0)).max(),
        "ground along": _off(outside, grounds[:, None], 25.0).mean(),
        "ground outwards": _off(outside, further, 25.0).mean(),
        "plainly goes on": (on > PLAIN_EDGE).mean(), "one goes on": (on > NEAR_EDGE).mean(axis=1).max(),
        "goes on steeply": np.minimum(on, 15.0).mean() / 15.0,
        "least edge": (edge > NEAR_EDGE).mean(axis=1).min(), "least plain edge": (edge > PLAIN_EDGE).mean(axis=1).min(),
        "layers": layers[[1, 3]].mean(), "least layers": layers[[1, 3]].mean(axis=1).min(),
        "along top and foot": layers[[0, 2]].mean(),
        "inwards from top and foot": _off(within, deeper, 25.0)[[0, 2]].mean(),
    }  # fmt: skip
    return {name: float(value) for name, value in measured.items()}
