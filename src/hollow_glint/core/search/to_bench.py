"""From the look to the Bench: the scene under a new hole in the same water, and when whom the look showed comes by.

Nothing is made up here: bed, what stands there and who swims past, when, from where and how near, are the patch's own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..acoustics.bottom import BOTTOM_KINDS
from ..checks import InputError
from ..fish.states import Newcomer
from ..hole import contents
from ..hole.scene import Scene
from .patch import BEDS, Group, Patch, Standing

SIGHT_M = 4.0  # a fish is on the Bench from here on
LONGEST_S = 600.0
STEP_S = 0.5
ICE_M, FACE_M = 0.4, 0.5
STANDS_AS: dict[str, contents.StructureKind] = {
    "timber": "log", "brush": "brush", "boulder": "boulder", "rock pile": "boulder", "crib": "brush",
}  # fmt: skip


@dataclass(frozen=True)
class UnderTheHole:
    """What is under a new hole: its scene, and who comes past, in order of time, each with the number of its group in
    the patch and its own in that."""

    scene: Scene
    comers: tuple[Newcomer, ...]
    who: tuple[tuple[int, int], ...]


def under_hole(patch: Patch, east_m: float, north_m: float, at_s: float, lasts_s: float = LONGEST_S) -> UnderTheHole:
    """The scene at a place of the patch from `at_s` [s] on its clock, and who passes within sight in `lasts_s` [s].

    Raises ValueError for a place off the patch or too shallow to fish.
    """
    grid = patch.grid
    rows, columns = grid.depth_m.shape
    inside = (
        0.0 <= (east_m - grid.west_m) / grid.cell_m <= columns - 1
        and 0.0 <= (north_m - grid.south_m) / grid.cell_m <= rows - 1
    )
    if not inside:
        raise InputError(
            f"east_m is {east_m:g} m and north_m {north_m:g} m: accepted is a place in the water looked at"
        )
    here = np.array([east_m]), np.array([north_m])
    depth = float(patch.depth_at(*here)[0])
    if depth < ICE_M + FACE_M + 0.5:
        raise InputError(f"the water is {depth:.1f} m deep there: too shallow for a hole")
    kind = BEDS[int(patch.bed_at(*here)[0])]
    slope = _slope_deg(patch, east_m, north_m)
    lies = tuple(found for one in patch.standing if (found := _lying(one, east_m, north_m)) is not None)[:4]
    weeds = max((float(one.raises(*here)[0]) for one in patch.standing if one.kind == "weed edge"), default=0.0)
    comers = sorted(
        (
            (one, (number, fish))
            for number, group in enumerate(patch.groups)
            for fish, one in _comers(group, east_m, north_m, at_s, lasts_s, depth)
        ),
        key=lambda one: one[0].at_s,
    )
    scene = Scene(
        depth, kind if kind in BOTTOM_KINDS else "mud", ICE_M, FACE_M, temperature_c=max(patch.temperature_c, 0.0),
        clarity=patch.clarity, slope_deg=slope, structures=lies, weed_height_m=min(weeds, depth - 1.0),
    )  # fmt: skip
    return UnderTheHole(scene, tuple(one for one, _ in comers), tuple(who for _, who in comers))


def _slope_deg(patch: Patch, east_m: float, north_m: float) -> float:
    east = patch.depth_at(np.array([east_m - 1.0, east_m + 1.0]), np.array([north_m, north_m]))
    north = patch.depth_at(np.array([east_m, east_m]), np.array([north_m - 1.0, north_m + 1.0]))
    steep = np.hypot(east[1] - east[0], north[1] - north[0]) / 2.0
    return float(min(np.degrees(np.arctan(steep)), 30.0))


def _lying(one: Standing, east_m: float, north_m: float) -> contents.Structure | None:
    away = float(np.hypot(one.east_m - east_m, one.north_m - north_m))
    if one.kind not in STANDS_AS or away > SIGHT_M:
        return None
    side = 1.0 if one.east_m >= east_m else -1.0
    return contents.Structure(STANDS_AS[one.kind], side * away, float(np.clip(one.height_m, 0.1, 3.0)))


def _comers(
    group: Group, east_m: float, north_m: float, at_s: float, lasts_s: float, depth_m: float
) -> Sequence[tuple[int, Newcomer]]:
    """Each fish of a group that comes within sight, with its number: from where, how far off it passes, and when."""
    moments = at_s + np.arange(0.0, lasts_s, STEP_S)
    places = group.places(moments) - np.array([east_m, north_m, 0.0])
    away = np.hypot(places[..., 0], places[..., 1])
    out = []
    for fish in range(places.shape[1]):
        near = np.flatnonzero(away[:, fish] <= SIGHT_M)
        if not near.size:
            continue
        first = int(near[0])
        swims = group.velocity(moments[first : first + 1])[0]
        at = places[first, fish]
        speed = float(np.hypot(*swims))
        aside = (at[1] * swims[0] - at[0] * swims[1]) / speed if speed > 1e-3 else float(away[first, fish])
        comes = Newcomer(
            group.species, float(group.length_m[fish]), float(np.clip(at[2], 0.3, depth_m - 0.1)),
            float(max(away[first, fish], 0.1)), float(np.arctan2(at[1], at[0])),
            float(np.clip(aside, -4.0, 4.0)), at_s=float(moments[first] - at_s), speed_m_s=speed,
        )  # fmt: skip
        out.append((fish, comes))
    return out
