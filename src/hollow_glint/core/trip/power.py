"""How long a battery lasts in the cold: hours as a span, with the reasons.

A battery gives less the faster it is emptied (Peukert 1897) and the colder it is. What a temperature leaves of the
capacity stands in handbooks (Reddy 2011, Linden's Handbook of Batteries, 4th edition: lead-acid in chapter 16, lithium
in chapter 26); the values here are from memory and stand for a common battery, so that the answer is a span.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from ..checks import number, one_of
from ..wording import Quantity, Sentence

Chemistry = Literal["lead", "lithium iron phosphate"]


@dataclass(frozen=True)
class Kind:
    """What a chemistry does: Peukert's exponent, what cold leaves of the capacity (temperature [deg C], share), and how
    much of it may be taken out. Each as least, likely and most. From memory, see above."""

    exponent: tuple[float, float, float]
    cold: tuple[tuple[float, float], ...]
    usable: tuple[float, float, float]


KINDS: dict[str, Kind] = {
    "lead": Kind(
        (1.28, 1.18, 1.08),
        ((-30.0, 0.40), (-20.0, 0.58), (-10.0, 0.72), (0.0, 0.84), (10.0, 0.93), (25.0, 1.0), (40.0, 1.03)),
        (0.75, 0.92, 1.0),
    ),
    "lithium iron phosphate": Kind(
        (1.06, 1.03, 1.0),
        ((-30.0, 0.45), (-20.0, 0.66), (-10.0, 0.82), (0.0, 0.91), (10.0, 0.96), (25.0, 1.0), (40.0, 1.0)),
        (0.85, 0.97, 1.0),
    ),
}
UNSURE_PER_DEG = 0.0035  # how much less sure the share is for each degree below 25. From memory
COLDEST_C, WARMEST_C = -40.0, 50.0


@dataclass(frozen=True)
class Hours:
    """Hours until it is empty: at the least, likely, at the most."""

    low: float
    likely: float
    high: float


@dataclass(frozen=True)
class Lasts:
    """How long, and why."""

    hours: Hours
    reasons: tuple[Sentence, ...]


def lasts(chemistry: str, capacity_ah: float, rated_hours: float, draw_a: float, temperature_c: float) -> Lasts:
    """How long a full battery gives `draw_a` [A], whose capacity [Ah] is rated over `rated_hours` [h] at 25 deg C.

    Raises ValueError naming what is outside its span.
    """
    kind = KINDS[one_of("chemistry", chemistry, get_args(Chemistry))]
    number("capacity_ah", capacity_ah, 0.1, 1000.0, "Ah")
    number("rated_hours", rated_hours, 0.5, 100.0, "h")
    number("draw_a", draw_a, 0.005, 100.0, "A")
    number("temperature_c", temperature_c, COLDEST_C, WARMEST_C, "degrees C")
    degrees, shares = zip(*kind.cold, strict=True)
    share = float(np.interp(temperature_c, degrees, shares))
    unsure = UNSURE_PER_DEG * max(25.0 - temperature_c, 0.0)
    cold = (max(share - unsure, 0.05), share, min(share + unsure, max(shares)))
    rated = capacity_ah / rated_hours
    # Peukert: the time at a draw is the rated time times (rated draw / draw) to the exponent.
    at_draw = [rated_hours * (rated / draw_a) ** exponent for exponent in kind.exponent]
    if draw_a < rated:  # slower than it is rated for, the exponents change sides
        at_draw.reverse()
    low, likely, high = (t * c * u for t, c, u in zip(sorted(at_draw), cold, kind.usable, strict=True))
    plain = capacity_ah / draw_a
    return Lasts(Hours(low, likely, high), _reasons(plain, at_draw[1], share, kind.usable[1]))


def _reasons(plain_h: float, at_draw_h: float, share: float, usable: float) -> tuple[Sentence, ...]:
    def percent(one: float) -> Quantity:
        return Quantity(100.0 * one, "percent")

    more = at_draw_h >= plain_h
    return (
        Sentence("Capacity over draw would be {plain}.", {"plain": Quantity(plain_h, "h")}),
        Sentence(
            "Emptied more slowly than it is rated for, it gives a little more: {hours}."
            if more
            else "Emptied faster than it is rated for, it gives less: {hours}.",
            {"hours": Quantity(at_draw_h, "h")},
        ),
        Sentence("At that cold about {share} of it is there.", {"share": percent(share)}),
        Sentence("The last of it is not to be had without harm: {share} is reckoned with.", {"share": percent(usable)}),
    )
