"""One frame of a fan: what every beam hears at every range, fish and lures and chance with what does not move.

A unit sends as often as its listening time lets it, and shows no more than twenty frames a second. What the ping before
lit beyond that time is heard in this one, nearer than it is: a repeat. With the time between pings staggered, repeats
jump from frame to frame, and what is there stays.
"""

from __future__ import annotations

from typing import Final

import numpy as np
from numpy.typing import NDArray

from ..acoustics import beam, sonar_equation
from ..checks import Floats
from .beams import angle_number, two_way
from .head import FanHang, FanHead, in_fan
from .swimmers import Points
from .water import AZIMUTHS, BINS, FanWater, leaves_hole

OVERHEAD_S: Final = 0.004
MOST_FRAMES_S: Final = 20.0
STAGGER: Final = (0.0, 0.11, 0.05, 0.16)  # of the listening time, ping by ping


def ping_interval(reach_m: float, sound_speed_m_s: float) -> float:
    """Time from ping to ping [s], not staggered: out and back, and a little."""
    return 2.0 * reach_m / sound_speed_m_s + OVERHEAD_S


def frame_time(reach_m: float, sound_speed_m_s: float) -> float:
    """Time from frame to frame [s]: a ping's, or a twentieth of a second where that is longer."""
    return max(ping_interval(reach_m, sound_speed_m_s), 1.0 / MOST_FRAMES_S)


def heard(
    here: FanWater,
    head: FanHead,
    hang: FanHang,
    points: Points,
    rng: np.random.Generator,
    stagger: float = 0.0,
    flicker: np.random.Generator | None = None,
) -> NDArray[np.float32]:
    """Echo levels of a frame [dB re 1 uPa], (beams, BINS); `stagger` is how much longer than need be the time since
    the ping before was, as a share of the listening time. Chance comes from `rng`, each fish's from `flicker` if given.
    """
    interval = ping_interval(here.reach_m, here.sound_speed_m_s) + stagger * 2.0 * here.reach_m / here.sound_speed_m_s
    # What lies at r + late is heard at r.
    late = round(interval * here.sound_speed_m_s / 2.0 / here.bin_m)
    intensity = rng.standard_exponential(here.mean.shape, dtype=np.float32)
    if late < 2 * BINS:
        there = here.mean.copy()
        there[:, : 2 * BINS - late] += here.beyond[:, late - BINS :]
        intensity *= there
    else:
        intensity *= here.mean
    intensity += _of_points(here, head, hang, points, rng if flicker is None else flicker, late)
    levels: NDArray[np.float32] = np.log10(np.maximum(intensity, 1.0, out=intensity), out=intensity)
    levels *= np.float32(10.0)
    return levels


def _of_points(
    here: FanWater, head: FanHead, hang: FanHang, points: Points, rng: np.random.Generator, late: int
) -> NDArray[np.float32]:
    """What the beams hear of points (beams, BINS), those a ping late among them."""
    luck = points.drawn(rng)
    place = points.place_m
    r, angle, off = in_fan(hang, place[:, 0], place[:, 1], place[:, 2] - hang.depth_m)
    at = np.floor(r / here.bin_m).astype(np.intp)
    at = np.where(at >= BINS, at - late, at)
    seen = np.flatnonzero((at >= 0) & (at < BINS) & (r > 0.1) & _clear(here, hang, place, r))
    out = np.zeros((BINS + here.envelope.size, head.beams), dtype=np.float32)
    if seen.size:
        lost = sonar_equation.transmission_loss(r[seen], here.absorption_db_m)
        echo = luck[seen] * 10.0 ** ((here.source_db - 2.0 * lost) / 10.0)
        echo = echo * beam.line_amplitude(off[seen], head.thickness_deg) ** 4 * leaves_hole(hang, angle[seen])
        pattern = two_way(head, here.sound_speed_m_s / head.frequency_hz)
        rows = pattern[angle_number(angle[seen] - np.radians(hang.axis_deg))] * echo[:, None].astype(np.float32)
        # Points of one bin are added up first, then each bin's sum is drawn out by the pulse.
        order = np.argsort(at[seen], kind="stable")
        bins, first = np.unique(at[seen][order], return_index=True)
        sums = np.add.reduceat(rows[order], first, axis=0)
        for k, share in enumerate(here.envelope):
            out[bins + k] += np.float32(share) * sums
    return out[:BINS].T


def _clear(here: FanWater, hang: FanHang, place: Floats, r: Floats) -> NDArray[np.bool_]:
    """Which places nothing that stands up hides, (points,)."""
    along = np.hypot(place[:, 0], place[:, 1])
    down = place[:, 2] - hang.depth_m
    turn = np.arctan2(place[:, 0], place[:, 1]) % (2.0 * np.pi)
    azimuth = np.rint(turn / (2.0 * np.pi) * AZIMUTHS).astype(np.intp) % AZIMUTHS
    sample = np.clip(((along / here.along_m[0] - 1.0) / 2.0).astype(np.intp), 0, here.along_m.size - 1)
    flattest = here.horizon[azimuth, sample]
    return np.asarray((down / np.maximum(along, 0.05) <= flattest + 1e-9) | (r < 0.3))
