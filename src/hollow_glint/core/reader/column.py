"""What stands in the picture: surface clutter, the bottom and its tail, weeds, the second echo, layers, foreign pings.

From running means of the picture's rows over the last seconds; nothing here follows single marks. The shares and
thicknesses that tell one from the other are ours, tuned on made-up waters and scored on others (docs/reader.md).
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..sonar.picture import Window

MEAN_PINGS = 30  # pings that a running mean looks back over
STANDING = 0.85  # share of pings in which what stands is lit
BOTTOM_PULSES = 1.6  # thinner than this is no bottom
TALLEST_WEED_M = 1.4
STEMS_M = 0.3  # dark stems under a crown of weeds
FULL, FALLEN = 0.97, 0.9  # of the bottom's strength: as strong again, and weaker than that
FLICKER = 0.27  # steps by which a row of weeds changes from ping to ping, 1 sd; brush, logs and rock keep theirs
SPECKLED = 0.02  # share of cells lit by short-lived marks from which water counts as speckled


@dataclass(frozen=True)
class Layer:
    """A speckled layer between two ranges [m from the face] and the share of its cells that are lit."""

    top_m: float
    bottom_m: float
    share: float
    level: float


@dataclass(frozen=True)
class Standing:
    """What stands, ranges [m from the face], None for what is not there.

    clutter_end_m   where surface clutter ends; 0 without any
    bottom_m        leading edge of the bottom
    bottom_level    mean ladder level at the edge; tail_m how far it stays lit below
    second_m        leading edge of the second echo
    weed_top_m      where weeds begin above the bottom
    restless_m      how much the bottom's edge moves from ping to ping [m, 1 sd]
    layers          speckled layers
    company         whether marks that live for one ping alone are told: a neighbour's, or electrical noise
    foreign_per_s   how many there are a second; foreign_step_m their steady drift each ping, None without
    struck          share of pings that are lit from end to end by electrical noise
    """

    clutter_end_m: float = 0.0
    bottom_m: float | None = None
    bottom_level: float = 0.0
    tail_m: float = 0.0
    second_m: float | None = None
    weed_top_m: float | None = None
    restless_m: float = 0.0
    layers: tuple[Layer, ...] = ()
    company: bool = False
    foreign_per_s: float = 0.0
    foreign_step_m: float | None = None
    struck: float = 0.0


class Column:
    """Running means of the rows of one window. Start a new one when the window or its rows change."""

    def __init__(self, shown: Window, rows: int, top_level: int, resolution_m: float) -> None:
        self.shown = shown
        self.top_level = top_level
        self.resolution_m = resolution_m
        self.row_m = shown.height_m / rows
        self.range_m: Floats = shown.top_m + (np.arange(rows) + 0.5) * self.row_m
        self.mean = np.zeros(rows)
        self.at_least = np.zeros((top_level, rows))  # share of pings in which each row reaches each level, from 1 up
        self._levels = np.arange(1, top_level + 1, dtype=np.uint8)[:, None]
        self._speck = np.zeros(rows)  # as `lit`, without the marks that are followed
        self._pings = 0
        self._edges: deque[float] = deque(maxlen=60)
        self._last = np.zeros(rows, dtype=np.uint8)
        self._struck = 0.0
        self.standing = Standing()
        self._lure_m: float | None = None

    @property
    def lit(self) -> Floats:
        """Share of pings in which each row is lit at all, shape (rows,)."""
        lit: Floats = self.at_least[0]
        return lit

    def see(self, levels: NDArray[np.uint8], followed_m: Floats) -> bool:
        """Take in one ping's rows, with marks followed at `followed_m` [m from the face].

        True when it was struck by electrical noise from end to end: then it is left out.
        """
        dark = self.lit < 0.3
        struck = self._pings > 5 and bool(dark.any()) and float((levels[dark] > 0).mean()) > 0.6
        self._struck += (float(struck) - self._struck) / MEAN_PINGS
        if struck:
            return True
        self._pings += 1
        share = 1.0 / min(self._pings, MEAN_PINGS)
        self.mean += (levels - self.mean) * share
        self.at_least += ((levels >= self._levels) - self.at_least) * share
        lit: NDArray[np.bool_] = levels > 0
        for at in followed_m:
            first = max(int((at - 0.1 - self.range_m[0]) / self.row_m), 0)
            lit[first : first + int((0.2 + 3.0 * self.resolution_m) / self.row_m) + 2] = False
        self._speck += (lit - self._speck) * share
        bottom = self.standing.bottom_m
        if bottom is not None:
            near = np.flatnonzero((self.range_m > bottom - 0.3) & (self.range_m < bottom + 0.3))
            strong = np.flatnonzero(levels[near] > 0.5 * self.standing.bottom_level)
            if strong.size:
                self._edges.append(float(self.range_m[near[strong[0]]]))
        return False

    def speckle(self, top_m: float, foot_m: float) -> float:
        """Share of the water between two ranges [m from the face] that short-lived marks light."""
        rows = (self.range_m > top_m) & (self.range_m < foot_m)
        return float(self._speck[rows].mean()) if rows.any() else 0.0

    def slide(self, shown: Window) -> None:
        """The window has slid to `shown`, of the same height: what its rows have learned slides with it."""
        rows = round((shown.top_m - self.shown.top_m) / self.row_m)
        for one in (self.mean, *self.at_least, self._speck):
            if abs(rows) >= one.size:
                one[:] = 0.0
            elif rows > 0:
                one[:-rows], one[-rows:] = one[rows:].copy(), 0.0
            elif rows < 0:
                one[-rows:], one[:-rows] = one[:rows].copy(), 0.0
        # Whole rows only, so that a window that creeps does not smear.
        top = self.shown.top_m + rows * self.row_m
        self.range_m = self.range_m + rows * self.row_m
        self.shown = Window(top, top + shown.height_m)

    def read(self, lure_m: float | None = None) -> Standing:
        """What stands now; the mark at `lure_m` [m from the face] is known for the lure's and is none of it."""
        self._lure_m = lure_m
        if self._pings < 4:
            return self.standing
        stands = self.lit > STANDING
        clutter_end = self._clutter_end(stands)
        bottom, level, tail, second, weed = self._bottom(stands, clutter_end)
        edges = np.array(self._edges)
        self.standing = Standing(
            clutter_end, bottom, level, tail, second, weed,
            float(edges.std()) if bottom is not None and edges.size > 20 else 0.0,
            self._layers(clutter_end, weed if weed is not None else bottom),
            struck=self._struck,
        )  # fmt: skip
        return self.standing

    def _clutter_end(self, stands: NDArray[np.bool_]) -> float:
        if self.shown.top_m > 0.4 or not stands[: max(int(0.3 / self.row_m), 1)].any():
            return self.shown.top_m
        first = int(np.argmax(stands))
        # Past what stands it still flickers for a while.
        dark = np.flatnonzero(self.lit[first:] < 0.05)
        ends = np.flatnonzero(~stands[first:])
        if not ends.size:
            return float(self.range_m[-1])
        end = float(self.range_m[first + ends[0]])
        return min(float(self.range_m[first + dark[0]]) + self.row_m, end + 0.4) if dark.size else end

    def _bottom(
        self, stands: NDArray[np.bool_], clutter_end: float
    ) -> tuple[float | None, float, float, float | None, float | None]:
        """Edge, level and tail of the bottom, the second echo's edge, and the top of weeds above the bottom."""
        past = self.range_m > clutter_end
        solid = np.concatenate([[False], stands & past, [False]])
        turns = np.flatnonzero(np.diff(solid.astype(np.int8)))
        pairs = zip(turns[::2], turns[1::2], strict=True)
        runs = [(a, b) for a, b in pairs if (b - a) * self.row_m >= 0.9 * self.resolution_m]
        best: tuple[int, int] | None = None
        weight = 0.0
        for a, b in runs:
            loud = float(self.mean[a:b].max()) / self.top_level
            here = float(self.mean[a:b].sum()) * self.row_m * loud**2
            thick = (b - a) * self.row_m >= BOTTOM_PULSES * self.resolution_m or b == stands.size
            if thick and here > weight and loud > 0.55:
                best, weight = (int(a), int(b)), here
        if best is None:
            return None, 0.0, 0.0, None, None
        a, b = best
        peak = float(self.mean[a:b].max())
        edge = a + int(np.argmax(self.mean[a:b] > 0.6 * peak))
        # Weeds stand on it: the echo is strongest well below where it begins. A bottom begins at once.
        full = a + int(np.argmax(self.mean[a:b] > 0.94 * peak))
        stems = (full - edge) * self.row_m > max(0.2, 2.5 * self.resolution_m)
        if not stems:
            again = self._rises_again(edge, b, peak)
            stems, full = again is not None, edge if again is None else again
        stems = stems and self._flickers(edge, full)  # else the bottom's own edge, and what its sides send later
        top_of_weeds = float(self.range_m[edge]) if stems else None
        edge = full if stems else edge
        # The tail: down to where it is dark half of the time.
        below = np.flatnonzero(self.lit[edge:] < 0.5)
        tail_rows = int(below[0]) if below.size else stands.size - edge
        bottom = float(self.range_m[edge])
        second = None
        for x, y in runs:
            if self.range_m[x] > 1.45 * bottom and x > edge + tail_rows and self.mean[x:y].max() > 0.15 * peak:
                second = float(self.range_m[x])
                break
        weed = self._weed_top(edge, clutter_end) if top_of_weeds is None else top_of_weeds
        if weed is not None and not self._flickers(int(np.searchsorted(self.range_m, weed)), edge):
            weed = None  # brush or a log
        return bottom, peak, tail_rows * self.row_m, second, weed

    def _flickers(self, first: int, end: int) -> bool:
        """Whether the rows from `first` to `end` change their level from ping to ping as weeds do: by the spread that
        the shares of pings at each level tell."""
        shares = self.at_least[:, first : max(end, first + 1)]
        levels = np.arange(1, self.top_level + 1)[:, None]
        var = ((2 * levels - 1) * shares).sum(axis=0) - shares.sum(axis=0) ** 2
        return float(np.sqrt(np.maximum(var, 0.0)).mean()) > FLICKER

    def _rises_again(self, edge: int, end: int, peak: float) -> int | None:
        """The row at which what stands from `edge` on grows to its full strength a second time: the bottom under thick
        weeds. A bottom's own tail only ever falls."""
        last = min(end, edge + int(TALLEST_WEED_M / self.row_m))
        width = max(int(0.5 * self.resolution_m / self.row_m), 1)
        even = np.convolve(self.mean[edge:last], np.ones(width) / width, mode="valid")
        if even.size < 3:
            return None
        full = even >= FULL * peak
        fallen = np.flatnonzero(even < FALLEN * peak)
        if not fallen.size:
            return None
        # The last rise after the last fall, if it lasts for a pulse's front at least.
        rises = np.flatnonzero(full[1:] & ~full[:-1]) + 1
        rises = rises[(rises > fallen[0]) & (rises * self.row_m > max(0.2, 2.0 * self.resolution_m))]
        for rise in rises[::-1]:
            if full[rise : rise + width].all():
                return edge + int(rise)
        return None

    def _weed_top(self, edge: int, clutter_end: float) -> float | None:
        """Weeds stand on the bottom and flicker: rows lit often, up from the edge without a clear gap."""
        often = self.lit > 0.35
        if self._lure_m is not None:
            off = self.range_m - self._lure_m
            often &= (off < -1.5 * self.row_m) | (off > 2.0 * self.resolution_m)
        gap = max(int(0.06 / self.row_m), 1)
        top, dark = edge, 0
        for row in range(edge - 1, -1, -1):
            if self.range_m[row] <= clutter_end:
                break
            if often[row]:
                top, dark = row, 0
            else:
                dark += 1
                if dark > gap:
                    break
        thick = (edge - top) * self.row_m
        if thick > max(0.2, 2.5 * self.resolution_m):
            return float(self.range_m[top])
        return self._crowns(edge, often, clutter_end)

    def _crowns(self, edge: int, often: NDArray[np.bool_], clutter_end: float) -> float | None:
        """Weeds whose stems are dark: a flickering band, thicker than a fish's mark, with a gap down to the bottom."""
        gap = max(int(0.06 / self.row_m), 1)
        first = max(edge - int(TALLEST_WEED_M / self.row_m), int(np.searchsorted(self.range_m, clutter_end)) + 1)
        rows = np.flatnonzero(often[first:edge])
        if not rows.size:
            return None
        parts = np.split(rows, np.flatnonzero(np.diff(rows) > gap + 1) + 1)
        lowest = parts[-1] + first
        near = (edge - lowest[-1]) * self.row_m < STEMS_M
        thick = (lowest[-1] - lowest[0] + 1) * self.row_m
        return float(self.range_m[lowest[0]]) if near and thick > max(0.3, 3.5 * self.resolution_m) else None

    def _layers(self, clutter_end: float, end: float | None) -> tuple[Layer, ...]:
        """Speckled water: lit now and then, in rows that stand dark most of the time, for at least half a metre."""
        open_rows = (self.range_m > clutter_end + 0.2) & (self.range_m < (end or self.range_m[-1]) - 0.15)
        speck = np.where(self.lit < STANDING, self._speck, 0.0) * open_rows
        half = max(int(0.25 / self.row_m), 1)
        smooth = np.convolve(speck, np.ones(2 * half + 1) / (2 * half + 1), mode="same")
        on = np.concatenate([[False], (smooth > SPECKLED) & open_rows, [False]])
        turns = np.flatnonzero(np.diff(on.astype(np.int8)))
        found = []
        for a, b in zip(turns[::2], turns[1::2], strict=False):
            if (b - a) * self.row_m < 0.5 or float((speck[a:b] > 0.005).mean()) < 0.5:
                continue
            lit = max(float(speck[a:b].sum()), 1e-6)
            level = float((self.mean[a:b] * (speck[a:b] > 0)).sum()) / lit
            found.append(Layer(float(self.range_m[a]), float(self.range_m[b - 1]), float(speck[a:b].mean()), level))
        return tuple(found)
