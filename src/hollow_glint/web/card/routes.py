"""The hole card: settings for this hole in the unit's own numbers, with the reasons; and what to change moving on."""

from __future__ import annotations

import json
from typing import Any

from flask import Response

from ...core.card import checklist, from_hole_to_hole, ice_guidance, rules_of_thumb
from ...core.card.hole_card import HoleCard, hole_card
from ...core.card.known_hole import KnownHole
from ...core.card.translate import translate
from ...core.checks import InputError
from ...core.fields import from_fields
from ...core.gear.lures import USUAL_JIG, Lure
from ...core.gear.profiles import TRAIL_UNIT
from ...store import hole_cards, holes, lures, units
from ..blueprint import StepBlueprint
from ..contract import BODY, HolePath, answers, plain
from ..database import database
from ..files import attachment
from ..gear.routes import unit_fields
from .contract import CardWanted, CheckWanted, HoleCardOut, KeptCardOut, TranslatedOut, TranslateWanted
from .here import GEAR, wanted_at

api = StepBlueprint("card", __name__, "Hole card")


def _unit(unit_id: int | None) -> units.Unit:
    """The unit asked for, or the first there is."""
    if unit_id is not None:
        return units.get(database(), unit_id)
    return next(iter(units.every(database())), units.Unit(0, 1, TRAIL_UNIT))


def _lure(lure_id: int | None) -> Lure:
    return USUAL_JIG if lure_id is None else lures.get(database(), lure_id).lure


def _made(body: CardWanted) -> tuple[units.Unit, HoleCard]:
    """The card that `body` asks for, and its unit."""
    known, gear = body.model_dump(exclude=set(GEAR)), body.model_dump(include=set(GEAR))
    unit = _unit(gear["unit_id"])
    second = None if gear["second_lure_id"] is None else _lure(gear["second_lure_id"])
    return unit, hole_card(from_fields(KnownHole, known, "the hole"), unit.profile, _lure(gear["lure_id"]), second)


def _fields(unit: units.Unit, card: HoleCard, ticked: set[str]) -> dict[str, Any]:
    """A card as fields of HoleCardOut."""
    thickness = card.at.ice_thickness_m
    return {
        **vars(card),
        "unit": unit_fields(unit),
        "rules": rules_of_thumb.rules(card),
        "checks": [{**vars(one), "done": one.name in ticked} for one in checklist.checks(card)],
        "cautions": checklist.cautions(card),
        "ice": None if thickness is None else ice_guidance.ice_word(thickness, card.at.ice_kind),
    }


@api.post("/hole-card", responses=answers(200, HoleCardOut, 404, *BODY))
def make_card(body: CardWanted) -> dict[str, Any]:
    """A hole card from what is known; `depth_m` alone is enough. Nothing is kept."""
    unit, card = _made(body)
    return plain(_fields(unit, card, set()), HoleCardOut)


@api.post("/hole-card/translate", responses=answers(200, TranslatedOut, 404, *BODY))
def translate_card(body: TranslateWanted) -> dict[str, Any]:
    """A card's settings on another unit, by equal picture; what cannot be matched is said."""
    _, card = _made(body.card)
    other = units.get(database(), body.to_unit_id)
    made = translate(card.scene, card.lure, card.lure_depth_m, card.unit, card.settings, other.profile)
    return plain({**vars(made), "unit": unit_fields(other)}, TranslatedOut)


def _kept(hole_id: int, wanted: CardWanted) -> dict[str, Any]:
    unit, card = _made(wanted)
    before = hole_cards.last_elsewhere(database(), hole_id)
    from_hole, changes = None, None
    if before is not None:
        try:
            last = _made(wanted_at(before.hole_id))[1]
            from_hole, changes = holes.get(database(), before.hole_id).hole.name, from_hole_to_hole.changes(last, card)
        except InputError:
            pass  # that hole or its gear has been edited since, and makes no card any more
    return plain(
        {
            "wanted": wanted,
            "card": _fields(unit, card, hole_cards.ticked(database(), hole_id)),
            "from_hole": from_hole,
            "changes": changes,
        },
        KeptCardOut,
    )


@api.get("/holes/<int:hole_id>/card", responses=answers(200, KeptCardOut, 404, 422))
def get_card(path: HolePath) -> dict[str, Any]:
    """A hole's card, its ticked checks, and what to change from the hole fished before."""
    return _kept(path.hole_id, wanted_at(path.hole_id))


@api.put("/holes/<int:hole_id>/card", responses=answers(200, KeptCardOut, 404, *BODY))
def keep_card(path: HolePath, body: CardWanted) -> dict[str, Any]:
    """Make a hole's card from what is known now, and remember that."""
    made = _kept(path.hole_id, body)  # what makes no card is not kept
    hole_cards.keep(database(), path.hole_id, body.model_dump(mode="json"))
    return made


@api.get("/holes/<int:hole_id>/card/file", responses=answers(200, HoleCardOut, 404, 422))
def give_card(path: HolePath) -> Response:
    """A hole's card as a JSON file."""
    unit, card = _made(wanted_at(path.hole_id))
    ticked = hole_cards.ticked(database(), path.hole_id)
    content = json.dumps(plain(_fields(unit, card, ticked), HoleCardOut), ensure_ascii=False)
    name = holes.get(database(), path.hole_id).hole.name
    return attachment(content, f"{name} card", "hole-card", "json")


@api.put("/holes/<int:hole_id>/checks", responses=answers(204, None, 404, *BODY))
def tick_check(path: HolePath, body: CheckWanted) -> tuple[str, int]:
    """Tick or untick a check at a hole; it is remembered there."""
    _, card = _made(wanted_at(path.hole_id))
    names = [one.name for one in checklist.checks(card)]
    if body.name not in names:
        raise InputError(f"name is {body.name!r}: accepted are {', '.join(names)}")
    hole_cards.tick(database(), path.hole_id, body.name, body.done)
    return "", 204
