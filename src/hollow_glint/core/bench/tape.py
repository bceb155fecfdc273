"""The last minutes of a living picture, as a reader sees them and as a recording keeps them."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from ..checks import InputError
from ..gear.settings import Settings
from ..reader.evidence import SeenPing
from ..reader.recording import Recording
from ..sonar.picture import Window
from .bench_run import REMEMBERED_S, BenchRun
from .frame import STEP_S, Frame


def pings_of_frame(frame: Frame, last_s: float) -> Iterator[SeenPing]:
    """The pings of a bench frame as they are seen, evenly from `last_s` [s] on, the frame's line shared among them."""
    count = frame.levels.shape[0]
    for k in range(count):
        when = last_s + (frame.time_s - last_s) * (k + 1) / count
        yield SeenPing(when, frame.levels[k], frame.shown, frame.line_in_m / count)


class Tape:
    """The last REMEMBERED_S of a picture, as it was shown."""

    def __init__(self) -> None:
        self._frames: deque[tuple[float, Window, float, Settings, NDArray[np.uint8]]] = deque(
            maxlen=int(REMEMBERED_S / STEP_S)
        )

    def add(self, frame: Frame) -> None:
        """One frame more."""
        self._frames.append((frame.time_s, frame.shown, frame.line_in_m, frame.settings, frame.levels))

    def recording(self, name: str, run: BenchRun, started: datetime) -> Recording:
        """What is on the tape of a `run` begun at `started` (UTC). Raises ValueError with fewer than two pings."""
        frames = [one for one in self._frames if one[4].shape[0]]
        count = np.array([one[4].shape[0] for one in frames], dtype=int)
        if count.sum() < 2:
            raise InputError("recording: nothing has been shown yet; wait a second and try again")
        first = np.concatenate([[0], np.cumsum(count)[:-1]])
        within = np.concatenate([(np.arange(n) + 1.0) / n for n in count])
        start = frames[0][0] - STEP_S
        time_s = np.repeat([one[0] - STEP_S - start for one in frames], count) + within * STEP_S
        settings: list[tuple[int, Settings]] = []
        for at, one in zip(first, frames, strict=True):
            if not settings or settings[-1][1] != one[3]:
                settings.append((int(at), one[3]))
        line = np.repeat([one[2] / n for one, n in zip(frames, count, strict=True)], count)
        return Recording(
            name=name,
            started_at=(started + timedelta(seconds=start)).strftime("%Y-%m-%dT%H:%M:%SZ"),
            unit=run.unit,
            settings=tuple(settings),
            time_s=time_s.round(6),
            levels=np.concatenate([one[4] for one in frames]),
            top_m=np.repeat([one[1].top_m for one in frames], count),
            bottom_m=np.repeat([one[1].bottom_m for one in frames], count),
            line_in_m=line,
            face_depth_m=run.scene.face_depth_m,
            temperature_c=run.scene.temperature_c,
            lure=run.lure,
        )
