"""A run played again: its frames, its story as it truly was, and what another hand would have come to."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..bench.bench_run import BenchRun
from ..bench.command import Command
from ..bench.frame import STEP_S, Frame
from ..bench.luck import Luck
from ..checks import number
from ..fish.events import Event, EventKind, Eyes, FishTruth
from ..fish.rod import Tip
from ..fish.strike import Striking
from .attention import perceived
from .run_log import LONGEST_S, RunLog, RunSetup

AFTER_S = 2.0


@dataclass(frozen=True)
class Beat:
    """One step of a run as it truly was: the lure [m, m/s up], the eyes, both tips, the fish and what happened."""

    time_s: float
    lure_m: float
    rising_m_s: float
    slack_m: float
    eyes: Eyes
    tip: Tip
    stick: Tip
    fish: tuple[FishTruth, ...]
    events: tuple[Event, ...]


def begin(setup: RunSetup) -> BenchRun:
    """The run as a living bench, at its first moment."""
    return BenchRun(
        setup.scene,
        setup.unit,
        setup.settings,
        setup.lure,
        np.random.default_rng(setup.seed),
        setup.lure_depth_m,
        setup.day,
        setup.line,
        setup.schedule,
    )


def replay(log: RunLog, frames: int | None = None) -> Iterator[Frame]:
    """The frames of a run again, the first `frames` of them."""
    run = begin(log.setup)
    commands = by_frame(log.commands)
    for k in range(1, (log.frames if frames is None else frames) + 1):
        yield run.advance(commands.get(k, ()))


def by_frame(commands: Sequence[tuple[int, Command]]) -> dict[int, list[Command]]:
    found: dict[int, list[Command]] = {}
    for at, command in commands:
        found.setdefault(at, []).append(command)
    return found


class _Hands:
    """The part of a run that the fish know of, stepped without pinging."""

    def __init__(self, setup: RunSetup) -> None:
        luck = Luck(np.random.default_rng(setup.seed)).fish
        self.striking = Striking(
            setup.scene, setup.lure, setup.day, setup.line, luck, setup.lure_depth_m, setup.schedule
        )
        self.eyes: Eyes = "sonar"
        self.frame = 0

    def step(self, commands: Sequence[Command]) -> Beat:
        strike, time_s = self.striking, self.frame * STEP_S
        events: list[Event] = []
        for command in commands:
            if command.eyes is not None:
                self.eyes = command.eyes
            events += strike.obey(time_s, command)
        events += strike.move(time_s, STEP_S)
        self.frame += 1
        return Beat(
            round(self.frame * STEP_S, 6), strike.lure_depth_m, strike.rising_m_s, strike.slack_m, self.eyes,
            strike.tip, strike.stick_tip, strike.truths(), tuple(events),
        )  # fmt: skip


def story(log: RunLog, tell: Callable[[float], None] = lambda _: None) -> tuple[Beat, ...]:
    """What truly happened, beat by beat; `tell` is told now and then how far it has come, 0 to 1."""
    hands, commands = _Hands(log.setup), by_frame(log.commands)
    beats: list[Beat] = []
    for k in range(1, log.frames + 1):
        beats.append(hands.step(commands.get(k, ())))
        if k % TELLS_EVERY == 0:
            tell(k / log.frames)
    return tuple(beats)


def branch(log: RunLog, frame: int) -> RunLog:
    """The run up to `frame`, to go on from there with another hand. Raises ValueError outside the run."""
    at = int(number("frame", frame, 1, log.frames))
    return replace(log, commands=tuple(one for one in log.commands if one[0] <= at), frames=at)


TELLS_EVERY = 20  # steps of a run: once a second of it
ENDS: tuple[EventKind, ...] = (
    "landed", "too early", "too late", "torn out", "line parted", "too soft", "only nipped", "put off by the drop",
    "put off by the lift", "lost interest", "turned at its line",
)  # fmt: skip
ScriptedHand = Callable[[Sequence[Beat], int], Sequence[Command]]


def what_if(
    log: RunLog,
    frame: int,
    hand: ScriptedHand,
    seconds: float = 45.0,
    ends: Sequence[EventKind] = ENDS,
    tell: Callable[[float], None] = lambda _: None,
) -> tuple[RunLog, tuple[Beat, ...]]:
    """Play on from `frame` with another `hand` for `seconds` [s], or until one of `ends`: a fish is landed or lost.

    `hand` is given the beats so far and how many steps it has had, and gives its commands; what it went on to do in
    the two seconds after the end is in it too; `tell` is told how far it has come, 0 to 1. The log of the branch is
    returned with its beats from there on; replaying that log gives the same again.
    """
    until = branch(log, frame)
    hands, asked = _Hands(log.setup), by_frame(until.commands)
    beats = [hands.step(asked.get(k, ())) for k in range(1, until.frames + 1)]
    commands = list(until.commands)
    k, most = until.frames, int(LONGEST_S / STEP_S)
    last = round(seconds / STEP_S)
    for n in range(last):
        if k >= most or n >= last:
            break
        k += 1
        wanted = list(hand(beats, n))
        commands += [(k, one) for one in wanted]
        beats.append(hands.step(wanted))
        if n % TELLS_EVERY == 0:
            tell(n / last)
        if any(event.kind in ends for event in beats[-1].events):
            last = min(last, n + round(AFTER_S / STEP_S))
    return RunLog(log.setup, tuple(commands), k), tuple(beats[until.frames :])


class Played:
    """A run being played: every command is written down, and only what its angler would notice is told.

    `until` is the run up to a moment, for one that is taken over there.
    """

    def __init__(
        self, setup: RunSetup, until: RunLog | None = None, shown: Callable[[Frame], None] | None = None
    ) -> None:
        self.setup, self.run = setup, begin(setup)
        self.ledger: list[tuple[int, Command]] = [] if until is None else list(until.commands)
        self.frames = 0
        before = by_frame(self.ledger)
        for k in range(1, 1 if until is None else until.frames + 1):
            frame = self.run.advance(before.get(k, ()))
            self.frames = frame.number
            if shown is not None:
                shown(frame)

    def step(self, commands: Sequence[Command]) -> tuple[Frame, bool]:
        """One frame more, as it is perceived; and whether the run is over with it."""
        frame = self.run.advance(commands)
        self.frames = frame.number
        self.ledger += [(frame.number, command) for command in commands]
        landed = any(event.kind == "landed" for event in frame.events)
        return perceived(frame), landed or frame.number >= round(LONGEST_S / STEP_S)

    def log(self) -> RunLog:
        """The run so far. Raises ValueError before its first frame."""
        return RunLog(self.setup, tuple(self.ledger), self.frames)
