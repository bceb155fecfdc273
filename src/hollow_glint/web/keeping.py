"""Writes that must not be lost: tried at once in a thread of their own, and again until they succeed.

A hooked fish and a run that is over exist nowhere else. When the store is held by another program or its disk is full,
they wait here, whoever waits for them is told why, and they are written as soon as that can be.
"""

from __future__ import annotations

import logging
import sqlite3
import threading
from collections import deque
from collections.abc import Callable

from ..store.database import Database, words_for

AGAIN_S = 1.0  # between two tries
LOG = logging.getLogger(__name__)


class Pending:
    """One write: its row's id once it is done, and why it is not done yet."""

    def __init__(self, write: Callable[[], int | None], called: str) -> None:
        self.write, self.called = write, called
        self.row_id: int | None = None
        self.why_not = ""
        self._done = threading.Event()

    @property
    def is_done(self) -> bool:
        """Whether it has been written."""
        return self._done.is_set()

    def wait(self, seconds: float) -> bool:
        """Wait for it at most so long [s]; whether it is done."""
        return self._done.wait(seconds)

    def finish(self, row_id: int | None, why_not: str = "") -> None:
        """It is written, under this id; or never will be, and why."""
        self.row_id, self.why_not = row_id, why_not
        self._done.set()


class Keeper:
    """Keeps what is submitted, in order, one at a time."""

    def __init__(self, database: Database, again_s: float = AGAIN_S) -> None:
        self._database, self._again_s = database, again_s
        self._waiting: deque[Pending] = deque()
        self._change = threading.Condition()
        self._closing = False
        self._thread: threading.Thread | None = None

    def submit(self, write: Callable[[], int | None], called: str) -> Pending:
        """Have `write` done; it gives the id of what it wrote; it is called again while it cannot."""
        pending = Pending(write, called)
        with self._change:
            self._waiting.append(pending)
            if self._thread is None:
                self._thread = threading.Thread(target=self._work, daemon=True, name="keeper")
                self._thread.start()
            self._change.notify()
        return pending

    @property
    def waiting(self) -> int:
        """How many writes are not done."""
        with self._change:
            return len(self._waiting)

    def close(self, within_s: float = 5.0) -> None:
        """Give what waits its last chance, and say in the log what could not be kept."""
        with self._change:
            self._closing = True
            self._change.notify()
            thread = self._thread
        if thread is not None:
            thread.join(within_s)
        for lost in self._waiting:
            LOG.error("%s could not be written before the program ended: %s", lost.called, lost.why_not)

    def _work(self) -> None:
        while True:
            with self._change:
                while not self._waiting:
                    if self._closing:
                        self._database.close()
                        return
                    self._change.wait()
                pending = self._waiting[0]
            why_not = ""
            try:
                row_id = pending.write()
            except sqlite3.Error as wrong:
                pending.why_not = words_for(wrong).sentence
                with self._change:
                    if self._closing:
                        self._database.close()
                        return
                    self._change.wait(self._again_s)
                continue
            except Exception as wrong:  # no fault of the store: it would fail as it did, for ever
                LOG.exception("%s cannot be written", pending.called, exc_info=wrong)
                row_id, why_not = None, "It cannot be written; the log of the program says why."
            with self._change:
                self._waiting.popleft()
            pending.finish(row_id, why_not)
