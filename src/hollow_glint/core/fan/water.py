"""What does not move before a fan: bed and what stands on it, the ice overhead, open water, and what is heard too late.

The bed's facets are the sweep's (`search.lit_bed`: Lambert's law and facets; Urick 1983, APL-UW TR 9407), taken from
all round the head, because straight down the fan meets the bed on every side of its plane. They are gathered by angle
in the plane and by range, and each beam hears of that what its pattern lets through: so a strong bottom is smeared over
other beams at its own range. What lies beyond the listening time comes in with the next ping, nearer than it is.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..acoustics import beam, sonar_equation, water
from ..acoustics.array import half_power_width
from ..checks import Floats
from ..hole.scene import CLARITY_DB
from ..search.lit_bed import lit_bed
from ..search.patch import Patch
from ..search.sweep import NOISE_DB_HZ, evening_db
from ..sonar.pulse import KERNEL_PULSES, pulse_envelope
from ..sonar.still_echoes import ice_walls
from .beams import ANGLES, STEP_DEG, angle_number, angles_deg, two_way
from .head import FanHang, FanHead, in_fan

BINS: Final = 512
AZIMUTHS: Final = 360
COARSE: Final = 2  # angles of the table that the bed is gathered by at a time: half a beam is fine enough for it
OFF_PLANE: Final = 2.5  # fan thicknesses off the plane beyond which nothing is heard: the third side lobe and further
# The underside of lake ice as Lambert's law has it [dB]: smooth, with frost and bubbles. Common practice, no source.
ICE_LAMBERT_DB: Final = -30.0
HOLE_M: Final = 0.1  # radius of the hole
RINGING_DB: Final = -58.0  # of the head itself after a ping, below what it sends, and how fast that dies away
RINGING_DB_M: Final = 28.0
SLUSH_DB: Final = -52.0  # bubbles and chips under the hole, as volume scattering: thick at the head, gone below it
SLUSH_M: Final = 0.7


@dataclass(frozen=True, eq=False)
class FanWater:
    """What does not move before a fan that hangs and listens so: mean intensities [uPa^2].

    mean      (beams, BINS) from bed, ice, water and receiver; in single precision, as frames are made of it
    beyond    (beams, BINS) of the ranges behind the listening time: what the next ping may hear
    open      (beams, BINS) from water and receiver alone, without bed, ice or ringing
    noise     from the receiver alone
    horizon   (AZIMUTHS, samples) the flattest way at which something is still seen, as depth below the head over
              distance along the ice; `along_m` (samples,) [m]
    """

    mean: NDArray[np.float32]
    beyond: NDArray[np.float32]
    open: NDArray[np.float32]
    noise: float
    horizon: Floats
    along_m: Floats
    range_m: Floats
    reach_m: float
    sound_speed_m_s: float
    absorption_db_m: float
    source_db: float
    envelope: Floats
    even_db: NDArray[np.float32]

    @property
    def bin_m(self) -> float:
        """How long a bin is [m]."""
        return self.reach_m / BINS


@dataclass(frozen=True, eq=False)
class _Facets:
    """Where they lie, counted from the head [m], how far [m] and how loud each is, all (facets,) in single precision:
    there are some hundred thousand, and few of them near the plane of a fan."""

    east_m: NDArray[np.float32]
    north_m: NDArray[np.float32]
    down_m: NDArray[np.float32]
    range_m: NDArray[np.float32]
    strength_m2: NDArray[np.float32]
    horizon: Floats
    along_m: Floats

    def near_plane(self, hang: FanHang, off_rad: float, reach_m: float) -> NDArray[np.intp]:
        """Which of them are no further off the plane and no further away."""
        aim, roll = np.radians(hang.looks_deg), np.radians(hang.roll_deg)
        # What stands square to the plane, as `in_fan` has it.
        east, north, down = (
            np.float32(n) for n in (np.cos(aim) * np.cos(roll), -np.sin(aim) * np.cos(roll), -np.sin(roll))
        )
        off = np.abs(self.east_m * east + self.north_m * north + self.down_m * down)
        return np.flatnonzero((off < np.float32(np.sin(off_rad)) * self.range_m) & (self.range_m < reach_m))


def wavelength_m(patch: Patch, head: FanHead) -> float:
    """The wavelength in this water [m]."""
    return float(water.sound_speed(patch.temperature_c)) / head.frequency_hz


@lru_cache(maxsize=6)
def _facets(patch: Patch, depth_m: float, ice_m: float, reach_m: float, wave_number: float) -> _Facets:
    """The bed all round the head and the ice above it, to twice the reach; the same wherever the handle points."""
    turn = np.radians(np.arange(AZIMUTHS) * 360.0 / AZIMUTHS)
    along = (np.arange(2 * BINS) + 0.5) * reach_m / BINS
    step = float(turn[1])
    lit = lit_bed(patch, turn, along, depth_m, wave_number)
    east, north = np.sin(turn)[:, None] * along, np.cos(turn)[:, None] * along
    bed = (east, north, lit.down_m, lit.strength_m2_rad * step)
    up = depth_m - ice_m
    parts = [bed]
    if up > 0.0:
        cosine = up / np.hypot(along, up)
        strength = 10.0 ** (ICE_LAMBERT_DB / 10.0) * cosine**2 * along * (along[1] - along[0]) * step
        parts.append((east, north, np.full_like(east, -up), np.broadcast_to(strength, east.shape)))
    heard = [part[3] > 1e-12 for part in parts]
    east, north, down, echo = (
        np.concatenate([part[k][mask] for part, mask in zip(parts, heard, strict=True)]) for k in range(4)
    )
    e, n, d, s = (one.astype(np.float32) for one in (east, north, down, echo))
    return _Facets(e, n, d, np.sqrt(e**2 + n**2 + d**2), s, lit.horizon, along)


@lru_cache(maxsize=24)
def fan_water(patch: Patch, head: FanHead, hang: FanHang, reach_m: float, risen_db: float = -200.0) -> FanWater:
    """All that does not move before a fan. Cached: worked out once for a head, how it hangs and how far it listens.

    `risen_db` is what rises into the water as night falls, as volume scattering [dB re 1/m].
    """
    c = float(water.sound_speed(patch.temperature_c))
    alpha = float(water.absorption(head.frequency_hz, patch.temperature_c))
    part, thick = np.radians(head.sub_array_deg), np.radians(head.thickness_deg)
    source = sonar_equation.source_level(head.power_w, head.efficiency, 10.0 * np.log10(4.0 * np.pi / (part * thick)))
    facets = _facets(patch, hang.depth_m, hang.ice_m, reach_m, 2.0 * np.pi * head.frequency_hz / c)
    near = facets.near_plane(hang, min(OFF_PLANE * thick, np.pi / 2.0), 2.0 * reach_m)
    r, angle, off = in_fan(hang, facets.east_m[near], facets.north_m[near], facets.down_m[near])
    lost = sonar_equation.transmission_loss(np.maximum(r, 0.05), alpha)
    echo = facets.strength_m2[near] * beam.line_amplitude(off, head.thickness_deg) ** 4
    echo = echo * 10.0 ** ((source - 2.0 * lost) / 10.0)
    echo = echo * leaves_hole(hang, angle)
    bin_m = reach_m / BINS
    at = angle_number(angle - np.radians(hang.axis_deg) + np.radians(STEP_DEG / 2.0))
    # A facet lies between two bins: each has its share, or a smooth bed would be seen through a comb.
    place = np.maximum(r / bin_m - 0.5, 0.0)
    first = np.minimum(place.astype(np.intp), 2 * BINS - 2)
    share = place - first
    at = at // COARSE * 2 * BINS + first
    size = ANGLES // COARSE * 2 * BINS
    gathered = np.bincount(at, echo * (1.0 - share), size) + np.bincount(at + 1, echo * share, size)
    pattern = two_way(head, c / head.frequency_hz)
    heard = pattern[::COARSE].T @ gathered.reshape(-1, 2 * BINS).astype(np.float32)
    resolution = sonar_equation.range_resolution(head.pulse_s, c)
    envelope = _per_bin(resolution, bin_m)
    both = np.zeros(heard.shape)
    for k, weight in enumerate(envelope):
        both[:, k:] += weight * heard[:, : heard.shape[1] - k]
    r_bins = (np.arange(BINS) + 0.5) * bin_m
    spread = 10.0 ** ((source - 2.0 * sonar_equation.transmission_loss(np.maximum(r_bins, 0.05), alpha)) / 10.0)
    # A line that hears from one way hears less of the noise that comes from everywhere (Urick 1983: NL - DI).
    lobe = float(half_power_width(head.line, 0.0, c / head.frequency_hz))
    index = 10.0 * np.log10(4.0 * np.pi / (lobe * thick))
    noise = float(10.0 ** ((NOISE_DB_HZ - index) / 10.0) * sonar_equation.noise_bandwidth(head.pulse_s))
    # How much water a beam looks through: its pattern over the plane, times the fan's thickness.
    world = np.radians(angles_deg() + hang.axis_deg)
    wide = (pattern * (leaves_hole(hang, world) * np.radians(STEP_DEG))[:, None]).sum(axis=0)
    drifts = 10.0 ** (CLARITY_DB[patch.clarity] / 10.0) + 10.0 ** (risen_db / 10.0)
    slush = 10.0 ** ((SLUSH_DB - 10.0 * r_bins / SLUSH_M) / 10.0)
    each = wide[:, None] * (spread * r_bins**2 * _equivalent_thickness(head) * resolution)
    filled = each * (drifts + slush)
    ringing = 10.0 ** ((source + RINGING_DB - RINGING_DB_M * r_bins) / 10.0)
    if hang.inside_ice_m > 0.0:
        lets_out = leaves_hole(hang, world)
        shut = 1.0 - float((pattern.sum(axis=1) * lets_out).sum() / pattern.sum())
        ringing = ringing + 10.0 ** (source / 10.0) * ice_walls(hang.inside_ice_m, HOLE_M, shut)(r_bins)
    mean = both[:, :BINS] + filled + ringing + noise
    even = evening_db(r_bins, alpha)
    return FanWater(
        mean.astype(np.float32),
        both[:, BINS:].astype(np.float32),
        (each * drifts + noise).astype(np.float32),
        noise,
        facets.horizon,
        facets.along_m,
        r_bins,
        reach_m,
        c,
        alpha,
        source,
        envelope,
        even.astype(np.float32),
    )


def _equivalent_thickness(head: FanHead) -> float:
    """The fan's thickness as open water sees it [rad]: its two-way pattern, summed over the angle off the plane."""
    off = np.radians(np.linspace(-3.0, 3.0, 601) * head.thickness_deg)
    return float((beam.line_amplitude(off, head.thickness_deg) ** 4).sum() * (off[1] - off[0]))


def _per_bin(resolution_m: float, bin_m: float) -> Floats:
    """A pulse's envelope as each bin has it in the mean, so that bins longer than a pulse keep its energy."""
    bins = int(KERNEL_PULSES * resolution_m / bin_m) + 2
    fine = (np.arange(16 * bins) + 0.5) / 16.0 * bin_m / resolution_m
    return np.asarray(pulse_envelope(fine).reshape(bins, 16).mean(axis=1))


def leaves_hole(hang: FanHang, angle_rad: Floats) -> Floats:
    """What of the sound gets out of the hole at angles in the plane [rad], out and back, 0 to 1; all of it in water.

    A head inside the ice looks out through the foot of the hole, as the Bench's does.
    """
    deep = hang.inside_ice_m
    if deep <= 0.0:
        return np.ones_like(angle_rad)
    sine = np.sin(angle_rad)
    tangent = np.sqrt(np.maximum(1.0 - sine**2, 0.0)) / np.maximum(sine, 1e-6)
    return np.where(sine > 0.0, 1.0 / (1.0 + (tangent * deep / HOLE_M) ** 8), 0.0) ** 2
