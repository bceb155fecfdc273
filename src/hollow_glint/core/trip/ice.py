"""Ice along a walk: what was measured where and when, and what the plan has to warn of. No thickness is promised safe.

Guidance is general public safety advice and stands in `card.ice_guidance`; local authorities go before it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Literal

import numpy as np

from ..card.ice_guidance import GUIDANCE, ICE_KINDS, counts_as
from ..fields import OneOf, Pattern, Span, check_fields
from ..ground.soundings import FAR_M, THIN_ICE, Structure
from ..lazily import Lazily
from ..wording import Quantity, Sentence
from .sun import day_of

if TYPE_CHECKING:
    import shapely
else:
    shapely = Lazily("shapely")

NEAR_M = 60.0  # how far what was measured tells of, and from a spring or inlet a walk keeps. Common practice, no source
OLD_DAYS = 2.0
ON_FOOT_M = GUIDANCE[0][2]


@dataclass(frozen=True)
class IceMeasured:
    """Ice at a place: thickness [m], of which kind, and how many days ago it was measured."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    thickness_m: Annotated[float, Span(0.0, 3.0, "m")]
    kind: Annotated[str, OneOf(ICE_KINDS)] = "layered"
    days_ago: Annotated[float, Span(0.0, 3650.0, "days")] = 0.0

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class IceReading:
    """Ice as it was measured at a place: thickness [m], of which kind, and on which day ("2026-12-05")."""

    east_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    north_m: Annotated[float, Span(-FAR_M, FAR_M, "m")]
    thickness_m: Annotated[float, Span(0.0, 3.0, "m")]
    kind: Annotated[str, OneOf(ICE_KINDS)]
    at: Annotated[str, Pattern(r"\d{4}-\d{2}-\d{2}", "a day as 2026-12-05")]

    def __post_init__(self) -> None:
        check_fields(self)
        day_of("at", self.at)

    def on(self, date: str) -> IceMeasured:
        """As it stands on another day; one that is measured later counts as of that day."""
        ago = (day_of("date", date) - day_of("at", self.at)).days
        return IceMeasured(self.east_m, self.north_m, self.thickness_m, self.kind, float(min(max(ago, 0), 3650)))


@dataclass(frozen=True)
class IceWarning:
    """What to beware of, at which place of the walk or on the way to it (from 0)."""

    kind: Literal["thin", "old", "unmeasured", "moving water"]
    at: int
    said: Sentence


def ice_warnings(
    walk: Sequence[Sequence[float]], measured: Sequence[IceMeasured], structures: Sequence[Structure] = ()
) -> list[IceWarning]:
    """What to beware of along a walk of places [m], the first where it begins; places are numbered from the second."""
    found: list[IceWarning] = []
    for k, (a, b) in enumerate(zip(walk[:-1], walk[1:], strict=True)):
        way = shapely.LineString([a, b]) if list(a) != list(b) else shapely.Point(a)
        found += _moving(k, way, structures)
        near = _near(b, measured)
        found += _at_place(k, near)
        for one in measured:
            off = way.distance(shapely.Point(one.east_m, one.north_m))
            if one not in near and off <= NEAR_M and _is_thin(one):
                found.append(IceWarning("thin", k, _thin(one, "On the way there")))
    return found


def ice_at(place: Sequence[float], measured: Sequence[IceMeasured]) -> tuple[IceMeasured | None, tuple[Sentence, ...]]:
    """Of the ice measured within NEAR_M of a place the one that counts for least, and what to beware of there."""
    near = _near(place, measured)
    least = min(near, key=lambda one: counts_as(one.thickness_m, one.kind), default=None)
    return least, tuple(one.said for one in _at_place(0, near))


def _near(place: Sequence[float], measured: Sequence[IceMeasured]) -> list[IceMeasured]:
    return [one for one in measured if float(np.hypot(one.east_m - place[0], one.north_m - place[1])) <= NEAR_M]


def _is_thin(one: IceMeasured) -> bool:
    return counts_as(one.thickness_m, one.kind) < ON_FOOT_M


def _thin(one: IceMeasured, where: str) -> Sentence:
    counts = "" if one.kind == "clear" else ", which counts as {clear} of clear ice"
    beside = "below what public guidance names on foot ({least})"
    return Sentence(
        f"{where} {{ice}} of {one.kind} ice was measured{counts}: {beside}.",
        {
            "ice": Quantity(one.thickness_m, "m"),
            "clear": Quantity(counts_as(one.thickness_m, one.kind), "m"),
            "least": Quantity(ON_FOOT_M, "m"),
        },
    )


def _at_place(k: int, near: Sequence[IceMeasured]) -> list[IceWarning]:
    if not near:
        said = "No ice was measured within {near}. Measure on the way there and at it, and turn round if it gets thin."
        return [IceWarning("unmeasured", k, Sentence(said, {"near": Quantity(NEAR_M, "m")}))]
    found = [IceWarning("thin", k, _thin(one, "Here")) for one in near if _is_thin(one)][:1]
    newest = min(one.days_ago for one in near)
    if newest > OLD_DAYS:
        said = "The ice was last measured {days} days ago: thaw, snow and current change it in hours. Measure anew."
        found.append(IceWarning("old", k, Sentence(said, {"days": Quantity(newest, "count")})))
    return found


def _moving(k: int, way: shapely.Geometry, structures: Sequence[Structure]) -> list[IceWarning]:
    found = []
    for one in structures:
        if one.kind not in THIN_ICE:
            continue
        away = float(way.distance(shapely.Point(one.east_m, one.north_m)))
        if away < NEAR_M:
            said = (
                f"The way passes {{away}} from {_article(one.kind)}: ice there may be thin, cracked or open. Go round."
            )
            found.append(IceWarning("moving water", k, Sentence(said, {"away": Quantity(away, "m")})))
    return found


def _article(kind: str) -> str:
    return f"an {kind}" if kind[0] in "aeiou" else f"a {kind}"


CAUTIONS: tuple[str, ...] = (
    "No ice is safe ice, and no thickness is promised safe here. Measure as you go; local authorities decide.",
    "Current, springs, inlets, narrows, ridges, reeds and dark or snow-covered ice are thinner than the rest.",
    "Carry picks on a cord, a rope and a whistle; keep apart from one another while the ice is unknown.",
    "Cold: dry layers, food and drink, and go back before anyone shivers.",
    "A heater, stove or engine in a shelter makes carbon monoxide: a working alarm, open vents, no sleeping.",
    "Someone ashore knows where you are and when you are back, and whom to call.",
    "Seasons, limits, lines, holes, shelters and vehicles are ruled locally: ask before you go.",
)
