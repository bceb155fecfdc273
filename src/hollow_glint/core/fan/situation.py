"""What the fan's coach knows: how the head hangs and is set, what is sought, in which water, for which job.

Nothing of who swims there: only what does not move, as the unit itself hears it, and where one's own lures hang.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Final, Literal

from .head import FanHang, FanHead
from .settings import FanSettings
from .water import FanWater
from .window import FanWindow, Sought, beam_loss_db, gain_window

Job = Literal["search", "fish"]
JOBS: Final[dict[Job, str]] = {"search": "search: find fish from here", "fish": "fish: watch lure and fish"}
# How far one listens for a job [m]: 60 to 100 ft to search, 25 to 40 ft to fish. Common practice, no source.
REACH_M: Final[dict[Job, tuple[float, float]]] = {"search": (18.3, 30.5), "fish": (7.6, 12.2)}


@dataclass(frozen=True, eq=False)
class FanSituation:
    """A fan as it hangs, is set and is used. `dark` where the eyes are used to the night."""

    here: FanWater
    head: FanHead
    hang: FanHang
    settings: FanSettings
    sought: Sought
    job: Job = "search"
    dark: bool = False

    @cached_property
    def window(self) -> FanWindow:
        """The gain window."""
        return gain_window(self.here, self.head, self.hang, self.settings, self.sought)

    @cached_property
    def lure_seen(self) -> tuple[float, float, float]:
        """What angle and thickness cost the lure [dB], its range [m] and angle from the fan's middle [degrees]."""
        return beam_loss_db(self.here, self.head, self.hang, self.lure_place())

    def lure_place(self) -> tuple[float, float, float]:
        """Ahead, aside and deep [m]."""
        return self.sought.lure_ahead_m, self.sought.lure_aside_m, self.sought.lure_depth_m
