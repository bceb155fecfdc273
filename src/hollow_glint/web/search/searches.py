"""Searching for real: the scenes, their maps, a search kept when it is over, and its debrief."""

from __future__ import annotations

from typing import Any

from ...core.fan.head import FAN_HEADS
from ...core.fields import from_fields
from ...core.searches.debrief import SearchDebrief, debrief, judged, told
from ...core.searches.scenes import HALF_M, HOLES_M, LASTS_FOR_S, READY_S, SCENES, SCHOOLS, WALK_M_S, scene_water
from ...core.searches.searched import MOST_MARKS, Searched
from ...store import searches
from ..blueprint import StepBlueprint
from ..contract import BODY, Removed, answers, plain
from ..database import database, utc
from ..recent import Recent
from ..working import teller
from .looks import depth_lines
from .searches_contract import (
    SceneMap,
    SceneSeed,
    ScenesToSearch,
    SearchedGiven,
    SearchList,
    SearchOut,
    SearchPath,
    SearchScenePath,
    SearchWhole,
)

api = StepBlueprint("searches", __name__, "Search: for real")


@api.get("/search/scenes", responses=answers(200, ScenesToSearch))
def scenes_to_search() -> dict[str, Any]:
    """The scenes, how often each was searched, and what a search is bound to."""
    kept = searches.every(database())
    scenes = []
    for key, scene in SCENES.items():
        mine = [one for one in kept if one.scene == key]
        best = min(mine, key=lambda one: (-one.found, one.holes), default=None)
        scenes.append(
            {
                "key": key, "title": scene.title, "teaches": scene.teaches,
                "heads": scene.heads, "fan": scene.fan,
                "thickness_deg": FAN_HEADS[scene.fan].thickness_deg, "tries": len(mine),
                "best_found": best and best.found, "best_holes": best and best.holes,
            }
        )  # fmt: skip
    return plain(
        {
            "scenes": scenes, "schools": SCHOOLS, "lasts_s": LASTS_FOR_S, "walk_m_s": WALK_M_S, "ready_s": READY_S,
            "half_m": HALF_M, "holes_m": HOLES_M, "most_marks": MOST_MARKS,
        },
        ScenesToSearch,
    )  # fmt: skip


@api.get("/search/scenes/<scene>/map", responses=answers(200, SceneMap, 404, 422))
def scene_map(path: SearchScenePath, query: SceneSeed) -> dict[str, Any]:
    """What a map would show of a scene's water: how deep it is, and nothing else."""
    return plain({"lines": depth_lines(scene_water(SCENES[path.scene], query.seed))}, SceneMap)


@api.get("/searches", responses=answers(200, SearchList))
def list_searches() -> dict[str, Any]:
    """All searches, newest first."""
    return {"searches": [_out(one) for one in searches.every(database())]}


@api.post("/searches", responses=answers(201, SearchOut, *BODY))
def keep_search(body: SearchedGiven) -> tuple[dict[str, Any], int]:
    """Keep a search that is over; sent twice it is kept once."""
    given = body.model_dump()
    key = given.pop("key")
    searched = from_fields(Searched, given, "the search")
    found = told(searched, judged(searched, searched.water()))
    return _out(searches.add(database(), searched, found, utc(), key)), 201


def _out(kept: searches.KeptSearch) -> dict[str, Any]:
    return plain({**vars(kept), "title": SCENES[kept.scene].title}, SearchOut)


_lately: Recent[tuple[Searched, SearchDebrief]] = Recent(8)  # going through all pictures again takes seconds


@api.get("/searches/<int:search_id>", responses=answers(200, SearchWhole, 404))
def get_search(path: SearchPath) -> dict[str, Any]:
    """A search with its debrief, the truth, and how a practised searcher did the same water."""
    store, tell = database(), teller()
    kept = searches.get(store, path.search_id)

    def make() -> tuple[Searched, SearchDebrief]:
        searched = searches.searched_of(store, kept.id)
        return searched, debrief(searched, tell)

    searched, found = _lately.get((store, kept.id), make)
    water = searched.water()
    return plain(
        {
            **_out(kept), **vars(found), "heads": SCENES[kept.scene].heads, "lines": depth_lines(water),
            "standing": water.standing,
        },
        SearchWhole,
    )  # fmt: skip


@api.delete("/searches/<int:search_id>", responses=answers(200, Removed, 404))
def remove_search(path: SearchPath) -> dict[str, Any]:
    """Forget a search."""
    removal = searches.remove(database(), path.search_id)
    _lately.forget((database(), path.search_id))
    return {"removal": removal}
