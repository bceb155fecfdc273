"""Moments: what is worth telling of a reading, each with the one thing to do that common practice gives."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..wording import Quantity, Sentence
from .report import BottomReading, Moment, MomentKind, NamedMark
from .track import Track

SWELL_PINGS = 5
LATELY_TOUCHED_S = 20.0  # a fish that turns away this long after touching was put off
IGNORES_S = 25.0

DO: dict[MomentKind, str] = {
    "fish in the cone": "Hold still and let it come.",
    "coming up": "Lift slowly, and keep it following.",
    "marks touching": "Eyes to the rod tip.",
    "merged": "Eyes to the rod tip: it is on or beside the lure.",
    "put off": "Stop chasing. Hold still, then twitch once.",
    "gone": "Wait a minute, then lift once to call the next.",
    "charging": "Hold still. Eyes to the rod tip.",
    "restless bottom": "Go and look: lower the lure to a hand above the bottom.",
    "ignores you": "Leave it: twitch for the next one, or move.",
}


class Teller:
    """Remembers what was told when, so that nothing is told twice over; and how the lure looks when it is alone."""

    def __init__(self) -> None:
        self._told: dict[tuple[int, MomentKind], float] = {}
        self._fish_seen: dict[int, float] = {}
        self._lure_alone: tuple[float, float, int] | None = None  # thickness, level and number of the lure's mark
        self._out: list[Moment] = []

    def moments(
        self, named: Sequence[NamedMark], lure: Track | None, bottom: BottomReading | None, time_s: float,
        resolution_m: float, row_m: float, lure_hangs_still: bool,
    ) -> tuple[Moment, ...]:  # fmt: skip
        """What is new at `time_s` [s]. Lengths in [m]; `lure_hangs_still` when no line was moved for a second."""
        self._out = []
        if lure is not None and self._swells(lure, row_m, lure_hangs_still):
            say = "Your lure's mark swells: something is beside it."
            self._tell(time_s, "marks touching", lure.id, say, 3.0)
        here = {mark.track for mark in named if mark.kind == "fish"}
        for mark in named:
            if mark.kind != "fish" or mark.fish is None:
                continue
            if mark.track not in self._fish_seen:
                depth = Quantity(mark.depth_m, "m")
                self._tell(time_s, "fish in the cone", mark.track, "A fish at {depth}.", depth=depth)
            self._fish_seen[mark.track] = time_s
            if mark.fish.gap_m is not None:
                self._of_fish(mark, mark.fish.gap_m, lure, time_s, resolution_m)
        for track, when in list(self._fish_seen.items()):
            if track not in here and time_s - when > 1.0:
                del self._fish_seen[track]
                self._tell(time_s, "gone", track, "The fish is gone.")
        if bottom is not None and bottom.restless and not here:
            self._tell(time_s, "restless bottom", -1, "The bottom's edge is restless.", 30.0)
        return tuple(self._out)

    def _tell(
        self, time_s: float, kind: MomentKind, track: int, text: str, every_s: float = 5.0, **values: Quantity
    ) -> None:
        if time_s - self._told.get((track, kind), -1e9) >= every_s:
            self._told[track, kind] = time_s
            self._out.append(Moment(kind, time_s, track, Sentence(text, values), DO[kind]))

    def _of_fish(self, mark: NamedMark, gap: float, lure: Track | None, time_s: float, resolution_m: float) -> None:
        fish, track = mark.fish, mark.track
        assert fish is not None
        apart = Quantity(abs(gap), "m")
        near = abs(gap) < resolution_m or (mark.hidden and abs(gap) < 2.0 * resolution_m)
        here_for = time_s - self._told.get((track, "fish in the cone"), float("inf"))
        touched_ago = time_s - self._told.get((track, "marks touching"), -1e9)
        if near:
            self._tell(time_s, "marks touching", track, "Fish and lure are {gap} apart.", 3.0, gap=apart)
            base = self._lure_alone
            if mark.hidden and lure is not None and base is not None and lure.thick_m > 1.25 * base[0] > 0.0:
                self._tell(time_s, "merged", track, "The marks are one, and it swells.", 6.0)
        elif fish.interest == "charging":
            speed = Quantity(abs(fish.seems_m_s), "m/s")
            self._tell(time_s, "charging", track, "It comes at {speed} to your lure.", speed=speed)
        elif fish.interest == "curious" and gap > 0.0 and fish.seems_m_s < -0.03:
            self._tell(time_s, "coming up", track, "A fish comes up, {gap} below your lure.", gap=apart)
        elif fish.interest == "put off" and touched_ago < LATELY_TOUCHED_S:
            self._tell(time_s, "put off", track, "It turns away, {gap} from your lure.", gap=apart)
        elif fish.interest == "steady" and fish.going == "here" and here_for > IGNORES_S:
            text = "It has been here for half a minute and has not moved to you."
            self._tell(time_s, "ignores you", track, text, 60.0)

    def _swells(self, lure: Track, row_m: float, hangs_still: bool) -> bool:
        """Whether the lure's mark has of late been thicker or stronger than it was alone: a fish that comes in from the
        side at its very range is never a mark of its own. A lure on its way paints by where it is."""
        recent = [(entry[3], entry[2]) for entry in list(lure.seen)[-SWELL_PINGS:] if entry[2] > 0]
        if len(recent) < SWELL_PINGS - 1:
            return False
        thick, level = (float(np.mean([one[k] for one in recent])) for k in (0, 1))
        base = self._lure_alone
        if base is None or base[2] != lure.id:
            self._lure_alone = (thick, level, lure.id)
            return False
        swollen = hangs_still and (thick > 1.35 * base[0] + row_m or level > base[1] + 0.9)
        if not swollen:  # it drifts slowly with the lure's depth
            self._lure_alone = (base[0] + 0.05 * (thick - base[0]), base[1] + 0.05 * (level - base[1]), lure.id)
        return swollen
