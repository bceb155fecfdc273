"""The fan's card: how to hang and set a head from what one knows at a hole, and one head's settings on another."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from ...core.fan.card import FanKnown, fan_card, fan_translate
from ...core.fan.head import FAN_HEADS
from ...core.fan.settings import FanSettings
from ...core.fields import from_fields
from ...core.gear.lures import USUAL_JIG, Lure
from ...formats.fields import LureFields
from ...formats.mirror import Described, Given, NamesOf, mirrors
from ..blueprint import StepBlueprint
from ..contract import BODY, SentenceOut, answers, plain
from .fans_contract import FanHangFields, FanSettingsFields, FanWindowOut

api = StepBlueprint("fan_cards", __name__, "Search")

HeadName = Annotated[str, NamesOf(FAN_HEADS)]


@mirrors(FanKnown, leave_out=("lure",))
class FanKnownFields(Given):
    """What someone knows at a hole who owns a fan."""

    lure: LureFields | None = Field(default=None, description="Null for the usual jig")


class FanCardWanted(Given):
    head: HeadName
    known: FanKnownFields


class FanCardOut(Described):
    head: HeadName
    hang: FanHangFields
    settings: FanSettingsFields
    window: FanWindowOut
    lines: dict[str, SentenceOut] = Field(description="What each control does there, by control")
    later: list[SentenceOut] = Field(description="What to change as things change")


class FanTranslateWanted(FanCardWanted):
    """Settings of `head`, wanted on another."""

    now: FanSettingsFields
    other: HeadName


class FanTranslatedOut(Described):
    settings: FanSettingsFields
    unmatched: list[SentenceOut]


def _known(given: FanKnownFields) -> FanKnown:
    fields = given.model_dump()
    lure = USUAL_JIG if fields["lure"] is None else from_fields(Lure, fields["lure"], "a lure")
    return from_fields(FanKnown, {**fields, "lure": lure}, "what is known")


@api.post("/search/fan-card", responses=answers(200, FanCardOut, *BODY))
def make_fan_card(body: FanCardWanted) -> dict[str, Any]:
    """The card of a head for what is known: stores nothing."""
    card = fan_card(_known(body.known), FAN_HEADS[body.head])
    window = {**vars(card.window), "floor": card.window.floor, "is_open": card.window.is_open}
    return plain({**vars(card), "head": body.head, "window": window}, FanCardOut)


@api.post("/search/fan-card/translate", responses=answers(200, FanTranslatedOut, *BODY))
def translate_fan_card(body: FanTranslateWanted) -> dict[str, Any]:
    """The same picture on another head, and what that one cannot do."""
    now = from_fields(FanSettings, body.now.model_dump(), "how it is set")
    told = fan_translate(_known(body.known), FAN_HEADS[body.head], now, FAN_HEADS[body.other])
    return plain(vars(told), FanTranslatedOut)
