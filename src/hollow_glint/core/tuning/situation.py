"""A situation: everything a rule may look at when it judges how a unit hangs and is set."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

from ..gear.lures import Lure
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar import picture, receiver
from ..sonar.transmission import Transmission, transmit
from .gain_window import GainWindow, gain_window, step_inside


@dataclass(frozen=True)
class Situation:
    """Everything the coach looks at: the scene, the unit as it is set, the lure, and what the unit is locked on.

    shown    the main picture's window; zoom the magnified one, the same where none is asked for
    lock_m   range at which automatic range takes the bottom to be [m], None when it is not on or has none
    margins_db   by how much what is not known of the water may move floor and ceiling in
    found_m  ranges at which the unit has shown the bottom in its last pings [m], oldest first; empty when not followed
    """

    scene: Scene
    unit: UnitProfile
    settings: Settings
    lure: Lure
    lure_depth_m: float
    shown: picture.Window
    zoom: picture.Window
    lock_m: float | None = None
    margins_db: tuple[float, float] = (0.0, 0.0)
    found_m: tuple[float, ...] = ()

    @cached_property
    def transmission(self) -> Transmission:
        """The still part of a ping as things stand."""
        return transmit(self.scene, self.unit, self.settings)

    @cached_property
    def limits(self) -> GainWindow:
        """The gain window as things stand."""
        return self._window(self.settings)

    def _window(self, settings: Settings) -> GainWindow:
        t = transmit(self.scene, self.unit, settings)
        return gain_window(t, self.unit, settings, self.lure, self.lure_depth_m, self.shown, self.margins_db)

    def window_with(self, **change: int) -> GainWindow:
        """The gain window with one or more knobs turned."""
        return self._window(replace(self.settings, **change))  # type: ignore[arg-type]

    def closes_with(self, **change: int) -> bool:
        """Whether turning one or more knobs so would close a gain window that is open."""
        now, then = self.limits, self.window_with(**change)
        return (
            self.lure_down
            and step_inside(self.unit, now.floor, now.ceiling) is not None
            and step_inside(self.unit, then.floor, then.ceiling) is None
        )

    @property
    def lure_down(self) -> bool:
        """Whether the lure hangs below the face at all."""
        return self.lure_depth_m > self.scene.face_depth_m + 0.05

    def first_colour(self, settings: Settings | None = None) -> float:
        """Echo level [dB] that lights the weakest step."""
        return receiver.first_colour_level(self.unit, settings or self.settings)


def situation_at(scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, depth_m: float) -> Situation:
    """What the coach looks at, the unit locked on the bottom as it is."""
    zoom = picture.window(settings, scene.bottom_range_m)
    shown = picture.full_column(settings) if settings.beside else zoom
    return Situation(scene, unit, settings, lure, depth_m, shown, zoom)
