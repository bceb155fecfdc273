"""A run's story and its replay are one run: the same to the byte, whichever way it is told."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hollow_glint.core.bench.command import Command
from hollow_glint.core.gear.settings import Settings
from hollow_glint.core.runs import start
from hollow_glint.core.runs.replay import Played, replay, story
from hollow_glint.core.runs.run_log import RunLog
from hollow_glint.formats import recording_csv, run_file
from tests.store.test_recordings import bench_recording


def a_log(seed: int, frames: int = 500) -> RunLog:
    """A hand that lowers, lifts, twitches, turns a knob, looks at the rod and sets the hook on nothing."""
    setup = start.set_up("willing", seed)
    turned = Settings(**{**vars(setup.settings), "gain": setup.settings.gain + 1.0})
    hands = (
        (1, Command(to_depth_m=setup.goal_m)), (120, Command(lift_m_s=0.03)), (180, Command(twitch=True)),
        (200, Command(settings=turned)), (240, Command(eyes="rod")), (300, Command(lift_m_s=-0.6)),
        (360, Command(set_hook=True)), (400, Command(lift_m_s=0.0, eyes="sonar")),
    )  # fmt: skip
    return RunLog(setup, hands, frames)


@pytest.mark.parametrize("seed", [3, 2**31, 77_777])
def test_the_story_and_the_replay_meet_the_same_fish_at_the_same_time(seed):
    """They draw their chance from generators spawned in one order, by agreement alone: this is the agreement."""
    log = a_log(seed)
    frames = list(replay(log))
    beats = list(story(log))
    assert len(frames) == len(beats) == log.frames
    for frame, beat in zip(frames, beats, strict=True):
        assert frame.time_s == pytest.approx(beat.time_s, abs=1e-9)
        assert frame.lure_depth_m == beat.lure_m
        assert frame.fish == beat.fish
        assert frame.rod_tip == beat.tip.says
        # That marks touch is read off the picture, and a story has none.
        assert tuple(one for one in frame.events if one.kind != "marks touching") == beat.events


def test_a_replay_is_the_same_to_the_byte_twice_and_as_it_was_played():
    log = a_log(3)
    once = [(frame.levels.tobytes(), frame.fish, frame.events) for frame in replay(log)]
    again = [(frame.levels.tobytes(), frame.fish, frame.events) for frame in replay(log)]
    assert once == again
    commands: dict[int, list[Command]] = {}
    for at, command in log.commands:
        commands.setdefault(at, []).append(command)
    played = Played(log.setup)
    for k in range(1, log.frames + 1):
        frame, _ = played.step(commands.get(k, []))
        assert frame.levels.tobytes() == once[k - 1][0]
    assert np.array_equal([c for c, _ in played.ledger], [c for c, _ in log.commands])


def test_a_run_with_thousands_of_knob_changes_opens_again():
    """More than anyone turns, and once more than could be opened: what is kept can always be read."""
    setup = start.set_up("willing", 5)
    scale = setup.unit.gain
    turns = tuple(
        (
            1 + k // 3,
            Command(settings=Settings(**{**vars(setup.settings), "gain": scale.minimum + scale.step * (k % 5)})),
        )
        for k in range(6000)
    )
    log = RunLog(setup, turns, 2100)
    assert run_file.read(run_file.write(log)) == log


def test_a_recording_with_thousands_of_knob_changes_opens_again():
    kept = bench_recording(160)
    first = kept.settings[0][1]
    repeats = -(-2600 // kept.time_s.size)
    pings = kept.time_s.size * repeats
    tiled = replace(
        kept,
        time_s=np.arange(pings) * 0.05,
        levels=np.tile(kept.levels, (repeats, 1)),
        top_m=np.tile(kept.top_m, repeats),
        bottom_m=np.tile(kept.bottom_m, repeats),
        line_in_m=np.tile(kept.line_in_m, repeats),
        settings=tuple((k, replace(first, gain=first.gain + k % 2)) for k in range(2500)),
    )
    back, _ = recording_csv.read(recording_csv.write(tiled))
    assert len(back.settings) == 2500
