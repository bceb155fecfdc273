"""From hole to hole: what to change from the last hole's card to this one's, largest effect first."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..sonar import picture
from ..tuning import gain_window
from ..tuning.company import neighbour_share
from .hole_card import HoleCard
from .remedies import room

KNOBS = ("gain", "range_m", "bottom_window_m", "free_window_m", "free_window_top_m", "beam", "power", "pulse",
         "rejection", "noise_filter", "tvg", "blanking", "ladder")  # fmt: skip
LEAST_DB = 0.05  # what has no effect on the lure or the water still has to be said, after all that has


@dataclass(frozen=True)
class CardChange:
    """One thing to change: its name (a field of Settings, "face_depth_m" or "lure_depth_m"), from, to, effect [dB].

    effect_db   what leaving it as it was would cost here
    """

    setting: str
    was: float
    now: float
    effect_db: float


def changes(last: HoleCard, here: HoleCard) -> tuple[CardChange, ...] | None:
    """What to change from `last` to `here`, largest effect first; None when the unit is another one altogether."""
    if last.unit != here.unit:
        return None
    found = []
    for name in KNOBS:
        was, now = getattr(last.settings, name), getattr(here.settings, name)
        if abs(float(was) - float(now)) > 1e-3:
            found.append(CardChange(name, float(was), float(now), _left(here, name, was)))
    for name in ("face_depth_m", "lure_depth_m"):
        was, now = getattr(last, name), getattr(here, name)
        if abs(was - now) > 0.02:
            found.append(CardChange(name, was, now, _hung(here, name, was)))
    return tuple(sorted(found, key=lambda one: -one.effect_db))


def _left(here: HoleCard, name: str, was: float) -> float:
    """What leaving this knob as it was would cost here [dB]."""
    scale = here.unit.gain
    if name == "gain":
        return abs(scale.decibels(here.settings.gain) - scale.decibels(was))
    if name == "range_m":
        # Too small a range shows no bottom at all; a larger one makes marks smaller by their ratio.
        return 40.0 if was < here.scene.bottom_range_m else abs(20.0 * float(np.log10(was / here.settings.range_m)))
    if name.endswith(("window_m", "window_top_m")):
        left_so = replace(here.settings, **{name: was})  # type: ignore[arg-type]
        now = picture.window(here.settings, here.scene.bottom_range_m).height_m
        then = picture.window(left_so, here.scene.bottom_range_m).height_m
        return max(abs(20.0 * float(np.log10(now / then))), LEAST_DB)
    left = replace(here.settings, **{name: int(was)})  # type: ignore[arg-type]
    situation = here.situation
    lost = room(situation) - room(replace(situation, settings=left))
    marks = neighbour_share(situation, left) - neighbour_share(situation, here.settings)
    return max(abs(float(lost)), 100.0 * marks, LEAST_DB)


def _hung(here: HoleCard, name: str, was: float) -> float:
    situation = here.situation
    if name == "lure_depth_m":
        if not here.scene.face_depth_m + 0.1 < was < here.scene.bottom_depth_m:
            return 40.0
        t, lure = situation.transmission, here.lure
        level = [gain_window.lure_level(t, here.unit, here.settings, lure, depth) for depth in (was, here.lure_depth_m)]
        return min(max(abs(level[0] - level[1]), LEAST_DB), 40.0)
    foot = max(here.scene.ice_thickness_m, here.scene.slush_m)
    if was < foot or was > here.scene.bottom_depth_m - 0.5:
        return 20.0  # inside the ice again
    return max(abs(room(situation) - room(replace(situation, scene=replace(here.scene, face_depth_m=was)))), LEAST_DB)
