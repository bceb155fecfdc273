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
from .observation import CHANGES, MOTIONS, NEAR, THICKNESSES, Observation, SheetContext

FITS_BADLY = -9.0  # log chance of the best explanation from which nothing fits well


@dataclass(frozen=True)
class Call:
    """One thing that it can be: chance [0 to 1], why, what to do; for fish where and how long.

    likely_length_m   how long it would be under the hole, and at the outer edge of the region [m]
    """

    kind: str
    chance: float
    because: tuple[Sentence, ...]
    do: str
    region: Region | None = None
    depth_m: tuple[float, float] | None = None
    length_m: tuple[float, float] | None = None
    likely_length_m: tuple[float, float] | None = None


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
                name, chance, tuple(why[name][:3]), _what_to_do(name, seen), region,
                None if region is None else (float(region.top_m.min()), float(region.bottom_m.max())),
                grid.lengths() if fish else None,
                grid.likely() if fish else None,
            )
        )  # fmt: skip
    return Sheet(tuple(calls), best > FITS_BADLY)


def _what_to_do(name: str, seen: Observation) -> str:
    if name == "a fish":
        if seen.near == "near the lure" and seen.motion == "rising":
            return "It comes. Hold still; when the marks touch, eyes to the rod tip."
        if seen.change == "fading":
            return "It is leaving to the side. Do not chase it down; hold, then twitch once."
        if seen.near == "at the bottom":
            return "Go and look: lower the lure to a hand above the bottom, then lift slowly."
        if seen.motion == "rising":
            return "It comes. Lift slowly, and keep it following."
        if seen.motion == "sinking":
            return "Stop what you do and hold still: it has turned away."
    return EXPLANATIONS[name].do


def dead_zone(at: SheetContext) -> float:
    """Depth [m below the surface] under the hole from which on nothing shows apart from the bottom."""
    return float(dead_zone_top(at.scene, at.transmission.resolution_m, np.zeros(1))[0])
