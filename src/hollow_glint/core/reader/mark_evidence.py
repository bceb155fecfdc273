"""What the colours of one mark say of what it is: how steadily it shines, how loud it is, where it goes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..acoustics.targets import fish_target_strength
from ..sonar import ping
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

    def over_the_lure(self, one: Track) -> float:
        """How much louder it is than what is tied on would be there [dB], by the sonar equation (Urick 1983)."""
        view, t = self.view, self.view.transmission
        if view.lure is None:
            return float("nan")
        strength = view.lure.target_strength(t.frequency_hz, t.sound_speed_m_s)
        expected = ping.target_echo_level(t, strength, view.face_depth_m + max(one.range_m, 0.1))
        over = self.heard_db(one) - expected
        # As loud as the picture goes is as loud as that or louder.
        return max(over, 0.0) if one.story.level > view.thresholds_db.size - 0.4 else over

    def over_a_fish(self, one: Track) -> float:
        """How much louder it is than a fish of 10 cm would be under the face [dB]. Love 1971; Urick 1983."""
        t = self.view.transmission
        a_fish = float(fish_target_strength(0.1, t.frequency_hz))
        depth = self.view.face_depth_m + max(one.range_m, 0.1)
        return self.heard_db(one) - ping.target_echo_level(t, a_fish, depth)

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
        gap = None if lure is None else one.range_m - lure.range_m
        return FishReading(span, speed, seems, trend, going, _interest(gap, seems, going), gap)

    def _trend(self, one: Track, time_s: float) -> tuple[float, float]:
        """How fast the mark moves [m/s, down positive] and its level changes [dB/s], over the last TREND_S."""
        recent = [entry for entry in one.seen if entry[0] > time_s - 2.0 * TREND_S]
        if len(recent) < 12:
            return one.speed_m_s, 0.0
        when = np.array([entry[0] for entry in recent])
        at = np.array([entry[1] for entry in recent])
        late = when > time_s - TREND_S
        if late.sum() < 6 or (~late).sum() < 6:
            return float(np.polyfit(when - time_s, at, 1)[0]), 0.0
        level = np.array([entry[2] for entry in recent])
        steps = np.arange(self.view.thresholds_db.size)
        halves = [
            sizing.mean_level((level[part][:, None] > steps).mean(axis=0), self.view.thresholds_db)[0]
            for part in (~late, late)
        ]
        between = float(when[late].mean() - when[~late].mean())
        lit = late & (level > 0)
        speed = float(np.polyfit(when[lit] - time_s, at[lit], 1)[0]) if lit.sum() > 5 else one.speed_m_s
        return speed, (halves[1] - halves[0]) / max(between, 0.3)


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
