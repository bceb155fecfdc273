"""The demo's first fish: willing, and soon there, so that whoever follows the README to the letter catches it."""

from __future__ import annotations

import threading

from ...core.fish.states import Newcomer
from ...core.fish.strike import FIRST_FISH_S
from ...core.hole.scene import Scene

SEED = 3  # of the first Bench that a demo opens at a hole: its fish stays, however slow the hand


class FirstFish:
    """In a demo, who comes first at a hole; elsewhere chance says so from the start."""

    def __init__(self, demo: bool) -> None:
        self._demo = demo
        self._lock = threading.Lock()
        self._begun = False

    def seed(self) -> int | None:
        """The seed of the demo's first Bench at a hole; None for every other."""
        with self._lock:
            first, self._begun = self._demo and not self._begun, True
        return SEED if first else None

    def at(self, scene: Scene) -> Newcomer | None:
        """A fish that will come to a lure, passing under the hole; None outside the demo or where none may come."""
        if not self._demo or scene.visitors == 0:
            return None
        home_m = scene.bottom_depth_m - 0.1 * (scene.bottom_depth_m - scene.face_depth_m)
        return Newcomer("whitefish", 0.34, home_m, 3.0, 1.0, 0.0, stays_s=80.0, comes=True, at_s=FIRST_FISH_S)
