"""Which drills are due, at which level, and an honest picture of what someone can do.

One scheduled skill for each kind of drill, by the FSRS algorithm of the fsrs library; three right answers on end raise
the level, a wrong one lowers it. No clock of its own: whoever calls says what time it is.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ..checks import number
from ..intervals import wilson
from .catalogue import KINDS
from .drill import LEVELS

QUICK_S, SLOW_S = 4.0, 15.0  # an answer this quick was easy, this slow was hard. Ours, no source
RAISED_AFTER = 3
ROUND_LENGTH = 8


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
class SkillProgress:
    """What someone can do in one kind: answers, share right with its 95 % interval, median time [s]."""

    kind: str
    answers: int
    right: int
    share: float
    low: float
    high: float
    median_s: float


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
    new = [kind for kind in KINDS if kind not in known]
    later = sorted((one for one in skills if one.due_at > _utc(now)), key=lambda one: one.due_at)
    wanted = [(one.kind, one.level) for one in due] + [(kind, 1) for kind in new]
    wanted += [(one.kind, one.level) for one in later]
    return wanted[:ROUND_LENGTH]


UNTRIED = SkillProgress("", 0, 0, 0.0, *wilson(0, 0), 0.0)


def skill_progress(answers: Sequence[Answered]) -> list[SkillProgress]:
    """What the answers say of each kind that was tried, in the order of `KINDS`."""
    out = []
    for kind in KINDS:
        mine = [one for one in answers if one.kind == kind]
        if not mine:
            continue
        right = sum(one.is_right for one in mine)
        low, high = wilson(right, len(mine))
        times = sorted(one.seconds for one in mine)
        out.append(SkillProgress(kind, len(mine), right, right / len(mine), low, high, times[len(times) // 2]))
    return out
