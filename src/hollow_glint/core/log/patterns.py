"""Patterns: what efforts say, each factor's levels with their spans, and whether that is enough to say more."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..checks import number
from .effort import Effort, Table, table_of
from .posterior import Spread
from .rates import LevelRate, rates
from .tangles import Tangle, tangled_levels, tangles

Says = Literal["better", "worse", "no telling"]
SURE = 0.9  # from here on something is called better; below 1 - SURE worse. See docs/patterns.md for what that brings
MOST_EFFORTS = 20_000
MOST_FACTORS = 16


@dataclass(frozen=True)
class LevelPattern:
    """A level: its rate an hour, the rod-hours and count that it rests on, the probability that it is better than what
    else you use, what that says, and whether it is tangled with another factor."""

    rate: Spread
    rod_hours: float
    count: int
    better: float
    says: Says
    tangled: bool


@dataclass(frozen=True)
class Patterns:
    """What efforts say: overall, each factor's levels, and what is tangled. `holes_differ` is the standard deviation of
    the holes' factor."""

    overall: Spread
    rod_hours: float
    count: int
    factors: dict[str, dict[str, LevelPattern]]
    tangled: tuple[Tangle, ...]
    holes_differ: float


def patterns(efforts: Sequence[Effort], level: float = 0.9) -> Patterns:
    """All that efforts say, the spans holding `level` (0.5 to 0.99).

    Raises ValueError for no effort with hours, more of them or of factors than can be weighed, or a level out of its
    span.
    """
    number("the number of efforts", len(efforts), 1, MOST_EFFORTS)
    return patterns_of(table_of(efforts), level)


def patterns_of(table: Table, level: float = 0.9) -> Patterns:
    """As `patterns`, of efforts that are columns already."""
    number("level", level, 0.5, 0.99)
    number("the number of factors", len(table.names), 0, MOST_FACTORS)
    found = rates(table, level)
    tied = tangled_levels(table)
    factors = {
        name: {
            of: _pattern(found.factors[f][k], (f, k) in tied, len(table.levels[f]))
            for k, of in enumerate(table.levels[f])
        }
        for f, name in enumerate(table.names)
    }
    return Patterns(
        found.overall,
        float(table.hours.sum()),
        round(float(table.counts.sum())),
        factors,
        tuple(tangles(table, found.overall.likely)),
        found.holes_differ,
    )


def says(better: float, tangled: bool) -> Says:
    """What a probability of being better says; nothing where it is tangled: it may be the other factor's doing."""
    if tangled or 1.0 - SURE < better < SURE:
        return "no telling"
    return "better" if better >= SURE else "worse"


def _pattern(one: LevelRate, tangled: bool, levels: int) -> LevelPattern:
    better = one.better if levels > 1 else 0.5
    return LevelPattern(one.rate, one.rod_hours, one.count, better, says(better, tangled), tangled)
