"""The levels of the strike drill, each a water with fish on their way, made from a seed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..fish.states import Newcomer
from ..gear import profiles
from ..gear.lures import OFF_BOTTOM_M, USUAL_JIG, Lure
from ..gear.unit import UnitProfile
from ..hole.contents import Neighbour, Shoal
from ..hole.scene import Scene

MUD = Scene(9.1, "mud", 0.36, 0.44)
Schedule = tuple[Newcomer, ...]


@dataclass(frozen=True)
class Level:
    """One level: what comes and what it teaches.

    mood     the day's mood unless another is asked for
    water    what the level changes of a hole; own the hole it has by itself
    comes    who comes when, from the scene and a source of chance
    pounding_helps    whether its days are those on which pounding helps, as it teaches
    """

    key: str
    title: str
    teaches: str
    mood: str
    comes: Callable[[Scene, np.random.Generator], Schedule]
    water: Callable[[Scene], Scene] = lambda scene: scene
    own: Scene = MUD
    unit: UnitProfile = profiles.TWO_BEAM_RING
    lure: Lure = USUAL_JIG
    start_off_bottom_m: float = OFF_BOTTOM_M
    pounding_helps: bool = False


def _fish(
    at_s: float,
    scene: Scene,
    rng: np.random.Generator,
    species: str = "whitefish",
    length_m: tuple[float, float] = (0.26, 0.42),
    off_bottom: tuple[float, float] = (0.6, 1.6),
    **more: Any,
) -> Newcomer:
    """A fish that will come: sizes and heights [m] drawn between the ends given, `more` as a Newcomer has it."""
    off = float(np.clip(rng.uniform(*off_bottom), 0.05, scene.bottom_depth_m - scene.ice_thickness_m - 0.5))
    bearing = float(rng.uniform(0.0, 2.0 * np.pi)) if "bearing_rad" not in more else more.pop("bearing_rad")
    length, away = float(rng.uniform(*length_m)), float(rng.uniform(3.0, 3.8))
    miss = float(rng.uniform(*more.pop("miss_m", (-0.4, 0.4))))
    return Newcomer(species, length, scene.bottom_depth_m - off, away, bearing, miss, comes=True, at_s=at_s, **more)


def _later(rng: np.random.Generator, *at: float) -> list[float]:
    return [one + float(rng.uniform(-2.0, 3.0)) for one in at]


def _willing(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple(_fish(at, scene, rng) for at in _later(rng, 9.0, 60.0, 110.0))


def _shoppers(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple(_fish(at, scene, rng, length_m=(0.30, 0.45)) for at in _later(rng, 9.0, 65.0, 120.0, 170.0))


def _at_the_edge(scene: Scene, rng: np.random.Generator) -> Schedule:
    sides = (1.5, -1.4, 1.7, -1.6)
    return tuple(
        _fish(at, scene, rng, "burbot", (0.45, 0.65), (0.2, 0.5), miss_m=(miss, miss))
        for at, miss in zip(_later(rng, 6.0, 50.0, 100.0, 150.0), sides, strict=True)
    )


def _pair(scene: Scene, rng: np.random.Generator) -> Schedule:
    out: list[Newcomer] = []
    for at in _later(rng, 9.0, 90.0):
        side = float(rng.uniform(0.0, 6.0))
        first = _fish(at, scene, rng, "char", (0.32, 0.50), bearing_rad=side)
        second = _fish(at + 1.5, scene, rng, "char", (0.32, 0.50), bearing_rad=side + 0.3)
        out += [first, replace(second, home_m=first.home_m + 0.15)]
    return tuple(out)


def _school(scene: Scene, rng: np.random.Generator) -> Schedule:
    out: list[Newcomer] = []
    for at in _later(rng, 10.0, 70.0, 130.0):
        side = float(rng.uniform(0.0, 6.0))
        out += [
            _fish(at + 1.2 * k, scene, rng, "grayling", (0.24, 0.36), (0.8, 2.2), miss_m=(-1.0, 1.0), bearing_rad=side,
                  stays_s=16.0)
            for k in range(5)
        ]  # fmt: skip
    return tuple(out)


def _tiny_first(scene: Scene, rng: np.random.Generator) -> Schedule:
    small = [_fish(at, scene, rng, "grayling", (0.08, 0.12)) for at in _later(rng, 8.0, 45.0)]
    good = [_fish(at, scene, rng, length_m=(0.34, 0.45)) for at in _later(rng, 70.0, 125.0)]
    return tuple(sorted([*small, *good], key=lambda one: one.at_s))


def _high_up(scene: Scene, rng: np.random.Generator) -> Schedule:
    """Char under a school that hangs half way up."""
    middle = 0.5 * scene.bottom_depth_m
    return tuple(
        replace(_fish(at, scene, rng, "char", (0.32, 0.5)), home_m=middle + float(rng.uniform(0.0, 0.8)))
        for at in _later(rng, 12.0, 60.0, 110.0)
    )


def _over_weeds(scene: Scene, rng: np.random.Generator) -> Schedule:
    above = scene.bottom_depth_m - scene.weed_top_m
    return tuple(
        _fish(at, scene, rng, "char", (0.3, 0.5), (above + 0.15, above + 0.7)) for at in _later(rng, 10.0, 60.0, 110.0)
    )


def _deep(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple(_fish(at, scene, rng, "whitefish", (0.32, 0.45)) for at in _later(rng, 55.0, 110.0, 165.0))


def _by_night(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple(_fish(at, scene, rng, "burbot", (0.4, 0.65), (0.15, 0.5)) for at in _later(rng, 9.0, 65.0, 120.0))


def _with_weeds(scene: Scene) -> Scene:
    room = scene.bottom_depth_m - max(scene.ice_thickness_m, scene.face_depth_m)
    return replace(scene, weed_height_m=min(1.2, 0.3 * room), weed_density=0.6)


def _with_school(scene: Scene) -> Scene:
    return replace(scene, shoals=(Shoal("bait", 24, "loose", round(0.45 * scene.bottom_depth_m, 2)),))


NEXT_DOOR = (Neighbour(2.5, ping_interval_s=0.0472), Neighbour(3.5, ping_interval_s=0.0531))

_EVERY: tuple[Level, ...] = (
    Level(
        "willing", "One willing fish",
        "Lift slowly while it looks, eyes to the rod tip when the marks touch, set on the bite.", "hot", _willing,
    ),
    Level(
        "choosy", "The choosy one",
        "It looks and looks. A slow lift draws it, a pause makes it take; anything quick loses it.",
        "choosy", _shoppers,
    ),
    Level(
        "edge", "A fish at the cone's edge",
        "A weak mark that seems to lie on the bottom may be a good fish off to the side. Pound, and draw it in.",
        "hot", _at_the_edge, start_off_bottom_m=0.3, pounding_helps=True,
    ),
    Level(
        "pair", "A pair",
        "Two fish compete, and the bolder takes sooner. Watch both marks, and lift above the upper one.",
        "choosy", _pair,
    ),
    Level(
        "school", "A school passing",
        "Five at once and gone in half a minute: be at their height when they come.", "hot", _school,
    ),
    Level(
        "tiny", "Tiny fish that waste time",
        "Size a mark first. A nibble that never loads the rod is a fish too small to hook: leave it.", "hot",
        _tiny_first,
    ),
    Level(
        "neighbour", "A neighbour's noise",
        "His marks drift, a fish's do not. Rid the picture of them, then fish.", "hot", _willing,
        lambda scene: replace(scene, neighbours=NEXT_DOOR),
    ),
    Level(
        "suspended", "A school half way up",
        "The fish hang high: put a free window on them, and the lure above them.", "hot", _high_up, _with_school,
        unit=profiles.WIDE_NARROW_SCROLLER,
    ),
    Level(
        "weeds", "Over the weeds",
        "The tip bends with weed too. Keep the lure above the bed, and know weed from a fish.", "choosy",
        _over_weeds, _with_weeds, own=Scene(5.2, "mud", 0.40, 0.46), start_off_bottom_m=1.7,
    ),
    Level(
        "deep", "Deep water, slow sink",
        "A light jig takes its time, and line stretches. Be down before the fish come, and set with a long sweep.",
        "hot", _deep, own=Scene(26.0, "mud", 0.36, 0.44), lure=Lure("3 mm lead jig", 0.003, "lead"),
        unit=profiles.WIDE_NARROW_SCROLLER,
    ),
    Level(
        "night", "By night",
        "The window for gain is narrow and fish lie on the bottom. They find the lure by what it stirs.", "hot",
        _by_night, lambda scene: replace(scene, hour=21.0, plankton="thin"), start_off_bottom_m=0.4,
        own=Scene(9.1, "sand", 0.36, 0.44),
    ),
)  # fmt: skip
LEVELS: dict[str, Level] = {one.key: one for one in _EVERY}
