"""What is known at a hole, for every step that asks: card, Bench and call sheet stand in the same water."""

from __future__ import annotations

from dataclasses import replace

from ...core.card.hole_card import HoleCard, hole_card
from ...core.card.known_hole import KnownHole
from ...core.checks import InputError
from ...core.fields import from_fields, hints_of
from ...core.gear.lures import USUAL_JIG, Lure
from ...core.gear.unit import UnitProfile
from ...core.hole.hole import SCENE_FIELDS, Hole
from ...core.hole.scene import Scene
from ...store import hole_cards, holes, lures, units
from ...store.database import NotFound
from ..database import database
from .contract import CardWanted

GEAR = ("unit_id", "lure_id", "second_lure_id")
CARRIED = (*GEAR, "school", "view", "species", "light", "liveliness")


def wanted_at(hole_id: int) -> CardWanted:
    """What a hole's card is made from: what was kept, or what the hole itself says."""
    hole = holes.get(database(), hole_id).hole
    kept = hole_cards.find(database(), hole_id)
    if kept is not None:
        return with_gear_there(CardWanted.model_validate(kept.wanted))
    # A new hole says what it is; what is carried from hole to hole comes along: gear, school, view, and for whom.
    last = hole_cards.last_elsewhere(database(), hole_id)
    carried = {} if last is None else {name: last.wanted.get(name) for name in CARRIED if last.wanted.get(name)}
    told = {name: getattr(hole, name) for name in SCENE_FIELDS if name in hints_of(KnownHole)}
    if hole.clarity == "plankton":  # which is no clarity of the water, but what lives in it
        told["clarity"] = None
    wanted = CardWanted.model_validate({"depth_m": hole.bottom_depth_m, **told, **carried})
    return with_gear_there(wanted)


def with_gear_there(wanted: CardWanted) -> CardWanted:
    """`wanted` without the units and lures that have been removed since."""
    gone = {name: None for name in GEAR if (i := getattr(wanted, name)) is not None and not _is_there(name, i)}
    return wanted.model_copy(update=gone)


def _is_there(name: str, row_id: int) -> bool:
    try:
        (units if name == "unit_id" else lures).get(database(), row_id)
    except NotFound:
        return False
    return True


def known_at(hole_id: int) -> KnownHole:
    """What a hole's card is made from, gear aside."""
    return from_fields(KnownHole, wanted_at(hole_id).model_dump(exclude=set(GEAR)), "the hole")


def card_at(hole_id: int, unit: UnitProfile, lure: Lure | None) -> HoleCard:
    """The card of a hole for this unit and lure. Raises ValueError for a hole that the unit does not reach."""
    return hole_card(known_at(hole_id), unit, lure or USUAL_JIG)


def lure_depth_at(hole_id: int, scene: Scene) -> float | None:
    """Where [m below the surface] the hole's card fishes its lure; None for a card of other water than `scene`."""
    try:
        at = known_at(hole_id).lure_at_m
    except InputError:
        return None
    return at if scene.face_depth_m < at < scene.bottom_depth_m else None


def water_at(hole: Hole, hole_id: int) -> Scene:
    """The hole as it is: its own depth, ice and face, in the light, life and company that its card takes it to have."""
    own = {name: getattr(hole, name) for name in SCENE_FIELDS if name != "clarity"}
    try:
        return replace(known_at(hole_id).scene(), **own)
    except InputError:  # a card of other water, or of none that can be: the hole is as it says itself
        return hole.scene()
