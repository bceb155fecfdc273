"""What a reader is given: what is known without looking, and each ping as an angler sees it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ..checks import Floats
from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..sonar.picture import Window
from ..sonar.transmission import Transmission, transmit
from . import sizing


@dataclass(frozen=True)
class ReaderSetup:
    """What is known without looking: the unit and its settings, where the face hangs, what is tied on.

    face_depth_m [m below the surface], temperature_c [degrees C]; `lure` None when nobody said; `rod_known` False when
    nobody wrote down how much line went in and out
    """

    unit: UnitProfile
    settings: Settings
    face_depth_m: float
    temperature_c: float = 1.0
    lure: Lure | None = None
    rod_known: bool = True

    @cached_property
    def transmission(self) -> Transmission:
        """The sonar equation's terms for these settings over plain water."""
        return transmit(sizing.assumed_water(self.face_depth_m, self.temperature_c), self.unit, self.settings)

    @cached_property
    def thresholds_db(self) -> Floats:
        """Where each colour begins [dB]."""
        return sizing.level_thresholds(self.unit, self.unit.ladders[self.settings.ladder])


@dataclass(frozen=True)
class SeenPing:
    """One ping as it is seen: time [s], rows of ladder levels (rows,), the water they show, line taken in since the
    ping before [m, let out is negative]."""

    time_s: float
    levels: NDArray[np.uint8]
    shown: Window
    line_in_m: float = 0.0
