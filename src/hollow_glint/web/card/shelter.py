"""The shelter over a hole: its party, and the plan by which no unit blinds another."""

from __future__ import annotations

from typing import Any

from ...core.checks import InputError
from ...core.gear.lures import USUAL_JIG
from ...core.gear.settings import Settings
from ...core.shelter.party import Party, Seat, ShelterHole
from ...core.shelter.plan import CAUTIONS, shelter_plan
from ...store import holes, lures, parties, units
from ...store.database import NotFound
from ..blueprint import StepBlueprint
from ..contract import BODY, HolePath, answers, plain
from ..database import database
from .here import known_at, wanted_at
from .shelter_contract import PartyFields, PartyOut, ShelterPlanOut

api = StepBlueprint("shelter", __name__, "Shelter")

# Two rows with an arm's length between the lines, and a way between them: a shelter for four. Common practice.
FIRST_HOLES = ((-0.7, 0.8), (0.7, 0.8), (-0.7, -0.8), (0.7, -0.8))


def _party(hole_id: int, body: PartyFields) -> Party:
    seats = []
    for one in body.seats:
        told = one.model_dump()
        unit = units.get(database(), told.pop("unit_id")).profile
        lure_id, now = told.pop("lure_id"), told.pop("now")
        lure = USUAL_JIG if lure_id is None else lures.get(database(), lure_id).lure
        settings = None if now is None else Settings(**now).checked(unit)
        seats.append(Seat(unit=unit, lure=lure, now=settings, **told))
    places = tuple(ShelterHole(**one.model_dump()) for one in body.holes)
    return Party(known_at(hole_id), places, tuple(seats))


def _first(hole_id: int) -> dict[str, Any]:
    """A party to begin with: whoever is at this hole, with one's own unit and lure."""
    wanted = wanted_at(hole_id)
    mine = wanted.unit_id or next((one.id for one in units.every(database())), None)
    if mine is None:
        raise InputError("unit_id is missing: a seat needs a unit, and there is none yet; add one under Gear")
    return {
        "holes": [{"x_m": x, "y_m": y} for x, y in FIRST_HOLES],
        "seats": [{"name": "Seat 1", "unit_id": mine, "lure_id": wanted.lure_id, "hole": 0}],
    }


def _with_gear_there(told: dict[str, Any]) -> tuple[dict[str, Any], list[str]]:
    """A kept party with other gear where its own was removed since, and who that is."""
    there = {one.id for one in units.every(database())}
    tied = {one.id for one in lures.every(database())}
    gone = []
    for seat in told["seats"]:
        if seat["unit_id"] not in there:
            if not there:
                raise NotFound("unit", seat["unit_id"])
            gone.append(seat["name"])
            seat["unit_id"], seat["now"] = min(there), None
        if seat.get("lure_id") is not None and seat["lure_id"] not in tied:
            gone.append(seat["name"])
            seat["lure_id"] = None
    return told, list(dict.fromkeys(gone))


@api.get("/holes/<int:hole_id>/party", responses=answers(200, PartyOut, 404, 422))
def get_party(path: HolePath) -> dict[str, Any]:
    """Who is in the shelter over a hole; one person with one's own unit where nobody was written down."""
    holes.get(database(), path.hole_id)
    kept = parties.find(database(), path.hole_id)
    told, gone = (_first(path.hole_id), []) if kept is None else _with_gear_there(kept)
    return plain({"party": told, "kept": kept is not None, "gone": gone}, PartyOut)


@api.put("/holes/<int:hole_id>/party", responses=answers(200, PartyOut, 404, *BODY))
def keep_party(path: HolePath, body: PartyFields) -> dict[str, Any]:
    """Write down who is in the shelter over a hole. What cannot be is not kept."""
    holes.get(database(), path.hole_id)
    _party(path.hole_id, body)
    parties.keep(database(), path.hole_id, body.model_dump(mode="json"))
    return plain({"party": body.model_dump(), "kept": True, "gone": []}, PartyOut)


@api.post("/holes/<int:hole_id>/party/plan", responses=answers(200, ShelterPlanOut, 404, *BODY))
def plan_party(path: HolePath, body: PartyFields) -> dict[str, Any]:
    """The best joint choice of hole, beam, power, pulse, rejection and gain for everyone. Nothing is kept."""
    holes.get(database(), path.hole_id)
    plan = shelter_plan(_party(path.hole_id, body))
    return plain({**vars(plan), "cautions": CAUTIONS}, ShelterPlanOut)
