"""The call sheet, tabled: what the model says of every place on the scale and every colour, so that the rest is a sum.

What an angler touches in (thickness, motion, change, what it is near, the bottom) is weighed by tables that are the
same everywhere; only depth and colour ask the model. `core/reader/call_sheet.py` is what this agrees with.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import product
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from ..reader.call_sheet import what_to_do
from ..reader.explanations import EXPLANATIONS, by_looks, by_model
from ..reader.fish_grid import IMPOSSIBLE, LENGTHS_M, fish_grids
from ..reader.observation import BOTTOMS, CHANGES, MOTIONS, NEAR, THICKNESSES, Observation, SheetContext
from .along import STEP_M

KINDS: Final = tuple(EXPLANATIONS)
FISH: Final = ("a fish", "baitfish")
# The logarithm of a chance as a byte: from so low that no touch brings it back, in steps that move no chance by 2 %.
LOWEST, LOG_STEP, BYTE = -16.0, 0.08, 255
# What the model says of these does not ask for the colour.
COLOURLESS: Final = ("the second echo of the bottom", "weeds", "a neighbour's sonar", "surface clutter",
                     "something that hangs still")  # fmt: skip
ASIDE_STEP_M: Final = 0.1
PLANES: Final = (*KINDS, "the bottom's tail", "shortest", "longest", "aside")
DEEPEST_SHOWN_M: Final = 45.0

Bytes = NDArray[np.uint8]


@dataclass(frozen=True, eq=False)
class CallTable:
    """What the model says at one hole as one card sets the unit: bytes of shape (colours, PLANES, places on the scale
    in STEP_M from one step on). Kinds as logarithms, lengths as places in LENGTHS_M, how far aside in ASIDE_STEP_M."""

    values: Bytes


def call_table(at: SheetContext) -> CallTable:
    """The table for a hole, a unit as it is set and a lure."""
    colours = range(1, len(at.unit.ladders[at.settings.ladder].steps) + 1)
    places = max(int(min(at.settings.range_m, DEEPEST_SHOWN_M) / STEP_M), 1)
    values = np.zeros((len(colours), len(PLANES), places), np.uint8)
    for n in range(places):
        shown = STEP_M * (n + 1)
        grids = fish_grids(at, shown, colours)
        same = {name: by_model(name, at, Observation(shown, 1), grids[0])[0] for name in COLOURLESS}
        for c, (colour, grid) in enumerate(zip(colours, grids, strict=True)):
            seen = Observation(shown, colour)
            logs = [same[name] if name in same else by_model(name, at, seen, grid)[0] for name in KINDS]
            tail = by_model("the bottom", at, replace(seen, thickness="band", near="at the bottom"), grid)[0]
            values[c, : len(KINDS) + 1, n] = _byte(np.array([*logs, tail]))
            if grid.log_evidence > IMPOSSIBLE:
                low, high = np.searchsorted(LENGTHS_M, grid.lengths())
                aside = round(float(grid.aside_m[grid.asides()[1]]) / ASIDE_STEP_M)
                values[c, len(KINDS) + 1 :, n] = int(low), int(high), min(aside, BYTE)
    return CallTable(values)


def _byte(log: NDArray[np.float64]) -> Bytes:
    return np.clip(np.round((log - LOWEST) / LOG_STEP), 0, BYTE).astype(np.uint8)


def touch_tables() -> dict[str, Any]:
    """What every touch counts for, for each of KINDS, in logarithms; what to say of it; and what to do."""
    kinds = list(EXPLANATIONS.values())
    axes = {"thickness": THICKNESSES, "motion": MOTIONS, "change": CHANGES, "near": NEAR}
    return {
        "kinds": list(KINDS), "lengths_m": [round(float(one), 4) for one in LENGTHS_M], "lowest": LOWEST,
        "log_step": LOG_STEP, "aside_step_m": ASIDE_STEP_M, "planes": len(PLANES),
        "prior": [_log(kind.prior) for kind in kinds],
        "axes": {name: list(words) for name, words in axes.items()}, "bottoms": list(BOTTOMS),
        "counts": {
            name: [[_log(getattr(kind, name)[k]) for kind in kinds] for k in range(len(words))]
            for name, words in axes.items()
        },
        "bottom_counts": [[_log(kind.bottom.get(one, 1.0)) for kind in kinds] for one in BOTTOMS],
        "looks": _looks(), **_to_do(),
    }  # fmt: skip


def _log(chance: float) -> float:
    return round(float(np.log(chance)), 4)


def _looks() -> list[list[str]]:
    """What speaks for each kind, for each combination of the four touches in the order of their lists."""
    said: dict[str, int] = {}
    found = []
    for name in KINDS:
        mine = []
        for touches in product(THICKNESSES, MOTIONS, CHANGES, NEAR):
            seen = Observation(1.0, 1, *touches)
            text = " ".join(one.text for one in by_looks(name, EXPLANATIONS[name], seen)[:2])
            mine.append(said.setdefault(text, len(said)))
        found.append(mine)
    return [list(said), *found]  # type: ignore[list-item]


def _to_do() -> dict[str, Any]:
    """The one thing to do for each kind and combination of touches, the bottom's among them: not looked at first.
    `merged` is whether the mark stands where the lure does and is thicker."""
    said: dict[str, int] = {}
    tables = {}
    for merged in (False, True):
        tables["do_merged" if merged else "do"] = [
            [
                said.setdefault(what_to_do(name, Observation(1.0, 1, *touches, bottom), merged), len(said))
                for touches in product(THICKNESSES, MOTIONS, CHANGES, NEAR)
                for bottom in (None, *BOTTOMS)
            ]
            for name in KINDS
        ]
    return {"to_do": list(said), **tables}
