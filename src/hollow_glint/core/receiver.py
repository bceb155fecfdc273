"""The receiver: what the gain knob does to an echo before it becomes a colour."""

from __future__ import annotations

from .ping import Levels
from .unit import Settings, UnitProfile


def first_colour_level(unit: UnitProfile, settings: Settings) -> float:
    """Echo level [dB re 1 uPa] that just lights the first colour at these settings. The system constant, less gain."""
    return unit.gain.first_colour_db - unit.gain.decibels(settings.gain)


def receive(echo_level_db: Levels, unit: UnitProfile, settings: Settings) -> Levels:
    """Signal [dB above the first colour], same shape as `echo_level_db` [dB re 1 uPa]."""
    return echo_level_db - echo_level_db.dtype.type(first_colour_level(unit, settings))
