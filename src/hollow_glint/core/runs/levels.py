"""The levels of the strike drill, each a water with fish on their way, made from a seed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from ..checks import InputError
from ..fish.states import Newcomer
from ..gear import profiles
from ..gear.lures import Lure
from ..gear.unit import UnitProfile
from ..hole.contents import Neighbour, Shoal
from ..hole.scene import Scene

OFF_BOTTOM_M = 1.2
MUD = Scene(9.1, "mud", 0.36, 0.44)
JIG = Lure("5 mm tungsten jig", 0.005)
Schedule = tuple[tuple[float, Newcomer], ...]


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
    lure: Lure = JIG
    start_off_bottom_m: float = OFF_BOTTOM_M
    pounding_helps: bool = False


def _fish(
    scene: Scene,
    rng: np.random.Generator,
    species: str = "whitefish",
    length_m: tuple[float, float] = (0.26, 0.42),
    off_bottom: tuple[float, float] = (0.6, 1.6),
    miss_m: tuple[float, float] = (-0.4, 0.4),
    bearing: float | None = None,
    stays_s: float | None = None,
) -> Newcomer:
    """A fish that will come: sizes and heights [m] drawn between the ends given."""
    off = float(np.clip(rng.uniform(*off_bottom), 0.05, scene.bottom_depth_m - scene.ice_thickness_m - 0.5))
    bearing = float(rng.uniform(0.0, 2.0 * np.pi)) if bearing is None else bearing
    return Newcomer(
        species,
        float(rng.uniform(*length_m)),
        scene.bottom_depth_m - off,
        float(rng.uniform(3.0, 3.8)),
        bearing,
        float(rng.uniform(*miss_m)),
        stays_s,
        True,
    )


def _later(*at: float) -> Callable[[np.random.Generator], list[float]]:
    return lambda rng: [one + float(rng.uniform(-2.0, 3.0)) for one in at]


def _willing(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple((at, _fish(scene, rng)) for at in _later(9.0, 60.0, 110.0)(rng))


def _shoppers(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple((at, _fish(scene, rng, length_m=(0.30, 0.45))) for at in _later(9.0, 65.0, 120.0, 170.0)(rng))


def _at_the_edge(scene: Scene, rng: np.random.Generator) -> Schedule:
    sides = (1.5, -1.4, 1.7, -1.6)
    return tuple(
        (at, _fish(scene, rng, "burbot", (0.45, 0.65), (0.2, 0.5), (miss, miss)))
        for at, miss in zip(_later(6.0, 50.0, 100.0, 150.0)(rng), sides, strict=True)
    )


def _pair(scene: Scene, rng: np.random.Generator) -> Schedule:
    out: list[tuple[float, Newcomer]] = []
    for at in _later(9.0, 90.0)(rng):
        side = float(rng.uniform(0.0, 6.0))
        first = _fish(scene, rng, "char", (0.32, 0.50), bearing=side)
        second = replace(_fish(scene, rng, "char", (0.32, 0.50), bearing=side + 0.3), home_m=first.home_m + 0.15)
        out += [(at, first), (at + 1.5, second)]
    return tuple(out)


def _school(scene: Scene, rng: np.random.Generator) -> Schedule:
    out: list[tuple[float, Newcomer]] = []
    for at in _later(10.0, 70.0, 130.0)(rng):
        side = float(rng.uniform(0.0, 6.0))
        out += [
            (at + 1.2 * k, _fish(scene, rng, "grayling", (0.24, 0.36), (0.8, 2.2), (-1.0, 1.0), side, 16.0))
            for k in range(5)
        ]
    return tuple(out)


def _tiny_first(scene: Scene, rng: np.random.Generator) -> Schedule:
    small = [(at, _fish(scene, rng, "grayling", (0.08, 0.12))) for at in _later(8.0, 45.0)(rng)]
    good = [(at, _fish(scene, rng, length_m=(0.34, 0.45))) for at in _later(70.0, 125.0)(rng)]
    return tuple(sorted([*small, *good], key=lambda one: one[0]))


def _high_up(scene: Scene, rng: np.random.Generator) -> Schedule:
    """Char under a school that hangs half way up."""
    middle = 0.5 * scene.bottom_depth_m
    return tuple(
        (at, replace(_fish(scene, rng, "char", (0.32, 0.5)), home_m=middle + float(rng.uniform(0.0, 0.8))))
        for at in _later(12.0, 60.0, 110.0)(rng)
    )


def _over_weeds(scene: Scene, rng: np.random.Generator) -> Schedule:
    above = scene.bottom_depth_m - scene.weed_top_m
    return tuple(
        (at, _fish(scene, rng, "char", (0.3, 0.5), (above + 0.15, above + 0.7)))
        for at in _later(10.0, 60.0, 110.0)(rng)
    )


def _deep(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple((at, _fish(scene, rng, "whitefish", (0.32, 0.45))) for at in _later(55.0, 110.0, 165.0)(rng))


def _by_night(scene: Scene, rng: np.random.Generator) -> Schedule:
    return tuple((at, _fish(scene, rng, "burbot", (0.4, 0.65), (0.15, 0.5))) for at in _later(9.0, 65.0, 120.0)(rng))


def _with_weeds(scene: Scene) -> Scene:
    room = scene.bottom_depth_m - max(scene.ice_thickness_m, scene.face_depth_m)
    return replace(scene, weed_height_m=min(1.2, 0.3 * room), weed_density=0.6)


def _with_school(scene: Scene) -> Scene:
    return replace(scene, shoals=(Shoal("bait", 24, "loose", round(0.45 * scene.bottom_depth_m, 2)),))


NEXT_DOOR = (Neighbour(2.5, ping_interval_s=0.0472), Neighbour(3.5, ping_interval_s=0.0531))

LEVELS: tuple[Level, ...] = (
    Level(
        "willing", "One willing fish",
        "Lift slowly while it looks, eyes to the rod tip when the marks touch, set on the bite.", "hot", _willing,
    ),
    Level(
        "window-shopper", "The window-shopper",
        "It looks and looks. A slow lift draws it, a pause makes it take; anything quick loses it.",
        "window-shopping", _shoppers,
    ),
    Level(
        "edge", "A fish at the cone's edge",
        "A weak mark that seems to lie on the bottom may be a good fish off to the side. Pound, and draw it in.",
        "hot", _at_the_edge, start_off_bottom_m=0.3, pounding_helps=True,
    ),
    Level(
        "pair", "A pair",
        "Two fish compete, and the bolder takes sooner. Watch both marks, and lift above the upper one.",
        "window-shopping", _pair,
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
        "The tip bends with weed too. Keep the lure above the bed, and know weed from a fish.", "window-shopping",
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


def find_level(key: str) -> Level:
    """The level called `key`, or ValueError naming those there are."""
    for one in LEVELS:
        if one.key == key:
            return one
    raise InputError(f"level is {key!r}: accepted are {', '.join(one.key for one in LEVELS)}")
