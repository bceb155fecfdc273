"""The depths to start at: a table of common practice that anybody may change, overruled by one's own log.

Nothing here is biology. Each line says why people begin there; none has a source, and all are for a lake of moderate
depth. What was logged in the same season tells more than any table, and takes its place.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Annotated, Literal

import numpy as np

from ..checks import InputError, within
from ..fields import Span, Text, check_fields
from ..ground.surface import DEEPEST_M, Band
from ..wording import Quantity, Sentence

Season = Literal["first ice", "midwinter", "late ice"]
Light = Literal["day", "dusk", "night"]
ANY = "any"


@dataclass(frozen=True)
class Starting:
    """A line of the table: for whom and when, from where to where [m], and why."""

    species: Annotated[str, Text(1, 40)]
    season: Season
    light: Light
    from_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    to_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    why: Annotated[str, Text(1, 200)]

    def __post_init__(self) -> None:
        check_fields(self)
        Band(self.from_m, self.to_m)


def _lines(species: str, season: Season, *each: tuple[Light, float, float, str]) -> tuple[Starting, ...]:
    return tuple(Starting(species, season, light, a, b, why) for light, a, b, why in each)


# Common practice, no source. Species are the made-up lake's; "any" is for all others.
TABLE: tuple[Starting, ...] = (
    *_lines("whitefish", "first ice", ("day", 5.0, 10.0, "on the slope, by the places of autumn"),
            ("dusk", 3.5, 8.0, "up the slope as the light goes"), ("night", 3.0, 7.0, "shallow in the dark")),
    *_lines("whitefish", "midwinter", ("day", 9.0, 18.0, "down in the basin and off the bottom"),
            ("dusk", 7.0, 14.0, "at the foot of the slope"), ("night", 6.0, 12.0, "along the slope")),
    *_lines("whitefish", "late ice", ("day", 6.0, 12.0, "coming up towards inlets"),
            ("dusk", 4.0, 9.0, "on the flats by the inlets"), ("night", 3.0, 8.0, "shallow in the dark")),
    *_lines("burbot", "first ice", ("day", 8.0, 16.0, "deep by day, and slow"),
            ("dusk", 4.0, 10.0, "coming in to hard bottoms"), ("night", 2.0, 7.0, "shallow over stones")),
    *_lines("burbot", "midwinter", ("day", 8.0, 18.0, "deep by day, and slow"),
            ("dusk", 3.0, 9.0, "people try hard shoals"), ("night", 1.5, 6.0, "people try hard shoals")),
    *_lines("burbot", "late ice", ("day", 9.0, 20.0, "back in the deep"),
            ("dusk", 6.0, 14.0, "at the foot of the slope"),
            ("night", 4.0, 10.0, "on the slope")),
    *_lines("char", "first ice", ("day", 3.0, 9.0, "off points and edges"), ("dusk", 2.0, 6.0, "shallow at the edges"),
            ("night", 2.0, 6.0, "shallow in the dark")),
    *_lines("char", "midwinter", ("day", 6.0, 16.0, "half way up over the basin"), ("dusk", 4.0, 10.0, "at the edges"),
            ("night", 4.0, 10.0, "at the edges")),
    *_lines("char", "late ice", ("day", 3.0, 10.0, "under the ice and off inlets"), ("dusk", 2.0, 7.0, "off inlets"),
            ("night", 2.0, 7.0, "off inlets")),
    *_lines("grayling", "first ice", ("day", 2.0, 6.0, "by inlets and over stones"), ("dusk", 1.5, 5.0, "over stones"),
            ("night", 1.5, 4.0, "over stones")),
    *_lines("grayling", "midwinter", ("day", 3.0, 8.0, "off inlets, where water moves"),
            ("dusk", 2.0, 6.0, "off inlets"), ("night", 2.0, 6.0, "off inlets")),
    *_lines("grayling", "late ice", ("day", 1.5, 5.0, "in front of the inlets"), ("dusk", 1.0, 4.0, "in the inlets"),
            ("night", 1.0, 4.0, "in the inlets")),
    *_lines(ANY, "first ice", ("day", 3.0, 8.0, "near last weed and first edge"), ("dusk", 2.0, 6.0, "up the slope"),
            ("night", 2.0, 6.0, "shallow in the dark")),
    *_lines(ANY, "midwinter", ("day", 6.0, 14.0, "at the basin's edge"), ("dusk", 4.0, 10.0, "on the slope"),
            ("night", 3.0, 9.0, "on the slope")),
    *_lines(ANY, "late ice", ("day", 3.0, 9.0, "coming up towards inlets"), ("dusk", 2.0, 7.0, "towards inlets"),
            ("night", 2.0, 7.0, "shallow in the dark")),
)  # fmt: skip
# Which months people call by which name. Common practice, no source; it moves with the land and the year.
MONTHS: dict[int, Season] = {10: "first ice", 11: "first ice", 12: "first ice", 1: "midwinter", 2: "midwinter",
                             3: "late ice", 4: "late ice", 5: "late ice"}  # fmt: skip
LEAST_LOGGED = 4  # strikes before a log overrules the table


@dataclass(frozen=True)
class Proposed:
    """A band to start in, where it comes from, and the sentence that says so."""

    band: Band
    by: Literal["table", "log", "autumn", "own"]
    why: Sentence


def starting_band(
    species: str, season: Season, light: Light, logged_m: Sequence[float] = (), table: Sequence[Starting] = TABLE
) -> Proposed:
    """Where to start for a species: by its line of the table, or the line for any; by the log where it holds enough.

    `logged_m` are depths [m] of strikes of that species in that season. Raises ValueError where the table has no line.
    """
    if len(logged_m) >= LEAST_LOGGED:
        depths = within("logged_m", logged_m, 0.0, DEEPEST_M, "m")
        low, high = (float(one) for one in np.quantile(depths, [0.1, 0.9]))
        room = max(0.5, 0.1 * (high - low))
        band = Band(max(low - room, 0.0), min(high + room, DEEPEST_M))
        said = "By your own log: {count} strikes in that season, most of them between {low} and {high}."
        values = {"count": Quantity(len(logged_m), "count"), "low": Quantity(low, "m"), "high": Quantity(high, "m")}
        return Proposed(band, "log", Sentence(said, values))
    for called in (species, ANY):
        for line in table:
            if (line.species, line.season, line.light) == (called, season, light):
                said = f"Common practice, no more: {line.why}, between {{low}} and {{high}}."
                values = {"low": Quantity(line.from_m, "m"), "high": Quantity(line.to_m, "m")}
                return Proposed(Band(line.from_m, line.to_m), "table", Sentence(said, values))
    raise InputError(f"species is {species!r}: the table has no line for it in {season} by {light}, nor one for any")


@dataclass(frozen=True)
class Asked:
    """For whom a band is asked, when, and in what light; and one's own band [m] for the day, if any."""

    species: str
    season: Season
    light: Light
    own_m: tuple[float, ...] = ()


def proposals(
    asked: Asked, logged_m: Sequence[float] = (), autumn_m: Sequence[float] = (), table: Sequence[Starting] = TABLE
) -> list[Proposed]:
    """The band to start in, then others that could be: one's own, by the log, by the table, carried over from autumn.

    `logged_m` are depths [m] of strikes of that species in that season, `autumn_m` those at which fish were left in
    autumn, which count at first ice. Raises ValueError as `starting_band`.
    """
    found: list[Proposed] = []
    if asked.own_m:
        band = Band(*asked.own_m)
        values = {"low": Quantity(band.from_m, "m"), "high": Quantity(band.to_m, "m")}
        found.append(Proposed(band, "own", Sentence("Set by hand for this day: {low} to {high}.", values)))
    for depths in (logged_m, ()):
        one = starting_band(asked.species, asked.season, asked.light, depths, table)
        if one.by not in [other.by for other in found]:
            found.append(one)
    autumn = by_autumn(autumn_m) if asked.season == "first ice" else None
    return found if autumn is None else [*found, autumn]


def season_of(date: str) -> Season | None:
    """The season of a day or time (ISO 8601); None for one in summer, or what is no date."""
    try:
        return MONTHS.get(int(date[5:7]))
    except ValueError:
        return None


def by_autumn(depths_m: Sequence[float]) -> Proposed | None:
    """A band about the depths [m] at which fish were left in autumn; None where no such place is known."""
    if not len(depths_m):
        return None
    depths = within("depths_m", depths_m, 0.0, DEEPEST_M, "m")
    low, high = float(depths.min()), float(depths.max())
    room = max(1.0, 0.15 * high)
    said = "Carried over from autumn: {count} places where you left fish, {low} to {high} deep."
    if depths.size == 1:
        said = "Carried over from autumn: one place where you left fish, {low} deep."
    values = {"count": Quantity(int(depths.size), "count"), "low": Quantity(low, "m"), "high": Quantity(high, "m")}
    return Proposed(Band(max(low - room, 0.0), min(high + room, DEEPEST_M)), "autumn", Sentence(said, values))


def changed(table: Sequence[Starting], line: Starting) -> tuple[Starting, ...]:
    """The table with a line put in place of the one for the same species, season and light, or added."""
    same = [(one.species, one.season, one.light) == (line.species, line.season, line.light) for one in table]
    if not any(same):
        return (*table, line)
    return tuple(replace(line) if is_same else one for one, is_same in zip(table, same, strict=True))
