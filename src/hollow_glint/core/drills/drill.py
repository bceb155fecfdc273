"""A drill: a clip from the model, a question that the picture alone answers, the truth, and the reason.

Each kind of question is a function in `marks`, `water`, `fish`, `sweeps` or `fans` that builds one from a generator and a
level, 1 plain to 3 hard; no two are alike. `catalogue` lists them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..checks import InputError, number
from ..wording import Sentence
from .fan_film import FanFilm
from .film import Clip
from .sweep_picture import SweepPicture

LEVELS = (1, 2, 3)


@dataclass(frozen=True)
class Choice:
    """One answer to choose."""

    key: str
    text: str


@dataclass(frozen=True)
class TrueMark:
    """What was where at the decisive moment: depth [m below the surface], distance aside [m]."""

    label: str
    kind: str
    depth_m: float
    aside_m: float = 0.0


@dataclass(frozen=True, eq=False)
class Drill:
    """One question.

    question    what is asked, with {names} for values
    clips       one, or two side by side; none where `sweeps` or `fans` has one or two instead
    choices     what can be chosen; none when the picture is to be pointed at
    right       key of the right choice, "" when pointing
    target_m    least and most range [m from the face] that is right when pointing
    why         the reason, in two sentences
    truth       what was there at `moment_s` [s], the decisive moment
    stop_s      where the clip stops until it is answered [s], None at its end
    """

    question: Sentence
    clips: tuple[Clip, ...]
    why: Sentence
    truth: tuple[TrueMark, ...]
    moment_s: float
    choices: tuple[Choice, ...] = ()
    right: str = ""
    target_m: tuple[float, float] | None = None
    stop_s: float | None = None
    sweeps: tuple[SweepPicture, ...] = ()
    fans: tuple[FanFilm, ...] = ()
    kind: str = ""
    level: int = 1
    seed: int = 0

    @property
    def by_pointing(self) -> bool:
        """Whether it is answered by pointing at the picture."""
        return self.target_m is not None

    def is_right(self, choice: str | None, range_m: float | None) -> bool:
        """Whether an answer is right. Raises ValueError for one that this drill does not take."""
        if self.target_m is not None:
            if range_m is None:
                raise InputError("range_m is missing: this drill is answered by pointing at the picture")
            at = number("range_m", range_m, 0.0, 200.0, "m")
            return self.target_m[0] <= at <= self.target_m[1]
        keys = tuple(one.key for one in self.choices)
        if choice not in keys:
            raise InputError(f"choice is {choice!r}: accepted are {', '.join(keys)}")
        return choice == self.right


@dataclass(frozen=True)
class DrillKind:
    """A kind of question: its key, what it trains, and how one is built."""

    key: str
    title: str
    build: Callable[[np.random.Generator, int], Drill]


def choices(*pairs: tuple[str, str]) -> tuple[Choice, ...]:
    """Choices from (key, text)."""
    return tuple(Choice(*one) for one in pairs)
