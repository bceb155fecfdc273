"""Attention: what an angler notices of a frame, with the eyes on the sonar or on the rod tip, and the truth hidden.

The tip is seen only by eyes on it; through the glove comes what is strong. What fish think is nobody's to know before
the debrief, and a set that comes too early, too late or on nothing feels the same: nothing is on.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..bench.frame import Frame
from ..fish import rod
from ..fish.events import Event, EventKind, Eyes, TipSays

FELT_BEND = 0.60  # a load that bends the tip further than this is felt in the hand. Common practice, no source
NOTHING_ON: tuple[EventKind, ...] = ("too early", "too late", "nothing there", "only nipped")
CAME_OFF: tuple[EventKind, ...] = ("torn out", "too soft")
TOLD: tuple[EventKind, ...] = ("hooked", "landed", "line parted", "already on")


def perceived(frame: Frame) -> Frame:
    """The frame as its angler has it: no truth, the tips by where the eyes are, events as they are felt."""
    # A line that goes slack at the bottom is felt in the hand that holds the rod. Common practice, no source.
    tip, bend = frame.rod_tip, frame.rod_tip_bend
    if tip != "bottom":
        tip, bend = _tip(tip, bend, frame.eyes)
    stick, stick_bend = _tip(frame.stick_tip, frame.stick_tip_bend, frame.eyes)
    return replace(
        frame,
        fish=(),
        school=np.zeros((0, 4), dtype=np.float32),
        rod_tip=tip,
        rod_tip_bend=bend,
        stick_tip=stick,
        stick_tip_bend=stick_bend,
        events=tuple(told for event in frame.events if (told := _felt(event)) is not None),
    )


def _tip(says: TipSays, bend: float, eyes: Eyes) -> tuple[TipSays, float]:
    if eyes == "rod":
        return says, bend
    return ("felt", bend) if bend > FELT_BEND else ("unwatched", rod.REST_BEND)


def _felt(event: Event) -> Event | None:
    if event.kind in TOLD:
        return event if event.kind == "landed" else Event(event.kind, event.depth_m)
    if event.kind in NOTHING_ON:
        return Event("nothing on", event.depth_m)
    if event.kind in CAME_OFF:
        return Event("came off", event.depth_m)
    return None
