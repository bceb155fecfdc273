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

POINTED_WITHIN_M = 0.5  # a touch is as good as a finger on a screen
FOLLOWED_PINGS = 8  # from which on a mark is surely followed
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
    said = [_as_it_began(recording, first, one) for one in said if one[0] >= recording.time_s[first]]
    reading = PictureReading(time_s)
    for _, now in read_on(recording, first, last, said):
        reading = now if now.complete else reading
    return reading


def _as_it_began(recording: Recording, first: int, said: tuple[float, float]) -> tuple[float, float]:
    """When and where [m from the face] the mark that somebody pointed at was first followed: it was the lure then too.
    As it was said, when nothing is followed there."""
    time_s, range_m = said
    last = int(np.searchsorted(recording.time_s, time_s, side="right"))
    readers = [reader for reader, _ in read_on(recording, first, last, [])]
    tracks = [] if not readers or readers[-1].tracker is None else readers[-1].tracker.tracks
    near = min(tracks, key=lambda one: abs(one.range_m - range_m), default=None)
    if near is None or abs(near.range_m - range_m) > POINTED_WITHIN_M:
        return said
    when, where = near.seen[min(FOLLOWED_PINGS, len(near.seen) - 1)][:2]
    return float(when), float(where)


def _lures_pointed_at(recording: Recording, until_s: float) -> list[tuple[float, float]]:
    """When somebody said that a mark is the lure, and where it stood [m from the face]."""
    said = [(one.time_s, one.depth_m - recording.face_depth_m) for one in recording.notes if one.text == MY_LURE]
    return sorted(one for one in said if one[0] <= until_s)


def read_on(
    recording: Recording, first: int, last: int | None, said: list[tuple[float, float]]
) -> Iterator[tuple[Reader, PictureReading]]:
    """A reader and what it says, ping by ping, of what the picture shows and of the lures that are `said` to be there:
    when, and how far from the face [m]."""
    reader: Reader | None = None
    said = sorted(said)
    for view, seen in pings_of_recording(recording, first, last):
        if reader is None:
            reader = Reader(view)
        elif view is not reader.view:
            reader.turn(view)
        yield reader, reader.see(seen)
        while said and said[0][0] <= seen.time_s:
            reader.point_at_lure(said.pop(0)[1], seen.time_s)


def moments_in(recording: Recording, told: Callable[[int, int], None] | None = None) -> list[Moment]:
    """Every moment the reader finds, from start to end. `told` hears how many pings are done, of how many."""
    found: list[Moment] = []
    for k, (_, now) in enumerate(read_on(recording, 0, None, _lures_pointed_at(recording, np.inf))):
        found += now.moments
        if told is not None and k % 200 == 0:
            told(k, recording.time_s.size)
    return found
