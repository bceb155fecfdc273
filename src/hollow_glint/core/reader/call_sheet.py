"""The call sheet: from what an angler sees on a unit that gives no data, to what it can be, where, and what to do.

A mark is described in a few touches: shown depth, colour, thickness, how it moves, how it changes, what it is near.
Each thing that it could be gets a prior and, touch by touch, the chance that it would look so at this hole with these
settings. Fish are a grid of lengths and distances aside, each with the colour that the sonar equation gives it, so the
region where the fish can be falls out of the same sum. Priors and chances without a source named are common practice.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..checks import InputError
from ..tuning.seen_zone import dead_zone_top
from ..wording import Sentence
from .explanations import EXPLANATIONS, by_looks, by_model
from .fish_grid import IMPOSSIBLE, Region, fish_grid
from .observation import CHANGES, MOTIONS, NEAR, SHOWN_SD_M, THICKNESSES, Observation, SheetContext

FITS_BADLY = -9.0  # log chance of the best explanation from which nothing fits well


@dataclass(frozen=True)
class Call:
    """One thing that it can be: chance [0 to 1], why, what to do; for fish where and how long.

    likely_length_m   how long it would be at the inner and at the outer edge of the region [m]
    under_the_hole_m  how long under the hole [m]; None where the region does not reach there
    """

    kind: str
    chance: float
    because: tuple[Sentence, ...]
    do: str
    region: Region | None = None
    depth_m: tuple[float, float] | None = None
    length_m: tuple[float, float] | None = None
    likely_length_m: tuple[float, float] | None = None
    under_the_hole_m: float | None = None


@dataclass(frozen=True)
class Sheet:
    """The answer: calls, likeliest first, and whether nothing fits well."""

    calls: tuple[Call, ...]
    fits: bool


def call_sheet(at: SheetContext, seen: Observation) -> Sheet:
    """What a mark can be. Raises ValueError for a colour that the ladder does not have, or a depth off the picture."""
    steps = len(at.unit.ladders[at.settings.ladder].steps)
    if seen.colour > steps:
        raise InputError(f"colour is {seen.colour}: this ladder has {steps} steps")
    if seen.shown_m > at.settings.range_m:
        raise InputError(f"shown_m is {seen.shown_m:g} m: the picture ends at {at.settings.range_m:g} m")
    grid = fish_grid(at, seen)
    logs: dict[str, float] = {}
    why: dict[str, list[Sentence]] = {}
    for name, kind in EXPLANATIONS.items():
        touches = (
            kind.thickness[THICKNESSES.index(seen.thickness)], kind.motion[MOTIONS.index(seen.motion)],
            kind.change[CHANGES.index(seen.change)], kind.near[NEAR.index(seen.near)],
        )  # fmt: skip
        log = float(np.log(kind.prior) + np.log(touches).sum())
        if seen.bottom is not None:
            log += float(np.log(kind.bottom.get(seen.bottom, 1.0)))
        physics, said = by_model(name, at, seen, grid)
        logs[name] = log + physics
        why[name] = [*said, *by_looks(name, kind, seen)]
    best = max(logs.values())
    total = sum(np.exp(one - best) for one in logs.values())
    calls: list[Call] = []
    for name in sorted(logs, key=lambda one: -logs[one]):
        chance = float(np.exp(logs[name] - best) / total)
        if chance < 0.02 and calls:
            continue
        fish = name in ("a fish", "baitfish") and grid.log_evidence > IMPOSSIBLE
        region = grid.region() if fish else None
        calls.append(
            Call(
                name, chance, tuple(why[name][:3]), what_to_do(name, seen, merged(seen, at)), region,
                None if region is None else (float(region.top_m.min()), float(region.bottom_m.max())),
                grid.lengths() if fish else None,
                grid.likely() if fish else None,
                grid.likely()[0] if region is not None and region.aside_m[0] == 0.0 else None,
            )
        )  # fmt: skip
    return Sheet(tuple(calls), best > FITS_BADLY)


RESTLESS = "Fish lie near the bottom, off to the side. Go down, pound the bottom, then lift slowly."
LIFTED_LATER = "It comes in from the cone's edge, and is truly higher than it looks. Hold, and let it come."


def what_to_do(name: str, seen: Observation, is_merged: bool) -> str:
    """The one thing to do about a mark of a kind that looks so. Common practice, no source."""
    if is_merged and name in ("a fish", "your lure"):
        return "The marks are one and it swells: eyes to the rod tip."
    if name == "the bottom" and seen.bottom == "restless":
        return RESTLESS
    if name != "a fish":
        return EXPLANATIONS[name].do
    if seen.near == "near the lure" and seen.motion == "rising":
        return "It comes. Hold still; when the marks touch, eyes to the rod tip."
    if seen.change == "fading":
        return "It is leaving to the side. Do not chase it down; hold, then twitch once."
    if seen.near == "at the bottom" and (seen.motion == "rising" or seen.change == "growing"):
        return LIFTED_LATER
    if seen.near == "at the bottom":
        return RESTLESS if seen.bottom == "restless" else "Lower the lure to a hand above it, then lift slowly."
    if seen.motion == "rising":
        return "It comes. Lift slowly, and keep it following."
    if seen.motion == "sinking":
        return "Stop what you do and hold still: it has turned away."
    if seen.motion == "still" and seen.change == "steady":
        return "Twitch once and wait half a minute. If it does not react, leave it and look for another."
    return EXPLANATIONS[name].do


def merged(seen: Observation, at: SheetContext) -> bool:
    """Whether the mark stands where the lure does and is thicker than the lure alone: two marks in one."""
    if at.lure_depth_m is None or not could_be_merged(seen):
        return False
    return abs(seen.shown_m - (at.lure_depth_m - at.scene.face_depth_m)) < merged_within(at)


def could_be_merged(seen: Observation) -> bool:
    """Whether it looks like two marks in one, wherever it stands."""
    if seen.near != "near the lure" or seen.motion == "sinking" or seen.change == "fading":
        return False
    return seen.thickness == "thicker"


def merged_within(at: SheetContext) -> float:
    """How near [m] to where the lure stands a mark is taken for one with it."""
    return max(2.0 * at.transmission.resolution_m, 2.0 * SHOWN_SD_M)


def dead_zone(at: SheetContext) -> float:
    """Depth [m below the surface] under the hole from which on nothing shows apart from the bottom."""
    return float(dead_zone_top(at.scene, at.transmission.resolution_m, np.zeros(1))[0])
