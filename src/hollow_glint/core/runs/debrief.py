"""The debrief of a run: what it came to, its decisive moments in order, two things to do next time; and what if."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from ..bench.frame import STEP_S
from ..fish.events import Event
from .event_judges import judge_event
from .judge import FishReached, Judge, JudgedMoment, Mistake, SkillFigure
from .replay import Beat, ScriptedHand, what_if
from .run_judges import lifting, onlooker, picture, small_fish
from .run_log import RunLog

RunOutcome = Literal["landed", "bites missed", "looks, no bite", "no fish came to the lure"]

ADVICE: dict[Mistake, str] = {
    "lift": "Lift slower, a finger's width a second, and stop before it turns.",
    "drop": "Never let the lure down onto a fish. If it is above the fish, hold or lift.",
    "hang": "Do not leave the lure hanging: lift a little, pause, lift again.",
    "eyes": "When the marks touch, look at the rod tip. The sonar has told you all it can.",
    "late": "Set as soon as the tip taps, loads or goes slack. A fish keeps a jig a second or two.",
    "missed": "Set on the bite: the tip showed it, and the hook was never set.",
    "early": "Wait for the tip. Marks that touch are not yet a bite.",
    "hard": "Set less hard: a sweep of the tip is enough, and a long one tears a small mouth.",
    "soft": "Take up the slack first, or sweep harder: in deep water the line eats the set.",
    "small": "Size the fish before you work it: a thin mark that only nibbles is not worth the minutes.",
    "line": "Note the height at which fish turn: the day has its line, and lifting beyond it loses them.",
    "picture": "Keep the lure in the picture: bring gain into its window before the fish comes.",
    "stick": "Look at the dead stick too: it had a bite.",
}


@dataclass(frozen=True)
class Debrief:
    """What a run came to: its outcome in a word, judged moments in order, two things to do next, figures per skill,
    and how high fish came."""

    outcome: RunOutcome
    judged: tuple[JudgedMoment, ...]
    next: tuple[str, ...]
    skills: tuple[SkillFigure, ...]
    reached: tuple[FishReached, ...]
    landed_m: float
    species: str


def debrief(log: RunLog, beats: Sequence[Beat]) -> Debrief:
    """Judge a run by its story (`replay.story`)."""
    judge = Judge(log, beats)
    caught: Event | None = None
    for k, beat in enumerate(beats):
        for event in beat.events:
            judge_event(judge, k, event)
            if event.kind == "landed":
                caught = event
    if judge.came:
        judge.count("never chase it down", max(judge.came - judge.dropped, 0), judge.came)
    lifting(judge)
    small_fish(judge)
    picture(judge)
    onlooker(judge)
    found = sorted(judge.found, key=lambda one: one.time_s)
    wrong: dict[Mistake, float] = {}
    for one in found:
        if not one.is_good and one.code in ADVICE:
            wrong[one.code] = wrong.get(one.code, 0.0) + one.weight
    order = sorted(wrong, key=lambda code: -wrong[code])[:2]
    advice = [ADVICE[code] for code in order]
    spare = [
        "Play the same level once more without looking at the truth, and name each mark before it acts.",
        "Take the next level, or the same one on a choosy day.",
    ]
    # Whoever landed one goes on before playing it again.
    advice += (spare if caught is None else spare[::-1])[: 2 - len(advice)]
    return Debrief(
        outcome=_outcome(beats, caught),
        judged=tuple(found),
        next=tuple(advice),
        skills=tuple(SkillFigure(name, good, of) for name, (good, of) in judge.skills.items()),
        reached=tuple(judge.reached),
        landed_m=0.0 if caught is None else caught.fish_length_m,
        species="" if caught is None else caught.species,
    )


def _outcome(beats: Sequence[Beat], caught: Event | None) -> RunOutcome:
    if caught is not None:
        return "landed"
    kinds = [event.kind for beat in beats for event in beat.events]
    if any(kind in ("bite", "bite on the stick") for kind in kinds):
        return "bites missed"
    if "noticed" in kinds:
        return "looks, no bite"
    return "no fish came to the lure"


@dataclass(frozen=True)
class WhatIf:
    """What another hand would have come to from `frame` on: its outcome, the moments judged after that, how it went."""

    outcome: RunOutcome
    ends_s: float
    judged: tuple[JudgedMoment, ...]
    beats: tuple[Beat, ...]


def judged_what_if(
    log: RunLog,
    lived: Sequence[Beat],
    frame: int,
    hand: ScriptedHand,
    tell: Callable[[float], None] = lambda _: None,
) -> WhatIf:
    """Play on from `frame` with another hand, by the same seed, and judge what came of it.

    `lived` are the beats of the run as it was. Judged as a run of its own, but only for what came after the moment.
    """
    branched, beats = what_if(log, frame, hand, tell=tell)
    whole = debrief(branched, [*lived[:frame], *beats])
    after = tuple(one for one in whole.judged if one.time_s > frame * STEP_S)
    return WhatIf(debrief(branched, beats).outcome, branched.seconds, after, beats)
