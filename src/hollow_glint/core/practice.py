"""Practice: which drills are due, at which level, and an honest picture of what someone can do.

One scheduled skill for each kind of drill, by the FSRS algorithm of the fsrs library; three right answers on end raise
the level, a wrong one lowers it. No clock of its own: whoever calls says what time it is.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from .checks import InputError, number, one_of
from .drills import LEVELS, kinds

QUICK_S, SLOW_S = 4.0, 15.0  # an answer this quick was easy, this slow was hard. Ours, no source
RAISED_AFTER = 3
ROUND_LENGTH = 8
MOST_ROUND = 60


@dataclass(frozen=True)
class Skill:
    """One kind of drill as someone has practised it: level, right answers on end, when it is due (UTC), and what the
    scheduler remembers (its own JSON), empty for one never tried."""

    kind: str
    level: int = 1
    streak: int = 0
    due_at: str = ""
    card: str = ""


@dataclass(frozen=True)
class Answered:
    """One answer: the drill, whether it was right, how long it took [s], when (UTC as ISO 8601)."""

    kind: str
    level: int
    seed: int
    is_right: bool
    seconds: float
    answered_at: str


@dataclass(frozen=True)
class Progress:
    """What someone can do in one kind: answers, share right with its 95 % interval, median time [s]."""

    kind: str
    answers: int
    right: int
    share: float
    low: float
    high: float
    median_s: float


@dataclass(frozen=True)
class RoundPart:
    """Part of a round that someone has put together: a kind, a level, how many."""

    kind: str
    level: int
    count: int

    def __post_init__(self) -> None:
        one_of("parts.kind", self.kind, tuple(kinds()))
        if self.level not in LEVELS:
            raise InputError(f"parts.level is {self.level!r}: accepted are 1, 2 and 3")
        number("parts.count", self.count, 1, 20)


@dataclass(frozen=True)
class Round:
    """A round put together for others: a name and its parts, up to MOST_ROUND drills in all."""

    name: str
    parts: tuple[RoundPart, ...]

    def __post_init__(self) -> None:
        if not 1 <= len(self.name.strip()) <= 80:
            raise InputError(f"name has {len(self.name.strip())} characters: accepted are 1 to 80")
        total = sum(one.count for one in self.parts)
        if not 1 <= total <= MOST_ROUND:
            raise InputError(f"parts ask for {total} drills: accepted are 1 to {MOST_ROUND}")

    def drills(self, seed: int) -> list[tuple[str, int, int]]:
        """Kind, level and seed of each drill, the seeds drawn from `seed`."""
        out: list[tuple[str, int, int]] = []
        for part in self.parts:
            out += [(part.kind, part.level, seed + 7919 * (len(out) + k)) for k in range(part.count)]
        return out


def answered(skill: Skill, is_right: bool, seconds: float, now: datetime) -> Skill:
    """The skill after an answer at `now` (UTC)."""
    from fsrs import Card, Rating, Scheduler

    number("seconds", seconds, 0.0, 86_400.0, "s")
    if not is_right:
        rating = Rating.Again
    elif seconds > SLOW_S:
        rating = Rating.Hard
    else:
        rating = Rating.Easy if seconds < QUICK_S else Rating.Good
    card = Card.from_dict(json.loads(skill.card)) if skill.card else Card(card_id=1, due=now)
    card, _ = Scheduler(enable_fuzzing=False).review_card(card, rating, now)
    streak = skill.streak + 1 if is_right else 0
    level = skill.level
    if streak >= RAISED_AFTER and level < LEVELS[-1]:
        level, streak = level + 1, 0
    elif not is_right and level > 1:
        level -= 1
    return Skill(skill.kind, level, streak, _utc(card.due), json.dumps(card.to_dict()))


def _utc(when: datetime) -> str:
    return when.strftime("%Y-%m-%dT%H:%M:%SZ")


def todays_round(skills: Sequence[Skill], now: datetime) -> list[tuple[str, int]]:
    """Kind and level of each drill of a short round: what is due, longest due first, then what was never tried, then
    what is due soonest, ROUND_LENGTH in all."""
    known = {one.kind: one for one in skills}
    due = sorted((one for one in skills if one.due_at <= _utc(now)), key=lambda one: one.due_at)
    new = [kind for kind in kinds() if kind not in known]
    later = sorted((one for one in skills if one.due_at > _utc(now)), key=lambda one: one.due_at)
    wanted = [(one.kind, one.level) for one in due] + [(kind, 1) for kind in new]
    wanted += [(one.kind, one.level) for one in later]
    return wanted[:ROUND_LENGTH]


def progress(answers: Sequence[Answered]) -> list[Progress]:
    """What the answers say of each kind that was tried, in the order of `kinds`."""
    out = []
    for kind in kinds():
        mine = [one for one in answers if one.kind == kind]
        if not mine:
            continue
        right = sum(one.is_right for one in mine)
        low, high = wilson(right, len(mine))
        times = sorted(one.seconds for one in mine)
        out.append(Progress(kind, len(mine), right, right / len(mine), low, high, times[len(times) // 2]))
    return out


def wilson(right: int, of: int, z: float = 1.96) -> tuple[float, float]:
    """The interval that a share `right` of `of` leaves open, 95 % by default. Source: Wilson 1927."""
    if of == 0:
        return 0.0, 1.0
    share = right / of
    middle = (share + z * z / (2 * of)) / (1 + z * z / of)
    half = z / (1 + z * z / of) * (share * (1 - share) / of + z * z / (4 * of * of)) ** 0.5
    return max(middle - half, 0.0), min(middle + half, 1.0)
