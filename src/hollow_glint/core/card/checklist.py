"""Checks before fishing, short enough to tick with a glove, and the cautions that go with every card.

The checks are common practice, no source. The cautions say what can hurt someone and leave the deciding to local
authorities, local rules and licensed practice.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..wording import Quantity, Sentence
from .hole_card import HoleCard

NO_SAFE_ICE = (
    "No ice is safe ice; measure as you go; local authorities and local rules on holes, lines, shelters and vehicles "
    "decide."
)


@dataclass(frozen=True)
class ChecklistItem:
    """One check: its name, by which it is remembered, and what to look at."""

    name: str
    said: Sentence


def checks(card: HoleCard) -> tuple[ChecklistItem, ...]:
    """What to look at before fishing, in the order of the hands."""
    values = {
        "volts": Quantity(card.unit.lowest_battery_v, "V"),
        "face": Quantity(card.face_depth_m, "m"),
        "below": Quantity(card.below_ice_m, "m"),
        "ice": Quantity(card.scene.ice_thickness_m, "m"),
        "lure": Quantity(card.lure_depth_m, "m"),
    }
    found = [
        ChecklistItem("connections", Sentence("Connections tight")),
        ChecklistItem("battery", Sentence("Battery above {volts}", values)),
        ChecklistItem("wet face", Sentence("Face wetted and rubbed")),
        ChecklistItem("plumb", Sentence("Hanging plumb, in the middle of the hole")),
        ChecklistItem("below the ice", Sentence(_below_the_ice(card), values)),
    ]
    if card.at.holes == 2:
        if card.second_hole_m is None:
            said = Sentence("The seen zone is too narrow for a second hole: fish through this one", values)
        else:
            values = {**values, "far": Quantity(card.second_hole_m, "m")}
            said = Sentence("Second hole within {far}, so that the lure at {lure} is seen", values)
        found += [
            ChecklistItem("second hole", said),
            ChecklistItem("cable", Sentence("Cable clear of the fishing hole")),
        ]
    else:
        found.append(ChecklistItem("cable", Sentence("Cable clear of the line")))
    if card.unit.directional:
        found.append(ChecklistItem("handle mark", Sentence("Handle mark in line with the transducer")))
    return tuple(found)


def _below_the_ice(card: HoleCard) -> str:
    """Where the face hangs; of ice that nobody measured it says so."""
    if "ice_thickness_m" in card.at.unknown():
        return "Face at {face}: {below} below ice taken as {ice} thick. Measure it"
    return "Face at {face}, {below} below the ice"


def cautions(card: HoleCard) -> tuple[Sentence, ...]:
    """What to mind at every hole; ice comes first."""
    found = [
        Sentence(NO_SAFE_ICE),
        Sentence("A heater or an engine in a shelter makes carbon monoxide: keep air moving, and carry an alarm."),
        Sentence("Lithium batteries: no charging below freezing. Keep them dry and from being crushed."),
    ]
    snow, slush = card.at.snow_m or 0.0, card.at.slush_m or 0.0
    if snow > 0.1:
        text = "Snow of {snow} weighs on the ice and keeps it from thickening; it hides cracks and holes."
        found.append(Sentence(text, {"snow": Quantity(snow, "m")}))
    if slush > 0.0:
        found.append(Sentence("Slush of {slush}: water has come up through cracks or holes. Measure again.",
                          {"slush": Quantity(slush, "m")}))  # fmt: skip
    return tuple(found)
