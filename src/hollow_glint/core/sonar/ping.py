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
from .still_echoes import two_way_at
from .transmission import Levels, Transmission

# Numbers in single precision, made once: making one costs as much as a step over a whole ping.
# The natural logarithm, in dB: in single precision it is several times as quick as the common one.
DB_PER_LOG = np.float32(10.0 / np.log(10.0))
LEAST_BELOW_M = np.float32(1e-3)


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
    singles = None if scatterers is None else _single_targets(t, scatterers, pings, rng, sway_rad)
    if t.paths and ping_time_s is not None:
        theirs = _neighbours(t, ping_time_s)
        singles = theirs if singles is None else (
            np.concatenate((singles[0], theirs[0]), axis=1), np.concatenate((singles[1], theirs[1]), axis=1)
        )  # fmt: skip
    if singles is not None:
        _lay_pulses(t, intensity, *singles)
    np.log(intensity, out=intensity)
    intensity *= DB_PER_LOG
    return intensity


def _neighbours(t: Transmission, ping_time_s: Floats) -> tuple[Floats, Floats]:
    """Where each neighbour's ping begins in ours [bins] and its intensity, both shape (pings, arrivals)."""
    delay, strength = interference.arrivals(t.arriving, ping_time_s)
    # In single precision, as the places of targets are.
    return np.multiply(delay, 0.5 * t.sound_speed_m_s * t.bins_per_m, dtype=np.float32, casting="same_kind"), strength


def _single_targets(
    t: Transmission, s: Scatterers, pings: int, rng: np.random.Generator, sway_rad: Floats | None
) -> tuple[Floats, Floats]:
    """Where each single target's pulse begins [bins] and its peak intensity, both shape (pings, targets)."""
    if s.place.shape[1] != pings:
        raise InputError(f"scatterers are for {s.place.shape[1]} pings; {pings} are wanted")
    strengths = s.strengths
    x, y, below = place = s.place - t.face_xyz
    # What is level with the face or above it lies so near that `echo_back` has nothing for it, or wide of the beam.
    np.maximum(below, LEAST_BELOW_M, out=below)
    square = place * place
    aside2 = square[0] + square[1]
    r2 = square[2]
    r2 += aside2
    r = np.sqrt(r2)
    if t.tilt_rad == 0.0 and sway_rad is None:
        aside2 /= r2
        sine = np.sqrt(aside2, out=aside2)
    else:
        lean_x, lean_y = (0.0, 0.0) if sway_rad is None else (sway_rad[:, :1], sway_rad[:, 1:])
        lean_x = lean_x + t.tilt_rad
        along = (x * np.sin(lean_x) + y * np.sin(lean_y) + below * np.cos(np.hypot(lean_x, lean_y))) / r
        sine = np.sqrt(np.maximum(1.0 - np.minimum(along, 1.0) ** 2, 0.0))
    sine *= t.two_way_pattern.size - 1
    peak = t.two_way_pattern.take(sine.astype(np.intp))
    position = r
    position *= t.bins_per_m
    peak *= t.echo_back.take(position.astype(np.intp), mode="clip")
    peak *= strengths.intensity
    chance = rng.standard_exponential(r.shape, dtype=np.float32)
    wander = rng.standard_normal((pings, strengths.steady.size), dtype=np.float32)
    wander *= strengths.wander
    chance[:, strengths.steady] = np.exp(wander, out=wander)
    peak *= chance
    return position, peak


def _lay_pulses(t: Transmission, intensity: Levels, position: Floats, peak: Floats) -> None:
    """Add to `intensity` (pings, bins) a pulse, skirt and all, from each `position` (pings, n) [bins], this `peak`.

    An echo that begins between two bins is shared between them. The fronts of all pulses are counted up at once, and
    then all their skirts are drawn out together: whole pulses counted up cost more than that in a block of pings.
    """
    laid = t.laid
    pings, bins = intensity.shape
    lead = t.kernel.size + laid.front_bins.size
    width = bins + lead  # room before the first bin, so that in one long row no ping's skirt reaches into the next
    between = np.minimum(position, bins)
    whole = np.floor(between)
    between -= whole
    first = whole.astype(np.intp)
    first += lead if pings == 1 else np.arange(lead, lead + pings * width, width)[:, None]
    # All pulses of all pings in one long row, and in one precision: short rows cost more to begin than to go through.
    share = between.reshape(-1).astype(np.float64) * laid.front_later
    share += laid.front_early
    share *= peak.reshape(-1)
    counted = np.bincount((first.reshape(-1) + laid.front_bins).reshape(-1), share.reshape(-1), pings * width)
    pulses = counted[: pings * width].astype(np.float32)
    part = np.empty_like(pulses)
    for reach, decay in laid.skirt_passes:
        np.multiply(pulses[:-reach], decay, out=part[reach:])
        pulses[reach:] += part[reach:]
    intensity += pulses.reshape(pings, width)[:, lead:]
