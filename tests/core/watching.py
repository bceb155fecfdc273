"""Building a scene, running the chain and measuring the picture: what the trade-fact tests have in common."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from hollow_glint.core.acoustics.sonar_equation import max_ping_rate
from hollow_glint.core.acoustics.targets import fish_target_strength
from hollow_glint.core.gear.lures import FLUCTUATION_DB, Highlights, Lure
from hollow_glint.core.gear.profiles import TRAIL_UNIT
from hollow_glint.core.gear.settings import Settings, picture_rate
from hollow_glint.core.gear.unit import UnitProfile
from hollow_glint.core.hole.scatterers import Scatterers, Strengths
from hollow_glint.core.hole.scene import Scene
from hollow_glint.core.sonar import picture, ping, receiver, transmission
from hollow_glint.core.tuning import coach, situation, verdict


@dataclass(frozen=True)
class Seen:
    """A picture: `levels` (pings, rows) and the range [m] at the middle of each row."""

    levels: np.ndarray
    range_m: np.ndarray
    row_m: float

    def between(self, top_m: float, bottom_m: float) -> np.ndarray:
        """Levels of the rows whose middle lies between two ranges [m]."""
        return self.levels[:, (self.range_m >= top_m) & (self.range_m <= bottom_m)]

    def share_lit(self, top_m: float, bottom_m: float) -> float:
        """Share of pings in which any row between two ranges is lit."""
        return float((self.between(top_m, bottom_m) > 0).any(axis=1).mean())

    def brightest(self, top_m: float, bottom_m: float) -> float:
        """Mean over pings of the strongest level between two ranges."""
        return float(self.between(top_m, bottom_m).max(axis=1).mean())

    def thickness(self, top_m: float, bottom_m: float) -> float:
        """Mean number of lit rows between two ranges."""
        return float((self.between(top_m, bottom_m) > 0).sum(axis=1).mean())

    def top_of_mark(self, top_m: float, bottom_m: float) -> float:
        """Range of the first row between two ranges that is lit in at least a third of the pings."""
        inside = (self.range_m >= top_m) & (self.range_m <= bottom_m)
        often = (self.levels > 0).mean(axis=0) > 1.0 / 3.0
        rows = np.flatnonzero(inside & often)
        return float(self.range_m[rows[0]]) if rows.size else np.nan

    def runs(self, top_m: float, bottom_m: float) -> int:
        """Separate marks between two ranges, in the median ping."""
        lit = (np.median(self.between(top_m, bottom_m), axis=0) > 0).astype(int)
        return int(np.sum(np.diff(np.concatenate([[0], lit])) == 1))


def steady(*places: tuple[float, float, float], pings: int = 200) -> Scatterers:
    """Steady targets, each (depth m, metres aside, target strength dB), the same in every ping."""
    z, x, strength = (np.array(values) for values in zip(*places, strict=True))
    count = len(places)
    return Scatterers(
        np.tile(np.stack([x, np.zeros(count), z])[:, None, :], (1, pings, 1)),
        Strengths(strength, np.zeros(count), np.zeros(count, dtype=bool)),
    )


def fish(*places: tuple[float, float, float], pings: int = 400, frequency_hz: float = 200e3) -> Scatterers:
    """Fish, each (depth m, metres aside, length m), fluctuating from ping to ping as fish do."""
    strength = [float(fish_target_strength(length, frequency_hz)) for _, _, length in places]
    still = steady(*((z, x, db) for (z, x, _), db in zip(places, strength, strict=True)), pings=pings)
    return still._replace(strengths=replace(still.strengths, rayleigh=~still.strengths.rayleigh))


def painted(
    echoes: np.ndarray, unit: UnitProfile, settings: Settings, t: transmission.Transmission, shown: picture.Window
):
    """Echo levels through receiver and picture: (pings, rows)."""
    signal, _ = receiver.receive(echoes, unit, settings, t)
    return picture.paint_levels(signal, unit, settings, t, shown)


def lure_alone(lure: Lure, depth_m: float, pings: int, t: transmission.Transmission) -> Scatterers:
    """A lure hanging still in empty water, its line left out."""
    return steady_points(lure.highlights(t.frequency_hz, t.sound_speed_m_s), depth_m, pings)


def steady_points(points: Highlights, depth_m: float, pings: int) -> Scatterers:
    n = points.below_m.size
    zero = np.zeros((pings, n))
    strengths = Strengths(points.strength_db, np.full(n, FLUCTUATION_DB), np.zeros(n, bool))
    return Scatterers(np.stack([zero, zero, zero + depth_m + points.below_m]), strengths)


def judged(
    scene: Scene, unit: UnitProfile, settings: Settings, lure: Lure, depth_m: float, lock_m: float | None = None
) -> tuple[verdict.Verdict, ...]:
    """What the coach says, worst first."""
    zoom = picture.window(settings, scene.bottom_range_m)
    shown = picture.full_column(settings) if settings.beside else zoom
    return coach.verdicts(situation.Situation(scene, unit, settings, lure, depth_m, shown, zoom, lock_m))


def watch(
    scene: Scene,
    settings: Settings,
    targets: Scatterers | None,
    unit: UnitProfile = TRAIL_UNIT,
    seed: int = 0,
    pings: int = 200,
) -> Seen:
    """The picture of `scene` with `targets` in it, pinged at the unit's own rate and stagger."""
    t = transmission.transmit(scene, unit, settings)
    count = pings if targets is None else targets.x.shape[0]
    rng = np.random.default_rng(seed)
    step = unit.rejections[settings.rejection]
    rate = picture_rate(unit, settings, max_ping_rate(settings.range_m, t.sound_speed_m_s))
    times = np.cumsum((1.0 + step.stagger * rng.uniform(-1.0, 1.0, count)) / rate)
    echoes = ping.echo_levels(t, targets, count, rng, times)
    shown = picture.window(settings, picture.find_bottom(echoes, t))
    levels = painted(echoes, unit, settings, t, shown)
    return Seen(levels, picture.row_range(unit, shown), picture.row_height(unit, shown))
