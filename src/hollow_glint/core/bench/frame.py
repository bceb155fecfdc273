"""A frame: one step of the picture and what was true then."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..fields import doc
from ..fish.events import Event, Eyes, FishTruth, TipSays
from ..gear.settings import Settings
from ..sonar import picture

STEP_S = 0.05  # one frame


@dataclass(frozen=True)
class Frame:
    """One step of the picture: `levels` (pings, rows) for the pings since the last frame, and what was true then.

    window_levels  the magnified picture of the same pings where a window stands beside the column, else None
    line_in_m      line taken in since the last frame that had a ping, twitches too; let out is negative
    school         every fish that minds its own business: x, y, z, length [m], shape (fish, 4)
    """

    number: int
    time_s: float
    first_ping: Annotated[int, doc("Number of the first of these pings, counted from the start")]
    levels: NDArray[np.uint8]
    shown: picture.Window
    window_levels: NDArray[np.uint8] | None
    window_shown: picture.Window
    found_bottom_m: Annotated[float, doc("Range at which the unit sees the bottom")]
    settings: Settings
    lure_depth_m: float
    lure_x: Annotated[float, doc("The lure's swing aside, along x")]
    lure_rising_m_s: float
    line_in_m: float
    rod_tip_bend: Annotated[float, doc("0 straight to 1 buried")]
    rod_tip: Annotated[TipSays, doc("What the tip shows")]
    stick_tip_bend: float
    stick_tip: TipSays
    eyes: Eyes
    target_depth_m: float
    lock_m: Annotated[float | None, doc("Where automatic range takes the bottom to be; null without")]
    school: NDArray[np.float32]
    fish: tuple[FishTruth, ...]
    events: tuple[Event, ...]

    def to_bytes(self) -> bytes:
        """Every value of the frame as bytes, for comparing runs."""
        said = tuple(value for name, value in vars(self).items() if name not in ("levels", "window_levels", "school"))
        window = b"" if self.window_levels is None else self.window_levels.tobytes()
        return repr(said).encode() + self.levels.tobytes() + window + self.school.tobytes()
