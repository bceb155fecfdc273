"""What comes along: batteries and their hours, gear and the rig test, screens to keep."""

from __future__ import annotations

from typing import Any

from flask import Response

from ...core.fields import from_fields
from ...core.trip.batteries import (
    CAUTIONS,
    FULL,
    Battery,
    Draw,
    Use,
    charge_by_volts,
    hours_of,
    through_the_day,
)
from ...core.trip.rig_test import CHECKS, Finding, GearItem, standing
from ...core.trip.screens import VIEWS, Job, screens_to_keep, views_of
from ...core.trip.worth import FishedWater, cones, worth
from ...store import kit, lures, units
from ...store.kit import KeptBattery, KeptItem
from ..blueprint import StepBlueprint
from ..contract import BODY, IfMatch, Removed, StaleProblem, UnitPath, answers, plain
from ..database import database
from ..versions import versioned
from ..working import teller
from .rig_contract import (
    AliveOut,
    AliveWanted,
    BatteryFields,
    BatteryList,
    BatteryNoteFields,
    BatteryOut,
    ConesOut,
    ConesWanted,
    FindingFields,
    GearItemFields,
    GearItemOut,
    RigOut,
    RowOfRowPath,
    RowPath,
    ScreensOut,
    ScreensWanted,
    ViewsOut,
    VoltsOut,
    VoltsWanted,
    WorthList,
    WorthWanted,
)

api = StepBlueprint("rig", __name__, "Rig")


def _battery(kept: KeptBattery) -> dict[str, Any]:
    notes = [vars(one) for one in kit.battery_notes(database(), kept.id)]
    own = {"id": kept.id, "version": kept.version, **vars(kept.battery)}
    return {**own, "left_by_age": kept.battery.left_by_age, "notes": notes}


def _item(kept: KeptItem) -> dict[str, Any]:
    found = kit.findings(database(), kept.id)
    return {
        "id": kept.id, "version": kept.version, **vars(kept.item),
        "standing": [vars(one) for one in standing(kept.item.kind, [one for _, one in found])],
        "findings": [{"id": row_id, **vars(one)} for row_id, one in reversed(found)],
    }  # fmt: skip


@api.get("/batteries", responses=answers(200, BatteryList))
def list_batteries() -> dict[str, Any]:
    """All batteries with what was done with each, and what to mind."""
    return plain({"batteries": [_battery(one) for one in kit.batteries(database())], "cautions": CAUTIONS}, BatteryList)


@api.post("/batteries", responses=answers(201, BatteryOut, *BODY))
def add_battery(body: BatteryFields) -> Response:
    """Add a battery."""
    battery = from_fields(Battery, body.model_dump(), "the battery")
    return versioned(_battery(kit.add_battery(database(), battery)), BatteryOut, 201)


@api.put("/batteries/<int:row_id>", responses=answers(200, BatteryOut, 404, *BODY) | {412: StaleProblem})
def change_battery(path: RowPath, header: IfMatch, body: BatteryFields) -> Response:
    """Change a battery: all its fields, if it is still at the version given."""
    battery = from_fields(Battery, body.model_dump(), "the battery")
    kept = kit.change_battery(database(), KeptBattery(path.row_id, header.version, battery))
    return versioned(_battery(kept), BatteryOut)


@api.delete("/batteries/<int:row_id>", responses=answers(200, Removed, 404))
def remove_battery(path: RowPath) -> dict[str, Any]:
    """Remove a battery with its record."""
    return {"removal": kit.remove_battery(database(), path.row_id)}


@api.post("/batteries/<int:row_id>/notes", responses=answers(201, BatteryOut, 404, *BODY))
def note_battery(path: RowPath, body: BatteryNoteFields) -> Response:
    """Note that a battery was charged, which counts, or what a volt meter said."""
    kit.note_battery(database(), path.row_id, body.at, body.what, body.volts)
    return versioned(_battery(kit.battery(database(), path.row_id)), BatteryOut, 201)


@api.post("/trip/volts", responses=answers(200, VoltsOut, *BODY))
def hours_by_volts(body: VoltsWanted) -> dict[str, Any]:
    """How full a battery is by its volts, and how long that lasts."""
    battery = from_fields(Battery, body.battery.model_dump(), "the battery")
    charged = charge_by_volts(battery, body.volts)
    return plain({"charged": charged, "hours": hours_of(battery, body.draw_a, body.temperature_c, charged)}, VoltsOut)


@api.post("/trip/alive", responses=answers(200, AliveOut, *BODY))
def alive(body: AliveWanted) -> dict[str, Any]:
    """When a battery is dead on a day on the ice, and what would keep the unit alive."""
    battery = from_fields(Battery, body.battery.model_dump(), "the battery")
    spares = tuple(from_fields(Battery, one.model_dump(), "the spare") for one in body.spares)
    charged = FULL if body.volts is None else charge_by_volts(battery, body.volts)
    use = Use(body.begins_min, body.ends_min, body.temperature_c, body.brightness, body.sunset_min, body.turned_down)
    return plain(through_the_day(battery, Draw(body.dark_a, body.light_a), use, spares, charged), AliveOut)


@api.get("/rig", responses=answers(200, RigOut))
def get_rig() -> dict[str, Any]:
    """All gear, how each check of it stands, and what each check is."""
    checks = [{"name": name, "words": one.words, "right": one.right} for name, one in CHECKS.items()]
    return plain({"items": [_item(one) for one in kit.items(database())], "checks": checks}, RigOut)


@api.post("/rig", responses=answers(201, GearItemOut, *BODY))
def add_item(body: GearItemFields) -> Response:
    """Add a piece of gear."""
    item = from_fields(GearItem, body.model_dump(), "the piece of gear")
    return versioned(_item(kit.add_item(database(), item)), GearItemOut, 201)


@api.put("/rig/<int:row_id>", responses=answers(200, GearItemOut, 404, *BODY) | {412: StaleProblem})
def change_item(path: RowPath, header: IfMatch, body: GearItemFields) -> Response:
    """Change a piece of gear, if it is still at the version given."""
    item = from_fields(GearItem, body.model_dump(), "the piece of gear")
    return versioned(_item(kit.change_item(database(), KeptItem(path.row_id, header.version, item))), GearItemOut)


@api.delete("/rig/<int:row_id>", responses=answers(200, Removed, 404))
def remove_item(path: RowPath) -> dict[str, Any]:
    """Remove a piece of gear with what was found on it."""
    return {"removal": kit.remove_item(database(), path.row_id)}


@api.post("/rig/<int:row_id>/findings", responses=answers(201, GearItemOut, 404, *BODY))
def add_finding(path: RowPath, body: FindingFields) -> Response:
    """Note what a check found; what failed stays so until the same check is passed."""
    kit.add_finding(database(), path.row_id, from_fields(Finding, body.model_dump(), "the finding"))
    return versioned(_item(kit.item(database(), path.row_id)), GearItemOut, 201)


@api.delete("/rig/<int:row_id>/findings/<int:finding_id>", responses=answers(200, Removed, 404))
def remove_finding(path: RowOfRowPath) -> dict[str, Any]:
    """Take back what was noted."""
    return {"removal": kit.remove_finding(database(), path.row_id, path.finding_id)}


@api.get("/units/<int:unit_id>/views", responses=answers(200, ViewsOut, 404))
def list_views(path: UnitPath) -> dict[str, Any]:
    """The views that a unit's profile tells of, and all that units have."""
    of_unit = views_of(units.get(database(), path.unit_id).profile)
    return {"all": [{"view": view, "words": words} for view, words in VIEWS.items()], "of_unit": of_unit}


@api.post("/trip/screens", responses=answers(200, ScreensOut, *BODY))
def find_screens(body: ScreensWanted) -> dict[str, Any]:
    """Which views of a unit to keep for a day's job, in which order, and which to hide."""
    job = from_fields(Job, body.model_dump(exclude={"views"}), "the job")
    return plain({"views": screens_to_keep(body.views, job)}, ScreensOut)


@api.post("/trip/worth", responses=answers(200, WorthList, 404, *BODY))
def what_a_unit_must_have(body: WorthWanted) -> dict[str, Any]:
    """What each capability of a unit is worth in the waters that one fishes, most first, beside one's own unit."""
    waters = [from_fields(FishedWater, one.model_dump(), "the water") for one in body.waters]
    store = database()
    own = None if body.unit_id is None else units.get(store, body.unit_id).profile
    return plain({"worth": worth(waters, lures.get(store, body.lure_id).lure, own, teller())}, WorthList)


@api.post("/trip/cones", responses=answers(200, ConesOut, 404, *BODY))
def which_cone(body: ConesWanted) -> dict[str, Any]:
    """Which cone for which depth: what each shows at lure and bottom, and what noise it lets in."""
    water = from_fields(FishedWater, body.water.model_dump(), "the water")
    return plain({"cones": cones(water, lures.get(database(), body.lure_id).lure)}, ConesOut)
