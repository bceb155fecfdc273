"""The part of a ping that does not move: what the still water, the bottom, the ice and the unit itself send back.

Steady and diffuse echoes (open water, weeds, bottom, the hole's walls, ring-down, receiver noise) change only with the
scene and the settings, so `transmit` works their mean intensity out once; `ping` adds what moves.

Known limits: echoes add in intensity, not in phase; structure casts no shadow; sound goes straight, at the column's
mean speed.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from ..acoustics import beam, bottom, sonar_equation, water
from ..checks import Floats
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole import interference
from ..hole.scene import WEED_LOSS_DB_M, Scene
from .pulse import KERNEL_PULSES, LaidPulse, pulse_envelope
from .still_echoes import (
    ICE_REFLECTION,
    bottom_density,
    mirror_images,
    opening,
    scene_bottom,
    spread_back,
)

Levels = NDArray[np.float32]

MIN_BINS = 512
AT_FACE_M = 0.05  # a target nearer than this sends nothing back that matters
ICE_ROUGHNESS_M = 0.3e-3
DRY_FACE_DB = 4.0  # what the film of air on a dry, unrubbed face takes, each way. Common practice, no source
SLUSH_DB_M = 40.0  # what slush between face and water takes, each way [dB/m]. Common practice, no source


@dataclass(frozen=True, eq=False)
class Transmission:
    """Everything about a ping that does not move: shapes (bins,) where arrays, intensities re 1 uPa^2.

    bin_range_m        range of each bin from the face [m], increasing, bins `bin_m` apart
    source_level_db    less what a dry face or slush takes there and back
    steady             intensity that does not fluctuate (mirror images of the bottom)
    diffuse            mean intensity that fluctuates as a Rayleigh scatterer's (volume, rough bottom, walls, noise)
    open_water         the part of `diffuse` that is volume reverberation and noise
    weeds, clutter     the parts that are weeds, and ring-down with the hole's walls
    through            two-way share of intensity left after the weeds above each bin
    kernel             a pulse in bins, shape (bins of a pulse,), from its leading edge on
    two_way_pattern    intensity pattern there and back, shape (4096,), evenly over the sine of the angle off axis
    tilt_rad           the axis off plumb, towards +x
    hearing            what the transducer hears of others near by
    paths              how the neighbours' sound comes here
    """

    bin_range_m: Floats
    bin_m: float
    face_depth_m: float
    sound_speed_m_s: float
    absorption_db_m: float
    frequency_hz: float
    ka: float
    source_level_db: float
    resolution_m: float
    steady: Floats
    diffuse: Floats
    open_water: Floats
    weeds: Floats
    clutter: Floats
    through: Floats
    kernel: Levels
    two_way_pattern: Floats
    tilt_rad: float
    hearing: interference.Hearing
    paths: tuple[interference.NeighbourPath, ...]

    @property
    def separation_m(self) -> float:
        """How far apart two equal targets must be to show as two [m]."""
        return sonar_equation.SEPARATION_PULSES * self.resolution_m

    @property
    def listen_s(self) -> float:
        """How long the unit listens after each ping [s]."""
        return 2.0 * self.bin_m * self.bin_range_m.size / self.sound_speed_m_s

    @cached_property
    def arriving(self) -> interference.NeighbourArrivals:
        """What may arrive from the neighbours, if there are any."""
        return interference.NeighbourArrivals.of(self.paths, self.listen_s)

    @cached_property
    def echo_back(self) -> Floats:
        """Intensity from a 0 dB target on axis in each bin; nothing from at the face or past the last: (bins + 1,)."""
        back = spread_back(self.source_level_db, self.absorption_db_m, self.bin_range_m) * self.through
        return np.append(np.where(self.bin_range_m < AT_FACE_M, 0.0, back), 0.0)

    @cached_property
    def face_xyz(self) -> Levels:
        """Where the face is, as the places of targets are: (3, 1, 1) [m]."""
        return np.array([0.0, 0.0, self.face_depth_m], dtype=np.float32)[:, None, None]

    @cached_property
    def laid(self) -> LaidPulse:
        """The pulse as `ping` lays it."""
        return LaidPulse.of(self.kernel, self.bin_m, self.resolution_m)

    @cached_property
    def bins_per_m(self) -> float:
        """Bins in a metre of range."""
        return 1.0 / self.bin_m

    @cached_property
    def diffuse_single(self) -> Levels:
        """`diffuse` in single precision, as the pings are."""
        return self.diffuse.astype(np.float32)

    @cached_property
    def steady_single(self) -> Levels:
        """`steady` in single precision, as the pings are, and never below -20 dB, far under any receiver's noise."""
        return np.maximum(self.steady, 1e-2).astype(np.float32)


@lru_cache(maxsize=128)
def _transmit(
    scene: Scene, unit: UnitProfile, range_m: float, beam_at: int, power_at: int, pulse_at: int
) -> Transmission:
    used = unit.beams[beam_at]
    column = scene.temperature_at(np.linspace(scene.face_depth_m, scene.bottom_depth_m, 33))
    c = float(1.0 / np.mean(1.0 / water.sound_speed(column)))
    alpha = float(np.mean(water.absorption(used.frequency_hz, column)))
    ka = beam.ka_from_beam_width(used.width_deg, used.level_db)
    pulse_s = unit.pulses[pulse_at].duration_s
    face_loss_db = -(0.0 if scene.face_wet else DRY_FACE_DB) - SLUSH_DB_M * max(scene.slush_m - scene.face_depth_m, 0.0)
    source_db = sonar_equation.source_level(unit.powers_w[power_at], unit.efficiency, beam.directivity_index(ka))
    source_db += 2.0 * face_loss_db
    resolution = sonar_equation.range_resolution(pulse_s, c)
    bins = max(MIN_BINS, int(np.ceil(3.0 * range_m / resolution)))
    bin_m = range_m / bins
    r = (np.arange(bins) + 0.5) * bin_m
    # A finer grid for what is integrated over a pulse, so that short columns keep their closed forms.
    envelope = pulse_envelope((np.arange(int(KERNEL_PULSES * resolution / bin_m) + 2) + 0.5) * bin_m / resolution)
    envelope *= resolution / (envelope.sum() * bin_m)

    def smeared(per_metre: Floats) -> Floats:
        """Intensity in each bin from an intensity density per metre of range: the pulse covers many of them."""
        return np.convolve(per_metre, envelope)[:bins] * bin_m

    one_way_db, wall = opening(scene, ka)
    pattern = 10.0 ** (2.0 * one_way_db / 10.0)
    depth = scene.face_depth_m + r
    in_weed = np.clip(depth, scene.weed_top_m, scene.bottom_depth_m) - scene.weed_top_m
    through = 10.0 ** (-2.0 * WEED_LOSS_DB_M * scene.weed_density * in_weed / 10.0)
    filled = spread_back(source_db, alpha, r) * np.maximum(r, 0.05) ** 2 * beam.equivalent_beam_angle(ka)
    filled = filled * through * (r < scene.bottom_range_m)  # by a layer one metre thick, down to the bottom
    volume = smeared(filled * scene.volume_scattering(depth))
    weeds = smeared(filled * scene.weed_scattering(depth))
    # The profile's noise is that of its first pulse: a shorter one needs a wider receiver, which takes in more.
    wider = sonar_equation.noise_bandwidth(pulse_s) / sonar_equation.noise_bandwidth(unit.pulses[0].duration_s)
    noise = np.full(bins, wider * 10.0 ** (unit.noise_level_db / 10.0))
    # Its ringing is that of its greatest power: the crystal rings as hard as it was struck.
    struck = unit.powers_w[power_at] / max(unit.powers_w)
    ring_down = struck * 10.0 ** ((unit.ring_down_db - unit.ring_down_decay_db_m * r) / 10.0)
    clutter = ring_down + 10.0 ** (source_db / 10.0) * wall(r)
    kind = scene_bottom(scene)
    wave_number = 2.0 * np.pi * used.frequency_hz / c
    bed_through = float(
        10.0 ** (-2.0 * WEED_LOSS_DB_M * scene.weed_density * (scene.bottom_depth_m - scene.weed_top_m) / 10.0)
    )
    mirrored = bottom.reflection_coefficient(kind) ** 2 * bottom.coherent_share(kind.roughness_m, wave_number)
    ice = ICE_REFLECTION**2 * bottom.coherent_share(ICE_ROUGHNESS_M, wave_number)
    bed = smeared(bottom_density(scene, kind, source_db, alpha, pattern, wave_number, r)) * bed_through
    steady = mirror_images(scene, source_db, alpha, mirrored, ice, pattern, resolution, r, bed_through)
    heard = interference.hearing(
        scene, unit, one_way_db, used.frequency_hz, pulse_s, mirrored, ice, c, alpha, face_loss_db
    )
    # Bin k behind the one whose lower edge is the echo's leading edge: its middle lies k + 0.5 bins behind.
    lengths = (np.arange(int(KERNEL_PULSES * resolution / bin_m) + 1) + 0.5) * bin_m / resolution
    return Transmission(
        bin_range_m=r,
        bin_m=bin_m,
        face_depth_m=scene.face_depth_m,
        sound_speed_m_s=c,
        absorption_db_m=alpha,
        frequency_hz=used.frequency_hz,
        ka=ka,
        source_level_db=source_db,
        resolution_m=resolution,
        steady=steady,
        diffuse=volume + weeds + noise + clutter + bed,
        open_water=volume + noise,
        weeds=weeds,
        clutter=clutter,
        through=through,
        kernel=pulse_envelope(lengths).astype(np.float32),
        two_way_pattern=pattern,
        tilt_rad=float(np.radians(scene.tilt_deg)),
        hearing=heard,
        paths=interference.paths(scene.neighbours, heard),
    )


def transmit(scene: Scene, unit: UnitProfile, settings: Settings) -> Transmission:
    """The part of every ping that does not move, for `unit` set to `settings` over `scene`.

    Cached: the same inputs give the same object back. Sources: the sonar equation (Urick 1983), volume reverberation
    with the equivalent beam angle (Simmonds and MacLennan 2005), bottom as in `bottom`.
    """
    return _transmit(scene, unit, settings.range_m, settings.beam, settings.power, settings.pulse)
