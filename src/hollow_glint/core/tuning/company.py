"""How much of the picture company lights: neighbours' pings, past what rejection drops."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from ..acoustics.sonar_equation import max_ping_rate
from ..checks import Floats
from ..gear.settings import Settings, picture_rate
from ..gear.unit import UnitProfile
from ..hole.interference import NeighbourPath
from ..sonar import pulse, receiver, transmission
from ..sonar.transmission import Transmission
from .situation import Situation

NEIGHBOUR_SHARE = 0.002  # share of picture cells that neighbours may light


def hits(
    excess_db: Floats,
    interval_s: float,
    unit: UnitProfile,
    settings: Settings,
    resolution_m: float,
    sound_speed_m_s: float,
) -> tuple[Floats, NDArray[np.bool_]]:
    """Chance that one path of a neighbour lights a place in a ping, and whether its mark is elsewhere in the next.

    `excess_db` by how much [dB] it arrives above what lights the first colour there, any shape; both of that shape.
    A path lights its pulse, skirt and all, once in each of its intervals. Two pings in a row show it at one place only
    if its drift and our stagger both move it by less than its own mark.
    """
    ours_s = 1.0 / picture_rate(unit, settings, max_ping_rate(settings.range_m, sound_speed_m_s))
    half_c = 0.5 * sound_speed_m_s
    mark_m = resolution_m * (0.9 + np.maximum(excess_db, 0.0) / pulse.SKIRT_DB_PER_PULSE)
    drift_s = (ours_s + 0.5 * interval_s) % interval_s - 0.5 * interval_s
    moved_m = half_c * max(abs(drift_s), unit.rejections[settings.rejection].stagger * ours_s)
    hit = np.where(excess_db > 0.0, np.minimum(mark_m / (half_c * interval_s), 1.0), 0.0)
    return hit, np.asarray(moved_m > mark_m)


def share_by(paths: tuple[NeighbourPath, ...], t: Transmission, unit: UnitProfile, settings: Settings) -> float:
    """Share of picture cells that light by these paths, a neighbour's or of several, past what rejection drops.

    Rejection does not know whose a mark is: what one lights in a ping and another in the next it keeps as well.
    """
    threshold = receiver.first_colour_level(unit, settings) + receiver.taken_off(unit, settings, t.bin_range_m)
    moving, staying = np.ones_like(threshold), np.ones_like(threshold)  # shares that stay dark
    for path in paths:
        excess = 10.0 * np.log10(path.intensity) - threshold
        hit, moves = hits(excess, path.interval_s, unit, settings, t.resolution_m, t.sound_speed_m_s)
        moving *= 1.0 - hit * moves
        staying *= 1.0 - hit * ~moves
    return float(np.mean(1.0 - staying * (1.0 - receiver.kept_chance(1.0 - moving, unit, settings))))


def neighbour_share(s: Situation, settings: Settings) -> float:
    """Share of picture cells that neighbours' pings light at `settings`, past what rejection drops."""
    t = transmission.transmit(s.scene, s.unit, settings)
    return share_by(t.paths, t, s.unit, settings)
