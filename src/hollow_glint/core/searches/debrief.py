"""The debrief of a search: what each mark was, which schools the pictures showed and when, and how another did it.

A mark is held against the truth in the picture, where it was made: bearing and way through the water. The eye of
`searches.eye` goes through the same pictures again, and `searches.fan_eye` through a fan's, so that what is
called missed could have been seen.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..checks import Floats
from ..search.patch import Patch, StandingKind
from ..wording import Quantity, Sentence
from .eye import Eye
from .fan_eye import told_in_fan
from .scenes import LASTS_FOR_S, SCHOOLS, scene_of
from .searched import MarkedSchool, Searched, Watched, turns_of
from .searcher import search

SCHOOL_NAMES = "ABC"
HIT_M = 3.0  # so near a mark in the picture something has to be, to be what was marked
TRACK_S = 20.0
SHORT_S = 35.0  # three turns of a usual picture, and a little
AIMED_S, AIM_DEG = 2.0, 5.0  # an aim that was kept so long counts as one, and two so near as the same
WatchedShare = Callable[[float], None]
MarkedWhat = Literal["school", "hunters", "single fish", StandingKind, "nothing"]
ANOTHER_HOLE_S = 240.0  # to walk, to drill and to watch
OWN_SHARE = 0.5  # of the work is going through one's own pictures, the rest is the other's search


@dataclass(frozen=True)
class MarkTold:
    """A mark: when and at which hole (its number from 0), what it truly was and where that was then [m], and which
    school (its number from 0; None for none); `again` where that one had been marked before."""

    at_s: float
    hole: int
    what: MarkedWhat
    east_m: float
    north_m: float
    school: int | None
    again: bool


@dataclass(frozen=True)
class SchoolTold:
    """A school: who swam there and how deep [m], its way (every TRACK_S: east, north [m]), when it was marked, and when
    and at which hole the eye told it in the same pictures; None for never."""

    species: str
    count: int
    depth_m: float
    way: tuple[tuple[float, float], ...]
    marked_s: float | None
    told_s: float | None
    told_hole: int | None


@dataclass(frozen=True)
class HoleTold:
    """A hole [m]: how far the picture all round reached at last [m], 0 where none was looked at; where a fan was aimed
    (degrees from north, reach [m], each aim once); when one came and left [s], how long was watched, and how many
    schools were first marked there."""

    east_m: float
    north_m: float
    range_m: float
    aims: tuple[tuple[float, float], ...]
    from_s: float
    until_s: float
    watched_s: float
    found: int


@dataclass(frozen=True)
class SearchTold:
    """How a search went: how many schools it found, how many marks were none, its holes, way and hours."""

    found: int
    wrong: int
    holes: tuple[HoleTold, ...]
    walked_m: float
    watched_s: float
    done_s: float


@dataclass(frozen=True)
class SearchDebrief:
    """What is to be said of a search, and how the searcher did the same water."""

    own: SearchTold
    other: SearchTold
    marks: tuple[MarkTold, ...]
    schools: tuple[SchoolTold, ...]
    said: tuple[Sentence, ...]


def debrief(searched: Searched, tell: WatchedShare = lambda _: None) -> SearchDebrief:
    """Judge a search. Goes through all its pictures, which takes some seconds; `tell` hears how far it is, 0 to 1."""
    water = searched.water()
    marks = judged(searched, water)
    first = first_told(searched, water, lambda share: tell(OWN_SHARE * share))
    schools = tuple(
        SchoolTold(
            group.species, group.length_m.size, group.depth_m,
            tuple((float(e), float(n)) for e, n in group.centre(np.arange(0.0, LASTS_FOR_S + 1.0, TRACK_S)).round(1)),
            next((one.at_s for one in marks if one.school == k), None), *first.get(k, (None, None)),
        )
        for k, group in enumerate(water.groups[:SCHOOLS])
    )  # fmt: skip
    way = search(scene_of(searched.scene), searched.seed, lambda share: tell(OWN_SHARE + (1.0 - OWN_SHARE) * share))
    own, other = told(searched, marks), told(way.searched, judged(way.searched, water))
    return SearchDebrief(own, other, marks, schools, tuple(_said(searched, own, other, marks, schools)))


def judged(searched: Searched, water: Patch) -> tuple[MarkTold, ...]:
    """What each mark truly was, in order of time."""
    out: list[MarkTold] = []
    for mark in sorted(searched.marks, key=lambda one: one.at_s):
        k = searched.watch_at(mark.at_s)
        if k is None:  # a Searched holds none such
            continue
        watch = searched.watches[k]
        what, school, place = _what(water, watch, mark)
        again = school is not None and any(one.school == school for one in out)
        out.append(MarkTold(mark.at_s, _hole_of(searched, watch), what, *place, school, again))
    return tuple(out)


def told(searched: Searched, marks: tuple[MarkTold, ...]) -> SearchTold:
    """A search in numbers."""
    fresh = [one for one in marks if one.school is not None and not one.again]
    holes = tuple(
        HoleTold(
            *hole[0].place, next((one.hangs[-1].hang.range_m for one in reversed(hole) if one.hangs), 0.0),
            _aims(hole), hole[0].from_s, hole[-1].until_s, sum(one.until_s - one.from_s for one in hole),
            sum(one.hole == k for one in fresh),
        )
        for k, hole in enumerate(searched.holes)
    )  # fmt: skip
    wrong = sum(one.school is None for one in marks)
    return SearchTold(
        len(fresh), wrong, holes, searched.walked_m, searched.watched_s, max(one.until_s for one in searched.watches)
    )


def _aims(hole: list[Watched]) -> tuple[tuple[float, float], ...]:
    """Where a fan was aimed at a hole for long enough to see something, each way once."""
    out: dict[float, float] = {}
    for watch in hole:
        until = [*(one.at_s for one in watch.aims[1:]), watch.until_s]
        for aim, gone in zip(watch.aims, until, strict=False):
            if aim.hang.mounting == "ahead" and gone - aim.at_s >= AIMED_S:
                at = round(aim.hang.looks_deg / AIM_DEG) * AIM_DEG % 360.0
                out[at] = max(out.get(at, 0.0), aim.settings.ahead_m)
    return tuple(sorted(out.items()))


def first_told(searched: Searched, water: Patch, tell: WatchedShare = lambda _: None) -> dict[int, tuple[float, int]]:
    """When the eye told each school in these very pictures first [s], and at which hole; schools by their number."""
    out: dict[int, tuple[float, int]] = {}
    for watch in searched.watches:
        if watch.head == "fan":
            for k, at_s in told_in_fan(water, watch, searched.seed, tell).items():
                out.setdefault(k, (at_s, _hole_of(searched, watch)))
            continue
        eye = Eye(watch.place)
        for look in turns_of(water, watch, searched.seed):
            tell(look.time_s / LASTS_FOR_S)
            for one in eye.see(look):
                _, school, _ = _what(water, watch, one.mark)
                if school is not None:
                    out.setdefault(school, (one.at_s, _hole_of(searched, watch)))
    return out


def _hole_of(searched: Searched, watch: Watched) -> int:
    return next(k for k, hole in enumerate(searched.holes) if watch in hole)


def _what(water: Patch, watch: Watched, mark: MarkedSchool) -> tuple[MarkedWhat, int | None, tuple[float, float]]:
    """What a mark truly is, the school's number, and where along the ice [m]."""
    near = min(_things(water, watch, mark), default=None, key=lambda one: one[0])
    if near is None or near[0] > HIT_M:
        turn = np.radians(mark.bearing_deg)
        return "nothing", None, (
            watch.east_m + mark.range_m * float(np.sin(turn)), watch.north_m + mark.range_m * float(np.cos(turn))
        )  # fmt: skip
    return near[1], near[2], near[3]


def _things(
    water: Patch, watch: Watched, mark: MarkedSchool
) -> Iterator[tuple[float, MarkedWhat, int | None, tuple[float, float]]]:
    """How far each thing is from a mark in the picture [m], what it is, its number if a school, and where it is."""
    on_picture = _in_fan(watch, mark) if watch.head == "fan" else _on_circle(watch, mark)

    def away(place: Floats) -> float:
        """From the mark to the nearest of some places (n, 3) [m], all as the picture shows them."""
        east, north = place[:, 0] - watch.east_m, place[:, 1] - watch.north_m
        return float(on_picture(east, north, place[:, 2]).min())

    names: dict[str, MarkedWhat] = {"school": "school", "hunters": "hunters", "single": "single fish"}
    for k, group in enumerate(water.groups):
        fish = group.places(np.array([mark.at_s]))[0]
        place = (float(fish[:, 0].mean()), float(fish[:, 1].mean()))
        yield away(fish), names[group.kind], k if group.kind == "school" else None, place
    for one in water.standing:
        depth = float(water.depth_at(np.array([one.east_m]), np.array([one.north_m]))[0])
        # Where fish and thing are both in reach the fish is meant: a thing counts from its rim.
        top = np.array([[one.east_m, one.north_m, depth - one.height_m / 2.0]])
        yield max(away(top) - one.reach_m, 0.5), one.kind, None, (one.east_m, one.north_m)


def _on_circle(watch: Watched, mark: MarkedSchool) -> Callable[[Floats, Floats, Floats], Floats]:
    """How far places from the hole, east, north and deep [m], are from a mark in a picture all round [m]."""
    hang = watch.hung(mark.at_s)
    turn = np.radians(mark.bearing_deg + hang.off_deg)
    marked = mark.range_m * np.array([np.sin(turn), np.cos(turn)])

    def away(east: Floats, north: Floats, deep: Floats) -> Floats:
        along = np.maximum(np.hypot(east, north), 1e-3)
        stretch = np.hypot(along, deep - hang.depth_m) / along
        return np.asarray(np.hypot(east * stretch - marked[0], north * stretch - marked[1]))

    return away


def _in_fan(watch: Watched, mark: MarkedSchool) -> Callable[[Floats, Floats, Floats], Floats]:
    """The same in a fan's picture, which tells the way through the water, but not where in its thickness a thing is."""
    hang = watch.aimed(mark.at_s).hang
    turn = np.radians(mark.bearing_deg + hang.off_deg)
    half = np.radians(watch.fan.thickness_deg) / 2.0

    def away(east: Floats, north: Floats, deep: Floats) -> Floats:
        ahead, right = east * np.sin(turn) + north * np.cos(turn), east * np.cos(turn) - north * np.sin(turn)
        through = np.hypot(np.hypot(east, north), deep - hang.depth_m)
        aside = np.maximum(np.abs(right) - through * np.sin(half), 0.0)
        # What is behind the head is not what was touched ahead of it.
        return np.asarray(np.hypot(np.hypot(through - mark.range_m, aside), np.maximum(-ahead, 0.0)))

    return away


def _said(
    searched: Searched,
    own: SearchTold,
    other: SearchTold,
    marks: tuple[MarkTold, ...],
    schools: tuple[SchoolTold, ...],
) -> Iterator[Sentence]:
    """What to say, the weightiest first."""
    heads = scene_of(searched.scene).heads
    for name, one in zip(SCHOOL_NAMES, schools, strict=True):
        if one.marked_s is not None or one.told_s is None or one.told_hole is None:
            continue
        yield Sentence(
            f"School {name} was in your pictures at hole {{hole}} and could be told at {{at}}: you did not mark it.",
            {"hole": _count(one.told_hole + 1), "at": Quantity(one.told_s, "m:ss")},
        )
    for mark in marks:
        if mark.school is not None:
            continue
        yield Sentence(f"What you marked at {{at}} was {_WRONG[mark.what]}.", {"at": Quantity(mark.at_s, "m:ss")})
    if heads == ("circle", "fan"):
        yield from _said_of_both(searched, own)
    unseen = [one for one in schools if one.marked_s is None and one.told_s is None]
    if unseen:
        yield Sentence(
            "{count} schools never stood clear in your pictures: look from more places."
            if len(unseen) > 1
            else "One school never stood clear in your pictures: look from more places.",
            {"count": _count(len(unseen))},
        )
    if own.found < SCHOOLS and LASTS_FOR_S - own.done_s >= ANOTHER_HOLE_S:
        yield Sentence(
            "You stopped with {left} left: time for another hole.", {"left": Quantity(LASTS_FOR_S - own.done_s, "m:ss")}
        )
    for number, hole in enumerate(own.holes, 1):
        if hole.watched_s < SHORT_S:
            yield Sentence(
                "You left hole {number} after {watched}: three turns are the least in which a school shows itself."
                if heads == ("circle",)
                else "You left hole {number} after {watched}: that is too short to see what swims and what stands.",
                {"number": _count(number), "watched": Quantity(hole.watched_s, "m:ss")},
            )
    if own.found == SCHOOLS and own.wrong == 0 and len(own.holes) <= len(other.holes):
        yield Sentence("All three, with no hole more than a practised searcher.", {})


def _said_of_both(searched: Searched, own: SearchTold) -> Iterator[Sentence]:
    """What to say of the order of the heads, where one has both."""
    for number, hole in enumerate(searched.holes, 1):
        used = [one.head for one in hole]
        if "fan" in used and "circle" not in used[: used.index("fan")]:
            yield Sentence(
                "At hole {number} you aimed the fan without a look all round: the circle says in three turns where to.",
                {"number": _count(number)},
            )
        elif "fan" not in used and own.found < SCHOOLS:
            yield Sentence(
                "At hole {number} the fan never looked: what the circle shows is marked once the fan has it.",
                {"number": _count(number)},
            )


_WRONG: dict[str, str] = {
    "nothing": "only the bed: what is one mark for one turn is nothing yet",
    "hunters": "hunters: two to four larger marks, apart",
    "single fish": "a single fish: one mark",
    "timber": "timber: it stays where it is",
    "brush": "brush: many marks, but they stay where they are",
    "boulder": "a boulder: it stays where it is, and is dark behind",
    "rock pile": "a rock pile: it stays where it is",
    "crib": "a crib: it stays where it is, and is dark behind",
    "weed edge": "weeds: they flicker, but get nowhere",
}


def _count(number: int) -> Quantity:
    return Quantity(float(number), "count")
