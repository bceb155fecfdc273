"""The demo's first look: water in which a school swims by in sight, so that whoever follows the README finds it."""

from __future__ import annotations

import secrets
import threading

SEED = 21


class FirstLook:
    """In a demo, which water is looked at first; elsewhere, and ever after, chance says."""

    def __init__(self, demo: bool) -> None:
        self._lock = threading.Lock()
        self._to_come = demo

    def seed(self) -> int:
        """The seed of a look that asks for none."""
        with self._lock:
            first, self._to_come = self._to_come, False
        return SEED if first else secrets.randbelow(2**31)
