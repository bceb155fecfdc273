"""Sunrise, sunset and dusk for a place and a date: by the library `astral`, after NOAA's solar calculator (Meeus 1998,
Astronomical Algorithms). Dusk is civil: the sun six degrees below the horizon.
"""

from __future__ import annotations

import datetime
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from ..checks import InputError, within

DAY_MIN = 1440.0
LightThen = Literal["day", "dusk", "night"]


@dataclass(frozen=True)
class SunTimes:
    """Minutes of the day, by the clock of the place; None for what does not come about on that date."""

    dawn_min: float | None
    sunrise_min: float | None
    sunset_min: float | None
    dusk_min: float | None
    noon_up: bool  # whether the sun stands over the horizon at its highest

    def light(self, minute: float) -> LightThen:
        """What light there is at a minute of the day: dusk also stands for dawn."""
        if self.sunrise_min is not None and self.sunset_min is not None:
            if self.sunrise_min <= minute < self.sunset_min:
                return "day"
        elif self.noon_up:
            return "day"
        if self.dawn_min is not None and self.dusk_min is not None and self.dawn_min <= minute < self.dusk_min:
            return "dusk"
        return "night"


UNKNOWN = SunTimes(None, None, None, None, True)  # of a lake that lies nobody has said where


def day_of(name: str, date: str) -> datetime.date:
    """The day that a text names. Raises ValueError naming it where it is none."""
    try:
        return datetime.date.fromisoformat(date)
    except ValueError:
        raise InputError(f"{name} is {date!r}: accepted is a day as 2026-12-05") from None


def sun_times(latitude: float, longitude: float, date: str, utc_offset_min: float) -> SunTimes:
    """When the sun rises and sets on a date ("2026-12-05"), by a clock so many minutes ahead of UTC.

    Raises ValueError naming what is no date or outside its span.
    """
    from astral import Observer, sun  # a tenth of a second to load, and few addresses need it

    within("latitude", latitude, -85.0, 85.0, "degrees")
    within("longitude", longitude, -180.0, 180.0, "degrees")
    within("utc_offset_min", utc_offset_min, -720.0, 840.0, "min")
    day = day_of("date", date)
    clock = datetime.timezone(datetime.timedelta(minutes=utc_offset_min))
    observer = Observer(latitude, longitude)

    def minute(event: Callable[..., Any]) -> float | None:
        try:
            then = event(observer, date=day, tzinfo=clock)
        except ValueError:  # it does not come about
            return None
        midnight = datetime.datetime.combine(day, datetime.time(), clock)
        return float((then - midnight).total_seconds() / 60.0)

    noon = sun.noon(observer, date=day, tzinfo=datetime.UTC)
    return SunTimes(
        minute(sun.dawn),
        minute(sun.sunrise),
        minute(sun.sunset),
        minute(sun.dusk),
        sun.elevation(observer, noon) > -0.833,
    )
