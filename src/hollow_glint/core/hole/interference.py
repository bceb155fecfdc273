"""Company on the ice: what other units' pings lay into our picture.

A neighbour's sound comes one way only: straight across under the ice, side of beam to side of beam, and by way of the
bottom, where both beams look. It comes at the neighbour's own moments, so its marks drift through our column as fast
as the two ping intervals differ. Sources: the sonar equation, one way (Urick 1983); straight-line image paths.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..acoustics import beam, sonar_equation
from ..checks import Floats
from ..gear.unit import UnitProfile
from .contents import Neighbour
from .scene import Scene

# Share of its own frequency that a transducer answers well over, and how deaf it is far outside. Common practice.
TRANSDUCER_BAND = 0.08
DEAFEST_DB = 60.0


@dataclass(frozen=True)
class NeighbourPath:
    """One way from a neighbour's transducer to ours: travel time [s], mean intensity as received, interval [s]."""

    neighbour: int
    kind: str
    travel_s: float
    intensity: float
    interval_s: float
    first_s: float


def out_of_band_db(frequency_hz: float, ours_hz: float, pulse_s: float) -> float:
    """How much a sound at `frequency_hz` is weakened by our receiver [dB, 0 to -60] at `ours_hz`, pulse `pulse_s` [s].

    Parabolic in the offset over the wider of the transducer's band and that of the pulse. Common practice, no source.
    """
    band = max(TRANSDUCER_BAND * ours_hz, 1.0 / pulse_s)
    return -min(12.0 * (2.0 * (frequency_hz - ours_hz) / band) ** 2, DEAFEST_DB)


@dataclass(frozen=True, eq=False)
class Hearing:
    """What one transducer hears of others in the same water, by each of PATHS.

    pattern_db        our own one-way pattern over even steps of the sine off axis, shape (4096,)
    bounced           share of intensity left by the reflections of each path, shape (paths,)
    drop_m            how far each path goes down and up [m], shape (paths,)
    """

    pattern_db: Floats
    frequency_hz: float
    pulse_s: float
    bounced: Floats
    drop_m: Floats
    sound_speed_m_s: float
    absorption_db_m: float
    face_loss_db: float
    efficiency: float

    def of(self, frequency_hz: float, width_deg: float, power_w: float, distance_m: Floats) -> tuple[Floats, Floats]:
        """Length [m] and level [dB re 1 uPa] of each path from a unit `distance_m` (n,) [m] away: both (paths, n)."""
        ka = beam.ka_from_beam_width(width_deg)
        source = sonar_equation.source_level(power_w, self.efficiency, beam.directivity_index(ka))
        source += out_of_band_db(frequency_hz, self.frequency_hz, self.pulse_s) + self.face_loss_db
        length = np.hypot(self.drop_m[:, None], distance_m)
        sine = distance_m / length
        ours = self.pattern_db[(sine * (self.pattern_db.size - 1)).astype(np.intp)]
        theirs = beam.directivity(np.arcsin(sine), ka)
        level = source + ours + theirs - sonar_equation.transmission_loss(length, self.absorption_db_m)
        return length, level + 10.0 * np.log10(np.maximum(self.bounced, 1e-30))[:, None]


PATHS = ("direct", "bottom", "twice")  # straight across, one bottom bounce, bottom-ice-bottom


def hearing(  # noqa: PLR0913 - what a cast has worked out already
    scene: Scene,
    unit: UnitProfile,
    pattern_db: Floats,
    frequency_hz: float,
    pulse_s: float,
    mirrored: float,
    mirrored_ice: float,
    sound_speed_m_s: float,
    absorption_db_m: float,
    face_loss_db: float,
) -> Hearing:
    """What `unit`'s transducer hears in `scene`; `mirrored` the bottom's and `mirrored_ice` the ice's share of
    intensity that is reflected."""
    down = scene.bottom_range_m
    gap = scene.bottom_depth_m - scene.ice_thickness_m
    return Hearing(
        pattern_db,
        frequency_hz,
        pulse_s,
        np.array([1.0, mirrored, mirrored**2 * mirrored_ice]),
        np.array([0.0, 2.0 * down, 2.0 * down + 2.0 * gap]),
        sound_speed_m_s,
        absorption_db_m,
        face_loss_db,
        unit.efficiency,
    )


def paths(neighbours: tuple[Neighbour, ...], heard: Hearing) -> tuple[NeighbourPath, ...]:
    """All paths of all neighbours."""
    found = []
    for index, one in enumerate(neighbours):
        length, level = heard.of(one.frequency_hz, one.width_deg, one.power_w, np.array([one.distance_m]))
        travel = length[:, 0] / heard.sound_speed_m_s
        intensity = 10.0 ** (level[:, 0] / 10.0)
        # Each starts somewhere of its own in its interval; the golden ratio spreads them without chance.
        first = one.ping_interval_s * ((0.37 + 0.618034 * index) % 1.0)
        found += [
            NeighbourPath(index, kind, float(travel[k]), float(intensity[k]), one.ping_interval_s, first)
            for k, kind in enumerate(PATHS)
        ]
    return tuple(found)


@dataclass(frozen=True, eq=False)
class NeighbourArrivals:
    """All that may arrive in the `listen_s` [s] after one of our pings, path by path.

    interval_s, first_s   of each path [s], shape (paths,)
    later_s               how much later each further ping of it comes [s], shape (paths, most in a listening)
    intensity             of each arrival, shape (arrivals,), the arrivals of a path side by side
    """

    listen_s: float
    interval_s: Floats
    first_s: Floats
    later_s: Floats
    intensity: Floats

    @staticmethod
    def of(all_paths: tuple[NeighbourPath, ...], listen_s: float) -> NeighbourArrivals:
        """The arrivals by these paths, at least one."""
        interval = np.array([path.interval_s for path in all_paths])
        at_most = int(np.ceil(listen_s / interval.min()))
        return NeighbourArrivals(
            listen_s,
            interval,
            np.array([path.first_s + path.travel_s for path in all_paths]),
            interval[:, None] * np.arange(at_most),
            np.repeat([path.intensity for path in all_paths], at_most),
        )


def arrivals(paths: NeighbourArrivals, ping_time_s: Floats) -> tuple[Floats, Floats]:
    """When after each of our pings at `ping_time_s` (pings,) [s] a neighbour's sound arrives, and how strong.

    Delay [s] and intensity, both shape (pings, arrivals); an arrival after the listening has intensity 0.
    """
    wait = np.mod(paths.first_s - ping_time_s[:, None], paths.interval_s)
    delay = (wait[:, :, None] + paths.later_s).reshape(ping_time_s.size, -1)
    return delay, paths.intensity * (delay < paths.listen_s)
