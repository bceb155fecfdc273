"""A recording read again, as it was seen, by the same reader that reads the living picture."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from ..sonar.picture import Window
from .evidence import ReaderSetup, SeenPing
from .reader import Reader
from .recording import Recording
from .report import Moment, PictureReading

WARMING_S = 20.0  # how much before a moment is read to know what stood there


def pings_of_recording(
    recording: Recording, first: int = 0, last: int | None = None
) -> Iterator[tuple[ReaderSetup, SeenPing]]:
    """The pings from `first` up to `last` as they were seen, each with what was known then."""
    view, settings = recording.view_at(first), recording.settings_at(first)
    changes = {at for at, _ in recording.settings}
    for k in range(first, recording.time_s.size if last is None else last):
        if k in changes and recording.settings_at(k) != settings:
            settings = recording.settings_at(k)
            view = replace(view, settings=settings)
        shown = Window(float(recording.top_m[k]), float(recording.bottom_m[k]))
        yield view, SeenPing(float(recording.time_s[k]), recording.levels[k], shown, float(recording.line_in_m[k]))


def reading_at(recording: Recording, time_s: float) -> PictureReading:
    """What the reader says at a time, having watched the WARMING_S before it."""
    last = int(np.searchsorted(recording.time_s, time_s, side="right"))
    last = max(last, min(2, recording.time_s.size))
    first = int(np.searchsorted(recording.time_s, recording.time_s[last - 1] - WARMING_S))
    reader: Reader | None = None
    reading = PictureReading(time_s)
    for view, seen in pings_of_recording(recording, first, last):
        if reader is None:
            reader = Reader(view)
        elif view is not reader.view:
            reader.turn(view)
        now = reader.see(seen)
        reading = now if now.complete else reading
    return reading


def moments_in(recording: Recording, told: Callable[[int, int], None] | None = None) -> list[Moment]:
    """Every moment the reader finds, from start to end. `told` hears how many pings are done, of how many."""
    reader: Reader | None = None
    found: list[Moment] = []
    for k, (view, seen) in enumerate(pings_of_recording(recording)):
        if reader is None:
            reader = Reader(view)
        elif view is not reader.view:
            reader.turn(view)
        found += reader.see(seen).moments
        if told is not None and k % 200 == 0:
            told(k, recording.time_s.size)
    return found
