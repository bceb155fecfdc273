"""Outings, stays and what happened: kept, mended, removed and brought back; and the stay that goes on at a hole."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from flask import Response

from ...core.fields import from_fields
from ...core.gear.settings import Settings
from ...core.log.outing import Happening, Outing, Stay
from ...core.log.season import OF, Piece, pieces_of
from ...store import lakes, outings, season, units
from ...store.outings import KeptHappening, KeptOuting, KeptStay, StayAt
from ...store.season import Gaps, KeptTold
from ..blueprint import StepBlueprint
from ..contract import BODY, HolePath, IfMatch, Removed, StaleProblem, answers, plain
from ..database import database, utc
from ..versions import versioned
from .contract import (
    ArriveFields,
    HappeningFields,
    HappeningOut,
    HappeningPath,
    HoleHappenings,
    OutingFields,
    OutingList,
    OutingOut,
    OutingPath,
    StayFields,
    StayHere,
    StayOut,
    StayPath,
)
from .noting import arrival, sun_then

api = StepBlueprint("outings", __name__, "Log")
AT = ("hole_id", "unit_id", "lure_id", "east_m", "north_m")


def tally(pieces: Sequence[Piece]) -> dict[str, Any]:
    """What pieces of stays come to."""
    return {"rod_hours": sum(one.rod_hours for one in pieces), **{of: sum(x.count(of) for x in pieces) for of in OF}}


def missing(outing: Outing, gaps: Gaps) -> list[str]:
    """What would teach more and nobody has noted: asked for once, never required."""
    asked = {
        "the pressure and where it was going": outing.pressure_trend is None,
        "the sky": outing.sky is None,
        "when you left a hole": gaps.not_ended > 0,
        "which lure was on": gaps.no_lure > 0,
        "which unit was used": gaps.no_unit > 0,
        "how long the fish were": gaps.no_length > 0,
        "kept or released": gaps.no_kept > 0,
    }
    return [words for words, is_missing in asked.items() if is_missing]


def _summary(kept: KeptOuting, told: Sequence[KeptTold]) -> dict[str, Any]:
    pieces = [piece for one in told for piece in pieces_of(one.told)]
    return {
        **vars(kept.outing), "id": kept.id, "version": kept.version, "lake_id": kept.lake_id, "stays": len(told),
        "tally": tally(pieces), "missing": missing(kept.outing, season.gaps(database())[kept.id]),
    }  # fmt: skip


def _stay(kept: KeptStay, told: KeptTold, happened: Sequence[KeptHappening]) -> dict[str, Any]:
    return {
        **vars(kept.stay), **vars(kept.at), "id": kept.id, "version": kept.version, "outing_id": kept.outing_id,
        "tally": tally(pieces_of(told.told)),
        "happened": [{**vars(one.happening), "id": one.id, "stay_id": one.stay_id} for one in happened],
    }  # fmt: skip


def _outing(outing_id: int) -> dict[str, Any]:
    kept = outings.get(database(), outing_id)
    told = season.told(database(), [outing_id])
    happened: dict[int, list[KeptHappening]] = defaultdict(list)
    for one in outings.happenings(database(), outing_id):
        happened[one.stay_id].append(one)
    return {
        **_summary(kept, told),
        "sunset_min": None if kept.sun is None else kept.sun.sunset_min,
        "at_holes": [_stay(one.stay, one, happened[one.stay.id]) for one in told],
    }


def _one_stay(stay_id: int) -> dict[str, Any]:
    kept = outings.get_stay(database(), stay_id)
    return next(one for one in _outing(kept.outing_id)["at_holes"] if one["id"] == stay_id)


@api.get("/outings", responses=answers(200, OutingList))
def list_outings() -> dict[str, Any]:
    """All outings, newest first, with what each comes to."""
    of: dict[str, list[Piece]] = defaultdict(list)
    for one in season.pieces(database()):
        of[one.day].append(one)
    gaps = season.gaps(database())
    every = [
        {
            **vars(kept.outing), "id": kept.id, "version": kept.version, "lake_id": kept.lake_id,
            "stays": gaps[kept.id].stays, "tally": tally(of[f"{kept.id}"]),
            "missing": missing(kept.outing, gaps[kept.id]),
        }
        for kept in outings.every(database())
    ]  # fmt: skip
    return {"outings": every}


@api.post("/outings", responses=answers(201, OutingOut, 404, *BODY))
def add_outing(body: OutingFields) -> Response:
    """Write an outing down."""
    outing, lake_id, sun = _read_outing(body)
    return versioned(_outing(outings.add(database(), outing, lake_id, sun).id), OutingOut, 201)


@api.get("/outings/<int:outing_id>", responses=answers(200, OutingOut, 404))
def get_outing(path: OutingPath) -> Response:
    """One outing with its stays and all that happened; its ETag is its version."""
    return versioned(_outing(path.outing_id), OutingOut)


@api.put("/outings/<int:outing_id>", responses=answers(200, OutingOut, 404, *BODY) | {412: StaleProblem})
def change_outing(path: OutingPath, header: IfMatch, body: OutingFields) -> Response:
    """Mend an outing: all its fields, if it is still at the version given."""
    outing, lake_id, sun = _read_outing(body)
    outings.change(database(), KeptOuting(path.outing_id, header.version, lake_id, sun, outing))
    return versioned(_outing(path.outing_id), OutingOut)


@api.delete("/outings/<int:outing_id>", responses=answers(200, Removed, 404))
def remove_outing(path: OutingPath) -> dict[str, Any]:
    """Remove an outing with all that happened on it."""
    return {"removal": outings.remove(database(), path.outing_id)}


@api.post("/outings/<int:outing_id>/stays", responses=answers(201, StayOut, 404, *BODY))
def add_stay(path: OutingPath, body: StayFields) -> Response:
    """Write down a stay at a hole."""
    stay, at = _read_stay(body)
    return versioned(_one_stay(outings.add_stay(database(), path.outing_id, stay, at).id), StayOut, 201)


@api.put("/stays/<int:stay_id>", responses=answers(200, StayOut, 404, *BODY) | {412: StaleProblem})
def change_stay(path: StayPath, header: IfMatch, body: StayFields) -> Response:
    """Mend a stay: all its fields, if it is still at the version given."""
    stay, at = _read_stay(body)
    now = outings.get_stay(database(), path.stay_id)
    outings.change_stay(database(), KeptStay(path.stay_id, header.version, now.outing_id, at, stay))
    return versioned(_one_stay(path.stay_id), StayOut)


@api.delete("/stays/<int:stay_id>", responses=answers(200, Removed, 404))
def remove_stay(path: StayPath) -> dict[str, Any]:
    """Remove a stay with what happened during it."""
    return {"removal": outings.remove_stay(database(), path.stay_id)}


@api.post("/stays/<int:stay_id>/happenings", responses=answers(201, HappeningOut, 404, *BODY))
def add_happening(path: StayPath, body: HappeningFields) -> tuple[dict[str, Any], int]:
    """Write down what happened during a stay."""
    happening = from_fields(Happening, body.model_dump(), "the note")
    return _happening(outings.add_happening(database(), path.stay_id, happening)), 201


@api.put("/happenings/<int:happening_id>", responses=answers(200, HappeningOut, 404, *BODY))
def change_happening(path: HappeningPath, body: HappeningFields) -> dict[str, Any]:
    """Mend what was written down."""
    happening = from_fields(Happening, body.model_dump(), "the note")
    return _happening(outings.change_happening(database(), path.happening_id, happening))


@api.delete("/happenings/<int:happening_id>", responses=answers(200, Removed, 404))
def remove_happening(path: HappeningPath) -> dict[str, Any]:
    """Remove what was written down."""
    return {"removal": outings.remove_happening(database(), path.happening_id)}


@api.get("/holes/<int:hole_id>/happenings", responses=answers(200, HoleHappenings, 404))
def list_happenings(path: HolePath) -> dict[str, Any]:
    """All that happened at a hole, newest first."""
    found = outings.at_hole(database(), path.hole_id)
    told = [
        {**vars(kept.happening), "id": kept.id, "stay_id": kept.stay_id, "outing_id": outing_id}
        for outing_id, kept in found
    ]
    return plain({"happened": told}, HoleHappenings)


@api.get("/holes/<int:hole_id>/stay", responses=answers(200, StayHere, 404))
def get_stay_here(path: HolePath) -> dict[str, Any]:
    """The stay that goes on at a hole."""
    return _here(season.stay_now(database(), path.hole_id, utc()))


@api.post("/holes/<int:hole_id>/stay", responses=answers(200, StayHere, 404, *BODY))
def arrive_at_hole(path: HolePath, body: ArriveFields) -> dict[str, Any]:
    """Lines in: a stay begins, or the one that goes on has so many lines, and the unit so much gain, from now on."""
    stay = season.arrive(database(), path.hole_id, arrival(path.hole_id, utc()))
    mended = replace(stay.stay, lines=body.lines, settings=_turned(stay, body.gain_steps))
    if stay.stay != mended:
        stay = outings.change_stay(database(), replace(stay, stay=mended))
    return _here(stay)


@api.post("/holes/<int:hole_id>/stay/end", responses=answers(200, StayHere, 404))
def leave_hole(path: HolePath) -> dict[str, Any]:
    """Lines out: the stay that goes on at a hole ends."""
    return _here(season.leave(database(), path.hole_id, utc()))


def _turned(kept: KeptStay, steps: int) -> Settings | None:
    """A stay's settings with the gain so many of its unit's steps up; as they are where nobody knows the unit."""
    settings, unit_id = kept.stay.settings, kept.at.unit_id
    if settings is None or unit_id is None or steps == 0:
        return settings
    scale = units.get(database(), unit_id).profile.gain
    return replace(settings, gain=scale.nearest(settings.gain + steps * scale.step))


def _here(stay: KeptStay | None) -> dict[str, Any]:
    return plain({"stay": None if stay is None else _one_stay(stay.id)}, StayHere)


def _happening(kept: KeptHappening) -> dict[str, Any]:
    return plain({**vars(kept.happening), "id": kept.id, "stay_id": kept.stay_id}, HappeningOut)


def _read_outing(body: OutingFields) -> tuple[Outing, int | None, Any]:
    told = body.model_dump()
    lake_id = told.pop("lake_id")
    outing = from_fields(Outing, told, "the outing")
    lake = None if lake_id is None else lakes.get(database(), lake_id).lake
    return outing, lake_id, sun_then(lake, outing.began_at, outing.utc_offset_min)


def _read_stay(body: StayFields) -> tuple[Stay, StayAt]:
    told = body.model_dump()
    at = StayAt(**{name: told.pop(name) for name in AT})
    stay = from_fields(Stay, told, "the stay")
    return stay, at
