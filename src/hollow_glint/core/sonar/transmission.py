"""The part of a ping that does not move: what the still water, the bottom, the ice and the unit itself send back.

Steady and diffuse echoes (open water, weeds, bottom, the hole's walls, ring-down, receiver noise) change only with the
scene and the settings, so `transmit` works their mean intensity out once; `ping` adds what moves.

Known limits: echoes add in intensity, not in phase; structure casts no shadow; sound goes straight, at the column's
mean speed.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from ..acoustics import beam, bottom, sonar_equation, water
from ..checks import Floats
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from ..hole import interference
from ..hole.scene import WEED_LOSS_DB_M, Scene

Levels = NDArray[np.float32]

MIN_BINS = 512
SKIRT_DB_PER_PULSE = 24.0  # how fast the trailing skirt falls, in pulse lengths. Common practice, no source.
KERNEL_PULSES = 4.0  # a kernel ends where its skirt is 73 dB down
AT_FACE_M = 0.05  # a target nearer than this sends nothing back that matters
LAID_WITH_FRONT = 2  # bins of the skirt
ICE_REFLECTION = 0.42  # water to ice at normal incidence, from handbook impedances; value from memory
ICE_ROUGHNESS_M = 0.3e-3
DRY_FACE_DB = 4.0  # what the film of air on a dry, unrubbed face takes, each way. Common practice, no source
SLUSH_DB_M = 40.0  # what slush between face and water takes, each way [dB/m]. Common practice, no source
WALL_SCATTERING = 0.03  # share of sound on a rough ice wall that comes straight back. Common practice, no source


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
    paths: tuple[interference.NeighbourPath, ...]

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

    @property
    def skirt(self) -> np.float32:
        """What is left of a pulse's skirt one bin on, share of intensity."""
        return np.float32(10.0 ** (-SKIRT_DB_PER_PULSE / 10.0 * self.bin_m / self.resolution_m))

    @cached_property
    def _front_and_passes(self) -> tuple[Floats, tuple[tuple[int, np.float32], ...]]:
        """A skirt is a geometric series, and 1 + q + q^2 + ... is (1 + q)(1 + q^2)(1 + q^4)...: few passes draw it out.

        The first of them are laid with the front of each echo, where they cost less than a pass over all bins.
        """
        kernel = self.kernel.astype(np.float64)
        front = kernel - float(self.skirt) * np.concatenate([[0.0], kernel[:-1]])
        front = front[: int(np.flatnonzero(np.abs(front) > 1e-6)[-1]) + 1]
        passes, reach, decay = [], 1, float(self.skirt)
        while reach < kernel.size:
            if reach < LAID_WITH_FRONT:
                front = np.append(front, np.zeros(reach)) + decay * np.append(np.zeros(reach), front)
            else:
                passes.append((reach, np.float32(decay)))
            reach, decay = 2 * reach, decay * decay
        return np.append(front, 0.0)[:, None, None], tuple(passes)

    @property
    def front_early(self) -> Floats:
        """The front of a pulse that begins with a bin, and an empty bin more, shape (front, 1, 1)."""
        return self._front_and_passes[0]

    @property
    def skirt_passes(self) -> tuple[tuple[int, np.float32], ...]:
        """What draws fronts out to pulses: to each bin add, so many bins on, what stands in it, weakened so."""
        return self._front_and_passes[1]

    @cached_property
    def front_later(self) -> Floats:
        """What changes in `front_early` for an echo that begins one bin later."""
        return np.roll(self.front_early, 1) - self.front_early

    @cached_property
    def front_bins(self) -> NDArray[np.intp]:
        """Bins of `front_early`, counted from its first."""
        return np.arange(self.front_early.size)[:, None, None]

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


def pulse_envelope(lengths: Floats) -> Floats:
    """Intensity of an echo `lengths` pulse lengths (c tau / 2) behind its leading edge; 1 on the plateau.

    A short rise, a plateau, and an exponential skirt; its integral is exactly one pulse length, so that volume
    reverberation keeps the closed form with c tau / 2 (Simmonds and MacLennan 2005). The skirt is why a stronger echo
    is also a thicker one.
    """
    rise = 0.25
    skirt_area = 10.0 / (SKIRT_DB_PER_PULSE * np.log(10.0))
    plateau_end = 1.0 + rise / 2.0 - skirt_area
    rising: Floats = np.sin(np.pi / 2.0 * np.clip(lengths / rise, 0.0, 1.0)) ** 2
    falling: Floats = 10.0 ** (-SKIRT_DB_PER_PULSE / 10.0 * np.maximum(lengths - plateau_end, 0.0))
    return rising * falling


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

    one_way_db, wall = _opening(scene, ka)
    pattern = 10.0 ** (2.0 * one_way_db / 10.0)
    depth = scene.face_depth_m + r
    in_weed = np.clip(depth, scene.weed_top_m, scene.bottom_depth_m) - scene.weed_top_m
    through = 10.0 ** (-2.0 * WEED_LOSS_DB_M * scene.weed_density * in_weed / 10.0)
    filled = spread_back(source_db, alpha, r) * np.maximum(r, 0.05) ** 2 * beam.equivalent_beam_angle(ka)
    filled = filled * through * (r < scene.bottom_range_m)  # by a layer one metre thick, down to the bottom
    volume = smeared(filled * scene.volume_scattering(depth))
    weeds = smeared(filled * scene.weed_scattering(depth))
    noise = np.full(bins, 10.0 ** (unit.noise_level_db / 10.0))
    ring_down = 10.0 ** ((unit.ring_down_db - unit.ring_down_decay_db_m * r) / 10.0)
    clutter = ring_down + 10.0 ** (source_db / 10.0) * wall(r)
    kind = scene_bottom(scene)
    wave_number = 2.0 * np.pi * used.frequency_hz / c
    bed_through = float(
        10.0 ** (-2.0 * WEED_LOSS_DB_M * scene.weed_density * (scene.bottom_depth_m - scene.weed_top_m) / 10.0)
    )
    mirrored = bottom.reflection_coefficient(kind) ** 2 * bottom.coherent_share(kind.roughness_m, wave_number)
    ice = ICE_REFLECTION**2 * bottom.coherent_share(ICE_ROUGHNESS_M, wave_number)
    bed = smeared(_bottom_density(scene, kind, source_db, alpha, pattern, wave_number, r)) * bed_through
    steady = _mirror_images(scene, source_db, alpha, mirrored, ice, pattern, resolution, r, bed_through)
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
        paths=interference.paths(
            scene, unit, one_way_db, used.frequency_hz, pulse_s, mirrored, ice, c, alpha, face_loss_db
        ),
    )


def transmit(scene: Scene, unit: UnitProfile, settings: Settings) -> Transmission:
    """The part of every ping that does not move, for `unit` set to `settings` over `scene`.

    Cached: the same inputs give the same object back. Sources: the sonar equation (Urick 1983), volume reverberation
    with the equivalent beam angle (Simmonds and MacLennan 2005), bottom as in `bottom`.
    """
    return _transmit(scene, unit, settings.range_m, settings.beam, settings.power, settings.pulse)


def spread_back(source_db: float, alpha: float, r: Floats) -> Floats:
    """Intensity back from a 0 dB target at range `r` on axis: SL - 40 log r - 2 alpha r."""
    intensity: Floats = 10.0 ** (source_db / 10.0 - 0.2 * alpha * r) / np.maximum(r, 0.05) ** 4
    return intensity


def scene_bottom(scene: Scene) -> bottom.BottomKind:
    """The bottom of `scene`, with its own roughness where that is given."""
    kind = bottom.bottom_kind(scene.bottom_kind)
    return kind if scene.roughness_m is None else replace(kind, roughness_m=scene.roughness_m)


def _opening(scene: Scene, ka: float) -> tuple[Floats, Callable[[Floats], Floats]]:
    """The one-way pattern [dB] that leaves the hole over 4096 even sines, and the walls' echo share at each range.

    A face inside the ice looks out through the foot of the hole: what goes wider than that falls on the wall, is
    thrown about as in any small hard room, leaks out below and soaks into the ice, and comes back as clutter that dies
    away by Sabine's rule (mean free path 4 V / S). Source: Sabine's decay, any room-acoustics text; the wall's
    reflection from handbook impedances.
    """
    sines = np.linspace(0.0, 1.0, 4096)
    pattern_db = np.asarray(beam.directivity(np.arcsin(sines), ka))
    deep, radius = scene.inside_ice_m, scene.hole_diameter_m / 2.0
    if deep <= 0.0:
        return pattern_db, np.zeros_like
    tangents = sines / np.sqrt(np.maximum(1.0 - sines**2, 1e-6))
    leaves = 1.0 / (1.0 + (tangents * deep / radius) ** 8)
    power = 10.0 ** (pattern_db / 10.0) * tangents  # d(solid angle) = 2 pi sin d(sin) / cos
    caught = float(np.sum(power * (1.0 - leaves)) / np.sum(power))
    lost = (1.0 / deep + 2.0 * (1.0 - ICE_REFLECTION**2) / radius) / 2.0  # nepers of intensity for each metre of range

    def wall(r: Floats) -> Floats:
        echo: Floats = caught**2 * WALL_SCATTERING / radius**2 * np.exp(-lost * r)
        return echo

    return pattern_db + 10.0 * np.log10(np.maximum(leaves, 1e-6)), wall


def two_way_at(pattern: Floats, cosine: Floats) -> Floats:
    """Two-way pattern at the angle of this cosine off the axis; behind the face there is only the floor."""
    sine = np.where(cosine > 0.0, np.sqrt(np.maximum(1.0 - cosine**2, 0.0)), 1.0)
    looked_up: Floats = pattern[(sine * (pattern.size - 1)).astype(np.intp)]
    return looked_up


AZIMUTHS = np.cos(np.linspace(0.0, np.pi, 25))[:, None]


def _bottom_density(
    scene: Scene,
    kind: bottom.BottomKind,
    source_db: float,
    alpha: float,
    pattern: Floats,
    wave_number: float,
    r: Floats,
) -> Floats:
    """Diffuse bottom echo per metre of range: rings of rough interface, each with its tail from inside the sediment.

    The rings lie round the foot of the perpendicular, which a slope moves aside; the beam looks at them off its axis
    by tilt and slope together, averaged round each ring.
    """
    height = scene.bottom_range_m * np.cos(np.radians(scene.slope_deg))
    bin_m = float(r[1] - r[0])
    if r[-1] <= height:
        return np.zeros_like(r)
    reached = r > height
    cosine = np.clip(height / r, -1.0, 1.0)
    angle = np.arccos(cosine)
    off = np.radians(scene.tilt_deg + scene.slope_deg)
    if off == 0.0:
        seen = two_way_at(pattern, cosine)
    else:
        seen = two_way_at(pattern, cosine * np.cos(off) + np.sin(angle) * np.sin(off) * AZIMUTHS).mean(axis=0)
    # The ring of flat bottom between r and r + dr has the area 2 pi r dr.
    ring = np.where(reached, spread_back(source_db, alpha, r) * seen * 2.0 * np.pi * r, 0.0)
    interface = ring * bottom.interface_scattering(kind, wave_number, angle)
    tail = np.convolve(ring, bottom.sediment_tail(kind, wave_number, np.arange(r.size) * bin_m))[: r.size] * bin_m
    return interface + tail


def second_echo_range(scene: Scene) -> float:
    """Range [m] at which the second echo stands: down, up to the underside of the ice, down, and up to the face."""
    return 2.0 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m


def _mirror_images(  # noqa: PLR0913 - what the cast has worked out already
    scene: Scene,
    source_db: float,
    alpha: float,
    mirrored: float,
    ice: float,
    pattern: Floats,
    resolution: float,
    r: Floats,
    bed_through: float,
) -> Floats:
    """Coherent echoes: the bottom's mirror image, and the second echo by way of the underside of the ice.

    On a slope the mirror stands square to the bottom, so the beam sees it off its axis; the second image, mirrored
    twice, stands twice as far off.
    """
    slope = np.radians(scene.slope_deg)
    tilt = np.radians(scene.tilt_deg)
    total = np.zeros_like(r)
    for at, share, off in (
        (scene.bottom_range_m * float(np.cos(slope)), mirrored * bed_through, tilt + slope),
        (second_echo_range(scene), mirrored**2 * ice * bed_through**2, tilt + 2.0 * slope),
    ):
        path = 2.0 * at
        seen = float(two_way_at(pattern, np.array([np.cos(off)]))[0])
        intensity = share * seen * 10.0 ** (source_db / 10.0 - 0.1 * alpha * path) / path**2
        total += np.where(r >= at, intensity * pulse_envelope(np.maximum(r - at, 0.0) / resolution), 0.0)
    return total
