"""Eyes: each kind of drill answered from its picture alone, with the rod below it and the gear as it stands.

Nothing here looks at the truth: only at rows of colours, at the water that they show, at the line taken in, at what the
arrow points at, and at what can be chosen. Where they answer well, the picture holds the answer.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from hollow_glint.core.drills.drill import Drill
from hollow_glint.core.drills.film import Clip

Answer = str | float  # the key of a choice, or a range [m from the face] that is pointed at


@dataclass(frozen=True, eq=False)
class Seen:
    """A picture: levels (pings, rows), rows [m from the face], line taken in (pings,) [m], the arrow, the ladder."""

    levels: np.ndarray
    rows: np.ndarray
    line: np.ndarray
    arrow: float | None
    steps: int
    rate: float
    windows: tuple[np.ndarray, np.ndarray]

    @property
    def height(self) -> float:
        return float(self.rows[1] - self.rows[0])

    def at(self, low: float, high: float, part: slice = slice(None)) -> np.ndarray:
        """The strongest level between two ranges, ping by ping."""
        near = (self.rows >= low) & (self.rows <= high)
        return self.levels[part][:, near].max(axis=1) if near.any() else np.zeros(len(self.levels[part]))

    def seconds(self, first: float, last: float) -> slice:
        """The pings between two times; negative ones count from the end."""
        end = len(self.levels) / self.rate
        first, last = (one + end if one < 0.0 else one for one in (first, last))
        return slice(int(first * self.rate), max(int(last * self.rate), int(first * self.rate) + 1))

    @property
    def bottom(self) -> float:
        """Where the thickest and strongest echo begins, below what rings at the top."""
        mean = self.levels.mean(axis=0) * (self.rows > min(1.6, 0.5 * self.rows[-1]))
        wide = max(int(0.5 / self.height), 1)
        heavy = np.array([mean[k : k + wide].sum() for k in range(mean.size)])
        part = slice(max(int(heavy.argmax()) - wide // 3, 0), int(heavy.argmax()) + wide)
        return float(self.rows[part][mean[part] > 0.6 * mean[part].max()][0])

    @property
    def top(self) -> float:
        """Where what stands at the top ends."""
        lit = (self.levels > 0).mean(axis=0) > 0.8
        dark = np.flatnonzero(~lit[3:]) + 3
        return float(self.rows[dark[0]]) if lit[:4].any() and dark.size else 0.5

    def lines(self, low: float, high: float, part: slice = slice(None), share: float = 0.6) -> list[float]:
        """Where lines that last begin: lit most of the time, a step or dark water over each."""
        near = np.flatnonzero((self.rows > low) & (self.rows < high))
        mean = self.levels[part].mean(axis=0) * ((self.levels[part] > 0).mean(axis=0) > share)
        found, low_m = [], 0.0
        for row in near:
            if mean[row] > low_m + 0.4 and (not found or self.rows[row] - found[-1] > 0.08):
                found.append(float(self.rows[row]))
            low_m = mean[row]
        return found

    def follow(self, start: float, reach: float = 0.12, part: slice = slice(None)) -> tuple[np.ndarray, np.ndarray]:
        """Range and level of the mark followed on from `start`, ping by ping; level 0 where it is not lit."""
        at, where, how = start, [], []
        for row in self.levels[part]:
            near = np.flatnonzero((np.abs(self.rows - at) < reach) & (row > 0))
            if near.size:
                at += 0.4 * (float(self.rows[near[0]]) - at)
            where.append(at)
            how.append(int(row[near].max()) if near.size else 0)
        return np.array(where), np.array(how)

    def with_rod(self) -> np.ndarray:
        """How often it is lit along the way of the rod that ends at each row, shape (rows,)."""
        ways = self.rows[None, :] + (self.line[-1] - self.line)[:, None]
        index = np.clip(np.round((ways - self.rows[0]) / self.height).astype(int), 0, self.rows.size - 1)
        along = np.take_along_axis(self.levels, index, axis=1)
        return np.asarray((along > 0).mean(axis=0))


def seen(clip: Clip) -> Seen:
    """What a clip lets see."""
    rows = clip.shown.top_m + (np.arange(clip.unit.rows) + 0.5) * clip.shown.height_m / clip.unit.rows
    rate = (clip.time_s.size - 1) / float(clip.time_s[-1] - clip.time_s[0])
    steps = len(clip.unit.ladders[clip.settings.ladder].steps)
    return Seen(clip.levels, rows, clip.line_m, clip.arrow_m, steps, rate, clip.windows)


def wander(levels: np.ndarray) -> float:
    """How a mark's colour changes from ping to ping, dark left out."""
    lit = levels[levels > 0].astype(float)
    return float(np.abs(np.diff(lit)).mean()) if lit.size > 5 else 0.0


def which_is_the_lure(s: Seen, _: Drill) -> Answer:
    score = s.with_rod()
    inside = (s.rows > s.top) & (s.rows < s.bottom - 0.1)
    return float(s.rows[np.argmax(np.where(inside, score, -1.0))])


def fish_or_not(s: Seen, _: Drill) -> Answer:
    assert s.arrow is not None
    return "fish" if wander(s.at(s.arrow - 0.1, s.arrow + 0.15)) > 0.05 * s.steps else "not"


def two_jigs(s: Seen, _: Drill) -> Answer:
    score = s.with_rod() > 0.8
    inside = (s.rows > s.top + 0.2) & (s.rows < s.bottom - 0.15)
    begins = np.flatnonzero(np.diff(np.concatenate([[0], (score & inside).astype(int)])) == 1)
    return "two" if begins.size >= 2 else "one"


def touching(s: Seen, _: Drill) -> Answer:
    end = s.seconds(-1.6, -0.0001)
    lure = s.lines(s.top + 0.2, s.bottom - 0.3, s.seconds(0.0, 1.5), 0.8)
    at = lure[0] if lure else s.bottom - 1.5  # the fish came from below
    return "touch" if len(s.lines(at - 0.3, min(at + 0.9, s.bottom - 0.15), end, 0.35)) <= 1 else "apart"


def neighbour_or_fish(s: Seen, _: Drill) -> Answer:
    near = (s.rows > s.top + 0.3) & (s.rows < s.bottom - 1.5)
    lit = s.levels[:, near] > 0
    stays = (lit[1:] & lit[:-1]).sum() / max(lit.sum(), 1)
    return "fish" if stays > 0.4 else "neighbour"


def plankton_bait_or_fish(s: Seen, _: Drill) -> Answer:
    near = (s.rows > s.top + 0.5) & (s.rows < s.bottom - 1.4)
    levels = s.levels[:, near]
    if levels.mean(axis=0).var() < 0.5 * levels.var():  # no row keeps what it has: specks, not lines
        return "plankton"
    return "bait" if len(s.lines(s.top + 0.5, s.bottom - 1.4, share=0.15)) > 3 else "fish"


def where_did_the_spoon_go(s: Seen, _: Drill) -> Answer:
    start = s.lines(s.top + 0.2, s.bottom - 0.3, s.seconds(0.0, 1.5))
    where, how = s.follow(start[-1] if start else s.bottom - 3.0, 0.3)
    last = where[np.flatnonzero(how > 0)[-1]]
    return "bottom" if last > s.bottom - 0.35 else "aside"


def how_hard_is_the_bottom(s: Seen, _: Drill) -> Answer:
    return "hard" if s.at(1.7 * s.bottom, 2.3 * s.bottom).mean() > 0.5 else "soft"


def second_echo_or_bottom(s: Seen, _: Drill) -> Answer:
    assert s.arrow is not None
    return "second" if s.arrow > 1.4 * s.bottom else "bottom"


def weed_or_bottom(s: Seen, _: Drill) -> Answer:
    assert s.arrow is not None
    return "bottom" if s.at(s.arrow - 0.05, s.arrow + 0.25).min() >= s.steps - 1 else "weeds"


def restless_bottom(s: Seen, _: Drill) -> Answer:
    near = (s.rows > s.bottom - 0.6) & (s.rows < s.bottom + 0.4)
    strong = s.levels[:, near] >= 1
    edge = s.rows[near][strong.argmax(axis=1)]
    return "yes" if np.std(edge) > 0.012 else "no"


def what_changed(s: Seen, _: Drill) -> Answer:
    tops, bottoms = s.windows
    if tops[-1] > tops[0] + 0.1:
        return "window"
    if bottoms[-1] > bottoms[0] + 0.1:
        return "range"
    half = len(s.levels) // 2
    before, after = s.levels[half // 3 : half].astype(float), s.levels[half + 2 :].astype(float)
    here = (s.rows > s.top + 0.3) & (s.rows < s.bottom - 0.2)
    grew = (after[:, here] > 0).mean() / max((before[:, here] > 0).mean(), 1e-4)
    below = s.rows > s.bottom - 0.3
    flicker = [np.abs(np.diff(half_of[:, below], axis=0)).mean() for half_of in (before, after)]
    tail = [(half_of[:, s.rows > s.bottom + 0.2] > 0).mean() for half_of in (before, after)]
    if flicker[1] < 0.6 * flicker[0] and grew > 1.2:
        return "filter"
    if grew > 1.0:
        return "gain up"
    return "beam" if tail[1] > 0.97 * tail[0] else "gain down"


def which_knob_mends_it(s: Seen, _: Drill) -> Answer:
    if s.bottom < 0.45 * s.rows[-1]:
        return "range"
    if s.top > 1.45 or s.at(0.7, 1.1).mean() > s.steps - 1.5:
        return "lower it"
    water = s.levels[:, (s.rows > 2.2) & (s.rows < s.bottom - 0.3)] > 0
    if water.mean() > 0.065:
        return "gain down"
    lone = water[:, water.mean(axis=0) < 0.2].any(axis=1).mean()  # pings with something that does not stay
    return "rejection" if lone > 0.25 else "gain up"


def how_many_fish(s: Seen, one: Drill) -> Answer:
    count = len(s.lines(max(s.top, 1.2), s.bottom - 0.25, s.seconds(-2.5, -0.0001), 0.55)) - 1
    most = len(one.choices) - 1
    return str(min(max(count, 0), most))


def centre_or_edge(s: Seen, _: Drill) -> Answer:
    found = s.lines(max(s.top, 1.2, s.bottom - 2.5), s.bottom - 0.3, share=0.3)
    lure = found[0] if found else s.bottom - 2.2
    below = s.at(lure + 0.45, min(lure + 1.5, s.bottom - 0.2)).mean()
    return "centre" if below > s.at(lure - 0.1, lure + 0.2).mean() + 0.3 else "edge"


def where_is_it_really(s: Seen, _: Drill) -> Answer:
    lure = s.lines(max(s.top, 1.2), s.bottom - 1.0, share=0.8)[0]
    near = (s.rows > lure + 0.5) & (s.rows < s.bottom - 0.3)
    lit = (s.levels[:, near] > 0).sum(axis=0) > 3
    return float(s.rows[near][lit.argmax()])


def which_is_larger(s: Seen, one: Drill) -> Answer:
    over = []
    for clip in one.clips:
        t = seen(clip)
        lure = t.lines(max(t.top, 1.2), t.bottom - 1.8, share=0.3)
        at = lure[-1] if lure else t.bottom - 2.4
        near = (t.rows > at + 0.6) & (t.rows < at + 1.6)
        fish, jig = (
            (t.levels[:, near] > 0).sum(axis=1).mean(),
            (t.levels[:, (t.rows > at - 0.1) & (t.rows < at + 0.5)] > 0).sum(axis=1).mean(),
        )
        over.append(fish * t.at(at + 0.6, at + 1.6).mean() / max(jig * t.at(at - 0.1, at + 0.3).mean(), 0.3))
    return "left" if over[0] > over[1] else "right"


def _below(s: Seen, part: slice) -> float:
    found = s.lines(max(s.top, 1.2, s.bottom - 3.9), s.bottom - 0.3, part, 0.5)
    return found[1] if len(found) > 1 else (found[0] if found else s.bottom - 2.0)


def leaving_or_diving(s: Seen, _: Drill) -> Answer:
    _, how = s.follow(_below(s, s.seconds(0.0, 1.8)))
    first, last = how[s.seconds(0.3, 1.8)].mean(), how[s.seconds(-1.8, -0.0001)].mean()
    return "leaves" if last < 0.6 * first else "dives"


def does_it_follow(s: Seen, _: Drill) -> Answer:
    lift = s.line[-1] - s.line[0]
    where, _ = s.follow(_below(s, s.seconds(0.0, 1.8)), 0.2)
    return "follows" if where[0] - where[-1] > 0.45 * lift else "ignores"


def predict(s: Seen, one: Drill) -> Answer:
    stop = s.seconds(0.0, one.stop_s or 5.0)
    s = Seen(s.levels[stop], s.rows, s.line[stop], None, s.steps, s.rate, s.windows)
    where, how = s.follow(_below(s, s.seconds(0.8, 2.0)), 0.15, s.seconds(1.5, 99.0))
    third = max(len(how) // 3, 1)
    if how[-third:].mean() < 0.8 * how[:third].mean() or where[-third:].mean() > where[:third].mean() + 0.035:
        return "leaves"
    return "reaches" if where[0] - where[-1] > 0.18 else "stays"


EYES: dict[str, Callable[[Seen, Drill], Answer]] = {
    "which is the lure": which_is_the_lure,
    "fish or not": fish_or_not,
    "two jigs": two_jigs,
    "touching": touching,
    "neighbour or fish": neighbour_or_fish,
    "plankton, bait or fish": plankton_bait_or_fish,
    "where did the spoon go": where_did_the_spoon_go,
    "how hard is the bottom": how_hard_is_the_bottom,
    "second echo or bottom": second_echo_or_bottom,
    "weed or bottom": weed_or_bottom,
    "restless bottom": restless_bottom,
    "what changed": what_changed,
    "which knob mends it": which_knob_mends_it,
    "how many fish": how_many_fish,
    "centre or edge": centre_or_edge,
    "where is it really": where_is_it_really,
    "which is larger": which_is_larger,
    "leaving or diving": leaving_or_diving,
    "does it follow": does_it_follow,
    "predict": predict,
}


def answered(one: Drill) -> bool:
    """Whether the eyes answer a drill rightly."""
    said = EYES[one.kind](seen(one.clips[0]), one)
    return one.is_right(None, said) if isinstance(said, float) else one.is_right(said, None)
