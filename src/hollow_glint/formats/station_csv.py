"""A weather station's readings as CSV: a time, a pressure, and a temperature where it has one.

Columns are known by their names, whatever else the file holds: "time" or "date", "pressure" (hPa, mbar, kPa, inHg or
mmHg by its size), "temperature".
"""

from __future__ import annotations

import csv
import datetime
import io

from ..core.checks import InputError
from ..core.log.weather import Reading

MOST_LINES = 300_000
TIMES = ("time", "timestamp", "datetime", "date_time", "date", "at", "utc")
PRESSURES = ("pressure", "baro", "slp", "mslp", "qff", "qnh", "hpa", "mbar")
TEMPERATURES = ("temperature", "temp", "air")
# By the size that a pressure at sea level has in each unit.
UNITS: tuple[tuple[float, float, float], ...] = (
    (850.0, 1090.0, 1.0), (85.0, 109.0, 10.0), (25.0, 32.3, 33.8639), (637.0, 820.0, 1.333224),
)  # fmt: skip


def read(text: str, utc_offset_min: float = 0.0) -> list[Reading]:
    """The readings in the order of time; times without a zone are by a clock so far ahead of UTC.

    Raises ValueError naming the line for what is no reading.
    """
    head_line = next((line for line in text.splitlines() if line.strip()), "")
    separator = max(";\t,", key=head_line.count)
    rows = csv.reader(io.StringIO(text.lstrip("\ufeff")), delimiter=separator)
    head = [one.strip().lower() for one in next(rows, [])]
    when, pressure = _column(head, TIMES), _column(head, PRESSURES)
    if when is None or pressure is None:
        what = "time" if when is None else "pressure"
        raise InputError(
            f"line 1: no column is called {what}: accepted is a CSV with a column of times and one of pressure"
        )
    warm = _column(head, TEMPERATURES)
    clock = datetime.timezone(datetime.timedelta(minutes=utc_offset_min))
    found = []
    for cells in rows:
        if not any(cells):
            continue
        if rows.line_num > MOST_LINES:
            raise InputError(f"the file has more than {MOST_LINES} lines: so many are accepted")
        if len(cells) <= max(when, pressure):
            raise InputError(f"line {rows.line_num}: {len(cells)} cells, and the head has {len(head)}")
        temperature = None if warm is None or warm >= len(cells) else _number(cells[warm], separator)
        found.append(
            Reading(
                _time(cells[when], clock, rows.line_num),
                _pressure(cells[pressure], separator, rows.line_num),
                temperature,
            )
        )
    if not found:
        raise InputError("the file has no reading: at least one line after the first is accepted")
    return sorted(found, key=lambda one: one.at)


def _column(head: list[str], names: tuple[str, ...]) -> int | None:
    for name in names:
        for k, called in enumerate(head):
            if called == name or called.startswith((f"{name} ", f"{name}_", f"{name}(", f"{name}[")):
                return k
    return None


def _time(cell: str, clock: datetime.timezone, line: int) -> datetime.datetime:
    try:
        found = datetime.datetime.fromisoformat(cell.strip())
    except ValueError:
        raise InputError(f"line {line}: {cell!r} is no time: accepted is one as 2026-02-14 15:42") from None
    try:
        return (found if found.tzinfo else found.replace(tzinfo=clock)).astimezone(datetime.UTC)
    except OverflowError:
        raise InputError(f"line {line}: {cell!r} is no time that the calendar has") from None


def _number(cell: str, separator: str) -> float | None:
    try:
        return float(cell.replace(",", ".") if separator != "," else cell)
    except ValueError:
        return None


def _pressure(cell: str, separator: str, line: int) -> float:
    value = _number(cell, separator)
    if value is not None:
        for low, high, times in UNITS:
            if low <= value <= high:
                return value * times
    raise InputError(
        f"line {line}: pressure is {cell!r}: accepted are 850 to 1090 hPa, or as much in kPa, inHg or mmHg"
    )
