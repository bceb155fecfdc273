"""Where to drill for a school that was seen: the hole, or the two or three, past which it most likely comes in time.

The school goes on as it goes: same heading, same speed. Of the many courses that the fixes leave open, those are
counted that come within sight of a hole while someone is fishing there. Places are tried coarsely over where the school
can be, then finely about the best; the chance that is told is counted over courses that took no part in choosing.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np

from ..checks import number
from ..fields import Span, check_fields, doc
from ..wording import Quantity, Sentence
from .course import Array, Course, SpanOf

COARSE, FINE, TOLD = 200, 800, 6000  # courses that are counted over
PLACES = 220  # tried at first, at most
MOST_WALK_M = 1000.0
LET_IT_GO = 0.1  # a chance below this is not worth the walk. Ours, no source
LONG_WALK = 2e-4  # of chance for a metre: two points for a hundred. Ours, no source
MOMENTS = 12


@dataclass(frozen=True)
class Walker:
    """Who drills: where things stand, how fast on foot, how long a hole takes, how long one stays, how far one sees."""

    now_s: Annotated[float, Span(-1e6, 1e6, "s"), doc("On the clock of the fixes")]
    walk_m_s: Annotated[float, Span(0.05, 5.0, "m/s")]
    ready_s: Annotated[float, Span(0.0, 7200.0, "s"), doc("To drill and rig one hole")]
    stay_s: Annotated[float, Span(0.0, 86_400.0, "s"), doc("How long one fishes once the last hole is ready")]
    seen_radius_m: Annotated[float, Span(0.05, 200.0, "m"), doc("How far from a hole the cone reaches at its depth")]
    school_radius_m: Annotated[float, Span(0.0, 100.0, "m")] = 0.0
    holes: Annotated[int, Span(1, 3), doc("How many are drilled")] = 1

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def reach_m(self) -> float:
        """How near the school's middle has to come [m]."""
        return self.seen_radius_m + self.school_radius_m

    def ready_at(self, holes: Array) -> Array:
        """When each hole is ready [s] (..., holes); one walks to them (..., holes, 2) [m] in this order from the
        look-out hole."""
        legs = np.diff(holes, axis=-2, prepend=np.zeros_like(holes[..., :1, :]))
        walked = np.cumsum(np.hypot(legs[..., 0], legs[..., 1]), axis=-1) / self.walk_m_s
        return np.asarray(self.now_s + walked + self.ready_s * np.arange(1, holes.shape[-2] + 1))


@dataclass(frozen=True)
class HoleThere:
    """A hole to drill [m from the look-out hole], when it is ready [s], and when the school comes by if it does: the
    span of eight cases in ten [s]; None where it never does."""

    east_m: float
    north_m: float
    ready_at_s: float
    comes_at_s: SpanOf | None = None


@dataclass(frozen=True)
class Drilling:
    """Holes in the order in which they are drilled, the chance that the school comes past one in time, and whether it
    is too late."""

    holes: tuple[HoleThere, ...]
    chance: float
    let_it_go: bool
    why: Sentence


def where_to_drill(course: Course, walker: Walker) -> Drilling:
    """The best holes for a school on `course`. Raises ValueError for a moment more than a day from the fixes."""
    number("now_s", walker.now_s, course.since_s - 86_400.0, course.since_s + 86_400.0, "s")
    coarse, fine = course.draws(COARSE, 1), course.draws(FINE, 2)
    places = _places(course, walker, coarse)
    found = np.zeros((0, 2))
    for _ in range(walker.holes):
        tried = _with_one_more(found, places)
        found = _best(course, walker, tried, coarse)
        found = _finer(course, walker, found, coarse if walker.holes > 1 else fine, (0.7, 0.35))
    if walker.holes > 1:
        found = _finer(course, walker, found, fine, (0.5, 0.25))
    told = course.draws(TOLD, 3)
    chance = float(chances(course, walker, found[None], told)[0])
    ready = walker.ready_at(found)
    holes = tuple(
        HoleThere(
            float(e), float(n), float(t), _comes(course, walker, np.array([e, n]), float(t), float(ready[-1]), told)
        )
        for (e, n), t in zip(found, ready, strict=True)
    )
    return Drilling(holes, chance, chance < LET_IT_GO, _why(chance, found, float(ready[-1]) - walker.now_s))


def chances(course: Course, walker: Walker, tried: Array, draws: Array) -> Array:
    """The share of the courses `draws` (n, 4) that come past one of the holes in time: (tries,) for `tried` (tries,
    holes, 2) [m], in the order in which they are drilled."""
    ready = walker.ready_at(tried)
    until = ready[:, -1] + walker.stay_s
    v = draws[:, 2:]
    squared = np.maximum((v**2).sum(axis=1), 1e-12)
    comes = np.zeros((tried.shape[0], draws.shape[0]), dtype=bool)
    for k in range(tried.shape[1]):
        since = ready[:, k, None] - course.since_s
        east = draws[:, 0] + v[:, 0] * since - tried[:, k, 0, None]
        north = draws[:, 1] + v[:, 1] * since - tried[:, k, 1, None]
        nearest = np.clip(-(east * v[:, 0] + north * v[:, 1]) / squared, 0.0, (until - ready[:, k])[:, None])
        comes |= (east + v[:, 0] * nearest) ** 2 + (north + v[:, 1] * nearest) ** 2 <= walker.reach_m**2
    return np.asarray(comes.mean(axis=1))


def _comes(course: Course, walker: Walker, hole: Array, ready_s: float, last_s: float, draws: Array) -> SpanOf | None:
    """When the school comes within sight of a hole [s], of the courses on which it does while someone fishes there."""
    apart, v = draws[:, :2] - hole, draws[:, 2:]
    squared = np.maximum((v**2).sum(axis=1), 1e-12)
    nearest = -(apart * v).sum(axis=1) / squared
    miss = ((apart + v * nearest[:, None]) ** 2).sum(axis=1)
    half = np.sqrt(np.maximum(walker.reach_m**2 - miss, 0.0) / squared)
    enters = np.maximum(course.since_s + nearest - half, ready_s)
    comes = (miss <= walker.reach_m**2) & (course.since_s + nearest + half >= ready_s)
    comes &= enters <= last_s + walker.stay_s
    if comes.sum() < 10:
        return None
    return SpanOf(*(float(one) for one in np.quantile(enters[comes], [0.1, 0.5, 0.9])))


def _places(course: Course, walker: Walker, draws: Array) -> Array:
    """Where it is worth trying (places, 2) [m]: where courses are at moments at which somebody can be fishing."""
    last = walker.ready_s * walker.holes + walker.stay_s
    # Someone can be ready there only later the further off it is, so moments go on as long as the walk may.
    moments = walker.now_s + walker.ready_s + (last - walker.ready_s + 300.0) * np.linspace(0.0, 1.0, MOMENTS) ** 2
    since = moments[:, None] - course.since_s
    at = np.stack([draws[:, 0] + draws[:, 2] * since, draws[:, 1] + draws[:, 3] * since], axis=-1)
    middles = course.weights @ course.means
    likely = middles[:2] + middles[2:] * since
    everywhere = np.concatenate([np.zeros((1, 2)), likely, at[:, ::4].reshape(-1, 2)])
    near = everywhere[np.hypot(*everywhere.T) <= MOST_WALK_M]
    cell = 0.8 * walker.reach_m
    while True:
        cells = np.unique(np.round(near / cell).astype(np.int64), axis=0)
        if len(cells) <= PLACES:
            return np.asarray(np.concatenate([cells * cell, near[:1]]))
        cell *= 1.25


def _best(course: Course, walker: Walker, tried: Array, draws: Array) -> Array:
    """Of all that were tried the holes with the best chance; of those as good the ones that are sooner reached."""
    longest = np.hypot(*np.moveaxis(tried, -1, 0)).max(axis=1)
    return np.asarray(tried[int((chances(course, walker, tried, draws) - LONG_WALK * longest).argmax())])


def _with_one_more(holes: Array, places: Array) -> Array:
    """All ways (ways, holes + 1, 2) of putting one of the places into the order of `holes`."""
    ways = []
    for k in range(holes.shape[0] + 1):
        before, after = (np.broadcast_to(part, (len(places), *part.shape)) for part in (holes[:k], holes[k:]))
        ways.append(np.concatenate([before, places[:, None], after], axis=1))
    return np.concatenate(ways)


def _finer(course: Course, walker: Walker, holes: Array, draws: Array, steps: tuple[float, ...]) -> Array:
    """The holes moved about, one after the other, by a share of the reach, while that helps."""
    around = np.stack(np.meshgrid(np.arange(-2, 3), np.arange(-2, 3)), axis=-1).reshape(-1, 2)
    around = around[np.argsort(np.abs(around).sum(axis=1), kind="stable")]  # of equals the one that is not moved
    for step in steps:
        for k in range(holes.shape[0]):
            tried = np.broadcast_to(holes, (len(around), *holes.shape)).copy()
            tried[:, k] += around * step * walker.reach_m
            holes = _best(course, walker, tried, draws)
    return holes


def _why(chance: float, holes: Array, ready_s: float) -> Sentence:
    values = {
        "chance": Quantity(100.0 * chance, "percent"),
        "away": Quantity(float(np.hypot(*holes[0])), "m"),
        "ready": Quantity(ready_s, "s"),
    }
    if chance < LET_IT_GO:
        return Sentence("Let it go: even at the best place it comes by in time in {chance} of cases only.", values)
    said = "{away} off, ready in {ready}: if it goes on as it goes, it comes by in {chance} of cases."
    return Sentence(said, values)
