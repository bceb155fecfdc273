"""Pressure from a station of one's own: what it was when an outing began, and where it was going.

A trend is the change over the three hours up to then (World Meteorological Organization, Guide to Instruments and
Methods of Observation, WMO-No. 8: the tendency is over three hours); that less than 1 hPa is steady is common practice,
no source.
"""

from __future__ import annotations

import datetime
from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass

TENDENCY_H = 3.0
STEADY_HPA = 1.0
NEAR_H = 2.0  # a reading further off than that says nothing of now
ALONE_H = 0.5  # nor one without another on the other side, further off than this


@dataclass(frozen=True)
class Reading:
    """A station's reading: when (UTC), pressure [hPa], and the air's temperature [degrees C] where it has one."""

    at: datetime.datetime
    pressure_hpa: float
    temperature_c: float | None = None


def pressure_at(readings: Sequence[Reading], when: datetime.datetime) -> float | None:
    """The pressure [hPa] at a moment, between the two readings about it, or that of one close by; None where there is
    none.

    `readings` are in the order of time.
    """
    near = datetime.timedelta(hours=NEAR_H)
    k = bisect_right(readings, when, key=lambda one: one.at)
    before = readings[k - 1] if k and when - readings[k - 1].at <= near else None
    after = readings[k] if k < len(readings) and readings[k].at - when <= near else None
    if before is not None and after is not None:
        share = (when - before.at) / (after.at - before.at)
        return before.pressure_hpa + share * (after.pressure_hpa - before.pressure_hpa)
    one = before or after
    alone = datetime.timedelta(hours=ALONE_H)
    return None if one is None or abs(when - one.at) > alone else one.pressure_hpa


def trend_at(readings: Sequence[Reading], when: datetime.datetime) -> str | None:
    """Whether the pressure was "falling", "steady" or "rising" up to a moment; None where the station does not say."""
    now = pressure_at(readings, when)
    then = pressure_at(readings, when - datetime.timedelta(hours=TENDENCY_H))
    if now is None or then is None:
        return None
    if abs(now - then) < STEADY_HPA:
        return "steady"
    return "rising" if now > then else "falling"
