"""The contract of the Card step: what is known of a hole, and the card that is made of it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StrictBool

from ...core.card.checklist import ChecklistItem
from ...core.card.figures import Numbers, School
from ...core.card.from_hole_to_hole import CardChange
from ...core.card.hole_card import Gains, HoleCard, Unknown
from ...core.card.ice_guidance import GuidanceRow, IceWord
from ...core.card.knobs import CardView
from ...core.card.known_hole import KnownHole
from ...core.card.remedies import Remedy
from ...core.card.rules_of_thumb import Rule
from ...core.card.translate import Translated
from ...core.fields import Text
from ...formats.mirror import Described, Given, limits_of, mirrors
from ..contract import RowId, SentenceOut, UnitOut


@mirrors(KnownHole)
class CardWanted(Given):
    """What is known at a hole, in the order in which it becomes known; null is not known. Depth is enough."""

    unit_id: RowId | None = Field(None, description="The first of your units if not given")
    lure_id: RowId | None = Field(None, description="A 5 mm tungsten jig if not given")
    second_lure_id: RowId | None = None


@mirrors(Unknown)
class UnknownOut(Described):
    """Something not known, what is assumed of it, and what that may cost."""


@mirrors(Gains)
class GainsOut(Described):
    """In the unit's numbers; the firm window is what is left whatever the unknowns turn out to be."""


@mirrors(School)
class SchoolOut(Described):
    """What a school gives here."""


@mirrors(CardView)
class ViewOut(Described):
    """What a choice of window gives here."""


@mirrors(Numbers)
class NumbersOut(Described):
    """The numbers behind the card."""


@mirrors(Remedy)
class RemedyOut(Described):
    """Something that would widen the gain window."""


@mirrors(Rule)
class RuleOut(Described):
    """A rule of thumb beside what the card has, and why where they differ."""


@mirrors(ChecklistItem)
class CheckOut(Described):
    """A check before fishing, and whether it is ticked."""

    done: bool = False


@mirrors(GuidanceRow)
class GuidanceRowOut(Described):
    """One line of public guidance."""


@mirrors(IceWord)
class IceWordOut(Described):
    """General public guidance for clear ice (from memory) and the load rule of Gold 1971: no word that it is safe."""


@mirrors(CardChange)
class CardChangeOut(Described):
    """One thing to change from the hole before."""


@mirrors(HoleCard, leave_out=("at", "unit", "margins_db"))
class HoleCardOut(Described):
    """The card."""

    unit: UnitOut
    rules: list[RuleOut]
    checks: list[CheckOut]
    cautions: list[SentenceOut]
    ice: IceWordOut | None


class KeptCardOut(Described):
    """A hole's card, what it was made from, and what to change from the hole before; null with no hole before."""

    wanted: CardWanted
    card: HoleCardOut
    from_hole: str | None
    changes: list[CardChangeOut] | None


class CheckWanted(Given):
    name: Annotated[str, limits_of(Text(1, 40))]
    done: StrictBool


class TranslateWanted(Given):
    """A card's settings on another unit."""

    card: CardWanted
    to_unit_id: RowId


@mirrors(Translated)
class TranslatedOut(Described):
    """A card's settings on another unit, and what could not be matched."""

    unit: UnitOut
