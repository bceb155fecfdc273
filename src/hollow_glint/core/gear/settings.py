"""Where a unit's knobs stand, and what follows from that alone: its picture rate, its draw, the range that fits."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np

from ..checks import InputError, number
from ..fields import Span, doc
from .unit import FOOT, MOST_LISTED, UnitProfile

Position = Annotated[int, Span(0, MOST_LISTED - 1), doc("Position in the unit's list")]

# Knobs that are positions in a list of the profile, by their name in Settings.
POSITIONS = {
    "beam": "beams",
    "power": "powers_w",
    "pulse": "pulses",
    "rejection": "rejections",
    "noise_filter": "noise_filters",
    "tvg": "tvg_db_decade",
    "blanking": "blanking_m",
    "ladder": "ladders",
    "scroll": "scroll_speeds",
    "light": "brightness",
}


@dataclass(frozen=True)
class Settings:
    """Where the knobs stand: gain in the unit's numbers, range and windows [m], positions in the unit's lists."""

    gain: Annotated[float, doc("In the unit's own numbers")]
    range_m: Annotated[float, doc("One that the unit has; where it stands while auto_range is on")]
    bottom_window_m: Annotated[float, doc("Height of a window that follows the bottom; 0 for none")] = 0.0
    beam: Position = 0
    power: Position = 0
    pulse: Position = 0
    auto_range: Annotated[bool, doc("The unit chooses its range")] = False
    free_window_m: Annotated[float, doc("Height of a window put anywhere; 0 for none")] = 0.0
    free_window_top_m: Annotated[float, doc("Its top below the face")] = 0.0
    beside: Annotated[bool, doc("The window stands beside the full column rather than in its place")] = False
    rejection: Position = 0
    noise_filter: Position = 0
    tvg: Position = 0
    blanking: Position = 0
    ladder: Position = 0
    scroll: Position = 0
    light: Position = 0

    def checked(self, unit: UnitProfile) -> Settings:
        """These settings if `unit` can be set so, gain brought to its nearest step; else ValueError."""
        gain = unit.gain.nearest(number("gain", self.gain, unit.gain.minimum, unit.gain.maximum))
        if unit.free_range:
            range_m = number("range_m", self.range_m, unit.ranges_m[0], unit.ranges_m[-1], "m")
        else:
            range_m = _nearest("range_m", self.range_m, unit.ranges_m)
        if self.auto_range and not unit.auto_range:
            raise InputError("auto_range is true: this unit cannot choose its range, so only false is accepted")
        window = _nearest("bottom_window_m", self.bottom_window_m, (0.0, *unit.bottom_windows_m))
        free = _nearest("free_window_m", self.free_window_m, (0.0, *unit.free_windows_m))
        if window > 0.0 and free > 0.0:
            raise InputError(f"bottom_window_m is {window:g} m and free_window_m is {free:g} m: one window at a time")
        top = number("free_window_top_m", self.free_window_top_m, 0.0, 150.0, "m")
        if self.beside and not unit.window_beside:
            raise InputError("beside is true: this unit shows one picture at a time, so only false is accepted")
        for name, listed in POSITIONS.items():
            position, choices = getattr(self, name), getattr(unit, listed)
            if isinstance(position, bool) or position not in range(len(choices)):
                raise InputError(f"{name} is {position!r}: this unit has positions 0 to {len(choices) - 1}")
        return replace(
            self, gain=gain, range_m=range_m, bottom_window_m=window, free_window_m=free, free_window_top_m=top
        )


def _nearest(name: str, value: float, choices: tuple[float, ...]) -> float:
    """The listed choice equal to `value` within a millimetre, or ValueError listing them."""
    wanted = number(name, value, 0.0, 1000.0, "m")
    for choice in choices:
        if abs(choice - wanted) < 1e-3:
            return choice
    raise InputError(f"{name} is {wanted:g} m: this unit has {', '.join(f'{choice:g}' for choice in choices)} m")


def starting_settings(unit: UnitProfile, bottom_range_m: float) -> Settings:
    """Settings to begin with at a hole: the smallest range that fits and gain in the middle of its scale."""
    middle = (unit.gain.minimum + unit.gain.maximum) / 2.0
    return Settings(middle, smallest_range(unit, bottom_range_m)).checked(unit)


def picture_rate(unit: UnitProfile, settings: Settings, most_pings_hz: float) -> float:
    """Pings a second [Hz]: the unit's rate or what the range allows, less what rejection costs."""
    return min(unit.ping_rate_hz, most_pings_hz) * unit.rejections[settings.rejection].rate


def draw(unit: UnitProfile, settings: Settings) -> float:
    """Current drawn [A] at these settings: what the unit takes, and its light."""
    return unit.draw_a + unit.light_a * unit.brightness[settings.light]


def smallest_range(unit: UnitProfile, bottom_range_m: float) -> float:
    """The smallest range [m] of `unit` that shows the bottom with a margin below it; its largest if none does.

    "Smallest range that holds the bottom" is common practice, no source. The margin, 0.3 m or 3 percent, is ours.
    """
    needed = bottom_range_m + max(0.3, 0.03 * bottom_range_m)
    if unit.free_range:  # to the next whole foot, as a hand would set it
        return float(np.clip(np.ceil(needed / FOOT) * FOOT, unit.ranges_m[0], unit.ranges_m[-1]))
    return next((span for span in unit.ranges_m if span >= needed), unit.ranges_m[-1])
