"""What the whole log teaches: rates by factor, shares, and how high fish came."""

from __future__ import annotations

from collections import Counter
from functools import partial
from typing import Any

from ...core.log.effort import Table, table_of
from ...core.log.patterns import Patterns, patterns_of, says
from ...core.log.posterior import counted
from ...core.log.rise import SeenAt, rise_by_pressure
from ...core.log.sayings import sayings
from ...core.log.season import (
    DEPTHS,
    FACTORS,
    HEIGHTS,
    HOURS,
    SIZES,
    Of,
    Piece,
    answered,
    class_of,
    efforts,
    heights,
    of_species,
)
from ...core.log.shares import shares
from ...store import season
from ...store.season import kept
from ..blueprint import StepBlueprint
from ..contract import answers, plain
from ..database import database
from .contract import HeightsOut, SeasonOut, SeasonQuery, SharesOut, SharesQuery

api = StepBlueprint("season", __name__, "Log")
STAGES: tuple[tuple[Of, Of], ...] = (("looks", "bites"), ("bites", "fish"))


def season_pieces(species: str | None) -> list[Piece]:
    """The pieces of all stays, with the fish of one species or of all."""
    every = season.pieces(database())
    return every if species is None else kept(database(), ("pieces", species), lambda: of_species(every, species))


def _counting(of: Of, species: str | None) -> Table:
    """The log's efforts as columns, counting looks, bites or fish."""
    pieces = season_pieces(species)
    table = kept(database(), ("table", species), lambda: table_of(efforts(pieces, "looks")))
    return table.counting([one.count(of) for one in pieces if one.rod_hours > 0.0])


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
    if not any(one.rod_hours for one in pieces):
        nothing: dict[str, Any] = {"factors": [], "tangled": [], "says": []}
        return plain({"of": query.of, "outings": 0, "rod_hours": 0.0, "count": 0, "overall": None, "holes_differ": 0.0,
                      **nothing}, SeasonOut)  # fmt: skip
    of: Of = query.of  # type: ignore[assignment]
    found = kept(
        database(),
        ("patterns", of, query.species, query.level),
        lambda: patterns_of(_counting(of, query.species), query.level),
    )
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
        key = ("shares", of, then, query.factor, query.species, query.level)
        found = kept(database(), key, partial(shares, seen, query.level))
        levels = [
            {"level": name, **vars(one), "says": says(one.better if len(found.levels) > 1 else 0.5, False)}
            for name, one in found.levels.items()
        ]
        out.append({"of": of, "then": then, "overall": found.overall, "levels": levels})
    return plain({"shares": out}, SharesOut)


@api.get("/log/heights", responses=answers(200, HeightsOut, 422))
def get_heights(query: SharesQuery) -> dict[str, Any]:
    """Every bite and fish at its height off the bottom, how often at which height, and whether pressure decides it."""
    pieces = season_pieces(query.species)
    hours = sum(piece.rod_hours for piece in pieces)
    seen = list(heights(pieces))
    hours_from = [None if one.from_sunset_min is None else round(one.from_sunset_min / 60.0, 3) for _, one in seen]
    columns = {
        name: [getattr(one, name) for _, one in seen] for name in ("at", "kind", "species", "depth_m", "height_m")
    }
    counts = Counter(class_of(float(one.height_m or 0.0), HEIGHTS) for _, one in seen)
    rise = kept(
        database(),
        ("rise", query.species, query.level),
        lambda: rise_by_pressure(
            (SeenAt(piece.day, piece.hole, piece.factors.get("pressure"), float(one.height_m or 0.0))
             for piece, one in seen), query.level
        ),
    )  # fmt: skip
    return plain(
        {
            "heights": {**columns, "hours_from_sunset": hours_from},
            "classes": [
                {"height": name, "count": counts[name], "rate": counted(counts[name], hours, query.level)}
                for _, name in HEIGHTS
                if hours > 0.0
            ],
            "trends": rise.trends,
            "verdict": rise.verdict,
            "says": rise.says,
        },
        HeightsOut,
    )
