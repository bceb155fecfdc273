"""The cadence lab: a pattern of lifts and pauses against a hundred simulated fish, each alone with its own lure.

A pattern is a list of moves that repeats. All its fish are stepped together, so a hundred of them take a fraction of a
second. What comes out is how many came, followed and took, with the interval that so few fish leave open.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats, number
from ..fields import Len, Span, Text, check_fields
from ..gear.lures import OFF_BOTTOM_M
from ..intervals import mcnemar, wilson
from .day import Day
from .fish import Visitors
from .states import CURIOUS, FOLLOWING, MOUTHING, PASSING, Newcomer
from .stimulus import LureStimulus

STEP_S = 0.05
WATCHED_S = 75.0  # how long each fish is given
FISH = 100
MOST_MOVES = 100
TOP_ROOM_M = 0.3
BACK_M_S = 0.10  # a lure is let back down this slowly: a drop puts fish off


@dataclass(frozen=True)
class Move:
    """For `seconds` [s] the hand moves at `lift_m_s` [m/s, up positive]; `twitch` shivers the lure as it begins."""

    seconds: Annotated[float, Span(0.05, 60.0, "s")]
    lift_m_s: Annotated[float, Span(-1.0, 1.0, "m/s")] = 0.0
    twitch: bool = False

    def __post_init__(self) -> None:
        check_fields(self, "moves")


@dataclass(frozen=True)
class Pattern:
    """A cadence: what it does in words, and the moves that repeat, from `start_m` above the bottom [m]."""

    key: Annotated[str, Text(1, 40)]
    words: Annotated[str, Text(0, 200)]
    moves: Annotated[tuple[Move, ...], Len(1, MOST_MOVES)]
    start_m: Annotated[float, Span(0.0, 10.0, "m")] = OFF_BOTTOM_M

    def __post_init__(self) -> None:
        check_fields(self)


PATTERNS: tuple[Pattern, ...] = (
    Pattern("slow climb", "one slow lift without a stop, a finger's width a second", (Move(30.0, 0.02),)),
    Pattern("lift and wait", "a slow lift of a hand's width, then four seconds still", (Move(4.0, 0.025), Move(4.0))),
    Pattern("shiver and hold", "a twitch every four seconds, held at one height", (Move(4.0, 0.0, True),)),
    Pattern("hang still", "nothing at all", (Move(10.0),)),
    Pattern("quick hops", "up two hands in a moment, and down again", (Move(0.5, 0.4), Move(0.5, -0.4), Move(2.0))),
    Pattern(
        "pound and lift",
        "down to the bottom, three thumps, then a slow lift and a wait",
        (*(move for _ in range(3) for move in (Move(0.4, 0.3), Move(0.5, -0.3))), Move(5.0, 0.03), Move(6.0),
         Move(2.5, -0.08)),
        0.0,
    ),
)  # fmt: skip


@dataclass(frozen=True)
class PatternOutcome:
    """What a pattern did with `fish` fish: how many came to look, followed and took, the share that took with its
    95 % interval (Wilson 1927), and the median time to the take [s], None where none took.

    All patterns are shown to the same fish, so they are compared pair by pair: how many of them took only this pattern
    and only the best one, and how likely chance alone would part the two so far (McNemar 1947); 1 for the best itself.
    """

    pattern: str
    fish: int
    came: int
    followed: int
    took: int
    share: float
    low: float
    high: float
    median_s: float | None
    this_alone: int = 0
    best_alone: int = 0
    by_chance: float = 1.0


def hand(pattern: Pattern, seconds: float, bottom_m: float, top_m: float) -> tuple[Floats, NDArray[np.bool_]]:
    """The lure's depth [m] after each step and whether it twitches there, shapes (steps,), kept in the water."""
    speed: list[float] = []
    twitch: list[bool] = []
    steps = int(seconds / STEP_S)
    while len(speed) < steps:
        for move in pattern.moves:
            n = max(round(move.seconds / STEP_S), 1)
            speed += [move.lift_m_s] * n
            twitch += [move.twitch] + [False] * (n - 1)
    depth = np.empty(steps)
    now = bottom_m - pattern.start_m
    for k in range(steps):
        now = min(max(now - speed[k] * STEP_S, top_m), bottom_m)
        depth[k] = now
    return depth, np.array(twitch[:steps])


def crowd(
    species: str, count: int, bottom_m: float, top_m: float, rng: np.random.Generator, length_m: float | None = None
) -> list[Newcomer]:
    """Fish of one kind on their way past the hole, each from its own side, in the lower part of the water."""
    column = bottom_m - top_m
    return [
        Newcomer(
            species,
            float(rng.uniform(0.22, 0.45)) if length_m is None else length_m,
            float(bottom_m - rng.uniform(0.04, 0.22) * column),
            float(rng.uniform(2.0, 3.5)),
            float(rng.uniform(0.0, 2.0 * np.pi)),
            float(rng.uniform(-0.6, 0.6)),
        )
        for _ in range(count)
    ]


@dataclass(frozen=True)
class LabProgress:
    """How far a comparison has come, 0 to 1; with its outcomes when it is done."""

    share: float
    outcomes: tuple[PatternOutcome, ...] = ()


def compare(  # noqa: PLR0913 - the whole of a trial
    patterns: Sequence[Pattern],
    day: Day,
    bottom_m: float,
    top_m: float,
    seed: int,
    fish: int = FISH,
    species: str = "whitefish",
    lure_size_m: float = 0.01,
    seconds: float = WATCHED_S,
) -> Iterator[LabProgress]:
    """Each pattern shown to the same `fish` fish of today, one by one, over water from `top_m` to `bottom_m` [m].

    All are stepped at once; says how far it has come twenty times on the way.
    """
    number("fish", fish, 1, 1000)
    n = len(patterns)
    rng = np.random.default_rng(seed)
    visitors = Visitors(day, "clear", 12.0, bottom_m, rng, alone=True)
    visitors.join(crowd(species, fish, bottom_m, top_m, rng) * n)
    hands = [hand(one, seconds, bottom_m, top_m + TOP_ROOM_M) for one in patterns]
    depth = np.repeat(np.array([one for one, _ in hands]), fish, axis=0)
    twitch = np.repeat(np.array([one for _, one in hands]), fish, axis=0)
    lure = LureStimulus(depth[:, 0], lure_size_m)
    came, followed = (np.zeros(n * fish, dtype=bool) for _ in range(2))
    when = np.full(n * fish, np.nan)
    steps = depth.shape[1]
    for k in range(steps):
        lure.move(depth[:, k], STEP_S, twitch[:, k], bottom_m)
        for did in visitors.step([lure], STEP_S):
            if did.kind == "noticed":
                came[did.fish] = True
            elif did.kind == "bite" and np.isnan(when[did.fish]):
                when[did.fish] = (k + 1) * STEP_S
        followed |= visitors.mood == FOLLOWING
        visitors.timer_s[visitors.mood == MOUTHING] = 1e9  # one take a fish is what is counted
        if (k + 1) % max(steps // 20, 1) == 0:
            if not _undecided(visitors):
                break
            yield LabProgress((k + 1) / steps)
    each = [(part.reshape(n, fish)) for part in (came, followed, when)]
    took = np.isfinite(each[2])
    best = took[int(took.sum(axis=1).argmax())]
    done = (_outcome(one.key, each[0][k], each[1][k], each[2][k], best) for k, one in enumerate(patterns))
    yield LabProgress(1.0, tuple(done))


def _undecided(visitors: Visitors) -> bool:
    """Whether any fish may still take: it looks on, or has not seen the lure and is not past it."""
    on_its_way = (visitors.mood == PASSING) & ~visitors.looked & (visitors.aside_m < 4.0)
    return bool((on_its_way | (visitors.mood == CURIOUS) | (visitors.mood == FOLLOWING)).any())


def _outcome(
    key: str, came: NDArray[np.bool_], followed: NDArray[np.bool_], when: Floats, best: NDArray[np.bool_]
) -> PatternOutcome:
    took = np.isfinite(when)
    n = int(took.sum())
    low, high = wilson(n, when.size)
    median = float(np.nanmedian(when)) if n else None
    this_alone, best_alone = int((took & ~best).sum()), int((best & ~took).sum())
    return PatternOutcome(
        key, when.size, int(came.sum()), int(followed.sum()), n, n / when.size, low, high, median,
        this_alone, best_alone, mcnemar(this_alone, best_alone),
    )  # fmt: skip


def outcomes(
    patterns: Sequence[Pattern], day: Day, bottom_m: float, top_m: float, seed: int, **more: Any
) -> tuple[PatternOutcome, ...]:
    """`compare` to its end."""
    return list(compare(patterns, day, bottom_m, top_m, seed, **more))[-1].outcomes
