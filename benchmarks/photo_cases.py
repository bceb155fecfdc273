"""Photos of made-up screens by seed, for judging how they are read. Seeds from TUNING_FROM up are for tuning."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, datetime

import numpy as np
from numpy.typing import NDArray

from hollow_glint.core.bench.tape import Tape
from hollow_glint.core.reader.recording import Recording
from hollow_glint.stand_ins.made_up_screen import MadeUpScreen, made_up_ladder, made_up_screen
from hollow_glint.stand_ins.phone_camera import Photo, Shot, photographed, shot_by_chance

from .reader_scenes import scenario

SCORED = range(440)
TUNING_FROM = 5000
SCENES_FROM = 30_000  # of the reader's waters: neither tuned nor scored elsewhere


@dataclass(frozen=True, eq=False)
class PhotoCase:
    """A recording as it was, what of it a made-up screen shows, and a photo of that."""

    seed: int
    recording: Recording
    colours: list[str]
    screen: MadeUpScreen
    shot: Shot
    photo: Photo


def shown_on_screen(seed: int) -> Recording:
    """The newest part of a made-up morning, as a screen of some hundred columns shows it: a column for each ping or for
    each few, the strongest of those."""
    rng = np.random.default_rng([seed, 0x70])
    case = scenario(SCENES_FROM + seed)
    run, tape = case.run(), Tape()
    for commands in case.hand:
        tape.add(run.advance(commands))
    whole = tape.recording(f"Photo {seed}", run, datetime(2026, 1, 1, tzinfo=UTC))
    step = max(whole.time_s.size // 720, 1)
    columns = int(rng.integers(240, 481))
    kept = np.arange(whole.time_s.size - 1, 0, -step)[:columns][::-1]
    settings = whole.settings_at(int(kept[-1]))
    shown = (whole.top_m[kept[-1]], whole.bottom_m[kept[-1]])
    same = (whole.top_m[kept] == shown[0]) & (whole.bottom_m[kept] == shown[1])
    kept = kept[same]
    return replace(
        whole, time_s=whole.time_s[kept] - whole.time_s[kept[0]], levels=whole.levels[kept], top_m=whole.top_m[kept],
        bottom_m=whole.bottom_m[kept], line_in_m=whole.line_in_m[kept], settings=((0, settings),), notes=(),
    )  # fmt: skip


def case_of(seed: int, shot: Shot | None = None) -> PhotoCase:
    """Everything follows from the seed."""
    rng = np.random.default_rng([seed, 0x71])
    recording = shown_on_screen(seed)
    steps = len(recording.unit.ladders[recording.settings[0][1].ladder].steps)
    colours = made_up_ladder(rng, steps)
    screen = made_up_screen(recording.levels.T, colours, float(recording.bottom_m[0]), rng)
    shot = shot or shot_by_chance(rng)
    return PhotoCase(seed, recording, colours, screen, shot, photographed(screen, shot, rng))


def away_from_edges(levels: NDArray[np.uint8]) -> NDArray[np.bool_]:
    """Cells whose eight neighbours show the same step, shape as `levels`."""
    padded = np.pad(levels, 1, mode="edge")
    same = np.ones(levels.shape, dtype=bool)
    for i in range(3):
        for j in range(3):
            same &= padded[i : i + levels.shape[0], j : j + levels.shape[1]] == levels
    return same
