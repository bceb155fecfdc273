"""Soundings as CSV: what the columns seem to be, to be confirmed by whoever sent it; then line by line, with the lines
that cannot be taken told apart from those that can.

Separators and decimal commas of many lands are read: comma, semicolon or tab between columns, and a decimal comma where
the separator is not one.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike

from ..core.checks import Floats, InputError
from ..core.gear.unit import FOOT
from ..core.ground.plane import Plane
from ..core.ground.soundings import Sounding

MOST_BYTES = 16 * 2**20
TELL_EVERY = 2000  # lines
MOST_LINES = 200_000
FATHOM = 6.0 * FOOT
Unit = Literal["m", "ft", "fathom"]
UNITS: dict[Unit, float] = {"m": 1.0, "ft": FOOT, "fathom": FATHOM}
Role = Literal["longitude", "latitude", "depth"]
# How columns are called, in lower case and without what stands in brackets.
CALLED: dict[Role, tuple[str, ...]] = {
    "longitude": ("lon", "long", "longitude", "lng", "x"),
    "latitude": ("lat", "latitude", "y"),
    "depth": ("depth", "z", "sounding", "d", "tiefe", "syvyys", "djup", "dybde", "profondeur"),
}
COLUMNS = ("longitude", "latitude", "depth_m")


@dataclass(frozen=True)
class Columns:
    """Which column (from 0) is which, and what the depths are in."""

    longitude: int
    latitude: int
    depth: int
    unit: Unit


@dataclass(frozen=True)
class Sniffed:
    """What a file seems to hold: its separator, the names of its columns, the first lines, and a guess; None where the
    guess is not whole, with what is missing."""

    separator: str
    names: tuple[str, ...]
    first: tuple[tuple[str, ...], ...]
    guess: Columns | None
    missing: tuple[Role, ...]


@dataclass(frozen=True)
class Refused:
    """A line (from 1) that cannot be taken, and why."""

    line: int
    why: str


@dataclass(frozen=True)
class Taken:
    """Soundings on the plane: places (n, 2) and depths (n,) [m], when each was taken (or nothing of any); and the lines
    that were refused."""

    place: Floats
    depth_m: Floats
    at: tuple[str, ...]
    refused: tuple[Refused, ...]

    def __len__(self) -> int:
        return int(self.depth_m.size)

    def soundings(self, which: ArrayLike | None = None) -> tuple[Sounding, ...]:
        """The soundings, or those of some numbers."""
        chosen = range(len(self)) if which is None else np.asarray(which, dtype=np.intp)
        return tuple(
            Sounding(
                float(self.place[i, 0]), float(self.place[i, 1]), float(self.depth_m[i]), "sonar",
                self.at[i] if self.at else "",
            )
            for i in chosen
        )  # fmt: skip


def _lines(text: str) -> tuple[str, list[list[str]]]:
    if len(text) > MOST_BYTES:
        raise InputError(f"the file has {len(text)} characters: accepted are up to {MOST_BYTES}")
    head = next((line for line in text.splitlines() if line.strip()), "")
    separator = max(";\t,", key=head.count)
    if head.count(separator) < 2:
        raise InputError("the first line has fewer than three columns: accepted are comma, semicolon or tab between")
    rows = list(csv.reader(io.StringIO(text), delimiter=separator))
    if len(rows) > MOST_LINES:
        raise InputError(f"the file has {len(rows)} lines: accepted are up to {MOST_LINES}")
    return separator, rows


def sniff(text: str) -> Sniffed:
    """What the columns seem to be. Raises ValueError for what is no table."""
    separator, rows = _lines(text)
    names = tuple(one.strip() for one in rows[0])
    plain = [re.sub(r"[\[(].*|[ _](m|ft|feet|fathoms?)$", "", one.strip().lower()).strip() for one in names]
    found: dict[Role, int] = {}
    for role, called in CALLED.items():
        at = next((i for i, name in enumerate(plain) if name in called), None)
        if at is not None:
            found[role] = at
    missing = tuple(role for role in CALLED if role not in found)
    unit: Unit = "m"
    if "depth" in found:
        depth = names[found["depth"]].lower()
        unit = "fathom" if "fathom" in depth else "ft" if re.search(r"\bf(ee)?t\b|_ft\b|foot", depth) else "m"
    guess = None if missing else Columns(found["longitude"], found["latitude"], found["depth"], unit)
    return Sniffed(separator, names, tuple(tuple(row) for row in rows[1:4]), guess, missing)


def _number(text: str, name: str, low: float, high: float, comma: bool) -> float:
    said = text.strip().replace(",", ".") if comma else text.strip()
    try:
        value = float(said)
    except ValueError:
        raise InputError(f"{name} is {text.strip()[:30]!r}: a number is accepted") from None
    if not low <= value <= high:
        raise InputError(f"{name} is {value:g}: accepted are values from {low:g} to {high:g}")
    return value


def read(text: str, columns: Columns, plane: Plane, tell: Callable[[float], None] = lambda share: None) -> Taken:
    """The soundings of a file whose columns were confirmed. Raises ValueError for what is no table at all.

    `tell` is called with how far it has come, 0 to 1.
    """
    separator, rows = _lines(text)
    comma, to_m = separator != ",", UNITS[columns.unit]
    last = max(columns.longitude, columns.latitude, columns.depth)
    told: list[tuple[int, float, float, float]] = []
    refused: list[Refused] = []
    for k, row in enumerate(rows[1:], start=2):
        if k % TELL_EVERY == 0:
            tell(0.8 * k / len(rows))
        if not any(one.strip() for one in row):
            continue
        try:
            if len(row) <= last:
                raise InputError(f"it has {len(row)} columns: column {last + 1} is needed")
            longitude = _number(row[columns.longitude], "longitude", -180.0, 180.0, comma)
            latitude = _number(row[columns.latitude], "latitude", -90.0, 90.0, comma)
            depth = _number(row[columns.depth], f"depth in {columns.unit}", 0.0, 500.0 / to_m, comma)
            if plane.is_far(latitude, longitude):
                plane.to_plane(latitude, longitude)  # which says how far off it is
            told.append((k, latitude, longitude, depth * to_m))
        except ValueError as wrong:
            refused.append(Refused(k, str(wrong)))
    if not told:
        return Taken(np.empty((0, 2)), np.empty(0), (), tuple(refused))
    places = np.array([one[1:] for one in told])
    east, north = plane.to_plane(places[:, 0], places[:, 1])
    tell(0.9)
    return Taken(np.column_stack([east, north]), places[:, 2], (), tuple(refused))


def middle(text: str, columns: Columns, most: int = 200) -> list[float] | None:
    """Latitude and longitude in the middle of a file's first places; None where none can be read."""
    separator, rows = _lines(text)
    found = []
    for row in rows[1 : most + 1]:
        try:
            latitude = _number(row[columns.latitude], "latitude", -85.0, 85.0, separator != ",")
            longitude = _number(row[columns.longitude], "longitude", -180.0, 180.0, separator != ",")
        except (ValueError, IndexError):
            continue
        found.append((latitude, longitude))
    return None if not found else [float(one) for one in np.median(found, axis=0)]


def write(soundings: Sequence[Sounding], plane: Plane) -> str:
    """The file's text, in degrees and metres."""
    out = io.StringIO()
    out.write(",".join(COLUMNS) + "\n")
    for one in soundings:
        latitude, longitude = plane.to_degrees(one.east_m, one.north_m)
        out.write(f"{float(longitude):.8f},{float(latitude):.8f},{one.depth_m:.3f}\n")
    return out.getvalue()
