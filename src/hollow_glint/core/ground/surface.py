"""The depth of a lake anywhere, from soundings and its shore, with how sure that is.

Where the shore is known the depth there is nothing: the lake is taken to deepen with the distance from it by an amount
that the soundings tell, and what is left is a field (`regression`) whose strength grows from nothing at the shore. Many
soundings are thinned for the fit of the covariance, and each place is then told by those nearest to it (kriging with a
moving neighbourhood; Chiles and Delfiner 2012, section 3.6).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ..acoustics.special import ndtr
from ..checks import InputError, number, within
from ..lazily import Lazily
from .plane import bearing
from .regression import JITTER, Array, Covariance, Field, Fitted, Known, Prior, fit

if TYPE_CHECKING:
    import shapely
    from scipy import spatial
else:
    shapely = Lazily("shapely")
    spatial = Lazily("scipy.spatial")

MOST_EXACT = 400  # values that are conditioned on all at once; more are told by their neighbours
MOST_FITTED = 240  # values that a covariance is fitted to
NEIGHBOURS = 48
MOST_M = 100_000.0  # from the anchor
DEEPEST_M = 500.0
SLOPE_OVER_M = 4.0
TYPICAL_NOISE_M = 0.15  # a lead line or a sonar from the ice. Common practice, no source


@dataclass(frozen=True)
class Band:
    """A span of depths [m]."""

    from_m: float
    to_m: float

    def __post_init__(self) -> None:
        within("band_m", [self.from_m, self.to_m], 0.0, DEEPEST_M, "m")
        if self.from_m >= self.to_m:
            raise InputError(
                f"band_m is {self.from_m:g} to {self.to_m:g}: accepted is a shallower depth before a deeper"
            )


def chance_in(mean: Array, sd: Array, band: Band) -> Array:
    """The chance (any shape) that a depth with this mean and deviation [m] lies inside a band."""
    sd = np.maximum(sd, 1e-9)
    return np.asarray(ndtr((band.to_m - mean) / sd) - ndtr((band.from_m - mean) / sd))


def _places(name: str, value: ArrayLike) -> Array:
    place = within(name, value, -MOST_M, MOST_M, "m")
    if place.ndim != 2 or place.shape[1] != 2:
        raise InputError(f"{name} has the shape {place.shape}: accepted are pairs of east and north [m]")
    return np.asarray(place, dtype=np.float64)


class Shore:
    """A lake's edge: a ring of places (n, 2) [m]. Raises ValueError for one that encloses nothing or crosses itself."""

    def __init__(self, ring: ArrayLike) -> None:
        place = _places("shore", ring)
        if place.shape[0] < 3:
            raise InputError(f"shore has {place.shape[0]} places: at least 3 are needed to go round a lake")
        self.polygon = shapely.Polygon(place)
        if not self.polygon.is_valid or self.polygon.area <= 0.0:
            raise InputError("shore crosses itself or encloses nothing: accepted is a ring in order")
        self.line = self.polygon.exterior
        shapely.prepare(self.polygon)

    def inside(self, place: Array) -> NDArray[np.bool_]:
        """Which places are over water."""
        return np.asarray(shapely.contains_xy(self.polygon, place[:, 0], place[:, 1]))

    def distance(self, place: Array) -> Array:
        """How far places over water are from it [m]; nothing on land."""
        away = shapely.distance(self.line, shapely.points(place))
        return np.where(self.inside(place), np.asarray(away, dtype=np.float64), 0.0)


class Surface:
    """Depths of a lake from soundings. Depths and deviations in metres, places in metres east and north."""

    def __init__(self, place: ArrayLike, depth_m: ArrayLike, shore: ArrayLike | None = None) -> None:
        """Fit the lake to soundings at `place` (n, 2). Raises ValueError naming what cannot be accepted."""
        self.place = _places("soundings", place)
        self.depth = within("depth_m", depth_m, 0.0, DEEPEST_M, "m").astype(np.float64)
        if self.depth.shape != (self.place.shape[0],):
            raise InputError(f"depth_m has {self.depth.size} values for {self.place.shape[0]} places")
        self.shore = None if shore is None else Shore(shore)
        if self.depth.size == 0:
            raise InputError("soundings is empty: at least one is needed")
        self._scale()
        self.known = self._known()
        many = self.known.size > MOST_FITTED
        thinned = self.known.only(_thin(self.known, MOST_FITTED)) if many else self.known
        self.field: Field = fit(thinned, self._prior())
        if many and self.known.size <= MOST_EXACT:
            self.field = self.field.on(self.known)
        self.covariance: Covariance = self.field.likeliest.covariance
        self.is_exact = self.known.size <= MOST_EXACT
        self._tree = None if self.is_exact else spatial.cKDTree(self.known.place)

    def _scale(self) -> None:
        """Typical depth, and how far the lake goes."""
        self.typical_m = max(float(np.sqrt(np.mean(self.depth**2))), 0.5)
        corners = (
            self.place if self.shore is None else np.vstack([self.place, shapely.get_coordinates(self.shore.line)])
        )
        extent = float(np.hypot(*np.ptp(corners, axis=0)))
        self.extent_m = max(extent, 20.0)
        self.farthest_m = 1.0
        if self.shore is not None:
            circle = shapely.maximum_inscribed_circle(self.shore.polygon, tolerance=0.02 * self.extent_m)
            self.farthest_m = max(float(circle.length), 1.0)

    def _shape(self, place: Array) -> tuple[Array, Array]:
        """How strong the field is at places (m,), and what the trend is made of (m, k): the distance from the shore and
        its square; without a shore, a level."""
        if self.shore is None:
            return np.ones(place.shape[0]), np.ones((place.shape[0], 1))
        share = self.shore.distance(place) / self.farthest_m
        return np.sqrt(share), np.column_stack([share, share**2])

    def _known(self) -> Known:
        strength, terms = self._shape(self.place)
        spread = np.full(terms.shape[1], (2.0 * self.typical_m) ** 2)
        return Known(self.place, self.depth, strength, terms, spread)

    def _prior(self) -> Prior:
        spread = float(np.std(self.depth)) if self.depth.size > 2 else 0.5 * self.typical_m
        spread = max(spread, 0.1 * self.typical_m)
        return Prior(0.2 * self.extent_m, spread**2, max(TYPICAL_NOISE_M, 0.01 * self.typical_m) ** 2)

    def at(self, place: ArrayLike) -> tuple[Array, Array]:
        """Depth and its standard deviation (m,) [m] at places (m, 2): of the true depth, not of another sounding.

        On land both are nothing.
        """
        asked = _places("at", place)
        shape = self._shape(asked)
        mean, sd = self.field.at(asked, *shape) if self.is_exact else self._by_neighbours(asked, *shape)
        if self.shore is not None:
            water = self.shore.inside(asked)
            mean, sd = np.where(water, mean, 0.0), np.where(water, sd, 0.0)
        return np.maximum(mean, 0.0), sd

    def _by_neighbours(self, place: Array, strength: Array, terms: Array, at_once: int = 2000) -> tuple[Array, Array]:
        """Each place told by the values nearest to it, a few thousand places at a time."""
        assert self._tree is not None
        known, covariance = self.known, self.covariance
        mean, variance = np.empty(place.shape[0]), np.empty(place.shape[0])
        noise = covariance.noise + JITTER * covariance.variance
        for at in range(0, place.shape[0], at_once):
            part = slice(at, at + at_once)
            here, s, t = place[part], strength[part], terms[part]
            near = np.asarray(self._tree.query(here, k=NEIGHBOURS)[1], dtype=np.intp)
            xs, ss, ts = known.place[near], known.strength[near], known.terms[near]
            between = np.linalg.norm(xs[:, :, None] - xs[:, None], axis=-1)
            total = covariance.over(between) * ss[:, :, None] * ss[:, None]
            total += np.einsum("bik,k,bjk->bij", ts, known.spread, ts)
            total[:, np.arange(NEIGHBOURS), np.arange(NEIGHBOURS)] += noise
            away = np.linalg.norm(xs - here[:, None], axis=-1)
            across = covariance.over(away) * ss * s[:, None] + np.einsum("bik,k,bk->bi", ts, known.spread, t)
            solved = np.linalg.solve(total, np.stack([known.value[near], across], axis=-1))
            own = covariance.variance * s**2 + np.einsum("bk,k,bk->b", t, known.spread, t)
            mean[part] = np.einsum("bi,bi->b", across, solved[..., 0])
            variance[part] = own - np.einsum("bi,bi->b", across, solved[..., 1])
        return mean, self.field.stretch * np.sqrt(np.maximum(variance, 0.0))

    def slope(self, place: ArrayLike, over_m: float = SLOPE_OVER_M) -> tuple[Array, Array]:
        """How steeply the bed falls at places (m, 2), as a share (metres down for each metre along), and which way is
        down (m,) [degrees clockwise from north]; measured over twice `over_m` [m]."""
        asked = _places("at", place)
        number("over_m", over_m, 0.1, 1000.0, "m")
        east, north = (
            (self.at(asked + step)[0] - self.at(asked - step)[0]) / (2.0 * over_m)
            for step in (np.array([over_m, 0.0]), np.array([0.0, over_m]))
        )
        return np.asarray(np.hypot(east, north)), np.asarray(bearing(east, north), dtype=np.float64)

    def is_more_of(self, before: Surface) -> bool:
        """Whether this is an earlier surface with soundings put in by `with_sounding`, or that surface itself."""
        return self.covariance is before.covariance and self.depth.size >= before.depth.size

    def reached_since(self, before: Surface, place: Array) -> NDArray[np.bool_]:
        """At which places (m, 2) the depth may differ from an earlier surface's: those with a new sounding among the
        values that tell them."""
        if self.is_exact or before.is_exact:
            return np.ones(place.shape[0], dtype=np.bool_)
        assert self._tree is not None
        new = self.place[before.depth.size :]
        if new.size == 0:
            return np.zeros(place.shape[0], dtype=np.bool_)
        farthest = np.asarray(self._tree.query(place, k=NEIGHBOURS)[0])[:, -1]
        return np.asarray(spatial.cKDTree(new).query(place)[0] <= farthest + 1e-9)

    def covariance_between(self, a: Array, b: Array) -> Array:
        """Covariance [m^2] of the depths at places (m, 2) and (k, 2), as the soundings leave it: by the likeliest
        covariance, and by the soundings nearest to the second places where there are many."""
        fitted = self.field.likeliest
        if not self.is_exact:
            assert self._tree is not None
            around = np.unique(np.asarray(self._tree.query(b, k=NEIGHBOURS)[1], dtype=np.intp))
            keep = around if around.size <= MOST_EXACT else np.random.default_rng(0).choice(around, MOST_EXACT, False)
            fitted = Fitted(self.known.only(keep), self.covariance)
        return self.field.stretch**2 * fitted.between(a, *self._shape(a), b, *self._shape(b))

    def in_band(self, place: ArrayLike, band: Band) -> Array:
        """The chance (m,) that the true depth at places (m, 2) lies inside a band; nothing on land."""
        mean, sd = self.at(place)
        chance = chance_in(mean, sd, band)
        if self.shore is None:
            return chance
        return np.where(self.shore.inside(_places("at", place)), chance, 0.0)

    def with_sounding(self, place: Sequence[float], depth_m: float) -> Surface:
        """This lake with one sounding more; the covariance stays as it was fitted, so that it is there at once."""
        more = object.__new__(Surface)
        more.__dict__.update(self.__dict__)
        more.place = np.vstack([self.place, _places("soundings", [list(place)])])
        more.depth = np.append(self.depth, within("depth_m", depth_m, 0.0, DEEPEST_M, "m"))
        more.known = more._known()
        if more.known.size <= MOST_EXACT:
            more.field = self.field.on(more.known)
        else:
            more.is_exact = False
            more._tree = spatial.cKDTree(more.known.place)
        return more


def _thin(known: Known, most: int) -> NDArray[np.intp]:
    """As many values as can be fitted at once: a net over all of them, and beside each knot its nearest, so that short
    distances are told too."""
    rng = np.random.default_rng(0)
    knots = rng.choice(known.size, most // 2, replace=False)
    near = np.asarray(spatial.cKDTree(known.place).query(known.place[knots], k=2)[1], dtype=np.intp)
    return np.unique(np.concatenate([knots, near[:, 1]]))
