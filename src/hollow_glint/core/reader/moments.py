"""Moments: what is worth telling of a reading, each with the one thing to do that common practice gives."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..wording import Quantity, Sentence
from .report import BottomReading, FishReading, MarkName, Moment, MomentKind, NamedMark
from .track import Track

SWELL_PINGS = 5
SWOLLEN, MUCH_SWOLLEN = 1.35, 2.0  # times as thick as alone: with a fish about, and with none seen
STRONGER = 0.9  # steps
HANGS_M, GOES_M = 0.03, 0.12  # line moved in a second: less, and the lure hangs still; more, and it is on its way
ALONE_S = 2.0  # a lure must have been looked at for so long before its mark can be said to swell
SETTLES_S = 3.0  # what swells for so long with no fish near is how it hangs now
BESIDE_M, LATELY_S = 1.5, 5.0  # a fish so near to the lure, and seen so lately, may be what swells its mark
TOUCHING, PARTED = 1.0, 2.0  # pulses apart from which on they touch, and are parted again
LEAST_TOUCHING_S = 1.0  # what touched is parted no sooner
APART = 1.5  # pulses between fish and lure from which they are two marks: what touches has come from there
LATELY_TOUCHED_S = 20.0  # a fish that turns away this long after touching was put off
IGNORES_S = 25.0
# Told late: surely a fish for so long. Tuned on practice scenes (seeds from 10000 up).
TOLD_SURE, TOLD_AFTER_S = 0.85, 0.5
TAKEN_BACK_S = 1.0
GONE_S = 2.0  # out of sight for so long is gone
COMES_FROM_M = 0.6  # as far as a fish goes while it is out of sight
FISH_NAMES = ("fish", "bait")
OTHERWISE: dict[MarkName, str] = {
    "lure": "What was called a fish at {depth} is your lure.",
    "second lure": "What was called a fish at {depth} is your second lure.",
    "still": "What was called a fish at {depth} hangs still: it is none.",
}

DO: dict[MomentKind, str] = {
    "fish in the cone": "Hold still and let it come.",
    "coming up": "Lift slowly, and keep it following.",
    "marks touching": "Eyes to the rod tip.",
    "merged": "Eyes to the rod tip: it is on or beside the lure.",
    "put off": "Stop chasing. Hold still, then twitch once.",
    "gone": "Wait a minute, then lift once to call the next.",
    "charging": "Hold still. Eyes to the rod tip.",
    "restless bottom": "Go and look: lower the lure to a hand above the bottom.",
    "taken back": "Leave it; look for another.",
    "ignores you": "Leave it: twitch for the next one, or move.",
}


@dataclass(frozen=True)
class LureNow:
    """The lure as it is now: its track, the line moved in the last second [m], and whether it `wavers`: its echo
    depends on how it hangs, so that its mark swells by itself."""

    track: Track
    moved_m: float = 0.0
    wavers: bool = False


@dataclass
class _Seen:
    """A fish as it was followed: since when it is called one, whether it was told, when and where it was last named
    [m from the face], since when it is called something else, whether it was ever a mark apart from the lure's,
    when it was last at the lure."""

    since_s: float
    told: bool = False
    last_s: float = 0.0
    range_m: float = 0.0
    other_since_s: float | None = None
    apart: bool = False
    touched_s: float = -1e9


class Teller:
    """Remembers what was told when, so that nothing is told twice over; and how the lure looks when it is alone."""

    def __init__(self) -> None:
        self._told: dict[tuple[int, MomentKind], float] = {}
        self._fish: dict[int, _Seen] = {}
        self._lure_alone: tuple[float, float, int] | None = None  # thickness, level and number of the lure's mark
        self._alone_since_s = 0.0
        self._swollen_since_s: float | None = None
        self._touching, self._touched_s = False, -1e9  # whether something is at the lure; when that was last seen
        self._swelled = False  # whether its mark was thicker than alone a moment ago
        self._out: list[Moment] = []

    def moments(
        self, named: Sequence[NamedMark], lure: LureNow | None, bottom: BottomReading | None, time_s: float,
        resolution_m: float, row_m: float,
    ) -> tuple[Moment, ...]:  # fmt: skip
        """What is new at `time_s` [s]. Lengths in [m]."""
        self._out = []
        for mark in named:
            self._follow(mark, time_s)
        told = [mark for mark in named if mark.fish is not None and mark.fish.gap_m is not None and self._is_told(mark)]
        if lure is not None:
            self._touch(told, lure, time_s, resolution_m, row_m)
        for mark in told:
            if mark.kind == "fish" and mark.fish is not None:  # what bait is about is nobody's business
                self._of_fish(mark, mark.fish, time_s)
        self._who_left(time_s)
        if bottom is not None and bottom.restless and not any(mark.kind in FISH_NAMES for mark in named):
            self._tell(time_s, "restless bottom", -1, "The bottom's edge is restless.", 30.0)
        return tuple(self._out)

    def _touch(
        self, told: Sequence[NamedMark], lure: LureNow, time_s: float, resolution_m: float, row_m: float
    ) -> None:
        """Whether something is at the lure: told when it comes there, and not again before it has parted."""
        near: list[NamedMark] = []
        still_there = False
        for mark in told:
            assert mark.fish is not None and mark.fish.gap_m is not None
            gap, one = abs(mark.fish.gap_m), self._fish[mark.track]
            one.apart |= not mark.hidden and gap > APART * resolution_m
            still_there |= gap < PARTED * resolution_m
            # What keeps beside a lure that goes up or down fast is the lure's own echo.
            if gap < TOUCHING * resolution_m and one.apart and lure.moved_m < GOES_M:
                one.touched_s = time_s
                near.append(mark)
        about = any(
            one.told and abs(one.range_m - lure.track.range_m) < BESIDE_M and time_s - one.last_s < LATELY_S
            for one in self._fish.values()
        )
        swollen = self._swells(lure, row_m, about, time_s)
        swells = swollen > (SWOLLEN if about else np.inf if lure.wavers else MUCH_SWOLLEN)
        if near and not self._touching:
            gap_m = min(abs(mark.fish.gap_m or 0.0) for mark in near if mark.fish is not None)
            self._tell(
                time_s, "marks touching", near[0].track, "Fish and lure are {gap} apart.", 1.0, gap=Quantity(gap_m, "m")
            )
        elif swells and not self._swelled and not self._touching:
            say = "Your lure's mark swells: something is beside it."
            self._tell(time_s, "marks touching", lure.track.id, say, 1.0)
        begins = bool(near) or (swells and not self._swelled)
        self._swelled = swells
        if begins:
            self._touched_s = time_s
        self._touching = begins or (self._touching and (still_there or time_s - self._touched_s < LEAST_TOUCHING_S))
        base = self._lure_alone
        if base is not None and lure.track.thick_m > 1.25 * base[0] > 0.0:
            for mark in near:
                if mark.hidden:
                    self._tell(time_s, "merged", mark.track, "The marks are one, and it swells.", 6.0)

    def _is_told(self, mark: NamedMark) -> bool:
        one = self._fish.get(mark.track)
        return one is not None and one.told

    def _follow(self, mark: NamedMark, time_s: float) -> None:
        """A mark is named early and told late: when it has been a fish for a while, and surely. What was told and turns
        out to be something else is taken back in the open."""
        one = self._fish.get(mark.track)
        if mark.kind not in FISH_NAMES:
            if one is None:
                return
            if one.told:
                one.last_s = time_s
                one.other_since_s = time_s if one.other_since_s is None else one.other_since_s
                if time_s - one.other_since_s < TAKEN_BACK_S or mark.sure < TOLD_SURE:
                    return
                depth = Quantity(mark.depth_m, "m")
                self._tell(time_s, "taken back", mark.track, OTHERWISE[mark.kind], depth=depth)
            del self._fish[mark.track]
            return
        if one is None:
            one = self._fish[mark.track] = _Seen(time_s, told=self._goes_on(mark, time_s))
        one.last_s, one.range_m, one.other_since_s = time_s, mark.range_m, None
        if mark.sure < TOLD_SURE:
            one.since_s = time_s
        if not one.told and not mark.hidden and time_s - one.since_s >= TOLD_AFTER_S:
            one.told = True
            if mark.kind == "bait" and any(
                o is not one and o.told and time_s - o.last_s < 1.0 for o in self._fish.values()
            ):
                return  # a school is told once
            text = "A fish at {depth}." if mark.kind == "fish" else "Bait at {depth}."
            self._tell(time_s, "fish in the cone", mark.track, text, depth=Quantity(mark.depth_m, "m"))

    def _goes_on(self, mark: NamedMark, time_s: float) -> bool:
        """Whether a mark that begins is most likely a fish that was told and lost from sight just there."""
        for track, one in list(self._fish.items()):
            since = time_s - one.last_s
            if one.told and 0.0 < since < GONE_S and abs(one.range_m - mark.range_m) < COMES_FROM_M:
                del self._fish[track]
                return True
        return False

    def _who_left(self, time_s: float) -> None:
        for track, one in list(self._fish.items()):
            if time_s - one.last_s > GONE_S:
                del self._fish[track]
                if one.told:
                    self._tell(time_s, "gone", track, "The fish is gone.")

    def _tell(
        self, time_s: float, kind: MomentKind, track: int, text: str, every_s: float = 5.0, **values: Quantity
    ) -> None:
        if time_s - self._told.get((track, kind), -1e9) >= every_s:
            self._told[track, kind] = time_s
            self._out.append(Moment(kind, time_s, track, Sentence(text, values), DO[kind]))

    def _of_fish(self, mark: NamedMark, fish: FishReading, time_s: float) -> None:
        """What a told fish does that is not at the lure."""
        track, one, gap = mark.track, self._fish[mark.track], fish.gap_m or 0.0
        if one.touched_s == time_s:
            return
        apart = Quantity(abs(gap), "m")
        here_for = time_s - self._told.get((track, "fish in the cone"), float("inf"))
        if fish.interest == "charging":
            speed = Quantity(abs(fish.seems_m_s), "m/s")
            self._tell(time_s, "charging", track, "It comes at {speed} to your lure.", speed=speed)
        elif fish.interest == "curious" and gap > 0.0 and fish.seems_m_s < -0.03:
            self._tell(time_s, "coming up", track, "A fish comes up, {gap} below your lure.", gap=apart)
        elif fish.interest == "put off" and time_s - one.touched_s < LATELY_TOUCHED_S:
            self._tell(time_s, "put off", track, "It turns away, {gap} from your lure.", gap=apart)
        elif fish.interest == "steady" and fish.going == "here" and here_for > IGNORES_S:
            text = "It has been here for half a minute and has not moved to you."
            self._tell(time_s, "ignores you", track, text, 60.0)

    def _swells(self, now: LureNow, row_m: float, about: bool, time_s: float) -> float:
        """By how much the lure's mark has of late been thicker than it was alone, a row apart, or by a step stronger
        (as SWOLLEN): a fish that comes in from the side at its very range is never a mark of its own. A lure on its way
        paints by where it is: 0. With no fish `about`, what stays so is how it hangs now."""
        lure = now.track
        recent = [(entry[3], entry[2]) for entry in list(lure.seen)[-SWELL_PINGS:] if entry[2] > 0]
        if len(recent) < SWELL_PINGS - 1:
            return 0.0
        thick, level = (float(np.mean([one[k] for one in recent])) for k in (0, 1))
        base = self._lure_alone
        if base is None or base[2] != lure.id:
            self._lure_alone, self._alone_since_s, self._swollen_since_s = (thick, level, lure.id), time_s, None
            return 0.0
        swollen = (thick - row_m) / max(base[0], 1e-6)
        if level > base[1] + STRONGER:
            swollen = max(swollen, SWOLLEN + 0.01)
        if now.moved_m > HANGS_M or swollen <= SWOLLEN:  # it drifts slowly with the lure's depth
            self._lure_alone = (base[0] + 0.05 * (thick - base[0]), base[1] + 0.05 * (level - base[1]), lure.id)
            self._swollen_since_s = None
            return 0.0
        self._swollen_since_s = time_s if self._swollen_since_s is None else self._swollen_since_s
        if not about and time_s - self._swollen_since_s > SETTLES_S:
            self._lure_alone, self._swollen_since_s = (thick, level, lure.id), None
            return 0.0
        return swollen if time_s - self._alone_since_s > ALONE_S else 0.0
