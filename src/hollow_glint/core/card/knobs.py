"""Where the knobs go at a hole: the coach is asked, change by change, until it is content; then a window is chosen."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

import numpy as np

from ..acoustics import beam
from ..acoustics.sonar_equation import target_separation
from ..fields import OneOf
from ..gear.lures import Lure
from ..gear.settings import Settings, starting_settings
from ..gear.unit import FOOT, UnitProfile
from ..hole.scene import Scene
from ..sonar import picture
from ..tuning import coach, joint
from ..tuning.gain_window import step_inside
from ..tuning.situation import situation_at
from ..tuning.verdicts import beam_width
from .known_hole import VIEWS, KnownHole

MOST_CHANGES = 14
ON_BOTTOM_M = 2.0  # a lure nearer to the bottom than this is for fish on the bottom
NARROW_DB, WELL_DB = 10.0, 3.0  # a window narrower than the one is worth widening by the other. Common practice
ROOM_ABOVE_M = 0.3  # a window shows at least this much water above the lure


ViewKind = Literal["full column", "bottom window", "free window"]


@dataclass(frozen=True)
class CardView:
    """What a choice of window gives here: which it is, its span [m of shown depth], and the height of a row [m]."""

    view: Annotated[str, OneOf(VIEWS)]
    kind: ViewKind
    settings: Settings
    top_m: float
    bottom_m: float
    row_m: float


def settled(scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float, at: KnownHole) -> Settings:
    """Settings with which the coach has nothing to change, from the smallest range and the widest fitting beam on."""
    down = scene.bottom_range_m
    fits = [
        i for i, one in enumerate(unit.beams)
        if beam.footprint_diameter(down, one.width_deg) <= beam_width.WIDE_CONE_M
    ]  # fmt: skip
    order = sorted(range(len(unit.beams)), key=lambda i: unit.beams[i].width_deg)
    widest = max(fits, key=lambda i: unit.beams[i].width_deg, default=order[0])
    settings = replace(
        starting_settings(unit, down),
        beam=widest,
        power=max(range(len(unit.powers_w)), key=lambda i: unit.powers_w[i]),
        pulse=_pulse(unit, at.lure_gap_m, lure),
    )
    been = {settings}
    for _ in range(MOST_CHANGES):
        found = coach.verdicts(situation_at(scene, unit, settings, lure, depth_m))
        change = next((v.change for v in found if v.change and v.change.setting in vars(settings)), None)
        if change is None:
            break
        settings = replace(settings, **{change.setting: change.value}).checked(unit)  # type: ignore[arg-type]
        if settings in been:
            break
        been.add(settings)
    settings = _roomier(scene, unit, lure, depth_m, settings)
    now = situation_at(scene, unit, settings, lure, depth_m)
    if step_inside(unit, now.limits.floor, now.limits.ceiling) is None or now.limits.buried:
        return joint.best_joint(now).settings
    return settings


def _roomier(scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float, settings: Settings) -> Settings:
    """With a window that leaves little room, the first step of time-varied gain that widens it well."""
    width = situation_at(scene, unit, settings, lure, depth_m).limits.width_db
    if width > NARROW_DB or not np.isfinite(width):
        return settings
    steps = sorted(range(len(unit.tvg_db_decade)), key=lambda i: unit.tvg_db_decade[i])
    for step in steps[steps.index(settings.tvg) + 1 :]:
        quieter = replace(settings, tvg=step)
        if situation_at(scene, unit, quieter, lure, depth_m).limits.width_db >= width + WELL_DB:
            return quieter
    return settings


def _pulse(unit: UnitProfile, gap_m: float, lure: Lure) -> int:
    """The first pulse, or the longest shorter one that parts two jigs on one line with room for a skirt."""
    gap = lure.parted_m or gap_m
    enough = [i for i, one in enumerate(unit.pulses) if target_separation(one.duration_s, 1410.0) <= gap]
    if 0 in enough or not enough:
        return 0
    return max(enough, key=lambda i: unit.pulses[i].duration_s)


def views_of(
    at: KnownHole, unit: UnitProfile, settings: Settings, scene: Scene, depth_m: float
) -> tuple[CardView, ...]:
    """The full column, and the window that suits: on the bottom for a lure near it, else free round the lure."""
    full = replace(settings, bottom_window_m=0.0, free_window_m=0.0, beside=False)
    found = [_view("full", "full column", full, unit, scene)]
    lure = depth_m - scene.face_depth_m
    chosen: tuple[ViewKind, Settings] | None = None
    bottom = sorted(h for h in unit.bottom_windows_m if h < full.range_m)
    bottom = [at.window_m] if at.window_m in bottom else bottom
    for height in bottom:
        wanted = replace(full, bottom_window_m=height)
        if picture.window(wanted, scene.bottom_range_m).top_m <= lure - ROOM_ABOVE_M:
            chosen = "bottom window", wanted
            break
    free = sorted(h for h in unit.free_windows_m if h < full.range_m)
    free = [at.window_m] if at.window_m in free else [h for h in free if h >= 6.0 * FOOT - 0.01] or free
    if free and (chosen is None or scene.bottom_depth_m - depth_m > ON_BOTTOM_M):
        top = float(np.clip(lure - 0.6 * free[0], 0.0, full.range_m - free[0]))
        chosen = "free window", replace(full, free_window_m=free[0], free_window_top_m=round(top, 2))
    if chosen is not None:
        found.append(_view("window", chosen[0], chosen[1], unit, scene))
    else:  # the unit has none that holds the lure: its full column serves for both
        found.append(replace(found[0], view="window"))
    return tuple(found)


def _view(view: str, kind: ViewKind, settings: Settings, unit: UnitProfile, scene: Scene) -> CardView:
    shown = picture.window(settings, scene.bottom_range_m)
    return CardView(view, kind, settings, shown.top_m, shown.bottom_m, picture.row_height(unit, shown))
