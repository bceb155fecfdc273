"""The gear: units and lures, listed, added, changed and removed."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from flask import Response, request

from ...core.fields import from_fields
from ...core.gear.lures import Lure
from ...core.gear.oddities import oddities
from ...core.gear.unit import unit_from_dict, unit_to_dict
from ...formats import gear_file
from ...formats.fields import GearFile, LureFields, UnitFields
from ...formats.gear_file import Gear
from ...store import gear, lures, units
from ..blueprint import StepBlueprint
from ..contract import BODY, IfMatch, LureOut, LurePath, Removed, StaleProblem, UnitOut, UnitPath, answers, plain
from ..database import database
from ..files import attachment
from ..versions import versioned
from .contract import Checked, CheckedAgainst, GearHere, GearTaken, LureList, UnitList

api = StepBlueprint("gear", __name__, "Gear")


def unit_fields(unit: units.Unit) -> dict[str, Any]:
    """A unit as fields of `UnitOut`."""
    return {"id": unit.id, "version": unit.version, **unit_to_dict(unit.profile)}


def lure_fields(lure: lures.Lure) -> dict[str, Any]:
    """A lure as fields of `LureOut`."""
    return {"id": lure.id, "version": lure.version, **vars(lure.lure)}


@api.get("/units", responses=answers(200, UnitList))
def list_units() -> dict[str, Any]:
    """All units."""
    return {"units": [plain(unit_fields(one), UnitOut) for one in units.every(database())]}


@api.post("/units", responses=answers(201, UnitOut, *BODY))
def add_unit(body: UnitFields) -> Response:
    """Add a unit."""
    return versioned(unit_fields(units.add(database(), unit_from_dict(body.model_dump()))), UnitOut, 201)


@api.post("/units/check", responses=answers(200, Checked, 404, *BODY))
def check_unit(query: CheckedAgainst, body: UnitFields) -> dict[str, Any]:
    """Whether a unit could be kept as it stands on the form, and what is odd in it; nothing is kept."""
    unit = unit_from_dict(body.model_dump())
    before = None if query.unit_id is None else units.get(database(), query.unit_id).profile.gain
    return plain({"odd": [asdict(one) for one in oddities(unit, before)]}, Checked)


@api.get("/units/<int:unit_id>/file", responses=answers(200, GearFile, 404))
def give_unit(path: UnitPath) -> Response:
    """A unit as a gear file."""
    profile = units.get(database(), path.unit_id).profile
    return attachment(gear_file.write(Gear(units=(profile,))), profile.name, "unit", "json")


@api.get("/lures/<int:lure_id>/file", responses=answers(200, GearFile, 404))
def give_lure(path: LurePath) -> Response:
    """A lure as a gear file."""
    lure = lures.get(database(), path.lure_id).lure
    return attachment(gear_file.write(Gear(lures=(lure,))), lure.name, "lure", "json")


@api.post("/gear/file", responses=answers(201, GearTaken, 409, *BODY))
def take_gear_file(query: GearHere) -> tuple[dict[str, Any], int]:
    """Add the units and lures of a gear file, sent as it is. A bad file is refused with the line and field at fault.

    Where a name is here already, `same` says what to do; with "ask" nothing is kept and they are named (409).
    """
    taken = gear_file.read(request.get_data(as_text=True))
    added_units, added_lures = gear.add_all(database(), taken.units, taken.lures, query.same)
    return {
        "units": [plain(unit_fields(one), UnitOut) for one in added_units],
        "lures": [plain(lure_fields(one), LureOut) for one in added_lures],
    }, 201


@api.get("/units/<int:unit_id>", responses=answers(200, UnitOut, 404))
def get_unit(path: UnitPath) -> Response:
    """One unit; its ETag is its version."""
    return versioned(unit_fields(units.get(database(), path.unit_id)), UnitOut)


@api.put("/units/<int:unit_id>", responses=answers(200, UnitOut, 404, *BODY) | {412: StaleProblem})
def change_unit(path: UnitPath, header: IfMatch, body: UnitFields) -> Response:
    """Change a unit: all its fields, if it is still at the version given."""
    changed = units.Unit(path.unit_id, header.version, unit_from_dict(body.model_dump()))
    return versioned(unit_fields(units.change(database(), changed)), UnitOut)


@api.delete("/units/<int:unit_id>", responses=answers(200, Removed, 404, 409))
def remove_unit(path: UnitPath) -> dict[str, Any]:
    """Remove a unit that no strike was made with."""
    return {"removal": units.remove(database(), path.unit_id)}


@api.get("/lures", responses=answers(200, LureList))
def list_lures() -> dict[str, Any]:
    """All lures."""
    return {"lures": [plain(lure_fields(one), LureOut) for one in lures.every(database())]}


@api.post("/lures", responses=answers(201, LureOut, *BODY))
def add_lure(body: LureFields) -> Response:
    """Add a lure."""
    lure = from_fields(Lure, body.model_dump(), "the lure")
    return versioned(lure_fields(lures.add(database(), lure)), LureOut, 201)


@api.get("/lures/<int:lure_id>", responses=answers(200, LureOut, 404))
def get_lure(path: LurePath) -> Response:
    """One lure; its ETag is its version."""
    return versioned(lure_fields(lures.get(database(), path.lure_id)), LureOut)


@api.put("/lures/<int:lure_id>", responses=answers(200, LureOut, 404, *BODY) | {412: StaleProblem})
def change_lure(path: LurePath, header: IfMatch, body: LureFields) -> Response:
    """Change a lure: all its fields, if it is still at the version given."""
    changed = lures.Lure(path.lure_id, header.version, from_fields(Lure, body.model_dump(), "the lure"))
    return versioned(lure_fields(lures.change(database(), changed)), LureOut)


@api.delete("/lures/<int:lure_id>", responses=answers(200, Removed, 404, 409))
def remove_lure(path: LurePath) -> dict[str, Any]:
    """Remove a lure that no strike was made with."""
    return {"removal": lures.remove(database(), path.lure_id)}
