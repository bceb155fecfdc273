"""All kinds of drill, and the drill of a kind, a level and a seed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..checks import InputError
from .drill import LEVELS, Drill, DrillKind


def kinds() -> dict[str, DrillKind]:
    """All kinds by key, in the order in which they are best learned."""
    from . import fish, marks, water

    return {one.key: one for one in (*marks.KINDS, *water.KINDS, *fish.KINDS)}


def drill(kind: str, level: int, seed: int) -> Drill:
    """The drill of this kind, level and seed: the same every time. Raises ValueError for a kind or level unknown."""
    every = kinds()
    if kind not in every:
        raise InputError(f"kind is {kind!r}: accepted are {', '.join(every)}")
    if level not in LEVELS:
        raise InputError(f"level is {level!r}: accepted are 1, 2 and 3")
    order = list(every).index(kind)
    rng = np.random.default_rng([seed, level, order])
    return replace(every[kind].build(rng, level), kind=kind, level=level, seed=seed)
