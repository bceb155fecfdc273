"""How loud each beam of a fan hears each angle of its plane, out and back.

Sent by the face of the beam's own sub-array, heard by its steered line: one amplitude pattern times the other (Urick
1983; Van Trees 2002). Nothing is drawn where two sub-arrays meet: that beams there are weak, that beams steered off the
normal are wider, that a loud echo is heard beside its place and twice, follows from the patterns.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..acoustics.array import array_amplitude, element_amplitude
from ..checks import Floats
from .head import FanHead

STEP_DEG: Final = 0.25
ANGLES: Final = round(360.0 / STEP_DEG)


def angles_deg() -> Floats:
    """The angles of the table, from the fan's middle (ANGLES,) [degrees], from -180 up."""
    return np.arange(ANGLES) * STEP_DEG - 180.0


def angle_number(from_middle_rad: Floats) -> NDArray[np.intp]:
    """Which angle of the table is nearest, for angles from the fan's middle [rad], any."""
    return np.rint(np.degrees(from_middle_rad) / STEP_DEG + ANGLES / 2).astype(np.intp) % ANGLES


@lru_cache(maxsize=8)
def two_way(head: FanHead, wavelength_m: float) -> NDArray[np.float32]:
    """Power out and back, 0 to 1: (ANGLES, beams). Behind a sub-array's face nothing is heard."""
    off = (angles_deg()[:, None] - head.normals_deg + 180.0) % 360.0 - 180.0
    before = np.abs(off) < 90.0
    off_rad = np.radians(np.where(before, off, 0.0))
    steered = np.radians(head.beams_deg - head.normals_deg)
    sent = element_amplitude(head.face, off_rad, wavelength_m) ** 2
    heard = array_amplitude(head.line, off_rad, steered, wavelength_m) ** 2
    return np.where(before, sent * heard, 0.0).astype(np.float32)
