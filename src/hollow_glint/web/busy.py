"""What costs a good part of a second to work out is done a few at a time; what would wait too long is told to return.

So no crowd of hard questions, however large, keeps a frame, a command or a look at the program's health waiting.
"""

from __future__ import annotations

import threading
from typing import Any

from flask import Response, g, request
from flask_openapi3 import OpenAPI

from .problems import problem

AT_ONCE = 3
WAITING = 6
WAITS_S = 4.0

# Addresses, by the name of the function that answers them.
HARD = frozenset({
    "card.make_card", "card.translate_card", "card.get_card", "card.keep_card", "card.give_card", "card.tick_check",
    "calibration.try_fit", "calibration.calibrate", "calibration.look", "drills.get_drill", "drills.answer_drill",
    "drills.call", "recordings.get_reading", "recordings.get_mending", "recordings.give_recording",
    "recordings.keep_recording", "trip.find_surface", "trip.plan_walk", "runs.start_run", "runs.get_run",
    "runs.what_if", "ice_day.run_lab",
    "trip_day.get_map", "trip_day.where_to_sound", "trip_day.find_start_places", "trip_day.plan",
    "search.cover_basin", "searches.get_search", "fan_cards.make_fan_card", "fan_cards.translate_fan_card",
    "fans.start_fan", "log.find_patterns", "season.get_season", "season.get_shares", "season.get_heights",
    "log_places.find_elsewhere", "log_places.list_returns", "log_places.get_worked",
    "log_files.give_log", "log_files.take_log", "log_files.give_backup", "log_files.restore_backup",
    "shelter.keep_party", "shelter.plan_party", "shelter_places.find_shelter_places",
    "pocket.make_pocket_sheet", "pocket.take_notes",
    "photos.read_levels", "photos.find_photo_corners", "photos.keep_photo_recording",
    "photos.find_photo_ring", "photos.keep_ring_recording",
    "sharing.look_at_shared", "sharing.give_shared", "sharing.take_shared",
})  # fmt: skip


class Gate:
    """Lets a few in, has a few wait, and turns the rest away."""

    def __init__(self, at_once: int = AT_ONCE, waiting: int = WAITING, waits_s: float = WAITS_S) -> None:
        self._room = threading.Semaphore(at_once)
        self._queue = threading.Semaphore(at_once + waiting)
        self._waits_s = waits_s

    def enter(self) -> bool:
        """Whether there is room, at once or soon."""
        if not self._queue.acquire(blocking=False):
            return False
        if self._room.acquire(timeout=self._waits_s):
            return True
        self._queue.release()
        return False

    def leave(self) -> None:
        """Make room."""
        self._room.release()
        self._queue.release()


def register(app: OpenAPI) -> None:
    """Guard the hard questions of `app`."""
    gate = Gate()

    @app.before_request
    def _enter() -> Response | None:
        if request.endpoint not in HARD:
            return None
        if gate.enter():
            g.in_gate = True
            return None
        answer = problem(503, "The program is working on other questions just now. Ask again in a second or two.")
        answer.headers["Retry-After"] = "1"
        return answer

    @app.teardown_request
    def _leave(_: Any) -> None:
        if g.pop("in_gate", False):
            gate.leave()
