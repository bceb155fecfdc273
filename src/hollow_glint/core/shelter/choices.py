"""What one seat's unit could be set to, and what each way of setting it costs before anyone else is there.

What others hear of a unit is its beam and its power (a `Voice`); what it hears of them follows besides from its pulse,
its rejection and its gain, which are its own affair (a `Way`).
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product
from math import ceil

import numpy as np

from ..acoustics.sonar_equation import max_ping_rate
from ..card.knobs import settled
from ..card.known_hole import KnownHole
from ..gear.lures import Lure
from ..gear.settings import Settings, picture_rate
from ..gear.unit import UnitProfile
from ..hole.scene import Scene
from ..sonar import pulse, receiver
from ..sonar.transmission import transmit
from ..tuning.gain_window import LEAN_SHARE, GainWindow, gain_inside, step_inside
from ..tuning.situation import situation_at

LAG_STEP_S = 0.25  # about as long as a hand takes to answer the eye. Common practice, no source
LOUDEST_DB = 120.0  # no neighbour arrives by more than this above the first colour
TURNED = ("beam", "power", "pulse", "rejection", "gain")


@dataclass(frozen=True)
class Voice:
    """What others hear of a unit: positions in its lists."""

    beam: int
    power: int


@dataclass(frozen=True)
class Way:
    """All knobs of one unit: by how many dB its window is shut, its lag [steps of LAG_STEP_S], knobs turned."""

    settings: Settings
    short_db: int
    lag: int
    turned: int


@dataclass(frozen=True)
class Choices:
    """What a seat may be set to: every voice with the ways that are open to it, and how it is set now."""

    unit: UnitProfile
    lure: Lure
    lure_depth_m: float
    scene: Scene
    now: Settings
    voices: tuple[Voice, ...]
    ways: tuple[tuple[Way, ...], ...]


@lru_cache(maxsize=64)
def choices_of(water: KnownHole, unit: UnitProfile, lure: Lure, given: Settings | None) -> Choices:
    """All that `unit` may be set to over `water`, its lure at the water's `lure_at_m`, alone in the water.

    Only ways in which the lure's window is as open as it can be are kept: no lure below its window comes first.
    """
    alone = replace(water, neighbours=())
    scene, depth = alone.scene(), alone.lure_at_m
    now = given.checked(unit) if given is not None else _alone(alone, unit, lure)
    voices = tuple(Voice(*one) for one in product(range(len(unit.beams)), range(len(unit.powers_w))))
    ways = [_ways(scene, unit, lure, depth, now, voice) for voice in voices]
    least = min(way.short_db for some in ways for way in some)
    kept = [
        (voice, tuple(way for way in some if way.short_db == least)) for voice, some in zip(voices, ways, strict=True)
    ]
    kept = [one for one in kept if one[1]]
    return Choices(unit, lure, depth, scene, now, tuple(voice for voice, _ in kept), tuple(some for _, some in kept))


def _alone(alone: KnownHole, unit: UnitProfile, lure: Lure) -> Settings:
    """As the card would set it with nobody near."""
    settings = settled(alone.scene(), unit, lure, alone.lure_at_m, alone)
    limits = situation_at(alone.scene(), unit, settings, lure, alone.lure_at_m).limits
    inside = gain_inside(unit, limits, LEAN_SHARE)
    return replace(settings, gain=limits.advised if inside is None else inside)


def _ways(scene: Scene, unit: UnitProfile, lure: Lure, depth_m: float, now: Settings, voice: Voice) -> tuple[Way, ...]:
    """All ways of one voice, those with fewest knobs turned first."""
    found = []
    for at_pulse in range(len(unit.pulses)):
        pulsed = replace(now, beam=voice.beam, power=voice.power, pulse=at_pulse)
        for step in worth_trying(scene, unit, pulsed):
            settings = replace(pulsed, rejection=step)
            limits = situation_at(scene, unit, settings, lure, depth_m).limits
            rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, _speed(scene, unit, settings)))
            lag = ceil(receiver.lag(unit, settings, rate) / LAG_STEP_S - 1e-9)
            for gain in _gains(unit, limits, now.gain):
                way = replace(settings, gain=gain)
                turned = sum(getattr(way, name) != getattr(now, name) for name in TURNED)
                found.append(Way(way, _short_db(unit, limits), lag, turned))
    return tuple(sorted(found, key=lambda one: (one.turned, one.settings.rejection)))


def _speed(scene: Scene, unit: UnitProfile, settings: Settings) -> float:
    return transmit(scene, unit, settings).sound_speed_m_s


def _gains(unit: UnitProfile, limits: GainWindow, now: float) -> tuple[float, ...]:
    """Gains to try: as the card stands in the window, its lowest step, the gain as it is; or as advised."""
    lean = gain_inside(unit, limits, LEAN_SHARE)
    if lean is None or limits.buried:
        return (limits.advised,)
    lowest = step_inside(unit, limits.firm_floor, limits.firm_ceiling)
    if lowest is None:
        lowest = step_inside(unit, limits.floor, limits.ceiling)
    stays = now if limits.floor <= now <= limits.ceiling else lean
    return tuple(dict.fromkeys((lean, lowest if lowest is not None else lean, stays)))


def _short_db(unit: UnitProfile, limits: GainWindow) -> int:
    """By how many whole dB no step of the knob shows the lure in quiet water; 0 with the window open."""
    if not np.isfinite(limits.floor) or limits.buried:
        return 99
    if step_inside(unit, limits.floor, limits.ceiling) is not None:
        return 0
    scale = unit.gain
    low, high = max(limits.floor, scale.minimum), min(limits.ceiling, scale.maximum)
    return int(np.clip(ceil(scale.decibels(low) - scale.decibels(high)), 1, 98))


def worth_trying(scene: Scene, unit: UnitProfile, settings: Settings) -> tuple[int, ...]:
    """Steps of rejection that no other step is better than in everything, and the one that is set.

    Of steps that ask for a mark in equally many pings the one that looks at fewest lets least through, and the fastest
    lags least: while both move a neighbour's mark by more than its own length the other is left out.
    """
    t = transmit(scene, unit, settings)
    most = max_ping_rate(settings.range_m, t.sound_speed_m_s)
    longest_m = t.resolution_m * (0.9 + LOUDEST_DB / pulse.SKIRT_DB_PER_PULSE)

    def moves(step: int) -> bool:
        ours_s = 1.0 / picture_rate(unit, replace(settings, rejection=step), most)
        return unit.rejections[step].stagger * ours_s * 0.5 * t.sound_speed_m_s > longest_m

    def beaten(step: int, by: int) -> bool:
        one, other = unit.rejections[step], unit.rejections[by]
        no_worse = other.needed == one.needed and other.pings <= one.pings and other.rate >= one.rate
        better = (other.pings, -other.rate, by) < (one.pings, -one.rate, step)
        return no_worse and better and (moves(by) or one.pings == other.pings == 1)

    steps = range(len(unit.rejections))
    return tuple(
        step for step in steps
        if step == settings.rejection or not any(beaten(step, by) for by in steps)
    )  # fmt: skip
