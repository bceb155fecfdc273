"""The strike sheet for the ice: what to try next, from what has happened at this hole today, and on what evidence.

Each species has a ladder of things to try, in the order in which anglers go ("common practice, no source"). What has
been tried today is weighed by how fish answered, with the interval that so few answers leave open; nothing is advised
without saying from how many.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from ..checks import one_of
from ..fields import OneOf, Span, check_fields
from ..hole.contents import DEEPEST_M
from ..intervals import wilson
from ..wording import Quantity, Sentence

TRIES: dict[str, str] = {
    "hold": "Hold still at the aim line.",
    "slow lift": "Lift slowly, a finger's width a second, while it looks.",
    "lift and wait": "Lift a hand's width, then wait four seconds.",
    "pound": "Drop to the bottom, pound three times, lift and wait.",
    "smaller": "Change to a smaller lure, or a fresh bait.",
    "change": "Change the lure: another form or colour.",
    "move": "Move to the next hole.",
}
LADDERS: dict[str, tuple[str, ...]] = {
    "whitefish": ("lift and wait", "slow lift", "hold", "smaller", "pound", "change", "move"),
    "grayling": ("slow lift", "lift and wait", "smaller", "hold", "change", "move"),
    "char": ("slow lift", "lift and wait", "change", "hold", "pound", "move"),
    "burbot": ("pound", "hold", "slow lift", "change", "move"),
    "bait": ("hold", "smaller", "move"),
}
HAPPENED = ("look", "follow", "bite", "miss", "fish", "nothing")
GOOD = {"look": 0.0, "follow": 0.5, "bite": 1.0, "miss": 1.0, "fish": 1.0}
STAGES = ("look", "follow", "bite", "miss", "fish")  # in the order in which one fish goes through them
ONE_FISH_S = 180.0  # a fish that has not gone on by then is gone. Common practice
ENOUGH = 3  # looks without more, before the next thing is tried. Common practice
QUIET_S = 20 * 60.0  # without any sign of fish, time to move. Common practice
FRESH_S = 12 * 3600.0


@dataclass(frozen=True)
class Happened:
    """One touch on the sheet: seconds ago [s], what, what was being tried, depth [m] if it was noted."""

    ago_s: Annotated[float, Span(0.0, 1e9, "s")]
    kind: Annotated[str, OneOf(HAPPENED)]
    trying: Annotated[str, OneOf(TRIES)]
    depth_m: Annotated[float | None, Span(0.05, DEEPEST_M, "m")] = None

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Evidence:
    """How fish answered one thing today: how many looked, how many of those did more, took, and the interval of the
    share that did more."""

    trying: str
    looks: int
    more: int
    takes: int
    low: float
    high: float


@dataclass(frozen=True)
class Suggestion:
    """The next thing to try, why, and the evidence of the day, in the ladder's order."""

    trying: str
    do: str
    why: Sentence
    evidence: tuple[Evidence, ...]


def evidence_of(happened: Sequence[Happened], species: str) -> tuple[Evidence, ...]:
    """What each thing on the species' ladder has brought today; "nothing" is no answer to weigh."""
    ladder = LADDERS[one_of("species", species, tuple(LADDERS))]
    out = []
    for name in (*ladder, *(key for key in TRIES if key not in ladder)):
        mine = [one for one in happened if one.trying == name and one.kind in GOOD and one.ago_s < FRESH_S]
        if not mine:
            continue
        fish = furthest(mine)
        more = sum(GOOD[one] > 0.0 for one in fish)
        takes = sum(GOOD[one] == 1.0 for one in fish)
        low, high = wilson(more, len(fish))
        out.append(Evidence(name, len(fish), more, takes, low, high))
    return tuple(out)


def furthest(happened: Sequence[Happened]) -> list[str]:
    """How far each fish went, oldest first: one that is touched in as it looks, follows, bites and is missed is one."""
    touches = sorted(((-one.ago_s, one.kind) for one in happened), key=lambda one: one[0])
    return [kind for _, kind in each_fish(touches)]


def each_fish(touches: Sequence[tuple[float, str]]) -> list[tuple[float, str]]:
    """When each fish was first seen [s] and how far it went, from touches (time [s], kind) oldest first.

    A touch goes on with the fish before when it comes within ONE_FISH_S of its last touch and is a stage further on;
    the same stage again, or an earlier one, is another fish.
    """
    return [(touches[mine[0]][0], touches[mine[-1]][1]) for mine in touches_of_each(touches)]


def touches_of_each(touches: Sequence[tuple[float, str]]) -> list[list[int]]:
    """Which touches (time [s], kind), oldest first, are of which fish: see `each_fish`."""
    fish: list[list[int]] = []
    for k, (at, kind) in enumerate(touches):
        last = touches[fish[-1][-1]] if fish else (-math.inf, "fish")
        if at - last[0] <= ONE_FISH_S and STAGES.index(kind) > STAGES.index(last[1]):
            fish[-1].append(k)
        else:
            fish.append([k])
    return fish


def suggest(happened: Sequence[Happened], species: str, at_hole_s: float) -> Suggestion:
    """What to try next after `happened` (any order), `at_hole_s` [s] after coming to the hole.

    Raises ValueError for a species without a ladder.
    """
    evidence = evidence_of(happened, species)
    ladder = LADDERS[species]
    today = sorted((one for one in happened if one.ago_s < FRESH_S), key=lambda one: one.ago_s)
    signs = [one for one in today if one.kind != "nothing"]

    def say(trying: str, text: str, **values: Quantity) -> Suggestion:
        return Suggestion(trying, TRIES[trying], Sentence(text, values), evidence)

    def n(value: int) -> Quantity:
        return Quantity(value, "count")

    quiet = min([at_hole_s, *(one.ago_s for one in signs)])
    if quiet >= QUIET_S and (signs or at_hole_s >= QUIET_S):
        return say("move", "No sign of a fish for {quiet}: this hole is not worth more of the day.",
                   quiet=Quantity(quiet, "s"))  # fmt: skip
    if not today:
        return say(ladder[0], f"Nothing tried yet today. For {species} people begin with this.")
    caught = [one for one in today if one.kind == "fish"]
    now = today[0].trying
    if today[0].kind == "fish":
        return say(now, "It has just caught one: do the same again, at the same height.")
    best = max(evidence, key=lambda one: (one.takes > 0, one.low, one.takes), default=None)
    tried = {one.trying: one for one in evidence}
    here = tried.get(now)
    if here is not None and here.more and _last_ones_bad(today, now) < ENOUGH:
        return say(now, "{more} of {looks} that looked did more than look. Stay with it.", more=n(here.more),
                   looks=n(here.looks))  # fmt: skip
    # The one in use has gone stale, or never began to work: back to what did, else one step on.
    if best is not None and best.trying != now and best.more >= 2 and best.trying != "move":
        return say(
            best.trying, "{more} of {looks} did more than look when you did this; lately none did.",
            more=n(best.more), looks=n(best.looks),
        )  # fmt: skip
    if here is not None and _last_ones_bad(today, now) < ENOUGH:
        left = ENOUGH - _last_ones_bad(today, now)
        return say(now, "{looks} looked, none did more. Give it {left} more before you change.", looks=n(here.looks),
                   left=n(left))  # fmt: skip
    untried = [name for name in ladder if name not in tried and name != now and name != "move"]
    if untried:
        bad = _last_ones_bad(today, now)
        return say(
            untried[0], "{bad} in a row looked and did no more. Next on the ladder, and not tried today.", bad=n(bad)
        )
    if caught:
        last = caught[0].trying
        return say(last, "Everything on the ladder has been tried; this caught {fish} today.", fish=n(len(caught)))
    return say("move", "The whole ladder has been tried here today, and nothing was caught.")


def _last_ones_bad(today: Sequence[Happened], trying: str) -> int:
    """How many of the newest answers in a row, under what is being tried, were a look and no more, or nothing."""
    bad = 0
    for one in today:
        if one.trying != trying or one.kind not in ("look", "nothing"):
            break
        bad += 1
    return bad
