"""What goes on for as long as someone reads its stream: paced by the clock, sent as server-sent events, then freed.

When the reader goes, it waits a few seconds to be picked up again (a phone that lost its signal) and is then forgotten.
Before its first reader it waits longer, unless its place is wanted: a slow phone on a slow link has other things to
fetch first, and what it was told of should be there when it asks.
"""

from __future__ import annotations

import base64
import json
import secrets
import threading
import time
from abc import ABC, abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

import numpy as np
from flask import Response, stream_with_context
from numpy.typing import NDArray

GRACE_S = 4.0
FIRST_GRACE_S = 20.0
LATE_S = 0.5


class Full(Exception):
    """There are as many as this machine is asked to run."""

    def __init__(self, most: int, what: str, where: str) -> None:
        super().__init__(
            f"All {most} live {what} are in use. Close the {where} in another window, or wait a few seconds and try "
            "again."
        )


class Gone(Exception):
    """There is no such one, or no more."""

    def __init__(self, what: str, its_id: str) -> None:
        super().__init__(f"There is no live {what} {its_id[:24]!r}. It may have been freed; start another.")


@dataclass(kw_only=True)
class Live(ABC):
    """One that goes on: what it sends, a frame each `frame_s` [s]."""

    id: str
    frame_s: float
    lock: threading.Lock = field(default_factory=threading.Lock)
    stepping: threading.Lock = field(default_factory=threading.Lock)
    watchers: int = 0
    reader: int = 0
    left_at: float = field(default_factory=time.monotonic)
    freed: bool = False

    @abstractmethod
    def next_event(self) -> str:
        """The next frame as events of the stream."""

    def new_reader(self) -> None:  # noqa: B027 - most have nothing to say again
        """Somebody begins to read, and has heard nothing yet."""

    def stream(self) -> Iterator[str]:
        """Server-sent events, a frame each `frame_s`, until the reader goes."""
        with self.lock:
            self.watchers += 1
            self.reader += 1
            mine = self.reader
        try:
            due = time.monotonic()
            self.new_reader()
            # A reader that comes back before its old stream is known to be dead takes over: two would double time.
            while not self.freed and mine == self.reader:
                yield self.next_event()
                due += self.frame_s
                late = time.monotonic() - due
                if late > LATE_S:  # the machine slept or was starved: go on from now rather than race to catch up
                    due = time.monotonic()
                elif late < 0:
                    time.sleep(-late)
        finally:
            with self.lock:
                self.watchers -= 1
                self.left_at = time.monotonic()


def streamed(one: Live) -> Response:
    """Its stream as an answer that nothing on its way keeps or gathers up."""
    answer = Response(stream_with_context(one.stream()), mimetype="text/event-stream")
    answer.headers["Cache-Control"] = "no-store"
    answer.headers["X-Accel-Buffering"] = "no"
    return answer


L = TypeVar("L", bound=Live)


class Lives(Generic[L]):
    """All of a kind that go on in this program, at most `most`."""

    what, where = "pictures", "page"

    def __init__(self, most: int, pace: float = 1.0) -> None:
        """Their water runs `pace` times as fast as life."""
        self.most = most
        self.pace = pace
        self._all: dict[str, L] = {}
        self._lock = threading.Lock()

    def put(self, one: L) -> L:
        """Let it go on, or raise Full."""
        with self._lock:
            self._free_abandoned()
            if len(self._all) >= self.most:
                self._free_abandoned(GRACE_S)
            if len(self._all) >= self.most:
                raise Full(self.most, self.what, self.where)
            self._all[one.id] = one
        return one

    def get(self, its_id: str) -> L | None:
        """The one with this id, or None if it was never there or has been freed."""
        with self._lock:
            self._free_abandoned()
            return self._all.get(its_id)

    def free(self, its_id: str) -> bool:
        """End one; False if it was not there."""
        with self._lock:
            one = self._all.pop(its_id, None)
        if one is None:
            return False
        one.freed = True
        return True

    def count(self) -> int:
        """How many go on."""
        with self._lock:
            self._free_abandoned()
            return len(self._all)

    def _free_abandoned(self, first_grace_s: float = FIRST_GRACE_S) -> None:
        # One costs nothing while nobody reads it, so looking when asked is soon enough.
        now = time.monotonic()
        for its_id, one in list(self._all.items()):
            grace_s = GRACE_S if one.reader else first_grace_s
            if one.watchers == 0 and now - one.left_at > grace_s:
                one.freed = True
                del self._all[its_id]


def new_id() -> str:
    """A name that nobody can guess."""
    return secrets.token_urlsafe(12)


def event(name: str, fields: dict[str, Any]) -> str:
    """One server-sent event."""
    return f"event: {name}\ndata: {json.dumps(fields, separators=(',', ':'), allow_nan=False)}\n\n"


def packed(levels: NDArray[np.uint8]) -> str:
    """Picture levels as base64."""
    return base64.b64encode(levels.tobytes()).decode("ascii")
