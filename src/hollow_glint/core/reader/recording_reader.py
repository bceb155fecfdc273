"""A recording read again, as it was seen, by the same reader that reads the living picture."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from ..sonar.picture import Window
from .evidence import ReaderSetup, SeenPing
from .reader import Reader
from .recording import MY_LURE, Recording
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
    said = _lures_pointed_at(recording, time_s)
    if said and said[-1][0] < recording.time_s[first]:
        first = max(int(np.searchsorted(recording.time_s, said[-1][0] - WARMING_S)), 0)
    reading = PictureReading(time_s)
    for now in _read_on(recording, first, last):
        reading = now if now.complete else reading
    return reading


def _lures_pointed_at(recording: Recording, until_s: float) -> list[tuple[float, float]]:
    """When somebody said that a mark is the lure, and where it stood [m from the face]."""
    said = [(one.time_s, one.depth_m - recording.face_depth_m) for one in recording.notes if one.text == MY_LURE]
    return sorted(one for one in said if one[0] <= until_s)


def _read_on(recording: Recording, first: int = 0, last: int | None = None) -> Iterator[PictureReading]:
    """What the reader says, ping by ping, of what the picture shows and of what somebody pointed at."""
    reader: Reader | None = None
    said = _lures_pointed_at(recording, np.inf)
    for view, seen in pings_of_recording(recording, first, last):
        if reader is None:
            reader = Reader(view)
            said = [one for one in said if one[0] >= seen.time_s]
        elif view is not reader.view:
            reader.turn(view)
        yield reader.see(seen)
        while said and said[0][0] <= seen.time_s:
            reader.point_at_lure(said.pop(0)[1], seen.time_s)


def moments_in(recording: Recording, told: Callable[[int, int], None] | None = None) -> list[Moment]:
    """Every moment the reader finds, from start to end. `told` hears how many pings are done, of how many."""
    found: list[Moment] = []
    for k, now in enumerate(_read_on(recording)):
        found += now.moments
        if told is not None and k % 200 == 0:
            told(k, recording.time_s.size)
    return found
