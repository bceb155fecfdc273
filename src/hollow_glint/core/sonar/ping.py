"""One ping: from what is under the hole to the echo level in each range bin.

The still part is worked out once, in `transmission`. Single targets and the neighbours' pings move, so `echo_levels`
adds them ping by ping, each as a pulse with skirts, multiplies the diffuse part by its Rayleigh fluctuation, and takes
the logarithm.

Known limit: the diffuse echo is drawn anew in every bin and ping, so its grain is one bin rather than one pulse.
"""

from __future__ import annotations

import numpy as np

from ..acoustics import sonar_equation
from ..checks import Floats, InputError
from ..hole import interference
from ..hole.scatterers import Scatterers
from .transmission import Levels, Transmission, two_way_at

LN10 = float(np.log(10.0))


def target_echo_level(
    transmission: Transmission, target_strength_db: float, depth_m: float, offset_m: float = 0.0
) -> float:
    """Mean echo level [dB re 1 uPa] of a target at `depth_m` [m below the surface], `offset_m` [m] off the axis."""
    below = depth_m - transmission.face_depth_m
    if below <= 0.05:
        return -np.inf
    t = transmission
    r = float(np.hypot(below, offset_m))
    loss = 2.0 * sonar_equation.transmission_loss(r, t.absorption_db_m)
    cosine = (below * np.cos(t.tilt_rad) + offset_m * np.sin(t.tilt_rad)) / r
    off_axis = 10.0 * np.log10(two_way_at(t.two_way_pattern, np.array([cosine]))[0])
    weeds = 10.0 * np.log10(np.interp(r, t.bin_range_m, t.through))
    return float(t.source_level_db + target_strength_db - loss + off_axis + weeds)


def echo_levels(
    transmission: Transmission,
    scatterers: Scatterers | None,
    pings: int,
    rng: np.random.Generator,
    ping_time_s: Floats | None = None,
    sway_rad: Floats | None = None,
) -> Levels:
    """Echo level [dB re 1 uPa] in each range bin, shape (pings, bins), for a block of pings.

    `scatterers` holds single targets per ping, or None for empty water; `ping_time_s` (pings,) [s] when each ping goes
    out, which decides where neighbours' pings fall (none are heard without it); `sway_rad` (pings, 2) how far a
    swinging axis is off its mean, along x and y. All chance comes from `rng`. Raises ValueError if the scatterers are
    not for `pings` pings. Sources: the sonar equation (Urick 1983); Rayleigh fluctuation of fish and of reverberation
    (Simmonds and MacLennan 2005).
    """
    t = transmission
    intensity = rng.standard_exponential((pings, t.bin_range_m.size), dtype=np.float32)
    intensity *= t.diffuse_single
    intensity += t.steady_single  # which is never nothing, so that the logarithm always has something to take
    positions, peaks = [], []
    if scatterers is not None and scatterers.x.size:
        position, peak = _single_targets(t, scatterers, pings, rng, sway_rad)
        positions.append(position)
        peaks.append(peak)
    if t.paths and ping_time_s is not None:
        delay, strength = interference.arrivals(t.arriving, ping_time_s, t.listen_s)
        positions.append(delay * (0.5 * t.sound_speed_m_s / t.bin_m))
        peaks.append(strength)
    if positions:
        _lay_pulses(t, intensity, np.concatenate(positions, axis=1), np.concatenate(peaks, axis=1))
    np.log10(intensity, out=intensity)
    intensity *= np.float32(10.0)
    return intensity


def _single_targets(
    t: Transmission, s: Scatterers, pings: int, rng: np.random.Generator, sway_rad: Floats | None
) -> tuple[Floats, Floats]:
    """Where each single target's pulse begins [bins] and its peak intensity, both shape (pings, targets)."""
    if s.x.shape[0] != pings:
        raise InputError(f"scatterers are for {s.x.shape[0]} pings; {pings} are wanted")
    below = s.z - np.float32(t.face_depth_m)
    aside2 = s.x * s.x
    aside2 += s.y * s.y
    r2 = below * below
    r2 += aside2
    np.maximum(r2, np.float32(1e-6), out=r2)
    r = np.sqrt(r2)
    if t.tilt_rad == 0.0 and sway_rad is None:
        aside2 /= r2
        sine = np.sqrt(aside2, out=aside2)
    else:
        lean_x, lean_y = (0.0, 0.0) if sway_rad is None else (sway_rad[:, :1], sway_rad[:, 1:])
        lean_x = lean_x + t.tilt_rad
        along = (s.x * np.sin(lean_x) + s.y * np.sin(lean_y) + below * np.cos(np.hypot(lean_x, lean_y))) / r
        sine = np.sqrt(np.maximum(1.0 - np.minimum(along, 1.0) ** 2, 0.0))
    sine *= t.two_way_pattern.size - 1
    peak = t.two_way_pattern.take(sine.astype(np.intp))
    position = r.astype(np.float64)
    position *= 1.0 / t.bin_m
    peak *= t.echo_back.take(position.astype(np.intp), mode="clip")
    peak *= 10.0 ** (s.target_strength_db / 10.0)
    # What is level with the face or above it sends nothing back that matters.
    peak *= below > 0.05
    chance = rng.standard_exponential(r.shape, dtype=np.float32)
    steady = np.flatnonzero(~s.rayleigh)
    wander = rng.standard_normal((pings, steady.size), dtype=np.float32)
    wander *= 0.1 * LN10 * s.fluctuation_db[steady]
    chance[:, steady] = np.exp(wander)
    peak *= chance
    return position, peak


def _lay_pulses(t: Transmission, intensity: Levels, position: Floats, peak: Floats) -> None:
    """Add to `intensity` (pings, bins) a pulse, skirt and all, from each `position` (pings, n) [bins], this `peak`.

    An echo that begins between two bins is shared between them; then all echoes at once are drawn out to pulses.
    """
    pings, bins = intensity.shape
    lead = t.kernel.size + t.pulse_front.size
    width = bins + lead  # room before the first bin, so that in one long row no ping's skirt reaches into the next
    first = np.minimum(position, bins).astype(np.intp)
    later = (position - first) * peak
    first += (np.arange(pings) * width + lead)[:, None]
    at = np.concatenate([first, first + 1], axis=1)
    counted = np.bincount(at.ravel(), np.concatenate([peak - later, later], axis=1).ravel(), pings * width)
    spikes = counted[: pings * width].astype(np.float32)
    part = np.empty_like(spikes)
    # A skirt is a geometric series, and 1 + q + q^2 + ... is (1 + q)(1 + q^2)(1 + q^4)...: few passes draw it out.
    decay, reach = t.skirt, 1
    while reach < t.kernel.size:
        np.multiply(spikes[:-reach], decay, out=part[reach:])
        spikes[reach:] += part[reach:]
        decay, reach = decay * decay, 2 * reach
    pulses = spikes * t.pulse_front[0]
    for k, share in enumerate(t.pulse_front[1:], 1):
        np.multiply(spikes[:-k], share, out=part[k:])
        pulses[k:] += part[k:]
    intensity += pulses.reshape(pings, width)[:, lead:]
