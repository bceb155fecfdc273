"""Where a ring stands in a photo, found beforehand: a guess to be looked at.

The normals of a circle's edges meet in its middle (Kimme, Ballard and Sklansky 1975), those of two rims in one,
where the edges between its echoes meet as well. Of all pairs of circles about such a place the one is taken that have
edges all the way round and echoes between. An ellipse is laid to the outer one (direct least squares, Halir and Flusser
1998). Where the scale begins nobody can see: the zero is put uppermost.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Final

import numpy as np

from ..checks import Floats, InputError
from ..lazily import Lazily
from .perspective import Pixels
from .straight_lines import MOST_EDGE, SmallPhoto, small_photo

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

LEAST_RADIUS, MOST_RADIUS = 0.12, 0.5  # of the photo's shorter side
BLURS_PX: Final = (0.0, 1.2)  # beyond what the small photo is
PLAIN, FAINT = 3.0, 0.7  # (CIE 1976 a pixel) from which a pixel is an edge, without and with it
MIDDLES, MIDDLES_APART_PX = 5, 15  # that are tried
VOTED_PX: Final = 3.0  # each so many of the radii
MET_PX: Final = 3.0  # so near normals meet
SECTORS: Final = 360
OUTWARDS: Final = 0.94  # cosine from which an edge is a circle's
STEEPEST: Final = 8.0  # (CIE 1976 a place) steeper counts no more
USUAL_PX: Final = 31  # about a radius, over which the usual is reckoned
ASIDE_PX: Final = 9  # beside the rims, where no echo is
ROUND: Final = 2.5  # all the way round: there a faint edge counts for nearly as much as a letter's
RIMS: Final = 8.0  # what rims are worth, and
BETWEEN: Final = 3.0  # echoes between them
LEAST_SCORE: Final = 3.0
THINNEST, THICKEST = 0.86, 0.35  # inner radius as a share of the outer one
NEAR: Final = 0.07  # of its radius, that an edge of the rim may be off the circle that was found
ROUNDS: Final = 4
LEAST_PLACES: Final = 30
BEYOND_PX: Final = 3.0  # that a rim may run out of the photo
QUARTERS: Final = np.array([[0.0, -1.0], [1.0, 0.0], [0.0, 1.0], [-1.0, 0.0]])
NO_RING: Final = "the photo shows no ring: put it there by hand"


@dataclass(frozen=True)
class RingFound:
    """Four places of a ring's outer rim [px], the uppermost and each a quarter of a turn on, shape (4, 2); its inner
    radius as a share of the outer."""

    rim: Floats
    inner: float


@dataclass(frozen=True, eq=False)
class _Edges:
    """Places of edges in the small photo [px], which way they face, and what each counts."""

    at: Floats
    facing: Floats
    counts: Floats

    @classmethod
    def of(cls, small: SmallPhoto, least: float) -> _Edges:
        """Those that are as steep as that (CIE 1976 a pixel)."""
        rows, columns = np.nonzero(small.steep > least)
        facing = np.stack([small.across[rows, columns], small.down[rows, columns]], axis=-1)
        long = np.hypot(facing[:, 0], facing[:, 1])
        good = long > 1e-6
        counts = np.sqrt(np.minimum(small.steep[rows, columns], MOST_EDGE))
        at = np.stack([columns + 0.5, rows + 0.5], axis=-1)
        return cls(at[good], facing[good] / long[good, None], counts[good])

    def seen_from(self, middle: Floats, to_photo: Floats) -> tuple[Floats, Floats]:
        """How far each is from a middle, in radii of the circle that `to_photo` takes there, and how much it faces from
        it (cosine): a circle's normal is turned as its places are stretched."""
        off = (self.at - middle) @ np.linalg.inv(to_photo).T
        facing = self.facing @ to_photo
        far, long = np.hypot(off[:, 0], off[:, 1]), np.hypot(facing[:, 0], facing[:, 1])
        return far, np.abs((off * facing).sum(axis=-1)) / np.maximum(far * long, 1e-9)


def find_ring(pixels: Pixels) -> RingFound:
    """The ring in a photo. Raises ValueError where there is none to be seen."""
    small, coarser = small_photo(pixels)
    high, wide = small.steep.shape
    for blur_px in BLURS_PX:  # a dark ring's rim on a dark dial is fainter than noise
        if blur_px:
            small = SmallPhoto.of(ndimage.gaussian_filter(small.lab, (blur_px, blur_px, 0.0)))
        edges = _Edges.of(small, PLAIN if not blur_px else FAINT)
        if len(edges.at) < LEAST_PLACES:
            continue
        found = [(_two_circles(small, middle, min(high, wide)), middle) for middle in _met(edges, (high, wide))]
        (score, inner, outer), middle = max(found, key=lambda one: one[0])
        if score > LEAST_SCORE:
            break
    else:
        raise InputError(NO_RING)
    middle, to_photo = _ellipse(edges, middle, outer)
    reach = np.sqrt(np.diag(to_photo @ to_photo.T))
    if (middle < reach - BEYOND_PX).any() or (middle > np.array([wide, high]) - reach + BEYOND_PX).any():
        raise InputError(NO_RING)
    far, cosine = edges.seen_from(middle, to_photo)
    rim = (np.abs(far - inner / outer) < NEAR) & (cosine > OUTWARDS)
    share = float(np.median(far[rim])) if rim.sum() >= LEAST_PLACES else inner / outer
    return RingFound((middle + QUARTERS @ to_photo.T) * coarser, float(np.clip(share, THICKEST, THINNEST)))


def _met(edges: _Edges, shape: tuple[int, int]) -> list[Floats]:
    """Where most normals meet [px], and where most edges themselves do, as those of echoes; each of shape (2,)."""
    found: list[Floats] = []
    for way in (edges.facing, edges.facing[:, ::-1] * [-1.0, 1.0]):
        even = ndimage.gaussian_filter(_votes(edges, way, shape), MET_PX)
        peaks = np.flatnonzero((even == ndimage.maximum_filter(even, MIDDLES_APART_PX)).ravel())
        best = peaks[np.argsort(-even.ravel()[peaks])[:MIDDLES]]
        found += [np.array([one % shape[1] + 0.5, one // shape[1] + 0.5]) for one in best]
    return found


def _votes(edges: _Edges, way: Floats, shape: tuple[int, int]) -> Floats:
    """How many edges have each place in that way from them, at some radius that a ring may have; of `shape`."""
    high, wide = shape
    votes = np.zeros(high * wide)
    for radius in np.arange(LEAST_RADIUS * min(shape), MOST_RADIUS * min(shape), VOTED_PX):
        for reach in (-radius, radius):
            column, row = (edges.at + reach * way).astype(np.intp).T
            inside = (row >= 0) & (row < high) & (column >= 0) & (column < wide)
            # Longer circles have more edges to vote: each counts by its share of one.
            votes += np.bincount(row[inside] * wide + column[inside], edges.counts[inside] / radius, high * wide)
    return votes.reshape(shape)


def _two_circles(small: SmallPhoto, middle: Floats, shorter: int) -> tuple[float, float, float]:
    """How much speaks for a ring about a middle, and the radii [px] of its rims, the inner first."""
    most = int(MOST_RADIUS * shorter) + 4
    angle, radius = np.arange(SECTORS) / SECTORS * 2.0 * np.pi, np.arange(most)
    column, row = (middle[k] - 0.5 + np.outer((np.cos, np.sin)[k](angle), radius) for k in range(2))
    round_about = np.stack(
        [ndimage.map_coordinates(small.lab[..., c], [row, column], order=1, mode="nearest") for c in range(3)], axis=-1
    )
    rims = np.minimum(_steep(round_about, along=1, blur=(3.0, 0.8)), ROUND) / ROUND
    # An ellipse's rim wanders over some radii as it goes round.
    wandering = ndimage.maximum_filter1d(rims, 2 * max(int(0.025 * most), 1) + 1, axis=1)
    rim = _standing_out(wandering.mean(axis=0))
    echoes = _steep(round_about, along=0, blur=(1.5, 3.0)).mean(axis=0)
    sums = np.concatenate([[0.0], np.cumsum(echoes)])

    def mean(first: int, last: int) -> float:
        return float((sums[last] - sums[first]) / max(last - first, 1))

    best = (-np.inf, 0.0, 0.0)
    for outer in range(int(LEAST_RADIUS * shorter), most - ASIDE_PX):
        beyond = mean(outer + 2, outer + ASIDE_PX)
        for inner in range(int(THICKEST * outer), int(THINNEST * outer) + 1):
            within = mean(max(inner - ASIDE_PX, 0), max(inner - 2, 1))
            between = mean(inner + 2, outer - 1)
            score = RIMS * (rim[inner] + rim[outer]) + BETWEEN * (between - max(beyond, within))
            best = max(best, (float(score), float(inner), float(outer)))
    return best


def _steep(round_about: Floats, along: int, blur: tuple[float, float]) -> Floats:
    """How steep a picture in polar places is along one of them (CIE 1976) and blurred: (angles, radii)."""
    even = ndimage.gaussian_filter(round_about, (*blur, 0.0), mode=("wrap", "nearest", "nearest"))
    slope = np.gradient(even, axis=along)
    return np.asarray(np.minimum(np.sqrt(np.einsum("ijk,ijk->ij", slope, slope)), STEEPEST))


def _standing_out(profile: Floats) -> Floats:
    """By how much each radius is above what is usual about it."""
    return np.asarray(np.maximum(profile - ndimage.median_filter(profile, USUAL_PX, mode="nearest"), 0.0))


def _ellipse(edges: _Edges, middle: Floats, outer: float) -> tuple[Floats, Floats]:
    """The outer rim's middle [px], and of all maps of the unit circle onto it the one that turns nothing, (2, 2)."""
    to_photo = np.eye(2) * outer
    for width in np.geomspace(NEAR, NEAR / 3.0, ROUNDS):
        far, cosine = edges.seen_from(middle, to_photo)
        rim = (np.abs(far - 1.0) < width) & (cosine > OUTWARDS)
        conic = _conic((edges.at[rim] - middle) @ np.linalg.inv(to_photo).T) if rim.sum() >= LEAST_PLACES else None
        if conic is None:
            break
        shift, stretch = conic
        middle = middle + to_photo @ shift
        to_photo = to_photo @ stretch
    values, vectors = np.linalg.eigh(to_photo @ to_photo.T)
    return middle, vectors @ np.diag(np.sqrt(values)) @ vectors.T


def _conic(at: Floats) -> tuple[Floats, Floats] | None:
    """The ellipse of least squares through places near the unit circle: where its middle is, and the matrix that takes
    the unit circle to it. None where the best conic is no ellipse."""
    x, y = at.T
    second, first = np.stack([x * x, x * y, y * y], axis=-1), np.stack([x, y, np.ones_like(x)], axis=-1)
    s1, s2, s3 = second.T @ second, second.T @ first, first.T @ first
    try:
        t = -np.linalg.solve(s3, s2.T)
        m = np.linalg.solve(np.array([[0.0, 0.0, 2.0], [0.0, -1.0, 0.0], [2.0, 0.0, 0.0]]), s1 + s2 @ t)
        _, vectors = np.linalg.eig(m)
    except np.linalg.LinAlgError:
        return None
    vectors = np.real(vectors)
    kind = 4.0 * vectors[0] * vectors[2] - vectors[1] ** 2
    if not (kind > 0.0).any():
        return None
    a, b, c = vectors[:, int(np.argmax(kind > 0.0))]
    d, e, f = t @ np.array([a, b, c])
    form = np.array([[a, b / 2.0], [b / 2.0, c]])
    shift = -np.linalg.solve(2.0 * form, np.array([d, e]))
    size = shift @ form @ shift - f
    form = form / size
    values, vectors = np.linalg.eigh(form)
    if not (values > 1e-6).all():
        return None
    return shift, vectors @ np.diag(1.0 / np.sqrt(values)) @ vectors.T
