"""The pocket sheet made, with word of how far it is, and phones' notes taken in."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from flask import Response, current_app

from ...core.card.known_hole import KnownHole
from ...core.checks import InputError
from ...core.fan.head import CONTROLS, FAN_HEADS
from ...core.fields import from_fields
from ...core.gear.lures import USUAL_JIG
from ...core.ground.lake import Lake
from ...core.hole.contents import SPECIES
from ...core.log.outing import Outing
from ...core.pocket.along import Along
from ...core.pocket.fan_cards import fan_cards
from ...core.pocket.notes import PocketNote, clock_words
from ...core.pocket.tables import tabled
from ...core.trip.sun import SunTimes
from ...formats import pocket_notes, pocket_sheet
from ...store import lakes, lures, pocket, units
from ..blueprint import StepBlueprint
from ..contract import BODY, UnitOut, answers, plain
from ..database import database, utc
from ..files import attachment
from ..gear.routes import unit_fields
from ..log.noting import clock_of, sun_then
from ..trip.day import new_day
from ..trip.lake_contract import LakePath
from ..working import teller
from .contract import NotesIn, NotesTakenOut, PocketWanted
from .gathered import gathered
from .processes import shared_out

api = StepBlueprint("pocket", __name__, "Pocket sheet")
BUILT = Path(__file__).parents[1] / "static" / "pocket"
FAN_SHARE = 0.2  # of the waiting, roughly, that a fan's cards take where one is taken along


@api.post("/lakes/<int:lake_id>/pocket", responses=answers(200, None, 404, *BODY))
def make_pocket_sheet(path: LakePath, body: PocketWanted) -> Response:
    """One file for a phone that needs no program and no network: the day, and every card worked out beforehand."""
    store, tell = database(), teller()
    lake = lakes.get(store, path.lake_id).lake
    kept = lakes.day(store, path.lake_id)
    day = new_day() if kept is None else kept.day
    script, style = _built()
    known = {
        "depth_m": 8.0, "ice_thickness_m": day.ice_m, "slush_m": 0.0, "weed_height_m": 0.0,
        "liveliness": body.liveliness, "bottom_kind": body.bottom_kind,
        "species": day.species if day.species in SPECIES else None,
    }  # fmt: skip
    along = Along(
        from_fields(KnownHole, known, "the day"),
        tuple(units.get(store, one).profile for one in body.unit_ids),
        tuple(lures.get(store, one).lure for one in body.lure_ids) or (USUAL_JIG,),
        tuple(body.clarities), tuple(body.lights), tuple(body.companies),
    )  # fmt: skip
    document = {
        "version": pocket_sheet.VERSION, "id": secrets.token_hex(16), "made_at": utc(), "units": body.units,
        "along": {
            "units": [{"id": one, **_unit(one)} for one in body.unit_ids], "lures": [one.name for one in along.lures],
            "clarities": body.clarities, "lights": body.lights, "companies": body.companies,
            "liveliness": body.liveliness, "bottom_kind": body.bottom_kind,
        },
        **gathered(path.lake_id, lake, day),
    }  # fmt: skip
    share = 1.0 - FAN_SHARE if body.fan else 1.0
    with shared_out() as run:
        cards, calls = pocket_sheet.cards_document(tabled(along, lambda done: tell(share * done), run))
    document["cards"] = cards
    if body.fan:
        head = FAN_HEADS[body.fan]
        made = fan_cards(head, along.clarities[0], along.lights, day.ice_m, lambda done: tell(share + FAN_SHARE * done))
        document["fan"] = {
            "head": body.fan, "name": head.name, "controls": [one for one in CONTROLS if head.has(one)],
            "cards": pocket_sheet.fan_document(made),
        }  # fmt: skip
    title = f"{lake.name} {day.date}"
    page = pocket_sheet.html(title, document, calls, script, style)
    current_app.config["crew_sheet"] = (title, page)  # what a crew finds on its board
    return attachment(page, title, "pocket-sheet", "html")


def _unit(unit_id: int) -> dict[str, Any]:
    return plain(unit_fields(units.get(database(), unit_id)), UnitOut)


def _built() -> tuple[str, str]:
    """The page's script and style as the front end's build left them."""
    try:
        return tuple((BUILT / name).read_text("utf-8") for name in ("pocket.js", "pocket.css"))  # type: ignore[return-value]
    except FileNotFoundError:
        raise InputError("the sheet's page was not built: `make setup` builds it") from None


def clock_and_sun() -> tuple[Callable[[int | None], float], pocket.SunOf]:
    """How far the clock of a lake is ahead of UTC [min], and the sun of an outing there."""
    store = database()
    known = {one.id: one.lake for one in lakes.every(store)}
    days = {lake_id: kept.day for lake_id in known if (kept := lakes.day(store, lake_id)) is not None}

    def clock(lake_id: int | None) -> float:
        return 0.0 if lake_id is None else clock_of(known[lake_id], days.get(lake_id))

    def sun(lake_id: int | None, outing: Outing) -> SunTimes | None:
        lake: Lake | None = None if lake_id is None else known[lake_id]
        return sun_then(lake, outing.began_at, outing.utc_offset_min)

    return clock, sun


@api.post("/pocket/notes", responses=answers(200, NotesTakenOut, *BODY))
def take_notes(body: NotesIn) -> dict[str, Any]:
    """Take a phone's notes in, or look what they would bring: all of them or none, and nothing twice."""
    given = pocket_notes.read(body.text).shifted(body.shift_min)
    clock, sun = clock_and_sun()
    taken = pocket.take_in(database(), given, clock, sun, utc(), body.keep)
    times = sorted(one.at for one in given.notes if not one.back)
    return plain(
        {
            **vars(taken), "clock": clock_words(given, datetime.now(UTC)),
            "photos": [_photo(one) for one in given.photographed],
            "first_at": times[0] if times else None, "last_at": times[-1] if times else None,
        },
        NotesTakenOut,
    )  # fmt: skip


def _photo(note: PocketNote) -> dict[str, Any]:
    return {
        "note": note.id, "at": note.at, "spot": note.spot.name, "hole_id": pocket.hole_of(database(), note.spot),
        "unit": note.unit, "lure": note.lure,
    }  # fmt: skip
