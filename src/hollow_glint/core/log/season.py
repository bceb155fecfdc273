"""The season as efforts: stays cut where the light, the hour from sunset or what was tried changed, with what was known
then and what happened in each piece.

How hours and sizes are put together into classes is common practice, no source; it stands in the tables here.
"""

from __future__ import annotations

import datetime
from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, NamedTuple

from ..fish.strike_sheet import touches_of_each
from ..trip.sun import SunTimes
from .effort import Effort
from .outing import Happening, Outing, Stay, moment
from .shares import Answered

Of = Literal["looks", "bites", "fish"]
OF: dict[Of, str] = {"looks": "Looks", "bites": "Bites", "fish": "Fish landed"}
WENT: dict[Of, frozenset[str]] = {
    "looks": frozenset({"look", "follow", "bite", "miss", "fish"}),
    "bites": frozenset({"bite", "miss", "fish"}),
    "fish": frozenset({"fish"}),
}
FACTORS: dict[str, str] = {
    "depth": "Depth of the water", "bottom": "Bottom", "hour": "Hour from sunset", "light": "Light",
    "clarity": "Clarity", "lure": "Lure", "size": "Size of the lure", "trying": "What was tried",
    "beam": "Beam", "pressure": "Pressure",
}  # fmt: skip
# Classes, each up to and without its number; names begin with what a reader can sort by eye.
DEPTHS: tuple[tuple[float, str], ...] = ((3.0, "under 3 m"), (6.0, "3 to 6 m"), (10.0, "6 to 10 m"),
                                         (15.0, "10 to 15 m"), (1e9, "15 m and more"))  # fmt: skip
SIZES: tuple[tuple[float, str], ...] = ((0.015, "under 15 mm"), (0.035, "15 to 35 mm"), (1e9, "35 mm and more"))
HOURS: tuple[tuple[float, str], ...] = (
    (-240.0, "more than 4 h before sunset"), (-120.0, "4 to 2 h before sunset"), (-60.0, "2 to 1 h before sunset"),
    (0.0, "the last hour before sunset"), (60.0, "the first hour after sunset"), (1e9, "more than 1 h after sunset"),
)  # fmt: skip
HEIGHTS: tuple[tuple[float, str], ...] = ((0.3, "within 0.3 m of the bottom"), (1.0, "0.3 to 1 m up"),
                                          (2.5, "1 to 2.5 m up"), (1e9, "more than 2.5 m up"))  # fmt: skip
LEAST_H = 1.0 / 120.0  # a piece shorter than half a minute is none
STILL_H = 0.25  # a stay that nobody ended is taken to have lasted so long after the last that happened there


@dataclass(frozen=True)
class StayTold:
    """A stay with its outing, the hole it was at (a name of its own for each hole), the sun of that day (None where
    nobody knows), and what happened, in any order."""

    outing: Outing
    day: str
    stay: Stay
    hole: str
    happened: tuple[Happening, ...]
    sun: SunTimes | None = None


class Went(NamedTuple):
    """How far a fish went, of which species it was (None where nobody said), and the last that was noted of it: when
    (UTC), how deep and how high off the bottom [m], minutes from sunset; None where that is not known."""

    kind: str
    species: str | None
    at: str
    depth_m: float | None = None
    height_m: float | None = None
    from_sunset_min: float | None = None


@dataclass(frozen=True)
class Piece:
    """A piece of a stay in which nothing changed: at which hole, on which day and water, when the stay began,
    rod-hours, what was known, and how far each fish went in it."""

    hole: str
    day: str
    water: str
    began_at: str
    rod_hours: float
    factors: dict[str, str]
    went: tuple[Went, ...]
    stay_id: int = 0

    @cached_property
    def counts(self) -> dict[Of, int]:
        """How many looked, bit and were landed."""
        kinds = [one.kind for one in self.went]
        return {of: sum(map(went.__contains__, kinds)) for of, went in WENT.items()}

    def count(self, of: Of) -> int:
        """How many looked, bit or were landed."""
        return self.counts[of]


def of_species(pieces: Sequence[Piece], species: str | None) -> list[Piece]:
    """The pieces with the fish of one species and those of which nobody said it; all where none is asked for."""
    if species is None:
        return list(pieces)
    return [replace(one, went=tuple(fish for fish in one.went if fish.species in (species, None))) for one in pieces]


def pieces_of(told: StayTold) -> list[Piece]:
    """A stay cut into pieces.

    A stay that nobody ended and at which nothing happened has no hours that anybody knows: it gives no piece.
    """
    began = moment("began_at", told.stay.began_at)
    signs = sorted(((moment("at", one.at), one) for one in told.happened), key=lambda pair: pair[0])
    if told.stay.ended_at is not None:
        hours = (moment("ended_at", told.stay.ended_at) - began).total_seconds() / 3600.0
    elif signs:
        hours = max((signs[-1][0] - began).total_seconds() / 3600.0, 0.0) + STILL_H
    else:
        return []
    seen = [((at - began).total_seconds(), one) for at, one in signs if one.kind in WENT["looks"]]
    fish = [
        (seen[mine[0]][0] / 3600.0, _went(told, seen[mine[-1]][1]))
        for mine in touches_of_each([(at, one.kind) for at, one in seen])
    ]
    tried = [((at - began).total_seconds() / 3600.0, one.trying) for at, one in signs if one.trying]
    cuts = [0.0]
    for cut in sorted({*_changes(tried, hours), *_sun_cuts(told, began, hours)}):
        if cut - cuts[-1] >= LEAST_H and hours - cut >= LEAST_H:  # no hours are lost for a piece that is too short
            cuts.append(cut)
    cuts.append(hours)
    base = _base(told)
    out = []
    for low, high in zip(cuts, cuts[1:], strict=False):
        mine = tuple(went for at, went in fish if low <= at < high or (high == hours and at >= high) or at < low == 0.0)
        middle = began + datetime.timedelta(hours=0.5 * (low + high))
        factors = {**base, **_then(told, middle), **_trying(told, tried, high)}
        lasts = max(high - low, LEAST_H) * told.stay.lines
        water = water_of(told.outing)
        out.append(Piece(told.hole, told.day, water, told.stay.began_at, lasts, factors, mine))
    return out


def efforts(pieces: Sequence[Piece], of: Of) -> list[Effort]:
    """Efforts of all pieces, counting looks, bites or fish."""
    return [Effort(one.rod_hours, one.count(of), one.factors, one.hole, one.day, one.water) for one in pieces]


def water_of(outing: Outing) -> str:
    """What tells waters apart: their name, however it was written."""
    return outing.water.strip().lower()


def answered(pieces: Sequence[Piece], of: Of, then: Of, factor: str | None = None) -> list[Answered]:
    """How many of those that came as far as `of` went on to `then`, a piece of a stay each, by a factor if one is
    given."""
    return [
        Answered(one.count(of), one.count(then), "" if factor is None else one.factors.get(factor, ""))
        for one in pieces
        if one.count(of)
    ]


def heights(pieces: Sequence[Piece]) -> Iterator[tuple[Piece, Went]]:
    """Every fish that bit, as far as it went, whose height off the bottom is known."""
    bit = WENT["bites"]
    for piece in pieces:
        for one in piece.went:
            if one.kind in bit and one.height_m is not None:
                yield piece, one


def class_of(value: float, classes: tuple[tuple[float, str], ...]) -> str:
    """The name of the class that a value falls in."""
    return classes[bisect_right([top for top, _ in classes], value)][1] if value < classes[-1][0] else classes[-1][1]


def _went(told: StayTold, last: Happening) -> Went:
    depth, bottom = last.depth_m, told.stay.depth_m
    height = None if depth is None or bottom is None else max(bottom - depth, 0.0)
    return Went(last.kind, last.species, last.at, depth, height, from_sunset_min(told, moment("at", last.at)))


def from_sunset_min(told: StayTold, then: datetime.datetime) -> float | None:
    """Minutes from that day's sunset, before it below 0; None where nobody knows when that was."""
    if told.sun is None or told.sun.sunset_min is None:
        return None
    return _minute(told, then) - told.sun.sunset_min


def _minute(told: StayTold, then: datetime.datetime) -> float:
    """Minutes since the midnight, by the clock there, before the outing began: past midnight they go on counting."""
    offset = datetime.timedelta(minutes=told.outing.utc_offset_min)
    began = moment("began_at", told.outing.began_at) + offset
    midnight = began.replace(hour=0, minute=0, second=0, microsecond=0)
    return (then + offset - midnight).total_seconds() / 60.0


def _changes(tried: list[tuple[float, str]], hours: float) -> Iterator[float]:
    """When another thing was tried [h]: at the last touch under the one before."""
    for (at, one), (_, then) in zip(tried, tried[1:], strict=False):
        if one != then and 0.0 < at < hours:
            yield at


def _sun_cuts(told: StayTold, began: datetime.datetime, hours: float) -> Iterator[float]:
    if told.sun is None:
        return
    start = _minute(told, began)
    marks = [getattr(told.sun, name) for name in ("dawn_min", "sunrise_min", "sunset_min", "dusk_min")]
    if told.sun.sunset_min is not None:
        marks += [told.sun.sunset_min + minute for minute, _ in HOURS[:-1]]
    for mark in marks:
        if mark is not None and 0.0 < (mark - start) / 60.0 < hours:
            yield (mark - start) / 60.0


def _base(told: StayTold) -> dict[str, str]:
    stay = told.stay
    found = {
        "depth": None if stay.depth_m is None else class_of(stay.depth_m, DEPTHS),
        "bottom": stay.bottom,
        "clarity": stay.clarity,
        "lure": stay.lure_form or None,
        "size": None if stay.lure_size_m is None else class_of(stay.lure_size_m, SIZES),
        "beam": stay.beam or None,
        "pressure": told.outing.pressure_trend,
    }
    return {name: value for name, value in found.items() if value}


def _then(told: StayTold, middle: datetime.datetime) -> dict[str, str]:
    if told.sun is None:
        return {}
    minute = _minute(told, middle)
    out: dict[str, str] = {"light": told.sun.light(minute % 1440.0)}
    if told.sun.sunset_min is not None:
        out["hour"] = class_of(minute - told.sun.sunset_min, HOURS)
    if out["light"] == "day" and told.outing.sky is not None:
        out["light"] = "bright day" if told.outing.sky in ("clear", "broken") else "dull day"
    return out


def _trying(told: StayTold, tried: list[tuple[float, str]], until: float) -> dict[str, str]:
    """What was tried in a piece that ends at `until` [h]: what the next touch says, or the last there was."""
    after = next((one for at, one in tried if at >= until), None) or (tried[-1][1] if tried else told.stay.trying)
    return {"trying": after} if after else {}
