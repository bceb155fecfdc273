"""All knobs at once: of everything that a unit can be set to, what leaves a lure the most room to show in quiet water.

Card and coach ask the same search, so that what one finds the other does not deny. It is exact in what it tries: each
width comes from the gain window's own terms. What it need not try is left out by rule: rejection of all steps acts
through one number, a ladder only moves the window along the knob, and of time-varied gain all steps are tried for the
best few of the rest.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product

import numpy as np

from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar import picture, receiver
from ..sonar.transmission import transmit
from .gain_window import gain_window
from .situation import Situation, situation_at

FEW = 3  # how many of the best are tried with every step of time-varied gain
SPECKS = 0.02  # a row of a few cells lights as often as its window's ceiling allows
LAG_COSTS_DB = 0.15  # what each ping that rejection keeps is worth: a picture that lags shows a moving lure late
TURN_COSTS_DB = 0.3  # and each knob that is turned for nothing


@dataclass(frozen=True)
class Found:
    """Settings, and the room [dB] that they leave between floor and ceiling as far as the knob reaches; below 0 none
    does. `worth_db` is the room less what the settings cost."""

    settings: Settings
    room_db: float
    worth_db: float


def best_joint(s: Situation) -> Found:
    """The settings that leave the lure most room, range, windows and gain left as they are."""
    # Gain moves no window, and a hand's breadth of line hardly does: so the same search is not made at every ping.
    depth = max(round(s.lure_depth_m, 1), s.scene.face_depth_m + 0.06)
    found = _best(s.scene, s.unit, replace(s.settings, gain=s.unit.gain.minimum), s.lure, depth)
    return replace(found, settings=replace(found.settings, gain=s.settings.gain))


@lru_cache(maxsize=256)
def _best(scene: Scene, unit: UnitProfile, now: Settings, lure: Lure, depth_m: float) -> Found:
    s = situation_at(scene, unit, now, lure, depth_m)
    rejection = dropping_most(unit)
    steps = {now.rejection, rejection}
    first = [
        _found(s, replace(now, beam=beam, pulse=pulse, noise_filter=bins, rejection=step))
        for beam, pulse, bins, step in product(
            range(len(unit.beams)), range(len(unit.pulses)), range(len(unit.noise_filters)), steps
        )
    ]
    first.sort(key=lambda one: -one.worth_db)
    tried = [*first, *(_found(s, one) for one in _quieter_near(unit, first[:FEW]))]
    best = max(tried, key=lambda one: one.worth_db)
    if best.room_db < 0.0:
        # Where the knob ends before the window does, less sound or a ladder that begins elsewhere moves it back.
        moved = [
            _found(s, replace(best.settings, power=power, ladder=ladder))
            for power, ladder in product(range(len(unit.powers_w)), range(len(unit.ladders)))
        ]
        best = max([best, *moved], key=lambda one: one.worth_db)
    return best


def _quieter_near(unit: UnitProfile, found: list[Found]) -> Iterator[Settings]:
    for one in found:
        for step in range(len(unit.tvg_db_decade)):
            if step != one.settings.tvg:
                yield replace(one.settings, tvg=step)


def _found(s: Situation, settings: Settings) -> Found:
    room_db = room_of(s, settings)
    kept = int(s.unit.rejections[settings.rejection].pings)
    turned = sum(
        getattr(settings, name) != getattr(s.settings, name)
        for name in ("beam", "pulse", "noise_filter", "rejection", "tvg", "power", "ladder")
    )
    return Found(settings, room_db, room_db - LAG_COSTS_DB * (kept - 1) - TURN_COSTS_DB * turned)


def room_of(s: Situation, settings: Settings) -> float:
    """Width of the window [dB] with these settings, as far as the knob reaches; very negative out of the beam."""
    zoom = picture.window(settings, s.scene.bottom_range_m)
    shown = picture.full_column(settings) if settings.beside else zoom
    limits = gain_window(transmit(s.scene, s.unit, settings), s.unit, settings, s.lure, s.lure_depth_m, shown)
    scale = s.unit.gain
    if not np.isfinite(limits.floor) or limits.buried:
        return -400.0
    low, high = max(limits.floor, scale.minimum), min(limits.ceiling, scale.maximum)
    return scale.decibels(high) - scale.decibels(low)


@lru_cache(maxsize=64)
def dropping_most(unit: UnitProfile) -> int:
    """The step of rejection that takes most specks away; of equals the one that lags least. Not always the highest:
    most of four pings is three, and most of five is three too."""
    kept = Settings(unit.gain.minimum, unit.ranges_m[-1])
    speck = np.array([SPECKS * 5.0])

    def left(step: int) -> tuple[float, int]:
        return round(float(receiver.kept_chance(speck, unit, replace(kept, rejection=step))[0]), 9), step

    return min(range(len(unit.rejections)), key=left)
