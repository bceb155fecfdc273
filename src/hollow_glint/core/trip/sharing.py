"""Sharing places: what a friend is given of a lake, with its positions as they are, rounded, or not at all, and what is
left out said.

Rounded, a place stands in the middle of the square that it lies in, of a grid over the whole earth that has nothing to
do with the lake: nobody who sees many of them can work the places back out. The ground is then left out, for the
pattern of soundings would tell where they are.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Annotated, Literal

import numpy as np

from ..checks import one_of
from ..fields import Len, OneOf, Span, Text, check_fields, doc
from ..ground.lake import Lake
from ..ground.soundings import THIN_ICE, Sounding, Structure, StructureKind
from ..hole.hole import Hole
from ..wording import Quantity, Sentence

Positions = Literal["as they are", "rounded", "hidden"]
POSITIONS: tuple[Positions, ...] = ("as they are", "rounded", "hidden")
ROUND_TO_M = (100.0, 500.0, 2000.0)
DEGREE_M = 111_195.0  # of latitude, on a sphere of 6371 km; WGS 84 differs by half a percent
MOST_HOLES, MOST_THINGS, MOST_SOUNDINGS = 5_000, 5_000, 100_000
Latitude = Annotated[float | None, Span(-85.0, 85.0, "degrees"), doc("Null where it is hidden")]
Longitude = Annotated[float | None, Span(-180.0, 180.0, "degrees"), doc("Null where it is hidden")]


@dataclass(frozen=True)
class SharedHole:
    """A hole with its place."""

    hole: Hole
    latitude: Latitude = None
    longitude: Longitude = None

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class SharedThing:
    """Something on the bed or in the ice, with its place."""

    kind: StructureKind
    note: Annotated[str, Text(0, 200)] = ""
    latitude: Latitude = None
    longitude: Longitude = None

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class SharedDepth:
    """A sounding [m] with its place; `bottom` empty where nobody knows it."""

    depth_m: Annotated[float, Span(0.0, 500.0, "m")]
    latitude: Annotated[float, Span(-85.0, 85.0, "degrees")]
    longitude: Annotated[float, Span(-180.0, 180.0, "degrees")]

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Shared:
    """What is given of a lake. `within_m` is how far a place may lie from where it says (0 where positions are as they
    are or hidden)."""

    lake: Annotated[str, Text(1, 80)]
    positions: Annotated[str, OneOf(POSITIONS)]
    latitude: Latitude = None
    longitude: Longitude = None
    within_m: Annotated[float, Span(0.0, 10_000.0, "m")] = 0.0
    holes: Annotated[tuple[SharedHole, ...], Len(0, MOST_HOLES)] = ()
    structures: Annotated[tuple[SharedThing, ...], Len(0, MOST_THINGS)] = ()
    soundings: Annotated[tuple[SharedDepth, ...], Len(0, MOST_SOUNDINGS)] = ()

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Wish:
    """What is to be given: positions how, rounded to squares of which side [m], and which parts."""

    positions: Positions = "as they are"
    round_to_m: float = 500.0
    holes: bool = True
    structures: bool = True
    ground: bool = True
    notes: bool = False

    def __post_init__(self) -> None:
        one_of("positions", self.positions, POSITIONS)
        one_of("round_to_m", f"{self.round_to_m:g}", tuple(f"{one:g}" for one in ROUND_TO_M))


@dataclass(frozen=True)
class Known:
    """What a lake has to be shared: its holes and structures with their places [m], and what was sounded."""

    lake: Lake
    holes: Sequence[tuple[Hole, float, float]] = field(default=())
    structures: Sequence[Structure] = field(default=())
    soundings: Sequence[Sounding] = field(default=())


def share(given: Known, wish: Wish) -> tuple[Shared, list[Sentence]]:
    """What a friend gets, and what is left out, in words.

    Raises ValueError where positions are asked for of a lake that nobody has placed on the earth.
    """
    left_out: list[Sentence] = []
    placed = _Places(given.lake, wish)
    holes = tuple(
        SharedHole(hole if wish.notes else replace(hole, note=""), *placed.degrees(east, north))
        for hole, east, north in (given.holes if wish.holes else ())
    )
    things = tuple(
        SharedThing(one.kind, one.note if wish.notes else "", *placed.degrees(one.east_m, one.north_m))
        for one in (given.structures if wish.structures and wish.positions != "hidden" else ())
    )
    depths: tuple[SharedDepth, ...] = ()
    if wish.ground and wish.positions == "as they are":
        depths = placed.depths(given.soundings)
    shared = Shared(given.lake.name, wish.positions, *placed.anchor, placed.within_m, holes, things, depths)
    left_out.append(Sentence("What was caught and noted there, when, and by whom is not in it."))
    if wish.positions == "hidden":
        left_out.append(Sentence("Positions are hidden: names, depths and bottoms of holes only."))
        if wish.structures and given.structures:
            text = "{count} structures are left out: without a place they say nothing."
            left_out.append(Sentence(text, {"count": Quantity(len(given.structures), "count")}))
    if wish.positions == "rounded":
        text = "Positions are rounded: each place lies within {within} of where it says."
        if any(one.kind in THIN_ICE for one in things):
            text += " So do springs, inlets and ridges: nobody may take them for where thin ice is."
        left_out.append(Sentence(text, {"within": Quantity(placed.within_m, "m")}))
    if wish.ground and given.soundings and not depths:
        text = "{count} soundings are left out: their pattern would tell where they are."
        left_out.append(Sentence(text, {"count": Quantity(len(given.soundings), "count")}))
    noted = [hole.note for hole, *_ in given.holes if wish.holes] + [
        x.note for x in given.structures if wish.structures
    ]
    if not wish.notes and any(noted):
        left_out.append(Sentence("Your own notes on these places are left out."))
    return shared, left_out


def rounded(latitude: float, longitude: float, to_m: float) -> tuple[float, float]:
    """The middle of the square with sides of `to_m` [m] that a place in degrees lies in, of a grid over the earth."""
    step = to_m / DEGREE_M
    north = (np.floor(latitude / step) + 0.5) * step
    step /= float(np.cos(np.radians(north)))
    east = (np.floor(longitude / step) + 0.5) * step
    return round(float(np.clip(north, -85.0, 85.0)), 6), round(float(np.clip(east, -180.0, 180.0)), 6)


class _Places:
    """Places of a lake in degrees, as they are wished for."""

    def __init__(self, lake: Lake, wish: Wish) -> None:
        self._wish = wish
        self._plane = None if wish.positions == "hidden" else lake.plane
        # Half the diagonal, and what a sphere is off by.
        self.within_m = wish.round_to_m * 0.715 if wish.positions == "rounded" else 0.0
        self.anchor = self.degrees(0.0, 0.0)

    def degrees(self, east: float, north: float) -> tuple[float | None, float | None]:
        if self._plane is None:
            return None, None
        latitude, longitude = (float(one) for one in self._plane.to_degrees(east, north))
        if self._wish.positions == "rounded":
            return rounded(latitude, longitude, self._wish.round_to_m)
        return round(latitude, 7), round(longitude, 7)

    def depths(self, soundings: Sequence[Sounding]) -> tuple[SharedDepth, ...]:
        if self._plane is None or not soundings:
            return ()
        places = np.array([(one.east_m, one.north_m) for one in soundings])
        latitude, longitude = self._plane.to_degrees(places[:, 0], places[:, 1])
        return tuple(
            SharedDepth(one.depth_m, round(float(a), 7), round(float(b), 7))
            for one, a, b in zip(soundings, latitude, longitude, strict=True)
        )
