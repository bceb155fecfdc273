"""The shape of a pulse as it comes back: a short rise, a plateau and a skirt, and the cheap way to lay it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats

SKIRT_DB_PER_PULSE = 24.0  # how fast the trailing skirt falls, in pulse lengths. Common practice, no source.
RISE_PULSES = 0.25
KERNEL_PULSES = 4.0  # a kernel ends where its skirt is 73 dB down
LAID_WITH_FRONT = 2  # bins of the skirt


def pulse_envelope(lengths: Floats) -> Floats:
    """Intensity of an echo `lengths` pulse lengths (c tau / 2) behind its leading edge; 1 on the plateau.

    A short rise, a plateau, and an exponential skirt; its integral is exactly one pulse length, so that volume
    reverberation keeps the closed form with c tau / 2 (Simmonds and MacLennan 2005). The skirt is why a stronger echo
    is also a thicker one.
    """
    skirt_area = 10.0 / (SKIRT_DB_PER_PULSE * np.log(10.0))
    plateau_end = 1.0 + RISE_PULSES / 2.0 - skirt_area
    rising: Floats = np.sin(np.pi / 2.0 * np.clip(lengths / RISE_PULSES, 0.0, 1.0)) ** 2
    falling: Floats = 10.0 ** (-SKIRT_DB_PER_PULSE / 10.0 * np.maximum(lengths - plateau_end, 0.0))
    return rising * falling


def begins_behind(over_db: float) -> float:
    """How far behind its leading edge an echo lights a colour [pulse lengths] that its plateau is `over_db` [dB] over.

    A loud echo does at once, a faint one at the end of its rise: of two at one range the louder begins higher.
    """
    return RISE_PULSES * 2.0 / np.pi * float(np.arcsin(10.0 ** (-max(over_db, 0.0) / 20.0)))


@dataclass(frozen=True, eq=False)
class LaidPulse:
    """A pulse as `ping` lays it: the front of it into bins, then passes over all bins that draw the skirt out.

    A skirt is a geometric series, and 1 + q + q^2 + ... is (1 + q)(1 + q^2)(1 + q^4)...: few passes draw it out. The
    first of them are laid with the front of each echo, where they cost less than a pass over all bins.

    front_early    the front of a pulse that begins with a bin, and an empty bin more, shape (front, 1)
    front_later    what changes in it for an echo that begins one bin later
    front_bins     its bins, counted from the first
    skirt_passes   to each bin add, so many bins on, what stands in it, weakened so
    """

    front_early: Floats
    front_later: Floats
    front_bins: NDArray[np.intp]
    skirt_passes: tuple[tuple[int, np.float32], ...]

    @classmethod
    def of(cls, kernel: NDArray[np.float32], bin_m: float, resolution_m: float) -> LaidPulse:
        """That of a `kernel` (bins of a pulse,), bins `bin_m` [m] apart, pulses `resolution_m` [m] long (c tau / 2)."""
        skirt = 10.0 ** (-SKIRT_DB_PER_PULSE / 10.0 * bin_m / resolution_m)  # what is left of it one bin on
        decay = float(np.float32(skirt))
        whole = kernel.astype(np.float64)
        front = whole - decay * np.concatenate([[0.0], whole[:-1]])
        front = front[: int(np.flatnonzero(np.abs(front) > 1e-6)[-1]) + 1]
        passes, reach = [], 1
        while reach < kernel.size:
            if reach < LAID_WITH_FRONT:
                front = np.append(front, np.zeros(reach)) + decay * np.append(np.zeros(reach), front)
            else:
                passes.append((reach, np.float32(decay)))
            reach, decay = 2 * reach, decay * decay
        early = np.append(front, 0.0)
        later = np.roll(early, 1) - early
        return cls(early[:, None], later[:, None], np.arange(early.size)[:, None], tuple(passes))
