"""Elsewhere: what worked, taken to places like it. A place is its depth, how the bed falls, what stands near and what
the bottom is; how often something happened at places like that is what to expect there, as a span.

What kind of place a stay was at is read off the lake's own map, so that a new lake is judged by the same eyes.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..checks import InputError
from ..trip.start_places import STEEP
from ..wording import Quantity, Sentence
from .effort import Effort, table_of
from .posterior import Spread
from .rates import Fit, fit
from .season import DEPTHS, Of, Piece, class_of

EDGES: tuple[tuple[float, str], ...] = (
    (0.3 * STEEP, "flat bed"), (0.7 * STEEP, "slope"), (1e9, "edge"),
)  # fmt: skip
ALONE, NEAR = "nothing near", "near "
LEAST_HOURS = 3.0  # of one line at places that are known, before anything is taken elsewhere
MATTERS = 0.15  # of the logarithm: a difference that is worth a sentence


@dataclass(frozen=True)
class Ground:
    """A place as a map has it: depth [m], fall of the bed, what stands within NEAR_M ("" for nothing), and the kind of
    bottom ("" where nobody knows)."""

    depth_m: float
    fall: float
    near: str = ""
    bottom: str = ""

    @property
    def factors(self) -> dict[str, str]:
        """The classes it belongs to."""
        found = {
            "depth": class_of(self.depth_m, DEPTHS),
            "edge": class_of(self.fall, EDGES),
            "structure": f"{NEAR}{self.near}" if self.near else ALONE,
            "bottom": self.bottom,
        }
        return {name: of for name, of in found.items() if of}


@dataclass(frozen=True)
class Expected:
    """What to expect at a place: events an hour of one line, how that is to the usual, and why."""

    rate: Spread
    times: float
    why: Sentence


class Taught:
    """What the log says of kinds of places. Made of the pieces of stays and the ground that each was on."""

    def __init__(self, pieces: Sequence[Piece], grounds: Sequence[Ground | None], of: Of = "bites") -> None:
        """Raises ValueError where the log has too few hours at places that are known."""
        counted = [
            Effort(piece.rod_hours, piece.count(of), ground.factors, piece.hole, piece.day, piece.water)
            for piece, ground in zip(pieces, grounds, strict=True)
            if ground is not None
        ]  # fmt: skip
        self.of = of
        self.hours = sum(one.rod_hours for one in counted)
        if self.hours < LEAST_HOURS:
            raise InputError(
                f"the log has {self.hours:.1f} h of one line at places that are on a map: {LEAST_HOURS:g} h are needed"
            )
        self._table = table_of(counted)
        self._fit: Fit = fit(self._table)
        self.usual = self._fit.expected({})
        self._known: dict[tuple[tuple[str, str], ...], Expected] = {}

    def expect(self, ground: Ground) -> Expected:
        """What to expect at a place."""
        key = tuple(ground.factors.items())
        if key not in self._known:
            rate = self._fit.expected(ground.factors)
            self._known[key] = Expected(rate, rate.likely / self.usual.likely, self._why(ground, rate))
        return self._known[key]

    def _why(self, ground: Ground, rate: Spread) -> Sentence:
        hours = self._hours(ground)
        kind = ", ".join(ground.factors.values())
        values = {
            "likely": Quantity(rate.likely, "per hour"),
            "low": Quantity(rate.low, "per hour"),
            "high": Quantity(rate.high, "per hour"),
            "usual": Quantity(self.usual.likely, "per hour"),
            "hours": Quantity(hours, "h"),
        }
        if hours <= 0.0:
            text = (
                f"No place was just like it ({kind}); by what each of these brought elsewhere {{likely}} {self.of} an "
                "hour ({low} to {high}), your usual is {usual}."
            )
            return Sentence(text, values)
        text = (
            f"Places like it ({kind}): {{likely}} {self.of} an hour ({{low}} to {{high}}), your usual is {{usual}}; "
            "{hours} of one line at such a depth and fall."
        )
        return Sentence(text, values)

    def _hours(self, ground: Ground) -> float:
        """The hours at its depth and fall together."""
        table, mine = self._table, np.ones(len(self._table.hours), dtype=bool)
        for name in ("depth", "edge"):
            if name in table.names:
                f = table.names.index(name)
                levels = table.levels[f]
                wanted = levels.index(ground.factors[name]) if ground.factors[name] in levels else -2
                mine &= table.codes[f] == wanted
        return float(table.hours[mine].sum())
