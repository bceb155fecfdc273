"""The judge of a run: keeps what was decisive, with its number. What is so, `event_judges` and `run_judges` say.

It looks at what truly happened (`replay.story`) and at how the knobs stood, never at what the angler could not help.
Where practice is agreed on the judgement follows it ("common practice, no source"); the weights are ours.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..bench.frame import STEP_S
from ..wording import Quantity, Sentence
from .replay import Beat
from .run_log import RunLog

Mistake = Literal[
    "lift", "drop", "hang", "eyes", "late", "missed", "early", "hard", "soft", "small", "line", "picture", "stick"
]
MomentCode = Literal[Mistake, "left", "far", "set", "landed"]
RunSkill = Literal[
    "eyes to the rod tip", "set on the bite", "lift slowly", "leave small fish", "keep the lure in the picture",
    "never chase it down",
]  # fmt: skip


@dataclass(frozen=True)
class JudgedMoment:
    """One decisive moment: when [s], what it is about, whether it was well done, what is said of it, how much it
    weighs, and (for a mistake) the moment [s] to go back to and try it otherwise."""

    time_s: float
    code: MomentCode
    is_good: bool
    say: Sentence
    weight: float
    back_s: float


@dataclass(frozen=True)
class SkillFigure:
    """How one skill went in a run: times well done, of how many."""

    skill: RunSkill
    good: float
    of: float


@dataclass(frozen=True)
class FishReached:
    """The highest a fish came up [m below the surface], and whether it turned there."""

    time_s: float
    depth_m: float
    turned: bool


def m(value: float) -> Quantity:
    return Quantity(value, "m")


def s(value: float) -> Quantity:
    return Quantity(value, "s")


class Judge:
    """Walks the story once and keeps what was decisive."""

    def __init__(self, log: RunLog, beats: Sequence[Beat]) -> None:
        self.log, self.beats = log, beats
        self.found: list[JudgedMoment] = []
        self.skills: dict[RunSkill, list[float]] = {}
        self.reached: list[FishReached] = []
        self.came = self.dropped = 0
        self.lure = np.array([beat.lure_m for beat in beats])
        self.rising = np.array([beat.rising_m_s for beat in beats])

    def tell(self, k: int, code: MomentCode, text: str, weight: float = 1.0, is_good: bool = False, back_s: float = 3.0,
             **values: Quantity) -> None:  # fmt: skip
        at = self.beats[k].time_s
        self.found.append(JudgedMoment(at, code, is_good, Sentence(text, values), weight, max(at - back_s, STEP_S)))

    def count(self, skill: RunSkill, good: float, of: float = 1.0) -> None:
        """Once more for a skill: `good` of `of`."""
        have = self.skills.setdefault(skill, [0.0, 0.0])
        have[0] += good
        have[1] += of
