"""Marks linked from ping to ping into tracks, through crossings and gaps, each with its own history.

A track is believed by a running likelihood ratio: what its hits and misses say for a real echo against the specks that
would fall there by chance (Wald's sequential test, as in Blackman and Popoli 1999, chapter 6; from memory). Marks go to
tracks by the cheapest assignment of all together. Two tracks closer than the pulse can part share one mark: the one
left without coasts, is told to be hidden in the other, and keeps its name.
"""

from __future__ import annotations

from math import log, pi, sqrt

import numpy as np

from ..checks import Floats
from .detect import NO_MARKS, Marks
from .track import Track

CONFIRMED = 9.0  # log likelihood ratio from which a track is told
LOST = -3.0
MOST_SURE = 24.0  # so that a track long followed can still be lost
MOST_TENTATIVE = 40
FASTEST_M_S = 0.7  # a fish up or down the column
BY_END = 0.2  # how much a ping's end of a mark says of where the lower of two in it begins
HIDDEN_S = 6.0  # how long a track coasts inside another or in the bottom
WELL_KNOWN = 40  # lit pings from which it is known how a mark shines, and where a lure hangs on its line...
STRAYS_M = 0.1  # ... to this
WITH_ROD = 2.0  # log odds from which a track is taken to go with the rod
CELL_M = 0.1
CLASSES = 4  # levels told apart in how often chance lights them: 1, 2, 3, more
ROUND_M = 0.6  # how far about a track chance is looked for
GATE_M = 0.12  # about as wide as a track looks for its mark
ABOVE_CHANCE = 0.25
LEAST_CHANCE = 0.03  # marks a metre and ping that chance is always allowed


def _between(number: float, reach: float) -> float:
    """The number, or `reach` on its side of nothing if it is farther out."""
    return min(max(number, -reach), reach)


def _middle(of: Floats) -> Floats:
    """The medians along the last axis; of a few numbers, many times over, where NumPy's own takes ten times as long."""
    rising, half = np.sort(of, axis=-1), of.shape[-1] // 2
    middle: Floats = rising[..., half] if of.shape[-1] % 2 else 0.5 * (rising[..., half - 1] + rising[..., half])
    return middle


class Tracker:
    """Follows marks. `follow` it ping by ping; `tracks` are those that are believed."""

    def __init__(self, resolution_m: float, row_m: float, steps: int) -> None:
        self.resolution_m = resolution_m
        self.row_m = row_m
        self.steps = steps
        self.apart = 1  # pings that rejection keeps
        self.foot_m = np.inf  # where the water ends [m from the face]
        self.lure_by_line = True  # whether the lure goes as its line does; else it goes its own way, as any mark does
        self.every: list[Track] = []
        self.ended: list[Track] = []
        self._born = 0
        self._pings = 0
        self._waiting: list[tuple[float, Marks]] = []
        self._crowded: set[int] = set()
        self._lure: int | None = None
        self._range_m: Floats = np.zeros(0)
        self._at_least: Floats = np.zeros((steps, 0))
        self._begun = np.zeros((CLASSES, 1))  # marks that begin in each CELL_M, a ping, this strong...
        self._begun_least = self._begun  # ... and at least this strong

    @property
    def tracks(self) -> list[Track]:
        """The tracks that are believed."""
        return [one for one in self.every if one.confirmed]

    def by_id(self, id: int) -> Track | None:
        """The track of this number, believed or not."""
        return next((one for one in self.every if one.id == id), None)

    def follow(  # noqa: PLR0913 - all that is known of a ping
        self,
        time_s: float,
        dt: float,
        marks: Marks,
        line_in_m: float,
        line_total_m: float,
        bottom_m: float | None,
        lure: int | None,
        range_m: Floats,
        at_least: Floats,
        blurred: bool = False,
    ) -> Marks:
        """One ping on: predict, assign, update. Returns the marks that continued nothing.

        `line_in_m` [m] was taken in since the last ping, `line_total_m` since the start; the track numbered `lure`
        goes with it. `bottom_m` is the bottom's edge [m from the face]; `at_least` (levels, rows) how often each row at
        `range_m` has reached each level of late; `blurred` while the lure
        goes too fast for rejection to show it.
        """
        self._range_m, self._at_least, self._lure = range_m, at_least, lure
        for one in self.every:
            self._predict(one, dt, line_in_m, one.id == lure)
        self._crowded = self._too_near()
        taken, pairs = self._assign(marks, lure, line_total_m)
        for track, mark in pairs:
            self._hit(track, time_s, marks, mark, line_total_m)
        mark_of = {track.id: mark for track, mark in pairs}
        for one in self.every:
            # A lure that goes too fast goes with the rod, unseen, and is looked for where that brings it.
            if one.id not in mark_of and not (blurred and one.id == lure):
                self._miss(one, time_s, dt, bottom_m, line_total_m, mark_of, marks)
        loose = np.setdiff1d(np.arange(marks.range_m.size), taken)
        self._count(marks)
        self._begin(time_s, dt, marks, loose, line_total_m)
        under = np.inf if bottom_m is None else bottom_m + 0.1
        gone = [
            one
            for one in self.every
            if one.score < LOST
            or one.hidden > HIDDEN_S
            or one.range_m < 0.0
            or (one.range_m > under and one.id != lure)
        ]
        self.ended += [one for one in gone if one.confirmed]
        del self.ended[:-50]
        out = {one.id for one in gone}
        self.every = [one for one in self.every if one.id not in out]
        self._settle(lure)
        self._pings += 1
        if self._pings % 4 == 0:
            for one in self.every:
                if one.confirmed:
                    self._stands_out(one)
        return Marks(marks.range_m[loose], marks.thick_m[loose], marks.level[loose]) if loose.size else NO_MARKS

    def _count(self, marks: Marks) -> None:
        """Keep count of where marks of each strength begin."""
        if marks.range_m.size:
            cell = (marks.range_m / CELL_M).astype(np.intp)
            if cell.max() >= self._begun.shape[1]:
                more = int(cell.max()) + 40 - self._begun.shape[1]
                self._begun = np.pad(self._begun, ((0, 0), (0, more)))
        self._begun *= 0.975
        if marks.range_m.size:
            strong = np.minimum(marks.level, CLASSES) - 1
            np.add.at(self._begun, (strong, cell), 0.025)
        self._begun_least = self._begun[::-1].cumsum(axis=0)[::-1]

    def _chance(self, range_m: float, level: int) -> float:
        """How many marks of at least `level` chance puts in a metre there, each ping.

        The middle of what begins in the cells about it, and in those beside it: speckle fills them all, a
        neighbouring mark one or two.
        """
        at = max(int(range_m / CELL_M), 0)  # a track may coast past the face
        reach = int(ROUND_M / CELL_M)
        rate = self._begun_least[min(level, CLASSES) - 1, max(at - reach, 0) : at + 1 + reach]
        if rate.size < 4:
            return LEAST_CHANCE
        here = min(at, reach)
        beside = np.concatenate((rate[max(here - 2, 0) : here], rate[here + 1 : here + 3]))
        return max(float(_middle(rate)) / CELL_M, float(_middle(beside)) / CELL_M, LEAST_CHANCE)

    def _predict(self, one: Track, dt: float, line_in_m: float, is_lure: bool) -> None:
        """Where it should be now: by its own way, or with the rod if that has said it better of late."""
        by_itself, by_rod = one.range_m + one.speed_m_s * dt, one.range_m - line_in_m
        one.expected_m = (by_itself, by_rod)
        if (is_lure and self.lure_by_line) or one.rod_odds > WITH_ROD:
            # The hand says how it goes; what is left to chance is line that stretches or sinks slowly.
            one.range_m = by_rod
            one.variance_m2 += (0.25 * line_in_m) ** 2 + 2e-4 * dt
            one.covariance, one.speed_m_s = 0.0, -line_in_m / dt
            one.variance_speed = 0.01
            return
        one.range_m = by_itself
        one.variance_m2 += 2.0 * dt * one.covariance + dt * dt * one.variance_speed + 1e-5 * dt
        one.covariance += dt * one.variance_speed
        one.variance_speed += 0.06 * dt

    def _assign(self, marks: Marks, lure: int | None, line_total_m: float) -> tuple[list[int], list[tuple[Track, int]]]:
        if not self.every or marks.range_m.size == 0:
            return [], []
        at = np.array([one.range_m for one in self.every])
        spread = np.sqrt(np.array([one.variance_m2 for one in self.every]) + self._noise())
        gate = np.minimum(3.0 * spread + 0.5 * self.row_m, 0.35)
        off = np.abs(at[:, None] - marks.range_m[None, :])
        sure = np.array([one.score for one in self.every])
        level = np.array([one.level_mean for one in self.every])
        cost = (off / spread[:, None]) ** 2 + 0.15 * np.abs(level[:, None] - marks.level[None, :].astype(float))
        cost -= 0.2 * sure[:, None]  # of two that want a mark, the one long followed has it
        allowed = off < gate[:, None]
        for k, one in enumerate(self.every):
            if one.id == lure and self.lure_by_line and one.story.seen > WELL_KNOWN:
                # A lure and its line keep one sum: a fish that swims through its mark does not carry it off.
                held = one.story.range_m + one.story.line_m - line_total_m
                allowed[k] &= np.abs(marks.range_m - held) < max(STRAYS_M, 1.2 * self.resolution_m, 1.5 * self.row_m)
        # Nearly always there is nothing to choose between; the whole assignment is only for where there is.
        if allowed.sum(axis=0).max() <= 1 and allowed.sum(axis=1).max() <= 1:
            rows, columns = np.nonzero(allowed)
        else:
            from scipy.optimize import linear_sum_assignment

            rows, columns = linear_sum_assignment(np.where(allowed, cost, 1e6))
            fits = allowed[rows, columns]
            rows, columns = rows[fits], columns[fits]
        return [int(c) for c in columns], [(self.every[r], int(c)) for r, c in zip(rows, columns, strict=True)]

    def _too_near(self) -> set[int]:
        """The tracks nearer to another than the pulse can part."""
        near: set[int] = set()
        believed = sorted(self.tracks, key=lambda one: one.range_m)
        for one, other in zip(believed, believed[1:], strict=False):
            if other.range_m - one.range_m < self.resolution_m:
                near |= {one.id, other.id}
        return near

    def _noise(self) -> float:
        return (0.5 * self.row_m) ** 2 + (0.12 * self.resolution_m) ** 2

    def _hit(self, one: Track, time_s: float, marks: Marks, mark: int, line_total_m: float) -> None:
        s = one.variance_m2 + self._noise()
        off = float(marks.range_m[mark]) - one.range_m
        by_itself, by_rod = (float(marks.range_m[mark]) - at for at in one.expected_m)
        said = _between((by_itself**2 - by_rod**2) / (2.0 * s), 2.0)
        one.rod_odds = _between(0.97 * one.rod_odds + said, 6.0)
        k, kv = one.variance_m2 / s, one.covariance / s
        one.range_m += k * off
        one.speed_m_s = _between(one.speed_m_s + kv * off, FASTEST_M_S)
        one.variance_speed = max(one.variance_speed - kv * one.covariance, 1e-5)
        one.covariance *= 1.0 - k
        one.variance_m2 *= 1.0 - k
        # For a real echo against chance: how well it fits, and how often chance would put a mark there.
        fit = -0.5 * off * off / s - 0.5 * log(2.0 * pi * s)
        level, thick = int(marks.level[mark]), float(marks.thick_m[mark])
        chance = log(self._chance(one.range_m, level))
        one.score = min(one.score + log(max(one.hit_share, 0.2)) + fit - chance, MOST_SURE)
        self._note(one, time_s, level, thick, line_total_m)
        one.hits += 1
        one.hidden, one.hidden_in = 0.0, None
        one.last_hit_s = time_s
        if not one.confirmed and one.score > CONFIRMED and one.hits >= 6:
            self._stands_out(one)
            one.confirmed = one.above_chance > ABOVE_CHANCE

    def _stands_out(self, one: Track) -> None:
        """How much more often a track is lit than the water about it would light its gate: at the level where that says
        most, so that a strong mark stands out of weakly lit water."""
        rows = np.abs(self._range_m - one.range_m)
        beside = (rows < ROUND_M) & (rows > 1.6 * self.resolution_m + 2.0 * self.row_m) & (self._range_m < self.foot_m)
        lit = _middle(self._at_least[:, beside]) if beside.any() else np.zeros(len(self._at_least))
        gate = float(np.clip(GATE_M / self.row_m, 1.0, 8.0))
        by_chance = 1.0 - (1.0 - np.minimum(lit, 1.0)) ** gate
        one.speckle = float(lit[0])
        one.above_chance = float(max(one.hit_share - by_chance[0], np.max(one.exceed - by_chance)))

    def _note(self, one: Track, time_s: float, level: int, thick: float, line_total_m: float) -> None:
        share = 1.0 / min(len(one.seen) + 1, 30)
        if one.exceed.size == 0:
            one.exceed = np.zeros(self.steps)
        one.exceed += ((level > np.arange(self.steps)) - one.exceed) * share
        one.level_mean += (level - one.level_mean) * share
        one.hit_share += ((level > 0) - one.hit_share) * share
        if level:
            one.thick_m += (thick - one.thick_m) * (share if one.thick_m else 1.0)
        one.seen.append((time_s, one.range_m, level, thick, line_total_m))
        if one.id in self._crowded and one.story.seen > WELL_KNOWN:
            return  # how two shine together tells nothing of either
        one.story.note(time_s, one.range_m, level, thick, line_total_m, self.steps, self.apart)

    def _miss(
        self,
        one: Track,
        time_s: float,
        dt: float,
        bottom_m: float | None,
        line_total_m: float,
        mark_of: dict[int, int],
        marks: Marks,
    ) -> None:
        if bottom_m is not None and one.confirmed and one.range_m > bottom_m - self.resolution_m:
            inside: int | None = -1
        else:
            inside = None
            for other in self.every:
                if other is not one and other.confirmed and other.id in mark_of and one.confirmed:
                    mark = mark_of[other.id]
                    top = float(marks.range_m[mark]) - self.resolution_m
                    if top < one.range_m < float(marks.range_m[mark] + marks.thick_m[mark]) + 0.3 * self.resolution_m:
                        inside = other.id
        if inside is not None:
            one.hidden += dt
            one.hidden_in = inside
            if inside >= 0 and one.thick_m and one.id != self._lure:  # which hangs where the line brings it
                # Two in one mark: its front is the upper one's, its end the lower one's.
                front, end = (
                    float(marks.range_m[mark_of[inside]] + k * marks.thick_m[mark_of[inside]]) for k in (0, 1)
                )
                if one.range_m > front:
                    one.range_m += BY_END * (max(end - one.thick_m, front) - one.range_m)
            one.speed_m_s *= 0.9
            one.variance_m2 = min(one.variance_m2, 0.01)
            return
        # A real mark is lit half of the time at least; chance leaves its gate empty as often as it is rare.
        miss = log(1.0 - min(max(one.hit_share, 0.5), 0.95))
        lit = self._chance(one.range_m, 1) * 4.0 * sqrt(self._noise())
        one.score += miss - log(max(1.0 - lit, 0.05))
        one.speed_m_s *= 0.93  # nothing unseen goes on for long as it went
        one.variance_m2 = min(one.variance_m2, 0.02)
        if one.confirmed:
            self._note(one, time_s, 0, 0.0, line_total_m)

    def _begin(self, time_s: float, dt: float, marks: Marks, loose: Floats, line_total_m: float) -> None:
        """New tracks from loose marks that stand near a loose mark of one of the two pings before."""
        pairs: list[tuple[float, int, float]] = []
        for before_s, before in self._waiting:
            if before.range_m.size == 0 or loose.size == 0:
                continue
            off = marks.range_m[loose][None, :] - before.range_m[:, None]
            near = np.abs(off).argmin(axis=0)
            for j, i in enumerate(near):
                speed = float(off[i, j]) / max(time_s - before_s, dt)
                if abs(off[i, j]) < 0.08 + FASTEST_M_S * (time_s - before_s):
                    pairs.append((float(abs(off[i, j])), int(loose[j]), speed))
        pairs.sort()
        begun: set[int] = set()
        room = MOST_TENTATIVE - sum(not one.confirmed for one in self.every)
        for _, mark, speed in pairs:
            if mark in begun or len(begun) >= room:
                continue
            begun.add(mark)
            self._born += 1
            at = float(marks.range_m[mark])
            track = Track(self._born, at, float(np.clip(speed, -0.4, 0.4)), time_s, self._noise(), last_hit_s=time_s)
            self._note(track, time_s, int(marks.level[mark]), float(marks.thick_m[mark]), line_total_m)
            self.every.append(track)
        rest = np.array([int(m) for m in loose if int(m) not in begun], dtype=np.intp)
        keep = Marks(marks.range_m[rest], marks.thick_m[rest], marks.level[rest])
        self._waiting = [*self._waiting, (time_s, keep)][-2:]

    def _settle(self, lure: int | None) -> None:
        """Two tracks on one mark are one: the younger goes, unless the elder is only guessed at."""
        order = sorted(self.every, key=lambda one: (one.id != lure, not one.confirmed, one.began_s))
        kept: list[Track] = []
        for one in order:
            twin = any(
                abs(one.range_m - other.range_m) < 0.6 * self.row_m + 0.01 and one.hidden_in is None for other in kept
            )
            if twin and one.id != lure and not (one.confirmed and one.hits > 40):
                continue
            kept.append(one)
        keep = {one.id for one in kept}
        self.every = [one for one in self.every if one.id in keep]
