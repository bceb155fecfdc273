"""The hole card: settings for this hole in the unit's own numbers, with the reasons; and what to change moving on."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from flask import Response, current_app, jsonify
from flask_openapi3 import APIBlueprint, Tag

from ..core.card import checklist, from_hole_to_hole, ice_guidance, rules_of_thumb
from ..core.card.hole_card import HoleCard, hole_card
from ..core.card.known_hole import KnownHole
from ..core.card.translate import translate
from ..core.checks import InputError
from ..core.gear.lures import Lure
from ..core.gear.profiles import TRAIL_UNIT
from ..core.gear.unit import UnitProfile, unit_to_dict
from ..core.hole.contents import Neighbour
from ..store import hole_cards, holes, lures, units
from ..store.database import Database, NotFound
from .card_contract import (
    CardWanted,
    CheckWanted,
    HoleCardOut,
    KeptCardOut,
    TranslatedOut,
    TranslateWanted,
)
from .contract import BODY_PROBLEMS, HolePath, Problem, plain

api = APIBlueprint("card", __name__, url_prefix="/api", abp_tags=[Tag(name="Hole card")])

USUAL_LURE = Lure("5 mm tungsten jig", 0.005)
GEAR = ("unit_id", "lure_id", "second_lure_id")
CARRIED = (*GEAR, "school", "view", "species", "light", "liveliness")


def _database() -> Database:
    database: Database = current_app.config["database"]
    return database


def _unit(unit_id: int | None) -> tuple[int, UnitProfile]:
    """The unit asked for, or the first there is."""
    if unit_id is not None:
        return unit_id, units.get(_database(), unit_id).profile
    first = next(iter(units.every(_database())), None)
    return (first.id, first.profile) if first else (0, TRAIL_UNIT)


def _lure(lure_id: int | None) -> Lure:
    return USUAL_LURE if lure_id is None else lures.get(_database(), lure_id).lure


def _made(body: CardWanted) -> tuple[int, HoleCard]:
    """The card that `body` asks for, and its unit's id."""
    known = body.model_dump()
    if known["neighbours"] is not None:
        known["neighbours"] = tuple(Neighbour(**one) for one in known["neighbours"])
    at = KnownHole(**{name: value for name, value in known.items() if name not in GEAR})
    unit_id, unit = _unit(body.unit_id)
    second = None if body.second_lure_id is None else _lure(body.second_lure_id)
    return unit_id, hole_card(at, unit, _lure(body.lure_id), second)


def _fields(unit_id: int, card: HoleCard, ticked: set[str]) -> dict[str, Any]:
    """A card as fields of HoleCardOut."""
    checks = [{**asdict(one), "done": one.name in ticked} for one in checklist.checks(card)]
    thickness = card.at.ice_thickness_m
    return {
        **{name: getattr(card, name) for name in ("lure_depth_m", "fish_length_m", "face_depth_m", "below_ice_m",
                                                  "float_m", "picture_kind", "second_hole_m")},
        "unit": {"id": unit_id, **unit_to_dict(card.unit)},
        **{name: asdict(getattr(card, name)) for name in ("lure", "settings", "gains", "numbers")},
        **{name: [asdict(one) for one in getattr(card, name)]
           for name in ("schools", "views", "unknowns", "openings", "notes")},
        "rules": [asdict(one) for one in rules_of_thumb.rules(card)],
        "checks": checks,
        "cautions": [asdict(one) for one in checklist.cautions(card)],
        "ice": None if thickness is None else asdict(ice_guidance.ice_word(thickness, card.at.ice_kind)),
    }  # fmt: skip


@api.post("/hole-card", responses={200: HoleCardOut, 404: Problem, **BODY_PROBLEMS})
def make_card(body: CardWanted) -> dict[str, Any]:
    """A hole card from what is known; `depth_m` alone is enough. Nothing is kept."""
    unit_id, card = _made(body)
    return plain(_fields(unit_id, card, set()), HoleCardOut)


@api.post("/hole-card/translate", responses={200: TranslatedOut, 404: Problem, **BODY_PROBLEMS})
def translate_card(body: TranslateWanted) -> dict[str, Any]:
    """A card's settings on another unit, by equal picture; what cannot be matched is said."""
    _, card = _made(body.card)
    other = units.get(_database(), body.to_unit_id)
    made = translate(card.scene, card.lure, card.lure_depth_m, card.unit, card.settings, other.profile)
    return plain({**asdict(made), "unit": {"id": other.id, **unit_to_dict(other.profile)}}, TranslatedOut)


def _wanted_at(hole_id: int) -> CardWanted:
    """What a hole's card is made from: what was kept, or what the hole itself says."""
    hole = holes.get(_database(), hole_id)
    kept = hole_cards.find(_database(), hole_id)
    if kept is not None:
        return _with_gear_there(CardWanted.model_validate(kept.wanted))
    # A new hole says what it is; what is carried from hole to hole comes along: gear, school, view, and for whom.
    last = hole_cards.last_elsewhere(_database(), hole_id)
    carried = {} if last is None else {name: last.wanted.get(name) for name in CARRIED if last.wanted.get(name)}
    clarity = None if hole.clarity == "plankton" else hole.clarity
    wanted = CardWanted(
        depth_m=hole.bottom_depth_m,
        ice_thickness_m=hole.ice_thickness_m,
        face_depth_m=hole.face_depth_m,
        hole_diameter_m=hole.hole_diameter_m,
        temperature_c=hole.temperature_c,
        bottom_kind=hole.bottom_kind,
        clarity=clarity,
        **carried,
    )
    return _with_gear_there(wanted)


def _with_gear_there(wanted: CardWanted) -> CardWanted:
    """`wanted` without the units and lures that have been removed since."""
    gone = {name: None for name in GEAR if (i := getattr(wanted, name)) is not None and not _is_there(name, i)}
    return wanted.model_copy(update=gone)


def _is_there(name: str, row_id: int) -> bool:
    try:
        (units if name == "unit_id" else lures).get(_database(), row_id)
    except NotFound:
        return False
    return True


def _kept(hole_id: int, wanted: CardWanted) -> dict[str, Any]:
    unit_id, card = _made(wanted)
    before = hole_cards.last_elsewhere(_database(), hole_id)
    from_hole, changes = None, None
    if before is not None:
        try:
            last = _made(_wanted_at(before.hole_id))[1]
            from_hole, changes = holes.get(_database(), before.hole_id).name, from_hole_to_hole.changes(last, card)
        except InputError:
            pass  # that hole or its gear has been edited since, and makes no card any more
    return plain(
        {
            "wanted": wanted,
            "card": _fields(unit_id, card, hole_cards.ticked(_database(), hole_id)),
            "from_hole": from_hole,
            "changes": None if changes is None else [asdict(one) for one in changes],
        },
        KeptCardOut,
    )


@api.get("/holes/<int:hole_id>/card", responses={200: KeptCardOut, 404: Problem, 422: Problem})
def get_card(path: HolePath) -> dict[str, Any]:
    """A hole's card, its ticked checks, and what to change from the hole fished before."""
    return _kept(path.hole_id, _wanted_at(path.hole_id))


@api.put("/holes/<int:hole_id>/card", responses={200: KeptCardOut, 404: Problem, **BODY_PROBLEMS})
def keep_card(path: HolePath, body: CardWanted) -> dict[str, Any]:
    """Make a hole's card from what is known now, and remember that."""
    made = _kept(path.hole_id, body)  # what makes no card is not kept
    hole_cards.keep(_database(), path.hole_id, body.model_dump(mode="json"))
    return made


@api.get("/holes/<int:hole_id>/card/file", responses={200: HoleCardOut, 404: Problem, 422: Problem})
def give_card(path: HolePath) -> Response:
    """A hole's card as a JSON file."""
    unit_id, card = _made(_wanted_at(path.hole_id))
    ticked = hole_cards.ticked(_database(), path.hole_id)
    answer: Response = jsonify(plain(_fields(unit_id, card, ticked), HoleCardOut))
    answer.headers["Content-Disposition"] = f'attachment; filename="hole-card-{path.hole_id}.json"'
    return answer


@api.put("/holes/<int:hole_id>/checks", responses={204: None, 404: Problem, **BODY_PROBLEMS})
def tick_check(path: HolePath, body: CheckWanted) -> tuple[str, int]:
    """Tick or untick a check at a hole; it is remembered there."""
    _, card = _made(_wanted_at(path.hole_id))
    names = [one.name for one in checklist.checks(card)]
    if body.name not in names:
        raise InputError(f"name is {body.name!r}: accepted are {', '.join(names)}")
    hole_cards.tick(_database(), path.hole_id, body.name, body.done)
    return "", 204
