"""What was worked out of late, kept for a while: of rows that never change but may be removed."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from typing import Generic, TypeVar

Made = TypeVar("Made")


class Recent(Generic[Made]):
    """The last `most` things made, by key. Safe from many threads; two that ask at once may both make it."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._made: OrderedDict[Hashable, Made] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], Made]) -> Made:
        """What is under `key`, made if it is not there."""
        with self._lock:
            if key in self._made:
                self._made.move_to_end(key)
                return self._made[key]
        return self.put(key, make())

    def put(self, key: Hashable, made: Made) -> Made:
        """Remember this; the oldest is forgotten."""
        with self._lock:
            self._made[key] = made
            self._made.move_to_end(key)
            while len(self._made) > self._most:
                self._made.popitem(last=False)
        return made

    def forget(self, key: Hashable) -> None:
        """It is there no more: a row's id may be given again."""
        with self._lock:
            self._made.pop(key, None)
