"""What the whole log teaches: rates by factor, shares, and how high fish came."""

from __future__ import annotations

from typing import Any

from scipy.special import gammaincinv

from ...core.log.outing import moment
from ...core.log.patterns import Patterns, patterns, says
from ...core.log.posterior import Spread
from ...core.log.rise import SeenAt, rise_by_pressure
from ...core.log.sayings import sayings
from ...core.log.season import (
    DEPTHS,
    FACTORS,
    HEIGHTS,
    HOURS,
    SIZES,
    WENT,
    Of,
    Piece,
    answered,
    class_of,
    efforts,
    from_sunset_min,
    heights,
    of_species,
)
from ...core.log.shares import shares
from ...store import season
from ..blueprint import StepBlueprint
from ..contract import answers, plain
from ..database import database
from .contract import HeightsOut, SeasonOut, SeasonQuery, SharesOut, SharesQuery

api = StepBlueprint("season", __name__, "Log")
STAGES: tuple[tuple[Of, Of], ...] = (("looks", "bites"), ("bites", "fish"))


def season_pieces(species: str | None) -> list[Piece]:
    """The pieces of all stays, with the fish of one species or of all."""
    return of_species(season.pieces(database()), species)


def in_order(factor: str, found: Patterns) -> list[str]:
    """A factor's levels: classes from small to large, the others by how much they rest on."""
    classes = {"depth": DEPTHS, "hour": HOURS, "size": SIZES}.get(factor)
    levels = found.factors[factor]
    if classes is not None:
        return [name for _, name in classes if name in levels]
    return sorted(levels, key=lambda name: -levels[name].rod_hours)


@api.get("/log/season", responses=answers(200, SeasonOut, 422))
def get_season(query: SeasonQuery) -> dict[str, Any]:
    """What the log says of looks, bites or fish: rates an hour by factor, and what is tangled."""
    pieces = season_pieces(query.species)
    counted = efforts(pieces, query.of)  # type: ignore[arg-type]
    if not any(one.rod_hours for one in counted):
        nothing: dict[str, Any] = {"factors": [], "tangled": [], "says": []}
        return plain({"of": query.of, "outings": 0, "rod_hours": 0.0, "count": 0, "overall": None, "holes_differ": 0.0,
                      **nothing}, SeasonOut)  # fmt: skip
    found = patterns(counted, query.level)
    return plain(
        {
            "of": query.of,
            "outings": len({one.day for one in pieces}),
            "rod_hours": found.rod_hours,
            "count": found.count,
            "overall": found.overall,
            "holes_differ": found.holes_differ,
            "factors": [
                {
                    "key": key,
                    "words": words,
                    "levels": [{"level": name, **vars(found.factors[key][name])} for name in in_order(key, found)],
                }
                for key, words in FACTORS.items()
                if key in found.factors
            ],
            "tangled": found.tangled,
            "says": sayings(found, query.of),
        },
        SeasonOut,
    )


@api.get("/log/shares", responses=answers(200, SharesOut, 422))
def get_shares(query: SharesQuery) -> dict[str, Any]:
    """Of the fish that looked how many bit, and of those that bit how many were landed; by a factor if one is named."""
    pieces = season_pieces(query.species)
    out: list[dict[str, Any]] = []
    for of, then in STAGES:
        seen = answered(pieces, of, then, query.factor)
        if not seen:
            out.append({"of": of, "then": then, "overall": None, "levels": []})
            continue
        found = shares(seen, query.level)
        levels = [
            {"level": name, **vars(one), "says": says(one.better if len(found.levels) > 1 else 0.5, False)}
            for name, one in found.levels.items()
        ]
        out.append({"of": of, "then": then, "overall": found.overall, "levels": levels})
    return plain({"shares": out}, SharesOut)


@api.get("/log/heights", responses=answers(200, HeightsOut, 422))
def get_heights(query: SharesQuery) -> dict[str, Any]:
    """Every bite and fish at its height off the bottom, how often at which height, and whether pressure decides it."""
    kept = season.told(database(), kinds=sorted(WENT["bites"]))
    told = [one.told for one in kept]
    number = {id(one.told): one.outing.id for one in kept}
    hours = sum(piece.rod_hours for piece in season.pieces(database()))
    seen = [
        (one, happened, height)
        for one, happened, height in heights(told)
        if query.species is None or happened.species in (query.species, None)
    ]
    points = [
        {
            "hours_from_sunset": _hours(from_sunset_min(one, moment("at", happened.at))),
            "height_m": height, "depth_m": happened.depth_m, "kind": happened.kind, "species": happened.species,
            "pressure": one.outing.pressure_trend, "at": happened.at, "outing_id": number[id(one)],
        }
        for one, happened, height in seen
    ]  # fmt: skip
    rise = rise_by_pressure(
        (SeenAt(one.day, one.hole, one.outing.pressure_trend, height) for one, _, height in seen), query.level
    )
    return plain(
        {
            "heights": points,
            "classes": [
                {"height": name, "count": count, "rate": _rate(count, hours, query.level)}
                for _, name in HEIGHTS
                if hours > 0.0
                for count in [sum(class_of(height, HEIGHTS) == name for *_, height in seen)]
            ],
            "trends": rise.trends,
            "verdict": rise.verdict,
            "says": rise.says,
        },
        HeightsOut,
    )


def _rate(count: int, hours: float, level: float) -> Spread:
    """A count in so many hours: the gamma that it leaves open, with the Jeffreys prior."""
    asked = (0.5 * (1.0 - level), 0.5, 0.5 * (1.0 + level))
    return Spread(*(float(gammaincinv(count + 0.5, one)) / hours for one in asked))


def _hours(minutes: float | None) -> float | None:
    return None if minutes is None else minutes / 60.0
