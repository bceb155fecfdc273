"""A run written down: what it started from and every command with its frame, so that it can be played again."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from ..bench.command import Command
from ..bench.frame import STEP_S
from ..checks import InputError, number
from ..fields import Len, OneOf, Span, check_fields, doc
from ..fish.day import Day
from ..fish.rod import LINES
from ..fish.states import Newcomer
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.contents import DEEPEST_M
from ..hole.scene import Scene
from .levels import LEVELS

LONGEST_S = 240.0
MOST_COMMANDS = 20_000
MOST_COMING = 60
MOST_SEED = 2**53


@dataclass(frozen=True)
class RunSetup:
    """What a run starts from. Depths [m below the surface]; `goal_m` where the lure is fished to begin with;
    `small` how many of those on their way are too small to hook."""

    level: Annotated[str, OneOf(LEVELS)]
    seed: Annotated[int, Span(0, MOST_SEED)]
    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    line: Annotated[str, OneOf(LINES)]
    lure_depth_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    goal_m: Annotated[float, Span(0.0, DEEPEST_M, "m")]
    day: Day
    schedule: Annotated[tuple[Newcomer, ...], Len(0, MOST_COMING), doc("Who comes, in order of time")]
    small: Annotated[int, Span(0, MOST_COMING)] = 0

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class RunLog:
    """A run: its setup, its commands each with the number of the frame that obeyed it, and how many frames it had.

    Raises ValueError when a command lies outside the run.
    """

    setup: RunSetup
    commands: tuple[tuple[int, Command], ...]
    frames: int

    def __post_init__(self) -> None:
        number("frames", self.frames, 1, LONGEST_S / STEP_S + 1)
        if len(self.commands) > MOST_COMMANDS:
            raise InputError(f"commands has {len(self.commands)} entries: accepted are up to {MOST_COMMANDS}")
        for at, _ in self.commands:
            number("commands.frame", at, 1, self.frames)

    @property
    def seconds(self) -> float:
        """How long it lasted [s]."""
        return self.frames * STEP_S
