"""How a run starts: which water, day and fish a level draws from a seed, and how the unit is set in it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..card.knobs import settled
from ..card.known_hole import KnownHole
from ..checks import InputError, named, one_of
from ..fish.day import draw_day
from ..fish.traits import EVERY, MOODS
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..tuning.situation import situation_at
from .levels import LEVELS
from .run_log import RunSetup

SETTINGS = ("card", "spoiled")


def suited(scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float) -> Settings:
    """The settings that a hole card would choose in this water, gain low in its window."""
    at = KnownHole(depth_m=scene.bottom_depth_m)
    settings = settled(scene, unit, lure, depth_m, at)
    return replace(settings, gain=situation_at(scene, unit, settings, lure, depth_m).limits.advised)


def spoiled(
    settings: Settings, scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float, rng: np.random.Generator
) -> Settings:
    """The settings with what a bad start leaves: range too large, gain far off its window, no zoom, no rejection."""
    scale = unit.gain
    larger = [span for span in unit.ranges_m if span > settings.range_m * 1.4]
    span = larger[0] if larger else settings.range_m
    left = replace(settings, range_m=span, rejection=0, bottom_window_m=0.0, free_window_m=0.0, beside=False)
    limits = situation_at(scene, unit, left, lure, depth_m).limits
    shares = (0.25, 0.97) if rng.random() < 0.5 else (0.97, 0.25)
    for share in (*shares, 0.0):
        gain = scale.nearest(scale.minimum + share * (scale.maximum - scale.minimum))
        if not limits.floor <= gain <= limits.ceiling:
            break
    return replace(left, gain=gain).checked(unit)


def set_up(  # noqa: PLR0913 - what a level leaves to choose, by name
    key: str,
    seed: int,
    *,
    mood: str | None = None,
    start: str = "card",
    line: str = "braid",
    scene: Scene | None = None,
    unit: UnitProfile | None = None,
    lure: Lure | None = None,
) -> RunSetup:
    """A run of level `key`. Without a scene, unit or lure the level's own; a mood of None is the level's.

    Raises ValueError naming what is wrong, and when the water is deeper than the unit's largest range.
    """
    one = named("level", key, LEVELS)
    one_of("start", start, SETTINGS)
    if mood is not None:
        one_of("mood", mood, MOODS)
    scene = one.water(one.own if scene is None else scene)
    # Who comes is the run's own affair.
    scene = replace(scene, visitors=6)
    unit = one.unit if unit is None else unit
    lure = one.lure if lure is None else lure
    if scene.bottom_range_m > unit.ranges_m[-1]:
        raise InputError(
            f"bottom_depth_m is {scene.bottom_depth_m:g} m: the largest range of the {unit.name} is "
            f"{unit.ranges_m[-1]:g} m below its face"
        )
    rng = np.random.default_rng(seed)
    day = draw_day(one.mood if mood is None else mood, scene.ice_thickness_m, scene.bottom_depth_m, rng)
    if one.pounding_helps:
        day = replace(day, pounding=abs(day.pounding))
    schedule = one.comes(scene, rng)
    top = scene.ice_thickness_m + 0.1
    goal = max(scene.bottom_depth_m - one.start_off_bottom_m, top)
    settings = suited(scene, unit, lure, goal)
    if start == "spoiled":
        settings = spoiled(settings, scene, unit, lure, goal, rng)
    small = sum(fish.length_m < EVERY["nip_m"] for fish in schedule)
    return RunSetup(
        level=key,
        seed=seed,
        scene=scene,
        unit=unit,
        settings=settings,
        lure=lure,
        line=line,
        lure_depth_m=top,
        goal_m=goal,
        day=day,
        schedule=schedule,
        small=small,
    )
