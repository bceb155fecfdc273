"""Live looks: a head that turns in made-up water while someone watches, what was touched, and the truth beside it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from flask import Response, current_app

from ...core.checks import InputError
from ...core.fan.swimmers import AtTheHole
from ...core.fields import from_fields
from ...core.ground.contours import depths_between, isobath, on_a_grid
from ...core.ground.soundings import Structure
from ...core.search.along_ice import AlongIce, along_ice
from ...core.search.around import fix_in, things_around
from ...core.search.course import Fix
from ...core.search.kinds import what_kind
from ...core.search.look import Look, Turned
from ...core.search.made import made_patch, patch_of_ground, seen_from
from ...core.search.marks import find_marks, looked_at, thing_at
from ...core.search.patch import Patch
from ...core.search.sweep import BEARINGS, BINS, LIT_DB, STEPS, Hang, TurningHead
from ...core.searches.scenes import scene_of, scene_water
from ...store import lake_things
from ...store.database import Database
from ..blueprint import StepBlueprint
from ..contract import BODY, Problem, answers, plain
from ..database import database
from ..lives import Gone, Live, Lives, event, new_id, packed, streamed
from ..problems import problem
from ..trip.surfaces import Surfaces
from .first_look import FirstLook
from .look_contract import (
    AroundOut,
    HangFields,
    LookedAt,
    LookTold,
    PaceGiven,
    ThingOut,
    ThingWanted,
    TruthOut,
    TurnedOut,
    TurningLookOut,
    TurningLookPath,
    TurningLookWanted,
    WaterGiven,
)

FRAME_S = 0.1
MOST_LOOKS = 6
PATCH_CELLS = 3600

TRUTH_LATER = "Who searches for real is told the truth when the search is over."

api = StepBlueprint("looks", __name__, "Search")


@dataclass
class LiveLook(Live):
    """A look with what was asked of it on the way in and the clock on the way out."""

    seed: int
    look: Look
    scene: str | None = None
    pace: int = 1
    wanted: Hang | None = None

    def next_event(self) -> str:
        """The bearings of the next frame of its water."""
        with self.stepping:
            with self.lock:
                wanted, self.wanted = self.wanted, None
            if wanted is not None:
                self.look.set(wanted)
            water_s = round(FRAME_S * self.pace, 3)
            turned = self.look.advance(water_s)
            return event("turned", turned_fields(turned, self.look, water_s))


class LiveLooks(Lives[LiveLook]):
    """All live looks of this program."""

    what, where = "looks", "Search page"

    def __init__(self, pace: float = 1.0) -> None:
        super().__init__(MOST_LOOKS, pace)


def turned_fields(turned: Turned, look: Look, water_s: float) -> dict[str, Any]:
    """Some bearings as fields of `TurnedOut`; not by way of the model, because ten a second go to every reader."""
    return {
        "which": turned.which.tolist(), "time_s": turned.time_s.round(3).tolist(), "levels": packed(turned.levels),
        "turn": turned.turn, "now_s": round(look.time_s, 3), "water_s": water_s, "turn_s": look.turn_s,
        "hang": vars(turned.hang),
    }  # fmt: skip


def water_of(store: Database, wanted: WaterGiven, seed: int) -> Patch:
    """The water that is looked at: made up from the seed, or round a place of a lake's map. Raises NotFound."""
    if wanted.lake_id is None:
        return made_patch(seed)
    surfaces: Surfaces = current_app.config["surfaces"]
    _, surface = surfaces.of(store, wanted.lake_id)
    if surface is None:
        return made_patch(seed)
    structures = [one.thing for one in lake_things.every(store, Structure, wanted.lake_id)]
    bottoms = lake_things.bottoms(store, wanted.lake_id)
    grid = on_a_grid(surface, PATCH_CELLS).grid
    return patch_of_ground(grid, bottoms, structures, (wanted.east_m, wanted.north_m), seed)


def the_water(store: Database, wanted: LookedAt, seed: int) -> Patch:
    """The water of a look, be it a scene's from a hole of it. Raises NotFound; ValueError for a scene and a lake."""
    if wanted.scene is None:
        return water_of(store, wanted, seed)
    if wanted.lake_id is not None:
        raise InputError("lake_id: a scene has its own water, so no lake is accepted with it")
    return seen_from(scene_water(scene_of(str(wanted.scene)), seed), wanted.east_m, wanted.north_m)


def find_look(look_id: str) -> LiveLook:
    """The live look with this id, or Gone."""
    looks: LiveLooks = current_app.config["live_looks"]
    found = looks.get(look_id)
    if found is None:
        raise Gone("look", look_id)
    return found


@api.post("/search/looks", responses=answers(201, TurningLookOut, 404, 503, *BODY))
def start_look(body: TurningLookWanted) -> tuple[dict[str, Any], int]:
    """Let the head down and look around. Read its stream within a few seconds."""
    looks: LiveLooks = current_app.config["live_looks"]
    first: FirstLook = current_app.config["first_look"]
    seed = first.seed() if body.seed is None else body.seed
    patch = the_water(database(), body, seed)
    hang = from_fields(Hang, body.hang.model_dump(), "how it hangs")
    look = Look(patch, TurningHead(), hang, np.random.default_rng([seed, 1]), body.start_s)
    one = looks.put(LiveLook(seed, look, body.scene, body.pace, id=new_id(), frame_s=FRAME_S / looks.pace))
    fields = {
        "id": one.id, "seed": seed, "frame_s": one.frame_s, "bearings": BEARINGS, "bins": BINS, "steps": STEPS,
        "step_db": LIT_DB, "turn_s": look.turn_s, "time_s": look.time_s,
        "hang": asdict(hang), "head": asdict(look.head), "bottom_depth_m": patch.bottom_depth_m,
    }  # fmt: skip
    return plain(fields, TurningLookOut), 201


@api.get("/search/looks/<look_id>/stream", responses={404: Problem})
def stream_look(path: TurningLookPath) -> Response:
    """The picture as it turns, as server-sent events: `turned` (TurnedOut), ten a second."""
    return streamed(find_look(path.look_id))


@api.get("/search/looks/<look_id>/picture", responses=answers(200, TurnedOut, 404))
def look_picture(path: TurningLookPath) -> dict[str, Any]:
    """The whole picture as it stands, bearing by bearing; those never looked along are left out."""
    one = find_look(path.look_id)
    with one.stepping:
        look = one.look
        which = np.flatnonzero(np.isfinite(look.seen_s))
        turned = Turned(which, look.seen_s[which], look.levels[which], look.hang, int(look.turns.max()))
        return plain(turned_fields(turned, look, 0.0), TurnedOut)


@api.post("/search/looks/<look_id>/hang", responses=answers(202, LookTold, 404, *BODY))
def hang_look(path: TurningLookPath, body: HangFields) -> tuple[dict[str, Any], int]:
    """Hang it deeper, listen further, turn the gain, look along a sector."""
    one = find_look(path.look_id)
    hang = from_fields(Hang, body.model_dump(), "how it hangs")
    with one.lock:
        one.wanted = hang
    return {"hang": asdict(hang)}, 202


@api.post("/search/looks/<look_id>/pace", responses=answers(202, PaceGiven, 404, *BODY))
def pace_look(path: TurningLookPath, body: PaceGiven) -> tuple[dict[str, Any], int]:
    """Let its water go faster, or as fast as life."""
    one = find_look(path.look_id)
    with one.stepping:
        one.pace = body.pace
    return {"pace": body.pace}, 202


@api.get("/search/looks/<look_id>/thing", responses=answers(200, ThingOut, 404, 422))
def touch_thing(path: TurningLookPath, query: ThingWanted) -> dict[str, Any]:
    """What was touched: what it can be, where it is along the ice, and the fix of it for a course."""
    one = find_look(path.look_id)
    with one.stepping:
        look = one.look
        marks = find_marks(look.levels, look.seen_s, look.hang.range_m, look.picture_before)
        thing = thing_at(marks, query.bearing_deg, query.range_m)
        fix = fix_in(look, thing) if thing else None
        span = _along(look, query.fish_depth_m)
    if fix is None:
        return plain({"marks": [], "kinds": [], "fix": None, "ice": None}, ThingOut)
    kinds = what_kind(looked_at(thing))
    return plain({"marks": [vars(one) for one in thing], "kinds": kinds, "fix": fix, "ice": span(fix)}, ThingOut)


def _along(look: Look, fish_depth_m: float | None = None) -> Callable[[Fix], AlongIce]:
    """Where along the ice a fix of this look is; its water may be let go before it is asked."""
    head_m, bottom_m = look.hang.depth_m, look.patch.deepest(look.hang.range_m)
    return lambda fix: along_ice(fix.range_m, head_m, bottom_m, fish_depth_m)


@api.get("/search/looks/<look_id>/things", responses=answers(200, AroundOut, 404))
def things_in_sight(path: TurningLookPath) -> dict[str, Any]:
    """Who lives here: all things of the picture, the brightest first; none before the second turn is whole."""
    one = find_look(path.look_id)
    with one.stepping:
        found, span = things_around(one.look), _along(one.look)
    things = [
        {"marks": [vars(mark) for mark in thing.marks], "kinds": thing.kinds, "fix": thing.fix, "ice": span(thing.fix)}
        for thing in found
    ]
    return plain({"things": things}, AroundOut)


def depth_lines(patch: Patch) -> list[dict[str, Any]]:
    """Lines of equal depth as fields of `DepthLine`."""
    return [
        {"depth_m": depth, "line": line.round(2).tolist()}
        for depth in depths_between(patch.grid)
        for line in isobath(patch.grid, depth)
    ]


def truth_of(patch: Patch, time_s: float, came: AtTheHole | None = None) -> dict[str, Any]:
    """What is in a patch at a moment, and who of it has come to a hole, as fields of `TruthOut`."""
    now = np.array([time_s])
    groups = []
    taken = frozenset() if came is None else came.taken
    for number, group in enumerate(patch.groups):
        left = [k for k in range(group.length_m.size) if (number, k) not in taken]
        (east, north), velocity = group.centre(now)[0], group.velocity(now)[0]
        groups.append(
            {
                "kind": group.kind, "species": group.species, "count": len(left), "depth_m": group.depth_m,
                "east_m": east, "north_m": north, "radius_m": group.radius_m,
                "speed_m_s": float(np.hypot(*velocity)),
                "heading_deg": float(np.degrees(np.arctan2(*velocity)) % 360.0),
                "fish": group.places(now)[0][left].round(2).tolist(),
            }
        )  # fmt: skip
    here = [] if came is None else np.column_stack([came.place_m, came.length_m]).round(2).tolist()
    return plain(
        {"time_s": time_s, "lines": depth_lines(patch), "standing": patch.standing, "groups": groups,
         "at_the_hole": here}, TruthOut,
    )  # fmt: skip


@api.get("/search/looks/<look_id>/truth", responses=answers(200, TruthOut, 404, 409))
def look_truth(path: TurningLookPath) -> dict[str, Any] | Response:
    """What is there, from above: lines of equal depth, what stands, and who swims where just now."""
    one = find_look(path.look_id)
    if one.scene is not None:
        return problem(409, TRUTH_LATER)
    with one.stepping:
        patch, now = one.look.patch, one.look.time_s
    return truth_of(patch, now)


@api.delete("/search/looks/<look_id>", responses=answers(204, None, 404))
def end_look(path: TurningLookPath) -> tuple[str, int]:
    """Take the head out of the water."""
    looks: LiveLooks = current_app.config["live_looks"]
    if not looks.free(path.look_id):
        raise Gone("look", path.look_id)
    return "", 204
