"""All kinds of drill, and the drill of a kind, a level and a seed."""

from __future__ import annotations

from dataclasses import replace
from zlib import crc32

import numpy as np

from ..checks import InputError
from . import fans, fish, marks, sweeps, water
from .drill import LEVELS, Drill, DrillKind

# By key, in the order in which they are best learned.
KINDS: dict[str, DrillKind] = {
    one.key: one for one in (*marks.KINDS, *water.KINDS, *fish.KINDS, *sweeps.KINDS, *fans.KINDS)
}


def drill(kind: str, level: int, seed: int) -> Drill:
    """The drill of this kind, level and seed: the same every time. Raises ValueError for a kind or level unknown."""
    if kind not in KINDS:
        raise InputError(f"kind is {kind!r}: accepted are {', '.join(KINDS)}")
    if level not in LEVELS:
        raise InputError(f"level is {level!r}: accepted are 1, 2 and 3")
    # By the kind's own name, so that another kind put before it changes no picture and no right answer.
    rng = np.random.default_rng([seed, level, crc32(kind.encode())])
    return replace(KINDS[kind].build(rng, level), kind=kind, level=level, seed=seed)
