"""Places to a friend and from one: what goes out and what is left out, and what comes in without anything twice."""

from __future__ import annotations

from typing import Any

from flask import Response

from ...core.ground.soundings import Sounding, Structure
from ...core.trip.sharing import Known, Shared, Wish, share
from ...core.wording import Sentence
from ...formats import places_file
from ...store import holes, lake_things, lakes, shared_places
from ..blueprint import StepBlueprint
from ..contract import BODY, answers, plain
from ..database import database, utc
from ..files import attachment
from .lake_contract import LakePath, PlacesGivenOut, PlacesIn, PlacesTakenOut, ShareAsked, ShareFileAsked

api = StepBlueprint("sharing", __name__, "Lakes")


def _shared(lake_id: int, asked: ShareAsked) -> tuple[Shared, list[Sentence]]:
    store = database()
    wish = Wish(**{name: getattr(asked, name) for name in Wish.__dataclass_fields__})
    placed = lake_things.holes_on(store, lake_id)
    known = Known(
        lakes.get(store, lake_id).lake,
        [(holes.get(store, one.hole_id).hole, one.east_m, one.north_m) for one in placed],
        [one.thing for one in lake_things.every(store, Structure, lake_id)],
        [one.thing for one in lake_things.every(store, Sounding, lake_id)],
    )
    return share(known, wish)


@api.get("/lakes/<int:lake_id>/shared", responses=answers(200, PlacesGivenOut, 404, 422))
def look_at_shared(path: LakePath, query: ShareAsked) -> dict[str, Any]:
    """What a friend would get of a lake, and what is left out."""
    shared, left_out = _shared(path.lake_id, query)
    counts = {name: len(getattr(shared, name)) for name in ("holes", "structures", "soundings")}
    return plain({**counts, "left_out": left_out}, PlacesGivenOut)


@api.get("/lakes/<int:lake_id>/shared/file", responses=answers(200, None, 404, 422))
def give_shared(path: LakePath, query: ShareFileAsked) -> Response:
    """Places of a lake for a friend, as the program's own file (docs/places-file.md), GPX or GeoJSON."""
    shared, said = _shared(path.lake_id, query)
    left_out = [in_words(one) for one in said]
    if query.kind == "gpx":
        return attachment(places_file.write_gpx(shared), shared.lake, "places", "gpx")
    if query.kind == "geojson":
        return attachment(places_file.write_geojson(shared, left_out), shared.lake, "places", "geojson")
    return attachment(places_file.write(shared, left_out), shared.lake, "places", "json")


@api.post("/places/file", responses=answers(200, PlacesTakenOut, *BODY))
def take_shared(body: PlacesIn) -> dict[str, Any]:
    """Take a friend's places in: all of them or none, and nothing twice."""
    return plain(shared_places.take_in(database(), places_file.read(body.text), utc()), PlacesTakenOut)


def in_words(said: Sentence) -> str:
    """A sentence for a file, which is in metres."""
    return said.text.format(**{name: f"{one.value:.0f} {one.unit}".removesuffix(" count")
                               for name, one in said.values.items()})  # fmt: skip
