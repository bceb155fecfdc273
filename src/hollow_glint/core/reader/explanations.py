"""What a mark can be besides, each with its prior and the chance that it would look so; common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from ..gear.lures import Lure
from ..hole.scene import Scene
from ..sonar import receiver, still_echoes
from ..tuning.gain_window import lure_level
from ..wording import Quantity, Sentence
from . import sizing
from .fish_grid import IMPOSSIBLE, LENGTHS_M, FishGrid
from .observation import CHANGES, COLOUR_SD, MOTIONS, NEAR, THICKNESSES, Observation, SheetContext

TAIL_M = 1.6  # how far under its edge a soft bottom stays lit. Common practice, no source


@dataclass
class Explanation:
    """One explanation: its prior and its chance of each touch."""

    prior: float
    thickness: tuple[float, ...]
    motion: tuple[float, ...]
    change: tuple[float, ...]
    near: tuple[float, ...]
    do: str
    bottom: dict[str, float] = field(default_factory=dict)


# Chances of each touch, in the order of THICKNESSES, MOTIONS, CHANGES and NEAR. Common practice, no source.
EXPLANATIONS: dict[str, Explanation] = {
    "your lure": Explanation(
        0.22, (0.15, 0.76, 0.07, 0.02), (0.35, 0.58, 0.02, 0.02, 0.02, 0.01), (0.9, 0.05, 0.05),
        (0.4, 0.5, 0.08, 0.01, 0.01), "Move the rod a little: your lure is what moves with it.",
    ),
    "a fish": Explanation(
        0.34, (0.25, 0.30, 0.43, 0.02), (0.38, 0.02, 0.25, 0.17, 0.14, 0.04), (0.48, 0.27, 0.25),
        (0.45, 0.33, 0.18, 0.02, 0.02), "Hold still. If it comes, lift slowly; if it does not, twitch once.",
        {"restless": 1.6},
    ),
    "baitfish": Explanation(
        0.08, (0.55, 0.15, 0.05, 0.25), (0.30, 0.01, 0.12, 0.12, 0.40, 0.05), (0.5, 0.25, 0.25),
        (0.85, 0.1, 0.03, 0.01, 0.01), "Look under it and at its edges for what hunts it.",
    ),
    "plankton or silt": Explanation(
        0.06, (0.25, 0.02, 0.01, 0.72), (0.15, 0.005, 0.03, 0.03, 0.085, 0.70), (0.8, 0.1, 0.1),
        (0.75, 0.05, 0.05, 0.01, 0.14), "Lower the gain until it goes dark; your lure should stay.",
    ),
    "weeds": Explanation(
        0.05, (0.05, 0.05, 0.10, 0.80), (0.35, 0.005, 0.01, 0.01, 0.025, 0.60), (0.95, 0.025, 0.025),
        (0.05, 0.03, 0.90, 0.01, 0.01), "Take the short pulse, and fish the edge or the gaps.",
        {"broken, with stems": 8.0, "thick and soft": 1.5},
    ),
    "the bottom": Explanation(
        0.08, (0.05, 0.03, 0.12, 0.80), (0.93, 0.005, 0.005, 0.005, 0.005, 0.05), (0.98, 0.01, 0.01),
        (0.02, 0.02, 0.74, 0.21, 0.01), "This is what depth is measured from.",
        {"thick and soft": 1.5, "restless": 1.5},
    ),
    "the second echo of the bottom": Explanation(
        0.03, (0.30, 0.10, 0.30, 0.30), (0.95, 0.005, 0.005, 0.005, 0.005, 0.03), (0.98, 0.01, 0.01),
        (0.02, 0.01, 0.01, 0.95, 0.01), "Ignore it: it says that the bottom is hard.",
        {"thin and hard": 4.0, "thick and soft": 0.1},
    ),
    "a neighbour's sonar": Explanation(
        0.04, (0.30, 0.30, 0.35, 0.05), (0.01, 0.005, 0.10, 0.10, 0.385, 0.40), (0.6, 0.2, 0.2),
        (0.70, 0.1, 0.08, 0.06, 0.06), "Turn rejection up a step. If it goes, it was theirs.",
    ),
    "surface clutter": Explanation(
        0.03, (0.05, 0.05, 0.10, 0.80), (0.70, 0.005, 0.005, 0.005, 0.005, 0.28), (0.97, 0.015, 0.015),
        (0.03, 0.02, 0.01, 0.01, 0.93), "Lower the transducer below the ice, and wet its face.",
    ),
    "something that hangs still": Explanation(
        0.04, (0.35, 0.50, 0.14, 0.01), (0.96, 0.005, 0.01, 0.01, 0.01, 0.005), (0.97, 0.015, 0.015),
        (0.55, 0.25, 0.18, 0.01, 0.01), "Lift your lure past it: what stays is not yours.",
    ),
}  # fmt: skip


def _steady_colour(at: SheetContext, level_db: float, range_m: float) -> float:
    """Which step of the ladder a steady echo lights, as a number; below 1 it is dark."""
    over = level_db - sizing.echo_level(0.0, max(range_m, 0.1), at.unit, at.settings)
    limits = sizing.level_thresholds(at.unit, at.unit.ladders[at.settings.ladder])
    step = float(np.diff(limits).mean())
    return float(np.clip((over - limits[0]) / step + 0.5, -2.0, limits.size))


@lru_cache(maxsize=8)
def lure_shows(at: SheetContext, lure: Lure, lure_depth_m: float) -> tuple[float, float]:
    """Where on the scale [m from the face] a lure stands, and which step of the ladder it lights, as a number."""
    where = lure_depth_m - at.scene.face_depth_m
    off = float(receiver.taken_off(at.unit, at.settings, np.array([max(where, 0.05)]))[0])
    level = lure_level(at.transmission, at.unit, at.settings, lure, lure_depth_m) + off
    return where, _steady_colour(at, level, where)


def _gauss(off: float, sd: float) -> float:
    return float(-0.5 * (off / sd) ** 2)


def by_model(name: str, at: SheetContext, seen: Observation, grid: FishGrid) -> tuple[float, list[Sentence]]:
    """Log chance of depth and colour by the model, and what that says."""
    scene = at.scene
    steps = len(at.unit.ladders[at.settings.ladder].steps)
    flat = float(np.log(1.0 / steps))
    if name == "your lure":
        if at.lure is None or at.lure_depth_m is None:
            return flat - 1.5, []
        where, colour = lure_shows(at, at.lure, at.lure_depth_m)
        said = Sentence(
            "Your lure hangs at {at} on this scale, {true} below the surface.",
            {"at": Quantity(where, "m"), "true": Quantity(at.lure_depth_m, "m")},
        )
        log = _gauss(seen.shown_m - where, 0.3) + 1.2 + max(_gauss(seen.colour - max(colour, 0.5), COLOUR_SD), -4.0)
        return max(log, -14.0), [said]
    if name in ("a fish", "baitfish") and grid.log_evidence <= IMPOSSIBLE:
        return IMPOSSIBLE, []
    if name in ("a fish", "baitfish"):
        low, high = grid.lengths()
        last = grid.asides()[1]
        said = Sentence(
            "A fish of {low} to {high} paints that colour there, up to {aside} aside.",
            {"low": Quantity(low, "m"), "high": Quantity(high, "m"), "aside": Quantity(float(grid.aside_m[last]), "m")},
        )
        small = float(grid.chance[:, LENGTHS_M < 0.09].sum() / max(grid.chance.sum(), 1e-300))
        share = small if name == "baitfish" else 1.0 - 0.7 * small
        return grid.log_evidence + float(np.log(max(share, 1e-3))), [said]
    line = scene.bottom_range_m * float(np.cos(np.radians(scene.slope_deg)))
    if name == "the bottom":
        said = Sentence(
            "The bottom stands at {at} on this scale, {true} below the surface.",
            {"at": Quantity(line, "m"), "true": Quantity(line + scene.face_depth_m, "m")},
        )
        under = seen.shown_m - line
        if 0.0 < under < TAIL_M and seen.thickness == "band" and seen.near in ("at the bottom", "under the bottom"):
            tail = Sentence("What stays lit under its edge is its tail: the softer it is, the longer.")
            return 0.8 + 0.5 * flat, [said, tail]  # which fades through all colours
        return _gauss(under, 0.25) + 0.8 + _gauss(seen.colour - steps, 1.0), [said]
    if name == "the second echo of the bottom":
        again = still_echoes.second_echo_range(scene)
        said = Sentence("It would stand at {at} on this scale.", {"at": Quantity(again, "m")})
        return max(_gauss(seen.shown_m - again, 0.3), -12.0) + 0.5 + flat, [said]
    if name == "weeds":
        above = line - seen.shown_m
        said = Sentence("It begins {above} above the bottom.", {"above": Quantity(max(above, 0.0), "m")})
        return (flat if 0.1 < above < 2.5 else flat - 4.0), [said]
    if name == "surface clutter":
        foot = max(scene.inside_ice_m, 0.0) + 0.6
        return (flat + 0.5 if seen.shown_m < foot + 0.4 else flat - 7.0), []
    if name == "a neighbour's sonar":
        known = len(scene.neighbours) > 0
        said = Sentence("You have said that others ping near." if known else "You have not said that others ping near.")
        return flat + (1.2 if known else -0.7), [said]
    if name == "plankton or silt":
        return flat + _gauss(seen.colour - 1.0, 1.2), []
    # Only a second hole or what lies there gives something to hang still.
    there = _known_things(scene)
    if not there:
        return flat - 1.5, []
    near = min(there, key=lambda one: abs(one - seen.shown_m))
    said = Sentence("What you put in stands at {at} on this scale.", {"at": Quantity(near, "m")})
    return flat + 2.5 + max(_gauss(seen.shown_m - near, 0.3), -5.0), [said]


def _known_things(scene: Scene) -> list[float]:
    """Where what hangs and what lies is shown [m from the face]: from its top to its foot."""
    face = scene.face_depth_m
    hung = [float(np.hypot(one.depth_m - face, scene.second_hole_m)) for one in scene.hung]
    lying = [
        float(np.hypot(scene.bottom_depth_m - share * one.height_m - face, one.aside_m))
        for one in scene.structures
        for share in (1.0, 0.75, 0.5)
    ]
    return [*hung, *lying]


def by_looks(name: str, kind: Explanation, seen: Observation) -> list[Sentence]:
    """The touches that speak for it most."""
    said = []
    looks = (
        (kind.motion[MOTIONS.index(seen.motion)] * len(MOTIONS), f"It {_moves(seen.motion)}."),
        (kind.thickness[THICKNESSES.index(seen.thickness)] * len(THICKNESSES), f"It is {_thick(seen.thickness)}."),
        (
            kind.near[NEAR.index(seen.near)] * len(NEAR),
            f"It is {seen.near if seen.near != 'open water' else 'in open water'}.",
        ),
        (kind.change[CHANGES.index(seen.change)] * len(CHANGES), f"It is {seen.change}."),
    )
    for weight, text in sorted(looks, key=lambda one: -one[0]):
        if weight > 1.3:
            said.append(Sentence(text))
    return said


def _moves(motion: str) -> str:
    return {"still": "stays where it is", "with the rod": "moves with the rod", "rising": "rises", "sinking": "sinks",
            "drifting": "drifts", "flickers": "flickers"}[motion]  # fmt: skip


def _thick(thickness: str) -> str:
    return {"thin": "thin", "as the lure": "as thick as the lure", "thicker": "thicker than the lure",
            "band": "a band"}[thickness]  # fmt: skip
