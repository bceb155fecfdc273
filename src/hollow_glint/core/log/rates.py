"""Rates: how often something happens in a rod-hour, and which factors change that. Gamma-Poisson with partial pooling.

    count ~ Poisson(rod-hours x rate x hole),    hole ~ Gamma(1 / s^2, 1 / s^2)
    log rate = base + each factor's level + day + water,    level ~ N(0, t_factor^2),  day, water ~ N(0, t^2)

Holes differ by a gamma factor with mean one, which is integrated over exactly (a negative binomial for all counts of a
hole together; Hausman, Hall and Griliches 1984). Levels of a factor, days and waters are pulled together as far as the
log itself says that they are alike: each spread t is estimated from it, with a half-normal prior (Gelman 2006), and
what is not known of it is carried into the spans. Given the spreads the rest is a penalised likelihood with one top;
its curvature there gives the uncertainty (Laplace; Tierney and Kadane 1986), a power of a gamma for each rate. The base
has the Jeffreys prior, so that a log of one hole without factors gives what textbooks give: Gamma(count + 1/2,
rod-hours); where holes differ, the prior stops rising once more counts at a hole would tell no more of the others.
Rates are of the waters and the mix of everything else that the log has, of holes and days on average.

Spans are given as if every factor may matter; better is only called what holds against an even chance that its factor
does not matter at all (a spike at zero; Mitchell and Beauchamp 1988).

Known limits: levels multiply and do not work on each other; a day or a water that was fished once cannot be told from
what was used there; counts within an effort are taken as independent of each other.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from ..lazily import Lazily
from .effort import Table, sums
from .posterior import FARTHEST, Array, Known, Spread, hermite, spreads

if TYPE_CHECKING:
    from scipy import linalg, sparse, special
else:
    linalg, sparse, special = Lazily("scipy.linalg"), Lazily("scipy.sparse"), Lazily("scipy.special")

Whole = NDArray[np.int64]
# Half-normal scales of the spreads. How much holes and days differ and factors matter is common practice, no source:
# a factor's levels are seldom more than e^1 apart, holes are.
HOLES_DIFFER, WATERS_DIFFER, DAYS_DIFFER, FACTOR_MATTERS = 0.8, 0.6, 0.4, 1.0
NOTHING = 0.5  # how probable it is beforehand that a factor does not matter at all
FINEST, FINE_POINTS = 0.01, 61  # spreads smaller than this change nothing
COARSEST = 3.0
TINY = 1e-12  # of a variance: less is rounding
SPREAD_POINTS, HOLE_POINTS = 5, 3
FEW_HOLES, POINTS_OF_FEW = 30, 5  # few holes leave wide open how much they differ
ROUNDS, SETTLED, STEPS = 8, 0.02, 25
FURTHEST = 3.0  # that a step may change the logarithm of a rate
CLOSE, ROUGH = 1e-4, 0.3  # what the last step gains, in the end and on the way


@dataclass(frozen=True)
class LevelRate:
    """A level of a factor: its rate an hour at your usual mix of everything else, what that rests on, and the
    probability that it is better than what else you use."""

    rate: Spread
    rod_hours: float
    count: int
    better: float


@dataclass(frozen=True)
class Rates:
    """What a log says of one kind of event: overall, and for each level of each factor (in the table's order).

    `holes_differ` is the spread of holes that the log shows (standard deviation of their factor, 0 for one hole).
    """

    overall: Spread
    factors: tuple[tuple[LevelRate, ...], ...]
    holes_differ: float


@dataclass(frozen=True)
class _Block:
    """Columns that share a spread: of a factor, of days or of waters; the scale of its half-normal prior."""

    columns: slice
    scale: float
    is_factor: bool


def rates(table: Table, level: float = 0.9) -> Rates:
    """Rates an hour with their spans, by gamma-Poisson regression with partial pooling. Deterministic."""
    return fit(table).rates(level)


def fit(table: Table) -> Fit:
    """The model held against efforts, to be asked."""
    model = _Model(table)
    spread = [0.5 * block.scale for block in model.blocks]
    hole = 0.4 if model.pools_holes else 0.0
    theta = model.start()
    curve = np.empty((0, 0))
    for _ in range(ROUNDS):
        theta, curve = model.top(theta, spread, hole, ROUGH)
        covariance = _inverse(curve)
        before = np.array([*spread, hole])
        spread = [
            _Pooled(theta, covariance, block, now).middle for block, now in zip(model.blocks, spread, strict=True)
        ]
        if model.pools_holes:
            hole = model.likeliest_hole(theta)
        if np.allclose([*spread, hole], before, rtol=SETTLED, atol=0.5 * SETTLED):
            break
    points = model.hole_points(theta, spread, hole)
    return Fit(model, table, points, spread)


@dataclass(frozen=True)
class _Point:
    """The rest, given one spread of holes: its weight, the maximum (p,) and the covariance about it (p, p)."""

    hole: float
    weight: float
    theta: Array
    covariance: Array


def _summing(cell: Whole, effort: Whole, cells: int, efforts: int) -> Any:
    """The matrix (cells, efforts) that sums efforts' weights into the cells that they add to, both (m,)."""
    return sparse.csr_matrix((np.ones(len(cell)), (cell, effort)), (cells, efforts))


class _Where:
    """Which of the cells of a matrix of holes by columns lie in some of its columns."""

    def __init__(self, cells: Whole, wide: int, rows: int, columns: slice) -> None:
        row, column = cells // wide, cells % wide
        self._mine = np.flatnonzero((column >= columns.start) & (column < columns.stop))
        # Cells are in the order of their rows.
        starts = np.searchsorted(row[self._mine], np.arange(rows + 1))
        shape = rows, columns.stop - columns.start
        self._empty: Any = sparse.csr_matrix(
            (np.zeros(len(self._mine)), column[self._mine] - columns.start, starts), shape
        )

    def matrix(self, values: Array) -> Any:
        """These columns, sparse, of all cells' values."""
        out = self._empty.copy()
        out.data = values[self._mine]
        return out


class _Model:
    """The penalised likelihood, with its gradient and curvature."""

    def __init__(self, table: Table) -> None:
        self.hours, self.counts = table.hours, table.counts
        groups = [(codes, len(found), FACTOR_MATTERS) for codes, found in zip(table.codes, table.levels, strict=True)]
        # A single day or water is no spread of days: it would only blur the base.
        for codes, scale in ((table.water, WATERS_DIFFER), (table.day, DAYS_DIFFER)):
            count = int(codes.max(initial=-1)) + 1
            groups.append((codes, count if count > 1 else 0, scale))
        self.size = 1 + sum(count for _, count, _ in groups)
        self.blocks: list[_Block] = []
        # For each effort the numbers of what works in it: the base, a level of each factor, its water, its day; one
        # past the end, where a nought is kept, for what is not known.
        used = [np.zeros(len(self.hours), dtype=np.int64)]
        at = 1
        for codes, count, scale in groups:
            self.blocks.append(_Block(slice(at, at + count), scale, len(self.blocks) < len(table.names)))
            if count:
                used.append(np.where(codes >= 0, codes + at, self.size))
            at += count
        self.used = np.column_stack(used)
        self.holes = int(table.hole.max()) + 1
        efforts_at = np.bincount(table.hole, minlength=self.holes)
        self.alone = efforts_at[table.hole] == 1
        self.shared = np.flatnonzero(efforts_at > 1)
        rows, many = np.arange(len(self.hours)), self.used.shape[1]
        self.of_hole: Any = sparse.csr_matrix((np.ones(len(rows)), (table.hole, rows)), (self.holes, len(rows)))
        starts = np.arange(0, self.used.size + 1, many)
        wide = self.size + 1
        self._of_what: Any = sparse.csr_matrix((np.ones(self.used.size), self.used.ravel(), starts), (len(rows), wide))
        self._what_of: Any = self._of_what.T.tocsr()
        self.hole = table.hole
        self.caught: Array = self.of_hole @ self.counts
        self.kinds_caught, self.which_caught = np.unique(self.caught, return_inverse=True)
        self.pools_holes = self.holes > 1
        # The curvature is sums over the efforts, for each pair of columns that meet in one and for each hole's. Which
        # they are never changes, so that summing is a matrix too.
        one, other = np.triu_indices(many)
        first, second = self.used[:, one], self.used[:, other]
        pairs = np.minimum(first, second) * wide + np.maximum(first, second)
        self._pairs = _summing(pairs.ravel(), np.repeat(rows, len(one)), wide * wide, len(rows))
        again = np.flatnonzero(~self.alone)
        place = np.searchsorted(self.shared, table.hole[again])
        cells, cell = np.unique((place[:, None] * wide + self.used[again]).ravel(), return_inverse=True)
        self._by_hole = _summing(cell.ravel(), np.repeat(again, many), len(cells), len(rows))
        self._hole_of_cell = cells // wide
        self._first_day = at - groups[-1][1]
        self._rest_at = _Where(cells, wide, len(self.shared), slice(0, self._first_day))
        self._days_at = _Where(cells, wide, len(self.shared), slice(self._first_day, self.size))

    def logs(self, theta: Array) -> Array:
        """The logarithm of each effort's rate (n,); of several (k, p) at once (n, k)."""
        return np.asarray(self._of_what @ np.concatenate([theta.T, np.zeros((1, *theta.shape[:-1]))]))

    def summed(self, weight: Array) -> Array:
        """The sum of the efforts' weights (n,) over what works in them (p,)."""
        return np.asarray(self._what_of @ weight)[: self.size]

    def _products(self, weight: Array) -> Array:
        """The weighted sum over the efforts of what works in them by what works in them (p, p)."""
        wide = self.size + 1
        half = (self._pairs @ weight).reshape(wide, wide)[: self.size, : self.size]
        return np.asarray(half + np.triu(half, 1).T)

    def _taken_up(self, weight: Array, less: Array) -> Array:
        """What holes with several efforts take up again: their sums of the efforts' weights (n,) over what works in
        them, by themselves, times `less` of each of these holes (p, p). Days, of which a hole saw a few of many, are
        kept apart from the rest, most of which every hole saw."""
        first = self._first_day
        by_hole = (self._by_hole @ weight) * np.sqrt(less)[self._hole_of_cell]
        rest, days = self._rest_at.matrix(by_hole).toarray(), self._days_at.matrix(by_hole).T
        out = np.empty((self.size, self.size))
        out[:first, :first] = rest.T @ rest
        out[first:, :first] = days @ rest
        out[:first, first:] = out[first:, :first].T
        out[first:, first:] = (days @ days.T).toarray()
        return out

    def start(self) -> Array:
        theta = np.zeros(self.size)
        theta[0] = np.log((self.counts.sum() + 0.5) / self.hours.sum())
        return theta

    def _penalty(self, spread: Sequence[float]) -> Array:
        out = np.zeros(self.size)
        for block, one in zip(self.blocks, spread, strict=True):
            out[block.columns] = 1.0 / one**2
        return out

    def _crowded(self, theta: Array, hole: float) -> float:
        """How much more the counts of holes vary than each would by chance, at the base: where much, counting on tells
        no more of the base, and the Jeffreys prior (the root of what a hole's count tells of it) rises no further."""
        return float(hole**2 * np.exp(min(theta[0], FARTHEST)) * self.hours.sum() / self.holes)

    def value(self, theta: Array, penalty: Array, hole: float) -> float:
        """The penalised logarithm of the likelihood, the holes integrated out."""
        eta = self.logs(theta)
        expected = self.of_hole @ (self.hours * np.exp(eta))
        out = float(self.counts @ eta) - 0.5 * float(penalty @ theta**2)
        out += 0.5 * float(theta[0]) - 0.5 * float(np.log1p(self._crowded(theta, hole)))
        if hole == 0.0:
            return float(out - expected.sum())
        shape = 1.0 / hole**2
        of_holes = shape * np.log(shape) - special.gammaln(shape) + special.gammaln(shape + self.caught)
        return float(out + np.sum(of_holes - (shape + self.caught) * np.log(shape + expected)))

    def slope_and_curve(self, theta: Array, penalty: Array, hole: float) -> tuple[Array, Array]:
        """The gradient (p,) and what is lost to each side (p, p), of the penalised logarithm."""
        expected = self.hours * np.exp(self.logs(theta))
        if hole == 0.0:
            factor = np.ones(self.holes)
            less = np.zeros(self.holes)
        else:
            of_hole = 1.0 / hole**2 + self.of_hole @ expected
            factor = (1.0 / hole**2 + self.caught) / of_hole
            less = factor / of_hole
        weight = expected * factor[self.hole]
        slope = self.summed(self.counts - weight) - penalty * theta
        crowded = self._crowded(theta, hole)
        slope[0] += 0.5 / (1.0 + crowded)
        # What a hole's own factor takes up again: of a hole with one effort beside what that effort has, of the others
        # by their sums.
        curve = self._products(weight - np.where(self.alone, less[self.hole] * expected**2, 0.0))
        if hole != 0.0 and len(self.shared):
            curve -= self._taken_up(expected, less[self.shared])
        curve[np.diag_indices_from(curve)] += penalty
        curve[0, 0] += 0.5 * crowded / (1.0 + crowded) ** 2
        return slope, curve

    def third(self, theta: Array, hole: float, along: Array) -> Array:
        """The third derivatives of the logarithm along several directions (n, p): (n,)."""
        expected = (self.hours * np.exp(self.logs(theta)))[:, None]
        steps = self.logs(along)
        if hole == 0.0:
            return np.asarray(-np.sum(expected * steps * steps * steps, axis=0))
        first = expected * steps
        second = first * steps
        one, two, three = (self.of_hole @ each for each in (first, second, second * steps))
        whole = 1.0 / hole**2 + self.of_hole @ expected
        bend = three / whole - 3.0 * two * one / whole**2 + 2.0 * (one / whole) ** 3
        crowded = self._crowded(theta, hole)
        of_base = 0.5 * crowded * (1.0 - crowded) / (1.0 + crowded) ** 3 * along[:, 0] ** 3
        return np.asarray(-np.sum((1.0 / hole**2 + self.caught)[:, None] * bend, axis=0) - of_base)

    def top(self, theta: Array, spread: Sequence[float], hole: float, close: float = CLOSE) -> tuple[Array, Array]:
        """Newton's steps to the one maximum, halved where they would go too far: the maximum and the curvature just
        beside it. The last step is the one that gains less than `close`: what is left after it is its square."""
        penalty = self._penalty(spread)
        now = self.value(theta, penalty, hole)
        for _ in range(STEPS):
            slope, curve = self.slope_and_curve(theta, penalty, hole)
            step = linalg.cho_solve(_factored(curve), slope, check_finite=False)
            gain = float(slope @ step)
            step /= max(1.0, float(np.abs(step).max()) / FURTHEST)
            for _ in range(30):
                then = self.value(theta + step, penalty, hole)
                if then >= now:
                    theta, now = theta + step, then
                    break
                step *= 0.5
            if gain < close:
                break
        return theta, curve

    def likeliest_hole(self, theta: Array) -> float:
        """The likeliest spread of holes with everything else as it is, on a fine scale."""
        expected = self.of_hole @ (self.hours * np.exp(self.logs(theta)))
        grid = _fine(HOLES_DIFFER)
        shape = (1.0 / grid**2)[:, None]
        # Few counts stand for many holes: the gamma function is asked once for each.
        of_counts = special.gammaln(shape + self.kinds_caught) @ np.bincount(self.which_caught)
        value = self.holes * (shape * np.log(shape) - special.gammaln(shape))[:, 0] + of_counts
        value -= np.sum((shape + self.caught) * np.log(shape + expected), axis=1)
        return float(grid[np.argmax(value + _prior(grid, HOLES_DIFFER))])

    @staticmethod
    def _between(log_hole: float, tops: dict[float, Array], theta: Array) -> Array:
        """Where the top will be about, from those of the two nearest spreads of holes: the search begins there."""
        near = sorted(tops, key=lambda at: abs(at - log_hole))[:2]
        if len(near) < 2 or near[0] == near[1] or abs(near[0] - near[1]) < 1e-3:
            return tops[near[0]] if near else theta
        share = float(np.clip((log_hole - near[0]) / (near[1] - near[0]), -1.0, 1.0))
        return tops[near[0]] + share * (tops[near[1]] - tops[near[0]])

    def hole_points(self, theta: Array, spread: Sequence[float], hole: float) -> list[_Point]:
        """Spreads of holes about the likeliest, each with its weight and the rest given it."""
        if not self.pools_holes:
            theta, curve = self.top(theta, spread, 0.0)
            return [_Point(0.0, 1.0, theta, _inverse(curve))]
        seen: dict[float, tuple[float, Array, Array]] = {}

        def judged(log_hole: float) -> float:
            start = self._between(log_hole, {at: here for at, (_, here, _) in seen.items()}, theta)
            here, curve = self.top(start, spread, float(np.exp(log_hole)))
            factor = _factored(curve)[0]
            value = self.value(here, self._penalty(spread), float(np.exp(log_hole)))
            value -= float(np.log(np.diag(factor)).sum())
            value += float(_prior(np.exp(np.array([log_hole])), HOLES_DIFFER)[0])
            seen[log_hole] = value, here, curve
            return value

        middle, apart = np.log(hole), 0.35
        for _ in range(2):
            low, top, high = (judged(middle + k * apart) for k in (-1, 0, 1))
            bend = max((2.0 * top - low - high) / apart**2, 1.0)  # flat where the log says nothing of it
            middle += float(np.clip(0.5 * (high - low) / apart / bend, -2 * apart, 2 * apart))
            middle = float(np.clip(middle, np.log(FINEST), np.log(COARSEST)))
            if abs(middle - np.log(hole)) < 0.5 * apart:
                break
            apart = float(np.clip(1.0 / np.sqrt(bend), 0.05, 0.7))
        at, weight = hermite(POINTS_OF_FEW if self.holes < FEW_HOLES else HOLE_POINTS)
        logs = np.clip(middle + at / np.sqrt(bend), np.log(FINEST), np.log(COARSEST))
        at = (logs - middle) * np.sqrt(bend)
        value = np.array([judged(float(one)) for one in logs]) + 0.5 * at**2
        share = weight * np.exp(value - value.max())
        return [
            _Point(float(np.exp(one)), float(part), seen[float(one)][1], _inverse(seen[float(one)][2]))
            for one, part in zip(logs, share / share.sum(), strict=True)
        ]


class _Pooled:
    """The levels of a block about which the likelihood is nearly normal, for every spread that they may have."""

    def __init__(self, theta: Array, covariance: Array, block: _Block, spread: float) -> None:
        self.here = theta[block.columns]
        own = covariance[block.columns, block.columns]
        if not len(self.here):
            self.middle = 0.5 * block.scale
            return
        own_values, self.turn = np.linalg.eigh(own)
        self.along = 1.0 / np.maximum(own_values, TINY)  # the precision, in the directions in which it is a number each
        # What the counts alone say: the penalty taken away again.
        self.values = np.maximum(self.along - 1.0 / spread**2, 0.0)
        self.pull = self.along * (self.turn.T @ self.here)
        grid = _fine(block.scale)
        squared = grid[:, None] ** 2
        inner = 1.0 + squared * self.values
        value = 0.5 * np.sum(self.pull**2 * squared / inner - np.log(inner), axis=1)
        share = np.exp(value - value.max() + _prior(grid, block.scale))
        self.grid, self.share = grid, share / share.sum()
        # Of days and waters one spread has to do: the one whose square is right on average, so that spans are no
        # narrower for not going through all of them.
        self.middle = float(np.exp(self.share @ np.log(grid)) if block.is_factor else np.sqrt(self.share @ grid**2))
        # What the log says for no spread at all, against what it says for the half-normal's spreads.
        prior = np.exp(_prior(grid, block.scale))
        matters = float(np.log(prior @ np.exp(value - value.max()) / prior.sum()) + value.max())
        self.nothing = 1.0 / (1.0 + np.exp(matters) * (1.0 - NOTHING) / NOTHING)

    def parts(self) -> list[tuple[float, Array, Array]]:
        """Spreads of equal weight, each with the levels given it (L,) and their covariance (L, L)."""
        cut = np.minimum((np.cumsum(self.share) - 0.5 * self.share) * SPREAD_POINTS, SPREAD_POINTS - 1e-9).astype(int)
        found = []
        for part in range(SPREAD_POINTS):
            mine = self.share * (cut == part)
            if (weight := float(mine.sum())) <= 0.0:
                continue
            spread = np.exp(mine @ np.log(self.grid) / weight)
            shrunk = spread**2 / (1.0 + spread**2 * self.values)
            found.append((weight, self.turn @ (shrunk * self.pull), (self.turn * shrunk) @ self.turn.T))
        return found


class Fit:
    """What efforts say: rates overall and by level, what to expect of levels together, and how each hole is."""

    def __init__(self, model: _Model, table: Table, points: list[_Point], spread: Sequence[float]) -> None:
        self.model, self.table, self.points, self.spread = model, table, points, spread
        # Of days to come, which are as they are on average: the mean of a factor whose logarithm is normal.
        days = model.blocks[-1].columns
        self.ahead = 0.5 * spread[-1] ** 2 if days.stop > days.start else 0.0

    def rates(self, level: float = 0.9) -> Rates:
        """Rates an hour with their spans."""
        factors = self._factors(level) if self.table.names else ()
        differ = sum(one.weight * one.hole for one in self.points)
        return Rates(self.expected({}, level), factors, float(differ))

    def expected(self, levels: Mapping[str, str], level: float = 0.9) -> Spread:
        """The rate an hour where these levels come together, the usual mix of every other factor beside them; a level
        that the log has not is left to the usual mix."""
        named = {
            f: self.table.levels[f].index(levels[name])
            for f, name in enumerate(self.table.names)
            if levels.get(name) in self.table.levels[f]
        }
        columns = [self.model.blocks[f].columns for f in named]
        parts = []
        for point in self.points:
            value, gradient = self._usual(point.theta, columns)
            for (_, k), own in zip(named.items(), columns, strict=True):
                gradient[own.start + k] = 1.0
                value += float(point.theta[own.start + k])
            parts.append((np.array([value]), *self._about(point, gradient[None, :]), np.array([point.weight])))
        return spreads(_known(parts), level)[0]

    def holes(self, level: float = 0.9) -> list[Spread]:
        """The rate an hour at each hole of the log, by its number, at the usual mix of everything."""
        parts = []
        for point in self.points:
            value, gradient = self._usual(point.theta)
            variance = float(self._about(point, gradient[None, :])[0][0])
            if point.hole == 0.0:
                top, about = np.zeros(self.model.holes), np.zeros(self.model.holes)
            else:
                expected = self.model.of_hole @ (self.model.hours * np.exp(self.model.logs(point.theta)))
                shape = 1.0 / point.hole**2 + self.model.caught
                top, about = np.log(shape / (1.0 / point.hole**2 + expected)), 1.0 / shape
            whole = about + variance
            parts.append((value + top, whole, -1.0 / whole, np.full(self.model.holes, point.weight)))
        return spreads(_known(parts), level)

    def _usual(self, theta: Array, without: Sequence[slice] = ()) -> tuple[float, Array]:
        """The logarithm of the rate at the usual mix of everything, the days' own ways left out, and its gradient (p,);
        `without` blocks that are to be put in by hand."""
        model = self.model
        plain = theta.copy()
        left_out = [model.blocks[-1].columns, *without]
        for columns in left_out:
            plain[columns] = 0.0
        weight = model.hours * np.exp(model.logs(plain))
        gradient = model.summed(weight / weight.sum())
        for columns in left_out:
            gradient[columns] = 0.0
        return float(np.log(weight.sum() / model.hours.sum())) + self.ahead, gradient

    def _about(self, point: _Point, gradient: Array) -> tuple[Array, Array]:
        """The variance of quantities with these gradients (n, p), and the third derivative where they are led along
        with what follows them: (n,) each."""
        along = gradient @ point.covariance
        variance = np.einsum("np,np->n", along, gradient)
        return variance, self.model.third(point.theta, point.hole, along / variance[:, None])

    def _factors(self, level: float) -> tuple[tuple[LevelRate, ...], ...]:
        blocks = self.model.blocks[: len(self.table.names)]
        parts: list[list[tuple[Array, Array, Array, Array]]] = [[] for _ in blocks]
        hours, counts = self._used(self.table.hours), self._used(self.table.counts)
        better = [np.zeros(len(levels)) for levels in self.table.levels]
        for point in self.points:
            usual = [self._usual(point.theta, [block.columns]) for block in blocks]
            gradient = np.concatenate([_of_levels(rest, block) for (_, rest), block in zip(usual, blocks, strict=True)])
            about = self._about(point, gradient)  # of all levels at once
            at = 0
            for f, block in enumerate(blocks):
                mine = slice(at, at := at + len(better[f]))
                variance, third = (one[mine] for one in about)
                pooled = _Pooled(point.theta, point.covariance, block, self.spread[f])
                # What follows the levels (level, L).
                carried = (
                    gradient[mine] @ point.covariance[:, block.columns] @ pooled.turn * pooled.along @ pooled.turn.T
                )
                fixed = variance - _squared(carried, point.covariance[block.columns, block.columns])
                for share, levels, spread in pooled.parts():
                    weight = point.weight * share
                    top = usual[f][0] + pooled.here + carried @ (levels - pooled.here)
                    parts[f].append((top, fixed + _squared(carried, spread), third, np.full(len(top), weight)))
                    better[f] += weight * (1.0 - pooled.nothing) * better_of(levels, spread, hours[f])
                better[f] += point.weight * pooled.nothing * 0.5
        return tuple(
            tuple(
                LevelRate(one, float(hours[f][k]), round(counts[f][k]), float(better[f][k]))
                for k, one in enumerate(spreads(_known(parts[f]), level))
            )
            for f in range(len(blocks))
        )

    def _used(self, weight: Array) -> list[Array]:
        """The sum of the efforts' weights (n,) at each level of each factor."""
        return [
            sums(codes[codes >= 0], weight[codes >= 0], len(levels))
            for codes, levels in zip(self.table.codes, self.table.levels, strict=True)
        ]


def _of_levels(usual: Array, block: _Block) -> Array:
    """The gradients (L, p) of the logarithm of the rate at each level of a block, the usual mix of all else beside."""
    count = block.columns.stop - block.columns.start
    out = np.repeat(usual[None, :], count, axis=0)
    out[:, block.columns] = np.eye(count)
    return out


def better_of(levels: Array, covariance: Array, hours: Array) -> Array:
    """How probable each level is better than the usual mix of all (which it is just when it is better than the mix of
    the others): (L,)."""
    if len(levels) < 2:
        return np.full(len(levels), 0.5)
    usual = hours * np.exp(levels)
    apart = np.eye(len(levels)) - usual / usual.sum()
    mean = levels - np.log(usual.sum() / hours.sum())
    variance = _squared(apart, covariance)
    return np.asarray(special.ndtr(mean / np.sqrt(np.maximum(variance, 1e-300))))


def _known(parts: list[tuple[Array, Array, Array, Array]]) -> Known:
    return Known(*(np.array(column).T for column in zip(*parts, strict=True)))


def _squared(rows: Array, covariance: Array) -> Array:
    """The variance of each of several quantities with these gradients (n, p): (n,)."""
    return np.asarray(np.sum((rows @ covariance) * rows, axis=1))


def _factored(curve: Array) -> tuple[Array, bool]:
    """The Cholesky factor. Counts of a million beside none cancel to less than can be written down: what is missing
    to a curve that bends everywhere is given back, a trace of it at a time."""
    lift, least = 0.0, 1e-12 * float(np.trace(np.abs(curve)))
    while np.isfinite(lift + least):
        try:
            factor, lower = linalg.cho_factor(curve + lift * np.eye(len(curve)), check_finite=False)
            return factor, bool(lower)
        except linalg.LinAlgError:
            lift = max(10.0 * lift, least)
    raise FloatingPointError("the curvature of what the log says is no number")


def _inverse(curve: Array) -> Array:
    factor, lower = _factored(curve)
    out, _ = linalg.lapack.dpotri(factor, lower=lower)
    here = np.tril_indices(len(out), -1)
    if lower:
        here = here[::-1]
    out[here] = out.T[here]
    return np.asarray(out)


def _fine(scale: float) -> Array:
    return np.geomspace(FINEST, COARSEST if scale > 0.0 else 1.0, FINE_POINTS)


def _prior(grid: Array, scale: float) -> Array:
    """The half-normal's logarithm over the logarithm of the spread."""
    return np.log(grid) - 0.5 * (grid / scale) ** 2
