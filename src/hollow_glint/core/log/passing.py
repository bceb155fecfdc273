"""What came to each hole in the hours that are planned: out of the log, for a party that looks where to sit down.

Hours are counted from sunset, as everywhere in the log: fish keep to the light, not to the clock.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping

from ..trip.shelter_place import Met
from .going_back import minutes_of
from .season import HOURS, Piece

LEAST_H = 0.25  # of one line at a hole in these hours: of less nothing is said


def share_of_hours(begins_min: float, ends_min: float) -> dict[str, float]:
    """How much of each class of hours lies within a span [min from sunset], 0 to 1. The two that have no end count
    whole as soon as the span reaches two hours into them."""
    shares = {}
    for _, name in HOURS:
        low, high = minutes_of(name)
        shares[name] = min(max(min(ends_min, high) - max(begins_min, low), 0.0) / (high - low), 1.0)
    return {name: share for name, share in shares.items() if share > 0.0}


def met_in_hours(
    pieces: Iterable[Piece], places: Mapping[str, tuple[float, float]], hours: tuple[float, float] | None
) -> list[Met]:
    """What came to each hole of the log whose place [m] is known, within hours [min from sunset]; None for any hours.

    A piece whose hour nobody knows tells nothing of these hours and is left out, except where any hour is asked for.
    """
    every = list(pieces)
    all_hours = sum(one.rod_hours for one in every)
    usual = sum(one.count("looks") for one in every) / all_hours if all_hours else 0.0
    shares = None if hours is None else share_of_hours(*hours)
    looks: dict[str, float] = defaultdict(float)
    lasted: dict[str, float] = defaultdict(float)
    for one in every:
        share = 1.0 if shares is None else shares.get(one.factors.get("hour", ""), 0.0)
        looks[one.hole] += share * one.count("looks")
        lasted[one.hole] += share * one.rod_hours
    return [
        Met(*places[hole], looks[hole], hours_there, usual)
        for hole, hours_there in lasted.items()
        if hole in places and hours_there >= LEAST_H
    ]
