"""When to charge: after each outing, and each month of the off season, for a battery that stands empty is lost.

Common practice, no source: lead is stored full, lithium iron phosphate at about half.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from dataclasses import dataclass

from .batteries import Battery
from .sun import day_of

OFF_SEASON_MONTHS = 7
STORED = {"lead": "full", "lithium iron phosphate": "at about half"}


@dataclass(frozen=True)
class ToCharge:
    """A battery to be charged on a day ("2026-12-05"), for so many months again, and what to mind."""

    battery: str
    date: str
    title: str
    note: str
    months: int = 0


def charging(batteries: Sequence[Battery], outing: str, season_ends: str) -> list[ToCharge]:
    """What to charge after an outing on a day, and monthly from the end of the season. Raises ValueError for no day."""
    found = []
    day_of("outing", outing)
    off = day_of("season_ends", season_ends) + datetime.timedelta(days=30)
    for one in batteries:
        warm = " Let it warm through first: lithium is never charged below freezing." if one.chemistry != "lead" else ""
        found.append(
            ToCharge(one.name, outing, f"Charge {one.name}", f"In the evening after the outing.{warm} Note the charge.")
        )
        found.append(
            ToCharge(
                one.name, off.isoformat(), f"Look after {one.name}",
                f"Read its volts and charge what is missing; it is stored {STORED[one.chemistry]}, cool and dry.{warm}",
                OFF_SEASON_MONTHS,
            )
        )  # fmt: skip
    return found
