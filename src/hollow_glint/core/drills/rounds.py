"""Rounds of drills put together for others."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..checks import InputError
from ..fields import Len, OneOf, Span, Text, check_fields
from .catalogue import KINDS
from .drill import LEVELS

MOST_ROUND = 60


@dataclass(frozen=True)
class RoundPart:
    """Part of a round that someone has put together: a kind, a level, how many."""

    kind: Annotated[str, OneOf(KINDS)]
    level: Annotated[int, Span(LEVELS[0], LEVELS[-1])]
    count: Annotated[int, Span(1, 20)]

    def __post_init__(self) -> None:
        check_fields(self, "parts")


@dataclass(frozen=True)
class Round:
    """A round put together for others: a name and its parts, up to MOST_ROUND drills in all."""

    name: Annotated[str, Text(1, 80)]
    parts: Annotated[tuple[RoundPart, ...], Len(1, MOST_ROUND)]

    def __post_init__(self) -> None:
        check_fields(self)
        total = sum(one.count for one in self.parts)
        if not 1 <= total <= MOST_ROUND:
            raise InputError(f"parts ask for {total} drills: accepted are 1 to {MOST_ROUND}")

    def drills(self, seed: int) -> list[tuple[str, int, int]]:
        """Kind, level and seed of each drill, the seeds drawn from `seed`."""
        out: list[tuple[str, int, int]] = []
        for part in self.parts:
            out += [(part.kind, part.level, seed + 7919 * (len(out) + k)) for k in range(part.count)]
        return out
