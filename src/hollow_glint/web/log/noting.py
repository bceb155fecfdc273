"""What is known without being asked when somebody fishes a hole: for the outing and the stay that begin there."""

from __future__ import annotations

from datetime import datetime, timedelta

from ...core.card.hole_card import HoleCard, hole_card
from ...core.card.known_hole import KnownHole
from ...core.checks import InputError
from ...core.fields import from_fields
from ...core.gear.lures import USUAL_JIG
from ...core.gear.settings import Settings
from ...core.ground.lake import Lake
from ...core.log.outing import Happening, Outing, Stay, moment
from ...core.trip.day import Day
from ...core.trip.sun import SunTimes, sun_times
from ...store import hole_cards, holes, lake_things, lakes, lures, season, units
from ...store.outings import StayAt
from ...store.season import Arrival
from ..card.contract import CardWanted
from ..card.here import GEAR, wanted_at
from ..database import database, utc


def sun_then(lake: Lake | None, began_at: str, utc_offset_min: float) -> SunTimes | None:
    """Sunrise and sunset on the day that an outing began; None where nobody knows where the lake lies."""
    if lake is None or lake.latitude is None or lake.longitude is None:
        return None
    there = moment("began_at", began_at) + timedelta(minutes=utc_offset_min)
    return sun_times(lake.latitude, lake.longitude, there.strftime("%Y-%m-%d"), utc_offset_min)


def clock_of(lake: Lake | None, day: Day | None) -> float:
    """How far the clock is ahead of UTC [min]: as the day there was planned, or by the sun, to the hour."""
    if day is not None:
        return day.utc_offset_min
    return 0.0 if lake is None or lake.longitude is None else 60.0 * round(lake.longitude / 15.0)


def arrival(hole_id: int, at: str, at_hole_s: float = 0.0) -> Arrival:
    """Somebody fishes a hole since `at_hole_s` [s] before `at`: with what the hole, its card and the planned day say.

    Raises NotFound for a hole that is not there.
    """
    store = database()
    hole = holes.get(store, hole_id).hole
    placed = lake_things.place_of(store, hole_id)
    kept_lake = None if placed is None else lakes.get(store, placed[0])
    kept_day = None if kept_lake is None else lakes.day(store, kept_lake.id)
    lake, day = (None if kept_lake is None else kept_lake.lake), (None if kept_day is None else kept_day.day)
    began = utc(datetime.fromisoformat(at) - timedelta(seconds=at_hole_s))
    clock = clock_of(lake, day)
    is_planned = day is not None and (moment("at", at) + timedelta(minutes=clock)).strftime("%Y-%m-%d") == day.date
    outing = Outing(
        began,
        water=hole.water or ("" if lake is None else lake.name),
        utc_offset_min=clock,
        ice_m=hole.ice_thickness_m,
        snow=day.snow if is_planned and day is not None else "",
        temperature_c=day.temperature_c if is_planned and day is not None else None,
    )
    turned, wanted = _turned_today(hole_id, at), _card_used(hole_id)
    # The card knows the gear once it was used; until then what the Bench at this hole has in the water.
    if wanted is None and turned is not None:
        wanted = wanted_at(hole_id).model_copy(update={"unit_id": turned.unit_id, "lure_id": turned.lure_id})
    unit = None if wanted is None else _unit(wanted.unit_id)
    lure = None if wanted is None or wanted.lure_id is None else lures.get(store, wanted.lure_id)
    card = None if wanted is None or unit is None else _card(wanted, unit, lure)
    profile = None if unit is None else unit.profile
    settings = _settings(unit, turned, card)
    stay = Stay(
        began,
        hole=hole.name,
        depth_m=hole.bottom_depth_m,
        bottom=hole.bottom_kind,
        clarity=hole.clarity,
        unit="" if profile is None else profile.name,
        beam="" if settings is None or profile is None else profile.beams[settings.beam].name,
        settings=settings,
        lure="" if lure is None else lure.lure.name,
        lure_form="" if lure is None else lure.lure.form,
        lure_size_m=None if lure is None else lure.lure.size_m,
    )
    where = StayAt(
        hole_id,
        None if unit is None else unit.id,
        None if lure is None else lure.id,
        None if placed is None else placed[1],
        None if placed is None else placed[2],
    )
    return Arrival(outing, None if kept_lake is None else kept_lake.id, sun_then(lake, began, clock), stay, where)


def noted(hole_id: int, happening: Happening, at_hole_s: float = 0.0) -> int:
    """Keep what happened at a hole: the number of the note. Raises NotFound for a hole that is not there."""
    goes_on = season.stay_now(database(), hole_id, happening.at) is not None
    first = None if goes_on else arrival(hole_id, happening.at, at_hole_s)
    try:
        return season.note(database(), hole_id, first, happening)[1]
    except season.NobodyThere:  # whoever was there left in this very moment
        return season.note(database(), hole_id, arrival(hole_id, happening.at), happening)[1]


def _card_used(hole_id: int) -> CardWanted | None:
    """What the hole's card is made from, with the gear that was carried here; None where no card was ever used."""
    if hole_cards.find(database(), hole_id) is None and hole_cards.last_elsewhere(database(), hole_id) is None:
        return None
    return wanted_at(hole_id)


def _unit(unit_id: int | None) -> units.Unit | None:
    """The unit that a card is for: the one chosen, or the first there is, as the card has it."""
    return next(iter(units.every(database())), None) if unit_id is None else units.get(database(), unit_id)


def _turned_today(hole_id: int, at: str) -> hole_cards.Turned | None:
    """What the Bench had in the water at a hole today; None where it was not looked at there."""
    turned = hole_cards.turned(database(), hole_id)
    if turned is None:
        return None
    since = (moment("at", at) - moment("turned_at", turned.turned_at)).total_seconds() / 3600.0
    return turned if 0.0 <= since < season.TODAY_H else None


def _settings(unit: units.Unit | None, turned: hole_cards.Turned | None, card: HoleCard | None) -> Settings | None:
    """How the unit stands at a hole: as its knobs were turned on the Bench there today, or as the card has it."""
    if unit is not None and turned is not None and turned.unit_id == unit.id:
        try:
            return turned.settings.checked(unit.profile)
        except InputError:  # a unit that was changed since and has no such position any more
            pass
    return None if card is None else card.settings


def _card(wanted: CardWanted, unit: units.Unit, lure: lures.Lure | None) -> HoleCard | None:
    known = from_fields(KnownHole, wanted.model_dump(exclude=set(GEAR)), "the hole")
    try:
        return hole_card(known, unit.profile, USUAL_JIG if lure is None else lure.lure)
    except InputError:  # gear that was changed since and does not reach here any more
        return None
