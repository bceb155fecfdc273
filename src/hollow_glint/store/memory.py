"""What was worked out from the log, kept until something is written to it: twenty seasons are read and weighed once."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from typing import Any, TypeVar

MOST = 64  # answers: what was not asked for longest goes
Made = TypeVar("Made")


class Memory:
    """Answers under their keys, all of one log. Thread-safe; what two threads ask for at once is worked out once.

    What is given is shared: nobody may change it.
    """

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._stamp = b""
        self._kept: OrderedDict[Hashable, Future[Any]] = OrderedDict()
        # What was read of each row of the log, under all that stands in it: good for as long as the row is the same.
        self.lasting: dict[Hashable, Any] = {}

    def get(self, stamp: bytes, key: Hashable, make: Callable[[], Made]) -> Made:
        """What `make` gives for the log of this stamp. The stamp is read before the log is: what is written meanwhile
        can only make an answer newer than its stamp, and the next stamp asks anew. Raises what `make` raises."""
        answer, is_mine = self._place(stamp, key)
        if is_mine:
            try:
                answer.set_result(make())
            except BaseException as problem:
                self._forget(key, answer)
                answer.set_exception(problem)
        found: Made = answer.result()
        return found

    def _place(self, stamp: bytes, key: Hashable) -> tuple[Future[Any], bool]:
        """Where the answer is or will be, and whether it is for the caller to make it."""
        with self._lock:
            if stamp != self._stamp:
                self._stamp, self._kept = stamp, OrderedDict()
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key], False
            self._kept[key] = Future()
            if len(self._kept) > MOST:
                self._kept.popitem(last=False)
            return self._kept[key], True

    def _forget(self, key: Hashable, answer: Future[Any]) -> None:
        with self._lock:
            if self._kept.get(key) is answer:
                del self._kept[key]
