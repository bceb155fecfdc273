"""Marks on a picture that turns: what is brighter than the water and bed round it, as a finger would point at it.

A mark is a patch of the picture well above the mean of its neighbourhood; marks close together are one thing. Whether
it stays is seen from turn to turn, and what stands up throws a shadow: the bed behind it is dark.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, number
from ..lazily import Lazily
from .course import Fix
from .kinds import MOST_MARKS, Seen
from .sweep import BEARINGS, BINS, LIT_DB

if TYPE_CHECKING:
    from scipy import ndimage
else:
    ndimage = Lazily("scipy.ndimage")

OVER_DB = 7.0  # speckle, evened, is seldom so far above its mean for three cells together
CELL = (1, 3)  # bearings and bins that one fish fills: evened over them speckle parts less from its mean
AROUND, ALL_ROUND = (23, 61), (47, 3)  # bearings and bins of a neighbourhood, and of one range
LEAST_CELLS = 3
# Marks nearer than this to another are of one thing: fish that swim together keep further apart than a thing's parts.
TOGETHER_M, SWIM_TOGETHER_M = 1.5, 3.5
STAYED = 0.5  # share of a mark's cells that were bright a turn before, from which on it has stayed
DARK_DB = -5.0
# How far one mark, and however many, are off the middle of a school along each axis (1 sd), counted on made-up water.
ONE_SD_M, ANY_SD_M = 1.3, 0.45
TOUCH_M = 3.0  # what a finger means may lie so far from where it points


@dataclass(frozen=True)
class PictureMark:
    """A mark: its middle as bearing [degrees] and range through the water [m], how far it reaches across and along
    [m], how far above its neighbourhood [dB], how dark it is behind it [dB], when it was seen [s], and which share of
    it was bright a turn before (None without one)."""

    bearing_deg: float
    range_m: float
    wide_m: float
    long_m: float
    over_db: float
    behind_db: float
    time_s: float
    stayed: float | None = None

    @property
    def has_stayed(self) -> bool:
        """Whether it is where it was."""
        return self.stayed is not None and self.stayed >= STAYED

    @property
    def place(self) -> Floats:
        """On the picture, east and north of its middle [m]."""
        turn = np.radians(self.bearing_deg)
        return np.array([self.range_m * np.sin(turn), self.range_m * np.cos(turn)])


def find_marks(
    levels: NDArray[np.uint8], seen_s: Floats, range_m: float, before: NDArray[np.uint8] | None = None
) -> list[PictureMark]:
    """The marks of a full picture `levels` (BEARINGS, BINS) that was seen at `seen_s` (BEARINGS,) [s], brightest first.

    `before` is the picture of the turn before. Bearings never seen have none.
    """
    over = _over(np.where(np.isfinite(seen_s)[:, None], levels, 0))
    bright_before = (
        None if before is None else ndimage.binary_dilation(_over(before) > OVER_DB, np.ones((3, 5), dtype=bool))
    )
    pad = AROUND[0]
    bright = over > OVER_DB
    # One fish flickers from ping to ping: what is a cell apart is still one mark.
    names, count = ndimage.label(ndimage.binary_dilation(bright, np.ones((3, 1), dtype=bool)), np.ones((3, 3)))
    names[~bright] = 0
    if count == 0:
        return []
    bin_m, step = range_m / BINS, 360.0 / BEARINGS
    found = []
    for at, part in zip(ndimage.find_objects(names), range(1, count + 1), strict=True):
        mine = names[at] == part
        rows, columns = np.nonzero(mine)
        if rows.size < LEAST_CELLS:
            continue
        weight = over[at][mine]
        row, column = at[0].start + rows @ weight / weight.sum(), at[1].start + columns @ weight / weight.sum()
        if not pad <= row < pad + BEARINGS:  # it is found again where it belongs
            continue
        r = (column + 0.5) * bin_m
        behind = over[int(row), at[1].stop + 2 : at[1].stop + 2 + max(int(0.8 / bin_m), 4)]
        found.append(
            PictureMark(
                float((row - pad) * step), float(r),
                float(np.ptp(rows) + 1) * np.radians(step) * float(r), float(np.ptp(columns) + 1) * bin_m,
                float(over[at][mine].max()), float(behind.mean()) if behind.size else 0.0,
                float(seen_s[int(row - pad) % BEARINGS]),
                None if bright_before is None else float(bright_before[at][mine].mean()),
            )
        )  # fmt: skip
    return sorted(found, key=lambda one: -one.over_db)


def _over(levels: NDArray[np.uint8]) -> Floats:
    """How far each cell is above the mean of its neighbourhood [dB], with some bearings more at both ends: round."""
    level = levels.astype(np.float64) * LIT_DB
    level = np.concatenate([level[-AROUND[0] :], level, level[: AROUND[0]]])
    evened = ndimage.uniform_filter(level, CELL, mode="nearest")
    mean = ndimage.uniform_filter(level, AROUND, mode="nearest")
    # The foot of the dark disc, where the bed begins, is bright all round: a mark is brighter than its own range too.
    ring = ndimage.uniform_filter(level, ALL_ROUND, mode="nearest")
    return np.asarray(evened - np.maximum(mean, ring))


def thing_at(marks: list[PictureMark], bearing_deg: float, range_m: float) -> list[PictureMark]:
    """The marks of the thing that is touched at a bearing [degrees] and a range [m]; none where nothing is near.

    What has moved since the turn before and what has stayed are never one thing, however close.

    Raises ValueError for a range out of its span.
    """
    number("range_m", range_m, 0.0, 300.0, "m")
    turn = np.radians(bearing_deg)
    touched = np.array([range_m * np.sin(turn), range_m * np.cos(turn)])
    if not marks:
        return []
    places = np.array([one.place for one in marks])
    away = np.hypot(*(places - touched).T)
    first = int(away.argmin())
    if away[first] > TOUCH_M:
        return []
    alike = np.array([one.has_stayed == marks[first].has_stayed for one in marks])
    together = TOGETHER_M if marks[first].has_stayed else SWIM_TOGETHER_M
    near = np.hypot(*(places[:, None] - places).transpose(2, 0, 1)) < together
    mine = np.arange(len(marks)) == first
    while (grown := near[mine].any(axis=0) & alike).sum() > mine.sum():
        mine = grown
    return [one for one, is_mine in zip(marks, mine, strict=True) if is_mine]


def looked_at(thing: list[PictureMark]) -> Seen:
    """What is seen of a thing: how many marks, how far apart, how large, whether they stayed where they were, and
    whether it is dark behind them."""
    places = np.array([one.place for one in thing])
    spread = float(np.sqrt(((places - places.mean(axis=0)) ** 2).sum(axis=1).mean()))
    largest = max(max(one.wide_m - one.range_m * 0.05, one.long_m) for one in thing)
    known = [one.stayed for one in thing if one.stayed is not None]
    dark = max(thing, key=lambda one: one.over_db).behind_db < DARK_DB
    return Seen(min(len(thing), MOST_MARKS), spread, float(largest), float(np.mean(known)) if known else None, dark)


def fix_of(thing: list[PictureMark], across_deg: float, resolution_m: float) -> Fix:
    """Where a thing was and when, with its errors: the beam's width and the pulse's length, and how surely the few
    marks that happened to light tell the middle of all that swim there."""
    bearing, away, when = middle_of(thing)
    middle = float(np.hypot(ANY_SD_M, ONE_SD_M / np.sqrt(len(thing))))
    across = float(np.hypot(across_deg / 2.355, np.degrees(middle / max(away, 1.0))))
    return Fix(when, bearing, max(away, 0.1), max(across, 0.3), float(np.hypot(resolution_m / 2.0, middle)))


def middle_of(thing: list[PictureMark]) -> tuple[float, float, float]:
    """Bearing [degrees], range [m] and moment [s] of a thing: the middle of its marks, the brighter counting more."""
    weight = np.array([one.over_db for one in thing])
    place = weight @ np.array([one.place for one in thing]) / weight.sum()
    when = float(weight @ np.array([one.time_s for one in thing]) / weight.sum())
    return float(np.degrees(np.arctan2(place[0], place[1])) % 360.0), float(np.hypot(*place)), when
