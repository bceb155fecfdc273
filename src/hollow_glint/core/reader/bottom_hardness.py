"""How hard a bottom is, from its picture: which kind of bottom would have painted these rows.

A tail alone says little, for its length goes with gain, depth, beam and pulse. So each kind is pinged by the model at
the same depth and settings, its mean colours are worked out row by row, and the kind that fits best is told.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..acoustics.bottom import BOTTOM_KINDS
from ..checks import Floats
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar import receiver, transmission
from ..sonar.picture import Window, row_starts
from .report import Hardness
from .sizing import level_thresholds

COMPARED: dict[str, Hardness] = {name: BOTTOM_KINDS[name].feel for name in ("rock", "gravel", "sand", "silt", "mud")}
BELOW_M = 2.5  # how far under its edge a bottom is compared
ABOVE_M = 0.1
ALIKE = 0.06  # mean squared difference in colours between the best kind and the other hardness that decides nothing


@dataclass(frozen=True)
class BottomFit:
    """The best-fitting kind, its hardness ("hard", "soft", or "not clear"), and its misfit [colours, rms]."""

    kind: str
    hardness: Hardness
    misfit: float


@lru_cache(maxsize=64)
def painted(
    unit: UnitProfile, settings: Settings, face_depth_m: float, temperature_c: float, kind: str, bottom_m: float,
    shown: Window,
) -> Floats:  # fmt: skip
    """Mean ladder level of each row, shape (rows,), over a bottom of `kind`, its edge `bottom_m` [m] from the face.

    A bin's intensity is its steady part and an exponential part (Rayleigh); a row shows its strongest bin, of which the
    median bin's chance stands for all.
    """
    scene = Scene(face_depth_m + bottom_m, kind, 0.0, face_depth_m, temperature_c=temperature_c)
    t = transmission.transmit(scene, unit, settings)
    zero = unit.gain.first_colour_at(settings.gain)
    off = receiver.taken_off(unit, settings, t.bin_range_m) + zero
    limits = level_thresholds(unit, unit.ladders[settings.ladder])
    over = 10.0 ** ((limits[:, None] + off[None, :]) / 10.0)
    dark = 1.0 - np.exp(-np.maximum(over - t.steady, 0.0) / t.diffuse)
    starts = row_starts(shown.top_m, shown.bottom_m, unit.rows, t.bin_m, t.bin_range_m.size)[:-1]
    rows = np.multiply.reduceat(dark, starts, axis=1)
    level: Floats = (1.0 - rows).sum(axis=0)
    return level


def read_bottom(
    unit: UnitProfile, settings: Settings, face_depth_m: float, temperature_c: float, bottom_m: float,
    shown: Window, mean_levels: Floats,
) -> BottomFit:  # fmt: skip
    """Which kind of bottom paints the rows' `mean_levels` (rows,) best, its edge at `bottom_m` [m from the face]."""
    row_m = shown.height_m / unit.rows
    rows = shown.top_m + (np.arange(unit.rows) + 0.5) * row_m
    near = (rows > bottom_m - ABOVE_M) & (rows < bottom_m + BELOW_M)
    edge = round(max(bottom_m, 0.6), 2)
    misfits: dict[str, float] = {}
    for kind in COMPARED:
        level = painted(unit, settings, face_depth_m, temperature_c, kind, edge, shown)
        misfits[kind] = float(np.mean((level[near] - mean_levels[near]) ** 2))
    best = min(misfits, key=lambda kind: misfits[kind])
    other = min(misfits[kind] for kind in COMPARED if COMPARED[kind] != COMPARED[best])
    clear = other - misfits[best] > ALIKE
    return BottomFit(best, COMPARED[best] if clear else "not clear", float(np.sqrt(misfits[best])))
