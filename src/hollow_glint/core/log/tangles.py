"""Tangled factors: where a level of one was used only together with a level of another, no log can tell which of the
two did it; and the outing that would tell.

A level is tangled with another factor when that factor's levels say almost wholly whether it was used: the share of its
variance over the hours that they explain (the correlation ratio; Pearson 1905) is TANGLED or more, so that what the log
says of it is blurred as if it rested on a tenth of its hours (the variance inflation factor; Marquardt 1970).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from .effort import Table, sums
from .posterior import Array

TANGLED = 0.9
LEAST_SHARE = 0.02  # of the hours: a level that was hardly used is not told anyhow
ENOUGH = 10.0  # events that an outing should bring to tell two levels apart roughly. Common practice, no source


@dataclass(frozen=True)
class Untangling:
    """What to fish to tell two factors apart: a level of each together, for so many rod-hours."""

    first: str
    second: str
    rod_hours: float


@dataclass(frozen=True)
class Tangle:
    """Two factors, the level of the first that was used only along with one of the second (or the least elsewhere), the
    hours of that, and the outing that would untangle them."""

    first: str
    second: str
    level: str
    along_with: str
    rod_hours: float
    outing: tuple[Untangling, ...]


def tangles(table: Table, usual_rate: float) -> list[Tangle]:
    """The pairs of factors of which one has a level that is tangled with the other, in the table's order.

    `usual_rate` [1/h] says how long it takes to bring ENOUGH.
    """
    found = []
    for a in range(len(table.names)):
        for b in range(a + 1, len(table.names)):
            hours = together(table, a, b)
            one = _worst(hours), _worst(hours.T)
            if max(one[0][0], one[1][0]) < TANGLED:
                continue
            if one[0][0] >= one[1][0]:
                found.append(_tangle(table, a, b, hours, one[0][1], usual_rate))
            else:
                found.append(_tangle(table, b, a, hours.T, one[1][1], usual_rate))
    return found


def tangled_levels(table: Table) -> set[tuple[int, int]]:
    """The levels (number of the factor, number of the level) that are tangled with another factor."""
    found: set[tuple[int, int]] = set()
    for a in range(len(table.names)):
        for b in range(len(table.names)):
            if a != b:
                explained = _explained(together(table, a, b))
                found.update((a, int(k)) for k in np.flatnonzero(explained >= TANGLED))
    return found


def together(table: Table, a: int, b: int) -> Array:
    """The hours of each level of one factor with each level of another (levels of a, levels of b)."""
    rows, columns = len(table.levels[a]), len(table.levels[b])
    both = (table.codes[a] >= 0) & (table.codes[b] >= 0)
    cell = table.codes[a][both] * columns + table.codes[b][both]
    return sums(cell, table.hours[both], rows * columns).reshape(rows, columns)


def _explained(hours: Array) -> Array:
    """How much of each row's use the columns explain (rows,): 1 where each column is all of it or nothing."""
    whole = hours.sum()
    if whole <= 0.0:
        return np.zeros(len(hours))
    share = hours.sum(axis=1) / whole
    columns = hours.sum(axis=0)
    within = np.divide(hours, columns, out=np.zeros_like(hours), where=columns > 0.0)
    between = (within**2) @ (columns / whole) - share**2
    variance = share * (1.0 - share)
    told = (variance > 1e-12) & (share >= LEAST_SHARE)
    return np.asarray(np.divide(between, variance, out=np.zeros_like(share), where=told))


def _worst(hours: Array) -> tuple[float, int]:
    explained = _explained(hours)
    return (float(explained.max()), int(explained.argmax())) if len(explained) else (0.0, 0)


def _tangle(table: Table, a: int, b: int, hours: Array, row: int, usual_rate: float) -> Tangle:
    column = int(hours[row].argmax())
    need = float(np.clip(ENOUGH / max(usual_rate, 1e-9), 1.0, 40.0))
    others = [k for k in range(len(hours)) if k != row]
    other = max(others, key=lambda k: float(hours[k].sum()))
    elsewhere = int(hours[other].argmax())
    # The level where the others were, and the others where it was: either tells, both tell twice as soon.
    wanted = [(row, elsewhere), (other, column)]
    outing = tuple(
        Untangling(table.levels[a][k], table.levels[b][m], need - float(hours[k, m]))
        for k, m in wanted
        if hours[k, m] < need and (k, m) != (row, column)
    )
    return Tangle(
        table.names[a], table.names[b], table.levels[a][row], table.levels[b][column], float(hours[row, column]), outing
    )
