"""What a reader tells: marks with their names, the bottom, moments worth telling."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from ..wording import Sentence
from .column import Standing
from .sizing import FishSpan

MarkName = Literal["lure", "second lure", "fish", "bait", "still"]
Going = Literal["here", "closing", "leaving", "rising", "sinking"]
Interest = Literal["steady", "curious", "charging", "put off"]
Hardness = Literal["hard", "soft", "not clear"]
MomentKind = Literal[
    "fish in the cone", "coming up", "marks touching", "merged", "put off", "gone", "charging", "restless bottom",
    "ignores you", "taken back",
]  # fmt: skip


@dataclass(frozen=True)
class FishReading:
    """What can be said of one fish.

    span          where it can be and how long
    speed_m_s     up or down, corrected for the cone: 0 when it only seems to move; downwards positive
    seems_m_s     as the mark moves on the picture
    trend_db_s    how its level changes [dB/s]
    going         "here", "closing", "leaving", "rising" or "sinking"
    interest      "steady", "curious", "charging" or "put off"
    gap_m         from lure to fish [m], downwards positive; None without a lure
    """

    span: FishSpan
    speed_m_s: float
    seems_m_s: float
    trend_db_s: float
    going: Going
    interest: Interest
    gap_m: float | None


@dataclass(frozen=True)
class NamedMark:
    """A mark with its name: range [m from the face], apparent depth [m below the surface], how sure [0 to 1], why."""

    track: int
    kind: MarkName
    sure: float
    range_m: float
    depth_m: float
    thick_m: float
    level: float
    hidden: bool
    because: tuple[Sentence, ...]
    fish: FishReading | None = None


@dataclass(frozen=True)
class Moment:
    """Something worth telling: what, when [s], of which track, and the one thing to do."""

    kind: MomentKind
    time_s: float
    track: int
    say: Sentence
    do: str


@dataclass(frozen=True)
class BottomReading:
    """The bottom: edge [m from the face], how hard it is ("hard", "soft", "not clear"), its tail and second echo [m],
    whether its line is restless, where weeds on it begin [m from the face]."""

    range_m: float
    hardness: Hardness
    tail_m: float
    second_m: float | None
    restless: bool
    weed_top_m: float | None
    because: tuple[Sentence, ...]


@dataclass(frozen=True)
class PictureReading:
    """What the picture says now: marks with names, the bottom, the water, and moments new since the last ping.

    complete   False between two looks: every other ping is only followed, not named
    """

    time_s: float
    marks: tuple[NamedMark, ...] = ()
    bottom: BottomReading | None = None
    standing: Standing = field(default_factory=Standing)
    water: tuple[Sentence, ...] = ()
    moments: tuple[Moment, ...] = ()
    complete: bool = True
