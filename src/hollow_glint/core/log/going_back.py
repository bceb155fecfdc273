"""Going back: holes and hours that are worth a return, each with what the log has of it.

A hole is judged by what it brought against what the same hours, light and lures bring at your holes on average, pulled
to that average as far as it was fished little: three fish in an hour are no hole of three an hour.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ..wording import Quantity, Sentence
from .effort import table_of
from .posterior import Spread
from .rates import fit
from .season import HOURS, Of, Piece, efforts

LEAST_COUNT = 2  # bites at a hole: of fewer nothing is said
MOST = 12
OF_THE_PLACE = frozenset({"depth", "bottom", "clarity"})
MORE = 1.1  # times the usual, from which on a hole is said to promise more


@dataclass(frozen=True)
class Return:
    """A hole: its name in the log, the rate an hour at your usual mix and at your holes on average, on what it rests,
    the hour from sunset that brought most of it ("" where that is not known), when it was fished last (UTC), why."""

    hole: str
    rate: Spread
    usual: float
    rod_hours: float
    count: int
    days: int
    hour: str
    last_at: str
    why: Sentence


def going_back(holes: Sequence[Return]) -> list[Return]:
    """The holes that promise more than your usual, the surest first (by the low end of what they promise)."""
    better = [one for one in holes if one.count >= LEAST_COUNT and one.rate.likely > MORE * one.usual]
    return sorted(better, key=lambda one: -one.rate.low)[:MOST]


def hole_by_hole(pieces: Sequence[Piece], of: Of = "bites") -> list[Return]:
    """What the log has of every hole, in the order in which they were first fished."""
    used = [one for one in pieces if one.rod_hours > 0.0]
    if not used:
        return []
    # What lies in the place itself (its depth, bottom, water) is part of what the hole brings, and not taken out of it.
    moving = [
        replace(one, factors={name: level for name, level in one.factors.items() if name not in OF_THE_PLACE})
        for one in efforts(used, of)
    ]
    found = fit(table_of(moving))
    names = list(dict.fromkeys(one.hole for one in used))
    usual = found.expected({})
    mine: dict[str, list[Piece]] = defaultdict(list)
    for one in used:
        mine[one.hole].append(one)
    return [_return(name, rate, usual, mine[name], of) for name, rate in zip(names, found.holes(), strict=True)]


def _return(name: str, rate: Spread, usual: Spread, pieces: Sequence[Piece], of: Of) -> Return:
    count = sum(one.count(of) for one in pieces)
    hours = sum(one.rod_hours for one in pieces)
    days = len({one.day for one in pieces})
    hour = _best_hour(pieces, of)
    text = (
        f"{{count}} {of} in {{hours}} of one line over {{days}} outings: {{likely}} an hour ({{low}} to {{high}}) by "
        "what else the log has; your usual is {usual}."
    )
    if hour:
        text += f" Most came in {hour}." if hour.startswith("the ") else f" Most came {hour}."
    values = {
        "count": Quantity(count, "count"),
        "hours": Quantity(hours, "h"),
        "days": Quantity(days, "count"),
        "likely": Quantity(rate.likely, "per hour"),
        "low": Quantity(rate.low, "per hour"),
        "high": Quantity(rate.high, "per hour"),
        "usual": Quantity(usual.likely, "per hour"),
    }
    last = max(one.began_at for one in pieces)
    return Return(name, rate, usual.likely, hours, count, days, hour, last, Sentence(text, values))


def _best_hour(pieces: Sequence[Piece], of: Of) -> str:
    """The class of hours from sunset with the most events; "" where the hour is not known."""
    counts: dict[str, int] = defaultdict(int)
    for one in pieces:
        if "hour" in one.factors:
            counts[one.factors["hour"]] += one.count(of)
    best = max(counts, key=lambda name: counts[name], default="")
    return best if counts[best] > 0 else ""


def minutes_of(hour: str) -> tuple[float, float]:
    """From when to when a class of hours from sunset lasts [min from sunset]; two hours where it has no end.

    Raises ValueError for what is no such class.
    """
    names = [name for _, name in HOURS]
    k = names.index(hour)
    high = HOURS[k][0] if HOURS[k][0] < 1e8 else HOURS[k - 1][0] + 120.0
    return (HOURS[k - 1][0] if k else high - 120.0), high
