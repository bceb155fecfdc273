"""What a fish can be about, how it can bite, and what it is that comes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, get_args

from ..fields import OneOf, Span, check_fields, doc
from ..hole.contents import DEEPEST_M, SPECIES
from .events import Bite, FishDid, FishMood

MOOD_NAMES: tuple[FishMood, ...] = get_args(FishMood)
PASSING, CURIOUS, FOLLOWING, MOUTHING, HOOKED, PUT_OFF = range(6)
BITES: tuple[Bite, ...] = get_args(Bite)
TAP, LOAD, SLACK, NIP = range(4)


@dataclass(frozen=True)
class Newcomer:
    """A fish on its way."""

    species: Annotated[str, OneOf(SPECIES)]
    length_m: Annotated[float, Span(0.02, 1.5, "m")]
    home_m: Annotated[float, Span(0.0, DEEPEST_M, "m"), doc("Its own depth")]
    away_m: Annotated[float, Span(0.1, 5.0, "m"), doc("Where it starts, from the hole")] = 3.5
    bearing_rad: Annotated[float, Span(-100.0, 100.0, "rad"), doc("In which direction that is")] = 0.0
    miss_m: Annotated[float, Span(-4.0, 4.0, "m"), doc("How far off the hole it would pass")] = 0.0
    stays_s: Annotated[
        float | None, Span(0.0, 1000.0, "s"), doc("How long it looks at most; null for its mood's own")
    ] = None
    comes: Annotated[bool | None, doc("Whether it ever comes to a lure; null for chance to say")] = None
    at_s: Annotated[float, Span(0.0, 600.0, "s"), doc("When it comes")] = 0.0
    speed_m_s: Annotated[float | None, Span(0.0, 5.0, "m/s"), doc("How fast it swims by; null for its kind's own")] = (
        None
    )

    def __post_init__(self) -> None:
        check_fields(self, "schedule")


@dataclass(frozen=True)
class FishAct:
    """What a fish did: a word, which fish, where [m], its length [m], and the number behind it, if there is one."""

    kind: FishDid
    fish: int
    depth_m: float
    length_m: float
    number: float = 0.0
