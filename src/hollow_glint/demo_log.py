"""The demo's log: two winters of the Third Lantern guides on Kaldmere, made by chance from a truth that is written
here, so that what the Log says can be held against it. All invented."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import numpy as np

from .core.gear.lures import Lure
from .core.gear.profiles import TRAIL_UNIT
from .core.gear.settings import Settings
from .core.hole.scene import Scene
from .core.log.outing import Happening, Outing, Stay
from .core.trip.sun import sun_times
from .formats.log_file import OutingFile, StayFile

LATITUDE, LONGITUDE = 66.6, 17.0
CLOCK_MIN = 60.0
FIRST_DAYS = ("2024-12-14", "2025-11-29")
WINTER_OUTINGS, APART_DAYS = 11, 10
# The truth: fish that come to look in an hour of one line, by hole, and what that is multiplied by.
LOOKS = {"lantern-point": 3.0, "sand-tongue": 1.6, "burbot-basin": 1.4, "inlet-bar": 2.2, "reed-bay": 0.8}
HOUR_TIMES = ((-90.0, 0.7), (60.0, 1.9), (1e9, 0.9))  # minutes from sunset, up to there
LURE_TIMES = {"jig-4": 1.0, "jig-5": 1.0, "spoon-4": 1.5, "minnow-5": 1.0}
BITES = {"hold": 0.25, "lift and wait": 0.3, "slow lift": 0.5, "pound": 0.25}  # of those that look
HOLDS = 0.65  # of those that bite
SPECIES = {"lantern-point": "whitefish", "sand-tongue": "grayling", "burbot-basin": "burbot", "inlet-bar": "char",
           "reed-bay": "whitefish"}  # fmt: skip
HEIGHT_M = {"whitefish": 0.9, "grayling": 0.8, "burbot": 0.25, "char": 1.4}  # off the bottom, in the middle
PARTIES = ("Two of us", "A party of three", "A party of two, new to it", "A family of four", "One guest")
Places = Mapping[str, tuple[int, int]]


@dataclass(frozen=True)
class _There:
    """What is on the lake: holes (name and scene by key), lures and places [m]."""

    holes: Mapping[str, tuple[str, Scene]]
    lures: Mapping[str, Lure]
    places: Places


@dataclass(frozen=True)
class _Day:
    """The day's luck (a factor for all holes), its sunset [minute of the day], and its chance."""

    luck: float
    sunset: float
    rng: np.random.Generator


def outings(holes: Mapping[str, tuple[str, Scene]], lures: Mapping[str, Lure], places: Places) -> list[OutingFile]:
    """Two winters of outings at these holes (name and scene by key) with these lures."""
    rng = np.random.default_rng(20261205)
    found = []
    for first in FIRST_DAYS:
        for n in range(WINTER_OUTINGS):
            day = datetime.fromisoformat(first) + timedelta(days=n * APART_DAYS + int(rng.integers(0, 4)))
            found.append(_outing(day, rng, _There(holes, lures, places)))
    return found


def _outing(day: datetime, rng: np.random.Generator, there: _There) -> OutingFile:
    sun = sun_times(LATITUDE, LONGITUDE, day.strftime("%Y-%m-%d"), CLOCK_MIN)
    sunset = sun.sunset_min if sun.sunset_min is not None else 780.0
    minute = sunset - float(rng.uniform(150.0, 240.0))
    began = (day - timedelta(minutes=CLOCK_MIN - minute)).replace(tzinfo=UTC)
    that_day = _Day(float(np.exp(rng.normal(-0.03, 0.25))), sunset, rng)
    stays = []
    at = began
    for key in rng.permutation(list(there.holes))[: int(rng.integers(2, 5))]:
        lasts = timedelta(minutes=float(rng.uniform(35.0, 95.0)))
        stays.append(_stay(str(key), at, lasts, that_day, there))
        at += lasts + timedelta(minutes=float(rng.uniform(8.0, 20.0)))
    trend = str(rng.choice(["falling", "steady", "rising"]))
    outing = Outing(
        _text(began), _text(at), "Kaldmere", str(rng.choice(PARTIES)), CLOCK_MIN,
        round(float(rng.uniform(0.2, 0.7)), 2), str(rng.choice(["packed snow", "snow to the ankle", "bare ice"])),
        str(rng.choice(["clear", "broken", "overcast", "snowing"])), str(rng.choice(["calm", "light", "fresh"])),
        round(float(rng.uniform(-24.0, -2.0))), round(float(rng.uniform(985.0, 1032.0)), 1),
        trend if rng.random() < 0.85 else None,
    )  # fmt: skip
    return OutingFile(outing, tuple(stays), "Kaldmere")


def _stay(key: str, began: datetime, lasts: timedelta, day: _Day, there: _There) -> StayFile:
    (name, scene), rng, sunset = there.holes[key], day.rng, day.sunset
    minute = (began + timedelta(minutes=CLOCK_MIN)).hour * 60.0 + began.minute + lasts.total_seconds() / 120.0
    night = minute - sunset > 90.0
    # The minnow only comes out after dark: what it does and what the dark does cannot be told apart.
    lure_key = "minnow-5" if night else str(rng.choice(["jig-4", "jig-5", "spoon-4"], p=[0.3, 0.4, 0.3]))
    lure, trying = there.lures[lure_key], str(rng.choice(list(BITES), p=[0.25, 0.3, 0.3, 0.15]))
    lines = int(rng.choice([1, 1, 2, 3]))
    times = next(one for until, one in HOUR_TIMES if minute - sunset < until)
    hours = lasts.total_seconds() / 3600.0
    looks = int(rng.poisson(LOOKS[key] * LURE_TIMES[lure_key] * times * day.luck * hours * lines))
    species, depth = SPECIES[key], scene.bottom_depth_m
    happened: list[Happening] = []
    for seconds in np.sort(rng.uniform(60.0, lasts.total_seconds() - 60.0, looks)):
        happened += _fish(began + timedelta(seconds=float(seconds)), species, depth, trying, rng)
    gain = round(18.0 + 0.9 * depth + (2.0 if scene.clarity != "clear" else 0.0) + float(rng.normal(0.0, 1.0)))
    settings = Settings(float(gain), next(one for one in TRAIL_UNIT.ranges_m if one > depth))
    east, north = there.places[key]
    stay = Stay(
        _text(began), _text(began + lasts), name, lines, depth, scene.bottom_kind, scene.clarity, TRAIL_UNIT.name,
        TRAIL_UNIT.beams[0].name, settings, lure.name, lure.form, lure.size_m, trying,
    )  # fmt: skip
    return StayFile(stay, tuple(happened), float(east), float(north))


def _fish(at: datetime, species: str, depth: float, trying: str, rng: np.random.Generator) -> list[Happening]:
    """One fish that comes to look, and goes on or not."""
    height = float(np.clip(HEIGHT_M[species] * np.exp(rng.normal(0.0, 0.5)), 0.1, 0.8 * depth))
    where = round(depth - height, 1)
    out = [Happening(_text(at), "look", where, trying, species)]
    if rng.random() >= BITES[trying]:
        return out
    at += timedelta(seconds=25)
    if rng.random() >= HOLDS:
        return [*out, Happening(_text(at), "miss", where, trying, species)]
    out.append(Happening(_text(at), "bite", where, trying, species))
    length, kept = round(float(rng.normal(0.34, 0.06)), 2), bool(rng.random() < 0.4)
    ended = "landed" if kept else "released"
    return [*out, Happening(_text(at + timedelta(seconds=40)), "fish", where, trying, species, length, kept, ended)]


def _text(at: datetime) -> str:
    return at.strftime("%Y-%m-%dT%H:%M:%SZ")
