"""Rounds of drills put together for others."""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import InputError, number, one_of
from .catalogue import kinds
from .drill import LEVELS

MOST_ROUND = 60


@dataclass(frozen=True)
class RoundPart:
    """Part of a round that someone has put together: a kind, a level, how many."""

    kind: str
    level: int
    count: int

    def __post_init__(self) -> None:
        one_of("parts.kind", self.kind, tuple(kinds()))
        if self.level not in LEVELS:
            raise InputError(f"parts.level is {self.level!r}: accepted are 1, 2 and 3")
        number("parts.count", self.count, 1, 20)


@dataclass(frozen=True)
class Round:
    """A round put together for others: a name and its parts, up to MOST_ROUND drills in all."""

    name: str
    parts: tuple[RoundPart, ...]

    def __post_init__(self) -> None:
        if not 1 <= len(self.name.strip()) <= 80:
            raise InputError(f"name has {len(self.name.strip())} characters: accepted are 1 to 80")
        total = sum(one.count for one in self.parts)
        if not 1 <= total <= MOST_ROUND:
            raise InputError(f"parts ask for {total} drills: accepted are 1 to {MOST_ROUND}")

    def drills(self, seed: int) -> list[tuple[str, int, int]]:
        """Kind, level and seed of each drill, the seeds drawn from `seed`."""
        out: list[tuple[str, int, int]] = []
        for part in self.parts:
            out += [(part.kind, part.level, seed + 7919 * (len(out) + k)) for k in range(part.count)]
        return out
