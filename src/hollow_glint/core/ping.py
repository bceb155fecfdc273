"""One ping: from what is under the hole to the echo level in each range bin.

Steady and diffuse echoes (open water, bottom, ring-down, receiver noise) change only with the scene and the settings,
so `transmit` works their mean intensity out once. Single targets move, so `echo_levels` adds them ping by ping, each
as a pulse with skirts, multiplies the diffuse part by its Rayleigh fluctuation, and takes the logarithm.

Known limits: echoes add in intensity, not in phase, and the diffuse echo is drawn anew in every bin and ping, so its
grain is one bin rather than one pulse.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from . import beam, bottom, sonar_equation, water
from .checks import Floats, InputError
from .scene import Scatterers, Scene
from .unit import Settings, UnitProfile

Levels = NDArray[np.float32]

MIN_BINS = 512
KERNEL_PHASES = 16  # positions of a pulse within a bin that are told apart
SKIRT_DB_PER_PULSE = 24.0  # how fast the trailing skirt falls, in pulse lengths. Common practice, no source.
KERNEL_PULSES = 4.0  # a kernel ends where its skirt is 73 dB down
ICE_REFLECTION = 0.42  # water to ice at normal incidence, from handbook impedances; value from memory
ICE_ROUGHNESS_M = 0.3e-3


@dataclass(frozen=True, eq=False)
class Transmission:
    """Everything about a ping that does not move: shapes (bins,) where arrays, intensities re 1 uPa^2.

    bin_range_m        range of each bin from the face [m], increasing, bins `bin_m` apart
    steady             intensity that does not fluctuate (mirror images of the bottom)
    diffuse            mean intensity that fluctuates as a Rayleigh scatterer's (volume, rough bottom, noise)
    open_water         the part of `diffuse` that is volume reverberation and noise
    kernel             a pulse in bins, shape (KERNEL_PHASES, bins of a pulse), for each place of its edge within a bin
    two_way_pattern    intensity pattern there and back, shape (4096,), evenly over the sine of the angle off axis
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
    kernel: Floats
    two_way_pattern: Floats

    @cached_property
    def diffuse_single(self) -> Levels:
        """`diffuse` in single precision, as the pings are."""
        return self.diffuse.astype(np.float32)

    @cached_property
    def steady_single(self) -> Levels:
        """`steady` in single precision, as the pings are."""
        return self.steady.astype(np.float32)


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
    c = water.sound_speed(scene.temperature_c)
    alpha = water.absorption(used.frequency_hz, scene.temperature_c)
    ka = beam.ka_from_beam_width(used.width_deg, used.level_db)
    source_db = sonar_equation.source_level(unit.powers_w[power_at], unit.efficiency, beam.directivity_index(ka))
    resolution = sonar_equation.range_resolution(unit.pulses[pulse_at].duration_s, c)
    bins = max(MIN_BINS, int(np.ceil(3.0 * range_m / resolution)))
    bin_m = range_m / bins
    r = (np.arange(bins) + 0.5) * bin_m
    # A finer grid for what is integrated over a pulse, so that short columns keep their closed forms.
    envelope = pulse_envelope((np.arange(int(KERNEL_PULSES * resolution / bin_m) + 2) + 0.5) * bin_m / resolution)
    envelope *= resolution / (envelope.sum() * bin_m)

    def smeared(per_metre: Floats) -> Floats:
        """Intensity in each bin from an intensity density per metre of range: the pulse covers many of them."""
        return np.convolve(per_metre, envelope)[:bins] * bin_m

    volume = smeared(_volume_density(scene, source_db, alpha, ka, r))
    noise = np.full(bins, 10.0 ** (unit.noise_level_db / 10.0))
    ring_down = 10.0 ** ((unit.ring_down_db - unit.ring_down_decay_db_m * r) / 10.0)
    phases = (np.arange(KERNEL_PHASES)[:, None] + 0.5) / KERNEL_PHASES
    # Bin k behind the leading edge's own bin: its middle lies (k + 0.5 - phase) bins behind the edge.
    lengths = (np.arange(int(KERNEL_PULSES * resolution / bin_m) + 1) + 0.5 - phases) * bin_m / resolution
    sines = np.linspace(0.0, 1.0, 4096)
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
        steady=_mirror_images(scene, source_db, alpha, used.frequency_hz, c, resolution, r),
        diffuse=volume
        + noise
        + ring_down
        + smeared(_bottom_density(scene, source_db, alpha, ka, used.frequency_hz, c, r)),
        open_water=volume + noise,
        kernel=np.where(lengths > 0.0, pulse_envelope(np.maximum(lengths, 0.0)), 0.0),
        two_way_pattern=10.0 ** (2.0 * np.asarray(beam.directivity(np.arcsin(sines), ka)) / 10.0),
    )


def transmit(scene: Scene, unit: UnitProfile, settings: Settings) -> Transmission:
    """The part of every ping that does not move, for `unit` set to `settings` over `scene`.

    Cached: the same inputs give the same object back. Sources: the sonar equation (Urick 1983), volume reverberation
    with the equivalent beam angle (Simmonds and MacLennan 2005), bottom as in `bottom`.
    """
    return _transmit(scene, unit, settings.range_m, settings.beam, settings.power, settings.pulse)


def _spread(source_db: float, alpha: float, r: Floats) -> Floats:
    """Intensity back from a 0 dB target at range `r` on axis: SL - 40 log r - 2 alpha r."""
    intensity: Floats = 10.0 ** (source_db / 10.0 - 0.2 * alpha * r) / np.maximum(r, 0.05) ** 4
    return intensity


def _volume_density(scene: Scene, source_db: float, alpha: float, ka: float, r: Floats) -> Floats:
    """Volume reverberation per metre of range: a layer 1 m thick fills psi r^2 of it, down to the bottom."""
    strength = 10.0 ** (scene.volume_scattering_db / 10.0) * beam.equivalent_beam_angle(ka)
    density: Floats = _spread(source_db, alpha, r) * np.maximum(r, 0.05) ** 2 * strength
    return density * (r < scene.bottom_range_m)


def _bottom_density(
    scene: Scene, source_db: float, alpha: float, ka: float, frequency_hz: float, c: float, r: Floats
) -> Floats:
    """Diffuse bottom echo per metre of range: rings of rough interface, each with its tail from inside the sediment."""
    kind = bottom.bottom_kind(scene.bottom_kind)
    wave_number = 2.0 * np.pi * frequency_hz / c
    height = scene.bottom_range_m
    bin_m = float(r[1] - r[0])
    if r[-1] <= height:
        return np.zeros_like(r)
    reached = r > height
    angle = np.arccos(np.clip(height / r, -1.0, 1.0))
    pattern = 10.0 ** (2.0 * np.asarray(beam.directivity(angle, ka)) / 10.0)
    # The ring of flat bottom between r and r + dr has the area 2 pi r dr.
    ring = np.where(reached, _spread(source_db, alpha, r) * pattern * 2.0 * np.pi * r, 0.0)
    interface = ring * bottom.interface_scattering(kind, wave_number, angle)
    tail = np.convolve(ring, bottom.sediment_tail(kind, wave_number, np.arange(r.size) * bin_m))[: r.size] * bin_m
    return interface + tail


def _mirror_images(
    scene: Scene, source_db: float, alpha: float, frequency_hz: float, c: float, resolution: float, r: Floats
) -> Floats:
    """Coherent echoes: the bottom's mirror image, and the second echo by way of the underside of the ice."""
    kind = bottom.bottom_kind(scene.bottom_kind)
    wave_number = 2.0 * np.pi * frequency_hz / c
    mirrored = bottom.reflection_coefficient(kind) ** 2 * bottom.coherent_share(kind.roughness_m, wave_number)
    ice = ICE_REFLECTION**2 * bottom.coherent_share(ICE_ROUGHNESS_M, wave_number)
    first = scene.bottom_range_m
    second = 2.0 * scene.bottom_depth_m - scene.face_depth_m - scene.ice_thickness_m
    total = np.zeros_like(r)
    for at, share in ((first, mirrored), (second, mirrored**2 * ice)):
        path = 2.0 * at
        intensity = share * 10.0 ** (source_db / 10.0 - 0.1 * alpha * path) / path**2
        total += np.where(r >= at, intensity * pulse_envelope(np.maximum(r - at, 0.0) / resolution), 0.0)
    return total


def target_echo_level(
    transmission: Transmission, target_strength_db: float, depth_m: float, offset_m: float = 0.0
) -> float:
    """Mean echo level [dB re 1 uPa] of a target at `depth_m` [m below the surface], `offset_m` [m] off the axis."""
    below = depth_m - transmission.face_depth_m
    if below <= 0.05:
        return -np.inf
    r = float(np.hypot(below, offset_m))
    loss = 2.0 * sonar_equation.transmission_loss(r, transmission.absorption_db_m)
    off_axis = 2.0 * beam.directivity(float(np.arctan2(abs(offset_m), below)), transmission.ka)
    return float(transmission.source_level_db + target_strength_db - loss + off_axis)


def echo_levels(
    transmission: Transmission, scatterers: Scatterers | None, pings: int, rng: np.random.Generator
) -> Levels:
    """Echo level [dB re 1 uPa] in each range bin, shape (pings, bins), for a block of pings.

    `scatterers` holds single targets per ping, or None for empty water. All chance comes from `rng`. Raises ValueError
    if the scatterers are not for `pings` pings. Sources: the sonar equation (Urick 1983); Rayleigh fluctuation of fish
    and of reverberation (Simmonds and MacLennan 2005).
    """
    bins = transmission.bin_range_m.size
    intensity = rng.standard_exponential((pings, bins), dtype=np.float32)
    intensity *= transmission.diffuse_single
    intensity += transmission.steady_single
    if scatterers is not None:
        intensity += _single_targets(transmission, scatterers, pings, rng)
    # Never below -20 dB, far under any receiver's noise, so that the logarithm always has something to take.
    np.maximum(intensity, np.float32(1e-2), out=intensity)
    np.log10(intensity, out=intensity)
    intensity *= np.float32(10.0)
    return intensity


def _single_targets(t: Transmission, s: Scatterers, pings: int, rng: np.random.Generator) -> Levels:
    """Intensity of the single targets, shape (pings, bins): each lays a pulse, skirt and all, at its slant range."""
    if s.x.shape[0] != pings:
        raise InputError(f"scatterers are for {s.x.shape[0]} pings; {pings} are wanted")
    bins = t.bin_range_m.size
    below = s.z - t.face_depth_m
    aside2 = s.x**2 + s.y**2
    r = np.sqrt(aside2 + below**2)
    # What is level with the face or above it sends nothing back that matters, nor does what lies past the range.
    heard = (below > 0.05) & (r < t.bin_m * bins)
    r = np.where(heard, r, 1.0)
    sine = np.sqrt(aside2) / r
    pattern = t.two_way_pattern[
        np.minimum(sine * (t.two_way_pattern.size - 1), t.two_way_pattern.size - 1).astype(np.intp)
    ]
    chance = np.where(
        s.rayleigh,
        rng.standard_exponential(r.shape),
        10.0 ** (s.fluctuation_db / 10.0 * rng.standard_normal(r.shape)),
    )
    strength = 10.0 ** (s.target_strength_db / 10.0)
    peak = heard * _spread(t.source_level_db, t.absorption_db_m, r) * pattern * chance * strength
    position = r / t.bin_m
    first = position.astype(np.intp)
    phase = ((position - first) * KERNEL_PHASES).astype(np.intp)
    pulses = t.kernel[phase] * peak[:, :, None]
    length = t.kernel.shape[1]
    width = bins + length  # room for a pulse that begins in the last bin
    at = (np.arange(pings) * width)[:, None, None] + np.minimum(first, bins)[:, :, None] + np.arange(length)
    laid = np.bincount(at.ravel(), weights=pulses.ravel(), minlength=pings * width)
    return laid.reshape(pings, width)[:, :bins].astype(np.float32)
