"""What is to be said of a run as a whole: how the lure was lifted, for whom, and whether it stayed in the picture."""

from __future__ import annotations

import numpy as np

from ..bench.frame import STEP_S
from ..fish.traits import EVERY
from ..tuning.situation import situation_at
from ..wording import Quantity
from .judge import Judge, m, s

SEEN_EVERY_S = 1.0  # how often the picture is asked whether the lure shows
NEAR_M = 1.2  # a fish this near the lure is the one being worked
LEVEL_M = -0.15  # a fish no more above the lure than this is at its height
WASTED_S = 20.0  # so long on a fish too small to hook is a waste
SLOW_ENOUGH = 0.7  # share of lifting that must have been slow to be called so
LOST_SHARE = 0.15


def lifting(judge: Judge) -> None:
    """How the lure was lifted while a fish followed or looked on from near, at its height or below it.

    A lift towards one that is above takes nothing away.
    """
    slow_from, slow_to = EVERY["slow_from_m_s"], 0.06
    watched = np.array([
        any(f.mood in ("curious", "following") and LEVEL_M < f.z - beat.lure_m < NEAR_M and f.aside_m < NEAR_M
            for f in beat.fish)
        for beat in judge.beats
    ])  # fmt: skip
    up = watched & (judge.rising > slow_from)
    if up.sum() * STEP_S < 0.5:
        return
    slow = up & (judge.rising <= slow_to)
    judge.count("lift slowly", float(slow.sum()) * STEP_S, float(up.sum()) * STEP_S)
    k = int(np.flatnonzero(up)[-1])
    if slow.sum() > SLOW_ENOUGH * up.sum():
        speed = float(np.median(judge.rising[slow]))
        judge.tell(k, "lift", "Lifted at {speed} while it looked on: that draws.", 0.6, True,
                  speed=Quantity(speed, "m/s"))  # fmt: skip
    elif not any(one.code == "lift" for one in judge.found):
        fast = up & ~slow
        k = int(np.flatnonzero(fast)[np.argmax(judge.rising[fast])])
        judge.tell(k, "lift", "Lifted at {speed} with a fish looking on; {best} draws.", 1.6,
                  speed=Quantity(float(judge.rising[k]), "m/s"), best=Quantity(0.03, "m/s"))  # fmt: skip


def onlooker(judge: Judge) -> None:
    """When nothing else is to be told of a fish that looked on: how near it came."""
    near = [
        (float(np.hypot(f.aside_m, f.z - beat.lure_m)), k, f)
        for k, beat in enumerate(judge.beats)
        for f in beat.fish
        if f.mood in ("curious", "following")
    ]
    if near and not judge.found:
        away, k, fish = min(near, key=lambda one: one[:2])
        judge.tell(k, "far", "A {fish} fish looked on, at its nearest {away} from the lure and {aside} off to the "
                  "side. Nothing came of it.", 0.1, back_s=4.0, fish=m(fish.length_m), away=m(away),
                  aside=m(fish.aside_m))  # fmt: skip


def small_fish(judge: Judge) -> None:
    """Time spent on fish that are too small to hook."""
    worked, length, last = 0, 0.0, 0
    for k, beat in enumerate(judge.beats):
        near = [f for f in beat.fish if f.mood in ("curious", "following", "mouthing")
                and abs(f.z - beat.lure_m) < NEAR_M and f.aside_m < NEAR_M]  # fmt: skip
        if near and all(f.length_m < EVERY["nip_m"] for f in near):
            worked, length, last = worked + 1, max(f.length_m for f in near), k
    wasted = worked * STEP_S
    if judge.log.setup.small:
        judge.count("leave small fish", float(wasted < WASTED_S))
    if wasted >= WASTED_S:
        judge.tell(last, "small", "Stayed {wasted} on a {fish} fish.", 1.8, back_s=min(wasted, 20.0),
                  wasted=s(wasted), fish=m(length))  # fmt: skip


def picture(judge: Judge) -> None:
    """How much of the time the lure was lost in the picture, by its gain window."""
    setup, settings = judge.log.setup, judge.log.setup.settings
    changes = [(at, c.settings) for at, c in judge.log.commands if c.settings is not None]
    lost, looked, worst, last = 0, 0, 0.0, 0
    for k in range(round(8.0 / STEP_S), len(judge.beats), round(SEEN_EVERY_S / STEP_S)):
        while changes and changes[0][0] <= k + 1:
            settings = changes.pop(0)[1]
        beat = judge.beats[k]
        if beat.lure_m < setup.scene.face_depth_m + 1.5:
            continue
        limits = situation_at(setup.scene, setup.unit, settings, setup.lure, round(beat.lure_m, 1)).limits
        looked += 1
        if np.isfinite(limits.floor) and settings.gain < limits.floor:
            lost, last = lost + 1, k
            worst = max(worst, float(limits.floor) - settings.gain)
    if looked < 5:
        return
    judge.count("keep the lure in the picture", float(looked - lost), float(looked))
    if lost > LOST_SHARE * looked:
        share = Quantity(100.0 * lost / looked, "percent")
        judge.tell(last, "picture", "The lure was lost from the picture for {share} of the time: {less} too little "
                  "gain.", 1.7, share=share, less=Quantity(worst, "gain"))  # fmt: skip
