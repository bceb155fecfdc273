"""What stands on the ice when a party sits in a shelter: its load beside what was measured there. Never that it holds.

The load rule is of loads that move on, and a shelter stays for hours: below what is said here ice can still break, and
local rules go before it.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..card.ice_guidance import GUIDANCE, counts_as, load_rule
from ..checks import number
from ..wording import Quantity, Sentence
from .ice import IceMeasured

# A grown person in winter clothes with gear and a sled; a shelter with what stands in it. Common practice, no source.
PERSON_KG, SHELTER_KG = 115.0, 40.0
# Ice gives way slowly under what stays: of the rule's load for moving loads no more than so much is named for hours in
# one place. From memory of public guidance, which speaks of half.
STAYS = 0.5


@dataclass(frozen=True)
class Load:
    """What stands there [kg], and what the load rule gives for the thinnest ice that was measured near [kg]; None where
    none was. `said` is both in words; `beyond` whether the load is more than the rule's half for loads that stay."""

    kg: float
    rule_kg: float | None
    beyond: bool
    said: Sentence


def load_of(people: int, ice: IceMeasured | None) -> Load:
    """The load of a party of `people` (1 to 8) beside the ice that was measured there.

    Raises ValueError naming what is outside its span. Source of the rule: Gold 1971, by `load_rule`.
    """
    number("people", people, 1, 8)
    kg = SHELTER_KG + PERSON_KG * people
    values = {"people": Quantity(people, "count"), "load": Quantity(kg, "kg")}
    who = "One person" if people == 1 else "{people} people"
    text = f"{who} with gear and a shelter are about {{load}}, and they stay for hours."
    if ice is None:
        return Load(
            kg, None, False, Sentence(f"{text} No ice was measured near: measure before you set it down.", values)
        )
    clear = counts_as(ice.thickness_m, ice.kind)
    rule = load_rule(clear)
    beyond = kg > STAYS * rule
    values |= {"clear": Quantity(clear, "m"), "rule": Quantity(rule, "kg"), "least": Quantity(GUIDANCE[0][1], "m")}
    text += (
        " For the thinnest ice measured near ({clear} of clear ice) the load rule gives {rule} for a load that moves"
        " on, and half at most for one that stays"
    )
    text += (
        ": this is more. Stand apart, or elsewhere." if beyond else ". Public guidance on foot: {least} of clear ice."
    )
    return Load(kg, rule, beyond, Sentence(f"{text} Local rules first.", values))
