"""The scenes: kinds of water, each with three schools to find in twenty minutes, made up from a seed; and the heads
one has for it: the one that turns, the forward fan, or both.

Each school swims about a ground of its own; the first hole is in the middle. Speeds, sizes and numbers are invented to
be believable.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..checks import Floats, named
from ..search.made import Roaming, made_bed, made_group, made_standing
from ..search.patch import Group, GroupKind, Patch, StandingKind

SCHOOLS = 3
LASTS_FOR_S = 1200.0  # twenty minutes of water
WALK_M_S = 1.2
READY_S = 90.0  # to drill a hole and rig in it
HALF_M = 65.0  # the water reaches so far to each side of the first hole
HOLES_M = 58.0  # and holes are drilled so far to each side
NEAR_M, FAR_M = (10.0, 25.0), (36.0, 52.0)  # grounds: one that the first hole may see, and those that it does not
APART_M = 36.0
ROAM_M = 10.0
SOUGHT = ("grayling", "whitefish")  # nobody drills for bait
DEPTHS_M = (5.0, 20.0)


SearchHead = Literal["circle", "fan"]
CIRCLE: tuple[SearchHead, ...] = ("circle",)


@dataclass(frozen=True)
class SearchScene:
    """A kind of water to search: what it teaches, what its bed is of, what else swims and stands there.

    stands    kinds of which some stand about, and how many
    near      how many of the things stand on the schools' own grounds
    heads     what one has to look with, in the order in which one would; only what the last of them showed is marked
    fan       which of `fan.head.FAN_HEADS` the fan is; without one of no matter
    """

    key: str
    title: str
    teaches: str
    beds: tuple[str, ...]
    stands: tuple[StandingKind, ...] = ()
    things: int = 0
    near: int = 0
    hunters: int = 0
    singles: int = 0
    edges: int = 0
    speed_m_s: tuple[float, float] = (0.08, 0.2)
    heads: tuple[SearchHead, ...] = CIRCLE
    fan: str = "near reach"

    @property
    def marks_with(self) -> SearchHead:
        """The head in whose pictures schools are marked."""
        return self.heads[-1]


SCENES: dict[str, SearchScene] = {
    one.key: one
    for one in (
        SearchScene(
            "open", "Open basin",
            "Little but fish: watch two turns, and what has moved swims. Then go where you have not looked.",
            ("mud", "silt"), ("boulder",), 2,
        ),
        SearchScene(
            "wood", "Sunken wood",
            "Brush and cribs are many marks too. What stands is there a turn later, and dark behind.",
            ("mud", "sand"), ("brush", "crib", "timber", "rock pile"), 9, near=3,
        ),
        SearchScene(
            "company", "In company",
            "Two to four larger marks are hunters, one that rests is a single fish: only schools count.",
            ("silt", "sand"), ("boulder", "timber"), 3, hunters=2, singles=4, speed_m_s=(0.1, 0.25),
        ),
        SearchScene(
            "edge", "Along an edge",
            "What swims below an edge is in its shadow from above: look from both sides of it.",
            ("sand", "mud"), ("boulder", "timber"), 4, near=1, hunters=1, singles=2, edges=2,
        ),
        SearchScene(
            "plane", "One plane at a time",
            "The fan shows one plane: turn the handle a little, wait some frames, go on. What you skip is unseen.",
            ("mud", "sand"), ("boulder",), 3, singles=2, heads=("fan",),
        ),
        SearchScene(
            "masts", "Among drowned trees",
            "Timber stands in the plane like fish, and stays where it is. What swims is nearer or farther a moment on.",
            ("mud", "silt"), ("timber", "brush"), 9, near=3, singles=2, heads=("fan",), fan="far reach",
        ),
        SearchScene(
            "circle then fan", "Circle, then fan",
            "The circle says at once where something swims, the fan what it is: aim it there. Marked is what it shows.",
            ("silt", "sand"), ("boulder", "timber", "brush"), 5, near=1, hunters=2, singles=3, speed_m_s=(0.1, 0.22),
            heads=("circle", "fan"),
        ),
    )
}  # fmt: skip


def scene_of(key: str) -> SearchScene:
    """The scene with this key; raises ValueError naming them all."""
    return named("scene", key, SCENES)


def scene_water(scene: SearchScene, seed: int) -> Patch:
    """The water of a scene round its first hole, the same each time for a seed."""
    rng = np.random.default_rng([seed, 0x5EA2, list(SCENES).index(scene.key)])
    grid, bed = made_bed(rng, HALF_M, scene.beds, scene.edges)
    # Deep enough everywhere for fish to hang, and nowhere so deep that the picture is all dark.
    patch = Patch(replace(grid, depth_m=np.clip(grid.depth_m, *DEPTHS_M)), bed, (), ())
    grounds = _grounds(rng)
    standing = []
    for k in range(scene.things):
        ground = grounds[k % SCHOOLS]
        place = ground + rng.normal(0.0, 5.0, 2) if k < scene.near else rng.uniform(-FAR_M[1], FAR_M[1], 2)
        standing.append(made_standing(scene.stands[k % len(scene.stands)], float(place[0]), float(place[1]), rng))
    swim = [_roaming(patch, "school", ground, scene, rng) for ground in grounds]
    others: tuple[tuple[GroupKind, int], ...] = (("hunters", scene.hunters), ("single", scene.singles))
    for kind, count in others:
        swim += [_roaming(patch, kind, rng.uniform(-FAR_M[1], FAR_M[1], 2), scene, rng) for _ in range(count)]
    return replace(patch, standing=tuple(standing), groups=tuple(swim))


def _grounds(rng: np.random.Generator) -> Floats:
    """The middles of the schools' grounds (SCHOOLS, 2) [m]: one near the first hole, the others far from it and from
    each other."""
    while True:
        away = np.array([rng.uniform(*NEAR_M), *rng.uniform(*FAR_M, SCHOOLS - 1)])
        side = rng.uniform(0.0, 2.0 * np.pi, SCHOOLS)
        places = np.column_stack([away * np.sin(side), away * np.cos(side)])
        apart = np.hypot(*(places[:, None] - places).transpose(2, 0, 1)) + 1e9 * np.eye(SCHOOLS)
        if apart.min() >= APART_M:
            return np.asarray(places)


def _roaming(patch: Patch, kind: GroupKind, ground: Floats, scene: SearchScene, rng: np.random.Generator) -> Group:
    """A group about a ground, no deeper than the shallowest water there."""
    roams = Roaming(float(ground[0]), float(ground[1]), ROAM_M, float(rng.uniform(*scene.speed_m_s)))
    turn = np.linspace(0.0, 2.0 * np.pi, 16)
    rim = patch.depth_at(ground[0] + ROAM_M * np.sin(turn), ground[1] + ROAM_M * np.cos(turn))
    return made_group(kind, roams, float(rim.min()), rng, of=SOUGHT if kind == "school" else ())
