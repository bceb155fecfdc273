"""What patterns say in plain words, the surest first; and that there is too little to say where there is."""

from __future__ import annotations

from ..wording import Quantity, Sentence
from .patterns import LevelPattern, Patterns
from .season import FACTORS

LITTLE_HOURS = 5.0  # of one line: below this nothing is said of a rate but that


def sayings(found: Patterns, of: str, most: int = 6) -> tuple[Sentence, ...]:
    """The plain words of what efforts say of `of` ("bites")."""
    if found.rod_hours < LITTLE_HOURS:
        text = "Too little to say: {hours} of one line so far. A few outings with their hours noted change that."
        return (Sentence(text, {"hours": Quantity(found.rod_hours, "h")}),)
    sure = sorted(
        (
            (abs(one.better - 0.5), factor, name, one)
            for factor, levels in found.factors.items()
            for name, one in levels.items()
            if one.says != "no telling"
        ),
        key=lambda entry: -entry[0],
    )
    said = [_said(of, factor, name, one, found) for _, factor, name, one in sure[:most]]
    if not said:
        text = (
            f"Nothing you noted makes a difference to {of} that {{hours}} of one line can tell from chance. That is an "
            "answer too: no rule is made of it."
        )
        said.append(Sentence(text, {"hours": Quantity(found.rod_hours, "h")}))
    return tuple(said)


def _said(of: str, factor: str, name: str, one: LevelPattern, found: Patterns) -> Sentence:
    sure = one.better if one.says == "better" else 1.0 - one.better
    text = (
        f"{FACTORS.get(factor, factor)}, {name}: {{likely}} {of} an hour ({{low}} to {{high}}), {one.says} than your "
        "usual {usual} with {sure}, from {hours} of one line."
    )
    values = {
        "likely": Quantity(one.rate.likely, "per hour"),
        "low": Quantity(one.rate.low, "per hour"),
        "high": Quantity(one.rate.high, "per hour"),
        "usual": Quantity(found.overall.likely, "per hour"),
        "sure": Quantity(100.0 * sure, "percent"),
        "hours": Quantity(one.rod_hours, "h"),
    }
    return Sentence(text, values)
