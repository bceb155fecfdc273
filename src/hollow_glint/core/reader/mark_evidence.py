"""What the colours of one mark say of what it is: how steadily it shines, how loud it is, where it goes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import takewhile

import numpy as np

from ..acoustics.targets import fish_target_strength
from ..checks import Floats
from ..sonar.pulse import begins_behind
from . import sizing
from .evidence import ReaderSetup
from .report import FishReading, Going, Interest
from .track import Track
from .tracks import ABOVE_CHANCE

LEAST_HITS = 0.25  # share of pings in which a mark that is named is lit
TREND_S = 1.5
ONE_COLOUR_DB = 6.0  # a ladder of one colour says nothing of what a colour is worth
FADE_DB_S = 3.0  # a fish whose mark fades this fast while it seems to sink is leaving


@dataclass(frozen=True)
class MarkEvidence:
    """What marks look like through a unit at its settings, in rows of `row_m` [m]."""

    view: ReaderSetup
    row_m: float

    def wander_db(self, one: Track) -> float:
        """How far its level wanders [dB, 1 sd], by its colours."""
        return float(one.story.wander2**0.5 * self.step_db)

    @cached_property
    def step_db(self) -> float:
        """What a colour is worth [dB]."""
        steps = self.view.thresholds_db
        return float(np.diff(steps).mean()) if steps.size > 1 else ONE_COLOUR_DB

    def heard_db(self, one: Track) -> float:
        """How loud its echo is [dB re 1 uPa], by its mean colour."""
        level = float(self.view.thresholds_db[0]) + (one.story.level - 0.5) * self.step_db
        return sizing.echo_level(level, one.range_m, self.view.unit, self.view.settings)

    @cached_property
    def lure_db(self) -> float | None:
        """Target strength of what is tied on [dB re 1 m^2], None when that is not known."""
        t, lure = self.view.transmission, self.view.lure
        return None if lure is None else lure.target_strength(t.frequency_hz, t.sound_speed_m_s)

    @cached_property
    def a_fish_db(self) -> float:
        """Target strength of a fish of 10 cm [dB re 1 m^2]. Love 1971."""
        return float(fish_target_strength(0.1, self.view.transmission.frequency_hz))

    def strength_db(self, one: Track) -> float:
        """Its target strength, were it under the face [dB re 1 m^2]."""
        return self.heard_db(one) - sizing.level_under_face(self.view.transmission, max(one.range_m, 0.1))

    def over(self, one: Track) -> tuple[float, float]:
        """How much louder it is than what is tied on would be there, and than a fish of 10 cm would be [dB].

        The sonar equation (Urick 1983). Not a number where what is tied on is not known.
        """
        strength = self.strength_db(one)
        lure = float("nan") if self.lure_db is None else strength - self.lure_db
        if one.story.level > self.view.thresholds_db.size - 0.4:
            lure = max(lure, 0.0)  # as loud as the picture goes is as loud as that or louder
        return lure, strength - self.a_fish_db

    def fish(self, one: Track, lure: Track | None, time_s: float) -> FishReading:
        view, t = self.view, self.view.transmission
        exceed = one.exceed if one.exceed.size else np.zeros(view.thresholds_db.size)
        level, saturated = sizing.mean_level(exceed, view.thresholds_db)
        echo = sizing.echo_level(level, one.range_m, view.unit, view.settings)
        sd = sizing.level_sd(len(one.seen), view.unit, view.settings) + (2.0 if saturated else 0.0)
        span = sizing.fish_span(t, one.range_m, echo, sd, self.row_m)
        seems, trend = self._trend(one, time_s)
        leaving = seems > 0.01 and trend < -FADE_DB_S
        closing = seems < -0.005 and trend > FADE_DB_S
        speed = 0.0 if leaving or closing else seems
        going: Going = "leaving" if leaving else "closing" if closing else "here"
        if going == "here" and abs(speed) > 0.025:
            going = "sinking" if speed > 0.0 else "rising"
        gap = None if lure is None else self.gap_m(one, lure)
        return FishReading(span, speed, seems, trend, going, _interest(gap, seems, going), gap)

    def gap_m(self, one: Track, lure: Track) -> float:
        """From the lure's echo down to another's as they are now [m]: their fronts, less what the louder begins early,
        and less what both have gone on since the pings that rejection shows."""
        resolution_m = self.view.transmission.resolution_m
        kept = min(int(self.view.unit.rejections[self.view.settings.rejection].pings), len(one.seen))
        lag_s = 0.5 * (one.seen[-1][0] - one.seen[-kept][0])
        gone_on = (one.speed_m_s - lure.speed_m_s) * lag_s
        gone_on = min(max(gone_on, -resolution_m), resolution_m)
        return one.range_m - lure.range_m - self._front_m(one) + self._front_m(lure) + gone_on

    def _front_m(self, one: Track) -> float:
        """How far behind its echo's leading edge a mark begins [m]."""
        return begins_behind((one.level_mean - 0.5) * self.step_db) * self.view.transmission.resolution_m

    def _trend(self, one: Track, time_s: float) -> tuple[float, float]:
        """How fast the mark moves [m/s, down positive] and its level changes [dB/s], over the last TREND_S."""
        recent = list(takewhile(lambda entry: entry[0] > time_s - 2.0 * TREND_S, reversed(one.seen)))[::-1]
        if len(recent) < 12:
            return one.speed_m_s, 0.0
        when, at, level = np.array([entry[:3] for entry in recent]).T
        late = when > time_s - TREND_S
        if late.sum() < 6 or (~late).sum() < 6:
            return _slope(when, at), 0.0
        steps = np.arange(self.view.thresholds_db.size)
        halves = [
            sizing.mean_level((level[part][:, None] > steps).mean(axis=0), self.view.thresholds_db)[0]
            for part in (~late, late)
        ]
        between = float(when[late].mean() - when[~late].mean())
        lit = late & (level > 0)
        speed = _slope(when[lit], at[lit]) if lit.sum() > 5 else one.speed_m_s
        return speed, (halves[1] - halves[0]) / max(between, 0.3)


def _slope(x: Floats, y: Floats) -> float:
    """Of the line of least squares through the points."""
    off = x - x.mean()
    return float(off @ y / (off @ off))


def stands_out(one: Track) -> bool:
    """Whether a mark is there clearly more often than the water about it lights by itself."""
    return one.above_chance > 0.6 * ABOVE_CHANCE and one.hit_share > LEAST_HITS


def _interest(gap_m: float | None, seems_m_s: float, going: Going) -> Interest:
    """What a fish seems to want of the lure, from how the gap between the marks changes."""
    if gap_m is None or going == "leaving":
        return "put off" if going == "leaving" and gap_m is not None and abs(gap_m) < 1.2 else "steady"
    towards = -seems_m_s if gap_m > 0.0 else seems_m_s
    if towards > 0.25:
        return "charging"
    if towards > 0.02:
        return "curious"
    if towards < -0.08 and abs(gap_m) < 1.2:
        return "put off"
    return "steady"
