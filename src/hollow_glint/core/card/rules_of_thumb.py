"""Rules of thumb beside the computation: what people say, what the card says here, and why where they differ.

All are common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..gear import settings
from ..gear.unit import FOOT
from ..wording import Quantity, Sentence
from .hole_card import HoleCard

SHALLOW_M, DEEP_M = 15 * FOOT, 30 * FOOT
WIDE_BEAM_TO_M = 10 * FOOT
BOTTOM_WINDOW_M = 6 * FOOT
NEAR_BOTTOM_M = 2.0


@dataclass(frozen=True)
class Rule:
    """One rule: its key, what is said, what the card has, whether they agree, and why (not)."""

    key: str
    thumb: Sentence
    ours: Sentence
    agrees: bool
    why: Sentence


def rules(card: HoleCard) -> tuple[Rule, ...]:
    """The rules of thumb that touch on `card`, in the order of its knobs."""
    found = (_gain(card), _beam(card), _range(card), _window(card), _weeds(card), _top_water(card), _symbols())
    return tuple(one for one in found if one is not None)


def _gain(card: HoleCard) -> Rule | None:
    """Less gain when shallow or murky, more when deep or clear: below or above the middle of the knob."""
    scale = card.unit.gain
    share = (card.settings.gain - scale.minimum) / (scale.maximum - scale.minimum)
    depth, clarity = card.scene.bottom_depth_m, card.scene.clarity
    murky = clarity in ("murky", "plankton") or card.scene.plankton == "thick"
    if depth <= SHALLOW_M or murky:
        thumb, agrees = "Less gain when it is shallow or murky.", share <= 0.5
    elif depth >= DEEP_M or clarity == "clear":
        thumb, agrees = "More gain when it is deep or clear.", share >= 0.5
    else:
        return None
    values = {
        "gain": Quantity(card.settings.gain, "gain"),
        "middle": Quantity((scale.minimum + scale.maximum) / 2.0, "gain"),
        "floor": Quantity(max(card.gains.floor or scale.minimum, scale.minimum), "gain"),
        "ceiling": Quantity(card.gains.ceiling, "gain"),
    }
    ours = Sentence("Gain {gain}; the knob's middle is {middle}.", values)
    return Rule("gain", Sentence(thumb), ours, agrees, _why_this_gain(card, values, agrees))


def _why_this_gain(card: HoleCard, values: dict[str, Quantity], agrees: bool) -> Sentence:
    """Where the gain comes from, as the numbers have it: what the lure asks for, what the water allows."""
    gains, scale = card.gains, card.unit.gain
    if gains.floor is None:
        return Sentence("The lure is in a stronger echo here; the water allows {ceiling}.", values)
    if gains.floor <= scale.minimum:
        return Sentence("The lure shows from the knob's lowest on, and the water allows {ceiling}.", values)
    if not gains.open:
        return Sentence("The lure asks for {floor} here and the water lights from {ceiling}.", values)
    if agrees:
        return Sentence("The lure asks for {floor} here and the water allows {ceiling}.", values)
    return Sentence(
        "The rule knows neither lure nor unit: this lure asks for {floor} here, the water allows {ceiling}.", values
    )


def _beam(card: HoleCard) -> Rule | None:
    """Wide beam in under 10 ft, narrow in deeper water."""
    beams = card.unit.beams
    if len(beams) < 2:
        return None
    width = [one.width_deg for one in beams]
    mine = beams[card.settings.beam].width_deg
    shallow = card.scene.bottom_depth_m < WIDE_BEAM_TO_M
    agrees = mine == (max(width) if shallow else min(width))
    values = {
        "limit": Quantity(WIDE_BEAM_TO_M, "m"),
        "mine": Quantity(mine, "degrees"),
        "cone": Quantity(card.numbers.cone_at_bottom_m, "m"),
    }
    why = "The cone is {cone} wide at the bottom here."
    if not agrees:
        why = (
            "The narrow one keeps neighbours, weeds or plankton out here, at a cone of {cone}."
            if shallow
            else "The wide one's cone is {cone} at the bottom: a fish at its edge can still see your lure."
        )
    thumb = Sentence("Wide beam in under {limit}, narrow in deeper water.", values)
    return Rule("beam", thumb, Sentence("The beam of {mine}.", values), agrees, Sentence(why, values))


def _range(card: HoleCard) -> Rule:
    """The smallest range that holds the bottom: the card's own rule."""
    fits = settings.smallest_range(card.unit, card.scene.bottom_range_m)
    row = Quantity(card.settings.range_m / card.unit.rows, "m")
    values = {"range": Quantity(card.settings.range_m, "m"), "row": row}
    agrees = abs(card.settings.range_m - fits) < 1e-3
    return Rule(
        "range",
        Sentence("The smallest range that holds the bottom."),
        Sentence("Range {range}.", values),
        agrees,
        Sentence("A row of the full column is then {row} of water, the finest there is.", values),
    )


def _window(card: HoleCard) -> Rule:
    """A bottom window of 6 ft for fish on the bottom, a free window for suspended fish."""
    off = card.scene.bottom_depth_m - card.lure_depth_m
    near = off <= NEAR_BOTTOM_M
    view = next(one for one in card.views if one.view == card.at.view)
    values = {
        "six": Quantity(BOTTOM_WINDOW_M, "m"),
        "off": Quantity(off, "m"),
        "height": Quantity(view.bottom_m - view.top_m, "m"),
    }
    kind = "bottom window" if near else "free window"
    thumb = "A bottom window of {six} for fish on the bottom." if near else "A free window for suspended fish."
    agrees = view.kind == kind and (not near or abs(view.bottom_m - view.top_m - BOTTOM_WINDOW_M) < 0.35)
    if agrees:
        why = "Your lure hangs {off} off the bottom."
    elif card.at.view == "full":
        why = "You chose the full column, to play fish up and down in it; the window is one touch away."
    elif view.kind == "full column":
        why = "This unit has no window that holds both the lure and the bottom."
    else:
        why = "Your lure hangs {off} off the bottom, and this is the smallest of the unit's windows that suits."
    ours = Sentence(f"The {view.kind}, {{height}}.", values)
    return Rule("window", Sentence(thumb, values), ours, agrees, Sentence(why, values))


def _weeds(card: HoleCard) -> Rule | None:
    """Above the weeds, not in them; and they are not the bottom."""
    height = card.at.weed_height_m
    if not height:
        return None
    above = card.scene.bottom_depth_m - height - card.lure_depth_m
    values = {
        "height": Quantity(height, "m"),
        "above": Quantity(abs(above), "m"),
        "tops": Quantity(card.scene.bottom_range_m - height, "m"),
        "bottom": Quantity(card.scene.bottom_range_m, "m"),
        "gap": Quantity(card.numbers.gap_m, "m"),
    }
    agrees = above >= card.numbers.gap_m
    why = (
        "They light from {tops} on the unit's own scale and are easily taken for a soft bottom; the true one is under "
        "them, at {bottom}."
    )
    if not agrees:
        why += " Marks part at {gap}: nearer than that, lure and weeds are one mark."
    ours = "The lure hangs {above} above them." if above >= 0.0 else "The lure hangs {above} down among them."
    return Rule(
        "weeds", Sentence("Fish above the weeds, not in them."), Sentence(ours, values), agrees, Sentence(why, values)
    )


def _top_water(card: HoleCard) -> Rule | None:
    """Top-water quieting only in deep water."""
    if len(card.unit.tvg_db_decade) < 2 and len(card.unit.blanking_m) < 2:
        return None
    on = card.settings.tvg > 0 or card.settings.blanking > 0
    deep = card.scene.bottom_depth_m >= DEEP_M
    values = {"deep": Quantity(DEEP_M, "m"), "depth": Quantity(card.scene.bottom_depth_m, "m")}
    agrees = on == deep
    if agrees:
        why = "It is {depth} deep here."
    elif on:
        why = "Near water would light soon after the lure shows, even at {depth}: turning it down widens the window."
    else:
        why = "The top is quiet at this gain already, and fish may come high."
    ours = Sentence("On." if on else "Off.")
    return Rule("top water", Sentence("Quiet the top of the water only from {deep} on.", values), ours, agrees,
                Sentence(why, values))  # fmt: skip


def _symbols() -> Rule:
    """Fish-symbol functions off."""
    return Rule(
        "symbols",
        Sentence("Fish symbols off."),
        Sentence("Off: raw echoes."),
        True,
        Sentence("A symbol is a guess from one echo; the thickness, the drift and the fading that tell more are gone."),
    )
