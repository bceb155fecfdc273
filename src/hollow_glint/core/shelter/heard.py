"""What one unit's pings do at another's screen, by the model of the Bench.

`paired` makes the tables that the search reads: what each voice of one seat lights of another's screen, for each of its
ways and each distance there is between two holes. `Heard` is one pair as it stands, in words people use.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from ..acoustics import beam
from ..acoustics.sonar_equation import max_ping_rate
from ..checks import Floats
from ..gear.settings import Settings, picture_rate
from ..gear.unit import UnitProfile
from ..hole import interference
from ..hole.contents import Neighbour
from ..hole.scene import Scene
from ..sonar import receiver
from ..sonar.transmission import transmit
from ..tuning.company import hits, share_by
from ..tuning.gain_window import lure_level
from .choices import Choices, Voice

NARROWEST_DEG, WIDEST_DEG = 3.0, 60.0  # what a scene takes a neighbour's beam to be
LEVELS_DB = np.arange(0.0, 160.0, 0.1)  # above the first colour, for a table of what they light
SLICES = 64  # of the range, for what differs along it


@dataclass(frozen=True)
class Heard:
    """What seat `by` hears of seat `of`: how far [dB] its loudest path stands above the lure of `by` on the screen, and
    the share of the picture that it lights past the rejection; None of a lure that lies out of the beam."""

    by: int
    of: int
    over_lure_db: float | None
    share: float


def as_neighbour(unit: UnitProfile, settings: Settings, distance_m: float, sound_speed_m_s: float) -> Neighbour:
    """A unit so set as others see it, `distance_m` [m] away."""
    used = unit.beams[settings.beam]
    rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, sound_speed_m_s))
    return Neighbour(
        distance_m,
        used.frequency_hz,
        _width(used.width_deg, used.level_db),
        unit.powers_w[settings.power],
        float(np.clip(1.0 / rate, 0.01, 1.0)),
    )


@lru_cache(maxsize=64)
def _width(width_deg: float, level_db: float) -> float:
    """The full width at -3 dB [degrees] of a beam that is quoted at another level."""
    half = np.arcsin(
        beam.ka_from_beam_width(width_deg, level_db) ** -1 * beam.ka_from_beam_width(90.0) * np.sin(np.pi / 4)
    )
    return float(np.clip(np.degrees(2.0 * half), NARROWEST_DEG, WIDEST_DEG))


def fastest_interval(choices: Choices) -> float:
    """Between two pings [s] of a unit that has turned its rejection off: the most that others may hear of it.

    The search takes everyone to ping so, so that a plan holds when someone turns the rejection down.
    """
    off = replace(choices.now, rejection=0)
    c = transmit(choices.scene, choices.unit, off).sound_speed_m_s
    return as_neighbour(choices.unit, off, 1.0, c).ping_interval_s


def paired(ours: Choices, theirs: Choices, apart_m: Floats) -> Floats:
    """What one seat sees of another in each ping: minus the log of the share of picture cells that stay dark.

    Shape (our voices, our ways, their voices, distances) for `apart_m` (distances,) [m]; 0 past a voice's last way.
    Logs of dark shares add up over neighbours; what rejection then drops of all of them together, `most_lit` tells.
    """
    unit = ours.unit
    interval = fastest_interval(theirs)
    most = max(len(ways) for ways in ours.ways)
    found = np.zeros((len(ours.voices), most, len(theirs.voices), apart_m.size))
    levels: dict[tuple[int, int], Floats] = {}
    for v, ways in enumerate(ours.ways):
        for w, way in enumerate(ways):
            key = way.settings.beam, way.settings.pulse
            if key not in levels:
                levels[key] = _arriving(ours, way.settings, theirs, apart_m)
            over = levels[key] - receiver.first_colour_level(unit, way.settings)
            table = _lit_table(
                ours.scene, unit, replace(way.settings, gain=unit.gain.minimum, beam=0, power=0), interval
            )
            found[v, w] = np.interp(over, LEVELS_DB, table, left=0.0).sum(axis=1)
    return found


def _arriving(ours: Choices, settings: Settings, theirs: Choices, apart_m: Floats) -> Floats:
    """Level [dB] by each path of each of their voices at each distance, shape (their voices, paths, distances)."""
    hearing = transmit(ours.scene, ours.unit, settings).hearing
    return np.stack([_heard_of(hearing, theirs.unit, voice, apart_m) for voice in theirs.voices])


def _heard_of(hearing: interference.Hearing, unit: UnitProfile, voice: Voice, apart_m: Floats) -> Floats:
    used = unit.beams[voice.beam]
    width = _width(used.width_deg, used.level_db)
    return hearing.of(used.frequency_hz, width, unit.powers_w[voice.power], apart_m)[1]


@lru_cache(maxsize=512)
def _lit_table(scene: Scene, unit: UnitProfile, settings: Settings, interval_s: float) -> Floats:
    """Minus the log of the dark share of a ping for each of LEVELS_DB above the first colour, nothing taken off;
    neither gain nor beam nor power matters."""
    t = transmit(scene, unit, settings)
    off = receiver.taken_off(unit, settings, t.bin_range_m)
    slices = np.linspace(0, off.size - 1, SLICES if np.ptp(off) > 0.0 else 1).round().astype(np.intp)
    off = off[slices]
    hit, moves = hits(LEVELS_DB[:, None] - off, interval_s, unit, settings, t.resolution_m, t.sound_speed_m_s)
    # Places are not lit alike where time-varied gain is on. Rejection lets about the `needed`-th power of a chance
    # through, so that is the mean which makes one number of them.
    needed = unit.rejections[settings.rejection].needed
    as_if = np.where(moves, hit, chance_kept_as(hit, unit, settings))
    mean = np.mean(as_if**needed, axis=1) ** (1.0 / needed)
    table: Floats = -np.log1p(-np.minimum(mean, 1.0 - 1e-12))
    return table


def chance_kept_as(kept: Floats, unit: UnitProfile, settings: Settings) -> Floats:
    """The chance in a ping of which rejection keeps `kept`, same shape: what stays where it is, it cannot drop."""
    chances = np.linspace(0.0, 1.0, 2001) ** 2
    found: Floats = np.interp(kept, receiver.kept_chance(chances, unit, settings), chances)
    return found


def most_lit(unit: UnitProfile, settings: Settings, shares: Floats) -> Floats:
    """How much may be lit in each ping for at most `shares` to get past rejection: minus the log of what stays dark."""
    return -np.log1p(-np.minimum(chance_kept_as(shares, unit, settings), 1.0 - 1e-12))


def heard_pair(by: int, of: int, ours: Choices, settings: Settings, neighbour: Neighbour) -> Heard:
    """One pair as it stands."""
    t = transmit(ours.scene, ours.unit, settings)
    paths = interference.paths((neighbour,), t.hearing)
    lure = lure_level(t, ours.unit, settings, ours.lure, ours.lure_depth_m)
    loudest = 10.0 * np.log10(max(path.intensity for path in paths))
    over = float(loudest - lure) if np.isfinite(lure) else None
    return Heard(by, of, over, share_by(paths, t, ours.unit, settings))


def share_seen(ours: Choices, settings: Settings, neighbours: tuple[Neighbour, ...]) -> float:
    """The share of its picture that all of them light together."""
    t = transmit(ours.scene, ours.unit, settings)
    return share_by(interference.paths(neighbours, t.hearing), t, ours.unit, settings)
