"""What is odd in a unit's profile though it can be: asked about while it is typed, never refused."""

from __future__ import annotations

from dataclasses import dataclass

from ..wording import Quantity, Sentence
from .unit import GainScale, UnitProfile

LEAST_SPAN_DB, MOST_SPAN_DB = 25.0, 120.0  # of a gain knob from end to end; about 60 is usual. Common practice
USUAL_SPAN_DB = 60.0
SAME_SPAN = 0.1  # share by which a span may change with the knob's numbers and still be the same


@dataclass(frozen=True)
class Oddity:
    """What is asked, and the dB a step that would settle it."""

    asked: Sentence
    db_per_step: float


def oddities(unit: UnitProfile, before: GainScale | None = None) -> tuple[Oddity, ...]:
    """What to ask about `unit`; `before` is its gain knob as it was kept until now.

    Other numbers on a knob change nothing of how much gain it has from end to end.
    """
    scale = unit.gain
    span = scale.decibels(scale.maximum)
    steps = (scale.maximum - scale.minimum) / scale.step
    found = []
    if before is not None and _renumbered(scale, before):
        had = before.decibels(before.maximum)
        if abs(span / had - 1.0) > SAME_SPAN:
            text = (
                "With these numbers the knob would have {span} from end to end, where it had {had}. Other numbers on "
                "the same knob leave that as it is: {step} a step keeps it."
            )
            keeps = round(had / steps, 3)
            values = {"span": Quantity(span, "dB"), "had": Quantity(had, "dB"), "step": Quantity(keeps, "dB")}
            return (Oddity(Sentence(text, values), keeps),)
    if not LEAST_SPAN_DB <= span <= MOST_SPAN_DB:
        text = (
            "From end to end this knob would have {span}; about {usual} is usual. Is one step really {now}? "
            "{step} a step would give {usual}."
        )
        usual = round(USUAL_SPAN_DB / steps, 3)
        values = {
            "span": Quantity(span, "dB"), "usual": Quantity(USUAL_SPAN_DB, "dB"),
            "now": Quantity(scale.db_per_step, "dB"), "step": Quantity(usual, "dB"),
        }  # fmt: skip
        found.append(Oddity(Sentence(text, values), usual))
    return tuple(found)


def _renumbered(scale: GainScale, before: GainScale) -> bool:
    """Whether the numbers on the knob changed, and what a step adds did not follow."""
    numbers = (scale.minimum, scale.maximum, scale.step) != (before.minimum, before.maximum, before.step)
    return numbers and abs(scale.db_per_step / before.db_per_step - 1.0) < 1e-6
