"""The lures in the fan: where each should show by its line, whether it does, what its place costs it, and which turn of
the handle has them all.

A lure can be lost in two ways that look alike: beside the plane, where the fan is no thicker, and in the strip where
two sub-arrays meet. Turning the handle mends the first by bringing it into the plane, and the second by drawing it
nearer to straight down.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from ..wording import Change, Quantity, Sentence
from .coach import WEAK_DB
from .look import FanLook
from .swimmers import HungLure
from .window import beam_loss_db

MARGIN_M: Final = 0.45  # a lure shows so near to where its line hangs
STEP_DEG: Final = 5.0
DEPTH_STEP_M, DEPTH_MOST_M = 0.1, 2.05
WORTH_DB: Final = 2.0  # a turn that gains less is not worth it


@dataclass(frozen=True)
class Blob:
    """A mark of one moment: how far ahead and how deep [m], how far over the water round it [dB], how wide and long it
    is drawn [m], how loud at its brightest [dB re 1 uPa] and how far through the water [m]."""

    ahead_m: float
    depth_m: float
    over_db: float
    wide_m: float
    long_m: float
    level_db: float = 0.0
    range_m: float = 0.0


@dataclass(frozen=True)
class LureSeen:
    """A lure: where its line says that it is drawn [m], its mark where it shows, and what its place in the fan costs it
    [dB, 0 and less], how far beside the plane it hangs [degrees, more to the right] and how far from where two
    sub-arrays meet [degrees]."""

    is_yours: bool
    ahead_m: float
    depth_m: float
    mark: Blob | None
    loss_db: float
    off_plane_deg: float
    from_seam_deg: float


@dataclass(frozen=True)
class TurnForAll:
    """Which way to have the handle point, and what is said of it; no change where it is best left."""

    said: Sentence
    change: Change | None


def lures_seen(look: FanLook, found: list[Blob]) -> tuple[LureSeen, ...]:
    """Each lure on its line, the first one's own: where it should show and whether it does."""
    return tuple(_lure_seen(look, one, found, k == 0) for k, one in enumerate(look.lures))


def _aside(look: FanLook, lure: HungLure, aim_deg: float) -> tuple[float, float, float]:
    """A lure ahead of the head and to its right with the handle so [m], and how deep it is now [m]."""
    turn = np.radians(aim_deg + look.hang.off_deg)
    return (
        float(lure.east_m * np.sin(turn) + lure.north_m * np.cos(turn)),
        float(lure.east_m * np.cos(turn) - lure.north_m * np.sin(turn)),
        lure.depth_at(look.time_s),
    )


def _lure_seen(look: FanLook, lure: HungLure, found: list[Blob], yours: bool) -> LureSeen:
    ahead, aside, depth = _aside(look, lure, look.hang.aim_deg)
    loss, r, angle = beam_loss_db(look.water, look.head, look.hang, (ahead, aside, depth))
    # What is beside the plane is drawn in it, at its own range: a little deeper than it hangs.
    drawn = look.hang.depth_m + float(np.sqrt(max(r**2 - ahead**2, 0.0)))

    def away(one: Blob) -> float:
        return float(np.hypot(one.ahead_m - ahead, one.depth_m - drawn))

    near = [one for one in found if away(one) < MARGIN_M + lure.lift_m]
    off = float(np.degrees(np.arcsin(np.clip(aside / max(r, 0.1), -1.0, 1.0))))
    seam = min((abs(angle - one) for one in look.head.seams_deg), default=180.0)
    return LureSeen(yours, ahead, drawn, min(near, key=away, default=None), float(loss), off, float(seam))


def turn_for_all(look: FanLook, lures: tuple[LureSeen, ...]) -> TurnForAll | None:
    """What keeps a lure from being heard, and the smallest turn that has all of them; None without a lure."""
    if not lures:
        return None
    worst = min(lures, key=lambda one: one.loss_db)
    if worst.loss_db > WEAK_DB:
        return TurnForAll(
            Sentence("All lures are well within the fan." if len(lures) > 1 else "Your lure is well within the fan."),
            None,
        )
    whose = "Your lure" if worst.is_yours else "Their lure"
    values = {"loss": Quantity(-worst.loss_db, "dB")}
    if abs(worst.off_plane_deg) < look.head.thickness_deg / 4.0:
        found = f"{whose} is in a weak strip, which costs {{loss}}"
    else:
        values["off"] = Quantity(abs(worst.off_plane_deg), "degrees")
        found = f"{whose} hangs {{off}} beside the plane, which costs {{loss}}"
    aims = [(look.hang.aim_deg + turn, turn) for turn in _turns()]
    costs = [min(_loss(look, one, aim) for one in look.lures) for aim, _ in aims]
    best = max(costs)
    if best < worst.loss_db + WORTH_DB:
        deeper = _depth_out(look, look.lures[lures.index(worst)])
        if deeper is None:
            return TurnForAll(Sentence(f"{found}. No turn of the handle is much better: move over.", values), None)
        values["depth"] = Quantity(deeper, "m")
        does = "hang it at {depth}" if worst.is_yours else "at {depth} it would be heard"
        return TurnForAll(Sentence(f"{found}. No turn of the handle is much better: {does}.", values), None)
    enough = min(max(WEAK_DB, worst.loss_db + WORTH_DB), best)
    aim, turn = next(aim for aim, cost in zip(aims, costs, strict=True) if cost >= enough)
    values["turn"] = Quantity(abs(turn), "degrees")
    side = "right" if turn > 0.0 else "left"
    has = "all of them are heard" if best > WEAK_DB and len(lures) > 1 else "it is heard better"
    return TurnForAll(
        Sentence(f"{found}: turn the handle {{turn}} to the {side}, and {has}.", values), Change("aim_deg", aim % 360.0)
    )


def _depth_out(look: FanLook, lure: HungLure) -> float | None:
    """The nearest depth of a lure [m] at which it is well heard, within two metres; None where there is none."""
    ahead, aside, now = _aside(look, lure, look.hang.aim_deg)
    bed = look.patch.bottom_depth_m
    for step in np.arange(DEPTH_STEP_M, DEPTH_MOST_M, DEPTH_STEP_M):
        for depth in (now - float(step), now + float(step)):
            if not look.hang.depth_m + 0.5 < depth < bed - 0.1:
                continue
            if beam_loss_db(look.water, look.head, look.hang, (ahead, aside, depth))[0] > WEAK_DB:
                return depth
    return None


def _turns() -> list[float]:
    """Turns to try [degrees], the smallest first."""
    return [way * float(turn) for turn in np.arange(STEP_DEG, 181.0, STEP_DEG) for way in (1.0, -1.0)]


def _loss(look: FanLook, lure: HungLure, aim_deg: float) -> float:
    hang = replace(look.hang, aim_deg=aim_deg % 360.0)
    return float(beam_loss_db(look.water, look.head, hang, _aside(look, lure, aim_deg))[0])
