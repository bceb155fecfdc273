"""What a thing on the picture can be: a school, hunters, a single fish or something that stands, with its chances.

Bayes' rule with features taken as independent (naive Bayes; Hand and Yu 2001, International Statistical Review 69,
385-398), before which every kind is as likely as another. How often each kind looks how was counted on made-up water
(seeds 5000 to 5399 of `benchmarks.searching`), and stands in one table.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal, get_args

import numpy as np

from ..fields import Span, check_fields, doc
from ..wording import Quantity, Sentence

ThingKind = Literal["school", "hunters", "single fish", "standing"]
THINGS: tuple[ThingKind, ...] = get_args(ThingKind)
MOST_MARKS = 500
# The features are not independent, and a finger at times touches a neighbour: taken at their word they would promise
# too much. Counted on the same made-up water as the looks.
INDEPENDENT = 0.65
MOVES, STAYS = 0.25, 0.75  # shares of the marks up to which a thing moves, and from which on it stays


@dataclass(frozen=True)
class Seen:
    """What is seen of a thing."""

    marks: Annotated[int, Span(1, MOST_MARKS), doc("Separate marks")]
    spread_m: Annotated[float, Span(0.0, 100.0, "m"), doc("How far they lie from their middle")]
    largest_m: Annotated[
        float | None, Span(0.0, 100.0, "m"), doc("How far the largest reaches; null where that is not told")
    ]
    stays: Annotated[
        float | None, Span(0.0, 1.0), doc("Share of them that was in the same place a turn before; null for one turn")
    ]
    dark_behind: Annotated[bool, doc("Whether it is dark behind it")] = False

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class LooksLike:
    """How a kind looks: logarithms of the number of marks and of the largest's reach [m] (mean, deviation), of how far
    they spread [m, and 0.2], the shares that move, do neither, and stay, and how often it is dark behind."""

    marks: tuple[float, float]
    largest: tuple[float, float]
    spread: tuple[float, float]
    stays: tuple[float, float, float]
    dark: float


LOOKS: dict[ThingKind, LooksLike] = {
    "school": LooksLike((1.31, 1.03), (-0.36, 1.16), (-0.07, 1.03), (0.67, 0.08, 0.25), 0.05),
    "hunters": LooksLike((0.69, 0.61), (-1.26, 0.87), (-0.32, 0.95), (0.87, 0.02, 0.11), 0.03),
    "single fish": LooksLike((0.27, 0.73), (-1.19, 1.13), (-1.31, 0.74), (0.10, 0.02, 0.88), 0.06),
    "standing": LooksLike((0.49, 0.80), (1.01, 0.87), (-1.01, 0.86), (0.01, 0.01, 0.98), 0.47),
}


@dataclass(frozen=True)
class CanBe:
    """What a thing can be, how likely (0 to 1), and why."""

    kind: ThingKind
    chance: float
    why: tuple[Sentence, ...]


def what_kind(seen: Seen) -> list[CanBe]:
    """What a thing can be, the likeliest first; the chances add up to one."""
    logs = np.array([_log_chance(seen, LOOKS[kind]) for kind in THINGS])
    chances = np.exp(INDEPENDENT * (logs - logs.max()))
    chances /= chances.sum()
    order = np.argsort(-chances, kind="stable")
    return [CanBe(THINGS[k], float(chances[k]), _why(seen, THINGS[k])) for k in order]


def _log_chance(seen: Seen, looks: LooksLike) -> float:
    said = _normal(np.log(seen.marks), looks.marks) + _normal(np.log(seen.spread_m + 0.2), looks.spread)
    if seen.largest_m is not None:
        said += _normal(np.log(max(seen.largest_m, 0.05)), looks.largest)
    if seen.stays is not None:
        said += np.log(looks.stays[0 if seen.stays <= MOVES else 2 if seen.stays >= STAYS else 1])
    return float(said + np.log(looks.dark if seen.dark_behind else 1.0 - looks.dark))


def _normal(value: float, of: tuple[float, float]) -> float:
    return float(-0.5 * ((value - of[0]) / of[1]) ** 2 - np.log(of[1]))


def _why(seen: Seen, kind: ThingKind) -> tuple[Sentence, ...]:
    """What speaks for a kind, and what against it."""
    count = Quantity(float(seen.marks), "count")
    spread = Quantity(seen.spread_m, "m")
    moves, stays = seen.stays is not None and seen.stays <= MOVES, seen.stays is not None and seen.stays >= STAYS
    many = seen.marks >= 5
    out = [
        Sentence("{count} marks, {spread} about their middle.", {"count": count, "spread": spread})
        if seen.marks > 1
        else Sentence("One mark.")
    ]
    if kind == "school":
        out.append(Sentence("Many small ones together are a school." if many else "A school would have more marks."))
    elif kind == "hunters":
        out.append(
            Sentence("Two to four apart that move are hunters." if 2 <= seen.marks <= 4 else "Hunters are two to four.")
        )
    elif kind == "single fish" and seen.marks > 2:
        out.append(Sentence("A single fish would be one mark."))
    if stays:
        out.append(
            Sentence(
                "It is where it was a turn before, as what stands is."
                if kind == "standing"
                else "It is where it was a turn before: it rests, or it is no fish."
            )
        )
    elif moves:
        out.append(
            Sentence(
                "It has moved: nothing that stands does."
                if kind == "standing"
                else "It has moved since the turn before."
            )
        )
    elif seen.stays is None:
        out.append(Sentence("Watch one turn more: what stands stays."))
    if seen.dark_behind:
        out.append(Sentence("It is dark behind it: it stands up from the bed."))
    elif kind == "standing":
        out.append(Sentence("There is no shadow behind it."))
    return tuple(out)
