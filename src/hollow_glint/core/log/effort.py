"""Effort: so many hours of so many lines at one hole on one day, what was used, and how often something happened.

A rate is only as good as its hours: a bite without the hours that it took says nothing. One rod-hour is one line in
the water for an hour (common practice in creel surveys; Pollock, Jones and Brown 1994, Angler Survey Methods).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError, number

MOST_HOURS = 100_000.0
MOST_COUNT = 1_000_000
MOST_DAYS = 1500  # and waters: a log of a long life on the ice
MOST_COLUMNS = 2000  # levels, days and waters together: what is worked out grows with their cube
MOST_LEVELS = 60  # of one factor: beyond this it is no factor but a name for each row
Rows = NDArray[np.float64]
Levels = NDArray[np.int64]


@dataclass(frozen=True)
class Effort:
    """Hours fished [rod-hours] and how often something happened in them, with the level of each factor that is known.

    `hole`, `day` and `water` name what efforts have in common beyond their factors; empty where that is not known.
    Raises ValueError for hours or counts out of their span, and for a count in no time.
    """

    rod_hours: float
    count: int
    factors: dict[str, str] = field(default_factory=dict)
    hole: str = ""
    day: str = ""
    water: str = ""

    def __post_init__(self) -> None:
        number("rod_hours", self.rod_hours, 0.0, MOST_HOURS, "rod-hours")
        found = number("count", self.count, 0, MOST_COUNT)
        if found != round(found):
            raise InputError(f"count is {found:g}: a whole number from 0 to {MOST_COUNT} is accepted")
        if self.count and not self.rod_hours:
            raise InputError(f"rod_hours is 0: more is accepted where the count is not 0, and it is {self.count}")


@dataclass(frozen=True)
class Table:
    """Efforts as columns, rows alike put together: hours and counts (n,); for each factor the number of its level
    (n,), -1 where it is not known; the number of the hole, day and water (n,), -1 where that is not known; and for each
    effort with hours, in their order, its row (m,)."""

    hours: Rows
    counts: Rows
    names: tuple[str, ...]
    levels: tuple[tuple[str, ...], ...]
    codes: tuple[Levels, ...]
    hole: Levels
    day: Levels
    water: Levels
    row: Levels

    def counting(self, counts: Sequence[int]) -> Table:
        """The same efforts with other counts (m,), of something else that happened in the same hours."""
        return replace(self, counts=sums(self.row, np.array(counts, dtype=np.float64), len(self.hours)))


def table_of(efforts: Sequence[Effort]) -> Table:
    """Efforts as columns. Factors and their levels stand in the order in which they first appear. An effort without a
    hole is taken to have been at one of its own.

    Raises ValueError for no effort at all, and for a factor with more levels than can be told apart.
    """
    used = [one for one in efforts if one.rod_hours > 0.0]
    if not used:
        raise InputError("efforts have no hours: at least one effort with more than 0 rod_hours is accepted")
    names = tuple(dict.fromkeys(name for one in used for name in one.factors))
    columns = [_numbered([one.factors.get(name) or None for one in used]) for name in names]
    for name, (found, _) in zip(names, columns, strict=True):
        if len(found) > MOST_LEVELS:
            raise InputError(f"factors.{name} has {len(found)} levels: up to {MOST_LEVELS} are accepted")
    holes, days, waters = (
        _numbered([getattr(one, name) or None for one in used])[1] for name in ("hole", "day", "water")
    )
    for name, codes in (("day", days), ("water", waters)):
        if codes.max(initial=-1) >= MOST_DAYS:
            raise InputError(f"efforts name {codes.max() + 1} {name}s: up to {MOST_DAYS} are accepted")
    columns_asked = sum(len(found) for found, _ in columns) + int(days.max(initial=-1) + waters.max(initial=-1)) + 2
    if columns_asked > MOST_COLUMNS:
        raise InputError(
            f"efforts have {columns_asked} levels, days and waters together: up to {MOST_COLUMNS} are accepted"
        )
    alone = np.flatnonzero(holes < 0)
    holes[alone] = holes.max(initial=-1) + 1 + np.arange(len(alone))
    keys = np.column_stack([*(codes for _, codes in columns), holes, days, waters])
    alike, which = np.unique(keys, axis=0, return_inverse=True)
    which = which.ravel()
    hours = sums(which, np.array([one.rod_hours for one in used]), len(alike))
    counts = sums(which, np.array([one.count for one in used]), len(alike))
    kept = [alike[:, k] for k in range(len(names))]
    return Table(
        hours,
        counts,
        names,
        tuple(found for found, _ in columns),
        tuple(kept),
        alike[:, -3],
        alike[:, -2],
        alike[:, -1],
        which,
    )


def sums(codes: Levels, weight: Rows, count: int) -> Rows:
    """The sum of the weights (n,) that have each code from 0 on: (count,)."""
    return np.asarray(np.bincount(codes, weight, count), dtype=np.float64)


def _numbered(values: Sequence[str | None]) -> tuple[tuple[str, ...], Levels]:
    """Names in the order in which they first appear, and for each value the number of its name; -1 for None."""
    numbers: dict[str, int] = {}
    codes = [-1 if one is None else numbers.setdefault(one, len(numbers)) for one in values]
    return tuple(numbers), np.array(codes, dtype=np.int64)
