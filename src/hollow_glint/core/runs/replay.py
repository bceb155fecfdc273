"""A run played again: its frames, its story as it truly was, and what another hand would have come to."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..bench.bench_run import BenchRun
from ..bench.command import Command
from ..bench.frame import STEP_S, Frame
from ..checks import number
from ..fish.events import Event, FishTruth
from ..fish.rod import Tip
from ..fish.strike import Striking
from .run_log import LONGEST_S, RunLog, RunSetup

AFTER_S = 2.0


@dataclass(frozen=True)
class Beat:
    """One step of a run as it truly was: the lure [m, m/s up], the eyes, both tips, the fish and what happened."""

    time_s: float
    lure_m: float
    rising_m_s: float
    slack_m: float
    eyes: str
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
    by_frame = _by_frame(log.commands)
    for k in range(1, (log.frames if frames is None else frames) + 1):
        yield run.advance(by_frame.get(k, ()))


def _by_frame(commands: Sequence[tuple[int, Command]]) -> dict[int, list[Command]]:
    found: dict[int, list[Command]] = {}
    for at, command in commands:
        found.setdefault(at, []).append(command)
    return found


class _Hands:
    """The part of a run that the fish know of, stepped without pinging."""

    def __init__(self, setup: RunSetup) -> None:
        # The bench gives the fish the second of the streams that it spawns.
        luck = np.random.default_rng(setup.seed).spawn(2)[1]
        self.striking = Striking(
            setup.scene, setup.lure, setup.day, setup.line, luck, setup.lure_depth_m, setup.schedule
        )
        self.eyes = "sonar"
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


def story(log: RunLog) -> tuple[Beat, ...]:
    """What truly happened, beat by beat."""
    hands, by_frame = _Hands(log.setup), _by_frame(log.commands)
    return tuple(hands.step(by_frame.get(k, ())) for k in range(1, log.frames + 1))


def branch(log: RunLog, frame: int) -> RunLog:
    """The run up to `frame`, to go on from there with another hand. Raises ValueError outside the run."""
    at = int(number("frame", frame, 1, log.frames))
    return replace(log, commands=tuple(one for one in log.commands if one[0] <= at), frames=at)


ENDS = ("landed", "too early", "too late", "torn out", "line parted", "too soft", "only nipped", "put off by the drop",
        "put off by the lift", "lost interest", "turned at its line")  # fmt: skip
ScriptedHand = Callable[[Sequence[Beat], int], Sequence[Command]]


def what_if(
    log: RunLog, frame: int, hand: ScriptedHand, seconds: float = 45.0, ends: Sequence[str] = ENDS
) -> tuple[RunLog, tuple[Beat, ...]]:
    """Play on from `frame` with another `hand` for `seconds` [s], or until one of `ends`: a fish is landed or lost.

    `hand` is given the beats so far and how many steps it has had, and gives its commands; what it went on to do in
    the two seconds after the end is in it too. The log of the branch is
    returned with its beats from there on; replaying that log gives the same again.
    """
    until = branch(log, frame)
    hands, by_frame = _Hands(log.setup), _by_frame(until.commands)
    beats = [hands.step(by_frame.get(k, ())) for k in range(1, until.frames + 1)]
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
        if any(event.kind in ends for event in beats[-1].events):
            last = min(last, n + round(AFTER_S / STEP_S))
    return RunLog(log.setup, tuple(commands), k), tuple(beats[until.frames :])
