"""Lakes and what belongs to them: soundings, structures, ice, places as they were fished, the holes on them."""

from __future__ import annotations

from typing import Any

from flask import Response, current_app

from ...core.fields import from_fields
from ...core.ground.contours import Drawn
from ...core.ground.lake import Lake, drawn_shore
from ...core.ground.soundings import Sounding, Structure
from ...core.ground.surface import Surface
from ...core.trip.ice import IceReading
from ...core.trip.start_places import FishedPlace
from ...store import lake_things, lakes
from ...store.lakes import KeptLake
from ..blueprint import StepBlueprint
from ..contract import BODY, IfMatch, Removed, StaleProblem, answers
from ..database import database
from ..versions import versioned
from .lake_contract import (
    MOST_DRAWN,
    Added,
    BedStructureFields,
    FishedFields,
    HolePlace,
    IceFields,
    LakeFields,
    LakeHolePath,
    LakeList,
    LakeOut,
    LakePath,
    LakeRowPath,
    LakeThings,
    ShoreDrawn,
    ShoreOut,
    SoundingsWanted,
)
from .surfaces import Surfaces

api = StepBlueprint("lakes", __name__, "Lakes")
CELLS = 6000  # places of a map, unless it is asked for otherwise


def surface_of(lake_id: int) -> tuple[Lake, Surface | None]:
    """A lake and its depth surface; None where nothing was sounded. Raises NotFound."""
    surfaces: Surfaces = current_app.config["surfaces"]
    return surfaces.of(database(), lake_id)


def drawn(lake_id: int, cells: int = CELLS) -> tuple[Lake, Drawn | None]:
    """A lake and its surface on a grid; None where nothing was sounded. Raises NotFound."""
    surfaces: Surfaces = current_app.config["surfaces"]
    return surfaces.drawn(database(), lake_id, cells)


def _out(kept: KeptLake) -> dict[str, Any]:
    known = len(lake_things.depths(database(), kept.id))
    return {"id": kept.id, "version": kept.version, "soundings": known, **vars(kept.lake)}


@api.get("/lakes", responses=answers(200, LakeList))
def list_lakes() -> dict[str, Any]:
    """All lakes."""
    return {"lakes": [_out(one) for one in lakes.every(database())]}


@api.post("/lakes", responses=answers(201, LakeOut, *BODY))
def add_lake(body: LakeFields) -> Response:
    """Add a lake."""
    lake = from_fields(Lake, body.model_dump(), "the lake")
    return versioned(_out(lakes.add(database(), lake)), LakeOut, 201)


@api.get("/lakes/<int:lake_id>", responses=answers(200, LakeOut, 404))
def get_lake(path: LakePath) -> Response:
    """One lake; its ETag is its version."""
    return versioned(_out(lakes.get(database(), path.lake_id)), LakeOut)


@api.put("/lakes/<int:lake_id>", responses=answers(200, LakeOut, 404, *BODY) | {412: StaleProblem})
def change_lake(path: LakePath, header: IfMatch, body: LakeFields) -> Response:
    """Change a lake: all its fields, if it is still at the version given."""
    lake = from_fields(Lake, body.model_dump(), "the lake")
    return versioned(_out(lakes.change(database(), KeptLake(path.lake_id, header.version, lake))), LakeOut)


@api.delete("/lakes/<int:lake_id>", responses=answers(200, Removed, 404))
def remove_lake(path: LakePath) -> dict[str, Any]:
    """Remove a lake with all that was measured on it; holes stay, and forget their place."""
    return {"removal": lakes.remove(database(), path.lake_id)}


@api.post("/ground/shore", responses=answers(200, ShoreOut, *BODY))
def find_shore(body: ShoreDrawn) -> dict[str, Any]:
    """A shore out of a line drawn round a lake by hand: without loops and jitter."""
    return {"shore_m": [one for place in drawn_shore(body.line, body.detail_m) for one in place]}


@api.get("/lakes/<int:lake_id>/things", responses=answers(200, LakeThings, 404))
def list_things(path: LakePath) -> dict[str, Any]:
    """All that belongs to a lake; of very many soundings every second or third, as many as can be drawn."""
    store = database()
    lakes.get(store, path.lake_id)
    soundings = lake_things.every(store, Sounding, path.lake_id)
    step = max(1, -(-len(soundings) // MOST_DRAWN))
    shown = soundings[::step]
    return {
        "soundings": [_thing(one) for one in shown],
        "soundings_left_out": len(soundings) - len(shown),
        "structures": [_thing(one) for one in lake_things.every(store, Structure, path.lake_id)],
        "ice": [_thing(one) for one in lake_things.every(store, IceReading, path.lake_id)],
        "fished": [_thing(one) for one in lake_things.every(store, FishedPlace, path.lake_id)],
        "holes": [vars(one) for one in lake_things.holes_on(store, path.lake_id)],
        "surveys": [vars(one) for one in lake_things.surveys(store, path.lake_id)],
    }


def _thing(kept: lake_things.Kept[Any]) -> dict[str, Any]:
    return {"id": kept.id, **vars(kept.thing)}


@api.post("/lakes/<int:lake_id>/soundings", responses=answers(201, Added, 404, *BODY))
def add_soundings(path: LakePath, body: SoundingsWanted) -> tuple[dict[str, Any], int]:
    """Add soundings: all of them, or none."""
    made = [from_fields(Sounding, one.model_dump(), "the sounding") for one in body.soundings]
    return {"ids": lake_things.add(database(), path.lake_id, made)}, 201


@api.post("/lakes/<int:lake_id>/structures", responses=answers(201, Added, 404, *BODY))
def add_structure(path: LakePath, body: BedStructureFields) -> tuple[dict[str, Any], int]:
    """Add something on the bed or in the ice."""
    made = from_fields(Structure, body.model_dump(), "the structure")
    return {"ids": lake_things.add(database(), path.lake_id, [made])}, 201


@api.post("/lakes/<int:lake_id>/ice", responses=answers(201, Added, 404, *BODY))
def add_ice(path: LakePath, body: IceFields) -> tuple[dict[str, Any], int]:
    """Add ice as it was measured at a place."""
    made = from_fields(IceReading, body.model_dump(), "the ice reading")
    return {"ids": lake_things.add(database(), path.lake_id, [made])}, 201


@api.post("/lakes/<int:lake_id>/fished", responses=answers(201, Added, 404, *BODY))
def add_fished(path: LakePath, body: FishedFields) -> tuple[dict[str, Any], int]:
    """Add a place as it was fished, or where fish were left in autumn."""
    made = from_fields(FishedPlace, body.model_dump(), "the fished place")
    return {"ids": lake_things.add(database(), path.lake_id, [made])}, 201


def _removed(kind: type, path: LakeRowPath) -> dict[str, Any]:
    return {"removal": lake_things.remove(database(), kind, path.lake_id, path.row_id)}


@api.delete("/lakes/<int:lake_id>/soundings/<int:row_id>", responses=answers(200, Removed, 404))
def remove_sounding(path: LakeRowPath) -> dict[str, Any]:
    """Remove a sounding."""
    return _removed(Sounding, path)


@api.delete("/lakes/<int:lake_id>/structures/<int:row_id>", responses=answers(200, Removed, 404))
def remove_structure(path: LakeRowPath) -> dict[str, Any]:
    """Remove something on the bed or in the ice."""
    return _removed(Structure, path)


@api.delete("/lakes/<int:lake_id>/ice/<int:row_id>", responses=answers(200, Removed, 404))
def remove_ice(path: LakeRowPath) -> dict[str, Any]:
    """Remove an ice reading."""
    return _removed(IceReading, path)


@api.delete("/lakes/<int:lake_id>/fished/<int:row_id>", responses=answers(200, Removed, 404))
def remove_fished(path: LakeRowPath) -> dict[str, Any]:
    """Remove a place as it was fished."""
    return _removed(FishedPlace, path)


@api.delete("/lakes/<int:lake_id>/surveys/<int:row_id>", responses=answers(200, Removed, 404))
def remove_survey(path: LakeRowPath) -> dict[str, Any]:
    """Remove all soundings of a file that was taken in."""
    return {"removal": lake_things.remove_survey(database(), path.lake_id, path.row_id)}


@api.put("/lakes/<int:lake_id>/holes/<int:hole_id>", responses=answers(204, None, 404, *BODY))
def place_hole(path: LakeHolePath, body: HolePlace) -> tuple[str, int]:
    """Say where a hole lies on a lake; its depth is a sounding there from then on."""
    lake_things.place_hole(database(), path.lake_id, path.hole_id, body.east_m, body.north_m)
    return "", 204


@api.delete("/lakes/<int:lake_id>/holes/<int:hole_id>", responses=answers(200, Removed, 404))
def unplace_hole(path: LakeHolePath) -> dict[str, Any]:
    """Forget where a hole lies; the hole itself stays."""
    return {"removal": lake_things.unplace_hole(database(), path.lake_id, path.hole_id)}
