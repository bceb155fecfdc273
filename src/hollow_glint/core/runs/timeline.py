"""A run on one time line, as a debrief shows it: the lure, the tip, the eyes, and each fish with its true depth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..bench.frame import STEP_S
from ..fish.events import FishMood, TipSays
from .replay import Beat

TRACK_S = 0.2  # how finely it is told
TELLING: tuple[TipSays, ...] = ("fish", "load", "tap", "slack", "weed")  # what a tip may show in a moment, first first
NEAR_M = 1.5  # a fish no further off the axis than this can be the one at the lure


@dataclass(frozen=True)
class FishTrack:
    """One fish: at each of `time_s` [s] its true depth and distance aside [m], and what it was about."""

    species: str
    length_m: float
    time_s: tuple[float, ...]
    depth_m: tuple[float, ...]
    aside_m: tuple[float, ...]
    mood: tuple[FishMood, ...]


@dataclass(frozen=True)
class Timeline:
    """The run every TRACK_S: lure depth [m] and speed [m/s up], what the tip showed and how far it bent; from when to
    when [s] the eyes were on the rod tip; and the fish."""

    time_s: tuple[float, ...]
    lure_m: tuple[float, ...]
    rising_m_s: tuple[float, ...]
    tip: tuple[TipSays, ...]
    bend: tuple[float, ...]
    eyes_on_rod: tuple[tuple[float, float], ...]
    tracks: tuple[FishTrack, ...]


def timeline(beats: Sequence[Beat]) -> Timeline:
    """The time line of a run's story."""
    every = round(TRACK_S / STEP_S)
    part = beats[::every]
    spans = [beats[k : k + every] for k in range(0, len(beats), every)]
    return Timeline(
        time_s=tuple(beat.time_s for beat in part),
        lure_m=tuple(round(beat.lure_m, 3) for beat in part),
        rising_m_s=tuple(round(float(np.mean([beat.rising_m_s for beat in span])), 4) for span in spans),
        tip=tuple(_sign(span) for span in spans),
        bend=tuple(round(max(beat.tip.bend for beat in span), 3) for span in spans),
        eyes_on_rod=_spans([beat.eyes == "rod" for beat in beats]),
        tracks=_tracks(part),
    )


def nearest_fish(beats: Sequence[Beat]) -> tuple[float | None, ...]:
    """Depth [m] of the fish nearest to the lure, every TRACK_S; None while none is near the axis."""
    found: list[float | None] = []
    for beat in beats[:: round(TRACK_S / STEP_S)]:
        close = [fish for fish in beat.fish if fish.aside_m < NEAR_M]
        nearest = min(close, key=lambda fish: abs(fish.z - beat.lure_m), default=None)
        found.append(None if nearest is None else round(nearest.z, 3))
    return tuple(found)


def _sign(beats: Sequence[Beat]) -> TipSays:
    """The most telling thing that the tip showed in a few beats."""
    said = [beat.tip.says for beat in beats]
    return next((one for one in TELLING if one in said), said[-1])


def _spans(on: Sequence[bool]) -> tuple[tuple[float, float], ...]:
    """From when to when [s] something held."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], on, [False]]).astype(int)))
    return tuple((round(float(a) * STEP_S, 3), round(float(b) * STEP_S, 3)) for a, b in edges.reshape(-1, 2))


def _tracks(beats: Sequence[Beat]) -> tuple[FishTrack, ...]:
    seen: dict[int, list[tuple[float, float, float, FishMood]]] = {}
    who = {}
    for beat in beats:
        for fish in beat.fish:
            who[fish.who] = fish
            seen.setdefault(fish.who, []).append((beat.time_s, round(fish.z, 3), round(fish.aside_m, 3), fish.mood))
    tracks = []
    for key, fish in who.items():
        time_s, depth_m, aside_m, mood = zip(*seen[key], strict=True)
        tracks.append(FishTrack(fish.species, fish.length_m, time_s, depth_m, aside_m, mood))
    return tuple(tracks)
