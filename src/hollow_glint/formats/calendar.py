"""Dates to keep as iCalendar (RFC 5545), which calendar programs read; by the library `icalendar`."""

from __future__ import annotations

import datetime
import hashlib
from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Entry:
    """Something to do on a day ("2026-12-05"), or from a minute of that day by the clock there; `months` how often it
    comes again, a month apart."""

    title: str
    date: str
    begins_min: float | None = None
    lasts_min: float = 60.0
    note: str = ""
    months: int = 0


def write(entries: Sequence[Entry], stamp: datetime.datetime) -> str:
    """The file's text. `stamp` is when it is written; an entry written again has the same identity, and is not doubled.

    Raises ValueError for what is no day.
    """
    from icalendar import Calendar, Event  # a fifth of a second to load, and one address needs it

    calendar = Calendar()
    calendar.add("prodid", "-//Hollow Glint//Trip//EN")
    calendar.add("version", "2.0")
    for one in entries:
        day = datetime.date.fromisoformat(one.date)
        event = Event()
        event.add("summary", one.title)
        if one.begins_min is None:
            event.add("dtstart", day)
            event.add("dtend", day + datetime.timedelta(days=1))
        else:
            # Without a zone: nine o'clock is nine o'clock wherever the lake is.
            begins = datetime.datetime.combine(day, datetime.time()) + datetime.timedelta(minutes=one.begins_min)
            event.add("dtstart", begins)
            event.add("dtend", begins + datetime.timedelta(minutes=one.lasts_min))
        if one.note:
            event.add("description", one.note)
        if one.months > 0:
            event.add("rrule", {"freq": "monthly", "count": one.months})
        event.add("dtstamp", stamp)
        event.add("uid", hashlib.sha256(f"{one.title} {one.date}".encode()).hexdigest()[:24] + "@hollow-glint")
        calendar.add_component(event)
    return str(calendar.to_ical().decode("utf-8"))
