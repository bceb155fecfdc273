"""Stay or go: what watching another minute is worth against walking, drilling and looking elsewhere.

Schools are met as molecules are in an ideal gas: one who stands still and sees `R` far, among schools that swim at `v`,
meets `D pi R^2` of them at the first look and `2 R v D` a second from then on (Hutchinson and Waser 2007, Biological
Reviews 82, 335-359). How many live here, `D`, is not known: it is learned as a gamma-Poisson density, of which the lake
elsewhere is the prior (Gelman and others 2013, Bayesian Data Analysis, section 2.6). One goes when staying, for as
long as it pays, no longer brings more schools an hour than the best that moving about can bring (the marginal-value
theorem, Charnov 1976, Theoretical Population Biology 9, 129-136; with learning, the index of Gittins 1979, J. R. Stat.
Soc. B 41, 148-177). Both rates are found by dynamic programming over what will have been seen.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from math import lgamma
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..checks import number
from ..fields import Span, check_fields, doc
from ..wording import Quantity, Sentence

Array = NDArray[np.float64]
STEP = 0.03  # of the logarithm of what has been watched
LONGEST_S = 3600.0  # a good place is good for about this long: schools move on, and days end. Common practice
MOST_SEEN = 1000
TURN_S = 10.0  # a first look is one turn of the picture, about this long. Common practice, no source
MOST_WATCHED_S = 24.0 * 3600.0
AT_ONCE = 3  # schools at most in one step that are told apart
RATES = 24  # tried at a time
PRECISION = 3e-4  # of a rate
MOST_ROUNDS = 14


@dataclass(frozen=True)
class Waters:
    """Where one looks, and what the lake is like elsewhere."""

    look_radius_m: Annotated[float, Span(1.0, 300.0, "m")]
    fish_speed_m_s: Annotated[float, Span(0.001, 5.0, "m/s")]
    schools_per_km2: Annotated[float, Span(0.01, 10_000.0, "per km2"), doc("In the lake, on average")]
    sure: Annotated[
        float, Span(1.0, 1e8, "m2"), doc("How much watched water that average is worth: little where places differ")
    ]
    move_s: Annotated[float, Span(1.0, 86_400.0, "s"), doc("To walk, drill and rig elsewhere")]

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def schools(self) -> float:
        """What the prior is worth as schools seen [1]."""
        return self.schools_per_km2 * 1e-6 * self.sure

    @property
    def at_first_m2(self) -> float:
        """Water watched at the first look [m^2]."""
        return float(np.pi * self.look_radius_m**2)

    @property
    def swept_m2_s(self) -> float:
        """Water that swims past each second [m^2/s]."""
        return 2.0 * self.look_radius_m * self.fish_speed_m_s

    def watched_m2(self, watched_s: float) -> float:
        """Water watched after so long [s]: during the first look what was turned over, then what swims past."""
        return self.at_first_m2 * min(watched_s / TURN_S, 1.0) + self.swept_m2_s * watched_s


@dataclass(frozen=True)
class Clock:
    """What the clock says.

    stay_worth    schools an hour, staying for as long as it pays
    go_worth      schools an hour of the best that moving about can bring
    go_at_s       when it would say go if nothing more is seen, from the beginning [s]
    nobody_here   chance that no school comes within sight for as long as moving would take
    """

    stay: bool
    go_at_s: float
    stay_worth: float
    go_worth: float
    nobody_here: float
    why: Sentence


def worths(waters: Waters, watched_s: float, seen: int) -> tuple[float, float]:
    """Schools an hour, staying for as long as it pays and moving about, after `seen` in `watched_s` [s].

    Raises ValueError naming what is outside its span.
    """
    here, elsewhere = _rates(waters, watched_s, seen)
    return 3600.0 * here, 3600.0 * elsewhere


def _rates(waters: Waters, watched_s: float, seen: int) -> tuple[float, float]:
    """The same a second [1/s]."""
    number("watched_s", watched_s, 0.0, MOST_WATCHED_S, "s")
    number("seen", seen, 0, MOST_SEEN)
    here = staying_rate(waters, waters.watched_m2(watched_s), seen)
    if watched_s < TURN_S:  # the first look is still being taken: nothing else brings so much so soon
        here = max(here, (waters.schools + seen) / waters.sure * waters.watched_m2(TURN_S) / TURN_S)
    return here, best_rate(waters)


def stay_or_go(waters: Waters, watched_s: float, seen: int) -> Clock:
    """What to do after `watched_s` [s] in which `seen` schools were seen, the first look's among them.

    Raises ValueError naming what is outside its span.
    """
    here, elsewhere = _rates(waters, watched_s, seen)
    stay = here >= elsewhere
    leaves = go_at(waters, elsewhere, seen)
    leaves = max(leaves, watched_s) if stay else min(leaves, watched_s)
    passing = waters.swept_m2_s * waters.move_s
    sure = waters.sure + waters.watched_m2(watched_s)
    nobody = float((sure / (sure + passing)) ** (waters.schools + seen))
    values = {
        "here": Quantity(round(3600.0 * here, 1), "count"),
        "there": Quantity(round(3600.0 * elsewhere, 1), "count"),
        "nobody": Quantity(100.0 * nobody, "percent"),
        "move": Quantity(waters.move_s, "s"),
    }
    said = (
        "Staying brings {here} schools an hour, moving about {there}: stay."
        if stay
        else "Staying brings {here} schools an hour, moving about {there}: go."
    )
    said += " That none comes by in the {move} that moving takes: {nobody}."
    return Clock(stay, leaves, 3600.0 * here, 3600.0 * elsewhere, nobody, Sentence(said, values))


def go_at(waters: Waters, elsewhere: float, seen: int) -> float:
    """When staying is worth no more than `elsewhere` [schools a second] if `seen` are all that are seen [s].

    What staying is worth falls with what was watched, so the moment is found by halving.
    """
    # Never sooner than a first look: until then this place is like any other, and one stands on it.
    low, high = waters.watched_m2(TURN_S), waters.watched_m2(MOST_WATCHED_S)
    if staying_rate(waters, low, seen) < elsewhere:
        return TURN_S
    if staying_rate(waters, high, seen) >= elsewhere:
        return MOST_WATCHED_S
    for _ in range(12):
        middle = float(np.sqrt((waters.sure + low) * (waters.sure + high)) - waters.sure)
        low, high = (middle, high) if staying_rate(waters, middle, seen) >= elsewhere else (low, middle)
    return float((0.5 * (low + high) - waters.at_first_m2) / waters.swept_m2_s)


@lru_cache(maxsize=256)
def best_rate(waters: Waters) -> float:
    """The most schools a second [1/s] that moving from place to place can bring, leaving each at the best moment."""
    sure, look = waters.sure, waters.watched_m2(TURN_S)
    a = waters.schools
    mean = a * look / sure
    aside = 8.0 * np.sqrt(mean * (1.0 + look / sure)) + 10.0
    n = np.arange(int(max(mean - aside, 0.0)), int(mean + aside) + 1)
    ways = np.array([lgamma(a + k) - lgamma(a) - lgamma(k + 1.0) for k in n])
    log_chance = ways + a * np.log(sure / (sure + look))
    chance = np.exp(log_chance + n * np.log(look / (sure + look)))

    def gains(rates: Array) -> Array:
        further = _further(waters, rates, look, n)
        # The mean is the prior's own: what lies beyond the table is counted in it too.
        return np.asarray(mean + further @ chance - rates * (waters.move_s + TURN_S))

    return _where_nothing(gains, _most(waters))


def staying_rate(waters: Waters, watched_m2: float, seen: int) -> float:
    """The most schools a second [1/s] that staying can bring, for as long as it pays, after so much was seen."""
    first = (waters.schools + seen) / (waters.sure + watched_m2) * waters.swept_m2_s

    def gains(rates: Array) -> Array:
        # At a rate at which one would leave at once nothing is gained; below it something is.
        return np.asarray(_further(waters, rates, watched_m2, np.array([seen]))[:, 0])

    return max(_where_nothing(gains, 8.0 * first), first)


def _most(waters: Waters) -> float:
    """No way of moving about brings more than this [1/s]: every move lands on what a first look shows, and on water
    that is rich beyond chance."""
    a = waters.schools
    mean = a * waters.watched_m2(TURN_S) / waters.sure
    rich = (a + mean + 8.0 * np.sqrt(a + mean) + 40.0) / (waters.sure + waters.at_first_m2)
    return float(mean / waters.move_s + rich * waters.swept_m2_s)


def _where_nothing(gains: Callable[[Array], Array], most: float) -> float:
    """The rate at which a gain that falls with the rate passes nothing."""
    low, high = 0.0, most
    for _ in range(MOST_ROUNDS):
        if high - low <= PRECISION * high:
            break
        rates = np.linspace(low, high, RATES)
        above = np.flatnonzero(gains(rates) > 0.0)
        k = int(above[-1]) if above.size else 0
        low, high = float(rates[k]), float(rates[min(k + 1, RATES - 1)])
    return 0.5 * (low + high)


def _further(waters: Waters, rates: Array, watched_m2: float, seen: NDArray[np.int_]) -> Array:
    """What staying on gains over leaving at once (rates, seen), where each second costs so much [1/s], when so much was
    watched and so many were seen.

    Backwards over what will have been watched, in steps of its logarithm: in each of them a gamma-Poisson density lets
    so many schools come as the negative binomial says.
    """
    start = float(np.log(waters.sure + watched_m2))
    end = float(np.log(waters.sure + watched_m2 + waters.swept_m2_s * LONGEST_S))
    steps = max(int(np.ceil((end - start) / STEP)), 8)
    size = (end - start) / steps
    many = int(seen.max()) + 1 + AT_ONCE + max(int(4.0 * np.sqrt(waters.schools + seen.max() + 1.0)), 12)
    n = np.arange(many)
    a = waters.schools + n
    come = 1.0 - np.exp(-size)
    none = np.exp(-size * a)
    chances = [none]
    for k in range(1, AT_ONCE + 1):
        chances.append(chances[-1] * (a + k - 1) / k * come)
    mean = a * (np.exp(size) - 1.0)
    chances[-1] = np.maximum(1.0 - sum(chances[:-1]), 0.0)
    worth = np.zeros((rates.size, many))
    for step in range(steps - 1, -1, -1):
        watched = np.exp(start + step * size)
        seconds = watched * (np.exp(size) - 1.0) / waters.swept_m2_s
        then = chances[0] * worth
        for k in range(1, AT_ONCE + 1):
            then[:, :-k] += chances[k][:-k] * worth[:, k:]
            then[:, -k:] += chances[k][-k:] * worth[:, -1:]
        worth = np.maximum(mean + then - rates[:, None] * seconds, 0.0)
    return np.asarray(worth[:, seen])
