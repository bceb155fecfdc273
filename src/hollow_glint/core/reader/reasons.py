"""Why a mark has its name, in words: a sentence for each measure that can decide one, with its number."""

from __future__ import annotations

from collections.abc import Callable

from ..wording import Quantity, Sentence
from . import sizing
from .mark_evidence import MarkEvidence
from .track import Track

GOES_WITH = 1.0  # log odds from which a mark is said to go with the rod
Reason = Callable[[Track, MarkEvidence, float], Sentence]


def _age(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    return Sentence("It has been there for {age}.", {"age": Quantity(time_s - one.began_s, "s")})


def _lit(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    return Sentence("It is lit in {share} of the pings.", {"share": Quantity(100.0 * one.story.lit, "percent")})


def _wander(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    step = evidence.view.unit.rejections[evidence.view.settings.rejection]
    values = {
        "by": Quantity(evidence.wander_db(one), "dB"),
        "fish": Quantity(sizing.fish_wander(int(step.pings), step.needed), "dB"),
    }
    return Sentence("Its colour wanders from ping to ping by {by}; a fish's would by {fish}.", values)


def _loud_as_lure(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    over, _ = evidence.over(one)
    text = "It is {by} louder than your lure would be there." if over >= 0.0 else "It is {by} fainter than your lure."
    return Sentence(text, {"by": Quantity(abs(over), "dB")})


def _loud_as_fish(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    _, over = evidence.over(one)
    length = 0.1 * 10.0 ** (over / sizing.LOVE_SLOPE)
    if length < sizing.SHORTEST_M:
        return Sentence("It is fainter than any fish under the hole that anyone asks about.")
    return Sentence("A fish of {length} under the hole is as loud.", {"length": Quantity(length, "m")})


def _rod(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    if one.rod_score > GOES_WITH:
        return Sentence("It goes up and down with the rod.")
    if one.rod_score < -GOES_WITH:
        return Sentence("It does not go with the rod.")
    moved = Quantity(float(one.story.range_var**0.5), "m")
    if one.still_score < 0.0:
        return Sentence("It moves by itself: by {moved} while the rod rests.", {"moved": moved})
    return Sentence("It has moved by {moved}.", {"moved": moved})


def _thick(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    return Sentence("It is {thick} thick.", {"thick": Quantity(one.story.thick_m, "m")})


def _on_the_line(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    return Sentence("It goes a part of the way with your lure: something on the line.")


def _spacing(one: Track, evidence: MarkEvidence, time_s: float) -> Sentence:
    return Sentence("It hangs as far from your lure as you tied it.")


# By feature; what is not here is no reason by itself: how many colours there are, how far from the bottom.
REASONS: dict[str, Reason] = {
    "age": _age, "lit": _lit, "lit now": _lit, "above chance": _lit,
    "wander": _wander, "loud as the lure": _loud_as_lure, "loud as a fish": _loud_as_fish,
    "goes with": _rod, "rests with": _rod, "off the rod": _rod, "stays": _rod, "own way": _rod,
    "thick": _thick, "on the line": _on_the_line, "spacing": _spacing,
}  # fmt: skip


def because(names: list[str], one: Track, evidence: MarkEvidence, time_s: float, most: int = 2) -> tuple[Sentence, ...]:
    """Up to `most` sentences for the features in `names`, most decisive first, none twice."""
    said: list[Sentence] = []
    for name in names:
        if name in REASONS and len(said) < most:
            sentence = REASONS[name](one, evidence, time_s)
            if sentence not in said:
                said.append(sentence)
    return tuple(said)
