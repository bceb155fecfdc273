"""The receiver: what the knobs do to an echo before it becomes a colour.

Interference rejection keeps what most of the last pings show; the noise filter evens an echo out along the range;
gain, time-varied gain and surface blanking move the level of the first colour, each range bin by its own amount.
"""

from __future__ import annotations

from math import comb

import numpy as np

from ..checks import Floats
from ..gear.settings import Settings
from ..gear.unit import UnitProfile
from .transmission import Levels, Transmission

BLANKED_DB = 400.0  # what blanking takes away: more than any echo has
# Time-varied gain never takes more than this off the water near the face. Common practice, no source.
MOST_TVG_DB = 70.0
FULL_GAIN_FROM = 2.0 / 3.0  # share of the range from which down an echo keeps all its gain


def first_colour_level(unit: UnitProfile, settings: Settings) -> float:
    """Echo level [dB re 1 uPa] that lights the weakest step of the ladder where time-varied gain takes nothing off."""
    weakest = unit.ladders[settings.ladder].first_begins * unit.colour_step_db
    return unit.gain.first_colour_at(settings.gain) + weakest


def taken_off(unit: UnitProfile, settings: Settings, range_m: Floats) -> Floats:
    """What time-varied gain and blanking take off an echo [dB] at `range_m` [m], same shape.

    Time-varied gain k turns the gain down by k dB a decade of range from two thirds of the range setting up to the
    face, so that near water is quiet and deep echoes keep all their gain. That k = 40 holds a single target's colour
    through the column is the sonar equation (40 log r, Urick 1983); the limit and the blanking are common practice.
    """
    r = np.maximum(np.asarray(range_m, dtype=np.float64), 1e-3)
    slope = unit.tvg_db_decade[settings.tvg]
    off = np.clip(slope * np.log10(FULL_GAIN_FROM * settings.range_m / r), 0.0, MOST_TVG_DB)
    return np.where(r < unit.blanking_m[settings.blanking], BLANKED_DB, off)


def reject(echo_level_db: Levels, past: Levels | None, unit: UnitProfile, settings: Settings) -> tuple[Levels, Levels]:
    """What most of the last pings show [dB], same shape as `echo_level_db` (pings, bins), and the pings to hand back.

    `past` (n - 1, bins) are the pings before, None at the start or after the bins have changed: then the first ping
    stands in for them. An echo that is not in more than half of the pings is dropped to what was there without it.
    """
    step = unit.rejections[settings.rejection]
    n = int(step.pings)
    if n == 1:
        return echo_level_db, echo_level_db[:0]
    if past is None or past.shape != (n - 1, echo_level_db.shape[1]):
        past = np.repeat(echo_level_db[:1], n - 1, axis=0)
    run = np.concatenate([past, echo_level_db])
    windows = np.lib.stride_tricks.sliding_window_view(run, n, axis=0)
    kept = np.partition(windows, n - step.needed, axis=-1)[:, :, n - step.needed]
    return kept, run[-(n - 1) :]


def smooth(echo_level_db: Levels, unit: UnitProfile, settings: Settings) -> Levels:
    """The noise filter: each bin becomes the mean intensity of the bins round it, same shape [dB]."""
    bins = int(unit.noise_filters[settings.noise_filter])
    if bins == 1:
        return echo_level_db
    intensity = 10.0 ** (echo_level_db.astype(np.float64) / 10.0)
    lead = bins // 2
    padded = np.pad(intensity, ((0, 0), (lead + 1, bins - 1 - lead)), mode="edge")
    total = np.cumsum(padded, axis=1)
    mean = (total[:, bins:] - total[:, :-bins]) / bins
    # A running sum far above a quiet bin can round it to nothing; never below the chain's own -20 dB.
    quiet: Levels = (10.0 * np.log10(np.maximum(mean, 1e-2))).astype(echo_level_db.dtype)
    return quiet


def receive(
    echo_level_db: Levels, unit: UnitProfile, settings: Settings, transmission: Transmission, past: Levels | None = None
) -> tuple[Levels, Levels]:
    """Signal [dB above the level at which the six-step ladder's first colour begins], and the pings to hand back.

    Same shape as `echo_level_db` (pings, bins) [dB re 1 uPa]; `past` as in `reject`.
    """
    kept, past = reject(echo_level_db, past, unit, settings)
    level = smooth(kept, unit, settings)
    zero = unit.gain.first_colour_at(settings.gain)
    if settings.tvg or settings.blanking:
        off = taken_off(unit, settings, transmission.bin_range_m) + zero
        return level - off.astype(level.dtype), past
    return level - level.dtype.type(zero), past


def lit_chance(mean_over_threshold: Floats, unit: UnitProfile, settings: Settings) -> Floats:
    """Chance that a bin of reverberation passes a threshold, given mean intensity over threshold; same shape.

    Intensity is exponential, the mean of w bins gamma-distributed, and rejection asks for it in most of n pings.
    """
    w = int(unit.noise_filters[settings.noise_filter])
    ratio = np.maximum(mean_over_threshold, 1e-9)
    x = np.minimum(w / ratio, 700.0)
    # The upper tail of a gamma distribution of whole order, in closed form: e^-x (1 + x + x^2/2! + ...).
    series = np.ones_like(x)
    for k in range(w - 1, 0, -1):
        series = 1.0 + series * x / k
    return kept_chance(np.minimum(np.exp(-x) * series, 1.0), unit, settings)


def kept_chance(chance: Floats, unit: UnitProfile, settings: Settings) -> Floats:
    """Chance that what is there in each ping with `chance` gets past the rejection, same shape."""
    step = unit.rejections[settings.rejection]
    n = int(step.pings)
    if n == 1:
        return chance
    # The binomial distribution's upper tail, term by term in p / q (Horner): n is at most fifteen.
    p = np.clip(chance, 0.0, 1.0 - 1e-12)
    q = 1.0 - p
    ratio = p / q
    kept = np.ones_like(p)
    for k in range(n - 1, step.needed - 1, -1):
        kept = kept * ratio + comb(n, k)
    for _ in range(step.needed):
        kept = kept * p
    for _ in range(n - step.needed):
        kept = kept * q
    return kept


def lag(unit: UnitProfile, settings: Settings, picture_rate_hz: float) -> float:
    """How long the picture takes to believe a change [s]: half of the pings that rejection keeps, and one ping."""
    return int(unit.rejections[settings.rejection].needed) / picture_rate_hz
