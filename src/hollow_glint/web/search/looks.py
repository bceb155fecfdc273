"""Live looks: a head that turns in made-up water while someone watches, what was touched, and the truth beside it."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from flask import Response, current_app, stream_with_context

from ...core.fields import from_fields
from ...core.ground.contours import depths_between, isobath, on_a_grid
from ...core.ground.soundings import Structure
from ...core.search.along_ice import along_ice
from ...core.search.kinds import what_kind
from ...core.search.look import Look, Turned
from ...core.search.made import made_patch, patch_of_ground
from ...core.search.marks import find_marks, fix_of, looked_at, thing_at
from ...core.search.patch import Patch
from ...core.search.sweep import BEARINGS, BINS, LIT_DB, STEPS, Hang, TurningHead
from ...store import lake_things
from ...store.database import Database
from ..blueprint import StepBlueprint
from ..contract import BODY, Problem, answers, plain
from ..database import database
from ..lives import Gone, Live, Lives, event, new_id, packed
from ..trip.surfaces import Surfaces
from .first_look import FirstLook
from .look_contract import (
    HangFields,
    LookTold,
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

api = StepBlueprint("looks", __name__, "Search")


@dataclass
class LiveLook(Live):
    """A look with what was asked of it on the way in and the clock on the way out."""

    seed: int
    look: Look
    wanted: Hang | None = None

    def next_event(self) -> str:
        """The bearings of the next FRAME_S of its water."""
        with self.stepping:
            with self.lock:
                wanted, self.wanted = self.wanted, None
            if wanted is not None:
                self.look.set(wanted)
            turned = self.look.advance(FRAME_S)
            return event("turned", turned_fields(turned, self.look))


class LiveLooks(Lives[LiveLook]):
    """All live looks of this program."""

    what, where = "looks", "Search page"

    def __init__(self, pace: float = 1.0) -> None:
        super().__init__(MOST_LOOKS, pace)


def turned_fields(turned: Turned, look: Look) -> dict[str, Any]:
    """Some bearings as fields of `TurnedOut`; not by way of the model, because ten a second go to every reader."""
    return {
        "which": turned.which.tolist(), "time_s": turned.time_s.round(3).tolist(), "levels": packed(turned.levels),
        "turn": turned.turn, "now_s": round(look.time_s, 3), "turn_s": look.turn_s, "hang": vars(turned.hang),
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
    patch = water_of(database(), body, seed)
    hang = from_fields(Hang, body.hang.model_dump(), "how it hangs")
    look = Look(patch, TurningHead(), hang, np.random.default_rng([seed, 1]), body.start_s)
    one = looks.put(LiveLook(seed, look, id=new_id(), frame_s=FRAME_S / looks.pace))
    fields = {
        "id": one.id, "seed": seed, "frame_s": one.frame_s, "bearings": BEARINGS, "bins": BINS, "steps": STEPS,
        "step_db": LIT_DB, "turn_s": look.turn_s, "time_s": look.time_s, "hang": asdict(hang),
        "head": asdict(look.head), "bottom_depth_m": patch.bottom_depth_m,
    }  # fmt: skip
    return plain(fields, TurningLookOut), 201


@api.get("/search/looks/<look_id>/stream", responses={404: Problem})
def stream_look(path: TurningLookPath) -> Response:
    """The picture as it turns, as server-sent events: `turned` (TurnedOut), ten a second."""
    one = find_look(path.look_id)
    answer = Response(stream_with_context(one.stream()), mimetype="text/event-stream")
    answer.headers["Cache-Control"] = "no-store"
    answer.headers["X-Accel-Buffering"] = "no"
    return answer


@api.get("/search/looks/<look_id>/picture", responses=answers(200, TurnedOut, 404))
def look_picture(path: TurningLookPath) -> dict[str, Any]:
    """The whole picture as it stands, bearing by bearing; those never looked along are left out."""
    one = find_look(path.look_id)
    with one.stepping:
        look = one.look
        which = np.flatnonzero(np.isfinite(look.seen_s))
        turned = Turned(which, look.seen_s[which], look.levels[which], look.hang, int(look.turns.max()))
        return plain(turned_fields(turned, look), TurnedOut)


@api.post("/search/looks/<look_id>/hang", responses=answers(202, LookTold, 404, *BODY))
def hang_look(path: TurningLookPath, body: HangFields) -> tuple[dict[str, Any], int]:
    """Hang it deeper, listen further, turn the gain, look along a sector."""
    one = find_look(path.look_id)
    hang = from_fields(Hang, body.model_dump(), "how it hangs")
    with one.lock:
        one.wanted = hang
    return {"hang": asdict(hang)}, 202


@api.get("/search/looks/<look_id>/thing", responses=answers(200, ThingOut, 404, 422))
def touch_thing(path: TurningLookPath, query: ThingWanted) -> dict[str, Any]:
    """What was touched: what it can be, where it is along the ice, and the fix of it for a course."""
    one = find_look(path.look_id)
    with one.stepping:
        look = one.look
        marks = find_marks(look.levels, look.seen_s, look.hang.range_m, look.picture_before)
        thing = thing_at(marks, query.bearing_deg, query.range_m)
        resolution = look.still.sound_speed_m_s * look.head.pulse_s / 2.0
        head_m, bottom_m = look.hang.depth_m, look.patch.deepest(look.hang.range_m)
    if not thing:
        return plain({"marks": [], "kinds": [], "fix": None, "ice": None}, ThingOut)
    fix = fix_of(thing, look.head.across_deg, resolution)
    return plain(
        {
            "marks": [vars(mark) for mark in thing],
            "kinds": what_kind(looked_at(thing)),
            "fix": asdict(fix),
            "ice": along_ice(fix.range_m, head_m, bottom_m, query.fish_depth_m),
        },
        ThingOut,
    )


@api.get("/search/looks/<look_id>/truth", responses=answers(200, TruthOut, 404))
def look_truth(path: TurningLookPath) -> dict[str, Any]:
    """What is there, from above: lines of equal depth, what stands, and who swims where just now."""
    one = find_look(path.look_id)
    with one.stepping:
        patch, now = one.look.patch, np.array([one.look.time_s])
    lines = [
        {"depth_m": depth, "line": line.round(2).tolist()}
        for depth in depths_between(patch.grid)
        for line in isobath(patch.grid, depth)
    ]
    groups = []
    for group in patch.groups:
        (east, north), velocity = group.centre(now)[0], group.velocity(now)[0]
        groups.append(
            {
                "kind": group.kind, "species": group.species, "count": group.length_m.size, "depth_m": group.depth_m,
                "east_m": east, "north_m": north, "radius_m": group.radius_m,
                "speed_m_s": float(np.hypot(*velocity)),
                "heading_deg": float(np.degrees(np.arctan2(*velocity)) % 360.0),
                "fish": group.places(now)[0].round(2).tolist(),
            }
        )  # fmt: skip
    return plain({"time_s": float(now[0]), "lines": lines, "standing": patch.standing, "groups": groups}, TruthOut)


@api.delete("/search/looks/<look_id>", responses=answers(204, None, 404))
def end_look(path: TurningLookPath) -> tuple[str, int]:
    """Take the head out of the water."""
    looks: LiveLooks = current_app.config["live_looks"]
    if not looks.free(path.look_id):
        raise Gone("look", path.look_id)
    return "", 204
