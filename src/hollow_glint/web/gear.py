"""The gear: units and lures, listed, added, changed and removed."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint, Tag

from ..core.gear.lures import Lure
from ..core.gear.unit import unit_from_dict, unit_to_dict
from ..formats import gear_file
from ..formats.fields import GearFile
from ..formats.gear_file import Gear
from ..store import lures, units
from .contract import (
    BODY_PROBLEMS,
    GearTaken,
    LureFields,
    LureList,
    LureOut,
    LurePath,
    Problem,
    UnitFields,
    UnitList,
    UnitOut,
    UnitPath,
    plain,
)

api = APIBlueprint("gear", __name__, url_prefix="/api", abp_tags=[Tag(name="Gear")])


def _unit_out(unit: units.Unit) -> dict[str, Any]:
    return plain({"id": unit.id, **unit_to_dict(unit.profile)}, UnitOut)


def _lure_out(lure: lures.Lure) -> dict[str, Any]:
    return plain({"id": lure.id, **vars(lure.lure)}, LureOut)


@api.get("/units", responses={200: UnitList})
def list_units() -> dict[str, Any]:
    """All units."""
    return {"units": [_unit_out(unit) for unit in units.every(current_app.config["database"])]}


@api.post("/units", responses={201: UnitOut, **BODY_PROBLEMS})
def add_unit(body: UnitFields) -> tuple[dict[str, Any], int]:
    """Add a unit."""
    profile = unit_from_dict(body.model_dump())
    return _unit_out(units.add(current_app.config["database"], profile)), 201


@api.post("/units/check", responses={204: None, **BODY_PROBLEMS})
def check_unit(body: UnitFields) -> tuple[str, int]:
    """Whether a unit could be kept as it stands on the form; nothing is kept."""
    unit_from_dict(body.model_dump())
    return "", 204


def _file(gear: Gear, name: str) -> Response:
    answer = Response(gear_file.write(gear), mimetype="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}.json"'
    return answer


@api.get("/units/<int:unit_id>/file", responses={200: GearFile, 404: Problem})
def give_unit(path: UnitPath) -> Response:
    """A unit as a gear file."""
    unit = units.get(current_app.config["database"], path.unit_id)
    return _file(Gear(units=(unit.profile,)), f"unit-{path.unit_id}")


@api.get("/lures/<int:lure_id>/file", responses={200: GearFile, 404: Problem})
def give_lure(path: LurePath) -> Response:
    """A lure as a gear file."""
    return _file(Gear(lures=(lures.get(current_app.config["database"], path.lure_id).lure,)), f"lure-{path.lure_id}")


@api.post("/gear/file", responses={201: GearTaken, **BODY_PROBLEMS})
def take_gear_file() -> tuple[dict[str, Any], int]:
    """Add the units and lures of a gear file, sent as it is. A bad file is refused with the line and field at fault."""
    database, gear = current_app.config["database"], gear_file.read(request.get_data(as_text=True))
    added_units = [_unit_out(units.add(database, one)) for one in gear.units]
    added_lures = [_lure_out(lures.add(database, one)) for one in gear.lures]
    return {"units": added_units, "lures": added_lures}, 201


@api.put("/units/<int:unit_id>", responses={200: UnitOut, 404: Problem, **BODY_PROBLEMS})
def change_unit(path: UnitPath, body: UnitFields) -> dict[str, Any]:
    """Change a unit: all its fields."""
    profile = unit_from_dict(body.model_dump())
    return _unit_out(units.change(current_app.config["database"], units.Unit(path.unit_id, profile)))


@api.delete("/units/<int:unit_id>", responses={204: None, 404: Problem, 409: Problem})
def remove_unit(path: UnitPath) -> tuple[str, int]:
    """Remove a unit that no strike was made with."""
    units.remove(current_app.config["database"], path.unit_id)
    return "", 204


@api.get("/lures", responses={200: LureList})
def list_lures() -> dict[str, Any]:
    """All lures."""
    return {"lures": [_lure_out(lure) for lure in lures.every(current_app.config["database"])]}


@api.post("/lures", responses={201: LureOut, **BODY_PROBLEMS})
def add_lure(body: LureFields) -> tuple[dict[str, Any], int]:
    """Add a lure."""
    return _lure_out(lures.add(current_app.config["database"], Lure(**body.model_dump()))), 201


@api.put("/lures/<int:lure_id>", responses={200: LureOut, 404: Problem, **BODY_PROBLEMS})
def change_lure(path: LurePath, body: LureFields) -> dict[str, Any]:
    """Change a lure: all its fields."""
    lure = lures.Lure(path.lure_id, Lure(**body.model_dump()))
    return _lure_out(lures.change(current_app.config["database"], lure))


@api.delete("/lures/<int:lure_id>", responses={204: None, 404: Problem, 409: Problem})
def remove_lure(path: LurePath) -> tuple[str, int]:
    """Remove a lure that no strike was made with."""
    lures.remove(current_app.config["database"], path.lure_id)
    return "", 204
