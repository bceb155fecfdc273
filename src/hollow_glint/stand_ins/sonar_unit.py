"""A sonar unit whose system constant and gain step nobody knows: stands in for the one in your sled.

It is a profile with hidden numbers, run through the same chain as every picture. Whoever calibrates it turns the gain
and watches the lure's mark; only afterwards it says what it was.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from ..core.gear.lures import FLUCTUATION_DB
from ..core.gear.settings import Settings, smallest_range
from ..core.gear.unit import GainScale, UnitProfile
from ..core.hole.scatterers import Scatterers, Strengths
from ..core.hole.scene import Scene
from ..core.sonar import picture, ping, receiver, transmission
from ..core.tuning.calibration import GainReading

CONSTANT_DB = 5.0  # how far the hidden constant may lie from the profile's, either way
SLOPE_SPAN = (0.85, 1.2)  # and the share of the profile's dB per step
PINGS = 40  # what an eye takes in before it says whether a mark is there


class StandInUnit:
    """A unit like `nominal`, with hidden numbers drawn from `seed`."""

    def __init__(self, nominal: UnitProfile, seed: int) -> None:
        luck = np.random.default_rng([seed, 0x51])
        scale = nominal.gain
        self._profile = replace(
            nominal,
            gain=replace(
                scale,
                first_colour_db=scale.first_colour_db + float(luck.uniform(-CONSTANT_DB, CONSTANT_DB)),
                db_per_step=scale.db_per_step * float(luck.uniform(*SLOPE_SPAN)),
            ),
            calibrated=None,
        )
        self._seed = seed

    def reveal(self) -> GainScale:
        """What it was."""
        return self._profile.gain

    def look(self, scene: Scene, at: GainReading, pings: int = PINGS) -> tuple[NDArray[np.uint8], picture.Window]:
        """The picture round the lure at the reading's depth and gain: levels (pings, rows) and its window [m]."""
        unit = self._profile
        settings = self._settings(scene, at)
        t = transmission.transmit(scene, unit, settings)
        echoes = self._echoes(scene, at, t, pings)
        signal, _ = receiver.receive(echoes, unit, settings, t)
        range_m = at.depth_m - scene.face_depth_m
        shown = picture.Window(max(range_m - 1.0, 0.0), min(range_m + 1.0, settings.range_m))
        return picture.paint_levels(signal, unit, settings, t, shown), shown

    def disappears_at(self, scene: Scene, at: GainReading) -> GainReading:
        """`at` with the gain, to half a step, at which a patient eye finds its colour there in half of the pings."""
        unit, scale = self._profile, self._profile.gain
        t = transmission.transmit(scene, unit, self._settings(scene, at))
        echoes = self._echoes(scene, at, t, 3 * PINGS)
        bin_at = (at.depth_m - scene.face_depth_m) / t.bin_m
        mark = echoes[:, int(bin_at) : int(bin_at + t.kernel.size / 3.0) + 1].max(axis=1)
        steps = unit.ladders[0].steps
        lights = scale.first_colour_db + steps[at.colour].begins * unit.colour_step_db
        half = scale.step / 2.0
        gain = scale.position(lights - float(np.median(mark)))
        gain = scale.minimum + round((gain - scale.minimum) / half) * half
        return replace(at, gain=float(np.clip(gain, scale.minimum, scale.maximum)))

    def _settings(self, scene: Scene, at: GainReading) -> Settings:
        span = smallest_range(self._profile, scene.bottom_range_m)
        return Settings(at.gain, span, beam=at.beam, power=at.power, pulse=at.pulse)

    def _echoes(self, scene: Scene, at: GainReading, t: transmission.Transmission, pings: int) -> transmission.Levels:
        points = at.lure.highlights(t.frequency_hz, t.sound_speed_m_s)
        n = points.below_m.size
        zero = np.zeros((pings, n))
        lure = Scatterers(
            np.stack([zero, zero, zero + at.depth_m + points.below_m]),
            Strengths(points.strength_db, np.full(n, FLUCTUATION_DB), np.zeros(n, dtype=np.bool_)),
        )  # fmt: skip
        luck = np.random.default_rng([self._seed, round(1000 * at.depth_m), at.colour, at.beam])
        return ping.echo_levels(t, lure, pings, luck)
