"""A run written down: what it started from and every command with its frame, so that it can be played again."""

from __future__ import annotations

from dataclasses import dataclass

from ..bench.command import Command
from ..bench.frame import STEP_S
from ..checks import InputError, number
from ..fish.day import Day
from ..fish.states import Newcomer
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene

LONGEST_S = 240.0
MOST_COMMANDS = 20_000


@dataclass(frozen=True)
class RunSetup:
    """What a run starts from. Depths [m below the surface]; `goal_m` where the lure is fished to begin with;
    `small` how many of those on their way are too small to hook."""

    level: str
    seed: int
    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    line: str
    lure_depth_m: float
    goal_m: float
    day: Day
    schedule: tuple[tuple[float, Newcomer], ...]
    small: int = 0


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
