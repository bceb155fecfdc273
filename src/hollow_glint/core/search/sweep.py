"""The sweep: a fan, narrow across and wide down, that turns under the ice, and what comes back on each bearing.

By the sonar equation (Urick 1983), as the Bench has it: the bed by Lambert's law and facets with the strength of its
kind, over the area that beam and pulse cover there; what stands up hides what lies behind it, by similar triangles;
fish as points seen from the side. All else emerges: no bed is nearer than straight down, so that there is a dark disc
as wide as the water is deep; a fish is smeared over the beam's width and the pulse's length; the far edge of a picture
is some seconds old. Left out: the ice's underside, second ways by it, and what a fish hides behind itself.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from ..acoustics import beam, sonar_equation, targets, water
from ..checks import Floats
from ..fields import Span, Text, check_fields, doc
from ..hole.scene import CLARITY_DB
from ..sonar.pulse import KERNEL_PULSES, pulse_envelope
from .lit_bed import lit_bed
from .patch import Patch

SAMPLES_PER_BIN = 3  # of the bed along a bearing
NOISE_DB_HZ = 45.0  # thermal noise at some hundred kHz, in a band of 1 Hz [dB re 1 uPa]; Mellen's line, Urick 1983
BINS = 512
BEARINGS = 240
# Below the source level: an echo so quiet at 1 m lights the first step with the gain at nothing.
FIRST_DB = 42.0
LIT_DB = 1.5  # a step of the picture
STEPS = 31


@dataclass(frozen=True)
class TurningHead:
    """A head that turns: its sound, its fan, and how it is driven. The demo's own; sizes as such heads have them."""

    name: Annotated[str, Text(1, 80)] = "Turning head"
    frequency_hz: Annotated[float, Span(400e3, 1.2e6, "Hz")] = 700e3
    across_deg: Annotated[float, Span(0.5, 5.0, "degrees"), doc("Width of the fan across, at -3 dB one way")] = 1.6
    down_deg: Annotated[float, Span(10.0, 90.0, "degrees"), doc("Width of the fan from top to foot")] = 60.0
    tilt_deg: Annotated[float, Span(0.0, 60.0, "degrees"), doc("How far its middle looks down")] = 25.0
    pulse_s: Annotated[float, Span(10e-6, 500e-6, "s")] = 150e-6
    power_w: Annotated[float, Span(1.0, 1000.0, "W")] = 60.0
    efficiency: Annotated[float, Span(0.05, 1.0)] = 0.5
    turn_overhead_s: Annotated[float, Span(0.0, 0.1, "s"), doc("To turn to the next bearing")] = 0.008

    def __post_init__(self) -> None:
        check_fields(self)


@dataclass(frozen=True)
class Hang:
    """How the head hangs and is set: how deep, how far it listens, how loud it is turned, and which sector it turns
    through (from and to; the full circle where they are the same)."""

    depth_m: Annotated[float, Span(0.1, 20.0, "m")] = 1.0
    range_m: Annotated[float, Span(4.0, 60.0, "m")] = 20.0
    gain_db: Annotated[float, Span(0.0, 60.0, "dB")] = 34.0
    from_deg: Annotated[float, Span(0.0, 360.0, "degrees")] = 0.0
    to_deg: Annotated[float, Span(0.0, 360.0, "degrees")] = 360.0
    off_deg: Annotated[float, Span(-180.0, 180.0, "degrees"), doc("How far the mark stands off north")] = 0.0

    def __post_init__(self) -> None:
        check_fields(self)

    @property
    def width_deg(self) -> float:
        """How wide the sector is [degrees]."""
        return (self.to_deg - self.from_deg) % 360.0 or 360.0


@dataclass(frozen=True, eq=False)
class Still:
    """What does not move: mean intensities [uPa^2] on each bearing, and what hides what.

    bed         (BEARINGS, BINS) from bed and water and noise
    noise       (BINS,) from the receiver alone
    horizon     (BEARINGS, samples) the flattest way at which something is still seen, as depth below the head over
                distance; and the samples' distances along the ice [m]
    """

    bed: Floats
    noise: Floats
    horizon: Floats
    along_m: Floats
    range_m: Floats
    sound_speed_m_s: float
    absorption_db_m: float
    source_db: float
    envelope: Floats


def bearings() -> Floats:
    """The bearings of a full turn [degrees], (BEARINGS,)."""
    return np.arange(BEARINGS) * 360.0 / BEARINGS


def ping_interval(head: TurningHead, hang: Hang, sound_speed_m_s: float) -> float:
    """Time from one bearing to the next [s]: out and back, and a turn."""
    return 2.0 * hang.range_m / sound_speed_m_s + head.turn_overhead_s


def turn_time(head: TurningHead, hang: Hang, sound_speed_m_s: float = 1407.0) -> float:
    """How long the sector takes [s]."""
    return ping_interval(head, hang, sound_speed_m_s) * BEARINGS * hang.width_deg / 360.0


@lru_cache(maxsize=8)
def still(patch: Patch, head: TurningHead, depth_m: float, range_m: float) -> Still:
    """All that does not move around a hole. Cached: it is worked out once for a patch, a head and where it hangs."""
    c = float(water.sound_speed(patch.temperature_c))
    alpha = float(water.absorption(head.frequency_hz, patch.temperature_c))
    across, down = np.radians(head.across_deg), np.radians(head.down_deg)
    source = sonar_equation.source_level(head.power_w, head.efficiency, 10.0 * np.log10(4.0 * np.pi / (across * down)))
    bin_m = range_m / BINS
    r_bins = (np.arange(BINS) + 0.5) * bin_m
    x = (np.arange(BINS * SAMPLES_PER_BIN) + 0.5) * bin_m / SAMPLES_PER_BIN
    lit = lit_bed(patch, np.radians(bearings()), x, depth_m, 2.0 * np.pi * head.frequency_hz / c)
    r = lit.range_m
    pattern = beam.line_amplitude(np.arctan2(lit.down_m, x) - np.radians(head.tilt_deg), head.down_deg) ** 4
    lost = sonar_equation.transmission_loss(np.maximum(r, 0.05), alpha)
    echo = lit.strength_m2_rad * across * pattern * 10.0 ** ((source - 2.0 * lost) / 10.0)
    at = (r / bin_m).astype(np.intp)
    inside = at < BINS
    flat_at = (np.arange(BEARINGS)[:, None] * BINS + at)[inside]
    bed: Floats = np.bincount(flat_at, echo[inside], BEARINGS * BINS).reshape(BEARINGS, BINS).astype(np.float64)
    resolution = sonar_equation.range_resolution(head.pulse_s, c)
    lengths = (np.arange(int(KERNEL_PULSES * resolution / bin_m) + 2) + 0.5) * bin_m / resolution
    envelope = pulse_envelope(lengths)
    bed = np.apply_along_axis(lambda row: np.convolve(row, envelope)[:BINS], 1, bed)
    bed = _over_the_beam(bed, head)
    spread = 10.0 ** ((source - 2.0 * sonar_equation.transmission_loss(np.maximum(r_bins, 0.05), alpha)) / 10.0)
    filled = spread * r_bins**2 * across * down * resolution * 10.0 ** (CLARITY_DB[patch.clarity] / 10.0)
    noise = np.full(BINS, 10.0 ** (NOISE_DB_HZ / 10.0) * sonar_equation.noise_bandwidth(head.pulse_s))
    return Still(bed + filled + noise, noise, lit.horizon, x, r_bins, c, alpha, source, envelope)


def _over_the_beam(rows: Floats, head: TurningHead) -> Floats:
    """What each bearing hears of its neighbours through the beam's width, which may be wider than a step."""
    step = 2.0 * np.pi / BEARINGS
    aside = np.arange(-4, 5)
    weight = beam.line_amplitude(aside * step, head.across_deg) ** 4
    weight /= weight.sum()
    return np.asarray(sum(w * np.roll(rows, k, axis=0) for k, w in zip(aside, weight, strict=True)))


def heard(  # noqa: PLR0913 - where the head is, how it is driven, and chance
    patch: Patch,
    head: TurningHead,
    hang: Hang,
    which: NDArray[np.intp],
    time_s: Floats,
    rng: np.random.Generator,
    true: Still | None = None,
    flicker: np.random.Generator | None = None,
) -> Floats:
    """Echo levels [dB re 1 uPa] (pings, BINS) of pings on bearings number `which` (pings,) at `time_s` (pings,) [s].

    All chance comes from `rng`, but each fish's flicker from `flicker` where that is given: with one of its own the
    same pings are heard alike however many of them are asked for at a time.
    """
    here = still(patch, head, hang.depth_m, hang.range_m) if true is None else true
    mean = here.bed[which % BEARINGS]
    # Echoes of many small things add up to an exponential intensity (Rayleigh amplitude; Urick 1983).
    intensity = mean * rng.standard_exponential(mean.shape)
    ends = np.cumsum([group.length_m.size for group in patch.groups])
    luck = (rng if flicker is None else flicker).standard_exponential((which.size, int(ends[-1]) if ends.size else 0))
    for group, end in zip(patch.groups, ends, strict=True):
        mine = luck[:, end - group.length_m.size : end]
        _add_fish(
            intensity, here, head, hang, group.places(time_s), group.length_m, group.velocity(time_s), which, mine
        )
    return np.asarray(10.0 * np.log10(np.maximum(intensity, 1.0)))


def _add_fish(  # noqa: PLR0913 - where the sound is, and what it meets
    intensity: Floats,
    here: Still,
    head: TurningHead,
    hang: Hang,
    place: Floats,
    length_m: Floats,
    velocity: Floats,
    which: NDArray[np.intp],
    luck: Floats,
) -> None:
    """Add the fish at `place` (pings, fish, 3) to the pings, in place; each echo as strong as its `luck` (pings, fish)
    has it."""
    turn = np.radians(which * 360.0 / BEARINGS)[:, None]
    east, north, z = place[..., 0], place[..., 1], place[..., 2] - hang.depth_m
    x = np.hypot(east, north)
    r = np.hypot(x, z)
    bearing = np.arctan2(east, north)
    aside = (bearing - turn + np.pi) % (2.0 * np.pi) - np.pi
    heard = (np.abs(aside) < np.radians(4.0 * head.across_deg)) & (r < hang.range_m) & (r > 0.1)
    if not heard.any():
        return
    p, f = np.nonzero(heard)
    # Behind something that stands up nothing is heard.
    sample = np.minimum((x[p, f] / here.along_m[0] / 2.0).astype(np.intp), here.along_m.size - 1)
    clear = z[p, f] / np.maximum(x[p, f], 0.05) <= here.horizon[which[p] % BEARINGS, sample] + 1e-9
    p, f = p[clear], f[clear]
    heading = np.arctan2(velocity[p, 0], velocity[p, 1])
    strength = targets.fish_target_strength_at_aspect(length_m[f], heading - bearing[p, f])
    pattern = beam.line_amplitude(aside[p, f], head.across_deg) ** 4
    pattern = (
        pattern * beam.line_amplitude(np.arctan2(z[p, f], x[p, f]) - np.radians(head.tilt_deg), head.down_deg) ** 4
    )
    level = here.source_db + strength - 2.0 * sonar_equation.transmission_loss(r[p, f], here.absorption_db_m)
    echo = 10.0 ** (level / 10.0) * pattern * luck[p, f]
    first = np.floor(r[p, f] / hang.range_m * BINS).astype(np.intp)
    for k, share in enumerate(here.envelope):
        at = first + k
        inside = at < BINS
        np.add.at(intensity, (p[inside], at[inside]), echo[inside] * share)


def evening_db(range_m: Floats, absorption_db_m: float) -> Floats:
    """What time-varied gain adds at ranges [dB], same shape: what the bed loses with range.

    30 log r and absorption both ways (Urick 1983: spreading both ways less the area that grows with range), so that a
    gain suits the whole picture.
    """
    return np.asarray(30.0 * np.log10(np.maximum(range_m, 0.5)) + 2.0 * absorption_db_m * range_m)


def painted(level_db: Floats, here: Still, hang: Hang) -> NDArray[np.uint8]:
    """The picture (pings, BINS): 0 dark to STEPS brightest, steps of LIT_DB, evened out with range."""
    even = evening_db(here.range_m, here.absorption_db_m)
    first = here.source_db - FIRST_DB - hang.gain_db
    steps: NDArray[np.uint8] = np.clip(np.floor((level_db + even - first) / LIT_DB) + 1.0, 0, STEPS).astype(np.uint8)
    return steps
